"""The kinds of event a node can be asked to hear."""

from __future__ import annotations

from glent.core.errors import KindError

__all__ = ["CLAIMS_PRESS", "KINDS", "MAKES_SOLID", "check_kind"]

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

_HOLD_AND_DRAG = frozenset({"hold", "hold_progress", "repeat", "drag_start", "drag", "drag_end"})

MAKES_SOLID = frozenset({"press", "click", "drop", "wheel", "scroll"}) | _HOLD_AND_DRAG
"""A handler for one of these makes a node of unset solidity solid (law S3)."""

CLAIMS_PRESS = frozenset({"click", "scroll"}) | _HOLD_AND_DRAG
"""A listener for one of these lets a glass offer accept a press that no handler took (law P2)."""


def check_kind(kind: object) -> str:
    """The kind itself, if it is one.

    :raises KindError: it is not; the message names the known ones.
    """
    if not isinstance(kind, str) or kind not in _KNOWN:
        raise KindError(f"{kind!r} is no kind of event; the kinds are {', '.join(KINDS)}")
    return kind
