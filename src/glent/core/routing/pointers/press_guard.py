"""The guard before a press: it may close something, be too quick, or be kept until a layer is ready (M2, G1, W2)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import PointerButton
from glent.core.routing import reasons as because
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.dismiss import dismiss
from glent.core.routing.pointers.pointer import SPENT, Pointer
from glent.core.routing.pointers.travel import Mark, is_near, mark_of
from glent.core.routing.verdict import Verdict
from glent.core.scene.layer import Layer

if TYPE_CHECKING:
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.seats.seats import Seats

__all__ = ["KeptPresses", "Past", "land"]

Past = tuple[float, tuple[float, float], PointerButton, int, Mark | None]
"""When a press was, where, with which button, how many modals of its seat had opened before it, and where in the
world."""


def land(pointing: Pointing, pointer: Pointer, button: PointerButton, time: float) -> Verdict:
    """Route a button that went down: what a press closes it does nothing else to, and a count from before a modal
    ends."""
    seats = pointing.seats
    pointing.settling.settle_seats()  # handlers of enter may have changed the scene
    seat = pointer.seat
    view = seat.view
    kind, opened = pointer.kind, seat._opened
    past = seat._past.get(kind) if opened else None
    mark = None if pointer.aim is None else mark_of(pointer)
    seat._past[kind] = (time, pointer.pos, button, opened, mark)
    if view.unrestricted and not view.closable:
        verdict = presses.press(pointing, pointer, button, time)
        seats.pressed(pointer)
        return verdict
    if view.closable and (pointer.barrier is None or pointer.barrier.reason is not because.OUTSIDE):
        closed, where, used = dismiss(seats, pointer, time)
        if used and closed is not None:
            reason = because.CLOSED if where == "opener" else because.DISMISSED
            return _spent(pointer, button, Verdict(reason, "press", about=closed))
        if closed is not None:
            pointing.pick_again(pointer)
    top, offers = view.top, pointer.offers
    if top is not None and past is not None and past[3] != opened and offers and offers[0].is_within(top):
        then, pos, before, _, old = past
        feel = pointing.feel
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
    if barrier is not None and not offers and seats.kept.keep(barrier, pointer, button):
        return _spent(pointer, button, Verdict(because.KEPT, "press", about=barrier.about))
    verdict = presses.press(pointing, pointer, button, time)
    seats.pressed(pointer)
    return verdict


def _spent(pointer: Pointer, button: PointerButton, verdict: Verdict) -> Verdict:
    """Spend a pointer: nobody gets it until its buttons are up."""
    pointer.down(button)
    pointer.spend(verdict.why)
    return verdict


class _Kept:
    __slots__ = ("button", "kind", "layer", "pointer", "pos")

    def __init__(self, layer: Layer, pointer: Pointer, button: PointerButton) -> None:
        self.layer = layer
        self.pointer = pointer.name
        self.kind = pointer.kind
        self.pos = pointer.pos
        self.button = button


class KeptPresses:
    """The presses that came to layers in transition: one for each seat, kept until its layer is ready (law W2)."""

    __slots__ = ("_kept", "_seats")

    def __init__(self, seats: Seats) -> None:
        self._seats = seats
        self._kept: dict[str, _Kept] = {}

    def keep(self, barrier: Barrier, pointer: Pointer, button: PointerButton) -> bool:
        """Keep a press that came to a layer in transition, if that keeps one and has none yet. Return whether it is
        kept."""
        name, layer = pointer.seat.name, barrier.about
        if barrier.reason is not because.TRANSITION or not isinstance(layer, Layer):
            return False
        if layer.transition != "keeps_press" or name in self._kept:
            return False
        self._kept[name] = _Kept(layer, pointer, button)
        return True

    def settle(self, seat: Seat) -> None:
        """Deliver what was kept once its layer is ready; forget it if that is gone or hidden."""
        kept = self._kept.get(seat.name)
        if kept is None or (kept.layer.transition is not None and kept.layer.is_visible):
            return
        del self._kept[seat.name]
        if not kept.layer.is_visible:
            return
        pointing = self._seats.pointing
        pointer = pointing.pointers.get(kept.pointer)
        down = pointer.buttons if pointer is not None and pointer.hold is SPENT else 0
        if pointer is None or not down:  # it is up again: a whole click, where it was
            pointer = Pointer(kept.pointer, kept.kind, seat, kept.pos)
        pointer.has_down(0)
        pointer.free()
        pointer.unsettle()
        pointer.see(pointing.find(pointer), -1)
        if not presses.would_accept(pointer.offers):
            if down:  # the world has not asked for it, and gets nothing late
                pointer.has_down(down)
                pointer.spend(pointer.spent_by)
            return
        presses.press(pointing, pointer, kept.button, self._seats.now)
        if down:
            pointer.has_down(down)
        else:
            presses.release(pointing, pointer, kept.button, self._seats.now)
