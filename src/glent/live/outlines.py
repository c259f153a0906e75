"""What to draw around a node that is looked at: its box, where it is hit, how far it reaches, and what is hovered."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.scene.island import BOX
from glent.core.scene.spot import Spot

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.geometry.shape import Shape
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["LiveOutline", "outlines_around", "outlines_of"]

Segment = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class LiveOutline:
    """Lines around a node.

    :ivar kind: ``hover``: it is hovered; ``box``, ``shape``, ``reach``: of the chosen node, its box, where it is hit,
        and how far a finger may miss that; ``clip``: what cuts it off. :ivar node: the node. :ivar lines: straight
        pieces in window pixels, each from x, y to x, y.
    """

    kind: str
    node: Node
    lines: tuple[Segment, ...]


def outlines_of(router: Router, chosen: Node | None) -> list[LiveOutline]:
    """The outlines of what is hovered, and of the chosen node, in the order in which to draw them."""
    found: list[LiveOutline] = []
    seen: dict[Node, None] = {}
    for nodes in router.hovered().values():
        seen.update(dict.fromkeys(nodes))
    for node in seen:
        if node.parent is not None:
            found += _around("hover", node, BOX)
    return found + (outlines_around(chosen) if chosen is not None else [])


def outlines_around(chosen: Node) -> list[LiveOutline]:
    """The outlines of a node: what clips it, its box, where it is hit, and its reach; none of a spot."""
    found: list[LiveOutline] = []
    if not isinstance(chosen, Spot):
        for above in chosen.lineage()[:-1]:
            if above.clips:
                found += _around("clip", above, above.shape or BOX)
        found += _around("box", chosen, BOX)
        found += _around("shape", chosen, chosen.shape or BOX)
        reach = chosen.reach_for("touch")
        if reach:
            found += _around("reach", chosen, (chosen.shape or BOX).grown(reach / _scale(chosen)))
    return found


def _around(kind: str, node: Node, shape: Shape) -> Iterable[LiveOutline]:
    scene = node.scene
    if scene is None:
        return
    try:
        lines = tuple(
            (*scene.point(node, float(x0), float(y0)), *scene.point(node, float(x1), float(y1)))
            for x0, y0, x1, y1 in shape.outline(*node.size)
        )
    except SceneError:  # it stands in the world, and no camera sees all of it
        return
    if lines:
        yield LiveOutline(kind, node, lines)


def _scale(node: Node) -> float:
    """How many screen pixels a pixel of a node is long, more or less."""
    scene = node.scene
    if scene is None or node.root._in_world:
        return 1.0
    a, b, c, d = scene.to_screen(node)[:4]
    return abs(a * d - b * c) ** 0.5 or 1.0
