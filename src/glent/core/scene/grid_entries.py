"""Grid entries: the box around a node or an island, and how to test a point in it (laws H2–H6)."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import TYPE_CHECKING

from glent.core.geometry.affine import Box, bounds
from glent.core.geometry.boxes import BoxShape
from glent.core.scene.island import BOX, GLASS, Island, Shaped, Turned

if TYPE_CHECKING:
    from glent.core.geometry.shape import Shape
    from glent.core.scene.grid import Entry, Target
    from glent.core.scene.island import Test
    from glent.core.scene.node import Node

__all__ = ["common", "entry_of", "island_entry_of"]


def entry_of(node: Node) -> Entry | None:
    """The entry of a node without an island; None if it cannot be hit."""
    solidity = node._effective
    edges = node._edges
    if not node._shown or solidity not in ("solid", "glass") or edges is None:
        return None
    left, top, right, bottom = edges
    if not (left < right and top < bottom):
        return None
    base_x, base_y, forward, shape = node._base_x, node._base_y, node._forward, node._shape
    solid = solidity == "solid"
    if forward is None and (shape is None or isinstance(shape, BoxShape)):
        if shape is not None:
            inset = shape.inset
            left, top, right, bottom = left + inset, top + inset, right - inset, bottom - inset
            if not (left < right and top < bottom):
                return None
        return (base_x + left, base_y + top, base_x + right, base_y + bottom, node, None if solid else GLASS)
    size = (right - left, bottom - top)
    box = shape.bounds(*size) if shape is not None else (0.0, 0.0, *size)
    if box is None:
        return None
    inverse = node._inverse
    test = _test(shape or BOX, *size)
    target: Target
    if inverse is None:
        forward = (1.0, 0.0, 0.0, 1.0, left, top)
        target = Shaped(base_x + left, base_y + top, test, solid)
    else:
        assert forward is not None
        target = Turned(base_x + left + inverse[4], base_y + top + inverse[5], inverse, test, solid)
    around = _shifted(_padded(bounds(forward, box)), base_x, base_y)
    return (*around, node, target) if _is_finite(around) else None


def island_entry_of(island: Island) -> Entry | None:
    """The entry of an island: the box around its node and its content, as far as that is to be found there."""
    edges = island.edges
    size = (edges[2] - edges[0], edges[3] - edges[1])
    own: Box | None = None
    if (island.clip or island.hittable) and size[0] > 0.0 and size[1] > 0.0:
        own = island.shape.bounds(*size) if island.shape is not None else (0.0, 0.0, *size)
    content = island.grid.bounds
    if island.clip:
        if own is None:
            return None
        around = own
    else:
        boxes = [own] if own is not None else []
        if content is not None:
            boxes.append(_shifted(content, -island.scroll_x, -island.scroll_y))
        if not boxes:
            return None
        lefts, tops, rights, bottoms = zip(*boxes, strict=True)
        around = (min(lefts), min(tops), max(rights), max(bottoms))
    if island.exact:
        base_x, base_y = island.base_x, island.base_y
        around = (base_x + edges[0], base_y + edges[1], base_x + edges[2], base_y + edges[3])
    else:
        forward = island.forward if island.forward is not None else (1.0, 0.0, 0.0, 1.0, edges[0], edges[1])
        around = _shifted(_padded(bounds(forward, around)), island.base_x, island.base_y)
    return (*around, island.node, island) if _is_finite(around) else None


@lru_cache(maxsize=8192)
def _test(shape: Shape, width: float, height: float) -> Test:
    """The test of a shape for one size, one object for all nodes that are alike: it saves memory."""
    return shape.fixed(width, height)


def _is_finite(box: Box) -> bool:
    return all(map(math.isfinite, box))


def common(one: Box, other: Box) -> Box:
    """The intersection of two boxes; the wrong way round if they have none."""
    return max(one[0], other[0]), max(one[1], other[1]), min(one[2], other[2]), min(one[3], other[3])


def _shifted(box: Box, x: float, y: float) -> Box:
    return box[0] + x, box[1] + y, box[2] + x, box[3] + y


def _padded(box: Box) -> Box:
    """A box a little larger, so that rounding never puts a point of the shape outside of it."""
    pad = 1e-9 * (1.0 + max(map(abs, box)))
    return box[0] - pad, box[1] - pad, box[2] + pad, box[3] + pad
