"""Affine transforms of the plane as plain 6-tuples.

A transform ``(a, b, c, d, e, f)`` maps ``(x, y)`` to ``(a*x + c*y + e, b*x + d*y + f)``: the order of CSS and SVG
``matrix()``. Scalars in a tuple are several times faster to apply to one point than an array, and one point is what
a hit test has. The ``*_many`` functions are for real batches.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

__all__ = ["IDENTITY", "Affine", "Box", "apply", "apply_many", "bounds", "compose", "invert", "stretch", "turned"]

Affine = tuple[float, float, float, float, float, float]
"""``(a, b, c, d, e, f)``, as in CSS and SVG ``matrix()``."""

Box = tuple[float, float, float, float]
"""``(left, top, right, bottom)``."""

IDENTITY: Affine = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)

_QUARTERS = {0.0: (1.0, 0.0), 90.0: (0.0, 1.0), 180.0: (-1.0, 0.0), 270.0: (0.0, -1.0)}


def turned(degrees: float) -> tuple[float, float]:
    """Cosine and sine of a turn in degrees, exact for every quarter turn (``math.cos`` of 90° is not zero)."""
    rest = math.fmod(degrees, 360.0)
    if rest < 0.0:
        rest += 360.0
    exact = _QUARTERS.get(rest)
    if exact is not None:
        return exact
    angle = math.radians(rest)
    return math.cos(angle), math.sin(angle)


def apply(m: Affine, x: float, y: float) -> tuple[float, float]:
    """The image of one point."""
    return m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]


def apply_many(m: Affine, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """The images of points, array of shape (n, 2) in and out."""
    import numpy as np

    x, y = points[:, 0], points[:, 1]
    return np.stack((m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]), axis=1)


def compose(outer: Affine, inner: Affine) -> Affine:
    """The transform that does ``inner`` first, then ``outer``."""
    a, b, c, d, e, f = outer
    p, q, r, s, t, u = inner
    return (a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f)


def invert(m: Affine) -> Affine | None:
    """The inverse in closed form, or None where there is none (a scale of zero, or numbers out of range: law H6)."""
    a, b, c, d, e, f = m
    det = a * d - b * c
    if det == 0.0 or not math.isfinite(det):
        return None
    inverse = (d / det, -b / det, -c / det, a / det, (c * f - d * e) / det, (b * e - a * f) / det)
    return inverse if all(map(math.isfinite, inverse)) else None


def bounds(m: Affine, box: Box) -> Box:
    """The smallest upright box around the image of a box."""
    a, b, c, d, e, f = m
    x0, y0, x1, y1 = box
    # The extremes of a linear form over a box lie at its corners, coordinate by coordinate.
    ax0, ax1, cy0, cy1 = a * x0, a * x1, c * y0, c * y1
    bx0, bx1, dy0, dy1 = b * x0, b * x1, d * y0, d * y1
    return (
        min(ax0, ax1) + min(cy0, cy1) + e,
        min(bx0, bx1) + min(dy0, dy1) + f,
        max(ax0, ax1) + max(cy0, cy1) + e,
        max(bx0, bx1) + max(dy0, dy1) + f,
    )


def stretch(m: Affine) -> tuple[float, float]:
    """The smallest and the largest factor by which the transform lengthens a distance (its singular values)."""
    a, b, c, d = m[:4]
    mean = math.hypot(a + d, b - c) / 2.0
    half = math.hypot(a - d, b + c) / 2.0
    return abs(mean - half), mean + half
