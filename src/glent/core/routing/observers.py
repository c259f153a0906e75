"""Observers: calls that are made after each sample, for recordings and tools; they change nothing (law D4)."""

from __future__ import annotations

from collections.abc import Callable
from threading import Lock
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.verdict import Verdict

__all__ = ["Observer", "Observers"]


class Observer:
    """A call after each sample, until :meth:`stop`."""

    __slots__ = ("_call", "_observers")

    def __init__(self, watches: Observers, call: Callable[[Sample, Verdict], object]) -> None:
        self._observers = watches
        self._call = call

    def stop(self) -> None:
        """Stop the calls. Twice does nothing."""
        self._observers._remove(self)


class Observers:
    """The observers of a router."""

    __slots__ = ("_changing", "_dispatcher", "there")

    def __init__(self, dispatcher: Dispatcher) -> None:
        self._dispatcher = dispatcher
        self._changing = Lock()  # a tool begins and stops from a thread of its own
        self.there: tuple[Observer, ...] = ()
        """Those there are."""

    def add(self, call: Callable[[Sample, Verdict], object]) -> Observer:
        """Begin to observe."""
        one = Observer(self, call)
        with self._changing:
            self.there = (*self.there, one)
        return one

    def _remove(self, observer: Observer) -> None:
        with self._changing:
            self.there = tuple(one for one in self.there if one is not observer)

    def tell(self, sample: Sample, verdict: Verdict) -> None:
        """Make the calls; an error of one is reported."""
        for one in self.there:
            try:
                one._call(sample, verdict)
            except Exception as error:
                self._dispatcher.report(error, None)
