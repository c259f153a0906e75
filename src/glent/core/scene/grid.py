"""A grid of entries in one flat space, asked for the entries at a point, front to back.

Entries live in square cells of a size that suits them; entries much larger than the rest live in coarser levels, so
that one of them never fills thousands of cells. What a query reads is neither: for each finest cell that is ever
asked about, the entries of all levels there are collected once, sorted front to back, and kept until an entry that
touches the cell comes or goes.

Cost: a query is one dict look-up and a loop over the entries at that cell; adding or removing an entry touches at
most nine cells of its level and the kept lists it covers.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from typing import TYPE_CHECKING, Any, Protocol

if TYPE_CHECKING:
    from glent.core.geometry.affine import Box
    from glent.core.scene.node import Node

__all__ = ["ROW", "Entry", "Grid", "Target", "paint_number"]


class Target(Protocol):
    """A test of a point that lies in an entry's box; ``solid`` is whether the node itself is."""

    solid: bool

    def meet(self, node: Node, x: float, y: float, out: list[Node], deep: bool) -> bool:
        """Append what is hit at this point of the grid's space. Return True to look no further (a solid, and not
        deep)."""


Entry = tuple[float, float, float, float, "Node", Target | None]
"""Left, top, right, bottom in the grid's space; the node; what decides in the box. None: a solid that fills it."""

ROW = 1 << 32
_FLAT = 10  # so few entries are read faster in a row than through a cell
_WIDE = 20  # levels above the finest; what is larger than their cells is in every list
_KEPT = 16384  # lists kept at once


class Grid:
    """The entries of one island."""

    __slots__ = ("_levels", "_planned_for", "_size", "_wide", "bounds", "entries", "inverse", "kept")

    def __init__(self) -> None:
        self.entries: dict[Node, Entry] = {}
        self.bounds: Box | None = None
        """A box around all entries; it may be too large after removals, never too small."""
        self._size = 0.0
        self.inverse = 0.0
        self._planned_for = -1
        self._levels: dict[int, dict[int, list[Entry]]] = {}
        self._wide: list[Entry] = []
        self.kept: dict[int, list[Entry]] = {}
        """Per finest cell asked about, at ``int(x * inverse) * ROW + int(y * inverse)``: its entries, front to back."""

    def __iter__(self) -> Iterator[Entry]:
        return iter(self.entries.values())

    def add(self, entry: Entry) -> bool:
        """Add an entry. Return whether the bounds grew."""
        self.entries[entry[4]] = entry
        if self._planned_for >= 0:
            if len(self.entries) > 2 * self._planned_for + _FLAT:
                self._forget()
            else:
                self._file(entry)
                self._stale(entry)
        bounds = self.bounds
        if bounds is None:
            self.bounds = entry[:4]
            return True
        if entry[0] < bounds[0] or entry[1] < bounds[1] or entry[2] > bounds[2] or entry[3] > bounds[3]:
            self.bounds = (
                min(entry[0], bounds[0]),
                min(entry[1], bounds[1]),
                max(entry[2], bounds[2]),
                max(entry[3], bounds[3]),
            )
            return True
        return False

    def remove(self, node: Node) -> None:
        """Drop the node's entry."""
        entry = self.entries.pop(node)
        if not self.entries:
            self.bounds = None
        if self._planned_for >= 0:
            self._unfile(entry)
            self._stale(entry)

    def near(self, x: float, y: float, by: float) -> Iterator[Entry]:
        """The entries whose box is within ``by`` of a point, in no order."""
        for entry in self._candidates(x, y, by):
            if entry[0] - by <= x <= entry[2] + by and entry[1] - by <= y <= entry[3] + by:
                yield entry

    # -- cells ---------------------------------------------------------------------------------------------------

    def _forget(self) -> None:
        self._planned_for = -1
        self._levels = {}
        self._wide = []
        self.kept = {}
        self.inverse = 0.0

    def _plan(self) -> None:
        """Choose the finest cell's size by the entries there are, and file them."""
        self._forget()
        count = len(self.entries)
        self._planned_for = count
        self._size, self.inverse = 1.0, 0.0  # an inverse of zero puts every point in one cell
        if count > _FLAT:
            # The lower middle of the longer sides: a few large entries must not make all cells large.
            sides = sorted(max(entry[2] - entry[0], entry[3] - entry[1]) for entry in self.entries.values())
            typical = max(sides[count // 4], 1e-3)
            # A power of two, so that multiplying by its inverse rounds nothing.
            self._size = 2.0 ** math.ceil(math.log2(typical))
            self.inverse = 1.0 / self._size
        if self.inverse:
            self._file_all()

    def _file_all(self) -> None:
        """File all entries: as :meth:`_file` does one by one, without a call for each."""
        inverse = self.inverse
        cells = self._levels.setdefault(0, {})
        for entry in self.entries.values():
            left, top, right, bottom = entry[0], entry[1], entry[2], entry[3]
            if (right - left) * inverse > 2.0 or (bottom - top) * inverse > 2.0:
                self._file(entry)
                continue
            first, last = int(top * inverse), int(bottom * inverse)
            for column in range(int(left * inverse), int(right * inverse) + 1):
                base = column * ROW
                for key in range(base + first, base + last + 1):
                    if key in cells:
                        cells[key].append(entry)
                    else:
                        cells[key] = [entry]

    def _level(self, entry: Entry) -> int:
        side = max(entry[2] - entry[0], entry[3] - entry[1]) * self.inverse
        return 0 if side <= 2.0 else math.frexp(side / 2.0)[1]

    def _keys(self, box: Sequence[Any], inverse: float) -> Iterator[int]:
        # int() cuts towards zero, so the cell at zero is twice as long: the mapping still never decreases, which is
        # all that a range of cells needs.
        top, bottom = int(box[1] * inverse), int(box[3] * inverse)
        for column in range(int(box[0] * inverse), int(box[2] * inverse) + 1):
            for row in range(top, bottom + 1):
                yield column * ROW + row

    def _file(self, entry: Entry) -> None:
        if not self.inverse:
            return
        level = self._level(entry)
        if level > _WIDE:
            self._wide.append(entry)
            return
        cells = self._levels.setdefault(level, {})
        for key in self._keys(entry, self.inverse / (1 << level)):
            cell = cells.get(key)
            if cell is None:
                cells[key] = [entry]
            else:
                cell.append(entry)

    def _unfile(self, entry: Entry) -> None:
        if not self.inverse:
            return
        level = self._level(entry)
        if level > _WIDE:
            self._wide.remove(entry)
            return
        cells = self._levels[level]
        for key in self._keys(entry, self.inverse / (1 << level)):
            cell = cells[key]
            cell.remove(entry)
            if not cell:
                del cells[key]

    def _stale(self, entry: Entry) -> None:
        """Forget the kept lists that this entry belongs in."""
        kept, inverse = self.kept, self.inverse
        if not kept:
            return
        across = int(entry[2] * inverse) - int(entry[0] * inverse) + 1
        down = int(entry[3] * inverse) - int(entry[1] * inverse) + 1
        if across * down >= len(kept):
            kept.clear()
        else:
            for key in self._keys(entry, inverse):
                kept.pop(key, None)

    def _candidates(self, x: float, y: float, by: float) -> Iterator[Entry]:
        if self._planned_for < 0:
            self._plan()
        if not self.inverse:
            yield from self.entries.values()
            return
        yield from self._wide
        box = (x - by, y - by, x + by, y + by)
        seen: set[int] = set()
        for level, cells in self._levels.items():
            inverse = self.inverse / (1 << level)
            if by * inverse > 64.0:  # more cells than are worth asking one by one
                keys: Iterator[int] = iter(list(cells))
            else:
                keys = self._keys(box, inverse)
            for key in keys:
                for entry in cells.get(key, ()):
                    if id(entry) not in seen:
                        seen.add(id(entry))
                        yield entry

    def collect(self, x: float, y: float) -> list[Entry]:
        """Make and keep the list of the finest cell at a point, front to back."""
        if self._planned_for < 0:
            self._plan()
        inverse = self.inverse
        if not inverse:
            found = list(self.entries.values())
            key = 0
        else:
            column, row = int(x * inverse), int(y * inverse)
            key = column * ROW + row
            # Widened by one cell on the sides where cutting towards zero may have put more points into this cell.
            size = self._size
            left, right = (column - (column <= 0)) * size, (column + (column >= 0)) * size
            top, bottom = (row - (row <= 0)) * size, (row + (row >= 0)) * size
            found = [
                entry
                for entry in self._candidates(x, y, 0.0)
                if entry[0] <= right and entry[2] >= left and entry[1] <= bottom and entry[3] >= top
            ]
        found.sort(key=paint_number, reverse=True)
        if len(self.kept) >= _KEPT:
            self.kept.clear()
        self.kept[key] = found
        return found


def paint_number(entry: Entry) -> int:
    """What entries of one island are sorted by, back to front."""
    return entry[4]._z
