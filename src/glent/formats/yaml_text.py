"""YAML as plain values, in both directions.

A text is read event by event, with the containers that are open on a stack of our own: a parser that calls itself for
each level can be brought down by a file of brackets. Scalars are what YAML 1.2 says, in its plainest form: null, true,
false, decimal numbers; all else is text. There are no tags, no dates, no merge keys. Depth and the count of values,
those that aliases repeat included, are bounded while the text is read, so that nothing can grow.

What is written is quoted wherever any reader of YAML 1.1 or 1.2 could take it for something else.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

import yaml

from glent.formats.errors import FileError
from glent.formats.limits import MAX_DEPTH, MAX_DIGITS, MAX_VALUES

__all__ = ["compose", "dumped", "inline", "loaded"]

_LOADER = getattr(yaml, "CSafeLoader", yaml.SafeLoader)
_INT = re.compile(r"[-+]?(?:0|[1-9][0-9]*)")
_FLOAT = re.compile(r"[-+]?(?:\.[0-9]+|[0-9]+(?:\.[0-9]*)?)(?:[eE][-+]?[0-9]+)?")
_ODD = re.compile(r"[-+]?\.(?:inf|Inf|INF|nan|NaN|NAN)")
_WORDS: dict[str, bool | None] = (
    dict.fromkeys(("", "~", "null", "Null", "NULL"))
    | dict.fromkeys(("true", "True", "TRUE"), True)
    | dict.fromkeys(("false", "False", "FALSE"), False)
)
_STARTS = frozenset("-+.0123456789")
_TEXT, _PLAIN_TAGS = "tag:yaml.org,2002:str", (None, "!")


class _Open:
    """A container that is being read.

    :ivar size: how many values are in it by now, itself included. :ivar key: of a mapping, the key whose value comes.
    """

    __slots__ = ("anchor", "key", "size", "value")

    def __init__(self, value: dict[str, Any] | list[Any], anchor: str | None) -> None:
        self.value = value
        self.anchor = anchor
        self.size = 1
        self.key: str | None = None


class _Reader:
    """What reads one text."""

    def __init__(self, file: str) -> None:
        self.file = file
        self.stack: list[_Open] = []
        self.anchors: dict[str, tuple[Any, int, int]] = {}
        """By name: the value, how many values it holds, and how deep it goes."""
        self.words: dict[str, str] = {}
        """Texts that have come before, so that those that come again and again are one object."""
        self.depths: list[int] = []
        """By open container, how deep what is in it goes, as far as it has been read."""

    def refuse(self, event: Any, what: str) -> FileError:
        mark = event.start_mark
        return FileError(self.file, [(f"line {mark.line + 1}, column {mark.column + 1}", what)])

    def read(self, events: Iterator[Any]) -> Any:
        result: Any = None
        documents = 0
        for event in events:
            kind = event.__class__
            if kind is yaml.ScalarEvent:
                done = self.scalar(event)
                size = deep = 1
            elif kind is yaml.MappingStartEvent or kind is yaml.SequenceStartEvent:
                self.begin(event, {} if kind is yaml.MappingStartEvent else [])
                continue
            elif kind is yaml.MappingEndEvent or kind is yaml.SequenceEndEvent:
                ended, deep = self.stack.pop(), self.depths.pop() + 1
                done, size = ended.value, ended.size
                if ended.anchor is not None:
                    self.anchors[ended.anchor] = (done, size, deep)
            elif kind is yaml.AliasEvent:
                done, size, deep = self.alias(event)
            elif kind is yaml.DocumentStartEvent:
                documents += 1
                if documents > 1:
                    raise self.refuse(event, "found a second document; expected one")
                continue
            else:
                continue
            if not self.stack:
                result = done
            else:
                self.put(event, done, size, deep)
        return result

    def begin(self, event: Any, value: dict[str, Any] | list[Any]) -> None:
        if event.tag not in _PLAIN_TAGS:
            raise self.refuse(event, f"found the tag {event.tag}; expected plain YAML, without tags")
        if self.stack and isinstance(self.stack[-1].value, dict) and self.stack[-1].key is None:
            raise self.refuse(event, "found a key that is a list or a mapping; expected keys that are text")
        if len(self.stack) >= MAX_DEPTH:
            raise self.refuse(event, f"is nested too deep; expected at most {MAX_DEPTH} levels")
        self.stack.append(_Open(value, event.anchor))
        self.depths.append(0)
        if event.anchor is not None:
            self.anchors.pop(event.anchor, None)  # within itself it is no value yet

    def put(self, event: Any, done: Any, size: int, deep: int) -> None:
        around = self.stack[-1]
        if isinstance(around.value, list):
            around.value.append(done)
        elif around.key is None:
            self.key(event, around, done)
            return
        else:
            around.value[around.key] = done
            around.key = None
        around.size += size
        self.depths[-1] = max(self.depths[-1], deep)
        if around.size > MAX_VALUES or len(self.stack) + deep - 1 > MAX_DEPTH:
            too = (
                f"holds more than {MAX_VALUES:,} values, counting repeated aliases; expected at most that"
                if around.size > MAX_VALUES
                else f"is nested too deep, counting repeated aliases; expected at most {MAX_DEPTH} levels"
            )
            raise self.refuse(event, too)

    def key(self, event: Any, around: _Open, key: Any) -> None:
        if not isinstance(key, str):
            raise self.refuse(event, f"found the key {key!r}; expected keys that are text")
        if key == "<<" and event.__class__ is yaml.ScalarEvent and event.implicit[0]:
            raise self.refuse(event, "found a merge key <<; expected plain keys")
        if key in around.value:
            raise self.refuse(event, f"found the key {key!r} twice in one mapping; expected each key once")
        around.key = key

    def alias(self, event: Any) -> tuple[Any, int, int]:
        found = self.anchors.get(event.anchor)
        if found is None:
            inside = any(one.anchor == event.anchor for one in self.stack)
            what = "found a reference that runs in a circle; expected a tree" if inside else (
                f"found a reference to {event.anchor!r}, which is nowhere before it"
            )  # fmt: skip
            raise self.refuse(event, what)
        return found

    def scalar(self, event: Any) -> Any:
        tag, text = event.tag, event.value
        if tag not in _PLAIN_TAGS and tag != _TEXT:
            raise self.refuse(event, f"found the tag {tag}; expected plain YAML, without tags")
        value: Any = self.words.setdefault(text, text)
        if tag is None and event.implicit[0]:
            value = self.plain(event, value)
        if event.anchor is not None:
            self.anchors[event.anchor] = (value, 1, 1)
        return value

    def plain(self, event: Any, text: str) -> Any:
        """The value of a text without quotes."""
        if text in _WORDS:
            return _WORDS[text]
        if text[0] not in _STARTS:
            return text
        if _INT.fullmatch(text):
            if len(text) > MAX_DIGITS + 1:
                raise self.refuse(event, f"found a number of {len(text)} digits; expected at most {MAX_DIGITS}")
            return int(text)
        if _FLOAT.fullmatch(text):
            number = float(text)
            if number in (float("inf"), float("-inf")):
                raise self.refuse(event, f"found {text[:40]}; expected a finite number")
            return number
        if _ODD.fullmatch(text):
            raise self.refuse(event, f"found {text}; expected a finite number")
        return text


def loaded(text: str, file: str) -> Any:
    """The value in a YAML text.

    :raises FileError: it is no YAML, or not as plain as it is to be; or it is nested too deep or holds too much.
    """
    try:
        return _Reader(file).read(yaml.parse(text, Loader=_LOADER))
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        place = f"line {mark.line + 1}, column {mark.column + 1}" if mark is not None else ""
        raise FileError(file, [(place, f"is not YAML: {error.problem or 'it cannot be read'}")]) from None
    except yaml.reader.ReaderError as error:
        what = f"found the character U+{_code_of(error.character):04X}, which YAML cannot hold"
        raise FileError(file, [(f"character {error.position}", what)]) from None
    except yaml.YAMLError as error:
        raise FileError(file, [("", f"is not YAML: {str(error).splitlines()[0]}")]) from None


def _code_of(character: object) -> int:
    return character if isinstance(character, int) else ord(str(character)[:1] or "\0")


def compose(text: str) -> yaml.Node | None:
    """The nodes of a text that :func:`loaded` has read before, with where each stands."""
    node: yaml.Node | None = yaml.compose(text, Loader=_LOADER)
    return node


class _Dumper(yaml.SafeDumper):
    """No aliases, and quotes wherever a text could be taken for something else."""

    def ignore_aliases(self, data: Any) -> bool:
        return True


class _FileDumper(_Dumper):
    """Short lists and mappings on one line."""


def _list(dumper: _Dumper, data: list[Any]) -> yaml.Node:
    flow = all(not isinstance(item, dict) for item in data) and len(str(data)) < 90
    return dumper.represent_sequence("tag:yaml.org,2002:seq", data, flow_style=flow)


def _dict(dumper: _Dumper, data: dict[str, Any]) -> yaml.Node:
    flow = all(isinstance(value, int | float | str | bool) for value in data.values()) and len(str(data)) < 100
    return dumper.represent_mapping("tag:yaml.org,2002:map", data, flow_style=flow)


def _text(dumper: _Dumper, data: str) -> yaml.Node:
    if not data.isascii():
        data.encode("utf-8")  # half a character would be written as an escape that no reader takes
    # Line breaks that are none for JSON, and marks that editors eat, are written as escapes.
    return dumper.represent_scalar(_TEXT, data, style='"' if _FOLDS.search(data) else None)


_FOLDS = re.compile("[\x00-\x08\x0b-\x1f\x7f-\x9f\u2028\u2029\ufeff]")

_FileDumper.add_representer(list, _list)
_FileDumper.add_representer(dict, _dict)
_Dumper.add_representer(str, _text)
_FileDumper.add_representer(str, _text)
# What a reader of YAML 1.2 takes for a number is quoted as well.
for _cls in (_Dumper, _FileDumper):
    _cls.add_implicit_resolver("tag:yaml.org,2002:float", _FLOAT, list("-+.0123456789"))


def dumped(document: Any) -> str:
    """A document as the YAML text of a file."""
    text: str = yaml.dump(document, Dumper=_FileDumper, sort_keys=False, allow_unicode=True, width=118)
    return text


def inline(value: Any) -> str:
    """A value as YAML on one line."""
    line: str = yaml.dump(
        value, Dumper=_Dumper, default_flow_style=True, allow_unicode=True, width=10**9, sort_keys=False
    )
    return re.sub(r"\n\.\.\.\n?$", "", line).rstrip("\n")
