"""The camera: from points of the screen to rays into the world, and back (law X4)."""

from __future__ import annotations

import math

from glent.core.errors import SceneError
from glent.core.geometry.world.pose import Pose
from glent.core.geometry.world.ray import Ray
from glent.core.geometry.world.vectors import FARTHEST, Vector3, add, checked, dot, minus, times, unit

__all__ = ["Camera"]

View = tuple[float, float, float, float]
"""Left, top, width and height of what a camera fills, in window pixels."""


class Camera:
    """A camera that looks at the world: perspective with ``fov``, or orthographic with ``height``.

    A value: set another as ``scene.camera`` or ``seat.camera`` whenever it moves; hover follows at the next settle.

    :param eye: where it is, world space, metres.
    :param target: a point that it looks at, which comes to lie in the middle of its view.
    :param up: what is up for it; None: the world's up, or, looking straight up or down, as with :class:`Pose`.
    :param fov: how much it sees from top to bottom, degrees between 0 and 180.
    :param height: orthographic: how much it sees from top to bottom, metres.
    :param near: nothing nearer than this, along its way of looking, can be pointed at; metres.
    :param far: nor farther than this; None: without end.
    :raises SceneError: a number is not finite or out of its range, ``target`` is at ``eye``, ``up`` is along the way
        of looking, or both or neither of ``fov`` and ``height`` are given.
    """

    __slots__ = ("_across", "_ahead", "_up", "eye", "far", "fov", "height", "near", "target", "up")

    def __init__(
        self,
        eye: Vector3,
        target: Vector3,
        up: Vector3 | None = None,
        fov: float | None = None,
        height: float | None = None,
        near: float = 0.0,
        far: float | None = None,
        where: str = "Camera",
    ) -> None:
        self.eye = checked(eye, f"{where}: eye", SceneError)
        self.target = checked(target, f"{where}: target", SceneError)
        ahead = unit(minus(self.target, self.eye))
        if ahead is None:
            raise SceneError(f"{where}: target is {target!r}, which is at the eye; expected a point to look at")
        if (fov is None) is (height is None):
            raise SceneError(f"{where}: fov is {fov!r} and height is {height!r}, expected just one of them")
        if fov is not None:
            _within(fov, "fov", 1e-3, 179.999, "degrees between 0 and 180", where)
        if height is not None:
            _within(height, "height", 1e-9, FARTHEST, "metres above zero", where)
        _within(near, "near", 0.0, FARTHEST, "metres, at least 0", where)
        if far is not None:
            _within(far, "far", near + 1e-9, FARTHEST, "None or metres beyond near", where)
        self.up = up
        self.fov, self.height, self.near, self.far = fov, height, float(near), far
        pose = Pose(self.eye, (-ahead[0], -ahead[1], -ahead[2]), up, where=where)
        self._across, self._up, self._ahead = pose.right, pose.up, ahead

    @property
    def ahead(self) -> Vector3:
        """The direction it looks in, of length 1."""
        return self._ahead

    def _half(self) -> float:
        """Half the height of what it sees: metres, or metres at one metre away."""
        return math.tan(math.radians(self.fov) / 2) if self.fov is not None else (self.height or 0.0) / 2

    def ray(self, x: float, y: float, view: View) -> Ray:
        """The ray of a point of the screen: through what is seen there, from ``near`` on.

        :param view: what it fills on the window: left, top, width, height, pixels.
        """
        left, top, width, height = view
        half = self._half()
        per = half / (height / 2)
        dx, dy = (x - left - width / 2) * per, (top + height / 2 - y) * per
        aside = add(times(self._across, dx), times(self._up, dy))
        if self.fov is not None:
            way = add(self._ahead, aside)
            origin = add(self.eye, times(way, self.near))
            stretch = math.sqrt(1.0 + dx * dx + dy * dy)
        else:
            way, stretch = self._ahead, 1.0
            origin = add(add(self.eye, aside), times(way, self.near))
        ray = Ray.__new__(Ray)  # all its numbers are known to be fine, and this is asked for every move
        ray.origin = origin
        ray.direction = (way[0] / stretch, way[1] / stretch, way[2] / stretch)
        ray.length = math.inf if self.far is None else (self.far - self.near) * stretch
        return ray

    def project(self, point: Vector3, view: View) -> tuple[float, float] | None:
        """The point of the screen where a point of the world is seen, window pixels; None if it is behind ``near`` or
        the eye.

        :param view: as for :meth:`ray`.
        """
        left, top, width, height = view
        away = minus(point, self.eye)
        depth = dot(away, self._ahead)
        if depth < self.near or (self.fov is not None and depth <= 0.0):
            return None
        per = height / 2 / self._half()
        if self.fov is not None:
            per /= depth
        return left + width / 2 + dot(away, self._across) * per, top + height / 2 - dot(away, self._up) * per

    def pixels_a_degree(self, view: View) -> float:
        """The number of window pixels to a degree in the middle of the view; 0 for an orthographic camera."""
        if self.fov is None:
            return 0.0
        return view[3] / 2 / self._half() * math.radians(1.0)

    def __eq__(self, other: object) -> bool:
        if not isinstance(other, Camera):
            return NotImplemented
        return all(getattr(self, name) == getattr(other, name) for name in Camera.__slots__)

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        eye, target = (", ".join(f"{one:g}" for one in part) for part in (self.eye, self.target))
        how = f"fov {self.fov:g}°" if self.fov is not None else f"height {self.height:g} m"
        return f"<Camera at ({eye}) looking at ({target}), {how}>"


def _within(value: object, key: str, minimum: float, maximum: float, expected: str, where: str) -> None:
    if isinstance(value, bool) or not isinstance(value, int | float) or not minimum <= value <= maximum:
        raise SceneError(f"{where}: {key} is {value!r}, expected {expected}")
