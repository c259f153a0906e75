"""Poses: where something stands in the world, and which way it faces."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from glent.core.errors import SceneError
from glent.core.geometry.world.vectors import FARTHEST, Box3, Vector3, checked, cross, dot, length, minus, times, unit

__all__ = ["Pose"]

MINIMUM = 1e-9
"""A matrix is singular if it flattens a cube to less than this part of what its columns could span."""

Rows = tuple[float, float, float, float, float, float, float, float, float]


class Pose:
    """A place and an orientation in world space: metres, right-handed, y up.

    Its own space has x to the right, y up, and z the way it faces. A panel's front looks along z; someone who looks at
    the front sees x to the right.

    :param position: where its origin is.
    :param facing: the way it faces; of any length but none.
    :param up: what is up for it, as far as that is across ``facing``. None: the world's up, or, where it faces
        straight up or down, away from the viewer who stands at +z: -z of the world for up, +z for down.
    :param matrix: instead of all these, a 4×4 matrix from its space to the world, rows first, last row 0 0 0 1. It may
        scale, shear and mirror.
    :raises SceneError: a number is not finite, a direction has no length, ``up`` is along ``facing``, or the matrix is
        no such matrix or is singular; the message names the value.

    :ivar position: where its origin is. :ivar right: its x axis in world space. :ivar up: its y axis.
    :ivar facing: its z axis.
    """

    __slots__ = ("facing", "given", "inverse", "is_shift", "position", "right", "up")

    def __init__(
        self,
        position: Vector3 = (0.0, 0.0, 0.0),
        facing: Vector3 = (0.0, 0.0, 1.0),
        up: Vector3 | None = None,
        matrix: object = None,
        where: str = "Pose",
    ) -> None:
        self.given: dict[str, Any]
        """What it was made of, as plain values: a matrix, or a position and ways."""
        if matrix is not None:
            self.right, self.up, self.facing, self.position = _columns(matrix, where)
            self.given = {"matrix": [list(row) for row in self.matrix]}
        else:
            self.position = checked(position, f"{where}: position", SceneError)
            self.right, self.up, self.facing = _axes(facing, up, where)
            self.given = {"position": list(self.position), "facing": [float(one) for one in facing]}
            if up is not None:
                self.given["up"] = [float(one) for one in up]
        self.inverse = _inverse(self.right, self.up, self.facing, matrix, where)
        """Rows of the matrix that undoes its axes."""
        self.is_shift = (self.right, self.up, self.facing) == ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
        """Whether it only shifts."""

    def at(self, position: Vector3, where: str = "Pose") -> Pose:
        """This orientation at another place.

        :raises SceneError: a number is not finite.
        """
        made = Pose.__new__(Pose)
        made.position = checked(position, f"{where}: position", SceneError)
        made.right, made.up, made.facing = self.right, self.up, self.facing
        made.inverse, made.is_shift = self.inverse, self.is_shift
        if "matrix" in self.given:
            made.given = {"matrix": [list(row) for row in made.matrix]}
        else:
            made.given = {**self.given, "position": list(made.position)}
        return made

    @property
    def matrix(self) -> tuple[tuple[float, float, float, float], ...]:
        """The 4×4 matrix from its space to the world, rows first."""
        columns = (self.right, self.up, self.facing, self.position)
        rows = [(columns[0][n], columns[1][n], columns[2][n], columns[3][n]) for n in range(3)]
        return (*rows, (0.0, 0.0, 0.0, 1.0))

    def out(self, point: Vector3) -> Vector3:
        """A point of its space in the world."""
        x, y, z = self.out_way(point)
        return x + self.position[0], y + self.position[1], z + self.position[2]

    def out_way(self, way: Vector3) -> Vector3:
        """A direction of its space in the world."""
        x, y, z = way
        r, u, f = self.right, self.up, self.facing
        return r[0] * x + u[0] * y + f[0] * z, r[1] * x + u[1] * y + f[1] * z, r[2] * x + u[2] * y + f[2] * z

    def into(self, point: Vector3) -> Vector3:
        """A point of the world in its space."""
        return self.into_way(minus(point, self.position))

    def into_way(self, way: Vector3) -> Vector3:
        """A direction of the world in its space."""
        x, y, z = way
        a, b, c, d, e, f, g, h, i = self.inverse
        return a * x + b * y + c * z, d * x + e * y + f * z, g * x + h * y + i * z

    def out_normal(self, normal: Vector3) -> Vector3:
        """A normal of a surface in its space, in the world, of length 1."""
        x, y, z = normal
        a, b, c, d, e, f, g, h, i = self.inverse
        return unit((a * x + d * y + g * z, b * x + e * y + h * z, c * x + f * y + i * z)) or normal

    def box_around(self, box: Box3) -> Box3:
        """The box of the world around a box of its space."""
        low, high = list(self.position), list(self.position)
        for axis, minimum, maximum in zip((self.right, self.up, self.facing), box[:3], box[3:], strict=True):
            for n in range(3):
                one, other = axis[n] * minimum, axis[n] * maximum
                low[n] += min(one, other)
                high[n] += max(one, other)
        return low[0], low[1], low[2], high[0], high[1], high[2]

    def __eq__(self, other: object) -> bool:
        return self.matrix == other.matrix if isinstance(other, Pose) else NotImplemented

    def __hash__(self) -> int:
        return hash(self.matrix)

    def __repr__(self) -> str:
        at, way = (", ".join(f"{one:g}" for one in part) for part in (self.position, self.facing))
        return f"<Pose at ({at}) facing ({way})>"


def _axes(facing: object, up: object, where: str) -> tuple[Vector3, Vector3, Vector3]:
    z = unit(checked(facing, f"{where}: facing", SceneError))
    if z is None:
        raise SceneError(f"{where}: facing is {facing!r}, which has no length; expected the direction it faces")
    if up is None:
        upright = (0.0, 1.0, 0.0) if abs(z[1]) < 1.0 - 1e-12 else (0.0, 0.0, -1.0 if z[1] > 0.0 else 1.0)
    else:
        upright = checked(up, f"{where}: up", SceneError)
        if unit(upright) is None:
            raise SceneError(f"{where}: up is {up!r}, which has no length; expected its upward direction")
    y = unit(minus(upright, times(z, dot(upright, z))))
    if y is None or length(cross(unit(upright) or z, z)) < MINIMUM:
        raise SceneError(f"{where}: up is {up!r}, which is along facing {facing!r}; expected a direction across it")
    x = cross(y, z)
    return x, y, z


def _columns(matrix: object, where: str) -> tuple[Vector3, Vector3, Vector3, Vector3]:
    expected = "expected a 4×4 matrix of finite numbers, rows first, with the last row 0 0 0 1"
    rows = [tuple(row) if isinstance(row, Iterable) else () for row in matrix] if isinstance(matrix, Iterable) else []
    if len(rows) != 4 or any(len(row) != 4 for row in rows):
        raise SceneError(f"{where}: matrix is {matrix!r}, {expected}")
    try:
        numbers = [[float(one) for one in row] for row in rows]
    except (TypeError, ValueError):
        raise SceneError(f"{where}: matrix is {matrix!r}, {expected}") from None
    if not all(-FARTHEST <= one <= FARTHEST for row in numbers for one in row) or numbers[3] != [0.0, 0.0, 0.0, 1.0]:
        raise SceneError(f"{where}: matrix is {matrix!r}, {expected}")
    x, y, z, position = ((numbers[0][n], numbers[1][n], numbers[2][n]) for n in range(4))
    return x, y, z, position


def _inverse(x: Vector3, y: Vector3, z: Vector3, given: object, where: str) -> Rows:
    first = cross(y, z)
    determinant = dot(x, first)
    if not abs(determinant) > MINIMUM * length(x) * length(y) * length(z) or not math.isfinite(1.0 / determinant):
        raise SceneError(f"{where}: matrix is {given!r}, which is singular; expected one with an inverse")
    second, third = cross(z, x), cross(x, y)
    by = 1.0 / determinant
    rows = (*times(first, by), *times(second, by), *times(third, by))
    return rows[0], rows[1], rows[2], rows[3], rows[4], rows[5], rows[6], rows[7], rows[8]
