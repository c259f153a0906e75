"""The rail of a slider or scrollbar: where a thumb lies for a fraction, and which fraction a point is."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glent.core.arguments import is_choice
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["ORIENTATIONS", "Rail"]

ORIENTATIONS = ("horizontal", "vertical")


class Rail:
    """A node along which thumbs run from 0 to 1: left to right, or bottom to top.

    :param node: the rail. :param orientation: ``horizontal`` or ``vertical``.
    :param downwards: whether a vertical one runs from top to bottom, as a scrollbar does.

    :ivar axis: ``x`` or ``y``.
    """

    __slots__ = ("_flipped", "_node", "axis")

    def __init__(self, node: Node, orientation: str, downwards: bool = False) -> None:
        if not is_choice(orientation, ORIENTATIONS):
            raise ControlError(f"{node.path}: orientation is {orientation!r}, expected horizontal or vertical")
        self._node = node
        self.axis: Literal["x", "y"] = "x" if orientation == "horizontal" else "y"
        self._flipped = self.axis == "y" and not downwards

    @property
    def length(self) -> float:
        """Its length in its own pixels."""
        left, top, right, bottom = self._node.edges
        return right - left if self.axis == "x" else bottom - top

    def along(self, event: Event) -> float:
        """Where a pointer is along it, in its own pixels from where 0 is; the handler may be on it or on a thumb."""
        axis = 0 if self.axis == "x" else 1
        at = event.local[axis]
        if event.here is not self._node:
            at += event.here.edges[axis]
        return self.length - at if self._flipped else at

    def gone(self, event: Event) -> float:
        """How far along it a drag has gone in all, in its own pixels."""
        return -event.data["y"] if self._flipped else float(event.data[self.axis])

    def fraction(self, along: float, thumb: float) -> float:
        """The fraction at which the middle of a thumb, so many pixels long, is there; from 0 to 1."""
        room = self.length - thumb
        return min(1.0, max(0.0, (along - thumb / 2.0) / room)) if room > 0.0 else 0.0

    def middle(self, fraction: float, thumb: float) -> float:
        """Where the middle of a thumb is for a fraction, in pixels from where 0 is."""
        return thumb / 2.0 + fraction * (self.length - thumb)

    def length_of(self, thumb: Node, default: float = 16.0) -> float:
        """How long a thumb is: as its place says in pixels, or the default."""
        given = thumb.place.width if self.axis == "x" else thumb.place.height
        return float(given) if isinstance(given, int | float) else default

    def put(self, thumb: Node, fraction: float, length: float) -> None:
        """Put a thumb where a fraction is; it stays right at any length of the rail."""
        part = 1.0 - fraction if self._flipped else fraction
        start = (part, -part * length)
        place = thumb.place
        if self.axis == "x":
            if place.width == length and place.right is None:
                thumb.set_for_now(place=place.replace(left=start))
            else:
                thumb.set_for_now(place=place.replace(left=start, right=None, width=length))
        elif place.height == length and place.bottom is None:
            thumb.set_for_now(place=place.replace(top=start))
        else:
            thumb.set_for_now(place=place.replace(top=start, bottom=None, height=length))

    def fill(self, part: Node, low: float, high: float) -> None:
        """Have a part reach from one fraction to another."""
        if self._flipped:
            low, high = 1.0 - high, 1.0 - low
        start, extent = (low, 0.0), (high - low, 0.0)
        if self.axis == "x":
            part.set_for_now(place=part.place.replace(left=start, right=None, width=extent))
        else:
            part.set_for_now(place=part.place.replace(top=start, bottom=None, height=extent))
