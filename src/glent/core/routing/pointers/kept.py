"""A press that came to a layer in transition, kept until the layer is ready (law W2)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.pointer import FREE, SPENT, Pointer
from glent.core.scene.layer import Layer

if TYPE_CHECKING:
    from glent.core.input.samples import Button
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.seats.seats import Seats

__all__ = ["KeptPresses"]


class _Kept:
    __slots__ = ("button", "kind", "layer", "pointer", "pos")

    def __init__(self, layer: Layer, pointer: Pointer, button: Button) -> None:
        self.layer = layer
        self.pointer = pointer.name
        self.kind = pointer.kind
        self.pos = pointer.pos
        self.button = button


class KeptPresses:
    """One press for each seat."""

    __slots__ = ("_kept", "_seats")

    def __init__(self, seats: Seats) -> None:
        self._seats = seats
        self._kept: dict[str, _Kept] = {}

    def keep(self, barrier: Barrier, pointer: Pointer, button: Button) -> bool:
        """Keep a press that came to a layer in transition, if that keeps one and has none yet; whether it is kept."""
        name, layer = pointer.seat.name, barrier.about
        if barrier.reason is not because.TRANSITION or not isinstance(layer, Layer):
            return False
        if layer.transition != "keep" or name in self._kept:
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
            pointer = Pointer(kept.pointer, kept.kind)
            pointer.pos, pointer.away, pointer.seat = kept.pos, False, seat
        pointer.buttons, pointer.hold = 0, FREE
        pointer.idle = pointer.hovered_for = None
        pointer.picked = -1
        pointer.offers = pointing.find(pointer)
        if not presses.would_accept(pointer.offers):
            if down:  # the world has not asked for it, and gets nothing late
                pointer.buttons, pointer.hold = down, SPENT
            return
        presses.press(pointing, pointer, kept.button, self._seats.now)
        if down:
            pointer.buttons = down
        else:
            presses.release(pointing, pointer, kept.button, self._seats.now)
