"""Presses that are kept, nobody's, or passed over; timers stopped late; a picture on a button (P2, R7)."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import pytest

from desk import Desk
from glent import Place, PointerSample, Reason, Router, Scene, SceneError, TipSample, WindowSample, controls
from glent.testing import Hand, Wand


@pytest.mark.parametrize("lifted", [False, True])
@pytest.mark.parametrize("what", ["", "cancel", "focus_lost", "dialog", "unplugged", "handed over", "dialog within"])
def test_p8_a_press_that_is_kept_ends_with_what_would_end_it(what: str, lifted: bool) -> None:
    desk = Desk()
    menu = desk.scene.layer("menu", order=5)
    menu.transition = "keeps_press"
    button = menu.add("quit", role="button")
    button.on("click", desk.hear)
    within = menu.add("sure", modal=True, visible=False, solidity="hollow")
    ask = desk.scene.layer("ask", order=9, modal=True, visible=False)
    feed = desk.router.feed
    assert feed(PointerSample(1.0, "press", 20, 20, "f", "touch")).reason is Reason.KEPT
    if lifted:
        feed(PointerSample(1.1, "release", 20, 20, "f", "touch"))

    def blink(node: Any) -> None:
        for shown in (True, False):
            node.visible = shown
            desk.router.settle()

    changes: dict[str, Callable[[], object]] = {
        "cancel": lambda: feed(PointerSample(1.2, "cancel", 20, 20, "f", "touch")),
        "focus_lost": lambda: feed(WindowSample(1.2, "focus_lost")),
        "dialog": lambda: blink(ask),
        "dialog within": lambda: blink(within),
        "unplugged": lambda: feed(WindowSample(1.2, "device_gone", pointer="f")),
        "handed over": lambda: desk.router.add_seat("two", ["f"]),
    }
    if what:
        changes[what]()
    menu.transition = None
    desk.router.tick(2.0)
    feed(PointerSample(3.0, "release", 20, 20, "f", "touch"))
    lives = not what or (lifted and what in ("cancel", "dialog within"))
    assert bool(desk.said()) is lives


@pytest.mark.parametrize("how", ["leave", "settle"])
def test_r7_a_timer_that_the_settle_before_it_stops_is_not_called(how: str) -> None:
    desk = Desk(a={"solidity": "solid"})
    fired: list[float] = []
    desk.hand.move((5, 5))
    timer = desk.router.at(1.0, fired.append)
    desk["a"].on("leave", lambda event: timer.stop())
    desk["a"].visible = False
    if how == "settle":
        desk.router.settle()
    desk.router.tick(1.0)
    assert fired == []


@pytest.mark.parametrize("how", ["hidden", "disabled", "dialog"])
@pytest.mark.parametrize("frame", [0.01, 1 / 30, 0.3, 2.0])
def test_r7_a_held_confirmation_that_was_cut_short_never_acts(how: str, frame: float) -> None:
    scene = Scene((400, 300))
    wipe = controls.Button(scene.layer("hud").add("wipe"), while_held="confirm")
    ask = scene.layer("ask", order=5, modal=True, visible=False)
    ask.add("ok", role="button")
    desk = Hand(Router(scene))
    done: list[object] = []
    wipe.on("act", lambda *given: done.append(given))
    desk.press_keys("Tab")
    desk.key("Space")
    desk.wait(0.3)
    if how == "dialog":
        ask.visible = True
    else:
        setattr(wipe.node, "visible" if how == "hidden" else "enabled", False)
    desk.wait(4.0, frame)
    assert done == []


def test_p5_a_press_that_is_nobodys_limits_no_hover_and_stays_nobodys() -> None:
    desk = Desk(
        pay={"role": "button", "enabled": False, "box": (0, 0, 40, 40)},
        plate={"solidity": "solid", "box": (50, 0, 40, 40), "hears": "enter leave"},
    )
    desk.hand.move((10, 10))
    desk.hand.press()
    assert desk.hand.move((60, 10)).reason is Reason.DISABLED
    assert desk.said() == ["enter plate"]
    assert desk["plate"].look == "hover"
    desk["pay"].remove()
    assert desk.hand.move((61, 10)).reason is Reason.DISABLED
    assert desk.hand.move((95, 95)).reason is Reason.DISABLED
    assert desk.said() == ["leave plate"]
    assert desk.hand.wheel(1).world, "over nothing the wheel is the world's (P10)"
    assert desk.hand.release().reason is Reason.DISABLED


@pytest.mark.parametrize("carries", [None, ("press",), ("press", "wheel")])
@pytest.mark.parametrize("disabled", ["none", "tray", "crate", "both"])
def test_s5_disabling_changes_neither_the_target_of_a_wheel_nor_what_is_carried(carries: Any, disabled: str) -> None:
    desk = Desk(rack={"hears": "wheel"})
    tray = desk["rack"].add("tray", carries=carries)
    crate = tray.add("crate", solidity="solid")
    tray.enabled = disabled not in ("tray", "both")
    crate.enabled = disabled not in ("crate", "both")
    targets: list[Any] = []
    desk["rack"].on("wheel", lambda event: targets.append(event.node))
    tray.on("wheel", lambda event: targets.append("tray"))
    desk.hand.move((5, 5))
    desk.hand.wheel(1)
    heard = ["tray"] if tray.enabled else []
    assert targets == heard + ([crate] if carries is None or "wheel" in carries else [])


@pytest.mark.parametrize("hears", ["", "click", "drag", "press"])
def test_p2_a_glass_control_that_listens_for_nothing_is_passed_over(hears: str) -> None:
    desk = Desk(
        under={"role": "button", "hears": "click"}, over={"role": "button", "solidity": "glass", "hears": hears}
    )
    desk.hand.move((5, 5))
    verdict = desk.hand.press()
    assert verdict.owner is (desk["over"] if hears in ("click", "drag") else desk["under"])
    desk.hand.release()
    assert ("click under" in desk.said()) is (hears not in ("click", "drag"))


@pytest.mark.parametrize("icon", ["solid", "hollow"])
@pytest.mark.parametrize("kind", ["touch", "ray"])
def test_h5_a_picture_on_a_button_is_the_button_to_a_neighbours_reach(kind: str, icon: str) -> None:
    desk = Desk()
    root = desk.scene.panel("board", (1.0, 1.0), (100, 100), position=(0, 0, -2)) if kind == "ray" else desk.layer
    left, right = (root.add(name, role="button", place=desk_box(x)) for name, x in (("left", 0), ("right", 50)))
    left.add("icon", solidity=icon, place=desk_box(5, 30))
    right.reach = {"ray": 10.0, "touch": 20}
    right.on("click", lambda event: None)
    if kind == "touch":
        hits = desk.router.hits(34, 20, kind="touch")
    else:
        x, y, z = root.to_world(34, 20)
        hits = desk.router.hits_ray((0, 0, 0), (x, y, z))
    assert right not in [hit.node for hit in hits if hit.offered]


def desk_box(left: float, width: float = 40) -> Any:

    return Place(left, 0, width=width, height=40)


def test_s5_the_sentence_names_the_ancestor_that_is_disabled() -> None:
    desk = Desk(card={"enabled": False}, card__pay={"role": "button"})
    desk.hand.move((5, 5))
    for verdict in (desk.hand.press(), desk.hand.move((6, 6)), desk.hand.release()):
        assert verdict.why.startswith("the press came to l/card, which is solid but disabled")


@pytest.mark.parametrize("lamp_in_plate", [True, False])
@pytest.mark.parametrize("turn", [0.0, 17.0])
def test_h5_paint_order_and_not_rounding_says_whether_a_plate_covers_a_reach(lamp_in_plate: bool, turn: float) -> None:
    scene = Scene((400, 300))
    board = scene.panel("board", (1.6, 1.2), (400, 300), position=(0.0, 0.0, -2.0))
    board.move(facing=(math.sin(math.radians(turn)), 0.1, math.cos(math.radians(turn))))
    plate = board.add("plate", solidity="solid")
    above = plate if lamp_in_plate else board
    lamp = above.add("lamp", role="button", place=Place(195, 130, width=40, height=40), reach={"ray": 3.0})
    over = board.add("over", solidity="solid", place=Place(0, 0, width=400, height=20))
    router = Router(scene)
    wand = Wand(router)
    owners = set()
    for step in range(40):
        wand.aim(scene.to_world(lamp, -3.0 - step / 10, 3.0 + step * 0.7))
        owners.add(wand.press().owner)
        wand.release()
    assert owners == {lamp}
    near = board.add("near", role="button", place=Place(100, 22, width=40, height=40), reach={"ray": 3.0})
    for order, owner in ((-1, near), (1, over)):
        over.order = order
        wand.aim(board.to_world(120.0, 18.0))
        assert wand.press().owner is owner, "what is painted over it covers it"
        wand.release()


def test_m1_focus_by_code_behind_a_modal_is_refused_with_a_reason() -> None:
    desk = Desk(a={"role": "button"})
    desk.scene.layer("ask", order=5, modal=True)
    with pytest.raises(SceneError, match="l/a: .*ask is modal"):
        desk.router.seat().focus = desk["a"]


@pytest.mark.parametrize("action", ["move", "press"])
@pytest.mark.parametrize("near", [False, True])
def test_p1_a_touch_under_the_name_of_a_fingertip_is_another_pointer(action: str, near: bool) -> None:
    desk = Desk(a={"role": "button", "hears": "press enter"})
    desk.scene.panel("board", (1.0, 1.0), (100, 100), position=(0.0, 0.0, -2.0))
    desk.router.feed(TipSample(0.0, (0.0, 0.0, -1.97 if near else 0.0), "finger"))
    verdict = desk.router.feed(PointerSample(0.1, action, 50.0, 50.0, "finger", "touch"))
    assert verdict.owner is desk["a"]
