"""Scripted users in the world: one who points a ray, and one who pokes panels with a fingertip."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

from glent.core.geometry.world.throw import Throw
from glent.core.geometry.world.vectors import Vector3, add, minus, times
from glent.core.input.samples import PointerButton, RaySample, Sample, TipSample
from glent.core.input.validate import button_of
from glent.core.routing.pointers.pointer import bit_of
from glent.core.routing.router import Router
from glent.core.routing.verdict import Verdict
from glent.core.scene.node import Node
from glent.testing.steady import Steady

__all__ = ["Fingertip", "Wand"]

Goal: TypeAlias = "Node | str | Vector3"
"""A node on a panel or a spot, its path, or a point of the world in metres."""


class _InWorld(Steady):
    """What both share: where things are."""

    def point(self, goal: Goal, at: tuple[float, float] = (0.5, 0.5)) -> Vector3:
        """Where a goal is in the world; ``at`` is where in a node's box, in fractions of it."""
        if isinstance(goal, tuple):
            return goal
        scene = self.router.scene
        node = scene[goal] if isinstance(goal, str) else goal
        width, height = node.size
        x, y, z = scene.to_world(node, width * at[0], height * at[1])
        return round(x, 6), round(y, 6), round(z, 6)


class Wand(_InWorld):
    """A ray in the hand of a user, from a place that stays, unless it is set.

    :param router: what is fed. :param origin: where the ray begins, world space, metres.
    :param pointer: the pointer's name. :param pace: seconds from one sample to the next.
    :param start: the time of the first sample. :param tap: called with every sample before it is fed.
    :param length: how far the ray goes, metres; None: without end.
    """

    def __init__(
        self,
        router: Router,
        origin: Vector3 = (0.0, 0.0, 0.0),
        pointer: str = "ray",
        pace: float = 0.016,
        start: float = 0.0,
        tap: Callable[[Sample], object] | None = None,
        length: float | None = None,
    ) -> None:
        super().__init__(router, pointer, pace, start, tap)
        self.origin = origin
        self.direction: Vector3 = (0.0, 0.0, -1.0)
        self.length = length
        self.path: tuple[Vector3, ...] | None = None
        self.buttons = 0

    def _sample(self, action: str, button: PointerButton | None = None) -> Verdict:
        self.pause(self.pace)
        number = None if button is None else int(button)
        return self.feed(
            RaySample(
                self.time,
                action,
                self.origin,
                self.direction,
                self.pointer,
                number,
                self.buttons,
                self.length,
                self.path,
            )
        )

    def aim(self, goal: Goal, steps: int = 1, at: tuple[float, float] = (0.5, 0.5)) -> Verdict:
        """Turn to a goal, in so many samples, straight on; the last verdict."""
        self.path = None
        before, after = self.direction, minus(self.point(goal, at), self.origin)
        for step in range(1, steps + 1):
            part = step / steps
            x, y, z = add(times(before, 1.0 - part), times(after, part))
            self.direction = (round(x, 6), round(y, 6), round(z, 6))
            verdict = self._sample("move")
        return verdict

    def throw(self, velocity: Vector3) -> Verdict:
        """Point along the way of something thrown from here at a speed, metres a second, until the next aim."""
        self.direction = velocity
        points = Throw.from_velocity(self.origin, velocity).points[1:]
        self.path = tuple((round(x, 6), round(y, 6), round(z, 6)) for x, y, z in points)
        return self._sample("move")

    def press(self, button: PointerButton | str = PointerButton.PRIMARY) -> Verdict:
        """Press a button."""
        button = button_of(button, "press")
        self.buttons |= bit_of(button)
        return self._sample("press", button)

    def release(self, button: PointerButton | str = PointerButton.PRIMARY) -> Verdict:
        """Let a button go."""
        button = button_of(button, "release")
        self.buttons &= ~bit_of(button)
        return self._sample("release", button)

    def click(self, goal: Goal, at: tuple[float, float] = (0.5, 0.5)) -> Verdict:
        """Turn to a goal, press and release; the verdict of the press."""
        self.aim(goal, at=at)
        verdict = self.press()
        self.release()
        return verdict

    def drag(self, start: Goal, end: Goal, steps: int = 8) -> Verdict:
        """Press at one goal, turn to another, release; the verdict of the press."""
        self.aim(start)
        verdict = self.press()
        self.aim(end, steps)
        self.release()
        return verdict

    def cancel(self) -> Verdict:
        """The system takes the ray away."""
        self.buttons = 0
        return self._sample("cancel")


class Fingertip(_InWorld):
    """A fingertip that pokes panels.

    :param router: what is fed. :param pointer: its name.
    """

    def __init__(
        self,
        router: Router,
        pointer: str = "tip",
        pace: float = 0.016,
        start: float = 0.0,
        tap: Callable[[Sample], object] | None = None,
    ) -> None:
        super().__init__(router, pointer, pace, start, tap)

    def to(self, goal: Goal, depth: float = 0.0, at: tuple[float, float] = (0.5, 0.5)) -> Verdict:
        """Be at a goal, or so many metres in front of its panel; below zero: behind the front."""
        x, y, z = self.point(goal, at)
        if not isinstance(goal, tuple):
            scene = self.router.scene
            node = scene[goal] if isinstance(goal, str) else goal
            panel = scene._world_index.panel_of(node) if scene._world_index is not None else None
            if panel is not None:
                across, down, _ = panel.foot((x, y, z))
                x, y, z = add((x, y, z), times(panel.normal(across, down), depth))
        self.pause(self.pace)
        return self.feed(TipSample(self.time, (round(x, 6), round(y, 6), round(z, 6)), self.pointer))

    def poke(self, goal: Goal, at: tuple[float, float] = (0.5, 0.5)) -> Verdict:
        """Come near, go through the front, and come back; the verdict of the press."""
        self.to(goal, 0.03, at)
        verdict = self.to(goal, -0.01, at)
        self.to(goal, 0.03, at)
        return verdict

    def lost(self) -> Verdict:
        """The hand is not seen any more."""
        self.pause(self.pace)
        return self.feed(TipSample(self.time, None, self.pointer))
