"""Games that other processes make, for tests of comparing: each as it was, and after a change."""

from __future__ import annotations

import os
import signal
from pathlib import Path

import glent
from glent.core.routing.event import Event
from glent.testing import Hand

NAMES = ("moor", "cast-off", "horn", "lamp", "tow", "wait")


def desk(places: list[int], fog: bool = False, hidden: tuple[str, ...] = ()) -> glent.Router:
    """Six buttons in a grid of twelve; which stands where is told by numbers."""
    scene = glent.Scene((400, 300))
    layer = scene.layer("desk")
    for name, at in zip(NAMES, places, strict=False):
        place = glent.Place(10 + at % 4 * 95, 10 + at // 4 * 95, width=80, height=60)
        node = layer.add(name, role="button", label=name, place=place, visible=name not in hidden)
        node.on("click", Event.take)
        node.on("drag", Event.take)
    if fog:
        scene.layer("weather", order=1).add("fog", solidity="solid", place=glent.Place(290, 0, width=110, height=300))
    return glent.Router(scene, on_error=lambda error, event: None)


def plain(recording: object) -> glent.Router:
    return desk([0, 1, 2, 5, 6, 7])


def foggy(recording: object) -> glent.Router:
    return desk([0, 1, 2, 5, 6, 7], fog=True)


def failing(recording: glent.formats.Recording) -> glent.Router:  # type: ignore[name-defined]
    if recording.size == (333.0, 300.0):
        raise RuntimeError("the pier is closed")
    return foggy(recording)


def killed_once(folder: str, recording: object) -> glent.Router:
    """Its process is killed the first time that any game is made."""
    return killed(folder, 1, recording)


def killed(folder: str, times: int, recording: glent.formats.Recording) -> glent.Router:  # type: ignore[name-defined]
    """Its process is killed so many times, for a recording of a window 401 pixels wide."""
    if recording.size[0] == 401.0:
        for number in range(times):
            try:
                (Path(folder) / str(number)).touch(exist_ok=False)
            except FileExistsError:
                continue
            os.kill(os.getpid(), signal.SIGKILL)
    return foggy(recording)


def clicks(path: Path, names: list[str], width: float = 400.0) -> Path:
    """A recording of clicks on the plain desk."""
    from glent.formats import Recording, write_recording

    router = plain(None)
    recording = Recording((width, 300.0))
    hand = Hand(router, tap=recording.add)
    for name in names:
        hand.click(f"desk/{name}", steps=3)
    write_recording(recording, path)
    return path
