"""How far a pointer has gone from where it was, by where it points in the world (laws G1, G7)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.geometry.world.vectors import cross, dot, length, minus
from glent.core.routing.aim import local_of
from glent.core.scene.island import BOX
from glent.core.scene.space import covers

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.feel import Feel
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.scene.node import Node

__all__ = ["Mark", "is_near", "is_on", "mark_of"]


class Mark:
    """Where a pointer was: on the screen, and on the panel or spot it pointed at, with which it moves along."""

    __slots__ = ("_point", "_root", "_way", "pos")

    def __init__(self, pointer: Pointer) -> None:
        self.pos = pointer.pos
        self._root = pointer.offers[0].root if pointer.offers else None
        self._point: Vector3 | None = None
        self._way: Vector3 | None = None
        aim = pointer.aim
        if aim is None or aim.ray is None:
            return
        self._way = aim.ray.direction
        root = self._root
        if root is not None and root._in_world:
            panel = root._own is not None
            at = aim.on(root) if panel else None  # type: ignore[arg-type]
            if at is not None:
                self._point = root.pose.into(root.to_world(*at))  # type: ignore[attr-defined]
            elif pointer.spot is not None and pointer.spot.root is root:
                self._point = pointer.spot.root.pose.into(aim.ray.at(pointer.spot.distance))

    def degrees(self, pointer: Pointer) -> float:
        """The angle between where a ray points now and this mark, wherever the mark has been carried meanwhile."""
        aim = pointer.aim
        if aim is None or aim.ray is None:
            return 0.0
        way = self._way
        if self._point is not None and self._root is not None and self._root._scene is not None:
            way = minus(self._root.pose.out(self._point), aim.ray.origin)  # type: ignore[attr-defined]
        return 0.0 if way is None else angle(way, aim.ray.direction)


def angle(one: Vector3, other: Vector3) -> float:
    """The angle between two directions, degrees; exact for small ones too."""
    return math.degrees(math.atan2(length(cross(one, other)), dot(one, other)))


def mark_of(pointer: Pointer) -> Mark | None:
    """The place of a pointer, to measure from later; None where its position on the screen is enough."""
    return Mark(pointer) if pointer.aim is not None else None


def is_near(pointer: Pointer, pos: tuple[float, float], mark: Mark | None, feel: Feel) -> bool:
    """Whether a pointer is near enough to where it was for a count of clicks to go on (law G1)."""
    if pointer.kind == "ray" and mark is not None:
        return mark.degrees(pointer) <= feel.ray_click_slack
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
