"""Controls by the names that files call them by: the built-in ones and a game's own (law C12)."""

from __future__ import annotations

import re
from importlib import import_module

from glent.controls.control import Control
from glent.core.errors import ControlError, near

__all__ = ["class_called", "class_of", "name_of", "names", "register"]

GROUP = "glent.controls"
"""The entry points by which an installed package brings controls of its own: their name, and ``module:Class``."""

NAME = re.compile(r"[a-z][a-z0-9]*(-[a-z0-9]+)*")

_classes: dict[str, type[Control] | str] = {}
"""By name: the class, or where it is, until it is asked for."""


def register(name: str, cls: type[Control] | str) -> None:
    """Let scene files call a class of controls by a name.

    Its options in a file are the keywords of its constructor that a file can hold (:mod:`glent.controls.options`).
    A package that is installed can do without a call, by an entry point of the group ``glent.controls``.

    :param name: lower-case words with hyphens between them, such as ``rating``.
    :param cls: the class, or ``"module:Class"``, which is imported once it is asked for.
    :raises ControlError: it is no such name, another class has it, or the class is no :class:`Control`.
    """
    if not isinstance(name, str) or not NAME.fullmatch(name):
        raise ControlError(f"control {name!r}: expected a name of lower-case words with hyphens, such as tide-gauge")
    if not isinstance(cls, str):
        _check(name, cls)
    before = _classes.get(name, cls)
    if before is not cls:
        raise ControlError(f"control {name!r}: the name is {before!r}'s already, expected another one for {cls!r}")
    _classes[name] = cls


def _check(name: str, cls: object) -> type[Control]:
    if not isinstance(cls, type) or not issubclass(cls, Control):
        raise ControlError(f"control {name!r}: the class is {cls!r}, expected a subclass of Control")
    return cls


def class_of(name: str) -> type[Control]:
    """The class that files call by a name.

    :raises ControlError: there is none, or it cannot be loaded: an extra that it needs is not installed, for example.
    """
    found = _classes.get(name)
    if found is None:
        from importlib.metadata import entry_points  # slow to import, and seldom wanted

        entry = next(iter(entry_points(group=GROUP, name=name)), None)
        if entry is None:
            raise ControlError(
                f"the kind of control is {name!r}, expected one of {', '.join(_classes)}{near(name, _classes)}."
                " One of your own is made known by glent.controls.register"
            )
        found = entry.value
    if isinstance(found, str):
        module, _, cls = found.partition(":")
        found = _classes[name] = _check(name, getattr(import_module(module), cls, None))
    return found


def class_called(name: str) -> type[Control] | None:
    """The registered class that has a name in Python, or None."""
    for kind, one in _classes.items():
        if name == (one.partition(":")[2] if isinstance(one, str) else one.__name__):
            return class_of(kind)
    return None


def name_of(cls: type[Control]) -> str:
    """The name of a class, or of the first of its bases that has one; its own in Python where it has none."""
    by_class = {one: name for name, one in _classes.items()}
    return next((by_class[one] for one in cls.__mro__ if one in by_class), cls.__name__)


def names() -> tuple[str, ...]:
    """The names of all classes, in the order in which they were registered."""
    return tuple(_classes)
