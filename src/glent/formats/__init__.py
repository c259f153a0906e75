"""Scene files, recordings and event logs, with full validation. Needs the extra ``tools``."""

from __future__ import annotations

from glent.formats.errors import FileError
from glent.formats.log import EventLog, LogRow, log_rows
from glent.formats.recording import Recording, Step, counts_of, read_recording, replay, write_recording
from glent.formats.scene_file import read_scene, scene_document, scene_from, write_scene
from glent.formats.schema import recording_schema, scene_schema

__all__ = [
    "EventLog",
    "FileError",
    "LogRow",
    "Recording",
    "Step",
    "counts_of",
    "log_rows",
    "read_recording",
    "read_scene",
    "recording_schema",
    "replay",
    "scene_document",
    "scene_from",
    "scene_schema",
    "write_recording",
    "write_scene",
]
