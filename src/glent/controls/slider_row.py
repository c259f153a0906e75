"""Several values in a row, drawn with one stroke: the trim of a row of tanks, the bands of a signal lamp."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from glent.controls.context import focus_on
from glent.controls.control import Control
from glent.controls.keys import key_of
from glent.controls.rail import Rail
from glent.controls.slider import at_fraction, checked_range, fraction_of, made_value, moved_by_key
from glent.controls.stroke import Stroke
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.controls.options import Orientation, Positive
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node
    from glent.core.value import Value

__all__ = ["SliderRow"]

ACROSS = {"vertical": {"ArrowLeft": -1, "ArrowRight": 1}, "horizontal": {"ArrowUp": -1, "ArrowDown": 1}}
"""The keys that lead from one to the next."""


class SliderRow(Control):
    """Upright sliders side by side, or lying ones one above the other, each with its share of the node.

    A stroke across sets all it passes over.

    For keys each is a slider, and the arrows across lead to the next one.

    :param values: their values from left to right, or from top to bottom.
    :param orientation: ``vertical``, columns that fill from the bottom, or ``horizontal``, rows that fill from the
        left.
    :raises ControlError: there are none, or one has no range.

    :ivar row: those. Its parts are ``0``, ``1``, …, each with its ``fill`` from the bottom to its value.
    """

    roles = ("group",)
    value_type = "number"
    __slots__ = ("_across", "_bars", "_before", "_last", "_rows", "row")

    def __init__(
        self,
        node: Node,
        values: Sequence[Value[float]] | None = None,
        low: float = 0.0,
        high: float = 100.0,
        step: Positive | None = None,
        start: Sequence[float] = (),
        orientation: Orientation = "vertical",
    ) -> None:
        super().__init__(node)
        if values is None:
            values = [made_value(node, low, high, step, one) for one in start]
        if not values:
            raise ControlError(f"{node.path}: there are no values, expected at least one")
        self.row = tuple(checked_range(value, node.path) for value in values)
        self._rows = orientation == "horizontal"
        self._across = ACROSS[orientation]
        self._before: list[float] = []
        self._last: tuple[float, float] | None = None
        """Where the stroke was, in node-local pixels."""
        share = 1.0 / len(values)
        self._bars: list[Node] = []
        for number, value in enumerate(self.row):
            bar = self.part(str(number), role="slider", solidity="hollow")
            start_at, size = (number * share, 0.0), (share, 0.0)
            if self._rows:
                bar.set_for_now(place=bar.place.replace(top=start_at, bottom=None, height=size))
            else:
                bar.set_for_now(place=bar.place.replace(left=start_at, right=None, width=size))
            fill = next((child for child in bar.children if child.name == "fill"), None) or bar.add_for_now(
                "fill", solidity="hollow"
            )
            self._bars.append(bar)
            rail = Rail(bar, orientation)
            self.follow(value, partial(self._show, rail, fill, value), str(number))
            self.hear("key_down", partial(self._key_down, number), bar)
        Stroke(self, (node,), self._begin, self._go_on, self._undo)

    @property
    def values(self) -> dict[str, Value[float]]:
        return {str(number): value for number, value in enumerate(self.row)}

    @staticmethod
    def _show(rail: Rail, fill: Node, value: Value[float], now: float) -> None:
        rail.fill(fill, 0.0, fraction_of(value))

    def _at(self, event: Event) -> tuple[float, float]:
        """Where a pointer is: across the sliders, and along them from where they fill."""
        (x, y), (_, height) = event.local, self.node.size
        return (y, x) if self._rows else (x, height - y)

    @property
    def _room(self) -> tuple[float, float]:
        width, height = self.node.size
        return (height, width) if self._rows else (width, height)

    def _column(self, x: float) -> int:
        width = self._room[0]
        return max(0, min(int(x / width * len(self.row)) if width else 0, len(self.row) - 1))

    def _set(self, number: int, y: float) -> None:
        height = self._room[1]
        fraction = min(1.0, max(0.0, y / height)) if height else 0.0
        self.row[number].current = at_fraction(self.row[number], fraction)

    def _stroke(self, x: float, y: float) -> None:
        """Draw on to a point: the bars in between are set where the line crosses their middles."""
        if self._last is None:
            self._last = (x, y)
        (x0, y0), self._last = self._last, (x, y)
        start, end = self._column(x0), self._column(x)
        width = self._room[0] / len(self.row)
        for number in range(min(start, end) + 1, max(start, end)):
            middle = (number + 0.5) * width
            self._set(number, y0 + (y - y0) * (middle - x0) / (x - x0))
        self._set(end, y)

    def _begin(self, event: Event) -> None:
        self._before = [value.current if value.ready else at_fraction(value, 0.0) for value in self.row]
        self._last = None
        x, y = self._at(event)
        self._stroke(x, y)
        focus_on(event, self._bars[self._column(x)])

    def _go_on(self, event: Event) -> None:
        self._stroke(*self._at(event))

    def _undo(self) -> None:
        for value, was in zip(self.row, self._before, strict=True):
            value.current = was

    def _key_down(self, number: int, event: Event) -> None:
        across = self._across.get(key_of(event))
        if across is not None:
            event.take()
            focus_on(event, self._bars[max(0, min(number + across, len(self._bars) - 1))])
            return
        to = moved_by_key(event, self.row[number], "x" if self._rows else "y", None)
        if to is not None:
            event.take()
            self.row[number].current = to
