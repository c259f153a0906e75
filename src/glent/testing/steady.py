"""What all scripted users share: they feed samples at a steady pace."""

from __future__ import annotations

from collections.abc import Callable

from glent.core.arguments import is_number
from glent.core.errors import SampleError
from glent.core.input.samples import Sample, TickSample
from glent.core.input.validate import check_number
from glent.core.routing.event import Event
from glent.core.routing.router import Router
from glent.core.routing.verdict import Verdict

__all__ = ["Steady"]

MOST_FRAMES = 1_000_000


class Steady:
    """Someone who acts at a steady pace. Several may share a router: each goes on from the latest sample of any.

    :param router: what is fed. :param pointer: the pointer's name. :param pace: seconds from one sample to the next.
    :param start: the time of the first sample, in seconds.
    :param tap: called with every sample before it is fed, such as a recording's ``add``.

    :ivar time: the time of the last sample. :ivar verdicts: the answers, in order.
    """

    def __init__(
        self, router: Router, pointer: str, pace: float, start: float, tap: Callable[[Sample], object] | None
    ) -> None:
        self.router = router
        self.pointer = pointer
        self.pace = pace
        self.time = start
        self.tap = tap
        self.verdicts: list[Verdict] = []

    def feed(self, sample: Sample) -> Verdict:
        """Feed any sample."""
        if self.tap is not None:
            self.tap(sample)
        verdict = self.router.feed(sample)
        self.verdicts.append(verdict)
        return verdict

    def pause(self, seconds: float) -> None:
        """Let time pass before the next sample."""
        check_number(seconds, "seconds", "pause")
        self.time = round(max(self.time, self.router.now) + seconds, 6)

    def wait(self, seconds: float, frame: float = 0.016) -> list[Event]:
        """Keep still while time passes, with a tick every frame; the events that sent."""
        sent: list[Event] = []
        check_number(seconds, "seconds", "wait")
        if not is_number(frame) or not frame > 0 or seconds / frame > MOST_FRAMES:
            raise SampleError(f"wait: {seconds!r} s in frames of {frame!r} s, expected at most {MOST_FRAMES:,} of them")
        end = round(max(self.time, self.router.now) + seconds, 6)
        while self.time < end:
            self.pause(min(frame, end - max(self.time, self.router.now)))
            sent.extend(self.feed(TickSample(self.time)).events)
        return sent
