"""What is wrong with a file, as sentences that name file, place, what stood there and what was expected."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from reprlib import Repr

from pydantic import ValidationError

from glent.core.errors import GlentError
from glent.formats.limits import MAX_PROBLEMS

__all__ = ["FileError", "Problem", "place_of", "problems_of", "shortened", "shown"]

Problem = tuple[str, str]
"""Where in the file, and what is wrong there."""


class FileError(GlentError, ValueError):
    """A file that cannot be read as what it should be.

    :ivar file: its name as given. :ivar problems: pairs of place and sentence, in the order of the file.
    """

    def __init__(self, file: str, problems: Sequence[Problem]) -> None:
        self.file = file
        told = [(shortened(place), what) for place, what in problems[:MAX_PROBLEMS]]
        if len(problems) > MAX_PROBLEMS:
            told.append(("", f"and {len(problems) - MAX_PROBLEMS:,} more"))
        self.problems = tuple(told)
        super().__init__("\n".join(f"{file}: {f'at {place}: ' if place else ''}{what}" for place, what in told))

    def __reduce__(self) -> tuple[type[FileError], tuple[str, tuple[Problem, ...]]]:
        return type(self), (self.file, self.problems)


_REPR = Repr()
_REPR.maxstring = _REPR.maxother = _REPR.maxlong = 70
_REPR.maxlevel = 2


def shown(value: object, maximum: int = 60) -> str:
    """A value as it may stand in a sentence: short, on one line."""
    if isinstance(value, dict):
        some = ", ".join(shortened(str(key), 20) for key in list(value)[:5])
        text = f"a mapping with {some or 'nothing in it'}"
    elif isinstance(value, list | tuple) and len(value) > 4:
        text = f"a list of {len(value)}"
    else:
        text = _REPR.repr(value)
    return text if len(text) <= maximum else text[: maximum - 1] + "…"


def shortened(text: str, maximum: int = 200) -> str:
    """A text with its middle left out where it is longer than that."""
    if len(text) <= maximum:
        return text
    head = (maximum - 1) // 2
    return f"{text[:head]}…{text[len(text) - (maximum - 1 - head) :]}"


def place_of(loc: Sequence[int | str]) -> str:
    """A place as keys and indices: ``layers[0].children[2].place.left``."""
    text = ""
    for part in loc:
        text += f"[{part}]" if isinstance(part, int) else f".{part}" if text else str(part)
    return text


def problems_of(
    error: ValidationError,
    where: Callable[[Sequence[int | str]], str] = place_of,
    known: Callable[[Sequence[int | str]], str] = lambda _: "only the documented keys",
) -> list[Problem]:
    """The errors of a validation as places and sentences."""
    problems = []
    for item in error.errors(include_url=False):
        loc: tuple[int | str, ...] = item["loc"]
        at = where(loc) or "line 1"
        kind, message, found = item["type"], item["msg"], item["input"]
        if kind == "missing":
            problems.append((at, "is missing; expected it here"))
        elif kind in ("model_type", "dict_type"):
            problems.append((at, f"found {shown(found)}; expected a mapping"))
        elif kind == "extra_forbidden":
            problems.append((at, f"found an unknown key with {shown(found)}; expected {known(loc)}"))
        elif kind == "union_tag_invalid":
            given = item["ctx"]
            what = f"found {given['tag']!r}; expected one of {given['expected_tags'].replace(chr(39), '')}"
            problems.append((where((*loc, given["discriminator"].strip("'"))), what))
        else:
            problems.append((at, f"found {shown(found)}; {_sentence(message)}"))
    return problems


def _sentence(message: str) -> str:
    for prefix in ("Value error, ", "Assertion failed, "):
        message = message.removeprefix(prefix)
    if message.startswith("Input should be "):
        return "expected " + message.removeprefix("Input should be ")
    return message[0].lower() + message[1:] if message[:2] != message[:2].upper() else message
