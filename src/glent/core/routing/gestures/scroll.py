"""Scroll by dragging: nested areas, each along its axes, with a glide at the end (laws G4, G5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.gestures.recogniser import Contests, Recogniser
from glent.core.scene.space import into, out_of

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.scroll_area import ScrollArea
    from glent.core.scene.node import Node

__all__ = ["Scroll"]


class Scroll(Recogniser):
    """The recogniser of a finger that drags a scroll area.

    The innermost area that can still go where the finger pulls wins, or else the innermost that goes along that axis
    at all, and gives a little. While the finger moves, what an area cannot use goes on to the areas around it.
    """

    name = "scroll"

    def __init__(self, node: Node, gestures: Contests) -> None:
        super().__init__(node, gestures)
        self._chain: list[ScrollArea] = [gestures.areas.of(node)]
        self._axes = (True, True)

    def pressed(self, contact: Contact) -> None:
        if self._gestures.areas.is_running(self.node):
            # A touch on a list that still runs stops it and is no tap.
            self._chain[0].stop()
            self._chain += self._areas_around(contact)
            self.claim()

    def _areas_around(self, contact: Contact) -> list[ScrollArea]:
        """The areas around this one that compete for the same press, inner to outer."""
        others = [one for one in contact._candidates if one is not self and isinstance(one, Scroll)]
        return [one._chain[0] for one in others if self.node.is_within(one.node)]

    def wants(self, contact: Contact) -> bool:
        x, y = into(self.node, *contact.travel)
        around = self._areas_around(contact)
        axes = (0,) if abs(x) > abs(y) else (1,) if abs(y) > abs(x) else (0, 1)
        first = self._chain[0]
        for axis in axes:
            by = -(x, y)[axis]
            if not first.goes(axis):
                continue
            if not first.can_go(axis, by) and any(_can_follow(area, contact) for area in around):
                continue  # it is at its end, and one around it is not: that one takes it from the start
            both = first.goes(0) and first.goes(1) and self.node.axis is None
            self._axes = (True, True) if both else (axis == 0, axis == 1)
            self._chain = [first, *around]
            return True
        return False

    def claimed(self) -> None:
        for contact in list(self.contacts):
            if contact.travel != (0.0, 0.0):
                self._pull(contact, contact.travel)

    def moved(self, contact: Contact) -> None:
        if self.won:
            self._pull(contact, contact.step)
        else:
            super().moved(contact)

    def _pull(self, contact: Contact, step: tuple[float, float]) -> None:
        """Let content follow the finger: each area takes what it can, and at the very end the first one gives."""
        pullers = self._chain[0].pullers
        pullers[contact] = None
        if next(iter(pullers)) is not contact:
            return  # it follows the first finger, and another one once that is up
        first, *around = self._chain
        how, pointer = contact.kind, contact._pointer
        if first.node._scene is None:
            return
        x, y = self._along(into(first.node, *step))
        used = first.by(-x, -y, how, pointer)
        rest = x + used[0], y + used[1]
        if around and _is_much(rest):
            left = out_of(first.node, *rest)
            for area in around:
                x, y = into(area.node, *left)
                used = area.by(-x, -y, how, pointer)
                left = out_of(area.node, x + used[0], y + used[1])
            rest = into(first.node, *left)
        if _is_much(rest):
            first.by(-rest[0], -rest[1], how, pointer, give=True)

    def _along(self, vector: tuple[float, float]) -> tuple[float, float]:
        """The part of a distance that runs along the axes it has won."""
        return (vector[0] if self._axes[0] else 0.0), (vector[1] if self._axes[1] else 0.0)

    def released(self, contact: Contact) -> None:
        self._let_go(contact, contact.speed(self.feel.velocity_window))
        contact.say("it runs on" if any(area.glides for area in self._chain) else "it stays where it is")

    def lost(self, contact: Contact, why: str) -> None:
        if self.won:
            self.won = False
            self._let_go(contact, (0.0, 0.0))

    def removed(self, contact: Contact) -> None:
        self._chain[0].pullers.pop(contact, None)

    def _let_go(self, contact: Contact, speed: tuple[float, float]) -> None:
        """Let the first area that can go in that direction run on, or else the first."""
        first = self._chain[0]
        first.pullers.pop(contact, None)
        if first.pullers:
            return  # another finger holds it still
        x, y = self._along(into(first.node, *speed))
        speeds = [(-x, -y), *((-x, -y) for x, y in (into(area.node, *speed) for area in self._chain[1:]))]
        runs = next((area for area, by in zip(self._chain, speeds, strict=True) if _can_run(area, by)), first)
        for area, by in zip(self._chain, speeds, strict=True):
            area.let_go(by if area is runs else (0.0, 0.0), contact._pointer)


def _is_much(vector: tuple[float, float]) -> bool:
    """Whether a distance is more than what rounding leaves."""
    return abs(vector[0]) > 1e-9 or abs(vector[1]) > 1e-9


def _can_run(area: ScrollArea, speed: tuple[float, float]) -> bool:
    """Whether an area can go along the larger axis of a speed in its own space."""
    axis = 0 if abs(speed[0]) > abs(speed[1]) else 1
    return area.can_go(axis, speed[axis])


def _can_follow(area: ScrollArea, contact: Contact) -> bool:
    """Whether an area can go where the finger mainly pulls, as it lies in the area's own space."""
    x, y = into(area.node, *contact.travel)
    return _can_run(area, (-x, -y))
