"""What is offered to all who lie under a pointer and held by none: hovering moves and the wheel (laws P10, S5, W1)."""

from __future__ import annotations

from collections.abc import Callable
from types import MappingProxyType
from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.event import Event
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import WheelSample
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.seat_view import Barrier, SeatView
    from glent.core.scene.node import Node

__all__ = ["kept_from_world", "leftover", "move", "passed", "turn_wheel"]


def _offer(dispatcher: Dispatcher, offers: list[Node], event_for: Callable[[Node], Event]) -> Node | None:
    """Send an event to the offers, front to back, until it is taken. Return who took it.

    An ancestor of several offers hears it once, with the first as target. Disabled nodes hear nothing: what they carry
    on goes to their enabled ancestors (law S5).
    """
    heard: set[Node] = set()
    for offer in list(offers):
        if offer._scene is None:
            continue
        path = offer.lineage()
        first = next((index for index, node in enumerate(path) if not node._enabled), None)
        start = 0
        while start < len(path) and path[start] in heard:
            start += 1
        if start == len(path):
            continue
        heard.update(path)
        event = event_for(offer)
        if first is None:
            taken = dispatcher.send(event, path[start:])
        else:
            taken = dispatcher.send_past_disabled(event, path[start:], max(0, first - start))
        if taken:
            return event.taker
    return None


def leftover(what: str, offers: list[Node], barrier: Barrier | None = None) -> Verdict:
    """The verdict when nobody takes it: the first solid offer has it, a barrier keeps it, or it is the world's."""
    last = offers[-1] if offers else None
    if last is not None and last._effective == "solid":
        return Verdict(because.SOLID, what, owner=last)
    if barrier is not None:
        return Verdict(barrier.reason, what, about=barrier.about)
    if last is None:
        return Verdict(because.OPEN, what, True)
    return passed(what, offers)


def passed(what: str, offers: list[Node]) -> Verdict:
    """The verdict when the world gets what only glass, or a spot of the world, was offered."""
    if offers[-1].stops_input:
        return Verdict(because.SPOT, what, True, about=offers[-1])
    return Verdict(because.PASSED, what, True, about=offers[0])


def kept_from_world(view: SeatView, channel: str, what: str) -> Verdict | None:
    """The verdict if a channel is kept from the world, else None (laws M1, W2)."""
    barrier = view.last(channel)
    return None if barrier is None else Verdict(barrier.reason, what, about=barrier.about)


def move(dispatcher: Dispatcher, pointer: Pointer, time: float) -> Verdict:
    """Route the move of a pointer that nobody holds."""
    taker = _offer(
        dispatcher,
        pointer.offers,
        lambda node: Event("move", node, pointer.name, time, pointer.pos, None, pointer.buttons),
    )
    return (
        leftover("move", pointer.offers, pointer.barrier)
        if taker is None
        else Verdict(because.TAKEN, "move", owner=taker)
    )


def turn_wheel(
    dispatcher: Dispatcher, sample: WheelSample, offers: list[Node], buttons: int, barrier: Barrier | None
) -> Verdict:
    """Route a wheel that turned over these offers."""
    data = MappingProxyType({"dx": sample.dx, "dy": sample.dy, "unit": sample.unit})
    pos = (sample.x, sample.y)
    taker = _offer(
        dispatcher, offers, lambda node: Event("wheel", node, sample.pointer, sample.time, pos, None, buttons, 0, data)
    )
    return leftover("wheel", offers, barrier) if taker is None else Verdict(because.TAKEN, "wheel", owner=taker)
