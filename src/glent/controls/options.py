"""The options of a control: the keywords of its constructor that a file can hold (law C12).

They are declared once, where the class takes them. What a file may say of a control, its schema and the table in the
docs are read from there: the names, the types and the defaults. A keyword is an option if its type, or an alternative
of it, is plain data, a node (in a file: its path), another control (the path of the node that has it), or a layout of
keys. What only code can give, such as a function or a :class:`glent.Value`, is no option.
"""

from __future__ import annotations

import inspect
from collections.abc import Mapping, Sequence
from types import MappingProxyType, UnionType
from typing import Annotated, Any, Literal, NamedTuple, Union, get_args, get_origin

from glent.controls.control import NOTHING, Control
from glent.controls.key_layout import KeyLayout
from glent.controls.registry import class_called
from glent.core.errors import ControlError, near
from glent.core.scene.node import Node

__all__ = [
    "REQUIRED",
    "Bounds",
    "Distance",
    "Option",
    "Orientation",
    "Positive",
    "Scalar",
    "Side",
    "checked_options",
    "options_of",
]


class Bounds(NamedTuple):
    """Between which numbers an option lies."""

    above: float | None = None
    least: float | None = None
    below: float | None = None
    most: float | None = None


Positive = Annotated[float, Bounds(above=0.0, most=1e6)]
Distance = Annotated[float, Bounds(least=0.0)]
Scalar = bool | int | float | str
Orientation = Literal["horizontal", "vertical"]
Side = Literal["below", "above", "right", "left"]

REQUIRED: Any = object()
"""Stands for the default of an option that must be given."""

PLAIN = (bool, int, float, str, type(None), KeyLayout)


class Option(NamedTuple):
    """One option of a control.

    :ivar type: what a file can hold of it. :ivar default: what it is if it is not given.
    """

    name: str
    type: Any
    default: Any

    @property
    def reference(self) -> type[Node] | type[Control] | None:
        """The class of what it names by a path: a node, or the control that a node has; None if it names none."""
        return next((one for one in _alternatives(self.type) if _is_reference(one)), None)


class _Names(dict[str, Any]):
    """The names that annotations are read with: of a registered control its class; one that nobody knows stands for
    what no file can hold."""

    def __missing__(self, name: str) -> Any:
        try:
            return class_called(name) or _Unknown
        except ControlError:  # the extra that it needs is not there
            return _Unknown


class _Unknown:
    def __class_getitem__(cls, item: object) -> type[_Unknown]:
        return cls


_known: dict[type, Mapping[str, Option]] = {}


def options_of(cls: type[Control]) -> Mapping[str, Option]:
    """The options of a class of controls, in the order of its keywords."""
    known = _known.get(cls)
    if known is not None:
        return known
    names = _names_for(cls)
    found: dict[str, Option] = {}
    for name, parameter in list(inspect.signature(cls.__init__).parameters.items())[2:]:
        held = _held(_read(parameter.annotation, names))
        if held is not None:
            default = REQUIRED if parameter.default is parameter.empty else parameter.default
            found[name] = Option(name, held, None if default is NOTHING else default)
    _known[cls] = options = MappingProxyType(found)
    return options


def checked_options(cls: type[Control], given: Mapping[str, Any], where: str) -> None:
    """Check the names of options.

    :raises ControlError: there is one that the class does not have, or one is missing.
    """
    options = options_of(cls)
    for name in given:
        if name not in options:
            known = ", ".join(options) or "none"
            raise ControlError(
                f"{where}: a {cls.__name__} has no option {name!r}, expected one of {known}{near(name, options)}"
            )
    for name, option in options.items():
        if option.default is REQUIRED and name not in given:
            raise ControlError(f"{where}: a {cls.__name__} needs the option {name}, which is not there")


def _names_for(cls: type[Control]) -> dict[str, Any]:
    """What the names in the annotations of a class stand for."""
    builtins = {one.__name__: one for one in (bool, int, float, str, tuple, list, dict, object)}
    typing = {"Annotated": Annotated, "Any": _Unknown, "Literal": Literal, "Mapping": Mapping, "Sequence": Sequence}
    here = {"Bounds": Bounds, "Distance": Distance, "Positive": Positive, "Scalar": Scalar, "Side": Side}
    names = _Names(
        {
            **builtins,
            **typing,
            **here,
            "Orientation": Orientation,
            "Node": Node,
            "Control": Control,
            "KeyLayout": KeyLayout,
        }
    )
    names.update(getattr(cls.__init__, "__globals__", {}))
    return names


def _read(annotation: Any, names: dict[str, Any]) -> Any:
    """The type that an annotation stands for; of one that cannot be read now, nothing that a file can hold."""
    if not isinstance(annotation, str):
        return annotation
    try:
        return eval(annotation, {"__builtins__": {}}, names)
    except (AttributeError, TypeError):  # it is made of names that were there for the type checker alone
        return _Unknown


def _held(one: Any) -> Any:
    """What a file can hold of a type; None if that is nothing."""
    origin = get_origin(one)
    if origin in (Union, UnionType):
        parts = [part for part in map(_held, get_args(one)) if part is not None]
        return Union[tuple(parts)] if any(part is not type(None) for part in parts) else None  # noqa: UP007
    if one in PLAIN or _is_reference(one) or origin is Literal:
        return one
    if origin is Annotated:
        return one if _held(get_args(one)[0]) is not None else None
    if origin in (tuple, list, dict, Sequence, Mapping):
        inner = [part for part in get_args(one) if part is not ...]
        return one if all(_held(part) == part and not _is_reference(part) for part in inner) else None
    return None


def _alternatives(one: Any) -> tuple[Any, ...]:
    return get_args(one) if get_origin(one) is Union else (one,)


def _is_reference(one: Any) -> bool:
    return isinstance(one, type) and issubclass(one, Node | Control)
