"""The published JSON Schemas of the files."""

from __future__ import annotations

from typing import Any

from pydantic import TypeAdapter

from glent.formats.model import SceneModel
from glent.formats.patterns import MOST

__all__ = ["bindings_schema", "key_layout_schema", "recording_schema", "scene_schema"]

_USE = {
    "type": "object",
    "description": "What becomes a pattern, once or many times; what else it says is added, or takes its place.",
    "properties": {
        "use": {"type": "string"},
        "with": {"type": ["object", "string"]},
        "each": {"type": ["array", "string"], "minItems": 1, "maxItems": MOST},
        "count": {"type": ["integer", "string"], "minimum": 1, "maximum": MOST},
    },
    "required": ["use"],
}
_PATTERN = {
    "type": "object",
    "description": "A node in whose texts {parameter} stands for what a use gives.",
    "properties": {
        "takes": {"type": "array", "items": {"type": "string"}, "uniqueItems": True},
        "usual": {"type": "object"},
        "name": {"type": "string"},
    },
    "required": ["name"],
}
_DRAFT = "https://json-schema.org/draft/2020-12/schema"


def scene_schema() -> dict[str, Any]:
    """The JSON Schema (draft 2020-12) of a scene file."""
    made = SceneModel.model_json_schema(mode="validation")
    for one in made["$defs"].values():
        children = one.get("properties", {}).get("children")
        if children is not None:
            children["items"] = {"anyOf": [children["items"], {"$ref": "#/$defs/Use"}]}
    made["$defs"] |= {"Use": _USE, "Pattern": _PATTERN}
    made["properties"]["patterns"] = {"type": "object", "additionalProperties": {"$ref": "#/$defs/Pattern"}}
    return {"$schema": _DRAFT, **made, "title": "Glent scene file"}


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
