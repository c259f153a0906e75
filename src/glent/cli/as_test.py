"""A recording as a test: a file for pytest, the recording, and the event log that it is to come out as."""

from __future__ import annotations

import json
import os
import re
from pathlib import Path
from typing import TYPE_CHECKING

import click

from glent.demo import SCENES
from glent.formats import write_recording
from glent.review.game import game_named
from glent.testing.same_events import log_beside, write_events

if TYPE_CHECKING:
    from glent.cli.scene_source import SceneSource
    from glent.formats import Recording

__all__ = ["write_test_case"]

TEXT = '''"""{name} comes out as it did. Written by `glent replay --as-test`; `pytest --glent-update` writes the log."""

from pathlib import Path

import pytest

HERE = Path(__file__).parent


@pytest.mark.glent({scene})
def test_{function}(assert_same_events):
    assert_same_events(HERE / {recording})
'''


def write_test_case(path: Path, source: SceneSource, recording: Recording, name: str) -> list[Path]:
    """Write the test, with its recording and event log beside it. Return the files.

    The game is made as the test will make it, and what comes of the recording there is the log.

    :raises click.UsageError: pytest would not find a file of that name. :raises FileError: one cannot be written.
    """
    if not re.fullmatch(r"test_\w+\.py", path.name):
        raise click.UsageError(f"{path.name} is no test for pytest; expected a name such as test_{_word(name)}.py")
    path.parent.mkdir(parents=True, exist_ok=True)
    played = path.with_name(f"{path.stem.removeprefix('test_')}.jsonl")
    write_recording(recording, played)
    scene = _scene_name(source, path.parent, len(recording.seats))
    write_events(game_named(scene, path.parent), played)
    text = TEXT.format(name=name, scene=json.dumps(scene), function=_word(name), recording=json.dumps(played.name))
    path.write_text(text, encoding="utf-8")
    return [path, played, log_beside(played)]


def _word(name: str) -> str:
    return re.sub(r"\W+", "_", name).strip("_").lower() or "recording"


def _scene_name(source: SceneSource, folder: Path, pilots: int) -> str:
    """What the test's marker says: a callable, or a file relative to the test."""
    if not isinstance(source, Path):
        return source.stem
    shipped = next((name for name, path in SCENES.items() if path == source), None)
    if shipped is not None:
        return f"glent.demo.games:{'two_pilots' if pilots > 1 else shipped}"
    return Path(os.path.relpath(source, folder)).as_posix()
