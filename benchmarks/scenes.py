"""Scenes to measure on: the same sort of thing at any size, with the same density."""

from __future__ import annotations

import math
import random

import glent
from glent import Ellipse, Node, Place, Polygon, Rounded, Scene

STAR = Polygon(
    [(0.5, 0.0), (0.62, 0.38), (1.0, 0.5), (0.62, 0.62), (0.5, 1.0), (0.38, 0.62), (0.0, 0.5), (0.38, 0.38)], unit="box"
)


def harbour(count: int, seed: int = 7) -> Scene:
    """``count`` nodes six deep: desks of panels of groups of cards of buttons with an icon each.

    One in eight cards is turned, some clip, a third of the leaves have a shape, one in seven is glass. A desk takes
    320 × 200 pixels for about 625 nodes, whatever the count: more nodes are more desks.
    """
    rng = random.Random(seed)
    desks = max(1, round(count / 625))
    columns = max(1, math.ceil(math.sqrt(desks)))
    scene = Scene(size=(columns * 320, math.ceil(desks / columns) * 200))
    hud = scene.layer("hud")
    made = 1

    def room() -> bool:
        return made < count

    for desk_number in range(desks):
        desk = hud.add(
            f"desk{desk_number}",
            place=Place(left=desk_number % columns * 320, top=desk_number // columns * 200, width=320, height=200),
        )
        made += 1
        for p in range(4):
            if not room():
                break
            panel = desk.add(
                f"panel{p}", place=Place(left=p % 2 * 160, top=p // 2 * 100, width=156, height=96), solidity="solid"
            )
            made += 1
            for g in range(6):
                if not room():
                    break
                group = panel.add(
                    f"group{g}",
                    place=Place(left=g % 3 * 52, top=g // 3 * 48, width=50, height=46),
                    clips=rng.random() < 0.5,
                )
                made += 1
                for c in range(4):
                    if not room():
                        break
                    turn = rng.uniform(-20, 20) if rng.random() < 0.125 else 0.0
                    card = group.add(
                        f"card{c}",
                        place=Place(left=c % 2 * 25, top=c // 2 * 23, width=24, height=22, turn=turn),
                        solidity=rng.choice(["solid", "hollow"]),
                    )
                    made += 1
                    for b in range(3):
                        if not room():
                            break
                        shape = rng.choice([None, None, None, None, Ellipse(), Rounded(2), STAR])
                        button = card.add(
                            f"button{b}",
                            place=Place(left=b * 8, top=1, width=7.5, height=20),
                            role="button",
                            shape=shape,
                            solidity="glass" if rng.random() < 1 / 7 else None,
                        )
                        made += 1
                        if room():
                            button.add(
                                "icon",
                                place=Place(left=1, top=4, width=5, height=5, turn=rng.choice([0, 0, 0, 45])),
                                solidity="solid",
                            )
                            made += 1
    return scene


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
    rng = random.Random(seed)
    return [(rng.random() * scene.size[0], rng.random() * scene.size[1]) for _ in range(count)]


__all__ = ["glent", "harbour", "points", "rows"]
