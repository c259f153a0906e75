"""Pointers that are rays: a hand, a wand, a gaze (laws X1, X7)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.world.ray import Ray
from glent.core.routing.hit.point import Hit, hit_of

if TYPE_CHECKING:
    from glent.core.input.samples import RaySample
    from glent.core.routing.pointers.pointer import Pointer

__all__ = ["spot_hit", "turn"]


def turn(pointer: Pointer, sample: RaySample) -> None:
    """A ray points elsewhere, or to the same place as before."""
    ray = Ray(sample.origin, sample.direction, sample.length, "RaySample")
    if ray != pointer.ray or pointer.away:
        pointer.ray, pointer.away = ray, False
        pointer.picked = pointer.aimed = -1
    pointer.jumped = False


def spot_hit(pointer: Pointer) -> Hit | None:
    """The spot of the world that a pointer's way ends at, as the verdict names it."""
    spot, aim = pointer.spot, pointer.aim
    if spot is None or aim is None or aim.ray is None:
        return None
    return hit_of(spot, spot.root, aim.ray, True)
