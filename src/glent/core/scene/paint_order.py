"""Paint numbers: within an island, a node painted later has a higher number (law H1).

Numbers have gaps, so a node put between others gets one in the gap and nobody else's changes; only when a gap is used
up is the island numbered anew. A grid sorts entries by these numbers, and renumbering never changes an order, so lists
that are sorted stay sorted. Number 0 means none yet.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["GAP", "number_island", "number_new"]

GAP = 1 << 20


def number_new(parent: Node, count: int) -> None:
    """Number the ``count`` children of a node that have no number, and all below them in the same island."""
    if parent._own is None and parent._z == 0:
        return  # new itself: its own parent's turn numbers it and those below
    children = parent.children_painted()
    index = len(children)
    # From the end, where new children mostly are.
    while index > 0 and count > 0:
        end = index
        while index > 0 and children[index - 1]._z == 0:
            index -= 1
        if index < end:
            count -= end - index
            if not _number_run(parent, children, index, end) or count <= 0:
                return  # done, or the whole island has been numbered anew
        while index > 0 and children[index - 1]._z != 0:
            index -= 1


def _number_run(parent: Node, children: list[Node], start: int, end: int) -> bool:
    """Number ``children[start:end]`` and those below. Return False if that took numbering the island anew."""
    run: list[Node] = []
    for child in children[start:end]:
        run.extend(_same_island(child))
    low = _last_number(children[start - 1]) if start > 0 else 0 if parent._own is not None else parent._z
    high = children[end]._z if end < len(children) else _number_after(parent)
    if high is None:
        step = GAP
    else:
        # Most of the gap is left in front: the next one is most likely added behind this one.
        step = (high - low) // (len(run) + 64) or (1 if high - low > len(run) else 0)
        if step == 0:
            number_island(parent)
            return False
    for node in run:
        low += step
        node._z = low
    return True


def _same_island(top: Node) -> list[Node]:
    """A node and those below it in the same island, in paint order."""
    found = []
    stack = [top]
    while stack:
        node = stack.pop()
        found.append(node)
        if node._own is None and node._children:
            stack.extend(reversed(node.children_painted()))
    return found


def _last_number(node: Node) -> int:
    """The highest number of a node and those below it in the same island."""
    number = node._z
    while node._own is None and node._children:
        last = next((child for child in reversed(node.children_painted()) if child._z), None)
        if last is None:
            break
        node = last
        number = node._z
    return number


def _number_after(node: Node) -> int | None:
    """The number of the first node painted after all that is below this one, in the same island; None if none is."""
    while node._own is None:
        parent = node._parent
        assert parent is not None
        siblings = parent.children_painted()
        if siblings[-1] is not node:
            for index in range(len(siblings) - 2, -1, -1):
                if siblings[index] is node:
                    for later in siblings[index + 1 :]:
                        if later._z:
                            return later._z
                    break
        node = parent
    return None


def number_island(node: Node) -> None:
    """Number the island that holds the children of this node from scratch, with even gaps."""
    while node._own is None:
        assert node._parent is not None
        node = node._parent
    number = 0
    for child in node.children_painted():
        for one in _same_island(child):
            number += GAP
            one._z = number
