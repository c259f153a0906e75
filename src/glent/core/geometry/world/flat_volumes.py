"""Boxes within boxes as arrays, for thousands of rays at once.

All rays go down together, a step from box to box at a time. Boxes are kept in single precision, a little larger for
it: they only leave out what cannot be met; whether and where a thing is met is found in double precision afterwards.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from glent.core.geometry.world.volumes import EMPTY, Volume, around

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Box3

__all__ = ["FlatVolumes"]

WIDE = 4
"""How many boxes or things a row has: two steps down the pairs of boxes are one here."""

AT_ONCE = 4096
"""Rays that are followed at once: as many as keep the work in the nearer caches."""


class FlatVolumes:
    """All boxes as arrays.

    :ivar things: the things, by number.
    """

    __slots__ = ("_boxes", "_chunks", "_held", "_middle", "_root", "_slack", "things")

    def __init__(self, boxes: Mapping[Any, Box3], root: Volume | None, large: Mapping[Any, Box3]) -> None:
        import numpy as np

        things = list(boxes)
        numbers = {thing: number for number, thing in enumerate(things)}
        self.things = np.empty(len(things), dtype=object)
        self.things[:] = things
        if all(isinstance(thing, int) for thing in things):
            self.things = self.things.astype(np.intp)
        rows: list[list[Box3]] = []
        held: list[list[int]] = []
        todo: list[tuple[Volume | dict[Any, Box3], int]] = []

        def open_(one: Volume | dict[Any, Box3]) -> int:
            rows.append([])
            held.append([])
            todo.append((one, len(rows) - 1))
            return len(rows) - 1

        left = list(large.items())
        chunks = [dict(left[n : n + WIDE]) for n in range(0, len(left), WIDE)]
        tops: list[Volume | dict[Any, Box3]] = [*([root] if root is not None else []), *chunks]
        for top in tops:
            open_(top)
        self._root = np.arange(len(tops) - len(chunks))
        self._chunks = np.arange(len(self._root), len(tops))
        """The rows to begin with: of all boxes, and of the large things that are in none."""
        while todo:
            one, row = todo.pop()
            contents: list[tuple[Box3, int]] = []
            things_in = one if isinstance(one, dict) else one.things
            if things_in is not None and len(things_in) <= WIDE:
                contents = [(box, -1 - numbers[thing]) for thing, box in things_in.items()]
            elif things_in is not None:
                items = list(things_in.items())
                parts = [dict(items[n : n + WIDE]) for n in range(0, len(items), WIDE)]
                contents = [(around(list(part.values())), open_(part)) for part in parts]
            else:
                assert isinstance(one, Volume)
                contents = [(inner.box, open_(inner)) for inner in _inner(one)]
            contents += [(EMPTY, 0)] * (WIDE - len(contents))
            rows[row] = [box for box, _ in contents]
            held[row] = [what for _, what in contents]
        made = np.array(rows, dtype=float).reshape(-1, WIDE, 6)
        full = np.isfinite(made).all(axis=2)
        held_boxes = made[full]
        low = held_boxes[:, :3].min(axis=0) if len(held_boxes) else np.zeros(3)
        high = held_boxes[:, 3:].max(axis=0) if len(held_boxes) else np.zeros(3)
        self._middle = (low + high) / 2
        # Single precision is enough to leave boxes out by, if they are a little larger for it.
        self._slack = float(2e-6 * (high - low).max() + 1e-9)
        made = made - np.concatenate([self._middle, self._middle])
        made[..., :3] -= self._slack
        made[..., 3:] += self._slack
        made[~full] = np.nan  # which no ray is found to meet
        self._boxes = made.transpose(2, 1, 0).astype(np.float32).copy()  # side, place in the row, row: long runs
        self._held = np.array(held, dtype=np.intp).ravel()

    def pairs(self, o: Any, d: Any, far: Any, large: bool | None = None) -> tuple[Any, Any]:
        """Numbers of rays and of things whose boxes they meet before ``far``, of shape (n,); directions of length 1.

        :param large: just the things that are too large to be in a box with others, or just the others; None: all.
        """
        import numpy as np

        tops = np.concatenate([self._root, self._chunks]) if large is None else self._chunks if large else self._root
        found_rays, found = [np.zeros(0, dtype=np.intp)], [np.zeros(0, dtype=np.intp)]
        if len(tops) and o.shape[1]:
            # From where each ray comes near on, so that its numbers are as small as those of the boxes.
            outer = float(np.nanmax(np.abs(self._boxes[:, :, tops]), initial=1.0))
            local = o - self._middle[:, None]
            ahead = np.maximum(-(local * d).sum(axis=0) - 2.0 * outer * math.sqrt(3.0), 0.0)
            start = (local + ahead * d).astype(np.float32)
            with np.errstate(divide="ignore", over="ignore"):
                inverse = (1.0 / d).astype(np.float32)
            inverse[~np.isfinite(inverse)] = np.float32(1e30)
            maximum = np.minimum(far - ahead, 3e38).astype(np.float32) + np.float32(4.0 * self._slack)
            octant = (d[0] < 0.0) | (d[1] < 0.0) << 1 | (d[2] < 0.0) << 2
            for way in range(8):
                alike = np.flatnonzero(octant == way)
                for begin in range(0, len(alike), AT_ONCE):
                    rays = alike[begin : begin + AT_ONCE]
                    self._descend(way, tops, rays, start[:, rays], inverse[:, rays], maximum[rays], found_rays, found)
        return np.concatenate(found_rays), np.concatenate(found)

    def _descend(
        self,
        way: int,
        tops: Any,
        all_rays: Any,
        start: Any,
        inverse: Any,
        maximum: Any,
        found_rays: list[Any],
        found: list[Any],
    ) -> None:
        """Collect the pairs for rays of one octant, box by box from the outermost on."""
        import numpy as np

        minimum = -np.float32(self._slack)
        near = [self._boxes[axis + 3 * (way >> axis & 1)] for axis in range(3)]
        far = [self._boxes[axis + 3 * (1 - (way >> axis & 1))] for axis in range(3)]
        rays = np.tile(np.arange(len(all_rays)), len(tops))
        nodes = np.repeat(tops, len(all_rays))
        with np.errstate(invalid="ignore", over="ignore"):
            while len(rays):
                into: Any = minimum
                out: Any = maximum.take(rays)
                for axis in range(3):
                    origin, by = start[axis].take(rays), inverse[axis].take(rays)
                    one, other = near[axis].take(nodes, axis=1), far[axis].take(nodes, axis=1)
                    one -= origin
                    one *= by
                    other -= origin
                    other *= by
                    into = np.maximum(one, into, out=one)
                    out = np.minimum(other, out, out=other)
                met = np.flatnonzero(into <= out)
                place = met // len(rays)
                row = met - place * len(rays)
                held = self._held.take(nodes.take(row) * WIDE + place)
                ray = rays.take(row)
                thing = held < 0
                found_rays.append(all_rays[ray[thing]])
                found.append(-1 - held[thing])
                rays, nodes = ray[~thing], held[~thing]


def _inner(one: Volume) -> list[Volume]:
    """The boxes two steps below one."""
    inner: list[Volume] = []
    for part in one.parts or ():
        inner.extend(part.parts if part.parts is not None else (part,))
    return inner
