"""Place: where a node sits in its parent, in CSS words."""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Any

from glent.core.errors import PlaceError
from glent.core.geometry.affine import Affine, compose, turned

__all__ = ["FIT", "LIMIT", "Length", "Place", "limited", "resolved"]

Length = float | str | tuple[float, float]
"""Logical pixels as a number; or CSS-like text: ``"50%"``, ``"12px"``, ``"50% - 60"``, ``"100% - 2px + 5%"``; or what
such a text comes to: a pair of a part of the parent, from 0 to 1, and pixels to add, ``(0.5, -60)``."""

LIMIT = 1e9
"""No length may be larger: beyond it a float no longer tells neighbouring pixels apart well enough for H2."""

FIT = "fit-content"
"""As ``width`` or ``height``: as large as its content (law L2)."""

_NUMBER = r"(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?"
_TERM = re.compile(rf"\s*([+-]?)\s*({_NUMBER})\s*(%|px)?\s*")
_SIDES = ("left", "top", "right", "bottom", "width", "height")
_MIDDLE = (0.5, 0.5)
_LIMITS = ("min_width", "max_width", "min_height", "max_height")
_KEYS = (*_SIDES, "turn", "scale", "pivot", *_LIMITS, "grow")

LEAST_SCALE = 1e-6
"""No scale but 0 makes anything smaller, nor as much larger."""

_BOX = frozenset(_SIDES)
_NUMBERS = {int, float}

_Linear = tuple[float, float, float, float]

Share = tuple[float, float]
"""A fraction of the parent's size, and logical pixels to add."""


def _finite(value: object, key: str, expected: str = "a finite number") -> float:
    if isinstance(value, bool) or not isinstance(value, int | float) or not -LIMIT <= value <= LIMIT:
        raise PlaceError(f"{key} is {value!r}, expected {expected} no larger than {LIMIT:g}")
    return float(value)


@lru_cache(maxsize=4096)
def _share(value: str, key: str) -> Share:
    """Text as a share of the parent's size; ``key`` is for the error alone."""
    fraction = pixels = 0.0
    position = 0
    while position < len(value) or position == 0:
        term = _TERM.match(value, position)
        if term is None or (position > 0 and not term[1]):
            fits = f' or "{FIT}"' if key in ("width", "height") else ""
            raise PlaceError(f'{key} is {value!r}, expected terms like "50%", "12px" or "50% - 60"{fits}')
        number = float(term[2]) * (-1.0 if term[1] == "-" else 1.0)
        if term[3] == "%":
            fraction += number / 100.0
        else:
            pixels += number
        position = term.end()
    return _finite(fraction, key), _finite(pixels, key)


class _Rest:
    """What a place says besides its sides: few places say any of it."""

    __slots__ = ("affine", "bounded", "grow", "inverse", "limits", "pivot", "scale", "turn")

    def __init__(
        self,
        turn: float,
        scale: float | tuple[float, float],
        pivot: tuple[float, float],
        limits: tuple[Length | None, Length | None, Length | None, Length | None],
        grow: float,
    ) -> None:
        for key, value in zip(_LIMITS, limits, strict=True):
            if value is not None:
                _check_length(value, key)
        self.limits = limits
        self.bounded = limits != (None, None, None, None)
        self.grow = _finite(grow, "grow")
        if grow < 0:
            raise PlaceError(f"grow is {grow!r}, expected a part of what is left over, 0 or more")
        self.turn = _finite(turn, "turn", "degrees")
        self.scale = scale if isinstance(scale, int | float) else _pair(scale, "scale")
        self.pivot = pivot if pivot is _MIDDLE else _pair(pivot, "pivot")
        sx, sy = (_finite(scale, "scale"),) * 2 if isinstance(scale, int | float) else _pair(scale, "scale")
        for one in (sx, sy):
            if one != 0.0 and not LEAST_SCALE <= abs(one) <= 1.0 / LEAST_SCALE:
                raise PlaceError(f"scale is {scale!r}, expected 0, or a factor from {LEAST_SCALE:g} to 1e6 either way")
        self.affine: _Linear | None = None
        self.inverse: _Linear | None = None
        if turn == 0.0 and sx == 1.0 and sy == 1.0:
            return
        cos, sin = turned(self.turn)
        if (cos, sin, sx, sy) != (1.0, 0.0, 1.0, 1.0):
            self.affine = (cos * sx, sin * sx, -sin * sy, cos * sy)
            # Turn and scale undone one by one: exact where they are, unlike an inverse by the determinant.
            back = (cos / sx, -sin / sy, sin / sx, cos / sy) if sx and sy else (math.inf,) * 4
            self.inverse = back if all(map(math.isfinite, back)) else None


class Place:
    """The place of a node in its parent, and how it is turned and scaled there.

    ``left``, ``top``, ``right`` and ``bottom`` are distances from the parent's sides inwards, ``width`` and
    ``height`` the node's own size; numbers are logical pixels, text may use percentages of the parent's size on the
    same axis. An axis with nothing given fills the parent; with one side given, the other side is the parent's; with
    a size given, the side not given follows, and with a size alone the node starts at the parent's left or top edge.
    A negative size counts as zero, and a size of zero is never hit (law H6).

    ``turn`` is in degrees clockwise, ``scale`` one factor or a pair (negative mirrors); both happen about ``pivot``,
    in fractions of the node's own box (0.5, 0.5 is its middle), and neither moves the node's siblings.

    A ``width`` or ``height`` of ``"fit-content"`` is as large as the content (law L2). ``min_width``, ``max_width``,
    ``min_height`` and ``max_height`` limit the size, the smallest in the end; with the far side alone given, that
    side stays where it is. In a parent with a flow, a node with none of the four sides given is laid by that
    (:class:`Flow`), and ``grow`` is its part of what room is left over there (law L4).

    A place is a value: it never changes. Set ``node.place`` to another, most easily with :meth:`replace`.

    :raises PlaceError: no number, text that is no length, or two sides and a size on one axis.
    """

    __slots__ = ("_plain", "_rest", "bottom", "fits", "height", "left", "right", "top", "width")

    left: Length | None
    top: Length | None
    right: Length | None
    bottom: Length | None
    width: Length | None
    height: Length | None
    fits: bool
    _plain: bool
    _rest: _Rest

    def __init__(
        self,
        left: Length | None = None,
        top: Length | None = None,
        right: Length | None = None,
        bottom: Length | None = None,
        width: Length | None = None,
        height: Length | None = None,
        turn: float = 0.0,
        scale: float | tuple[float, float] = 1.0,
        pivot: tuple[float, float] = _MIDDLE,
        min_width: Length | None = None,
        max_width: Length | None = None,
        min_height: Length | None = None,
        max_height: Length | None = None,
        grow: float = 0.0,
    ) -> None:
        limits = (min_width, max_width, min_height, max_height)
        try:
            _check_axis((left, right, width), ("left", "right", "width"))
            _check_axis((top, bottom, height), ("top", "bottom", "height"))
            # A truth value is no number, though it equals one.
            as_usual = {type(turn), type(scale), type(grow)} <= _NUMBERS and type(pivot) is tuple
            if as_usual and (turn, scale, pivot, limits, grow) == _AS_BY_DEFAULT:
                rest = _NOTHING_ELSE
            else:
                rest = _Rest(turn, scale, pivot, limits, grow)
        except PlaceError as error:
            # It is made before any node has it, so all that was given says which one it is.
            given = (left, top, right, bottom, width, height, turn, scale, pivot, *limits, grow)
            raise PlaceError(f"{_written(given)}: {error}") from error
        self._set(left, top, right, bottom, width, height, rest)

    def _set(
        self,
        left: Length | None,
        top: Length | None,
        right: Length | None,
        bottom: Length | None,
        width: Length | None,
        height: Length | None,
        rest: _Rest,
    ) -> None:
        put = object.__setattr__
        put(self, "left", left)
        put(self, "top", top)
        put(self, "right", right)
        put(self, "bottom", bottom)
        put(self, "width", width)
        put(self, "height", height)
        fits = width == FIT or height == FIT
        put(self, "fits", fits)
        put(self, "_plain", not fits and not rest.bounded)
        put(self, "_rest", rest)

    @property
    def turn(self) -> float:
        return self._rest.turn

    @property
    def scale(self) -> float | tuple[float, float]:
        return self._rest.scale

    @property
    def pivot(self) -> tuple[float, float]:
        return self._rest.pivot

    @property
    def min_width(self) -> Length | None:
        return self._rest.limits[0]

    @property
    def max_width(self) -> Length | None:
        return self._rest.limits[1]

    @property
    def min_height(self) -> Length | None:
        return self._rest.limits[2]

    @property
    def max_height(self) -> Length | None:
        return self._rest.limits[3]

    @property
    def grow(self) -> float:
        return self._rest.grow

    def __setattr__(self, name: str, value: object) -> None:
        raise AttributeError(f"a Place never changes; set node.place = node.place.replace({name}={value!r})")

    __delattr__ = None  # type: ignore[assignment]

    def _key(self) -> tuple[Any, ...]:
        return tuple(getattr(self, key) for key in _KEYS)

    def __eq__(self, other: object) -> bool:
        return self._key() == other._key() if isinstance(other, Place) else NotImplemented

    def __hash__(self) -> int:
        return hash(self._key())

    def __reduce__(self) -> tuple[Any, ...]:
        return Place, self._key()

    def __repr__(self) -> str:
        return f"Place({', '.join(f'{key}={value!r}' for key, value in self.given().items())})"

    def given(self) -> dict[str, Any]:
        """The keywords that differ from their defaults: ``Place(**place.given()) == place``."""
        plain = Place.__init__.__defaults__ or ()
        return {key: value for key, value, default in zip(_KEYS, self._key(), plain, strict=True) if value != default}

    def replace(self, **changes: Any) -> Place:
        """This place with some keywords changed; ``None`` takes a side or size away."""
        if not _BOX.issuperset(changes):
            return Place(**{**dict(zip(_KEYS, self._key(), strict=True)), **changes})
        # Sides alone are what moves: the rest is taken over unlooked at.
        given = changes.get
        left, top = given("left", self.left), given("top", self.top)
        right, bottom = given("right", self.right), given("bottom", self.bottom)
        width, height = given("width", self.width), given("height", self.height)
        sides = FIT in (left, right, top, bottom)
        sound = not sides and None in (left, right, width) and None in (top, bottom, height)
        for value in changes.values():
            if value.__class__ is float:
                sound = sound and -LIMIT <= value <= LIMIT
            elif value is not None and value != FIT and not _is_length(value):
                sound = False
        if not sound:
            return Place(left, top, right, bottom, width, height, *self._key()[6:])  # which says what is wrong
        made = object.__new__(Place)
        made._set(left, top, right, bottom, width, height, self._rest)
        return made

    def edges(
        self, width: float, height: float, content: tuple[float, float] = (0.0, 0.0)
    ) -> tuple[float, float, float, float]:
        """Left, top, right and bottom edge in the parent's space, for a parent of this size (before any turn).

        :param content: width and height of its content, for a size that fits it.
        """
        if self._plain:
            x0, x1 = _span(self.left, self.right, self.width, width)
            y0, y1 = _span(self.top, self.bottom, self.height, height)
            return x0, y0, x1, y1
        wide = content[0] if self.width == FIT else self.width
        tall = content[1] if self.height == FIT else self.height
        x0, x1 = _limited_span(self.left, self.right, wide, self.min_width, self.max_width, width)
        y0, y1 = _limited_span(self.top, self.bottom, tall, self.min_height, self.max_height, height)
        return x0, y0, x1, y1

    @property
    def is_pinned(self) -> bool:
        """Whether it names a side of its parent, and so stands apart from the parent's flow (law L1)."""
        return not (self.left is None and self.top is None and self.right is None and self.bottom is None)

    def affine(self, edges: tuple[float, float, float, float]) -> Affine | None:
        """The transform from node-local to the parent's space; None where it is a plain shift by left and top."""
        linear = self._rest.affine
        if linear is None:
            return None
        x0, y0, x1, y1 = edges
        px, py = self.pivot[0] * (x1 - x0), self.pivot[1] * (y1 - y0)
        return compose((*linear, x0 + px, y0 + py), (1.0, 0.0, 0.0, 1.0, -px, -py))

    def inverse(self, edges: tuple[float, float, float, float]) -> Affine | None:
        """The transform from the parent's space to node-local, of a point relative to the pivot; None for a scale of
        zero.

        The pivot lies at ``(left + e, top + f)`` of the parent's space, ``e`` and ``f`` being the transform's last
        two numbers. Subtracting it first keeps the answer exact near the node, however far that is from the origin.
        """
        linear = self._rest.inverse
        if linear is None:
            return None
        return (*linear, self.pivot[0] * (edges[2] - edges[0]), self.pivot[1] * (edges[3] - edges[1]))


def _written(given: tuple[object, ...]) -> str:
    """A place as it would be written, without what is as by default."""
    plain = Place.__init__.__defaults__ or ()
    told = [
        f"{key}={value!r}" for key, value, usual in zip(_KEYS, given, plain, strict=True) if repr(value) != repr(usual)
    ]
    return f"Place({', '.join(told)})"


def _pair(value: object, key: str) -> tuple[float, float]:
    if not isinstance(value, tuple | list) or len(value) != 2:
        raise PlaceError(f"{key} is {value!r}, expected two numbers")
    return _finite(value[0], key), _finite(value[1], key)


def _check_axis(given: tuple[Length | None, ...], keys: tuple[str, ...]) -> None:
    for value, key in zip(given, keys, strict=True):
        if value is not None and not (isinstance(value, str) and value == FIT and key is keys[2]):
            _check_length(value, key)
    if None not in given:
        raise PlaceError(f"{keys[0]}, {keys[1]} and {keys[2]} are all given, expected at most two of them")


def _is_length(value: object) -> bool:
    """Whether a value can be a length."""
    try:
        _check_length(value, "")  # type: ignore[arg-type]
    except PlaceError:
        return False
    return True


def _check_length(value: Length, key: str) -> None:
    if isinstance(value, str):
        _share(value, key)
    elif isinstance(value, tuple):
        _pair(value, key)
    else:
        _finite(value, key, 'a number, or text such as "50%" or "50% - 60",')


def _span(near: Length | None, far: Length | None, size: Length | None, extent: float) -> tuple[float, float]:
    """Where one axis begins and ends in a parent of this extent; never the wrong way round."""
    # The far edge is computed from the parent's side where that is what was given, and as near + size otherwise:
    # neighbours that meet by the same arithmetic meet at the same number (law H2).
    if far is None and size is not None:
        start = 0.0 if near is None else resolved(near, extent)
        end = start + resolved(size, extent)
    else:
        end = extent if far is None else extent - resolved(far, extent)
        start = end - resolved(size, extent) if size is not None else resolved(near or 0.0, extent)
    return start, (end if end > start else start)


def _limited_span(
    near: Length | None,
    far: Length | None,
    size: Length | None,
    minimum: Length | None,
    maximum: Length | None,
    extent: float,
) -> tuple[float, float]:
    start, end = _span(near, far, size, extent)
    length = limited(end - start, minimum, maximum, extent)
    if length == end - start:
        return start, end
    if near is None and far is not None:
        end = extent - resolved(far, extent)
        return end - length, end
    return start, start + length


def limited(length: float, minimum: Length | None, maximum: Length | None, extent: float) -> float:
    """A length within its limits; where they contradict each other, the minimum wins, as in CSS."""
    if maximum is not None:
        length = min(length, resolved(maximum, extent))
    if minimum is not None:
        length = max(length, resolved(minimum, extent))
    return max(length, 0.0)


def resolved(value: Length, extent: float) -> float:
    """A length in pixels, where percentages are of this extent."""
    if isinstance(value, int | float):
        return value
    fraction, pixels = value if isinstance(value, tuple) else _share(value, "")
    return fraction * extent + pixels


_AS_BY_DEFAULT = (0.0, 1.0, _MIDDLE, (None, None, None, None), 0.0)
_NOTHING_ELSE = _Rest(*_AS_BY_DEFAULT)
