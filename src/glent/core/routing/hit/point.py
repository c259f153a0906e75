"""The one hit test: what lies at a point, front to back (laws H1–H7)."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, NamedTuple, cast

from glent.core.geometry.world.form import facing
from glent.core.scene.reach import with_reach
from glent.core.scene.space import enter

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.seat_view import Barrier, SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.posed import Met
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot

__all__ = ["Hit", "Offers", "hit_of", "hits_at", "hits_for", "offers_beyond", "pick"]


class Offers(NamedTuple):
    """The offers at a point of the screen or along a ray.

    :ivar nodes: front to back. :ivar barrier: what blocks the way behind them.
    :ivar beyond: those of them that stand in the world, each with what the ray meets there; a node that the ray comes
        through twice stands here once, where it is met first.
    :ivar spot: the spot of the world that the way ends at.
    """

    nodes: list[Node]
    barrier: Barrier | None = None
    beyond: Sequence[tuple[Met, Node]] = ()
    spot: Met | None = None


def offers_beyond(beyond: Sequence[tuple[Met, Node]], barrier: Barrier | None, spot: Met | None) -> Offers:
    """Offers that all stand in the world."""
    return Offers([node for _, node in beyond], barrier, beyond, spot)


class Hit:
    """A node hit at a point.

    :ivar node: the node.
    :ivar local: the point in its local space, logical pixels; of a spot (0, 0), it has no such space.
    :ivar offered: whether it is among the offers; if not, something solid covers it (law S2).
    :ivar point: where it was hit in the world, metres; None on a layer of the screen.
    :ivar normal: what stands square on it there, of length 1, on the side that the ray came from; None on a layer.
    :ivar distance: how far along the ray that is, metres; None on a layer.
    :ivar snap: the point of the world that things put down on it snap to; None if it has none.
    """

    __slots__ = ("distance", "local", "node", "normal", "offered", "point", "snap")

    def __init__(
        self,
        node: Node,
        local: tuple[float, float],
        offered: bool,
        point: Vector3 | None = None,
        normal: Vector3 | None = None,
        distance: float | None = None,
        snap: Vector3 | None = None,
    ) -> None:
        self.node = node
        self.local = local
        self.offered = offered
        self.point = point
        self.normal = normal
        self.distance = distance
        self.snap = snap

    @property
    def tags(self) -> frozenset[str]:
        """The tags of the node."""
        return self.node.tags

    def __repr__(self) -> str:
        state = "offered" if self.offered else "covered"
        if self.point is not None:
            at = ", ".join(f"{one:g}" for one in self.point)
            return f"<Hit {self.node.path} {self.distance:g} m away at ({at}), {state}>"
        return f"<Hit {self.node.path} at ({self.local[0]:g}, {self.local[1]:g}), {state}>"


def hit_of(met: Met, node: Node, ray: Ray, offered: bool) -> Hit:
    """The hit of something that stands in the world."""
    root, at = met.root, met.at
    point, away = ray.at(met.distance), ray.gone + met.distance
    if at is not None:
        normal = cast("Panel", root).normal(*at)
        return Hit(node, enter(node, *at), offered, point, facing(normal, ray.direction), away)
    normal = root.pose.out_normal(met.normal) if met.normal is not None else ray.direction
    snap = cast("Spot", root).snap
    return Hit(node, (0.0, 0.0), offered, point, facing(normal, ray.direction), away, snap)


def pick(scene: Scene, x: float, y: float, kind: str = "mouse", deep: bool = False) -> list[Node]:
    """The nodes hit at a screen point, front to back: the offers, or with ``deep`` also what they cover.

    The index must be up to date.
    """
    m = scene._from_screen
    x = m[0] * x + m[4]
    y = m[3] * y + m[5]
    out: list[Node] = []
    if scene._index.reach_limits.get(kind):
        return _pick_with_reach(scene, x, y, kind, deep, out)
    for layer in scene._front:
        if layer._shown and layer._own.meet(layer, x, y, out, deep):  # type: ignore[union-attr]
            break
    return out


def _pick_with_reach(scene: Scene, x: float, y: float, kind: str, deep: bool, out: list[Node]) -> list[Node]:
    for layer in scene._front:
        if not layer._shown:
            continue
        own = layer._own
        assert own is not None
        found: list[Node] = []
        own.meet(layer, x, y, found, deep)
        for node in with_reach(scene, layer, kind, x, y, found, scene._to_logical):
            out.append(node)
            if not deep and node._effective == "solid":
                return out
    return out


def hits_at(scene: Scene, x: float, y: float, where: Callable[[Node], bool] | None, kind: str) -> list[Hit]:
    """All hits at a screen point, each marked as offer or covered; ``where`` leaves nodes out beforehand."""
    hits = []
    offered = True
    for node in pick(scene, x, y, kind, deep=True):
        if where is None or where(node):
            hits.append(Hit(node, scene.local(node, x, y), offered))
            offered = offered and node._effective != "solid"
    return hits


def hits_for(view: SeatView, x: float, y: float, where: Callable[[Node], bool] | None, kind: str) -> list[Hit]:
    """All hits at a point for a seat that a modal, a claim or another seat blocks: behind the barrier nothing is
    offered."""
    hits = []
    offered = True
    for node, barrier in view.walk(x, y, kind):
        offered = offered and barrier is None
        if node is not None and (where is None or where(node)):
            hits.append(Hit(node, view.scene.local(node, x, y), offered))
            offered = offered and node._effective != "solid"
    return hits
