"""Wheel routing: to the node that takes it, to the scroll area there, or to the world (laws P10, G4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.hit.offers import find, find_at
from glent.core.routing.pointers import unowned
from glent.core.routing.pointers.pointer import FREE, SPENT, WORLD, Pointer
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import WheelSample
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State

__all__ = ["route_wheel"]


def route_wheel(state: State, sample: WheelSample) -> Verdict:
    """Route a wheel's sample; the scene is settled."""
    pointer = state.pointers.get(sample.pointer)
    kind = pointer.kind if pointer is not None else "mouse"
    held = pointer is not None and pointer.hold is not FREE
    seat = (
        pointer.seat
        if pointer is not None and held
        else state.owners.get(sample.pointer) or state.seat_at(sample.x, sample.y)
    )
    seat._use(kind)
    verdict = _route(state, sample, pointer, seat, kind)
    verdict._seat = seat.name
    return verdict


def _route(state: State, sample: WheelSample, pointer: Pointer | None, seat: Seat, kind: str) -> Verdict:
    if pointer is not None and pointer.hold is WORLD:
        return Verdict(because.WORLD_HELD, "wheel", True)
    if pointer is not None and pointer.hold is SPENT:
        return Verdict(because.SPENT, "wheel", about=pointer.spent_by)
    if pointer is not None and (pointer.ray is not None or pointer.tip is not None):
        offers, barrier = find(state, pointer), pointer.barrier
    else:
        offers, barrier = find_at(state, seat, sample.x, sample.y, kind)
    buttons = pointer.buttons if pointer is not None else 0
    holder = state.gestures.wheel_holder(sample, seat.view)
    verdict = unowned.turn_wheel(state.dispatcher, sample, offers if holder is None else [holder], buttons, barrier)
    if verdict._reason is because.TAKEN:
        return verdict
    aim = pointer.aim if pointer is not None else None
    turner = Pointer(sample.pointer, "mouse", seat, (float(sample.x), float(sample.y)), aim, buttons)
    version = state.scene._version
    had = state.gestures.turn_wheel(sample, offers, turner) or holder
    if had is None:
        return verdict
    contact = pointer.press.contact if pointer is not None and pointer.press is not None else None
    if contact is not None:
        contact._scrolled_under()
    moved = state.scene._version != version or not had.scrolls
    return Verdict(because.SCROLLED if moved else because.AT_END, "wheel", owner=had)
