"""Rays: from a point, along a direction, so far."""

from __future__ import annotations

import math
from collections.abc import Callable

from glent.core.errors import SceneError
from glent.core.geometry.world.vectors import FARTHEST, Vector3, along, checked, unit

__all__ = ["Ray"]


class Ray:
    """A ray in world space.

    :param origin: where it begins, metres.
    :param direction: where it goes; of any length but none.
    :param length: how far it goes, metres; None: without end.
    :raises SceneError: a number is not finite, the direction has no length, or the length is not above zero.

    :ivar origin: where it begins. :ivar direction: where it goes, with length 1. :ivar length: metres, or infinite.
    """

    gone = 0.0
    """How far along a way of several pieces it begins, metres."""

    __slots__ = ("direction", "length", "origin")

    def __init__(self, origin: Vector3, direction: Vector3, length: float | None = None, where: str = "Ray") -> None:
        made = checked_ray(origin, direction, length, where, SceneError)
        self.origin, self.direction, self.length = made

    def at(self, distance: float) -> Vector3:
        """The point so many metres along it."""
        return along(self.origin, self.direction, distance)

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Ray):
            return NotImplemented
        return (self.origin, self.direction, self.length) == (other.origin, other.direction, other.length)

    def __hash__(self) -> int:
        return hash((self.origin, self.direction, self.length))

    def __repr__(self) -> str:
        numbers = [", ".join(f"{one:g}" for one in part) for part in (self.origin, self.direction)]
        return f"<Ray from ({numbers[0]}) along ({numbers[1]})>"


def checked_ray(
    origin: object, direction: object, far: object, where: str, error: Callable[[str], Exception]
) -> tuple[Vector3, Vector3, float]:
    """Check the parts of a ray. Return them with the direction of length 1.

    :raises: what ``error`` makes of the message that names what is wrong.
    """
    start = checked(origin, f"{where}: origin", error)
    way = unit(checked(direction, f"{where}: direction", error))
    if way is None:
        raise error(f"{where}: direction is {direction!r}, which has no length; expected one to point along")
    if far is None:
        return start, way, math.inf
    if isinstance(far, bool) or not isinstance(far, int | float) or not (0.0 < far <= FARTHEST or far == math.inf):
        raise error(f"{where}: length is {far!r}, expected None or metres above zero")
    return start, way, float(far)
