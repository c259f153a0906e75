"""The guard before a press: it may close something, be too quick, too soon after a click, or be kept until a layer is
ready (M2, G1, W2)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import PointerButton
from glent.core.routing import reasons as because
from glent.core.routing.hit.offers import find
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.dismiss import dismiss
from glent.core.routing.pointers.hover import pick_again
from glent.core.routing.pointers.pointer import SPENT, Pointer
from glent.core.routing.pointers.travel import is_near, mark_of
from glent.core.routing.verdict import Verdict
from glent.core.scene.layer import Layer

if TYPE_CHECKING:
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State

__all__ = ["deliver_kept", "land"]


def land(state: State, pointer: Pointer, button: PointerButton, time: float) -> Verdict:
    """Route a button that went down: what a press closes it does nothing else to, and a count from before a modal
    ends."""
    state.settling.settle_seats()  # handlers of enter may have changed the scene
    seat = pointer.seat
    view = seat.view
    if state.feel.click_again_after > 0.0 and seat._clicked is not None:
        clicked, then = seat._clicked
        over = next((one for one in pointer.offers if one.is_within(clicked)), None)
        if over is not None and time - then < state.feel_of(over).click_again_after:
            return _spent(pointer, button, Verdict(because.AGAIN, "press", about=clicked))
    kind, opened = pointer.kind, seat._opened
    past = seat._past.get(kind) if opened else None
    mark = None if pointer.aim is None else mark_of(pointer)
    seat._past[kind] = (time, pointer.pos, button, opened, mark)
    if view.unrestricted and not view.closable:
        verdict = presses.press(state, pointer, button, time)
        state.seats.pressed(pointer)
        return verdict
    if view.closable and (pointer.barrier is None or pointer.barrier.reason is not because.OUTSIDE):
        closed, where, used = dismiss(state, pointer, time)
        if used and closed is not None:
            reason = because.CLOSED if where == "opener" else because.DISMISSED
            return _spent(pointer, button, Verdict(reason, "press", about=closed))
        if closed is not None:
            pick_again(state, pointer)
    top, offers = view.top, pointer.offers
    if top is not None and past is not None and past[3] != opened and offers and offers[0].is_within(top):
        then, pos, before, _, old = past
        feel = state.feel
        near = is_near(pointer, pos, old, feel)
        if before == button and near and time - then <= feel.click_gap:
            seat._past[kind] = (
                time,
                pointer.pos,
                button,
                past[3],
                mark_of(pointer),
            )  # and a third press counts on from there
            return _spent(pointer, button, Verdict(because.COUNTED, "press", about=top))
    barrier = pointer.barrier
    if barrier is not None and not offers and _keep(barrier, pointer, button):
        return _spent(pointer, button, Verdict(because.KEPT, "press", about=barrier.about))
    verdict = presses.press(state, pointer, button, time)
    state.seats.pressed(pointer)
    return verdict


def _spent(pointer: Pointer, button: PointerButton, verdict: Verdict) -> Verdict:
    """Spend a pointer: nobody gets it until its buttons are up."""
    pointer.down(button)
    pointer.spend(verdict.why)
    return verdict


def _keep(barrier: Barrier, pointer: Pointer, button: PointerButton) -> bool:
    """Keep a press that came to a layer in transition, if that keeps one and the seat has none yet. Return whether it
    is kept."""
    seat, layer = pointer.seat, barrier.about
    if barrier.reason is not because.TRANSITION or not isinstance(layer, Layer):
        return False
    if layer.transition != "keeps_press" or seat._kept is not None:
        return False
    seat._kept = (layer, pointer.name, pointer.kind, pointer.pos, button)
    return True


def deliver_kept(state: State, seat: Seat) -> None:
    """Deliver the press that a seat has kept once its layer is ready; forget it if that is gone or hidden."""
    kept = seat._kept
    if kept is None:
        return
    layer, name, kind, pos, button = kept
    if layer.transition is not None and layer.is_visible:
        return
    seat._kept = None
    if not layer.is_visible:
        return
    pointer = state.pointers.get(name)
    down = pointer.buttons if pointer is not None and pointer.hold is SPENT else 0
    if pointer is None or not down:  # it is up again: a whole click, where it was
        pointer = Pointer(name, kind, seat, pos)
    pointer.has_down(0)
    pointer.free()
    pointer.unsettle()
    pointer.see(find(state, pointer), -1)
    if not presses.would_accept(pointer.offers):
        if down:  # the world has not asked for it, and gets nothing late
            pointer.has_down(down)
            pointer.spend(pointer.spent_by)
        return
    presses.press(state, pointer, button, state.now)
    if down:
        pointer.has_down(down)
    else:
        presses.release(state, pointer, button, state.now)
