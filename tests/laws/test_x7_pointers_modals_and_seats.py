"""Law X7, and what the laws of pointers, modals, focus and seats mean for rays."""

from __future__ import annotations

import pytest

from glent import Camera, PointerSample, Reason, Rectangle, Router, Scene, SceneError, TickSample, WindowSample
from glent.testing import Hand, Wand
from quay import Quay

# -- X7, P1, P6: several rays ----------------------------------------------------------------------------------------


def test_x7_several_rays_are_independent_and_each_enter_has_its_leave():
    quay = Quay(water=False)
    quay.add("left", (0, 0, 50, 100), "enter leave click")
    quay.add("right", (50, 0, 50, 100), "enter leave click")
    other = Wand(quay.router, (0.5, 1.5, 0.0), "second")
    quay.wand.aim("board/left")
    other.aim("board/right")
    assert quay.said() == ["enter left", "enter right"]
    quay.wand.press()
    other.aim("board/left")
    assert quay.said() == ["leave right", "enter left"]
    assert quay.events[-1].data["first"] is False  # the other ray is in already
    other.press()
    other.release()
    quay.wand.release()
    assert quay.said() == ["click left", "click left"]
    assert quay.scene["board/left"].look == "hover"
    quay.wand.feed(WindowSample(9.0, "device_gone", pointer="ray"))
    quay.wand.feed(WindowSample(9.0, "device_gone", pointer="second"))
    assert quay.said() == ["leave left", "leave left"]


def test_p2_a_ray_drag_begun_in_the_world_is_never_stolen_and_names_the_spot_it_is_over():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave press click")
    assert quay.wand.aim((0.0, 0.0, -1.0)).world
    assert quay.wand.press().world
    verdict = quay.wand.aim("board/send")
    assert (verdict.world, verdict.spot) == (True, None)
    assert quay.said() == []
    verdict = quay.wand.aim((3.0, 0.0, -3.0))
    assert verdict.world
    assert verdict.spot.point == pytest.approx((3.0, 0.0, -3.0), abs=1e-5)
    assert quay.wand.release().world


def test_w3_m1_a_modal_on_a_screen_layer_bars_the_world_for_rays_and_lifts_what_it_holds():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave click")
    pause = quay.scene.layer("pause", visible=False, modal=True)
    quay.wand.aim("board/send")
    other = Wand(quay.router, (0, 1.5, 0), "second")
    other.aim((0.0, 0.0, -1.0))
    other.press()
    pause.visible = True
    verdict = quay.wand.aim((0.01, 1.5, -2.0))
    assert quay.said() == ["enter send", "leave send"]
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.MODAL)
    assert verdict.lifts == ("second/primary",)
    assert quay.wand.click("board/send").reason is Reason.MODAL
    pause.visible = False
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]


def test_w2_a_claim_of_the_pointer_keeps_rays_from_the_world_but_not_from_panels():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100))
    quay.scene.layer("map", claims=["pointer"])
    assert quay.wand.aim((0.0, 0.0, -1.0)).reason is Reason.CLAIMED
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]


@pytest.mark.parametrize("blocks_all", [False, True])
def test_m1_a_modal_on_a_panel_bars_its_panel_or_all_if_told(blocks_all):
    quay = Quay()
    send = quay.add("send", (0, 0, 40, 40))
    quay.add("ask", (50, 50, 50, 50), "", modal=True, blocks_all=blocks_all, visible=False)
    yes = quay.add("yes", (10, 10, 20, 20), parent=quay.panel["ask"], role="button")
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    lamp = quay.add("lamp", (0, 0, 100, 100), parent=wall)
    quay.wand.aim("board/send")
    quay.wand.press()
    quay.panel["ask"].visible = True
    quay.wand.release()
    assert quay.said() == []  # its pointer was spent (law M1)
    assert quay.wand.click(send).reason is Reason.MODAL
    assert quay.wand.click(quay.panel.to_world(20, 80)).reason is Reason.MODAL  # where nothing lies on it
    assert quay.wand.click(yes).owner is yes
    assert quay.wand.click(lamp).owner is (None if blocks_all else lamp)
    assert quay.wand.aim((0.0, 0.0, -1.0)).world is not blocks_all
    quay.panel["ask"].visible = False
    assert quay.wand.click(send).owner is send


def test_m1_m3_a_modal_on_a_panel_takes_the_focus_of_that_panel_and_gives_it_back():
    quay = Quay()
    quay.add("send", (0, 0, 40, 40), role="button")
    quay.add("ask", (50, 50, 50, 50), "", modal=True, closed_by="back", visible=False)
    yes = quay.add("yes", (0, 0, 20, 20), parent=quay.panel["ask"], role="button")
    no = quay.add("no", (30, 0, 20, 20), parent=quay.panel["ask"], role="button")
    seat = quay.router.seat()
    seat.focus = quay.panel["send"]
    quay.panel["ask"].visible = True
    quay.router.settle()
    assert seat.focus is yes
    assert [seat.navigate("next"), seat.navigate("next")] == [no, yes]
    with pytest.raises(SceneError, match="cannot have the focus"):
        seat.focus = quay.panel["send"]
    assert seat.back()
    quay.router.settle()
    assert seat.focus is quay.panel["send"]


def test_f2_arrows_move_within_a_panel_by_its_own_positions():
    quay = Quay(water=False, facing=(0, 0, -1))  # turned away, which is nothing to its own positions
    names = {
        name: quay.add(name, box, role="button")
        for name, box in {"a": (0, 0, 20, 20), "b": (40, 0, 20, 20), "c": (0, 40, 20, 20)}.items()
    }
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    far = quay.add("far", (45, 0, 20, 20), parent=wall, role="button")
    seat = quay.router.seat()
    seat.focus = names["a"]
    assert seat.navigate("right") is names["b"]
    assert seat.navigate("left") is names["a"]
    assert seat.navigate("down") is names["c"]
    assert seat.navigate("right") in (names["b"], names["c"])
    assert far in [seat.navigate("next") for _ in range(4)]


def test_t1_a_panel_of_some_seats_is_let_through_or_blocks_for_others():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100))
    guest = quay.router.add_seat("guest", devices=["second"])
    other = Wand(quay.router, (0, 1.5, 0), "second")
    quay.panel.seats = ["main"]
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]
    assert other.aim((0.0, 1.4, -2.0)).seat == guest.name
    assert other.aim("board/send").owner is None
    assert quay.router.hits_ray((0, 1.5, 0), (0, 0, -1), seat="guest") == []
    quay.panel.for_others = "blocked"
    assert other.aim((0.0, 1.3, -2.0)).reason is Reason.OTHER_SEAT


def test_p7_handlers_see_a_world_that_is_true_after_everything_was_torn_down():
    quay = Quay()
    send = quay.add("send", (0, 0, 100, 100), "enter leave press cancel")
    send.on("press", lambda event: quay.panel.remove())
    quay.wand.aim("board/send")
    verdict = quay.wand.press()
    assert quay.said() == ["enter send", "press send", "cancel send", "leave send"]
    assert verdict.reason is Reason.SPENT
    assert quay.wand.aim((0.0, 0.0, -1.0)).reason is Reason.SPENT
    quay.wand.release()
    assert quay.wand.aim((0.0, 0.0, -1.0)).spot.node is quay.water
    assert quay.errors == []
    quay.router.feed(TickSample(99.0))
    quay.router.feed(PointerSample(100.0, "move", 5, 5))
    quay.router.close()


def test_p1_a_name_that_goes_on_as_another_sort_of_pointer_ends_what_it_held_before():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave press cancel click")
    quay.wand.pointer = "mouse"
    quay.wand.aim("board/send")
    quay.wand.press()
    verdict = quay.router.feed(PointerSample(5.0, "press", 50, 50))
    assert quay.said() == ["enter send", "press send", "cancel send", "leave send"]
    assert verdict.world
    quay.wand.buttons = 0
    verdict = quay.wand.aim("board/send")
    assert verdict.lifts == ("mouse/primary",)  # the world held it as a mouse
    assert quay.wand.release().reason is Reason.STRAY
    quay.tip.pointer = "mouse"
    assert quay.tip.poke("board/send").owner is quay.scene["board/send"]
    assert quay.said() == ["enter send", "leave send", "enter send", "press send", "click send", "leave send"]


def test_event_grab_and_gestures_by_code_are_where_their_node_is_on_the_panel():
    quay = Quay(water=False)
    node = quay.add("wheel-house", (10, 10, 50, 30), "move click hold drag", role="button")
    lost: list[str] = []
    node.on("press", lambda event: event.grab(lost.append))
    quay.wand.aim(node)
    quay.wand.press()
    quay.wand.aim((1.0, 1.5, -2.0))
    assert quay.events[-1].local == pytest.approx((140.0, 40.0))
    quay.panel.visible = False
    quay.router.settle()
    assert len(lost) == 1
    quay.panel.visible = True
    quay.wand.release()
    hand = Hand(quay.router)
    quay.router.seat().focus = None
    hand.press_keys("Tab")
    hand.press_keys("Enter")
    quay.router.hold(node)
    quay.router.drag(node, 4.0, 3.0)
    assert [event.kind for event in quay.events[-3:]] == ["click", "hold", "drag"]
    assert all(event.local == pytest.approx((25.0, 15.0)) for event in quay.events[-3:])
    assert all(event.point == pytest.approx((-0.15, 1.75, -2.0)) for event in quay.events[-3:])


@pytest.mark.parametrize("on", ["panel", "layer"])
def test_m2_a_popup_is_closed_by_a_rays_press_outside_of_it_which_does_nothing_else(on):
    quay = Quay()
    opener = quay.add("open", (0, 0, 20, 20), role="button")
    parent = quay.panel if on == "panel" else quay.scene.layer("top")
    popup = quay.add("popup", (30, 30, 40, 40), "", parent=parent, solidity="solid", closed_by="any")
    popup.opener = opener
    verdict = quay.wand.click((0.0, 0.0, -1.0))
    assert (verdict.reason, verdict.world, popup.visible) == (Reason.DISMISSED, False, False)
    popup.visible = True
    assert quay.wand.click(opener).reason is Reason.CLOSED
    popup.visible = True
    if on == "panel":
        assert quay.wand.click(popup).owner is popup
        assert popup.visible


def test_g4_a_panel_in_view_of_a_camera_scrolls_by_wheel_and_by_finger():
    quay = Quay()
    quay.add("list", (0, 0, 100, 100), "", scrolls=True, clips=True, content=(100, 900), solidity="solid")
    quay.scene.camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    mouse = Hand(quay.router)
    mouse.move((100, 50))
    assert mouse.wheel(2).reason is Reason.SCROLLED
    assert quay.panel["list"].scroll == (0.0, 72.0)
    finger = Hand(quay.router, "finger", "touch")
    finger.pos = (100.0, 60.0)
    finger.press()
    finger.move((100.0, 35.0), steps=5)
    gone = quay.scene.local(quay.panel["list"], 100, 60)[1] - quay.scene.local(quay.panel["list"], 100, 35)[1]
    assert quay.panel["list"].scroll[1] == pytest.approx(72.0 + gone, abs=1e-6)


@pytest.mark.parametrize("carries", [[], ["enter", "leave"], ["click"], ["enter", "leave", "click"]])
def test_r2_a_small_button_in_a_large_one_lights_and_clicks_both_or_one_as_told_under_a_ray(carries):
    quay = Quay(water=False)
    large = quay.add("large", (0, 0, 100, 100), "click", role="button")
    small = quay.add("small", (20, 20, 30, 30), "click", parent=large, role="button", carries=carries)
    quay.wand.aim(small)
    assert (small.look, large.look) == ("hover", "hover" if "enter" in carries else "idle")
    quay.wand.press()
    quay.wand.release()
    assert quay.said() == ["click small", *(["click large"] if "click" in carries else [])]


def test_h9_many_things_in_one_place_are_all_found_and_the_last_is_in_front():
    scene = Scene((10, 10))
    for number in range(300):
        scene.spot(f"flag-{number}", Rectangle(1, 1))
    router = Router(scene)
    assert [hit.node.name for hit in router.hits_ray((0, 0, 1), (0, 0, -1))] == [
        f"flag-{n}" for n in range(299, -1, -1)
    ]
    for number in range(0, 300, 2):
        scene[f"flag-{number}"].remove()
    scene["flag-299"].move((0, 0, -3))
    assert router.hits_ray((0, 0, 1), (0, 0, -1))[0].node.name == "flag-297"
    assert router.hits_rays([(0, 0, 1)], [(0, 0, -1)]).nodes == [scene["flag-297"]]
