"""What a frame of code is told of windows and regions."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.core.geometry.affine import Box
    from glent.immediate.item import Item

__all__ = ["Region", "Window"]


class Window:
    """A window as it is now.

    :ivar closed: whether it has been closed since the last frame. What is declared again shows again.
    """

    __slots__ = ("_item", "closed")

    def __init__(self, item: Item | None) -> None:
        self._item = item
        self.closed = item is not None and item.take_clicks() > 0

    @property
    def box(self) -> Box | None:
        """Left, top, right and bottom in the layer, once it has been laid."""
        return self._item.node.edges if self._item is not None else None


class Region:
    """What happened at a region of one's own since the last frame.

    :ivar clicks: how often it was clicked. :ivar drag: how far it was dragged, right and down, in its own pixels.
    :ivar dropped: what was dropped on it, in order.
    """

    __slots__ = ("_item", "clicks", "drag", "dropped")

    def __init__(self, item: Item | None) -> None:
        self._item = item
        self.clicks = 0
        self.drag = (0.0, 0.0)
        self.dropped: list[Any] = []
        if item is not None:
            self.clicks, item.clicks = item.clicks, 0
            touched = item.data
            if touched.drag != (0.0, 0.0):
                self.drag, touched.drag = touched.drag, (0.0, 0.0)
            if touched.dropped:
                self.dropped, touched.dropped = touched.dropped, []

    @property
    def look(self) -> str:
        """How to draw it: ``idle``, ``hover``, ``pressed`` or ``disabled``."""
        return self._item.node.look if self._item is not None else "idle"

    @property
    def hovered(self) -> bool:
        """Whether a pointer is over it."""
        return self._item is not None and self._item.node.hovered

    @property
    def pressed(self) -> bool:
        """Whether it looks pressed."""
        return self.look == "pressed"

    @property
    def box(self) -> Box | None:
        """Left, top, right and bottom in what holds it, once it has been laid."""
        return self._item.node.edges if self._item is not None else None
