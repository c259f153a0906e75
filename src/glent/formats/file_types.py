"""What types of the code are in files: how an annotation becomes what a model validates."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from glent.controls.control import Control
from glent.controls.key_layout import DOES, Key, KeyLayout
from glent.controls.options import Bounds
from glent.core.errors import ControlError
from glent.core.scene.node import Node
from glent.formats.base_model import Many, Model, Number, Positive, Text

__all__ = ["KeyModel", "KeyRows", "Path", "built_rows", "file_type"]

Path = Annotated[str, Field(min_length=1, max_length=2000)]
Short = Annotated[str, Field(max_length=2000)]


class KeyModel(Model):
    """One key on the screen."""

    text: str = ""
    shifted: str | None = None
    does: Literal["type", "shift", "backspace", "clear", "enter", "left", "right"] = "type"
    label: str | None = None
    width: Positive = 1.0

    @model_validator(mode="after")
    def _possible(self) -> KeyModel:
        self.build()
        return self

    def build(self) -> Key:
        try:
            return Key(self.text, self.shifted, self.does, self.label, self.width)
        except ControlError as error:
            raise PydanticCustomError("key", "{error}", {"error": str(error)}) from None


assert set(KeyModel.model_fields["does"].annotation.__args__) == set(DOES)  # type: ignore[union-attr]
KeyRow = Annotated[Many[Text | KeyModel], Field(min_length=1)]
KeyRows = Annotated[Many[KeyRow], Field(min_length=1)]


def built_rows(rows: list[list[str | KeyModel]]) -> KeyLayout:
    """The layout of rows as they stand in a file."""
    return KeyLayout([[Key(key) if isinstance(key, str) else key.build() for key in row] for row in rows])


def file_type(one: Any) -> Any:
    """A type as a model validates it: as in JSON, with paths for nodes and controls, and bounds for numbers."""
    origin, inner = get_origin(one), get_args(one)
    if origin in (Union, UnionType):
        return Union[tuple(file_type(part) for part in inner)]  # noqa: UP007
    if origin is Annotated:
        bounds = next((part for part in inner[1:] if isinstance(part, Bounds)), Bounds())
        kind = Number if inner[0] is float else inner[0]
        return Annotated[kind, Field(gt=bounds.above, ge=bounds.least, lt=bounds.below, le=bounds.most)]
    if origin is tuple and ... not in inner:
        assert len(set(inner)) == 1, "a file's lists are of one type"
        return Annotated[list[file_type(inner[0])], Field(min_length=len(inner), max_length=len(inner))]  # type: ignore[misc]
    if origin in (tuple, list, Sequence, Iterable):
        return Annotated[list[file_type(inner[0])], Field(max_length=10_000)]  # type: ignore[misc]
    if origin in (dict, Mapping):
        return dict[str, file_type(inner[1])]  # type: ignore[misc]
    if one is KeyLayout:
        return KeyRows
    if isinstance(one, type) and issubclass(one, Node | Control):
        return Path
    return {float: Number, str: Short, NoneType: None}.get(one, one)
