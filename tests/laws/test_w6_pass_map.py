from __future__ import annotations

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from glent import Place, PointerSample, Router, Scene, SceneError, SeatError, WheelSample
from glent.demo.worlds import manned_bridge
from glent.diagnose import Zone, kind_map, map_change, pass_map
from strategies import scenes

pytestmark = pytest.mark.long


@settings(max_examples=80, deadline=None, suppress_health_check=list(HealthCheck), phases=[Phase.reuse, Phase.generate])
@given(
    scenes(most=25), st.lists(st.tuples(st.integers(0, 199), st.integers(0, 127)), min_size=20, max_size=60), st.data()
)
def test_w6_the_map_agrees_with_the_question_at_every_pixel_centre(
    scene: Scene, pixels: list, data: st.DataObject
) -> None:
    nodes = list(scene.walk())
    for number in data.draw(st.lists(st.integers(0, len(nodes) - 1), max_size=4)):
        nodes[number].on("click", print)
    for number in data.draw(st.lists(st.integers(0, len(nodes) - 1), max_size=3)):
        term = data.draw(st.sampled_from(["modal", "through", "blocked", "claims", "transition"]))
        layer = nodes[number].lineage()[0]
        if term == "modal":
            nodes[number].modal = True
        elif term == "claims":
            layer.claims = ["pointer"]
        elif term == "transition":
            layer.transition = "ignores"
        else:
            nodes[number].seats, nodes[number].for_others = ["two"], term
    router = Router(scene)
    found = pass_map(scene)
    assert found.zones.shape == tuple(round(side) for side in reversed(scene.window))
    for column, row in pixels:
        column, row = column % found.zones.shape[1], row % found.zones.shape[0]
        x, y = column + 0.5, row + 0.5
        zone = Zone(found.zones[row, column])
        assert router.would_reach_world(x, y) == (zone in (Zone.WORLD, Zone.PASSED)), (x, y, zone)
        hits = router.hits(x, y)
        owner = found.owners[row, column]
        if zone is Zone.BLOCKED:
            assert not any(hit.offered and hit.node.effective_solidity == "solid" for hit in hits)
        elif zone is Zone.WORLD:
            assert not hits
        elif zone is Zone.PASSED:
            assert hits
            assert owner == -1
        else:
            node = found.nodes[owner]
            assert any(hit.node is node and hit.offered for hit in hits)
            assert (node.effective_solidity == "solid") == (zone is not Zone.GLASS)
            assert node.is_enabled == (zone is not Zone.DISABLED)


def test_w6_a_clip_cuts_a_turned_node_in_a_turned_one_on_the_map_as_well() -> None:
    scene = Scene(size=(256, 128))
    card = scene.layer("l").add("card", place=Place(top="100%", height=101.875, turn=45, scale=-1), solidity="solid")
    strip = card.add("strip", place=Place(bottom="100% - 40", height=20.875), solidity="glass", clips=True)
    strip.add("leaf", place=Place(left=27.375, turn=10.4, pivot=(0, 0)), solidity="solid")
    router = Router(scene)
    found = pass_map(scene)
    for row in range(0, 128, 3):
        for column in range(0, 256, 3):
            hits = router.hits(column + 0.5, row + 0.5)
            solid = next((hit.node for hit in hits if hit.node.effective_solidity == "solid"), None)
            owner = found.owners[row, column]
            assert (found.nodes[owner] if owner >= 0 else None) is solid


@settings(max_examples=25, deadline=None, suppress_health_check=list(HealthCheck), phases=[Phase.reuse, Phase.generate])
@given(
    scenes(most=15), st.lists(st.tuples(st.integers(0, 49), st.integers(0, 31)), min_size=10, max_size=30), st.data()
)
def test_w6_the_maps_of_touch_hover_and_wheel_agree_with_what_is_fed(
    scene: Scene, pixels: list, data: st.DataObject
) -> None:
    scene.window = (200, 128)
    nodes = list(scene.walk())
    for node in nodes:
        node.scroll = (0.0, 0.0)  # what is scrolled beyond its end moves as it is touched, and maps are of one moment
    for number in data.draw(st.lists(st.integers(0, len(nodes) - 1), max_size=4)):
        nodes[number].on(data.draw(st.sampled_from(["click", "wheel", "scroll"])), lambda event: None)
        nodes[number].reach = {"touch": 12}
    if data.draw(st.booleans()):
        nodes[data.draw(st.integers(0, len(nodes) - 1))].modal = True
    router = Router(scene)
    touch, hover, wheel = (kind_map(router, kind) for kind in ("touch", "hover", "wheel"))
    time = 1.0
    for column, row in pixels:  # corners of cells, which are asked
        x, y, time = column * 4, row * 4, time + 10.0
        at = x + 0.5, y + 0.5

        verdict = router.feed(PointerSample(time, "press", *at, f"finger {time}", "touch"))
        zone, owner = Zone(touch.zones[y, x]), touch.owners[y, x]
        assert verdict.world == (zone in (Zone.WORLD, Zone.PASSED)), (at, zone, verdict)
        if zone in (Zone.GLASS, Zone.SOLID):
            assert verdict.owner is not None, (at, zone, verdict)
            assert touch.nodes[owner].is_within(verdict.owner)  # a control has what comes to its parts
        else:
            assert verdict.owner is None, (at, zone, verdict)
        router.feed(PointerSample(time, "cancel", *at, f"finger {time}", "touch"))

        verdict = router.feed(PointerSample(time + 1.0, "move", *at))
        zone, owner = Zone(hover.zones[y, x]), hover.owners[y, x]
        assert verdict.world == (zone in (Zone.WORLD, Zone.PASSED)), (at, zone, verdict)
        hovered = router.hovered().get("mouse", ())
        assert bool(hovered) == (owner >= 0)
        assert owner < 0 or hover.nodes[owner] in hovered

        zone = Zone(wheel.zones[y, x])
        verdict = router.feed(WheelSample(time + 2.0, *at, 0.0, 0.0))
        assert verdict.world or zone not in (Zone.WORLD, Zone.PASSED), (at, zone, verdict)
        assert not verdict.world or zone not in (Zone.SOLID, Zone.BLOCKED), (at, zone, verdict)


def test_w6_the_map_of_keys_and_what_two_maps_differ_in() -> None:
    def desk(fog: bool = False, left: float = 10.0) -> Router:
        scene = Scene((120, 60))
        layer = scene.layer("desk")
        layer.add("horn", role="button", place=Place(left, 10, width=20, height=20))
        layer.add("lamp", role="button", place=Place(50, 10, width=20, height=20), enabled=False)
        layer.add("raft", place=Place(90, 10, width=20, height=20)).on("click", print)
        if fog:
            scene.layer("weather", order=1).add("fog", solidity="solid", place=Place(0, 0, width=100, height=20))
        return Router(scene)

    keys = kind_map(desk(), "keys")
    named = {node.name: {Zone(zone) for zone in keys.zones[keys.owners == n]} for n, node in enumerate(keys.nodes)}
    assert named == {"horn": {Zone.SOLID}, "lamp": {Zone.DISABLED}, "raft": {Zone.DISABLED}}
    assert int((keys.owners >= 0).sum()) == 3 * 400
    same = map_change(kind_map(desk()), kind_map(desk()))
    assert (same.changed.any(), same.moves) == (False, {})
    change = map_change(kind_map(desk()), kind_map(desk(fog=True)))
    assert change.moves == {
        ((None, Zone.WORLD), ("weather/fog", Zone.SOLID)): 100 * 20 - 3 * 200 + 100,
        (("desk/horn", Zone.SOLID), ("weather/fog", Zone.SOLID)): 200,
        (("desk/lamp", Zone.DISABLED), ("weather/fog", Zone.SOLID)): 200,
        (("desk/raft", Zone.SOLID), ("weather/fog", Zone.SOLID)): 100,
    }
    assert int(change.changed.sum()) == 2000
    moved = map_change(kind_map(desk()), kind_map(desk(left=12.0))).moves
    assert moved == {
        (("desk/horn", Zone.SOLID), (None, Zone.WORLD)): 40, ((None, Zone.WORLD), ("desk/horn", Zone.SOLID)): 40
    }  # fmt: skip
    small = desk()
    small.scene.window = (60, 30)
    with pytest.raises(SceneError, match="120x60 and 60x30"):
        map_change(kind_map(desk()), kind_map(small))
    with pytest.raises(SceneError, match="expected one of press, touch"):
        kind_map(desk(), "kelp")
    with pytest.raises(SeatError):
        kind_map(desk(), "press", "second")


@pytest.mark.parametrize("kind", ["press", "touch", "hover", "wheel"])
def test_w6_a_map_is_of_one_seat(kind: str) -> None:
    router = manned_bridge(2)[0]
    for seat in ("main", "second"):
        found = kind_map(router, kind, seat)
        other = found.zones.shape[1] // 2
        half = found.zones[:, other:] if seat == "main" else found.zones[:, : other - 4]
        assert (half == Zone.BLOCKED).mean() > 0.99
