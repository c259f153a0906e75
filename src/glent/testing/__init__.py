"""Help for tests: a scripted user."""

from __future__ import annotations

from glent.testing.hand import Hand
from glent.testing.wand import Fingertip, Wand

__all__ = ["Fingertip", "Hand", "Wand"]
