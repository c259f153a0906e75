"""What it costs to keep nodes in step with a tree of other people's widgets, against public questions at a point."""

from __future__ import annotations

import itertools
import statistics
import time
from collections.abc import Callable

import scenes
from cost_tools import best
from glent import Place, Router, Scene
from glent.mirror import Mirror

ROWS_AND_COLUMNS = 99, 100


class Widget:
    """A widget of somebody's toolkit."""

    def __init__(self, name: str, box: tuple[float, float, float, float], children: list[Widget]) -> None:
        self.name, self.box, self.children = name, box, children
        self.solidity = "glass"
        self.version = 0


def tree() -> Widget:
    """10,000 widgets: a window with 99 boards of 100 buttons."""
    boards = []
    for row in range(ROWS_AND_COLUMNS[0]):
        buttons = [Widget(f"b{at}", (at % 10 * 8.0, at // 10 * 6.0, 7.0, 5.0), []) for at in range(100)]
        boards.append(Widget(f"board-{row}", (row % 10 * 90.0, row // 10 * 64.0, 84.0, 60.0), buttons))
    return Widget("window", (0.0, 0.0, 1000.0, 700.0), boards)


def mirrored(version: bool) -> tuple[Router, Widget, Mirror]:
    scene, root = Scene((1000, 700)), tree()
    mirror = Mirror(scene.layer("w"), root, solidity="solidity", version="version" if version else None)
    router = Router(scene)
    router.settle()
    return router, root, mirror


def question() -> float:
    """Seconds for a public question at a point of 10,000 nodes."""
    crowd = scenes.harbour(10_000)
    asked, at = Router(crowd), scenes.points(crowd, 200)

    def questions() -> None:
        for x, y in at:
            asked.hits(x, y)

    questions()
    return best(questions, len(at))


def nothing_changed(version: bool) -> float:
    _, _, mirror = mirrored(version)
    times = 50 if version else 3
    return best(lambda: [mirror.update() for _ in range(times)], times) / question()


def one_percent() -> float:
    """100 of 10,000 moved, ten on each of ten boards, and settled; against the same set by hand."""
    router, root, mirror = mirrored(True)
    other_router, _, other = mirrored(True)
    moved = [(board, one) for board in root.children[:10] for one in board.children[:10]]
    nodes = [other.node(one) for board in other._root.children[:10] for one in board.children[:10]]
    shift = itertools.cycle((1.0, -1.0))

    def by_mirror() -> None:
        by = next(shift)
        for board, one in moved:
            left, top, width, height = one.box
            one.box = (left + by, top, width, height)
            one.version += 1
            board.version += 1
        root.version += 1
        mirror.update()
        router.settle()

    def by_hand() -> None:
        by = next(shift)
        for node in nodes:
            place = node.place
            node.place = Place(place.left + by, place.top, width=place.width, height=place.height)
        other_router.settle()

    ratios = []
    for _ in range(15):
        for work in (by_mirror, by_hand):
            work()
        start = time.perf_counter()
        by_mirror()
        middle = time.perf_counter()
        by_hand()
        ratios.append((middle - start) / (time.perf_counter() - middle))
    return statistics.median(ratios)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("a mirror of 10,000 widgets with versions, nothing changed", lambda: nothing_changed(True), "questions", 20, 1),
    ("the same without versions", lambda: nothing_changed(False), "questions", 3_000, 1_000),
    ("the same with 1 % moved, against moving nodes by hand", one_percent, "×", 2, 1.5),
]
