"""What a change of a list costs that shows in a window of rows, against public questions at a point of 10,000 nodes."""

from __future__ import annotations

import itertools
from collections.abc import Callable

import scenes
from cost_tools import ratio
from glent import ListValue, Place, Router, Scene
from glent.controls import Listbox

CHANGES = 100


def inserted(count: int) -> float:
    """One row more above those that show of ``count``, and the settle after it, in questions."""
    scene = Scene(size=(800, 600))
    node = scene.layer("desk").add("lots", place=Place(left=10, top=10, width=300, height=560))
    router = Router(scene)
    lots = ListValue([f"lot {number}" for number in range(count)])
    Listbox(node).follow_items(lots, lambda row, lot: row.facts.update({"text": lot}), 28)
    node.scroll = (0.0, 14_000.0)
    router.tick(0.0)
    number = itertools.count()

    def insert() -> None:
        for _ in range(CHANGES):
            lots.add(f"new {next(number)}", 3)
            router.settle()

    crowd = scenes.harbour(10_000)
    asked, at = Router(crowd), scenes.points(crowd, 200)

    def questions() -> None:
        for x, y in at:
            asked.hits(x, y)

    return ratio(insert, CHANGES, questions, len(at))


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("one more in a list of 10,000 that shows 20", lambda: inserted(10_000), "questions", 200, 50),
    ("the same in a list of 100,000", lambda: inserted(100_000), "questions", 200, 50),
]
