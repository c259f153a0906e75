"""The index of all that stands in the world: panels and spots, and which of them a ray meets, front to back (X1,
X2)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any, cast

from glent.core.geometry.world.volumes import Volumes

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.posed import Met
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot

__all__ = ["WorldIndex"]

SLACK = 1e-9


class WorldIndex:
    """The panels and spots of one scene.

    :ivar roots: by name. :ivar many: counts changes to what stands where, for those who keep arrays of it.
    """

    __slots__ = ("_dirty", "_numbers", "_scene", "batch", "many", "roots", "volumes")

    def __init__(self, scene: Scene) -> None:
        self._scene = scene
        self.roots: dict[str, Panel | Spot] = {}
        self.volumes: Volumes[Panel | Spot] = Volumes()
        self._dirty: dict[Panel | Spot, None] = {}
        self._numbers: dict[Node, int] = {}
        self.many = 0
        self.batch: Any = None
        """The same as arrays, kept by those who ask for many rays at once."""

    def add(self, root: Panel | Spot) -> None:
        """Add something that stands in the world from now on."""
        self.roots[root.name] = root
        self.many += 1
        self._numbers[root] = self.many
        self.moved(root)

    def drop(self, root: Panel | Spot) -> None:
        """Remove something from the world."""
        del self.roots[root.name]
        del self._numbers[root]
        self._dirty.pop(root, None)
        self.volumes.remove(root)
        self.many += 1
        self._scene._version += 1
        self._scene._layout += 1

    def moved(self, root: Panel | Spot) -> None:
        """Note that something stands elsewhere, or can be met no longer, or again."""
        self._dirty[root] = None
        self.many += 1
        self._scene._version += 1

    def refresh(self) -> None:
        """Bring the boxes up to date. Costs nothing where nothing has changed."""
        for root in self._dirty:
            box = root._box()
            if box is None:
                self.volumes.remove(root)
            else:
                low = [one - SLACK * (1.0 + abs(one)) for one in box[:3]]
                high = [one + SLACK * (1.0 + abs(one)) for one in box[3:]]
                self.volumes.put(root, (low[0], low[1], low[2], high[0], high[1], high[2]))
        self._dirty.clear()

    def panel_of(self, node: Node) -> Panel | None:
        """The panel that a node is on; None if it is on none."""
        root = node.root
        return cast("Panel", root) if root._in_world and root._own is not None else None

    def along(self, ray: Ray, deep: bool = False) -> list[Met]:
        """All that a ray meets, front to back, down to the first that ends it; with ``deep`` also what lies behind.

        At one distance, the higher ``order`` is in front, then what was made later (law H1). The index must be
        up to date. Cost: the boxes on the ray's way, and the things in them.
        """
        if self._dirty:
            self.refresh()
        origin, direction = ray.origin, ray.direction
        found: list[Met] = []

        def ask(root: Panel | Spot, far: float) -> float:
            for met in root._met_by(origin, direction, far, deep):
                found.append(met)
                if not deep and met.distance < far and met.stops_input:
                    far = met.distance
            return far

        self.volumes.along(origin, direction, ray.length, ask)
        if len(found) > 1:
            found.sort(key=self._front)
            if not deep:
                for number, met in enumerate(found):
                    if met.stops_input:
                        del found[number + 1 :]
                        break
        return found

    def is_in_front(self, one: Panel | Spot, other: Panel | Spot) -> bool:
        """Whether the first of two that are met at one distance is in front of the other."""
        return (one._order, self._numbers[one]) > (other._order, self._numbers[other])

    def ranks(self, roots: Sequence[Panel | Spot]) -> Any:
        """How far in front each of these is of others at the same distance, as an array."""
        import numpy as np

        order = sorted(range(len(roots)), key=lambda n: (roots[n]._order, self._numbers[roots[n]]))
        ranks = np.empty(len(roots), dtype=np.intp)
        ranks[order] = np.arange(len(roots))
        return ranks

    def _front(self, met: Met) -> tuple[float, float, int]:
        return met.distance, -met.root._order, -self._numbers[met.root]

    def __iter__(self) -> Iterator[Panel | Spot]:
        return iter(self.roots.values())
