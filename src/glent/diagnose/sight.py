"""What a camera sees of panels and spots, as outlines on the screen, to draw them by (law X4)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from glent.core.geometry.affine import apply
from glent.core.geometry.world.area import Area
from glent.core.geometry.world.form import Cuboid, Rectangle
from glent.core.geometry.world.mesh import Mesh
from glent.core.geometry.world.surfaces import Curved
from glent.core.geometry.world.vectors import cross, dot, minus, times, unit
from glent.core.scene.island import BOX
from glent.core.scene.space import to_scene

if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from glent.core.geometry.world.camera import Camera
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot

__all__ = ["Outline", "outlines"]

NEAR = 0.05
"""Metres: nearer than this nothing is drawn."""

View = tuple[float, float, float, float]
FINE = 24
"""In how many pieces a panel's width is drawn, where it is curved."""

FACES = ((0, 1, 3, 2), (4, 5, 7, 6), (0, 1, 5, 4), (2, 3, 7, 6), (0, 2, 6, 4), (1, 3, 7, 5))
"""The corners of the sides of a box: bit 0 of a corner is x, bit 1 y, bit 2 z."""


@dataclass(frozen=True, slots=True)
class Outline:
    """A flat piece of something, as it is seen.

    :ivar node: what it is of: a panel, a node on one, or a spot. :ivar points: where on the screen, window pixels.
    :ivar holes: rings in it that are not of it. :ivar far: how far away its farthest point is, metres.
    :ivar front: whether the front of a panel is seen; of others True.
    :ivar light: how much it looks upwards or towards the viewer, 0 to 1, for a little shade.
    """

    node: Node
    points: tuple[tuple[float, float], ...]
    holes: tuple[tuple[tuple[float, float], ...], ...]
    far: float
    front: bool
    light: float


def outlines(scene: Scene, camera: Camera, view: View) -> list[Outline]:
    """All that a camera sees, back to front; what lies behind it is cut off.

    :param view: what it fills on the window: left, top, width, height, pixels.
    """
    scene._index.refresh()
    found: list[tuple[float, list[Outline]]] = []
    for root in scene.in_world:
        if not root.is_visible or root.effective_solidity == "ghost":
            continue
        pieces = _panel(root, camera, view) if root._own is not None else _spot(root, camera, view)  # type: ignore[arg-type]
        if pieces:
            found.append((max(piece.far for piece in pieces), pieces))
    found.sort(key=lambda one: -one[0])
    return [piece for _, pieces in found for piece in pieces]


def _seen(camera: Camera, view: View, ring: Iterable[Vector3]) -> tuple[tuple[tuple[float, float], ...], float]:
    """A ring on the screen, cut off in front of the camera, and how far away its farthest point is."""
    points = list(ring)
    near = max(NEAR, camera.near)
    depths = [dot(minus(point, camera.eye), camera.ahead) - near for point in points]
    kept: list[Vector3] = []
    for n, (point, depth) in enumerate(zip(points, depths, strict=True)):
        before, depth_before = points[n - 1], depths[n - 1]
        if (depth > 0.0) is not (depth_before > 0.0):
            part = depth_before / (depth_before - depth)
            cut = minus(point, before)
            kept.append((before[0] + cut[0] * part, before[1] + cut[1] * part, before[2] + cut[2] * part))
        if depth > 0.0:
            kept.append(point)
    on_screen = [camera.project(_ahead(camera, point, near), view) for point in kept]
    far = max((math.dist(point, camera.eye) for point in kept), default=0.0)
    return tuple(point for point in on_screen if point is not None), far


def _ahead(camera: Camera, point: Vector3, near: float) -> Vector3:
    """A point that was cut to the very plane in front of the camera, a hair beyond it."""
    depth = dot(minus(point, camera.eye), camera.ahead)
    if depth >= near + 1e-6:
        return point
    by = times(camera.ahead, near + 1e-6 - depth)
    return point[0] + by[0], point[1] + by[1], point[2] + by[2]


def _piece(
    node: Node, camera: Camera, view: View, rings: Sequence[Sequence[Vector3]], front: bool = True, light: float = 1.0
) -> list[Outline]:
    points, far = _seen(camera, view, rings[0])
    if len(points) < 3:
        return []
    holes = tuple(_seen(camera, view, ring)[0] for ring in rings[1:])
    return [Outline(node, points, tuple(hole for hole in holes if len(hole) > 2), far, front, light)]


def _panel(panel: Panel, camera: Camera, view: View) -> list[Outline]:
    """A panel, and the nodes on it in paint order."""
    middle = panel.to_world(panel.pixels[0] / 2, panel.pixels[1] / 2)
    front = dot(panel.normal(panel.pixels[0] / 2, panel.pixels[1] / 2), minus(camera.eye, middle)) > 0.0
    steps = FINE if isinstance(panel.surface, Curved) else 1
    made = _piece(panel, camera, view, [_on(panel, _box(*panel.pixels), steps)], front)
    for node in panel.walk():
        if node is panel or not node.is_visible or node.effective_solidity not in ("solid", "glass"):
            continue
        width, height = node.size
        if width <= 0.0 or height <= 0.0:
            continue
        shape = node.shape or BOX
        corners = (
            _box(width, height)
            if node.shape is None
            else [(float(p[0]), float(p[1])) for p in shape.outline(width, height)]
        )
        m = to_scene(node)
        ring = _on(panel, _clipped(node, [apply(m, *point) for point in corners]), steps)
        made += _piece(node, camera, view, [ring], front) if len(ring) > 2 else []
    return made


def _clipped(node: Node, ring: list[tuple[float, float]]) -> list[tuple[float, float]]:
    """A ring cut to the boxes of what clips it, in the space of the panel; turned clips are left out of account."""
    for above in node.lineage()[:-1]:
        width, height = above.size
        a, b, c, d, left, top = to_scene(above)
        if not above.clips and not above._in_world:
            continue
        if b == 0.0 and c == 0.0:
            for axis, bound, sign in ((0, left, 1), (0, left + a * width, -1), (1, top, 1), (1, top + d * height, -1)):
                ring = _cut(ring, axis, bound, sign)
    return ring


def _cut(ring: list[tuple[float, float]], axis: int, bound: float, sign: int) -> list[tuple[float, float]]:
    kept: list[tuple[float, float]] = []
    for n, point in enumerate(ring):
        before = ring[n - 1]
        inside, was = (point[axis] - bound) * sign >= 0.0, (before[axis] - bound) * sign >= 0.0
        if inside is not was:
            part = (bound - before[axis]) / (point[axis] - before[axis])
            kept.append((before[0] + (point[0] - before[0]) * part, before[1] + (point[1] - before[1]) * part))
        if inside:
            kept.append(point)
    return kept


def _box(width: float, height: float) -> list[tuple[float, float]]:
    return [(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)]


def _on(panel: Panel, ring: list[tuple[float, float]], steps: int) -> list[Vector3]:
    """A ring of the panel in the world; long edges in pieces, where the panel is curved."""
    points: list[Vector3] = []
    for n, (x, y) in enumerate(ring):
        x1, y1 = ring[(n + 1) % len(ring)]
        parts = max(1, math.ceil(abs(x1 - x) / panel.pixels[0] * steps)) if steps > 1 else 1
        points += [panel.to_world(x + (x1 - x) * k / parts, y + (y1 - y) * k / parts) for k in range(parts)]
    return points


def _spot(spot: Spot, camera: Camera, view: View) -> list[Outline]:
    form, pose = spot.form, spot.pose
    if isinstance(form, Cuboid):
        half = [side / 2 for side in form.size]
        corners = [pose.out(_corner(half, n)) for n in range(8)]
        return _faces(spot, camera, view, [[corners[n] for n in face] for face in FACES])
    if isinstance(form, Mesh):
        vertices = [pose.out((x, y, z)) for x, y, z in form.vertices.tolist()]
        return _faces(spot, camera, view, [[vertices[n] for n in face] for face in form.triangles.tolist()])
    if isinstance(form, Area):
        edges = form.edges()
        return _piece(spot, camera, view, [[pose.out(_three(p)) for p in ring] for ring in _rings(edges)])
    if isinstance(form, Rectangle):
        return _piece(spot, camera, view, [[pose.out(_three(p)) for p in form.edges()[:, 0].tolist()]])
    ball = form.ball()
    if ball is None:
        return _faces(spot, camera, view, [[pose.out(_three(p)) for p in form.edges()[:, 0].tolist()]])
    middle, radius = pose.out(ball[0]), ball[1]
    away = unit(minus(middle, camera.eye)) or camera.ahead
    right = unit(cross(away, (0.0, 1.0, 0.0))) or (1.0, 0.0, 0.0)
    up = cross(right, away)
    ring = []
    for n in range(20):
        x, y = math.cos(n * math.pi / 10) * radius, math.sin(n * math.pi / 10) * radius
        ring.append(
            (
                middle[0] + right[0] * x + up[0] * y,
                middle[1] + right[1] * x + up[1] * y,
                middle[2] + right[2] * x + up[2] * y,
            )
        )
    return _piece(spot, camera, view, [ring])


def _corner(half: list[float], n: int) -> Vector3:
    x, y, z = (half[axis] if n >> axis & 1 else -half[axis] for axis in range(3))
    return x, y, z


def _three(point: Any) -> Vector3:
    x, y, z = point
    return float(x), float(y), float(z)


def _rings(edges: Any) -> list[list[Any]]:
    """Segments in a row as rings: a new one begins where the last does not go on."""
    rings: list[list[Any]] = [[]]
    last: Any = None
    for start, end in edges:
        if last is not None and not np.array_equal(start, last):
            rings.append([])
        rings[-1].append(start.tolist())
        last = end
    return rings


def _faces(spot: Spot, camera: Camera, view: View, faces: list[list[Vector3]]) -> list[Outline]:
    """Flat sides, the farther first, each a little lighter the more it looks up."""
    made: list[Outline] = []
    for face in faces:
        normal = unit(cross(minus(face[1], face[0]), minus(face[2], face[0]))) or (0.0, 1.0, 0.0)
        if dot(normal, minus(camera.eye, face[0])) < 0.0:
            normal = times(normal, -1.0)
        light = 0.55 + 0.45 * max(0.0, 0.75 * normal[1] + 0.25 * abs(normal[0]))
        made += _piece(spot, camera, view, [face], True, min(1.0, light))
    return sorted(made, key=lambda piece: -piece.far)
