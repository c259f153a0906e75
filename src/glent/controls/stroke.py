"""A press, a tap or a drag that sets something, and sets it back if it is broken off (laws G5, C2)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.controls.context import seat_of

if TYPE_CHECKING:
    from glent.controls.control import Control
    from glent.core.routing.event import DragStart, Event
    from glent.core.scene.node import Node

__all__ = ["Stroke"]


class Stroke:
    """What pointers do to sliders of all sorts.

    A mouse, a pen or a ray begins with the press. A finger begins once the contest with what scrolls is decided: with
    a tap, or with a drag.

    :param begin: called with the event it begins with, to keep what there is and set what is there.
    :param go_on: called with each ``drag``.
    :param undo: called if a drag ends otherwise than by a release.

    One pointer has it at a time: what a second one does on the same control is refused until the first lets go (P1).
    """

    __slots__ = ("_begin", "_dragging", "_pointer", "_under_way", "_undo")

    def __init__(
        self,
        control: Control,
        nodes: tuple[Node, ...],
        begin: Callable[[Event], object],
        go_on: Callable[[Event], object],
        undo: Callable[[], object],
    ) -> None:
        self._begin, self._undo = begin, undo
        self._under_way = False
        self._dragging = False
        self._pointer: str | None = None
        """Who has it."""
        for node in nodes:
            control.hear("press", self._pressed, node)
            control.hear("release", self._let_go, node)
            control.hear("cancel", self._let_go, node)
            control.hear("click", self._clicked, node)
            control.hear("drag_start", self._started, node)
            control.hear("drag", go_on, node)
            control.hear("drag_end", self._ended, node)

    def _is_another(self, event: Event) -> bool:
        return self._pointer not in (None, event.pointer)

    def _pressed(self, event: Event) -> None:
        if self._is_another(event):
            return
        self._pointer = event.pointer
        self._under_way = False
        if seat_of(event).last_kind != "touch":
            self._under_way = True
            self._begin(event)

    def _let_go(self, event: Event) -> None:
        if event.pointer == self._pointer and not self._dragging:
            self._pointer = None

    def _clicked(self, event: Event) -> None:
        if self._is_another(event):
            return
        if "device" not in event.data and not self._under_way:  # a tap
            self._begin(event)
        self._under_way = False

    def _started(self, event: DragStart) -> None:
        if self._is_another(event):
            event.refuse()
            return
        self._pointer, self._dragging = event.pointer, True
        if not self._under_way:
            self._under_way = True
            self._begin(event)

    def _ended(self, event: Event) -> None:
        if event.pointer != self._pointer:
            return
        if event.data["outcome"] != "done" and self._under_way:
            self._undo()
        self._under_way = self._dragging = False
        self._pointer = None
