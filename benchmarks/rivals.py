"""What the hit test is measured against: shapely's STRtree, and a plain scan in reverse paint order."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import shapely

from glent import BoxShape, Node, Scene
from glent.core.geometry.affine import Affine, apply, invert
from glent.core.scene.space import to_scene

Row = tuple[Affine, Any, tuple[float, float], bool, list[tuple[Affine, Any, tuple[float, float]]]]
BOX = BoxShape()


def _tests(scene: Scene) -> tuple[list[Node], list[Row]]:
    """Every node that can be hit, in paint order, ready to be tested exactly: its inverse, its shape, its clips."""
    scene._index.refresh()
    nodes, rows = [], []
    for node in scene.walk():
        if node.effective_solidity in ("solid", "glass") and node._edges is not None:
            inverse = invert(to_scene(node))
            assert inverse is not None
            clips = []
            for above in node.lineage()[:-1]:
                if above.clips:
                    clip = invert(to_scene(above))
                    assert clip is not None
                    clips.append((clip, above.shape or BOX, above.size))
            nodes.append(node)
            rows.append((inverse, node.shape or BOX, node.size, node.effective_solidity == "solid", clips))
    return nodes, rows


def _exact(row: Row, x: float, y: float) -> bool:
    inverse, shape, size, _, clips = row
    return shape.contains(*apply(inverse, x, y), *size) and all(
        clip.contains(*apply(m, x, y), *its) for m, clip, its in clips
    )


def strtree(scene: Scene) -> Callable[[Any], list[Node]]:
    """Offers by an STRtree over the nodes' upright boxes: query, sort by paint order, test exactly."""
    nodes, rows = _tests(scene)
    boxes = []
    for node, row in zip(nodes, rows, strict=True):
        matrix = to_scene(node)
        box = row[1].bounds(*row[2]) or (0.0, 0.0, 0.0, 0.0)
        corners = [apply(matrix, x, y) for x in box[0::2] for y in box[1::2]]
        boxes.append(
            shapely.box(
                min(c[0] for c in corners),
                min(c[1] for c in corners),
                max(c[0] for c in corners),
                max(c[1] for c in corners),
            )
        )
    tree = shapely.STRtree(boxes)

    def offers(point: Any) -> list[Node]:
        found = tree.query(point)
        found[::-1].sort()  # front to back: indices are paint order
        x, y = point.x, point.y
        hit = []
        for index in found.tolist():
            row = rows[index]
            if _exact(row, x, y):
                hit.append(nodes[index])
                if row[3]:
                    break
        return hit

    return offers


def plain_scan(scene: Scene) -> Callable[[float, float], list[Node]]:
    """Offers by asking every node in reverse paint order, as loops without an index do."""
    nodes, rows = _tests(scene)
    backwards = list(zip(reversed(nodes), reversed(rows), strict=True))

    def offers(x: float, y: float) -> list[Node]:
        hit = []
        for node, row in backwards:
            if _exact(row, x, y):
                hit.append(node)
                if row[3]:
                    break
        return hit

    return offers
