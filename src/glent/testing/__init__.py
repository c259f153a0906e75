"""Help for tests: scripted users, and the pytest plugin with its report.

The plugin is loaded by each run of pytest, also of those that test no game, so nothing is imported before it is used.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.testing.careful import CarefulHand, CarefulWand
    from glent.testing.hand import Hand
    from glent.testing.reach import OutOfReachError
    from glent.testing.wand import Fingertip, Wand

__all__ = ["CarefulHand", "CarefulWand", "Fingertip", "Hand", "OutOfReachError", "Wand"]

_HOMES = {
    "CarefulHand": "careful",
    "CarefulWand": "careful",
    "Fingertip": "wand",
    "Hand": "hand",
    "OutOfReachError": "reach",
    "Wand": "wand",
}


def __getattr__(name: str) -> Any:
    from importlib import import_module

    home = _HOMES.get(name)
    if home is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(f"{__name__}.{home}"), name)


def __dir__() -> list[str]:
    return sorted({*globals(), *_HOMES})
