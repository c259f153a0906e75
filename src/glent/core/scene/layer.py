"""Screen-sized roots of trees; their order is the z-order of whole screens."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.scene.island import Island
from glent.core.scene.node import Node
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene

__all__ = ["CHANNELS", "CURSORS", "TRANSITIONS", "Layer", "checked_claims", "checked_cursor"]

CHANNELS = ("pointer", "keys", "pad", "text")
CURSORS = ("shown", "hidden", "locked")
TRANSITIONS = (None, "deaf", "keep")


class Layer(Node):
    """The root node of its tree, as large as the scene. Made by :meth:`Scene.layer`.

    Its ``order`` decides among layers: higher is in front (law H1). Its solidity is ``hollow`` unless set, whatever
    handlers it has: a listener on a layer hears what bubbles up to it and never turns the whole screen solid.
    """

    __slots__ = ("_claims", "_cursor", "_transition")

    def __init__(self, scene: Scene, name: str, order: float) -> None:
        super().__init__(scene, None, name)
        self._claims: frozenset[str] = frozenset()
        self._cursor: str | None = None
        self._transition: str | None = None
        self._order = order
        self._solidity = self._effective = "hollow"
        self._own = Island(self)

    @property
    def place(self) -> Place:
        return self._place

    @place.setter
    def place(self, value: Place) -> None:
        raise SceneError(f"{self.path}: a layer is as large as the scene and has no place to set")

    def _note(self) -> None:
        if self._scene is not None:
            self._scene.version += 1
            self._scene.layout += 1

    @property
    def claims(self) -> frozenset[str]:
        return self._claims

    @claims.setter
    def claims(self, value: Iterable[str]) -> None:
        self._claims = checked_claims(value, self.path)
        self._note()

    @property
    def cursor(self) -> str | None:
        return self._cursor

    @cursor.setter
    def cursor(self, value: str | None) -> None:
        self._cursor = checked_cursor(value, self.path)
        self._note()

    @property
    def transition(self) -> str | None:
        return self._transition

    @transition.setter
    def transition(self, value: str | None) -> None:
        if value not in TRANSITIONS:
            raise SceneError(f"{self.path}: transition is {value!r}, expected None, 'deaf' or 'keep'")
        self._transition = value
        self._note()


def checked_claims(value: object, where: str) -> frozenset[str]:
    """The channels of a claim.

    :raises SceneError: one of them is no channel; the message names all that are.
    """
    given = (value,) if isinstance(value, str) else tuple(value) if isinstance(value, Iterable) else (value,)
    for channel in given:
        if channel not in CHANNELS:
            raise SceneError(f"{where}: claims names {channel!r}, expected channels among {', '.join(CHANNELS)}")
    return frozenset(given)


def checked_cursor(value: str | None, where: str) -> str | None:
    """What a layer says of the cursor.

    :raises SceneError: it is none of the known states.
    """
    if value is not None and value not in CURSORS:
        raise SceneError(f"{where}: cursor is {value!r}, expected None or one of {', '.join(CURSORS)}")
    return value
