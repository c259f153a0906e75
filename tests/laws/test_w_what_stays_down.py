"""Keys, sticks and buttons that stay down while menus close, windows lose the focus, seats and nodes change (W2–W4)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

import glent
from glent import Bindings, KeySample, Node, PadSample, Place, PointerSample, Reason, Router, Scene, controls
from glent.testing import Hand


class Bridge:
    """A HUD with two buttons, and a menu with two items that back closes."""

    def __init__(self) -> None:
        self.scene = Scene((400, 300))
        self.hud = self.scene.layer("hud")
        self.menu = self.scene.layer("menu", order=5, modal=True, closed_by="back", visible=False)
        for layer, name, left in ((self.hud, "b", 10), (self.menu, "i", 200)):
            for n in range(2):
                layer.add(f"{name}{n}", role="button", place=Place(left, 10 + 40 * n, width=80, height=30))
        self.router = Router(self.scene, on_error=_raise)
        self.seat = self.router.seat()
        self.hand = Hand(self.router)
        self.heard: list[tuple[str, str, Any]] = []

    def hear(self, node: Node, *kinds: str) -> None:
        for kind in kinds:
            node.on(kind, lambda event: self.heard.append((event.kind, event.node.name, event.data.get("cancelled"))))

    def said(self) -> list[tuple[str, str, Any]]:
        said, self.heard = self.heard, []
        return said


def _raise(error: Exception, event: Any) -> None:
    raise error


# -- where focus comes back to: F4, M3 ---------------------------------------------------------------------------------


@pytest.mark.parametrize("by_key", [True, False])
@pytest.mark.parametrize("closes", ["Escape", "click"])
def test_f4_a_place_that_focus_comes_back_to_keeps_its_ring(by_key: bool, closes: str) -> None:
    bridge = Bridge()
    bridge.menu["i0"].on("click", lambda event: setattr(bridge.menu, "visible", False))
    bridge.hand.press_keys("Tab") if by_key else bridge.hand.click("hud/b0")
    assert bridge.seat.focus_ring is by_key
    bridge.menu.visible = True
    bridge.hand.press_keys("Escape") if closes == "Escape" else bridge.hand.click("menu/i0")
    assert (bridge.seat.focus, bridge.seat.focus_ring) == (bridge.hud["b0"], by_key)
    bridge.hear(bridge.hud["b0"], "activate")
    assert bridge.hand.press_keys("Space").world is not by_key, "Space is the game's, unless keys were the UI's"
    assert bool(bridge.said()) is by_key


@pytest.mark.parametrize("by_key", [True, False])
def test_f4_a_popup_gives_the_focus_back_as_it_was(by_key: bool) -> None:
    bridge = Bridge()
    popup = controls.Popup(bridge.hud.add("popup", place=Place(100, 100, width=50, height=50)), bridge.hud["b0"])
    popup.node.add("in", role="button")
    bridge.hand.press_keys("Tab") if by_key else bridge.hand.click("hud/b1")
    before = bridge.seat.focus
    popup.open(focus=True)
    bridge.hand.press_keys("Escape")
    assert (bridge.seat.focus, bridge.seat.focus_ring) == (before, by_key)


def test_m1_a_modal_that_slides_in_or_is_enabled_late_gets_the_focus_once_it_can() -> None:
    for begin, end in (
        (("transition", "ignores"), ("transition", None)),
        (("transition", "keeps_press"), ("transition", None)),
        (("enabled", False), ("enabled", True)),
    ):
        bridge = Bridge()
        bridge.hand.press_keys("KeyW")
        setattr(bridge.menu, *begin)
        bridge.menu.visible = True
        bridge.router.settle()
        assert bridge.seat.focus is None
        setattr(bridge.menu, *end)
        bridge.router.settle()
        assert bridge.seat.focus is bridge.menu["i0"]


def test_f1_tab_leads_out_of_a_modal_that_bars_its_panel_alone() -> None:
    scene = Scene((400, 300))
    one, two = (scene.panel(name, (1, 1), (100, 100), position=(x, 0, -2)) for name, x in (("one", 0), ("two", 2)))
    behind, ask, other = one.add("behind", role="button"), one.add("ask", modal=True), two.add("other", role="button")
    yes, no = (ask.add(name, role="button") for name in ("yes", "no"))
    seat = Router(scene).seat()
    seat.focus = yes
    assert [seat.navigate("next") for _ in range(3)] == [no, other, yes]
    assert behind.focused is False


# -- what is still held: W3, W4 ----------------------------------------------------------------------------------------

HOLDS: dict[str, Callable[[Hand], object]] = {
    "stick": lambda hand: hand.pad("left_stick_y", 0.9),
    "cross": lambda hand: hand.pad("left_cluster_bottom"),
    "arrow": lambda hand: hand.key("ArrowDown"),
}


@pytest.mark.parametrize("hold", HOLDS)
@pytest.mark.parametrize("how", ["back", "code", "world"])
def test_w4_what_walked_a_menu_does_not_walk_on_through_the_hud(hold: str, how: str) -> None:
    bridge = Bridge()
    if how == "world":  # keys are the UI's by the ring alone, and a click on the world takes that away
        bridge.hand.press_keys("Tab")
    else:
        bridge.hand.click("hud/b0")
        bridge.menu.visible = True
    HOLDS[hold](bridge.hand)
    before = bridge.seat.focus
    assert before is not None
    assert before.name in ("i1", "b1")
    if how == "back":
        bridge.hand.press_pad("right_cluster_right")
    elif how == "code":
        bridge.menu.visible = False
    else:
        bridge.hand.click((350.0, 250.0))
    bridge.router.settle()
    there = bridge.seat.focus
    for _ in range(20):
        if hold == "arrow":
            bridge.hand.key("ArrowDown", repeat=True)
        bridge.hand.wait(0.1)
    assert bridge.seat.focus is there
    if hold == "stick":
        bridge.hand.pad("left_stick_y", 0.0)
        assert bridge.hand.pad("left_stick_y", 0.9).world, "the ship steers again"


def test_p11_who_heard_a_key_hears_at_once_that_the_window_is_away() -> None:
    bridge = Bridge()
    acts: list[object] = []
    wipe = controls.Button(bridge.hud["b0"], while_held="confirm")
    wipe.on("act", lambda *given: acts.append(given))
    winch = controls.Stick(bridge.hud.add("winch", place=Place(10, 150, width=80, height=80)))
    bridge.hear(bridge.hud["b0"], "key_down", "key_up")
    bridge.hand.press_keys("Tab")
    bridge.said()
    bridge.hand.key("Space")
    bridge.hand.window("focus_lost")
    assert bridge.said() == [("key_down", "b0", False), ("key_up", "b0", True)]
    bridge.hand.wait(3.0)
    bridge.hand.key("Space", "up")
    assert acts == []
    assert bridge.said() == []
    bridge.seat.set_focus(winch.node, True)
    bridge.hand.key("ArrowRight")
    assert winch.value.current != (0.0, 0.0)
    bridge.hand.window("focus_lost")
    assert winch.value.current == (0.0, 0.0)


@pytest.mark.parametrize("seen", ["lost", "sync", "repeat", "up"])
def test_p11_a_modifier_that_went_up_unseen_counts_no_more(seen: str) -> None:
    bridge = Bridge()
    field = bridge.hud.add("call", role="textbox")
    bridge.seat.focus = field
    bridge.hand.key("AltLeft", key="Alt")
    bridge.hand.window("focus_lost")
    if seen == "sync":
        bridge.hand.window("sync", held=("keys/AltLeft",))
    elif seen == "repeat":
        bridge.hand.key("AltLeft", key="Alt", repeat=True)
    elif seen == "up":
        bridge.hand.key("AltLeft", "up")
    still = seen in ("sync", "repeat")
    assert bridge.seat.modifiers == (("Alt",) if still else ())
    assert (bridge.hand.key("KeyW", key="w").reason is Reason.TYPED) is not still
    bridge.menu.visible = True
    bridge.hand.key("Escape")
    assert bridge.menu.visible is still, "Alt and Escape are not Escape"


@pytest.mark.parametrize("how", ["hidden", "disabled", "layer hidden", "removed", "dialog"])
@pytest.mark.parametrize("hold", ["Space", "ArrowRight", "left_stick_x"])
def test_s5_what_is_held_ends_with_the_node_that_hears_it(how: str, hold: str) -> None:
    bridge = Bridge()
    node = bridge.menu.add("volume", place=Place(10, 150, width=200, height=30))
    volume = controls.Slider(node)
    volume.value.current = 50
    bridge.hear(node, "key_up")
    ask = bridge.scene.layer("ask", order=9, modal=True, visible=False)
    ask.add("ok", role="button")
    bridge.menu.visible = True
    bridge.seat.focus = node
    bridge.hand.pad(hold) if hold == "left_stick_x" else bridge.hand.key(hold)
    changes: dict[str, Callable[[], object]] = {
        "hidden": lambda: setattr(node, "visible", False),
        "disabled": lambda: setattr(node, "enabled", False),
        "layer hidden": lambda: setattr(bridge.menu, "visible", False),
        "removed": node.remove,
        "dialog": lambda: setattr(ask, "visible", True),
    }
    changes[how]()
    bridge.router.settle()
    before = volume.value.current
    assert bridge.said() == [("key_up", "volume", True)]
    for _ in range(10):
        bridge.hand.wait(0.2)
        if hold != "left_stick_x":
            assert not bridge.hand.key(hold, repeat=True).world
    assert volume.value.current == before
    verdict = bridge.hand.pad(hold, 0.0) if hold == "left_stick_x" else bridge.hand.key(hold, "up")
    assert not verdict.world
    assert bridge.said() == []


# -- who is asked: W2, W4 ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize("where", ["panel", "spot", "blocking modal", "local modal", "barred panel", "disabled"])
def test_w4_shortcuts_are_heard_on_panels_and_spots(where: str) -> None:
    scene = Scene((400, 300))
    panel = scene.panel("panel", (1, 1), (100, 100), position=(0, 1.5, -2))
    heard: list[str] = []
    if where == "spot":
        node: Node = scene.spot("bollard", glent.Sphere(1.0))
    elif where in ("blocking modal", "local modal"):
        node = panel.add("ask", modal=True, blocks_all=where == "blocking modal").add("horn", role="button")
    else:
        node = panel.add("horn", role="button", enabled=where != "disabled")
    if where == "barred panel":
        panel.add("ask", modal=True).add("ok", role="button")
    node.on("harbour:horn", lambda event: heard.append(event.node.name))
    router = Router(scene)
    router.seat().bindings = Bindings({"harbour:horn": ["KeyH"]})
    verdict = router.feed(KeySample(1.0, "down", "KeyH"))
    wanted = where not in ("barred panel", "disabled")
    assert (verdict.reason is Reason.SHORTCUT, bool(heard)) == (wanted, wanted)


@pytest.mark.parametrize("kind", ["modal", "claims"])
@pytest.mark.parametrize("how", [("transition", "ignores"), ("transition", "keeps_press"), ("enabled", False)])
def test_w2_what_is_deaf_hears_no_keys(kind: str, how: tuple[str, Any]) -> None:
    bridge = Bridge()
    layer = bridge.scene.layer("deaf", order=9, **({"modal": True} if kind == "modal" else {"claims": ["keys"]}))
    bridge.hear(layer, "key_down")
    assert not bridge.hand.press_keys("KeyH").world
    assert bridge.said()
    setattr(layer, *how)
    assert not bridge.hand.press_keys("KeyJ").world
    assert bridge.said() == []


def test_f5_escape_may_be_shared_by_back_and_a_shortcut_of_the_games() -> None:
    bridge = Bridge()
    bridge.seat.bindings = Bindings({"harbour:menu": ["Escape"], "back": ["Escape"]})
    assert bridge.hand.press_keys("Escape").action == "harbour:menu", "nothing to close: the game may open its menu"
    bridge.hear(bridge.hud, "harbour:menu")
    bridge.hear(bridge.menu, "harbour:menu")
    assert bridge.hand.press_keys("Escape").reason is Reason.SHORTCUT
    assert bridge.said()[0][1] == "hud"
    bridge.menu.visible = True
    assert bridge.hand.press_keys("Escape").action == "back"
    assert not bridge.menu.visible
    assert bridge.said() == []
    bridge.menu.shortcuts_first = bridge.menu.visible = True
    assert bridge.hand.press_keys("Escape").action == "harbour:menu"
    assert bridge.menu.visible
    assert bridge.said()[0][1] == "menu"
    for given in (
        {"harbour:a": ["Escape"], "harbour:b": ["Escape"], "back": ["Escape"]},
        {"harbour:a": ["Tab"], "next": ["Tab"]},
    ):
        with pytest.raises(glent.BindingError, match="is bound to both"):
            Bindings(given)


@pytest.mark.parametrize(
    ("keys", "control"),
    [
        (("ControlLeft", "KeyK"), "Control+KeyK"),
        (("ShiftLeft", "ControlLeft", "KeyK"), "Control+Shift+KeyK"),
        (("ControlLeft",), "ControlLeft"),
        (("KeyK",), "KeyK"),
    ],
)
def test_f5_a_question_for_a_binding_takes_chords(keys: tuple[str, ...], control: str) -> None:
    bridge = Bridge()
    answers: list[Any] = []
    bridge.seat.ask("harbour:horn", answers.append)
    bridge.hand.press_keys(*keys)
    assert bridge.seat.bindings.controls("harbour:horn") == (control,)
    assert [answer.control for answer in answers] == [control]
    assert bridge.seat.asking is None


# -- pads: W3, F5 ------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("way", ["given", "taken back", "seat removed"])
def test_w3_a_device_that_changes_hands_is_nobodys_until_it_has_rested(way: str) -> None:
    bridge = Bridge()
    second = bridge.router.add_seat("second", [] if way == "given" else ["pad0", "keys2"])
    held = ["pad0/left_stick_x", "pad0/front_bottom_left", "keys2/KeyW"]
    feed = bridge.router.feed
    now = bridge.hand.time

    def sample(name: str, down: bool, at: float) -> glent.Verdict:
        device, _, control = name.partition("/")
        if device == "keys2":
            return feed(KeySample(at, "down" if down else "up", control, device="keys2"))
        return feed(PadSample(at, control, 0.9 if down else 0.0))

    assert all(sample(name, True, now).world for name in held)
    if way == "given":
        second.devices = ["pad0", "keys2"]
    elif way == "taken back":
        second.devices = []
    else:
        bridge.router.remove_seat("second")
    assert set(bridge.router.take_lifts()) == set(held)
    assert not feed(PadSample(now + 1, "left_stick_x", 0.8)).world
    assert not feed(PadSample(now + 1, "front_bottom_left", 0.8)).world
    assert not any(sample(name, False, now + 2).world for name in held)
    verdicts = [sample(name, True, now + 3) for name in held]
    assert {(verdict.world, verdict.seat) for verdict in verdicts} == {(True, "second" if way == "given" else "main")}


def test_f5_a_trigger_goes_down_at_one_value_and_up_at_a_lower_one() -> None:
    bridge = Bridge()
    bridge.menu.visible = True
    bridge.hear(bridge.menu, "key_down", "key_up")
    for value in (0.21, 0.19, 0.49, 0.5, 0.45, 0.41, 0.5, 0.39, 0.45, 0.6):
        bridge.hand.pad("front_bottom_right", value)
    assert [kind for kind, _, _ in bridge.said()] == ["key_down", "key_up", "key_down"]


@pytest.mark.parametrize("end", ["claim", "focus_lost", "device_gone", "handed over", "rest"])
@pytest.mark.parametrize("control", ["left_stick_x", "front_bottom_right"])
def test_w3_what_the_world_was_told_it_is_told_the_end_of(control: str, end: str) -> None:
    bridge = Bridge()
    name = f"pad0/{control}"
    assert bridge.hand.pad(control, 0.1).world
    assert bridge.seat.held == {name}
    lifts: tuple[str, ...] = ()
    if end == "claim":
        bridge.menu.visible = True
        bridge.router.settle()
    elif end == "handed over":
        bridge.router.add_seat("second", ["pad0"])
    elif end == "rest":
        assert bridge.hand.pad(control, 0.0).world
    else:
        lifts = bridge.router.feed(glent.WindowSample(bridge.hand.time, end, pointer="pad0")).lifts
    assert lifts + bridge.router.take_lifts() == (() if end == "rest" else (name,))
    assert not bridge.seat.held


# -- whose keys: F4, T1 ------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("used", ["", "mouse", "keys"])
def test_f4_focus_set_by_code_takes_the_keys_unless_the_player_points(used: str) -> None:
    bridge = Bridge()
    if used == "mouse":
        bridge.router.feed(PointerSample(0.0, "press", 300, 200))
        bridge.router.feed(PointerSample(0.1, "release", 300, 200))
    elif used == "keys":
        bridge.hand.press_keys("KeyW")
    bridge.seat.focus = bridge.hud["b0"]
    assert bridge.seat.focus_ring is bridge.seat.keys_are_ui() is (used != "mouse")


def test_t1_two_keyboards_are_two_players() -> None:
    bridge = Bridge()
    two = bridge.router.add_seat("two", ["keys2"])
    mine, theirs = (bridge.hud.add(name, role="textbox", seats=[name]) for name in ("main", "two"))
    bridge.seat.focus, two.focus = mine, theirs
    bridge.hear(mine, "text")
    bridge.hear(theirs, "text")
    feed = bridge.router.feed
    assert feed(KeySample(1.0, "down", "KeyW", "w", device="keys2")).owner is theirs
    assert feed(glent.TextSample(1.0, "w", "keys2")).owner is theirs
    feed(KeySample(1.1, "down", "ShiftLeft", "Shift", device="keys2"))
    assert (bridge.seat.modifiers, two.modifiers) == ((), ("Shift",))
    assert feed(KeySample(1.2, "down", "KeyW", "w")).owner is mine
    assert feed(glent.ComposeSample(1.2, "w", 1)).seat == "main"
    with pytest.raises(glent.SampleError, match="device is 'pad0', expected 'keys'"):
        feed(KeySample(2.0, "down", "KeyW", device="pad0"))
