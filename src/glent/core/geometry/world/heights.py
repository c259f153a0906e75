"""Rough ground: heights over a grid, each cell two triangles."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import TYPE_CHECKING, Any

from glent.core.arguments import is_number, listed
from glent.core.errors import ShapeError
from glent.core.geometry.world.form import checked_length
from glent.core.geometry.world.vectors import FARTHEST, Vector3

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import NDArray

__all__ = ["HeightField"]


class HeightField:
    """Heights over a level grid. Each cell is two triangles, parted from its lowest x, z to the opposite corner.

    :param values: heights in metres, of shape (rows, columns) and at least (2, 2): rows go along z, columns along x.
    :param step: from one value to the next, along x and z, metres.
    :param origin: x and z of the first value.
    :raises ShapeError: a value is not finite, or there are too few.
    """

    __slots__ = ("_lows", "_rows", "_tops", "columns", "origin", "rows", "step", "values")

    def __init__(self, values: Any, step: float, origin: tuple[float, float] = (0.0, 0.0)) -> None:
        import numpy as np

        try:
            grid = np.array(values, dtype=float)
        except (TypeError, ValueError, OverflowError):
            raise ShapeError(
                "HeightField: values is not a grid of numbers, expected one of shape (rows, columns)"
            ) from None
        if grid.ndim != 2 or min(grid.shape) < 2:
            raise ShapeError(
                f"HeightField: values has the shape {grid.shape}, expected (rows, columns), each at least 2"
            )
        bad = np.argwhere(~(np.abs(grid) <= FARTHEST))
        if len(bad):
            row, column = map(int, bad[0])
            raise ShapeError(f"HeightField: values[{row}, {column}] is {grid[row, column]}, expected finite numbers")
        self.step = checked_length(step, "HeightField: step")
        given = listed(origin)
        if given is None or len(given) != 2 or not all(is_number(one) and abs(one) <= FARTHEST for one in given):
            raise ShapeError(f"HeightField: origin is {origin!r}, expected x and z of the first value, metres")
        self.origin = float(origin[0]), float(origin[1])
        grid.flags.writeable = False
        self.values: NDArray[np.float64] = grid
        self.rows: int = grid.shape[0]
        self.columns: int = grid.shape[1]
        self._rows: list[list[float]] = grid.tolist()
        corners = np.stack([grid[:-1, :-1], grid[1:, :-1], grid[:-1, 1:], grid[1:, 1:]])
        self._lows: list[list[float]] = corners.min(axis=0).tolist()
        self._tops: list[list[float]] = corners.max(axis=0).tolist()

    def at(self, x: float, z: float) -> float:
        """The height at a point; beyond the grid, that of its edge."""
        u = min(max((x - self.origin[0]) / self.step, 0.0), self.columns - 1.0)
        v = min(max((z - self.origin[1]) / self.step, 0.0), self.rows - 1.0)
        column, row = min(int(u), self.columns - 2), min(int(v), self.rows - 2)
        u, v = u - column, v - row
        first, second = self._rows[row], self._rows[row + 1]
        a, c = first[column], second[column + 1]
        side = second[column] if v > u else first[column + 1]
        first_way, second_way = (v, u) if v > u else (u, v)
        return a + first_way * (side - a) + second_way * (c - side)

    def range_over(self, box: tuple[float, float, float, float]) -> tuple[float, float]:
        """The lowest and the highest height of the cells that a box touches: lowest x, z, highest x, z."""
        columns = [self._cell(x, 0, self.columns) for x in (box[0], box[2])]
        rows = [self._cell(z, 1, self.rows) for z in (box[1], box[3])]
        part = self.values[rows[0] : rows[1] + 2, columns[0] : columns[1] + 2]
        return float(part.min()), float(part.max())

    def _cell(self, where: float, axis: int, count: int) -> int:
        return min(max(math.floor((where - self.origin[axis]) / self.step), 0), count - 2)

    def meetings(self, o: Vector3, d: Vector3, far: float) -> Iterator[tuple[float, Vector3]]:
        """The points where a ray comes through the ground, nearest first: how far, and the normal there, upwards.

        The ray is followed from cell to cell. Cost: the cells on its way, most of them one comparison.
        """
        (ox, oy, oz), (dx, dy, dz) = o, d
        step, (x0, z0) = self.step, self.origin
        wide, deep = self.columns - 1, self.rows - 1
        u, v = (ox - x0) / step, (oz - z0) / step
        du, dv = dx / step, dz / step
        into, out = 0.0, far
        for start, way, maximum in ((u, du, wide), (v, dv, deep)):
            if way == 0.0:
                if not 0.0 <= start <= maximum:
                    return
                continue
            one, other = -start / way, (maximum - start) / way
            into, out = max(into, min(one, other)), min(out, max(one, other))
        if into > out:
            return
        column = min(max(math.floor(u + into * du), 0), wide - 1)
        row = min(max(math.floor(v + into * dv), 0), deep - 1)
        next_u = ((column + (du > 0.0)) - u) / du if du else math.inf
        next_v = ((row + (dv > 0.0)) - v) / dv if dv else math.inf
        t = into
        last = -1.0
        while t <= out:
            until = min(next_u, next_v, out)
            y, y1 = oy + t * dy, oy + until * dy
            if y > y1:
                y, y1 = y1, y
            slack = 1e-9 * (1.0 + abs(y) + abs(y1))
            if self._lows[row][column] - slack <= y1 and y <= self._tops[row][column] + slack:
                for meeting in self._in_cell(row, column, o, d, far):
                    if meeting[0] > last:  # an edge of two triangles is met once
                        last = meeting[0]
                        yield meeting
            if next_u <= next_v:
                column += 1 if du > 0.0 else -1
                if not 0 <= column < wide or du == 0.0:
                    return
                t, next_u = next_u, next_u + 1.0 / abs(du)
            else:
                row += 1 if dv > 0.0 else -1
                if not 0 <= row < deep or dv == 0.0:
                    return
                t, next_v = next_v, next_v + 1.0 / abs(dv)

    def _in_cell(self, row: int, column: int, o: Vector3, d: Vector3, far: float) -> list[tuple[float, Vector3]]:
        step = self.step
        u0 = self.origin[0] + column * step
        v0 = self.origin[1] + row * step
        a, b = self._rows[row][column], self._rows[row][column + 1]
        e, c = self._rows[row + 1][column], self._rows[row + 1][column + 1]
        found = []
        # The triangle at the side of greater x, then that of greater z: y = a + gx·(x - u0) + gz·(z - v0).
        for gx, gz, beyond in (((b - a) / step, (c - b) / step, False), ((c - e) / step, (e - a) / step, True)):
            falls = d[1] - gx * d[0] - gz * d[2]
            if falls == 0.0:
                continue
            t = (a + gx * (o[0] - u0) + gz * (o[2] - v0) - o[1]) / falls
            if not 0.0 <= t <= far:
                continue
            x, z = o[0] + t * d[0] - u0, o[2] + t * d[2] - v0
            slack = 1e-9 * step
            if -slack <= x <= step + slack and -slack <= z <= step + slack and (z >= x if beyond else z <= x):
                long = math.sqrt(1.0 + gx * gx + gz * gz)
                found.append((t, (-gx / long, 1.0 / long, -gz / long)))
        found.sort()
        return found

    def triangles(self) -> tuple[NDArray[np.float64], NDArray[np.intp]]:
        """Vertices, of shape (n, 3), and triangles, of shape (m, 3), of the ground as a mesh."""
        import numpy as np

        z, x = np.mgrid[: self.rows, : self.columns]
        vertices = np.stack(
            [self.origin[0] + x * self.step, self.values, self.origin[1] + z * self.step], axis=-1
        ).reshape(-1, 3)
        first = (z[:-1, :-1] * self.columns + x[:-1, :-1]).ravel()
        right, below = first + 1, first + self.columns
        across = below + 1
        # Counter-clockwise seen from above, so that normals point up.
        return vertices, np.concatenate([np.stack([first, across, right], 1), np.stack([first, below, across], 1)])
