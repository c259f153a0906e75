"""Checks of a node's attributes. Each gives back the value, or raises SceneError naming node and attribute."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType

from glent.core.arguments import has_halves, is_choice, listed
from glent.core.errors import KindError, SceneError
from glent.core.geometry.shape import Shape
from glent.core.scene.flow import Flow
from glent.core.scene.kinds import check_kind
from glent.core.scene.place import LIMIT, Place
from glent.core.scene.roles import CONTROLS, ROLES

DEPTH = 100
"""No tree is deeper than this many nodes below its layer."""
NO_TAGS: frozenset[str] = frozenset()
NO_SCROLL = (0.0, 0.0)
SOLIDITIES = ("solid", "glass", "hollow", "ghost")
POINTER_KINDS = ("mouse", "touch", "pen", "ray")


def name(value: object, where: str) -> None:
    """Check the name of a node.

    :raises SceneError: it is no text, empty, or has a slash or a control character in it.
    """
    if not isinstance(value, str) or not value or "/" in value or not value.isprintable():
        raise SceneError(f"{where}: the name is {value!r}, expected printable text without a slash")


def place(value: object, where: str) -> Place:
    """Check a Place."""
    if not isinstance(value, Place):
        raise SceneError(f"{where}: place is {value!r}, expected a Place")
    return value


def flow(value: object, where: str) -> Flow | None:
    """Check None or a Flow."""
    if value is not None and not isinstance(value, Flow):
        raise SceneError(f"{where}: flow is {value!r}, expected None or a Flow")
    return value


def solidity(value: object, where: str) -> str | None:
    """Check None or a solidity."""
    if value is not None and not is_choice(value, SOLIDITIES):
        raise SceneError(f"{where}: solidity is {value!r}, expected None or one of {', '.join(SOLIDITIES)}")
    return value


def shape(value: object, where: str) -> Shape | None:
    """Check None or a shape."""
    if value is not None and not isinstance(value, Shape):
        raise SceneError(f"{where}: shape is {value!r}, expected None or a shape")
    return value


def flag(value: object, key: str, where: str) -> bool:
    """Check True or False."""
    if not isinstance(value, bool):
        raise SceneError(f"{where}: {key} is {value!r}, expected True or False")
    return value


def number(value: object, key: str, where: str, minimum: float = -LIMIT) -> float:
    """Check a finite number of at least ``minimum``."""
    if isinstance(value, bool) or not isinstance(value, int | float) or not (minimum <= value <= LIMIT):
        raise SceneError(f"{where}: {key} is {value!r}, expected a number from {minimum:g} to {LIMIT:g}")
    return value


def reach(value: object, where: str) -> float | Mapping[str, float] | None:
    """Check None, a number, or a number by pointer kind."""
    if value is None:
        return None
    if isinstance(value, Mapping):
        for kind, by in value.items():
            if not is_choice(kind, POINTER_KINDS):
                raise SceneError(f"{where}: reach names {kind!r}, expected one of {', '.join(POINTER_KINDS)}")
            number(by, f"reach for {kind}", where, 0.0)
        return MappingProxyType(dict(value))  # to change it, set another: only that is noticed
    return number(value, "reach", where, 0.0)


def carries(value: Iterable[str] | None) -> frozenset[str] | None:
    """Check None, or kinds of event."""
    if value is None:
        return None
    given = (value,) if isinstance(value, str) else listed(value)
    if given is None:
        raise KindError(f"carries is {value!r}, expected None or kinds of event")
    return frozenset(map(check_kind, given))


def tags(value: Iterable[str], where: str) -> frozenset[str]:
    """Check words."""
    if value.__class__ is tuple and not value:
        return NO_TAGS
    given = listed(value)
    if given is None or not all(isinstance(tag, str) and tag and not has_halves(tag) for tag in given):
        raise SceneError(f"{where}: tags is {value!r}, expected words in a set, list or tuple")
    return frozenset(given)


def scroll(value: object, where: str) -> tuple[float, float]:
    """Check two numbers."""
    if isinstance(value, tuple | list) and len(value) == 2:
        if tuple(value) == NO_SCROLL:
            return NO_SCROLL
        return float(number(value[0], "scroll", where)), float(number(value[1], "scroll", where))
    raise SceneError(f"{where}: scroll is {value!r}, expected two numbers")


def role(value: str | None, where: str) -> str | None:
    """Check None, or a role that WAI-ARIA knows."""
    if value is not None and not is_choice(value, ROLES):
        raise SceneError(f"{where}: role is {value!r}, expected a WAI-ARIA role such as {', '.join(sorted(CONTROLS))}")
    return value
