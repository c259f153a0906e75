"""The kinds of event that a node can listen for."""

from __future__ import annotations

import re
from typing import NamedTuple

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


class Kind(NamedTuple):
    """One kind of event.

    :ivar gesture: the gesture that a listener for it asks for (law G5). :ivar solid: whether a handler for it makes a
        node of unset solidity solid (law S3). :ivar claims: whether a listener for it lets a glass offer accept a press
        that no handler took (law P2). :ivar target: whether only a target of a drag and drop hears it (law G3).
    """

    name: str
    gesture: str | None = None
    solid: bool = False
    claims: bool = False
    target: bool = False


TABLE = (
    Kind("enter"),
    Kind("leave"),
    Kind("move"),
    Kind("press", solid=True),
    Kind("release"),
    Kind("cancel"),
    Kind("click", solid=True, claims=True),
    Kind("hold", "hold", solid=True, claims=True),
    Kind("hold_progress", "hold", solid=True, claims=True),
    Kind("repeat", "repeat", solid=True, claims=True),
    Kind("drag_start", "drag", solid=True, claims=True),
    Kind("drag", "drag", solid=True, claims=True),
    Kind("drag_end", "drag", solid=True, claims=True),
    Kind("drag_enter", target=True),
    Kind("drag_leave", target=True),
    Kind("drop", solid=True, target=True),
    Kind("wheel", solid=True),
    Kind("scroll", "scroll", solid=True, claims=True),
    Kind("pinch", "pinch"),
    Kind("swipe", "swipe"),
    Kind("dwell"),
    Kind("focus"),
    Kind("blur"),
    Kind("key_down"),
    Kind("key_up"),
    Kind("text"),
    Kind("compose"),
    Kind("activate"),
    Kind("act"),
    Kind("back"),
    Kind("look"),
    Kind("change"),
)
"""All kinds of event, in the order that docs and tools have them."""

OWN_OF_SEVERAL, OWN_OF_ONE = "own, of several pointers", "own"
CONTEST_ORDER = (OWN_OF_SEVERAL, "pinch", OWN_OF_ONE, "drag", "swipe", "scroll", "hold", "repeat")
"""In what order the gestures of one node are asked: those of several pointers first, the user's own before the others,
drag before swipe before scroll; hold and repeat are decided by time alone (law G5)."""

KINDS = tuple(kind.name for kind in TABLE)
GESTURES = {kind.name: kind.gesture for kind in TABLE if kind.gesture is not None}
"""Kinds that a press may become, each with its gesture."""
MAKES_SOLID = frozenset(kind.name for kind in TABLE if kind.solid)
CLAIMS_PRESS = frozenset(kind.name for kind in TABLE if kind.claims)
TARGETED = frozenset(kind.name for kind in TABLE if kind.target)
OWN = frozenset({OWN_OF_SEVERAL, OWN_OF_ONE})
_KNOWN = frozenset(KINDS)
assert frozenset(GESTURES.values()) == frozenset(CONTEST_ORDER) - OWN

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
