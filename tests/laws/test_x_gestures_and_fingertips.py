"""Laws G1–G6 and H5 for rays, and direct touch by a fingertip."""

from __future__ import annotations

import math

import pytest

from glent import Camera, Cuboid, Feel, RaySample, Reason, Rectangle, SnapPoint, Sphere, TipSample, WheelSample
from glent.testing import Hand
from quay import Quay

# -- gestures --------------------------------------------------------------------------------------------------------


def test_g6_a_gaze_dwells_with_its_progress_and_on_spots_too():
    quay = Quay(Feel(dwell_time=0.5), water=False)
    quay.add("send", (0, 0, 100, 100), "dwell", role="button")
    quay.hear(quay.scene.spot("post", Sphere(0.3), position=(2, 1.5, -2)), "dwell")
    quay.wand.aim("board/send")
    quay.wand.wait(0.6, 0.1)
    progress = [event.data["progress"] for event in quay.events]
    assert progress == sorted(progress)
    assert progress[0] > 0.0
    assert (progress[-1], [event.data["done"] for event in quay.events].count(True)) == (1.0, 1)
    quay.events.clear()
    quay.wand.aim((2.0, 1.5, -2.0))
    quay.wand.wait(0.2, 0.1)
    quay.wand.aim((9.0, 1.5, -2.0))
    assert [event.data["progress"] for event in quay.events][-1] == 0.0
    assert {event.here.name for event in quay.events} == {"post"}


def test_g1_clicks_of_a_ray_count_by_degrees_and_hold_forgives_a_tremble():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100), "click hold")
    quay.wand.click("board/send")
    quay.wand.click((0.05, 1.5, -2.0))  # 1.4 degrees
    quay.wand.click((0.25, 1.5, -2.0))  # 5.7 more
    assert [event.count for event in quay.events] == [1, 2, 1]
    quay.said()
    quay.wand.pause(2.0)
    quay.wand.aim("board/send")
    quay.wand.press()
    quay.wand.aim((0.05, 1.5, -2.0))
    quay.wand.wait(0.6)
    assert quay.said() == ["hold send"]


def test_g3_a_crate_is_dragged_from_a_panel_to_another_and_to_a_spot_of_the_world():
    quay = Quay()
    crate = quay.add("crate", (40, 40, 20, 20), "")
    crate.on("drag_start", lambda event: event.give("rope"))
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    quay.add("shelf", (0, 0, 100, 100), "drop drag_enter drag_leave", parent=wall)
    hold = quay.hear(quay.scene.spot("hold", Sphere(0.5), position=(-2.0, 1.5, -2.0)), "drop")
    quay.wand.drag(crate, "wall/shelf")
    assert quay.said() == ["drag_enter shelf", "drop shelf", "drag_leave shelf"]
    quay.wand.drag(crate, hold)
    assert quay.said() == ["drop hold"]
    quay.wand.drag(crate, (0.0, 0.0, -1.0))
    verdict = quay.wand.verdicts[-1]
    assert (verdict.drop.payload, verdict.world, verdict.spot.node) == ("rope", False, quay.water)


def test_g4_a_list_on_a_panel_scrolls_by_wheel_of_the_ray_and_by_its_drag():
    quay = Quay(Feel(scroll_kinds=("touch", "ray")), water=False)
    quay.add("list", (0, 0, 100, 100), "", scrolls=True, clips=True, content=(100, 1000), solidity="solid")
    quay.wand.aim("board/list")
    quay.wand.feed(WheelSample(1.0, 0, 0, 0, 2, "line", "ray"))
    assert quay.panel["list"].scroll == (0.0, 72.0)
    quay.wand.drag((0.0, 1.4, -2.0), (0.0, 1.7, -2.0), steps=30)
    assert quay.panel["list"].scroll[1] == pytest.approx(102.0, abs=4.0)  # 30 pixels of the panel


# -- H5: reach -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("degrees", "hit"), [(0.9, True), (1.1, False)])
@pytest.mark.parametrize(
    "form", [SnapPoint(0.1), Cuboid((0.2, 0.2, 0.2)), Rectangle(0.2, 0.2)], ids=["snap", "box", "patch"]
)
def test_h5_a_far_small_spot_is_reached_within_its_cone(form, degrees, hit):
    quay = Quay()
    post = quay.hear(quay.scene.spot("post", form, position=(0, 1.5, -20), reach={"ray": 1.0}), "click")
    near = 20.0 - 0.1 * (not isinstance(form, Rectangle)) * (not isinstance(form, SnapPoint))
    edge = math.atan2(0.1, near) if not isinstance(form, SnapPoint) else math.asin(0.1 / 20.0)
    beside = math.tan(edge + math.radians(degrees)) * 20.0
    verdict = quay.wand.click((beside, 1.5, -20.0))
    assert (verdict.owner is post) is hit
    if hit:
        assert verdict.reason is Reason.REACHED
        assert verdict.spot.node is post
    hits = quay.router.hits_ray((0, 1.5, 0), (beside, 0.0, -20.0))
    assert ([found.node for found in hits if found.offered][:1] == [post]) is hit


def test_h5_reach_along_a_ray_yields_to_true_containment_and_to_what_covers_it():
    quay = Quay()
    small = quay.add("small", (48, 48, 4, 4), "click", reach={"ray": 3.0})
    assert quay.wand.click(quay.panel.to_world(56, 50)).owner is small
    wide = quay.add("wide", (0, 0, 100, 47), "click")
    assert quay.wand.click(quay.panel.to_world(50, 46)).owner is wide
    quay.scene.spot("shed", Cuboid((4, 4, 0.1)), position=(0, 1.5, -1), solidity="solid")
    assert quay.wand.click(quay.panel.to_world(56, 50)).owner is quay.scene["shed"]


def test_h5_touch_through_a_camera_reaches_nodes_of_panels_by_pixels_of_the_screen():
    quay = Quay()
    small = quay.add("small", (45, 45, 10, 10), "click", reach=6)
    quay.scene.camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    finger = Hand(quay.router, "finger", "touch")
    right, down = quay.scene.point(small, 10.0, 5.0)
    assert finger.click((right + 5.5, down)).owner is small
    assert finger.click((right + 6.5, down)).owner is None


# -- direct touch ----------------------------------------------------------------------------------------------------


def test_a_fingertip_presses_by_coming_through_the_front_and_releases_coming_back():
    quay = Quay(water=False)
    quay.add("send", (20, 20, 60, 60), "enter leave press release click")
    verdicts = [quay.tip.to("board/send", depth) for depth in (0.2, 0.03, 0.005, -0.01, -0.02, 0.01, 0.2)]
    assert quay.said() == ["enter send", "press send", "release send", "click send", "leave send"]
    assert [verdict.owner is not None for verdict in verdicts] == [False, False, False, True, True, True, False]
    assert quay.events[-2].local == pytest.approx((30, 30))
    assert quay.router.seat().last_kind == "touch"
    quay.tip.poke("board/send")
    quay.tip.poke("board/send")
    assert [event.count for event in quay.events if event.kind == "click"] == [1, 2, 3]


@pytest.mark.parametrize(
    ("depths", "pressed"),
    [
        ((0.3, -0.01), False),
        ((0.04, -0.3), False),
        ((-0.02, 0.02, -0.02), True),
        ((-0.02, -0.01), False),
        ((0.04, 0.0), True),
    ],
    ids=["too far before", "too deep", "from behind first", "behind all along", "just on it"],
)
def test_a_fingertip_presses_only_from_within_a_few_centimetres_in_front(depths, pressed):
    quay = Quay(water=False)
    quay.add("send", (20, 20, 60, 60), "press")
    for depth in depths:
        quay.tip.to("board/send", depth)
    assert quay.said() == (["press send"] if pressed else [])


def test_a_fingertip_drags_on_the_panel_beyond_its_edge_and_a_lost_hand_cancels():
    quay = Quay(water=False)
    quay.add("slider", (10, 40, 80, 20), "drag_start drag cancel drag_end")
    quay.tip.to("board/slider", 0.02)
    quay.tip.to("board/slider", -0.01)
    quay.tip.to((0.3, 1.5, -2.01))
    quay.tip.to((0.8, 1.5, -2.02))
    assert quay.events[-1].data["x"] == pytest.approx(80.0)
    assert quay.events[-1].local[0] == pytest.approx(120.0)
    assert quay.tip.lost().reason is Reason.CANCELLED
    assert quay.said()[-1] == "drag_end slider"
    assert quay.tip.lost().reason is Reason.STRAY


def test_a_fingertip_at_rest_on_a_ship_presses_nothing_while_the_ship_sails():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100), "press")
    quay.tip.to("board/send", 0.02)
    for step in range(1, 30):
        quay.panel.move((step * 0.2, 1.5, -2.0 - step * 0.15))
        quay.tip.to("board/send", 0.02)
    assert quay.said() == []
    quay.tip.to("board/send", -0.005)
    assert quay.said() == ["press send"]


def test_p2_a_fingertip_that_begins_to_scroll_leaves_the_button_with_the_same_sample():
    quay = Quay(water=False)
    area = quay.add("area", (0, 0, 100, 100), "scroll", scrolls=True, content=(100, 900))
    quay.add("send", (10, 10, 50, 50), "enter leave press cancel", role="button", parent=area)
    heard = []
    for time, (y, z) in enumerate([(1.7, -1.5), (1.7, -1.99), (1.7, -2.01), (1.5, -2.01), (1.4, -2.01)]):
        quay.router.feed(TipSample(float(time), (-0.2, y, z)))
        heard.append(quay.said())
    assert heard == [
        [],
        [],
        ["enter send", "press send"],
        ["cancel send", "scroll area", "leave send"],
        ["scroll area"],
    ]


def test_x2_a_panel_whose_pose_is_set_is_hit_where_it_stands_then():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100))
    there = quay.panel.pose
    ahead = ((0.0, 1.5, 0.0), (0.0, 0.0, -1.0))
    assert [hit.node.name for hit in quay.router.hits_ray(*ahead)] == ["send"]
    quay.panel.move(position=(5.0, 1.5, -2.0))
    away = quay.panel.pose
    assert quay.router.hits_ray(*ahead) == []
    quay.panel.pose = there
    assert [hit.node.name for hit in quay.router.hits_ray(*ahead)] == ["send"]
    quay.panel.pose = away
    assert quay.router.hits_ray(*ahead) == []
    (hit,) = quay.router.hits_ray((5.0, 1.5, 0.0), (0.0, 0.0, -1.0))
    assert repr(hit) == "<Hit board/send 2 m away at (5, 1.5, -2), offered>"


def test_x3_a_ray_through_both_walls_of_a_ring_is_told_to_glass_once():
    quay = Quay(size=(5.5, 1.0), pixels=(550, 100), radius=1.0, two_sided=True)
    quay.add("veil", (0, 0, 550, 100), "press enter", solidity="glass")
    verdict = quay.router.feed(RaySample(1.0, "press", (3.0, 1.5, -1.2), (-1.0, 0.0, 0.0)))
    assert verdict.world
    assert quay.said() == ["enter veil", "press veil"]
