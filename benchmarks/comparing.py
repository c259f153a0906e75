"""What comparing many recordings gains from processes and from a cluster, and what it costs in memory."""

from __future__ import annotations

import functools
import random
import statistics
import tempfile
import time
import tracemalloc
from collections.abc import Callable
from pathlib import Path

from glent import Event, Place, Router, Scene
from glent.formats import Recording, write_recording
from glent.review import compare_all, write_comparisons
from glent.testing import Hand

MANY, SAMPLES = 30, 5_000
ROUNDS = 3


def desk(fog: bool, recording: object = None) -> Router:
    """Twelve buttons, with or without a sheet of fog over four of them."""
    scene = Scene((400, 300))
    layer = scene.layer("desk")
    for number in range(12):
        place = Place(10 + number % 4 * 95, 10 + number // 4 * 95, width=80, height=60)
        layer.add(f"key-{number}", role="button", label=f"key {number}", place=place).on("click", Event.take)
    if fog:
        scene.layer("weather", order=1).add("fog", solidity="solid", place=Place(290, 0, width=110, height=300))
    return Router(scene)


@functools.cache
def recordings(many: int = MANY, samples: int = SAMPLES) -> list[Path]:
    folder, found = Path(tempfile.mkdtemp()), []
    for number in range(many):
        choose = random.Random(number)
        recording = Recording((400, 300))
        hand = Hand(desk(False), tap=recording.add)
        while len(recording.samples) < samples:
            hand.click((choose.uniform(0, 400), choose.uniform(0, 300)), steps=8)
        found.append(folder / f"{number:03}.jsonl")
        write_recording(recording, found[-1])
    return found


def seconds(paths: list[Path], **how: object) -> float:
    before, after = functools.partial(desk, False), functools.partial(desk, True)
    start = time.perf_counter()
    with tempfile.TemporaryDirectory() as folder:
        write_comparisons(compare_all(before, after, paths, **how), Path(folder) / "changes.parquet")  # type: ignore[arg-type]
    return time.perf_counter() - start


def two_processes() -> float:
    paths = recordings()
    return statistics.median(seconds(paths) / seconds(paths, jobs=2) for _ in range(ROUNDS))


def two_workers() -> float:
    from distributed import LocalCluster

    paths = recordings()
    with LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None, silence_logs=50) as cluster:
        address = cluster.scheduler_address
        seconds(paths[:2], dask=address)  # they have imported what they need
        return statistics.median(seconds(paths) / seconds(paths, dask=address) for _ in range(ROUNDS))


def memory_of(many: int) -> int:
    paths = recordings(48, 1_000)[:many]
    tracemalloc.start()
    seconds(paths)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak


def flat_memory() -> float:
    memory_of(4)
    return memory_of(48) / memory_of(12)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    (
        "30 recordings of 5,000 samples compared on two processes: times faster than on one",
        two_processes,
        "×",
        -1.6,
        -1.8,
    ),
    ("the same by two workers of a Dask cluster", two_workers, "×", -1.4, -1.7),
    ("memory of comparing 48 recordings, against 12", flat_memory, "×", 1.5, 1.1),
]
