"""The last decisions of a router, kept to be looked at when something has gone wrong (law D4).

Keeping one costs an append to a bounded deque: sentences and paths are made when they are read.
"""

from __future__ import annotations

from collections import deque
from typing import TYPE_CHECKING

from glent.core.arguments import is_number
from glent.core.errors import SampleError

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.input.samples import Sample
    from glent.core.routing.verdict import Verdict

__all__ = ["Trace"]

MOST = 10_000_000


class Trace:
    """Samples with their verdicts, the newest last; of more than it has room for, the oldest are let go of.

    :param size: how many. :raises SampleError: that is no whole number from 1 to ten million.
    """

    __slots__ = ("_kept", "note")

    def __init__(self, size: int) -> None:
        if isinstance(size, bool) or not is_number(size) or not 1 <= size <= MOST or int(size) != size:
            raise SampleError(f"trace is {size!r}, expected how many decisions to keep, from 1 to {MOST:,}")
        self._kept: deque[tuple[Sample, Verdict]] = deque(maxlen=int(size))
        self.note = self._kept.append
        """Keep a sample with its verdict."""

    def __len__(self) -> int:
        return len(self._kept)

    def __iter__(self) -> Iterator[tuple[Sample, Verdict]]:
        return iter(tuple(self._kept))

    def __repr__(self) -> str:
        return f"<Trace of {len(self)} decisions>"
