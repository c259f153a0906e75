"""A number that is stepped up and down, or typed (ARIA: spinbutton)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, ClassVar

from glent.controls.control import Control
from glent.controls.keys import is_along, key_of, typed_of
from glent.controls.options import Bounds
from glent.core.arguments import is_number
from glent.core.errors import ControlError
from glent.core.scene.place import Place
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Positive
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Spinbutton"]

STEPS = {"ArrowUp": 1, "ArrowDown": -1}
PAGES = {"PageUp": 1, "PageDown": -1}
DIGITS = frozenset("0123456789")
POINTS = ".,"
MINUS = "-\u2212"
LONGEST = 20
"""So many characters can be typed."""


class Spinbutton(Control):
    """A number with a button for more and one for less.

    Up and down go a step, Page Up and Page Down further, Home and End to the ends where there are any. The buttons
    step, and go on while they are held; at an end one is disabled. While it has the focus digits are typed: Enter takes
    what was typed, as does the focus that leaves; Escape drops it.

    It acts: ``refused``, with what was typed and is no number.

    :param value: the number; by default one that begins as ``start``.
    :param low: the least it can be. :param high: the most.
    :param step: how far a step goes; the number is one of its steps.
    :param page: how far Page Up and Page Down go; by default ten steps.
    :param decimals: how many digits follow the point in :attr:`shown`.
    :raises ControlError: a range that is none.

    :ivar value: the number, to watch, bind and set. :ivar typing: what has been typed and not been taken yet.
        Its parts are ``more`` and ``less``.
    """

    roles = ("spinbutton",)
    own_acts: ClassVar[Mapping[str, str]] = {"refused": "text"}
    value_type = "number"
    __slots__ = ("_decimals", "_page", "typing", "value")

    def __init__(
        self,
        node: Node,
        value: Value[float] | None = None,
        low: float | None = None,
        high: float | None = None,
        step: Positive = 1.0,
        start: float = 0.0,
        page: Positive | None = None,
        decimals: Annotated[int, Bounds(least=0, most=12)] = 0,
    ) -> None:
        super().__init__(node)
        if low is not None and high is not None and not (is_number(low) and is_number(high) and low < high):
            raise ControlError(f"{node.path}: low is {low} and high {high}, expected numbers, low below high")
        if not isinstance(decimals, int) or isinstance(decimals, bool) or not 0 <= decimals <= 12:
            raise ControlError(f"{node.path}: decimals is {decimals!r}, expected a whole number from 0 to 12")
        self.value: Value[float] = (
            value if value is not None else Value(start, name=node.path, low=low, high=high, step=step)
        )
        self._page = page if page is not None else 10.0 * (self.value.step or step)
        self._decimals = decimals
        self.typing = ""
        if node.focusable is None:
            node.set_for_now(focusable=True)
        self.hear("key_down", self._key_down)
        self.hear("blur", lambda event: self._take())
        places = {
            "more": Place(right=0, top=0, width=24, height="50%"),
            "less": Place(right=0, bottom=0, width=24, height="50%"),
        }
        for name, place in places.items():
            button = self.part(name, role="button", place=place)
            button.set_for_now(focusable=False)
            by = 1 if name == "more" else -1
            self.hear("click", lambda event, by=by: self._step(by), button)  # type: ignore[misc]
            self.hear("repeat", lambda event, by=by: self._step(by), button)  # type: ignore[misc]
        self.follow(self.value, self._changed)

    @property
    def shown(self) -> str:
        """What a renderer writes: what is being typed, or the number; empty before it is ready."""
        if self.typing or not self.value.ready:
            return self.typing
        return f"{self.value.current:.{self._decimals}f}"

    def _changed(self, now: float) -> None:
        self._drop()
        for name, end in (("more", self.value.high), ("less", self.value.low)):
            self.node[name].set_for_now(enabled=now != end)

    def _now(self) -> float:
        if self.value.ready:
            return self.value.current
        return self.value.low or 0.0

    def _step(self, by: float) -> None:
        self._take()
        self.value.current = self._now() + by * (self.value.step or 1.0)

    def _key_down(self, event: Event) -> None:
        key, value = key_of(event), self.value
        if not key:
            return
        letter = typed_of(event)
        if key in STEPS and is_along(event, "y"):
            self._step(STEPS[key])
        elif key in PAGES:
            self._take()
            value.current = self._now() + PAGES[key] * self._page
        elif key == "Home" and value.low is not None:
            value.current = value.low
        elif key == "End" and value.high is not None:
            value.current = value.high
        elif key in ("Enter", "NumpadEnter") and self.typing:
            self._take()
        elif event.data["action"] == "back" and self.typing:
            self._drop()
        elif key == "Backspace" and self.typing:
            self._type(self.typing[:-1])
        elif letter and self._fits(letter):
            self._type(self.typing + (POINTS[0] if letter in POINTS else MINUS[0] if letter in MINUS else letter))
        else:
            return
        event.take()

    def _fits(self, letter: str) -> bool:
        """Whether a number can go on so."""
        if len(self.typing) >= LONGEST:
            return False
        if letter in MINUS:
            return not self.typing and (self.value.low is None or self.value.low < 0)
        return letter in DIGITS or (letter in POINTS and self._decimals > 0 and POINTS[0] not in self.typing)

    def _type(self, text: str) -> None:
        self.typing = text
        self.tell_change(typing=text)

    def _drop(self) -> None:
        if self.typing:
            self._type("")

    def _take(self) -> None:
        """Take what has been typed."""
        typed, self.typing = self.typing, ""
        if not typed:
            return
        try:
            number = float(typed)
        except ValueError:  # a minus alone
            self.say("refused", typed)
        else:
            self.value.current = number
        self.tell_change(typing="")

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(() if part or self.shown else ("empty",))
