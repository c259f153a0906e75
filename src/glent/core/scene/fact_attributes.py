"""The attributes of a node that the core does not go by: what a toolkit keeps on it, and its name for people (ARIA)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, Generic, TypeVar, overload

from glent.core.arguments import has_halves
from glent.core.errors import SceneError
from glent.core.scene.facts import NO_FACTS, Facts, checked_facts
from glent.core.scene.gesture_attributes import GestureAttributes

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["FACT_NAMES", "NO_WORDS", "FactAttributes"]

WORDS = ("label", "labelled_by", "description", "described_by")
NO_WORDS: tuple[str | None, ...] = (None,) * len(WORDS)

In = TypeVar("In")


class _Word(Generic[In]):
    """One of the names for people, as a property of nodes."""

    __slots__ = ("_at", "_name")

    def __set_name__(self, owner: type, name: str) -> None:
        self._name, self._at = name, WORDS.index(name)

    @overload
    def __get__(self, node: None, owner: type) -> _Word[In]: ...
    @overload
    def __get__(self, node: FactAttributes, owner: type) -> str | None: ...
    def __get__(self, node: FactAttributes | None, owner: type) -> Any:
        return self if node is None else node._words[self._at]

    def __set__(self, node: FactAttributes, value: In) -> None:
        before = node._words[self._at]
        node._set_words(node.path, {self._name: value})
        if node._words[self._at] != before:
            node._tell_change(self._name)


class FactAttributes(GestureAttributes):
    """What a toolkit keeps on a node, and what the node is called.

    :ivar facts: anything JSON can hold, by name: text, picture, colour, sound. Files have it under ``facts``. The node
        hears ``change`` when one becomes otherwise, with the names in ``event.data["facts"]``.
    :ivar label: what it is called, by people and by assistive technology (``aria-label``); None: by what it shows.
    :ivar labelled_by: the path of the node whose text is what it is called (``aria-labelledby``). It comes first. A
        node can be given; its path is kept.
    :ivar description: more about it than its name says (``aria-description``).
    :ivar described_by: the path of the node whose text is that (``aria-describedby``).
    """

    __slots__ = ("_facts", "_words")

    def __init__(self) -> None:
        super().__init__()
        self._facts: Mapping[str, Any] = NO_FACTS
        self._words = NO_WORDS

    label: _Word[str | None] = _Word()
    labelled_by: _Word[str | Node | None] = _Word()
    description: _Word[str | None] = _Word()
    described_by: _Word[str | Node | None] = _Word()

    @property
    def facts(self) -> Facts:
        return Facts(self)

    @facts.setter
    def facts(self, value: Mapping[str, Any] | None) -> None:
        self._set_facts(checked_facts(value, self.path))

    def _set_facts(self, kept: dict[str, Any]) -> None:
        """Keep these facts, which have been checked, and tell of those that are otherwise."""
        before, self._facts = self._facts, kept or NO_FACTS
        other = [name for name in {**before, **kept} if not _same(before.get(name, _same), kept.get(name, _same))]
        if other:
            self._tell_change(*other)

    def _set_fact_keywords(self, where: str, given: Mapping[str, Any]) -> None:
        """Check and set the keywords of a node that is not in the tree yet."""
        if "facts" in given:
            self._facts = checked_facts(given["facts"], where) or NO_FACTS
        self._set_words(where, {name: value for name, value in given.items() if name != "facts"})

    def _set_words(self, where: str, given: Mapping[str, Any]) -> None:
        words = list(self._words)
        for name, value in given.items():
            words[WORDS.index(name)] = _CHECKS[name](value, name, where)
        self._words = tuple(words) if any(one is not None for one in words) else NO_WORDS

    def _tell_change(self, *names: str) -> None:
        """Send ``change`` to the node, with the names of what is otherwise."""
        scene = self.scene
        if scene is not None and scene._listeners.get("change") and scene.router is not None:
            scene.router._on_change(self, names)  # type: ignore[arg-type]


def _same(one: object, other: object) -> bool:
    """Whether two facts are the same to JSON, to which 1 and true are not."""
    return one.__class__ is other.__class__ and one == other


def _text(value: object, key: str, where: str) -> str | None:
    if value is not None and (not isinstance(value, str) or has_halves(value)):
        raise SceneError(f"{where}: {key} is {value!r}, expected None or text")
    return value


def _path_of(value: object, key: str, where: str) -> str | None:
    path = getattr(value, "path", value)
    if path is not None and (not isinstance(path, str) or not path or has_halves(path)):
        raise SceneError(f"{where}: {key} is {value!r}, expected None, a node or the path of one")
    return path


_CHECKS: dict[str, Callable[[Any, str, str], str | None]] = {
    "label": _text,
    "labelled_by": _path_of,
    "description": _text,
    "described_by": _path_of,
}
FACT_NAMES = ("facts", *_CHECKS)
"""The names of all of them."""
