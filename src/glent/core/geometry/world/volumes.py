"""Boxes within boxes, so that a ray is asked of few of many things (a bounding-volume hierarchy).

Every box is parted in two, across the axis along which its things lie apart, by how far those of the lower half reach
up and those of the upper half reach down: two numbers, which a ray is compared with, rather than with all six sides of
both halves. A ray goes through them front to back, and leaves out what lies behind the nearest thing that stops it.
A thing that moves changes the numbers of the boxes around it, up to the outermost (a refit); what is added goes into
the box that grows least by it. Things as long as half of all there is are kept apart and asked first: the ground.

Costs: a ray among n things spread out in space: about log n comparisons; a move: the boxes around one thing; a first
question after most of it is new: all sorted anew, n log n.
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

__all__ = ["EMPTY", "Volume", "Volumes", "around"]

T = TypeVar("T", bound=Hashable)

FEW = 4
"""How many things a box holds before it is parted: with four, the least time was spent on 11,000 (2 to 8 tried)."""

MOST_LARGE = 16
"""With more large things than this they are sorted like all others."""

EMPTY = (math.inf, math.inf, math.inf, -math.inf, -math.inf, -math.inf)
NEVER = 1e300


class Volume:
    """A box, and what it holds: two smaller boxes, or things.

    :ivar row: what a ray wants to know of it: of two boxes ``[axis, upper end of the first, lower end of the second,
        row of the first, row of the second]``, of things ``[None, [(*box, thing), …]]``. Changed in place.
    """

    __slots__ = ("box", "parts", "row", "things", "up")

    def __init__(self, up: Volume | None) -> None:
        self.box: Box3 = EMPTY
        self.up = up
        self.parts: tuple[Volume, Volume] | None = None
        self.things: dict[Any, Box3] | None = None
        self.row: list[Any] = [None, []]

    def fit(self) -> bool:
        """Fit the box to what it holds. Return whether its size has changed."""
        before = self.box
        if self.parts is None:
            things = self.things or {}
            self.box = around(list(things.values())) if things else EMPTY
            self.row[:] = (None, [(*box, thing) for thing, box in things.items()])
        else:
            one, other = self.parts
            self.box = around([one.box, other.box])
            axis = self.row[0]
            self.row[1], self.row[2] = one.box[axis + 3], other.box[axis]
        return self.box != before

    def part(self, axis: int, one: Volume, other: Volume) -> None:
        """Hold two boxes from now on, the first lower along an axis than the second."""
        self.parts, self.things = (one, other), None
        self.row[:] = (axis, 0.0, 0.0, one.row, other.row)


class Volumes(Generic[T]):
    """Things in space, each in a box.

    :param boxes: by thing, the box around it.
    """

    __slots__ = ("_boxes", "_flat", "_homes", "_large", "_loose", "_moves", "_root")

    def __init__(self, boxes: Mapping[T, Box3] | None = None) -> None:
        self._boxes: dict[T, Box3] = dict(boxes) if boxes else {}
        self._loose: dict[T, Box3] = {}
        """Things that were added since the last question."""
        self._large: dict[T, Box3] = {}
        """Things too large to be in a box with others: they are asked first."""
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
        while one.parts is not None:
            one = min(one.parts, key=lambda part: _side(around([part.box, box])) - _side(part.box))
        assert one.things is not None
        one.things[thing] = box
        self._homes[thing] = one
        if len(one.things) > 2 * FEW:
            held = one.things
            axis = max(range(3), key=lambda n: one.box[n + 3] - one.box[n])
            order = sorted(held.items(), key=lambda item: item[1][axis] + item[1][axis + 3])
            halves = []
            for half in (order[: len(order) // 2], order[len(order) // 2 :]):
                part = Volume(one)
                part.things = dict(half)
                self._homes.update(dict.fromkeys(part.things, part))
                part.fit()
                halves.append(part)
            one.part(axis, halves[0], halves[1])
        self._refit(one)

    def _build(self) -> Volume:
        import numpy as np

        things = list(self._boxes)
        boxes = np.array([self._boxes[thing] for thing in things])
        for thing, row in zip(things, boxes.tolist(), strict=True):
            self._boxes[thing] = (row[0], row[1], row[2], row[3], row[4], row[5])  # new numbers lie side by side
        outermost = Volume(None)
        # What is as long as half of all there is would make every box around it as large.
        long = (boxes[:, 3:] - boxes[:, :3]).max(axis=1)
        large = long > 0.5 * (boxes[:, 3:].max(axis=0) - boxes[:, :3].min(axis=0)).max()
        if not 0 < large.sum() <= MOST_LARGE < len(things):
            large[:] = False
        self._large.update((things[n], self._boxes[things[n]]) for n in np.flatnonzero(large).tolist())
        middles = boxes[:, :3] + boxes[:, 3:]
        todo = [(outermost, np.flatnonzero(~large))]
        made = []
        while todo:
            one, numbers = todo.pop()
            made.append(one)
            if len(numbers) <= FEW:
                one.things = {things[number]: self._boxes[things[number]] for number in numbers.tolist()}
                self._homes.update(dict.fromkeys(one.things, one))
                continue
            axis, order, at = _parted(boxes, middles, numbers)
            lower, upper = Volume(one), Volume(one)
            one.part(axis, lower, upper)
            todo += [(lower, order[:at]), (upper, order[at:])]
        for one in reversed(made):
            one.fit()
        return outermost

    # -- rays --------------------------------------------------------------------------------------------------------

    # One long function on purpose: to ask a leaf's boxes by a call of its own costs 2.6 % of a ray, measured in turn.
    def along(self, o: Vector3, d: Vector3, far: float, ask: Callable[[T, float], float]) -> None:  # noqa: C901
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
        back_x, back_y, back_z = dx < 0.0, dy < 0.0, dz < 0.0
        ways = ((ox, ix, back_x), (oy, iy, back_y), (oz, iz, back_z))
        # Where a box keeps the side that the ray comes to first, and the one it leaves by.
        nx, ny, nz = 3 * back_x, 1 + 3 * back_y, 2 + 3 * back_z
        fx, fy, fz = 3 - nx, 5 - ny, 7 - nz
        box: Any
        for thing, box in self._large.items():
            into = max((box[nx] - ox) * ix, (box[ny] - oy) * iy, (box[nz] - oz) * iz)
            out = min((box[fx] - ox) * ix, (box[fy] - oy) * iy, (box[fz] - oz) * iz)
            if into <= out and out >= 0.0 and into <= far:
                far = ask(thing, far)
        box = root.box
        # From where to where the ray is in the box at hand.
        begin = max((box[nx] - ox) * ix, (box[ny] - oy) * iy, (box[nz] - oz) * iz, 0.0)
        end = min((box[fx] - ox) * ix, (box[fy] - oy) * iy, (box[fz] - oz) * iz, far)
        if not begin <= end:
            return
        row = root.row
        later: list[tuple[list[Any], float, float]] = []
        while True:
            axis = row[0]
            if axis is not None:
                start, by, back = ways[axis]
                if back:
                    _, above, below, second, first = row
                else:
                    _, below, above, first, second = row
                until, after = (below - start) * by, (above - start) * by
                if until >= begin:  # it comes through the nearer one
                    if after <= end:
                        later.append((second, after if after > begin else begin, end))
                    row = first
                    if until < end:
                        end = until
                    continue
                if after <= end:
                    row = second
                    if after > begin:
                        begin = after
                    continue
            else:
                for box in row[1]:
                    # Most are left out by one side; each is looked at only if those before let the ray through.
                    into = (box[nx] - ox) * ix
                    if into > far:
                        continue
                    out = (box[fx] - ox) * ix
                    if out < 0.0:
                        continue
                    near = (box[nz] - oz) * iz
                    if near > into:
                        into = near
                    near = (box[fz] - oz) * iz
                    if near < out:
                        out = near
                    if into > out or out < 0.0:
                        continue
                    near = (box[ny] - oy) * iy
                    if near > into:
                        into = near
                    near = (box[fy] - oy) * iy
                    if near < out:
                        out = near
                    if into <= out and out >= 0.0 and into <= far:
                        far = ask(box[6], far)
            while later:
                row, begin, end = later.pop()
                if begin <= far:
                    if far < end:
                        end = far
                    break
            else:
                return

    def within(self, o: Vector3, d: Vector3, far: float, slope: float, by: float, ask: Callable[[T], object]) -> None:
        """Ask about each thing whose box a cone may touch; it may be asked about some that it does not.

        :param slope: how much wider the cone gets per length of ``d``, which is 1. :param by: how wide it begins.
        """
        if not self._boxes:
            return
        root = self._sorted()
        stack: list[Volume] = [root] if root is not None else []
        while stack:
            one = stack.pop()
            if _touches(one.box, o, d, far, slope, by):
                if one.parts is not None:
                    stack.extend(one.parts)
                for thing, box in (one.things or {}).items():
                    if _touches(box, o, d, far, slope, by):
                        ask(thing)
        for thing, box in self._large.items():
            if _touches(box, o, d, far, slope, by):
                ask(thing)

    def pairs(
        self, o: NDArray[np.float64], d: NDArray[np.float64], far: NDArray[np.float64] | None = None
    ) -> tuple[NDArray[np.intp], Any]:
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


def _parted(boxes: Any, middles: Any, numbers: Any) -> tuple[int, Any, int]:
    """Across which axis, in what order and where to part things: so that the surfaces of both parts, each times how
    many it holds, come to least. The likelier a box is met, the fewer things it should hold."""
    import numpy as np

    best: tuple[float, int, Any, int] | None = None
    count = np.arange(1, len(numbers))
    for axis in range(3):
        order = numbers[np.argsort(middles[numbers, axis], kind="stable")]
        held = boxes[order]
        costs = []
        for row in (held[:-1], held[:0:-1]):
            x, y, z = (np.maximum.accumulate(row[:, 3:]) - np.minimum.accumulate(row[:, :3])).T
            costs.append((x * y + y * z + z * x) * count)
        cost = costs[0] + costs[1][::-1]
        minimum, middle = int(cost.argmin()), len(numbers) // 2 - 1
        if cost[minimum] >= 0.98 * cost[middle]:
            minimum = middle  # no better than in the middle, where both parts are as deep
        if best is None or cost[minimum] < best[0]:
            best = float(cost[minimum]), axis, order, minimum + 1
    assert best is not None
    return best[1:]


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
