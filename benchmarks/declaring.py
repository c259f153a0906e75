"""What a frame of declared UI costs where nothing has changed, or little, against public questions at a point."""

from __future__ import annotations

import itertools
from collections.abc import Callable

from cost_tools import best
from glent import Router, Scene
from glent.immediate import Draft
from mirroring import question

REGIONS = 1_000


def a_frame(changing: int) -> float:
    """A frame of 1,000 regions in ten rows, of which some are elsewhere in each."""
    scene = Scene((1280, 800))
    router = Router(scene)
    draft = Draft(scene.layer("tools"))
    keys = [f"region-{number}" for number in range(REGIONS)]
    frames = itertools.count()

    def frame() -> None:
        shift = next(frames) % 2
        with draft as now:
            for number, key in enumerate(keys):
                left = number % 50 * 25 + (shift if number < changing else 0)
                now.region(key, (20, 20), at=(left, number // 50 * 25))
        router.settle()

    frame()
    return best(lambda: [frame() for _ in range(5)], 5) / question()


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("a frame of 1,000 declared regions, nothing changed", lambda: a_frame(0), "questions", 400, 200),
    ("the same with 10 changed", lambda: a_frame(10), "questions", 450, 220),
]
