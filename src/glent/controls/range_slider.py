"""Two numbers on one rail, from the one to the other (ARIA: slider with two thumbs)."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from glent.controls.context import focus_on
from glent.controls.control import Control
from glent.controls.rail import Rail
from glent.controls.slider import at_fraction, checked_range, fraction_of, made_value, moved_by_key
from glent.controls.stroke import Stroke
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.controls.options import Distance, Orientation, Positive
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node
    from glent.core.value import Value

__all__ = ["RangeSlider"]


class RangeSlider(Control):
    """Two thumbs, ``low`` and ``high``, each a slider for the keys; neither passes the other.

    A press on the rail brings the nearer thumb there, the one that can still move where both lie on one spot.

    :param values: the two numbers, both of one range; without them they are made from ``low``, ``high``, ``step`` and
        ``start``.
    :param apart: the least distance to be kept between them.
    :param orientation: ``horizontal`` or ``vertical``. :param page: as for :class:`Slider`.
    :raises ControlError: they are of different ranges, or as for :class:`Slider`.

    :ivar low, high: the values. Its parts are ``low`` and ``high``, and ``fill`` between them where there is one.
    """

    roles = ("group",)
    value_type = "number"
    __slots__ = (
        "_apart",
        "_before",
        "_fill",
        "_held",
        "_length",
        "_offset",
        "_page",
        "_rail",
        "_thumbs",
        "high",
        "low",
    )

    def __init__(
        self,
        node: Node,
        values: tuple[Value[float], Value[float]] | None = None,
        low: float = 0.0,
        high: float = 100.0,
        step: Positive | None = None,
        start: tuple[float, float] | None = None,
        apart: Distance = 0.0,
        orientation: Orientation = "horizontal",
        page: Positive | None = None,
    ) -> None:
        super().__init__(node)
        self._rail = Rail(node, orientation)
        if values is None:
            one, other = start if start is not None else (low, high)
            values = made_value(node, low, high, step, one), made_value(node, low, high, step, other)
        self.low, self.high = (checked_range(value, node.path) for value in values)
        if (self.low.low, self.low.high) != (self.high.low, self.high.high):
            raise ControlError(
                f"{node.path}: the values run from {self.low.low} to {self.low.high} and from {self.high.low} to"
                f" {self.high.high}, expected one range"
            )
        self._apart, self._page = apart, page
        self._before: float | None = None
        self._held = "low"
        """The thumb that is or was last held."""
        self._offset = 0.0
        node.set_for_now(axis=self._rail.axis)
        self._thumbs = {name: self.part(name, role="slider") for name in ("low", "high")}
        self._length = self._rail.length_of(self._thumbs["low"])
        self._fill = next((child for child in node.children if child.name == "fill"), None)
        for name, thumb in self._thumbs.items():
            thumb.set_for_now(axis=self._rail.axis)
            self.follow(self._value(name), partial(self._show, name), name)
            self.hear("key_down", partial(self._key_down, name), thumb)
        Stroke(self, (node, *self._thumbs.values()), self._hold, self._go_on, self._undo)

    @property
    def values(self) -> dict[str, Value[float]]:
        return {"low": self.low, "high": self.high}

    def set_all(self, to: Sequence[float]) -> None:
        names = ("low", "high")
        rises = self.low.ready and to[0] > self.low.current
        for number in (1, 0) if rises else (0, 1):  # so that neither is in the other's way
            self.set(to[number], names[number])

    def _value(self, name: str) -> Value[float]:
        return self.low if name == "low" else self.high

    def _show(self, name: str, now: float) -> None:
        within = self._within(name, now)
        if within != now:
            self._value(name).current = within  # code has set it: the same rule as by hand; it is told again
        self._rail.put(self._thumbs[name], fraction_of(self._value(name)), self._length)
        if self._fill is not None:
            self._rail.fill(self._fill, fraction_of(self.low), fraction_of(self.high))

    def _within(self, name: str, to: float) -> float:
        """How far the other lets one of them go."""
        if name == "low" and self.high.ready:
            return max(min(to, self.high.current - self._apart), self.low.low or 0.0)
        if name == "high" and self.low.ready:
            return min(max(to, self.low.current + self._apart), self.high.high or 0.0)
        return to

    def _set(self, name: str, to: float) -> None:
        self._value(name).current = self._within(name, to)

    def _middle(self, name: str) -> float:
        return self._rail.middle(fraction_of(self._value(name)), self._length)

    def _hold(self, event: Event) -> None:
        along = self._rail.along(event)
        low, high = self._middle("low"), self._middle("high")
        if event.here is self.node:
            self._held = "low" if abs(along - low) < abs(along - high) or (low == high and along < low) else "high"
        else:
            self._held = event.here.name
            if low == high and self._value(self._held).current in (self.low.low, self.low.high):
                self._held = "high" if self.low.current == self.low.low else "low"  # the other could not move
        value = self._value(self._held)
        self._before = value.current if value.ready else None
        offset = along - self._middle(self._held)
        self._offset = offset if abs(offset) <= self._length / 2.0 else 0.0
        focus_on(event, self._thumbs[self._held])
        if not self._offset:
            self._go(along)

    def _go(self, along: float) -> None:
        fraction = self._rail.fraction(along - self._offset, self._length)
        self._set(self._held, at_fraction(self._value(self._held), fraction))

    def _go_on(self, event: Event) -> None:
        self._go(self._rail.along(event))

    def _undo(self) -> None:
        if self._before is not None:
            self._value(self._held).current = self._before

    def _key_down(self, name: str, event: Event) -> None:
        to = moved_by_key(event, self._value(name), self._rail.axis, self._page)
        if to is not None:
            event.take()
            self._set(name, to)
