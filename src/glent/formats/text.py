"""Reading JSON and YAML text into plain values, safely: bounded in size, depth and growth, whatever the file holds."""

from __future__ import annotations

import json
import math
import os
import re
import shutil
from pathlib import Path
from typing import Any, NoReturn, TypeVar

import yaml
from pydantic import BaseModel, ValidationError

from glent.formats.errors import FileError, place_of, problems_of

__all__ = [
    "MAX_BYTES",
    "MAX_DEPTH",
    "MAX_VALUES",
    "checked_suffix",
    "parse",
    "read_bytes",
    "read_document",
    "read_model",
    "with_plain_booleans",
    "write_whole",
]

MAX_BYTES = 8 * 1024 * 1024
"""The largest scene file, in bytes: some 50,000 nodes."""

MAX_DEPTH = 240
"""The deepest nesting of lists and mappings: every node is two levels, so trees of about 100 nodes."""

MAX_VALUES = 1_000_000
"""The most values in a file, counting what YAML aliases repeat each time."""

MAX_DIGITS = 40
BOOLEAN = "tag:yaml.org,2002:bool"

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
        return model.model_validate(document)
    except ValidationError as error:
        raise FileError(str(path), problems_of(error, place_of)) from None


def read_bytes(path: Path, maximum: int) -> bytes:
    """The file's content.

    :raises FileError: it cannot be read, or is larger than ``most``.
    """
    try:
        with path.open("rb") as file:
            content = file.read(maximum + 1)
    except OSError as error:
        raise FileError(str(path), [("", f"cannot be read: {error.strerror or error}")]) from None
    if len(content) > maximum:
        raise FileError(str(path), [("", f"is larger than {maximum:,} bytes, the most that is read")])
    return content


def write_whole(path: Path, content: bytes) -> None:
    """Write a file whole or not at all: what stood there stays if anything fails.

    :raises FileError: it cannot be written.
    """
    aside = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        aside.write_bytes(content)
        if path.exists():
            shutil.copymode(path, aside)
        aside.replace(path)
    except OSError as error:
        aside.unlink(missing_ok=True)
        raise FileError(str(path), [("", f"cannot be written: {error.strerror or error}")]) from None


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
        value = _json(text, file) if suffix == ".json" else _yaml(text, file)
    except RecursionError:
        raise FileError(file, [("", f"is nested too deep; expected at most {MAX_DEPTH} levels")]) from None
    _check_bounds(value, file)
    return value


def _json(text: str, file: str) -> Any:
    def refuse(what: str) -> NoReturn:
        raise FileError(file, [("", what)])

    def mapping(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        keys = dict(pairs)
        if len(keys) < len(pairs):
            names = [key for key, _ in pairs]
            twice = next(key for key in names if names.count(key) > 1)
            refuse(f"found the key {twice!r} twice in one mapping; expected each key once")
        return keys

    def whole(digits: str) -> int:
        if len(digits) > MAX_DIGITS:
            refuse(f"found a number of {len(digits)} digits; expected at most {MAX_DIGITS}")
        return int(digits)

    def constant(name: str) -> NoReturn:
        refuse(f"found {name}; expected finite numbers")

    try:
        return json.loads(text, object_pairs_hook=mapping, parse_int=whole, parse_constant=constant)
    except json.JSONDecodeError as error:
        place = f"line {error.lineno}, column {error.colno}"
        raise FileError(file, [(place, f"is not JSON: {error.msg[0].lower()}{error.msg[1:]}")]) from None


def with_plain_booleans(cls: type) -> type:
    """Have a YAML loader or dumper take ``true`` and ``false`` alone for booleans, as YAML 1.2 has it.

    By YAML 1.1 ``on``, a key of wiring, would be one too.
    """
    resolvers: dict[str, list[tuple[str, re.Pattern[str]]]] = {}
    for first, known in cls.yaml_implicit_resolvers.items():  # type: ignore[attr-defined]
        resolvers[first] = [one for one in known if one[0] != BOOLEAN]
    for first in "tTfF":
        resolvers.setdefault(first, []).append((BOOLEAN, re.compile("^(?:true|True|TRUE|false|False|FALSE)$")))
    cls.yaml_implicit_resolvers = resolvers  # type: ignore[attr-defined]
    return cls


@with_plain_booleans
class _Loader(getattr(yaml, "CSafeLoader", yaml.SafeLoader)):  # type: ignore[misc]
    """Plain values only; no key twice, and no merge keys, which can grow without bound."""

    def flatten_mapping(self, node: yaml.MappingNode) -> None:
        for key, _ in node.value:
            if key.tag == "tag:yaml.org,2002:merge":
                raise yaml.constructor.ConstructorError(
                    None, None, "found a merge key <<; expected plain keys", key.start_mark
                )

    def construct_mapping(self, node: yaml.MappingNode, deep: bool = False) -> dict[Any, Any]:
        seen = set()
        for key, _ in node.value:
            if isinstance(key, yaml.ScalarNode):
                if key.value in seen:
                    message = f"found the key {key.value!r} twice in one mapping; expected each key once"
                    raise yaml.constructor.ConstructorError(None, None, message, key.start_mark)
                seen.add(key.value)
        return dict(super().construct_mapping(node, deep=deep))


def _yaml(text: str, file: str) -> Any:
    try:
        return yaml.load(text, Loader=_Loader)  # a SafeLoader by descent
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        place = f"line {mark.line + 1}, column {mark.column + 1}" if mark is not None else ""
        raise FileError(
            file, [(place, f"{error.problem or 'is not YAML'}; expected plain YAML, not too deep")]
        ) from None
    except (yaml.YAMLError, ValueError) as error:
        raise FileError(file, [("", f"is not YAML: {str(error).splitlines()[0]}")]) from None


def _check_bounds(value: Any, file: str) -> None:
    """Depth, circles and growth by aliases, found by a walk that is itself bounded."""
    count = 0
    open_: list[int] = []  # the containers around the current one, by identity
    loc: list[int | str] = []
    stack: list[tuple[Any, int, int | str | None]] = [(value, 0, None)]
    while stack:
        one, depth, key = stack.pop()
        count += 1
        del open_[depth:], loc[max(0, depth - 1) :]
        if key is not None:
            loc.append(key)
        if count > MAX_VALUES:
            raise FileError(
                file,
                [("", f"holds more than {MAX_VALUES:,} values, counting repeated aliases; expected at most that")],
            )
        if isinstance(one, dict | list):
            if id(one) in open_:
                raise FileError(file, [(place_of(loc), "found a reference that runs in a circle; expected a tree")])
            if depth >= MAX_DEPTH:
                raise FileError(file, [("", f"is nested too deep; expected at most {MAX_DEPTH} levels")])
            open_.append(id(one))
            for name in one if isinstance(one, dict) else ():
                if not isinstance(name, str):
                    raise FileError(file, [(place_of(loc), f"found the key {name!r}; expected keys that are text")])
            items = list(one.items()) if isinstance(one, dict) else list(enumerate(one))
            for name, inner in reversed(items):
                stack.append((inner, depth + 1, name))
        elif isinstance(one, int) and abs(one) >= 10**MAX_DIGITS:
            what = f"found a number of more than {MAX_DIGITS} digits; expected at most {MAX_DIGITS}"
            raise FileError(file, [(place_of(loc), what)])
        elif isinstance(one, float) and not math.isfinite(one):
            raise FileError(file, [(place_of(loc), f"found {one}; expected a finite number")])
        elif one is not None and not isinstance(one, int | float | str):
            raise FileError(file, [(place_of(loc), f"found {one!r}; expected text, numbers, true or false")])
