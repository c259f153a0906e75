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
