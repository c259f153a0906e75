"""The router that serves a node, and the seat that an event is of."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, cast

from glent.core.errors import ControlError, SceneError

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.routing.router import Router
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node

__all__ = ["feel_of", "focus_on", "router_of", "seat_of", "seats_within", "serving"]


def serving(node: Node) -> Router | None:
    """The router of the scene that a node is in, if it has one."""
    return cast("Router | None", node.scene.router) if node.scene is not None else None


def router_of(node: Node) -> Router:
    """The same.

    :raises ControlError: there is none.
    """
    router = serving(node)
    if router is None:
        raise ControlError(f"{node.path}: is in no scene that a router serves, expected one for this")
    return router


def seat_of(event: Event) -> Seat:
    """The seat of the player whose event this is."""
    return router_of(event.here).seat(event.seat)


def seats_within(node: Node) -> list[Seat]:
    """The seats whose focus is on a node, or below it."""
    router = serving(node)
    seats = router.seats if router is not None else ()
    return [seat for seat in seats if seat.focus is not None and seat.focus.is_within(node)]


def focus_on(event: Event, node: Node) -> bool:
    """Move the focus of the event's seat to a node, if that can have it; whether it is there."""
    seat = seat_of(event)
    try:
        seat.focus = node
    except SceneError:
        return False
    return seat.focus is node


def feel_of(node: Node, name: str) -> Any:
    """A field of the feel as it is for a node."""
    one: Node | None = node
    while one is not None:
        if one.feel is not None and name in one.feel:
            return one.feel[name]
        one = one.parent
    return getattr(router_of(node).feel, name)
