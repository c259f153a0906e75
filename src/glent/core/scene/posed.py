"""What stands in the world: the base of panels and spots, and what it is to be met by a ray (laws X1, X2)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from glent.core.geometry.world.pose import Pose
from glent.core.scene.node import Node

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Box3, Vector3

__all__ = ["Met", "Posed"]


class Posed(Node):
    """The base of what stands in the world: a panel, the root of a tree, or a spot, which has no children."""

    __slots__ = ()

    _pose: Pose

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
        root: Posed,
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
