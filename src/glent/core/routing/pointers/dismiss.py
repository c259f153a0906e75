"""Light dismiss and back: the topmost thing that can be closed closes, and nothing else happens (laws M2, M4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import PathError
from glent.core.routing import reasons as because
from glent.core.routing.event import Event
from glent.core.routing.hit.offers import walk

if TYPE_CHECKING:
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["back", "close", "dismiss"]


def close(state: State, node: Node, seat: str, cause: str, time: float) -> bool:
    """Send ``back`` to a node that is to be closed, and hide it unless a handler takes that. Return whether it is
    closed.

    ``data["cause"]`` is ``back`` (a key or button), ``outside`` (a press beside it), ``opener`` (a press on its
    opener), or ``code``.
    """
    event = Event("back", node, "", time, (0.0, 0.0), None, 0, 0, {"cause": cause}, seat)
    taken = state.dispatcher.send(event, node.lineage())
    if not taken and node._scene is not None:
        node.set_for_now(visible=False)
    return node._scene is None or not node.is_visible


def back(state: State, seat: Seat, time: float) -> tuple[bool, Node | None]:
    """Close the topmost thing that can be closed. Return whether there was one, and which; else the modal in the way
    (M4)."""
    view = seat.view
    top = view.top
    for node in view.closable:
        if view.keeps(node):
            close(state, node, seat.name, "back", time)
            return True, node
    return False, top


def dismiss(state: State, pointer: Pointer, time: float) -> tuple[Node | None, str, bool]:
    """Close what a press outside closes, front to back, as far as this press is outside.

    :return: what was closed first, where the press was to it, and whether the press is used up by that.
    """
    seat = pointer.seat
    first: Node | None = None
    where_first = ""
    used = False
    asked: set[Node] = set()
    while True:
        view = seat.view
        node = next((one for one in view.closable if one not in asked), None)
        if node is None or not view.keeps(node):
            return first, where_first, used
        asked.add(node)
        where = _where(state, pointer, node)
        if where in ("in front", "inside"):
            return first, where_first, used
        if where == "outside" and node._input_traits.closed_by != "any":
            continue
        first, where_first = first or node, where_first or where
        used = used or where == "opener" or not node._input_traits.closing_press_acts
        if not close(state, node, seat.name, where, time) or where == "opener":
            return first, where_first, used
        state.scene._index.refresh()
        state.settling.settle_seats()


def _where(state: State, pointer: Pointer, node: Node) -> str:
    """Where a pointer is relative to an open popup: ``inside``, on its ``opener``, ``in front``, or ``outside``."""
    opener, view = opener_of(node), pointer.seat.view
    for hit, barrier in walk(state, pointer):
        if hit is None:
            if barrier is not None and barrier.reason is because.TRANSITION and not isinstance(barrier.about, str):
                return "in front" if view.is_in_front(barrier.about, node) else "outside"
            continue
        if _is_inside(view, hit, node):
            return "inside"
        if opener is not None and hit.is_within(opener):
            return "opener"
        if hit.stops_input:
            return "in front" if view.is_in_front(hit, node) else "outside"
    return "outside"


def opener_of(node: Node) -> Node | None:
    """The opener of a popup, if it is there."""
    path, scene = node._input_traits.opener, node._scene
    if path is None or scene is None:
        return None
    try:
        return scene[path]
    except PathError:
        return None


def _is_inside(view: SeatView, hit: Node, popup: Node) -> bool:
    """Whether a node lies in a popup, or in another one whose opener is in it."""
    if hit.is_within(popup):
        return True
    seen: set[Node] = {popup}
    inside = [hit]
    while inside:
        node = inside.pop()
        for other in view.closable:
            if other not in seen and node.is_within(other):
                seen.add(other)
                opener = opener_of(other)
                if opener is not None:
                    if opener.is_within(popup):
                        return True
                    inside.append(opener)
    return False
