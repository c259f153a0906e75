"""Finding out why: what got in the way, and where the world is reached. Results are data."""

from __future__ import annotations

from glent.diagnose.passmap import PassMap, Zone, pass_map

__all__ = ["PassMap", "Zone", "pass_map"]
