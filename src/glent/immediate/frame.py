"""One frame of declarations: what code says there is, and what it is told in return."""

from __future__ import annotations

import contextlib
import sys
from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import TYPE_CHECKING, Any

from glent.core.arguments import is_number, listed
from glent.immediate import kinds, menus
from glent.immediate.answers import Region, Window
from glent.immediate.errors import DeclarationError
from glent.immediate.item import Declared, Item, Kind

if TYPE_CHECKING:
    from types import CodeType

    from glent.immediate.draft import Draft

__all__ = ["Frame", "MenuFrame", "line_of"]

MOST_NUMBERS = 4
MOST_LINES = 1_000
MOST = 1e8
"""No place, size or scroll range is larger, in pixels."""
OWN = frozenset({__file__, contextlib.__file__})
"""The files that stand between a declaration and the program that makes it."""


class Frame:
    """What can be declared. Everything has a key, by default its text, that tells it from others in the same window,
    row, column or area; a window's tells it from all other windows. What is declared again under its key is the same
    thing (law I1)."""

    __slots__ = ("_dispatcher", "_draft", "_last", "_stack", "declared", "over")

    def __init__(self, draft: Draft, top: Item) -> None:
        self._draft = draft
        self._dispatcher = draft.dispatcher()
        root = Declared(kinds.COLUMN, "", (), (_here.__code__, 0), top)
        root.hold()
        self._stack = [root]
        self.declared = root
        """All that has been declared."""
        self._last: Declared | None = None
        self.over = False

    # -- things --------------------------------------------------------------------------------------------------------

    def text(self, text: str, key: str | None = None) -> None:
        """A text."""
        self._declare(kinds.TEXT, key, (_text(text),), text)

    def rule(self, key: str | None = None) -> None:
        """A line across."""
        self._declare(kinds.RULE, key if key is not None else f"rule-{len(self._stack[-1].children)}", (), "")

    def button(self, text: str, key: str | None = None, enabled: bool = True) -> int:
        """A button. Return how often it was clicked since the last frame."""
        return self._declare(kinds.BUTTON, key, (_text(text), enabled), text).take_clicks()

    def toggle(self, text: str, value: bool, key: str | None = None, enabled: bool = True) -> bool:
        """A box to tick. Return whether it is ticked now (law I4)."""
        return bool(self._valued(kinds.TOGGLE, key, (_text(text), enabled), text, bool(value)))

    def number(
        self,
        text: str,
        value: float,
        low: float = 0.0,
        high: float = 1.0,
        step: float | None = None,
        key: str | None = None,
        enabled: bool = True,
    ) -> float:
        """A number with a slider. Return what it is now (law I4)."""
        return self.numbers(text, (value,), low, high, step, key, enabled)[0]

    def numbers(
        self,
        text: str,
        values: Sequence[float],
        low: float = 0.0,
        high: float = 1.0,
        step: float | None = None,
        key: str | None = None,
        enabled: bool = True,
    ) -> tuple[float, ...]:
        """One number to four, with a slider each. Return what they are now (law I4)."""
        given = listed(values)
        if given is None or not 1 <= len(given) <= MOST_NUMBERS or not all(map(is_number, given)):
            self._refuse(f"the numbers are {values!r}, expected one to {MOST_NUMBERS} finite numbers")
        if not (is_number(low) and is_number(high) and low < high):
            self._refuse(f"low is {low!r} and high {high!r}, expected numbers, low below high")
        if step is not None and not (is_number(step) and step > 0):
            self._refuse(f"the step is {step!r}, expected None or more than 0")
        assert given is not None
        args = (_text(text), float(low), float(high), step, len(given), enabled)
        now = self._valued(kinds.NUMBERS, key, args, text, tuple(map(float, given)))
        return tuple(now)

    def choice(
        self, text: str, value: str, options: Sequence[str], key: str | None = None, enabled: bool = True
    ) -> str:
        """One of some texts. Return which it is now (law I4)."""
        given = listed(options)
        if not given or not all(isinstance(one, str) for one in given) or value not in given:
            self._refuse(f"the choice is {value!r} of {options!r}, expected one of some texts")
        return str(self._valued(kinds.CHOICE, key, (_text(text), given, enabled), text, value))

    def field(self, text: str, value: str, key: str | None = None, lines: int = 1, enabled: bool = True) -> str:
        """A field to type into; ``text`` is its hint. Return what stands in it now (law I4)."""
        if not isinstance(value, str):
            self._refuse(f"the text in it is {value!r}, expected a text")
        if isinstance(lines, bool) or not isinstance(lines, int) or not 1 <= lines <= MOST_LINES:
            self._refuse(f"lines is {lines!r}, expected 1 to {MOST_LINES}")
        return str(self._valued(kinds.FIELD, key, (_text(text), lines, enabled), text, value))

    def region(
        self,
        key: str,
        size: tuple[float, float],
        at: tuple[float, float] | None = None,
        gives: Any = None,
        accepts: Callable[[Any], bool | str | None] | None = None,
    ) -> Region:
        """A place of one's own, which one draws oneself.

        :param size: its width and height. :param at: its left top corner in what holds it; None: it is laid as others
            are. :param gives: what can be dragged out of it; None: drags are told as distances.
        :param accepts: asked whether something may be dropped here.
        """
        made = self._declare(kinds.REGION, key, (at, size, gives, accepts), key)
        item = made.item
        if item is None or item.args[0] != at or item.args[1] != size:
            self._check_pair(size, "size", 0.0)
            if at is not None:
                self._check_pair(at, "place", -MOST)
        return Region(item)

    def tooltip(self, text: str) -> None:
        """A word about the thing that was declared last."""
        if self._last is None:
            self._refuse("there is nothing that a tooltip could be about, expected it after a thing")
        else:
            self._last.tip = _text(text)

    # -- what holds others ---------------------------------------------------------------------------------------------

    @contextmanager
    def row(self, key: str | None = None) -> Iterator[None]:
        """Things side by side."""
        with self._within(self._declare(kinds.ROW, key or f"row-{len(self._stack[-1].children)}", (), "")):
            yield

    @contextmanager
    def column(self, key: str | None = None) -> Iterator[None]:
        """Things one below the other, as they are in a window anyway."""
        with self._within(self._declare(kinds.COLUMN, key or f"column-{len(self._stack[-1].children)}", (), "")):
            yield

    @contextmanager
    def scroll(self, key: str, height: float, width: float | None = None) -> Iterator[None]:
        """An area of a height, in pixels, that scrolls."""
        self._check_pair((height, height if width is None else width), "size", 1.0)
        with self._within(self._declare(kinds.SCROLL, key, (width, height), key)):
            yield

    def table(
        self, key: str, count: int, height: float, row_height: float, width: float | None = None
    ) -> Iterator[int]:
        """A table of many rows of one height: go through it, and declare what is in the rows that show.

        :param count: how many rows there are; what is declared for each is its row. :param height: of the table.
        """
        self._check_pair((height, height if width is None else width), "size", 1.0)
        self._check_pair((row_height, row_height), "height of a row", 1.0)
        if isinstance(count, bool) or not isinstance(count, int) or not 0 <= count * row_height <= MOST:
            self._refuse(f"the count is {count!r}, expected a whole number of rows that is not too large")
        made = self._declare(kinds.TABLE, key, (width, height, count, row_height), key)
        top = made.item.node.scroll[1] if made.item is not None else 0.0
        first = max(0, int(top / row_height) - 1)
        shown = range(first, min(count, int((top + height) / row_height) + 2))
        kept = made.item.children.items() if made.item is not None else ()
        asked = [int(key) for key, child in kept if child.is_unanswered() and int(key) not in shown]
        with self._within(made):
            for index in sorted([*shown, *(one for one in asked if one < count)]):
                row = self._declare(kinds.TABLE_ROW, f"{index}", (index * row_height, row_height), "")
                with self._within(row):
                    yield index

    @contextmanager
    def window(
        self,
        title: str,
        key: str | None = None,
        at: tuple[float, float] = (40.0, 40.0),
        size: tuple[float, float] | None = None,
        bar: bool = True,
        closable: bool = True,
    ) -> Iterator[Window]:
        """A window that the player can move, size and close.

        :param at: where it is at first. :param size: its width and height at first; None: it fits what is in it.
        :param bar: whether it has a bar with its title.
        """
        self._check_pair(at, "place", -MOST)
        if size is not None:
            self._check_pair(size, "size", 1.0)
        for name, flag in (("bar", bar), ("closable", closable)):
            if not isinstance(flag, bool):
                self._refuse(f"{name} is {flag!r}, expected True or False")
        kept = self._draft.kept_place(key if key is not None else title)
        where = (at, size) if kept is None else ((kept[0], kept[1]), (kept[2], kept[3]) if size is not None else None)
        args = (_text(title), *where, bar, closable)
        stack, self._stack = self._stack, [self.declared]  # windows lie in the layer, wherever they are declared
        try:
            made = self._declare(kinds.WINDOW, key, args, title)
            with self._within(made):
                yield Window(made.item)
        finally:
            self._stack = stack

    @contextmanager
    def menus(self, key: str = "menus") -> Iterator[MenuFrame]:
        """A bar of menus along the top."""
        with self._within(self._declare(menus.BAR, key, (), key)):
            yield MenuFrame(self)

    # -- how -----------------------------------------------------------------------------------------------------------

    @contextmanager
    def _within(self, made: Declared) -> Iterator[None]:
        made.hold()
        self._stack.append(made)
        try:
            yield
        finally:
            self._stack.pop()
            self._last = made

    def _declare(self, kind: Kind, key: str | None, args: tuple[Any, ...], text: str) -> Declared:
        frame = sys._getframe(2)
        at = _here() if frame.f_code.co_filename in OWN else (frame.f_code, frame.f_lineno)
        if kind.can_be_disabled and args[-1] is not True and args[-1] is not False:
            raise DeclarationError(f"{line_of(at)}: enabled is {args[-1]!r}, expected True or False")
        if self.over:
            raise DeclarationError(
                f"{line_of(at)}: the frame is over, expected declarations within `with draft as now`"
            )
        if self._dispatcher is not None and self._dispatcher.running:
            raise DeclarationError(f"{line_of(at)}: a handler cannot declare anything, expected declarations between"
                                   " samples, once a frame")  # fmt: skip
        name = key if key is not None else text
        above = self._stack[-1]
        item = above.item.children.get(name) if above.item is not None else None
        if item is None and (not isinstance(name, str) or not name or "/" in name or not name.isprintable()):
            raise DeclarationError(
                f"{line_of(at)}: the key is {name!r}, expected printable text without a slash; key= gives one"
            )
        before = above.keys.get(name)
        if before is not None:
            raise DeclarationError(
                f"{line_of(at)}: the key {name!r} stands at {line_of(before.at)} already; expected another, by key="
            )
        if item is not None and (item.kind is not kind or not item.is_whole or not kind.fits(item, args)):
            item = None
        self._last = made = Declared(kind, name, args, at, item)
        above.keys[name] = made  # type: ignore[index]
        above.children.append(made)  # type: ignore[attr-defined]
        return made

    def _valued(self, kind: Kind, key: str | None, args: tuple[Any, ...], text: str, value: Any) -> Any:
        """Declare something with a value: the program's counts where it is another than it was given last (law I4)."""
        made = self._declare(kind, key, args, text)
        item = made.item
        if item is None or value != item.given:
            made.value = value
            return value
        now = kind.value_of(item)
        item.given = now
        return now

    def _check_pair(self, given: Any, what: str, least: float) -> None:
        """Check two numbers."""
        numbers = listed(given)
        if numbers is None or len(numbers) != 2 or not all(map(is_number, numbers)):
            self._refuse(f"the {what} is {given!r}, expected two finite numbers")
        elif not (least <= min(numbers) and max(numbers) <= MOST):
            self._refuse(f"the {what} is {given!r}, expected {least:g} to {MOST:g}")

    def _refuse(self, why: str) -> None:
        raise DeclarationError(f"{line_of(_here())}: {why}")


class MenuFrame:
    """What can be declared of menus."""

    __slots__ = ("_frame",)

    def __init__(self, frame: Frame) -> None:
        self._frame = frame

    @contextmanager
    def menu(self, text: str, key: str | None = None, enabled: bool = True) -> Iterator[MenuFrame]:
        """A menu, or a submenu where it is declared within one."""
        made = self._frame._declare(menus.MENU, key, (_text(text), enabled), text)
        with self._frame._within(made):
            yield self

    def item(self, text: str, key: str | None = None, enabled: bool = True) -> int:
        """An item of a menu. Return how often it was chosen since the last frame."""
        return self._frame._declare(menus.ITEM, key, (_text(text), enabled), text).take_clicks()


def _text(text: object) -> str:
    if not isinstance(text, str):
        raise DeclarationError(f"{line_of(_here())}: the text is {text!r}, expected a text")
    return text


def _here() -> tuple[CodeType, int]:
    """The line of the program that declares."""
    frame = sys._getframe(2)
    while frame.f_back is not None and frame.f_code.co_filename in OWN:
        frame = frame.f_back
    return frame.f_code, frame.f_lineno


def line_of(at: tuple[CodeType, int]) -> str:
    """Where a declaration stands in the program: file and line."""
    from pathlib import Path

    return f"{Path(at[0].co_filename).name}:{at[1]}"
