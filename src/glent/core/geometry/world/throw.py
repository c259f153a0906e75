"""Throws: the way of something thrown through the world, in straight pieces (law X5)."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import pairwise

from glent.core.errors import SceneError
from glent.core.geometry.world.ray import Ray
from glent.core.geometry.world.vectors import FARTHEST, Vector3, checked, length, minus

__all__ = ["Piece", "Throw"]

GRAVITY = (0.0, -9.81, 0.0)
MIN_PIECE = 1e-9
MAX_PIECES = 100_000


class Piece(Ray):
    """A straight piece of a throw. :ivar gone: how far along the throw it begins, metres."""

    __slots__ = ("gone",)

    def __init__(self, start: Vector3, end: Vector3, length: float, gone: float) -> None:
        super().__init__(start, minus(end, start), length)
        self.gone = gone


class Throw:
    """A way through the world, followed piece by piece until it meets something.

    :param points: at least two, world space, metres. Points that lie on each other count as one.
    :param length: how far it goes at the most, metres along it; None: to its last point.
    :raises SceneError: there are fewer than two points, or a number is not finite or out of range.

    :ivar points: where it goes. :ivar length: how far.
    """

    __slots__ = ("_pieces", "length", "points")

    def __init__(self, points: Iterable[Vector3], length: float | None = None) -> None:
        given = [checked(point, f"Throw: points[{n}]", SceneError) for n, point in enumerate(_listed(points))]
        apart = given[:1]
        for point in given[1:]:
            if _gap(apart[-1], point) > MIN_PIECE:
                apart.append(point)
        if len(apart) < 2:
            raise SceneError(f"Throw: points has {len(apart)} places, expected at least two that lie apart")
        whole = sum(_gap(one, other) for one, other in pairwise(apart))
        self.points = tuple(apart)
        self.length = whole if length is None else min(whole, _checked_cap(length))
        self._pieces: list[Piece] = []

    @classmethod
    def from_velocity(
        cls,
        origin: Vector3,
        velocity: Vector3,
        gravity: Vector3 = GRAVITY,
        length: float = 20.0,
        off: float = 0.005,
    ) -> Throw:
        """The throw of something that is let go at a speed and falls, without air.

        :param origin: where it is let go, world space, metres. :param velocity: how fast, metres a second.
        :param gravity: how that changes, metres a second each second. :param length: how far it goes at the most,
            metres along it. :param off: how far its pieces may be beside the true arc, metres.
        :raises SceneError: as :class:`Throw`; also where neither velocity nor gravity takes it anywhere.
        """
        start, speed = checked(origin, "Throw: origin", SceneError), checked(velocity, "Throw: velocity", SceneError)
        pull = checked(gravity, "Throw: gravity", SceneError)
        cap = _checked_cap(length)
        if isinstance(off, bool) or not isinstance(off, int | float) or not 1e-6 <= off <= 1e3:
            raise SceneError(f"Throw: off is {off!r}, expected metres from 1e-06 to 1000")
        drop = _size(pull)
        if drop == 0.0 and _size(speed) == 0.0:
            raise SceneError(f"Throw: velocity is {velocity!r} and gravity {gravity!r}, which lead nowhere")
        # A piece of a parabola is beside its chord by no more than pull · step² / 8.
        step = math.sqrt(8.0 * off / drop) if drop > 0.0 else cap / _size(speed)
        points, gone, time = [start], 0.0, 0.0
        while gone < cap and len(points) < MAX_PIECES:
            time += step
            x, y, z = (start[n] + speed[n] * time + pull[n] * time * time / 2.0 for n in range(3))
            gone += _gap(points[-1], (x, y, z))
            points.append((x, y, z))
        return cls(points, cap)

    @property
    def origin(self) -> Vector3:
        """Where it begins, metres."""
        return self.points[0]

    def at(self, distance: float) -> Vector3:
        """The point so many metres along it; beyond its end it goes straight on."""
        piece = next((one for one in reversed(self.pieces()) if one.gone <= distance), self.pieces()[0])
        return piece.at(distance - piece.gone)

    def pieces(self) -> list[Piece]:
        """The rays it is made of; made once."""
        made, gone = self._pieces, 0.0
        if made:
            return made
        for one, other in pairwise(self.points):
            if gone >= self.length:
                break
            long = _gap(one, other)
            # A hair too long, so that nothing slips through between two pieces.
            made.append(Piece(one, other, min(long, self.length - gone) * (1.0 + 1e-12), gone))
            gone += long
        return made

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Throw):
            return NotImplemented
        return (self.points, self.length) == (other.points, other.length)

    def __hash__(self) -> int:
        return hash((self.points, self.length))

    def __repr__(self) -> str:
        return f"<Throw of {len(self.points)} points, {self.length:g} m long>"


def _gap(one: Vector3, other: Vector3) -> float:
    return length(minus(other, one))


def _size(way: Vector3) -> float:
    return length(way)


def _listed(points: object) -> list[object]:
    if hasattr(points, "tolist"):
        return list(points.tolist())
    if not isinstance(points, Iterable):
        raise SceneError(f"Throw: points is {points!r}, expected at least two points")
    return list(points)


def _checked_cap(value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not MIN_PIECE < value <= FARTHEST:
        raise SceneError(f"Throw: length is {value!r}, expected metres above zero")
    return float(value)
