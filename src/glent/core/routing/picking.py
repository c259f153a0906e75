"""The one hit test: what lies at a point, front to back (laws H1–H7)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.scene.reach import with_reach

if TYPE_CHECKING:
    from glent.core.routing.view import View
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Hit", "hits_at", "hits_for", "pick"]


class Hit:
    """A node hit at a point.

    :ivar node: the node.
    :ivar local: the point in its local space, logical pixels.
    :ivar offered: whether it is among the offers; if not, something solid covers it (law S2).
    """

    __slots__ = ("local", "node", "offered")

    def __init__(self, node: Node, local: tuple[float, float], offered: bool) -> None:
        self.node = node
        self.local = local
        self.offered = offered

    def __repr__(self) -> str:
        state = "offered" if self.offered else "covered"
        return f"<Hit {self.node.path} at ({self.local[0]:g}, {self.local[1]:g}), {state}>"


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
        for node in with_reach(scene, layer, kind, x, y, found):
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


def hits_for(view: View, x: float, y: float, where: Callable[[Node], bool] | None, kind: str) -> list[Hit]:
    """The same for a seat that a modal, a claim or another seat bars the way: behind the barrier nothing is offered."""
    hits = []
    offered = True
    for node, barrier in view.walk(x, y, kind):
        offered = offered and barrier is None
        if node is not None and (where is None or where(node)):
            hits.append(Hit(node, view.scene.local(node, x, y), offered))
            offered = offered and node._effective != "solid"
    return hits
