"""What a changed label costs where 10,000 nodes are laid out by flows, against laying all of them out first."""

from __future__ import annotations

import itertools
import statistics
import time
from collections.abc import Callable

from glent import Flow, Node, Place, Scene


def boards() -> Scene:
    """100 boards below each other, each a row of 9 columns of 10 labels, all as large as what is in them."""
    scene = Scene((1600, 20_000))
    layer = scene.layer("boards")
    layer.flow = Flow("column", gap=2)
    for number in range(100):
        board = layer.add(
            f"board-{number}", place=Place(height="fit-content"), flow=Flow("row", gap=4, padding=4), clips=True
        )
        for column in range(9):
            berth = board.add(f"berth-{column}", place=Place(grow=1), flow=Flow("column", gap=1), role="list")
            for label in range(10):
                berth.add(f"label-{label}", content=(40 + 3 * label, 12), role="button")
    return scene


def longer(label: Node, number: int) -> None:
    """Its column is wider now, and the others of its board less so."""
    label.content = (120 + number % 40, 12)


def taller(label: Node, number: int) -> None:
    """Its board is taller, and the 49 below move."""
    label.content = (40, 20 + number % 40)


def _measured(change: Callable[[Node, int], None], changes: int = 60) -> float:
    found = []
    for _ in range(5):
        scene = boards()
        label = scene["boards/board-50/berth-4/label-3"]
        start = time.perf_counter()
        assert label.size[0] > 0
        first = time.perf_counter() - start
        spent = []
        for number in itertools.islice(itertools.count(), changes):
            change(label, number)
            start = time.perf_counter()
            assert label.size[1] > 0
            spent.append(time.perf_counter() - start)
        found.append(statistics.median(spent) / first)
    return statistics.median(found)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("a longer label among 10,000 nodes in flows", lambda: _measured(longer), "first layouts", 1 / 50, 1 / 200),
    ("a taller one, which moves half of all boards", lambda: _measured(taller), "first layouts", 1 / 50, 1 / 200),
]
