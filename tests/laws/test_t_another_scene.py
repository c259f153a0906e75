"""Laws P6, P11, W3 and T1: a router that goes to another scene, from one level of a game to the next."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from glent import Event, KeySample, PadSample, Place, PointerSample, Reason, Router, Scene, SceneError, WindowSample
from glent.testing import Hand

HEARD = ("enter", "leave", "press", "release", "cancel", "click", "focus", "blur", "key_down", "key_up", "look")


class Levels:
    """Two scenes of one router; each has a button at the left, a modal dialog that is hidden, and a layer that claims
    keys, which is hidden too. All that nodes hear is booked."""

    def __init__(self) -> None:
        self.scenes = [self.level() for _ in range(2)]
        self.heard: list[tuple[int, str, str, str]] = []
        self.errors: list[Exception] = []
        for number, scene in enumerate(self.scenes):
            for layer in scene.layers:
                for node in layer.walk():
                    for kind in HEARD:
                        node.on(kind, lambda event, number=number: self.book(number, event))
        self.router = Router(self.scenes[0], on_error=lambda error, event: self.errors.append(error))
        self.hand = Hand(self.router)

    @staticmethod
    def level() -> Scene:
        scene = Scene(size=(100, 100))
        hud = scene.layer("hud")
        hud.solidity = "hollow"
        hud.add("go", role="button", place=Place(10, 10, width=40, height=40))
        ask = scene.layer("ask", order=5, modal=True, closed_by="back", visible=False)
        ask.add("yes", role="button", place=Place(60, 60, width=20, height=20))
        scene.layer("menu", order=3, claims=("keys", "pad"), visible=False).solidity = "hollow"
        return scene

    def book(self, number: int, event: Event) -> None:
        if event.here is event.node:
            self.heard.append((number, event.kind, event.node.path, event.pointer))

    def said(self) -> list[str]:
        said, self.heard = [f"{kind} {number}:{path}" for number, kind, path, _ in self.heard], []
        return said


def test_p6_presses_hover_and_focus_end_in_the_scene_that_is_left() -> None:
    levels = Levels()
    router = levels.router
    levels.hand.move("hud/go")
    levels.hand.press()
    assert router.scene["hud/go"].focused
    levels.said()
    events = router.move_to(levels.scenes[1])
    told = [one for one in levels.said() if "look" not in one]
    assert told == ["cancel 0:hud/go", "leave 0:hud/go", "leave 0:hud", "blur 0:hud/go"]
    assert [event.kind for event in events if event.kind != "look"] == ["cancel", "leave", "leave", "blur"]
    assert [router.scene, levels.scenes[0].router, levels.scenes[1].router] == [levels.scenes[1], None, router]
    assert levels.scenes[0]["hud/go"].look == "idle"
    verdict = levels.hand.release()
    assert verdict.reason is Reason.SPENT
    assert "gone to another scene" in verdict.why
    assert levels.hand.click("hud/go").owner is levels.scenes[1]["hud/go"]
    assert not levels.errors


def test_p7_hover_and_claims_of_the_new_scene_hold_at_once_without_a_sample() -> None:
    levels = Levels()
    router, new = levels.router, levels.scenes[1]
    levels.hand.move("hud/go")
    router.feed(KeySample(1.0, "down", "KeyW"))
    router.feed(PadSample(1.0, "left_stick_x", 1.0))
    new["menu"].visible = True
    levels.said()
    router.move_to(new)
    assert [one for one in levels.said() if "1:" in one and "look" not in one] == ["enter 1:hud", "enter 1:hud/go"]
    assert new["hud/go"].look == "hover"
    assert router.take_lifts() == ("keys/KeyW", "pad0/left_stick_x"), "the new scene claims them"
    assert not router.feed(KeySample(2.0, "up", "KeyW")).world


def test_w3_what_the_world_holds_it_keeps_and_what_the_ui_had_is_nobodys() -> None:
    levels = Levels()
    router, hand = levels.router, levels.hand
    seat = router.seat()
    router.feed(KeySample(0.5, "down", "KeyW"))
    hand.move((90.0, 90.0))
    assert hand.press().world
    router.scene["hud/go"].on("key_down", lambda event: event.take() if event.data["code"] == "KeyQ" else None)
    seat.set_focus(router.scene["hud/go"], True)
    for code in ("KeyQ", "Enter", "ArrowRight"):
        assert not router.feed(KeySample(1.0, "down", code)).world
    levels.said()
    router.move_to(levels.scenes[1])
    assert "key_up 0:hud/go" in levels.said(), "it heard KeyQ go down"
    assert seat.held == {"keys/KeyW", "mouse/primary"}
    assert not seat.uses_keys or seat.focus is None
    for code in ("KeyQ", "Enter", "ArrowRight"):
        verdict = router.feed(KeySample(2.0, "up", code))
        assert (verdict.world, verdict.owner) == (False, None)
    assert router.feed(KeySample(2.0, "up", "KeyW")).world
    assert hand.release().world
    assert [one for one in levels.said() if "click" in one or "activate" in one] == []


def test_t1_seats_keep_devices_viewports_and_bindings_and_the_window_its_size() -> None:
    levels = Levels()
    router = levels.router
    two = router.add_seat("two", devices=["pad1"], viewport=(0.5, 0.0, 0.5, 1.0))
    two.bindings = two.bindings.bound("activate", "button_north", take=True)
    router.feed(WindowSample(0.0, "size", 400.0, 300.0))
    router.feed(WindowSample(0.0, "scale", scale=2.0))
    new = levels.scenes[1]
    mine = new.layer("two", seats=["two"])
    router.move_to(new)
    assert (new.window, new.scale) == ((400.0, 300.0), 2.0)
    assert router.seat("two") is two
    assert (two.devices, two.viewport, two.bindings.action("button_north")) == (
        ("pad1",), (0.5, 0.0, 0.5, 1.0), "activate",
    )  # fmt: skip
    assert new.point(mine, 0.0, 0.0)[0] >= 200.0, "its layer is laid out in its half"
    with pytest.raises(SceneError, match="'tow', and the router has no such seat, expected one of main, two; near is"):
        new.layer("three", seats=["tow"])
    assert [layer.name for layer in new.layers if layer.name == "three"] == []


def test_r6_from_inside_a_handler_it_is_done_after_the_sample_and_before_what_was_fed_later() -> None:
    levels = Levels()
    router, (old, new) = levels.router, levels.scenes

    def leave(event: Event) -> None:
        levels.order = []  # type: ignore[attr-defined]
        router.feed(KeySample(router.now, "down", "KeyA"))
        assert router.move_to(new) == ()
        levels.later = router.feed(PointerSample(router.now, "move", 20.0, 20.0))  # type: ignore[attr-defined]
        assert router.scene is old

    old["hud/go"].on("click", leave)
    verdict = levels.hand.click("hud/go")
    assert verdict.owner is old["hud/go"]
    told = levels.said()
    assert told.index("click 0:hud/go") < told.index("leave 0:hud/go") < told.index("enter 1:hud/go")
    assert router.scene is new
    assert levels.later.sealed  # type: ignore[attr-defined]
    assert levels.hand.click("hud/go").owner is new["hud/go"]


def test_a_scene_that_cannot_be_entered_changes_nothing() -> None:
    levels = Levels()
    router, new = levels.router, levels.scenes[1]
    other = Router(new)
    for scene, match in ((new, "already has a router"), (None, "expected a Scene")):
        with pytest.raises(SceneError, match=match):
            router.move_to(scene)  # type: ignore[arg-type]
    assert router.scene is levels.scenes[0]
    assert router.move_to(levels.scenes[0]) == ()
    other.close()
    kept = []
    router.scene["hud/go"].on("press", lambda event: (router.move_to(new), kept.append(Router(new))))
    levels.hand.click("hud/go")
    assert "already has a router" in str(levels.errors[0]), "it got one in between"
    assert router.scene is levels.scenes[0]
    router.close()
    with pytest.raises(SceneError, match="closed"):
        router.move_to(Scene((10, 10)))


STEPS = st.lists(
    st.one_of(
        st.tuples(st.just("pointer"), st.sampled_from(["m", "t"]), st.sampled_from(["move", "press", "release"]),
                  st.sampled_from([(20.0, 20.0), (70.0, 70.0), (95.0, 5.0)])),
        st.tuples(st.just("key"), st.sampled_from(["KeyW", "Enter", "Tab", "Escape"]), st.sampled_from(["down", "up"])),
        st.tuples(st.just("show"), st.sampled_from(["ask", "menu"]), st.integers(0, 1), st.booleans()),
        st.tuples(st.just("go"), st.integers(0, 1), st.booleans()),
    ),
    min_size=1, max_size=40,
)  # fmt: skip


@settings(max_examples=200, deadline=None)
@given(steps=STEPS)
def test_p6_whatever_happens_no_enter_press_or_key_is_left_open_and_no_key_is_stranded(steps: list[Any]) -> None:
    """The judge knows no scene: it pairs what was told, and keeps by hand what the world must believe to be down."""
    levels = Levels()
    router = levels.router
    entered: set[tuple[int, str, str]] = set()
    pressed: set[tuple[int, str, str]] = set()
    keys: set[tuple[int, str]] = set()
    world: set[str] = set()
    down: set[str] = set()

    def judge() -> None:
        now = levels.scenes.index(router.scene)
        for number, kind, path, pointer in levels.heard:
            here = (number, path, pointer)
            if kind == "enter":
                assert here not in entered
                entered.add(here)
            elif kind == "leave":
                entered.remove(here)
            elif kind == "press":
                pressed.add(here)
            elif kind in ("release", "cancel"):
                pressed.discard(here)
            elif kind == "key_down":
                keys.add((number, path))
            elif kind == "key_up":
                keys.discard((number, path))
        levels.heard.clear()
        for book in (entered, pressed, keys):
            assert all(one[0] == now for one in book), "it was left with something open"

    time = 0.0
    for step in steps:
        time += 0.01
        if step[0] == "go":
            if step[2]:  # from inside a handler
                going = router.scene["hud"].on("move", lambda event, to=step[1]: router.move_to(levels.scenes[to]))
                world -= set(router.feed(PointerSample(time, "move", 20.0, 20.0, "other")).lifts)
                going.stop()
            else:
                router.move_to(levels.scenes[step[1]])
            world -= set(router.take_lifts())
        elif step[0] == "show":
            levels.scenes[step[2]][step[1]].visible = step[3]
        else:
            if step[0] == "pointer":
                _, name, action, (x, y) = step
                control = f"{name}/primary"
                if (action == "press") == (control in down) and action != "move":
                    continue
                verdict = router.feed(PointerSample(time, action, x, y, name, "touch" if name == "t" else "mouse"))
                began, ended = action == "press", action == "release"
            else:
                _, code, action = step
                control = f"keys/{code}"
                if (action == "down") == (control in down):
                    continue
                verdict = router.feed(KeySample(time, action, code))
                began, ended = action == "down", action == "up"
            world -= set(verdict.lifts)
            if began:
                down.add(control)
                if verdict.world:
                    world.add(control)
            elif ended:
                down.discard(control)
                assert verdict.world == (control in world), "the world hears the end of just what it holds"
                world.discard(control)
        judge()
        assert router.seat().held == world
    assert not levels.errors
