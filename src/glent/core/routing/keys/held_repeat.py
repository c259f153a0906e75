"""What a held button or stick of a pad repeats: pads do not repeat by themselves, as keyboards do (F5)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.routing.keys.key_hold import KeyHold
    from glent.core.routing.state import State

__all__ = ["HeldRepeat"]


class HeldRepeat:
    """The repeats of held controls: a first delay, then a step at each gap, for as long as they are held.

    :param tell: tells a node again, and returns whether the control is still held for it.
    :param go_on: moves the focus on, and returns whether the control is still held for that.
    """

    __slots__ = ("_go_on", "_state", "_tell")

    def __init__(
        self, state: State, tell: Callable[[KeyHold, float], bool], go_on: Callable[[KeyHold, str, float], bool]
    ) -> None:
        self._state = state
        self._tell = tell
        self._go_on = go_on

    def navigate(self, held: KeyHold, direction: str) -> None:
        """Move the focus on by steps."""
        self._after_delay(lambda at: self._go_on(held, direction, at))

    def tell(self, held: KeyHold) -> None:
        """Tell the node that has taken the control again."""
        self._after_delay(lambda at: self._tell(held, at))

    def _after_delay(self, step: Callable[[float], bool]) -> None:
        self._later(step, self._state.now + self._state.feel.navigate_delay)

    def _later(self, step: Callable[[float], bool], due: float) -> None:
        def again(at: float) -> None:
            if step(at):
                self._later(step, at + self._state.feel.navigate_gap)

        self._state.timers.add(due, again)
