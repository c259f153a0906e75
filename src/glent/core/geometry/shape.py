"""The interface of hit shapes, and the shapes made of other shapes (law H4).

A shape lives in node-local logical pixels, y down, with the node's box at ``(0, 0, w, h)``. Every question is asked
with ``w`` and ``h``, so that one shape value serves nodes of any size and a stretched node stretches its shape.
"""

from __future__ import annotations

import math
from abc import ABC, abstractmethod
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import TYPE_CHECKING, TypeAlias

from glent.core.arguments import is_number, listed
from glent.core.errors import ShapeError
from glent.core.geometry.affine import IDENTITY, Affine, Box

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]
    Mask = NDArray[np.bool_]

__all__ = ["Grown", "Shape", "Union", "distance", "flattened_arc", "segments_of_ring"]

Segments: TypeAlias = "NDArray[np.float64]"
"""Straight pieces of an outline, array of shape (n, 4): x0, y0, x1, y1."""

FLATTEN = 0.01
"""Curves become segments no farther than this from the true curve, in local logical pixels."""


class Shape(ABC):
    """The base of hit shapes: where a node can be hit, apart from what is drawn there."""

    __slots__ = ()

    @abstractmethod
    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        """Whether a node-local point lies in the shape of a node of size ``w`` × ``h``."""

    def fixed(self, w: float, h: float) -> Callable[[float, float], bool]:
        """The test :meth:`contains` makes, for one size: what the index asks, thousands of times a second."""

        def test(x: float, y: float) -> bool:
            return self.contains(x, y, w, h)

        return test

    @abstractmethod
    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        """Whether points lie in the shape, for arrays of coordinates that broadcast together; equal to the scalar
        answers."""

    def contains_many(self, points: Floats, w: float, h: float) -> Mask:
        """Whether points, of shape (n, 2), lie in the shape; answers of shape (n,)."""
        return self.inside(points[:, 0], points[:, 1], w, h)

    @abstractmethod
    def bounds(self, w: float, h: float) -> Box | None:
        """An upright box around the shape, node-local; None if the shape is empty."""

    @abstractmethod
    def outline(self, w: float, h: float) -> Segments:
        """The edge of the shape as straight segments, shape (n, 4); curves to within ``FLATTEN``."""

    def grown(self, by: float) -> Shape:
        """This shape with its edge moved outwards by ``by`` logical pixels, or inwards where it is negative."""
        return self if by == 0 else Grown(self, by)


def _number(value: object, what: str) -> float:
    if not is_number(value):
        raise ShapeError(f"{what} is {value!r}, expected a finite number")
    return float(value)


@lru_cache(maxsize=1024)
def _outline(shape: Shape, w: float, h: float) -> Segments:
    return shape.outline(w, h)


@lru_cache(maxsize=256)
def _by_top(shape: Shape, w: float, h: float) -> tuple[Segments, NDArray[np.float64], float]:
    """The edge of a shape from the top down, the tops of its segments, and how tall the tallest is."""
    segments = _outline(shape, w, h)
    tops, bottoms = segments[:, 1::2].min(axis=1), segments[:, 1::2].max(axis=1)
    order = tops.argsort(kind="stable")
    return segments[order], tops[order], float((bottoms - tops).max(initial=0.0))


def distance(shape: Shape, x: float, y: float, w: float, h: float, to_screen: Affine = IDENTITY) -> float:
    """The distance of a node-local point from the shape, in screen pixels; 0.0 inside it, infinity if it is empty.

    ``to_screen`` maps node-local to screen space; only its linear part matters. Measuring after the mapping is what
    keeps the answer true under a scale that differs by axis, where the nearest point is another one (law H5).
    """
    import numpy as np

    if shape.contains(x, y, w, h):
        return 0.0
    segments = _outline(shape, w, h)
    if not len(segments):
        return math.inf
    a, b, c, d = to_screen[:4]
    dx, dy = segments[:, 0::2] - x, segments[:, 1::2] - y
    sx, sy = a * dx + c * dy, b * dx + d * dy
    ux, uy = sx[:, 1] - sx[:, 0], sy[:, 1] - sy[:, 0]
    length2 = ux * ux + uy * uy
    along = -(sx[:, 0] * ux + sy[:, 0] * uy)
    t = np.clip(np.divide(along, length2, out=np.zeros_like(along), where=length2 > 0.0), 0.0, 1.0)
    return float(np.min(np.hypot(sx[:, 0] + t * ux, sy[:, 0] + t * uy)))


def segments_of_ring(ring: NDArray[np.float64]) -> Segments:
    """The closed ring of points, shape (n, 2), as segments, shape (n, 4)."""
    import numpy as np

    return np.concatenate((ring, np.roll(ring, -1, axis=0)), axis=1)


def flattened_arc(cx: float, cy: float, rx: float, ry: float, start: float, end: float) -> NDArray[np.float64]:
    """Points on an elliptical arc from ``start`` to ``end`` (radians), both included, within ``FLATTEN`` of it."""
    import numpy as np

    radius = max(rx, ry)
    step = math.acos(max(0.0, 1.0 - FLATTEN / radius)) * 2.0 if radius > FLATTEN else math.pi / 2.0
    count = min(4096, max(2, math.ceil(abs(end - start) / step) + 1))
    angle = np.linspace(start, end, count)
    return np.stack((cx + rx * np.cos(angle), cy + ry * np.sin(angle)), axis=1)


@dataclass(frozen=True, slots=True)
class Union(Shape):
    """All points that lie in any of the parts."""

    parts: tuple[Shape, ...]

    def __post_init__(self) -> None:
        parts = listed(self.parts)
        if not parts:
            raise ShapeError("a union has no parts, expected at least one shape")
        for index, part in enumerate(parts):
            if not isinstance(part, Shape):
                raise ShapeError(f"part {index} of a union is {part!r}, expected a shape")
        object.__setattr__(self, "parts", parts)

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        return any(part.contains(x, y, w, h) for part in self.parts)

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        inside = self.parts[0].inside(x, y, w, h)
        for part in self.parts[1:]:
            inside = inside | part.inside(x, y, w, h)
        return inside

    def bounds(self, w: float, h: float) -> Box | None:
        boxes = [box for part in self.parts if (box := part.bounds(w, h)) is not None]
        if not boxes:
            return None
        lefts, tops, rights, bottoms = zip(*boxes, strict=True)
        return min(lefts), min(tops), max(rights), max(bottoms)

    def outline(self, w: float, h: float) -> Segments:
        # Pieces inside another part are never the nearest to a point outside of all parts, so they may stay.
        import numpy as np

        return np.concatenate([part.outline(w, h) for part in self.parts])


@dataclass(frozen=True, slots=True)
class Grown(Shape):
    """Another shape with its edge moved by a distance: outwards if positive, inwards if negative."""

    shape: Shape
    by: float

    def __post_init__(self) -> None:
        if not isinstance(self.shape, Shape):
            raise ShapeError(f"what is to grow is {self.shape!r}, expected a shape")
        object.__setattr__(self, "by", _number(self.by, "the distance to grow by"))

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        box = self.bounds(w, h)
        if box is None or not (box[0] <= x <= box[2] and box[1] <= y <= box[3]):
            return False
        if self.shape.contains(x, y, w, h):
            return self.by >= 0.0 or not self._is_edge_within(x, y, w, h, -self.by, touching=False)
        return self.by >= 0.0 and self._is_edge_within(x, y, w, h, self.by, touching=True)

    def _is_edge_within(self, x: float, y: float, w: float, h: float, by: float, touching: bool) -> bool:
        """Whether the edge of the shape comes nearer to a point than a distance, or just as near."""
        segments, tops, tallest = _by_top(self.shape, w, h)
        first, last = tops.searchsorted(y - by - tallest, "left"), tops.searchsorted(y + by, "right")
        if first >= last:
            return False
        nearest = float(_far_from(segments[first:last], x, y).min())
        return nearest <= by if touching else nearest < by

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        import numpy as np

        x, y = np.broadcast_arrays(x, y)
        plain = self.shape.inside(x, y, w, h)
        box = self.bounds(w, h)
        if box is None:
            return np.zeros(x.shape, dtype=bool)
        near = (box[0] <= x) & (x <= box[2]) & (box[1] <= y) & (y <= box[3])
        # Only points whose answer the edge decides are measured: the rest is known from the plain shape.
        if self.by >= 0.0:
            result, open_ = plain & near, near & ~plain
        else:
            result, open_ = np.zeros(x.shape, dtype=bool), near & plain
        if open_.any():
            away = _distances(_outline(self.shape, w, h), np.stack((x[open_], y[open_]), axis=1))
            result[open_] = away <= self.by if self.by >= 0.0 else away >= -self.by
        return result

    def bounds(self, w: float, h: float) -> Box | None:
        box = self.shape.bounds(w, h)
        if box is None:
            return None
        x0, y0, x1, y1 = box[0] - self.by, box[1] - self.by, box[2] + self.by, box[3] + self.by
        return (x0, y0, x1, y1) if x0 <= x1 and y0 <= y1 else None

    def outline(self, w: float, h: float) -> Segments:
        # A strip of boxes and arcs around each segment covers a grown edge exactly; its outer hull is the edge, and
        # for distances from outside only the hull can be nearest.
        import numpy as np

        base = _outline(self.shape, w, h)
        if self.by <= 0.0 or not len(base):
            return self._inner_outline(base, w, h)
        dx, dy = base[:, 2] - base[:, 0], base[:, 3] - base[:, 1]
        length = np.hypot(dx, dy)
        keep = length > 0.0
        nx, ny = np.zeros_like(dx), np.zeros_like(dy)
        nx[keep], ny[keep] = dy[keep] / length[keep] * self.by, -dx[keep] / length[keep] * self.by
        shift = np.stack((nx, ny, nx, ny), axis=1)
        corners = np.unique(base[:, :2], axis=0)
        ring = flattened_arc(0.0, 0.0, self.by, self.by, 0.0, 2.0 * math.pi)[:-1]
        arcs = [segments_of_ring(ring + corner) for corner in corners]
        return np.concatenate([base + shift, base - shift, *arcs])

    def _inner_outline(self, base: Segments, w: float, h: float) -> Segments:
        """Moved-in edges, kept only where they really are on the edge of the smaller shape."""
        import numpy as np

        if not len(base) or self.by == 0.0:
            return base
        dx, dy = base[:, 2] - base[:, 0], base[:, 3] - base[:, 1]
        length = np.hypot(dx, dy)
        base, dx, dy, length = base[length > 0], dx[length > 0], dy[length > 0], length[length > 0]
        # Cut into short pieces, so that a piece is wholly in or wholly out but for a pixel's fraction.
        pieces = []
        for (x0, y0), ux, uy, size in zip(base[:, :2], dx / length, dy / length, length, strict=True):
            at = np.linspace(0.0, size, min(2048, max(2, math.ceil(size / 0.5) + 1)))
            for side in (self.by, -self.by):
                px, py = x0 + ux * at + uy * side, y0 + uy * at - ux * side
                pieces.append(np.stack((px[:-1], py[:-1], px[1:], py[1:]), axis=1))
        if not pieces:
            return np.empty((0, 4))
        lines = np.concatenate(pieces)
        middle = np.stack(((lines[:, 0] + lines[:, 2]) / 2.0, (lines[:, 1] + lines[:, 3]) / 2.0), axis=1)
        on = self.shape.contains_many(middle, w, h)
        on[on] = _distances(base, middle[on]) >= -self.by - 1e-9
        return lines[on]


def _distances(segments: Segments, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """Distance of each point, shape (n, 2), to the nearest segment; shape (n,)."""
    import numpy as np

    if not len(segments):
        return np.full(len(points), math.inf)
    best = np.full(len(points), math.inf)
    x, y = points[:, 0], points[:, 1]
    if len(points) < len(segments):
        for place, (px, py) in enumerate(points.tolist()):
            best[place] = np.min(_far_from(segments, px, py))
        return best
    for x0, y0, x1, y1 in segments:
        ux, uy = x1 - x0, y1 - y0
        length2 = ux * ux + uy * uy
        t = np.clip(((x - x0) * ux + (y - y0) * uy) / length2, 0.0, 1.0) if length2 > 0.0 else 0.0
        np.minimum(best, np.hypot(x0 + t * ux - x, y0 + t * uy - y), out=best)
    return best


def _far_from(segments: Segments, x: float, y: float) -> NDArray[np.float64]:
    """The distance of each segment from a point; shape (n,)."""
    import numpy as np

    x0, y0 = segments[:, 0], segments[:, 1]
    ux, uy = segments[:, 2] - x0, segments[:, 3] - y0
    length2 = ux * ux + uy * uy
    along = (x - x0) * ux + (y - y0) * uy
    t = np.clip(np.divide(along, length2, out=np.zeros_like(along), where=length2 > 0.0), 0.0, 1.0)
    return np.hypot(x0 + t * ux - x, y0 + t * uy - y)
