"""The kind of device a player uses: another one counts only once it is used on purpose, so prompts do not flicker
(T4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import RaySample
from glent.core.routing.aim import angle

if TYPE_CHECKING:
    from glent.core.input.samples import PointerSample
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.state import State

__all__ = ["note_use"]


def note_use(state: State, pointer: Pointer, sample: PointerSample | RaySample) -> None:
    """Note the use of another kind of pointer than the seat used last: a press counts, or a move that is long enough.

    A mouse on a desk that is bumped moves as well. So a move counts once the pointer is
    ``Feel.device_switch_distance`` away from where it was when it was not in use.
    """
    seat = pointer.seat
    if sample.action == "move" and not pointer.buttons and seat.last_kind:
        if isinstance(sample, RaySample):
            way, before = pointer.way, pointer.used_way
            if before is None or way is None:
                pointer.measure_use()
                return
            if angle(before.direction, way.direction) < state.feel.device_switch_angle:
                return
            seat._use(pointer.kind)
            return
        if sample.relative:
            x, y = pointer.stray(sample.dx, sample.dy)
        else:
            pointer.measure_use()
            x0, y0 = pointer.used_from or pointer.pos
            x, y = pointer.pos[0] - x0, pointer.pos[1] - y0
        if max(abs(x), abs(y)) / state.scene._scale < state.feel.device_switch_distance:
            return
    elif sample.action not in ("press", "move"):
        return
    seat._use(pointer.kind)
