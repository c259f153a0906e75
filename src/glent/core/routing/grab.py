"""The handle of a grab: what ``event.grab()`` returns (law P1). How a grab routes samples is in
``pointers/grabbing.py``."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["Grab"]


class Grab:
    """The grab of a pointer by a node.

    It hears ``press``, ``move`` and ``release`` of the pointer wherever that is, along its path; no gesture and no
    click come of them. It ends by :meth:`let_go`, when a finger is lifted, or is lost: the node is removed, hidden or
    disabled, the device cancels, the window loses the focus, or another node grabs.

    :ivar node: who has grabbed it. :ivar pointer: the pointer's name.
    """

    __slots__ = ("_give_back", "_on_lost", "_report", "active", "node", "pointer")

    def __init__(
        self,
        node: Node,
        pointer: str,
        give_back: Callable[[], None],
        on_lost: Callable[[str], object] | None,
        report: Callable[[Exception, None], object],
    ) -> None:
        self.node = node
        self.pointer = pointer
        self._give_back = give_back
        self._on_lost = on_lost
        self._report = report
        self.active = True
        """Whether the node still has the pointer."""

    def let_go(self) -> None:
        """Give the pointer back. While its buttons are down it is spent, so the release lands nowhere (law P11)."""
        if self.active:
            self.active = False
            self._give_back()

    def _finish(self) -> None:
        """Note that it is over, without a word to its node: the finger was lifted."""
        self.active = False

    def _lose(self, why: str) -> None:
        """Note that it is over, and tell its node why."""
        if self.active:
            self.active = False
            if self._on_lost is not None:
                try:
                    self._on_lost(why)
                except Exception as error:
                    self._report(error, None)

    def __repr__(self) -> str:
        return f"<Grab of {self.pointer} by {self.node.path}{'' if self.active else ', over'}>"
