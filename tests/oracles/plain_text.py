"""A line of text and a caret, as plainly as can be: a list of characters, edited by taking it apart and joining it."""

from __future__ import annotations

import unicodedata

import regex


def cut(text: str) -> list[str]:
    return regex.findall(r"\X", text)


class PlainText:
    """The caret and the anchor are counted in code points; every step is done on whole texts."""

    def __init__(self, max_length: int | None, capitals: bool) -> None:
        self.text, self.caret, self.anchor = "", 0, 0
        self.max_length, self.capitals = max_length, capitals

    def places(self) -> list[int]:
        return [len("".join(cut(self.text)[:n])) for n in range(len(cut(self.text)) + 1)]

    def at_least(self, place: int) -> int:
        return min(one for one in self.places() if one >= place)

    def span(self) -> tuple[int, int]:
        return min(self.caret, self.anchor), max(self.caret, self.anchor)

    def insert(self, text: str) -> None:
        start, end = self.span()
        fits = [
            c
            for c in cut(text.upper() if self.capitals else text)
            if not any(unicodedata.category(s) == "Cc" for s in c)
        ]
        for count in range(len(fits), -1, -1):
            new = self.text[:start] + "".join(fits[:count]) + self.text[end:]
            if self.max_length is None or len(cut(new)) <= self.max_length or not count:
                break
        if count:
            self.text = new
            self.caret = self.anchor = self.at_least(start + len("".join(fits[:count])))

    def next_place(self, unit: str, ahead: bool) -> int:
        places, here = self.places(), self.caret
        if unit == "line":
            return places[-1 if ahead else 0]
        if unit == "character":
            beyond = [one for one in places if (one > here if ahead else one < here)]
            return (min(beyond) if ahead else max(beyond)) if beyond else here
        word = r"[^\W]"
        rest = cut(self.text[here:] if ahead else self.text[:here])
        rest = rest if ahead else rest[::-1]
        taken = []
        while rest and not regex.match(word, rest[0]):
            taken.append(rest.pop(0))
        while rest and regex.match(word, rest[0]):
            taken.append(rest.pop(0))
        return here + len("".join(taken)) * (1 if ahead else -1)

    def move(self, unit: str, ahead: bool, extend: bool) -> None:
        start, end = self.span()
        if unit == "character" and start != end and not extend:
            self.caret = end if ahead else start
        else:
            self.caret = self.next_place(unit, ahead)
        if not extend:
            self.anchor = self.caret

    def erase(self, unit: str, ahead: bool) -> None:
        start, end = self.span()
        if start == end:
            start, end = sorted((self.caret, self.next_place(unit, ahead)))
        if start != end:
            self.text = self.text[:start] + self.text[end:]
            self.caret = self.anchor = self.at_least(start)


class PlainLines(PlainText):
    """Text in lines of so many characters, of which every one is as wide. A caret is a place and the number of its
    line; everything is counted in rows and columns of a table of characters."""

    def __init__(self, columns: int, rows: int) -> None:
        super().__init__(None, False)
        self.columns, self.rows = columns, rows
        self.goal: int | None = None
        self.at_end = False

    def insert(self, text: str) -> None:
        text = "".join(c for c in cut(text.replace("\r\n", "\n").replace("\r", "\n")) if c == "\n" or c.isprintable())
        start, end = self.span()
        if text:
            self.text = self.text[:start] + text + self.text[end:]
            self.caret = self.anchor = self.at_least(start + len(text))
        self.goal, self.at_end = None, False

    def table(self) -> list[tuple[int, list[str]]]:
        """The rows: where each begins, and its characters."""
        rows: list[tuple[int, list[str]]] = []
        place = 0
        for line in self.text.split("\n"):
            left = cut(line)
            while True:
                taken = self.first_row(left)
                rows.append((place, taken))
                place += len("".join(taken))
                left = left[len(taken) :]
                if not left:
                    break
            place += 1
        return rows

    def first_row(self, left: list[str]) -> list[str]:
        """As many whole words as go into a row, their spaces after them; or as much of one word as does."""

        def wide(count: int) -> int:
            while count and left[count - 1].isspace():
                count -= 1
            return count

        ends = [n for n in range(1, len(left)) if left[n - 1].isspace() and not left[n].isspace()] + [len(left)]
        fits = [n for n in ends if wide(n) <= self.columns]
        return left[: max(fits)] if fits else left[: self.columns]

    def row_of(self, place: int) -> int:
        rows = self.table()
        found = max(n for n, (start, _) in enumerate(rows) if start <= place)
        if self.at_end and found and rows[found][0] == place == rows[found - 1][0] + len("".join(rows[found - 1][1])):
            found -= 1
        return found

    def go(self, place: int, extend: bool) -> None:
        self.caret = place
        if not extend:
            self.anchor = place

    def vertical(self, by: int, extend: bool) -> None:
        rows, row = self.table(), self.row_of(self.caret)
        column = len(cut(self.text[rows[row][0] : self.caret])) if self.goal is None else self.goal
        to = row + by
        self.at_end = False
        if row == 0 and by < 0:
            self.go(0, extend)
        elif row == len(rows) - 1 and by > 0:
            self.go(len(self.text), extend)
        else:
            self.to_row(max(0, min(to, len(rows) - 1)), column, extend)
        self.goal = column

    def to_row(self, row: int, column: int, extend: bool) -> None:
        rows = self.table()
        start, row_text = rows[row]
        end = start + len("".join(row_text))
        place = start + len("".join(row_text[:column]))
        self.go(place, extend)
        self.at_end = place == end and row + 1 < len(rows) and rows[row + 1][0] == end

    def end_of_row(self, ahead: bool, extend: bool) -> None:
        row = self.row_of(self.caret)
        self.to_row(row, 10_000 if ahead else 0, extend)
        self.goal = None

    def other(self, act: str, unit: str, ahead: bool, extend: bool) -> None:
        self.goal, self.at_end = None, False
        self.move(unit, ahead, extend) if act == "move" else self.erase(unit, ahead)
