"""Changing a few values in the text of a JSON or YAML file, with all else in it as it was (law D3).

The text is read into spans, which know where each value begins and ends. An edit puts a new text in the place of a
span, adds a key behind the last one of its mapping, or takes one out with its line. Where two mappings differ, only the
keys that do are edited. Whoever edits reads the outcome again and compares: what cannot be edited by position, such as
an alias, shows there.
"""

from __future__ import annotations

import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from json.decoder import scanstring  # type: ignore[attr-defined]
from typing import Any

import yaml

from glent.formats.yaml_text import compose, inline, loaded

__all__ = ["GONE", "Edit", "edited", "position_in"]

GONE: Any = object()
"""The value of an edit that takes a key out."""

Path = tuple[str | int, ...]
Edit = tuple[Path, Any]
"""Where, and what stands there from now on, in plain values."""

LAST = ("children",)
"""Keys that a new key is put in front of, as the nodes below are read better behind what is said of this one."""


@dataclass(slots=True)
class _Span:
    """A value in a text, from ``start`` to ``end``; ``keys`` are where the keys of a mapping begin, ``stops`` where
    they end."""

    kind: str
    start: int
    end: int
    flow: bool = True
    keys: dict[str, int] = field(default_factory=dict)
    stops: dict[str, int] = field(default_factory=dict)
    values: dict[str | int, _Span] = field(default_factory=dict)

    @property
    def last(self) -> int:
        """Where it truly ends: a block of YAML is told to end where the next begins."""
        return self.end if self.flow or not self.values else max(one.last for one in self.values.values())


def edited(text: str, suffix: str, edits: Sequence[Edit]) -> str:
    """The text with these values in it; an edit of a place that is not there is left out."""
    for path, value in edits:
        is_json = suffix == ".json"
        root = _json_span(text) if is_json else _yaml_span(compose(text))
        text = _set(text, root, path, value, is_json)
    return text


@lru_cache(maxsize=4)
def _spans_of(text: str, suffix: str) -> _Span:
    """Where all values of a text stand; kept, as one text is asked about again and again."""
    return _json_span(text) if suffix == ".json" else _yaml_span(compose(text))


def position_in(text: str, suffix: str, path: Path) -> tuple[int, int]:
    """The line and the column, each from 1, at which the value of a place begins; of the nearest one around it that
    there is."""
    span = _spans_of(text, suffix)
    for part in path:
        inner = span.values.get(part)
        if inner is None:
            break
        span = inner
    return text.count("\n", 0, span.start) + 1, span.start - text.rfind("\n", 0, span.start)


def _set(text: str, span: _Span, path: Path, value: Any, is_json: bool) -> str:
    for part in path[:-1]:
        inner = span.values.get(part)
        if inner is None:
            return text
        span = inner
    key = path[-1]
    there = span.values.get(key)
    if there is None:
        return text if value is GONE or span.kind != "map" else _added(text, span, str(key), value, is_json)
    if value is GONE:
        return _without(text, span, str(key))
    if there.kind == "map" and isinstance(value, Mapping) and value:
        return _merged(text, there, path, value, is_json)
    if not there.flow:  # a block becomes a value behind its key
        return text[: span.stops[str(key)]] + ": " + _written(value, is_json) + text[there.last :]
    old = text[there.start : there.last]
    return text[: there.start] + _written(value, is_json, old) + text[there.last :]


def _merged(text: str, there: _Span, path: Path, value: Mapping[str, Any], is_json: bool) -> str:
    """Only the keys of a mapping that differ."""
    edits: list[Edit] = [((*path, key), GONE) for key in there.keys if key not in value]
    for key, one in value.items():
        inner = there.values.get(key)
        if inner is None or inner.kind != "scalar" or _value(text[inner.start : inner.last], is_json) != one:
            edits.append(((*path, key), one))
    return edited(text, ".json" if is_json else ".yaml", edits)


def _value(text: str, is_json: bool) -> Any:
    return json.loads(text) if is_json else loaded(text, "")


def _written(value: Any, is_json: bool, old: str = "") -> str:
    """A value on one line, quoted as it was before."""
    if is_json:
        return json.dumps(value, ensure_ascii=False, allow_nan=False)
    if isinstance(value, str) and old[:1] in "\"'" and old:
        return json.dumps(value, ensure_ascii=False) if old[0] == '"' else "'" + value.replace("'", "''") + "'"
    return inline(value)


def _added(text: str, span: _Span, key: str, value: Any, is_json: bool) -> str:
    name = json.dumps(key) if is_json else key
    new = f"{name}: {_written(value, is_json)}"
    if not span.keys:
        return text[: span.start] + "{" + new + "}" + text[span.end :]
    before = [one for one in span.keys if one not in LAST] or list(span.keys)
    end = span.values[before[-1]].last
    first = min(span.keys.values())
    line = text.rfind("\n", 0, first) + 1
    if span.flow:
        alone = not text[line:first].strip()  # each key of this mapping stands on a line of its own
        gap = "\n" + text[line:first] if alone else " "
        return text[:end] + "," + gap + new + text[end:]
    stop = text.find("\n", end)  # what stands behind it on its line, a comment, stays there
    stop = len(text) if stop < 0 else stop
    return text[:stop] + "\n" + " " * (first - line) + new + text[stop:]


def _without(text: str, span: _Span, key: str) -> str:
    keys = list(span.keys)
    at = keys.index(key)
    start, end = span.keys[key], span.values[key].last
    after = span.keys[keys[at + 1]] if at + 1 < len(keys) else None
    if span.flow:
        if after is not None:
            return text[:start] + text[after:]
        if at:
            return text[: span.values[keys[at - 1]].last] + text[end:]
        return text[:start] + text[end:]
    line = text.rfind("\n", 0, start) + 1
    if text[line:start].strip():  # it stands behind the dash of a list
        return text[:start] + text[after if after is not None else end :]
    stop = text.find("\n", end)
    return text[:line] + (text[stop + 1 :] if stop >= 0 else "")


def _yaml_span(node: yaml.Node | None) -> _Span:
    if node is None:
        return _Span("scalar", 0, 0)
    start, end = node.start_mark.index, node.end_mark.index
    if isinstance(node, yaml.MappingNode):
        span = _Span("map", start, end, bool(node.flow_style))
        for key, value in node.value:
            if isinstance(key, yaml.ScalarNode):
                span.keys[key.value], span.stops[key.value] = key.start_mark.index, key.end_mark.index
                span.values[key.value] = _yaml_span(value)
        return span
    if isinstance(node, yaml.SequenceNode):
        span = _Span("list", start, end, bool(node.flow_style))
        span.values.update((at, _yaml_span(one)) for at, one in enumerate(node.value))
        return span
    return _Span("scalar", start, end)


_SPACE = re.compile(r"[ \t\r\n]*")
_PLAIN = re.compile(r"[^\s,\]}]+")


def _json_span(text: str) -> _Span:
    return _json_value(text, _space(text, 0))


def _space(text: str, at: int) -> int:
    found = _SPACE.match(text, at)
    return found.end() if found is not None else at


def _json_value(text: str, at: int) -> _Span:
    if text[at] == '"':
        return _Span("scalar", at, scanstring(text, at + 1)[1])
    if text[at] not in "{[":
        found = _PLAIN.match(text, at)
        return _Span("scalar", at, found.end() if found is not None else at)
    is_map = text[at] == "{"
    span = _Span("map" if is_map else "list", at, at)
    at = _space(text, at + 1)
    while text[at] not in "}]":
        key: str | int = len(span.values)
        if is_map:
            begun = at
            key, at = scanstring(text, at + 1)
            span.keys[str(key)] = begun
            at = _space(text, _space(text, at) + 1)
        inner = span.values[key] = _json_value(text, at)
        at = _space(text, inner.end)
        if text[at] == ",":
            at = _space(text, at + 1)
    span.end = at + 1
    return span
