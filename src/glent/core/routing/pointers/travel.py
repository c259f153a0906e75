"""Whether a pointer is still near where it was, and on the node itself (laws G1, H5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.aim import Mark, local_of
from glent.core.scene.island import BOX
from glent.core.scene.space import covers

if TYPE_CHECKING:
    from glent.core.input.feel import Feel
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.scene.node import Node

__all__ = ["is_near", "is_on", "mark_of"]


def mark_of(pointer: Pointer) -> Mark | None:
    """The place of a pointer, to measure from later; None where its position on the screen is enough."""
    aim = pointer.aim
    if aim is None:
        return None
    return Mark(pointer.pos, aim, pointer.offers[0].root if pointer.offers else None, pointer.spot)


def is_near(pointer: Pointer, pos: tuple[float, float], mark: Mark | None, feel: Feel) -> bool:
    """Whether a pointer is near enough to where it was for a count of clicks to go on (law G1)."""
    if pointer.kind == "ray" and mark is not None:
        return mark.degrees(pointer.aim) <= feel.ray_click_slack
    return max(abs(pointer.pos[0] - pos[0]), abs(pointer.pos[1] - pos[1])) <= feel.click_slack


def is_on(node: Node, pointer: Pointer) -> bool:
    """Whether the shape of a node itself is where a pointer is, and not just its reach."""
    if pointer.aim is None or not node.root._in_world:
        return covers(node, *pointer.pos)
    spot = pointer.spot
    if node._own is None and node._parent is None:
        return spot is not None and spot.root is node and not spot.beside
    width, height = node.size
    return (
        width > 0.0
        and height > 0.0
        and (node._shape or BOX).contains(*local_of(node, pointer.pos, pointer.aim), width, height)
    )
