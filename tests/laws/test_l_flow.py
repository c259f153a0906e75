"""Flow: rows, columns, grids, and boxes that fit what is in them (laws L1–L7)."""

from __future__ import annotations

import pickle
from itertools import pairwise
from pathlib import Path

import pytest
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

import glent
import plain_flow
from glent import Flow, Place, PlaceError, Scene, SceneError
from glent.formats import read_scene, write_scene

pytestmark = pytest.mark.long

sizes = st.one_of(st.none(), st.integers(0, 240).map(lambda n: n / 2), st.sampled_from(["fit-content", "25%", "100%"]))
limits = st.one_of(st.none(), st.none(), st.integers(0, 120).map(float), st.just("50%"))
sides = st.one_of(st.none(), st.none(), st.none(), st.integers(-5, 40).map(float), st.just("25%"))
pads = st.integers(0, 8).map(float)


@st.composite
def places(draw: st.DrawFn) -> Place:
    given_ = {key: draw(sides) for key in ("left", "top", "right", "bottom")}
    for near, far, size in (("left", "right", "width"), ("top", "bottom", "height")):
        given_[size] = draw(sizes)
        if None not in (given_[near], given_[far]):
            given_[size] = None
    bounds = {f"{end}_{size}": draw(limits) for end in ("min", "max") for size in ("width", "height")}
    return Place(**given_, **bounds, grow=draw(st.sampled_from([0.0, 0.0, 1.0, 2.5])))


@st.composite
def flows(draw: st.DrawFn) -> Flow:
    kind = draw(st.sampled_from(["row", "column", "grid"]))
    grid = kind == "grid"
    wraps = kind == "row" and draw(st.booleans())
    return Flow(
        kind,
        wraps=wraps,
        gap=draw(st.tuples(pads, pads) if grid or wraps else pads),
        padding=draw(st.one_of(pads, st.tuples(pads, pads), st.tuples(pads, pads, pads, pads))),
        align=draw(st.sampled_from(["stretch", "start", "center", "end"])),
        justify=draw(st.sampled_from(["start", "center", "end"] + ["space-between"] * (not grid))),
        columns=draw(st.integers(1, 4)) if grid else None,
    )


contents = st.one_of(st.none(), st.tuples(pads.map(lambda n: n * 9), pads.map(lambda n: n * 4)))


class FlowMachine(RuleBasedStateMachine):
    """Any changes in any order come to the boxes that the plain model finds from nothing (laws L1–L7)."""

    @initialize(flow=st.one_of(st.none(), flows()))
    def begin(self, flow: Flow | None) -> None:
        self.scene = Scene((300, 200))
        self.layer = self.scene.layer("desk")
        self.layer.flow = flow
        self.made = 0

    def one(self, number: int) -> glent.Node:
        nodes = list(self.scene.walk())
        return nodes[number % len(nodes)]

    @rule(number=st.integers(0, 99), place=places(), flow=st.one_of(st.none(), flows()), content=contents)
    def add(self, number: int, place: Place, flow: Flow | None, content: tuple[float, float] | None) -> None:
        self.made += 1
        self.one(number).add(f"n{self.made}", place=place, flow=flow, content=content, clips=self.made % 3 == 0)

    @precondition(lambda self: self.made)
    @rule(number=st.integers(0, 99), place=places())
    def move(self, number: int, place: Place) -> None:
        node = self.one(number)
        assume(node.parent is not None)
        node.place = place

    @rule(number=st.integers(0, 99), flow=st.one_of(st.none(), flows()))
    def reflow(self, number: int, flow: Flow | None) -> None:
        self.one(number).flow = flow

    @rule(number=st.integers(0, 99), content=contents)
    def draw_otherwise(self, number: int, content: tuple[float, float] | None) -> None:
        self.one(number).content = content

    @rule(number=st.integers(0, 99))
    def hide_or_show(self, number: int) -> None:
        self.one(number).visible = not self.one(number).visible

    @rule(number=st.integers(0, 99))
    def turn_children_round(self, number: int) -> None:
        node = self.one(number)
        node.arrange([child.name for child in reversed(node.children)])

    @rule(number=st.integers(0, 99))
    def remove(self, number: int) -> None:
        node = self.one(number)
        assume(node.parent is not None)
        node.remove()

    @rule(size=st.sampled_from([(300, 200), (150, 400), (40, 40)]))
    def resize(self, size: tuple[float, float]) -> None:
        self.scene.size = size
        self.scene.window = size

    @rule(number=st.integers(0, 99))
    def ask(self, number: int) -> None:
        node = self.one(number)
        assert node.content_size == pytest.approx(plain_flow.content(node, node.size[0]), abs=1e-6)

    @invariant()
    def boxes_are_those_of_the_laws(self) -> None:
        expected = plain_flow.boxes(self.layer, *self.scene.layer_size)
        for node in self.scene.walk():
            if node.parent is not None:
                assert node.edges == pytest.approx(expected[node.path], abs=1e-6), node.path


TestFlowMachine = FlowMachine.TestCase
TestFlowMachine.settings = settings(
    max_examples=110, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck)
)


def row(flow: Flow, *children: Place, size: tuple[float, float] = (200, 100)) -> list[tuple[float, ...]]:
    layer = Scene(size).layer("hud")
    layer.flow = flow
    nodes = [layer.add(f"n{n}", place=place, content=(30, 10)) for n, place in enumerate(children)]
    return [node.edges for node in nodes]


@pytest.mark.parametrize(
    ("flow", "children", "edges"),
    [
        (Flow("row", gap=5), [Place(), Place(width=20)], [(0, 0, 30, 100), (35, 0, 55, 100)]),
        (Flow("column", padding=(1, 2, 3, 4)), [Place(), Place()], [(4, 1, 198, 11), (4, 11, 198, 21)]),
        (Flow("row", align="center"), [Place()], [(0, 45, 30, 55)]),
        (Flow("row", align="end", justify="end"), [Place(height=40)], [(170, 60, 200, 100)]),
        (Flow("row", justify="space-between"), [Place()] * 3, [(0, 0, 30, 100), (85, 0, 115, 100), (170, 0, 200, 100)]),
        (Flow("row"), [Place(grow=1), Place(grow=3)], [(0, 0, 65, 100), (65, 0, 200, 100)]),
        (Flow("row"), [Place(grow=1, max_width=50), Place(grow=1)], [(0, 0, 50, 100), (50, 0, 200, 100)]),
        (Flow("row"), [Place(width="75%"), Place(width="75%")], [(0, 0, 150, 100), (150, 0, 300, 100)]),
        (Flow("row"), [Place(), Place(right=0, width=10)], [(0, 0, 30, 100), (190, 0, 200, 100)]),
        (Flow("row"), [Place(turn=45, scale=2), Place()], [(0, 0, 30, 100), (30, 0, 60, 100)]),
        (
            Flow("row", wraps=True, gap=(4, 20), align="start"),
            [Place(width=90), Place(width=90, height=30), Place(width=90), Place(width=250), Place(grow=1)],
            [(0, 0, 90, 10), (110, 0, 200, 30), (0, 34, 90, 44), (0, 48, 250, 58), (0, 62, 200, 72)],
        ),
        (
            Flow("grid", columns=2, gap=(6, 10)),
            [Place(), Place(width=40, grow=1), Place(height=20)],
            [(0, 0, 95, 74), (105, 0, 145, 74), (0, 80, 95, 100)],
        ),
    ],
)
def test_l3_l4_l6_where_children_are_laid(flow: Flow, children: list[Place], edges: list[tuple[float, ...]]) -> None:
    assert row(flow, *children) == edges


@given(flow=flows(), many=st.integers(1, 12), width=st.integers(1, 4000).map(lambda n: n / 7))
def test_l3_neighbours_meet_at_the_same_number(flow: Flow, many: int, width: float) -> None:
    if flow.kind == "row":
        flow = flow.replace(gap=0, justify="start", wraps=False)
        spans = [(x0, x1) for x0, _, x1, _ in row(flow, *[Place(grow=1)] * many, size=(width, 50))]
        assert all(one[1] == other[0] for one, other in pairwise(spans))  # law H2
        if spans[-1][1] > width - flow.padding[1]:  # nothing shrinks
            assert all(x1 - x0 == pytest.approx(30) for x0, x1 in spans)
        elif width > flow.padding[1] + flow.padding[3]:
            assert spans[-1][1] == width - flow.padding[1]


def test_l2_a_box_that_is_to_fit_nothing_is_of_no_size_and_is_never_hit() -> None:
    scene = Scene((200, 100))
    fit = Place(width="fit-content", height="fit-content")
    menu = scene.layer("hud").add("menu", place=fit, flow=Flow("column", padding=8), solidity="solid")
    router = glent.Router(scene)
    assert (menu.size, router.hits(1, 1)) == ((0, 0), [])
    item = menu.add("moor", content=(50, 12))
    assert (menu.size, router.hits(1, 1)[0].node) == ((66, 28), menu)
    item.visible = False
    assert (menu.size, router.hits(1, 1)) == ((0, 0), [])


def test_l5_hover_and_focus_go_by_boxes_that_a_longer_label_has_moved() -> None:
    scene = Scene((400, 100))
    bar = scene.layer("hud").add("bar", place=Place(left=0, top=0, height=30), flow=Flow("row"))
    one, two = (bar.add(name, content=(50, 10), role="button") for name in ("moor", "cast-off"))
    router = glent.Router(scene)
    router.feed(glent.PointerSample(0.0, "move", 60, 10))
    assert (one.hovered, two.hovered) == (False, True)
    one.content = (80, 10)
    router.tick(0.1)
    assert (one.hovered, two.hovered) == (True, False)  # law P7: what lies there now


def test_l5_what_scrolls_reaches_the_padding_at_its_end() -> None:
    scene = Scene((100, 100))
    listed = scene.layer("hud").add("list", flow=Flow("column", padding=5), scrolls=True)
    for number in range(10):
        listed.add(f"row-{number}", place=Place(height=20))
    assert listed.scroll_range == (0, 110)
    listed["row-3"].place = Place(height=50)
    assert listed.scroll_range == (0, 140)


def test_l7_a_wrapping_row_fits_its_height_to_its_width_and_scrolls_down_alone() -> None:
    scene = Scene((200, 100))
    column = scene.layer("hud").add("column", place=Place(left=0, top=0, width="100%"), flow=Flow("column"))
    crates = column.add("crates", flow=Flow("row", wraps=True, gap=4, padding=3))
    for number in range(6):
        crates.add(f"c{number}", content=(40, 10))
    below = column.add("below", content=(10, 10))
    assert (crates.size, below.edges[1]) == ((200, 3 + 10 + 4 + 10 + 3), 30)
    crates["c0"].content = (160, 10)
    assert below.edges[1] == 44
    scene.size = (400, 100)
    assert (crates.size, below.edges[1], crates.content_size) == ((400, 16), 16, (386, 16))
    scene.size = (60, 100)
    crates.set_for_now(scrolls=True, place=Place(height=40))
    assert crates.scroll_range == (106, 3 + 6 * 14 - 4 + 3 - 40), "one is wider than the room, and 3 is its padding"


@pytest.mark.parametrize(
    ("given_", "part"),
    [
        ({"kind": "pile"}, "the kind of a flow is 'pile', expected one of row, column, grid"),
        ({"kind": "row", "gap": -1}, "gap is -1, expected a number of pixels"),
        ({"kind": "row", "gap": (1, 2)}, "gap is (1, 2), expected a number of pixels"),
        ({"kind": "row", "gap": float("nan")}, "gap is nan"),
        ({"kind": "row", "padding": (1, 2, 3)}, "padding is (1, 2, 3), expected 1, 2 or 4 numbers"),
        ({"kind": "row", "align": "middle"}, "align is 'middle', expected one of stretch, start, center, end"),
        ({"kind": "grid"}, "columns is None, expected how many columns the grid has"),
        ({"kind": "grid", "columns": 2, "justify": "space-between"}, "justify is 'space-between', expected"),
        ({"kind": "column", "wraps": True}, "wraps is True, expected True or False, and True for a row alone"),
        ({"kind": "row", "columns": 2}, "columns is 2, expected it for a grid alone"),
    ],
)
def test_l1_what_is_no_flow_is_refused(given_: dict, part: str) -> None:
    with pytest.raises(PlaceError) as error:
        Flow(**given_)
    assert part in str(error.value)


def test_l1_where_no_flow_can_be() -> None:
    scene = Scene((100, 100))
    with pytest.raises(SceneError, match=r"hud: flow is 'row', expected None or a Flow"):
        scene.layer("hud").flow = "row"  # type: ignore[assignment]
    with pytest.raises(SceneError, match=r"buoy: a spot has no flow to set"):
        scene.spot("buoy", glent.Sphere(1)).flow = Flow("row")
    with pytest.raises(PlaceError, match="grow is -1"):
        Place(grow=-1)
    with pytest.raises(PlaceError, match="max_width is 'fit-content'"):
        Place(max_width="fit-content")


@settings(deadline=None)
@given(flow=flows(), place=places())
def test_flows_and_places_are_values_and_go_through_files(tmp_path_factory, flow: Flow, place: Place) -> None:
    assert Flow(**flow.given()) == flow == pickle.loads(pickle.dumps(flow)) == flow.replace()
    assert hash(flow) == hash(flow.replace())
    assert eval(repr(flow), {"Flow": Flow}) == flow
    with pytest.raises(AttributeError, match=r"set node\.flow"):
        flow.gap = 3  # type: ignore[misc]
    scene = Scene((100, 100))
    scene.layer("hud").add("box", place=place, flow=flow)
    path: Path = tmp_path_factory.mktemp("flow") / "scene.yaml"
    write_scene(scene, path)
    read = read_scene(path)["hud/box"]
    assert (read.place, read.flow) == (place, flow)
