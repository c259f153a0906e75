"""Samples aimed at nodes instead of pixels, so that a node that has moved gets what it got before.

What a pointer points at in one game is looked for by its path in the other one, and the sample goes to the same place
in its box. From a press to its release the pointer keeps its distance: what is dragged is dragged as far. Where the
node, and all it lies in, is not there, or nothing lies at the point, the sample stays as it is.
"""

from __future__ import annotations

from copy import copy
from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import minus
from glent.core.input.samples import PointerSample, RaySample, WheelSample
from glent.diagnose import is_interactive

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["Aiming"]

Shift = tuple[float, float]
STAYS: Shift = (0.0, 0.0)
SAME = 1e-6
"""Metres, or pixels: what is nearer is where it was."""


class Aiming:
    """The samples of one game, aimed at the same nodes of another one.

    :param before: the game that they were made for; each is to be aimed before it is fed there.
    :param after: the other one.
    """

    __slots__ = ("_after", "_before", "_held")

    def __init__(self, before: Router, after: Router) -> None:
        self._before = before
        self._after = after
        self._held: dict[str, tuple[Shift, set[object]]] = {}

    def aimed(self, sample: Sample) -> Sample:
        """The sample for the other game: a copy, where it goes elsewhere."""
        if isinstance(sample, RaySample):
            return self._aimed_ray(sample)
        if isinstance(sample, WheelSample):
            return _moved(sample, self._shift(sample.x, sample.y, "mouse"))
        if isinstance(sample, PointerSample) and not sample.relative:
            return _moved(sample, self._pointer_shift(sample))
        return sample

    def _pointer_shift(self, sample: PointerSample) -> Shift:
        name, held = sample.pointer, self._held.get(sample.pointer)
        if sample.action == "press":
            if held is None:
                held = self._held[name] = self._shift(sample.x, sample.y, sample.kind), set()
            held[1].add(sample.button)
        elif sample.action == "cancel":
            self._held.pop(name, None)
        elif sample.action == "release" and held is not None:
            held[1].discard(sample.button)
            if not held[1]:
                del self._held[name]
        return held[0] if held is not None else self._shift(sample.x, sample.y, sample.kind)

    def _shift(self, x: float, y: float, kind: str) -> Shift:
        pair = self._pair(self._before.hits(x, y, kind=kind))
        if pair is None:
            return STAYS
        node, other = pair
        if node.root._in_world:
            return STAYS
        left, top = self._before.scene.local(node, x, y)
        to_x, to_y = self._after.scene.point(other, *_placed(node, other, left, top))
        shift = to_x - x, to_y - y
        return shift if max(map(abs, shift)) > SAME else STAYS

    def _aimed_ray(self, sample: RaySample) -> Sample:
        if sample.path is not None:
            return sample
        hits = self._before.hits_ray(sample.origin, sample.direction, sample.length)
        pair = self._pair(hits)
        met = next((hit for hit in hits if pair is not None and hit.node is pair[0]), None)
        if pair is None or met is None or met.point is None or not pair[1].root._in_world:
            return sample
        goal = self._after.scene.to_world(pair[1], *_placed(*pair, *met.local))
        if max(map(abs, minus(goal, met.point))) < SAME:
            return sample
        aimed = copy(sample)
        aimed.direction = minus(goal, sample.origin)
        return aimed

    def _pair(self, hits: list[Hit]) -> tuple[Node, Node] | None:
        """What of the hits the sample is for, and what that is in the other game."""
        offered = [hit.node for hit in hits if hit.offered]
        aim = next((node for node in offered if is_interactive(node)), offered[-1] if offered else None)
        for node in reversed(aim.lineage()) if aim is not None else ():
            if node.path not in self._after.scene or min(node.size) <= 0.0:
                continue
            other = self._after.scene[node.path]
            if other.is_visible and min(other.size) > 0.0:
                return node, other
        return None


def _placed(node: Node, other: Node, x: float, y: float) -> tuple[float, float]:
    """The same place in another box."""
    (width, height), (wide, high) = node.size, other.size
    return x / width * wide, y / height * high


def _moved(sample: Sample, shift: Shift) -> Sample:
    if shift == STAYS or not isinstance(sample, PointerSample | WheelSample):
        return sample
    moved = copy(sample)
    moved.x, moved.y = sample.x + shift[0], sample.y + shift[1]
    if isinstance(moved, PointerSample):
        moved.raw = tuple((time, x + shift[0], y + shift[1]) for time, x, y in moved.raw)
    return moved
