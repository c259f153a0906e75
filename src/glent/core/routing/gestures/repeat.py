"""Repeat while held, speeding up (law G1)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.gestures.recogniser import Recogniser

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Repeat"]


class Repeat(Recogniser):
    """A press that rests on its node counts on: after ``Feel.repeat_delay``, then ever faster.

    The first repeat decides the contest, so a short press is still a click, and a long one is none. Off the node it
    pauses; back on it, it goes on.
    """

    name = "repeat"
    keeps_look = True
    waits = False

    def __init__(self, node: Node, gestures: Gestures) -> None:
        super().__init__(node, gestures)
        self._timer: Timer | None = None
        self._gap = self.feel.repeat_gap
        self._count = 0

    def pressed(self, contact: Contact) -> None:
        self._timer = self.after(self.feel.repeat_delay, lambda due: self._due(contact))

    def moved(self, contact: Contact) -> None:
        """It pauses where the pointer is off its node, and gives up nothing."""

    def _due(self, contact: Contact) -> None:
        if contact not in self.contacts:
            return
        over = contact.is_over(self.node)
        if over and not self.won and not self.claim():
            return
        self._timer = self.after(self._gap, lambda due: self._due(contact))
        if over:
            self._gap = max(self.feel.repeat_least, self._gap * self.feel.repeat_speedup)
            self._count += 1
            self.send("repeat", contact, number=self._count)

    def lost(self, contact: Contact, why: str) -> None:
        self._stop()

    def released(self, contact: Contact) -> None:
        self._stop()
        contact.ending = f"it was told {self._count} times"

    def removed(self, contact: Contact) -> None:
        self._stop()

    def _stop(self) -> None:
        if self._timer is not None:
            self._timer.stop()
