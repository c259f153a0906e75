"""Hold, hold-to-confirm with its progress, and repeat while held (law G1)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.gestures.recogniser import Contests, Recogniser

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Hold", "Repeat"]


class Hold(Recogniser):
    """The recogniser of a press that rests on its node long enough.

    ``hold`` is sent after ``Feel.hold_delay``. If the node listens for ``hold_progress``, it runs from 0 to 1 over
    ``Feel.confirm_time`` instead, sent for each sample and tick, and ``hold`` is sent when it is full: once, and again
    only for a fresh press. One that is broken off goes back to 0.
    """

    name = "hold"
    keeps_look = True
    waits = False

    def __init__(self, node: Node, gestures: Contests) -> None:
        super().__init__(node, gestures)
        self._timer: Timer | None = None
        self._shown = 0.0
        self._confirms = node.listens("hold_progress")

    @property
    def _time(self) -> float:
        return self.feel.confirm_time if self._confirms else self.feel.hold_delay

    def pressed(self, contact: Contact) -> None:
        self._timer = self.after(self._time, lambda due: self._due(contact))
        if self._confirms:
            self.start_ticking()

    def _slack(self, contact: Contact) -> float:
        """How far a pointer may stray, in logical pixels, or for rays degrees."""
        return self.feel.ray_hold_slack if contact.kind == "ray" else self.feel.hold_slack

    def moved(self, contact: Contact) -> None:
        if not self.won and (contact.distance > self._slack(contact) or not contact.is_over(self.node)):
            self.give_up(contact)

    def _due(self, contact: Contact) -> None:
        if contact in self.contacts and contact.is_over(self.node) and self.claim():
            self._stop()
            if self._confirms:
                self._shown = 1.0
                self.send("hold_progress", contact, progress=1.0)
            self.send("hold", contact, seconds=self._time)
        elif contact in self.contacts and not self.won:
            self.give_up(contact)

    def passed(self, time: float) -> None:
        for contact in self.contacts:
            progress = min(1.0, (time - contact.began) / self._time)
            if self._shown < progress < 1.0:  # the last of it comes from the timer, with the hold
                self._shown = progress
                self.send("hold_progress", contact, progress=progress)
            break

    def lost(self, contact: Contact, why: str) -> None:
        self._stop()
        if 0.0 < self._shown < 1.0:
            self._shown = 0.0
            self.send("hold_progress", contact, progress=0.0)

    def released(self, contact: Contact) -> None:
        contact.say("it was held long enough, and has been told")

    def removed(self, contact: Contact) -> None:
        self._stop()
        if 0.0 < self._shown < 1.0:
            self._shown = 0.0
            self.owe("hold_progress", contact, progress=0.0)

    def _stop(self) -> None:
        self.stop_ticking()
        if self._timer is not None:
            self._timer.stop()


class Repeat(Recogniser):
    """The recogniser of a press that counts again and again: after ``Feel.repeat_delay``, then ever faster.

    The first repeat decides the contest, so a short press is still a click, and a long one is none. Off the node it
    pauses; back on it, it goes on.
    """

    name = "repeat"
    keeps_look = True
    waits = False

    def __init__(self, node: Node, gestures: Contests) -> None:
        super().__init__(node, gestures)
        self._timer: Timer | None = None
        self._gap = self.feel.repeat_gap
        self._count = 0

    def pressed(self, contact: Contact) -> None:
        self._timer = self.after(self.feel.repeat_delay, lambda due: self._due(contact))

    def moved(self, contact: Contact) -> None:
        """Go on: it pauses where the pointer is off its node, and gives up nothing."""

    def _due(self, contact: Contact) -> None:
        if contact not in self.contacts:
            return
        over = contact.is_over(self.node)
        if over and not self.won and not self.claim():
            return
        self._timer = self.after(self._gap, lambda due: self._due(contact))
        if over:
            self._gap = max(self.feel.min_repeat_gap, self._gap * self.feel.repeat_speedup)
            self._count += 1
            self.send("repeat", contact, number=self._count)

    def lost(self, contact: Contact, why: str) -> None:
        self._stop()

    def released(self, contact: Contact) -> None:
        self._stop()
        contact.say(f"it was told {self._count} times")

    def removed(self, contact: Contact) -> None:
        self._stop()

    def _stop(self) -> None:
        if self._timer is not None:
            self._timer.stop()
