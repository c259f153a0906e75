"""Who hears a shortcut: the frontmost node in reach of the seat that listens for its action (law W4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.routing.seat_view import View
    from glent.core.scene.node import Node

__all__ = ["listener"]


def listener(view: View, action: str) -> Node | None:
    """The node that gets a shortcut, or None. Cost: a walk of the scene, if anything listens for it at all."""
    scene = view.scene
    if view.foreign or scene.listeners.get(action, 0) <= 0:
        return None
    for layer in scene._front:
        if layer in view.deaf:
            continue
        for node in reversed(list(layer.walk())):
            if node.listens(action) and _in_reach(view, node):
                return node
    return None


def _in_reach(view: View, node: Node) -> bool:
    if view.top is not None and not node.is_within(view.top):
        return False
    return node.is_visible and node.is_enabled and view.whose(node) == "own"
