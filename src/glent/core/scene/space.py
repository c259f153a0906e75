"""Conversions from one space to another along the tree."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.affine import IDENTITY, Affine, compose
from glent.core.scene.island import BOX

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["covers", "enter", "into", "out_of", "to_scene"]


FARTHEST = 1e100
"""No coordinate is larger, in pixels, however many scales are nested: what is derived of one stays finite."""


def to_scene(node: Node) -> Affine:
    """The transform from node-local to scene space, composed on the way up. The index must be up to date.

    Where a hundred nested scales multiply to more than a float can hold, its numbers are held at ``FARTHEST``.
    """
    m = _composed(node, False)
    if abs(m[0]) + abs(m[1]) + abs(m[2]) + abs(m[3]) + abs(m[4]) + abs(m[5]) < FARTHEST:
        return m
    return _composed(node, True)


def _composed(node: Node, bounded: bool) -> Affine:
    m = IDENTITY
    while True:
        forward, edges = node._forward, node._edges
        if forward is None and edges is not None:
            forward = (1.0, 0.0, 0.0, 1.0, edges[0], edges[1])
        if forward is not None:
            m = compose(forward, m)
            if bounded:
                a, b, c, d, e, f = (bounded_number(value) for value in m)
                m = (a, b, c, d, e, f)
        parent = node._parent
        if parent is None:
            return m
        scroll_x, scroll_y = parent._scroll
        m = (m[0], m[1], m[2], m[3], m[4] - scroll_x, m[5] - scroll_y)
        node = parent


def bounded_number(value: float) -> float:
    """A number within ``FARTHEST`` on both sides; 0 for what is no number."""
    return max(-FARTHEST, min(value, FARTHEST)) if value == value else 0.0


def enter(node: Node, x: float, y: float) -> tuple[float, float]:
    """A point of scene space in node-local space, by the arithmetic of the hit test."""
    x, y = _entered(node, x, y)
    if abs(x) + abs(y) < FARTHEST:
        return x, y
    return bounded_number(x), bounded_number(y)


def _entered(node: Node, x: float, y: float) -> tuple[float, float]:
    chain = []
    home = node._home
    while home is not None and home.home is not None:
        chain.append(home)
        home = home.home
    if home is not None:  # the layer's own island
        x, y = home.into(x, y)
        x, y = x + home.scroll_x, y + home.scroll_y
    for island in reversed(chain):
        if island.forward is not None and island.inverse is None:
            return 0.0, 0.0
        x, y = island.into(x, y)
        x, y = x + island.scroll_x, y + island.scroll_y
    if node._home is None:
        return node._own.into(x, y) if node._own is not None else (x, y)
    edges, inverse = node._edges, node._inverse
    if edges is None or (node._forward is not None and inverse is None):
        return 0.0, 0.0
    x, y = x - (node._base_x + edges[0]), y - (node._base_y + edges[1])
    if inverse is None:
        return x, y
    a, b, c, d, e, f = inverse
    x, y = x - e, y - f
    return a * x + c * y + e, b * x + d * y + f


def covers(node: Node, x: float, y: float) -> bool:
    """Whether a node's own shape has a screen point, whatever clips or hides it."""
    scene = node._scene
    if scene is None:
        return False
    width, height = node.size
    if width <= 0.0 or height <= 0.0:
        return False
    if any(one._forward is not None and one._inverse is None for one in node.lineage()):
        return False  # scaled to nothing
    return (node._shape or BOX).contains(*scene.local(node, x, y), width, height)


def into(node: Node, dx: float, dy: float) -> tuple[float, float]:
    """A distance on the screen, in logical pixels, in a node's local space (law G7); of one on a panel, a distance on
    that. (0, 0) where a scale is zero."""
    scene = node._scene
    if scene is None:
        return 0.0, 0.0
    scene._index.refresh()
    if scene._world_index is None or not node.root._in_world:  # a panel has logical pixels of its own
        per_pixel = scene._to_logical[0]
        dx, dy = dx / per_pixel, dy / per_pixel
    turned = []
    home = node._home
    while home is not None:
        if home.forward is not None:
            if home.inverse is None:
                return 0.0, 0.0
            turned.append(home.inverse)
        home = home.home
    for a, b, c, d, _, _ in reversed(turned):
        dx, dy = a * dx + c * dy, b * dx + d * dy
    if node._forward is not None:
        if node._inverse is None:
            return 0.0, 0.0
        a, b, c, d, _, _ = node._inverse
        dx, dy = a * dx + c * dy, b * dx + d * dy
    return (dx, dy) if abs(dx) + abs(dy) < FARTHEST else (bounded_number(dx), bounded_number(dy))


def out_of(node: Node, dx: float, dy: float) -> tuple[float, float]:
    """A distance in a node's local space, on the screen in logical pixels: the inverse of :func:`into`."""
    scene = node._scene
    if scene is None:
        return 0.0, 0.0
    scene._index.refresh()
    base = scene._to_logical if scene._world_index is None or not node.root._in_world else IDENTITY
    a, b, c, d, _, _ = compose(base, to_scene(node))
    return a * dx + c * dy, b * dx + d * dy
