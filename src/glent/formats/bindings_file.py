"""Bindings in a file, JSON or YAML by suffix: which control does what, for all players and for each (law F5)."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field

from glent.core.errors import BindingError
from glent.core.input.bindings import DEFAULT, Bindings
from glent.formats import text
from glent.formats.base_model import Many, not_too_many
from glent.formats.errors import FileError
from glent.formats.yaml_text import dumped

__all__ = ["BindingsModel", "read_bindings", "write_bindings"]

Control = Annotated[str, Field(min_length=1, max_length=100)]
Controls = Annotated[dict[Control, Many[Control]], BeforeValidator(not_too_many)]


class BindingsModel(BaseModel):
    """A file of bindings."""

    model_config = ConfigDict(extra="forbid", strict=True)

    glent: Literal["bindings"]
    version: Literal[1]
    reserved: Annotated[dict[Control, str], BeforeValidator(not_too_many)] = {}
    bindings: Controls = {}
    seats: Annotated[dict[Control, Controls], BeforeValidator(not_too_many)] = {}


def read_bindings(path: str | Path) -> dict[str, Bindings]:
    """The bindings in a file, by seat; ``main`` is always among them.

    What stands under ``bindings`` is for all seats, what stands under a seat's name is that seat's instead.

    :raises FileError: the file cannot be read or says something it cannot say; two actions on one control, in one seat,
        are named both.
    """
    path = Path(path)
    model = text.read_model(path, BindingsModel)
    made = {}
    for seat in ("main", *(name for name in model.seats if name != "main")):
        own = model.seats.get(seat, {})
        try:
            made[seat] = Bindings({**model.bindings, **own}, model.reserved)
        except BindingError as error:
            raise FileError(str(path), [(f"seats.{seat}" if own else "bindings", str(error))]) from None
    return made


def write_bindings(bindings: Mapping[str, Bindings], path: str | Path) -> None:
    """Write the bindings of seats, as players have changed them; what is as by default for a seat is left out.

    :raises FileError: the suffix is none of a file of bindings, or the file cannot be written.
    """
    path = Path(path)
    document: dict[str, Any] = {"glent": "bindings", "version": 1}
    reserved = {control: what for one in bindings.values() for control, what in one.reserved.items()}
    if reserved:
        document["reserved"] = reserved
    document["seats"] = {
        seat: {action: list(controls) for action, controls in one.actions.items() if controls != DEFAULT.get(action)}
        for seat, one in bindings.items()
    }
    if text.checked_suffix(path) == ".json":
        content = json.dumps(document, indent=1, ensure_ascii=False) + "\n"
    else:
        with text.whole_characters(path):
            content = dumped(document)
    text.write_whole(path, content)
