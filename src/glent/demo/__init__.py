"""Kelp Harbour: five demonstration scenes, a small world behind each, and recordings of people at work there."""

from __future__ import annotations

from pathlib import Path

__all__ = ["BINDINGS", "BRIDGE", "GALLERY", "HARBOUR", "QUAY", "RADIO_PAD", "RECORDINGS", "SCENES", "SHIFT", "TOWER"]

_DATA = Path(__file__).parent / "data"

HARBOUR = _DATA / "harbour.yaml"
"""The scene of the dispatcher's desk."""

QUAY = _DATA / "quay.yaml"
"""The scene of the quay, which is worked by fingers."""

BRIDGE = _DATA / "bridge.yaml"
"""The scene of the bridge, where one or two pilots steer by keys and pads."""

TOWER = _DATA / "tower.yaml"
"""The scene of the tower, where one points into the world: a chart table, a signal wall, the harbour below."""

GALLERY = _DATA / "gallery.yaml"
"""The scene of the gallery: one of each control, wired to the harbour's small world."""

RADIO_PAD = _DATA / "radio-pad.yaml"
"""A layout of keys for the screen, in a file of its own."""

BINDINGS = _DATA / "bindings.yaml"
"""What keys and pads do at the bridge."""

SHIFT = _DATA / "night-shift.jsonl"
"""A recorded shift at the desk: one dispatcher, a mouse, and now and then a finger."""

SCENES = {"harbour": HARBOUR, "quay": QUAY, "bridge": BRIDGE, "tower": TOWER, "gallery": GALLERY}
"""The scenes by the words that the command line knows them by."""

AT_QUAY = ("crates", "manifest", "mooring", "sticks", "chart", "rope", "mishaps")
AT_BRIDGE = ("barge", "menu", "cargo", "look", "by-keys", "by-pad", "pilots")
AT_TOWER = ("two-hands", "moorings", "gaze", "barge-board", "fingertip", "at-the-screen")
AT_GALLERY = ("orders", "levels", "stowing", "menus", "radio")

RECORDINGS = {"night-shift": SHIFT} | {
    name: _DATA / f"{name}.jsonl" for name in AT_QUAY + AT_BRIDGE + AT_TOWER + AT_GALLERY
}
"""The recordings by name: the night shift is of the harbour, the others are of the quay, the bridge, the tower or the
gallery."""
