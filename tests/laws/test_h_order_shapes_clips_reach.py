from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import glent
from desk import Desk
from glent import BoxShape, Ellipse, Grown, Mask, Place, Polygon, Rounded, Scene, ShapeError, Union
from glent.core.geometry.affine import apply, apply_many, bounds, compose, invert, stretch, turned
from glent.core.geometry.shape import distance
from glent.diagnose import Outcome, why
from strategies import points, scenes, shapes

SQUARE = [(0, 0), (10, 0), (10, 10), (0, 10)]
INNER = [(2, 2), (8, 2), (8, 8), (2, 8)]
CORE = [(4, 4), (6, 4), (6, 6), (4, 6)]


def names(desk: Desk, x: float, y: float, **how: object) -> list[str]:
    return [hit.node.name for hit in desk.router.hits(x, y, **how)]


def test_h1_hit_order_is_reverse_paint_order() -> None:
    desk = Desk(
        a={"solidity": "glass"},
        b={"solidity": "glass", "order": -1},
        c={"solidity": "glass"},
        c__d={"solidity": "glass"},
        c__e={"solidity": "glass", "order": -5},
    )
    over = desk.scene.layer("over", order=1)
    over.add("x", solidity="glass")
    desk.scene.layer("under", order=-1).add("y", solidity="glass")
    desk.scene.layer("later").add("z", solidity="glass")
    expected = ["x", "z", "d", "e", "c", "a", "b", "y"]
    assert names(desk, 5, 5) == expected
    assert [node.name for node in desk.scene.walk() if node.effective_solidity == "glass"] == expected[::-1]
    desk["b"].order = 3
    assert names(desk, 5, 5)[:3] == ["x", "z", "b"]
    over.order = -9
    assert names(desk, 5, 5)[-1] == "x"


@settings(max_examples=60, deadline=None)
@given(
    turn=st.sampled_from([0, 90, 33.3, 180, -45, 12.5]),
    scale=st.sampled_from([1, 0.1, 3.7, -1, (2, -0.3)]),
    cuts=st.lists(st.floats(0.1, 99.9), min_size=1, max_size=6, unique=True).map(sorted),
    along=st.floats(0.01, 0.99),
)
def test_h2_neighbours_that_share_an_edge_never_both_hit_and_leave_no_gap(
    turn: float, scale: object, cuts: list, along: float
) -> None:
    scene = Scene(size=(100, 100))
    frame = scene.layer("l").add(
        "frame", place=Place(left=0, top=0, width=100, height=100, turn=turn, scale=scale), solidity="hollow"
    )
    edges = [0.0, *cuts, 100.0]
    for left, right in pairwise(edges):
        frame.add(f"from-{left}", place=Place(left=left, right=f"100% - {right}", top=0, height=100), solidity="glass")
        # The same number reached from the other side: 100 - (100 - right) may differ, so edges are stored as given.
        frame[f"from-{left}"].place = (
            Place(left=left, width=right - left, top=0, height=100)
            if left + (right - left) == right
            else frame[f"from-{left}"].place
        )
    router = glent.Router(scene)
    stored = sorted({edge for child in frame.children for edge in child.edges[::2]})
    for edge in stored[1:-1]:
        for nudge in (0, 1e-13, -1e-13):
            x, y = scene.point(frame, edge + nudge, 100 * along)
            found = router.hits(x, y)
            covering = [
                child for child in frame.children if child.edges[0] <= scene.local(frame, x, y)[0] < child.edges[2]
            ]
            assert [hit.node for hit in found] == covering[::-1]


def test_h2_boxes_are_half_open() -> None:
    desk = Desk(a={"solidity": "glass", "box": (10, 10, 10, 10)}, b={"solidity": "glass", "box": (20, 10, 10, 10)})
    assert names(desk, 10, 10) == ["a"]
    assert names(desk, math.nextafter(20, 0), 15) == ["a"]
    assert names(desk, 20, 15) == ["b"]
    assert names(desk, 15, 20) == []


def test_h3_clips_hold_through_any_number_of_transforms() -> None:
    desk = Desk(
        a={"clips": True, "box": (10, 10, 40, 40), "place": Place(10, 10, width=40, height=40, turn=45)},
        a__b={"place": Place(left=-50, top=-50, width=200, height=200, scale=0.9)},
        a__b__c={"clips": True, "shape": Ellipse(), "place": Place(turn=10)},
        a__b__c__d={"solidity": "solid", "place": Place(left=-500, top=-500, width=2000, height=2000)},
    )
    assert names(desk, 30, 30) == ["d"]
    assert names(desk, 30, 4) == ["d"], "a corner of the turned clip"
    assert names(desk, 12, 12) == [], "outside of the turned clip"
    desk["a"].clips = False
    assert names(desk, 12, 12) == ["d"]


@pytest.mark.parametrize(
    ("shape", "inside", "outside"),
    [
        (None, [(0, 0), (9.9, 9.9)], [(10, 5), (-0.1, 5)]),
        (BoxShape(inset=2), [(2, 2), (7.9, 5)], [(1.9, 5), (8, 5)]),
        (BoxShape(inset=-2), [(-2, -2), (11.9, 5)], [(12, 5)]),
        (Rounded(4), [(0, 5), (5, 0), (1.3, 1.3)], [(0.5, 0.5), (9.8, 9.8)]),
        (Rounded(50), [(5, 0.1)], [(1, 1)]),
        (Ellipse(), [(5, 0.1), (1.6, 1.6)], [(0.5, 0.5), (0, 0)]),
        (Polygon([SQUARE, INNER, CORE]), [(1, 1), (5, 5)], [(3, 3), (11, 5)]),
        (Polygon([(0, 0), (1, 0), (1, 1), (0.5, 0.2), (0, 1)], unit="box"), [(1, 5), (9, 5), (5, 1)], [(5, 5), (5, 9)]),
        (Union((Polygon(CORE), BoxShape(inset=4.9))), [(4, 4)], [(1, 1)]),
        (Mask(np.array([[0, 255], [127, 128]], dtype=np.uint8)), [(7, 2), (7, 7)], [(2, 2), (2, 7)]),
        (Mask(np.array([[0.0, 0.4]]), threshold=0.4), [(7, 5)], [(2, 5)]),
        (Grown(Polygon(CORE), 2), [(2.1, 5), (3, 3)], [(2.2, 2.2), (1.9, 5)]),
        (Polygon(SQUARE).grown(-2), [(2, 5), (5, 5)], [(1.9, 5)]),
    ],
)
def test_h4_shapes(shape: object, inside: list, outside: list) -> None:
    desk = Desk(a={"solidity": "solid", "box": (20, 20, 10, 10), "shape": shape})
    for (x, y), hit in [(point, True) for point in inside] + [(point, False) for point in outside]:
        assert bool(names(desk, 20 + x, 20 + y)) == hit, (x, y)


@settings(max_examples=200, deadline=None)
@given(
    shapes,
    st.integers(0, 60),
    st.integers(0, 60),
    st.lists(st.tuples(st.integers(-40, 400), st.integers(-40, 400)), min_size=1, max_size=30),
)
def test_h4_batches_equal_single_tests_and_bounds_hold(shape: glent.Shape, w: int, h: int, at: list) -> None:
    where = np.array(at) / 4
    many = shape.contains_many(where, w, h)
    assert many.tolist() == [shape.contains(x, y, w, h) for x, y in where.tolist()]
    test = shape.fixed(w, h)
    box = shape.bounds(w, h)
    for (x, y), inside in zip(where.tolist(), many, strict=True):
        assert test(x, y) == inside
        away = distance(shape, x, y, w, h)
        assert (away == 0) == inside or away < 0.05
        if inside:
            assert box is not None
            assert box[0] <= x <= box[2]
            assert box[1] <= y <= box[3]


@pytest.mark.parametrize(
    "make",
    [
        lambda: Polygon([(0, 0), (1, 1)]),
        lambda: Polygon([]),
        lambda: Polygon([(0, 0), (1, 1), (math.nan, 2)]),
        lambda: Polygon(SQUARE, unit="inch"),
        lambda: Rounded(-1),
        lambda: BoxShape(math.inf),
        lambda: Union(()),
        lambda: Union((1,)),
        lambda: Mask([[math.nan]]),
        lambda: Mask([1, 2]),
        lambda: Mask.from_rows(["##", "#"]),
        lambda: Grown(BoxShape(), math.nan),
    ],
)
def test_h4_impossible_shapes_are_refused(make: object) -> None:
    with pytest.raises(ShapeError, match="expected"):
        make()


@pytest.mark.parametrize("angle", [0, 37, 90])
@pytest.mark.parametrize(("sx", "sy"), [(1, 1), (2, 2), (3, 0.5)])
def test_h5_distance_is_measured_on_the_screen(angle: float, sx: float, sy: float) -> None:
    cos, sin = turned(angle)
    m = (cos * sx, sin * sx, -sin * sy, cos * sy, 0.0, 0.0)
    for point, nearest in [((14, 5), (10, 5)), ((5, -3), (5, 0)), ((-3, 14), None)]:
        away = distance(BoxShape(), *point, 10, 10, m)
        rim = np.concatenate(
            [
                np.stack([np.linspace(a, c, 4001), np.linspace(b, d, 4001)], axis=1)
                for a, b, c, d in BoxShape().outline(10, 10)
            ]
        )
        brute = np.hypot(*(apply_many(m, rim) - apply(m, *point)).T).min()
        assert away == pytest.approx(brute, rel=1e-4)
        if nearest is not None and angle in (0, 90):
            assert away == pytest.approx(math.dist(apply(m, *point), apply(m, *nearest)))
    assert distance(Ellipse(), 20, 5, 10, 10) == pytest.approx(10, abs=0.02)


def test_h5_reach_yields_only_to_true_containment_and_the_nearer_edge_wins() -> None:
    desk = Desk(
        bar={"solidity": "solid", "hears": "click", "box": (0, 0, 100, 60)},
        bar__a={"role": "button", "box": (10, 10, 20, 20), "reach": 12},
        bar__b={"role": "button", "box": (50, 10, 20, 20), "reach": {"touch": 30, "mouse": 5}, "enabled": False},
        bar__c={"role": "button", "box": (34, 40, 10, 10)},
        lid={"solidity": "solid", "box": (20, 0, 20, 12)},
    )
    touch = lambda x, y: names(desk, x, y, kind="touch")  # noqa: E731
    assert touch(33, 20) == ["a", "bar"], "its ancestor's own containment does not count"
    assert names(desk, 33, 20) == ["bar"], "a mouse has no reach unless named"
    assert touch(39, 20) == ["a", "bar"]
    assert touch(41, 20) == ["b", "bar"], "the nearer edge wins, enabled or not"
    assert names(desk, 48, 20) == ["b", "bar"], "named for the mouse"
    assert touch(38, 42) == ["c", "bar"], "true containment by something interactive"
    assert touch(31, 11) == ["lid", "bar"], "something solid painted above still covers"
    assert touch(75, 70) == ["bar"] or touch(75, 70) == [], "outside of everything but the reach of b"
    desk["bar"].clips = True
    assert touch(60, 62) == [], "clips limit the reach"
    desk["bar"].place = desk["bar"].place.replace(scale=0.5, pivot=(0, 0))
    assert touch(18, 10) == ["a", "bar"], "distance counts on the screen: three pixels, six of its own"
    assert desk.scene.point(desk["bar/a"], 0, 0) == (5, 5)


@pytest.mark.parametrize(
    "place",
    [Place(width=0), Place(width=-5, height=5), Place(scale=0), Place(scale=(1, 0)), Place(left=60, right=60)],
)
@pytest.mark.parametrize("shape", [None, Ellipse(), Polygon(SQUARE), Rounded(3)])
def test_h6_nothing_of_no_size_is_hit_and_nothing_raises(place: Place, shape: object) -> None:
    desk = Desk(
        a={"solidity": "solid", "place": place, "shape": shape, "reach": 9},
        a__b={"solidity": "solid", "place": Place(scale=1e6)},
    )
    for x in range(0, 101, 10):
        hit = {hit.node.name for hit in desk.router.hits(x, 50, kind="touch")} | {
            hit.node.name for hit in desk.router.hits(x, 0)
        }
        assert "a" not in hit
    assert not desk.hand.click((50, 50)).owner or desk["a"].size[0] > 0 or desk["a/b"].size == (0, 0)


def test_h6_negative_scale_mirrors() -> None:
    desk = Desk(
        a={"place": Place(10, 10, width=40, height=20, scale=(-1, 1))},
        a__b={"solidity": "solid", "box": (0, 0, 10, 20)},
    )
    assert names(desk, 45, 15) == ["b"]
    assert names(desk, 15, 15) == []
    assert desk.router.hits(45, 15)[0].local == (5, 5)


def test_h7_hits_list_offers_and_covered_with_local_points_and_take_a_filter() -> None:
    desk = Desk(
        a={"solidity": "solid", "box": (10, 10, 50, 50)},
        b={"role": "button", "box": (20, 20, 50, 50)},
        c={"solidity": "glass", "box": (0, 0, 90, 90)},
    )
    hits = desk.router.hits(30, 40)
    assert [(hit.node.name, hit.offered, hit.local) for hit in hits] == [
        ("c", True, (30, 40)),
        ("b", True, (10, 20)),
        ("a", False, (20, 30)),
    ]
    filtered = desk.router.hits(30, 40, where=lambda node: node.name != "b")
    assert [(hit.node.name, hit.offered) for hit in filtered] == [("c", True), ("a", True)]


@pytest.mark.long
@settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
@given(scenes(most=20), st.lists(points, min_size=1, max_size=5))
def test_h8_every_node_can_say_why(scene: Scene, at: list) -> None:
    router = glent.Router(scene)
    for x, y in at:
        found = why(router, x, y)
        assert [one.node for one in found if one.hit] == [hit.node for hit in router.hits(x, y)]
        assert len(found) == sum(1 for _ in scene.walk())
        for one in found:
            assert one.node.path in one.sentence
            assert one.by.path in one.sentence or one.by is one.node
            if one.outcome is Outcome.CLIPPED:
                assert one.by.clips
            if one.outcome is Outcome.HIDDEN:
                assert not one.by.visible


@st.composite
def played_scenes(draw: st.DrawFn) -> Scene:
    """A scene with controls, modals, layers of another seat, and a panel and a spot that its camera sees."""
    scene = draw(scenes(most=12))
    scene.camera = glent.Camera((0.0, 0.0, 2.0), (0.0, 0.0, 0.0), fov=60)
    if draw(st.booleans()):
        panel = scene.panel("board", (2.0, 1.0), (200.0, 100.0), two_sided=draw(st.booleans()),
                            facing=draw(st.sampled_from([(0.0, 0.0, 1.0), (0.4, 0.0, 1.0), (0.0, 0.0, -1.0)])),
                            reverse=draw(st.sampled_from(["through", "blocked"])))  # fmt: skip
        plate = panel.add("plate", solidity=draw(st.sampled_from(["solid", "glass"])))
        plate.add("key", role="button", place=Place(20, 10, width=90, height=60), enabled=draw(st.booleans()))
    if draw(st.booleans()):
        scene.spot("buoy", glent.Sphere(0.6), (0.3, 0.0, draw(st.sampled_from([-1.0, 0.5]))), role="button")
    nodes = list(scene.walk())
    for _ in range(draw(st.integers(0, 5))):
        node = draw(st.sampled_from(nodes))
        term = draw(st.sampled_from(["modal", "seats", "blocked", "click", "enter", "reach", "claims", "sliding"]))
        if term == "modal" and not isinstance(node, glent.Spot):
            node.modal = True
        elif term in ("seats", "blocked"):
            node.seats, node.for_others = ["two"], "blocked" if term == "blocked" else "through"
        elif term in ("click", "enter"):
            node.on(term, lambda event: None)
        elif term == "reach":
            node.reach = {"touch": 15}
        elif isinstance(node, glent.Layer):
            node.claims, node.transition = ["pointer"], "ignores" if term == "sliding" else None
    return scene


@pytest.mark.long
@settings(max_examples=40, deadline=None, suppress_health_check=list(HealthCheck))
@given(played_scenes(), st.lists(points, min_size=1, max_size=4), st.sampled_from(["mouse", "touch"]))
def test_h8_why_agrees_with_the_router_with_controls_modals_seats_and_panels(scene: Scene, at: list, kind: str) -> None:
    router = glent.Router(scene)
    router.add_seat("two", ["keys2"])
    time = 0.0
    for x, y in at:
        found = why(router, x, y, kind)
        hits = router.hits(x, y, kind=kind)
        assert [one.node for one in found if one.hit] == [hit.node for hit in hits]
        offered = {one.node for one in found if one.outcome in (Outcome.OFFERED, Outcome.REACHED)}
        assert offered == {hit.node for hit in hits if hit.offered}
        sentences = {one.node: one.sentence for one in found}
        time += 10.0
        verdict = router.feed(glent.PointerSample(time, "press", x, y, f"pointer {time}", kind, 0, 1))
        if verdict.owner is not None:
            # It is the control that was pressed, of which a part was hit.
            assert any(node.is_within(verdict.owner) for node in offered), (verdict, sentences)
            assert verdict.owner.is_enabled
        elif verdict.world:
            assert not any(node.effective_solidity == "solid" and not isinstance(node, glent.Spot) for node in offered)
        elif offered:
            last = [hit.node for hit in hits if hit.offered][-1]
            (told,) = (one for one in found if one.node is last)
            blocked = any(one.outcome in (Outcome.MODAL, Outcome.BLOCKED, Outcome.SEAT) for one in found)
            named = verdict.reason in (glent.Reason.CLAIMED, glent.Reason.TRANSITION, glent.Reason.MODAL,
                                       glent.Reason.OTHER_SEAT, glent.Reason.REVERSE)  # fmt: skip
            assert told.disabled is not None or blocked or named, (verdict, sentences)
        router.feed(glent.PointerSample(time, "cancel", x, y, f"pointer {time}", kind))


def test_h8_each_reason_names_who_decided() -> None:
    desk = Desk(
        hide={"visible": False}, hide__a={"solidity": "solid"},
        ghost={"solidity": "ghost"}, ghost__a={"solidity": "solid"},
        clip={"clips": True, "box": (0, 0, 5, 5)}, clip__a={"solidity": "solid", "box": (0, 0, 90, 90)},
        cover={"solidity": "solid", "order": 5}, far={"solidity": "solid", "box": (90, 90, 5, 5)},
        flat={"place": Place(scale=0)}, under={"solidity": "glass", "enabled": False}, plain={},
    )  # fmt: skip
    found = {one.node.path[2:]: (one.outcome, one.by.name) for one in why(desk.router, 50, 50)}
    assert found["hide/a"] == (Outcome.HIDDEN, "hide")
    assert found["ghost/a"] == (Outcome.GHOST, "ghost")
    assert found["clip/a"] == (Outcome.CLIPPED, "clip")
    assert found["under"] == (Outcome.COVERED, "cover")
    assert found["far"][0] is Outcome.OUTSIDE
    assert found["flat"][0] is Outcome.EMPTY
    assert found["plain"][0] is Outcome.HOLLOW
    assert found["cover"][0] is Outcome.OFFERED


numbers = st.floats(-1e3, 1e3)


@given(st.tuples(*[st.floats(-50, 50)] * 6), numbers, numbers)
def test_affine_inverses_and_bounds(m: tuple, x: float, y: float) -> None:
    inverse = invert(m)
    least, most = stretch(m)
    if inverse is not None and least > 1e-3:
        assert apply(inverse, *apply(m, x, y)) == pytest.approx((x, y), abs=1e-4)
        assert compose(m, inverse)[:4] == pytest.approx((1, 0, 0, 1), abs=1e-4)
    box = bounds(m, (0.0, 0.0, 10.0, 10.0))
    for corner in ((0, 0), (10, 0), (0, 10), (10, 10)):
        px, py = apply(m, *corner)
        assert box[0] - 1e-9 <= px <= box[2] + 1e-9
        assert box[1] - 1e-9 <= py <= box[3] + 1e-9
    assert least <= math.hypot(m[0], m[1]) + 1e-9 <= most + 2e-9


@pytest.mark.parametrize("quarters", range(-8, 9))
def test_affine_quarter_turns_are_exact(quarters: int) -> None:
    assert set(map(abs, turned(quarters * 90.0))) == {0.0, 1.0}


def test_h5_what_is_just_as_far_as_its_reach_is_reached_on_every_side():
    scene = Scene((1000, 1000))
    layer = scene.layer("desk")
    router = glent.Router(scene)
    for number in range(40):  # enough for an index, and not a list
        layer.add(f"crate-{number}", place=Place(24 * number, 500, width=20, height=20), role="button", reach=1)
    layer.add("horn", place=Place(100, 100, width=50, height=50), role="button", reach=10)
    inside = [(160.0, 120.0), (90.0, 120.0), (120.0, 90.0), (120.0, 160.0)]
    outside = [(160.1, 120.0), (89.9, 120.0), (120.0, 89.9), (120.0, 160.1)]
    assert [[hit.node.name for hit in router.hits(*at, kind="touch")] for at in inside] == [["horn"]] * 4
    assert [router.hits(*at, kind="touch") for at in outside] == [[]] * 4
