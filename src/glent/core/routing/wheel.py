"""Where a wheel goes: to who takes it, to the scroll area there, or to the world (laws P10, G4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import passing
from glent.core.routing import reasons as because
from glent.core.routing.pointer import FREE, SPENT, WORLD, Pointer
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import WheelSample
    from glent.core.routing.pointing import Pointing

__all__ = ["route_wheel"]


def route_wheel(pointing: Pointing, sample: WheelSample) -> Verdict:
    """Route a wheel's sample; the scene is settled."""
    pointer = pointing.pointers.get(sample.pointer)
    hold = pointer.hold if pointer is not None else FREE
    if hold is WORLD:
        return Verdict(because.WORLD_HELD, "wheel", True)
    if pointer is not None and hold is SPENT:
        return Verdict(because.SPENT, "wheel", about=pointer.spent_by)
    kind = pointer.kind if pointer is not None else "mouse"
    seat = pointer.seat if pointer is not None and pointer.press is not None else pointing.seat_at(sample)
    seat.last_kind = kind
    offers, barrier = pointing.found(seat, sample.x, sample.y, kind)
    buttons = pointer.buttons if pointer is not None else 0
    holder = pointing.gestures.wheel.holder(sample)
    verdict = passing.turn_wheel(pointing.flow, sample, offers if holder is None else [holder], buttons, barrier)
    verdict._seat = seat.name
    if verdict._reason is because.TAKEN:
        return verdict
    turner = Pointer(sample.pointer, "mouse")
    turner.pos, turner.buttons, turner.seat = (float(sample.x), float(sample.y)), buttons, seat
    version = pointing.scene.version
    had = pointing.gestures.wheel.scroll(sample, offers, turner) or holder
    if had is None:
        return verdict
    contact = pointer.press.contact if pointer is not None and pointer.press is not None else None
    if contact is not None and contact.winner is not None:
        contact.winner.scrolled_under(contact)
    moved = pointing.scene.version != version or not had.scrolls
    verdict = Verdict(because.SCROLLED if moved else because.AT_END, "wheel", owner=had)
    verdict._seat = seat.name
    return verdict
