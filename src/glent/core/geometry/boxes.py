"""Shapes that follow the node's own box: the box itself, rounded corners, the ellipse in it (law H4)."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from glent.core.errors import ShapeError
from glent.core.geometry.affine import Box
from glent.core.geometry.shape import Segments, Shape, _number, flattened_arc, segments_of_ring

if TYPE_CHECKING:
    from glent.core.geometry.shape import Floats, Mask

__all__ = ["BoxShape", "Ellipse", "Rounded"]


def _inset_box(inset: float, w: float, h: float) -> Box | None:
    x0, y0, x1, y1 = inset, inset, w - inset, h - inset
    return (x0, y0, x1, y1) if x0 < x1 and y0 < y1 else None


def _never(x: float, y: float) -> bool:
    return False


def _no_segments() -> Segments:
    import numpy as np

    return np.empty((0, 4))


@dataclass(frozen=True, slots=True)
class BoxShape(Shape):
    """The node's box, drawn in by ``inset`` logical pixels on every side (negative: out). Half-open (law H2)."""

    inset: float = 0.0

    def __post_init__(self) -> None:
        object.__setattr__(self, "inset", _number(self.inset, "the inset of a box"))

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        inset = self.inset
        return inset <= x < w - inset and inset <= y < h - inset

    def fixed(self, w: float, h: float) -> Callable[[float, float], bool]:
        near, right, bottom = self.inset, w - self.inset, h - self.inset
        return lambda x, y: near <= x < right and near <= y < bottom

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        inset = self.inset
        # Axis by axis: where x and y still depend on column and row alone, only the last step is done per point.
        return ((inset <= x) & (x < w - inset)) & ((inset <= y) & (y < h - inset))

    def bounds(self, w: float, h: float) -> Box | None:
        return _inset_box(self.inset, w, h)

    def outline(self, w: float, h: float) -> Segments:
        import numpy as np

        box = self.bounds(w, h)
        if box is None:
            return _no_segments()
        x0, y0, x1, y1 = box
        return segments_of_ring(np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)], dtype=float))

    def grown(self, by: float) -> BoxShape:
        """The box with its sides moved out by ``by``; corners stay sharp."""
        return replace(self, inset=self.inset - _number(by, "the distance to grow by"))


@dataclass(frozen=True, slots=True)
class Rounded(Shape):
    """The node's box with corners rounded by ``radius`` (at most half the shorter side), drawn in by ``inset``."""

    radius: float
    inset: float = 0.0

    def __post_init__(self) -> None:
        object.__setattr__(self, "radius", _number(self.radius, "the radius of a rounded box"))
        object.__setattr__(self, "inset", _number(self.inset, "the inset of a rounded box"))
        if self.radius < 0.0:
            raise ShapeError(f"the radius of a rounded box is {self.radius!r}, expected zero or more")

    def _measures(self, w: float, h: float) -> tuple[float, float, float, float, float] | None:
        box = _inset_box(self.inset, w, h)
        if box is None:
            return None
        x0, y0, x1, y1 = box
        return x0, y0, x1, y1, min(self.radius, (x1 - x0) / 2.0, (y1 - y0) / 2.0)

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        return self.fixed(w, h)(x, y)

    def fixed(self, w: float, h: float) -> Callable[[float, float], bool]:
        measures = self._measures(w, h)
        if measures is None:
            return _never
        x0, y0, x1, y1, r = measures
        # Where the corners begin, on the way in from each side.
        left, right, top, bottom, r2 = x0 + r, x1 - r, y0 + r, y1 - r, r * r

        def test(x: float, y: float) -> bool:
            if not (x0 <= x < x1 and y0 <= y < y1):
                return False
            if left <= x <= right or top <= y <= bottom:
                return True
            dx = left - x if x < left else x - right
            dy = top - y if y < top else y - bottom
            return dx * dx + dy * dy <= r2

        return test

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        import numpy as np

        measures = self._measures(w, h)
        if measures is None:
            return np.zeros(np.broadcast_shapes(x.shape, y.shape), dtype=bool)
        x0, y0, x1, y1, r = measures
        dx = np.maximum(np.maximum(x0 + r - x, x - (x1 - r)), 0.0)
        dy = np.maximum(np.maximum(y0 + r - y, y - (y1 - r)), 0.0)
        inside: Mask = ((x0 <= x) & (x < x1)) & ((y0 <= y) & (y < y1))
        inside &= (dx == 0.0) | (dy == 0.0) | (dx * dx + dy * dy <= r * r)
        return inside

    def bounds(self, w: float, h: float) -> Box | None:
        return _inset_box(self.inset, w, h)

    def outline(self, w: float, h: float) -> Segments:
        import numpy as np

        measures = self._measures(w, h)
        if measures is None:
            return _no_segments()
        x0, y0, x1, y1, r = measures
        quarter = math.pi / 2.0
        corners = ((x1 - r, y1 - r), (x0 + r, y1 - r), (x0 + r, y0 + r), (x1 - r, y0 + r))
        arcs = [
            flattened_arc(cx, cy, r, r, turn * quarter, (turn + 1) * quarter) for turn, (cx, cy) in enumerate(corners)
        ]
        return segments_of_ring(np.concatenate(arcs))

    def grown(self, by: float) -> Rounded:
        """The outline moved out by ``by``: the corners' radius grows with it (not below zero)."""
        by = _number(by, "the distance to grow by")
        return Rounded(max(0.0, self.radius + by), self.inset - by)


@dataclass(frozen=True, slots=True)
class Ellipse(Shape):
    """The ellipse that fits the node's box, drawn in by ``inset``; a circle in a square node."""

    inset: float = 0.0

    def __post_init__(self) -> None:
        object.__setattr__(self, "inset", _number(self.inset, "the inset of an ellipse"))

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        return self.fixed(w, h)(x, y)

    def fixed(self, w: float, h: float) -> Callable[[float, float], bool]:
        rx, ry = w / 2.0 - self.inset, h / 2.0 - self.inset
        if rx <= 0.0 or ry <= 0.0:
            return _never
        cx, cy = w / 2.0, h / 2.0

        def test(x: float, y: float) -> bool:
            dx, dy = (x - cx) / rx, (y - cy) / ry
            return dx * dx + dy * dy < 1.0

        return test

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> Mask:
        import numpy as np

        rx, ry = w / 2.0 - self.inset, h / 2.0 - self.inset
        if rx <= 0.0 or ry <= 0.0:
            return np.zeros(np.broadcast_shapes(x.shape, y.shape), dtype=bool)
        dx, dy = (x - w / 2.0) / rx, (y - h / 2.0) / ry
        return np.less(dx * dx + dy * dy, 1.0)

    def bounds(self, w: float, h: float) -> Box | None:
        return _inset_box(self.inset, w, h)

    def outline(self, w: float, h: float) -> Segments:
        rx, ry = w / 2.0 - self.inset, h / 2.0 - self.inset
        if rx <= 0.0 or ry <= 0.0:
            return _no_segments()
        return segments_of_ring(flattened_arc(w / 2.0, h / 2.0, rx, ry, 0.0, 2.0 * math.pi)[:-1])

    def grown(self, by: float) -> Ellipse:
        """The ellipse with both half-axes longer by ``by``."""
        return replace(self, inset=self.inset - _number(by, "the distance to grow by"))
