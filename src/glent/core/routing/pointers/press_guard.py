"""A press on a pointer that nobody holds, before anybody is asked: it may close something, or be too quick (M2, G1)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import Button
from glent.core.routing import reasons as because
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.dismiss import dismiss
from glent.core.routing.pointers.pointer import SPENT, bit_of
from glent.core.routing.pointers.travel import Mark, is_near, mark_of
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing

__all__ = ["Past", "land"]

Past = tuple[float, tuple[float, float], Button, int, Mark | None]
"""When a press was, where, with which button, how many modals of its seat had opened before it, and where in the
world."""


def land(pointing: Pointing, pointer: Pointer, button: Button, time: float) -> Verdict:
    """A button went down: what a press closes it does nothing else to, and a count from before a modal ends there."""
    seats = pointing.seats
    if seats.seen != pointing.scene.version:  # handlers of enter have changed the scene
        seats.settle()
    seat = pointer.seat
    view = seat.view
    kind, opened = pointer.kind, seat._opened
    past = seat.past.get(kind) if opened else None
    mark = None if pointer.aim is None else mark_of(pointer)
    seat.past[kind] = (time, pointer.pos, button, opened, mark)
    if view.plain and not view.closable:
        verdict = presses.press(pointing, pointer, button, time)
        seats.pressed(pointer)
        return verdict
    if view.closable and (pointer.barrier is None or pointer.barrier.reason is not because.OUTSIDE):
        closed, where, used = dismiss(seats, pointer, time)
        if used and closed is not None:
            reason = because.CLOSED if where == "anchor" else because.DISMISSED
            return _spent(pointer, button, Verdict(reason, "press", about=closed))
        if closed is not None:
            pointing.pick_again(pointer)
    top, offers = view.top, pointer.offers
    if top is not None and past is not None and past[3] != opened and offers and offers[0].is_within(top):
        then, pos, before, _, old = past
        feel = pointing.feel
        near = is_near(pointer, pos, old, feel)
        if before == button and near and time - then <= feel.click_gap:
            seat.past[kind] = (
                time,
                pointer.pos,
                button,
                past[3],
                mark_of(pointer),
            )  # and a third press counts on from there
            return _spent(pointer, button, Verdict(because.COUNTED, "press", about=top))
    barrier = pointer.barrier
    if barrier is not None and not offers and seats.kept.keep(barrier, pointer, button):
        return _spent(pointer, button, Verdict(because.KEPT, "press", about=barrier.about))
    verdict = presses.press(pointing, pointer, button, time)
    seats.pressed(pointer)
    return verdict


def _spent(pointer: Pointer, button: Button, verdict: Verdict) -> Verdict:
    """Nobody gets the pointer until its buttons are up."""
    pointer.buttons |= bit_of(button)
    pointer.hold = SPENT
    pointer.spent_by = verdict.why
    pointer.last_click = None
    return verdict
