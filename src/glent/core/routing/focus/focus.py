"""The focus of a seat: where it is, how it moves, and where it goes when its node cannot have it any more (F1–F4,
M3)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SettleError
from glent.core.routing.event import Event
from glent.core.routing.focus.tab_order import Bookmark, can_focus, first_in, group_of, is_text

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node

__all__ = ["Focus"]

NESTED = 8
"""How often handlers of focus and blur may move it on before it stays (law P7)."""


class Focus:
    """The focus of one seat.

    :ivar node: where it is. :ivar ring: whether it came by key or pad (law F4).
    """

    __slots__ = ("_depth", "_dispatcher", "_entry", "_mark", "_seat", "moves", "node", "ring", "view")

    def __init__(self, dispatcher: Dispatcher, view: SeatView, seat: str) -> None:
        self._dispatcher = dispatcher
        self._seat = seat
        self.view = view
        self.node: Node | None = None
        self.ring = False
        self.moves = 0
        """Counts its changes: whether a key's press and release had the same focus."""
        self._mark = Bookmark(None)
        self._entry: dict[Node, Node] = {}
        self._depth = 0

    @property
    def entry(self) -> dict[Node, Node]:
        """The node of each group that last had the focus, by group."""
        return self._entry

    @property
    def place(self) -> Node | None:
        """The node that the next settle would focus: the focused one, or the place of one that went."""
        return self._mark.node

    @property
    def is_fine(self) -> bool:
        """Whether the focus is on a node that can have it now."""
        return self.node is not None and can_focus(self.view, self.node)

    def shows_ring(self, node: Node) -> bool:
        """Whether the focus is on a node, and a ring shows there."""
        return self.node is node and (self.ring or is_text(node))

    def has_keys(self, channel: str) -> bool:
        """Whether keys or a pad move it and activate now: a modal is open, the channel is claimed, or it came by key or
        pad. Focus that a pointer left somewhere does not take the game's keys (law F4)."""
        if self.view.top is not None or self.view.has(channel):
            return True
        return self.node is not None and (self.ring or is_text(self.node))

    def go(self, node: Node | None, ring: bool, time: float) -> bool:
        """Go to a node that can have the focus, or nowhere. Return whether it is there in the end: handlers may move it
        on.

        ``blur`` and ``focus`` are told to their nodes alone, as W3C has it.
        """
        old = self.node
        if old is node:
            self.ring = ring if node is not None else False
            if node is None:
                self._mark.node = None  # also where it was about to move on
            return True
        if self._depth >= NESTED:
            self._dispatcher.report(
                SettleError(f"focus did not come to rest: handlers of focus and blur moved it on {NESTED} times"), None
            )
            return False
        self._depth += 1
        try:
            moves = self.moves = self.moves + 1
            self.node, self.ring = None, False
            if old is not None:
                self._dispatcher.tell(self._event("blur", old, time))
            if self.moves != moves or node is None:
                self._mark.node = self.node
                return node is None and self.node is None
            if not can_focus(self.view, node):
                self._mark.node = None  # the handler of the blur has seen to that
                return False
            self.node, self.ring = node, ring
            self._mark.node = node
            group = group_of(node, self.view.top)
            if group is not None:
                self._entry[group] = node
            self._dispatcher.tell(self._event("focus", node, time))
            return self.node is node
        finally:
            self._depth -= 1

    def _event(self, kind: str, node: Node, time: float) -> Event:
        return Event(kind, node, "", time, (0.0, 0.0), None, 0, 0, seat=self._seat)

    def forget(self) -> None:
        """Forget all nodes: they are of a scene that the router has left."""
        self.node = self._mark.node = None
        self.ring = False
        self._entry.clear()

    # -- keeping it true ---------------------------------------------------------------------------------------------

    def removing(self, gone: Node, time: float) -> None:
        """Book the blur of a node that is about to be removed with all below it; the focus moves on at the next
        settle."""
        self._mark.removing(self.view, gone)
        for group in [group for group in self._entry if group.is_within(gone) or self._entry[group].is_within(gone)]:
            del self._entry[group]
        node = self.node
        if node is not None and node.is_within(gone):
            self._dispatcher.owed.append(self._event("blur", node, time))
            self.moves += 1
            self.node = None

    def settle(self, time: float) -> None:
        """Move on from a node that cannot have the focus any more (law F3)."""
        node = self.node
        if node is not None and can_focus(self.view, node):
            return
        if node is None and self._mark.node is None:
            return
        ring = self.ring
        self.go(self._mark.at(self.view), ring, time)
        self._mark.node = self.node

    def first(self, ring: bool, time: float, within: Node | None = None) -> None:
        """Go to the first stop of all, or within a node; nowhere if there is none."""
        self.go(first_in(self.view, within), ring, time)
