from __future__ import annotations

import math
import pickle

import pytest
from hypothesis import given
from hypothesis import strategies as st

import glent
from glent import Place, PlaceError, Scene
from strategies import places


@pytest.mark.parametrize(
    ("given_", "edges"),
    [
        ({}, (0, 0, 200, 100)),
        ({"left": 10}, (10, 0, 200, 100)),
        ({"right": 10}, (0, 0, 190, 100)),
        ({"width": 50}, (0, 0, 50, 100)),
        ({"left": 10, "width": 50}, (10, 0, 60, 100)),
        ({"right": 10, "width": 50}, (140, 0, 190, 100)),
        ({"left": 10, "right": 20}, (10, 0, 180, 100)),
        ({"top": "25%", "height": "50%"}, (0, 25, 200, 75)),
        ({"left": "50% - 60", "width": 120}, (40, 0, 160, 100)),
        ({"left": "100% - 2px+5%"}, (208, 0, 208, 100)),
        ({"left": " -10 ", "right": "-10px"}, (-10, 0, 210, 100)),
        ({"bottom": "1e1", "height": ".5%"}, (0, 89.5, 200, 90)),
        ({"width": -5}, (0, 0, 0, 100)),
        ({"left": 150, "right": 150}, (150, 0, 150, 100)),
    ],
)
def test_places_are_css_words(given_: dict, edges: tuple) -> None:
    assert Place(**given_).edges(200, 100) == edges


@pytest.mark.parametrize(
    ("given_", "part"),
    [
        ({"left": "12 cows"}, "left is '12 cows'"),
        ({"left": ""}, "left is ''"),
        ({"top": "50% 20"}, "top is '50% 20'"),
        ({"top": "50% - - 20"}, "top is"),
        ({"width": float("nan")}, "width is nan"),
        ({"width": True}, "width is True"),
        ({"height": 1e10}, "height is 10000000000.0"),
        ({"height": "1e10"}, "height is"),
        ({"left": 1, "right": 2, "width": 3}, "left, right and width are all given"),
        ({"top": 1, "bottom": 2, "height": "5%"}, "top, bottom and height are all given"),
        ({"turn": "left"}, "turn is 'left'"),
        ({"scale": (1, 2, 3)}, "scale is (1, 2, 3)"),
        ({"scale": (1, float("inf"))}, "scale is inf"),
        ({"pivot": 0.5}, "pivot is 0.5"),
    ],
)
def test_what_is_no_place_is_refused(given_: dict, part: str) -> None:
    with pytest.raises(PlaceError, match=r"^Place\(") as caught:
        Place(**given_)
    assert part in str(caught.value)
    assert "expected" in str(caught.value)


@given(places(), places())
def test_a_place_is_a_value(one: Place, other: Place) -> None:
    assert Place(**one.given()) == one
    assert hash(Place(**one.given())) == hash(one)
    assert pickle.loads(pickle.dumps(one)) == one
    assert eval(repr(one)) == one
    assert (one == other) == (repr(one) == repr(other))
    assert one.replace(left=None, right=None, width=3).edges(50, 50)[2] == 3
    assert one != "a place"
    with pytest.raises(AttributeError, match="node.place = node.place.replace"):
        one.left = 5


@pytest.mark.parametrize(
    ("fit", "window", "size", "middle", "corner"),
    [
        ("contain", (400, 100), (200, 100), (200, 50), (100, 0)),
        ("contain", (200, 400), (200, 100), (100, 200), (0, 150)),
        ("cover", (400, 100), (200, 100), (200, 50), (0, -50)),
        ("width", (400, 100), (200, 50), (200, 50), (0, 0)),
        ("height", (400, 200), (200, 100), (200, 100), (0, 0)),
        ("height", (600, 200), (300, 100), (300, 100), (0, 0)),
        ("none", (300, 50), (300, 50), (150, 25), (0, 0)),
    ],
)
def test_a_scene_fits_its_window(fit: str, window: tuple, size: tuple, middle: tuple, corner: tuple) -> None:
    scene = Scene(size=(200, 100), fit=fit)
    layer = scene.layer("hud")
    pin = layer.add("pin", place=Place(left="50%", top="50%", width=0, height=0))
    anchored = layer.add("anchored", place=Place(right=10, bottom=10, width=20, height=20), solidity="solid")
    scene.window = window
    assert scene.layer_size == layer.size == size
    assert scene.point(pin, 0, 0) == middle
    assert scene.point(layer, 0, 0) == corner
    assert scene.from_screen(*corner) == (0, 0)
    assert glent.Router(scene).hits(*scene.point(anchored, 5, 5))[0].local == (5, 5)


@given(
    st.tuples(st.floats(1, 4000), st.floats(1, 4000)),
    st.sampled_from(["contain", "cover", "width", "height", "none"]),
    places(),
    st.tuples(st.floats(-50, 50), st.floats(-50, 50)),
)
def test_there_and_back_again(window: tuple, fit: str, place: Place, point: tuple) -> None:
    scene = Scene(size=(640, 360), fit=fit)
    scene.window = window
    outer = scene.layer("l").add("outer", place=place, scroll=(3, -4))
    node = outer.add("inner", place=place)
    back = scene.local(node, *scene.point(node, *point))
    factors = place.scale if isinstance(place.scale, tuple) else (place.scale,) * 2
    if 0 not in factors:
        assert back == pytest.approx(point, abs=1e-6)
    else:
        assert back == (0, 0)


def test_scene_settings_are_checked_and_noticed() -> None:
    scene = Scene(size=(100, 100))
    layer = scene.layer("l")
    node = layer.add("a", place=Place(width="50%", height="50%"), solidity="solid")
    router = glent.Router(scene)
    assert node.size == (50, 50)
    scene.size = (200, 100)
    scene.fit = "none"
    scene.window = (400, 300)
    assert node.size == (200, 150)
    assert router.hits(199, 149)
    for bad in ((0, 1), (1,), "ab", (float("nan"), 1), (1e9, 1), None):
        for key in ("size", "window"):
            with pytest.raises(glent.SceneError, match="from 0.001 to 1e6"):
                setattr(scene, key, bad)
    assert node.size == (200, 150)
    assert "l/a" in scene
    assert "l/b" not in scene
    assert repr(node) == "<Node l/a>"
    node.remove()
    assert repr(node) == "<Node l/a (removed)>"
    assert [one.path for one in scene.walk()] == ["l"]


@given(st.floats(-2, 3), st.floats(-500, 500), st.floats(0, 3), st.floats(1, 4000))
def test_a_length_can_be_a_part_of_the_parent_and_pixels_to_add(
    part: float, add: float, wide: float, room: float
) -> None:
    add += 0.0  # text has no minus zero
    pair = Place(left=(part, add), width=(wide, 0))
    left, _, right, _ = pair.edges(room, 100)
    assert left == pytest.approx(part * room + add, abs=1e-6)
    assert right - left == pytest.approx(wide * room, abs=1e-6)
    text = Place(
        left=f"{part * 100:.17g}% + {add:.17g}" if add >= 0 else f"{part * 100:.17g}% - {-add:.17g}",
        width=f"{wide * 100:.17g}%",
    )
    assert pair.edges(room, 100) == pytest.approx(text.edges(room, 100), abs=1e-6)
    assert pair.replace(top=3).replace(top=None) == pair == Place(**pair.given())


@pytest.mark.parametrize(("given_", "words"), [
    ({"left": (1,)}, "left is (1,), expected two numbers"),
    ({"left": ("a", 2)}, "left is 'a', expected a finite number"),
    ({"width": (1, float("nan"))}, "width is nan"),
    ({"scale": True}, "scale is True"),
    ({"turn": False}, "turn is False"),
])  # fmt: skip
def test_what_is_no_length_is_refused_when_made_and_when_replaced(given_: dict, words: str) -> None:
    for make in (lambda: Place(**given_), lambda: Place(top=1).replace(**given_)):
        with pytest.raises(glent.PlaceError) as caught:
            make()
        assert words in str(caught.value)
    with pytest.raises(glent.PlaceError, match="are all given"):
        Place(left=1, right=2).replace(width=3)


@pytest.mark.parametrize("fit", ["contain", "cover", "width", "height", "none"])
@pytest.mark.parametrize("window", [(1600, 900), (600, 900), (200, 100)])
@pytest.mark.parametrize("viewport", [None, (0.5, 0.0, 0.5, 1.0)])
def test_m1_a_layer_that_covers_the_window_lies_over_all_of_it(fit: str, window: tuple, viewport: tuple | None) -> None:
    scene = Scene((200, 100), fit=fit)
    router = glent.Router(scene)
    router.seat().viewport = viewport
    veil = scene.layer("veil", order=9, covers="window", seats=["main"])
    back = veil.add("back", solidity="solid")
    corner = veil.add("corner", role="button", place=Place(right=0, bottom=0, width=10, height=10))
    plain = scene.layer("plain", seats=["main"]).add("a", place=Place(0, 0, width=10, height=10))
    router.feed(glent.WindowSample(0.0, "size", *window))
    left, top, width, height = (side * whole for side, whole in zip(viewport or (0, 0, 1, 1), window * 2, strict=True))
    corners = back.screen_corners()
    assert corners[0] == pytest.approx((left, top))
    assert corners[2] == pytest.approx((left + width, top + height))
    for x, y in ((left + 0.5, top + 0.5), (left + width - 0.5, top + 0.5), (left + width / 2, top + height / 2)):
        assert not router.would_reach_world(x, y)
        assert router.hits(x, y)[0].node is back
    assert router.hits(left + width - 0.5, top + height - 0.5)[0].node is corner
    a, b = plain.screen_corners()[:2], corner.screen_corners()[:2]
    assert a[1][0] - a[0][0] == pytest.approx(b[1][0] - b[0][0]), "its units are the scene's"
    veil.covers = "scene"
    assert back.size == pytest.approx(plain.root.size)
    with pytest.raises(glent.SceneError, match="veil: covers is 'all', expected scene or window"):
        veil.covers = "all"


@pytest.mark.parametrize("scale", [1e6, 1e-6, -1e6])
def test_h6_what_is_derived_of_a_hundred_nested_scales_is_finite(scale: float) -> None:
    scene = Scene((200, 100))
    node: glent.Node = scene.layer("l")
    for number in range(98):
        factor = scale if number < 55 else 1 / scale
        node = node.add("n", place=Place(0, 0, width=50, height=50, scale=factor, turn=7 * number))
    router = glent.Router(scene)
    node.on("click", print)
    for time, action in enumerate(("move", "press", "release")):
        router.feed(glent.PointerSample(float(time), action, 5.0, 5.0))
    for one in node.lineage():
        points = (scene.point(one, 3, 3), scene.local(one, 5, 5), *scene.corners(one), *one.screen_corners())
        assert all(math.isfinite(number) for numbers in (*points, scene.to_screen(one)) for number in numbers)


def test_l6_limits_hold_for_sizes_that_do_not_fit_their_content():
    assert Place(width="50%", min_width=60).edges(100.0, 40.0) == (0.0, 0.0, 60.0, 40.0)
    assert Place(width="50%", max_width=30).edges(100.0, 40.0) == (0.0, 0.0, 30.0, 40.0)
    assert Place(right=0, width="50%", min_width=60).edges(100.0, 40.0) == (40.0, 0.0, 100.0, 40.0)
    assert Place(bottom=0, height=90, max_height=30).edges(100.0, 40.0) == (0.0, 10.0, 100.0, 40.0)
