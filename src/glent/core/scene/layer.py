"""Screen-sized roots of trees; their order is the z-order of whole screens."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.scene.island import Island
from glent.core.scene.node import Node
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene

__all__ = ["Layer"]


class Layer(Node):
    """The root node of its tree, as large as the scene. Made by :meth:`Scene.layer`.

    Its ``order`` decides among layers: higher is in front (law H1). Its solidity is ``hollow`` unless set, whatever
    handlers it has: a listener on a layer hears what bubbles up to it and never turns the whole screen solid.
    """

    __slots__ = ()

    def __init__(self, scene: Scene, name: str, order: float) -> None:
        super().__init__(scene, None, name)
        self._order = order
        self._solidity = self._effective = "hollow"
        self._own = Island(self)

    @property
    def place(self) -> Place:
        return self._place

    @place.setter
    def place(self, value: Place) -> None:
        raise SceneError(f"{self.path}: a layer is as large as the scene and has no place to set")
