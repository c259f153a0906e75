"""Alpha masks: a picture decides, texel by texel, where a node can be hit (law H4)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

from glent.core.errors import ShapeError
from glent.core.geometry.affine import Box
from glent.core.geometry.shape import Segments, Shape, _number

if TYPE_CHECKING:
    import numpy as np
    from numpy.typing import ArrayLike, NDArray

    from glent.core.geometry.shape import Floats

__all__ = ["Mask"]


@dataclass(frozen=True, slots=True, init=False)
class Mask(Shape):
    """The texels of a picture whose alpha reaches a threshold, stretched over the node's box.

    Two masks are equal if the same texels are in; the alpha values themselves are not kept.

    :param alpha: array of shape (rows, columns): floats 0–1, or integers 0–255.
    :param threshold: the least alpha, 0–1, that is in.
    :raises ShapeError: an array of another shape, type or range.
    """

    rows: tuple[str, ...]
    """The mask as text, a row a string: ``#`` is in, ``.`` is out."""

    def __init__(self, alpha: ArrayLike, threshold: float = 0.5) -> None:
        import numpy as np

        array = np.asarray(alpha)
        limit = _number(threshold, "the threshold of a mask")
        if array.ndim != 2 or 0 in array.shape:
            raise ShapeError(f"the alpha of a mask has shape {array.shape}, expected (rows, columns)")
        if array.dtype == bool:
            inside = array
        elif np.issubdtype(array.dtype, np.integer):
            inside = array >= limit * 255.0
        elif np.issubdtype(array.dtype, np.floating) and np.isfinite(array).all():
            inside = array >= limit
        else:
            raise ShapeError(f"the alpha of a mask is of type {array.dtype}, expected finite floats or integers")
        object.__setattr__(self, "rows", tuple("".join("#" if texel else "." for texel in row) for row in inside))

    @classmethod
    def from_rows(cls, rows: Sequence[str]) -> Mask:
        """A mask from text: one string a row, ``#`` in and ``.`` out, all of one length."""
        import numpy as np

        for index, row in enumerate(rows):
            if not isinstance(row, str) or set(row) - {"#", "."} or len(row) != len(rows[0]):
                raise ShapeError(f"row {index} of a mask is {row!r}, expected {len(rows[0])} signs, each # or .")
        return cls(np.array([[sign == "#" for sign in row] for row in rows], dtype=bool))

    def contains(self, x: float, y: float, w: float, h: float) -> bool:
        if not (0.0 <= x < w and 0.0 <= y < h):
            return False
        rows = self.rows
        row = rows[min(int(y / h * len(rows)), len(rows) - 1)]
        return row[min(int(x / w * len(row)), len(row) - 1)] == "#"

    def inside(self, x: Floats, y: Floats, w: float, h: float) -> NDArray[np.bool_]:
        import numpy as np

        texels = self.array()
        height, width = texels.shape
        x, y = np.broadcast_arrays(x, y)
        inside = (x >= 0.0) & (x < w) & (y >= 0.0) & (y < h)
        j = np.minimum((y[inside] / h * height).astype(int), height - 1)
        i = np.minimum((x[inside] / w * width).astype(int), width - 1)
        inside[inside] = texels[j, i]
        return inside

    def array(self) -> NDArray[np.bool_]:
        """The texels that are in, shape (rows, columns)."""
        import numpy as np

        return np.array([[sign == "#" for sign in row] for row in self.rows], dtype=bool)

    def bounds(self, w: float, h: float) -> Box | None:
        import numpy as np

        texels = self.array()
        if w <= 0.0 or h <= 0.0 or not texels.any():
            return None
        rows, columns = np.flatnonzero(texels.any(axis=1)), np.flatnonzero(texels.any(axis=0))
        height, width = texels.shape
        return (
            float(columns[0]) / width * w,
            float(rows[0]) / height * h,
            float(columns[-1] + 1) / width * w,
            float(rows[-1] + 1) / height * h,
        )

    def outline(self, w: float, h: float) -> Segments:
        # Every side of a texel with a different neighbour is a piece of the edge.
        import numpy as np

        texels = np.pad(self.array(), 1)
        height, width = texels.shape[0] - 2, texels.shape[1] - 2
        sx, sy = w / width, h / height
        j, i = np.nonzero(texels[1:, :] != texels[:-1, :])
        level = np.stack(((i - 1) * sx, j * sy, i * sx, j * sy), axis=1)
        j, i = np.nonzero(texels[:, 1:] != texels[:, :-1])
        upright = np.stack((i * sx, (j - 1) * sy, i * sx, j * sy), axis=1)
        return np.concatenate((level, upright)).astype(float)
