"""What opens beside something and closes again: by back, by a press outside, by code."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from typing import TYPE_CHECKING, Any, ClassVar

from glent.controls.beside import checked_side, put_at, put_beside
from glent.controls.context import router_of, seats_within
from glent.controls.control import Control
from glent.core.errors import ControlError, SceneError
from glent.core.scene.node import Node

if TYPE_CHECKING:
    from glent.controls.options import Distance, Side
    from glent.core.routing.event import ActEvent, Event

__all__ = ["Popup"]


class Popup(Control):
    """A node that shows while it is open. It is hidden when it is made.

    It is put beside its opener, on the side where it fits, and stays there if that moves. Opened by key, it gets the
    focus; as it closes, focus that is in it goes back to where it was.

    It acts: ``open``; and ``close``, with the cause: ``back``, ``outside``, ``opener``, ``left``, ``code``.

    :param opener: the node it belongs to and is put beside; None: it opens where told.
    :param side: ``below``, ``above``, ``right`` or ``left`` of the opener, if there is room; else opposite.
    :param gap: how far from it, in pixels of its parent.
    :param opens_on_click: whether a click on the opener opens it.

    :ivar is_open: whether it is open.
    """

    own_acts: ClassVar[Mapping[str, str]] = {"open": "nothing", "close": "text"}
    __slots__ = ("_before", "_gap", "_opener", "_ring", "_side", "is_open")

    def __init__(
        self,
        node: Node,
        opener: Node | None = None,
        side: Side = "below",
        gap: Distance = 0.0,
        opens_on_click: bool = True,
    ) -> None:
        super().__init__(node)
        if opener is not None and not isinstance(opener, Node):
            raise ControlError(f"{node.path}: its opener is {opener!r}, expected None or a Node")
        self._opener, self._side, self._gap = opener, checked_side(side, node.path), gap
        self._before: Node | None = None
        """Where the focus was."""
        self._ring = False
        """Whether it had come there by key or pad (law F4)."""
        self.is_open = False
        node.set_for_now(visible=False)
        node.set_for_now(closed_by="any")
        if node.solidity is None:
            node.set_for_now(solidity="solid")
        if opener is not None:
            node.set_for_now(opener=opener.path)
            if opens_on_click:
                self.hear("click", self._opener_clicked, opener)
            self._ends.append(opener.on_for_now("act", self._act_asked))
        self.hear("back", self._back)
        self.on_settle(self._stay)

    @property
    def opener(self) -> Node | None:
        """The node it belongs to and is put beside."""
        return self._opener

    def open(self, seat: str = "main", focus: bool = False, at: tuple[float, float] | None = None) -> None:
        """Open it; what is open stays so.

        :param seat: whose focus it may get. :param focus: whether it gets that at once, at its first stop.
        :param at: where its top left corner is to be, in the space of the node's parent; None: beside the opener.
        :raises ControlError: there is no router.
        """
        player = router_of(self.node).seat(seat)
        self.seat = seat
        opening = not self.is_open
        if opening:
            self._before, self._ring = player.focus, player.focus_ring
            self.is_open = True
            self.node.set_for_now(visible=True)
        if at is not None:
            put_at(self.node, *at)
        self._stay()
        if focus:
            player.enter(self.node)
        if opening:
            self.tell_change(open=True)
            self.say("open")

    def close(self, cause: str = "code") -> None:
        """Close it; what is closed stays so."""
        if not self.is_open:
            return
        self.is_open = False
        before, self._before = self._before, None
        for seat in seats_within(self.node) if before is not None else ():
            with suppress(SceneError):  # else it goes where a hidden node's focus goes (law F3)
                seat.set_focus(before, self._ring)
        self.node.set_for_now(visible=False)
        self.tell_change(open=False)
        self.say("close", cause)

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        if act not in ("open", "close") or event.node not in (self.node, self._opener):
            return super().perform(act, value, event)
        if act == "open":
            self.open(event.seat)
        else:
            self.close()
        if self.is_open is not (act == "open"):
            raise ControlError(f"{self.node.path} has no item that shows, so it does not open")
        return True

    def _opener_clicked(self, event: Event) -> None:
        if self.is_open:
            self.close("opener")
        else:
            self.open(event.seat, focus="device" in event.data)

    def _back(self, event: Event) -> None:
        if event.node is self.node:
            event.take()
            self.close(event.data["cause"])

    def detach(self) -> None:
        """Stop doing anything; what is open closes."""
        self.close()
        super().detach()

    def _stay(self) -> None:
        if self.is_open and not self.node.is_visible:
            self.close()  # someone else has hidden it, or what it lies in
        elif self.is_open and self._opener is not None and self._opener.scene is not None:
            put_beside(self.node, self._opener, self._side, self._gap)

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("open",)) if self.is_open and not part else frozenset()
