"""Screen-sized roots of trees; their order is the z-order of whole screens."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from glent.core.arguments import is_choice
from glent.core.errors import SceneError
from glent.core.scene import checks
from glent.core.scene.fit import fitted_into
from glent.core.scene.root import Frame, Root

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene

__all__ = ["CHANNELS", "CURSORS", "TRANSITIONS", "Layer", "checked_claims", "checked_covers", "checked_cursor"]

CHANNELS = ("pointer", "keys", "pad", "text")
CURSORS = ("shown", "hidden", "locked")
COVERS = ("scene", "window")
WHOLE = (0.0, 0.0, 1.0, 1.0)
"""The viewport that is all of the window."""
TRANSITIONS = (None, "ignores", "keeps_press")


class Layer(Root):
    """The root node of its tree, as large as the scene. Made by :meth:`Scene.layer`.

    Its ``order`` decides among layers: higher is in front (law H1).

    :ivar claims: the channels it keeps from the world while it shows (law W2). :ivar cursor: what the cursor should be
        then (law W5). :ivar transition: ``ignores`` or ``keeps_press`` while it slides in, else None (law W2).
    :ivar covers: what it lies over: ``scene``, or ``window``: all of the window, or of its seat's viewport, also where
        the scene leaves bars, or is cut off. Its units are the scene's; places at its edges are at the window's.
    :ivar shortcuts_first: whether a shortcut that shares a control with ``back`` is asked before it closes something
        here (law F5).
    """

    __slots__ = ("_claims", "_covers", "_cursor", "_shortcuts_first", "_transition")

    _what = "layer"

    def __init__(self, scene: Scene, name: str, order: float) -> None:
        super().__init__(scene, name, order)
        self._claims: frozenset[str] = frozenset()
        self._cursor: str | None = None
        self._transition: str | None = None
        self._shortcuts_first = False
        self._covers = "scene"

    def _frame(self) -> Frame:
        scene = self._scene
        assert scene is not None
        seats = self._input_traits.seats
        viewport = scene._viewports.get(next(iter(seats))) if seats is not None and len(seats) == 1 else None
        if viewport is None and self._covers == "scene":
            return (*scene.layer_size, None, None)
        forward, (width, height) = fitted_into(
            viewport or WHOLE, scene._fit, scene._size, scene._window, scene._to_screen, self._covers == "window"
        )
        return width, height, forward, (1.0 / forward[0], 0.0, 0.0, 1.0 / forward[0], 0.0, 0.0)

    @property
    def claims(self) -> frozenset[str]:
        return self._claims

    @claims.setter
    def claims(self, value: Iterable[str]) -> None:
        self._claims = checked_claims(value, self.path)
        self._note()

    @property
    def covers(self) -> str:
        return self._covers

    @covers.setter
    def covers(self, value: str) -> None:
        self._covers = checked_covers(value, self.path)
        if self._scene is not None:
            self._scene._index.changed(self)
            self._scene._layout += 1

    @property
    def cursor(self) -> str | None:
        return self._cursor

    @cursor.setter
    def cursor(self, value: str | None) -> None:
        self._cursor = checked_cursor(value, self.path)
        self._note()

    @property
    def shortcuts_first(self) -> bool:
        return self._shortcuts_first

    @shortcuts_first.setter
    def shortcuts_first(self, value: bool) -> None:
        self._shortcuts_first = checks.flag(value, "shortcuts_first", self.path)

    @property
    def transition(self) -> str | None:
        return self._transition

    @transition.setter
    def transition(self, value: str | None) -> None:
        if not is_choice(value, TRANSITIONS):
            raise SceneError(f"{self.path}: transition is {value!r}, expected None, 'ignores' or 'keeps_press'")
        self._transition = value
        self._note()


def checked_claims(value: object, where: str) -> frozenset[str]:
    """Check the channels of a claim.

    :raises SceneError: one of them is no channel; the message names all that are.
    """
    given = (value,) if isinstance(value, str) else tuple(value) if isinstance(value, Iterable) else (value,)
    for channel in given:
        if not is_choice(channel, CHANNELS):
            raise SceneError(f"{where}: claims names {channel!r}, expected channels among {', '.join(CHANNELS)}")
    return frozenset(given)


def checked_covers(value: object, where: str) -> str:
    """Check what a layer covers.

    :raises SceneError: neither of the two.
    """
    if not isinstance(value, str) or value not in COVERS:
        raise SceneError(f"{where}: covers is {value!r}, expected {' or '.join(COVERS)}")
    return value


def checked_cursor(value: str | None, where: str) -> str | None:
    """Check the cursor of a layer.

    :raises SceneError: it is none of the known states.
    """
    if value is not None and not is_choice(value, CURSORS):
        raise SceneError(f"{where}: cursor is {value!r}, expected None or one of {', '.join(CURSORS)}")
    return value
