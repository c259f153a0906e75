"""What a seat's part of the window may be (law T2)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SeatError

if TYPE_CHECKING:
    from glent.core.scene.fit import Viewport

__all__ = ["checked_viewport"]


def checked_viewport(name: str, value: object) -> Viewport | None:
    """A part of the window.

    :raises SeatError: it has no size, or reaches beyond the window.
    """
    if value is None:
        return None
    expected = "None, or left, top, width and height in fractions of the window, such as (0.5, 0, 0.5, 1)"
    if not isinstance(value, tuple | list) or len(value) != 4:
        raise SeatError(f"seat {name}: viewport is {value!r}, expected {expected}")
    for number in value:
        if isinstance(number, bool) or not isinstance(number, int | float) or not 0.0 <= number <= 1.0:
            raise SeatError(f"seat {name}: viewport is {value!r}, expected {expected}")
    left, top, width, height = map(float, value)
    if width <= 0.0 or height <= 0.0:
        raise SeatError(f"seat {name}: viewport is {value!r}, which has no size; expected {expected}")
    if left + width > 1.0 + 1e-9 or top + height > 1.0 + 1e-9:
        raise SeatError(f"seat {name}: viewport is {value!r}, which reaches beyond the window; expected {expected}")
    return left, top, width, height
