"""The errors of the core. Each says what was wrong, where, and what was expected; raising one changes no state."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import islice

__all__ = [
    "BindingError",
    "GlentError",
    "KindError",
    "MissingExtraError",
    "NotSealedError",
    "PathError",
    "PlaceError",
    "SampleError",
    "SceneError",
    "SeatError",
    "SettleError",
    "ShapeError",
    "ThreadError",
    "ValueRefusedError",
    "near",
    "raise_all",
]


MANY = 500


def near(name: object, known: Iterable[str]) -> str:
    """The end of a message about an unknown name: the nearest right one; empty if none is near."""
    from difflib import get_close_matches  # slow to import, and seldom wanted

    wanted, among = str(name)[:200], list(known)
    if len(among) > MANY:  # comparing with each takes its time: those alone that begin alike and are as long
        alike = (one for one in among if one[:2] == wanted[:2] and abs(len(one) - len(wanted)) <= 2)
        among = list(islice(alike, MANY))
    found = get_close_matches(wanted, among, n=1, cutoff=0.4)
    return f"; near is {found[0]}" if found else ""


def raise_all(errors: list[Exception], message: str) -> None:
    """Raise what several calls have raised: nothing, the one error, or all of them as a group with this message."""
    if len(errors) == 1:
        raise errors[0]
    if errors:
        raise ExceptionGroup(message, errors)


class GlentError(Exception):
    """Base of every error that Glent raises on purpose."""


class MissingExtraError(GlentError, ModuleNotFoundError):
    """An optional package is not installed; the message says how to install it."""


class ThreadError(GlentError, RuntimeError):
    """A call from another thread while a sample is being routed: a router is one thread's at a time."""


class ShapeError(GlentError, ValueError):
    """A hit shape cannot be made of these numbers."""


class PlaceError(GlentError, ValueError):
    """A place says too much, too little, or is no number."""


class SceneError(GlentError, ValueError):
    """A change to the scene would break it: a doubled name, a bad value, a tree that is too deep."""


class PathError(GlentError, KeyError):
    """No node has this path."""

    def __str__(self) -> str:
        # KeyError shows the repr of its argument, which would quote a sentence.
        return str(self.args[0]) if self.args else ""


class KindError(GlentError, ValueError):
    """An event kind that does not exist."""


class SampleError(GlentError, ValueError):
    """A sample that cannot be: it names the field and the value. The router is as it was before."""


class BindingError(GlentError, ValueError):
    """Two actions on one control, an unknown control, or nothing left for back (law F5)."""


class SeatError(GlentError, ValueError):
    """A seat given twice, a device of two seats, or a viewport of no size; the message names all parties."""


class SettleError(GlentError, RuntimeError):
    """Handlers undo each other's changes, so that hover never comes to rest (law P7). Reported, not raised."""


class NotSealedError(GlentError, RuntimeError):
    """The verdict of a sample fed from inside a handler was read before that sample was routed (law R6)."""


class ControlError(GlentError, ValueError):
    """A control cannot be made of what it was given, or cannot do what it is asked."""


class ValueRefusedError(GlentError, ValueError):
    """A value is set to what it cannot be, or asked before it has one. It and what is bound to it stay as they were."""
