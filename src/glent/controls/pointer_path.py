"""The way from what opened a menu to that menu: across the gap, and aslant over what lies in between."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Point", "hull", "is_on_way", "is_within", "place_of"]

Point = tuple[float, float]

EDGE = 1e-6
"""By how much rounding may put a point outside of an edge it lies on, in pixels."""


def place_of(event: Event) -> Point:
    """Where a pointer is, in the space that :meth:`Scene.corners` gives its corners in."""
    scene = event.here.scene
    if scene is None or event.here.root in scene.in_world:
        return event.pos
    return scene.from_screen(*event.pos)


def hull(points: Iterable[Point]) -> list[Point]:
    """The corners of the smallest convex polygon around some points, in order round it."""
    ordered = sorted(set(points))
    if len(ordered) < 3:
        return ordered
    halves = []
    for run in (ordered, ordered[::-1]):
        half: list[Point] = []
        for point in run:
            while len(half) > 1 and _turn(half[-2], half[-1], point) <= 0.0:
                half.pop()
            half.append(point)
        halves += half[:-1]
    return halves


def _turn(a: Point, b: Point, c: Point) -> float:
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])


def is_within(point: Point, corners: Sequence[Point]) -> bool:
    """Whether a point is in a convex polygon, its edges included."""
    if len(corners) < 3:
        return False
    for one, other in zip(corners, (*corners[1:], corners[0]), strict=True):
        long = max(abs(other[0] - one[0]), abs(other[1] - one[1]), 1.0)
        if _turn(one, other, point) < -EDGE * long:
            return False
    return True


def is_on_way(point: Point, start: Point, goal: Sequence[Point]) -> bool:
    """Whether a point lies in the triangle from where a pointer came from to the menu it may be on its way to.

    :param goal: the corners of the menu: the triangle reaches to those two that it is seen between from the start.
    """
    return is_within(point, hull([start, *goal]))


def between(one: Node, other: Node) -> list[Point]:
    """The corners of all that lies on straight ways between two nodes: the two, and what is between them."""
    scene = one.scene
    assert scene is not None
    return hull([*scene.corners(one), *scene.corners(other)])
