"""A piece of the game world that rays and screen points can land on (law X5)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.errors import SceneError
from glent.core.geometry.world.form import Form
from glent.core.geometry.world.pose import Pose
from glent.core.scene import checks
from glent.core.scene.kinds import MAKES_SOLID
from glent.core.scene.node import Node
from glent.core.scene.place import Place
from glent.core.scene.posed import Met, Posed

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glent.core.geometry.world.vectors import Box3, Vector3
    from glent.core.scene.flow import Flow
    from glent.core.scene.scene import Scene

__all__ = ["Spot"]


class Spot(Posed):
    """A node without children whose form stands in the world. Made by :meth:`Scene.spot`.

    It stops every ray that meets it. Without a handler that wants input it leaves that to the world and is named in
    the verdict (law X1); with one, or ``solid``, it has the input; ``glass`` is asked and lets the ray through;
    ``hollow`` and ``ghost`` are not there.

    :ivar form: what it is made of; set another to change it.
    :ivar pose: where that stands in the world.
    """

    __slots__ = ("_form", "_pose")

    _what = "spot"
    _in_world = True

    def __init__(self, scene: Scene, name: str) -> None:
        super().__init__(scene, None, name)
        self._form: Form = Form()
        self._pose = Pose()
        self._derive()

    def _derive(self) -> None:
        if self._solidity is not None:
            self._effective = self._solidity
        else:
            # Told like glass of what comes there; that rays end there is another matter: see `ends`.
            solid = self._used is not None or self.wants_input or self.listens_any(MAKES_SOLID)
            self._effective = "solid" if solid else "glass"

    @property
    def stops_input(self) -> bool:
        return self._effective == "solid" or self._solidity is None

    def add(self, name: str, **given: Any) -> Node:
        """Refuse: a spot has no children.

        :raises SceneError: always.
        """
        raise SceneError(f"{self.path}/{name}: cannot be added, {self.path} is a spot and has no children")

    @property
    def place(self) -> Place:
        return self._place

    @place.setter
    def place(self, value: Place) -> None:
        raise SceneError(f"{self.path}: a spot has no place to set, it stands where its pose is")

    @property
    def flow(self) -> Flow | None:
        return None

    @flow.setter
    def flow(self, value: Flow | None) -> None:
        raise SceneError(f"{self.path}: a spot has no flow to set, it has no children")

    @property
    def form(self) -> Form:
        return self._form

    @form.setter
    def form(self, value: Form) -> None:
        self._reform(value, self.path)
        self._changed()

    def _reform(self, value: object, where: str) -> None:
        if not isinstance(value, Form):
            raise SceneError(f"{where}: form is {value!r}, expected a form such as Cuboid, Sphere or Area")
        value.prepare(where)
        self._form = value

    def _stand_at(self, pose: Pose) -> None:
        self._pose = pose
        self._posed()

    def _changed(self) -> None:
        super()._changed()
        self._posed()
        if self._scene is not None and self._reach is not None:
            limits = self._scene._index.reach_limits
            for kind in checks.POINTER_KINDS:
                limits[kind] = max(limits.get(kind, 0.0), self.reach_for(kind))

    def _box(self) -> Box3 | None:
        there = self._visible and self._effective in ("solid", "glass")
        return self._pose.box_around(self._form.bounds()) if there else None

    def _met_by(self, origin: Vector3, direction: Vector3, far: float, deep: bool) -> Sequence[Met]:
        pose = self._pose
        if pose.is_shift:
            (x, y, z), (px, py, pz) = origin, pose.position
            meeting = self._form.meet((x - px, y - py, z - pz), direction, far)
        else:
            meeting = self._form.meet(pose.into(origin), pose.into_way(direction), far)
        return () if meeting is None else (Met(meeting[0], self, [self], None, meeting[1]),)

    @property
    def snap(self) -> Vector3 | None:
        """The point in world space that things put down on it snap to; None if its form has none."""
        snap = self._form.snap
        return self._pose.out(snap) if snap is not None else None
