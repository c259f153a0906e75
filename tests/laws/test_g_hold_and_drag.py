"""Laws G1–G3, G5, G7, G9: hold, repeat, drag, drag and drop, and the contest between them."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

import pytest

import glent
from desk import Desk
from glent import Event, Feel, Place, PointerButton, Reason, SampleError
from glent.testing import Hand

BOX = (10, 10, 40, 40)
PRESS = "press release cancel click"


def at(desk: Desk, x: float, y: float, kind: str = "mouse") -> Hand:
    """A hand that has just pressed somewhere."""
    hand = desk.hand if kind == "mouse" else desk.finger
    hand.pos = (x, y)
    if kind == "mouse":
        hand.move((x, y))
    hand.press()
    return hand


# -- G1 ----------------------------------------------------------------------------------------------------------------


def test_g1_a_hold_comes_after_the_delay_and_there_is_no_click() -> None:
    desk = Desk(a={"box": BOX, "hears": f"{PRESS} hold"})
    hand = at(desk, 20, 20)
    hand.wait(0.49)
    assert desk.said() == ["press a"]
    hand.wait(0.02)
    assert desk.said() == ["cancel a", "hold a"]
    assert desk["a"].look == "pressed"
    assert hand.release().gesture == "hold"
    assert desk.said() == []


@pytest.mark.parametrize("how", ["soon", "stray", "leave"])
def test_g1_what_is_no_hold(how: str) -> None:
    desk = Desk(a={"box": BOX, "hears": f"{PRESS} hold"})
    hand = at(desk, 12, 12)
    if how == "stray":
        hand.move((21, 12))
    elif how == "leave":
        hand.move((8, 12))
        hand.move((12, 12))
    hand.wait(0.3 if how == "soon" else 2.0)
    hand.release()
    assert desk.said() == ["press a", "release a", "click a"]


def test_g1_hold_to_confirm_runs_once_from_0_to_1_and_only_from_a_fresh_press() -> None:
    desk = Desk(a={"box": BOX, "hears": "hold hold_progress click", "feel": {"confirm_time": 0.5}})
    hand = at(desk, 20, 20)
    hand.wait(2.0)
    progress = desk.data("progress")
    assert progress == sorted(progress)
    assert len(progress) > 20
    assert progress.count(1.0) == 1
    assert desk.said()[-1] == "hold a"
    hand.release()
    assert desk.said() == []
    desk.events.clear()
    hand.press()
    hand.wait(0.25)
    hand.release()
    assert desk.said()[-2:] == ["hold_progress a", "click a"]
    assert desk.data("progress")[-1] == 0.0, "broken off, it goes back"


def test_g1_repeat_speeds_up_pauses_outside_and_leaves_short_presses_a_click() -> None:
    desk = Desk(a={"box": BOX, "hears": "repeat click"})
    hand = at(desk, 20, 20)
    hand.wait(0.2)
    hand.release()
    assert desk.said() == ["click a"]
    hand.press()
    hand.wait(1.5)
    times = [event.time for event in desk.events if event.kind == "repeat"]
    gaps = [round(b - a, 9) for a, b in pairwise(times)]
    assert gaps == sorted(gaps, reverse=True)
    assert gaps[0] == pytest.approx(0.12)
    assert gaps[-1] >= 0.03 - 1e-9
    hand.move((90, 90))
    desk.said()
    hand.wait(0.5)
    assert desk.said() == []
    hand.move((20, 20))
    hand.wait(0.2)
    assert set(desk.said()) == {"repeat a"}
    hand.release()
    hand.wait(1.0)
    assert "click a" not in desk.said()


# -- G2 ----------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("kind", "far"), [("mouse", 4.0), ("touch", 10.0)])
def test_g2_a_drag_starts_beyond_the_threshold_and_loses_no_distance(kind: str, far: float) -> None:
    desk = Desk(a={"box": (0, 0, 90, 90), "hears": f"{PRESS} drag_start drag drag_end"})
    hand = at(desk, 20, 20, kind)
    hand.move((20 + far, 20))
    assert desk.said() == ["press a"]
    verdict = hand.move((20 + far + 1, 20))
    assert desk.said() == ["press a", "drag_start a", "cancel a", "drag a"][1:]
    assert (verdict.reason, verdict.gesture, verdict.owner) == (Reason.GESTURE, "drag", desk["a"])
    assert [event.pos for event in desk.events if event.kind == "drag_start"] == [(20.0, 20.0)]
    hand.move((20, 50))
    verdict = hand.release()
    assert desk.said() == ["drag a", "drag_end a"]
    assert desk.data("dx") == [far + 1, -far - 1]
    assert desk.data("dy") == [0.0, 30.0]
    assert desk.data("outcome") == ["done"]
    assert not verdict.world


def test_g2_a_refused_start_leaves_the_click() -> None:
    desk = Desk(a={"box": BOX, "hears": f"{PRESS} drag_start drag drag_end"})
    desk["a"].on("drag_start", lambda event: event.refuse())
    desk.hand.drag((15, 15), (40, 40))
    assert desk.said() == ["press a", "drag_start a", "release a", "click a"]


def test_g2_a_release_far_off_without_a_move_is_a_drag() -> None:
    desk = Desk(a={"box": BOX, "hears": f"{PRESS} drag_start drag drag_end"})
    hand = at(desk, 20, 20)
    hand.pos = (45.0, 20.0)
    hand.release()
    assert desk.said() == ["press a", "drag_start a", "cancel a", "drag a", "drag_end a"]


def test_g7_distances_are_in_the_nodes_space_and_thresholds_on_the_screen() -> None:
    desk = Desk()
    turned = desk.layer.add("t", place=Place(0, 0, width=100, height=100, turn=90, scale=2))
    node = turned.add("a", place=Place(0, 0, width=100, height=100), solidity="solid")
    node.on("drag", desk.hear)
    desk.router.feed(glent.WindowSample(0.0, "size", 200, 200))
    hand = at(desk, 100, 100)
    hand.move((104, 100))
    assert desk.said() == []
    hand.move((108, 100))
    # Two window pixels are a scene pixel, that is half a pixel of the turned node, whose x axis points down.
    assert desk.data("dx")[0] == pytest.approx(0.0, abs=1e-12)
    assert desk.data("dy")[0] == pytest.approx(-2.0)


@pytest.mark.parametrize("how", ["hide", "disable", "remove", "cancel", "focus", "escape", "second", "gone", "grab"])
def test_g3_every_drag_that_starts_ends(how: str) -> None:
    desk = Desk(
        a={"box": BOX, "hears": "drag_start drag_end release click"}, b={"box": (60, 60, 30, 30), "hears": "drop"}
    )
    node = desk["a"]
    node.on("drag_start", lambda event: event.give("salt"))
    hand = at(desk, 20, 20)
    hand.move((70, 70))
    if how == "hide":
        node.visible = False
        desk.router.settle()
    elif how == "disable":
        node.enabled = False
        desk.router.settle()
    elif how == "remove":
        node.remove()
    elif how == "cancel":
        hand.cancel()
    elif how == "focus":
        hand.window("focus_lost")
    elif how == "gone":
        hand.window("device_gone")
    elif how == "escape":
        assert hand.key("Escape").reason is Reason.ABANDONED
        assert not hand.key("Escape", "up").world
    elif how == "second":
        assert hand.press(PointerButton.SECONDARY).reason is Reason.ABANDONED
        hand.release(PointerButton.SECONDARY)
    elif how == "grab":
        desk["b"].on("move", lambda event: None)
        desk.router._grab(desk["b"], "mouse", None)
    expected = {
        "hide": "vanished",
        "disable": "vanished",
        "remove": "vanished",
        "escape": "abandoned",
        "second": "abandoned",
        "grab": "taken over",
    }.get(how, "cancelled")
    assert desk.said() == ["drag_start a", "drag_end a"]
    assert desk.data("outcome") == [expected]
    hand.move((72, 72))
    hand.release()
    assert desk.said() == []
    assert not desk.errors


# -- G3 ----------------------------------------------------------------------------------------------------------------


def hold(desk: Desk) -> Event:
    """Slots in a hold, a crate in one of them, and a lid of glass over it all."""
    heavy = lambda payload: None if payload != "anvil" else "too heavy"  # noqa: E731
    desk.add("hold", (0, 0, 100, 50), "drag_enter drag_leave drop", solidity="solid")
    desk.add("hold/left", (5, 5, 30, 30), "drag_enter drag_leave drop", accepts=heavy)
    desk.add("hold/right", (60, 5, 30, 30), "drag_enter drag_leave drop", accepts=heavy)
    desk.add("hold/left/crate", (5, 5, 20, 20), "drag_start drag_end", solidity="solid")
    desk.add("fog", None, "", solidity="glass")
    return desk["hold/left/crate"]


def carried(payload: Any) -> Desk:
    desk = Desk()
    hold(desk).on("drag_start", lambda event: event.give(payload))
    return desk


def test_g3_a_drop_on_a_target_that_accepts() -> None:
    desk = carried("salt")
    verdict = desk.hand.drag((20, 20), (70, 20), steps=4)
    assert desk.said() == [
        "drag_start crate",
        "drag_enter left",
        "drag_leave left",
        "drag_enter hold",
        "drag_leave hold",
        "drag_enter right",
        "drop right",
        "drop right@hold",
        "drag_leave right",
        "drag_end crate",
    ]
    assert verdict.contest == (("drag", "l/hold/left/crate"),)
    assert desk.hand.verdicts[-1].why == "the release ends the drag of l/hold/left/crate: l/hold/right took it"
    assert desk.data("outcome") == ["dropped"]
    assert desk.data("payload").count("salt") == 9


def test_g3_a_target_that_refuses_is_entered_with_its_answer_and_the_search_goes_up_its_path() -> None:
    desk = carried("anvil")
    desk["hold"].accepts = lambda payload: False
    desk.hand.drag((20, 20), (70, 20), steps=1)
    assert desk.said()[-5:] == [
        "drag_enter hold",
        "drag_enter right",
        "drag_leave right",
        "drag_leave hold",
        "drag_end crate",
    ]
    answers = {
        event.node.name: (event.data["accepted"], event.data["answer"])
        for event in desk.events
        if event.kind == "drag_enter"
    }
    assert answers["right"] == (False, "too heavy")
    assert answers["hold"] == (False, "")
    assert desk.data("outcome") == ["returned"]
    assert "refused it (too heavy)" in desk.hand.verdicts[-1].why
    assert desk.hand.verdicts[-1].drop is None


def test_g3_a_disabled_target_is_none_and_the_search_goes_on_above_it() -> None:
    desk = carried("salt")
    desk["hold/right"].enabled = False
    desk.hand.drag((20, 20), (70, 20), steps=1)
    assert desk.said()[1:] == ["drag_enter hold", "drop hold", "drag_leave hold", "drag_end crate"]


def test_g3_a_drop_on_the_world_is_in_the_verdict_and_not_a_click_there() -> None:
    desk = carried("salt")
    desk.hand.drag((20, 20), (50, 80), steps=3)
    verdict = desk.hand.verdicts[-1]
    drop = verdict.drop
    assert drop is not None
    assert (drop.payload, drop.point, drop.pointer, drop.source.name, verdict.world) == (
        "salt",
        (50.0, 80.0),
        "mouse",
        "crate",
        False,
    )
    assert desk.data("outcome") == ["world"]


def test_g3_what_is_dropped_stays_dropped_whatever_its_handler_does_next() -> None:
    desk = carried("salt")
    desk["hold/right"].on("drop", lambda event: desk.router._grab(desk["hold"], "mouse", None))
    desk.hand.drag((20, 20), (70, 20))
    assert desk.data("outcome") == ["dropped"]


def test_g3_removing_a_target_only_leaves_it() -> None:
    desk = carried("salt")
    at(desk, 20, 20).move((70, 20))
    desk.said()
    desk["hold/right"].remove()
    assert desk.said() == ["drag_leave right"]
    desk.hand.move((71, 20))
    assert desk.said() == ["drag_enter hold"]
    desk.hand.release()
    assert desk.data("outcome") == ["dropped"]


@pytest.mark.parametrize("when", ["drop", "drag_leave", "drag_enter", "drag", "drag_start"])
@pytest.mark.parametrize("what", ["hold/left/crate", "hold/right", "hold"])
def test_g3_whatever_is_removed_on_the_way_every_drag_has_one_end(when: str, what: str) -> None:
    desk = carried("salt")
    crate = desk["hold/left/crate"]
    crate.on("drag", lambda event: None)
    gone = desk[what]
    (crate if when in ("drag", "drag_start") else desk["hold/right"]).on(when, lambda event: gone.remove())
    desk.hand.drag((20, 20), (70, 20), steps=4)
    desk.hand.move((50, 80))
    said = desk.said()
    assert said.count("drag_start crate") == said.count("drag_end crate") == 1
    entered = [line.split()[1] for line in said if line.startswith("drag_enter")]
    left = [line.split()[1] for line in said if line.startswith("drag_leave")]
    assert sorted(entered) == sorted(left)
    assert not desk.errors
    assert not desk.router._running


@pytest.mark.parametrize("how", ["remove", "abandon"])
def test_g3_an_enter_that_ends_the_drag_is_the_last(how: str) -> None:
    desk = carried("anvil")  # which the slot refuses, so the hold around it is entered first
    crate = desk["hold/left/crate"]
    end = crate.remove if how == "remove" else lambda: desk.router._grab(desk["fog"], "mouse", None)
    desk["hold"].on("drag_enter", lambda event: end())
    desk.hand.drag((20, 20), (70, 20), steps=1)
    said = desk.said()
    assert said[:2] == ["drag_start crate", "drag_enter hold"]
    assert sorted(said[2:]) == ["drag_end crate", "drag_leave hold"], "what is being entered hears that through first"


def test_g3_a_target_that_changes_its_mind_is_asked_again_at_the_drop() -> None:
    desk = carried("salt")
    at(desk, 20, 20).move((70, 20))
    full: list[str] = []
    desk["hold/right"].accepts = lambda payload: "full" if full else None
    desk.hand.move((71, 20))
    full.append("now")
    desk.hand.release()
    assert desk.data("outcome") == ["returned"]


def test_g3_all_targets_say_beforehand_what_they_take() -> None:
    desk = carried("salt")
    desk["hold/right"].accepts = lambda payload: "full"
    desk.add("shut", (0, 60, 10, 10), "drop", enabled=False)
    desk.add("open", (20, 60, 10, 10), "drop")
    said = [(target.node.name, target.accepted, target.answer) for target in desk.router.drop_targets("anvil")]
    assert said == [("hold", True, ""), ("left", False, "too heavy"), ("right", False, "full"), ("open", True, "")]


def test_g3_accepts_that_fails_refuses_and_is_reported() -> None:
    desk = carried("salt")
    desk["hold/right"].accepts = lambda payload: 1 / 0
    desk["hold"].accepts = lambda payload: False
    desk.hand.drag((20, 20), (70, 20), steps=1)
    assert desk.data("outcome") == ["returned"]
    assert desk.errors


def test_g3_near_the_edge_of_an_area_a_drag_scrolls_it_as_time_passes() -> None:
    desk = Desk(
        crate={"box": (0, 0, 20, 20), "hears": "drag_start drag_end"},
        list={"box": (40, 0, 50, 100), "scrolls": True, "hears": "scroll"},
    )
    for row in range(20):
        desk.add(f"list/r{row}", (0, row * 20, 50, 20), "drag_enter drag_leave drop", solidity="solid")
    desk["crate"].on("drag_start", lambda event: event.give("salt"))
    hand = at(desk, 10, 10)
    hand.move((60, 95), steps=4)
    desk.said()
    hand.wait(0.5)
    said = desk.said()
    assert said.count("scroll list") > 20
    assert desk["list"].scroll[1] > 100.0
    assert [line for line in said if "drag_enter" in line], "the rows that come in are entered"
    hand.wait(5.0)
    assert desk["list"].scroll == (0.0, 300.0)
    hand.move((60, 50))
    hand.wait(0.5)
    assert desk["list"].scroll == (0.0, 300.0)
    entered = [event.node.name for event in desk.events if event.kind == "drag_enter"]
    left = [event.node.name for event in desk.events if event.kind == "drag_leave"]
    assert entered[-1] == "r17"
    hand.release()
    assert entered[:-1] == left[: len(entered) - 1]


# -- G5 ----------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("to", "winner"), [((60, 22), "slider"), ((22, 60), "list"), ((40, 40), "slider"), ((25, 24), "")]
)
def test_g5_a_slider_in_a_list_takes_its_own_axis_and_leaves_the_other(to: tuple[float, float], winner: str) -> None:
    desk = Desk(list={"box": (0, 0, 100, 100), "scrolls": True, "axis": "y", "content": (100, 500)})
    desk.add(
        "list/slider", (0, 0, 100, 40), "press cancel release click drag_start drag drag_end", role="slider", axis="x"
    )
    hand = at(desk, 20, 20, "touch")
    verdict = hand.move(to)
    hand.release()
    said = desk.said()
    if winner == "slider":
        assert said == ["press slider", "drag_start slider", "cancel slider", "drag slider", "drag_end slider"]
        assert desk["list"].scroll == (0.0, 0.0)
    elif winner == "list":
        assert said == ["press slider", "cancel slider"]
        assert verdict.owner is desk["list"]
    else:
        assert said == ["press slider", "release slider", "click slider"]


def test_g5_only_the_pressed_look_waits_and_only_for_touch_where_a_scroll_competes() -> None:
    desk = Desk(list={"box": (0, 0, 100, 100), "scrolls": True, "content": (100, 500)})
    button = desk.add("list/b", (0, 0, 100, 40), "press", role="button")
    hand = at(desk, 20, 20, "touch")
    assert desk.said() == ["press b"]
    assert button.look == "hover"
    hand.wait(0.12)
    assert button.look == "pressed"
    hand.release()
    at(desk, 20, 20)
    assert button.look == "pressed"


def test_g5_a_finger_must_rest_before_it_drags_where_that_is_asked_for() -> None:
    desk = Desk(list={"box": (0, 0, 100, 100), "scrolls": True, "content": (100, 500), "hears": "scroll"})
    desk.add("list/crate", (0, 0, 100, 40), "drag_start", feel={"drag_delay": 0.25})
    hand = at(desk, 20, 30, "touch")
    hand.move((20, 5), steps=3)
    hand.release()
    assert desk.said() == ["scroll list"] * 2
    desk.hand.wait(3)
    desk["list"].scroll = (0, 0)
    desk.said()
    hand = at(desk, 20, 30, "touch")
    hand.wait(0.3)
    hand.move((20, 5), steps=3)
    assert desk.said() == ["drag_start crate"]


def test_g5_losers_hear_one_cancel_and_the_winner_owns() -> None:
    desk = Desk(
        panel={"box": (0, 0, 100, 100), "hears": "press cancel release drag_start drag_end", "solidity": "solid"}
    )
    desk.add("panel/b", BOX, "press cancel release click hold_progress", role="button", carries=["press"])
    hand = at(desk, 20, 20)
    hand.wait(0.2)
    desk.said()
    verdict = hand.move((40, 20))
    assert verdict.owner is desk["panel"]
    assert desk.said()[1:] == ["hold_progress b", "drag_start panel", "cancel b", "cancel panel"]
    assert desk.data("progress")[-1] == 0.0
    assert not desk["panel/b"].hovered, "only the owner's path is hovered"
    assert desk["panel"].hovered
    hand.release()
    assert desk.said() == ["drag_end panel"]


@pytest.mark.parametrize(("carries", "drags"), [(None, True), (["click"], False), (["click", "drag"], True)])
def test_r2_a_gesture_is_the_outer_nodes_only_as_far_as_it_is_carried_on(carries: Any, drags: bool) -> None:
    desk = Desk(panel={"box": (0, 0, 100, 100), "hears": "drag"})
    desk.add("panel/inner", BOX, "press", carries=carries, solidity="solid")
    desk.hand.drag((20, 20), (40, 40))
    assert ("drag panel" in desk.said()) == drags


# -- G9 ----------------------------------------------------------------------------------------------------------------


def test_g9_every_gesture_can_be_done_by_a_call() -> None:
    desk = carried("salt")
    crate, right = desk["hold/left/crate"], desk["hold/right"]
    assert desk.router.drag_onto(crate, right).answer == "dropped"
    assert desk.said() == [
        "drag_start crate",
        "drag_enter right",
        "drop right",
        "drop right@hold",
        "drag_leave right",
        "drag_end crate",
    ]
    right.accepts = desk["hold"].accepts = lambda payload: "full"
    assert desk.router.drag_onto(crate, right).answer == "returned"
    nothing = desk.add("nothing", (50, 60, 20, 20))
    assert desk.router.drag_onto(crate, nothing).answer == "returned", "what is carried by a call falls nowhere"
    other = desk.add("x", (0, 60, 20, 20), "hold hold_progress drag_start drag drag_end pinch swipe")
    desk.said()
    desk.router.hold(other)
    assert desk.router.drag(other, 3, 4).answer == "done"
    desk.router.pinch(other, 2.0, 30.0)
    desk.router.swipe(other, "left")
    kinds = ["hold_progress", "hold", "drag_start", "drag", "drag_end", "pinch", "pinch", "pinch", "swipe"]
    assert desk.said() == [f"{kind} x" for kind in kinds]
    other.on("drag_start", lambda event: event.refuse())
    refused = desk.router.drag(other, 3, 4)
    assert refused.answer == "refused"
    assert refused.why.endswith("refused: l/x refuses to be dragged")
    with pytest.raises(SampleError, match="value of swipe is 'north', expected one of left"):
        desk.router.swipe(right, "north")


# -- feel --------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("given", "match"),
    [
        ({"hold_delay": -1}, "hold_delay is -1, expected a number from 0"),
        ({"glide_time": 0}, "glide_time is 0, expected a number from 0.001"),
        ({"repeat_speedup": 1.5}, "repeat_speedup is 1.5, expected a number from 0.1 to 1"),
        ({"dwell_kinds": ("nose",)}, "dwell_kinds is .'nose',., expected a tuple of kinds among mouse"),
        ({"max_overscroll": float("nan")}, "max_overscroll is nan"),
    ],
)
def test_feel_is_checked_for_routers_and_for_nodes(given: dict[str, Any], match: str) -> None:
    with pytest.raises(SampleError, match=match):
        Feel(**given)
    with pytest.raises(SampleError, match=f"l/a: Feel: {match}"):
        Desk(a={"feel": given})
    with pytest.raises(SampleError, match="l/a: feel names 'tempo', expected one of click_gap"):
        Desk(a={"feel": {"tempo": 1}})


def test_feel_of_a_node_holds_below_it_and_the_inner_one_wins() -> None:
    desk = Desk(
        p={"feel": {"hold_delay": 1.0, "hold_slack": 50}},
        p__a={"box": BOX, "hears": "hold", "feel": {"hold_delay": 0.2}},
    )
    hand = at(desk, 12, 12)
    hand.move((40, 12))
    hand.wait(0.25)
    assert desk.said() == ["hold a"]


@pytest.mark.parametrize("victim", ["list", "list/crate"])
def test_p6_a_drags_end_reaches_its_node_though_a_handler_on_its_way_removes_it(victim: str) -> None:
    desk = Desk()
    desk.add("list", (0, 0, 90, 90))
    crate = desk.add("list/crate", (0, 0, 20, 20), hears="drag_start drag_end")
    gone = crate if "/" in victim else crate.parent
    crate.parent.on("drag_end", lambda event: gone.remove(), "capture")
    desk.hand.move((5, 5))
    desk.hand.press()
    desk.hand.move((15, 15))
    desk.hand.release()
    assert crate.scene is None
    assert desk.said() == ["drag_start crate", "drag_end crate"]
