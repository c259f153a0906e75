"""Points and directions in three dimensions, as plain tuples."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from numbers import Real

__all__ = ["Box3", "Vector3", "add", "along", "checked", "cross", "dot", "length", "minus", "times", "unit"]

Vector3 = tuple[float, float, float]

Box3 = tuple[float, float, float, float, float, float]
"""Least x, y, z, then greatest x, y, z."""

FARTHEST = 1e9
"""No coordinate is larger: metres, so that a float still tells tenths of a micrometre apart."""


def checked(value: object, what: str, error: Callable[[str], Exception]) -> Vector3:
    """Check three finite numbers.

    :raises: what ``error`` makes of the message, if they are not.
    """
    given = tuple(value) if isinstance(value, Iterable) and not isinstance(value, str) else ()
    if len(given) != 3 or not all(isinstance(one, Real) and not isinstance(one, bool) for one in given):
        raise error(f"{what} is {value!r}, expected three numbers")
    if not all(-FARTHEST <= float(one) <= FARTHEST for one in given):
        raise error(f"{what} is {value!r}, expected three finite numbers of at most {FARTHEST:g}")
    return float(given[0]), float(given[1]), float(given[2])


def add(a: Vector3, b: Vector3) -> Vector3:
    """The sum."""
    return a[0] + b[0], a[1] + b[1], a[2] + b[2]


def minus(a: Vector3, b: Vector3) -> Vector3:
    """The difference."""
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]


def times(a: Vector3, by: float) -> Vector3:
    """The product with a number."""
    return a[0] * by, a[1] * by, a[2] * by


def along(origin: Vector3, direction: Vector3, far: float) -> Vector3:
    """The point so far along a direction."""
    return origin[0] + direction[0] * far, origin[1] + direction[1] * far, origin[2] + direction[2] * far


def dot(a: Vector3, b: Vector3) -> float:
    """The scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vector3, b: Vector3) -> Vector3:
    """The vector product."""
    return a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]


def length(a: Vector3) -> float:
    """The length."""
    return math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2])


def unit(a: Vector3) -> Vector3 | None:
    """The direction with length 1; None if it has no length."""
    maximum = max(abs(a[0]), abs(a[1]), abs(a[2]))
    if not maximum > 0.0:
        return None
    scaled = a[0] / maximum, a[1] / maximum, a[2] / maximum  # so that neither tiny nor huge numbers lose their squares
    by = length(scaled)
    return scaled[0] / by, scaled[1] / by, scaled[2] / by
