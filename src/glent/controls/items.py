"""The items of a group that is one stop to Tab: which there are, and how keys go through them (ARIA: composites)."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from glent.core.errors import ControlError, near
from glent.core.scene.roles import COMPOSITES

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["TYPE_GAP", "Items", "Typed"]

TYPE_GAP = 0.7
"""After so many seconds without a letter, what is typed begins anew."""


class Items:
    """The nodes of some roles below a group, in the order of the tree, without those of groups within.

    They are looked up each time, so that items may come and go. Cost: a walk of what is below the group.
    """

    __slots__ = ("_group", "_roles")

    def __init__(self, group: Node, *roles: str) -> None:
        self._group = group
        self._roles = frozenset(roles)

    def all(self) -> list[Node]:
        """All that show and are enabled."""
        found: list[Node] = []
        stack = list(reversed(self._group.children))
        while stack:
            node = stack.pop()
            if not node.visible or not node.enabled:
                continue
            if node.role in self._roles:
                found.append(node)
            if self._holds_items(node):
                stack.extend(reversed(node.children))
        return found

    def _holds_items(self, node: Node) -> bool:
        """Whether items of the group may lie below a node."""
        return node.role not in self._roles and node.role not in COMPOSITES

    def of(self, node: Node) -> Node | None:
        """The item that a node is, or lies in."""
        one: Node | None = node
        while one is not None and one is not self._group:
            if one.role in self._roles:
                return one
            one = one.parent
        return None

    def name(self, item: Node) -> str:
        """What values call an item: its path below the group."""
        return item.path[len(self._group.path) + 1 :]

    def names(self) -> list[str]:
        """What values call them, in order."""
        return [self.name(item) for item in self.all()]

    def labels(self, of: Callable[[Node], str]) -> list[str]:
        """What they are called for letters that are typed, in order."""
        return [of(item) for item in self.all()]

    def named(self, name: object) -> Node | None:
        """The item that values call this, if it shows and is enabled."""
        return next((item for item in self.all() if self.name(item) == name), None)

    def check(self, names: Iterable[str]) -> None:
        """Check that there are items of these names that show and are enabled.

        :raises ControlError: there is one that is not; the message says which there are.
        """
        known = self.names()
        for name in names:
            if name not in known:
                raise ControlError(
                    f"{self._group.path} has no item {name!r} that shows and is enabled, expected one of"
                    f" {', '.join(known) or 'none'}{near(name, known)}"
                )

    def step(self, item: Node | None, by: int, wrap: bool) -> Node | None:
        """The item so many further on; of None the first, or the last. None where there is none."""
        items = self.all()
        if not items:
            return None
        if item not in items:
            return items[0] if by > 0 else items[-1]
        at = items.index(item) + by
        if wrap:
            return items[at % len(items)]
        return items[max(0, min(at, len(items) - 1))]

    def first(self) -> Node | None:
        """The first one."""
        return self.step(None, 1, False)

    def last(self) -> Node | None:
        """The last one."""
        return self.step(None, -1, False)


class Typed:
    """Letters that are typed in quick succession, and the item whose label begins with them."""

    __slots__ = ("_label", "_text", "_until")

    def __init__(self, label: Callable[[Node], str]) -> None:
        self._label = label
        self._text = ""
        self._until = -1e300

    def find(self, letter: str, time: float, items: Items, here: Node | None) -> Node | None:
        """The next item that begins with what has been typed by now; of one letter, typed again, the one after."""
        fresh = time >= self._until
        self._text = letter.casefold() if fresh else self._text + letter.casefold()
        self._until = time + TYPE_GAP
        wanted = self._text
        if len(set(wanted)) == 1:
            wanted = wanted[0]
        names, labels = items.names(), items.labels(self._label)
        name = items.name(here) if here is not None else None
        at = names.index(name) if name in names else -1
        # A longer word may still be that of the item it has led to; a single letter goes on from there.
        start = at + 1 if len(wanted) == 1 else max(at, 0)
        for index in (*range(start, len(labels)), *range(start)):
            if labels[index].casefold().startswith(wanted):
                return items.named(names[index])
        return None
