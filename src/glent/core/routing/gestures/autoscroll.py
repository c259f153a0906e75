"""Autoscroll: near the edge of a scroll area a drag scrolls it as time passes (law G3)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.aim import local_of
from glent.core.scene.space import into

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.drag import Drag
    from glent.core.scene.node import Node

__all__ = ["Autoscroll"]


class Autoscroll:
    """The scroll area that one drag and drop is near the edge of, and how fast it scrolls.

    :ivar node: the area that scrolls now, or None.
    """

    __slots__ = ("_contact", "_drag", "_speed", "_time", "node")

    def __init__(self, drag: Drag, contact: Contact) -> None:
        self._drag = drag
        self._contact = contact
        self.node: Node | None = None
        self._speed = (0.0, 0.0)
        self._time = 0.0

    def consider(self, areas: list[Node]) -> None:
        """Scroll one of these areas, which lie under the pointer, from now on, if the pointer is near its edge."""
        for node in areas:
            speed = self._speed_in(node)
            if speed != (0.0, 0.0):
                if self.node is None:
                    self._time = self._drag._gestures.now
                    self._drag._gestures.running[self] = None
                self.node, self._speed = node, speed
                return
        self.stop()

    def _speed_in(self, node: Node) -> tuple[float, float]:
        """The speed in logical pixels a second, by how deep the pointer is in the strip along an edge that has more
        behind it."""
        scene = node._scene
        if scene is None:
            return 0.0, 0.0
        feel = self._drag._gestures.feel_of(node)
        at = local_of(node, self._contact.pos, self._contact._pointer.aim)
        # A strip of so many screen pixels, as long as that is in the node's space.
        strip = sum(abs(part) for part in into(node, feel.autoscroll_edge, 0.0))
        fast = feel.autoscroll_speed * (strip / feel.autoscroll_edge if feel.autoscroll_edge > 0.0 else 0.0)
        if strip <= 0.0:
            return 0.0, 0.0
        speed = []
        for axis, (where, length, offset, maximum) in enumerate(
            zip(at, node.size, node._scroll, node.scroll_range, strict=True)
        ):
            strip_here = min(strip, length / 2.0)
            allowed = strip_here > 0.0 and node.axis in (None, "xy"[axis])
            if allowed and where < strip_here and offset > 0.0:
                speed.append(-fast * min(1.0, (strip_here - where) / strip_here))
            elif allowed and where > length - strip_here and offset < maximum:
                speed.append(fast * min(1.0, (where - length + strip_here) / strip_here))
            else:
                speed.append(0.0)
        return speed[0], speed[1]

    def passed(self, time: float) -> None:
        """Scroll by what the time since the last call is worth."""
        node, seconds = self.node, time - self._time
        self._time = time
        if node is None or node._scene is None or not self._contact.open:
            self.stop()
            return
        if seconds <= 0.0:
            return
        area = self._drag._gestures.areas.of(node)
        used = area.by(self._speed[0] * seconds, self._speed[1] * seconds, "autoscroll", self._contact._pointer)
        self._drag.scrolled_under(self._contact)
        if used == (0.0, 0.0):
            self.stop()

    def stop(self) -> None:
        """Stop scrolling."""
        self.node = None
        self._drag._gestures.running.pop(self, None)
