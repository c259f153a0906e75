"""The plain slow model of the world: what a ray meets, one thing after the other, with no boxes and no caches."""

from __future__ import annotations

import math
from functools import lru_cache
from itertools import pairwise
from typing import TYPE_CHECKING

import numpy as np

import plain_hits as plain
from glent import Area, Cuboid, Rectangle, Sphere

if TYPE_CHECKING:
    from glent import Node, Scene

Found = tuple[float, "Node", "list[Node]", bool]
"""How far, on what, which nodes front to back, and whether a back lets nobody through."""


def met(scene: Scene, origin, direction, length: float = math.inf) -> list[Found]:
    """All that a ray meets, front to back."""
    way = np.array(direction, dtype=float)
    way /= np.linalg.norm(way)
    found: list[Found] = []
    for root in scene.in_world:
        if (
            not root.visible
            or (root.effective_solidity in ("hollow", "ghost") and root._own is None)
            or root.solidity == "ghost"
        ):
            continue
        back = _inverse(root.pose.matrix)
        o = (back @ np.array([*origin, 1.0]))[:3]
        d = back[:3, :3] @ way
        found += _panel(root, o, d) if root._own is not None else _spot(root, o, d)
    return sorted((one for one in found if one[0] <= length), key=lambda one: one[0])


@lru_cache(maxsize=1000)
def _inverse(matrix) -> np.ndarray:
    return np.linalg.inv(np.array(matrix))


def _roots(a: float, b: float, c: float) -> list[float]:
    """The real roots of a quadratic, both of them also where they are one."""
    if a == 0:
        return [-c / b] if b else []
    under = b * b - 4 * a * c
    if under < 0:
        return []
    far = -(b + math.copysign(math.sqrt(under), b)) / 2  # no difference of two near numbers
    return [far / a, c / far] if far else [0.0, 0.0]


def _panel(panel, o, d) -> list[Found]:
    width, height = panel.size_in_metres
    across, down = panel.pixels
    found = []
    if panel.radius is None:
        roots = [-o[2] / d[2]] if d[2] else []
    else:
        r = panel.radius
        roots = _roots(
            d[0] ** 2 + d[2] ** 2, 2 * (o[0] * d[0] + (o[2] - r) * d[2]), o[0] ** 2 + (o[2] - r) ** 2 - r * r
        )
    for t in sorted(roots):
        x, y, z = o + t * d
        if panel.radius is None:
            arc, normal = x, np.array([0.0, 0.0, 1.0])
        else:
            angle = math.atan2(x / panel.radius, 1.0 - z / panel.radius)
            arc, normal = panel.radius * angle, np.array([-math.sin(angle), 0.0, math.cos(angle)])
        px, py = (arc / width + 0.5) * across, (0.5 - y / height) * down
        if t < 0 or not (0 <= px < across and 0 <= py < down) or (panel.range is not None and t > panel.range):
            continue
        if normal @ d >= 0 and not panel.two_sided:
            if panel.reverse == "blocked":
                found.append((t, panel, [], True))
            continue
        nodes = [seen.node for seen in plain.under(panel, panel.pixels, px, py)]
        if nodes:
            found.append((t, panel, nodes, False))
    return found


def _spot(spot, o, d) -> list[Found]:
    form = spot.form
    hits: list[float] = []
    if isinstance(form, Sphere):
        hits = _roots(float(d @ d), float(2 * o @ d), float(o @ o - form.radius**2))
    elif isinstance(form, Cuboid):
        for axis in range(3):
            for side in (-form.size[axis] / 2, form.size[axis] / 2):
                if d[axis]:
                    t = (side - o[axis]) / d[axis]
                    others = [n for n in range(3) if n != axis]
                    if all(abs(o[n] + t * d[n]) <= form.size[n] / 2 for n in others):
                        hits.append(t)
    elif isinstance(form, Rectangle) and d[2]:
        t = -o[2] / d[2]
        x, y, _ = o + t * d
        hits = [t] if abs(x) <= form.width / 2 and abs(y) <= form.height / 2 else []
    elif isinstance(form, Area) and d[1]:
        t = -o[1] / d[1]
        x, _, z = o + t * d
        crossings = 0
        for ring in form.outline:
            for (x0, z0), (x1, z1) in zip(ring, (*ring[1:], ring[0]), strict=True):
                crossings += (z0 > z) != (z1 > z) and x > x0 + (z - z0) / (z1 - z0) * (x1 - x0)
        hits = [t] if crossings % 2 else []
    ahead = [t for t in hits if t >= 0]
    return [(min(ahead), spot, [spot], False)] if ahead else []


def with_reach(scene: Scene, origin, direction, kind: str = "ray") -> tuple[list[Node], float]:
    """The offers of a ray with reach in degrees, and the closest decision, as a part of what it was about (H5).

    The world is judged as one: what the ray truly meets anywhere before it ends comes before what it merely passes.
    """
    things = met(scene, origin, direction)
    true: list[tuple[float, Node, Node]] = []
    margin = min((b[0] - a[0] for a, b in pairwise(things)), default=math.inf)
    end, last, barred = math.inf, None, math.inf
    for far, root, nodes, bars in things:
        if bars:
            end = barred = far
            break
        true += [(far, root, node) for node in nodes]
        last = next((node for node in nodes if node.effective_solidity == "solid"), None)
        if last is not None:
            end = far
            break
    if barred < math.inf and not true:
        return [], margin
    touched = plain.stands_for(
        [node for number, (_, _, node) in enumerate(true) if last is None or number <= _place(true, last)]
    )
    near = []
    for root in scene.in_world:
        found = _aim(root, origin, direction)
        if found is None:
            continue
        far, at, way, front = found
        painted = list(root.walk())
        margin = min(margin, abs(far - end) if last is None or last.root is not root else math.inf)
        for node in plain.with_a_reach(root, root.pixels, kind, at, [node for _, _, node in true]):
            by = node.reach_for(kind)
            angle = min(_angle(root, way, a, b) for a, b in plain.outline(node, root.pixels))
            margin = min(margin, abs(angle - by) / by, angle / by)
            mine = last is not None and last.root is root
            covered = painted.index(last) > painted.index(node) if mine else far > end
            if not front or angle > by or covered or any(other not in node.lineage() for other in touched):
                continue
            near.append((angle, far, -painted.index(node), root, node))
    near.sort(key=lambda one: one[:3])
    if len(near) > 1:
        margin = min(margin, (near[1][0] - near[0][0]) / max(near[0][0], 1e-9) if near[1][0] > near[0][0] else 0.0)
    if near:
        _, far, _, root, node = near[0]
        painted = list(root.walk())
        before = [
            one for one in true if (painted.index(one[2]) > painted.index(node) if one[1] is root else one[0] < far)
        ]
        true = [*before, (far, root, node), *[one for one in true if one not in before]]
    result: list[Node] = []
    for _, _, node in true:
        result.append(node)
        if node.effective_solidity == "solid":
            break
    return result, margin


def _place(true, last: Node) -> int:
    return next(number for number, one in enumerate(true) if one[2] is last)


def _aim(panel, origin, direction):
    """Where a ray comes through the plane of a flat panel: how far, at which pixel, as which line, and if there."""
    way = np.array(direction, dtype=float)
    way /= np.linalg.norm(way)
    back = _inverse(panel.pose.matrix)
    o, d = (back @ np.array([*origin, 1.0]))[:3], back[:3, :3] @ way
    far = -o[2] / d[2] if d[2] else -1.0
    if far < 0:
        return None
    x, y, _ = o + far * d
    (width, height), (across, down) = panel.size_in_metres, panel.pixels
    return far, ((x / width + 0.5) * across, (0.5 - y / height) * down), (o, d), d[2] < 0 or panel.two_sided


def _angle(panel, way, a, b) -> float:
    """The least angle between a ray and a segment of a panel, in degrees, by ever smaller steps along the segment."""
    (width, height), (across, down) = panel.size_in_metres, panel.pixels
    o, d = way
    start, end = (np.array([(x / across - 0.5) * width, (0.5 - y / down) * height, 0.0]) - o for x, y in (a, b))
    low, high = 0.0, 1.0
    for _ in range(3):
        parts = np.linspace(low, high, 11)
        points = start + parts[:, None] * (end - start)
        ahead = points @ d
        angles = np.degrees(np.arctan2(np.linalg.norm(np.cross(points, d), axis=1), ahead))
        best = int(np.argmin(angles))
        low, high = parts[max(0, best - 1)], parts[min(10, best + 1)]
    return float(angles[best])


def offers(scene: Scene, origin, direction, length: float = math.inf) -> tuple[list[Node], bool, bool]:
    """The offers of a ray; whether a back lets nobody through; and whether two things lie too near to tell apart."""
    nodes: list[Node] = []
    things = met(scene, origin, direction, length)
    close = any(b[0] - a[0] < 1e-7 for a, b in pairwise(things))
    for _, root, hit, bars in things:
        if bars:
            return nodes, True, close
        for node in hit:
            if node not in nodes:
                nodes.append(node)
            if node.effective_solidity == "solid":
                return nodes, False, close
        if root._own is None and root.solidity is None:
            return nodes, False, close  # a spot that nobody listens to ends it (law X1)
    return nodes, False, close


def offered(scene: Scene, origin, direction, length: float, path) -> tuple[list[Node], bool, bool]:
    """The offers of a ray, or of a throw: those of the first of its pieces that meets anything (X5)."""
    if path is None:
        return offers(scene, origin, direction, length)
    left, close = length, False
    for start, end in pairwise([np.array(origin), *map(np.array, path)]):
        long = float(np.linalg.norm(end - start))
        things = met(scene, start, end - start, min(long, left) + 1e-6)
        ends = [abs(things[0][0] - min(long, left)), things[0][0]] if things else []
        close = close or any(gap < 1e-5 for gap in ends)
        if things:
            found, bars, near = offers(scene, start, end - start, min(long, left))
            return found, bars, close or near
        left -= long
        if left <= 0:
            break
    return [], False, close
