"""The lines that a text is drawn in, and where a caret goes among them (law C4). It knows no nodes and no input.

A line ends at a break, or where the next word would go over the width; a word that is wider than a line is broken
between two characters. Spaces at the end of a line hang over it. Where a line ends without a break, the place after its
last character is also that before the first of the next; there a caret is on the next line, unless it was brought to
the end of the line before, which is what ``late`` stands for.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable
from typing import NamedTuple

from glent.extras import needs

with needs("text", "a text field"):
    import regex

__all__ = ["TextLine", "TextLines"]

Measure = Callable[[str], float]

_WORDS = regex.compile(r"\S*\s*")


class TextLine(NamedTuple):
    """One line as it is drawn.

    :ivar start: where it begins in the text. :ivar end: where it ends; a break is not in it.
    """

    start: int
    end: int


class TextLines:
    """A text in lines of a width.

    :param text: the text. :param bounds: all places between its characters. :param width: in node-local pixels.
    :param measure: how wide a text is.
    """

    __slots__ = ("_bounds", "_measure", "_text", "all")

    def __init__(self, text: str, bounds: list[int], width: float, measure: Measure) -> None:
        self._text, self._bounds, self._measure = text, bounds, measure
        self.all: list[TextLine] = []
        """The lines, from the top down; one at the least."""
        start = 0
        for part in text.split("\n"):
            self._wrap(start, start + len(part), width)
            start += len(part) + 1

    def _wrap(self, start: int, stop: int, width: float) -> None:
        """Add the lines of a stretch without a break."""
        while True:
            end = self._end_of_line(start, stop, width)
            self.all.append(TextLine(start, end))
            if end >= stop:
                return
            start = end

    def _end_of_line(self, start: int, stop: int, width: float) -> int:
        text, measure = self._text, self._measure
        if measure(text[start:stop].rstrip()) <= width:
            return stop
        end = start
        for word in _WORDS.finditer(text, start, stop):
            if not word[0] or measure(text[start : word.end()].rstrip()) > width:
                break
            end = word.end()
        if end > start:
            return end
        # Not even its first word fits: as many characters as do, and one in any case.
        places = self._bounds[bisect_right(self._bounds, start) : bisect_right(self._bounds, stop)]
        fitting = bisect_right(places, width, key=lambda place: measure(text[start:place]))
        return places[max(fitting - 1, 0)]

    def number(self, place: int, late: bool = False) -> int:
        """The number of the line that a place is in."""
        found = bisect_right(self.all, place, key=lambda line: line.start) - 1
        return found - 1 if late and found and self.all[found - 1].end == place == self.all[found].start else found

    def left_of(self, place: int, late: bool = False) -> float:
        """How far from the left a place is, in pixels."""
        return self._measure(self._text[self.all[self.number(place, late)].start : place])

    def nearest(self, number: int, x: float) -> tuple[int, bool]:
        """The place in a line nearest to so many pixels from the left, and whether that is the end of the line rather
        than the beginning of the next."""
        number = max(0, min(number, len(self.all) - 1))
        line = self.all[number]
        first = bisect_left(self._bounds, line.start)
        best, least = line.start, None
        for place in self._bounds[first : bisect_right(self._bounds, line.end)]:
            off = abs(self._measure(self._text[line.start : place]) - x)
            if least is not None and off > least:
                break
            best, least = place, off
        return best, self._is_late(number, best)

    def ends(self, place: int, late: bool = False) -> tuple[int, tuple[int, bool]]:
        """The first place of the line that a place is in, and the last, with whether that is ``late``."""
        number = self.number(place, late)
        line = self.all[number]
        return line.start, (line.end, self._is_late(number, line.end))

    def _is_late(self, number: int, place: int) -> bool:
        """Whether a place at the end of a line is also the beginning of the next."""
        return place == self.all[number].end and number + 1 < len(self.all) and self.all[number + 1].start == place
