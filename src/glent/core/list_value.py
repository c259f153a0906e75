"""A list that the game and its UI share: rows come, go and move, and who watches is told of each change (law V7).

Every change is one stretch of the list that became another: ``at``, what was there before, and what is there after.
One row added is a stretch of none that became one; a row moved is a stretch in another order. Each row has a key, a
text that stays its own wherever it lies, so that what shows the list keeps the node of a row, its hover and its focus.
Cost: a change costs the stretch it is about, in steps of the interpreter; all else is done by lists in C.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterable, Iterator
from typing import Any, Generic, NamedTuple, TypeVar, overload

from glent.core.arguments import listed
from glent.core.errors import ValueRefusedError, near, raise_all
from glent.core.value import Clock, Watch, checked_attribute

__all__ = ["AttributeList", "ListChange", "ListValue"]

T = TypeVar("T")

ROUNDS = 1000
"""Watchers that change what they are told of are told again; after so many times they contradict each other."""


class ListChange(NamedTuple):
    """What became of a list.

    :ivar at: where it begins. :ivar before: the items that were there. :ivar after: those that are there now.
    """

    at: int
    before: tuple[Any, ...]
    after: tuple[Any, ...]


class ListValue(Generic[T]):
    """A list of items, each with a key of its own: a text that tells it from all others, wherever it lies.

    :param items: what is in it at first.
    :param key: makes the key of an item; not needed for items that are texts.
    :param name: what errors call it.
    :param gaps: whether None can stand in it, where there is nothing; it has no key.
    :raises ValueRefusedError: keys that are no text, or the same twice.

    Every call that changes it does so wholly or, where it is refused, not at all.
    """

    __slots__ = (
        "_gaps",
        "_items",
        "_key",
        "_keys",
        "_known",
        "_open",
        "_telling",
        "_version",
        "_waiting",
        "_watches",
        "name",
    )

    def __init__(
        self,
        items: Iterable[T] = (),
        *,
        key: Callable[[Any], str] | None = None,
        name: str = "the list",
        gaps: bool = False,
    ) -> None:
        if key is not None and not callable(key):
            raise ValueRefusedError(f"{name}: key is {key!r}, expected None or something to call")
        self.name = name
        self._key, self._gaps = key, gaps
        self._items: list[Any] = []
        self._keys: list[str | None] = []
        self._known: set[str] = set()
        self._watches: dict[Watch, None] = {}
        self._waiting: deque[ListChange] = deque()
        self._telling = False
        self._open = True
        """Whether it can be changed: watchers that change what they are told of are stopped at last."""
        self._version = 0
        self.set_all(items)

    @staticmethod
    def of(
        thing: object,
        attribute: str,
        *,
        key: Callable[[Any], str] | None = None,
        name: str | None = None,
        gaps: bool = False,
    ) -> AttributeList:
        """The list in an attribute of a plain object of the game.

        What is changed here is changed in that list, which stays the same object. What the game itself does to it is
        seen by :meth:`AttributeList.poll`, which :meth:`AttributeList.poll_with` has a router call.

        :raises ValueRefusedError: there is no such attribute, or it holds no list.
        """
        return AttributeList(thing, attribute, key=key, name=name, gaps=gaps)

    def __repr__(self) -> str:
        return f"<{type(self).__name__} {self.name}: {len(self)} items>"

    # -- what is in it -------------------------------------------------------------------------------------------------

    def __len__(self) -> int:
        return len(self._items)

    def __iter__(self) -> Iterator[T]:
        return iter(self._items)

    @overload
    def __getitem__(self, at: int) -> T: ...

    @overload
    def __getitem__(self, at: slice) -> list[T]: ...

    def __getitem__(self, at: int | slice) -> T | list[T]:
        return self._items[at]

    @property
    def version(self) -> int:
        """How often it has changed."""
        return self._version

    @property
    def gaps(self) -> bool:
        """Whether None can stand in it."""
        return self._gaps

    def key(self, at: int) -> str | None:
        """The key of the item at a place; None where there is nothing."""
        return self._keys[at]

    def keys(self, start: int = 0, end: int | None = None) -> list[str | None]:
        """The keys from one place up to another, in order."""
        return self._keys[start:end]

    def __contains__(self, key: object) -> bool:
        """Whether there is an item of this key."""
        return isinstance(key, str) and key in self._known

    def index(self, key: str) -> int:
        """Where the item of a key lies.

        :raises ValueRefusedError: there is none.
        """
        if key not in self:
            raise ValueRefusedError(f"{self.name}: has no item {key!r}{near(key, self._known)}")
        return self._keys.index(key)

    def get(self, key: str) -> T:
        """The item of a key.

        :raises ValueRefusedError: there is none.
        """
        found: T = self._items[self.index(key)]
        return found

    def key_of(self, item: Any) -> str | None:
        """The key of an item, in the list or not; None for nothing.

        :raises ValueRefusedError: it has none.
        """
        if item is None:
            if self._gaps:
                return None
            raise ValueRefusedError(f"{self.name}: an item is None, expected items, or gaps=True")
        key = item if self._key is None else self._key(item)
        if not isinstance(key, str) or not key:
            hint = "" if self._key is not None else "; key= makes one of an item that is no text"
            raise ValueRefusedError(f"{self.name}: the key of {item!r} is {key!r}, expected a text{hint}")
        return key

    # -- changes -------------------------------------------------------------------------------------------------------

    def add(self, item: T, at: int | None = None) -> None:
        """Add an item, at a place or at the end.

        :raises ValueRefusedError: there is one of its key, or no such place.
        """
        self._catch_up()
        self._splice(len(self) if at is None else self._checked(at, len(self)), 0, [item])

    def remove(self, key: str) -> T:
        """Take the item of a key out, and return it.

        :raises ValueRefusedError: there is none.
        """
        self._catch_up()
        at = self.index(key)
        item: T = self._items[at]
        self._splice(at, 1, [])
        return item

    def move(self, key: str, to: int) -> None:
        """Move the item of a key to where it then lies; those between move up by one.

        :raises ValueRefusedError: there is no such item or place.
        """
        self._catch_up()
        at, to = self.index(key), self._checked(to, len(self) - 1)
        first, last = min(at, to), max(at, to)
        stretch = self._items[first : last + 1]
        if at < to:
            stretch.append(stretch.pop(0))
        else:
            stretch.insert(0, stretch.pop())
        self._splice(first, len(stretch), stretch)

    def put(self, at: int, item: T) -> None:
        """Put an item where another lies, which goes; one of the same key is the same row, changed.

        :raises ValueRefusedError: there is no such place, or another item has its key.
        """
        self._catch_up()
        at = self._checked(at, len(self) - 1)
        self._splice(at, 1, [item])

    def touch(self, key: str) -> None:
        """Tell that an item has changed within itself, its key perhaps too.

        :raises ValueRefusedError: there is no such item, or another has its key.
        """
        self._catch_up()
        at = self.index(key)
        self._replace(at, 1, [self._items[at]])

    def set_all(self, items: Iterable[T]) -> None:
        """Make it hold these; what it holds already, by its key, is the same row.

        Those who watch are told of the stretch between the first and the last difference.

        :raises ValueRefusedError: keys that are no text, or the same twice.
        """
        new = listed(items)
        if new is None:
            raise ValueRefusedError(f"{self.name}: is set to {items!r}, expected items")
        old = self._items
        start = 0
        shorter = min(len(old), len(new))
        while start < shorter and self._same(old[start], new[start]):
            start += 1
        end = 0
        while end < shorter - start and self._same(old[-1 - end], new[-1 - end]):
            end += 1
        self._splice(start, len(old) - end - start, list(new[start : len(new) - end]))

    @staticmethod
    def _same(one: Any, other: Any) -> bool:
        return one is other or (isinstance(one, str) and isinstance(other, str) and one == other)

    def _checked(self, at: object, most: int) -> int:
        if not isinstance(at, int) or isinstance(at, bool) or not 0 <= at <= most:
            raise ValueRefusedError(f"{self.name}: the place is {at!r}, expected a whole number from 0 to {most}")
        return at

    def _splice(self, at: int, count: int, new: list[Any]) -> None:
        """Put items in the place of others, unless they are the same."""
        old = self._items[at : at + count]
        if len(old) != len(new) or not all(map(self._same, old, new)):
            self._replace(at, count, new)

    def _replace(self, at: int, count: int, new: list[Any]) -> None:
        if not self._open:
            raise ValueRefusedError(f"{self.name}: its watchers change it again and again, {ROUNDS} times by now")
        old = self._items[at : at + count]
        gone = set(self._keys[at : at + count])
        keys = [self.key_of(item) for item in new]
        seen: set[str] = set()
        for key in keys:
            if key is None:
                continue
            if key in seen or (key in self._known and key not in gone):
                raise ValueRefusedError(f"{self.name}: two items have the key {key!r}, expected each to have its own")
            seen.add(key)
        self._take_over(at, count, new)
        self._items[at : at + count] = new
        self._keys[at : at + count] = keys
        self._known.difference_update(key for key in gone if key is not None)
        self._known.update(seen)
        self._tell(ListChange(at, tuple(old), tuple(new)))

    def _catch_up(self) -> None:
        """See what has become of the list that lies behind this one, where one does."""

    def _take_over(self, at: int, count: int, new: list[Any]) -> None:
        """Change the list that lies behind this one, where one does."""

    # -- who is told ---------------------------------------------------------------------------------------------------

    def watch(self, told: Callable[[ListChange], object]) -> Watch:
        """Call ``told(change)`` at once with all that is in it, then with each change."""
        if not callable(told):
            raise ValueRefusedError(f"{self.name}: is to be watched by {told!r}, expected something to call")
        watch = Watch(self._watches, told)
        self._watches[watch] = None
        try:
            told(ListChange(0, (), tuple(self._items)))
        except BaseException:
            watch.stop()
            raise
        return watch

    def _tell(self, change: ListChange) -> None:
        """Tell the watchers; a change that one of them makes is told after this one, to all, in order (law V5)."""
        self._version += 1
        self._waiting.append(change)
        if self._telling:
            return
        self._telling = True
        errors: list[Exception] = []
        told = 0
        try:
            while self._waiting:
                now = self._waiting.popleft()
                told += 1
                self._open = told < ROUNDS
                for watch in list(self._watches):
                    if watch in self._watches:
                        try:
                            watch._told(now)
                        except Exception as error:
                            errors.append(error)
        finally:
            self._waiting.clear()
            self._telling, self._open = False, True
        raise_all(errors, f"{self.name}: watchers failed")


class AttributeList(ListValue[Any]):
    """The list in an attribute of a plain object; made by :meth:`ListValue.of`."""

    __slots__ = ("_attribute", "_reading", "_thing")

    def __init__(
        self,
        thing: object,
        attribute: str,
        *,
        key: Callable[[Any], str] | None = None,
        name: str | None = None,
        gaps: bool = False,
    ) -> None:
        given = checked_attribute(thing, attribute)
        self._thing, self._attribute = thing, attribute
        self._reading = True
        try:
            super().__init__(self._listed(given), key=key, name=name if name is not None else attribute, gaps=gaps)
        finally:
            self._reading = False

    def _listed(self, given: object) -> list[Any]:
        if not isinstance(given, list):
            raise ValueRefusedError(
                f"{type(self._thing).__name__}.{self._attribute}: is {given!r}, expected a list, which can be changed"
            )
        return given

    def poll(self) -> bool:
        """Take over what the game's list is now. Return whether that was another.

        :raises ValueRefusedError: it cannot be that; this list stays as it was, and so does the game's.
        """
        version, self._reading = self._version, True
        try:
            given = self._listed(getattr(self._thing, self._attribute))
            if len(given) != len(self._items) or not all(map(self._same, given, self._items)):
                self.set_all(given)
        finally:
            self._reading = False
        return self._version != version

    def poll_with(self, router: Clock) -> Any:
        """Have :meth:`poll` called for each sample and tick of a router. Return what stops that by ``.stop()``."""
        return router.each_time(lambda time: self.poll())

    def _catch_up(self) -> None:
        if not self._reading:
            self.poll()

    def _take_over(self, at: int, count: int, new: list[Any]) -> None:
        if not self._reading:
            self._listed(getattr(self._thing, self._attribute))[at : at + count] = new
