"""What a ray into the world costs, against a hit test of a screen with as many nodes."""

from __future__ import annotations

import itertools
import math
import random
from collections.abc import Callable

import numpy as np

import scenes
from cost_tools import ROUNDS, ratio
from glent import Area, Cuboid, Place, RaySample, Rectangle, Router, Scene, SnapPoint, Sphere
from glent.core.geometry.world.ray import Ray
from glent.core.routing.hit.point import pick

PANELS, SPOTS = 1_000, 10_000
SIDE = 1_000.0


def harbour(seed: int = 5) -> Scene:
    """A square kilometre of harbour: a thousand panels with a button each, and ten thousand spots, one of them the
    water below them all."""
    rng = random.Random(seed)
    scene = Scene(size=(1280, 720))
    for number in range(PANELS):
        angle = rng.uniform(0.0, 2.0 * math.pi)
        panel = scene.panel(
            f"board-{number}",
            (2.0, 1.2),
            (1000, 600),
            position=(rng.uniform(0.0, SIDE), rng.uniform(1.0, 4.0), rng.uniform(0.0, SIDE)),
            facing=(math.cos(angle), rng.uniform(-0.2, 0.5), math.sin(angle)),
            radius=rng.choice((None, None, None, 1.5)),
        )
        panel.add("button", place=Place(left=50, top=50, width=900, height=500), role="button")
    scene.spot("water", Area([(0.0, 0.0), (SIDE, 0.0), (SIDE, SIDE), (0.0, SIDE)]))
    for number in range(SPOTS - 1):
        angle = rng.uniform(0.0, 2.0 * math.pi)
        at = (rng.uniform(0.0, SIDE), rng.uniform(0.1, 4.0), rng.uniform(0.0, SIDE))
        scene.spot(f"spot-{number}", _form(rng, number % 5), at, (math.cos(angle), 0.0, math.sin(angle)))
    return scene


def _form(rng: random.Random, kind: int):
    if kind == 0:
        return Cuboid((rng.uniform(0.5, 4.0), rng.uniform(0.5, 4.0), rng.uniform(0.5, 4.0)))
    if kind == 1:
        return Sphere(rng.uniform(0.3, 2.0))
    if kind == 2:
        return SnapPoint(0.5)
    if kind == 3:
        return Rectangle(3.0, 2.0)
    corners = rng.randint(5, 9)
    ring = [(rng.uniform(1.0, 5.0), n * 2.0 * math.pi / corners) for n in range(corners)]
    return Area([(far * math.cos(angle), far * math.sin(angle)) for far, angle in ring])


def aims(count: int, seed: int = 1) -> list[tuple]:
    """Where people point who stand anywhere in it: mostly ahead and a little down."""
    rng = random.Random(seed)
    found = []
    for _ in range(count):
        turn, tilt = rng.uniform(0.0, 2.0 * math.pi), rng.uniform(-0.6, 0.1)
        origin = (rng.uniform(0.0, SIDE), rng.uniform(1.5, 12.0), rng.uniform(0.0, SIDE))
        level = math.cos(tilt)
        found.append((origin, (math.cos(turn) * level, math.sin(tilt), math.sin(turn) * level)))
    return found


def _screen() -> tuple[Scene, list[tuple[float, float]]]:
    scene = scenes.harbour(12_000)  # as many nodes as the harbour has, buttons included
    scene._index.refresh()
    return scene, scenes.points(scene, 1_000)


def one_ray() -> float:
    """The offers along a ray, in hit tests of a screen: what either finds before seats and modals have a say."""
    scene, (screen, points) = harbour(), _screen()
    world_index = scene._world_index
    scene._index.refresh()
    world_index.refresh()
    rays = [Ray(*aim) for aim in aims(1_000)]
    return ratio(
        lambda: [world_index.along(ray) for ray in rays],
        len(rays),
        lambda: [pick(screen, x, y) for x, y in points],
        len(points),
        3 * ROUNDS,
    )


def one_question() -> float:
    """The same by the questions a game asks: all hits along a ray, against all hits at a point."""
    scene, (screen, points) = harbour(), _screen()
    router, other = Router(scene), Router(screen)
    rays = aims(1_000)
    return ratio(
        lambda: [router.hits_ray(*ray) for ray in rays],
        len(rays),
        lambda: [other.hits(x, y) for x, y in points],
        len(points),
    )


def many_rays() -> float:
    """Ten thousand rays one by one, against all at once. Both must find the same."""
    scene = harbour()
    router = Router(scene)
    rays = aims(10_000)
    origins, directions = np.array([o for o, _ in rays]), np.array([d for _, d in rays])
    hits = router.hits_rays(origins, directions)
    for (origin, direction), node in list(zip(rays, hits.nodes, strict=True))[:500]:
        first = next((hit.node for hit in router.hits_ray(origin, direction) if hit.offered), None)
        assert first is node, "both must find the same"
    return ratio(
        lambda: [router.hits_ray(*ray) for ray in rays],
        len(rays),
        lambda: router.hits_rays(origins, directions),
        len(rays),
        5,
    )


def sailing() -> float:
    """One of all these panels moves under a ray that rests on it, and hover is settled, in hit tests of a screen."""
    scene, (screen, points) = harbour(), _screen()
    router = Router(scene)
    board = scene["board-7"]
    x, y, z = board.pose.position
    shift = itertools.cycle((0.05, -0.05))
    out = board.normal(500.0, 300.0)
    origin = tuple(at + 1.5 * way for at, way in zip((x, y, z), out, strict=True))
    router.feed(RaySample(0.0, "move", origin, tuple(-way for way in out)))

    def sail() -> None:
        for _ in range(200):
            board.move((x + next(shift), y, z))
            router.settle()

    sail()
    return ratio(sail, 200, lambda: [pick(screen, *point) for point in points], len(points))


ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("a ray against 1,000 panels and 10,000 spots", one_ray, "hit tests", 8, 4),
    ("the same by the public question, against that at a point", one_question, "questions", 8, 4),
    ("10,000 rays at once: times faster than one by one", many_rays, "×", -20, -40),
    ("one of those panels moves under a ray, settled", sailing, "hit tests", 60, 30),
]
