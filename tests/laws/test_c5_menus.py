"""The laws of menus: gaps and diagonals are forgiven, and going away closes."""

from __future__ import annotations

import random

import pytest
import shapely
from shapely.geometry import MultiPoint, Point

from glent.controls import Menu
from glent.testing import Hand
from stage import Stage


def corners(stage: Stage, path: str) -> list[tuple[float, float]]:
    node = stage.scene[path]
    width, height = node.size
    return [stage.scene.point(node, x, y) for x, y in ((0, 0), (width, 0), (width, height), (0, height))]


def forgiven(stage: Stage) -> shapely.Geometry:
    """Where a pointer may be, in window pixels: the bar, the menus, and the hull of each with its opener."""
    parts = [MultiPoint(corners(stage, "desk/bar")).convex_hull]
    for path, one in stage.controls.items():
        if isinstance(one, Menu) and one.is_open:
            parts.append(MultiPoint([*corners(stage, path), *corners(stage, one.opener.path)]).convex_hull)
    return shapely.unary_union(parts)


def outside(stage: Stage, rng: random.Random) -> tuple[float, float]:
    region, (across, down) = forgiven(stage).buffer(1.0), stage.scene.window
    while True:
        point = (rng.uniform(0, across), rng.uniform(0, down))
        if not region.contains(Point(point)):
            return point


def opened(window: tuple[float, float], turn: float) -> Stage:
    stage = Stage("popups/harbour-menu")
    stage.scene.window = window
    for name in ("harbour-menu", "buoy-menu"):
        node = stage.scene[f"popups/{name}"]
        node.place = node.place.replace(turn=turn)
    stage.router.settle()
    stage.hand.click("desk/bar/harbour", steps=2)
    stage.do("move buoys")
    stage.do("wait 0.25")
    assert stage.see("open") == ["popups/harbour-menu", "popups/buoy-menu"]
    return stage


@pytest.mark.long
@pytest.mark.parametrize(("window", "turn"), [((1280, 720), 0), ((1920, 900), 0), ((1280, 720), 9), ((900, 900), -14)])
def test_c5_a_menu_survives_walks_within_it_and_closes_on_those_that_leave(
    window: tuple[float, float], turn: float
) -> None:
    rng = random.Random(f"{window}{turn}")
    stage = opened(window, turn)
    hand = stage.hand
    for walk in range(250):
        menu = stage.control
        for _ in range(8):
            region = forgiven(stage).buffer(-0.01)
            part = rng.choice(list(getattr(region, "geoms", [region])))
            left, top, right, bottom = part.bounds
            point = (rng.uniform(left, right), rng.uniform(top, bottom))
            if not part.contains(Point(point)):
                continue
            hand.move((round(point[0], 3), round(point[1], 3)))
            hand.wait(rng.choice((0.0, 0.0, 0.1, 0.5)), frame=0.1)
            if not menu.is_open:
                break
        # The bar's other items have opened their own menus, which is no leaving.
        assert any(isinstance(one, Menu) and one.is_open for one in stage.controls.values()), walk
        inside = hand.pos
        hand.move(outside(stage, rng))
        hand.wait(0.2, frame=0.1)
        if walk % 3 == 0:  # back in time: it stays
            hand.move(inside)
            hand.wait(0.5, frame=0.1)
            assert stage.see("open"), walk
            hand.move(outside(stage, rng))
        hand.wait(0.4, frame=0.1)
        assert stage.see("open") == [], walk
        hand.click("desk/bar/harbour")
        assert menu.is_open


def test_c5_on_the_way_to_a_submenu_others_stay_shut_and_where_one_rests_they_open() -> None:
    stage = opened((1280, 720), 0)
    start = stage.hand.point("popups/harbour-menu/buoys", (0.6, 0.6))
    goals = [stage.hand.point("popups/buoy-menu", (0.02, part / 10)) for part in range(1, 10)]
    for goal in goals:
        stage.do("move buoys 0.6 0.6")
        for part in range(1, 13):  # slowly, over the gap and over the items below
            x, y = (start[k] + (goal[k] - start[k]) * part / 12 for k in (0, 1))
            stage.hand.move((round(x, 3), round(y, 3)))
            assert "popups/buoy-menu" in stage.see("open"), (goal, part)
        assert stage.scene["popups/buoy-menu"].hovered
    stage.do("move buoys 0.6 0.6")
    stage.do("move pilots 0.9 0.2")
    stage.do("wait 0.3")
    assert stage.see("open") == ["popups/harbour-menu"]
    stage.do("move buoys 0.6 0.6")
    stage.do("wait 0.3")
    stage.do("move open-gate 0.3 0.5")  # back and up is no way there
    assert stage.see("open") == ["popups/harbour-menu"]


def test_c5_what_is_solid_in_front_of_the_moat_and_fingers_do_not_keep_a_menu_from_its_end() -> None:
    stage = opened((1280, 720), 0)
    stage.scene.layer("toast", order=99).add("toast", role="button", place=stage.scene["desk/radio"].place)
    stage.do("move toast/toast")
    stage.do("wait 0.4")
    assert stage.see("open") == []
    touched = Stage("popups/harbour-menu")
    touched.do("tap desk/bar/harbour")
    touched.do("wait 1")
    assert touched.see("open") == ["popups/harbour-menu"]
    touched.do("tap open-gate")
    assert touched.said == [["open"], ["choose", "open-gate"], ["close", "code"]]
    assert touched.see("open") == []


def test_c5_the_moat_takes_nothing_from_the_world() -> None:
    stage = opened((1280, 720), 0)
    water = (316.0 + 8, 300.0)
    assert stage.router.would_reach_world(*water)
    assert stage.hand.move(water).world
    assert not any("moat" in node.name for node in stage.router.scene["desk"].walk())
    stage.do("wait 1")
    assert not [node for node in stage.scene.walk() if "moat" in node.name]


def test_c5_a_menu_stays_as_long_as_any_pointer_is_inside() -> None:
    stage = opened((1280, 720), 0)
    finger = Hand(stage.router, "finger-1", "touch")
    finger.pos = finger.point("popups/harbour-menu", (0.5, 0.1))
    finger.press()
    stage.hand.move((700.0, 500.0))
    stage.hand.wait(1.0)
    assert stage.see("open")
    stage.hand.move("popups/harbour-menu/pilots")
    finger.cancel()
    stage.hand.move((700.0, 500.0))
    stage.hand.wait(1.0)
    assert stage.see("open") == []
