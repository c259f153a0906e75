"""Scene files, recordings and event logs, with full validation. Needs the extra ``tools``."""

from __future__ import annotations

from glent.extras import needs

with needs("tools", "glent.formats"):
    from glent.formats.bindings_file import read_bindings, write_bindings
    from glent.formats.contract_file import read_contract, write_contract
    from glent.formats.errors import FileError
    from glent.formats.facts_schema import facts_problems
    from glent.formats.keeping import Source, file_of, keep, keep_all, source_of
    from glent.formats.key_layout_file import read_key_layout
    from glent.formats.log import EventLog, LogRow, log_rows, read_log
    from glent.formats.recording import (
        Recording,
        RecordingStream,
        Step,
        counts_of,
        prepare_replay,
        read_recording,
        replay,
        stream_recording,
        write_recording,
        write_trace,
    )
    from glent.formats.reload import Reloaded, reload_scene
    from glent.formats.scene_file import read_scene, scene_document, scene_from, write_scene
    from glent.formats.schema import bindings_schema, key_layout_schema, recording_schema, scene_schema

__all__ = [
    "EventLog",
    "FileError",
    "LogRow",
    "Recording",
    "RecordingStream",
    "Reloaded",
    "Source",
    "Step",
    "bindings_schema",
    "counts_of",
    "facts_problems",
    "file_of",
    "keep",
    "keep_all",
    "key_layout_schema",
    "log_rows",
    "prepare_replay",
    "read_bindings",
    "read_contract",
    "read_key_layout",
    "read_log",
    "read_recording",
    "read_scene",
    "recording_schema",
    "reload_scene",
    "replay",
    "scene_document",
    "scene_from",
    "scene_schema",
    "source_of",
    "stream_recording",
    "write_bindings",
    "write_contract",
    "write_recording",
    "write_scene",
    "write_trace",
]
