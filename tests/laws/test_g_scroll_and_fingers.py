"""Laws G4, G6–G8 and P12: scroll areas, wheels, glides, pinch, swipe, dwell, recognisers of the user's own."""

from __future__ import annotations

import ast
import inspect
import math
from itertools import pairwise
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from desk import Desk
from glent import (
    Contact,
    Event,
    KindError,
    Place,
    PointerSample,
    Reason,
    Recogniser,
    SceneError,
    TickSample,
    Verdict,
    WheelSample,
)
from glent.core.routing.gestures.inertia import Glide, decay
from glent.core.routing.gestures.pinch import Pinch
from glent.testing import Hand

LIST = {"box": (0, 0, 100, 100), "scrolls": True, "content": (100, 1000)}


def listed(**more: object) -> Desk:
    return Desk(list={**LIST, **more})


def flick(desk: Desk, start: float = 80, end: float = 20, x: float = 50, steps: int = 6) -> None:
    desk.finger.pos = (x, start)
    desk.finger.press()
    desk.finger.move((x, end), steps)
    desk.finger.release()


# -- G4: by finger -----------------------------------------------------------------------------------------------------


def test_g4_content_follows_the_finger_and_loses_no_distance() -> None:
    desk = listed(hears="scroll")
    desk.finger.pos = (50, 80)
    desk.finger.press()
    desk.finger.move((50, 71))
    assert desk["list"].scroll == (0.0, 0.0)
    verdict = desk.finger.move((53, 60))
    assert desk["list"].scroll == (0.0, 20.0)
    assert (verdict.reason, verdict.gesture, verdict.owner) == (Reason.GESTURE, "scroll", desk["list"])
    assert desk.data("by") == ["touch"]
    desk.finger.move((50, 70))
    assert desk["list"].scroll == (0.0, 10.0)


def test_g4_a_flick_glides_and_comes_to_rest_where_it_would_at_any_frame_rate() -> None:
    rests = []
    for frame in (0.004, 0.016, 0.1, 5.0):
        desk = listed()
        flick(desk)
        begun = desk["list"].scroll[1]
        desk.finger.wait(5.0, frame)
        rests.append(desk["list"].scroll[1])
        assert rests[-1] > begun + 100
        assert not desk.router._running
    assert len(set(rests)) == 1


def test_g4_a_finger_that_rested_before_its_release_does_not_glide() -> None:
    desk = listed()
    desk.finger.pos = (50, 80)
    desk.finger.press()
    desk.finger.move((50, 20), 6)
    desk.finger.pause(0.3)
    desk.finger.release()
    assert desk.finger.wait(1.0) == []


def test_g4_the_end_gives_a_little_and_springs_back() -> None:
    desk = listed()
    desk.finger.pos = (50, 20)
    desk.finger.press()
    shown = []
    for y in range(30, 500, 10):
        desk.finger.move((50, y))
        shown.append(-desk["list"].scroll[1])
    assert all(a < b for a, b in pairwise(shown[1:]))
    assert shown[-1] < 80.0
    assert shown[1] < 20
    desk.finger.pause(0.5)
    desk.finger.release()
    desk.finger.wait(2.0)
    assert desk["list"].scroll == (0.0, 0.0)
    assert not desk.router._running


def test_g4_hard_ends_where_the_feel_says_so_and_flicks_stop_there() -> None:
    desk = listed(feel={"max_overscroll": 0})
    flick(desk, 20, 80)
    assert desk["list"].scroll == (0.0, 0.0)
    flick(desk)
    desk["list"].content = (100, 250)
    desk.finger.wait(3.0)
    assert desk["list"].scroll == (0.0, 150.0)


def test_g4_a_touch_on_a_list_that_runs_stops_it_and_is_no_tap() -> None:
    desk = listed()
    desk.add("list/b", (0, 0, 100, 1000), "press cancel click", role="button")
    flick(desk)
    desk.finger.wait(0.1)
    running = desk["list"].scroll
    desk.said()
    desk.finger.pos = (50, 50)
    verdict = desk.finger.press()
    assert (verdict.contest, verdict.owner, verdict.gesture) == ((("scroll", "l/list"),), desk["list"], "scroll")
    desk.finger.pause(0.01)
    desk.finger.release()
    assert desk.said() == ["press b", "cancel b"]
    at = desk["list"].scroll
    assert running[1] < at[1] < running[1] + 40
    desk.finger.wait(1.0)
    assert desk["list"].scroll == at
    desk.finger.click((50, 50))
    assert desk.said() == ["press b", "click b"]


def test_g4_two_fingers_on_a_list_scroll_it_no_faster_than_one() -> None:
    desk = listed()
    desk.finger.pos, desk.thumb.pos = (30, 80), (70, 80)
    desk.finger.press()
    desk.thumb.press()
    for y in (60, 40, 20):
        desk.finger.move((30, y))
        desk.thumb.move((70, y))
    assert desk["list"].scroll == (0.0, 60.0)
    desk.finger.release()
    assert desk["list"].scroll == (0.0, 60.0), "it does not glide away under the finger that is left"
    desk.thumb.move((70, 10))
    assert desk["list"].scroll == (0.0, 70.0)
    desk.thumb.release()
    desk.thumb.wait(0.1)
    assert desk["list"].scroll[1] > 75


def test_g4_who_sets_the_offset_while_it_runs_has_the_last_word() -> None:
    desk = listed()
    flick(desk)
    desk["list"].scroll = (0, 7)
    desk.finger.wait(1.0)
    assert desk["list"].scroll == (0.0, 7.0)


def test_g4_an_area_is_not_left_beyond_what_it_holds() -> None:
    desk = listed(hears="scroll")
    desk.hand.move((50, 50))
    desk.hand.wheel(10)
    assert desk["list"].scroll == (0.0, 360.0)
    desk["list"].content = (100, 130)
    desk.router.settle()
    assert desk["list"].scroll == (0.0, 30.0)
    assert desk.data("by") == ["wheel", "content"]
    # Under a finger it gives instead, and springs back when that is up.
    desk.finger.pos = (50, 90)
    desk.finger.press()
    desk.finger.move((50, 70))
    desk["list"].content = (100, 100)
    desk.router.settle()
    assert desk["list"].scroll[1] > 30
    desk.finger.pause(0.3)
    desk.finger.release()
    desk.finger.wait(2)
    assert desk["list"].scroll == (0.0, 0.0)


def nested() -> Desk:
    desk = Desk(outer={"box": (0, 0, 100, 100), "scrolls": True, "content": (300, 300), "hears": "scroll"})
    desk.add("outer/inner", (0, 0, 100, 100), "scroll", scrolls=True, axis="y", content=(100, 130))
    return desk


def test_g4_nested_areas_hand_on_what_they_cannot_use() -> None:
    desk = nested()
    inner, outer = desk["outer/inner"], desk["outer"]
    desk.finger.pos = (50, 90)
    desk.finger.press()
    desk.finger.move((50, 50), 2)
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 10))
    desk.finger.move((50, 70))
    assert (inner.scroll, outer.scroll) == ((0, 10), (0, 10)), "the inner one comes back first"
    desk.finger.pause(1)
    desk.finger.release()
    # At its end already, the inner one leaves the next stroke to the outer one from the start.
    inner.scroll, outer.scroll = (0, 30), (0, 0)
    desk.finger.pos = (50, 90)
    desk.finger.press()
    assert desk.finger.move((50, 70)).owner is outer
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 20))


def test_g4_a_flick_runs_on_in_the_area_that_was_moving() -> None:
    desk = nested()
    inner, outer = desk["outer/inner"], desk["outer"]
    desk.finger.pos = (50, 90)
    desk.finger.press()
    desk.finger.move((50, 20), 7)
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 40))
    assert desk.finger.release().why == "the release ends the scroll of l/outer/inner: it runs on"
    desk.finger.wait(3)
    assert inner.scroll == (0, 30)
    assert outer.scroll[1] > 100


def test_g4_a_stroke_along_the_other_axis_is_the_outer_areas() -> None:
    desk = nested()
    desk.finger.pos = (90, 50)
    desk.finger.press()
    assert desk.finger.move((70, 49)).owner is desk["outer"]
    assert desk["outer/inner"].scroll == (0, 0)


def test_g4_a_mouse_does_not_drag_a_list_unless_its_feel_says_so() -> None:
    desk = listed(feel={"scroll_kinds": ["mouse"]})
    desk.hand.drag((50, 80), (50, 20))
    assert desk["list"].scroll[1] == 60.0
    desk.hand.wait(3)
    at = desk["list"].scroll[1]
    assert at >= 60.0
    flick(desk)
    assert desk["list"].scroll[1] == at


# -- G4: by wheel ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("unit", "far"), [("pixel", 2.0), ("line", 72.0), ("page", 128.0)])
def test_g4_a_wheel_scrolls_by_its_unit_and_says_so(unit: str, far: float) -> None:
    desk = listed(hears="scroll")
    desk.hand.move((50, 50))
    verdict = desk.hand.wheel(2, unit=unit)
    assert desk["list"].scroll == (0.0, far)
    assert (verdict.why, verdict.owner, verdict.world) == ("the wheel scrolls l/list", desk["list"], False)
    desk.hand.wait(1)
    assert desk.hand.wheel(-5, unit="page").reason is Reason.SCROLLED
    desk.hand.wait(1)
    verdict = desk.hand.wheel(-1)
    assert (verdict.reason, verdict.world) == (Reason.AT_END, False)


def test_g4_a_wheel_goes_along_the_areas_own_axis_only() -> None:
    desk = Desk(list={**LIST, "axis": "y", "content": (500, 1000), "hears": "scroll"})
    desk.hand.move((50, 50))
    assert not desk.hand.wheel(0, dx=3).world
    assert (desk["list"].scroll, desk.said()) == ((0.0, 0.0), [])
    flick(desk, 50, 50)
    desk.finger.pos = (90, 50)
    desk.finger.press()
    desk.finger.move((20, 55), 4)
    assert desk["list"].scroll == (0.0, 0.0)


def test_g4_a_burst_stays_where_it_began_and_its_remainder_is_lost() -> None:
    desk = nested()
    inner, outer = desk["outer/inner"], desk["outer"]
    desk.hand.move((50, 50))
    desk.hand.wheel(5)
    desk.hand.wheel(5)
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 0))
    desk.hand.pause(0.3)
    desk.hand.wheel(1)
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 36)), "a new burst begins where something can move"
    desk.hand.wheel(-1)
    assert (inner.scroll, outer.scroll) == ((0, 30), (0, 0)), "and stays there, also on the way back"
    desk.hand.wheel(0, dx=1)
    assert outer.scroll == (36, 0)


def test_g4_a_handler_for_wheel_comes_first_and_a_plain_panel_does_nothing() -> None:
    desk = listed(hears="scroll")
    stop = desk["list"].on("wheel", lambda event: event.take())
    desk.hand.move((50, 50))
    assert desk.hand.wheel(1).reason is Reason.TAKEN
    assert desk.said() == []
    stop.stop()
    desk["list"].scrolls = False
    desk["list"].solidity = "solid"
    verdict = desk.hand.wheel(1)
    assert (verdict.world, desk.said()) == (False, ["scroll list"])


def test_g4_a_handler_for_scroll_that_takes_it_is_an_area_of_its_own_kind() -> None:
    desk = Desk(outer={**LIST, "hears": "scroll"}, outer__chart={"box": (0, 0, 100, 100)})
    moved: list[float] = []

    def pan(event) -> None:
        moved.append(event.data["dy"])
        event.take()

    panning = desk["outer/chart"].on("scroll", pan)
    flick(desk)
    desk.finger.wait(3.0)
    assert sum(moved) > 100
    assert desk["outer"].scroll == (0, 0)
    panning.stop()
    desk["outer/chart"].on("scroll", lambda event: None)
    desk.hand.move((50, 50))
    desk.hand.wheel(1)
    assert desk["outer"].scroll == (0, 36), "what it does not take goes on"


@given(st.integers(0, 12), st.integers(0, 4), st.booleans())
def test_g4_the_range_is_as_far_as_visible_children_reach(rows: int, hidden: int, turned: bool) -> None:
    desk = Desk(list={"box": (0, 0, 100, 50), "scrolls": True})
    for row in range(rows):
        desk.add(f"list/r{row}", (0, row * 20, 120, 20), visible=row >= hidden)
    assert desk["list"].scroll_range == ((20 if rows > hidden else 0), max(0, rows * 20 - 50) if rows > hidden else 0)
    if turned and rows:
        desk["list/r0"].visible = True
        desk["list/r0"].place = Place(0, 0, width=200, height=20, turn=90)
        assert desk["list"].scroll_range[1] == pytest.approx(max(rows * 20 - 50 if rows > hidden else 0, 110 - 50))
        desk["list/r0"].remove()
        assert desk["list"].scroll_range[1] == (max(0, rows * 20 - 50) if rows > max(hidden, 1) else 0)


# -- glides ------------------------------------------------------------------------------------------------------------


@given(st.floats(0, 60))
def test_r7_decay_is_the_exponential(x: float) -> None:
    assert decay(x) == pytest.approx(math.exp(-x), rel=1e-12)


@given(st.floats(-500, 1500), st.floats(-9000, 9000), st.floats(0, 1000), st.sampled_from([0.0, 80.0]))
def test_g4_a_glide_keeps_to_its_ends_and_rests_within_them(at: float, speed: float, most: float, give: float) -> None:
    glide = Glide(0.0, at, speed, most, 0.3, 20.0, 14.0, give)
    offsets = [glide.at(step / 50) for step in range(1000)]
    assert glide.done
    assert -1 / 64 <= offsets[-1] <= most + 1 / 64
    outside = max(0.0, -min(at, 0.0), at - most)
    assert min(offsets) >= -outside - give - 1
    assert max(offsets) <= most + outside + give + 1
    if 0 <= at <= most:
        assert abs(offsets[0] - at) <= 1 / 64
    for a, b in pairwise(offsets):
        assert abs(b - a) <= (abs(speed) + 14 * (outside + give * math.e)) / 50 + 2, "it never jumps"


# -- G6 ----------------------------------------------------------------------------------------------------------------


def two_down(desk: Desk, one: tuple[float, float], other: tuple[float, float]) -> None:
    desk.finger.pos, desk.thumb.pos = one, other
    desk.finger.press()
    desk.thumb.press()


def test_g6_pinch_and_turn_measure_two_fingers() -> None:
    desk = Desk(chart={"box": (0, 0, 100, 100), "hears": "press cancel pinch drag_start drag_end click"})
    two_down(desk, (40, 50), (60, 50))
    assert desk.finger.move((20, 50)).gesture == "pinch"
    desk.thumb.move((80, 50))
    desk.thumb.move((20, 110))
    desk.finger.release()
    assert desk.said() == ["press chart", "press chart", "cancel chart", "cancel chart"] + ["pinch chart"] * 5
    phases = [(e.data["phase"], round(e.data["scale"], 6), round(e.data["turn"], 6)) for e in desk.events[4:]]
    assert phases == [("start", 1, 0), ("move", 2, 0), ("move", 3, 0), ("move", 3, 90), ("end", 3, 90)]
    middle = [event.pos for event in desk.events[4:]]
    assert middle[2] == (50, 50)
    assert sum(event.data["dx"] for event in desk.events[4:]) == pytest.approx(20 - 50)
    # The other finger goes on, as a drag; and with a new one beside it they pinch again.
    desk.thumb.move((40, 90))
    assert desk.said() == ["drag_start chart"]
    desk.finger.pos = (60, 90)
    desk.finger.press()
    desk.finger.move((90, 90))
    assert desk.said() == ["press chart", "drag_end chart", "cancel chart", "pinch chart", "pinch chart"]
    desk["chart"].remove()
    assert desk.said() == ["pinch chart"]
    assert desk.events[-1].data["phase"] == "end"


def test_g6_two_sticks_in_a_pinched_panel_stay_two_drags() -> None:
    desk = Desk(panel={"box": (0, 0, 100, 100), "hears": "pinch", "solidity": "solid"})
    for name, x in (("left", 0), ("right", 60)):
        desk.add(f"panel/{name}", (x, 0, 40, 100), "drag_start drag drag_end")
    two_down(desk, (20, 50), (80, 50))
    desk.finger.move((5, 50), 5)
    desk.thumb.move((95, 50), 5)
    assert {line.split()[1] for line in desk.said()} == {"left", "right"}


def test_g6_a_pinch_of_the_panel_takes_nothing_from_a_stick_that_is_dragged() -> None:
    desk = Desk(panel={"box": (0, 0, 100, 100), "hears": "pinch", "solidity": "solid"})
    desk.add("panel/stick", (0, 0, 40, 100), "drag_start drag_end")
    desk.finger.pos, desk.thumb.pos = (20, 50), (80, 50)
    desk.finger.press()
    desk.finger.move((5, 50))
    desk.thumb.press()
    desk.thumb.move((95, 80), 4)
    assert desk.said() == ["drag_start stick"]
    desk.finger.release()
    assert desk.said() == ["drag_end stick"]


@pytest.mark.parametrize(
    ("to", "steps", "axis", "expected"),
    [
        ((90, 22), 3, None, "right"),
        ((20, 2), 1, None, ""),
        ((22, 90), 3, None, "down"),
        ((90, 22), 60, None, ""),
        ((40, 20), 1, None, ""),
        ((22, 90), 3, "x", ""),
    ],
)
def test_g6_a_swipe_has_a_direction_and_a_speed(to, steps: int, axis: str | None, expected: str) -> None:
    desk = Desk(page={"box": (0, 0, 100, 100), "hears": "swipe click", "solidity": "solid", "axis": axis})
    desk.finger.pos = (20, 20)
    desk.finger.press()
    desk.finger.move(to, steps)
    desk.finger.release()
    assert desk.data("direction") == ([expected] if expected else [])
    if expected:
        assert desk.data("speed")[0] > 1000
        assert desk.said() == ["swipe page"]


def test_g6_dwell_runs_for_pointers_without_a_button_once_and_again_after_leaving() -> None:
    desk = Desk(a={"box": (0, 0, 50, 100), "hears": "dwell", "solidity": "solid", "feel": {"dwell_kinds": ["mouse"]}})
    desk.add("a/b", (0, 0, 50, 50), "", solidity="solid")
    desk.hand.move((10, 10))
    desk.hand.wait(0.4)
    desk.hand.move((12, 80))
    assert 0.4 < desk.data("progress")[-1] < 0.6, "moving about on the node is still resting on it"
    desk.hand.wait(0.6)
    assert desk.data("progress")[-1] == 1.0
    assert desk.data("done").count(True) == 1
    count = len(desk.events)
    desk.hand.wait(2)
    assert len(desk.events) == count
    assert not desk.router._running
    desk.hand.move((90, 10))
    desk.hand.move((10, 10))
    desk.hand.wait(0.3)
    desk.hand.press()
    assert desk.data("progress")[-1] == 0.0, "a press breaks it off"
    desk.finger.pos = (10, 10)
    desk.finger.press()
    desk.finger.wait(1)
    assert desk.data("done").count(True) == 1


# -- own recognisers ---------------------------------------------------------------------------------------------------


class Tug(Recogniser):
    """Two pointers that pull down together."""

    name = "tug"
    pointers = 2

    def wants(self, contact: Contact) -> bool:
        return all(one.travel[1] > 0 for one in self.contacts)

    def moved(self, contact: Contact) -> None:
        if self.won:
            self.send("desk:tug", contact, pulled=min(one.travel[1] for one in self.contacts))
        else:
            super().moved(contact)


def test_g5_a_recogniser_of_ones_own_competes_like_any_other() -> None:
    desk = Desk(rope={"box": (0, 0, 100, 100)})
    rope = desk["rope"]
    rope.recognise(Tug)
    assert rope.effective_solidity == "solid"
    rope.on("desk:tug", desk.hear)
    rope.on("drag_start", desk.hear)
    two_down(desk, (40, 20), (60, 20))
    desk.thumb.move((60, 25))
    desk.finger.move((40, 60))
    assert desk.thumb.move((60, 50)).why == "l/rope has won the pointer for a tug, so the move is its own"
    assert desk.data("pulled") == [30.0]
    assert "drag_start rope" not in desk.said()
    desk.finger.cancel()
    assert desk.finger.press().contest[0] == ("tug", "l/rope")


@pytest.mark.parametrize("method", ["__init__", "pressed", "wants", "moved", "claimed", "released", "lost", "removed"])
def test_r5_a_recogniser_of_ones_own_that_raises_is_reported_and_breaks_nothing(method: str) -> None:
    def fail(self, *given: object) -> None:
        raise RuntimeError(method)

    def wants(self, contact: Contact) -> bool:
        return True

    desk = Desk(rope={"box": (0, 0, 100, 100), "hears": "press cancel release click"})
    desk["rope"].recognise(type("Faulty", (Recogniser,), {"wants": wants, "pointers": 1, method: fail}))
    for how in ("cancel", "release", "click", "remove"):
        desk.finger.pos = (50, 50)
        desk.finger.press()
        if how != "click":
            desk.finger.move((50, 80))
        if how == "remove":
            desk["rope"].remove()
        if how == "cancel":
            desk.finger.cancel()
        else:
            desk.finger.release()
    assert {str(error) for error, _ in desk.errors} == {method}
    said = desk.said()
    assert said.count("press rope") == 4
    assert said.count("cancel rope") + said.count("release rope") == 4
    assert not desk.router._state.pointers
    assert not desk.router._gestures.shared


def test_g5_what_can_be_recognised_is_checked() -> None:
    desk = Desk(rope={})
    with pytest.raises(SceneError, match="expected a subclass of Recogniser"):
        desk["rope"].recognise(dict)
    with pytest.raises(KindError, match="and your own, such as 'crane:rope_pull'"):
        desk["rope"].on("rope-pull", print)
    rope = desk["rope"]
    rope.remove()
    with pytest.raises(SceneError, match="l/rope: cannot recognise anything"):
        rope.recognise(Tug)


def copy_of_pinch() -> type[Recogniser]:
    """The built-in pinch as a user would write it: from the public names alone, with an event kind of its own."""
    source = Path(inspect.getfile(Pinch)).read_text().replace('"pinch"', '"desk:squeeze"')
    source = source.replace("glent.core.routing.gestures.recogniser", "glent")
    desk = Desk(chart={})
    private = vars(Recogniser(desk["chart"], desk.router._gestures))
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Attribute) and node.attr.startswith("_") and node.attr != "__init__":
            assert ast.unparse(node.value) == "self", ast.unparse(node)
            assert node.attr not in private, node.attr
    made: dict[str, Any] = {"__name__": "copy"}
    exec(compile(source, "copy of pinch", "exec"), made)
    cls: type[Recogniser] = made["Pinch"]
    assert not any(name.startswith("_") and hasattr(Recogniser, name) for name in vars(cls) if name[:2] != "__")
    return cls


fingers = st.sampled_from(["finger", "thumb", "third", "hand"])
acts = st.one_of(
    st.tuples(st.just("move"), fingers, st.tuples(st.integers(0, 100), st.integers(0, 100))),
    st.tuples(st.just("move"), fingers, st.tuples(st.integers(30, 70), st.integers(30, 70))),
    st.tuples(st.sampled_from(["press", "press", "press", "release", "cancel"]), fingers, st.none()),
    st.tuples(
        st.sampled_from(
            ["hide", "hide-at-end", "remove-at-end", "remove-inner", "focus_lost", "carry-it", "carry-others"]
        ),
        fingers,
        st.none(),
    ),
)


class TwoFingers(Desk):
    """A chart that drags, with a pinch of one's own or the built-in one, around a sheet that drags as well."""

    def __init__(self, own: type[Recogniser] | None) -> None:
        super().__init__(
            chart={
                "box": (0, 0, 100, 100),
                "hears": "press move release cancel click drag_start drag drag_end enter leave",
            },
            chart__sheet={"box": (10, 10, 30, 80), "hears": "drag_start drag_end"},
        )
        self.third = Hand(self.router, "third", "touch")
        self.at_end: str | None = None
        if own is not None:
            self["chart"].recognise(own)
        for path in ("chart", "chart/sheet"):
            self[path].on("drag_end", self.see)
        self.kind = "pinch" if own is None else "desk:squeeze"
        self["chart"].on(self.kind, self.see)

    def see(self, event: Event) -> None:
        self.hear(event)
        if event.data.get("phase") == "end" and self.at_end is not None and event.node.scene is not None:
            how, self.at_end = self.at_end, None
            event.node.remove() if how == "remove-at-end" else setattr(event.node, "visible", False)

    def do(self, act: str, who: str, what: tuple[int, int] | None) -> None:
        hand: Hand = getattr(self, who)
        if act == "move" and what is not None:
            hand.move((float(what[0]), float(what[1])))
        elif act in ("press", "release", "cancel"):
            getattr(hand, act)()
        elif act == "focus_lost":
            hand.window("focus_lost")
        elif act.startswith("carry") and "l/chart/sheet" in self.scene:
            self["chart/sheet"].carries = ("press", self.kind if act == "carry-it" else "drag_start")
        elif act == "remove-inner":
            if "l/chart/sheet" in self.scene:
                self["chart/sheet"].remove()
        elif act == "hide":
            for node in self.layer.children:
                node.visible = not node.visible
            self.router.settle()
        else:
            self.at_end = act

    def told(self) -> list[str]:
        hands = (self.hand, self.finger, self.thumb, self.third)
        whys = [verdict.why for hand in hands for verdict in hand.verdicts]
        events = [f"{e.kind} {e.node.name} {e.pointer} {e.pos} {e.buttons} {dict(e.data)}" for e in self.events]
        return [line.replace("desk:squeeze", "pinch") for line in (*events, *whys)]


@pytest.mark.long
@settings(max_examples=100, deadline=None)
@given(st.lists(acts, min_size=4, max_size=40))
def test_g6_a_pinch_written_with_the_public_recogniser_does_all_that_the_built_in_one_does(script: list) -> None:
    built_in, own = TwoFingers(None), TwoFingers(copy_of_pinch())
    for desk in (built_in, own):
        for act in [("press", "finger", None), ("press", "thumb", None), *script]:
            desk.do(*act)
        assert desk.errors == []
    assert own.told() == built_in.told()
    ends = [event.data["phase"] for event in own.events if event.kind == "desk:squeeze"]
    assert ends.count("end") <= ends.count("start") <= ends.count("end") + 1


# -- G8, R7, P12 -------------------------------------------------------------------------------------------------------


def test_g8_nothing_happens_without_samples_or_ticks_and_one_late_one_catches_up() -> None:
    desk = Desk(a={"hears": "hold"})
    desk.hand.move((5, 5))
    desk.hand.press()
    events = desk.router.feed(TickSample(100.0)).events
    assert [(event.kind, event.time) for event in events if event.kind == "hold"] == [("hold", 0.532)]


def test_p12_locked_samples_carry_movement_only() -> None:
    desk = Desk(a={"box": (0, 0, 50, 50), "hears": "enter leave drag_start drag drag_end"})
    desk.hand.move((20, 20))
    desk.hand.press()
    desk.hand.move_locked(3, 0)
    desk.hand.move_locked(300, 5)
    desk.hand.pos = (25.0, 25.0)
    desk.hand.move((25, 25))
    desk.hand.move((26, 25))
    desk.hand.release()
    assert desk.said() == ["enter a", "drag_start a", "drag a", "drag a", "drag a", "drag_end a"]
    assert desk.data("dx")[:3] == [303.0, 0.0, 1.0], "the first one after the lock adds no distance"
    verdict = desk.hand.move_locked(5, 5)
    assert (verdict.world, verdict.reason) == (True, Reason.LOCKED)
    assert desk.said() == ["leave a"], "a locked pointer is nowhere on the screen"
    desk.hand.move((20, 20))
    assert desk.said() == ["enter a"]
    press = PointerSample(desk.hand.time + 1, "press", 20, 20, relative=True)
    assert desk.router.feed(press).world, "a press while locked is the world's too"


def test_p12_a_warp_adds_no_distance_and_scale_and_size_leave_presses_alive() -> None:
    desk = Desk(a={"hears": "drag_start drag cancel release"})
    desk.hand.move((20, 20))
    desk.hand.press()
    desk.hand.window("warp")
    desk.hand.move((60, 60))
    assert desk.said() == []
    desk.hand.window("scale", scale=2.0)
    desk.hand.window("size", 200, 200)
    desk.hand.move((67, 60))
    assert desk.said() == [], "a logical pixel is two of the window's now: 3.5 is within the threshold"
    desk.hand.move((70, 60))
    assert desk.said() == ["drag_start a", "cancel a", "drag a"]
    assert desk.data("dx") == [5.0]
    assert desk.router.scene.window == (200, 200)


def test_p9_raw_points_count_for_the_speed_of_a_release() -> None:
    desk = listed(content=(100, 5000))
    desk.finger.pos = (50, 90)
    desk.finger.press()
    time = desk.finger.time
    # One coalesced sample: it rested long, and then went fast.
    raw = tuple((time + 0.3 + n * 0.002, 50.0, 90.0 - n * 6) for n in range(11))
    desk.router.feed(PointerSample(time + 0.32, "move", 50.0, 30.0, "finger", "touch", raw=raw))
    desk.router.feed(PointerSample(time + 0.32, "release", 50.0, 30.0, "finger", "touch", 0))
    desk.finger.wait(3)
    assert desk["list"].scroll[1] > 60 + 0.3 * 2900


def test_p10_a_wheel_while_something_is_dragged_scrolls_and_targets_follow() -> None:
    desk = Desk(crate={"box": (0, 0, 20, 20), "hears": "drag_start"}, list={"box": (40, 0, 50, 100), "scrolls": True})
    for row in range(20):
        desk.add(f"list/r{row}", (0, row * 20, 50, 20), "drag_enter drag_leave drop")
    desk["crate"].on("drag_start", lambda event: event.give("salt"))
    desk.hand.move((5, 5))
    desk.hand.press()
    desk.hand.move((60, 50))
    desk.said()
    verdict = desk.router.feed(WheelSample(desk.hand.time + 1, 60, 50, 0, 1, "line"))
    assert verdict.reason is Reason.SCROLLED
    assert desk.said() == ["drag_leave r2", "drag_enter r4"]


def test_g3_an_area_of_no_size_does_not_scroll_by_itself() -> None:
    desk = Desk()
    area = desk.add("area", (0, 0, 0, 100), scrolls=True, content=(200, 300))
    desk.add("area/floor", (-50, 0, 150, 300), solidity="solid")
    crate = desk.add("crate", (60, 60, 20, 20))
    crate.on("drag_start", lambda event: event.give("salt"))
    desk.hand.drag(crate, (0.0, 50.0))
    desk.hand.wait(0.2)
    assert not desk.errors
    assert area.scroll[0] == 0.0


def test_r6_a_handler_that_asks_for_its_own_drag_without_end_is_stopped_and_said() -> None:
    desk = Desk()
    crate = desk.add("crate", (0, 0, 20, 20), hears="drag_start drag_end")
    slot = desk.add("slot", (50, 50, 20, 20), accepts=lambda payload: True)
    inner: list[Verdict] = []
    crate.on("drag_start", lambda event: event.give("salt"))
    crate.on("drag_start", lambda event: inner.append(desk.router.drag_onto(crate, slot)))
    verdict = desk.router.drag_onto(crate, slot)
    assert verdict.answer == "dropped"
    assert all(one.sealed for one in inner)
    assert [one.answer for one in inner] == 1000 * ["dropped"] + [None]
    assert inner[-1].reason is Reason.ENDLESS
    (error,) = desk.errors
    assert "handlers fed more than 1,000 samples" in str(error)
    assert desk.hand.move((5, 5)).sealed
