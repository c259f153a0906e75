"""Help for tests: scripted users, and the pytest plugin with its report."""

from __future__ import annotations

from glent.testing.careful import CarefulHand, CarefulWand
from glent.testing.hand import Hand
from glent.testing.reach import OutOfReachError
from glent.testing.wand import Fingertip, Wand

__all__ = ["CarefulHand", "CarefulWand", "Fingertip", "Hand", "OutOfReachError", "Wand"]
