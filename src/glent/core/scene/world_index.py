"""The index of all that stands in the world: panels and spots, and which of them a ray meets, front to back (X1,
X2)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any, cast

from glent.core.geometry.world.pose import Pose
from glent.core.geometry.world.volumes import Volumes

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Box3, Vector3
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot

__all__ = ["Met", "Posed", "WorldIndex"]

SLACK = 1e-9


class Posed:
    """The base of what has a pose in the world."""

    __slots__ = ()

    _pose: Pose
    _scene: Scene | None

    @property
    def path(self) -> str:
        """The name that errors call it by."""
        raise NotImplementedError

    @property
    def pose(self) -> Pose:
        """Its place and orientation. Set another, or a 4×4 matrix, or call :meth:`move`."""
        return self._pose

    @pose.setter
    def pose(self, value: Pose | Any) -> None:
        self._stand_at(value if isinstance(value, Pose) else Pose(matrix=value, where=self.path))

    def move(
        self,
        position: Vector3 | None = None,
        facing: Vector3 | None = None,
        up: Vector3 | None = None,
        matrix: Any = None,
    ) -> None:
        """Move it; what is not given stays as it was. Pointers over it follow at the next settle (law P7).

        :raises SceneError: as :class:`Pose`; nothing has changed then.
        """
        now = self._pose
        if matrix is not None:
            pose = Pose(matrix=matrix, where=self.path)
        elif facing is None and up is None:
            pose = now.at(position if position is not None else now.position, self.path)
        else:
            at = position if position is not None else now.position
            pose = Pose(at, facing if facing is not None else now.facing, up, where=self.path)
        self._stand_at(pose)

    def _stand_at(self, pose: Pose) -> None:
        raise NotImplementedError

    def _box(self) -> Box3 | None:
        """The box around it in the world; None if it cannot be met."""
        raise NotImplementedError

    def _met_by(self, origin: Vector3, direction: Vector3, far: float, deep: bool) -> Sequence[Met]:
        """The places where a ray meets it before ``far``, nearest first, if anything is hit there."""
        raise NotImplementedError

    def _posed(self) -> None:
        scene = self._scene
        if scene is not None:
            assert scene._world_index is not None
            scene._world_index.moved(self)  # type: ignore[arg-type]


class Met:
    """A panel or a spot that a ray meets.

    :ivar distance: how far along the ray, metres. :ivar root: the panel or the spot.
    :ivar nodes: what is hit there, front to back. :ivar at: of a panel, where, in its pixels.
    :ivar normal: of a spot, what stands square on it there, in its own space.
    :ivar beside: whether it is not met itself, but reached (law H5).
    :ivar blocks: whether it is a panel's back that lets nobody through (law X2).
    """

    __slots__ = ("at", "beside", "blocks", "distance", "nodes", "normal", "root")

    def __init__(
        self,
        distance: float,
        root: Panel | Spot,
        nodes: list[Node],
        at: tuple[float, float] | None,
        normal: Vector3 | None,
        blocks: bool = False,
    ) -> None:
        self.distance = distance
        self.root = root
        self.nodes = nodes
        self.at = at
        self.normal = normal
        self.blocks = blocks
        self.beside = False

    @property
    def stops_input(self) -> bool:
        """Whether the ray ends there."""
        return self.blocks or (bool(self.nodes) and self.nodes[-1].stops_input)


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
        self._numbers: dict[Panel | Spot, int] = {}
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
