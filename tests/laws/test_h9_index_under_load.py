"""The index under load: long lists, islands that come about, numbers that run out, reach against the plain model."""

from __future__ import annotations

import random
from collections.abc import Iterator

import pytest
from hypothesis import HealthCheck, given, note, settings
from hypothesis import strategies as st

import plain_hits as plain
import plain_world
from glent import Ellipse, Layer, Node, Place, Router, Scene
from glent.core.routing.hit.point import pick
from glent.core.scene.paint_order import GAP
from glent.formats import scene_document

EYE = (0.0, 0.0, 0.0)
pytestmark = pytest.mark.long


def agree(scene: Scene, rng: random.Random, many: int = 25) -> None:
    scene._index.refresh()
    for _ in range(many):
        x, y = rng.randrange(0, 1600) / 4, rng.randrange(0, 1600) / 4
        assert pick(scene, x, y) == plain.offers(scene, x, y)


@pytest.mark.parametrize("seed", range(6))
def test_h9_long_lists_that_scroll_move_hide_and_rise(seed: int) -> None:
    rng = random.Random(seed)
    scene = Scene(size=(400, 400))
    hud = scene.layer("hud")
    lists = []
    for number in range(4):
        turn = rng.choice([0, 0, 30])
        box = hud.add(
            f"list{number}",
            place=Place(left=number * 90, top=20, width=100, height=300, turn=turn),
            clips=rng.random() < 0.7,
        )
        for row in range(60):
            line = box.add(
                f"row{row}",
                place=Place(left=0, right=0, top=row * 16, height=16),
                solidity=rng.choice(["solid", "glass", "hollow"]),
            )
            if rng.random() < 0.3:
                line.add("dot", place=Place(right=2, top=2, width=12, height=12), shape=Ellipse(), role="button")
        lists.append(box)
    agree(scene, rng)
    for step in range(40):
        box = rng.choice(lists)
        act = rng.randrange(9)
        if act == 0:
            box.scroll = (0, rng.randrange(0, 600))
        elif act == 1:
            box.place = box.place.replace(left=rng.randrange(0, 300), top=rng.randrange(0, 100))
        elif act == 2:
            box.visible = not box.visible
        elif act == 3:
            box.order = rng.randrange(-2, 3)
        elif act == 4:
            box.clips = not box.clips
        elif act == 5 and box.children:
            rng.choice(box.children).remove()
        elif act == 6:
            box.add(
                f"new{step}",
                place=Place(left=0, right=0, top=rng.randrange(0, 300), height=40),
                solidity="glass",
                order=rng.choice([0, 0, -1, 1]),
            )
        elif act == 7:
            box.place = box.place.replace(turn=rng.choice([0, 15, 90]), scale=rng.choice([1, 0.5, -1]))
        else:
            for child in rng.sample(box.children, min(5, len(box.children))):
                child.order = rng.randrange(-3, 4)
        if rng.random() < 0.6:
            agree(scene, rng, 8)
    agree(scene, rng)


def test_h1_numbers_that_run_out_are_made_anew() -> None:
    scene = Scene(size=(100, 100))
    layer = scene.layer("l")
    first = layer.add("first", solidity="glass")
    layer.add("last", solidity="glass")
    scene._index.refresh()
    for number in range(3_000):  # always in the same gap, one at a time
        first.add(f"n{number}", solidity="glass" if number % 300 == 0 else "hollow")
        if number % 3 == 0:
            scene._index.refresh()
    hits = [node.name for node in pick_deep(scene, 5, 5)]
    assert hits == ["last", *[f"n{number}" for number in range(2_700, -1, -300)], "first"]
    numbers = [node._z for node in layer.walk()][1:]
    assert numbers == sorted(set(numbers))
    assert max(numbers) < GAP * 4_000


@pytest.mark.parametrize("given", [{"scroll": (3.0, 5.0)}, {"clips": True}, {"place": Place(turn=90)}, {}])
@pytest.mark.parametrize("solidity", ["hollow", "glass"])
def test_h9_what_moves_while_it_is_empty_holds_its_next_child_where_it_is(given: dict, solidity: str) -> None:
    scene = Scene(size=(400, 400))
    tray = scene.layer("l").add("tray", solidity=solidity, **given)
    half = Place(left=0, top="50%", width="50%", height="50%")
    tray.add("crate", place=half, solidity="solid").remove()
    tray.add("crate", place=half, solidity="solid")
    agree(scene, random.Random(1))
    tray.children[0].remove()
    for width in (100, 80):
        tray.place = Place(left=20, top=40, width=width, height=60)
        scene._index.refresh()
    tray.add("crate", place=half, solidity="solid")
    agree(scene, random.Random(2), 900)


def pick_deep(scene: Scene, x: float, y: float) -> list:
    scene._index.refresh()
    return pick(scene, x, y, deep=True)


def test_h9_nodes_of_all_sizes_and_far_away() -> None:
    scene = Scene(size=(400, 400))
    layer = scene.layer("l")
    rng = random.Random(1)
    for number in range(120):
        size = 10 ** rng.uniform(-3, 8)
        layer.add(
            f"n{number}",
            place=Place(left=rng.uniform(-size, 400), top=rng.uniform(-size, 400), width=size, height=size),
            solidity="glass",
        )
    router = Router(scene)
    for _ in range(200):
        x, y = rng.choice([1, 10, 1e4, 1e8]) * rng.uniform(-1, 1), rng.uniform(-400, 800)
        expected = [seen.node for seen in plain.hits(scene, x, y)]
        assert [hit.node for hit in router.hits(x, y)] == expected
    for node in list(layer.children)[::2]:
        node.remove()
    assert len(router.hits(200, 200)) == len(plain.hits(scene, 200, 200))


@st.composite
def crowded(draw: st.DrawFn) -> Scene:
    """A layer with much to reach."""
    scene = Scene(size=(128, 128))
    scene.window = draw(st.sampled_from([(128, 128), (256, 256), (64, 64)]))
    crowd(draw, scene.layer("l"), [6, 15, 30, {"touch": 10, "pen": 40}, {"pen": 9}, None])
    return scene


def crowd(draw: st.DrawFn, root: Node, reaches: list) -> None:
    """Small nodes with a reach, close together, on plates that may clip, turn, listen or lie over them."""
    parents = [root]
    for number in range(draw(st.integers(1, 3))):
        place = Place(
            left=draw(st.integers(0, 40)),
            top=draw(st.integers(0, 40)),
            width=draw(st.integers(30, 90)),
            height=draw(st.integers(30, 90)),
            turn=draw(st.sampled_from([0, 0, 20])),
            scale=draw(st.sampled_from([1, 1, 0.5, (2, 1)])),
        )
        panel = draw(st.sampled_from(parents)).add(
            f"panel{number}",
            place=place,
            solidity=draw(st.sampled_from(["solid", "hollow", "glass", "ghost", "hollow"])),
            clips=draw(st.booleans()),
            order=draw(st.integers(0, 2)),
        )
        if draw(st.booleans()):
            panel.on("click", print)
        parents.append(panel)
    for number in range(draw(st.integers(2, 7))):
        node = draw(st.sampled_from(parents)).add(
            f"n{number}",
            place=Place(draw(st.integers(0, 90)), draw(st.integers(0, 90)), width=draw(st.integers(3, 20)), height=10),
            role=draw(st.sampled_from(["button", None])),
            solidity=draw(st.sampled_from([None, "solid", "glass"])),
            shape=draw(st.sampled_from([None, Ellipse()])),
            reach=draw(st.sampled_from(reaches)),
            order=draw(st.integers(0, 1)),
        )
        if draw(st.booleans()):
            node.add("picture", place=Place(draw(st.integers(-9, 9)), 0, width=9), solidity="solid")


def beside(scene: Scene, aims: list[tuple[int, float, float]]) -> Iterator[tuple[Node, float, float]]:
    """Points a little beside nodes: each with the root, and its place there."""
    nodes = [node for node in scene.walk() if node.parent is not None]
    for number, x, y in aims:
        node = nodes[number % len(nodes)]
        size = scene.layer_size if isinstance(node.root, Layer) else node.root.pixels
        yield node.root, *plain.out_of(node, size, x * node.size[0], y * node.size[1])


parts = st.integers(-20, 40).map(lambda n: n / 20 + 0.0137)
aims = st.lists(st.tuples(st.integers(0, 30), parts, parts), min_size=8, max_size=8)


def test_h5_reach_equals_the_plain_model() -> None:
    reached = []

    @settings(max_examples=70, deadline=None, suppress_health_check=list(HealthCheck))
    @given(crowded(), aims)
    def judge(scene: Scene, at: list) -> None:
        note(str(scene_document(scene)))
        router = Router(scene)
        for _, left, top in beside(scene, at):
            x, y = scene.from_screen(1, 1)
            x, y = left / x, top / y
            expected, margin = plain.with_reach(scene, x, y, "touch")
            if margin > 1e-6:  # a hair's breadth either way is not what the law is about
                offers = [hit.node for hit in router.hits(x, y, kind="touch") if hit.offered]
                assert offers == expected
                assert pick(scene, x, y, "touch") == expected
                reached.append(expected != plain.offers(scene, x, y))

    judge()
    assert sum(reached) > 5, "the scenes must be ones where reach matters"


@st.composite
def crowded_world(draw: st.DrawFn) -> Scene:
    """Two flat panels with much to reach, that stand one behind the other or side by side."""
    scene = Scene(size=(128, 128))
    for number in (0, 1):
        way = (draw(st.sampled_from([0.0, 0.3, -0.5])), draw(st.sampled_from([0.0, 0.1])), 1.0)
        at = (draw(st.sampled_from([0.0, 0.0, 0.4])), 0.0, -1.5 - number)
        panel = scene.panel(f"p{number}", (1.28, 1.28), (128, 128), at, way, two_sided=draw(st.booleans()))
        crowd(draw, panel, [{"ray": 2.0}, {"ray": 4.0}, {"ray": 4.0, "touch": 2}, {"touch": 9}])
    return scene


def test_h5_reach_along_rays_equals_the_plain_model() -> None:
    reached = []

    @settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck))
    @given(crowded_world(), aims)
    def judge(scene: Scene, at: list) -> None:
        note(str(scene_document(scene)))
        router = Router(scene)
        for panel, x, y in beside(scene, at):
            if not (0 <= x < 128 and 0 <= y < 128):
                continue
            way = panel.to_world(x, y)
            expected, margin = plain_world.with_reach(scene, EYE, way)
            if margin > 0.15:  # the gauge is exact for what is small, and a hair's breadth is not what the law is about
                offers = [hit.node for hit in router.hits_ray(EYE, way) if hit.offered]
                assert offers == expected
                reached.append(expected != plain_world.offers(scene, EYE, way)[0])

    judge()
    assert sum(reached) > 5, "the scenes must be ones where reach matters"


def test_h5_reach_follows_scrolling_and_islands() -> None:
    scene = Scene(size=(200, 200))
    rows = scene.layer("l").add("rows", place=Place(left=10, top=10, width=100, height=100), clips=True)
    for number in range(50):
        rows.add(f"row{number}", place=Place(left=20, width=40, top=number * 40, height=10), role="option", reach=8)
    router = Router(scene)
    assert router.hits(75, 15, kind="touch")[0].node.name == "row0"
    rows.scroll = (0, 80)
    assert router.hits(75, 15, kind="touch")[0].node.name == "row2"
    rows["row2"].reach = None
    assert not router.hits(75, 15, kind="touch")
    rows["row2"].reach = 8
    rows.place = rows.place.replace(turn=90)
    turned = scene.point(rows["row2"], 45, 5)
    assert router.hits(*turned, kind="touch")[0].node.name == "row2"
    rows["row2"].remove()
    assert not router.hits(*turned, kind="touch")


def test_figures_are_1280_by_800_and_the_same_twice(tmp_path) -> None:
    from glent.demo import SHIFT
    from glent.demo.worlds import manned
    from glent.diagnose import pass_map
    from glent.figures import draw_map, draw_timeline
    from glent.formats import read_recording, replay

    def quiet() -> Router:
        return manned(on_error=lambda error, event: None)[0]

    steps = list(replay(quiet(), read_recording(SHIFT)))
    for number in range(2):
        scene = quiet().scene
        draw_map(pass_map(scene), tmp_path / f"map{number}.png")
        draw_timeline(steps, tmp_path / f"time{number}.png")
    for kind in ("map", "time"):
        one, two = ((tmp_path / f"{kind}{number}.png").read_bytes() for number in range(2))
        assert one == two
        assert (int.from_bytes(one[16:20]), int.from_bytes(one[20:24])) == (1280, 800)
    with pytest.raises(ValueError, match="no samples"):
        draw_timeline([], tmp_path / "none.png")
