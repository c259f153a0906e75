"""The types of what goes between UI and game: few, and plain enough to be written into a contract."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any

__all__ = ["EXPECTED", "NOTHING", "TYPES", "is_of", "type_of"]

NOTHING: Any = object()
"""Stands for an argument that was not given, where None could be one."""


def _is_number(value: object) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value)


TYPES: Mapping[str, Callable[[Any], bool]] = {
    "nothing": lambda value: value is NOTHING,
    "bool": lambda value: isinstance(value, bool) or value == "mixed",
    "number": _is_number,
    "text": lambda value: isinstance(value, str),
    "names": lambda value: isinstance(value, tuple | list) and all(isinstance(one, str) for one in value),
    "pair": lambda value: isinstance(value, tuple | list) and len(value) == 2 and all(map(_is_number, value)),
    "any": lambda value: True,
}
"""By name, whether a value is of that type. ``nothing``: nothing is passed; ``names``: several texts; ``pair``: two
numbers."""


EXPECTED = {"bool": "True or False", "number": "a number", "text": "a text", "names": "names", "pair": "two numbers"}
"""What messages call the types that a player can set."""


def is_of(value: Any, kind: str) -> bool:
    """Whether a value is of a type."""
    return TYPES[kind](value)


def type_of(value: Any) -> str:
    """The narrowest type that a value is of."""
    return next(name for name in ("nothing", "number", "text", "bool", "names", "pair", "any") if TYPES[name](value))
