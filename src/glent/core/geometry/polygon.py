"""Polygons with holes, by the even-odd rule over all rings (law H4)."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from glent.core.arguments import is_choice, listed
from glent.core.errors import ShapeError
from glent.core.geometry.affine import Box
from glent.core.geometry.shape import Segments, Shape, segments_of_ring

if TYPE_CHECKING:
    from glent.core.geometry.edges import Bands
    from glent.core.geometry.shape import Floats, Mask

__all__ = ["Polygon"]

Point = tuple[float, float]
UNITS = ("px", "box")
FEW = 48
"""Edges that are looked at one by one, rather than by where they are."""


def _ring(points: Iterable[Sequence[float]], index: int) -> tuple[Point, ...]:
    ring = []
    for place, point in enumerate(points):
        try:
            x, y = (float(value) for value in point)
        except (TypeError, ValueError):
            raise ShapeError(f"point {place} of ring {index} is {point!r}, expected two numbers") from None
        if not (math.isfinite(x) and math.isfinite(y)):
            raise ShapeError(f"point {place} of ring {index} is {point!r}, expected finite numbers")
        ring.append((x, y))
    if len(ring) > 1 and ring[0] == ring[-1]:
        ring.pop()
    if len(ring) < 3:
        raise ShapeError(f"ring {index} of a polygon has {len(ring)} points, expected at least 3")
    return tuple(ring)


@dataclass(frozen=True, slots=True, init=False)
class Polygon(Shape):
    """One or more closed rings; a point is in if a line from it crosses the rings an odd number of times.

    So a ring inside another is a hole, and a ring inside that hole is in again. Rings may be concave and may cross.
    An edge shared by two polygons belongs to exactly one of them, by the same half-open rule as boxes.

    :param rings: rings of points, or one ring of points.
    :param unit: ``"px"``: points are node-local logical pixels; ``"box"``: fractions of the node's box, so that the
        shape stretches with the node.
    :raises ShapeError: fewer than three points in a ring, or a point that is not two finite numbers.
    """

    rings: tuple[tuple[Point, ...], ...]
    unit: str
    _edges: tuple[tuple[float, float, float, float], ...] = field(repr=False, compare=False)
    _hash: int = field(repr=False, compare=False)
    _box: Box = field(repr=False, compare=False)
    _bands: Bands | None = field(repr=False, compare=False)

    def __init__(self, rings: Sequence[Sequence[object]], unit: str = "px") -> None:
        if not is_choice(unit, UNITS):
            raise ShapeError(f"the unit of a polygon is {unit!r}, expected one of {', '.join(UNITS)}")
        given = list(listed(rings) or ())
        if not given:
            raise ShapeError(f"the rings of a polygon are {rings!r}, expected at least one ring of points")
        first = given[0]
        if isinstance(first, Sequence) and first and isinstance(first[0], int | float):
            given = [given]  # one ring, given as its points
        checked = []
        for index, ring in enumerate(given):
            if not isinstance(ring, Iterable):
                raise ShapeError(f"ring {index} of a polygon is {ring!r}, expected points")
            checked.append(_ring(ring, index))
        object.__setattr__(self, "rings", tuple(checked))
        object.__setattr__(self, "unit", unit)
        edges = []
        for done in checked:
            for (x0, y0), (x1, y1) in zip(done, (*done[1:], done[0]), strict=True):
                if y0 != y1:  # level edges are never crossed by a level line
                    # One direction for all: an edge shared with a neighbour gives the same numbers there.
                    edges.append((x0, y0, x1, y1) if y0 < y1 else (x1, y1, x0, y0))
        object.__setattr__(self, "_edges", tuple(edges))
        xs = [x for done in checked for x, _ in done]
        ys = [y for done in checked for _, y in done]
        object.__setattr__(self, "_box", (min(xs), min(ys), max(xs), max(ys)))
        object.__setattr__(self, "_bands", None)
        object.__setattr__(self, "_hash", hash((self.rings, unit)))  # long rings are not gone through again

    def __hash__(self) -> int:
        return self._hash

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        if self.unit == "box":
            if w <= 0.0 or h <= 0.0:
                return False
            x, y = x / w, y / h
        if len(self._edges) > FEW:
            return self._by_bands().crossed_before(x, y) % 2 == 1
        inside = False
        for x0, y0, x1, y1 in self._edges:
            if y0 <= y < y1 and x0 + (y - y0) / (y1 - y0) * (x1 - x0) <= x:
                inside = not inside
        return inside

    def _by_bands(self) -> Bands:
        """The edges sorted by where they are, made when they are first asked for."""
        if self._bands is None:
            from glent.core.geometry.edges import Bands  # NumPy is loaded with it

            object.__setattr__(self, "_bands", Bands(self._edges))
        return self._bands  # type: ignore[return-value]

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        import numpy as np

        shape = np.broadcast_shapes(x.shape, y.shape)
        inside = np.zeros(shape, dtype=bool)
        if self.unit == "box":
            if w <= 0.0 or h <= 0.0:
                return inside
            x, y = x / w, y / h
        edges = np.array(self._edges).reshape(-1, 4, *(1,) * len(shape))
        # As many edges at once as keep the work in a few megabytes.
        many = max(1, 1_000_000 // max(1, inside.size))
        for start in range(0, len(edges), many):
            x0, y0, x1, y1 = edges[start : start + many].swapaxes(0, 1)
            crossed = (y0 <= y) & (y < y1) & (x0 + (y - y0) / (y1 - y0) * (x1 - x0) <= x)
            inside ^= np.logical_xor.reduce(crossed, axis=0)
        return inside

    def _scale(self, w: float, h: float) -> tuple[float, float]:
        return (w, h) if self.unit == "box" else (1.0, 1.0)

    def bounds(self, w: float, h: float) -> Box | None:
        sx, sy = self._scale(w, h)
        left, top, right, bottom = self._box
        x0, y0, x1, y1 = left * sx, top * sy, right * sx, bottom * sy
        return (x0, y0, x1, y1) if x0 < x1 and y0 < y1 else None

    def outline(self, w: float, h: float) -> Segments:
        import numpy as np

        scale = np.array(self._scale(w, h))
        return np.concatenate([segments_of_ring(np.array(ring) * scale) for ring in self.rings])
