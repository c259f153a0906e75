"""A press on a panel or a spot as gestures see it (laws G7, X6).

Ways are measured on the panel, in its pixels, also beyond its edges; on a spot, which has none, on the screen, or for
rays in degrees. How far a pointer must go is measured on the screen, or for rays in degrees.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import cross, dot, unit
from glent.core.routing.gestures.contact import Contact, Vector
from glent.core.routing.pointers.travel import mark_of

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import PointerSample, RaySample
    from glent.core.routing.gestures.recogniser import Contests
    from glent.core.routing.pointers.pointer import Pointer, Press
    from glent.core.scene.panel import Panel

__all__ = ["SurfaceContact"]


class SurfaceContact(Contact):
    """The contact of one pointer with something that stands in the world."""

    __slots__ = ("_at", "_mark", "_panel", "_screen", "_way")

    _can_go_fast = False

    def __init__(self, gestures: Contests, pointer: Pointer, press: Press) -> None:
        super().__init__(gestures, pointer, press)
        scene = press.path[0].scene
        world_index = scene._world_index if scene is not None else None
        self._panel: Panel | None = world_index.panel_of(press.path[0]) if world_index is not None else None
        self._screen: Vector = (0.0, 0.0)
        self._look()

    def _look(self) -> None:
        aim = self._pointer.aim
        self._mark = mark_of(self._pointer)
        self._at = aim.on(self._panel) if aim is not None and self._panel is not None else None
        self._way: Vector3 | None = aim.sight.direction if aim is not None and aim.sight is not None else None

    @property
    def distance(self) -> float:
        pointer = self._pointer
        if pointer.kind == "ray":
            return self._mark.degrees(pointer.aim) if self._mark is not None else 0.0
        x, y = self.travel if pointer.tip is not None else self._screen
        return math.sqrt(x * x + y * y)

    def _went(self, time: float, step: Vector, sample: PointerSample | RaySample) -> None:
        x, y = self._screen
        self._screen = (x + step[0], y + step[1])
        self._book(time, self._step(step))

    def _book_tip(self, time: float) -> None:
        self._book(time, self._step((0.0, 0.0)))

    def _step(self, step: Vector) -> Vector:
        """How far the pointer went: on the panel, in degrees, or as on the screen."""
        aim = self._pointer.aim
        if aim is None:
            return step
        if self._panel is not None:
            at, before = aim.on(self._panel), self._at
            if at is None or before is None:
                self._at = at or before
                return 0.0, 0.0
            self._at = at
            return at[0] - before[0], at[1] - before[1]
        if self._pointer.kind != "ray" or aim.sight is None:
            return step
        before_way, self._way = self._way, aim.sight.direction
        return _turned(before_way, self._way) if before_way is not None else (0.0, 0.0)

    def _measure_anew(self) -> None:
        super()._measure_anew()
        self._screen = (0.0, 0.0)
        self._look()


def _turned(before: Vector3, after: Vector3) -> Vector:
    """By how many degrees a direction has turned to the right and down, as seen along it."""
    right = unit(cross(before, (0.0, 1.0, 0.0))) or (1.0, 0.0, 0.0)
    down = cross(before, right)
    ahead = dot(after, before)
    return math.degrees(math.atan2(dot(after, right), ahead)), math.degrees(math.atan2(dot(after, down), ahead))
