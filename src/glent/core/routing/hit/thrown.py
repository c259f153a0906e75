"""Where a pointer that throws points: along which piece of its throw it meets something (laws X5, X6).

A throw is followed from the hand, piece by piece, to the first that truly meets something; there it is a ray like any
other. If nothing that wants input is met there, a node or spot that it passes within reach on its way comes first. A
press on a panel goes on where the throw comes through the panel's surface, extended beyond its edges.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.world.ray import Ray
from glent.core.geometry.world.vectors import minus
from glent.core.routing.hit.ray import find_beyond, walk_beyond
from glent.core.scene.reach import stands_for

if TYPE_CHECKING:
    from glent.core.geometry.world.throw import Piece, Throw
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.panel import Panel

__all__ = ["landing", "sight_of", "through"]


def landing(view: SeatView, throw: Throw, kind: str) -> tuple[Piece, Vector3]:
    """The piece of a throw that meets something, or the last one, and where in the world that is."""
    pieces = throw.pieces()
    number, end = len(pieces) - 1, pieces[-1].at(pieces[-1].length)
    for at, piece in enumerate(pieces):
        met = next((on for on, _, _ in walk_beyond(view, piece) if on is not None), None)
        if met is not None:
            number, end = at, piece.at(met.distance)
            break
    if view.scene._index.reach_limits.get(kind) and not stands_for(find_beyond(view, pieces[number], "").nodes):
        for piece in pieces[: number + 1]:
            beside = next((met for met, _ in find_beyond(view, piece, kind).beyond if met.beside), None)
            if beside is not None:
                return piece, piece.at(beside.distance)
    return pieces[number], end


def through(panel: Panel, throw: Throw, near: tuple[float, float] | None) -> tuple[float, float] | None:
    """The point of a panel's surface, extended, where a throw comes through it, in its pixels; its last piece goes
    straight on. None if there is none.

    :param near: where it was last, so that a curved panel goes on from there.
    """
    pieces = throw.pieces()
    for piece in pieces:
        at = panel.from_ray(piece, near)
        if at is not None:
            x, y, z = minus(panel.to_world(*at), piece.origin)
            if x * x + y * y + z * z <= piece.length * piece.length:
                return at
    return panel.from_ray(pieces[-1], near)


def sight_of(throw: Throw, end: Vector3) -> Ray:
    """The straight line from the hand to where a throw points: what angles are measured by (law G7)."""
    start = throw.points[0]
    return Ray(start, minus(end if end != start else throw.points[1], start))
