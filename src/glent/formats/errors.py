"""What is wrong with a file, as sentences that name file, place, what stood there and what was expected."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from pydantic import ValidationError

from glent.core.errors import GlentError

__all__ = ["FileError", "Problem", "place_of", "problems_of", "shown"]

Problem = tuple[str, str]
"""Where in the file, and what is wrong there."""


class FileError(GlentError, ValueError):
    """A file that cannot be read as what it should be.

    :ivar file: its name as given. :ivar problems: pairs of place and sentence, in the order of the file.
    """

    def __init__(self, file: str, problems: Sequence[Problem]) -> None:
        self.file = file
        self.problems = tuple(problems)
        super().__init__("\n".join(f"{file}: {f'at {place}: ' if place else ''}{what}" for place, what in problems))


def shown(value: object, maximum: int = 60) -> str:
    """A value as it may stand in a sentence: short, on one line."""
    if isinstance(value, dict):
        text = f"a mapping with {', '.join(map(str, list(value)[:5])) or 'nothing in it'}"
    elif isinstance(value, list | tuple) and len(value) > 4:
        text = f"a list of {len(value)}"
    else:
        text = repr(value)
    return text if len(text) <= maximum else text[: maximum - 1] + "…"


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
        kind, message, found = item["type"], item["msg"], item["input"]
        if kind == "missing":
            problems.append((where(loc), "is missing; expected it here"))
        elif kind == "extra_forbidden":
            problems.append((where(loc), f"found an unknown key with {shown(found)}; expected {known(loc)}"))
        elif kind == "union_tag_invalid":
            given = item["ctx"]
            what = f"found {given['tag']!r}; expected one of {given['expected_tags'].replace(chr(39), '')}"
            problems.append((where((*loc, given["discriminator"].strip("'"))), what))
        else:
            problems.append((where(loc), f"found {shown(found)}; {_sentence(message)}"))
    return problems


def _sentence(message: str) -> str:
    for prefix in ("Value error, ", "Assertion failed, "):
        message = message.removeprefix(prefix)
    if message.startswith("Input should be "):
        return "expected " + message.removeprefix("Input should be ")
    return message[0].lower() + message[1:] if message[:2] != message[:2].upper() else message
