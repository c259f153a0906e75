"""Reach along a ray: what may be hit a little beside it, in degrees or in pixels (laws H5, G7).

As on a layer, reach yields to true containment by something interactive, and of what is reached the nearest wins; what
lies behind something solid, or behind a panel's blocked back, is covered. A spot of the world that nobody listens to
covers nothing: a bollard is reached though the ray comes down on the water beside it.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, cast

from glent.core.geometry.world.vectors import dot, length, minus
from glent.core.routing.hit.point import Offers, offers_beyond
from glent.core.scene.posed import Met
from glent.core.scene.reach import is_painted_over, reached, stands_for

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.geometry.affine import Affine
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.spot import Spot

__all__ = ["lies_before", "with_cone"]


HAIR = 1e-9
"""Metres: what rounding may make of an edge cut at the end of a ray."""


class Gauge:
    """How far a point lies beside a ray, in the unit that reach and thresholds are given in."""

    __slots__ = ()

    level = False
    """Whether it is the same however far away."""

    def off(self, aside: float, ahead: float) -> float:
        """Convert a distance across the ray, so many metres along it, into units."""
        raise NotImplementedError

    def metres(self, units: float, ahead: float) -> float:
        """Convert units into a distance across the ray, so many metres along it."""
        raise NotImplementedError

    def beside(self, ray: Ray, point: Vector3) -> tuple[float, float]:
        """How far a point is beside a ray, in units, and how far along it, metres; infinite behind its origin."""
        away = minus(point, ray.origin)
        ahead = dot(away, ray.direction)
        if ahead <= 0.0 and not self.level:
            return math.inf, ahead
        square = dot(away, away) - ahead * ahead
        return self.off(math.sqrt(max(0.0, square)), ahead), ahead

    def across(self, panel: Panel, ray: Ray, at: tuple[float, float]) -> Affine:
        """The transform from the pixels of a panel to units across the ray, at a point of the panel."""
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
    """Degrees, for pointers that are rays.

    :param gone: metres from the hand to where the ray begins: it is a piece of a throw.
    """

    __slots__ = ("gone",)

    def __init__(self, gone: float) -> None:
        self.gone = gone

    def off(self, aside: float, ahead: float) -> float:
        return math.degrees(math.atan2(aside, self.gone + ahead))

    def metres(self, units: float, ahead: float) -> float:
        return math.tan(math.radians(min(units, 89.0))) * (self.gone + max(ahead, 0.0))


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


def gauge_of(view: SeatView, ray: Ray, kind: str) -> Gauge:
    """The gauge for a ray of pointers of a kind: degrees for rays, else pixels by the seat's camera."""
    camera = view.sees_by
    if kind == "ray" or camera is None:
        return Degrees(ray.gone)
    logical = view.scene._scale
    half = view.window[3] / 2.0
    if camera.fov is not None:
        return Pixels(math.tan(math.radians(camera.fov) / 2.0) / half * logical, 0.0)
    return Pixels(0.0, (camera.height or 0.0) / 2.0 / half * logical)


Beside = tuple[float, "Met", "Node"]
"""How far beside the ray, and what is there."""


def with_cone(view: SeatView, ray: Ray, kind: str, found: Offers, deep: bool) -> Offers:
    """What was found along a ray, with the node or spot whose reach it passes through in its place."""
    touched = stands_for(node for _, node in found.beyond)
    solid = next(((met, node) for met, node in found.beyond if node._effective == "solid"), None)
    if found.barrier is not None and not found.beyond:
        return found  # what blocks the way blocks the cone as well
    gauge = gauge_of(view, ray, kind)
    best: Beside | None = None
    for one in _beside(view, ray, kind, gauge, solid):
        node = one[2]
        if any(not node.is_within(other) for other in touched) or not view.reaches(node):
            continue
        if best is None or (one[0], one[1].distance) < (best[0], best[1].distance):
            best = one
    if best is None:
        return found
    _, met, node = best
    behind = len(found.beyond)
    for number, (other, hit) in enumerate(found.beyond):
        if lies_before(node, met, hit, other):
            behind = number
            break
    before, after = found.beyond[:behind], found.beyond[behind:]
    ends = node.stops_input and not deep
    spot = met if met.at is None else None if ends else found.spot
    return offers_beyond([*before, (met, node), *([] if ends else after)], None if ends else found.barrier, spot)


def lies_before(node: Node, met: Met, hit: Node, other: Met) -> bool:
    """Whether what a ray meets there lies in front of what it meets elsewhere: in one panel by paint order (H1)."""
    return is_painted_over(node, hit) if other.root is met.root else other.distance > met.distance


def _beside(view: SeatView, ray: Ray, kind: str, gauge: Gauge, solid: tuple[Met, Node] | None) -> Iterator[Beside]:
    """All that the ray passes within reach of before it ends at something solid, if it does.

    Within one panel paint order says what lies before what, as on a layer: distances that are equal in theory are not
    compared (law H5).
    """
    end = solid[0].distance if solid is not None else ray.length
    scene = view.scene
    world_index = scene._world_index
    assert world_index is not None
    limit = scene._index.reach_limits[kind]
    near: list[Panel | Spot] = []
    width = gauge.metres(limit, 0.0)
    slope = gauge.metres(limit, 1.0) - width
    world_index.refresh()
    world_index.volumes.within(ray.origin, ray.direction, min(end, ray.length), slope, width, near.append)
    for root in near:
        if root._own is not None:
            on = cast("Panel", root)
            here = solid[1] if solid is not None and solid[0].root is root else None
            for one in _on_panel(view, on, ray, kind, gauge, end if here is None else ray.length):
                if here is None or not is_painted_over(here, one[2]):
                    yield one
        elif (reach := root.reach_for(kind)) > 0.0:
            beside = _of_spot(root, ray, gauge)  # type: ignore[arg-type]
            if beside is not None and 0.0 < beside[0] <= reach and 0.0 <= beside[1] <= end:
                met = Met(beside[1], root, [root], None, None)
                met.beside = True
                yield beside[0], met, root


def _on_panel(view: SeatView, panel: Panel, ray: Ray, kind: str, gauge: Gauge, end: float) -> Iterator[Beside]:
    at = panel.from_ray(ray)
    if at is None:
        return
    away = minus(panel.to_world(*at), ray.origin)
    ahead = dot(away, ray.direction)
    if not 0.0 <= ahead <= min(end, panel.range if panel.range is not None else math.inf):
        return
    if not panel.two_sided and dot(panel.normal(*at), ray.direction) >= 0.0:
        return
    to_units = gauge.across(panel, ray, at)
    for node, beside in reached(view.scene, panel, kind, *at, to_units):
        met = Met(ahead, panel, [node], at, None)
        met.beside = True
        yield beside, met, node


def _of_spot(spot: Spot, ray: Ray, gauge: Gauge) -> tuple[float, float] | None:
    """How far beside a ray a spot lies, and how far along; None if it is met, or lies behind."""
    if spot._met_by(ray.origin, ray.direction, ray.length, False):
        return None
    ball = spot.form.ball()
    apex = ray.at(-ray.gone)  # a cone about a piece of a throw has grown since the hand
    if ball is not None:
        middle = spot.pose.out(ball[0])
        away = minus(middle, apex)
        ahead = dot(away, ray.direction)
        aside = math.sqrt(max(0.0, dot(away, away) - ahead * ahead))
        radius = ball[1] * max(_long(axis) for axis in (spot.pose.right, spot.pose.up, spot.pose.facing))
        if ahead <= 0.0 and not gauge.level:
            return None
        # To the edge of the ball as it is seen: along the line that just touches it.
        if gauge.level or aside <= radius:
            return gauge.off(max(0.0, aside - radius), ahead - ray.gone), ahead - ray.gone
        whole = math.sqrt(dot(away, away))
        angle = math.atan2(aside, ahead) - math.asin(min(1.0, radius / whole))
        return gauge.off(math.tan(angle) * ahead, ahead - ray.gone), ahead - ray.gone
    return _of_edges(spot, ray, apex, gauge)


def _of_edges(spot: Spot, ray: Ray, apex: Vector3, gauge: Gauge) -> tuple[float, float] | None:
    """How far beside a ray a spot's edges lie, as far as they lie between its ends: on each edge, the point seen
    nearest to the ray has a closed form."""
    import numpy as np

    pose = spot.pose
    segments = spot.form.edges() @ np.array([pose.right, pose.up, pose.facing]) + np.array(pose.position)
    d = np.array(ray.direction)
    start = segments[:, 0] - np.array(apex)
    way = segments[:, 1] - segments[:, 0]
    low, high = -math.inf if gauge.level else ray.gone, ray.gone + ray.length
    near, slope = start @ d, way @ d
    with np.errstate(divide="ignore", invalid="ignore"):
        ends = np.sort(np.stack([(low - near) / slope, (high - near) / slope]), axis=0)
    along = slope != 0.0
    first = np.where(along, np.clip(np.nan_to_num(ends[0], nan=0.0), 0.0, 1.0), 0.0)[:, None]
    last = np.where(along, np.clip(np.nan_to_num(ends[1], nan=1.0), 0.0, 1.0), 1.0)[:, None]
    start, way = start + first * way, (last - first) * way
    if gauge.level:
        flat_start, flat_way = start - np.outer(start @ d, d), way - np.outer(way @ d, d)
        with np.errstate(divide="ignore", invalid="ignore"):
            part = -(flat_start * flat_way).sum(axis=1) / (flat_way * flat_way).sum(axis=1)
    else:
        a, b = start @ d, way @ d
        c, m, e = (start * start).sum(axis=1), (start * way).sum(axis=1), (way * way).sum(axis=1)
        with np.errstate(divide="ignore", invalid="ignore"):
            part = (b * c - a * m) / (a * e - b * m)
    part = np.clip(np.nan_to_num(part, nan=0.0, posinf=0.0, neginf=0.0), 0.0, 1.0)
    best: tuple[float, float] | None = None
    for one in (np.zeros_like(part), np.ones_like(part), part):
        points = start + one[:, None] * way
        ahead = points @ d
        aside = np.sqrt(np.maximum(0.0, (points * points).sum(axis=1) - ahead * ahead))
        fine = np.flatnonzero((ahead > 0.0) & (ahead >= low - HAIR) & (ahead <= high + HAIR) | gauge.level)
        for number in fine[np.argsort(aside[fine] / (1.0 if gauge.level else ahead[fine]), kind="stable")][:1].tolist():
            far = float(ahead[number]) - ray.gone
            off = gauge.off(float(aside[number]), far)
            if best is None or off < best[0]:
                best = off, min(max(far, 0.0), ray.length)
    return best


def _long(axis: Vector3) -> float:
    return math.sqrt(dot(axis, axis))
