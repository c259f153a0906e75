"""A node for each row of a list value, or for those alone that show (law V7).

``Rows`` gives every row its node, placed by the flow of the list's node or by whoever makes the row. ``RowsInView``
has rows of one height lie below each other in a node that scrolls, and makes only those that show, with two more at
either end, so that an arrow always has a next one to go to. A row that has the focus, is pressed or dragged keeps its
node when it is scrolled out of view, and so does the one that ``keep`` names. What comes or goes above leaves what
shows where it is: the list is scrolled along by it. Cost: of ``Rows``, a change costs its own stretch at the end of the
list, and elsewhere the order of all rows; of ``RowsInView``, a change or a step of scrolling costs the rows that come
and go, so that a list of 100,000 costs what one of 100 does.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from contextlib import suppress
from typing import TYPE_CHECKING, Any, Generic, TypeVar

from glent.controls.context import seats_within, serving
from glent.controls.items import Items
from glent.core.arguments import is_number
from glent.core.errors import ControlError, SceneError, near, raise_all
from glent.core.list_value import ListChange, ListValue
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node

__all__ = ["RowItems", "Rows", "RowsInView", "check_rows"]

T = TypeVar("T")

SPARE = 2
"""So many rows are made beyond either end of what shows."""
ROUNDS = 20
"""So many times in a row may what is called for a row change the list."""


class Rows(Generic[T]):
    """The nodes of a list value's rows below a node, named by their keys, until :meth:`stop`.

    :param items: the list that is shown.
    :param row: called with a row's new node and its item, and again when the item has changed, to give the node its
        facts, label, children and so on.
    :param role: the ARIA role of each row's node.
    :raises ControlError: what is given is none of that, or the list has gaps. :raises SceneError: a key is no name for
        a node, or another child has it.
    """

    __slots__ = ("_ends", "_made", "_order", "_role", "_row", "_shown", "items", "node")

    def __init__(
        self, node: Node, items: ListValue[T], row: Callable[[Node, T], object], role: str | None = "option"
    ) -> None:
        check_rows(node, items, row)
        self.node, self.items = node, items
        self._row, self._role = row, role
        self._made: dict[str, Node] = {}
        self._shown: dict[str, T] = {}
        """By key, the item that its node was last made from."""
        self._order: list[str] = []
        self._ends: list[Any] = []
        self._begin()

    def __len__(self) -> int:
        """How many rows have a node."""
        return len(self._made)

    def stop(self) -> None:
        """Follow the list no more, and take the nodes of its rows away. Twice does nothing."""
        ends, self._ends = self._ends, []
        for end in ends:
            end.stop()
        for key in list(self._made):
            self._drop(key)

    def keep(self, key: str | None) -> None:
        """Have the row of this key keep its node, rather than that of the key before."""

    def named(self, key: str) -> Node | None:
        """The node of a row; None if the list has no such row."""
        return self._made.get(key)

    # -- when the list changes -----------------------------------------------------------------------------------------

    def _begin(self) -> None:
        try:
            self._ends.append(self.items.watch(self._told))
        except BaseException:
            self.stop()
            raise

    def _told(self, change: ListChange) -> None:
        if self.node.scene is None:
            self.stop()
            return
        end = change.at + len(change.before)
        before = self._order[change.at : end]
        at_end = end == len(self._order)
        keys = [str(self.items.key_of(item)) for item in change.after]
        self._order[change.at : end] = keys
        stay = set(keys)
        gone = [key for key in before if key not in stay]
        left = self._seats_on(gone)
        for key in gone:
            self._drop(key)
        errors: list[Exception] = []
        touched = len(keys) == 1
        for key, item in zip(keys, change.after, strict=True):
            self._show(key, item, touched, errors)
        if not (at_end and not before) and self.node.scene is not None:
            self.node.arrange_for_now(self._order)
        self._lead_on(left, change)
        raise_all(errors, f"{self.node.path}: several rows failed")

    def _seats_on(self, keys: Iterable[str]) -> list[tuple[Seat, bool]]:
        """The seats with the focus on one of these rows, each with whether its ring shows."""
        rows = [self._made[key] for key in keys if key in self._made]
        return [(seat, seat.focus_ring) for row in rows for seat in seats_within(row)]

    def _lead_on(self, seats: list[tuple[Seat, bool]], change: ListChange) -> None:
        """Lead the focus from a row that is gone to the one in its place, or the one before (law F3)."""
        for seat, ring in seats:
            key = self.items.key(min(change.at, len(self.items) - 1)) if len(self.items) else None
            row = self.named(key) if key is not None else None
            if row is not None:
                with suppress(SceneError):  # it cannot have the focus: the next settle leads on
                    seat.set_focus(row, ring)

    def _show(self, key: str, item: T, touched: bool, errors: list[Exception], **given: Any) -> None:
        """Make the node of a row, or bring it up to date."""
        node = self._made.get(key)
        try:
            if node is None or node.scene is None:
                node = self._made[key] = self.node.add_for_now(key, role=self._role, **given)
            elif self._shown.get(key) is item and not touched:
                return
            self._shown[key] = item
            self._row(node, item)
        except Exception as error:
            errors.append(error)

    def _drop(self, key: str) -> None:
        self._shown.pop(key, None)
        node = self._made.pop(key, None)
        if node is not None:
            node.remove()


class RowsInView(Rows[T]):
    """The rows of a list value that show, in a node that scrolls up and down.

    :param height: how high each row is, in node-local pixels.

    The other parameters are those of :class:`Rows`.
    """

    __slots__ = ("_anchor", "_at", "_busy", "_height", "_keep", "_seen")

    def __init__(
        self,
        node: Node,
        items: ListValue[T],
        row: Callable[[Node, T], object],
        height: float,
        role: str | None = "option",
    ) -> None:
        check_rows(node, items, row, height)
        self._height = float(height)
        self._keep: str | None = None
        self._anchor: tuple[str, int] | None = None
        """The row at the top that shows: its key, and where it lay in the list."""
        self._at: dict[str, int] = {}
        """By key, the place in the list that its node has the place of."""
        self._seen: object = None
        self._busy = False
        super().__init__(node, items, row, role)

    @property
    def page(self) -> int:
        """How many rows show as a whole, less one."""
        return max(1, int(self.node.size[1] / self._height) - 1)

    def stop(self) -> None:
        following = bool(self._ends)
        super().stop()
        if following and self.node.scene is not None:
            self.node.set_for_now(content=None)

    def keep(self, key: str | None) -> None:
        """Give the row of this key a node, whether it shows or not, rather than that of the key before."""
        self._keep = key
        if key is not None:
            self.named(key)

    def named(self, key: str) -> Node | None:
        """The node of a row, made if it is not there; None if the list has no such row. One that does not show may go
        at the next settle."""
        if key not in self._made and key in self.items:
            errors: list[Exception] = []
            index = self.items.index(key)
            self._show(key, self.items[index], False, errors, place=self._place(index))
            self._seen = None  # it is the last child yet: the next settle puts it into its order
            raise_all(errors, f"{self.node.path}: several rows failed")
        return self._made.get(key)

    # -- when something changes ----------------------------------------------------------------------------------------

    def _drop(self, key: str) -> None:
        self._at.pop(key, None)
        super()._drop(key)

    def _begin(self) -> None:
        node = self.node
        assert node.scene is not None
        node.set_for_now(scrolls=True)
        node.set_for_now(clips=True, axis="y")
        self._ends.append(node.scene.on_settle(self._settle))
        super()._begin()

    def _settle(self) -> None:
        if self.node.scene is None:
            self.stop()
        elif self._seen != self._view():
            self._show_again(None)

    def _told(self, change: ListChange) -> None:
        if self.node.scene is None:
            self.stop()
            return
        key = self.items.key_of(change.after[0]) if len(change.after) == 1 else None
        self._follow_anchor(change)
        gone = {str(self.items.key_of(item)) for item in change.before}
        left = self._seats_on(one for one in gone if one not in self.items)
        try:
            self._show_again(key)
        finally:
            self._lead_on(left, change)

    def _view(self) -> tuple[float, float, int]:
        return self.node.scroll[1], self.node.size[1], self.items.version

    def _place(self, index: int) -> Place:
        return Place(left=0, right=0, top=index * self._height, height=self._height)

    def _follow_anchor(self, change: ListChange) -> None:
        """Scroll along with what comes or goes above the row at the top, unless that is the first of all."""
        node, anchor = self.node, self._anchor
        node.set_for_now(content=(0.0, len(self.items) * self._height))
        if anchor is None or node.scroll[1] <= 0.0:
            return
        key, index = anchor
        if key not in self.items:
            after = min(index, change.at + len(change.after))
        elif self.items.keys(index, index + 1) != [key]:
            after = self.items.index(key)
        else:
            return
        node.scroll = (node.scroll[0], max(0.0, node.scroll[1] + (after - index) * self._height))

    def _show_again(self, touched: str | None) -> None:
        """Show the list as it is now, and again where that made it another."""
        if self._busy:
            return
        self._busy = True
        errors: list[Exception] = []
        try:
            for _ in range(ROUNDS):
                self._show_some(touched, errors)
                if self.node.scene is None or self._seen == self._view():
                    break
                touched = None
            else:
                errors.append(ControlError(f"{self.node.path}: what is called for its rows changes them each time"))
        finally:
            self._busy = False
        raise_all(errors, f"{self.node.path}: several rows failed")

    def _show_some(self, touched: str | None, errors: list[Exception]) -> None:
        items, height = self.items, self._height
        self._seen = top, shows, _ = self._view()
        first = max(0, min(math.floor(top / height), len(items)) - SPARE)
        end = min(len(items), math.ceil((top + shows) / height) + SPARE)
        wanted = {str(key): index for index, key in enumerate(items.keys(first, end), first)}
        at_top = min(max(first, math.floor(top / height)), len(items) - 1)
        self._anchor = (str(items.key(at_top)), at_top) if len(items) else None
        router = serving(self.node)
        for key, node in list(self._made.items()):
            if key in wanted:
                continue
            if key in items and (key == self._keep or (router is not None and router.in_use(node))):
                wanted[key] = items.index(key)
            else:
                self._drop(key)
        if self._keep is not None and self._keep in items and self._keep not in wanted:
            wanted[self._keep] = items.index(self._keep)
        order = sorted(wanted, key=wanted.__getitem__)
        node, version, at = self.node, items.version, self._at
        for key in order:
            if node.scene is None or items.version != version or node.scroll[1] != top:
                return  # what was called for a row has changed the list: it is shown again
            index = wanted[key]
            known = self._made.get(key)
            if known is None or known.scene is None:
                self._show(key, items[index], False, errors, place=self._place(index))
            else:
                if at.get(key) != index:
                    known.place = known.place.replace(top=index * height)
                if self._shown.get(key) is not (item := items[index]) or key == touched:
                    self._show(key, item, True, errors)
            at[key] = index
        self.node.arrange_for_now(order)


class RowItems(Items):
    """The rows of a list value as the items of a group: also those that have no node now."""

    __slots__ = ("_label", "_rows")

    def __init__(self, rows: Rows[Any], label: Callable[[Any], str] | None) -> None:
        super().__init__(rows.node, "option")
        self._rows, self._label = rows, label

    def names(self) -> list[str]:
        return [str(key) for key in self._rows.items.keys()]  # noqa: SIM118 (a list of keys, no mapping)

    def labels(self, of: Callable[[Node], str]) -> list[str]:
        return self.names() if self._label is None else [self._label(item) for item in self._rows.items]

    def named(self, name: object) -> Node | None:
        return self._rows.named(name) if isinstance(name, str) else None

    def check(self, names: Any) -> None:
        for name in names:
            if name not in self._rows.items:
                raise ControlError(f"{self._rows.node.path}: has no row {name!r}{near(name, self.names())}")

    def step(self, item: Node | None, by: int, wrap: bool) -> Node | None:
        items = self._rows.items
        if not len(items):
            return None
        if item is None or item.name not in items:
            at = 0 if by > 0 else len(items) - 1
        elif wrap:
            at = (items.index(item.name) + by) % len(items)
        else:
            at = max(0, min(items.index(item.name) + by, len(items) - 1))
        return self._rows.named(str(items.key(at)))


def check_rows(node: Node, items: object, row: object, height: object = None) -> None:
    """Check what rows are to be made of.

    :raises ControlError: it is none of what :class:`Rows` and :class:`RowsInView` take.
    """
    if not isinstance(items, ListValue) or items.gaps:
        raise ControlError(f"{node.path}: the rows are {items!r}, expected a ListValue without gaps")
    if not callable(row):
        raise ControlError(f"{node.path}: row is {row!r}, expected something to call with a node and an item")
    if height is not None and not (is_number(height) and 1 <= height <= 1e6):
        raise ControlError(f"{node.path}: the height of a row is {height!r}, expected 1 to 1,000,000 pixels")
    if node.scene is None:
        raise ControlError(f"{node.path}: cannot show rows, the node has been removed")
