"""What a copied subtree costs against making it by code, and a scene file by patterns against the same written out."""

from __future__ import annotations

import itertools
import json
import os
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from glent import Place, Scene
from glent.formats import read_scene
from glent.formats.patterns import written_out


def _fastest(work: Callable[[], object], times: int) -> float:
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append(time.perf_counter() - start)
    return min(spent)


def copying() -> float:
    """A card of 100 nodes: nine rows of ten buttons."""
    layer = Scene((800, 600)).layer("desk")
    number = itertools.count()

    def made() -> None:
        card = layer.add(f"card-{next(number)}", place=Place(0, 0, width=100, height=100), solidity="solid")
        for line in range(9):
            row = card.add(f"row-{line}", place=Place(0, line * 10, width=100, height=10), facts={"text": "row"})
            for at in range(10):
                place = Place(at * 10, 0, width=10, height=10)
                row.add(f"cell-{at}", place=place, role="button", facts={"text": "cell", "number": at})

    made()
    card = layer["card-0"]
    return _fastest(lambda: card.copy_to(layer, f"copy-{next(number)}"), 30) / _fastest(made, 30)


SLOT = {
    "takes": ["number"],
    "name": "slot-{number}",
    "role": "button",
    "place": {"left": 10, "top": 20, "width": 40, "height": 12},
    "facts": {"text": "slot {number}", "colour": "red"},
    "control": {"kind": "button", "argument": "{number}"},
}
"""What 9,900 of the 10,000 nodes are."""


def _files() -> tuple[Path, Path]:
    holds = [{"name": f"hold-{at}", "children": [{"use": "slot", "count": 99}]} for at in range(100)]
    head = {"glent": "scene", "version": 2, "size": [800, 600]}
    document = {**head, "patterns": {"slot": SLOT}, "layers": [{"name": "desk", "children": holds}]}
    folder = Path(tempfile.mkdtemp())
    files = folder / "patterns.json", folder / "written-out.json"
    for file, one in zip(files, (document, written_out(document, "").document), strict=True):
        file.write_text(json.dumps(one))
    return files


def reading() -> float:
    by_patterns, in_full = _files()
    return _fastest(lambda: read_scene(by_patterns), 5) / _fastest(lambda: read_scene(in_full), 5)


def smaller() -> float:
    by_patterns, in_full = _files()
    return in_full.stat().st_size / by_patterns.stat().st_size


def frames() -> float:
    """Whole frames a second of the gallery in a window at 1280×800, without a screen."""
    os.environ["SDL_VIDEODRIVER"] = "dummy"
    os.environ["PYGAME_HIDE_SUPPORT_PROMPT"] = "1"
    from glent.adapters.pygame_window import PlayWindow
    from glent.demo import GALLERY
    from glent.demo.worlds import world_for

    router, world = world_for(GALLERY)
    router.scene.window = (1280, 800)
    window = PlayWindow(router)
    window.frame()
    assert world.scene is router.scene
    return 1.0 / _fastest(window.frame, 60)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("a copy of a subtree of 100 nodes, against making it by code", copying, "×", 1.5, 0.7),
    ("reading a scene of 10,000 nodes by patterns, against written out", reading, "×", 1.2, 1),
    ("the same file, times smaller", smaller, "×", -5, -50),
    ("the gallery painted plainly at 1280×800", frames, "frames/s", -60, -120),
]
