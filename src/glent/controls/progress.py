"""How far something has come (ARIA: progressbar, meter)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.control import Control
from glent.controls.rail import Rail
from glent.controls.slider import checked_range, fraction_of, made_value
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Orientation
    from glent.core.scene.node import Node

__all__ = ["Progress"]


class Progress(Control):
    """Shows a number; nobody sets it here. As long as its value is not ready, how far it has come is unknown.

    :param value: a number from ``low`` to ``high``; 0 to 1 by default, and not ready.
    :param orientation: ``horizontal`` or ``vertical``.
    :raises ControlError: the value has no range, or there is no such orientation.

    :ivar value: the value. Its part is ``fill``: from low to there, hidden as long as that is unknown.
    """

    roles = ("progressbar", "meter")
    value_type = "number"
    settable = False
    __slots__ = ("_fill", "_rail", "value")

    def __init__(
        self,
        node: Node,
        value: Value[float] | None = None,
        low: float = 0.0,
        high: float = 1.0,
        start: float | None = None,
        orientation: Orientation = "horizontal",
    ) -> None:
        super().__init__(node)
        self._rail = Rail(node, orientation)
        self.value = checked_range(value if value is not None else made_value(node, low, high, None, start), node.path)
        self._fill = self.part("fill", solidity="hollow")
        self._fill.set_for_now(visible=False)
        self.follow(self.value, self._show)

    @property
    def fraction(self) -> float | None:
        """How far it has come, from 0 to 1; None while that is unknown."""
        return fraction_of(self.value) if self.value.ready else None

    def _show(self, now: float) -> None:
        self._rail.fill(self._fill, 0.0, fraction_of(self.value))
        self._fill.set_for_now(visible=True)

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset() if self.value.ready else frozenset(("pending",))
