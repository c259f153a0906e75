"""A tree of items, whose branches open and close (ARIA: tree)."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from typing import TYPE_CHECKING, Any, ClassVar

from glent.controls.context import focus_on, seats_within
from glent.controls.control import Control
from glent.controls.items import Items, Typed
from glent.controls.keys import key_of, typed_of
from glent.core.errors import ControlError, SceneError, near
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import ActEvent, Event
    from glent.core.scene.node import Node

__all__ = ["Tree"]

STEPS = {"ArrowDown": 1, "ArrowUp": -1}
KNOB = "knob"


class TreeItems(Items):
    """The items of a tree that show: those of closed branches do not."""

    __slots__ = ()

    def __init__(self, group: Node) -> None:
        super().__init__(group, "treeitem")

    def _holds_items(self, node: Node) -> bool:
        return True


class Tree(Control):
    """The nodes of role ``treeitem`` below its node. What lies in a child of role ``group`` is an item's branch, which
    shows while it is open.

    The item with the focus is chosen. Arrows up and down, Home and End go through all that show; the arrow right opens
    a branch, and leads to its first item once it is open; the arrow left closes it, or leads to the item above; an
    asterisk opens all branches beside it; letters lead to what begins with them. A click chooses; one on the child
    ``knob`` of an item, or a double click, opens and closes its branch.

    It acts: ``choose``, with the name of an item (its path below the node) that was activated by Enter or Space, or
    double-clicked.

    :param value: the name of the chosen item, empty if none is; by default one that begins as ``start``.
    :param opened: the names of the items whose branch is open at first.
    :param label: what an item is called for letters that are typed; by default its name.
    :raises ControlError: there is no item ``start``, or one of ``opened`` has no branch.

    :ivar value: that. :ivar open: the names of the items whose branch is open, as a tuple. Both are there to be
        watched, bound and set; what is gone stays in them.
    """

    roles = ("tree",)
    own_acts: ClassVar[Mapping[str, str]] = {"choose": "text"}
    value_type = "text"
    __slots__ = ("_items", "_typed", "open", "value")

    def __init__(
        self,
        node: Node,
        value: Value[str] | None = None,
        start: str = "",
        opened: Sequence[str] = (),
        label: Callable[[Node], str] = lambda node: node.name,
    ) -> None:
        super().__init__(node)
        self._items = TreeItems(node)
        self._typed = Typed(label)
        for name in (start, *opened):
            self._check_item(name, branch=name in opened)
        self.value: Value[str] = value if value is not None else Value(start, name=node.path)
        self.open: Value[tuple[str, ...]] = Value(tuple(opened), name=f"{node.path} open")
        self.follow(self.open, self._show, "open")
        self.follow(self.value, lambda name: self.node.set_for_now(entry=name or None))
        self.hear("click", self._clicked, phase="capture")
        self.hear("activate", self._activated, phase="capture")
        self.hear("key_down", self._key_down)

    # -- branches ------------------------------------------------------------------------------------------------------

    def branch_of(self, item: Node) -> Node | None:
        """The node that holds what lies below an item; None if it is a leaf."""
        return next((child for child in item.children if child.role == "group"), None)

    def is_open(self, item: Node) -> bool:
        """Whether the branch of an item is open."""
        return self._items.name(item) in self._opened

    def open_branch(self, item: Node) -> None:
        """Open the branch of an item; a leaf stays what it is."""
        if self.branch_of(item) is not None and not self.is_open(item):
            self.open.current = (*self._opened, self._items.name(item))

    def close_branch(self, item: Node) -> None:
        """Close the branch of an item. What is open within stays so for the next time."""
        name = self._items.name(item)
        self.open.current = tuple(one for one in self._opened if one != name)

    @property
    def _opened(self) -> tuple[str, ...]:
        return self.open.current if self.open.ready else ()

    def _show(self, opened: tuple[str, ...]) -> None:
        """Show the branches that are open, and lead the focus out of those that are not."""
        for item in [one for one in self.node.walk() if one.role == "treeitem"]:
            branch = self.branch_of(item)
            if branch is not None and branch.visible is not (self._items.name(item) in opened):
                for seat in seats_within(branch) if branch.visible else ():
                    with suppress(SceneError):  # else it goes where a hidden node's focus goes (law F3)
                        seat.set_focus(item, seat.focus_ring)
                branch.set_for_now(visible=not branch.visible)

    def _check_item(self, name: str, branch: bool = False) -> None:
        if not name:
            return
        known = {self._items.name(one): one for one in self.node.walk() if one.role == "treeitem"}
        if not isinstance(name, str) or name not in known:
            raise ControlError(f"{self.node.path}: has no item {name!r}{near(name, known)}")
        if branch and self.branch_of(known[name]) is None:
            raise ControlError(f"{known[name].path}: has no branch to open, expected a child of role group")

    # -- by others -----------------------------------------------------------------------------------------------------

    def check(self, to: Any) -> None:
        super().check(to)
        self._check_item(to)

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        item = self._items.of(event.node)
        if act not in ("open", "close") or item is None or self.branch_of(item) is None:
            return super().perform(act, value, event)
        if act == "open":
            self.open_branch(item)
        else:
            self.close_branch(item)
        return True

    # -- pointers and keys ---------------------------------------------------------------------------------------------

    def _choose(self, item: Node) -> None:
        self.value.current = self._items.name(item)

    def _turn(self, item: Node) -> None:
        if self.is_open(item):
            self.close_branch(item)
        else:
            self.open_branch(item)

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None or "device" in event.data:
            return  # by key: has been seen to
        self._choose(item)
        if self._is_on_knob(event, item):
            self._turn(item)
        elif event.count == 2:
            if self.branch_of(item) is not None:
                self._turn(item)
            self.say("choose", self._items.name(item))

    def _is_on_knob(self, event: Event, item: Node) -> bool:
        """Whether a pointer is on the child of an item that opens its branch."""
        knob = next((child for child in item.children if child.name == KNOB), None)
        scene = self.node.scene
        if knob is None or scene is None:
            return False
        left, top, right, bottom = scene.box(knob, self.node)
        across, down = self.node.scroll
        x, y = event.local[0] + across, event.local[1] + down
        return left <= x < right and top <= y < bottom

    def _activated(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is not None:
            self._choose(item)
            self.say("choose", self._items.name(item))

    def _key_down(self, event: Event) -> None:
        item, key = self._items.of(event.node), key_of(event)
        if item is None or not key:
            return
        letter = typed_of(event)
        branch = self.branch_of(item)
        if letter == "*":
            self._open_beside(item)
        elif key == "ArrowRight" and branch is not None and not self.is_open(item):
            self.open_branch(item)
        elif key == "ArrowLeft" and branch is not None and self.is_open(item):
            self.close_branch(item)
        else:
            to = self._lead(event, key, letter, item)
            if to is None:
                return
            if focus_on(event, to):
                self._choose(to)
        event.take()

    def _lead(self, event: Event, key: str, letter: str, item: Node) -> Node | None:
        """Where a key leads from an item; None for other keys."""
        if key in STEPS:
            return self._items.step(item, STEPS[key], wrap=False)
        if key == "Home":
            return self._items.first()
        if key == "End":
            return self._items.last()
        if key == "ArrowRight":
            branch = self.branch_of(item)
            inner = [one for one in self._items.all() if branch is not None and one.is_within(branch)]
            return inner[0] if inner else item
        if key == "ArrowLeft":
            return (self._items.of(item.parent) if item.parent is not None else None) or item
        return (self._typed.find(letter, event.time, self._items, item) or item) if letter else None

    def _open_beside(self, item: Node) -> None:
        """Open all branches beside an item, and its own."""
        above = item.parent.children if item.parent is not None else ()
        names = [self._items.name(one) for one in above if one.role == "treeitem" and self.branch_of(one) is not None]
        self.open.current = tuple(dict.fromkeys((*self._opened, *names)))

    def marks_of(self, part: str) -> frozenset[str]:
        marks = set()
        if part and self.value.ready and part == self.value.current:
            marks.add("chosen")
        if part in self._opened:
            marks.add("open")
        return frozenset(marks)
