"""The kinds of event that a node can listen for."""

from __future__ import annotations

import re

from glent.core.errors import KindError

__all__ = [
    "CLAIMS_PRESS",
    "CONTEST_ORDER",
    "GESTURES",
    "KINDS",
    "MAKES_SOLID",
    "OWN",
    "OWN_OF_ONE",
    "OWN_OF_SEVERAL",
    "TARGETED",
    "check_kind",
]

KINDS = (
    "enter",
    "leave",
    "move",
    "press",
    "release",
    "cancel",
    "click",
    "hold",
    "hold_progress",
    "repeat",
    "drag_start",
    "drag",
    "drag_end",
    "drag_enter",
    "drag_leave",
    "drop",
    "wheel",
    "scroll",
    "pinch",
    "swipe",
    "dwell",
    "focus",
    "blur",
    "key_down",
    "key_up",
    "text",
    "compose",
    "activate",
    "back",
    "look",
    "change",
)
_KNOWN = frozenset(KINDS)

GESTURES = {
    "hold": "hold",
    "hold_progress": "hold",
    "repeat": "repeat",
    "drag_start": "drag",
    "drag": "drag",
    "drag_end": "drag",
    "scroll": "scroll",
    "pinch": "pinch",
    "swipe": "swipe",
}
"""Kinds that a press may become, each with the gesture that a listener for it asks for (law G5)."""

OWN_OF_SEVERAL, OWN_OF_ONE = "own, of several pointers", "own"
OWN = frozenset({OWN_OF_SEVERAL, OWN_OF_ONE})
CONTEST_ORDER = (OWN_OF_SEVERAL, "pinch", OWN_OF_ONE, "drag", "swipe", "scroll", "hold", "repeat")
"""In what order the gestures of one node are asked: those of several pointers first, the user's own before the others,
drag before swipe before scroll; hold and repeat are decided by time alone (law G5)."""

TARGETED = frozenset({"drag_enter", "drag_leave", "drop"})
"""Kinds that only a target of a drag and drop hears (law G3)."""

_HOLD_DRAG_SCROLL = frozenset(GESTURES) - {"pinch", "swipe"}

MAKES_SOLID = frozenset({"press", "click", "drop", "wheel"}) | _HOLD_DRAG_SCROLL
"""A handler for one of these makes a node of unset solidity solid (law S3)."""

CLAIMS_PRESS = frozenset({"click"}) | _HOLD_DRAG_SCROLL
"""A listener for one of these lets a glass offer accept a press that no handler took (law P2)."""

_OWN = re.compile(r"[a-z][a-z0-9_-]*:[a-z][a-z0-9_]*", re.ASCII)


def check_kind(kind: object) -> str:
    """Check a kind of event: a known one, or one of the user's own with a colon in it (``crane:rope_pull``).

    :raises KindError: it is not; the message names the known ones.
    """
    if not isinstance(kind, str) or (kind not in _KNOWN and not _OWN.fullmatch(kind)):
        known = ", ".join(KINDS)
        raise KindError(
            f"{kind!r} is not a kind of event; the kinds are {known}, and your own, such as 'crane:rope_pull'"
        )
    return kind
