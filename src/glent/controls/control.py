"""The base of all controls: a node with a role, handlers that can be taken away, parts, looks, acts (laws C1–C3)."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, Any, ClassVar, Protocol, TypeVar, cast
from weakref import WeakKeyDictionary, ref

from glent.controls.look import Look
from glent.controls.types import EXPECTED, NOTHING, is_of
from glent.core.arguments import is_choice
from glent.core.errors import ControlError, GlentError, raise_all
from glent.core.input.samples import PointerButton
from glent.core.scene.node import Node

if TYPE_CHECKING:
    from glent.core.routing.event import ActEvent
    from glent.core.routing.router import Router
    from glent.core.value import Value

__all__ = ["NOTHING", "Control", "Subscription", "control_of"]

T = TypeVar("T")

KEYS = ("key_down", "key_up")


def step_of(value: Value[Any]) -> float | None:
    """How far a step takes a number: its step, or else a hundredth of its range; None if it has neither."""
    if value.step is not None:
        return value.step
    return (value.high - value.low) / 100.0 if value.low is not None and value.high is not None else None


_MADE: WeakKeyDictionary[Node, ref[Control]] = WeakKeyDictionary()
"""By node, its control."""


def control_of(node: Node) -> Control | None:
    """The control that a node has, or None (law C11: it has one at the most)."""
    made = _MADE.get(node)
    return made() if made is not None else None


class _Stops(Protocol):
    def stop(self) -> object: ...


class Subscription:
    """A call that is made each time a control does something, until :meth:`stop`."""

    __slots__ = ("_call", "_calls")

    def __init__(self, calls: dict[Subscription, None], call: Callable[..., object]) -> None:
        self._calls = calls
        self._call = call

    def stop(self) -> None:
        """Be called no more. Twice does nothing."""
        self._calls.pop(self, None)


class Control:
    """The behaviour of a node, made of public calls to the core; it draws nothing.

    It lives as long as its node. What the renderer needs it reads from :meth:`look`, the values, and the places of the
    parts, which are child nodes: those that are there by name are used, the others added.

    :param node: what it works on; its role is set unless it has a fitting one.
    :raises ControlError: the node has been removed or has a role that does not fit; or as each control says.

    :ivar node: that node. :ivar seat: the name of the seat that acts on it, or did last.
    :ivar reason: why it has the mark ``refused``, in words to be shown.
    """

    roles: ClassVar[tuple[str, ...]] = ()
    """The WAI-ARIA roles its node can have, the first by default; none: any role, or none."""

    own_acts: ClassVar[Mapping[str, str]] = {}
    """What controls of this class do: :attr:`acts`, unless that depends on how one was made."""

    settable: ClassVar[bool] = True
    """Whether a player sets its values; else only the game does."""

    value_type: ClassVar[str] = ""
    """The type of its values: ``bool``, ``number``, ``text``, ``names`` (a tuple of texts), ``pair``; empty: none."""

    __slots__ = ("__weakref__", "_acts", "_ends", "_marks", "node", "reason", "seat")

    def __init__(self, node: Node) -> None:
        name = type(self).__name__
        if not isinstance(node, Node):
            raise ControlError(f"a {name} is to be made of {node!r}, expected a Node")
        if node.scene is None:
            raise ControlError(f"{node.path}: cannot be a {name}, the node has been removed")
        if node.role is not None and self.roles and node.role not in self.roles:
            raise ControlError(f"{node.path}: role is {node.role!r}, expected {' or '.join(self.roles)} for a {name}")
        other = control_of(node)
        if other is not None:
            raise ControlError(f"{node.path}: is a {type(other).__name__} already, expected a node without a control;"
                               " detach() it first")  # fmt: skip
        self.node = node
        self.seat = "main"
        self.reason = ""
        self._marks: frozenset[str] = frozenset()
        self._ends: list[_Stops] = []
        self._acts: dict[str, dict[Subscription, None]] = {}

    def __repr__(self) -> str:
        return f"<{type(self).__name__} {self.node.path}>"

    def detach(self) -> None:
        """Stop doing anything; the node stays as it is. Twice does nothing."""
        ends, self._ends = self._ends, []
        for end in ends:
            end.stop()
        if control_of(self.node) is self:
            del _MADE[self.node]

    # -- for others ----------------------------------------------------------------------------------------------------

    def on(self, act: str, call: Callable[..., object]) -> Subscription:
        """Call ``call`` each time it does this, with what :attr:`acts` says; until ``.stop()``.

        :raises ControlError: it has no such act.
        """
        if not is_choice(act, self.acts):
            known = ", ".join(self.acts) or "nothing but change its value"
            raise ControlError(f"{self.node.path}: a {type(self).__name__} has no act {act!r}, expected one of {known}")
        calls = self._acts.setdefault(act, {})
        one = Subscription(calls, call)
        calls[one] = None
        return one

    @property
    def acts(self) -> Mapping[str, str]:
        """What it does, to be subscribed to by :meth:`on`, each with the type of what is passed along: ``nothing``,
        ``text``, ``argument`` (a button's own), or ``any``."""
        return self.own_acts

    @property
    def values(self) -> dict[str, Value[Any]]:
        """Its values by name: most have one, ``value``."""
        value = getattr(self, "value", None)
        return {} if value is None else {"value": value}

    def set(self, to: Any, name: str = "value") -> None:
        """Set one of its values, by the same rules as a player does.

        :raises ControlError: it has no such value. :raises ValueRefusedError: it cannot be that.
        """
        values = self.values
        if not is_choice(name, values):
            raise ControlError(f"{self.node.path}: has no value {name!r}, expected {' or '.join(values) or 'none'}")
        values[name].current = to

    def look(self, part: str = "") -> Look:
        """What to draw of it, or of a part by its path below the node (:class:`Look`).

        :raises PathError: there is no such part.
        """
        node = self.node if isinstance(part, str) and not part else self.node[part]
        marks = self._marks | self.marks_of(part)
        return Look(self.state_of(node, part), marks | {"focus_ring"} if node.focus_ring else marks)

    @property
    def marks(self) -> frozenset[str]:
        """The marks that were set by :meth:`mark`."""
        return self._marks

    def mark(self, mark: str, on: bool = True) -> None:
        """Set a mark of its look, such as ``pending``, or take it away. The node is sent ``change``.

        :raises ControlError: there is no such mark.
        """
        Look("idle", (mark,))
        if not isinstance(on, bool):
            raise ControlError(f"{self.node.path}: the mark {mark} is {on!r}, expected True or False")
        marks = self._marks | {mark} if on else self._marks - {mark}
        if marks != self._marks:
            self._marks = marks
            self.tell_change(marks=tuple(sorted(marks)))

    # -- for those who derive ------------------------------------------------------------------------------------------

    def marks_of(self, part: str) -> frozenset[str]:
        """The marks that a part, by its path, or the control (empty) has by what it is."""
        return frozenset()

    def state_of(self, node: Node, part: str) -> str:
        """The state that a part, or the control, is drawn in."""
        return node.look

    def hear(
        self, kind: str, handler: Callable[[Any], object], node: Node | None = None, phase: str = "bubble"
    ) -> None:
        """Hear a kind of event at the node or a part, until the control is closed.

        Of pointers it hears what the first button does: another one presses, drags and clicks nothing. Keys that it
        does not take go on to what is further out, also from a node that is a control by its role.
        """
        self._settle_in()
        on = node if node is not None else self.node

        def heard(event: Any) -> None:
            if event.button is None or event.button is PointerButton.PRIMARY:
                self.seat = event.seat
                handler(event)
            elif kind == "drag_start":
                event.refuse()

        self._ends.append(on.on_for_now(kind, heard, phase))
        if kind in KEYS and on.is_control and not on.carries_on(kind):
            on.set_for_now(
                carries={*(on.carries or ()), kind}
            )  # a key that it does not take may mean something further out

    def _act_asked(self, event: ActEvent) -> None:
        """Do what an act asks for, or say why it cannot be done (law C2)."""
        try:
            done = self.perform(event.data["act"], event.data["value"], event)
        except GlentError as error:
            event.refuse(str(error))
        else:
            if done:
                self.seat = event.seat
                event.take()

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        """Do what an act asks of the node, or of a part (``event.node``). Return whether it is a thing that it does.

        By default its value is set, or goes by steps; of one with several, each at its part, or all at its node.

        :raises GlentError: a player could not do that.
        """
        values = self.values if self.settable else {}
        part = event.node.path[len(self.node.path) + 1 :]
        name = part if part in values else next(iter(values)) if not part and len(values) == 1 else None
        if act == "step" and name is not None and (by := step_of(values[name])) is not None:
            now = values[name].current if values[name].ready else values[name].low
            self.set(now + value * by, name)
        elif act == "set" and name is not None:
            self.check(value)
            self.set(value, name)
        elif act == "set" and not part and values:
            if not isinstance(value, tuple) or len(value) != len(values):
                raise ControlError(f"{self.node.path} has {len(values)} values and was given {value!r}")
            for one in value:
                self.check(one)
            self.set_all(value)
        else:
            return False
        return True

    def check(self, to: Any) -> None:
        """Check that a player could set a value to this.

        :raises ControlError: it is of another type.
        """
        kind = self.value_type
        if kind and (not is_of(to, kind) or (kind == "bool" and not isinstance(to, bool))):
            raise ControlError(f"{self.node.path} was given {to!r}, expected {EXPECTED[kind]}")

    def set_all(self, to: Sequence[Any]) -> None:
        """Set all of its values, in their order."""
        for name, one in zip(self.values, to, strict=True):
            self.set(one, name)

    def on_settle(self, call: Callable[[], object]) -> None:
        """Have a call made at each settle; once the node is gone the control closes instead."""
        scene = self.node.scene
        if scene is not None:
            self._ends.append(scene.on_settle(lambda: call() if self.node.scene is not None else self.detach()))

    def _settle_in(self) -> None:
        """Take the node, and give it its role: with the first handler, part or value, so what is refused before leaves
        it as it was."""
        if control_of(self.node) is None:
            _MADE[self.node] = ref(self)
            self._ends.append(self.node.on_for_now("act", lambda event: self._act_asked(event)))
        if self.node.role is None and self.roles:
            self.node.set_for_now(role=self.roles[0])

    def follow(self, value: Value[T], then: Callable[[T], object], key: str = "value") -> None:
        """Do something at once and whenever a value changes, and tell the node of each change."""
        self._settle_in()
        first = True

        def told(now: T) -> None:
            then(now)
            if not first:
                self._send({key: now})

        self._ends.append(value.watch(told))
        first = False

    def tell_change(self, **data: Any) -> None:
        """Send ``change`` to the node, if anyone is there to be told."""
        self._send(data)

    def _send(self, data: dict[str, Any]) -> None:
        scene = self.node.scene
        router = scene.router if scene is not None else None
        if router is not None:
            cast("Router", router).send(self.node, "change", data)

    def part(self, name: str, **attributes: Any) -> Node:
        """The child of this name, or a new one."""
        self._settle_in()
        for child in self.node.children:
            if child.name == name:
                return child
        return self.node.add_for_now(name, **attributes)

    def say(self, act: str, *given: Any) -> None:
        """Call all who wait for an act; an error of one keeps no other from being called."""
        errors: list[Exception] = []
        for one in list(self._acts.get(act, ())):
            if one in self._acts[act]:
                try:
                    one._call(*given)
                except Exception as error:
                    errors.append(error)
        raise_all(errors, f"{self.node.path}: several calls for {act} failed")
