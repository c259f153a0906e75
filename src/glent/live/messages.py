"""The messages between a page, or any other tool, and a running game: JSON, checked, of a stated version.

A tool asks, each time with an ``id`` of its own; what answers it has the same ``id``. Long answers come in parts, the
last of which has ``more: false``. Verdicts and the state of the changes are told without being asked for.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

__all__ = ["ASKED", "VERSION", "Asked", "live_schema"]

VERSION = 1
"""The version of these messages. A tool says in ``hello`` which one it speaks."""

Id = Annotated[int, Field(ge=0, lt=1 << 53)]
Pixel = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]
Metre = Annotated[float, Field(ge=-1e9, le=1e9, allow_inf_nan=False)]
Path = Annotated[str, Field(min_length=1, max_length=4_000)]
Word = Annotated[str, Field(max_length=100)]
Triple = Annotated[list[Metre], Field(min_length=3, max_length=3)]
PlainValue = Annotated[Any, Field(description="a plain value, as a scene file has it")]


class _Message(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True)


class _Ask(_Message):
    id: Id


class Hello(_Ask):
    """The first message: which version of these the tool speaks."""

    ask: Literal["hello"]
    version: int


class Tree(_Ask):
    """All nodes, in paint order."""

    ask: Literal["tree"]


class Picture(_Ask):
    """What there is to draw."""

    ask: Literal["picture"]


class At(_Ask):
    """All that lies at a point of the window, front to back, with reasons."""

    ask: Literal["at"]
    x: Pixel
    y: Pixel
    kind: Literal["mouse", "touch", "pen"] = "mouse"
    seat: Word | None = None


class Along(_Ask):
    """The same along a ray in the world."""

    ask: Literal["along"]
    origin: Triple
    direction: Triple
    seat: Word = "main"


class OfNode(_Ask):
    """The attributes of a node."""

    ask: Literal["node"]
    path: Path


class Set(_Ask):
    """Give an attribute of a node another value."""

    ask: Literal["set"]
    path: Path
    name: Word
    value: PlainValue = None


class Do(_Ask):
    """Do something with the changes, or with a recording."""

    ask: Literal["undo", "redo", "revert", "keep", "record", "stop"]


class Open(_Ask):
    """Open the place where a node is declared in the editor that the game was started with."""

    ask: Literal["open"]
    path: Path


class Check(_Ask):
    """Look for faults in the scene as it is declared now; the answer takes a while."""

    ask: Literal["check"]


Asked = Hello | Tree | Picture | At | Along | OfNode | Set | Do | Open | Check
ASKED: TypeAdapter[Asked] = TypeAdapter(Annotated[Asked, Field(discriminator="ask")])
"""What checks a message of a tool."""


class _IdAlone(BaseModel):
    model_config = ConfigDict(extra="ignore", strict=True)

    id: Id


ID_ALONE: TypeAdapter[_IdAlone] = TypeAdapter(_IdAlone)
"""What reads the id of a message, whatever else it says."""

CHANGES = ("set", "undo", "redo", "revert", "keep")
"""What changes the game or its file, and is refused unless writing is allowed."""


class _Tell(_Message):
    id: Id


class Welcome(_Tell):
    """The answer to ``hello``."""

    tell: Literal["welcome"]
    version: int
    write: Annotated[bool, Field(description="whether anything can be changed")]
    open: Annotated[bool, Field(description="whether an editor can be opened")]
    size: list[float]
    file: str | None


class Nodes(_Tell):
    """A part of the tree."""

    tell: Literal["tree"]
    part: list[dict[str, Any]]
    more: bool


class Pieces(_Tell):
    """A part of the picture."""

    tell: Literal["picture"]
    size: list[float]
    part: list[dict[str, Any]]
    more: bool


class Found(_Tell):
    """What lies at a point or along a ray."""

    tell: Literal["found"]
    found: list[dict[str, Any]]


class Node(_Tell):
    """A node and its attributes."""

    tell: Literal["node"]
    path: str
    role: str | None
    solidity: str
    source: str | None
    look: str
    lines: dict[str, list[list[float]]]
    attributes: list[dict[str, Any]]


class Done(_Tell):
    """Something was done."""

    tell: Literal["done"]
    said: str


class Recorded(_Tell):
    """A part of a recording, as the text of its file."""

    tell: Literal["recording"]
    part: str
    more: bool


class Findings(_Tell):
    """The faults that were found, as ``glent check --json`` tells them."""

    tell: Literal["findings"]
    found: list[dict[str, Any]]


class Refused(_Message):
    """Something was refused, and nothing has changed; ``id`` is that of what was asked, if it could be read."""

    tell: Literal["refused"]
    id: Id | None
    why: str


class Verdicts(_Message):
    """What became of the samples since the last such message; those of idle moves that were alike are counted."""

    tell: Literal["verdicts"]
    rows: list[dict[str, Any]]
    dropped: Annotated[int, Field(description="how many more there were than can be told")]


class State(_Message):
    """How the scene and the changes stand; told whenever that has changed."""

    tell: Literal["state"]
    scene: Annotated[int, Field(description="another number whenever the scene has changed")]
    looks: Annotated[int, Field(description="another number whenever something may look otherwise")]
    edits: Annotated[int, Field(description="another number after each change that a tool has made or undone")]
    time: float
    changed: list[list[str]]
    can_undo: bool
    can_redo: bool
    recorded: int | None


Told = Welcome | Nodes | Pieces | Found | Node | Done | Recorded | Findings | Refused | Verdicts | State


def live_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of the messages: ``asked`` by a tool, ``told`` by the game."""
    asked, told = ASKED, TypeAdapter(Annotated[Told, Field(discriminator="tell")])
    _, made = TypeAdapter.json_schemas(
        [("asked", "validation", asked), ("told", "validation", told)],
        title=f"Messages of the Glent live view, version {VERSION}",
    )
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **made,
        "anyOf": [_of(asked), _of(told)],
    }


def _of(adapter: TypeAdapter[Any]) -> dict[str, Any]:
    schema = adapter.json_schema()
    return {key: value for key, value in schema.items() if key != "$defs"}
