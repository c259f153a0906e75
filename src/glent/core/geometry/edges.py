"""Many edges, so that few of them have to be looked at: by a level line, and in pairs that may meet.

Both sort edges by size. For a level line, an edge lies in the bands of the level whose bands are just as high as it:
one band or two of that, so a line looks into one band of each level. For pairs, the same is done with squares in the
plane. An outline of a hundred thousand corners comes to a few edges for a line and a few pairs for an edge.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

import numpy as np

from glent.core.errors import ShapeError

if TYPE_CHECKING:
    from numpy.typing import NDArray

__all__ = ["Bands", "pairs_that_may_meet"]

Edge = tuple[float, float, float, float]

LEVELS = 24
MANY = 48
"""From so many edges in a band on they are looked at by NumPy, all in one go."""
MOST_PAIRS = 60_000_000
"""Pairs that are looked at before an outline is taken for too tangled."""
AT_ONCE = 1_000_000


class Bands:
    """Edges ``(x0, y0, x1, y1)`` with y0 below y1, by the level lines that they cross.

    Cost: two entries for each edge; a question looks into one band of each level there is.
    """

    __slots__ = ("_bands", "_height", "_levels", "_low")

    def __init__(self, edges: tuple[Edge, ...]) -> None:
        given = np.array(edges)
        low, high = given[:, 1], given[:, 3]
        self._low = float(low.min())
        self._height = float(high.max()) - self._low
        with np.errstate(divide="ignore"):
            level = np.floor(np.log2(self._height / (high - low)))
        level = np.clip(level, 0, LEVELS).astype(int)
        per = self._height / np.exp2(level)
        first, last = self._band(low, per), self._band(high, per)
        self._levels = [(one, self._height / 2.0**one) for one in sorted(set(level.tolist()))]
        found: dict[tuple[int, int], list[Edge]] = {}
        for edge, at, begin, end in zip(edges, level.tolist(), first.tolist(), last.tolist(), strict=True):
            for band in range(begin, end + 1):
                found.setdefault((at, band), []).append(edge)
        self._bands: dict[tuple[int, int], list[Edge] | NDArray[np.float64]] = {
            key: one if len(one) < MANY else np.array(one).T for key, one in found.items()
        }

    def _band(self, y: Any, per: Any) -> Any:
        return np.floor((y - self._low) / per).astype(int)

    def crossed_before(self, x: float, y: float) -> int:
        """How many edges cross the level line at ``y`` at ``x`` or left of it; half-open, as shapes are (law H2)."""
        count = 0
        if not self._low <= y <= self._low + self._height:
            return 0
        for level, per in self._levels:
            # As the edges were put there: a band too far for a last bit costs nothing, one too few would be wrong.
            band = int((y - self._low) // per)
            one = self._bands.get((level, band))
            if one is None:
                continue
            if isinstance(one, list):
                for x0, y0, x1, y1 in one:
                    if y0 <= y < y1 and x0 + (y - y0) / (y1 - y0) * (x1 - x0) <= x:
                        count += 1
            else:
                x0s, y0s, x1s, y1s = one
                crossed = (y0s <= y) & (y < y1s) & (x0s + (y - y0s) / (y1s - y0s) * (x1s - x0s) <= x)
                count += int(np.count_nonzero(crossed))
        return count


def pairs_that_may_meet(
    low: NDArray[np.float64], high: NDArray[np.float64]
) -> Iterator[tuple[NDArray[np.int64], NDArray[np.int64]]]:
    """Pairs of boxes that may overlap, as arrays of indices, the lower first, some at a time; a pair may come twice.

    :param low: the least corners of the boxes, shape (n, 2). :param high: the greatest.
    :raises ShapeError: there are too many pairs to look at.
    """
    extent = float((high.max(axis=0) - low.min(axis=0)).max()) or 1.0
    origin = low.min(axis=0)
    size = (high - low).max(axis=1)
    with np.errstate(divide="ignore"):
        level = np.clip(np.floor(np.log2(extent / size)), 0, LEVELS).astype(int)
    levels = sorted(set(level.tolist()))
    looked = 0
    for coarse in levels:
        theirs = np.flatnonzero(level == coarse)
        keys, owners = _squares(low[theirs], high[theirs], origin, extent / 2.0**coarse, theirs)
        order = np.argsort(keys, kind="stable")
        keys, owners = keys[order], owners[order]
        mine = np.flatnonzero(level >= coarse)
        wanted, askers = _squares(low[mine], high[mine], origin, extent / 2.0**coarse, mine)
        begin, end = np.searchsorted(keys, wanted, "left"), np.searchsorted(keys, wanted, "right")
        counts = end - begin
        looked += int(counts.sum())
        if looked > MOST_PAIRS:
            raise ShapeError("has too many edges that run side by side to be checked; expected a simpler outline")
        ends = np.cumsum(counts)
        start = 0
        while start < len(wanted):
            done = int(ends[start - 1]) if start else 0
            stop = max(start + 1, int(np.searchsorted(ends, done + AT_ONCE, "right")))
            many = counts[start:stop]
            one = np.repeat(askers[start:stop], many)
            at = np.arange(int(many.sum())) - np.repeat(np.cumsum(many) - many, many)
            other = owners[np.repeat(begin[start:stop], many) + at]
            keep = (one != other) & ((level[one] > coarse) | (one < other))
            one, other = one[keep], other[keep]
            overlap = ((low[one] <= high[other]) & (low[other] <= high[one])).all(axis=1)
            yield np.minimum(one, other)[overlap], np.maximum(one, other)[overlap]
            start = stop


def _squares(low: Any, high: Any, origin: Any, side: float, names: Any) -> tuple[Any, Any]:
    """The squares that boxes no larger than one lie in: up to four each, with whose they are."""
    first = np.floor((low - origin) / side).astype(np.int64)
    last = np.floor((high - origin) / side).astype(np.int64)
    keys, owners = [], []
    for right in (False, True):
        for below in (False, True):
            x, y = (last if right else first)[:, 0], (last if below else first)[:, 1]
            new = np.ones(len(low), bool)
            if right:
                new &= last[:, 0] > first[:, 0]
            if below:
                new &= last[:, 1] > first[:, 1]
            keys.append((x[new] << 32) + y[new])
            owners.append(names[new])
    return np.concatenate(keys), np.concatenate(owners)
