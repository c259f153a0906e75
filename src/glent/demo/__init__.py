"""Kelp Harbour: two demonstration scenes, a small world behind each, and recordings of people at work there."""

from __future__ import annotations

from pathlib import Path

__all__ = ["HARBOUR", "QUAY", "RECORDINGS", "SCENES", "SHIFT"]

_DATA = Path(__file__).parent / "data"

HARBOUR = _DATA / "harbour.yaml"
"""The scene of the dispatcher's desk."""

QUAY = _DATA / "quay.yaml"
"""The scene of the quay, which is worked by fingers."""

SHIFT = _DATA / "night-shift.jsonl"
"""A recorded shift at the desk: one dispatcher, a mouse, and now and then a finger."""

SCENES = {"harbour": HARBOUR, "quay": QUAY}
"""The scenes by the words that the command line knows them by."""

RECORDINGS = {"night-shift": SHIFT} | {
    name: _DATA / f"{name}.jsonl" for name in ("crates", "manifest", "mooring", "sticks", "chart", "rope", "mishaps")
}
"""The recordings by name: the night shift is of the harbour, all others are of the quay."""
