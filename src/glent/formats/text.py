"""Reading JSON and YAML text into plain values, safely: bounded in size, depth and growth, whatever the file holds."""

from __future__ import annotations

import gc
import json
import math
import os
import re
import shutil
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, NoReturn, TypeVar

from pydantic import BaseModel, ValidationError

from glent.core.arguments import has_halves
from glent.formats.errors import FileError, place_of, problems_of, shown
from glent.formats.limits import MAX_BYTES, MAX_DEPTH, MAX_DIGITS, MAX_VALUES
from glent.formats.yaml_text import loaded

__all__ = [
    "MAX_BYTES",
    "checked_suffix",
    "many_objects",
    "parse",
    "read_bytes",
    "read_document",
    "read_model",
    "whole",
    "whole_characters",
    "write_whole",
]

SUFFIXES = (".json", ".yaml", ".yml")

ModelT = TypeVar("ModelT", bound=BaseModel)


def checked_suffix(path: Path) -> str:
    """The suffix of a file of JSON or YAML, in lower case.

    :raises FileError: it is none.
    """
    suffix = path.suffix.lower()
    if suffix not in SUFFIXES:
        raise FileError(str(path), [("", f"ends in {path.suffix!r}; expected one of {', '.join(SUFFIXES)}")])
    return suffix


def read_document(path: Path) -> Any:
    """The value in a file of JSON or YAML.

    :raises FileError: the suffix is neither's, the file cannot be read, or see :func:`parse`.
    """
    suffix = checked_suffix(path)
    return parse(read_bytes(path, MAX_BYTES), str(path), suffix)


def read_model(path: Path, model: type[ModelT]) -> ModelT:
    """What a file of JSON or YAML says, as a model.

    :raises FileError: as :func:`read_document`, or it says something that the model cannot.
    """
    document = read_document(path)
    try:
        return model.model_validate(document, context={"problems": 0})
    except ValidationError as error:
        raise FileError(str(path), problems_of(error, place_of)) from None


def read_bytes(path: Path, maximum: int) -> bytes:
    """The file's content.

    :raises FileError: it cannot be read, or is larger than ``maximum``.
    """
    try:
        with path.open("rb") as file:
            content = file.read(maximum + 1)
    except OSError as error:
        raise FileError(str(path), [("", f"cannot be read: {error.strerror or error}")]) from None
    if len(content) > maximum:
        raise FileError(str(path), [("", f"is larger than {maximum:,} bytes, the most that is read")])
    return content


@contextmanager
def whole(path: Path) -> Iterator[Path]:
    """A file beside another to be written, which takes its place once all is there; what stood there stays if anything
    fails.

    :raises FileError: it cannot be written.
    """
    aside = path.with_name(f".{path.stem[:100]}.{os.getpid()}.part{path.suffix}")
    try:
        yield aside
        if path.exists():
            shutil.copymode(path, aside)
        aside.replace(path)
    except OSError as error:
        aside.unlink(missing_ok=True)
        raise FileError(str(path), [("", f"cannot be written: {error.strerror or error}")]) from None
    except BaseException:
        aside.unlink(missing_ok=True)
        raise


@contextmanager
def whole_characters(path: Path) -> Iterator[None]:
    """Text is being made that a file is to hold.

    :raises FileError: it has half a character in it (a lone surrogate).
    """
    try:
        yield
    except UnicodeEncodeError as error:
        around = error.object[max(0, error.start - 20) : error.end]
        raise FileError(str(path), [("", f"cannot be written: {around!r} ends in half a character")]) from None


def write_whole(path: Path, content: str | Iterable[str]) -> None:
    """Write text, or lines of it, as UTF-8: whole or not at all.

    :raises FileError: it cannot be written, or has half a character in it (a lone surrogate).
    """
    with whole_characters(path), whole(path) as aside, aside.open("w", encoding="utf-8", newline="") as file:
        file.writelines([content] if isinstance(content, str) else content)


@contextmanager
def many_objects() -> Iterator[None]:
    """Look for no garbage while a file becomes a great many objects: each look would go through all there are by then,
    and none of them is garbage."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()


def parse(content: bytes, file: str, suffix: str) -> Any:
    """The value in a JSON or YAML text, by suffix.

    :raises FileError: no such text; a key twice in one mapping; NaN or infinity in JSON; nested too deep, or a
        reference that runs in a circle; too many values.
    """
    try:
        text = content.decode("utf-8")
    except UnicodeDecodeError as error:
        raise FileError(file, [(f"byte {error.start}", "found text that is not UTF-8; expected UTF-8")]) from None
    try:
        return _json(text, file) if suffix == ".json" else loaded(text, file)
    except RecursionError:
        raise _too_deep(text, file) from None


class _RefusedError(Exception):
    """What JSON text says that no file may say."""


def _json(text: str, file: str) -> Any:
    words: dict[str, str] = {}

    def mapping(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        keys = dict(pairs)
        if len(keys) < len(pairs):
            seen: set[str] = set()
            twice = next(key for key, _ in pairs if key in seen or seen.add(key))  # type: ignore[func-returns-value]
            raise _RefusedError(f"found the key {shown(twice)} twice in one mapping; expected each key once")
        for key, value in pairs:
            if value.__class__ is str:  # texts that come again and again are one object
                keys[key] = words.setdefault(value, value)
        return keys

    def whole(digits: str) -> int:
        if len(digits) > MAX_DIGITS:
            raise _RefusedError(f"found a number of {len(digits)} digits; expected at most {MAX_DIGITS}")
        return int(digits)

    def constant(name: str) -> NoReturn:
        raise _RefusedError(f"found {name}; expected finite numbers")

    try:
        value = json.loads(text, object_pairs_hook=mapping, parse_int=whole, parse_constant=constant)
    except _RefusedError as error:
        raise FileError(file, [(_place_of_refused(text), str(error))]) from None
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise FileError(file, [(place, f"is not JSON: {error.msg[0].lower()}{error.msg[1:]}")]) from None
    _check_bounds(value, text, file)
    return value


_TOKEN = re.compile(r'"(?:[^"\\]|\\.)*"|[{}\[\]]|[^\s{}\[\],:"]+')


_REFUSED = re.compile(rf"-?(?:NaN|Infinity|\d{{{MAX_DIGITS},}})")


def _place_of_refused(text: str) -> str:
    """The line and column of the first thing in JSON text that :func:`_json` refuses; line 1 where it is not found."""
    open_: list[set[str] | None] = []
    for token in _TOKEN.finditer(text):
        word, end = token.group(), token.end()
        if word == "{":
            open_.append(set())
        elif word == "[":
            open_.append(None)
        elif word in "}]":
            del open_[-1:]
        elif word[0] == '"':
            keys = open_[-1] if open_ else None
            if keys is not None and text[end : end + 200].lstrip().startswith(":"):
                key = json.loads(word, strict=False)
                if key in keys:
                    return _line_and_column(text, token.start())
                keys.add(key)
        elif _REFUSED.match(word):
            return _line_and_column(text, token.start())
    return "line 1"


def _line_and_column(text: str, at: int) -> str:
    return f"line {text.count(chr(10), 0, at) + 1}, column {at - text.rfind(chr(10), 0, at)}"


def _check_bounds(value: Any, text: str, file: str) -> None:
    """Check depth, count and numbers of what was read of JSON, level by level."""
    count, level = 1, [value]
    for _ in range(MAX_DEPTH + 1):
        below: list[Any] = []
        for one in level:
            kind = one.__class__
            if kind is dict:
                below += one.values()
            elif kind is list:
                below += one
            elif kind is float and not math.isfinite(one):
                raise FileError(file, [(_way_to(one, value), f"found {one}; expected a finite number")])
            elif kind is str and not one.isascii() and has_halves(one):
                raise FileError(file, [(_way_to(one, value), f"found {shown(one)}, which has half a character in it")])
        count += len(below)
        if count > MAX_VALUES:
            raise FileError(file, [("line 1", f"holds more than {MAX_VALUES:,} values; expected at most that")])
        if not below:
            return
        level = below
    raise _too_deep(text, file)


def _too_deep(text: str, file: str) -> FileError:
    """The error for a text that is nested too deep, at the bracket that is one too many."""
    depth, place = 0, "line 1"
    for token in _TOKEN.finditer(text):
        word = token.group()
        depth += (word in "{[") - (word in "}]")
        if depth > MAX_DEPTH:
            place = _line_and_column(text, token.start())
            break
    return FileError(file, [(place, f"is nested too deep; expected at most {MAX_DEPTH} levels")])


def _way_to(wanted: object, value: Any) -> str:
    """The place of a value within another, told apart by being that very one."""
    stack: list[tuple[Any, tuple[int | str, ...]]] = [(value, ())]
    while stack:
        one, loc = stack.pop()
        if one is wanted:
            return place_of(loc)
        if isinstance(one, dict | list):
            stack.extend(
                (inner, (*loc, key)) for key, inner in (one.items() if isinstance(one, dict) else enumerate(one))
            )
    return ""
