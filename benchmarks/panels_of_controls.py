"""What controls cost: a frame with 200 of them on screen and one slider that moves, beyond the drag itself."""

from __future__ import annotations

import itertools
import statistics
from collections.abc import Callable

import scenes
from cost_tools import best
from gestures import PART, deep_button, feeder
from glent import Place, PointerSample, Router, Scene, Value
from glent.controls import Button, Slider, Toggle

CONTROLS = 200
FRAMES = 400


def board() -> tuple[Scene, list[Slider]]:
    """A board of 200 controls, each with a renderer that waits to be told of another look or value."""
    scene = Scene((1280, 720))
    panel = scene.layer("hud").add("board", solidity="solid")
    sliders = []
    for number in range(CONTROLS):
        row, column = divmod(number, 10)
        node = panel.add(f"c{number}", place=Place(left=10 + column * 126, top=8 + row * 35, width=120, height=30))
        if number % 4 == 0:
            sliders.append(Slider(node, Value(0.5, low=0.0, high=1.0)))
        elif number % 4 == 1:
            Toggle(node)
        else:
            Button(node, print)
        node.on("look", lambda event: None)
        node.on("change", lambda event: None)
    return scene, sliders


def frames(router: Router, x: float, y: float) -> Callable[[], None]:
    """Frames of a drag under way: a move and a tick each."""
    late = itertools.count(1)
    moves = [PointerSample(0.0, "move", x + (n % 80), y) for n in range(FRAMES)]
    for time, action in ((0.0, "move"), (0.0, "press")):
        router.feed(PointerSample(time, action, x, y, button=0))

    def run() -> None:
        start = next(late)
        for n, sample in enumerate(moves):
            sample.time = start + n / 1000.0
            router.feed(sample)
            router.tick(start + n / 1000.0)

    run()
    return run


def moving_slider() -> float:
    """Idle moves that a frame costs, beyond one in which a node is dragged whose handler does nothing."""
    scene, sliders = board()
    moved = sliders[20].node
    x, y = scene.point(moved, 20.0, 15.0)
    with_slider = frames(Router(scene), x, y)
    assert 0.3 < sliders[20].value.current < 0.9
    other, _ = board()
    plain = other["hud/board"].add("plain", order=1, place=moved.place, solidity="solid", axis="x")
    plain.on("drag", lambda event: None)
    alone = frames(Router(other), x, y)
    crowd = scenes.harbour(10_000)
    _, px, py = deep_button(crowd)
    idle = feeder(Router(crowd), [PointerSample(0.0, "move", px + n % 5 * 0.05, py) for n in range(PART)])
    idle()
    ratios = []
    for _ in range(15):
        spent, drag, one = best(with_slider, FRAMES, 1), best(alone, FRAMES, 1), best(idle, PART, 1)
        ratios.append((spent - drag) / one)
    return statistics.median(ratios)
