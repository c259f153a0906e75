"""What scrolls, by keys as well as by wheel and finger; and a scrollbar for it (ARIA: scrollbar)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from glent.controls.context import feel_of, seat_of
from glent.controls.control import Control
from glent.controls.keys import key_of

if TYPE_CHECKING:
    from glent.controls.options import Positive
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["ScrollArea", "page_of"]

ARROWS = {"ArrowLeft": (-1, 0), "ArrowRight": (1, 0), "ArrowUp": (0, -1), "ArrowDown": (0, 1)}


class ScrollArea(Control):
    """A node that scrolls (law G4), with the keys that people expect of one.

    Page Up and Page Down, Home and End work wherever the focus is in it and nobody there takes them; arrows and Space
    only while it is on the node itself. At its end a key is left to what is around it.

    :param line: how far an arrow goes, and how much of a page stays in view, in node-local pixels; None:
        ``Feel.scroll_line``.
    :param axis: ``x`` or ``y``: the one axis it scrolls along; None: both.
    """

    __slots__ = ("_line",)

    def __init__(self, node: Node, line: Positive | None = None, axis: Literal["x", "y"] | None = "y") -> None:
        super().__init__(node)
        self._line = line
        node.set_for_now(scrolls=True)
        node.set_for_now(clips=True)
        if axis is not None:
            node.set_for_now(axis=axis)
        if node.focusable is None:
            node.set_for_now(focusable=True)
        self.hear("key_down", self._key_down)

    def _key_down(self, event: Event) -> None:
        way = self._way(event)
        if way is None:
            return
        before = self.node.scroll
        self.node.scroll_by(*way)
        if self.node.scroll != before:
            event.take()

    def _way(self, event: Event) -> tuple[float, float] | None:
        """How far a key scrolls, right and down."""
        key, node = key_of(event), self.node
        line = self._line if self._line is not None else feel_of(node, "scroll_line")
        page = page_of(node, 1, line)
        if key == "Space" and event.node is node:
            key = "PageUp" if "Shift" in seat_of(event).modifiers else "PageDown"
        if key in ARROWS and event.node is node:
            across, down = ARROWS[key]
            return across * line, down * line
        maximum = node.scroll_range[1]
        downs = {"PageDown": page, "PageUp": -page, "Home": -node.scroll[1], "End": maximum - node.scroll[1]}
        return (0.0, downs[key]) if key in downs else None


def page_of(area: Node, axis: int, line: float) -> float:
    """How far a page scrolls along an axis (0: x), in the area's pixels: what it shows, less one line."""
    return max(area.size[axis] - line, line)
