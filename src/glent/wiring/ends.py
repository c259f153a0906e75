"""What a node can be wired to: what happens at it, and what can be done to it (laws N1, N4)."""

from __future__ import annotations

from collections.abc import Callable
from difflib import get_close_matches
from typing import TYPE_CHECKING, Any, Protocol

from glent.controls.button import Button
from glent.controls.control import NOTHING, Control
from glent.controls.dialog import Dialog
from glent.controls.popup import Popup
from glent.controls.toggle import Toggle
from glent.controls.tool_window import ToolWindow
from glent.controls.types import is_of, type_of
from glent.core.scene.kinds import KINDS
from glent.wiring.errors import Problem, WiringError

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.value import Value

__all__ = ["COMMANDS", "Command", "Stops", "changes_of", "command", "commands_of", "happenings", "hear"]

COMMANDS = ("show", "hide", "toggle", "enable", "disable", "open", "close", "set")
"""What can be done to nodes: any can be shown, hidden, enabled and disabled; the rest depends on the control."""

CHANGE = "change"


class Stops(Protocol):
    """What can be stopped."""

    def stop(self) -> object: ...


class Watches:
    """Several that are stopped together."""

    __slots__ = ("_all",)

    def __init__(self, several: list[Stops]) -> None:
        self._all = several

    def stop(self) -> None:
        for one in self._all:
            one.stop()


class Command:
    """Something that can be done to a node: call it, with a value if its type is not ``nothing``.

    :ivar type: the type of what it takes. :ivar path: the node's path. :ivar act: which of :data:`COMMANDS`.
    """

    __slots__ = ("_call", "act", "path", "type")

    def __init__(self, path: str, act: str, kind: str, call: Callable[..., object]) -> None:
        self.path = path
        self.act = act
        self.type = kind
        self._call = call

    def __call__(self, value: Any = NOTHING) -> None:
        """Do it.

        :raises WiringError: the value is of another type.
        """
        if not is_of(value, self.type):
            given = "nothing" if value is NOTHING else repr(value)
            what = f"{self.path}: {self.act} was given {given}, expected {self.type}"
            raise WiringError([Problem("wrong type", "", (self.path,), what)])
        if value is NOTHING:
            self._call()
        else:
            self._call(tuple(value) if isinstance(value, list) else value)


def happenings(control: Control | None) -> dict[str, str]:
    """What can happen at a node with this control that others can be wired to, each with the type passed along."""
    found = {kind: "nothing" for kind in KINDS if kind != CHANGE}
    if control is not None:
        for act, kind in control.acts.items():
            if kind == "argument":
                argument = control.argument if isinstance(control, Button) else NOTHING
                kind = type_of(argument)
            found[act] = kind
        if control.values:
            found[CHANGE] = control.value_type
    return found


def hear(node: Node, control: Control | None, what: str, call: Callable[[Any, str], object]) -> Stops:
    """Call ``call(value, seat)`` each time something happens at a node; the value is ``NOTHING`` if nothing is passed,
    the seat is the name of the one whose act it was."""
    if control is not None and what in control.acts:
        return control.on(what, lambda *given: call(given[0] if given else NOTHING, control.seat))
    if control is not None and what == CHANGE and control.values:
        return Watches([changes_of(one, lambda now: call(now, control.seat)) for one in control.values.values()])
    return node.on_for_now(what, lambda event: call(NOTHING, event.seat))


def changes_of(value: Value[Any], call: Callable[[Any], object]) -> Stops:
    """Watch a value for what it changes to from now on."""
    first = True

    def told(now: Any) -> None:
        if not first:
            call(now)

    watch = value.watch(told)
    first = False
    return watch


def commands_of(control: Control | None) -> dict[str, str]:
    """What can be done to a node with this control, each with the type of what it takes."""
    found = dict.fromkeys(("show", "hide", "toggle", "enable", "disable"), "nothing")
    if isinstance(control, Popup):
        found.update(open="nothing", close="nothing")
    elif isinstance(control, ToolWindow | Dialog):
        found.update(close="nothing")
    if control is not None and len(control.values) == 1 and control.value_type:
        found["set"] = control.value_type
    return found


def command(node: Node, control: Control | None, what: str) -> Command:
    """One of the things that can be done to a node.

    :raises WiringError: it cannot be done to this one; the message says what can.
    """
    possible = commands_of(control)
    if what not in possible:
        raise WiringError([impossible(node, control, what, possible)])

    def visible(on: bool) -> None:
        node.set_for_now(visible=on)

    def enabled(on: bool) -> None:
        node.set_for_now(enabled=on)

    def toggle() -> None:
        if isinstance(control, Toggle):
            control.toggle()
        elif isinstance(control, Popup):
            (control.close if control.is_open else control.open)()
        else:
            node.set_for_now(visible=not node.visible)

    def close() -> None:
        if isinstance(control, Popup | ToolWindow):
            control.close()
        else:
            node.set_for_now(visible=False)

    def set_value(value: Any) -> None:
        assert control is not None
        (one,) = control.values.values()
        one.current = value

    calls: dict[str, Callable[..., object]] = {
        "show": lambda: visible(True),
        "hide": lambda: visible(False),
        "toggle": toggle,
        "enable": lambda: enabled(True),
        "disable": lambda: enabled(False),
        "open": control.open if isinstance(control, Popup) else (lambda: visible(True)),
        "close": close,
        "set": set_value,
    }
    return Command(node.path, what, possible[what], calls[what])


def impossible(node: Node, control: Control | None, what: str, possible: dict[str, str]) -> Problem:
    """That a node cannot do something, and what it can."""
    near = get_close_matches(what, possible, n=1)
    kind = f"a {type(control).__name__}" if control is not None else "a node without a control"
    known = near[0] if near else ", ".join(possible)
    return Problem("impossible", "", (node.path,), f"{node.path}: found {what!r} for {kind}; expected {known}")
