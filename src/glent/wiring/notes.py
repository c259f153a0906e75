"""What a node can note under ``wiring``, and whether it is of that shape at all; files are checked before."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

__all__ = ["KEYS", "malformed"]

KEYS = ("tells", "values", "commands", "does")


def malformed(given: object) -> str:
    """What is wrong with the shape of a node's notes on wiring; empty if nothing is."""
    if not isinstance(given, Mapping):
        return f"wiring is noted as {given!r}, expected a mapping with any of {', '.join(KEYS)}"
    for key, told in given.items():
        if key not in KEYS:
            return f"wiring has {key!r}, expected any of {', '.join(KEYS)}"
        if key == "does":
            if isinstance(told, str) or not isinstance(told, Sequence) or not all(isinstance(o, Mapping) for o in told):
                return f"does is {told!r}, expected a list of mappings with on, act and node or name"
        elif not isinstance(told, Mapping) or not all(map(_is_name, told.values())):
            return f"{key} is {told!r}, expected names, or mappings with a name, by what they are for"
    return ""


def _is_name(told: object) -> bool:
    name = told.get("name") if isinstance(told, Mapping) else told
    return isinstance(name, str) and bool(name)
