"""Boxes within boxes, so that a ray is asked of few of many things (a bounding-volume hierarchy).

Every box holds up to four smaller ones. A ray goes through them front to back, nearest first by the way it looks, and
leaves out what lies behind the nearest thing that stops it. A thing that moves makes the boxes around it larger or
smaller, up to the outermost (a refit); what is added goes into the box that grows least by it.

Costs: a ray among n things spread out in space: about log n boxes; a move: the boxes around one thing; a first question
after many changes: all sorted anew, n log n.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Hashable, Mapping
from typing import TYPE_CHECKING, Any, Generic, TypeVar

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

    from glent.core.geometry.world.flat_volumes import FlatVolumes
    from glent.core.geometry.world.vectors import Box3, Vector3

__all__ = ["EMPTY", "NEVER", "WIDE", "Volume", "Volumes", "around"]

T = TypeVar("T", bound=Hashable)

WIDE = 4
"""How many boxes a box holds at the most: with four, the least time was spent on 11,000 things (2 to 8 tried)."""

Way = tuple[float, float, float, float, float, float, Any]
"""The near corner, the far corner, and what is in the box; near and far as seen by rays of one octant."""

MOST_LARGE = 16
"""With more large things than this they are sorted like all others."""

EMPTY = (math.inf, math.inf, math.inf, -math.inf, -math.inf, -math.inf)
NEVER = 1e300


class Volume:
    """A box and what it holds: smaller boxes, or things."""

    __slots__ = ("box", "inner", "things", "up", "ways")

    def __init__(self, up: Volume | None) -> None:
        self.box: Box3 = EMPTY
        self.up = up
        self.inner: list[Volume] = []
        self.things: dict[Any, Box3] | None = None
        self.ways: list[list[Way] | None] = [None] * 8

    def fit(self) -> bool:
        """Be as large as what it holds; whether it has another size now."""
        boxes = list(self.things.values()) if self.things is not None else [one.box for one in self.inner]
        before = self.box
        self.ways = [None] * 8
        self.box = around(boxes) if boxes else EMPTY
        return self.box != before

    def way(self, octant: int) -> list[Way]:
        """What it holds for rays of an octant, nearest last."""
        held: list[tuple[Box3, Any]] = (
            [(box, thing) for thing, box in self.things.items()]
            if self.things is not None
            else [(one.box, one) for one in self.inner]
        )
        back = [bool(octant & 1 << axis) for axis in range(3)]
        made: list[Way] = []
        for box, thing in held:
            near = [box[axis + 3 * back[axis]] for axis in range(3)]
            far = [box[axis + 3 * (not back[axis])] for axis in range(3)]
            made.append((near[0], near[1], near[2], far[0], far[1], far[2], thing))
        if self.things is None:
            made.sort(
                key=lambda one: -sum((-1 if back[axis] else 1) * (one[axis] + one[axis + 3]) for axis in range(3))
            )
        self.ways[octant] = made
        return made


class Volumes(Generic[T]):
    """Things in space, each in a box.

    :param boxes: by thing, the box around it.
    """

    __slots__ = ("_boxes", "_flat", "_homes", "_large", "_loose", "_moves", "_root")

    def __init__(self, boxes: Mapping[T, Box3] | None = None) -> None:
        self._boxes: dict[T, Box3] = dict(boxes) if boxes else {}
        self._loose: dict[T, Box3] = {}
        """Things that were added since the boxes were last sorted."""
        self._large: dict[T, Box3] = {}
        """Things too large to be in a box with others, such as the ground: they are asked first."""
        self._homes: dict[T, Volume] = {}
        self._root: Volume | None = None
        self._moves = 0
        self._flat: FlatVolumes | None = None

    def __len__(self) -> int:
        return len(self._boxes)

    # -- what is in it -----------------------------------------------------------------------------------------------

    def put(self, thing: T, box: Box3) -> None:
        """Add a thing, or give it another box."""
        before = self._boxes.get(thing)
        if before == box:
            return
        self._boxes[thing] = box
        self._flat = None
        home = self._homes.get(thing)
        if home is None:
            (self._large if thing in self._large else self._loose)[thing] = box
            return
        assert home.things is not None
        home.things[thing] = box
        self._moves += 1
        self._refit(home)

    def remove(self, thing: T) -> None:
        """Take a thing out; nothing happens if it is not in."""
        if self._boxes.pop(thing, None) is None:
            return
        self._flat = None
        self._loose.pop(thing, None)
        self._large.pop(thing, None)
        home = self._homes.pop(thing, None)
        if home is not None:
            assert home.things is not None
            del home.things[thing]
            self._refit(home)

    def _refit(self, home: Volume) -> None:
        one: Volume | None = home
        while one is not None and one.fit():
            one = one.up

    def _sorted(self) -> Volume | None:
        """The outermost box, with all that was added put into boxes; all sorted anew if that is most of it."""
        count = len(self._boxes)
        if self._root is None or len(self._loose) > count // 2 or self._moves > 64 + 8 * count:
            self._homes.clear()
            self._large.clear()
            self._moves = 0
            self._root = self._build() if count else None
        else:
            for thing, box in self._loose.items():
                self._insert(thing, box)
        self._loose.clear()
        return self._root

    def _insert(self, thing: T, box: Box3) -> None:
        """Put a thing into the box that grows least by it; one that then holds too many is parted."""
        one = self._root
        assert one is not None
        while one.things is None:
            one = min(one.inner, key=lambda inner: _side(around([inner.box, box])) - _side(inner.box))
        one.things[thing] = box
        self._homes[thing] = one
        if len(one.things) > 2 * WIDE:
            held, one.things = one.things, None
            axis = max(range(3), key=lambda n: one.box[n + 3] - one.box[n])
            order = sorted(held.items(), key=lambda item: item[1][axis] + item[1][axis + 3])
            for part in (order[: len(order) // 2], order[len(order) // 2 :]):
                inner = Volume(one)
                inner.things = dict(part)
                self._homes.update(dict.fromkeys(inner.things, inner))
                inner.fit()
                one.inner.append(inner)
        self._refit(one)

    def _build(self) -> Volume:
        import numpy as np

        things = list(self._boxes)
        boxes = np.array([self._boxes[thing] for thing in things])
        middles = (boxes[:, :3] + boxes[:, 3:]) / 2
        outermost = Volume(None)
        # What is as long as half of all there is would make every box around it as large: it is asked first.
        long = (boxes[:, 3:] - boxes[:, :3]).max(axis=1)
        large = long > 0.5 * (boxes[:, 3:].max(axis=0) - boxes[:, :3].min(axis=0)).max()
        if not 0 < large.sum() <= MOST_LARGE < len(things):
            large[:] = False
        self._large.update((things[n], self._boxes[things[n]]) for n in np.flatnonzero(large).tolist())
        todo = [(outermost, np.flatnonzero(~large))]
        made = []
        while todo:
            one, numbers = todo.pop()
            made.append(one)
            if len(numbers) <= WIDE:
                one.things = {}
                for number in numbers.tolist():
                    one.things[things[number]] = self._boxes[things[number]]
                    self._homes[things[number]] = one
                continue
            groups = [numbers]
            while len(groups) < WIDE:
                groups.sort(key=len)
                large = groups.pop()
                at = middles[large]
                axis = int(np.argmax(np.ptp(at, axis=0)))
                order = large[np.argsort(at[:, axis], kind="stable")]
                groups += [order[: len(order) // 2], order[len(order) // 2 :]]
            for group in groups:
                inner = Volume(one)
                one.inner.append(inner)
                todo.append((inner, group))
        for one in reversed(made):
            one.fit()
        return outermost

    # -- rays --------------------------------------------------------------------------------------------------------

    def along(self, o: Vector3, d: Vector3, far: float, ask: Callable[[T, float], float]) -> None:
        """Ask about each thing whose box a ray meets before ``far``, mostly nearest first.

        :param ask: called with the thing and how far the ray still goes; gives back how far it goes from now on.
        """
        root = self._sorted()
        if root is None:
            return
        ox, oy, oz = o
        dx, dy, dz = d
        # A level ray is as good as one that reaches the side of a box after NEVER.
        ix = 1.0 / dx if dx else NEVER
        iy = 1.0 / dy if dy else NEVER
        iz = 1.0 / dz if dz else NEVER
        for thing, (x0, y0, z0, x1, y1, z1) in self._large.items():
            low = (x0 - ox) * ix, (y0 - oy) * iy, (z0 - oz) * iz
            high = (x1 - ox) * ix, (y1 - oy) * iy, (z1 - oz) * iz
            into, out = max(map(min, low, high)), min(map(max, low, high))
            if into <= out and out >= 0.0 and into <= far:
                far = ask(thing, far)
        octant = (dx < 0.0) | (dy < 0.0) << 1 | (dz < 0.0) << 2
        # Beyond where the ray leaves the outermost box there is nothing.
        box = root.box
        x1, y1, z1 = box[0 if dx < 0.0 else 3], box[1 if dy < 0.0 else 4], box[2 if dz < 0.0 else 5]
        most = min((x1 - ox) * ix, (y1 - oy) * iy, (z1 - oz) * iz)
        end = far if far < most else most
        stack = [(0.0, root)] if end >= 0.0 else []
        push, pop = stack.append, stack.pop
        while stack:
            into, one = pop()
            if into > end:
                continue
            held = one.ways[octant] or one.way(octant)
            inner = one.things is None
            for x0, y0, z0, x1, y1, z1, thing in held:
                # Most boxes are left out by one side; each is looked at only if those before let the ray through.
                into = (x0 - ox) * ix
                if into > end:
                    continue
                out = (x1 - ox) * ix
                if out < 0.0:
                    continue
                near = (z0 - oz) * iz
                if near > into:
                    if near > end:
                        continue
                    into = near
                near = (z1 - oz) * iz
                if near < out:
                    out = near
                if into > out or out < 0.0:
                    continue
                near = (y0 - oy) * iy
                if near > into:
                    into = near
                near = (y1 - oy) * iy
                if near < out:
                    out = near
                if into <= out and out >= 0.0 and into <= end:
                    if inner:
                        push((into, thing))
                    else:
                        far = ask(thing, far)
                        if far < end:
                            end = far

    def within(self, o: Vector3, d: Vector3, far: float, slope: float, by: float, ask: Callable[[T], object]) -> None:
        """Ask about each thing whose box a cone may touch; it may be asked about some that it does not.

        :param slope: how much wider the cone gets per length of ``d``, which is 1. :param by: how wide it begins.
        """
        if not self._boxes:
            return
        root = self._sorted()
        stack: list[Any] = [root] if root is not None else []
        while stack:
            one = stack.pop()
            if _touches(one.box, o, d, far, slope, by):
                if one.things is None:
                    stack.extend(one.inner)
                else:
                    for thing, box in one.things.items():
                        if _touches(box, o, d, far, slope, by):
                            ask(thing)
        for thing, box in self._large.items():
            if _touches(box, o, d, far, slope, by):
                ask(thing)

    def pairs(
        self, o: NDArray[np.float64], d: NDArray[np.float64], far: NDArray[np.float64] | None = None
    ) -> tuple[NDArray[np.intp], list[T] | NDArray[Any]]:
        """Which rays may meet which things: numbers of rays, and the things, of one length.

        :param o: origins, of shape (3, n). :param d: directions. :param far: how far each goes, of shape (n,).
        """
        import numpy as np

        flat = self.flat()
        rays, numbers = flat.pairs(o, d, np.full(o.shape[1], np.inf) if far is None else far)
        return rays, flat.things[numbers]

    def flat(self) -> FlatVolumes:
        """The boxes as arrays, for many rays at once; made when they have changed."""
        if self._flat is None:
            from glent.core.geometry.world.flat_volumes import FlatVolumes

            self._flat = FlatVolumes(self._boxes, self._sorted(), self._large)
        return self._flat


def around(boxes: list[Box3]) -> Box3:
    """The box around boxes."""
    x0, y0, z0, x1, y1, z1 = zip(*boxes, strict=True)
    return min(x0), min(y0), min(z0), max(x1), max(y1), max(z1)


def _side(box: Box3) -> float:
    """Half of the surface of a box."""
    x, y, z = box[3] - box[0], box[4] - box[1], box[5] - box[2]
    return x * y + y * z + z * x if x >= 0.0 else 0.0


def _touches(box: Box3, o: Vector3, d: Vector3, far: float, slope: float, by: float) -> bool:
    """Whether a cone can touch a box: by the ball around the box."""
    if box[0] > box[3]:
        return False
    x, y, z = (box[0] + box[3]) / 2 - o[0], (box[1] + box[4]) / 2 - o[1], (box[2] + box[5]) / 2 - o[2]
    ball = math.sqrt((box[3] - box[0]) ** 2 + (box[4] - box[1]) ** 2 + (box[5] - box[2]) ** 2) / 2
    along = x * d[0] + y * d[1] + z * d[2]
    if along < -ball - by or along - ball > far:
        return False
    aside = math.sqrt(max(0.0, x * x + y * y + z * z - along * along))
    return aside <= ball * (1.0 + slope) + by + slope * max(0.0, along + ball)
