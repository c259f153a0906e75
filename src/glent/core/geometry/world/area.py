"""An area of any outline: on level ground, or draped over rough ground (law X5)."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import TYPE_CHECKING, Any

from glent.core.errors import ShapeError
from glent.core.geometry.edges import pairs_that_may_meet
from glent.core.geometry.polygon import Polygon
from glent.core.geometry.world.form import Form, Meeting
from glent.core.geometry.world.heights import HeightField
from glent.core.geometry.world.vectors import Box3, Vector3

if TYPE_CHECKING:
    from collections.abc import Sequence

    import numpy as np

    from glent.core.geometry.world.form import Floats

__all__ = ["Area"]


UP = (0.0, 1.0, 0.0)


class Area(Form):
    """The area within an outline: points (x, z) of the ground, seen from above; it may be concave and have holes.

    It lies in the plane y = 0 of its own space, which the spot's pose can tilt, or follows the ground beneath.

    :param outline: a ring of at least three points, or several: a ring inside another is a hole, and so on (even-odd).
    :param ground: what it is draped over; None: level. Where the ground ends, so does the area.
    :param snap: a point (x, z) that things put down on it snap to, such as a berth's middle; None: none.

    A ring of fewer than three points, one that crosses itself or another, and numbers that are not finite are refused
    with ``ShapeError`` once a spot is made of it.
    """

    kind = "area"

    __slots__ = ("_box", "_polygon", "ground", "outline")

    def __init__(
        self, outline: Any, ground: HeightField | None = None, snap: tuple[float, float] | None = None
    ) -> None:
        super().__init__(snap)
        self.outline = outline
        self.ground = ground

    def _prepare(self) -> None:
        if self.ground is not None and not isinstance(self.ground, HeightField):
            raise ShapeError(f"Area: ground is {self.ground!r}, expected None or HeightField")
        rings = _as_lists(self.outline)
        try:
            polygon = Polygon(rings)
        except (ShapeError, TypeError) as error:
            raise ShapeError(f"Area: outline is {_shown(self.outline)}: {error}") from None
        try:
            crossing = crossing_of(polygon)
        except ShapeError as error:
            raise ShapeError(f"Area: outline {error}") from None
        if crossing is not None:
            raise ShapeError(f"Area: outline crosses itself: {crossing}; expected rings that meet no other ring")
        box = polygon.bounds(0.0, 0.0)
        if box is None:
            raise ShapeError(f"Area: outline is {_shown(self.outline)}, which has no width; expected an area")
        self.outline = polygon.rings
        self._polygon = polygon
        low, top = (0.0, 0.0) if self.ground is None else self.ground.range_over(box)
        self._box = (box[0], low, box[1], box[2], top, box[3])

    def _prepare_snap(self) -> Vector3 | None:
        snap = self.snap_at
        if snap is None:
            return None
        if (
            not isinstance(snap, tuple | list)
            or len(snap) != 2
            or not all(isinstance(one, int | float) and math.isfinite(one) for one in snap)
        ):
            raise ShapeError(f"Area: snap is {snap!r}, expected None or x and z")
        return float(snap[0]), self._height(*snap), float(snap[1])

    def _height(self, x: float, z: float) -> float:
        return 0.0 if self.ground is None else self.ground.at(x, z)

    def contains(self, x: float, z: float) -> bool:
        """Whether a point of the ground, seen from above, is in it. An edge shared by two areas is of just one."""
        self.prepare()
        return self._polygon.contains(x, z, 0.0, 0.0)

    def inside(self, x: Floats, z: Floats) -> np.ndarray[Any, np.dtype[np.bool_]]:
        """Whether many points of the ground are in it: arrays of one shape."""
        self.prepare()
        return self._polygon.inside(x, z, 0.0, 0.0)

    def bounds(self) -> Box3:
        return self._box

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        box = self._box
        if self.ground is not None:
            for t, normal in self.ground.meetings(o, d, far):
                x, z = o[0] + t * d[0], o[2] + t * d[2]
                if box[0] <= x <= box[3] and box[2] <= z <= box[5] and self._polygon.contains(x, z, 0.0, 0.0):
                    return t, normal
            return None
        if d[1] == 0.0:
            return None
        t = -o[1] / d[1]
        if not 0.0 <= t <= far:
            return None
        x, z = o[0] + t * d[0], o[2] + t * d[2]
        if not (box[0] <= x <= box[3] and box[2] <= z <= box[5]):
            return None
        return (t, UP) if self._polygon.contains(x, z, 0.0, 0.0) else None

    @classmethod
    def _columns(cls, forms: Sequence[Any]) -> Any:
        """The forms, the edges of all of them in a row, and where those of each begin and how many there are."""
        import numpy as np

        edges = [form._polygon._edges for form in forms]
        counts = np.array([len(one) for one in edges])
        starts = np.concatenate([[0], np.cumsum(counts)[:-1]])
        draped = np.array([form.ground is not None for form in forms])
        return list(forms), np.array([edge for one in edges for edge in one]).T, starts, counts, draped

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        forms, edges, starts, counts, draped = columns
        far, normals = np.full(o.shape[1], np.inf), np.zeros_like(o)
        for n in np.flatnonzero(draped[which]).tolist():  # from cell to cell, ray by ray
            start, way = o[:, n].tolist(), d[:, n].tolist()
            met = forms[which[n]].meet(tuple(start), tuple(way), math.inf)
            if met is not None:
                far[n], normals[:, n] = met
        with np.errstate(divide="ignore", invalid="ignore"):
            t = -o[1] / d[1]
        level = np.flatnonzero(~draped[which] & (t >= 0.0) & np.isfinite(t))
        normals[1, level] = 1.0
        if len(level):
            mine, t = which[level], t[level]
            x, z = o[0, level] + t * d[0, level], o[2, level] + t * d[2, level]
            many = counts[mine]
            ends = np.cumsum(many)
            # All edges of all the areas that are asked about, in one row.
            of_ray = np.repeat(np.arange(len(level)), many)
            place = np.arange(ends[-1]) - np.repeat(ends - many, many) + np.repeat(starts[mine], many)
            x0, y0, x1, y1 = edges[:, place]
            across, down = x[of_ray], z[of_ray]
            crossed = (y0 <= down) & (down < y1) & (x0 + (down - y0) / (y1 - y0) * (x1 - x0) <= across)
            inside = np.bincount(of_ray, crossed, len(level)).astype(int) % 2 == 1
            far[level[inside]] = t[inside]
        return far, normals

    def edges(self) -> Floats:
        """Its rings as segments; draped ones have a point wherever they cross a line of the grid."""
        import numpy as np

        segments: list[tuple[Vector3, Vector3]] = []
        for ring in self._polygon.rings:
            for (x0, z0), (x1, z1) in zip(ring, (*ring[1:], ring[0]), strict=True):
                parts = [0.0, *self._cuts(x0, z0, x1, z1), 1.0]
                points = [(x0 + part * (x1 - x0), z0 + part * (z1 - z0)) for part in parts]
                line = [(x, self._height(x, z), z) for x, z in points]
                segments.extend(pairwise(line))
        return np.array(segments)

    def _cuts(self, x0: float, z0: float, x1: float, z1: float) -> list[float]:
        """The points where an edge crosses the lines of the grid: along x, along z, and across the cells."""
        if self.ground is None:
            return []
        step, (left, top) = self.ground.step, self.ground.origin
        u0, v0, u1, v1 = (x0 - left) / step, (z0 - top) / step, (x1 - left) / step, (z1 - top) / step
        cuts: set[float] = set()
        for start, end in ((u0, u1), (v0, v1), (u0 - v0, u1 - v1)):
            low, high = min(start, end), max(start, end)
            if high > low:
                cuts.update((line - start) / (end - start) for line in range(math.ceil(low), math.floor(high) + 1))
        return sorted(cut for cut in cuts if 0.0 < cut < 1.0)


def _as_lists(outline: Any) -> Any:
    """Arrays and other sequences as lists, down to the points."""
    if hasattr(outline, "tolist"):
        return outline.tolist()
    if isinstance(outline, list | tuple):
        return [_as_lists(one) for one in outline]
    return outline


def _shown(outline: object) -> str:
    said = repr(outline)
    return said if len(said) <= 120 else said[:117] + "..."


def crossing_of(polygon: Polygon) -> str | None:
    """Two edges of a polygon that cross, touch, or lie on each other, in words; None: none do.

    Edges that follow each other in a ring share an end and nothing more. Cost: near that of sorting the edges.
    """
    import numpy as np

    starts = np.array([point for ring in polygon.rings for point in ring])
    ends = np.array([point for ring in polygon.rings for point in (*ring[1:], ring[0])])
    names = [(index, place) for index, ring in enumerate(polygon.rings) for place in range(len(ring))]
    following = {}
    first = 0
    for ring in polygon.rings:
        count = len(ring)
        following.update({first + n: first + (n + 1) % count for n in range(count)})
        first += count
    way = ends - starts

    def side(a: Any, along: Any, point: Any) -> Any:
        return np.sign(along[..., 0] * (point[..., 1] - a[..., 1]) - along[..., 1] * (point[..., 0] - a[..., 0]))

    for ones, others in pairs_that_may_meet(np.minimum(starts, ends), np.maximum(starts, ends)):
        a, b, w = starts[ones], ends[ones], way[ones]
        apart = side(a, w, starts[others]) * side(a, w, ends[others]) > 0
        apart |= side(starts[others], way[others], a) * side(starts[others], way[others], b) > 0
        meeting = np.flatnonzero(~apart)
        for one, other in zip(ones[meeting].tolist(), others[meeting].tolist(), strict=True):
            if following[one] == other or following[other] == one:
                middle, tail, head = (ends[one], starts[one], ends[other])
                if following[one] != other:
                    middle, tail, head = (ends[other], starts[other], ends[one])
                back, on = tail - middle, head - middle
                if back[0] * on[1] - back[1] * on[0] != 0.0 or back @ on <= 0.0:
                    continue  # they share the corner and nothing more
            (place, edge), (other_place, other_edge) = names[one], names[other]
            return f"edge {edge} of ring {place} meets edge {other_edge} of ring {other_place}"
    return None
