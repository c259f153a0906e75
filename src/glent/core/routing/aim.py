"""Where a pointer points in the world, and where it once pointed (laws X4, X6, G1, G7)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, cast

from glent.core.errors import SceneError
from glent.core.geometry.affine import apply
from glent.core.geometry.world.vectors import cross, dot, length, minus
from glent.core.scene.space import enter, to_scene

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.posed import Met
    from glent.core.scene.spot import Spot

__all__ = ["Aim", "Mark", "aim_at", "angle", "camera_ray", "local_of", "on_screen", "world_point"]


class Aim:
    """Where a pointer points: its ray, and where that comes through the panel which holds it.

    :ivar ray: its ray, or the one of the screen point it is at; None: it points nowhere in the world.
    :ivar panel: the panel that its press belongs to, if any. :ivar at: where on that, extended beyond its edges, in
        its pixels: also when the ray misses even that, as it was last (law X6). :ivar sight: what angles are measured
        by: its ray, or the straight line from the hand to where its throw points.
    """

    __slots__ = ("at", "met", "panel", "ray", "sight")

    def __init__(
        self,
        ray: Ray | None,
        panel: Panel | None = None,
        at: tuple[float, float] | None = None,
        sight: Ray | None = None,
    ) -> None:
        self.ray = ray
        self.sight = sight if sight is not None else ray
        self.panel = panel
        self.at = at
        self.met: dict[Panel, tuple[float, float]] = {}
        """Where it truly meets panels: a curved one it may come through elsewhere too."""

    def meets(self, met: dict[Panel, tuple[float, float]]) -> None:
        """Note where it truly meets panels."""
        self.met = met

    def on(self, panel: Panel) -> tuple[float, float] | None:
        """The point of a panel that it points at, in the panel's pixels; None if it points nowhere there."""
        if panel is self.panel and self.at is not None:
            return self.at
        met = self.met.get(panel)
        if met is not None:
            return met
        return panel.from_ray(self.ray) if self.ray is not None else None


class Mark:
    """Where a pointer was: on the screen, and on the panel or spot it pointed at, with which it moves along.

    :param root: the layer, panel or spot of what it was offered to first. :param spot: the spot its way ended at.
    """

    __slots__ = ("_point", "_root", "_way", "pos")

    def __init__(self, pos: tuple[float, float], aim: Aim, root: Node | None, spot: Met | None) -> None:
        self.pos = pos
        self._root = root
        self._point: Vector3 | None = None
        self._way: Vector3 | None = None
        if aim.ray is None or aim.sight is None:
            return
        self._way = aim.sight.direction
        if root is not None and root._in_world:
            panel = root._own is not None
            at = aim.on(root) if panel else None  # type: ignore[arg-type]
            if at is not None:
                self._point = root.pose.into(root.to_world(*at))  # type: ignore[attr-defined]
            elif spot is not None and spot.root is root:
                self._point = spot.root.pose.into(aim.ray.at(spot.distance))

    def degrees(self, aim: Aim | None) -> float:
        """The angle between where a ray points now and this mark, wherever the mark has been carried meanwhile."""
        if aim is None or aim.sight is None:
            return 0.0
        way = self._way
        if self._point is not None and self._root is not None and self._root._scene is not None:
            way = minus(self._root.pose.out(self._point), aim.sight.origin)  # type: ignore[attr-defined]
        return 0.0 if way is None else angle(way, aim.sight.direction)


def angle(one: Vector3, other: Vector3) -> float:
    """The angle between two directions, degrees; exact for small ones too."""
    return math.degrees(math.atan2(length(cross(one, other)), dot(one, other)))


def local_of(node: Node, pos: tuple[float, float], aim: Aim | None) -> tuple[float, float]:
    """A pointer's position in a node's local space, by its point of the screen or of the panel that the node is on.

    The node's origin, where there is no answer.
    """
    scene = node._scene
    if scene is None:
        return 0.0, 0.0
    world_index = scene._world_index
    if world_index is None or not node.root._in_world:
        return scene.local(node, *pos)
    panel = world_index.panel_of(node)
    scene._index.refresh()
    at = aim.on(panel) if panel is not None and aim is not None else None
    return enter(node, *at) if at is not None else (0.0, 0.0)


def aim_at(node: Node) -> Aim | None:
    """An aim at the middle of a node, for events that no pointer caused; None on a layer, where a position is
    enough."""
    scene = node._scene
    if scene is None or scene._world_index is None or not node.root._in_world:
        return None
    panel = scene._world_index.panel_of(node)
    if panel is None:
        return None
    width, height = node.size  # brings the index up to date
    return Aim(None, panel, apply(to_scene(node), width / 2.0, height / 2.0))


def on_screen(node: Node, x: float, y: float) -> tuple[float, float]:
    """A point of a node, as a point of the screen; (0, 0) if it stands in the world and no camera sees it."""
    scene = node._scene
    if scene is None:
        return 0.0, 0.0
    try:
        return scene.point(node, x, y)
    except SceneError:
        return 0.0, 0.0


def camera_ray(view: SeatView, x: float, y: float) -> Ray | None:
    """The ray of a screen point, by the camera of a seat; None if it has none (law X4)."""
    camera = view.sees_by
    return None if camera is None else camera.ray(x, y, view.window)


def world_point(node: Node, aim: Aim) -> Vector3 | None:
    """The point of the world that a pointer is at, on the panel or the spot of a node; None if there is none."""
    scene = node._scene
    world_index = scene._world_index if scene is not None else None
    root = cast("Panel | Spot", node.root)
    if world_index is None or not root._in_world:
        return None
    panel = world_index.panel_of(node)
    if panel is not None:
        at = aim.on(panel)
        return panel.to_world(*at) if at is not None else None
    if aim.ray is None:
        return None
    met = root._met_by(aim.ray.origin, aim.ray.direction, aim.ray.length, False)
    return aim.ray.at(met[0].distance) if met else None
