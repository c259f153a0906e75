"""Who keeps what hands do at a scene, with notes beside it, so that it becomes a recording."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from glent.core.input.samples import TickSample
from glent.formats import Recording
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router

__all__ = ["Scribe"]


class Scribe:
    """Give :meth:`keep` to hands as their ``tap``."""

    def __init__(self, router: Router, scene: Path) -> None:
        self.router = router
        seats = tuple(seat.name for seat in router.seats)
        self.recording = Recording(router.scene.window, digest_of(scene), seats)
        self.pending: str | None = None

    def keep(self, sample: Sample) -> None:
        """Record a sample; of ticks, which come every frame, only those at which something runs or is due."""
        if not isinstance(sample, TickSample) or self.router._running or self.router._timers.next_due <= sample.time:
            self.recording.add(sample, self.pending)
            self.pending = None

    def note(self, text: str) -> None:
        """Leave a note beside the next sample."""
        self.pending = text
