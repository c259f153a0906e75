"""The adjustable times and distances."""

from __future__ import annotations

from dataclasses import dataclass

from glent.core.errors import SampleError

__all__ = ["Feel"]


@dataclass(frozen=True, slots=True)
class Feel:
    """How input feels. A value: make another to change it.

    :ivar click_gap: seconds from one press to the next within which a click counts on as double, triple, … (law G1).
        0.5 is what desktop systems ship with; players with slow hands need more, so offer it as a setting.
    :ivar click_wander: screen pixels that the next press may be away from the last for the count to go on. 6 is
        larger than the jitter of a hand on a mouse and smaller than the least target.
    """

    click_gap: float = 0.5
    click_wander: float = 6.0

    def __post_init__(self) -> None:
        for name in ("click_gap", "click_wander"):
            value = getattr(self, name)
            if isinstance(value, bool) or not isinstance(value, int | float) or not 0.0 <= value <= 1e9:
                raise SampleError(f"Feel: {name} is {value!r}, expected a number from 0 to 1e9")
