"""Boxes within boxes as arrays, for thousands of rays at once.

All rays go down together, a step from box to box at a time. Boxes are kept in single precision, a little larger for
it: they only leave out what cannot be met; whether and where a thing is met is found in double precision afterwards.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING, Any

from glent.core.geometry.world.volumes import EMPTY, WIDE, Volume, around

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Box3

__all__ = ["FlatVolumes"]

AT_ONCE = 4096
"""Rays that are followed at once: as many as keep the work in the nearer caches."""


class FlatVolumes:
    """All boxes as arrays.

    :ivar things: the things, by number.
    """

    __slots__ = ("_boxes", "_held", "_middle", "_slack", "_starts", "things")

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
        self._starts = len(tops)
        while todo:
            one, row = todo.pop()
            contents: list[tuple[Box3, int]] = []
            things_in = one if isinstance(one, dict) else one.things
            if things_in is not None:
                contents = [(box, -1 - numbers[thing]) for thing, box in things_in.items()]
                if len(contents) > WIDE:  # a box that things were added to
                    items = list(things_in.items())
                    parts = [dict(items[n : n + WIDE]) for n in range(0, len(items), WIDE)]
                    contents = [(around(list(part.values())), open_(part)) for part in parts]
            else:
                assert isinstance(one, Volume)
                contents = [(inner.box, open_(inner)) for inner in one.inner]
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
        self._boxes = made.transpose(2, 0, 1).astype(np.float32).copy()
        self._held = np.array(held, dtype=np.intp).ravel()

    def pairs(self, o: Any, d: Any, far: Any) -> tuple[Any, Any]:
        """Numbers of rays and of things whose boxes they meet before ``far``, of shape (n,); directions of length 1."""
        import numpy as np

        starts = self._starts
        found_rays, found = [np.zeros(0, dtype=np.intp)], [np.zeros(0, dtype=np.intp)]
        if starts and o.shape[1]:
            # From where each ray comes near on, so that its numbers are as small as those of the boxes.
            outer = float(np.nanmax(np.abs(self._boxes[:, :starts]), initial=1.0))
            local = o - self._middle[:, None]
            ahead = np.maximum(-(local * d).sum(axis=0) - 2.0 * outer * math.sqrt(3.0), 0.0)
            start = (local + ahead * d).astype(np.float32)
            with np.errstate(divide="ignore", over="ignore"):
                inverse = (1.0 / d).astype(np.float32)
            inverse[~np.isfinite(inverse)] = np.float32(1e30)
            most = np.minimum(far - ahead, 3e38).astype(np.float32) + np.float32(4.0 * self._slack)
            octant = (d[0] < 0.0) | (d[1] < 0.0) << 1 | (d[2] < 0.0) << 2
            for way in range(8):
                alike = np.flatnonzero(octant == way)
                for begin in range(0, len(alike), AT_ONCE):
                    rays = alike[begin : begin + AT_ONCE]
                    self._descend(way, rays, start[:, rays], inverse[:, rays], most[rays], found_rays, found)
        return np.concatenate(found_rays), np.concatenate(found)

    def _descend(
        self, way: int, all_rays: Any, start: Any, inverse: Any, most: Any, found_rays: list[Any], found: list[Any]
    ) -> None:
        """The same for rays of one octant, box by box from the outermost on."""
        import numpy as np

        starts, least = self._starts, -np.float32(self._slack)
        near = [self._boxes[axis + 3 * (way >> axis & 1)] for axis in range(3)]
        far = [self._boxes[axis + 3 * (1 - (way >> axis & 1))] for axis in range(3)]
        rays = np.tile(np.arange(len(all_rays)), starts)
        nodes = np.repeat(np.arange(starts), len(all_rays))
        with np.errstate(invalid="ignore", over="ignore"):
            while len(rays):
                into: Any = least
                out: Any = least
                for axis in range(3):
                    origin, by = start[axis].take(rays)[:, None], inverse[axis].take(rays)[:, None]
                    one, other = near[axis].take(nodes, axis=0), far[axis].take(nodes, axis=0)
                    one -= origin
                    one *= by
                    other -= origin
                    other *= by
                    if axis == 0:
                        into, out = (
                            np.maximum(one, least, out=one),
                            np.minimum(other, most.take(rays)[:, None], out=other),
                        )
                    else:
                        np.maximum(into, one, out=into)
                        np.minimum(out, other, out=out)
                met = np.flatnonzero(into <= out)
                row = met >> 2
                held = self._held.take(nodes.take(row) * WIDE + (met & 3))
                ray = rays.take(row)
                thing = held < 0
                found_rays.append(all_rays[ray[thing]])
                found.append(-1 - held[thing])
                rays, nodes = ray[~thing], held[~thing]
