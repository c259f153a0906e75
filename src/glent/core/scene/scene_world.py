"""The world's part of a scene: panels, spots, and the camera they are seen by (laws X1–X5)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any, Unpack, cast

from glent.core.errors import SceneError
from glent.core.geometry.affine import apply
from glent.core.scene import checks
from glent.core.scene.space import to_scene

if TYPE_CHECKING:
    from glent.core.geometry.world.camera import Camera
    from glent.core.geometry.world.form import Form
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.scene.index import Index
    from glent.core.scene.keywords import InputKeywords
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot
    from glent.core.scene.world_index import WorldIndex

__all__ = ["SceneWorld", "checked_camera"]


class SceneWorld:
    """The world's part of a scene. What it needs is loaded with the first panel, spot or camera."""

    __slots__ = ("_camera", "_version", "_world_index")

    _index: Index

    def __init__(self) -> None:
        self._world_index: WorldIndex | None = None
        """What stands in the world; None as long as nothing does, so that it costs nothing."""
        self._camera: Camera | None = None
        self._version = 0

    def panel(
        self,
        name: str,
        size: tuple[float | None, float],
        pixels: tuple[float, float],
        position: Vector3 = (0.0, 0.0, 0.0),
        facing: Vector3 = (0.0, 0.0, 1.0),
        up: Vector3 | None = None,
        matrix: Any = None,
        radius: float | None = None,
        arc: float | None = None,
        two_sided: bool = False,
        reverse: str = "through",
        range: float | None = None,
        order: float = 0,
        visible: bool = True,
        **terms: Unpack[InputKeywords],
    ) -> Panel:
        """Put up a panel: a tree of nodes on a surface in the world (laws X1–X3).

        :param size: width and height in metres. :param pixels: width and height of its space, logical pixels.
        :param position: where its middle is, world space, metres.
        :param facing: the way its front looks. :param up: what is up for it, as for :class:`Pose`.
        :param matrix: instead of these three, a 4×4 matrix from its space (x right, y up, z out of its front) to the
            world.
        :param radius: of the cylinder a curved one is part of, metres: above zero, its sides come towards who looks at
            its front; below zero, they go away. :param arc: how much of it, degrees; then the width can be None.
        :param two_sided: whether it is hit from behind too. :param reverse: ``through`` or ``blocked``, if it is not.
        :param range: how far away a ray may begin and still hit it, metres.
        :param order: between panels that lie in one another, the higher is in front.
        :param terms: any of the attributes of :class:`InputAttributes`.
        :raises SceneError: the name is taken or none, a number is not finite or out of range, the matrix is singular;
            the message names the panel and the value.
        """
        from glent.core.geometry.world.pose import Pose
        from glent.core.scene.panel import Panel

        self._check_free(name)
        scene = cast("Scene", self)
        panel = Panel(scene, name, checks.number(order, "order", name))
        panel._pose = Pose(position, facing, up, matrix, where=name)
        panel._reshape(size, pixels, radius, arc, name)
        panel._two_sided = checks.flag(two_sided, "two_sided", name)
        panel._visible = checks.flag(visible, "visible", name)
        panel._scene = None  # the setters below check, and tell a scene that does not have it yet
        panel.reverse, panel.range = reverse, range
        panel._set_terms(name, terms)
        panel._scene = scene
        self._stand(panel)
        return panel

    def spot(
        self,
        name: str,
        form: Form,
        position: Vector3 = (0.0, 0.0, 0.0),
        facing: Vector3 = (0.0, 0.0, 1.0),
        up: Vector3 | None = None,
        matrix: Any = None,
        role: str | None = None,
        solidity: str | None = None,
        reach: float | Mapping[str, float] | None = None,
        visible: bool = True,
        enabled: bool = True,
        tags: Iterable[str] = (),
        **terms: Unpack[InputKeywords],
    ) -> Spot:
        """Mark a piece of the game's world that can be pointed at (law X5).

        :param form: ``Cuboid``, ``Sphere``, ``SnapPoint``, ``Rectangle``, ``Area`` or ``Mesh``, in a space of its own.
        :param position: where that stands, world space, metres. :param facing: which way its z axis goes.
        :param up: which way its y axis goes, as for :class:`Pose`. :param matrix: a 4×4 matrix instead of the three.
        :param reach: by how much a pointer may miss it: degrees for ``ray``, screen pixels for others (law H5).
        :param terms: any of the attributes of :class:`InputAttributes`.
        :raises SceneError: as :meth:`panel`.
        :raises ShapeError: the form cannot be: the message names the spot, the value and what was expected.
        """
        from glent.core.geometry.world.pose import Pose
        from glent.core.scene.spot import Spot

        self._check_free(name)
        spot = Spot(cast("Scene", self), name)
        spot._pose = Pose(position, facing, up, matrix, where=name)
        spot._reform(form, name)
        spot._role = checks.role(role, name)
        spot._solidity = checks.solidity(solidity, name)
        spot._derive()
        spot._reach = checks.reach(reach, name)
        spot._visible = checks.flag(visible, "visible", name)
        spot._enabled = checks.flag(enabled, "enabled", name)
        spot._tags = checks.tags(tags, name)
        spot._set_terms(name, terms)
        self._index.disabled += not spot._enabled
        self._stand(spot)
        return spot

    def _check_free(self, name: str) -> None:
        raise NotImplementedError

    def _input_traits_changed(self, node: Node) -> None:
        raise NotImplementedError

    def _place_to_stand(self) -> WorldIndex:
        """The index of what stands in the world, made when it is first needed."""
        if self._world_index is None:
            from glent.core.scene.world_index import WorldIndex

            self._world_index = WorldIndex(cast("Scene", self))
        return self._world_index

    def _stand(self, root: Panel | Spot) -> None:
        self._place_to_stand().add(root)
        self._input_traits_changed(root)
        root._changed()

    @property
    def in_world(self) -> tuple[Panel | Spot, ...]:
        """The panels and spots, as they were made."""
        return tuple(self._world_index) if self._world_index is not None else ()

    @property
    def camera(self) -> Camera | None:
        """The camera that sees the world, for seats without one of their own; None: no screen point leads there.

        Set another whenever it moves (law X4).
        """
        return self._camera

    @camera.setter
    def camera(self, value: Camera | None) -> None:
        self._camera = checked_camera(value, "the scene")
        self._version += 1

    def to_world(self, node: Node, x: float = 0.0, y: float = 0.0) -> Vector3:
        """A point of a node on a panel, in its local space, in world space; of a spot, where its pose is.

        :raises SceneError: the node does not stand in the world.
        """
        root: Any = node.root
        if not root._in_world:
            raise SceneError(f"{node.path}: does not stand in the world, it is of a layer")
        self._index.refresh()
        panel = self._world_index.panel_of(node) if self._world_index is not None else None
        where: Vector3 = panel.to_world(*apply(to_scene(node), x, y)) if panel is not None else root.pose.position
        return where


def checked_camera(value: Camera | None, where: str) -> Camera | None:
    """Check None or a camera.

    :raises SceneError: it is neither.
    """
    if value is not None:
        from glent.core.geometry.world.camera import Camera

        if not isinstance(value, Camera):
            raise SceneError(f"{where}: camera is {value!r}, expected None or a Camera")
    return value
