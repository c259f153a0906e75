"""Swipe: a quick stroke, with its direction and speed (law G6)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.routing.gestures.recogniser import Recogniser

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact

__all__ = ["Swipe"]


class Swipe(Recogniser):
    """The recogniser of a stroke along the node's axis, told at its release if it was long and fast enough.

    It wins the contest where a drag would, so on one node a drag comes before it, and a scroll area around it does not
    scroll along the same axis.
    """

    name = "swipe"

    def wants(self, contact: Contact) -> bool:
        return self.along_axis(contact.travel)

    def released(self, contact: Contact) -> None:
        feel = self.feel
        speed = contact.speed(feel.velocity_window)
        fast = math.sqrt(speed[0] * speed[0] + speed[1] * speed[1])
        far = math.hypot(*contact.travel)
        if far < feel.swipe_distance or fast < feel.swipe_speed:
            contact.say(f"too short or too slow ({far:.0f} px at {fast:.0f} px/s) to be one")
            return
        x, y = contact.into(self.node, contact.travel)
        if self.node.axis == "x" or (self.node.axis is None and abs(x) >= abs(y)):
            direction = "right" if x > 0 else "left"
        else:
            direction = "down" if y > 0 else "up"
        contact.say(f"{direction}, at {fast:.0f} px/s")
        self.send("swipe", contact, direction=direction, speed=round(fast, 3), dx=x, dy=y)
