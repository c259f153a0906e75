"""Bindings: which control does what for a seat, keys and pad buttons bound to actions (law F5)."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from types import MappingProxyType

from glent.core.arguments import listed
from glent.core.errors import BindingError
from glent.core.input.pad import AXES, BUTTONS

__all__ = ["ACTIONS", "DEFAULT", "MODIFIERS", "Bindings", "modifiers_of"]

ACTIONS = (
    "activate",
    "back",
    "next",
    "previous",
    "navigate_left",
    "navigate_right",
    "navigate_up",
    "navigate_down",
)
"""What Glent itself does with a control. A game's own shortcuts have a colon, as its kinds of event do."""

MODIFIERS = ("Control", "Alt", "Shift", "Meta")
"""In the order in which they stand before a key: ``Control+Shift+KeyS``."""

OWN_ACTION = re.compile(r"[a-z][a-z0-9_-]*:[a-z][a-z0-9_]*", re.ASCII)

_HALVES = frozenset(axis + sign for axis in AXES for sign in "-+")
_PAD = frozenset(BUTTONS) | _HALVES

DEFAULT: Mapping[str, tuple[str, ...]] = MappingProxyType(
    {
        "activate": ("Enter", "Space", "right_cluster_bottom"),
        "back": ("Escape", "BrowserBack", "right_cluster_right"),
        "next": ("Tab", "front_top_right"),
        "previous": ("Shift+Tab", "front_top_left"),
        "navigate_left": ("ArrowLeft", "left_cluster_left", "left_stick_x-"),
        "navigate_right": ("ArrowRight", "left_cluster_right", "left_stick_x+"),
        "navigate_up": ("ArrowUp", "left_cluster_top", "left_stick_y-"),
        "navigate_down": ("ArrowDown", "left_cluster_bottom", "left_stick_y+"),
    }
)
"""The bindings of a seat until others are set: the keys of the ARIA practices, and the pad's by what players know."""


def is_pad(control: str) -> bool:
    """Whether a control is a pad's: a button, or half an axis such as ``left_stick_x-``."""
    return control in _PAD


def modifiers_of(codes: Iterable[str]) -> tuple[str, ...]:
    """The modifiers among keys that are down, in the order in which they are written.

    The right Alt key is AltGraph, which makes characters; Windows tells of it as the left Control key as well.
    """
    held = set(codes)
    if "AltRight" in held:
        held -= {"AltRight", "ControlLeft"}
    down = {code.removesuffix("Left").removesuffix("Right") for code in held}
    return tuple(name for name in MODIFIERS if name in down)


class Bindings:
    """Controls by action. A value: a change gives another.

    :param given: controls by action: W3C key codes (or key values), with modifiers before them (``Shift+Tab``), and
        pad controls in the names of the W3C standard mapping, an axis with the half that is meant (``left_stick_x-``).
        Actions it does not name keep their default controls, as long as nobody else has been given them here. ``back``
        may share a control with one action of your own, such as the one that opens a menu: see :meth:`shared`.
    :param reserved: controls that the host keeps for itself, such as the window's own full-screen key, with what it
        does with them. Nothing can be bound to these.
    :raises BindingError: an unknown action, an unknown control, two actions on one control, a control the host
        keeps, or nothing left for ``back``; the message names all parties.
    """

    __slots__ = ("_actions", "_controls", "_shared", "reserved")

    def __init__(
        self, given: Mapping[str, Iterable[str]] | None = None, reserved: Mapping[str, str] | None = None
    ) -> None:
        for what, one in (("given", given), ("reserved", reserved)):
            if one is not None and not isinstance(one, Mapping):
                raise BindingError(f"bindings: {what} is {one!r}, expected None or a mapping")
        self.reserved: Mapping[str, str] = MappingProxyType(dict(reserved or {}))
        own = {action: _controls(action, controls) for action, controls in (given or {}).items()}
        taken = {control for controls in own.values() for control in controls}
        actions: dict[str, tuple[str, ...]] = {
            action: tuple(control for control in controls if control not in taken and control not in self.reserved)
            for action, controls in DEFAULT.items()
            if action not in own
        }
        for action in own:
            if action not in ACTIONS and not OWN_ACTION.fullmatch(action):
                raise BindingError(
                    f"bindings: there is no action {action!r}, expected one of {', '.join(ACTIONS)},"
                    " or one of your own with a colon, such as 'harbour:pause'"
                )
        actions.update(own)
        self._actions = actions
        self._controls: dict[str, str] = {}
        self._shared: dict[str, str] = {}
        for action, controls in actions.items():
            for control in controls:
                if control in self.reserved:
                    raise BindingError(
                        f"bindings: {control} is bound to {action}, but the host keeps it: {self.reserved[control]}"
                    )
                other = self._controls.setdefault(control, action)
                if "back" in (other, action) and ":" in other + action and control not in self._shared:
                    self._controls[control] = "back"
                    self._shared[control] = action if other == "back" else other
                elif other != action:
                    raise BindingError(
                        f"bindings: {control} is bound to both {other} and {action}, expected one action a control"
                    )
        if not actions["back"]:
            raise BindingError(
                "bindings: nothing is bound to back, expected at least one control: no menu could be left"
            )

    def action(self, control: str) -> str | None:
        """The action of a control, or None."""
        return self._controls.get(control)

    def shared(self, control: str) -> str | None:
        """The action of your own that shares a control with ``back``, or None.

        ``back`` is asked first where there is something to close; the layer of that may say otherwise
        (:attr:`Layer.shortcuts_first`). Else your own is done.
        """
        return self._shared.get(control)

    def controls(self, action: str) -> tuple[str, ...]:
        """The controls of an action, for a prompt to show."""
        return self._actions.get(action, ())

    @property
    def actions(self) -> Mapping[str, tuple[str, ...]]:
        """All actions."""
        return MappingProxyType(self._actions)

    def bound(self, action: str, control: str, take: bool = False) -> Bindings:
        """Bindings with a control for an action, in place of those it had on the same kind of device.

        :param take: whether to take the control from another action that has it.
        :raises BindingError: another action has it and ``take`` is not set, or back would be left without any.
        """
        if not isinstance(action, str) or not isinstance(control, str):
            raise BindingError(f"bindings: {control!r} is to be bound to {action!r}, expected texts")
        other = self._controls.get(control)
        if other is not None and other != action and not take:
            raise BindingError(f"bindings: {control} cannot be bound to {action}, {other} has it")
        given = {name: list(controls) for name, controls in self._actions.items()}
        if other is not None and other != action:
            given[other].remove(control)
        kept = [one for one in given.get(action, []) if is_pad(one) != is_pad(control)]
        given[action] = [control, *kept]
        return Bindings(given, self.reserved)

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Bindings)
            and self._actions == other._actions
            and dict(self.reserved) == dict(other.reserved)
        )

    def __hash__(self) -> int:
        return hash(tuple(sorted(self._actions.items())))

    def __repr__(self) -> str:
        return f"Bindings({self._actions!r})"


def _controls(action: str, value: Iterable[str]) -> tuple[str, ...]:
    given = (value,) if isinstance(value, str) else listed(value)
    if given is None:
        raise BindingError(f"bindings: {action} is {value!r}, expected key codes or controls of a pad")
    checked = []
    for control in given:
        if not isinstance(control, str) or not control:
            raise BindingError(f"bindings: {action} names {control!r}, expected a key code or a control of a pad")
        checked.append(_ordered(action, control))
    for control in checked:
        if checked.count(control) > 1:
            raise BindingError(f"bindings: {action} names {control} twice, expected every control once")
    return tuple(checked)


def _ordered(action: str, control: str) -> str:
    """A control with its modifiers in the order in which they are looked up."""
    if control in _PAD:
        return control
    if control in AXES:
        raise BindingError(f"bindings: {action} names {control}, expected a half of it: {control}- or {control}+")
    *before, code = control.split("+") if len(control) > 1 else [control]
    if not code or any(name not in MODIFIERS for name in before):
        raise BindingError(
            f"bindings: {action} names {control!r}, expected a key code with any of {', '.join(MODIFIERS)} before it"
        )
    return "+".join([*(name for name in MODIFIERS if name in before), code])
