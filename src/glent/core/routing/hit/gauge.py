"""How far beside a ray something lies: in degrees, or in pixels of the screen (laws H5, G7)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import dot, length, minus

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.seat_view import View
    from glent.core.scene.panel import Panel

__all__ = ["DEGREES", "Gauge", "gauge_of"]


class Gauge:
    """How far a point lies beside a ray, in the unit that reach and thresholds are given in."""

    __slots__ = ()

    level = False
    """Whether it is the same however far away."""

    def off(self, aside: float, ahead: float) -> float:
        """How much a distance across the ray is, so many metres along it."""
        raise NotImplementedError

    def metres(self, units: float, ahead: float) -> float:
        """What :meth:`off` undoes."""
        raise NotImplementedError

    def beside(self, ray: Ray, point: Vector3) -> tuple[float, float]:
        """How far a point is beside a ray, and how far along it, metres; infinite behind its origin."""
        away = minus(point, ray.origin)
        ahead = dot(away, ray.direction)
        if ahead <= 0.0 and not self.level:
            return math.inf, ahead
        square = dot(away, away) - ahead * ahead
        return self.off(math.sqrt(max(0.0, square)), ahead), ahead

    def across(self, panel: Panel, ray: Ray, at: tuple[float, float]) -> Affine:
        """From the pixels of a panel to units across the ray, as it is at a point of the panel."""
        surface, pose = panel.surface, panel.pose
        x, y = at
        middle = panel.to_world(x, y)
        ahead = dot(minus(middle, ray.origin), ray.direction)
        normal = surface.normal(x, y)
        # The surface's own axes there: along the arc, and down.
        right = pose.out_way((normal[2] / surface.across, 0.0, -normal[0] / surface.across))
        down = pose.out_way((0.0, -1.0 / surface.down, 0.0))
        d = ray.direction
        side = (d[2], 0.0, -d[0]) if abs(d[1]) < 0.9 else (0.0, -d[2], d[1])
        by = length(side)
        u = (side[0] / by, side[1] / by, side[2] / by)
        v = (d[1] * u[2] - d[2] * u[1], d[2] * u[0] - d[0] * u[2], d[0] * u[1] - d[1] * u[0])
        step = 1e-6 * max(abs(ahead), 1e-3)
        units = self.off(step, ahead) / step
        a, b, c, e = (dot(way, axis) * units for way in (right, down) for axis in (u, v))
        return (a, b, c, e, -a * x - c * y, -b * x - e * y)


class Degrees(Gauge):
    """Degrees, for pointers that are rays."""

    __slots__ = ()

    def off(self, aside: float, ahead: float) -> float:
        return math.degrees(math.atan2(aside, ahead))

    def metres(self, units: float, ahead: float) -> float:
        return math.tan(math.radians(min(units, 89.0))) * max(ahead, 0.0)


class Pixels(Gauge):
    """Logical pixels of the screen, for pointers that a camera leads into the world.

    :param slope: metres a pixel is, at one metre; 0 for an orthographic camera. :param width: what it is besides.
    """

    __slots__ = ("level", "slope", "width")

    def __init__(self, slope: float, width: float) -> None:
        self.slope = slope
        self.width = width
        self.level = slope == 0.0

    def off(self, aside: float, ahead: float) -> float:
        return aside / (self.slope * max(ahead, 1e-9) + self.width)

    def metres(self, units: float, ahead: float) -> float:
        return units * (self.slope * max(ahead, 0.0) + self.width)


DEGREES = Degrees()


def gauge_of(view: View, kind: str) -> Gauge:
    """What measures for pointers of a kind: degrees for rays, else pixels by the seat's camera."""
    camera = view.sees_by
    if kind == "ray" or camera is None:
        return DEGREES
    logical = view.scene._scale
    half = view.window[3] / 2.0
    if camera.fov is not None:
        return Pixels(math.tan(math.radians(camera.fov) / 2.0) / half * logical, 0.0)
    return Pixels(0.0, (camera.height or 0.0) / 2.0 / half * logical)
