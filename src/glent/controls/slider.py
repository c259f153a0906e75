"""A number set along a rail (ARIA: slider)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.control import Control, step_of
from glent.controls.keys import is_along, key_of
from glent.controls.rail import Rail
from glent.controls.stroke import Stroke
from glent.core.arguments import is_number
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Orientation, Positive
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Slider", "at_fraction", "checked_range", "fraction_of", "made_value", "moved_by_key"]

STEPS = {"ArrowRight": 1, "ArrowUp": 1, "ArrowLeft": -1, "ArrowDown": -1}
PAGES = {"PageUp": 1, "PageDown": -1}


def made_value(node: Node, low: float, high: float, step: float | None, start: float | None) -> Value[float]:
    """A value of a range; without a start it is not ready.

    :raises ControlError: the range is none.
    """
    if not (is_number(low) and is_number(high) and low < high):
        raise ControlError(f"{node.path}: low is {low} and high {high}, expected numbers, low below high")
    if start is None:
        return Value(name=node.path, low=low, high=high, step=step)
    return Value(start, name=node.path, low=low, high=high, step=step)


def checked_range(value: Value[float], where: str) -> Value[float]:
    """A value that has a range from low to high.

    :raises ControlError: it has none.
    """
    if not isinstance(value, Value) or value.low is None or value.high is None or value.low >= value.high:
        raise ControlError(f"{where}: the value is {value!r}, expected one with low below high")
    return value


def ends_of(value: Value[float]) -> tuple[float, float]:
    """The least and the most of a value with a range."""
    return value.low or 0.0, value.high or 0.0


def fraction_of(value: Value[float]) -> float:
    """Where a value is in its range, from 0 to 1; 0 before it is ready."""
    low, high = ends_of(value)
    return (value.current - low) / (high - low) if value.ready and high > low else 0.0


def at_fraction(value: Value[float], fraction: float) -> float:
    """The number at a fraction of a value's range."""
    low, high = ends_of(value)
    return low + (high - low) * fraction


def moved_by_key(event: Event, value: Value[float], axis: str, page: float | None) -> float | None:
    """The number that a ``key_down`` moves a slider's value to, by the ARIA practices; None for other keys.

    :param page: how far a page goes; None: a tenth of the range, and a step at least. An arrow goes a step, or else a
        hundredth of the range.
    """
    key = key_of(event)
    low, high = ends_of(value)
    now = value.current if value.ready else low
    step = step_of(value) or 0.0
    if key in STEPS:
        return now + STEPS[key] * step if is_along(event, axis) else None
    if key in PAGES:
        return now + PAGES[key] * (page if page is not None else max(step, (high - low) / 10.0))
    return {"Home": low, "End": high}.get(key)


class Slider(Control):
    """A thumb on a rail, left to right or bottom to top.

    A press on the rail brings the thumb there, one on the thumb does not move it; dragging moves it along, also beyond
    the node. A finger sets nothing before the contest with what scrolls is decided (law G5): a tap, or a drag along the
    rail. What ends a drag without a release puts the value back. Keys by ARIA: arrows a step, pages, Home and End.

    :param value: a number from ``low`` to ``high``; 0 to 100 by default.
    :param orientation: ``horizontal`` or ``vertical``.
    :param page: how far Page Up and Page Down go; by default a tenth of the range.
    :raises ControlError: the value has no range, or there is no such orientation.

    :ivar value: the value. Its parts are ``thumb``, and ``fill`` where the node has such a child: from low to there.
    """

    roles = ("slider",)
    value_type = "number"
    __slots__ = ("_before", "_fill", "_from", "_length", "_offset", "_page", "_rail", "_thumb", "value")

    def __init__(
        self,
        node: Node,
        value: Value[float] | None = None,
        low: float = 0.0,
        high: float = 100.0,
        step: Positive | None = None,
        start: float | None = None,
        orientation: Orientation = "horizontal",
        page: Positive | None = None,
    ) -> None:
        super().__init__(node)
        self._rail = Rail(node, orientation)
        if value is None:
            value = made_value(node, low, high, step, low if start is None else start)
        self.value = checked_range(value, node.path)
        self._page = page
        self._before: float | None = None
        """What the value was before it was taken hold of; None: it had none."""
        self._from = 0.0
        """Where it was taken hold of, in pixels along the rail."""
        self._offset = 0.0
        """From the middle of the thumb to where it is held, in pixels along the rail."""
        node.set_for_now(axis=self._rail.axis)
        self._thumb = self.part("thumb", solidity="hollow")
        self._length = self._rail.length_of(self._thumb)
        self._fill = next((child for child in node.children if child.name == "fill"), None)
        self.follow(self.value, self._show)
        Stroke(self, (node,), self._begin, self._go_on, self._undo)
        self.hear("key_down", self._key_down)

    def _show(self, now: float) -> None:
        fraction = fraction_of(self.value)
        self._rail.put(self._thumb, fraction, self._length)
        if self._fill is not None:
            self._rail.fill(self._fill, 0.0, fraction)

    def _hold(self, along: float) -> None:
        """Take hold of the thumb where a pointer is; beside it, its middle comes there."""
        self._from = along
        offset = along - self._rail.middle(fraction_of(self.value), self._length)
        self._offset = offset if abs(offset) <= self._length / 2.0 else 0.0
        if not self._offset:
            self._set(along)

    def _set(self, along: float) -> None:
        self.value.current = at_fraction(self.value, self._rail.fraction(along - self._offset, self._length))

    def _begin(self, event: Event) -> None:
        self._before = self.value.current if self.value.ready else None
        self._hold(self._rail.along(event))

    def _go_on(self, event: Event) -> None:
        self._set(self._from + self._rail.gone(event))

    def _undo(self) -> None:
        if self._before is not None:
            self.value.current = self._before

    def _key_down(self, event: Event) -> None:
        to = moved_by_key(event, self.value, self._rail.axis, self._page)
        if to is not None:
            event.take()
            self.value.current = to

    def state_of(self, node: Node, part: str) -> str:
        return self.node.look if node is self._thumb else node.look
