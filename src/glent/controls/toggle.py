"""What is on or off: a switch, a checkbox (ARIA: switch, checkbox)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, Literal

from glent.controls.control import Control
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Toggle"]


class Toggle(Control):
    """On, off, or, if its value says so, ``"mixed"``: a box for several that are not all alike.

    A click, or a key or pad button that activates it, turns it over; mixed becomes on, as ARIA has it. Only code makes
    it mixed.

    :param value: True, False or ``"mixed"``; off to begin with by default.

    :ivar value: that, to watch, bind and set.
    """

    roles = ("switch", "checkbox", "menuitemcheckbox")
    value_type = "bool"
    __slots__ = ("value",)

    def __init__(self, node: Node, value: Value[Any] | None = None, start: bool | Literal["mixed"] = False) -> None:
        super().__init__(node)
        options = (False, True) if (node.role or self.roles[0]) == "switch" else (False, True, "mixed")
        if value is not None and not isinstance(value, Value):
            raise ControlError(f"{node.path}: the value is {value!r}, expected a Value")
        if value is not None and value.ready and not (isinstance(value.current, bool) or value.current == "mixed"):
            raise ControlError(f"{node.path}: the value is {value.current!r}, expected True, False or 'mixed'")
        self.value: Value[Any] = value if value is not None else Value(start, name=node.path, options=options)
        self.follow(self.value, lambda now: None)
        self.hear("click", self._clicked)

    def toggle(self) -> None:
        """Turn it over, as a click does."""
        self.value.current = not (self.value.ready and self.value.current is True)

    def _clicked(self, event: Event) -> None:
        self.toggle()

    def marks_of(self, part: str) -> frozenset[str]:
        if not self.value.ready or self.value.current is False:
            return frozenset()
        return frozenset(("mixed",)) if self.value.current == "mixed" else frozenset(("chosen",))
