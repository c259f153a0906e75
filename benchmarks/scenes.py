"""Scenes to measure on: the same sort of thing at any size, with the same density."""

from __future__ import annotations

import math
import random

from glent import Ellipse, Node, Place, Polygon, Rounded, Scene

STAR = Polygon(
    [(0.5, 0.0), (0.62, 0.38), (1.0, 0.5), (0.62, 0.62), (0.5, 1.0), (0.38, 0.62), (0.0, 0.5), (0.38, 0.38)], unit="box"
)


DESK = 500
"""Nodes on one desk of 320 × 200 pixels: more nodes are more desks, never denser ones."""


def harbour(count: int, seed: int = 7) -> Scene:
    """``count`` nodes (a multiple of 500) six deep: desks of panels of groups of cards of buttons with an icon each.

    One in eight cards is turned, half of the groups clip, three in seven buttons have a shape, one in seven is glass,
    one in four icons is turned.
    """
    rng = random.Random(seed)
    desks = count // DESK
    columns = next(n for n in range(math.ceil(math.sqrt(desks)), desks + 1) if desks % n == 0)
    scene = Scene(size=(columns * 320, desks // columns * 200))
    hud = scene.layer("hud")
    for number in range(desks):
        place = Place(left=number % columns * 320, top=number // columns * 200, width=320, height=200)
        _fill(hud.add(f"desk{number}", place=place), rng)
    return scene


def _fill(desk: Node, rng: random.Random) -> None:
    left = DESK - 1

    def put(parent: Node, name: str, place: Place, **given: object) -> Node | None:
        nonlocal left
        if left == 0:
            return None
        left -= 1
        return parent.add(name, place=place, **given)

    def at(x: float, y: float, width: float, height: float, turn: float = 0.0) -> Place:
        return Place(left=x, top=y, width=width, height=height, turn=turn)

    panels = [put(desk, f"panel{p}", at(p % 2 * 160, p // 2 * 100, 156, 96), solidity="solid") for p in range(4)]
    for g in range(6):  # group by group through all panels, so that what is left out is left out evenly
        for panel in panels:
            clips = rng.random() < 0.5
            group = put(panel, f"group{g}", at(g % 3 * 52, g // 3 * 48, 50, 46), clips=clips) if panel else None
            for c in range(4) if group else ():
                turn = rng.uniform(-20, 20) if rng.random() < 0.125 else 0.0
                solidity = rng.choice(["solid", "hollow"])
                card = put(group, f"card{c}", at(c % 2 * 25, c // 2 * 23, 24, 22, turn), solidity=solidity)
                for b in range(3) if card else ():
                    shape = rng.choice([None, None, None, None, Ellipse(), Rounded(2), STAR])
                    glass = "glass" if rng.random() < 1 / 7 else None
                    button = put(card, f"button{b}", at(b * 8, 1, 7.5, 20), role="button", shape=shape, solidity=glass)
                    if button:
                        put(button, "icon", at(1, 4, 5, 5, rng.choice([0, 0, 0, 45])), solidity="solid")


def rows(count: int) -> tuple[Scene, Node]:
    """A clipped list of so many rows of three nodes, and the node to scroll."""
    scene = Scene(size=(400, 600))
    box = scene.layer("hud").add(
        "list", place=Place(left=10, top=10, width=300, height=560), clips=True, solidity="solid"
    )
    for number in range(count):
        row = box.add(f"row{number}", place=Place(left=0, right=0, top=number * 24, height=24), role="option")
        row.add("name", place=Place(left=4, top=2, width=200, height=20))
        row.add("drop", place=Place(right=4, top=2, width=20, height=20), role="button")
    return scene, box


def points(scene: Scene, count: int, seed: int = 3) -> list[tuple[float, float]]:
    """Points anywhere on a scene."""
    rng = random.Random(seed)
    return [(rng.random() * scene.size[0], rng.random() * scene.size[1]) for _ in range(count)]


def strokes(scene: Scene, count: int, seed: int = 3, step: float = 4.0) -> list[tuple[float, float]]:
    """Points where a pointer goes: strokes that begin anywhere and go on for 160 pixels, one sample a step."""
    rng = random.Random(seed)
    width, height = scene.size
    found: list[tuple[float, float]] = []
    while len(found) < count:
        x, y, angle = rng.random() * width, rng.random() * height, rng.random() * 2 * math.pi
        dx, dy = step * math.cos(angle), step * math.sin(angle)
        samples = round(160 / step)
        found.extend(((x + one * dx) % width, (y + one * dy) % height) for one in range(samples))
    return found[:count]


__all__ = ["harbour", "points", "rows", "strokes"]
