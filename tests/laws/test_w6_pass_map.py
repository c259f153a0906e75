from __future__ import annotations

import pytest
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from glent import Place, Router, Scene
from glent.diagnose import Zone, pass_map
from strategies import scenes

pytestmark = pytest.mark.long


@settings(
    max_examples=120, deadline=None, suppress_health_check=list(HealthCheck), phases=[Phase.reuse, Phase.generate]
)
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
