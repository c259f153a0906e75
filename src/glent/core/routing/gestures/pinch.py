"""Pinch and turn: two fingers that change their distance, their angle, or their place (law G6)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.routing.event import Event
from glent.core.routing.gestures.recogniser import Recogniser

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.scene.node import Node

__all__ = ["Pinch"]

MINIMUM = 1.0
"""Fingers nearer than this, in logical pixels, have no angle worth the name."""


class Pinch(Recogniser):
    """The recogniser of two fingers on one node.

    It wins when their distance, or the arc they turn by, has changed by ``Feel.pinch_threshold``, or when one of them
    has gone as far as a drag would need: a drag or scroll of the same node gives way to it, one on a node within does
    not. When one finger is lifted it ends, and what the other could begin on this node competes anew.
    """

    name = "pinch"
    pointers = 2

    def __init__(self, node: Node, gestures: Gestures) -> None:
        super().__init__(node, gestures)
        self._start = (1.0, 0.0)
        self._span = 1.0
        self._angle = 0.0
        self._turn = 0.0
        self._scale = 1.0
        self._centre = (0.0, 0.0)

    def pressed(self, contact: Contact) -> None:
        if len(self.contacts) == 2:
            self._measure_from_here()

    def _vector(self) -> tuple[float, float]:
        (x0, y0), (x1, y1) = self.contacts[0].pos, self.contacts[1].pos
        scale = self.node.scene.scale if self.node.scene is not None else 1.0
        return (x1 - x0) / scale, (y1 - y0) / scale

    def _middle(self) -> tuple[float, float]:
        (x0, y0), (x1, y1) = self.contacts[0].pos, self.contacts[1].pos
        return (x0 + x1) / 2.0, (y0 + y1) / 2.0

    def _measure_from_here(self) -> None:
        self._start = x, y = self._vector()
        self._span = max(MINIMUM, math.sqrt(x * x + y * y))
        self._angle = math.atan2(y, x)
        self._centre = self._middle()

    def moved(self, contact: Contact) -> None:
        if len(self.contacts) < 2:
            return
        if self.won:
            self._tell(contact, "move")
            return
        x, y = self._vector()
        x0, y0 = self._start
        # How far one finger has gone as the other sees it: along the line between them, or around.
        strayed = math.sqrt((x - x0) * (x - x0) + (y - y0) * (y - y0))
        if strayed > self.feel.pinch_threshold or contact.distance > self.threshold(contact):
            self.claim()

    def claimed(self) -> None:
        contact = self.contacts[-1]
        self._tell(contact, "start", 1.0, 0.0)
        if len(self.contacts) == 2:
            self._tell(contact, "move")

    def _tell(self, contact: Contact, phase: str, scale: float | None = None, turn: float | None = None) -> None:
        if scale is None or turn is None:
            x, y = self._vector()
            span = math.sqrt(x * x + y * y)
            scale, turn = self._scale, self._turn
            if span >= MINIMUM:
                angle = math.atan2(y, x)
                by = math.degrees(angle - self._angle)
                # The short way round, and no finer than what every platform's arithmetic agrees on.
                turn = round(self._turn + by - 360.0 * round(by / 360.0), 6)
                self._angle = angle
                scale = span / self._span
        before_scale, before_turn = self._scale, self._turn
        self._scale, self._turn = scale, turn
        centre, before = self._middle() if phase != "end" else self._centre, self._centre
        self._centre = centre
        logical = self.node.scene.scale if self.node.scene is not None else 1.0
        dx, dy = self._gestures.into(self.node, ((centre[0] - before[0]) / logical, (centre[1] - before[1]) / logical))
        self._gestures.send(
            self._pinch(contact, phase, scale, turn, scale / before_scale, round(turn - before_turn, 6), dx, dy)
        )

    def _pinch(
        self,
        contact: Contact,
        phase: str,
        scale: float,
        turn: float,
        scale_by: float = 1.0,
        turn_by: float = 0.0,
        dx: float = 0.0,
        dy: float = 0.0,
    ) -> Event:
        data = {"phase": phase, "scale": scale, "turn": turn, "scale_by": scale_by, "turn_by": turn_by}
        event = self.event("pinch", contact, {**data, "dx": dx, "dy": dy})
        event.pos = self._centre
        return event

    def released(self, contact: Contact) -> None:
        contact.say(f"scaled by {self._scale:.3g}, turned by {self._turn:.3g}°")
        self._end(contact)

    def lost(self, contact: Contact, why: str) -> None:
        if self.won:
            self._end(contact)

    def removed(self, contact: Contact) -> None:
        if self.won:
            self.won = False
            self._gestures.dispatcher.owed.append(self._pinch(contact, "end", self._scale, self._turn))

    def _end(self, contact: Contact) -> None:
        """End it because one of the two fingers is gone; the other may begin something else."""
        if not self.won:
            return
        self.won = False
        others = [one for one in self.contacts if one is not contact]
        self.contacts.clear()
        self._gestures.unshare(self)
        self._gestures.send_last(self._pinch(contact, "end", self._scale, self._turn))
        for other in others:
            if other.open and other.winner is self:
                self._gestures.begin_again(other, self.node)
