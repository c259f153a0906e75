"""The attributes of a node that gestures go by: scroll areas, axes, drop targets, feel, recognisers of the user's
own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import Any

from glent.core.arguments import is_choice
from glent.core.errors import SceneError
from glent.core.input.feel import checked_feel
from glent.core.scene import checks
from glent.core.scene.input_attributes import InputAttributes
from glent.core.scene.kinds import CONTEST_ORDER, GESTURES, OWN_OF_ONE, OWN_OF_SEVERAL, TARGETED

__all__ = ["GESTURE_NAMES", "Accepts", "GestureAttributes", "GestureTraits"]

Accepts = Callable[[Any], "bool | str | None"]
"""Asked with a payload: True or None to accept it; False, or a reason in words, to refuse it."""

AXES = (None, "x", "y")
NOTES = ("control", "wiring", "suppress")
"""What is declared of a node for those above the core."""


@dataclass(slots=True)
class GestureTraits:
    """The attributes below in one object, which most nodes share because most have none of them."""

    scrolls: bool = False
    axis: str | None = None
    content: tuple[float, float] | None = None
    accepts: Accepts | None = None
    feel: Mapping[str, Any] | None = None
    slides: bool = False
    recognisers: tuple[type[Any], ...] = ()
    notes: Mapping[str, Any] | None = None


_PLAIN = GestureTraits()


class GestureAttributes(InputAttributes):
    """The attributes of a node that gestures go by.

    :ivar scrolls: whether wheel and drags scroll its content (law G4); it is solid by default then.
    :ivar axis: the one axis of its own space, ``x`` or ``y``, along which it is dragged, scrolled or swiped;
        None: both (law G5).
    :ivar content: width and height of what it scrolls, or of what a renderer draws in it, a text for example, in
        node-local pixels; None: by its flow, or as far as its children reach. A size that fits goes by it (law L2).
    :ivar accepts: asked beforehand whether a payload may be dropped here: True or None accepts, False or a reason in
        words refuses (law G3). Without it a node that listens for ``drop`` accepts everything.
    :ivar slides: whether a press that goes from one of the controls below it to another presses that one instead, as on
        a keyboard (law P13).
    :ivar feel: fields of :class:`Feel` that are otherwise for this node and what is below it, by name.
    :ivar notes: what is declared of a node for those above the core, by keyword: ``control``, ``wiring`` and
        ``suppress`` (findings of a check that are meant, by code, each with its reason), as a scene
        file has them. The core does not look into them. What a toolkit keeps on a node goes into its ``facts``.
    """

    __slots__ = ("_gesture_traits", "_gestures", "_target")

    def __init__(self) -> None:
        super().__init__()
        self._gesture_traits = _PLAIN
        self._gestures: tuple[str, ...] | None = None
        """The gestures that it asks for, in the order of the contest, or None."""
        self._target = False

    def listens(self, kind: str) -> bool:
        """Whether a handler for this kind is on this very node, in either phase."""
        raise NotImplementedError

    def _derive(self) -> None:
        raise NotImplementedError

    def _changed(self) -> None:
        raise NotImplementedError

    def _refitted(self) -> None:
        """Note that its content has another size now."""
        raise NotImplementedError

    @property
    def wants_input(self) -> bool:
        """Whether an attribute here asks for input, as a handler would (law S3)."""
        traits = self._gesture_traits
        return traits is not _PLAIN and (traits.scrolls or traits.accepts is not None or bool(traits.recognisers))

    @property
    def is_target(self) -> bool:
        """Whether something can be dropped here, or at least dragged over it (law G3)."""
        return self._target

    def _derive_gestures(self) -> None:
        names = {gesture for kind, gesture in GESTURES.items() if self.listens(kind)}
        if self._gesture_traits.scrolls:
            names.add("scroll")
        names.update(OWN_OF_SEVERAL if own.pointers > 1 else OWN_OF_ONE for own in self._gesture_traits.recognisers)
        self._gestures = tuple(name for name in CONTEST_ORDER if name in names) if names else None
        self._target = self._gesture_traits.accepts is not None or any(map(self.listens, TARGETED))

    def _set_traits(self, where: str, given: Mapping[str, Any]) -> None:
        """Check and set some of them. A refused one changes nothing."""
        checked = {name: _CHECKS[name](value, name, where) for name, value in given.items()}
        self._gesture_traits = replace(self._gesture_traits, **checked)
        self._derive_gestures()

    def _change(self, **given: Any) -> None:
        self._set_traits(self.path, given)
        self._derive()
        self._changed()

    # -- attributes that can be set ------------------------------------------------------------------------------

    @property
    def scrolls(self) -> bool:
        return self._gesture_traits.scrolls

    @scrolls.setter
    def scrolls(self, value: bool) -> None:
        self._change(scrolls=value)

    @property
    def slides(self) -> bool:
        return self._gesture_traits.slides

    @slides.setter
    def slides(self, value: bool) -> None:
        self._change(slides=value)

    @property
    def axis(self) -> str | None:
        return self._gesture_traits.axis

    @axis.setter
    def axis(self, value: str | None) -> None:
        self._change(axis=value)

    @property
    def content(self) -> tuple[float, float] | None:
        return self._gesture_traits.content

    @content.setter
    def content(self, value: tuple[float, float] | None) -> None:
        self._change(content=value)
        self._refitted()

    @property
    def accepts(self) -> Accepts | None:
        return self._gesture_traits.accepts

    @accepts.setter
    def accepts(self, value: Accepts | None) -> None:
        self._change(accepts=value)

    @property
    def feel(self) -> Mapping[str, Any] | None:
        return self._gesture_traits.feel

    @feel.setter
    def feel(self, value: Mapping[str, Any] | None) -> None:
        self._change(feel=value)

    @property
    def notes(self) -> Mapping[str, Any] | None:
        return self._gesture_traits.notes

    @notes.setter
    def notes(self, value: Mapping[str, Any] | None) -> None:
        self._set_traits(self.path, {"notes": value})

    def recognise(self, recogniser: type[Any]) -> None:
        """Add a gesture of your own, a subclass of :class:`Recogniser`, to those that compete for presses here.

        :raises SceneError: it is no such class, or the node has been removed.
        """
        if not isinstance(recogniser, type) or not hasattr(recogniser, "wants"):
            raise SceneError(f"{self.path}: {recogniser!r} cannot be recognised, expected a subclass of Recogniser")
        if self.scene is None:
            raise SceneError(f"{self.path}: cannot recognise anything, the node has been removed")
        self._change(recognisers=(*self._gesture_traits.recognisers, recogniser))


def _axis(value: object, key: str, where: str) -> object:
    if not is_choice(value, AXES):
        raise SceneError(f"{where}: axis is {value!r}, expected None, 'x' or 'y'")
    return value


def _accepts(value: object, key: str, where: str) -> object:
    if value is not None and not callable(value):
        raise SceneError(f"{where}: accepts is {value!r}, expected something to call with a payload")
    return value


def _notes(value: object, key: str, where: str) -> Mapping[str, Any] | None:
    if value is None:
        return None
    if not isinstance(value, Mapping):
        raise SceneError(f"{where}: notes is {value!r}, expected None or a mapping from keywords")
    for keyword in value:
        if not is_choice(keyword, NOTES) or keyword is None:
            raise SceneError(
                f"{where}: notes has {keyword!r}, expected {', '.join(NOTES)}; what a toolkit keeps goes into facts"
            )
    return MappingProxyType(dict(value))


def _extent(value: object, key: str, where: str) -> tuple[float, float] | None:
    if value is None:
        return None
    if isinstance(value, tuple | list) and len(value) == 2:
        return checks.number(value[0], "content", where, 0.0), checks.number(value[1], "content", where, 0.0)
    raise SceneError(f"{where}: content is {value!r}, expected None or a width and a height")


_CHECKS: dict[str, Callable[[Any, str, str], Any]] = {
    "scrolls": checks.flag,
    "slides": checks.flag,
    "axis": _axis,
    "content": _extent,
    "accepts": _accepts,
    "feel": lambda value, key, where: checked_feel(value, where),
    "recognisers": lambda value, key, where: value,
    "notes": _notes,
}
"""What checks each, called with the value, its name, and what errors call the node."""
GESTURE_NAMES = tuple(name for name in _CHECKS if name != "recognisers")
"""The names of those that can be given as keywords."""
