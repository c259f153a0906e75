"""Reach along a ray: what may be hit a little beside it, in degrees or in pixels (law H5).

As on a layer, reach yields to true containment by something interactive, and of what is reached the nearest wins; what
lies behind something solid, or behind a panel's blocked back, is covered. A spot of the world that nobody listens to
covers nothing: a bollard is reached though the ray comes down on the water beside it.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import dot, minus
from glent.core.routing.hit.gauge import gauge_of
from glent.core.routing.hit.ray import Found
from glent.core.scene.reach import is_interactive, reached
from glent.core.scene.world_index import Met

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.hit.gauge import Gauge
    from glent.core.routing.seat_view import View
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.spot import Spot

__all__ = ["with_cone"]

Beside = tuple[float, "Met", "Node"]
"""How far beside the ray, and what is there."""


def with_cone(view: View, ray: Ray, kind: str, found: Found, deep: bool) -> Found:
    """What was found along a ray, with the node or spot in whose reach it passes put in its place."""
    touched = [node for _, node in found.offers if is_interactive(node)]
    end = next((met.distance for met, node in found.offers if node._effective == "solid"), ray.length)
    if found.barrier is not None and not found.offers:
        return found  # what bars the way bars the cone as well
    gauge = gauge_of(view, kind)
    best: Beside | None = None
    for one in _beside(view, ray, kind, gauge, end):
        node = one[2]
        if any(not node.is_within(other) for other in touched) or not view.reaches(node):
            continue
        if best is None or (one[0], one[1].distance) < (best[0], best[1].distance):
            best = one
    if best is None:
        return found
    _, met, node = best
    behind = len(found.offers)
    for number, (other, hit) in enumerate(found.offers):
        if other.distance > met.distance or (other.root is met.root and node.is_within(hit)):
            behind = number
            break
    before, after = found.offers[:behind], found.offers[behind:]
    ends = node.ends and not deep
    spot = met if met.at is None else None if ends else found.spot
    return Found([*before, (met, node), *([] if ends else after)], None if ends else found.barrier, spot)


def _beside(view: View, ray: Ray, kind: str, gauge: Gauge, end: float) -> Iterator[Beside]:
    """All that the ray passes within reach of, before it ends."""
    scene = view.scene
    standing = scene._standing
    assert standing is not None
    limit = scene._index.reach_limits[kind]
    near: list[Panel | Spot] = []
    width = gauge.metres(limit, 0.0)
    slope = gauge.metres(limit, 1.0) - width
    standing.refresh()
    standing.volumes.within(ray.origin, ray.direction, min(end, ray.length), slope, width, near.append)
    for root in near:
        if root._own is not None:
            yield from _on_panel(view, root, ray, kind, gauge, end)  # type: ignore[arg-type]
        elif (reach := root.reach_for(kind)) > 0.0:
            beside = _of_spot(root, ray, gauge)  # type: ignore[arg-type]
            if beside is not None and 0.0 < beside[0] <= reach and beside[1] <= end:
                met = Met(beside[1], root, [root], None, None)
                met.beside = True
                yield beside[0], met, root


def _on_panel(view: View, panel: Panel, ray: Ray, kind: str, gauge: Gauge, end: float) -> Iterator[Beside]:
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
    if ball is not None:
        middle = spot.pose.out(ball[0])
        away = minus(middle, ray.origin)
        ahead = dot(away, ray.direction)
        aside = math.sqrt(max(0.0, dot(away, away) - ahead * ahead))
        radius = ball[1] * max(_long(axis) for axis in (spot.pose.right, spot.pose.up, spot.pose.facing))
        if ahead <= 0.0 and not gauge.level:
            return None
        # To the edge of the ball as it is seen: along the line that just touches it.
        if gauge.level or aside <= radius:
            return gauge.off(max(0.0, aside - radius), ahead), ahead
        whole = math.sqrt(dot(away, away))
        angle = math.atan2(aside, ahead) - math.asin(min(1.0, radius / whole))
        return gauge.off(math.tan(angle) * ahead, ahead), ahead
    return _of_edges(spot, ray, gauge)


def _of_edges(spot: Spot, ray: Ray, gauge: Gauge) -> tuple[float, float] | None:
    """The same by its edges: on each, the point that is seen nearest to the ray has a closed form."""
    import numpy as np

    pose = spot.pose
    segments = spot.form.edges() @ np.array([pose.right, pose.up, pose.facing]) + np.array(pose.position)
    d = np.array(ray.direction)
    start = segments[:, 0] - np.array(ray.origin)
    way = segments[:, 1] - segments[:, 0]
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
        fine = np.flatnonzero((ahead > 0.0) | gauge.level)
        for number in fine[np.argsort(aside[fine] / (1.0 if gauge.level else ahead[fine]), kind="stable")][:1].tolist():
            off = gauge.off(float(aside[number]), float(ahead[number]))
            if best is None or off < best[0]:
                best = off, float(ahead[number])
    return best


def _long(axis: Vector3) -> float:
    return math.sqrt(dot(axis, axis))
