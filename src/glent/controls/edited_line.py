"""A text with a caret and a selection, and all that can be done to it (law C4). It knows no nodes and no input.

Characters are what people take for one, extended grapheme clusters by Unicode's UAX #29, however many code points they
are made of: a letter with its accents, a flag, a family. Nothing here ever splits one. Needs the extra ``glent[text]``.
"""

from __future__ import annotations

import unicodedata
from bisect import bisect_left, bisect_right
from collections.abc import Callable

from glent.core.errors import ControlError
from glent.extras import needs

with needs("text", "a text field"):
    import regex

__all__ = ["UNITS", "EditedLine", "clusters"]

UNITS = ("character", "word", "line")
UNDOS = 500
"""How many steps can be undone."""

_CLUSTER = regex.compile(r"\X")
_WORD = regex.compile(r"\w")
_BREAKS = frozenset("\u2028\u2029")


def clusters(text: str) -> list[str]:
    """The characters of a text, as people count them."""
    return _CLUSTER.findall(text)


def _is_plain(cluster: str, breaks: bool) -> bool:
    """Whether a character can stand in a text: no control character, and a break only where there may be several
    lines."""
    if cluster == "\n":
        return breaks
    return not any(unicodedata.category(sign) == "Cc" or sign in _BREAKS for sign in cluster)


def _is_of_word(cluster: str) -> bool:
    return _WORD.match(cluster) is not None


def _with_breaks(text: str) -> str:
    """A text whose breaks are all of one sort."""
    return text.replace("\r\n", "\n").replace("\r", "\n") if "\r" in text else text


class EditedLine:
    """A text being edited, of one line unless it has breaks. Places in it are indices of code points, always between
    two characters.

    :param text: what is there at first, taken as it is but for breaks and control characters.
    :param max_length: how many characters it may have; None: any number.
    :param allowed: a regular expression that every character has to match, or a function that says whether one may be.
    :param breaks: whether a line break is one of its characters.
    :param convert: makes what is inserted into something else, such as ``str.upper``.
    :raises ControlError: a length below 0, or an expression that is none.

    :ivar caret: where the caret is. :ivar anchor: the other end of what is selected; where the caret is if nothing is.
    """

    __slots__ = (
        "_allowed",
        "_bounds",
        "_breaks",
        "_convert",
        "_doing",
        "_redo",
        "_text",
        "_undo",
        "anchor",
        "caret",
        "max_length",
    )

    def __init__(
        self,
        text: str = "",
        max_length: int | None = None,
        allowed: str | Callable[[str], bool] | None = None,
        convert: Callable[[str], str] | None = None,
        breaks: bool = False,
    ) -> None:
        if max_length is not None and (
            isinstance(max_length, bool) or not isinstance(max_length, int) or max_length < 0
        ):
            raise ControlError(f"max_length is {max_length!r}, expected a whole number from 0, or None")
        self.max_length = max_length
        self._allowed: Callable[[str], object] | None
        if isinstance(allowed, str):
            try:
                self._allowed = regex.compile(allowed).fullmatch
            except regex.error as error:
                raise ControlError(f"allowed is {allowed!r}, which is not a regular expression: {error}") from None
        else:
            self._allowed = allowed
        self._convert, self._breaks = convert, breaks
        self._text = ""
        self._bounds: list[int] = [0]
        self.caret = self.anchor = 0
        self._undo: list[tuple[str, int, int]] = []
        self._redo: list[tuple[str, int, int]] = []
        self._doing = ""
        """What the last step was, as long as more of the same belongs to it."""
        self.reset(text)

    # -- what there is -------------------------------------------------------------------------------------------------

    @property
    def text(self) -> str:
        """The text."""
        return self._text

    def reset(self, text: str) -> None:
        """Begin anew with another text, the caret at its end; nothing is left to be undone."""
        given = clusters(_with_breaks(text) if self._breaks else text)
        self._put("".join(one for one in given if _is_plain(one, self._breaks)))
        self.caret = self.anchor = len(self._text)
        self._undo.clear()
        self._redo.clear()
        self._doing = ""

    @property
    def selection(self) -> tuple[int, int]:
        """Where what is selected begins and ends; the caret twice, if nothing is."""
        return min(self.caret, self.anchor), max(self.caret, self.anchor)

    @property
    def selected(self) -> str:
        """The selected text."""
        start, end = self.selection
        return self._text[start:end]

    @property
    def bounds(self) -> list[int]:
        """All places in the text: before, between and after its characters."""
        return self._bounds

    def _put(self, text: str) -> None:
        self._text = text
        at = 0
        self._bounds = [0]
        for one in clusters(text):
            at += len(one)
            self._bounds.append(at)

    def _snapped(self, place: int) -> int:
        """The first place at or after an index: what was joined to a character belongs before it."""
        return self._bounds[min(bisect_left(self._bounds, place), len(self._bounds) - 1)]

    # -- going about ---------------------------------------------------------------------------------------------------

    def place(self, unit: str, ahead: bool) -> int:
        """Where the caret comes to by one unit: the next character, the end of the word ahead or the beginning of the
        one before, or the end of the line.

        :raises ControlError: there is no such unit.
        """
        bounds, last = self._bounds, len(self._bounds) - 1
        at = bisect_left(bounds, self.caret)
        if unit == "character":
            return bounds[min(at + 1, last) if ahead else max(at - 1, 0)]
        if unit == "line":
            return bounds[last if ahead else 0]
        if unit != "word":
            raise ControlError(f"there is no unit {unit!r} of text, expected one of {', '.join(UNITS)}")
        step = 1 if ahead else -1
        for of_word in (False, True):  # over what is no word, and then over the word
            while (at < last if ahead else at > 0) and self._is_word_at(at if ahead else at - 1) is of_word:
                at += step
        return bounds[at]

    def _is_word_at(self, number: int) -> bool:
        return _is_of_word(self._text[self._bounds[number] : self._bounds[number + 1]])

    def move(self, unit: str, ahead: bool, extend: bool = False) -> None:
        """Move the caret by a unit. From a selection that is not extended a character leads to its end that way."""
        start, end = self.selection
        if unit == "character" and not extend and start != end:
            self.go(end if ahead else start)
        else:
            self.go(self.place(unit, ahead), extend)

    def go(self, place: int, extend: bool = False) -> None:
        """Put the caret at a place, or at the next one after an index that is none."""
        self._doing = ""
        self.caret = self._snapped(max(0, place))
        if not extend:
            self.anchor = self.caret

    def select(self, start: int, end: int) -> None:
        """Select from one place to another, where the caret is then."""
        self.go(start)
        self.go(end, extend=True)

    def select_all(self) -> None:
        """Select the whole text."""
        self.select(0, len(self._text))

    def select_line(self, place: int) -> None:
        """Select the line at a place, from the break before it to that after it."""
        start = self._text.rfind("\n", 0, place) + 1
        end = self._text.find("\n", place)
        self.select(start, len(self._text) if end < 0 else end)

    def select_word(self, place: int) -> None:
        """Select the word at a place, or what there is between words."""
        bounds, last = self._bounds, len(self._bounds) - 1
        if not last:
            return
        at = min(max(bisect_right(bounds, max(0, place)) - 1, 0), last - 1)
        kind = self._is_word_at(at)
        first = at
        while first > 0 and self._is_word_at(first - 1) is kind:
            first -= 1
        while at < last and self._is_word_at(at) is kind:
            at += 1
        self.select(bounds[first], bounds[at])

    # -- changing ------------------------------------------------------------------------------------------------------

    def insert(self, text: str) -> str:
        """Put text in place of the selection; what of it could not be, because it is not allowed or there is no room.

        Text typed in one go, up to the next space, is one step to undo.
        """
        if self._convert is not None:
            text = self._convert(text)
        if self._breaks:
            text = _with_breaks(text)
        wanted: list[str] = []
        refused: list[str] = []
        for one in clusters(text):
            fits = _is_plain(one, self._breaks) and (self._allowed is None or one == "\n" or self._allowed(one))
            (wanted if fits else refused).append(one)
        start, end = self.selection
        before, after = self._text[:start], self._text[end:]
        count = len(wanted)
        if self.max_length is not None:
            # Each that is left out makes it shorter by one, or by two, where what is around it joins then.
            excess = len(clusters(before + "".join(wanted) + after)) - self.max_length
            count = min(count, max(0, count - excess + 1))
            while count and len(clusters(before + "".join(wanted[:count]) + after)) > self.max_length:
                count -= 1
        refused += wanted[count:]
        new = "".join(wanted[:count])
        if new:
            word = not new[-1].isspace() and start == end
            self._step("insert", joined=word)
            self._put(before + new + after)
            self.caret = self.anchor = self._snapped(len(before) + len(new))
            self._doing = "insert" if word else ""
        return "".join(refused)

    def erase(self, unit: str, ahead: bool) -> bool:
        """Erase the selection, or else from the caret as far as a unit goes; whether there was anything to erase."""
        start, end = self.selection
        selected = start != end
        if not selected:
            start, end = sorted((self.caret, self.place(unit, ahead)))
            if start == end:
                return False
        what = f"erase {ahead}"
        self._step(what, joined=not selected and unit == "character")
        self._put(self._text[:start] + self._text[end:])
        self.caret = self.anchor = self._snapped(start)
        self._doing = what if not selected and unit == "character" else ""
        return True

    def restore(self, text: str, caret: int, anchor: int) -> None:
        """Take back a change that others refuse; the step of it is no longer there to undo."""
        if self._undo and self._undo[-1] == (text, caret, anchor):
            self._undo.pop()
        self._doing = ""
        self.caret, self.anchor = caret, anchor
        self._put(text)

    def _step(self, what: str, joined: bool) -> None:
        """Note what there is before a step, unless it goes on with the one before."""
        self._redo.clear()
        if joined and self._doing == what:
            return
        self._undo.append((self._text, self.caret, self.anchor))
        del self._undo[:-UNDOS]

    def undo(self) -> bool:
        """Undo the last step; whether there was one."""
        return self._swap(self._undo, self._redo)

    def redo(self) -> bool:
        """Do again what was undone last; whether there was anything."""
        return self._swap(self._redo, self._undo)

    def _swap(self, source: list[tuple[str, int, int]], target: list[tuple[str, int, int]]) -> bool:
        self._doing = ""
        if not source:
            return False
        target.append((self._text, self.caret, self.anchor))
        text, self.caret, self.anchor = source.pop()
        self._put(text)
        return True
