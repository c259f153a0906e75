"""A scrollbar: shows where a scroll area is, and moves it (ARIA: scrollbar; law C8)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.context import feel_of
from glent.controls.control import Control
from glent.controls.rail import Rail
from glent.controls.scroll_area import page_of
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.controls.options import Orientation, Positive
    from glent.core.routing.event import DragStart, Event
    from glent.core.scene.node import Node

__all__ = ["Scrollbar"]


class Scrollbar(Control):
    """A thumb as long, beside its rail, as what shows of an area beside what it holds.

    Dragging the thumb scrolls; a press beside it goes on by a page, and again while it is held, until the thumb is
    there. It follows the area however that is scrolled, and what it holds. Keys are the area's own (``ScrollArea``).

    :param area: the node that scrolls.
    :param orientation: ``vertical`` or ``horizontal``.
    :param auto_hide: whether the bar is hidden while everything shows.
    :param min_thumb: the shortest the thumb may be, in pixels.
    :raises ControlError: the area does not scroll, or there is no such orientation.

    Its part is ``thumb``.
    """

    roles = ("scrollbar",)
    __slots__ = (
        "_area",
        "_auto_hide",
        "_axis",
        "_before",
        "_length",
        "_min_thumb",
        "_offset",
        "_rail",
        "_seen",
        "_thumb",
    )

    def __init__(
        self,
        node: Node,
        area: Node,
        orientation: Orientation = "vertical",
        auto_hide: bool = True,
        min_thumb: Positive = 24.0,
    ) -> None:
        super().__init__(node)
        if not area.scrolls:
            raise ControlError(f"{node.path}: {area.path} does not scroll, expected a node that does")
        self._rail = Rail(node, orientation, downwards=True)
        self._axis = 0 if self._rail.axis == "x" else 1
        self._area, self._auto_hide, self._min_thumb = area, auto_hide, min_thumb
        self._length = min_thumb
        self._offset = 0.0
        self._before: tuple[float, float] | None = None
        self._seen: object = None
        node.set_for_now(axis=self._rail.axis)
        self._thumb = self.part("thumb", solidity="hollow")
        self.on_settle(self._follow_area)
        self.hear("press", self._pressed)
        self.hear("repeat", self._paged)
        self.hear("drag_start", self._started)
        self.hear("drag", self._dragged)
        self.hear("drag_end", self._ended)
        self._follow_area()

    @property
    def fraction(self) -> float:
        """How far the area is scrolled, from 0 to 1."""
        maximum = self._area.scroll_range[self._axis]
        return min(1.0, max(0.0, self._area.scroll[self._axis] / maximum)) if maximum else 0.0

    @property
    def needed(self) -> bool:
        """Whether there is anything to scroll."""
        return self._area.scroll_range[self._axis] > 0.0

    def _follow_area(self) -> None:
        area, axis = self._area, self._axis
        if area.scene is None or self.node.scene is None:
            return
        maximum, shows = area.scroll_range[axis], area.size[axis]
        seen = (area.scroll[axis], maximum, shows, self._rail.length)
        if seen == self._seen:
            return
        self._seen = seen
        if self._auto_hide:
            self.node.set_for_now(visible=maximum > 0.0)
        length = self._rail.length
        self._length = min(
            length, max(self._min_thumb, length * shows / (shows + maximum) if shows + maximum else length)
        )
        self._rail.put(self._thumb, self.fraction, self._length)

    def _over_thumb(self, along: float) -> float:
        """How far before (below zero) or beyond the thumb a place on the rail is; 0 on it."""
        off = along - self._rail.middle(self.fraction, self._length)
        return 0.0 if abs(off) <= self._length / 2.0 else off

    def _scroll(self, by: float) -> None:
        across = (by, 0.0) if self._axis == 0 else (0.0, by)
        self._area.scroll_by(*across)
        self._follow_area()

    def _pressed(self, event: Event) -> None:
        along = self._rail.along(event)
        self._offset = along - self._rail.middle(self.fraction, self._length)
        self._page(along)

    def _paged(self, event: Event) -> None:
        self._page(self._rail.along(event))

    def _page(self, along: float) -> None:
        off = self._over_thumb(along)
        if off:
            page = page_of(self._area, self._axis, feel_of(self._area, "scroll_line"))
            self._scroll(page if off > 0.0 else -page)

    def _started(self, event: DragStart) -> None:
        self._follow_area()
        if abs(self._offset) > self._length / 2.0:
            event.refuse()
            return
        self._before = self._area.scroll

    def _dragged(self, event: Event) -> None:
        fraction = self._rail.fraction(self._rail.along(event) - self._offset, self._length)
        self._scroll(fraction * self._area.scroll_range[self._axis] - self._area.scroll[self._axis])

    def _ended(self, event: Event) -> None:
        before, self._before = self._before, None
        if event.data["outcome"] != "done" and before is not None:
            self._scroll(before[self._axis] - self._area.scroll[self._axis])

    def state_of(self, node: Node, part: str) -> str:
        return self.node.look if node is self._thumb else node.look
