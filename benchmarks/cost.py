"""The table of costs: ratios of things measured in one run, with the bar beside each. `make bench`."""

from __future__ import annotations

import gc
import itertools
import json
import subprocess
import sys
import time
import tracemalloc
from collections.abc import Callable
from pathlib import Path

import shapely
from rich.console import Console
from rich.progress import track
from rich.table import Table

import building
import comparing
import declaring
import flowing
import focusing
import gestures
import listing
import mirroring
import pointing
import rivals
import scenes
import watching
from cost_tools import ROUNDS, best, ratio
from glent import PointerSample, Router
from glent.core.routing.hit.point import pick
from glent.diagnose import pass_map
from panels_of_controls import moving_slider


def bare(_: object) -> None:
    pass


def bare_calls() -> Callable[[], None]:
    things = list(range(20_000))

    def calls() -> None:
        for thing in things:
            bare(thing)

    return calls


BARE = 20_000


def hit_tests(count: int = 10_000, many: int = 1_000, where: Callable = scenes.points):
    scene = scenes.harbour(count)
    scene._index.refresh()
    at = where(scene, many)

    def picks() -> None:
        for x, y in at:
            pick(scene, x, y)

    picks()
    return scene, at, picks, many


def against_strtree() -> float:
    scene, at, picks, many = hit_tests()
    offers = rivals.strtree(scene)
    ready = [shapely.Point(*point) for point in at]
    assert all(offers(p) == pick(scene, *xy) for p, xy in zip(ready, at, strict=True)), "both must find the same"
    return ratio(lambda: [offers(p) for p in ready], many, picks, many, 5 * ROUNDS)


def against_scan() -> float:
    scene, at, picks, many = hit_tests()
    offers = rivals.plain_scan(scene)
    few = at[:40]
    assert all(offers(*xy) == pick(scene, *xy) for xy in few), "both must find the same"
    return ratio(lambda: [offers(*xy) for xy in few], len(few), picks, many, 3)


def growth() -> float:
    """Along strokes, as a pointer asks: points thrown all over a scene of 150 MB measure the processor's caches."""
    _, _, large, many = hit_tests(100_000, where=scenes.strokes)
    _, _, small, _ = hit_tests(1_000, where=scenes.strokes)
    return ratio(large, many, small, many, 5 * ROUNDS)


def idle_move() -> float:
    scene = scenes.harbour(10_000)
    _, x, y = gestures.deep_button(scene)
    router = Router(scene)
    moves = [PointerSample(n * 1e-3, "move", x + n % 5 * 0.05, y) for n in range(1_000)]
    for sample in moves:
        router.feed(sample)

    def feed() -> None:
        late = router.now
        for n, sample in enumerate(moves):
            sample.time = late + n * 1e-3
            router.feed(sample)

    def setting_times() -> None:
        late = router.now
        for n, sample in enumerate(moves):
            sample.time = late + n * 1e-3

    # What setting the time of a sample costs is not the router's.
    return less(feed, setting_times, len(moves))


def less(work: Callable[[], object], part: Callable[[], object], count: int) -> float:
    """Bare calls for one of ``count`` things of ``work``, less a part of it.

    Least against least, over many rounds of a few milliseconds for either side: a round that is disturbed drops out.
    """
    calls = bare_calls()
    spent, parts, bares = [], [], []
    for _ in range(100):
        spent.append(best(work, count, 1))
        parts.append(best(part, count, 1))
        bares.append(best(calls, BARE, 1))
    return (min(spent) - min(parts)) / min(bares)


def click() -> float:
    scene = scenes.harbour(10_000)
    node, x, y = gestures.deep_button(scene)
    heard = []
    node.on("click", heard.append)
    router = Router(scene)
    router.feed(PointerSample(0.0, "move", x, y))
    pairs = [
        (PointerSample(0.0, "press", x, y, button=0), PointerSample(0.0, "release", x, y, button=0)) for _ in range(250)
    ]
    clock = itertools.count(1)

    def set_times() -> None:
        for press, release in pairs:
            now = float(next(clock))
            press.time, release.time = now, now + 0.1

    def clicks() -> None:
        set_times()
        heard.clear()
        for press, release in pairs:
            router.feed(press)
            router.feed(release)
        assert len(heard) == len(pairs)

    return less(clicks, set_times, len(pairs))


def settling() -> float:
    scene = scenes.harbour(10_000)
    router = Router(scene)
    router.feed(PointerSample(0.0, "move", 100.0, 100.0))
    movers = [node for node in scene.walk() if node.name.startswith("button")][::40][:100]
    assert len(movers) == 100
    shift = itertools.cycle((0.5, -0.5))

    def move_one_percent() -> None:
        by = next(shift)
        for node in movers:
            node.place = node.place.replace(left=node.place.left + by)

    moved, built = [], []
    for _ in range(ROUNDS):
        move_one_percent()
        began = time.perf_counter()
        router.settle()
        moved.append(time.perf_counter() - began)
        fresh = scenes.harbour(10_000)
        began = time.perf_counter()
        fresh._index.refresh()
        pick(fresh, 1.0, 1.0)
        built.append(time.perf_counter() - began)
    return min(moved) / min(built)


def scrolling() -> float:
    def stepper(count: int) -> Callable[[], None]:
        scene, box = scenes.rows(count)
        router = Router(scene)
        clock, wheel = itertools.count(), itertools.cycle(range(24, 240, 24))
        router.feed(PointerSample(0.0, "move", 100.0, 100.0))

        def step() -> None:
            for _ in range(200):
                box.scroll = (0.0, float(next(wheel)))
                router.feed(PointerSample(float(next(clock)), "move", 100.0, 100.0))

        step()
        return step

    return ratio(stepper(10_000), 200, stepper(100), 200)


def the_map() -> float:
    scene, _, picks, many = hit_tests()
    scene.window = (1280, 800)
    return ratio(lambda: pass_map(scene), 1, picks, many)


def memory() -> float:
    gc.collect()
    tracemalloc.start()
    scene = scenes.harbour(10_000)
    scene._index.refresh()
    for x, y in scenes.points(scene, 1_000):
        pick(scene, x, y)
    gc.collect()
    used = tracemalloc.get_traced_memory()[0]
    tracemalloc.stop()
    return used / sum(1 for _ in scene.walk()) / 1024


def importing() -> float:
    def seconds(module: str) -> float:
        code = f"import time; t = time.perf_counter(); import {module}; print(time.perf_counter() - t)"
        return float(subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout)

    pairs = [(seconds("glent"), seconds("numpy")) for _ in range(25)]
    return min(a for a, _ in pairs) / min(b for _, b in pairs)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    # what, how, unit, bar, aim; a bar of "at least" is written as a negative number
    ("hit test, 10,000 nodes: times faster than an STRtree", against_strtree, "×", -3, -8),
    ("the same: times faster than a plain scan", against_scan, "×", -100, -500),
    ("the same along strokes of a pointer, 100,000 nodes against 1,000", growth, "×", 2, 1.2),
    ("an idle pointer move, 10,000 nodes, depth 6", idle_move, "bare calls", 100, 50),
    ("a click: press and release, depth 6, one handler", click, "bare calls", 600, 300),
    ("settle after 1 % of 10,000 nodes moved, against building anew", settling, "×", 1 / 10, 1 / 30),
    ("scroll a list of 10,000 rows one step, against 100 rows", scrolling, "×", 1.5, 1),
    ("pass-through map, 1280×800, 10,000 nodes", the_map, "hit tests", 50_000, 10_000),
    ("a drag of 10,000 samples over 120 drop targets: a sample", gestures.drag_over_slots, "idle moves", 3, 2),
    ("the same over 10,000 nodes, another at every fourth sample", gestures.drag_over_crowd, "idle moves", 3, 2),
    ("ten fingers resting on buttons: a frame of ten samples", gestures.ten_touches, "idle moves", 12, 10),
    *focusing.ROWS,
    *pointing.ROWS,
    *flowing.ROWS,
    *building.ROWS,
    *listing.ROWS,
    *mirroring.ROWS,
    *declaring.ROWS,
    *watching.ROWS,
    *comparing.ROWS,
    ("a frame of 200 controls with a slider that moves, beyond the drag itself", moving_slider, "idle moves", 10, 5),
    ("memory a node, index included", memory, "KiB", 1.5, 0.8),
    ("import glent, against import numpy", importing, "×", 1.6, 1.2),
]


def shown(value: float) -> str:
    return f"{value:,.0f}" if abs(value) >= 20 else f"{value:.2f}" if abs(value) >= 0.1 else f"{value:.3f}"


def main() -> int:
    console = Console(width=110)
    table = Table("work", "measured", "bar", "aim", "holds", title="Cost, as ratios in one run")
    results = []
    for what, how, unit, bar, aim in track(ROWS, "measuring", console=Console(stderr=True), transient=True):
        value = how()
        at_least = bar < 0
        holds = value >= -bar if at_least else value <= bar
        sign = "≥" if at_least else "≤"
        table.add_row(
            what,
            f"{shown(value)} {unit}",
            f"{sign} {shown(abs(bar))}",
            f"{sign} {shown(abs(aim))}",
            "yes" if holds else "NO",
        )
        results.append(
            {"work": what, "measured": value, "unit": unit, "bar": abs(bar), "aim": abs(aim), "holds": holds}
        )
    console.print(table)
    out = Path("build")
    out.mkdir(exist_ok=True)
    (out / "cost.json").write_text(json.dumps(results, indent=1) + "\n")
    return 0 if all(row["holds"] for row in results) else 1


if __name__ == "__main__":
    sys.exit(main())
