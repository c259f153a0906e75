"""What moving the focus costs, against hit tests in the same scene."""

from __future__ import annotations

import itertools
import random
from collections.abc import Callable

from cost_tools import ROUNDS, ratio
from glent import KeySample, Place, Router, Scene
from glent.core.routing.hit.point import pick

STOPS = 1_000
STEPS = 201
WAYS = ("ArrowRight", "ArrowDown", "ArrowRight", "ArrowUp", "ArrowLeft", "ArrowLeft", "ArrowDown")


def deck() -> tuple[Scene, Router]:
    """A thousand buttons of many sizes, some turned, in nested groups, on one modal layer."""
    rng = random.Random(5)
    scene = Scene(size=(1600, 1200))
    layer = scene.layer("deck", modal=True)
    for column, row in itertools.product(range(10), range(10)):
        place = Place(left=column * 160, top=row * 120, width=156, height=116, turn=rng.choice((0, 0, 0, 4)))
        group = layer.add(f"group-{column}-{row}", place=place).add("inner", place=Place(left=4, top=4))
        for number in range(STOPS // 100):
            box = Place(
                left=number % 4 * 38, top=number // 4 * 36, width=rng.randint(20, 34), height=rng.randint(18, 30)
            )
            group.add(f"button-{number}", place=box, role="button")
    return scene, Router(scene)


def step() -> float:
    """One arrow key, down and up, that moves the focus among 1,000 stops, in hit tests of the same scene."""
    scene, router = deck()
    return _measured(scene, router, "deck/group-5-5/inner/button-4", WAYS)


def rows() -> tuple[Scene, Router]:
    """A list of a thousand rows that scrolls to show the one with the focus."""
    scene = Scene(size=(1600, 1200))
    layer = scene.layer("deck", modal=True)
    area = layer.add("rows", role="listbox", place=Place(100, 100, width=400, height=600), scrolls=True, clips=True)
    for number in range(STOPS):
        area.add(f"row-{number}", role="option", place=Place(0, number * 30, width=400, height=28))
    return scene, Router(scene)


def step_in_a_list() -> float:
    """The same down a list that scrolls at every step."""
    scene, router = rows()
    return _measured(scene, router, "deck/rows/row-500", ("ArrowDown",))


def step_with_a_marker() -> float:
    """The same where a handler of the focus moves a marker there."""
    scene, router = deck()
    marker = scene["deck"].add("marker", solidity="ghost", place=Place(0, 0, width=20, height=20))
    for node in scene.walk():
        if node.role == "button":
            node.on("focus", lambda event: setattr(marker, "place", marker.place.replace(left=event.node.edges[0])))
    return _measured(scene, router, "deck/group-5-5/inner/button-4", WAYS)


def step_after_a_change() -> float:
    """The same where a stop has been moved since the step before, so that all are found anew."""
    scene, router = deck()
    moving = scene["deck/group-0-0/inner/button-0"]
    left = itertools.count()
    for node in scene.walk():
        if node.role == "button":
            node.on("focus", lambda event: setattr(moving, "place", moving.place.replace(left=next(left) % 5)))
    return _measured(scene, router, "deck/group-5-5/inner/button-4", WAYS, 9)


def _measured(scene: Scene, router: Router, start: str, keys: tuple[str, ...], steps: int = STEPS) -> float:
    seat = router.seat()
    clock = itertools.count(1)
    ways = itertools.cycle(keys)

    def go() -> None:
        router.settle()
        seat.focus = scene[start]
        for _ in range(steps):
            now, code = float(next(clock)), next(ways)
            router.feed(KeySample(now, "down", code))
            router.feed(KeySample(now, "up", code))
        assert seat.focus is not scene[start]

    rng = random.Random(7)
    at = [(rng.uniform(0, 1600), rng.uniform(0, 1200)) for _ in range(1_000)]

    def picks() -> None:
        for x, y in at:
            pick(scene, x, y)

    go()
    picks()
    return ratio(go, steps, picks, len(at), 3 * ROUNDS)


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("move the focus by an arrow key among 1,000 stops", step, "hit tests", 100, 50),
    ("the same, with a marker that is moved there", step_with_a_marker, "hit tests", 200, 100),
    ("the same down a list of 1,000 rows that scrolls along", step_in_a_list, "hit tests", 500, 200),
    ("the same where one of the stops has moved", step_after_a_change, "hit tests", 4_000, 1_000),
]
