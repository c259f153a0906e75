"""Checks of arguments, whatever is given: each says yes or no, and raises nothing.

Who asks knows the error and the words for it. Nothing here compares by ``==``, calls, or converts what it does not
know: an array has no truth value, and a whole number may be too large for a float.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Mapping
from typing import Any, TypeGuard

__all__ = ["has_halves", "is_choice", "is_number", "listed"]

_HALVES = re.compile("[\ud800-\udfff]")
LARGEST = 1.7976931348623157e308


def is_number(value: object) -> TypeGuard[float]:
    """Whether a value is a finite number that a float can be; True and False are none."""
    return isinstance(value, int | float) and not isinstance(value, bool) and -LARGEST <= value <= LARGEST


def is_choice(value: object, choices: Collection[object]) -> TypeGuard[str | None]:
    """Whether a value is one of some words, or None where that is among them."""
    return (isinstance(value, str) or value is None) and value in choices


def listed(value: object) -> tuple[Any, ...] | None:
    """What is in a collection; None if it is none, or a text, or a mapping."""
    if isinstance(value, str | bytes | Mapping) or not isinstance(value, Iterable):
        return None
    try:
        return tuple(value)
    except TypeError:  # an array of no dimension
        return None


def has_halves(text: str) -> bool:
    """Whether a text has half a character in it (a lone surrogate), which no file could hold."""
    return not text.isascii() and _HALVES.search(text) is not None
