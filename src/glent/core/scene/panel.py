"""A tree of nodes on a flat or curved surface that stands in the world (laws X1–X3, X6)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any

from glent.core.arguments import is_choice
from glent.core.errors import SceneError
from glent.core.geometry.world.pose import Pose
from glent.core.geometry.world.surfaces import Curved, Flat
from glent.core.scene import checks
from glent.core.scene.fit import check_size
from glent.core.scene.posed import Met, Posed
from glent.core.scene.root import Frame, Root

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.surfaces import Surface
    from glent.core.geometry.world.vectors import Box3, Vector3
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["REVERSES", "Panel"]

REVERSES = ("through", "blocked")


class Panel(Root, Posed):
    """The root node of a tree on a surface in the world. Made by :meth:`Scene.panel`.

    Its space is in logical pixels like a layer's: x to the right and y down, from its top left corner as seen by
    someone who looks at its front. Nothing of it is hit beyond its edges. Its ``order`` decides between panels that
    lie in one another: the higher is in front.

    :ivar size_in_metres: width and height in the world; the width of a curved one is measured along its arc.
    :ivar pixels: the same in logical pixels.
    :ivar radius: of the cylinder that a curved one is part of, metres: above zero it is hollow towards its front, below
        zero it bulges; None: flat.
    :ivar two_sided: whether it is hit from behind too, at the same points.
    :ivar reverse: what its back is otherwise: ``through``, as if it were not there, or ``blocked``: nobody gets what
        comes there (law X2).
    :ivar range: how far away a ray may begin and still hit it, metres; None: however far.
    """

    __slots__ = ("_back", "_pose", "_range", "_size", "_surface", "_two_sided")

    _what = "panel"
    _in_world = True

    def __init__(self, scene: Scene, name: str, order: float) -> None:
        super().__init__(scene, name, order)
        self._two_sided = False
        self._back = "through"
        self._range: float | None = None
        self._pose = Pose()
        self._surface: Surface = Flat((1.0, 1.0), (1.0, 1.0))

    # -- where and how large it is -----------------------------------------------------------------------------------

    def _reshape(self, size: Any, pixels: Any, radius: Any, arc: Any, where: str) -> None:
        """Take this size. A refused one changes nothing."""
        if radius is not None:
            checks.number(radius, "radius", where)
            if abs(radius) < 1e-6:
                raise SceneError(f"{where}: radius is {radius!r}, expected None or metres, not zero")
        if arc is not None:
            if radius is None:
                raise SceneError(f"{where}: arc is {arc!r} without a radius; expected both, or neither")
            if isinstance(arc, bool) or not isinstance(arc, int | float) or not 0.0 < arc <= 360.0:
                raise SceneError(f"{where}: arc is {arc!r}, expected degrees above 0 and at most 360")
            width = abs(radius) * math.radians(arc)
            if isinstance(size, tuple | list) and len(size) == 2 and size[0] is None:
                size = (width, size[1])
            elif isinstance(size, tuple | list) and len(size) == 2 and not _alike(size[0], width):
                raise SceneError(
                    f"{where}: size is {size!r}, and an arc of {arc:g}° of radius {radius:g} m is {width:g} m wide;"
                    " expected a width that agrees, or None for it"
                )
        checked = check_size(size, f"{where}: size in metres")
        if radius is not None and checked[0] > 2.0 * math.pi * abs(radius) * (1.0 + 1e-9):
            raise SceneError(f"{where}: size is {size!r}, which is more than once round a radius of {radius:g} m")
        in_pixels = check_size(pixels, f"{where}: pixels")
        self._surface = Flat(checked, in_pixels) if radius is None else Curved(checked, in_pixels, float(radius))

    def _frame(self) -> Frame:
        return (*self._surface.pixels, None, None)

    @property
    def surface(self) -> Surface:
        """Its surface, as geometry."""
        return self._surface

    @property
    def size_in_metres(self) -> tuple[float, float]:
        return self._surface.width, self._surface.height

    @property
    def pixels(self) -> tuple[float, float]:
        return self._surface.pixels

    @property
    def radius(self) -> float | None:
        return self._surface.radius if isinstance(self._surface, Curved) else None

    @property
    def arc(self) -> float | None:
        """The part of the cylinder that a curved one covers, degrees; None: flat."""
        return math.degrees(self._surface.width / abs(self.radius)) if self.radius is not None else None

    def resize(
        self,
        size: tuple[float | None, float],
        pixels: tuple[float, float],
        radius: float | None = None,
        arc: float | None = None,
    ) -> None:
        """Give it another size and curve, as in :meth:`Scene.panel`.

        :raises SceneError: as there; nothing has changed then.
        """
        self._reshape(size, pixels, radius, arc, self.path)
        self._changed()

    def _stand_at(self, pose: Pose) -> None:
        self._pose = pose
        self._posed()

    def _changed(self) -> None:
        super()._changed()
        self._posed()

    def _box(self) -> Box3 | None:
        return self._pose.box_around(self._surface.bounds()) if self._visible and self._solidity != "ghost" else None

    def _met_by(self, origin: Vector3, direction: Vector3, far: float, deep: bool) -> Sequence[Met]:
        pose = self._pose
        if self._range is not None:
            far = min(far, self._range)
        met = []
        for t, x, y, front in self._surface.crossings(pose.into(origin), pose.into_way(direction), far):
            if not front and not self._two_sided:
                if self._back == "blocked":
                    met.append(Met(t, self, [], (x, y), None, blocks=True))
                continue
            nodes: list[Node] = []
            assert self._own is not None
            self._own.meet(self, x, y, nodes, deep)
            if nodes or deep:
                met.append(Met(t, self, nodes, (x, y), None))
        return met

    @property
    def two_sided(self) -> bool:
        return self._two_sided

    @two_sided.setter
    def two_sided(self, value: bool) -> None:
        self._two_sided = checks.flag(value, "two_sided", self.path)
        self._note()

    @property
    def reverse(self) -> str:
        return self._back

    @reverse.setter
    def reverse(self, value: str) -> None:
        if not is_choice(value, REVERSES):
            raise SceneError(f"{self.path}: reverse is {value!r}, expected one of {', '.join(REVERSES)}")
        self._back = value
        self._note()

    @property
    def range(self) -> float | None:
        return self._range

    @range.setter
    def range(self, value: float | None) -> None:
        self._range = None if value is None else float(checks.number(value, "range", self.path, 0.0))
        self._note()

    # -- between its pixels and the world ----------------------------------------------------------------------------

    def to_world(self, x: float, y: float) -> Vector3:
        """A point of the panel, in its pixels, in world space."""
        return self._pose.out(self._surface.point(x, y))

    def from_ray(self, ray: Ray, near: tuple[float, float] | None = None) -> tuple[float, float] | None:
        """The point where a ray comes through its surface, extended beyond its edges, in its pixels; None if there is
        none.

        :param near: where it was last, so that a curved one goes on from there (law X6).
        """
        pose = self._pose
        return self._surface.extended(pose.into(ray.origin), pose.into_way(ray.direction), near)

    def foot(self, point: Vector3) -> tuple[float, float, float]:
        """The point of its surface, extended, nearest to one of the world: in its pixels, and how far in front of it
        that is, metres."""
        return self._surface.foot(self._pose.into(point))

    def normal(self, x: float, y: float) -> Vector3:
        """The normal of its front at a point, in world space, of length 1."""
        return self._pose.out_normal(self._surface.normal(x, y))


def _alike(value: object, other: float) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and math.isclose(value, other, rel_tol=1e-6)
