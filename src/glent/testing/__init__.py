"""Help for tests: a scripted user."""

from __future__ import annotations

from glent.testing.hand import Hand

__all__ = ["Hand"]
