"""Grabs by code, keys, devices that come and go (laws P1, P11, W3, T4), and the short way of a drag (R7)."""

from __future__ import annotations

import random

import pytest

from desk import Desk
from glent import (
    Event,
    KeySample,
    KindError,
    PointerButton,
    PointerSample,
    Reason,
    SampleError,
    SceneError,
    WindowSample,
)
from glent.formats import EventLog, Step, log_rows

HEARS = "press move release cancel click"


def grabbing(kind: str) -> tuple[Desk, list]:
    """A panel over which a menu lies; the menu grabs at an event of this kind."""
    desk = Desk(panel={"solidity": "solid", "hears": HEARS}, menu={"box": (10, 10, 30, 30), "hears": HEARS})
    grabs: list = []
    lost: list[str] = []
    desk["menu"].on(kind, lambda event: grabs or grabs.append(event.grab(lost.append)))
    grabs_and_lost = [grabs, lost]
    return desk, grabs_and_lost


def test_p1_a_grab_of_a_free_pointer_takes_presses_anywhere_until_it_lets_go() -> None:
    desk, (grabs, lost) = grabbing("move")
    desk.hand.move((20, 20))
    desk.said()
    verdict = desk.hand.click((80, 80))
    assert (verdict.reason, verdict.owner) == (Reason.GRABBED, desk["menu"])
    assert desk.said() == ["move menu", "press menu", "release menu"], "no gesture and no click comes of it"
    assert grabs[0].active
    grabs[0].let_go()
    grabs[0].let_go()
    assert desk.hand.click((80, 80)).owner is desk["panel"]
    assert lost == []


def test_p6_a_grab_in_a_press_cancels_who_heard_it_and_is_not_on_the_path() -> None:
    desk = Desk(
        panel={"solidity": "solid", "hears": HEARS}, panel__b={"box": (10, 10, 30, 30), "hears": "press cancel release"}
    )
    desk.add("glass", (0, 0, 50, 50), "press cancel release", solidity="glass")
    desk["panel/b"].on("press", lambda event: desk["panel"].scene.router._grab(desk["panel"], "mouse", None))
    desk.hand.move((20, 20))
    desk.said()
    verdict = desk.hand.press()
    assert (verdict.reason, verdict.owner) == (Reason.GRABBED, desk["panel"])
    assert desk.said() == ["press glass", "press b", "press b@panel", "cancel b"]
    desk.hand.release()
    assert desk.said() == ["release panel"]


@pytest.mark.parametrize("how", ["hide", "disable", "remove", "cancel", "focus_lost", "device_gone", "other"])
@pytest.mark.parametrize("pressed", [False, True])
def test_p11_a_lost_grab_says_why_and_spends_a_pressed_pointer(how: str, pressed: bool) -> None:
    desk, (grabs, lost) = grabbing("move")
    desk.hand.move((20, 20))
    if pressed:
        desk.hand.press()
    menu = desk["menu"]
    desk.said()
    if how == "hide":
        menu.visible = False
        desk.router.settle()
    elif how == "disable":
        menu.enabled = False
        desk.router.settle()
    elif how == "remove":
        menu.remove()
    elif how == "cancel":
        desk.hand.cancel()
    elif how == "other":
        desk.router._grab(desk["panel"], "mouse", None)
    else:
        desk.hand.window(how)
    assert len(lost) == 1
    assert not grabs[0].active
    assert ("cancel menu" in desk.said()) == pressed, "whoever heard the press, and not its release, gets a cancel"
    if how in ("hide", "disable", "remove", "focus_lost"):
        verdict = desk.hand.move((80, 80))
        assert (verdict.reason is Reason.SPENT) == pressed


def test_p1_only_what_is_there_can_grab_and_be_grabbed() -> None:
    desk = Desk(panel={"solidity": "solid"})
    with pytest.raises(KindError, match="l/panel: cannot grab 'mouse', there is no such pointer now"):
        desk.router._grab(desk["panel"], "mouse", None)
    desk.hand.move((20, 20))
    desk["panel"].visible = False
    with pytest.raises(SceneError, match="l/panel: cannot grab, the node is hidden"):
        desk.router._grab(desk["panel"], "mouse", None)


@pytest.mark.parametrize("kind", ["click", "drag_end", "cancel", "leave"])
def test_p1_a_grab_from_whatever_ends_a_press_holds(kind: str) -> None:
    desk, (grabs, _) = grabbing(kind)
    desk["menu"].on("drag", lambda event: None)
    desk.hand.move((20, 20))
    desk.hand.press()
    if kind != "click":
        desk.hand.move((60, 60))
    desk.hand.release()
    assert grabs[0].active
    assert desk.hand.click((90, 90)).reason is Reason.GRABBED


@pytest.mark.parametrize("how", ["remove", "let_go"])
def test_p6_who_hears_a_press_after_a_handler_has_ended_it_is_told_so(how: str) -> None:
    desk = Desk(panel={"solidity": "solid"})
    button = desk.add("panel/b", (10, 10, 30, 30), "press cancel release")

    def end(event: Event) -> None:
        if how == "remove":
            button.remove()
        else:
            event.grab().let_go()

    for kind in ("press", "cancel", "release"):
        desk.layer.on(kind, desk.hear)
        desk["panel"].on(kind, desk.hear, phase="capture")
    desk.layer.on("press", end, phase="capture")
    desk.hand.move((20, 20))
    desk.hand.press()
    desk.hand.release()
    said = desk.said()
    for name in ("panel", "l", "b"):
        mine = [line.split()[0] for line in said if line.endswith((f" {name}", f"@{name}"))]
        assert mine in ([], ["press", "cancel"], ["cancel"] if how == "remove" and name == "b" else []), said
    assert "press b@l" in said
    assert "cancel l" in said


def test_p6_a_press_heard_in_both_phases_is_ended_in_both() -> None:
    desk = Desk(panel={"solidity": "solid"})
    button = desk.add("panel/b", (10, 10, 30, 30), solidity="solid")
    for phase in ("capture", "bubble"):
        for kind in ("press", "release", "cancel"):
            desk["panel"].on(kind, lambda event, phase=phase: desk.log.append(f"{event.kind} {phase}"), phase=phase)
    taking = button.on("release", lambda event: event.take())
    desk.hand.move((20, 20))
    desk.hand.press()
    desk.hand.release()
    assert desk.said() == ["press capture", "press bubble", "release capture", "cancel capture", "cancel bubble"]
    taking.stop()
    desk.hand.press()
    desk.hand.release()
    assert desk.said() == ["press capture", "press bubble", "release capture", "release bubble"]


def test_p1_letting_go_in_mid_press_spends_the_pointer() -> None:
    desk, (grabs, _) = grabbing("press")
    desk.hand.move((20, 20))
    desk.hand.press()
    grabs[0].let_go()
    desk.said()
    assert desk.hand.move((21, 20)).reason is Reason.SPENT
    assert not desk["panel"].hovered
    assert desk.hand.release().reason is Reason.SPENT
    assert desk.said() == []


def test_p1_a_lifted_finger_ends_its_grab_quietly() -> None:
    desk, (grabs, lost) = grabbing("press")
    desk.finger.pos = (20, 20)
    desk.finger.press()
    desk.finger.release()
    assert not grabs[0].active
    assert lost == []
    desk.finger.pos = (80, 80)
    assert desk.finger.press().owner is desk["panel"]


@pytest.mark.parametrize("how", ["lift", "unplug"])
def test_p1_a_grab_of_a_pointer_that_is_going_is_lost_at_once(how: str) -> None:
    desk, (grabs, lost) = grabbing("leave")
    hand = desk.finger if how == "lift" else desk.hand
    hand.pos = (20, 20)
    if how == "lift":
        hand.press()
        hand.release()
    else:
        hand.move((20, 20))
        hand.window("device_gone")
    assert lost == ["the pointer has gone"]
    assert not grabs[0].active
    hand.pos = (20, 20)
    assert hand.press().owner is desk["menu"]


def test_r5_an_on_lost_that_raises_is_reported() -> None:
    desk = Desk(menu={"hears": "move", "solidity": "solid"})
    desk["menu"].on("move", lambda event: event.grab(lambda why: 1 / 0))
    desk.hand.move((20, 20))
    desk["menu"].remove()
    assert [type(error) for error, _ in desk.errors] == [ZeroDivisionError]


# -- keys --------------------------------------------------------------------------------------------------------------


def test_w3_a_keys_release_goes_to_whoever_got_its_press_and_lifted_keys_are_nobodys() -> None:
    desk = Desk()
    hand = desk.hand
    assert hand.key("KeyW").world
    assert desk.router.feed(KeySample(hand.time, "down", "KeyW", repeat=True)).world
    assert desk.router.feed(KeySample(hand.time, "down", "KeyQ", repeat=True)).reason is Reason.STRAY
    assert hand.window("focus_lost").lifts == ("keys/KeyW",)
    verdict = hand.key("KeyW", "up")
    assert (verdict.world, verdict.reason) == (False, Reason.USED)
    assert hand.key("KeyW", "up").reason is Reason.STRAY
    hand.key("KeyA")
    hand.key("KeyS")
    assert hand.window("sync", held=("keys/KeyS", "keys/KeyD")).lifts == ("keys/KeyA",)
    assert hand.key("KeyS", "up").world
    assert not hand.key("KeyD", "up").world, "nobody saw it go down"
    hand.key("KeyS")
    assert desk.router.feed(WindowSample(hand.time, "device_gone", pointer="keys")).lifts == ("keys/KeyS",)
    assert hand.key("Escape").world, "with nothing to abandon it is a key like any other"


# -- devices -----------------------------------------------------------------------------------------------------------


def test_t4_after_a_gap_what_is_up_is_cancelled_and_what_went_down_unseen_is_nobodys() -> None:
    desk = Desk(a={"box": (0, 0, 50, 100), "hears": HEARS})
    hand = desk.hand
    hand.move((20, 20))
    hand.press()
    desk.said()
    hand.window("sync", held=("mouse/primary",))
    assert desk.said() == []
    hand.window("sync")
    assert desk.said() == ["cancel a"]
    hand.window("sync", held=("mouse/secondary",))
    assert hand.move((30, 20)).reason is Reason.SPENT
    assert hand.release(PointerButton.SECONDARY).reason is Reason.SPENT
    assert hand.move((20, 20)).owner is desk["a"]
    hand.press()
    hand.press(PointerButton.SECONDARY)
    desk.said()
    hand.window("sync", held=("mouse/secondary",))
    assert desk.said() == ["cancel a"], "the button that began it is up, though another is down"
    assert hand.release(PointerButton.SECONDARY).reason is Reason.SPENT
    hand.move((80, 20))
    hand.press()
    hand.press(PointerButton.SECONDARY)
    assert hand.window("sync", held=("mouse/secondary",)).lifts == ("mouse/primary",)
    assert hand.release(PointerButton.SECONDARY).world


@pytest.mark.parametrize(
    ("sample", "match"),
    [
        (KeySample(0.0, "press", "KeyW"), "KeySample: action is 'press', expected one of down, up"),
        (KeySample(0.0, "down", ""), "KeySample: code is '', expected a name"),
        (WindowSample(0.0, "scale"), "WindowSample: scale is None"),
        (WindowSample(0.0, "scale", scale=0.0), "scale is 0.0, expected a number from 1/64 to 64"),
        (WindowSample(0.0, "warp"), "WindowSample: pointer is None, expected a name"),
        (WindowSample(0.0, "sync", held=("mouse",)), "held.0. is 'mouse', expected a tuple of controls such as"),
        (WindowSample(0.0, "sync", held=("mouse/left",)), "held.0. is 'mouse/left'"),
        (PointerSample(0.0, "move", 1, 1, relative=1), "PointerSample: relative is 1, expected True or False"),
    ],
)
def test_bad_samples_are_refused_and_change_nothing(sample: object, match: str) -> None:
    desk = Desk()
    with pytest.raises(SampleError, match=match):
        desk.router.feed(sample)
    assert desk.router._state.pointers == {}


# -- the short way -----------------------------------------------------------------------------------------------------


def drag_log(short: bool, seed: int, act: str) -> list[str]:
    """A drag all over some targets, with what handlers do on the way, as its event log."""
    rng = random.Random(seed)
    desk = Desk(
        crate={"box": (0, 0, 20, 20), "hears": "drag_start drag drag_end"},
        list={"box": (60, 0, 40, 100), "scrolls": True},
    )
    for number in range(9):
        path = f"list/s{number}" if number > 4 else f"s{number}"
        turned = {"place": desk["crate"].place.replace(left=number * 9, top=number * 12 + 5, turn=number * 11.0)}
        desk.add(path, None, "drag_enter drag_leave drop enter leave", **turned)
        desk[path].accepts = lambda payload, number=number: None if number % 3 else "full"
    crate = desk["crate"]
    crate.order = 1
    crate.on("drag_start", lambda event: event.give("salt"))
    count = 0

    def meddle(event: Event) -> None:
        nonlocal count
        count += 1
        if act == "move":
            crate.place = crate.place.replace(left=count % 50, top=count % 30)
        elif count % 17 == 0 and act == "remove" and "l/s3" in desk.scene:
            desk["s3"].remove()
        elif count % 40 == 0 and act == "hide":
            crate.visible = False
        elif count % 11 == 0 and act == "feed":
            desk.router.feed(PointerSample(desk.router.now, "move", 3.0, 99.0))
        elif count % 13 == 0 and act == "raise":
            raise RuntimeError("failed")

    crate.on("drag", meddle)
    steps = []

    def feed(sample: object) -> None:
        if not short:
            for pointer in desk.router._state.pointers.values():
                pointer.dragging = None
        steps.append(Step(len(steps), sample, desk.router.feed(sample), None))

    feed(PointerSample(0.0, "move", 5.0, 5.0))
    feed(PointerSample(0.0, "press", 5.0, 5.0, button=0))
    x, y = 5.0, 5.0
    for number in range(120):
        x, y = x + rng.uniform(-9, 10), y + rng.uniform(-9, 10)
        feed(PointerSample(number * 0.01 + 0.01, "move", x % 100, y % 100))
    press = desk.router._state.pointers["mouse"].press
    speed = press.contact.speed(0.1) if press is not None and press.contact is not None else None
    feed(PointerSample(9.0, "release", x % 100, y % 100, button=0))
    return [repr(speed), *EventLog(None, log_rows(steps)).lines()]


@pytest.mark.parametrize("act", ["none", "move", "remove", "hide", "feed", "raise"])
@pytest.mark.parametrize("seed", range(4))
def test_r7_the_short_way_of_a_drag_is_the_long_one_to_the_last_bit(seed: int, act: str) -> None:
    short, long = drag_log(True, seed, act), drag_log(False, seed, act)
    assert short == long
    assert sum('"event": "drag"' in line for line in short) > 30
    assert any('"event": "drag_enter"' in line for line in short)
