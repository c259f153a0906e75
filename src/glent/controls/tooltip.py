"""A word about what one points at, or has the focus on (ARIA: tooltip; WCAG 1.4.13)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.beside import checked_side, put_beside
from glent.controls.context import router_of, seat_of
from glent.controls.control import Control

if TYPE_CHECKING:
    from glent.controls.options import Distance, Side
    from glent.core.routing.event import Event
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Tooltip"]


class Tooltip(Control):
    """Shows beside its target after a pointer has rested there for a while, or at once when focus comes by key.

    It stays as long as the pointer is on the target or on itself; a press on the target, back, or focus that goes hides
    it until the pointer comes anew. Fingers do not hover and see none.

    :param target: the node it is about.
    :param open_delay: how long a pointer has to be there before it shows, seconds.
    :param close_delay: how long the pointer may be away before it hides, seconds.
    :param side: where it shows: ``below``, ``above``, ``right``, ``left``. :param gap: how far from the target, pixels.
    """

    roles = ("tooltip",)
    __slots__ = ("_close_delay", "_gap", "_open_delay", "_side", "_target", "_timer")

    def __init__(
        self,
        node: Node,
        target: Node,
        open_delay: Distance = 0.5,
        close_delay: Distance = 0.15,
        side: Side = "below",
        gap: Distance = 4.0,
    ) -> None:
        super().__init__(node)
        self._target, self._open_delay, self._close_delay = target, open_delay, close_delay
        self._side, self._gap = checked_side(side, node.path), gap
        self._timer: Timer | None = None
        node.set_for_now(visible=False)
        node.set_for_now(closed_by="back")
        if node.solidity is None:
            node.set_for_now(solidity="glass")
        for one in (node, target):
            self.hear("enter", self._entered, one)
            self.hear("leave", self._left, one)
        self.hear("press", self._pressed, target, phase="capture")
        self.hear("focus", self._focused, target)
        self.hear("blur", lambda event: self._hide(), target)
        self.on_settle(self._stay)

    def _entered(self, event: Event) -> None:
        self._forget()
        if event.here is self._target and not self.node.visible and seat_of(event).last_kind != "touch":
            self._timer = router_of(self.node).at(event.time + self._open_delay, lambda due: self._show())

    def _left(self, event: Event) -> None:
        self._forget()
        if self.node.visible and self.node.scene is not None:
            self._timer = router_of(self.node).at(event.time + self._close_delay, lambda due: self._hide())

    def _pressed(self, event: Event) -> None:
        self._hide()

    def _focused(self, event: Event) -> None:
        if seat_of(event).focus_ring:
            self._forget()
            self._show()

    def _show(self) -> None:
        if self._target.is_visible and self.node.scene is not None:
            self.node.set_for_now(visible=True)
            self._stay()
            self.tell_change(open=True)

    def _hide(self) -> None:
        self._forget()
        if self.node.visible:
            self.node.set_for_now(visible=False)
            self.tell_change(open=False)

    def _forget(self) -> None:
        if self._timer is not None:
            self._timer.stop()
            self._timer = None

    def _stay(self) -> None:
        if self.node.visible:
            if self._target.is_visible:
                put_beside(self.node, self._target, self._side, self._gap)
            else:
                self._hide()
