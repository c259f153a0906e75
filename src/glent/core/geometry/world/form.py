"""Forms: what a spot of the world is made of; the base of all, and the simple ones (law X5).

A form has a space of its own: metres, right-handed, y up; the spot's pose puts it into the world. Rays meet its
surface from either side, also from within. Numbers are checked when a spot is made of the form, or when it is first
asked something, so that the error can name the spot.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Any, ClassVar

from glent.core.errors import ShapeError
from glent.core.geometry.world.vectors import FARTHEST, Box3, Vector3, checked, dot

if TYPE_CHECKING:
    from collections.abc import Sequence

    import numpy as np
    from numpy.typing import NDArray

    Floats = NDArray[np.float64]

__all__ = ["Cuboid", "Form", "Meeting", "Rectangle", "SnapPoint", "Sphere"]

Meeting = tuple[float, Vector3]
"""How far along the ray, and what stands square on the surface there, in the form's space."""

MINIMUM = 1e-9


class Form:
    """A surface that rays can meet.

    :param snap: the point in its space that things put down on it snap to, such as the top of a crate; None: none.

    :cvar kind: what files call it. :ivar snap_at: that point, as it was given.
    """

    kind: ClassVar[str] = "form"

    __slots__ = ("_prepared", "_snap", "snap_at")

    def __init__(self, snap: Any = None) -> None:
        self.snap_at = snap
        self._prepared = False
        self._snap: Vector3 | None = None

    def prepare(self, where: str = "") -> None:
        """Check what it was made of. It is called when a spot is made, or at the first question.

        :raises ShapeError: it cannot be made of that; the message names ``where``, the value and what was expected.
        """
        if self._prepared:
            return
        try:
            self._prepare()
            self._snap = self._prepare_snap()
        except ShapeError as error:
            raise ShapeError(f"{where}: {error}" if where else str(error)) from None
        self._prepared = True

    def _prepare(self) -> None:
        raise NotImplementedError

    def _prepare_snap(self) -> Vector3 | None:
        if self.snap_at is None:
            return None
        return checked(self.snap_at, f"{type(self).__name__}: snap", ShapeError)

    @property
    def snap(self) -> Vector3 | None:
        """The point in its space that things put down on it snap to, or None."""
        return self._snap

    def bounds(self) -> Box3:
        """The box around it."""
        raise NotImplementedError

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        """The first point where a ray meets it, no farther than ``far`` times ``d``; None if there is none."""
        raise NotImplementedError

    @classmethod
    def _columns(cls, forms: Sequence[Any]) -> Any:
        """Arrays of forms of this class for :meth:`_many`: by default their :meth:`numbers`, side by side."""
        import numpy as np

        return np.array([form.numbers() for form in forms]).T

    def numbers(self) -> tuple[float, ...]:
        """Its measures."""
        raise NotImplementedError

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        """:meth:`meet` for many rays, each with a form of its own.

        :param columns: what :meth:`_columns` made of the forms. :param which: the form of each ray, of shape (n,).
        :param o: origins in the space of that form, of shape (3, n). :param d: directions.
        :return: how far, of shape (n,), infinite where it is not met, and the normals, of shape (3, n).
        """
        raise NotImplementedError

    def edges(self) -> Floats:
        """Segments, of shape (n, 2, 3), whose nearest point is the nearest of the form to a ray that misses it."""
        raise NotImplementedError

    def ball(self) -> tuple[Vector3, float] | None:
        """Centre and radius, if it is round and has no edges."""
        return None


class Sphere(Form):
    """A ball around its origin.

    :param radius: metres. :param snap: see :class:`Form`.
    """

    kind = "sphere"

    __slots__ = ("radius",)

    def __init__(self, radius: float, snap: Vector3 | None = None) -> None:
        super().__init__(snap)
        self.radius = radius

    def _prepare(self) -> None:
        self.radius = checked_length(self.radius, f"{type(self).__name__}: radius")

    def bounds(self) -> Box3:
        r = self.radius
        return -r, -r, -r, r, r, r

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        x, y, z = o
        dx, dy, dz = d
        a = dx * dx + dy * dy + dz * dz
        b = x * dx + y * dy + z * dz
        cx, cy, cz = y * dz - z * dy, z * dx - x * dz, x * dy - y * dx
        r2 = self.radius * self.radius
        # By how far it passes the centre: b² - ac loses too much where the ball is small and far.
        discriminant = a * r2 - (cx * cx + cy * cy + cz * cz)
        if discriminant < 0.0:
            return None
        root = math.sqrt(discriminant)
        q = -b - root if b > 0.0 else root - b
        if q == 0.0:
            return None
        t, other = q / a, (x * x + y * y + z * z - r2) / q
        if t > other:
            t, other = other, t
        if t < 0.0:
            t = other
        if not 0.0 <= t <= far:
            return None
        r = self.radius
        return t, ((x + t * dx) / r, (y + t * dy) / r, (z + t * dz) / r)

    def numbers(self) -> tuple[float, ...]:
        return (self.radius,)

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        radius = columns[0][which]
        a, b = (d * d).sum(axis=0), (o * d).sum(axis=0)
        cross = np.cross(o, d, axis=0)
        r2 = radius * radius
        discriminant = a * r2 - (cross * cross).sum(axis=0)
        with np.errstate(divide="ignore", invalid="ignore"):
            root = np.sqrt(discriminant)
            q = np.where(b > 0.0, -b - root, root - b)
            one, other = q / a, ((o * o).sum(axis=0) - r2) / q
            near, late = np.minimum(one, other), np.maximum(one, other)
            t = np.where(near < 0.0, late, near)
            t = np.where(t >= 0.0, t, np.inf)
            return t, (o + t * d) / radius

    def edges(self) -> Floats:
        import numpy as np

        return np.zeros((0, 2, 3))

    def ball(self) -> tuple[Vector3, float] | None:
        return (0.0, 0.0, 0.0), self.radius


class SnapPoint(Sphere):
    """A point that things snap to, and the ball around it that it is caught in.

    :param radius: of that ball, metres.
    """

    kind = "snap"

    __slots__ = ()

    def __init__(self, radius: float) -> None:
        super().__init__(radius, (0.0, 0.0, 0.0))


class Cuboid(Form):
    """A box around its origin.

    :param size: along x, y and z, metres. :param snap: see :class:`Form`.
    """

    kind = "cuboid"

    __slots__ = ("_half", "size")

    def __init__(self, size: Vector3, snap: Vector3 | None = None) -> None:
        super().__init__(snap)
        self.size = size

    def _prepare(self) -> None:
        size = checked(self.size, "Cuboid: size", ShapeError)
        for length in size:
            checked_length(length, "Cuboid: size")
        self.size = size
        self._half = size[0] / 2, size[1] / 2, size[2] / 2

    def bounds(self) -> Box3:
        x, y, z = self._half
        return -x, -y, -z, x, y, z

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        into, out = -math.inf, math.inf
        axis_in = axis_out = 0
        for axis, half in enumerate(self._half):
            start, way = o[axis], d[axis]
            if way == 0.0:
                if not -half <= start <= half:
                    return None
                continue
            one, other = (-half - start) / way, (half - start) / way
            if one > other:
                one, other = other, one
            if one > into:
                into, axis_in = one, axis
            if other < out:
                out, axis_out = other, axis
        if into > out or out < 0.0:
            return None
        t, axis = (into, axis_in) if into >= 0.0 else (out, axis_out)
        if t > far:
            return None
        sign = 1.0 if o[axis] + t * d[axis] > 0.0 else -1.0
        return t, (sign * (axis == 0), sign * (axis == 1), sign * (axis == 2))

    def numbers(self) -> tuple[float, ...]:
        return self._half

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        half = columns[:, which]
        with np.errstate(divide="ignore", invalid="ignore"):
            one, other = (-half - o) / d, (half - o) / d
        level = d == 0.0
        beside = level & (np.abs(o) > half)
        low = np.where(level, -np.inf, np.minimum(one, other))
        high = np.where(level, np.inf, np.maximum(one, other))
        axis_in, axis_out = low.argmax(axis=0), high.argmin(axis=0)
        into, out = low.max(axis=0), high.min(axis=0)
        fine = (into <= out) & (out >= 0.0) & ~beside.any(axis=0)
        first = into >= 0.0
        t = np.where(fine, np.where(first, into, out), np.inf)
        axis = np.where(first, axis_in, axis_out)
        each = np.arange(len(axis))
        normals = np.zeros_like(o)
        with np.errstate(invalid="ignore"):
            normals[axis, each] = np.where(o[axis, each] + t * d[axis, each] > 0.0, 1.0, -1.0)
        return t, normals

    def edges(self) -> Floats:
        import numpy as np

        corners = np.array([[(n >> axis & 1) * 2 - 1 for axis in range(3)] for n in range(8)]) * np.array(self._half)
        pairs = [(n, n | 1 << axis) for n in range(8) for axis in range(3) if not n >> axis & 1]
        made: Floats = corners[np.array(pairs)]
        return made


class Rectangle(Form):
    """A flat rectangle around its origin, which faces along z.

    :param width: along x, metres. :param height: along y, metres. :param snap: see :class:`Form`.
    """

    kind = "rectangle"

    __slots__ = ("height", "width")

    def __init__(self, width: float, height: float, snap: Vector3 | None = None) -> None:
        super().__init__(snap)
        self.width = width
        self.height = height

    def _prepare(self) -> None:
        self.width = checked_length(self.width, "Rectangle: width")
        self.height = checked_length(self.height, "Rectangle: height")

    def bounds(self) -> Box3:
        return -self.width / 2, -self.height / 2, 0.0, self.width / 2, self.height / 2, 0.0

    def meet(self, o: Vector3, d: Vector3, far: float) -> Meeting | None:
        if d[2] == 0.0:
            return None
        t = -o[2] / d[2]
        if not 0.0 <= t <= far:
            return None
        if abs(o[0] + t * d[0]) > self.width / 2 or abs(o[1] + t * d[1]) > self.height / 2:
            return None
        return t, (0.0, 0.0, 1.0)

    def numbers(self) -> tuple[float, ...]:
        return self.width / 2, self.height / 2

    @classmethod
    def _many(cls, columns: Any, which: Any, o: Floats, d: Floats) -> tuple[Floats, Floats]:
        import numpy as np

        x, y = columns[:, which]
        with np.errstate(divide="ignore", invalid="ignore"):
            t = -o[2] / d[2]
            inside = (t >= 0.0) & (np.abs(o[0] + t * d[0]) <= x) & (np.abs(o[1] + t * d[1]) <= y)
        normals = np.zeros_like(o)
        normals[2] = 1.0
        return np.where(inside, t, np.inf), normals

    def edges(self) -> Floats:
        import numpy as np

        x, y = self.width / 2, self.height / 2
        corners = np.array([(-x, -y, 0.0), (x, -y, 0.0), (x, y, 0.0), (-x, y, 0.0)])
        return np.stack([corners, np.roll(corners, -1, axis=0)], axis=1)


def checked_length(value: object, what: str) -> float:
    """Check a length in metres.

    :raises ShapeError: it is no finite number above zero.
    """
    if isinstance(value, bool) or not isinstance(value, int | float) or not MINIMUM <= value <= FARTHEST:
        raise ShapeError(f"{what} is {value!r}, expected metres above zero")
    return float(value)


def facing(normal: Vector3, d: Vector3) -> Vector3:
    """A normal, turned to the side that a ray comes from."""
    return normal if dot(normal, d) <= 0.0 else (-normal[0], -normal[1], -normal[2])
