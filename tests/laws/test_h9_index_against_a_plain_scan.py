from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import plain_hits as plain
from glent import Node, Scene
from glent.core.routing.hit.point import hits_at, pick
from strategies import eighths, keywords, places, points, scenes, shapes, solidities

pytestmark = pytest.mark.long


def agree(scene: Scene, at: list[tuple[float, float]]) -> None:
    scene._index.refresh()
    for x, y in at:
        assert pick(scene, x, y) == plain.offers(scene, x, y)
        found = hits_at(scene, x, y, None, "mouse")
        assert [hit.node for hit in found] == [seen.node for seen in plain.hits(scene, x, y)]


@settings(max_examples=70, deadline=None, suppress_health_check=list(HealthCheck))
@given(st.data(), scenes(), st.lists(points, min_size=3, max_size=12))
def test_h9_index_equals_plain_scan_through_any_changes(data: st.DataObject, scene: Scene, at: list) -> None:
    agree(scene, at)
    for step in range(data.draw(st.integers(0, 8))):
        nodes = [node for node in scene.walk() if node.parent is not None]
        if not nodes:
            break
        node: Node = nodes[data.draw(st.integers(0, len(nodes) - 1))]
        act = data.draw(
            st.sampled_from(
                [
                    "place",
                    "solidity",
                    "shape",
                    "clips",
                    "order",
                    "visible",
                    "scroll",
                    "add",
                    "remove",
                    "on",
                    "window",
                    "grow",
                ]
            )
        )
        if act == "place":
            node.place = data.draw(places())
        elif act == "solidity":
            node.solidity = data.draw(solidities)
        elif act == "shape":
            node.shape = data.draw(st.one_of(st.none(), shapes))
        elif act == "clips":
            node.clips = not node.clips
        elif act == "order":
            node.order = data.draw(st.integers(-2, 3))
        elif act == "visible":
            node.visible = not node.visible
        elif act == "scroll":
            node.scroll = data.draw(st.tuples(eighths, eighths))
        elif act == "add":
            node.add(f"a{step}", **data.draw(keywords))
        elif act == "grow":
            for n in range(30):
                node.add(f"g{step}-{n}", **data.draw(keywords) if n < 3 else {"solidity": "glass"})
        elif act == "remove":
            node.remove()
        elif act == "on":
            node.on("click", print)
        else:
            scene.window = data.draw(st.sampled_from([(256, 128), (300, 400)]))
        if data.draw(st.booleans()):
            agree(scene, at)
    agree(scene, at)
