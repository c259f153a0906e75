"""How far a node's content reaches, and so how far it can be scrolled (law G4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.affine import bounds
from glent.core.scene.layout import tall, widest

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["scroll_range"]


def scroll_range(node: Node) -> tuple[float, float]:
    """The farthest scroll offset to the right and down, in node-local pixels."""
    width, height = node.size  # brings the placement up to date
    content = node.content
    if content is None:
        content = node._extent
        if content is None:
            content = _reach_of_children(node)
            if node._flow is not None:  # the padding at its end is a part of what it scrolls
                content = max(content[0], widest(node, width)), max(content[1], tall(node, width))
            node._extent = content
    return max(0.0, content[0] - width), max(0.0, content[1] - height)


def _reach_of_children(node: Node) -> tuple[float, float]:
    right = bottom = 0.0
    for child in (node._children or {}).values():
        edges, forward = child._edges, child._forward
        if edges is None or not child._visible:
            continue
        box = edges if forward is None else bounds(forward, (0.0, 0.0, edges[2] - edges[0], edges[3] - edges[1]))
        if box[2] > right:
            right = box[2]
        if box[3] > bottom:
            bottom = box[3]
    return right, bottom
