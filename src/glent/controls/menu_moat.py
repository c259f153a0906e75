"""What lies around an open menu: it tells when a pointer has left the menu, and takes nothing from anyone (law C5)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from glent.controls.context import router_of
from glent.controls.pointer_path import place_of
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.controls.pointer_path import Point
    from glent.core.routing.event import Event
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Moat"]

BEHIND = 1e-3
"""By how much its order is below the menu's."""


class Moated(Protocol):
    """A menu with a moat, as that sees it."""

    node: Node

    @property
    def is_open(self) -> bool:
        """Whether it is open."""

    def has_inside(self, at: Point) -> bool:
        """Whether a place counts as inside it."""

    def close(self, cause: str) -> None:
        """Close it."""


class Moat:
    """A glass node behind a menu, as large as what the menu lies in, and there as long as that is open.

    Where something solid of the same parent lies in front of it, a pointer on that counts by where it came there.
    """

    __slots__ = ("_close_delay", "_inside", "_menu", "_node", "_timer")

    def __init__(self, menu: Moated, close_delay: float) -> None:
        self._menu = menu
        self._close_delay = close_delay
        self._node: Node | None = None
        self._inside: set[str] = set()
        """The pointers that have come inside and not left since."""
        self._timer: Timer | None = None

    def fill(self) -> None:
        """The menu has opened."""
        menu = self._menu.node
        if self._node is None and menu.parent is not None:
            name = f"{menu.name} moat"
            self._node = menu.parent.add_for_now(name, place=Place(), solidity="glass", order=menu.order - BEHIND)
            for kind in ("move", "enter", "leave"):
                self._node.on_for_now(kind, self.went)

    def drain(self) -> None:
        """The menu has closed."""
        self._stay()
        self._inside.clear()
        if self._node is not None:
            node, self._node = self._node, None
            node.remove()

    def went(self, event: Event) -> None:
        """A pointer went over the moat or a menu."""
        if not self._menu.is_open or self._menu.node.scene is None:
            return
        if self._menu.has_inside(place_of(event)):
            self._inside.add(event.pointer)
            self._stay()
            if event.kind == "leave":  # for another part of all this, whose enter comes next; or it is a finger, and up
                self._inside.discard(event.pointer)
        elif event.pointer in self._inside:
            self._inside.discard(event.pointer)
            if self._inside:
                return
            if self._close_delay <= 0.0:
                self._menu.close("left")
            else:
                self._stay()
                self._timer = router_of(self._menu.node).at(event.time + self._close_delay, self._left)

    def _left(self, due: float) -> None:
        self._timer = None
        self._menu.close("left")

    def _stay(self) -> None:
        if self._timer is not None:
            self._timer.stop()
            self._timer = None
