"""What can be changed of a node while its game runs: the attributes that a scene file can tell, with their types.

Each goes by a name; a side of a place by ``place.left`` and so on. Values here are plain, as JSON has them: text,
numbers, true and false, lists, mappings, None.
"""

from __future__ import annotations

import json
import math
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from glent.core.errors import GlentError, SceneError, near
from glent.core.scene.checks import SOLIDITIES
from glent.core.scene.facts import Facts
from glent.core.scene.layer import COVERS, CURSORS, Layer
from glent.core.scene.panel import Panel
from glent.core.scene.root import Root
from glent.core.scene.spot import Spot

if TYPE_CHECKING:
    from glent.core.scene.node import Node

SIDES = ("left", "top", "right", "bottom", "width", "height")

__all__ = [
    "ATTRIBUTES",
    "Attribute",
    "attribute",
    "attributes_of",
    "change_attribute",
    "read_attribute",
    "value_of_text",
]


@dataclass(frozen=True, slots=True)
class Attribute:
    """An attribute that can be changed.

    :ivar name: such as ``order`` or ``place.left``. :ivar kind: ``flag``; ``choice``, one of :attr:`options`;
        ``number``; ``length``: a number, text such as ``50% - 60``, or None; ``text``, or None; ``json``: all else.
    :ivar options: of a choice, what there is to choose from. :ivar group: under which heading it stands.
    """

    name: str
    kind: str
    group: str
    options: tuple[Any, ...] = ()

    @property
    def of_node(self) -> str:
        """The attribute of the node that it is, or is a part of."""
        return self.name.partition(".")[0]


def _all(group: str, *given: tuple[Any, ...]) -> tuple[Attribute, ...]:
    return tuple(Attribute(name, kind, group, tuple(options)) for name, kind, *options in given)


ATTRIBUTES = (
    *_all(
        "input",
        ("visible", "flag"),
        ("enabled", "flag"),
        ("solidity", "choice", None, *SOLIDITIES),
        ("order", "number"),
        ("clips", "flag"),
        ("reach", "json"),
        ("carries", "json"),
    ),
    *_all(
        "place",
        *((f"place.{side}", "length") for side in SIDES),
        ("place.turn", "number"),
        ("place.scale", "json"),
        ("place.grow", "number"),
    ),
    *_all("facts", ("label", "text"), ("description", "text"), ("facts", "json"), ("tags", "json")),
    *_all(
        "focus and modals",
        ("focusable", "choice", None, True, False),
        ("tab_order", "number"),
        ("scope", "flag"),
        ("wrap", "choice", None, "x", "y", "both"),
        ("modal", "flag"),
        ("closed_by", "choice", "none", "back", "any"),
        ("opener", "text"),
        ("seats", "json"),
        ("for_others", "choice", "through", "blocked"),
    ),
    *_all(
        "gestures",
        ("scrolls", "flag"),
        ("slides", "flag"),
        ("axis", "choice", None, "x", "y"),
        ("scroll", "json"),
        ("feel", "json"),
    ),
    *_all(
        "layer",
        ("claims", "json"),
        ("cursor", "choice", None, *CURSORS),
        ("covers", "choice", *COVERS),
        ("shortcuts_first", "flag"),
    ),
    *_all(
        "panel",
        ("two_sided", "flag"),
        ("reverse", "choice", "through", "blocked"),
        ("range", "json"),
    ),
)  # fmt: skip
"""All of them, in the order in which they are shown."""

_BY_NAME = {one.name: one for one in ATTRIBUTES}
_OF_SPOTS = ("visible", "enabled", "solidity", "order", "reach", "carries", "tags", "seats", "for_others", "label",
             "description", "facts", "feel")  # fmt: skip
"""What a file can tell of a spot."""


def attributes_of(node: Node) -> tuple[Attribute, ...]:
    """Those that a node has."""
    if isinstance(node, Spot):
        return tuple(_BY_NAME[name] for name in _OF_SPOTS)
    without = {"place"} if isinstance(node, Root) else set()
    without |= {"layer"} if not isinstance(node, Layer) else set()
    without |= {"panel"} if not isinstance(node, Panel) else set()
    return tuple(one for one in ATTRIBUTES if one.group not in without)


def attribute(node: Node, name: str) -> Attribute:
    """The attribute of a node by name.

    :raises SceneError: it has none of that name that can be changed.
    """
    found = _BY_NAME.get(name)
    known = attributes_of(node)
    if found is None or found not in known:
        names = [one.name for one in known]
        raise SceneError(f"{node.path}: {name!r} is no attribute that can be changed{near(name, names)}")
    return found


def read_attribute(node: Node, name: str) -> Any:
    """What an attribute is now, as a plain value.

    :raises SceneError: as :func:`attribute`.
    """
    attribute(node, name)
    of_node, _, part = name.partition(".")
    return _plain(getattr(node.place, part) if part else getattr(node, of_node))


def change_attribute(node: Node, name: str, value: Any) -> None:
    """Give an attribute another value, a plain one.

    :raises GlentError: there is no such attribute, or it cannot be that; nothing has changed then.
    """
    of_node, _, part = attribute(node, name).name.partition(".")
    if part:
        try:
            value = node.place.replace(**{part: _tuple(value)})
        except (GlentError, TypeError) as error:
            said = error if isinstance(error, GlentError) else f"{name} is {value!r}, expected a length"
            raise SceneError(f"{node.path}: {said}") from None
    elif isinstance(value, list) and of_node in ("scroll", "content"):
        value = _tuple(value)
    setattr(node, of_node, value)


def value_of_text(one: Attribute, text: str) -> Any:
    """What a text that was typed for an attribute means.

    :raises SceneError: it means nothing that this could be.
    """
    text = text.strip()
    if one.kind == "text":
        return text or None
    if not text:
        return None
    if one.kind in ("number", "length"):
        try:
            number = float(text)
        except ValueError:
            number = math.nan
        if math.isfinite(number):
            return int(number) if number.is_integer() else number
        if one.kind == "number":
            raise SceneError(f"{one.name} is {text!r}, expected a number")
        return json.loads(text) if text.startswith("[") and text.endswith("]") else text
    try:
        return json.loads(text)
    except ValueError:
        if text.replace(",", " ").replace("_", "").replace("-", "").replace(" ", "").isalnum():
            return text.replace(",", " ").split()  # words are a list of words
        raise SceneError(f"{one.name} is {text!r}, expected JSON, such as a number or a list of words") from None


def _tuple(value: Any) -> Any:
    return tuple(value) if isinstance(value, list) else value


def _plain(value: Any) -> Any:
    """A value of a node as JSON has it."""
    if isinstance(value, Facts):
        return value.plain()
    if isinstance(value, frozenset):
        return sorted(value)
    if isinstance(value, tuple | list):
        return [_plain(one) for one in value]
    if value is None or isinstance(value, bool | int | float | str):
        return value
    return {key: _plain(one) for key, one in value.items()}
