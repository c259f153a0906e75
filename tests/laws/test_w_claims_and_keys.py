"""Claims, lifts, the cursor, and the order in which keys, text and pads are asked for (W2–W5)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from desk import Desk
from glent import (
    Bindings,
    KeySample,
    PadSample,
    Place,
    PointerSample,
    Reason,
    Router,
    SampleError,
    Scene,
    TickSample,
)
from glent.diagnose import why_key


class Helm(Desk):
    """A desk with a button, a text field, and layers that claim."""

    def __init__(self) -> None:
        super().__init__()
        keys = "focus blur key_down key_up text compose activate click"
        self.button = self.add("button", (0, 0, 20, 10), role="button", hears=keys)
        self.field = self.add("field", (0, 20, 40, 10), role="textbox", hears=keys)
        self.claim = self.scene.layer("claim", order=5, visible=False)
        self.seat = self.router.seat()

    def hold(self, *controls: str) -> None:
        """Have the world hold these."""
        for name in controls:
            device, _, control = name.partition("/")
            if device == "keys":
                assert self.hand.key(control).world
            elif device == "mouse":
                self.hand.move((90.0, 90.0))
                assert self.hand.press().world
            else:
                assert self.hand.pad(control, 1.0, int(device[3:])).world

    def let_go(self, name: str) -> Any:
        device, _, control = name.partition("/")
        if device == "keys":
            return self.hand.key(control, "up")
        if device == "mouse":
            return self.hand.release()
        return self.hand.pad(control, 0.0, int(device[3:]))


CONTROLS = ("keys/KeyW", "mouse/primary", "pad0/front_bottom_right", "pad0/left_stick_x")
CHANNEL = {"keys": "keys", "mouse": "pointer", "pad0": "pad"}


@pytest.mark.parametrize("channels", [("keys",), ("pad",), ("pointer",), ("pointer", "keys", "pad", "text"), ()])
def test_w3_what_the_world_holds_of_a_claimed_channel_is_lifted_at_once_and_not_pressed_again(channels: tuple) -> None:
    desk = Helm()
    desk.hold(*CONTROLS)
    assert desk.seat.held == set(CONTROLS)
    desk.claim.claims = channels
    desk.claim.visible = True
    lifts = desk.router.feed(TickSample(desk.hand.time)).lifts
    claimed = {name for name in CONTROLS if CHANNEL[name.split("/")[0]] in channels}
    assert set(lifts) == claimed
    assert desk.seat.claims == set(channels)
    desk.claim.visible = False
    assert desk.router.feed(TickSample(desk.hand.time)).lifts == ()
    assert desk.seat.held == set(CONTROLS) - claimed, "the end of the claim presses nothing again"
    for name in CONTROLS:
        assert desk.let_go(name).world == (name not in claimed)
    desk.hand.pause(1.0)
    desk.hold(*CONTROLS)
    assert desk.seat.held == set(CONTROLS)


def test_w2_claims_keep_input_from_the_world_only_and_hold_as_long_as_the_layer_shows() -> None:
    desk = Helm()
    desk.claim.claims = ("pointer", "keys", "text")
    desk.claim.visible = True
    assert desk.hand.click(desk.button).owner is desk.button, "lower layers still get theirs"
    verdict = desk.hand.click((90.0, 90.0))
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.CLAIMED)
    assert not desk.router.would_reach_world(90, 90)
    assert desk.hand.wheel(1).reason is Reason.CLAIMED
    assert desk.hand.key("KeyQ").reason is Reason.CLAIMED
    assert desk.hand.type("q").reason is Reason.CLAIMED
    assert desk.hand.pad("left_stick_x", 1.0).world
    desk.claim.visible = False
    assert desk.hand.click((90.0, 90.0)).world
    assert desk.hand.key("KeyX").world
    assert not desk.hand.key("KeyQ", "up").world, "it was pressed while it was claimed"


def test_w3_an_axis_that_went_out_while_it_was_claimed_is_not_the_worlds_until_it_has_been_back() -> None:
    desk = Helm()
    desk.claim.claims = ("pad",)
    desk.claim.visible = True
    assert not desk.hand.pad("right_stick_x", 0.9).world
    desk.claim.visible = False
    assert not desk.hand.pad("right_stick_x", 1.0).world
    assert not desk.hand.pad("right_stick_x", 0.1).world
    assert desk.hand.pad("right_stick_x", 0.15).world
    assert desk.hand.pad("right_stick_x", 0.5).world


def test_w3_a_press_that_opens_what_takes_it_away_was_never_the_worlds() -> None:
    desk = Helm()
    desk.claim.claims = ("pointer",)
    desk.hand.move(desk.button)
    desk.button.on("leave", lambda event: setattr(desk.claim, "visible", True))
    verdict = desk.router.feed(PointerSample(1.0, "press", 90.0, 90.0, button=0))
    assert (verdict.world, verdict.lifts) == (False, ())
    assert not desk.router.feed(PointerSample(1.1, "release", 90.0, 90.0, button=0)).world


@pytest.mark.parametrize(("way", "owner"), [("ignores", None), ("keeps_press", "clicked")])
def test_w2_a_layer_in_transition_is_solid_and_ignores_input_and_may_keep_one_press(
    way: str, owner: str | None
) -> None:
    desk = Helm()
    front = desk.scene.layer("front", order=9)
    inner = front.add("inner", role="button", place=Place(50, 50, width=20, height=20))
    inner.on("click", desk.hear)
    front.transition = way
    assert desk.hand.move(inner).reason is Reason.TRANSITION
    assert not desk.router.would_reach_world(90, 90)
    expected = Reason.KEPT if way == "keeps_press" else Reason.TRANSITION
    assert desk.hand.click(inner).reason is expected
    assert desk.hand.click(inner).reason is Reason.TRANSITION, "one press is kept"
    assert "click inner" not in desk.said()
    with pytest.raises(Exception, match="cannot have the focus"):
        desk.seat.focus = inner
    front.transition = None
    desk.router.settle()
    assert desk.said() == (["click inner"] if owner else [])


def test_w2_a_kept_press_that_is_still_held_is_owned_when_the_layer_is_ready() -> None:
    desk = Helm()
    front = desk.scene.layer("front", order=9)
    inner = front.add("inner", role="button", place=Place(50, 50, width=20, height=20))
    inner.on("click", desk.hear)
    front.transition = "keeps_press"
    desk.hand.move(inner)
    desk.hand.press()
    front.transition = None
    desk.router.settle()
    assert inner.look == "pressed"
    assert desk.hand.release().owner is inner
    assert desk.said() == ["click inner"]
    front.transition = "keeps_press"
    desk.hand.click(inner)
    front.visible = False
    desk.router.settle()
    front.transition, front.visible = None, True
    desk.router.settle()
    assert desk.said() == [], "what is hidden before it is ready keeps nothing"


def test_w5_the_cursor_is_what_the_topmost_layer_with_an_opinion_says() -> None:
    desk = Helm()
    look = desk.scene.layer("look", order=1, cursor="locked", visible=False)
    menu = desk.scene.layer("menu", order=8, cursor="shown", visible=False)
    seen = [desk.seat.cursor]
    for layer, shown in ((look, True), (menu, True), (menu, False), (look, False)):
        layer.visible = shown
        seen.append(desk.seat.cursor)
    assert seen == ["shown", "locked", "shown", "locked", "shown"]


@pytest.mark.parametrize(("claims", "world"), [((), True), (("pointer",), False), (("keys",), True)])
def test_w5_while_locked_movement_is_the_worlds_unless_claimed(claims: tuple, world: bool) -> None:
    desk = Helm()
    desk.claim.claims, desk.claim.visible, desk.claim.cursor = claims, True, "locked"
    verdict = desk.hand.move_locked(5, 0)
    assert (verdict.world, verdict.reason) == (world, Reason.LOCKED if world else Reason.CLAIMED)
    press = desk.router.feed(PointerSample(9.0, "press", 0.0, 0.0, button=0, relative=True))
    assert press.world is world
    assert desk.router.feed(PointerSample(9.1, "release", 0.0, 0.0, button=0, relative=True)).world is world


# -- W4: who is asked, in order ------------------------------------------------------------------------------------


def asking(desk: Helm) -> None:
    desk.seat.ask("desk:horn", lambda asked: None)


def composing(desk: Helm) -> None:
    desk.seat.focus = desk.field
    desk.hand.compose("ka")


def in_field(desk: Helm) -> None:
    desk.seat.focus = desk.field


def taken(desk: Helm) -> None:
    desk.seat.focus = desk.button
    desk.button.on("key_down", lambda event: event.take())


def modal(desk: Helm) -> None:
    desk.claim.modal = desk.claim.visible = True


def shortcut(desk: Helm) -> None:
    desk.layer.on("desk:horn", desk.hear)
    desk.seat.bindings = Bindings({"desk:horn": ["KeyH"], "desk:enter": ["F2"]})


def ring(desk: Helm) -> None:
    desk.hand.press_keys("Tab")


def nothing(desk: Helm) -> None:
    pass


ORDER: list[tuple[tuple[Callable[[Helm], None], ...], str, Reason]] = [
    ((asking, modal), "KeyH", Reason.BOUND),
    ((modal, shortcut), "KeyH", Reason.MODAL),
    ((composing, shortcut), "KeyH", Reason.COMPOSING),
    ((composing,), "Escape", Reason.COMPOSING),
    ((composing,), "F5", Reason.COMPOSING),
    ((in_field, shortcut), "KeyH", Reason.TYPED),
    ((in_field,), "ArrowLeft", Reason.TYPED),
    ((in_field,), "Backspace", Reason.TYPED),
    ((in_field,), "ShiftLeft", Reason.TYPED),
    ((in_field,), "F5", Reason.KEY),
    ((in_field,), "Enter", Reason.PRESSED),
    ((in_field,), "Tab", Reason.NAVIGATED),
    ((taken, shortcut), "KeyH", Reason.TAKEN),
    ((taken, ring), "Enter", Reason.TAKEN),
    ((shortcut,), "KeyH", Reason.SHORTCUT),
    ((ring, shortcut), "KeyH", Reason.SHORTCUT),
    ((ring,), "Enter", Reason.PRESSED),
    ((ring,), "Space", Reason.PRESSED),
    ((ring,), "ArrowDown", Reason.NAVIGATED),
    ((ring,), "ArrowRight", Reason.NO_WAY),
    ((ring,), "Escape", Reason.KEY),
    ((ring,), "KeyQ", Reason.KEY),
    ((nothing,), "ArrowDown", Reason.KEY),
    ((nothing,), "Enter", Reason.KEY),
    ((nothing,), "Tab", Reason.NAVIGATED),
    ((modal,), "Tab", Reason.NOTHING),
    ((modal,), "Escape", Reason.KEPT_OPEN),
]


@pytest.mark.parametrize(("before", "code", "reason"), ORDER)
def test_w4_keys_are_asked_in_order(before: tuple, code: str, reason: Reason) -> None:
    desk = Helm()
    for step in before:
        step(desk)
    verdict = desk.hand.key(code)
    assert verdict.reason is reason, verdict.why
    assert verdict.world == (reason is Reason.KEY)
    again = desk.router.feed(KeySample(desk.hand.time, "down", code, repeat=True))
    assert again.world == verdict.world
    up = desk.hand.key(code, "up")
    assert up.world == verdict.world, "a key release goes to whoever got its press"
    assert "KeyCode" not in verdict.why
    assert len(verdict.why) > 20


def test_w4_the_enter_that_ends_a_composition_does_nothing_else() -> None:
    desk = Helm()
    composing(desk)
    desk.said()
    desk.hand.key("Enter")
    desk.hand.compose("")
    desk.hand.type("か")
    desk.hand.key("Enter", "up")
    assert [said for said in desk.said() if "activate" in said or "click" in said] == []
    desk.hand.compose("ka")
    desk.hand.pace = 0.0
    desk.hand.compose("")
    assert desk.hand.key("Escape").reason is Reason.COMPOSED, "where the end is told first"
    desk.hand.pace = 0.016
    desk.hand.key("Escape", "up")
    desk.hand.compose("k")
    desk.said()
    desk.field.visible = False
    desk.router.settle()
    assert desk.data("text")[-1] == "", "what was composed there has ended"


def test_w4_a_button_activated_by_key_fires_only_if_still_focused_at_its_release() -> None:
    desk = Helm()
    ring(desk)
    desk.said()
    desk.hand.key("Enter")
    assert desk.button.look == "pressed"
    for _ in range(3):
        assert desk.router.feed(KeySample(desk.hand.time, "down", "Enter", repeat=True)).owner is desk.button
    assert desk.said() == ["key_down button"], "repeats activate nothing"
    desk.hand.key("Enter", "up")
    assert desk.said() == ["key_up button", "activate button", "click button"]
    assert [event.pointer for event in desk.events[-2:]] == ["keys", "keys"]
    desk.hand.key("Enter")
    desk.hand.press_keys("Tab")
    assert desk.button.look == "idle"
    assert desk.hand.key("Enter", "up").reason is Reason.MOVED_ON
    desk.hand.press_keys("ShiftLeft", "Tab")
    desk.hand.key("Enter")
    desk.field.on("focus", lambda event: None)
    desk.seat.focus = desk.field
    desk.seat.focus = desk.button
    assert desk.hand.key("Enter", "up").reason is Reason.MOVED_ON, "there again is not still there"
    assert "activate button" not in desk.said()


def test_w4_a_handler_that_takes_activate_keeps_the_click_from_happening() -> None:
    desk = Helm()
    ring(desk)
    desk.button.on("activate", lambda event: event.take())
    desk.said()
    desk.hand.press_keys("Enter")
    assert "click button" not in desk.said()
    assert desk.events[-1].kind == "activate"


def test_w4_keys_that_a_pointers_focus_did_not_ask_for_stay_the_worlds() -> None:
    desk = Helm()
    desk.hand.click(desk.button)
    assert desk.seat.focus is desk.button
    assert not desk.seat.focus_ring
    for code in ("Space", "Enter", "ArrowDown"):
        assert desk.hand.press_keys(code).world, "a click on the HUD does not take the game's keys"
    desk.claim.claims, desk.claim.visible = ("keys",), True
    assert desk.hand.key("ArrowDown").reason is Reason.NAVIGATED


def test_w3_text_focus_lifts_the_keys_that_make_text_and_no_others() -> None:
    desk = Helm()
    desk.hold("keys/KeyW", "keys/F5", "keys/ArrowLeft", "keys/ArrowUp")
    verdict = desk.hand.click(desk.field)
    assert set(verdict.lifts) == {"keys/KeyW", "keys/ArrowLeft"}
    assert desk.hand.key("KeyW", "up").reason is Reason.USED
    assert desk.hand.key("F5", "up").world
    assert desk.hand.type("w").owner is desk.field
    assert desk.data("text") == ["w"]


def test_w3_text_is_the_worlds_where_no_field_has_the_focus() -> None:
    desk = Helm()
    assert desk.hand.type("w").world
    assert desk.hand.compose("w").world
    desk.seat.focus = desk.button
    assert desk.hand.type("w").world


def test_w3_a_key_down_twice_is_lifted_before_it_is_pressed_again() -> None:
    desk = Helm()
    desk.hold("keys/KeyW")
    verdict = desk.hand.key("KeyW")
    assert (verdict.world, verdict.lifts) == (True, ("keys/KeyW",))
    assert desk.hand.key("KeyW", "up").world
    assert desk.hand.key("KeyW", "up").reason is Reason.STRAY


def test_p6_a_removed_node_that_heard_a_key_go_down_hears_it_come_up() -> None:
    desk = Helm()
    ring(desk)
    desk.hand.key("F5")
    desk.said()
    desk.button.remove()
    assert "key_up button" in desk.said()
    assert desk.hand.key("F5", "up").world
    assert "key_up button" not in desk.said()


def test_r1_key_events_travel_the_focus_path_in_both_phases_and_stop_where_they_are_taken() -> None:
    desk = Desk()
    outer = desk.add("outer", hears="key_down")
    desk.layer.on("key_down", desk.hear, phase="capture")
    inner = desk.add("outer/inner", (0, 0, 10, 10), focusable=True, hears="key_down")
    desk.router.seat().focus = inner
    assert desk.hand.key("KeyQ").world
    assert desk.said() == ["key_down inner@l", "key_down inner", "key_down inner@outer"]
    outer.on("key_down", lambda event: event.take(), phase="capture")
    assert desk.hand.key("KeyE").owner is outer
    assert desk.said() == ["key_down inner@l"]


def test_t4_what_a_sync_or_an_unplugged_device_tells_is_lifted() -> None:
    desk = Helm()
    desk.hold("keys/KeyW", "keys/KeyA", "pad0/left_stick_x", "pad0/front_bottom_left")
    held = ("keys/KeyA", "pad0/left_stick_x", "pad0/right_stick_y", "keys/KeyZ")
    lifts = desk.hand.window("sync", held=held).lifts
    assert set(lifts) == {"keys/KeyW", "pad0/front_bottom_left"}
    assert not desk.hand.pad("right_stick_y", 0.0).world, "it went out while nobody looked"
    assert not desk.hand.key("KeyZ", "up").world
    assert desk.hand.pad("left_stick_x", 0.5).world
    desk.hand.pointer = "pad0"
    assert desk.hand.window("device_gone").lifts == ("pad0/left_stick_x",)
    assert desk.seat.held == {"keys/KeyA"}


def test_a_trigger_is_down_from_the_dead_zone_on_and_all_of_its_values_are_its_holders() -> None:
    desk = Helm()
    values = [(0.1, True), (0.4, True), (0.9, True), (0.1, True)]
    assert [(value, desk.hand.pad("front_bottom_left", value).world) for value, _ in values] == values
    desk.claim.claims, desk.claim.visible = ("pad",), True
    assert [desk.hand.pad("front_bottom_left", value).world for value, _ in values] == [False] * 4
    with pytest.raises(Exception, match="value is -0.5, expected 0 to 1 for front_bottom_left"):
        desk.router.feed(PadSample(99.0, "front_bottom_left", -0.5))
    with pytest.raises(Exception, match="control is 'a', expected one of right_cluster_bottom"):
        desk.router.feed(PadSample(99.0, "a", 0.5))


def test_w4_chords_are_their_own_and_shift_alone_changes_no_arrow() -> None:
    desk = Helm()
    ring(desk)
    desk.hand.key("ControlLeft")
    assert desk.hand.key("Enter").world, "Control and Enter is another chord, bound to nothing"
    desk.hand.key("Enter", "up")
    desk.hand.key("ControlLeft", "up")
    desk.hand.key("ShiftLeft")
    assert desk.hand.key("ArrowDown").reason is Reason.NAVIGATED
    desk.hand.key("ArrowDown", "up")
    desk.hand.key("ShiftLeft", "up")
    desk.seat.bindings = Bindings({"desk:save": ["Control+KeyS"]})
    desk.seat.focus = desk.button
    desk.layer.on("desk:save", desk.hear)
    assert desk.hand.press_keys("ControlRight", "KeyS").reason is Reason.SHORTCUT
    assert desk.hand.press_keys("KeyS").world


def test_m2_a_key_whose_handler_opens_a_modal_does_nothing_else() -> None:
    desk = Helm()
    ring(desk)
    menu = desk.scene.layer("menu", order=9, modal=True, visible=False, closed_by="back")
    menu.add("on", role="button", place=Place(0, 0, width=20, height=10))
    desk.button.on("key_down", lambda event: setattr(menu, "visible", True))
    for code in ("Enter", "Escape", "Tab", "KeyQ"):
        menu.visible = False
        desk.router.settle()
        verdict = desk.hand.key(code)
        assert (verdict.reason, verdict.world, menu.visible) == (Reason.OPENED, False, True)
        assert not desk.hand.key(code, "up").world
        assert desk.seat.focus is menu["on"]


def test_m1_a_modal_that_opens_around_the_focus_ends_what_a_key_presses_there() -> None:
    desk = Desk()
    box = desk.add("box", (0, 0, 50, 50))
    inner = desk.add("box/inner", (0, 0, 20, 10), role="button", hears="click activate")
    desk.hand.press_keys("Tab")
    desk.hand.key("Enter")
    box.modal = True
    desk.router.settle()
    assert desk.router.seat().focus is inner
    desk.hand.key("Enter", "up")
    assert desk.said() == []


def test_r5_r6_handlers_of_keys_may_fail_and_feed() -> None:
    desk = Helm()
    ring(desk)
    promised = []
    desk.button.on("key_down", lambda event: 1 / 0)
    desk.button.on("activate", lambda event: promised.append(desk.router.feed(KeySample(9.0, "down", "KeyX"))))
    desk.hand.press_keys("Enter")
    assert isinstance(desk.errors[0][0], ZeroDivisionError)
    assert promised[0].sealed
    assert promised[0].world
    assert desk.hand.verdicts[-1].inner == (promised[0],)
    assert desk.seat.held == {"keys/KeyX"}


ORDERLY = """
from glent import *
from glent.testing import Hand
scene = Scene(size=(100, 100))
for number in range(3):
    scene.layer(f"hud{number}", claims=["text", "keys", "pad", "pointer"], visible=False)
router = Router(scene)
for name in ("two", "three"):
    router.add_seat(name, devices=[f"pad{number}{name}" for number in range(3)] + [f"pad{len(name)}"])
hand = Hand(router)
for code in ("KeyW", "KeyA", "F5"):
    hand.key(code)
for pad in range(6):
    for control in ("left_stick_x", "front_bottom_left", "right_stick_y"):
        hand.pad(control, 0.9, pad)
hand.press()
for layer in scene.layers:
    layer.visible = True
router.settle()
print(router.take_lifts())
scene["hud0"].remove()
for number in range(3):
    hand.key(f"Key{number}")
router.close()
print(router.take_lifts(), [repr(verdict) for verdict in hand.verdicts])
"""


@pytest.mark.long
def test_r7_lifts_come_in_one_order_in_every_process() -> None:
    import os
    import subprocess
    import sys

    said = {
        subprocess.run(
            [sys.executable, "-c", ORDERLY],
            env={**os.environ, "PYTHONHASHSEED": str(number)},
            capture_output=True,
            text=True,
            check=True,
        ).stdout
        for number in range(4)
    }
    assert len(said) == 1
    assert "keys/KeyW" in said.pop()


def test_w3_alt_graph_makes_text_and_a_key_may_be_known_by_its_value() -> None:
    desk = Helm()
    desk.seat.focus = desk.field
    for held in (("AltRight",), ("ControlLeft", "AltRight")):
        for code in held:
            desk.hand.key(code)
        assert desk.hand.key("KeyQ", key="@").reason is Reason.TYPED
        desk.hand.key("KeyQ", "up")
        for code in held:
            desk.hand.key(code, "up")
    desk.hand.key("ControlLeft")
    assert desk.hand.key("KeyQ", key="q").world, "a chord is no text"
    desk.hand.key("KeyQ", "up")
    assert desk.hand.key("NumpadEnter", key="Enter").world, "nor what the key is bound to by itself"
    desk.hand.key("NumpadEnter", "up")
    desk.hand.key("ControlLeft", "up")
    assert desk.hand.key("NumpadEnter", key="Enter").reason is Reason.PRESSED


def test_w4_who_is_asked_for_a_key_is_told_in_order() -> None:
    scene = Scene((400, 300))
    desk = scene.layer("desk", claims=["keys"])
    horn = desk.add("horn", role="button", label="Horn", place=Place(10, 10, width=60, height=40))
    name = desk.add("name", role="textbox", label="Name", place=Place(110, 10, width=60, height=40))
    horn.on("key_down", lambda event: event.code == "KeyQ" and event.take())
    for node in (horn, name):
        node.on("harbour:bell", lambda event: None)
    router = Router(scene)
    seat = router.seat()
    seat.bindings = Bindings({"harbour:bell": ["KeyB"]})

    def asked(code: str) -> tuple[list[str], str, bool]:
        told = why_key(router, code)
        return list(told.asked), told.story.sentences[0], told.story.verdict.world

    claims = "desk claims the keys: what nobody wants does not come to the world"
    ear = "nothing has the focus, so desk hears keys first"
    assert asked("KeyW") == (
        [ear, "no handler for key_down is on desk, or above", "KeyW is bound to nothing", claims],
        "desk claims the KeyW key for as long as it shows, so the world does not get it; the world does not get it",
        False,
    )
    sentences, verdict, _ = asked("KeyB")
    assert sentences[2] == "KeyB is bound to harbour:bell: desk/name hears it; desk/horn would hear it if that did not"
    assert verdict.startswith("the KeyB key is a shortcut that desk/name listens for")
    seat.set_focus(horn, True)
    assert asked("KeyQ")[0][:2] == [
        "the focus is on desk/horn, and the keys are the UI's",
        "key_down is heard by desk/horn",
    ]
    assert asked("Enter")[0][2] == "Enter activates what has the focus"
    seat.set_focus(name, True)
    assert asked("KeyK")[0][0] == "desk/name has the focus and takes text: KeyK makes text, or edits it, and is its own"
    ask = scene.layer("ask", order=5, modal=True, closed_by="back")
    assert asked("KeyW")[0][0] == "ask is modal: nothing outside of it hears keys"
    assert asked("Escape")[0][-1] == "Escape means back: it would close ask"
    assert not ask.visible
    assert asked("right_cluster_right")[1].startswith("nothing of the UI has asked for the right_cluster_right of pad0")
    with pytest.raises(SampleError, match="expected such as pad0"):
        why_key(router, "right_cluster_right", "keys")
