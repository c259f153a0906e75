"""What a held button or stick of a pad repeats: pads do not repeat by themselves, as keyboards do (F5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.keys.key_hold import NAVIGATION, UI

if TYPE_CHECKING:
    from glent.core.routing.keys.key_hold import KeyHold
    from glent.core.routing.seats.seats import Seats
    from glent.core.routing.timers import Timers

__all__ = ["HeldRepeat"]


class HeldRepeat:
    """The repeats of held controls: a first delay, then a step at each gap, for as long as they are held."""

    __slots__ = ("_seats", "_timers")

    def __init__(self, seats: Seats, timers: Timers) -> None:
        self._seats = seats
        self._timers = timers

    def navigate(self, held: KeyHold, direction: str) -> None:
        """Move the focus on by steps."""
        self._later(held, direction, self._seats.now + self._seats.pointing.feel.navigate_delay)

    def tell(self, held: KeyHold) -> None:
        """Tell the node that has taken the control again."""
        self._tell_later(held, self._seats.now + self._seats.pointing.feel.navigate_delay)

    def _tell_later(self, held: KeyHold, due: float) -> None:
        self._timers.add(due, lambda at: self._told_again(held, at))

    def _told_again(self, held: KeyHold, at: float) -> None:
        seats = self._seats
        if seats.key_presses.held.get((held.press.device, held.press.code)) is held and held.who == UI:
            seats.key_presses.tell_again(held, at)
            self._tell_later(held, at + seats.pointing.feel.navigate_gap)

    def _later(self, held: KeyHold, direction: str, due: float) -> None:
        self._timers.add(due, lambda at: self._again(held, direction, at))

    def _again(self, held: KeyHold, direction: str, at: float) -> None:
        seats = self._seats
        key = (held.press.device, held.press.code)
        if seats.key_presses.held.get(key) is not held or held.who != NAVIGATION or held.opened != held.seat._opened:
            return
        seats.navigation.go(held.seat, direction, at)
        self._later(held, direction, at + seats.pointing.feel.navigate_gap)
