"""The small print of gestures and their neighbours: one small fact of a law each, found untested by changing it."""

from __future__ import annotations

import pytest

from desk import Desk
from glent import Feel, KeySample, Place, RaySample, Reason, Recogniser, Router, Scene, SceneError, TipSample

BOX = (0, 0, 40, 40)


@pytest.mark.parametrize(("one", "other"), [((20.0, 45.0), (80.0, 55.0)), ((25.0, 50.0), (75.0, 50.0))])
def test_g6_two_fingers_that_part_along_either_axis_pinch(one: tuple[float, float], other: tuple[float, float]) -> None:
    desk = Desk()
    desk.add("chart", (0, 0, 100, 100), solidity="solid", hears="pinch")
    desk.finger.move((20.0, 50.0))
    desk.finger.press()
    desk.thumb.move((80.0, 50.0))
    desk.thumb.press()
    assert desk.said() == []
    desk.finger.move(one)
    desk.thumb.move(other)
    assert "pinch chart" in desk.said(), "neither went as far as a drag would need"
    assert desk.errors == []


@pytest.mark.parametrize("depth", [0.25, 0.5, 0.75])
@pytest.mark.parametrize("far", [False, True])
def test_g3_a_drag_near_an_edge_scrolls_the_faster_the_deeper_it_is(depth: float, far: bool) -> None:
    desk = Desk()
    area = desk.add("area", (0, 0, 100, 100), scrolls=True, axis="y", content=(100, 4000))
    area.scroll = (0, 2000)
    area.add("crate", place=Place(40, 2040, width=20, height=20), role="button").on(
        "drag_start", lambda e: e.give("salt")
    )
    area.accepts = lambda payload: True
    edge, speed = Feel().autoscroll_edge, Feel().autoscroll_speed
    desk.hand.move((50.0, 50.0))
    desk.hand.press()
    y = edge * (1.0 - depth)
    desk.hand.move((50.0, 100.0 - y if far else y), steps=3)
    desk.router.tick(desk.router.now + 1.0)
    before = area.scroll[1]
    desk.router.tick(desk.router.now + 0.1)
    assert abs(area.scroll[1] - before) == pytest.approx(speed * depth * 0.1, rel=0.01)
    assert (area.scroll[1] > before) is far


def test_g1_the_release_after_a_hold_says_that_it_was_told() -> None:
    desk = Desk(a={"box": BOX, "hears": "hold click"})
    desk.hand.move((5.0, 5.0))
    desk.hand.press()
    desk.hand.wait(2.0)
    assert "it was held long enough, and has been told" in desk.hand.release().why
    assert desk.said() == ["hold a"]


def test_w3_the_release_of_a_key_is_its_takers() -> None:
    desk = Desk(a={"box": BOX, "role": "button"})
    desk["a"].on("key_down", lambda event: event.take())
    desk.router.seat().focus = desk["a"]
    desk.router.feed(KeySample(1.0, "down", "KeyK"))
    verdict = desk.router.feed(KeySample(1.1, "up", "KeyK"))
    assert (verdict.reason, verdict.owner, verdict.world) == (Reason.KEY_HELD, desk["a"], False)


def test_g5_who_has_lost_a_press_hears_no_more_of_it() -> None:
    told: list[str] = []

    class Watcher(Recogniser):
        name = "own:watch"

        def moved(self, contact: object) -> None:
            told.append("moved")

        def lost(self, contact: object, why: str) -> None:
            told.append(why)

    desk = Desk(crate={"box": (0, 0, 100, 100), "hears": "drag"})
    desk["crate"].recognise(Watcher)
    desk.hand.move((10.0, 10.0))
    desk.hand.press()
    desk.hand.move((60.0, 60.0), steps=6)
    desk.hand.release()
    assert told.count("another won") == 1
    assert told[-1] == "another won"


def test_h1_nodes_put_between_others_again_and_again_keep_their_order() -> None:
    scene = Scene((100, 100))
    layer = scene.layer("l")
    router = Router(scene)
    layer.add("front", solidity="glass", order=1)
    expected = [layer["front"]]
    for number in range(60):
        expected.insert(1, layer.add(f"n{number}", solidity="glass"))
        assert [hit.node for hit in router.hits(50, 50)] == expected


def test_x3_a_curved_panel_that_a_ray_comes_through_twice_is_met_once() -> None:
    scene = Scene((100, 100))
    panel = scene.panel("dome", (None, 1.0), (800, 100), position=(0, 0, 0), radius=1.0, arc=300, two_sided=True)
    panel.solidity = "glass"
    heard: list[str] = []
    panel.on("press", lambda event: heard.append(event.kind))
    router = Router(scene)
    ray = ((0.8, 0.0, 4.0), (0.0, 0.0, -1.0))
    assert [hit.node.path for hit in router.hits_ray(*ray) if hit.offered] == ["dome"]
    router.feed(RaySample(1.0, "press", *ray, "hand", 0, 1))
    assert heard == ["press"]


@pytest.mark.parametrize(("start", "end", "presses"), [(0.44, 0.54, True), (0.56, 0.46, False), (0.3, 0.3, True)])
def test_x6_a_fingertip_presses_where_it_comes_through_the_front(start: float, end: float, presses: bool) -> None:
    scene = Scene((100, 100))
    panel = scene.panel("board", (1.0, 1.0), (100, 100), position=(0.0, 0.0, -1.0))
    panel.solidity = "solid"
    router = Router(scene)
    router.feed(TipSample(0.0, (start, 0.0, -0.99)))
    verdict = router.feed(TipSample(0.1, (end, 0.0, -1.01)))
    what = "half-way, where it crosses the plane, lies on the panel or beside it"
    assert ("press" in verdict.why) is presses, what


def test_p6_a_drag_ended_by_the_first_handler_of_its_enter_is_left_after_the_last_has_heard_of_it() -> None:
    desk = Desk(a={"box": BOX, "role": "button"})
    target = desk.add("target", (50, 50, 40, 40), solidity="solid", accepts=lambda payload: True)
    desk["a"].on("drag_start", lambda event: event.give("salt"))
    heard: list[str] = []
    target.on("drag_enter", lambda event: event.grab(), "capture")
    for kind in ("drag_enter", "drag_leave"):
        target.on(kind, lambda event: heard.append(event.kind))
    desk.hand.move((20.0, 20.0))
    desk.hand.press()
    desk.hand.move((70.0, 70.0), steps=4)
    assert heard == ["drag_enter", "drag_leave"]


@pytest.mark.parametrize("control", ["left_stick_x", "right_cluster_bottom"])
def test_w3_what_the_world_was_told_of_a_stick_near_its_middle_is_lifted_when_the_ui_takes_it(control: str) -> None:
    desk = Desk(a={"box": BOX, "role": "button"})
    desk.router.seat().focus = desk["a"]
    assert desk.hand.pad(control, 0.1).world
    verdict = desk.hand.pad(control, 1.0)
    assert not verdict.world
    assert verdict.lifts == (f"pad0/{control}",)
    assert not desk.hand.pad(control, 0.0).world
    assert desk.router.take_lifts() == ()


def test_g4_a_list_that_grows_while_it_springs_back_from_its_end_goes_on_from_there() -> None:
    desk = Desk()
    area = desk.add("area", (0, 0, 100, 100), scrolls=True, axis="y", content=(100, 300))
    area.scroll = (0, 195)
    finger = desk.finger
    finger.move((50.0, 80.0))
    finger.press()
    finger.move((50.0, 10.0), steps=3)  # beyond its end, and fast
    finger.release()
    desk.router.tick(finger.time + 0.05)
    beyond = area.scroll[1]
    assert beyond > 200.0
    area.content = (100, 320)
    for step in range(200):
        desk.router.tick(finger.time + 0.06 + step * 0.02)
    assert desk.errors == []
    assert area.scroll[1] == 220.0, "it comes to rest at the new end"


def test_g5_who_has_won_cannot_win_again_and_who_has_no_pointer_wins_nothing() -> None:
    told: list[str] = []

    class Twice(Recogniser):
        name = "own:twice"

        def wants(self, contact: object) -> bool:
            return True

        def claimed(self) -> None:
            told.append("claimed")

        def moved(self, contact: object) -> None:
            told.append(f"won again: {self.claim()}" if self.won else f"won: {self.claim()}")

        def released(self, contact: object) -> None:
            made.append(self)

    made: list[Twice] = []
    desk = Desk(crate={"box": (0, 0, 100, 100)})
    desk["crate"].recognise(Twice)
    desk.hand.move((10.0, 10.0))
    desk.hand.press()
    desk.hand.move((60.0, 60.0), steps=3)
    assert told == ["claimed", "won: True", "won again: False", "won again: False"]
    desk.hand.release()
    assert made[0].claim() is False
    assert desk.errors == []


def test_r7_calls_for_each_time_stop_and_a_closed_router_sends_nothing() -> None:
    desk = Desk(a={"box": BOX})
    times: list[float] = []
    each = desk.router.each_time(times.append)
    desk.router.tick(1.0)
    each.stop()
    each.stop()
    desk.router.tick(2.0)
    assert times == [1.0]
    assert desk.router.send(desk["a"], "desk:bell") is False
    desk.router.close()
    with pytest.raises(SceneError, match="not in a scene that this router serves"):
        desk.router.send(desk["a"], "desk:bell")


def test_m1_a_modal_behind_another_does_not_get_the_focus_as_its_first_stop_comes() -> None:
    desk = Desk()
    for number, name in enumerate(("first", "second")):
        desk.scene.layer(name, order=5 + number, modal=True)
    stop = desk.scene["first"].add("stop", role="button", enabled=False, place=Place(0, 0, width=20, height=20))
    desk.router.settle()
    stop.enabled = True
    desk.router.settle()
    desk.hand.wait(0.1)
    assert desk.router.seat().focus is None
    desk.scene["second"].visible = False
    desk.router.settle()
    assert desk.router.seat().focus is stop


@pytest.mark.parametrize("solidity", ["ghost", "hollow"])
def test_g4_a_burst_stays_with_its_area_behind_a_ghost_that_slides_in(solidity: str) -> None:
    desk = Desk()
    outer = desk.add("outer", (0, 0, 100, 100), scrolls=True, axis="y", content=(100, 500))
    inner = outer.add("inner", place=Place(0, 0, width=100, height=60), scrolls=True, axis="y", content=(100, 80))
    veil = desk.scene.layer("veil", order=3)
    veil.solidity = solidity
    desk.hand.move((50.0, 30.0))
    desk.hand.wheel(1.0)
    assert (inner.scroll[1], outer.scroll[1]) == (20.0, 0.0)
    veil.transition = "ignores"
    verdict = desk.hand.wheel(1.0)
    assert outer.scroll[1] == 0.0
    assert (verdict.reason is Reason.AT_END) is (solidity == "ghost")
