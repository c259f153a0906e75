"""Pinch and turn: two fingers that change their distance, their angle, or their place (law G6)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from glent.core.routing.gestures.recogniser import Contests, Recogniser

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
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
    kinds = frozenset({"touch"})

    def __init__(self, node: Node, gestures: Contests) -> None:
        super().__init__(node, gestures)
        self._start = (1.0, 0.0)
        self._span = 1.0
        self._angle = 0.0
        self._turn = 0.0
        self._scale = 1.0
        self._centre = (0.0, 0.0)
        self._begun = False

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
        self._begun = True
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
        centre, before = self._middle(), self._centre
        self._centre = centre
        logical = self.node.scene.scale if self.node.scene is not None else 1.0
        dx, dy = contact.into(self.node, ((centre[0] - before[0]) / logical, (centre[1] - before[1]) / logical))
        data = {"scale_by": scale / before_scale, "turn_by": round(turn - before_turn, 6), "dx": dx, "dy": dy}
        self.send("pinch", contact, pos=centre, phase=phase, scale=scale, turn=turn, **data)

    def released(self, contact: Contact) -> None:
        contact.say(f"scaled by {self._scale:.3g}, turned by {self._turn:.3g}°")
        self.send_last("pinch", contact, pos=self._centre, **self._end())

    def lost(self, contact: Contact, why: str) -> None:
        if self._begun:
            self.send_last("pinch", contact, pos=self._centre, **self._end())

    def removed(self, contact: Contact) -> None:
        if self._begun:
            self.owe("pinch", contact, pos=self._centre, **self._end())

    def _end(self) -> dict[str, Any]:
        none = {"scale_by": 1.0, "turn_by": 0.0, "dx": 0.0, "dy": 0.0}
        return {"phase": "end", "scale": self._scale, "turn": self._turn, **none}
