"""Timers by sample time: what is due fires before the sample that is not earlier (laws R7, G8)."""

from __future__ import annotations

import heapq
import math
from collections.abc import Callable
from typing import Any

from glent.core.errors import SettleError

__all__ = ["EachTime", "Timer", "Timers"]

MAXIMUM = 10_000
"""Timers that may fire before one sample: more means that one sets itself anew for the same moment."""


class Timer:
    """A call to be made at a time; :meth:`stop` forgets it."""

    __slots__ = ("_call", "due")

    def __init__(self, due: float, call: Callable[[float], object]) -> None:
        self.due = due
        self._call: Callable[[float], object] | None = call

    def stop(self) -> None:
        """Stop the timer. Calling it again, or after it has fired, does nothing."""
        self._call = None


class EachTime:
    """A call for each sample and tick, with the time it brings, until :meth:`stop`."""

    __slots__ = ("_call", "_running")

    def __init__(self, running: dict[Any, None], call: Callable[[float], object]) -> None:
        self._call = call
        self.run_in(running)

    def run_in(self, running: dict[Any, None]) -> None:
        """Run among these from now on: in another scene."""
        self._running = running
        running[self] = None

    def passed(self, time: float) -> None:
        """Call, for time has passed."""
        self._call(time)

    def stop(self) -> None:
        """Stop the calls. Twice does nothing."""
        self._running.pop(self, None)


class Timers:
    """Timers by due time, then by when they were set."""

    __slots__ = ("_made", "_queue", "next_due")

    def __init__(self) -> None:
        self._queue: list[tuple[float, int, Timer]] = []
        self._made = 0
        self.next_due = math.inf
        """When the next one fires; infinity if none is set."""

    def add(self, due: float, call: Callable[[float], object]) -> Timer:
        """Set a timer."""
        timer = Timer(due, call)
        heapq.heappush(self._queue, (due, self._made, timer))
        self._made += 1
        self.next_due = self._queue[0][0]
        return timer

    def fire(self, until: float, reach: Callable[[float], object], report: Callable[[Exception], object]) -> None:
        """Fire all timers that are due by ``until``, each after ``reach`` has brought all else to its time; errors go
        to ``report``."""
        fired = 0
        try:
            while self._queue and self._queue[0][0] <= until:
                if fired == MAXIMUM:
                    report(SettleError(f"more than {MAXIMUM} timers were due by {until:g} s; the rest waits"))
                    return
                due, _, timer = heapq.heappop(self._queue)
                if timer._call is None:
                    continue
                fired += 1
                reach(due)
                call, timer._call = timer._call, None
                if call is not None:  # what was to be done before has not stopped it
                    try:
                        call(due)
                    except Exception as error:
                        report(error)
        finally:
            self.next_due = self._queue[0][0] if self._queue else math.inf
