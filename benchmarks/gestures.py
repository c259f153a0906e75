"""What gestures cost, against idle moves in the same run."""

from __future__ import annotations

import itertools
import math
import random
import statistics
from collections.abc import Callable

import scenes
from cost_tools import best
from glent import Place, PointerSample, Router
from glent.core.routing.hit.point import pick

SAMPLES = 10_000
PART = 1_000
TOUCHES = 10
FRAMES = 1_000


def deep_button(scene):
    """A button six deep with an unturned way to it, and its middle on the screen."""
    scene._index.refresh()
    for node in scene.walk():
        if (
            node.name == "button1"
            and len(node.lineage()) == 6
            and node.shape is None
            and node.effective_solidity == "solid"
        ):
            x, y = scene.point(node, 1.0, 2.5)
            if pick(scene, x, y) == [node] and all(not above.place.turn for above in node.lineage()[1:]):
                return node, x, y
    raise AssertionError("no such button")


def feeder(router: Router, samples: list[PointerSample]) -> Callable[[], None]:
    """Feeds some of the samples a time, one after another, each a little later than the one before."""
    parts = [samples[start : start + PART] for start in range(0, len(samples), PART)]
    turn = itertools.cycle(parts)

    def feed() -> None:
        late = router.now
        for n, sample in enumerate(next(turn)):
            sample.time = late + n * 1e-4
            router.feed(sample)

    return feed


def against_idle(work: Callable[[], None], rounds: int, each: int = 1) -> float:
    """How many idle moves ``each`` samples cost: by rounds of a few milliseconds that measure both in turn.

    A part of the work counts as the median of its ratios to the idle moves right after it, so that phases in which the
    machine is slow, and single disturbed rounds, drop out.
    """
    scene = scenes.harbour(10_000)
    _, x, y = deep_button(scene)
    router = Router(scene)
    idle = feeder(router, [PointerSample(0.0, "move", x + n % 5 * 0.05, y) for n in range(PART)])
    idle()
    ratios: list[list[float]] = [[] for _ in range(rounds)]
    for _ in range(15):
        for part in ratios:
            spent = best(work, PART, 1)
            part.append(spent / best(idle, PART, 1))
    return each * statistics.mean(map(statistics.median, ratios))


def dragging(scene, node, x: float, y: float, way: list[tuple[float, float]]) -> Callable[[], None]:
    """A drag and drop of a node along a way, under way."""
    node.on("drag_start", lambda event: event.give("salt"))
    node.on("drag", lambda event: None)
    router = Router(scene)
    router.feed(PointerSample(0.0, "move", x, y))
    router.feed(PointerSample(0.0, "press", x, y, button=0))
    drag = feeder(router, [PointerSample(0.0, "move", *point) for point in way])
    for _ in range(0, len(way), PART):
        drag()
    assert router.feed(PointerSample(router.now, "move", *way[-1])).gesture == "drag"
    return drag


def drag_over_slots() -> float:
    """A crate dragged about in a hold of 120 slots of 64 pixels, in front of a scene of 10,000 nodes."""
    scene = scenes.harbour(10_000)
    heard: list[str] = []
    hold = scene.layer("hold", order=99).add("panel", place=Place(20, 20, width=800, height=680), solidity="solid")
    for row in range(10):
        line = hold.add("rows" if not row else f"rows{row}", place=Place(10, 10 + row * 66, right=10, height=64))
        for column in range(12):
            slot = line.add(f"slot{column}", place=Place(column * 65, 0, width=64, height=64))
            slot.accepts = lambda payload: None
            slot.on("drag_enter", lambda event: heard.append(event.node.name))
    crate = hold["rows/slot0"].add("crate", place=Place(8, 8, width=48, height=48), solidity="solid")
    rng = random.Random(5)
    way = [(60.0, 60.0)]
    while len(way) < SAMPLES:  # from one slot to another in straight lines, 1.6 pixels a sample: a mouse of 1,000 Hz
        (x0, y0), (x1, y1) = way[-1], (rng.uniform(110, 780), rng.uniform(30, 680))
        steps = max(1, round(math.hypot(x1 - x0, y1 - y0) / 1.6))
        way += [(x0 + (x1 - x0) * n / steps, y0 + (y1 - y0) * n / steps) for n in range(1, steps + 1)]
    drag = dragging(scene, crate, 60.0, 60.0, way[:SAMPLES])
    assert len(heard) > 100
    return against_idle(drag, SAMPLES // PART)


def drag_over_crowd() -> float:
    """The same among the 10,000 nodes themselves: something else lies under the pointer at every fourth sample."""
    scene = scenes.harbour(10_000)
    node, x, y = deep_button(scene)
    heard: list[str] = []
    for number, one in enumerate(scene.walk()):
        if one.name.startswith("button") and number % 2 and one is not node:
            one.accepts = lambda payload: None
            one.on("drag_enter", lambda event: heard.append(event.node.name))
    drag = dragging(scene, node, x, y, scenes.strokes(scene, SAMPLES, step=1.6))
    assert len(heard) > 300
    return against_idle(drag, SAMPLES // PART)


def ten_touches() -> float:
    """A frame of ten fingers that all rest, trembling, on buttons."""
    scene = scenes.harbour(10_000)
    scene._index.refresh()
    router = Router(scene)
    places = []
    for node in scene.walk():
        if node.name.startswith("button") and node.effective_solidity == "solid" and node.shape is None:
            x, y = scene.point(node, 1.0, 2.5)
            if 0 <= x < scene.size[0] and 0 <= y < scene.size[1] and pick(scene, x, y, "touch") == [node]:
                places.append((x, y))
        if len(places) == TOUCHES:
            break
    assert len(places) == TOUCHES
    for number, (x, y) in enumerate(places):
        assert router.feed(PointerSample(0.0, "press", x, y, f"finger-{number}", "touch", 0)).owner is not None
    frames = [
        PointerSample(0.0, "move", x + frame % 5 * 0.05, y, f"finger-{number}", "touch")
        for frame in range(FRAMES)
        for number, (x, y) in enumerate(places)
    ]
    return against_idle(feeder(router, frames), len(frames) // PART, TOUCHES)
