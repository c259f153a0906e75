"""A list to choose from: one, or as many as one likes (ARIA: listbox)."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import TYPE_CHECKING, Any, ClassVar

from glent.controls.context import focus_on, seat_of
from glent.controls.control import Control
from glent.controls.items import Items, Typed
from glent.controls.keys import key_of, typed_of
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Listbox"]

STEPS = {"ArrowDown": 1, "ArrowUp": -1}


class Listbox(Control):
    """The nodes of role ``option`` below its node.

    Of a list for one, the option with the focus is chosen. Of one for several, Space or a click turns an option over,
    and Shift with an arrow or a click extends from where it began; Control with A chooses all, or none if all are.
    Letters lead to what begins with them. It acts: ``choose``, with the name of an option that was double-clicked, or
    activated by Enter; and ``pick``, with the name of each option that is clicked, activated or led to, also of the one
    that is chosen already.

    :param value: the names of the chosen ones (their paths below the node), as a tuple; none at first.
    :param several: whether more than one can be chosen.
    :param label: what an option is called for letters that are typed; by default its name.
    :raises ControlError: more than one is chosen in a list for one.

    :ivar value: that, to watch, bind and set. What was chosen and is gone stays in it.
    """

    roles = ("listbox",)
    own_acts: ClassVar[Mapping[str, str]] = {"choose": "text", "pick": "text"}
    value_type = "names"
    __slots__ = ("_anchor", "_items", "_several", "_typed", "value")

    def __init__(
        self,
        node: Node,
        value: Value[tuple[str, ...]] | None = None,
        start: Sequence[str] = (),
        several: bool = False,
        label: Callable[[Node], str] = lambda node: node.name,
    ) -> None:
        super().__init__(node)
        self._items = Items(node, "option")
        self._several = several
        self._typed = Typed(label)
        self._anchor: Node | None = None
        """Where what Shift extends began."""
        self.value: Value[tuple[str, ...]] = value if value is not None else Value(tuple(start), name=node.path)
        if self.value.ready and len(self.value.current) > 1 and not several:
            raise ControlError(
                f"{node.path}: {self.value.current} are chosen in a list for a single choice, expected at most one"
            )
        self.follow(self.value, self._enter_at)
        self.hear("click", self._clicked, phase="capture")
        self.hear("key_down", self._key_down)
        self.hear("activate", self._activated, phase="capture")

    @property
    def chosen(self) -> list[Node]:
        """The chosen ones that are there, in the order of the list."""
        return [item for item in self._items.all() if self._items.name(item) in self._now]

    @property
    def _now(self) -> tuple[str, ...]:
        return self.value.current if self.value.ready else ()

    def check(self, to: Any) -> None:
        super().check(to)
        if len(to) > 1 and not self._several:
            raise ControlError(f"{self.node.path} was given {to!r}, expected one name at most")
        self._items.check(to)

    def _enter_at(self, names: tuple[str, ...]) -> None:
        self.node.set_for_now(entry=names[0] if names else None)

    def _choose(self, items: list[Node]) -> None:
        names = {self._items.name(item) for item in items}
        self.value.current = tuple(
            self._items.name(item) for item in self._items.all() if self._items.name(item) in names
        )

    def _turn(self, item: Node) -> None:
        chosen = self.chosen
        self._choose([one for one in chosen if one is not item] if item in chosen else [*chosen, item])

    def _extend(self, item: Node) -> None:
        items = self._items.all()
        start = items.index(self._anchor) if self._anchor in items else 0
        end = items.index(item)
        self._choose(items[min(start, end) : max(start, end) + 1])

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        if "device" in event.data:
            return  # by key: has been seen to
        modifiers = seat_of(event).modifiers
        if not self._several:
            self._pick(item)
        elif "Shift" in modifiers:
            self._extend(item)
            return
        else:
            self._turn(item)
        self._anchor = item
        if self._several:
            self.say("pick", self._items.name(item))
        if event.count == 2:
            self.say("choose", self._items.name(item))

    def _pick(self, item: Node) -> None:
        self._choose([item])
        self.say("pick", self._items.name(item))

    def _activated(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        if event.data["code"] == "Space" and self._several:
            self._turn(item)
        else:
            if not self._several:
                self._pick(item)
            self.say("choose", self._items.name(item))
        self._anchor = item

    def _key_down(self, event: Event) -> None:
        item = self._items.of(event.node)
        key = key_of(event)
        if item is None or not key:
            return
        modifiers = seat_of(event).modifiers
        if key == "KeyA" and "Control" in modifiers and self._several:
            event.take()
            items = self._items.all()
            self._choose([] if len(self.chosen) == len(items) else items)
            return
        to = self._lead(event, key, item)
        if to is None:
            return
        event.take()
        if not focus_on(event, to):
            return
        if not self._several:
            self._pick(to)
            self._anchor = to
        elif "Shift" in modifiers:
            if self._anchor is None:
                self._anchor = item
            self._extend(to)

    def _lead(self, event: Event, key: str, item: Node) -> Node | None:
        """Where a key leads from an option; None for other keys."""
        if key in STEPS:
            return self._items.step(item, STEPS[key], wrap=False)
        if key == "Home":
            return self._items.first()
        if key == "End":
            return self._items.last()
        letter = typed_of(event)
        return (self._typed.find(letter, event.time, self._items.all(), item) or item) if letter else None

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("chosen",)) if part and part in self._now else frozenset()
