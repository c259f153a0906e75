"""The published JSON Schemas of the files."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from glent.formats.model import SceneModel

__all__ = ["bindings_schema", "key_layout_schema", "recording_schema", "scene_schema"]

_DRAFT = "https://json-schema.org/draft/2020-12/schema"


def scene_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a scene file."""
    return {"$schema": _DRAFT, **SceneModel.model_json_schema(mode="validation"), "title": "Glent scene file"}


def recording_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of one line of a recording: the header, or a sample."""
    from glent.formats.recording import LineModel

    return {"$schema": _DRAFT, **TypeAdapter(LineModel).json_schema(), "title": "A line of a Glent recording"}


def bindings_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a file of bindings."""
    from glent.formats.bindings_file import BindingsModel

    return {"$schema": _DRAFT, **BindingsModel.model_json_schema(mode="validation"), "title": "Glent bindings"}


def key_layout_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a file with a layout of keys."""
    from glent.formats.key_layout_file import KeyLayoutModel

    return {"$schema": _DRAFT, **KeyLayoutModel.model_json_schema(mode="validation"), "title": "Glent key layout"}
