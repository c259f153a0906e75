"""Layouts of keys on the screen, in a file of their own: JSON or YAML by suffix."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from pydantic import ValidationError

from glent.controls.key_layout import KeyLayout
from glent.formats import text
from glent.formats.base_model import Model
from glent.formats.control_model import KeyRows, built_rows
from glent.formats.errors import FileError, place_of, problems_of

__all__ = ["KeyLayoutModel", "read_key_layout"]

SUFFIXES = (".json", ".yaml", ".yml")


class KeyLayoutModel(Model):
    """A file with a layout of keys."""

    glent: Literal["keys"]
    version: Literal[1]
    rows: KeyRows


def read_key_layout(path: str | Path) -> KeyLayout:
    """The layout in a file; a key that only types can stand there as its text.

    :raises FileError: the file cannot be read or says something it cannot say.
    """
    path = Path(path)
    suffix = path.suffix.lower()
    if suffix not in SUFFIXES:
        raise FileError(str(path), [("", f"ends in {path.suffix!r}; expected one of {', '.join(SUFFIXES)}")])
    document = text.parse(text.read_bytes(path, text.MOST_BYTES), str(path), suffix)
    try:
        model = KeyLayoutModel.model_validate(document)
    except ValidationError as error:
        raise FileError(str(path), problems_of(error, place_of)) from None
    return built_rows(model.rows)
