"""Slots in rows and columns, and what lies in them: an inventory (ARIA: grid; law C7)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Annotated, Any, ClassVar

from glent.controls.context import focus_on, seat_of
from glent.controls.control import Control
from glent.controls.items import Items
from glent.controls.keys import key_of
from glent.core.errors import ControlError
from glent.core.list_value import ListChange, ListValue
from glent.core.value import Watch

if TYPE_CHECKING:
    from glent.controls.options import Bounds, Scalar
    from glent.core.routing.event import DragStart, Event
    from glent.core.scene.node import Node

__all__ = ["SlotDrag", "Slots"]


class SlotDrag:
    """What is dragged out of a slot.

    :ivar slots: whose slot. :ivar slot: its name. :ivar item: what lay in it.
    """

    __slots__ = ("item", "slot", "slots")

    def __init__(self, slots: Slots, slot: str, item: Any) -> None:
        self.slots = slots
        self.slot = slot
        self.item = item

    def __repr__(self) -> str:
        return f"<SlotDrag {self.item!r} from {self.slots.node.path}/{self.slot}>"


class Slots(Control):
    """The nodes of role ``gridcell`` below its node, each a slot that holds one item or nothing.

    Items are dragged from slot to slot, also of another ``Slots``: onto nothing they move, onto another item the two
    change places, if both may lie where they come to. By single presses (law G9): a click, Enter or Space picks up, and
    puts down at the next one; Escape puts it back. Arrows, Home and End, with Control for the whole grid, go about.

    It acts: ``moved``, with the :class:`SlotDrag` and the name of the slot the item is in now; ``refused``, with the
    SlotDrag and the reason.

    :param accepts: asked with the name of a slot and an item whether the item may be there: True or None if so; False,
        or a reason in words, if not.
    :param columns: how many slots a row has, for the keys. :param items: what lies in the slots at first, by name.
    :raises ControlError: fewer than one column, or no slot.

    :ivar accepts: as given; set another at any time.
    :ivar items: what is in the slots, by name; empty slots are not in it. :meth:`put` and :meth:`remove` change it.

    What is in them is its own, or a list of the game's: :meth:`follow_items`.
    """

    roles = ("grid",)
    own_acts: ClassVar[Mapping[str, str]] = {"moved": "any", "refused": "any"}
    __slots__ = ("_cells", "_columns", "_list", "_picked", "_slots", "_watch", "accepts", "items")

    def __init__(
        self,
        node: Node,
        columns: Annotated[int, Bounds(least=1, most=10_000)],
        accepts: Callable[[str, Any], bool | str | None] = lambda slot, item: None,
        items: Mapping[str, Scalar] | None = None,
    ) -> None:
        super().__init__(node)
        if isinstance(columns, bool) or not isinstance(columns, int) or columns < 1:
            raise ControlError(f"{node.path}: columns is {columns!r}, expected 1 or more")
        self._cells = Items(node, "gridcell")
        self._columns, self.accepts = columns, accepts
        self._picked: str | None = None
        self.items: dict[str, Any] = {}
        self._list: ListValue[Any] | None = None
        self._watch: Watch | None = None
        slots = self._cells.all()
        if not slots:
            raise ControlError(f"{node.path}: there is no slot, expected nodes of role gridcell below it")
        self._slots = self._cells.names()
        """All of them, in order, also where one is disabled later."""
        for slot in slots:
            if slot.focusable is None:
                slot.set_for_now(focusable=True)
            slot.accepts = self._answer(slot)
            self.hear("drag_start", self._started, slot)
            self.hear("drag_end", self._ended, slot)
            self.hear("drop", self._dropped, slot)
            self.hear("click", self._clicked, slot)
        self.hear("key_down", self._key_down)
        self.hear("back", self._back)
        for name, item in (items or {}).items():
            self.put(name, item)

    # -- what lies where -----------------------------------------------------------------------------------------------

    def put(self, slot: str, item: Any) -> None:
        """Lay a item into an empty slot.

        :raises ControlError: there is no such slot, something lies there, or it may not be there.
        """
        self._check(slot)
        if slot in self.items:
            raise ControlError(f"{self.node.path}/{slot}: {self.items[slot]!r} is there, expected an empty slot")
        why = self._refusal(slot, item)
        if why is not None:
            raise ControlError(f"{self.node.path}/{slot}: {item!r} cannot be there: {why}")
        self._become({slot: item})

    def remove(self, slot: str) -> Any:
        """Take what lies in a slot out of it; None if nothing does."""
        self._check(slot)
        item = self.items.get(slot)
        if item is not None:
            self._become({slot: None})
        return item

    def follow_items(self, items: ListValue[Any]) -> None:
        """Have what lies in a list of the game's lie in the slots, in their order: the first in the first. What is
        moved from slot to slot is moved in that list too (law V7).

        :param items: a list with gaps, where None stands for an empty slot; it may be shorter than there are slots.
        :raises ControlError: it is no such list, or longer than there are slots.
        """
        names = self._slots
        if not isinstance(items, ListValue) or not items.gaps:
            raise ControlError(f"{self.node.path}: the items are {items!r}, expected a ListValue with gaps=True")
        if len(items) > len(names):
            raise ControlError(f"{self.node.path}: has {len(names)} slots, and the list {len(items)} items")
        if self._watch is not None:
            self._watch.stop()
        self._list = items
        self._watch = items.watch(self._told)
        self._ends.append(self._watch)

    def _told(self, change: ListChange) -> None:
        """Show the game's list as it is now."""
        assert self._list is not None
        names = self._slots
        before = self.items
        self.items = {name: item for name, item in zip(names, self._list, strict=False) if item is not None}
        if self._picked is not None and self.items.get(self._picked) is not before.get(self._picked):
            self._pick(None)
        for name in names:
            if self.items.get(name) is not before.get(name):
                self.tell_change(slot=name, item=self.items.get(name))
        if len(self._list) > len(names):
            raise ControlError(f"{self.node.path}: has {len(names)} slots, and the list {len(self._list)} items")

    def _become(self, changes: Mapping[str, Any]) -> None:
        """Have other items in some slots; None: nothing."""
        if self._list is None:
            for slot, item in changes.items():
                if item is None:
                    self.items.pop(slot, None)
                else:
                    self.items[slot] = item
            for slot, item in changes.items():
                self.tell_change(slot=slot, item=item)
            return
        names = self._slots
        now = list(self._list)
        for slot, item in changes.items():
            at = names.index(slot)
            now.extend([None] * (at + 1 - len(now)))
            now[at] = item
        self._list.set_all(now)

    @property
    def picked(self) -> str | None:
        """The slot whose item was picked up by a click or key, to be put down by another."""
        return self._picked

    def _check(self, slot: str) -> None:
        names = self._cells.names()
        if slot not in names:
            raise ControlError(f"{self.node.path}: there is no slot {slot!r}, expected one of {', '.join(names)}")

    def _refusal(self, slot: str, item: Any) -> str | None:
        answer = self.accepts(slot, item)
        if answer is False:
            return "it may not be there"
        return answer if isinstance(answer, str) else None

    def _answer(self, node: Node) -> Callable[[Any], str | None]:
        """What a slot says beforehand to something that would be dropped there (law G3)."""
        slot = self._cells.name(node)

        def accepts(carried: Any) -> str | None:
            if not isinstance(carried, SlotDrag):
                return "it is not an item of slots"
            return self._why_not(carried, slot)

        return accepts

    def _why_not(self, carried: SlotDrag, slot: str) -> str | None:
        """Why a item cannot come to a slot; None: it can."""
        source = carried.slots
        if source.items.get(carried.slot) is not carried.item:
            return "it is no longer there"
        if source is self and carried.slot == slot:
            return "it is there already"
        why = self._refusal(slot, carried.item)
        if why is None and slot in self.items:
            back = source._refusal(carried.slot, self.items[slot])
            if back is not None:
                why = f"{self.items[slot]!s} would have to change places: {back}"
        if why is None and source is not self:
            other = self.items.get(slot)
            if self._has_key_of(carried.item, other) or (other is not None and source._has_key_of(other, carried.item)):
                why = "another of its key is there"
        return why

    def _has_key_of(self, item: Any, leaving: Any) -> bool:
        """Whether the game's list has an item of the same key, besides the one that would leave it."""
        known = self._list
        if known is None:
            return False
        key = known.key_of(item)
        return key in known and not (leaving is not None and known.key_of(leaving) == key)

    def _move(self, carried: SlotDrag, slot: str) -> None:
        source = carried.slots
        why = self._why_not(carried, slot)
        if why is not None:
            self.say("refused", carried, why)
            return
        other = self.items.get(slot)
        if source is self:
            self._become({slot: carried.item, carried.slot: other})
        else:
            source._become({carried.slot: other})
            self._become({slot: carried.item})
        self.say("moved", carried, slot)

    # -- dragging ------------------------------------------------------------------------------------------------------

    def _started(self, event: DragStart) -> None:
        slot = self._cells.name(event.here)
        if slot not in self.items:
            event.refuse()
            return
        self._pick(None)
        event.give(SlotDrag(self, slot, self.items[slot]))

    def _dropped(self, event: Event) -> None:
        event.take()
        self._move(event.data["payload"], self._cells.name(event.here))

    def _ended(self, event: Event) -> None:
        if event.data["outcome"] == "returned":
            carried = event.data["payload"]
            carried.slots.say("refused", carried, event.data["answer"] or "nothing there accepts it")

    # -- by single presses ---------------------------------------------------------------------------------------------

    def _clicked(self, event: Event) -> None:
        slot = self._cells.name(event.here)
        if self._picked is None:
            if slot in self.items:
                self._pick(slot)
            return
        picked = self._picked
        self._pick(None)
        if picked != slot and picked in self.items:
            self._move(SlotDrag(self, picked, self.items[picked]), slot)

    def _pick(self, slot: str | None) -> None:
        if slot != self._picked:
            self._picked = slot
            self.tell_change(picked=slot)

    def _back(self, event: Event) -> None:
        if self._picked is not None:
            self._pick(None)
            event.take()

    def _key_down(self, event: Event) -> None:
        key, item = key_of(event), self._cells.of(event.node)
        if item is None:
            return
        if event.data["action"] == "back" and key and self._picked is not None:
            event.take()
            self._pick(None)
            return
        to = self._lead(key, item, "Control" in seat_of(event).modifiers)
        if to is not None:
            event.take()
            focus_on(event, to)

    def _lead(self, key: str, item: Node, whole: bool) -> Node | None:
        """Where a key leads from a slot; None for other keys."""
        items, columns = self._cells.all(), self._columns
        at = items.index(item)
        row, column = divmod(at, columns)
        last = min((row + 1) * columns, len(items)) - 1
        to = {
            "ArrowLeft": at - 1 if column else at,
            "ArrowRight": at + 1 if at < last else at,
            "ArrowUp": at - columns if row else at,
            "ArrowDown": at + columns if at + columns < len(items) else at,
            "Home": 0 if whole else row * columns,
            "End": len(items) - 1 if whole else last,
            "PageUp": column,
            "PageDown": column + (len(items) - 1 - column) // columns * columns,
        }.get(key)
        return items[to] if to is not None else None

    def marks_of(self, part: str) -> frozenset[str]:
        if not part:
            return frozenset()
        marks = set() if part in self.items else {"empty"}
        return frozenset(marks | {"chosen"} if part == self._picked else marks)
