"""Kelp Harbour: the demonstration scene, a small world behind it, and a recorded shift."""

from __future__ import annotations

from pathlib import Path

__all__ = ["HARBOUR", "SHIFT"]

HARBOUR = Path(__file__).parent / "data" / "harbour.yaml"
"""The scene file."""

SHIFT = Path(__file__).parent / "data" / "night-shift.jsonl"
"""A recorded shift: one dispatcher, a mouse, and now and then a finger."""
