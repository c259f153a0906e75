"""Layouts of keys on the screen, in a file of their own: JSON or YAML by suffix."""

from __future__ import annotations

from pathlib import Path
from typing import Literal

from glent.controls.key_layout import KeyLayout
from glent.formats import text
from glent.formats.base_model import Model
from glent.formats.file_types import KeyRows, built_rows

__all__ = ["KeyLayoutModel", "read_key_layout"]


class KeyLayoutModel(Model):
    """A file with a layout of keys."""

    glent: Literal["key-layout"]
    version: Literal[1]
    rows: KeyRows


def read_key_layout(path: str | Path) -> KeyLayout:
    """The layout in a file; a key that only types can stand there as its text.

    :raises FileError: the file cannot be read or says something it cannot say.
    """
    return built_rows(text.read_model(Path(path), KeyLayoutModel).rows)
