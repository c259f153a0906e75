from __future__ import annotations

import pytest

import glent
from desk import Desk
from glent import Feel, PointerButton, PointerSample, Reason, Router, SceneError, WindowSample
from glent.testing import Hand

NEST = {
    "big": {"role": "button", "box": (0, 0, 60, 60), "hears": "enter leave press release click cancel move"},
    "big__small": {"role": "button", "box": (10, 10, 20, 20), "hears": "enter leave press release click cancel move"},
    "side": {"solidity": "solid", "box": (70, 0, 30, 100), "hears": "enter leave"},
}


def test_p2_offers_are_asked_front_to_back_and_a_shared_ancestor_hears_once() -> None:
    desk = Desk(
        card={"hears": "press"},
        card__back={"solidity": "solid", "hears": "press release"},
        card__front={"solidity": "glass", "hears": "press release cancel"},
        card__front__veil={"solidity": "glass", "hears": "press release cancel"},
    )
    verdict = desk.hand.click((50, 50))
    assert verdict.owner is desk["card/back"]
    assert desk.said() == ["press veil", "press veil@front", "press veil@card", "press back", "release back"]


def test_p2_glass_accepts_by_an_ancestor_it_does_not_share_with_the_next_offer() -> None:
    desk = Desk(shared={}, shared__pane={"solidity": "glass"}, shared__under={"solidity": "glass", "order": -1})
    desk["shared"].on("click", print)
    desk["shared"].solidity = "hollow"
    assert desk.hand.click((50, 50)).owner is desk["shared/under"], "it is not shared with anything further down"
    desk.add("shared/floor", solidity="solid", order=-2)
    assert desk.hand.click((50, 50)).owner is desk["shared/floor"]


def test_p2_a_handler_that_takes_a_press_makes_its_offer_own_it() -> None:
    desk = Desk(a={}, a__pane={"solidity": "glass"}, floor={"solidity": "solid", "order": -1, "hears": "press"})
    desk["a"].solidity = "hollow"
    desk["a"].on("press", lambda event: event.take())
    verdict = desk.hand.click((50, 50))
    assert (verdict.owner, verdict.reason) == (desk["a/pane"], Reason.TAKEN)
    assert "l/a took the press" in verdict.why
    assert desk.said() == []


def test_p2_a_control_stands_for_what_lies_in_it() -> None:
    desk = Desk(
        a={"role": "button", "box": (0, 0, 50, 50), "hears": "click cancel"},
        a__icon={"solidity": "solid", "hears": "press release cancel"},
    )
    desk.hand.move((5, 5))
    verdict = desk.hand.press()
    assert verdict.owner is desk["a"]
    assert desk["a"].look == "pressed"
    desk["a/icon"].remove()
    assert desk.said() == ["press icon", "cancel icon"], "the press lives as long as the control"
    assert desk.hand.release().owner is desk["a"]
    assert desk.said() == ["click a"]


def test_p2_a_drag_begun_on_the_ui_never_leaks_and_one_begun_in_the_world_is_never_stolen() -> None:
    desk = Desk(**NEST, pane={"solidity": "glass", "hears": "enter press move"})
    desk.hand.move((50, 50))
    desk.hand.press()
    for point in ((65, 80), (80, 50), (50, 50)):
        verdict = desk.hand.move(point)
        assert (verdict.world, verdict.owner, verdict.reason) == (False, desk["big"], Reason.HELD)
    assert not desk.hand.release().world
    assert "enter side" not in desk.said()
    desk.hand.move((65, 80))
    assert desk.hand.press().world
    desk.said()
    for point in ((20, 20), (80, 50)):
        assert desk.hand.move(point).reason is Reason.WORLD_HELD
    assert not any(node.hovered for node in desk.scene.walk()), "glass included"
    assert desk.hand.release().world
    assert desk.said() == ["enter pane", "enter side"]


@pytest.mark.parametrize(
    ("start", "end", "clicked"),
    [
        ((20, 20), (21, 21), ["small"]),
        ((50, 50), (51, 51), ["big"]),
        ((20, 20), (50, 50), []),
        ((50, 50), (20, 20), ["big"]),
        ((50, 50), (80, 50), []),
    ],
)
@pytest.mark.parametrize("button", list(PointerButton))
def test_p3_click_goes_to_the_innermost_control_if_the_release_falls_inside(
    start: tuple, end: tuple, clicked: list, button: PointerButton
) -> None:
    desk = Desk(**NEST)
    any_button: list[str] = []
    for node in (desk["big"], desk["big/small"]):
        node.on("click", lambda event: any_button.append(event.node.name), button="any")
    desk.hand.drag(start, end, steps=3, button=button)
    assert any_button == clicked
    clicked = clicked if button is PointerButton.PRIMARY else []  # a right click must not buy anything by accident
    said = [line for line in desk.said() if line.split()[0] in ("release", "click")]
    owner = "small" if start == (20, 20) else "big"
    assert said == [f"release {owner}", *(f"click {name}" for name in clicked)], "release comes first"
    assert {event.button for event in desk.events if event.kind in ("press", "release")} == {button}


def test_p3_a_click_listener_without_a_role_is_clicked_and_bubbles() -> None:
    desk = Desk(
        list={"solidity": "solid", "hears": "click"},
        list__row={"solidity": "solid"},
        list__row__text={"solidity": "solid"},
    )
    desk.hand.click((50, 50))
    assert desk.said() == ["click list"]
    assert desk.events[-1].node is desk["list"]


def test_g1_clicks_are_counted_by_time_place_and_node() -> None:
    desk = Desk(
        a={"role": "button", "box": (0, 0, 40, 40), "hears": "click"},
        b={"role": "button", "box": (50, 0, 40, 40), "hears": "click"},
    )
    desk["a"].on("click", lambda event: desk.events.append(event) if event.button else None, button="any")
    desk.router.feel = Feel(click_gap=0.3)
    for target in ((5, 5), (6, 6), (5, 5), (30, 30), (60, 5), (5, 5)):
        desk.hand.click(target)
    desk.hand.pause(0.4)
    desk.hand.click((5, 5))
    desk.hand.click((5, 5), button=PointerButton.SECONDARY)
    assert [event.count for event in desk.events] == [1, 2, 3, 1, 1, 1, 1, 1]


def test_p4_the_pressed_look_shows_only_while_the_pointer_is_inside() -> None:
    desk = Desk(**NEST)
    small, big = desk["big/small"], desk["big"]
    desk.hand.move((20, 20))
    assert (small.look, big.look) == ("hover", "idle"), "a control keeps its light to itself"
    desk.hand.press()
    assert (small.look, big.look) == ("pressed", "idle")
    desk.hand.move((50, 50))
    assert (small.look, big.look) == ("idle", "idle")
    desk.hand.move((20, 20))
    assert small.look == "pressed"
    desk.hand.release()
    assert small.look == "hover"
    small.carries = ("enter", "press")
    assert (small.look, big.look) == ("hover", "hover")
    desk.hand.press()
    assert (small.look, big.look) == ("pressed", "pressed")


def test_p4_something_that_covers_the_owner_puts_the_pointer_outside() -> None:
    desk = Desk(**NEST)
    desk.hand.move((20, 20))
    desk.hand.press()
    desk.add("lid", (0, 0, 60, 60), solidity="solid", order=9)
    desk.router.settle()
    assert desk["big/small"].look == "idle"
    desk.hand.release()
    assert "click small" not in desk.said()


def test_p5_all_leaves_come_first_deepest_first_then_enters_outermost_first() -> None:
    hears = "enter leave"
    desk = Desk(
        a={"hears": hears, "box": (0, 0, 50, 100)}, a__b={"hears": hears},
        a__b__c={"solidity": "solid", "hears": hears},
        a__pane={"solidity": "glass", "hears": hears},
        x={"hears": hears, "box": (50, 0, 50, 100)}, x__y={"solidity": "solid", "hears": hears},
    )  # fmt: skip
    desk.hand.move((10, 10))
    assert desk.said() == ["enter a", "enter pane", "enter b", "enter c"]
    desk.hand.move((60, 10))
    assert desk.said() == ["leave c", "leave pane", "leave b", "leave a", "enter x", "enter y"]
    desk["x"].on("leave", lambda event: event.take(), phase="capture")
    desk.hand.move((10, 10))
    said = desk.said()
    assert said[:2] == ["leave y", "leave x"]
    assert said[2] == "enter a"
    assert set(said[3:5]) == {"enter b", "enter pane"}
    assert said[5] == "enter c"


def test_p6_first_in_and_last_out_are_told_apart() -> None:
    desk = Desk(a={"solidity": "solid", "hears": "enter leave", "box": (0, 0, 50, 50)})
    finger = Hand(desk.router, "f", "touch")
    desk.hand.move((5, 5))
    finger.pos = (6, 6)
    finger.time = desk.hand.time
    finger.press()
    finger.release()
    desk.hand.time = finger.time
    desk.hand.move((90, 90))
    assert [(event.kind, event.pointer, dict(event.data)) for event in desk.events] == [
        ("enter", "mouse", {"first": True}),
        ("enter", "f", {"first": False}),
        ("leave", "f", {"last": False}),
        ("leave", "mouse", {"last": True}),
    ]


def test_p6_whoever_heard_a_press_and_not_its_release_gets_a_cancel() -> None:
    desk = Desk(panel={"solidity": "solid", "hears": "press release cancel"}, panel__child={"solidity": "solid"})
    desk["panel/child"].on("release", lambda event: event.take())
    desk.hand.click((50, 50))
    assert desk.said() == ["press child@panel", "cancel panel"]


def test_p6_closing_the_router_pays_what_is_owed() -> None:
    desk = Desk(a={"role": "button", "hears": "enter leave press cancel"})
    desk.hand.move((5, 5))
    desk.hand.press()
    with pytest.raises(SceneError, match="already has a router"):
        Router(desk.scene)
    assert [event.kind for event in desk.router.close()] == ["cancel", "leave", "leave", "blur"]
    assert desk.said() == ["enter a", "press a", "cancel a", "leave a"]
    with pytest.raises(SceneError, match="closed"):
        desk.hand.move((6, 6))
    assert Router(desk.scene).feed(PointerSample(0.0, "move", 5.0, 5.0)).owner is desk["a"]


@pytest.mark.parametrize("change", ["hide", "remove", "move", "cover", "scroll", "ghost", "resize"])
def test_p7_hover_is_true_without_movement(change: str) -> None:
    desk = Desk(
        list={"clips": True, "box": (0, 0, 50, 50)},
        list__a={"solidity": "solid", "box": (0, 0, 50, 25), "hears": "enter leave"},
        list__b={"solidity": "solid", "box": (0, 25, 50, 25), "hears": "enter leave"},
    )
    a = desk["list/a"]
    desk.hand.move((10, 10))
    assert desk.said() == ["enter a"]
    if change == "hide":
        a.visible = False
    elif change == "remove":
        a.remove()
    elif change == "move":
        a.place = a.place.replace(left=60)
    elif change == "cover":
        desk.add("lid", solidity="solid")
    elif change == "scroll":
        desk["list"].scroll = (0, 25)
    elif change == "ghost":
        desk["list"].solidity = "ghost"
    else:
        desk.router.feed(WindowSample(desk.hand.time, "size", 1000, 1000))
    desk.router.tick(desk.hand.time + 1)
    expected = {"scroll": ["leave a", "enter b"], "resize": []}
    assert desk.said() == expected.get(change, ["leave a"])


def test_p7_handlers_that_undo_each_other_end_with_a_report() -> None:
    desk = Desk(a={"solidity": "solid", "box": (0, 0, 50, 50)}, b={"solidity": "solid", "order": -1})
    a = desk["a"]
    a.on("enter", lambda event: setattr(a, "visible", False))
    desk["b"].on("enter", lambda event: setattr(a, "visible", True))
    desk.hand.move((5, 5))
    desk.router.settle()
    assert [type(error) for error, _ in desk.errors] == [glent.SettleError]
    assert "8 rounds" in str(desk.errors[0][0])


def test_p1_stray_emulated_doubled_and_cancelled_samples() -> None:
    desk = Desk(a={"role": "button", "box": (0, 0, 50, 50), "hears": "enter leave press release cancel click"})
    feed = desk.router.feed
    assert feed(PointerSample(0.0, "release", 5, 5)).reason is Reason.STRAY
    assert feed(PointerSample(0.1, "press", 5, 5, emulated=True)).reason is Reason.EMULATED
    assert desk.said() == []
    feed(PointerSample(0.2, "press", 5, 5))
    feed(PointerSample(0.3, "press", 5, 5))
    assert desk.said() == ["enter a", "press a", "cancel a", "press a"], (
        "a down on a pointer that is down cancels first"
    )
    assert feed(PointerSample(0.4, "cancel", 5, 5)).reason is Reason.CANCELLED
    assert desk.said() == ["cancel a"]
    assert desk["a"].hovered, "a cancelled mouse keeps its hover"
    feed(PointerSample(0.5, "press", 5, 5, "f", "touch"))
    feed(PointerSample(0.6, "cancel", 5, 5, "f", "touch"))
    assert desk.said() == ["enter a", "press a", "cancel a", "leave a"], "P8: a finger is gone"
    feed(PointerSample(0.7, "press", 90, 90))
    assert feed(PointerSample(0.8, "press", 5, 5)).lifts == ("mouse/primary",), "what the world held is lifted"
    assert feed(PointerSample(0.9, "release", 5, 5)).owner is desk["a"]


@pytest.mark.parametrize("kind", ["touch", "pen"])
@pytest.mark.parametrize("end", ["release", "cancel"])
def test_p8_a_finger_hovers_nothing_once_it_is_up_and_a_cancel_clicks_nothing(kind: str, end: str) -> None:
    heard = "enter leave press release cancel click"
    desk = Desk(
        a={"role": "button", "box": (0, 0, 50, 50), "hears": heard}, fog={"solidity": "glass", "hears": "enter leave"}
    )
    one, other = Hand(desk.router, "one", kind), Hand(desk.router, "two", "touch")
    one.pos = other.pos = (5.0, 5.0)
    one.press()
    other.press()
    desk.said()
    one.release() if end == "release" else one.cancel()
    said = desk.said()
    assert ("click a" in said, "cancel a" in said) == (end == "release", end == "cancel")
    assert {word for word in said if word.startswith("leave")} == (set() if kind == "pen" else {"leave a"})
    other.release()
    assert desk["a"].hovered is (kind == "pen"), "a pen still hovers, as it may be held above the screen"


def test_p10_a_chord_has_one_owner() -> None:
    desk = Desk(a={"role": "button", "box": (0, 0, 50, 50), "hears": "press move release click"})
    desk.hand.move((5, 5))
    desk.said()
    desk.hand.press()
    desk.hand.press(PointerButton.SECONDARY)
    assert (desk.said(), desk.events[-1].buttons) == (["press a", "move a"], 3)
    desk.hand.release()
    assert desk.said() == ["release a", "click a"]
    assert desk.hand.move((90, 90)).reason is Reason.HELD, "held until all buttons are up"
    desk.hand.release(PointerButton.SECONDARY)
    assert desk.said() == ["move a", "move a"]
    assert desk.hand.move((91, 90)).world


def test_p11_losing_the_focus_cancels_lifts_and_spends() -> None:
    desk = Desk(a={"role": "button", "box": (0, 0, 50, 50), "hears": "press release cancel click leave enter"})
    finger = Hand(desk.router, "f", "touch")
    desk.hand.move((5, 5))
    desk.hand.press()
    finger.time, finger.pos = desk.hand.time, (80, 80)
    finger.press()
    verdict = finger.window("focus_lost")
    assert verdict.lifts == ("f/primary",)
    assert desk.said() == ["enter a", "press a", "cancel a", "leave a"]
    desk.hand.time = finger.time
    for verdict in (desk.hand.move((80, 80)), desk.hand.wheel(1), desk.hand.move((5, 5)), desk.hand.release()):
        assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.SPENT)
    assert desk.said() == ["enter a"]
    desk.hand.time += 1
    assert desk.hand.click((5, 5)).owner is desk["a"]


def test_a_mouse_that_left_the_window_hovers_nothing() -> None:
    desk = Desk(a={"solidity": "solid", "hears": "enter leave"})
    desk.hand.move((5, 5))
    desk.hand.window("pointer_left")
    desk["a"].place = desk["a"].place.replace(left=1)
    desk.router.settle()
    assert desk.said() == ["enter a", "leave a"]
    desk.hand.move((5, 5))
    assert desk.said() == ["enter a"]


BAD_NUMBERS = (float("nan"), float("inf"), -float("inf"), "3", None, True, 1e30, 2j)
OTHER_BAD = [
    *(("action", value) for value in ("hover", None)),
    *(("pointer", value) for value in ("", 7, [])),
    *(("button", value) for value in (9, "left", True, 1.0)),
    *(("buttons", value) for value in (-1, 32, "1")),
    *(("pressure", value) for value in (2, "x")),
    *(("raw", value) for value in (5, ((1, 2),), ((1, 2, float("nan")),))),
    ("time", 0.5),
    ("kind", "claw"),
    ("emulated", 1),
]
GOOD = {"time": 1.0, "action": "move", "x": 1.0, "y": 1.0}


@pytest.mark.parametrize(
    ("field", "value"),
    [(field, value) for field in ("time", "x", "y", "dx", "dy") for value in BAD_NUMBERS] + OTHER_BAD,
)
def test_a_bad_sample_names_field_and_value_and_changes_nothing(field: str, value: object) -> None:
    desk = Desk(a={"solidity": "solid", "hears": "enter leave move"})
    desk.router.feed(PointerSample(0.9, "move", 5.0, 5.0))
    before = (desk.said(), desk.router.now, desk["a"].look)
    for _ in range(2):
        with pytest.raises(glent.SampleError, match=field) as caught:
            desk.router.feed(PointerSample(**{**GOOD, field: value}))
        assert repr(value) in str(caught.value) or field == "raw"
        assert ([], desk.router.now, desk["a"].look) == ([], *before[1:])
        assert desk.said() == []
    assert desk.router.feed(PointerSample(**GOOD)).owner is desk["a"]


@pytest.mark.parametrize(
    "sample",
    [
        glent.WheelSample(1, 1, 1, float("nan"), 0),
        glent.WheelSample(1, 1, 1, 0, 0, "inch"),
        WindowSample(1, "size"),
        WindowSample(1, "size", 0, 5),
        WindowSample(1, "melted"),
        WindowSample(1, "pointer_left"),
        "press",
        None,
    ],
)
def test_other_bad_samples_are_refused(sample: object) -> None:
    desk = Desk()
    with pytest.raises(glent.SampleError, match="expected"):
        desk.router.feed(sample)
    for ask in (
        lambda: desk.router.hits(float("nan"), 1),
        lambda: desk.router.would_reach_world(1, 1, "stare"),
        lambda: desk.router.tick("x"),
        lambda: Feel(click_gap=-1),
    ):
        with pytest.raises(glent.SampleError):
            ask()


def test_p6_a_shared_ancestor_that_heard_the_press_by_glass_in_front_is_owed_its_end_too() -> None:
    desk = Desk(
        card={"hears": "press cancel"},
        card__back={"role": "button", "hears": "press cancel"},
        card__veil={"solidity": "glass", "hears": "press cancel"},
    )
    desk["card"].solidity = "hollow"
    desk.hand.move((5, 5))
    desk.hand.press()
    assert desk.said() == ["press veil", "press veil@card", "press back"]
    desk["card/back"].remove()
    assert desk.said() == ["cancel back", "cancel card"], "the glass was passed over and hears nothing more"
