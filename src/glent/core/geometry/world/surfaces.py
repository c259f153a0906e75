"""The surfaces of panels: flat, and part of a cylinder (laws X2, X3, X6).

A surface has two spaces: its own, in metres (x to the right, y up, z out of its front, the origin in its middle), and
that of the panel, in logical pixels (x to the right, y down, from the top left corner). A flat one is the plane z = 0.
A curved one bends to the left and right: with a radius above zero its sides come towards the viewer in front of it,
with one below zero they go away; its middle stays where it is. Widths are measured along the arc.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    from glent.core.geometry.world.vectors import Box3, Vector3

    Floats = NDArray[np.float64]

__all__ = ["Crossing", "Curved", "Flat", "Surface"]

Crossing = tuple[float, float, float, bool]
"""How far along the ray, where in panel pixels, and whether it comes to the front."""

NONE: tuple[Crossing, ...] = ()


class Surface:
    """The surface of a panel.

    :param size: width (along the arc) and height in metres. :param pixels: the same in logical pixels.
    """

    __slots__ = ("across", "down", "height", "pixels", "width")

    def __init__(self, size: tuple[float, float], pixels: tuple[float, float]) -> None:
        self.width, self.height = size
        self.pixels = pixels
        self.across = pixels[0] / self.width
        """Pixels a metre across."""
        self.down = pixels[1] / self.height

    def crossings(self, o: Vector3, d: Vector3, far: float) -> tuple[Crossing, ...]:
        """The points where a ray of its own space comes through it, nearest first; not beyond its edges, nor beyond
        ``far``."""
        raise NotImplementedError

    def extended(self, o: Vector3, d: Vector3, near: tuple[float, float] | None) -> tuple[float, float] | None:
        """The point where a ray comes through the surface as if it had no edges, in panel pixels; None if there is
        none.

        :param near: where it was last, so that a curved one goes on from there.
        """
        raise NotImplementedError

    def point(self, x: float, y: float) -> Vector3:
        """A point of the panel, in pixels, in its own space."""
        raise NotImplementedError

    def foot(self, point: Vector3) -> tuple[float, float, float]:
        """The point nearest to one of its own space: where in panel pixels, and how far in front, metres."""
        raise NotImplementedError

    def normal(self, x: float, y: float) -> Vector3:
        """The normal of its front at a point, in its own space."""
        raise NotImplementedError

    def bounds(self) -> Box3:
        """The box around it in its own space."""
        raise NotImplementedError

    def numbers(self) -> tuple[float, ...]:
        """Its measures, for :meth:`many`."""
        return self.width * 0.5, self.height * 0.5, self.across, self.down, *self.pixels

    @classmethod
    def many(cls, numbers: Floats, o: Floats, d: Floats) -> list[tuple[Floats, Floats, Floats, Any]]:
        """:meth:`crossings` for many rays, each with a surface of its own.

        :param numbers: the :meth:`numbers` of that surface, of shape (k, n). :param o: origins in its space, (3, n).
        :param d: directions.
        :return: once for each root: how far, infinite where there is none; x and y; whether at the front.
        """
        raise NotImplementedError


class Flat(Surface):
    """A rectangle."""

    __slots__ = ()

    def crossings(self, o: Vector3, d: Vector3, far: float) -> tuple[Crossing, ...]:
        dz = d[2]
        if dz == 0.0:
            return NONE
        t = -o[2] / dz
        if not 0.0 <= t <= far:
            return NONE
        x = (o[0] + t * d[0] + self.width * 0.5) * self.across
        y = (self.height * 0.5 - o[1] - t * d[1]) * self.down
        if 0.0 <= x < self.pixels[0] and 0.0 <= y < self.pixels[1]:
            return ((t, x, y, dz < 0.0),)
        return NONE

    def extended(self, o: Vector3, d: Vector3, near: tuple[float, float] | None) -> tuple[float, float] | None:
        dz = d[2]
        if dz == 0.0:
            return None
        t = -o[2] / dz
        if not 0.0 <= t <= 1e9:
            return None
        return (o[0] + t * d[0] + self.width * 0.5) * self.across, (self.height * 0.5 - o[1] - t * d[1]) * self.down

    def point(self, x: float, y: float) -> Vector3:
        return x / self.across - self.width * 0.5, self.height * 0.5 - y / self.down, 0.0

    def foot(self, point: Vector3) -> tuple[float, float, float]:
        x, y, z = point
        return (x + self.width * 0.5) * self.across, (self.height * 0.5 - y) * self.down, z

    def normal(self, x: float, y: float) -> Vector3:
        return 0.0, 0.0, 1.0

    def bounds(self) -> Box3:
        return -self.width / 2, -self.height / 2, 0.0, self.width / 2, self.height / 2, 0.0

    @classmethod
    def many(cls, numbers: Floats, o: Floats, d: Floats) -> list[tuple[Floats, Floats, Floats, Any]]:
        import numpy as np

        wide, high, across, down, right, bottom = numbers
        with np.errstate(divide="ignore", invalid="ignore"):
            t = -o[2] / d[2]
            x = (o[0] + t * d[0] + wide) * across
            y = (high - o[1] - t * d[1]) * down
            inside = (t >= 0.0) & (x >= 0.0) & (x < right) & (y >= 0.0) & (y < bottom)
        return [(np.where(inside, t, np.inf), x, y, d[2] < 0.0)]


class Curved(Surface):
    """A part of a cylinder that stands along y.

    :param radius: metres; above zero: hollow towards its front, below: bulging.
    """

    __slots__ = ("radius",)

    def __init__(self, size: tuple[float, float], pixels: tuple[float, float], radius: float) -> None:
        super().__init__(size, pixels)
        self.radius = radius

    @property
    def _is_ring(self) -> bool:
        """Whether it goes all the way round."""
        return self.width >= 2.0 * math.pi * abs(self.radius) * (1.0 - 1e-12)

    def _roots(self, o: Vector3, d: Vector3) -> tuple[float, ...]:
        """Where the ray's line meets the whole cylinder, nearest first."""
        x, z = o[0], o[2] - self.radius
        a = d[0] * d[0] + d[2] * d[2]
        if a == 0.0:
            return ()
        b = x * d[0] + z * d[2]
        # How far the line passes from the axis, by a cross product: b² - ac loses too much far from the origin.
        off = x * d[2] - z * d[0]
        r2 = self.radius * self.radius
        discriminant = a * r2 - off * off
        if discriminant < 0.0:
            return ()
        root = math.sqrt(discriminant)
        q = -b - root if b > 0.0 else root - b
        if q == 0.0:
            return (0.0,)
        one, other = q / a, (x * x + z * z - r2) / q
        return (one, other) if one <= other else (other, one)

    def _at(self, o: Vector3, d: Vector3, t: float) -> tuple[float, float, bool]:
        """Where in panel pixels a point of the ray's line on the cylinder is, and whether the front is seen there."""
        r = self.radius
        x, y, z = o[0] + t * d[0], o[1] + t * d[1], o[2] + t * d[2]
        angle = math.atan2(x / r, (r - z) / r)
        front = (r - z) / r * d[2] - x / r * d[0] < 0.0
        return (r * angle + self.width * 0.5) * self.across, (self.height * 0.5 - y) * self.down, front

    def crossings(self, o: Vector3, d: Vector3, far: float) -> tuple[Crossing, ...]:
        found = []
        for t in self._roots(o, d):
            if 0.0 <= t <= far:
                x, y, front = self._at(o, d, t)
                if x >= self.pixels[0] and self._is_ring:
                    x = max(0.0, x - self.pixels[0])  # its sides meet behind the axis, and leave no gap there
                if 0.0 <= x < self.pixels[0] and 0.0 <= y < self.pixels[1]:
                    found.append((t, x, y, front))
        return tuple(found)

    def extended(self, o: Vector3, d: Vector3, near: tuple[float, float] | None) -> tuple[float, float] | None:
        best: tuple[float, float] | None = None
        minimum = math.inf
        round_again = 2.0 * math.pi * abs(self.radius) * self.across
        for t in self._roots(o, d):
            if t < 0.0:
                continue
            x, y, front = self._at(o, d, t)
            if near is not None:
                x += round_again * round((near[0] - x) / round_again)  # on round the axis, and not back
            if near is not None:
                away = abs(x - near[0]) + abs(y - near[1])
            else:
                away = abs(x - self.pixels[0] / 2) + (0.0 if front else round_again)
            if away < minimum:
                best, minimum = (x, y), away
        return best

    def point(self, x: float, y: float) -> Vector3:
        angle = (x / self.across - self.width * 0.5) / self.radius
        sine = math.sin(angle / 2)
        return self.radius * math.sin(angle), self.height * 0.5 - y / self.down, 2.0 * self.radius * sine * sine

    def foot(self, point: Vector3) -> tuple[float, float, float]:
        x, y, z = point
        r = self.radius
        angle = math.atan2(x / r, (r - z) / r)
        in_front = r - math.copysign(math.hypot(x, z - r), r)
        return (r * angle + self.width * 0.5) * self.across, (self.height * 0.5 - y) * self.down, in_front

    def normal(self, x: float, y: float) -> Vector3:
        angle = (x / self.across - self.width * 0.5) / self.radius
        return -math.sin(angle), 0.0, math.cos(angle)

    def bounds(self) -> Box3:
        half = self.width / 2 / abs(self.radius)
        side = abs(self.radius) * (1.0 if half >= math.pi / 2 else math.sin(half))
        deep = self.radius * (1.0 - math.cos(half))
        return -side, -self.height / 2, min(0.0, deep), side, self.height / 2, max(0.0, deep)

    def numbers(self) -> tuple[float, ...]:
        return *super().numbers(), self.radius

    @classmethod
    def many(cls, numbers: Floats, o: Floats, d: Floats) -> list[tuple[Floats, Floats, Floats, Any]]:
        import numpy as np

        wide, high, across, down, right, bottom, r = numbers
        ox, oz = o[0], o[2] - r
        a = d[0] * d[0] + d[2] * d[2]
        b = ox * d[0] + oz * d[2]
        off = ox * d[2] - oz * d[0]
        discriminant = a * (r * r) - off * off
        with np.errstate(divide="ignore", invalid="ignore"):
            root = np.sqrt(discriminant)
            q = np.where(b > 0.0, -b - root, root - b)
            one, other = q / a, (ox * ox + oz * oz - r * r) / q
            found = []
            for t in (np.minimum(one, other), np.maximum(one, other)):
                px, py, pz = o[0] + t * d[0], o[1] + t * d[1], o[2] + t * d[2]
                x = (r * np.arctan2(px / r, (r - pz) / r) + wide) * across
                ring = (x >= right) & (2.0 * wide >= 2.0 * np.pi * np.abs(r) * (1.0 - 1e-12))
                x = np.where(ring, np.maximum(0.0, x - right), x)
                y = (high - py) * down
                inside = (t >= 0.0) & (x >= 0.0) & (x < right) & (y >= 0.0) & (y < bottom)
                front = (r - pz) / r * d[2] - px / r * d[0] < 0.0
                found.append((np.where(inside, t, np.inf), x, y, front))
        return found
