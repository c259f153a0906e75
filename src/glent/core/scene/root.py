"""The root of a tree: a node with a space of its own and no place in another."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.scene.island import Island
from glent.core.scene.node import Node
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine
    from glent.core.scene.scene import Scene

__all__ = ["Frame", "Root"]

Frame = tuple[float, float, "Affine | None", "Affine | None"]
"""Width and height of a root, and the transform from its space to that of the scene, with its inverse."""


class Root(Node):
    """The root node of a tree: a layer, or a panel.

    Its solidity is ``hollow`` unless set, whatever handlers it has: a listener on a root hears what bubbles up to it
    and never turns all of it solid.
    """

    __slots__ = ()

    _what = "root"

    def __init__(self, scene: Scene, name: str, order: float) -> None:
        super().__init__(scene, None, name)
        self._order = order
        self._solidity = self._effective = "hollow"
        self._own = Island(self)

    def _frame(self) -> Frame:
        """Its size, and its transform to the scene's space."""
        raise NotImplementedError

    @property
    def place(self) -> Place:
        return self._place

    @place.setter
    def place(self, value: Place) -> None:
        raise SceneError(f"{self.path}: a {self._what} has no place to set, it is the root of its tree")

    def _note(self) -> None:
        """Note that something has changed that answers may go by."""
        if self._scene is not None:
            self._scene._version += 1
            self._scene._layout += 1
