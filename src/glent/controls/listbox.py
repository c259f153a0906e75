"""A list to choose from: one, or as many as one likes (ARIA: listbox)."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import TYPE_CHECKING, Any, ClassVar, TypeVar

from glent.controls.context import focus_on, seat_of
from glent.controls.control import Control
from glent.controls.items import Items, Typed
from glent.controls.keys import key_of, typed_of
from glent.controls.rows import RowItems, Rows, RowsInView, check_rows
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.list_value import ListValue
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Listbox"]

STEPS = {"ArrowDown": 1, "ArrowUp": -1}
PAGES = {"PageDown": 1, "PageUp": -1}

T = TypeVar("T")


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

    Its options are the nodes that are there, or the rows of a list of the game's: :meth:`follow_items`.

    :ivar value: that, to watch, bind and set. What was chosen and is gone stays in it.
    """

    roles = ("listbox",)
    own_acts: ClassVar[Mapping[str, str]] = {"choose": "text", "pick": "text"}
    value_type = "names"
    __slots__ = ("_anchor", "_items", "_rows", "_several", "_typed", "value")

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
        self._rows: Rows[Any] | None = None
        self._several = several
        self._typed = Typed(label)
        self._anchor: str | None = None
        """The name of the option where what Shift extends began."""
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
    def items(self) -> ListValue[Any] | None:
        """The list that its options follow, or None."""
        return self._rows.items if self._rows is not None else None

    def follow_items(
        self,
        items: ListValue[T],
        row: Callable[[Node, T], object],
        height: float | None = None,
        label: Callable[[T], str] | None = None,
    ) -> None:
        """Have the rows of a list as its options, named by their keys: what comes, goes or moves there does so here,
        and each row that stays keeps its node, its hover and its focus (law V7).

        :param row: called with a row's new node and its item, and again when the item has changed, to give the node its
            facts, label, children and so on.
        :param height: how high each row is, in node-local pixels. Then the node scrolls, and only the rows that show
            have nodes: as many as there are cost no more. None: each row has one; the node's flow places it.
        :param label: what an item is called for letters that are typed; by default its key.
        :raises ControlError: what is given is none of that.
        """
        check_rows(self.node, items, row, height)
        if self._rows is not None:
            self._rows.stop()
        rows = Rows(self.node, items, row) if height is None else RowsInView(self.node, items, row, height)
        self._rows, self._items = rows, RowItems(rows, label)
        self._ends.append(rows)
        self._enter_at(self._now)

    @property
    def options(self) -> list[Node]:
        """The nodes of all options that can be chosen, in order; of a long list of rows, those that have one."""
        return self._items.all()

    def name_of(self, node: Node) -> str | None:
        """The name of the option that a node is, or lies in; None if it is none of it."""
        item = self._items.of(node) if node.is_within(self.node) else None
        return self._items.name(item) if item is not None else None

    def find(self, letter: str, time: float) -> Node | None:
        """The first option after the chosen one whose label begins with a letter, typed at this time; with more that
        are typed soon after, with these as well."""
        return self._typed.find(letter, time, self._items, next(iter(self.chosen), None))

    @property
    def chosen(self) -> list[Node]:
        """The nodes of the chosen ones that are there, in the order of the list."""
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
        if self._rows is not None:
            self._rows.keep(names[0] if names else None)
        self.node.set_for_now(entry=names[0] if names else None)

    def _choose(self, names: Collection[str]) -> None:
        self.value.current = tuple(name for name in self._items.names() if name in names)

    def _turn(self, item: Node) -> None:
        self._choose({*self._now} ^ {self._items.name(item)})

    def _extend(self, item: Node) -> None:
        names = self._items.names()
        start = names.index(self._anchor) if self._anchor in names else 0
        end = names.index(self._items.name(item))
        self._choose(set(names[min(start, end) : max(start, end) + 1]))

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
        self._anchor = self._items.name(item)
        if self._several:
            self.say("pick", self._items.name(item))
        if event.count == 2:
            self.say("choose", self._items.name(item))

    def _pick(self, item: Node) -> None:
        self._choose({self._items.name(item)})
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
        self._anchor = self._items.name(item)

    def _key_down(self, event: Event) -> None:
        item = self._items.of(event.node)
        key = key_of(event)
        if item is None or not key:
            return
        modifiers = seat_of(event).modifiers
        if key == "KeyA" and "Control" in modifiers and self._several:
            event.take()
            names = set(self._items.names())
            self._choose(set() if names <= {*self._now} else names)
            return
        to = self._lead(event, key, item)
        if to is None:
            return
        event.take()
        if not focus_on(event, to):
            return
        if not self._several:
            self._pick(to)
            self._anchor = self._items.name(to)
        elif "Shift" in modifiers:
            if self._anchor is None:
                self._anchor = self._items.name(item)
            self._extend(to)

    def _lead(self, event: Event, key: str, item: Node) -> Node | None:
        """Where a key leads from an option; None for other keys."""
        if key in STEPS:
            return self._items.step(item, STEPS[key], wrap=False)
        if key == "Home":
            return self._items.first()
        if key == "End":
            return self._items.last()
        if key in PAGES and isinstance(self._rows, RowsInView):
            return self._items.step(item, PAGES[key] * self._rows.page, wrap=False)
        letter = typed_of(event)
        return (self._typed.find(letter, event.time, self._items, item) or item) if letter else None

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("chosen",)) if part and part in self._now else frozenset()
