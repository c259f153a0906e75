"""Nodes that may be hit a little beside their shape, for pointers as coarse as a finger (law H5)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import TYPE_CHECKING

from glent.core.geometry.affine import bounds, compose, invert, stretch
from glent.core.geometry.shape import distance
from glent.core.scene.island import BOX
from glent.core.scene.kinds import MAKES_SOLID
from glent.core.scene.space import enter, to_scene

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine, Box
    from glent.core.scene.island import Island
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["is_interactive", "is_painted_over", "reached", "stands_for", "with_reach"]


def with_reach(
    scene: Scene, layer: Node, kind: str, x: float, y: float, hits: list[Node], to_units: Affine
) -> list[Node]:
    """The hits of one layer, or panel, at a point of its space, with the node in whose reach it lies put in its place.

    ``hits`` are the true hits front to back; ``to_units`` takes that space to the one that reach is measured in. The
    list comes back unchanged if no node has its reach there.
    """
    offers = []
    for node in hits:
        offers.append(node)
        if node._effective == "solid":
            break
    # Only true containment by something interactive makes a reach yield, and only where it is not covered itself.
    touched = stands_for(offers)
    solid = offers[-1] if offers and offers[-1]._effective == "solid" else None
    best: Node | None = None
    best_away = 0.0
    for node, away in reached(scene, layer, kind, x, y, to_units):
        if any(not node.is_within(other) for other in touched):
            continue
        if solid is not None and is_painted_over(solid, node):
            continue
        if best is None or away < best_away or (away == best_away and is_painted_over(node, best)):
            best, best_away = node, away
    if best is None:
        return hits
    for index, node in enumerate(hits):
        if is_painted_over(best, node):
            return [*hits[:index], best, *hits[index:]]
    return [*hits, best]


def reached(scene: Scene, layer: Node, kind: str, x: float, y: float, to_units: Affine) -> Iterator[tuple[Node, float]]:
    """Nodes with the point in their reach and not in their shape, inside all clips, with how far away they are."""
    assert layer._own is not None
    return _reached_in(scene, layer._own, kind, (x, y), x, y, to_units)


def _reached_in(
    scene: Scene, island: Island, kind: str, point: tuple[float, float], x: float, y: float, to_units: Affine
) -> Iterator[tuple[Node, float]]:
    """The nodes of one island with the point in their reach; ``point`` is in scene space, ``x`` and ``y`` in the space
    around."""
    if island.reachers is None or not island.reachers.entries:
        return
    local_x, local_y = island.into(x, y)
    if island.clip and not island.covers(x, y, local_x, local_y):
        return
    minimum = stretch(compose(to_units, to_scene(island.node)))[0]
    if minimum <= 0.0:
        return
    x, y = local_x + island.scroll_x, local_y + island.scroll_y
    for entry in list(island.reachers.near(x, y, scene._index.reach_limits.get(kind, 0.0) / minimum)):
        node = entry[4]
        if not _is_inside_clips(node, island, x, y):
            continue
        if node._own is not None:
            yield from _reached_in(scene, node._own, kind, point, x, y, to_units)
        by = node.reach_for(kind)
        if by > 0.0 and node._effective in ("solid", "glass"):
            edges = node._edges or (0.0, 0.0, 0.0, 0.0)
            width, height = edges[2] - edges[0], edges[3] - edges[1]
            if width > 0.0 and height > 0.0:
                at = enter(node, *point)
                away = distance(node._shape or BOX, *at, width, height, compose(to_units, to_scene(node)))
                if 0.0 < away <= by and not _is_cut_off(node, width, height):
                    yield node, away


def _is_inside_clips(node: Node, island: Island, x: float, y: float) -> bool:
    """Whether the point lies in all clips that the island keeps as cut entries rather than as islands."""
    parent = node._parent
    while parent is not None and parent is not island.node:
        if parent._clips:
            left, top, right, bottom = parent._edges or (0.0, 0.0, 0.0, 0.0)
            base_x, base_y = parent._base_x, parent._base_y
            if not (base_x + left <= x < base_x + right and base_y + top <= y < base_y + bottom):
                return False
        parent = parent._parent
    return True


HAIR = 1e-9
"""Boxes that share less than this, in pixels, only touch."""


def _is_cut_off(node: Node, width: float, height: float) -> bool:
    """Whether a clip, or the end of its panel, leaves nothing of a node's box: a row just scrolled out is not reached
    from the last one in."""
    own = to_scene(node)
    for above in node.lineage()[:-1]:
        if above._clips or above._in_world:
            back = invert(to_scene(above))
            into = compose(back, own) if back is not None else None
            out = invert(into) if into is not None else None
            if into is None or out is None:
                return True
            box, clip = (0.0, 0.0, width, height), (0.0, 0.0, *above.size)
            # Two boxes turned against each other are apart if they are so along an axis of the one or of the other.
            if not (_overlap(bounds(into, box), clip) and _overlap(bounds(out, clip), box)):
                return True
    return False


def _overlap(a: Box, b: Box) -> bool:
    return min(a[2], b[2]) - max(a[0], b[0]) > HAIR and min(a[3], b[3]) - max(a[1], b[1]) > HAIR


def is_interactive(node: Node) -> bool:
    """Whether it wants input, so that a reach yields to it."""
    return node.is_control or node.wants_input or node.listens_any(MAKES_SOLID)


def stands_for(offers: Iterable[Node]) -> list[Node]:
    """What these offers stand for: the nearest of themselves and their ancestors that is interactive, where one is. A
    picture on a button is the button (law P2)."""
    found = (next((one for one in reversed(offer.lineage()) if is_interactive(one)), None) for offer in offers)
    return [node for node in found if node is not None]


def is_painted_over(node: Node, other: Node) -> bool:
    """Whether a node is painted after another node of the same layer, and so lies over it (law H1)."""
    if node is other:
        return False
    a, b = node, other
    while a._depth > b._depth:
        assert a._parent is not None
        if a._parent is b:
            return True  # a child lies over its parent
        a = a._parent
    while b._depth > a._depth:
        assert b._parent is not None
        if b._parent is a:
            return False
        b = b._parent
    while a._parent is not b._parent:
        assert a._parent is not None
        assert b._parent is not None
        a, b = a._parent, b._parent
    return a._z > b._z  # siblings are numbered in one island
