"""A triangle mesh, with boxes around its triangles so that a ray asks few of them (law X5)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from glent.core.errors import ShapeError
from glent.core.geometry.world.form import Form, Meeting
from glent.core.geometry.world.vectors import FARTHEST, Box3, Vector3, cross, dot, minus, unit
from glent.core.geometry.world.volumes import Volumes

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glent.core.geometry.world.form import Floats

__all__ = ["Mesh"]


class Mesh(Form):
    """Triangles in space. Either side of each is met.

    :param vertices: points, of shape (n, 3), metres.
    :param triangles: three indices of vertices each, of shape (m, 3); counter-clockwise seen from outside, so that
        normals point outwards. One of no area is never met.
    :param snap: see :class:`Form`.

    Numbers that are not finite and indices of no vertex are refused with ``ShapeError`` once a spot is made of it.
    """

    kind = "mesh"

    __slots__ = ("_corners", "_volumes", "triangles", "vertices")

    def __init__(self, vertices: Any, triangles: Any, snap: Vector3 | None = None) -> None:
        super().__init__(snap)
        self.vertices = vertices
        self.triangles = triangles

    def _prepare(self) -> None:
        import numpy as np

        try:
            points = np.array(self.vertices, dtype=float)
        except (TypeError, ValueError, OverflowError):
            raise ShapeError("Mesh: vertices is not an array of numbers, expected one of shape (n, 3)") from None
        if points.ndim != 2 or points.shape[1] != 3 or len(points) < 3:
            raise ShapeError(f"Mesh: vertices has the shape {points.shape}, expected (n, 3), n at least 3")
        bad = np.argwhere(~(np.abs(points) <= FARTHEST))
        if len(bad):
            row = int(bad[0][0])
            raise ShapeError(f"Mesh: vertices[{row}] is {points[row].tolist()}, expected finite numbers")
        faces = np.array(self.triangles)
        if faces.ndim != 2 or faces.shape[1] != 3 or not len(faces) or not np.issubdtype(faces.dtype, np.integer):
            raise ShapeError(
                f"Mesh: triangles has the shape {faces.shape} of {faces.dtype}, expected whole numbers of shape (m, 3)"
            )
        wrong = np.argwhere((faces < 0) | (faces >= len(points)))
        if len(wrong):
            row = int(wrong[0][0])
            raise ShapeError(
                f"Mesh: triangles[{row}] is {faces[row].tolist()}, expected indices from 0 to {len(points) - 1}"
            )
        points.flags.writeable = faces.flags.writeable = False
        self.vertices, self.triangles = points, faces
        corners = points[faces]
        self._corners: list[tuple[Vector3, Vector3, Vector3]] = [
            (tuple(a), tuple(b), tuple(c)) for a, b, c in zip(*(corners[:, n].tolist() for n in range(3)), strict=True)
        ]
        # A hair larger, so that a ray along the very side of a box is not lost between two.
        hair = 1e-9 * (1.0 + np.abs(points).max())
        boxes = np.concatenate([corners.min(axis=1) - hair, corners.max(axis=1) + hair], axis=1)
        self._volumes: Volumes[int] = Volumes(dict(enumerate(map(tuple, boxes.tolist()))))

    def bounds(self) -> Box3:
        low, high = self.vertices.min(axis=0).tolist(), self.vertices.max(axis=0).tolist()
        return (*low, *high)

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        best: Meeting | None = None
        corners = self._corners

        def ask(number: int, maximum: float) -> float:
            nonlocal best
            a, b, c = corners[number]
            t = _through(o, d, a, b, c)
            if 0.0 <= t <= maximum and (best is None or t < best[0]):
                normal = unit(cross(minus(b, a), minus(c, a)))
                if normal is not None:
                    best = (t, normal)
                    return t
            return maximum

        self._volumes.along(o, d, far, ask)
        return best

    @classmethod
    def _columns(cls, forms: Sequence[Any]) -> Any:
        return list(forms)

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        far, normals = np.full(o.shape[1], np.inf), np.zeros_like(o)
        for number in np.unique(which).tolist():
            mine = np.flatnonzero(which == number)
            far[mine], normals[:, mine] = columns[number]._met_by(o[:, mine], d[:, mine])
        return far, normals

    def _met_by(self, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        long = np.sqrt((d * d).sum(axis=0))  # the boxes want directions of length 1
        d = d / long
        rays, numbers = self._volumes.pairs(o, d)
        far, normals = np.full(o.shape[1], np.inf), np.zeros_like(o)
        if not len(rays):
            return far, normals
        numbers = np.asarray(numbers)
        a, b, c = (self.vertices[self.triangles[numbers, n]].T for n in range(3))
        t = _through_many(o[:, rays], d[:, rays], a, b, c)
        np.minimum.at(far, rays, t)
        mine = np.isfinite(t) & (t == far[rays])
        across = np.cross((b - a)[:, mine], (c - a)[:, mine], axis=0)
        normals[:, rays[mine]] = across / np.sqrt((across * across).sum(axis=0))
        return far / long, normals

    def edges(self) -> Floats:
        import numpy as np

        pairs = np.concatenate([self.triangles[:, [0, 1]], self.triangles[:, [1, 2]], self.triangles[:, [2, 0]]])
        made: Floats = self.vertices[np.unique(np.sort(pairs, axis=1), axis=0)]
        return made


def _through(o: Vector3, d: Vector3, a: Vector3, b: Vector3, c: Vector3) -> float:
    """The distance along a ray at which a triangle is met; -1: never. By signed volumes, which agree on an edge of two
    triangles."""
    pa, pb, pc = minus(a, o), minus(b, o), minus(c, o)
    u, v, w = dot(d, cross(pc, pb)), dot(d, cross(pa, pc)), dot(d, cross(pb, pa))
    if (u < 0.0 or v < 0.0 or w < 0.0) and (u > 0.0 or v > 0.0 or w > 0.0):
        return -1.0
    if u + v + w == 0.0:
        return -1.0
    normal = cross(minus(b, a), minus(c, a))
    falls = dot(normal, d)
    if falls == 0.0:
        return -1.0
    t = dot(normal, pa) / falls
    return t if math.isfinite(t) else -1.0


def _through_many(o: Any, d: Any, a: Any, b: Any, c: Any) -> Any:
    """The distances at which triangles are met, for arrays of shape (3, n); infinite where one is not met."""
    import numpy as np

    def product(x: Any, y: Any, z: Any) -> Any:
        """x · (y × z)"""
        return (
            x[0] * (y[1] * z[2] - y[2] * z[1]) + x[1] * (y[2] * z[0] - y[0] * z[2]) + x[2] * (y[0] * z[1] - y[1] * z[0])
        )

    pa, pb, pc = a - o, b - o, c - o
    u, v, w = product(d, pc, pb), product(d, pa, pc), product(d, pb, pa)
    mixed = ((u < 0.0) | (v < 0.0) | (w < 0.0)) & ((u > 0.0) | (v > 0.0) | (w > 0.0))
    ab, ac = b - a, c - a
    falls = product(d, ab, ac)
    with np.errstate(divide="ignore", invalid="ignore"):
        t = product(pa, ab, ac) / falls
    fine = ~mixed & (u + v + w != 0.0) & (falls != 0.0) & (t >= 0.0) & np.isfinite(t)
    return np.where(fine, t, np.inf)
