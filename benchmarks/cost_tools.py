"""How costs are taken: least times, and ratios of two things measured in turn."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable

ROUNDS = 9


def best(work: Callable[[], object], count: int, rounds: int = ROUNDS) -> float:
    """Seconds for one of ``count`` things, the best of some rounds."""
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        work()
        times.append(time.perf_counter() - start)
    return min(times) / count


def ratio(
    one: Callable[[], object], count: int, other: Callable[[], object], others: int, rounds: int = ROUNDS
) -> float:
    """How many times longer ``one`` takes than ``other``: the median over rounds that measure both, each warmed up.

    A machine that is slow for a while is so for both sides of a round, so the median is steadier than two minima.
    """
    found = []
    for _ in range(rounds):
        one()
        spent = best(one, count, 1)
        other()
        found.append(spent / best(other, others, 1))
    return statistics.median(found)
