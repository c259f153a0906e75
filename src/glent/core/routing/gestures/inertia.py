"""How content runs on after a flick, and comes back from beyond its end: where it is at any time, in closed form.

Nothing here depends on how often it is asked, so the same samples end in the same place whatever the frame rate (laws
R7, G8). The exponential is made of plain additions and multiplications, and offsets are rounded to 1/64 pixel: both are
the same on every platform.
"""

from __future__ import annotations

import math

__all__ = ["Glide", "decay"]

_E = 2.718281828459045


def decay(x: float) -> float:
    """``exp(-x)`` for x ≥ 0, by arithmetic that IEEE 754 fixes to the last bit."""
    if x > 700.0:
        return 0.0
    # A power of two is taken out first, so that the series is short.
    halvings = 0
    while x > 0.0625:
        x *= 0.5
        halvings += 1
    value = 1.0
    for term in (9.0, 8.0, 7.0, 6.0, 5.0, 4.0, 3.0, 2.0, 1.0):
        value = 1.0 - x / term * value
    for _ in range(halvings):
        value *= value
    return value


class Glide:
    """One axis of a scroll offset that moves by itself.

    :param began: seconds. :param offset: where it is, in pixels; :param speed: pixels a second.
    :param most: the offset's range is from 0 to this.
    :param slows: seconds in which it loses all but 1/e of its speed. :param least: the speed at which it stops.
    :param spring: the rate of the spring beyond the ends, a second. :param give: how far beyond it may swing.
    """

    __slots__ = (
        "_began",
        "_bound",
        "_end",
        "_from",
        "_hit",
        "_minimum",
        "_over",
        "_slows",
        "_speed",
        "_spring",
        "done",
    )

    def __init__(
        self,
        began: float,
        offset: float,
        speed: float,
        maximum: float,
        slows: float,
        minimum: float,
        spring: float,
        give: float,
    ) -> None:
        self.done = False
        """Whether it had come to rest when it was last asked."""
        self._began, self._from, self._speed = began, offset, speed
        self._slows, self._minimum, self._spring = slows, minimum, spring
        self._hit = math.inf
        """When it meets an end, and springs from there: how far beyond, and how fast."""
        self._bound, self._over = 0.0, (0.0, 0.0)
        if not 0.0 <= offset <= maximum:
            self._bound = 0.0 if offset < 0.0 else maximum
            self._hit = began
            self._over = (offset - self._bound, self._limited(speed, give))
            self._end = self._bound
            return
        if abs(speed) <= minimum:
            self._end = offset
            self._speed = 0.0
            return
        self._end = offset + (speed - math.copysign(minimum, speed)) * slows
        if not 0.0 <= self._end <= maximum:
            self._bound = 0.0 if self._end < 0.0 else maximum
            # As the distance gone is slows × the speed lost, the speed at the end is known, and with it the time.
            left = speed - (self._bound - offset) / slows
            self._hit = began + round(slows * math.log(speed / left), 6)
            self._over = (0.0, self._limited(left, give))
            self._end = self._bound

    def _limited(self, speed: float, give: float) -> float:
        """The speed that the spring catches within ``give``: it swings out by speed / (e × rate)."""
        maximum = give * self._spring * _E
        return max(-maximum, min(maximum, speed))

    def at(self, time: float) -> float:
        """The offset at a time, in pixels."""
        if time < self._hit:
            gone = time - self._began
            left = decay(gone / self._slows)
            if abs(self._speed) * left <= self._minimum:
                self.done = True
                return self._end
            return _rounded(self._from + self._speed * self._slows * (1.0 - left))
        over, speed = self._over
        gone = time - self._hit
        over = (over + (speed + self._spring * over) * gone) * decay(self._spring * gone)
        if abs(over) < 0.25 and gone * self._spring > 1.0:
            self.done = True
            return self._bound
        if speed == 0.0 and over == 0.0:
            self.done = True
        return _rounded(self._bound + over)

    def speed_at(self, time: float) -> float:
        """The speed at a time, in pixels a second."""
        if self.done:
            return 0.0
        if time < self._hit:
            return self._speed * decay((time - self._began) / self._slows)
        over, speed = self._over
        gone, rate = time - self._hit, self._spring
        return (speed - rate * (speed + rate * over) * gone) * decay(rate * gone)


def _rounded(offset: float) -> float:
    return round(offset * 64.0) / 64.0
