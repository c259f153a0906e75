"""Small print of the laws, each line of which could once be taken out of the code without a test that noticed."""

from __future__ import annotations

import pytest

from desk import Desk
from glent import KeySample, PadSample, Place, PointerSample, Reason, Recogniser, SceneError, TickSample, WheelSample
from glent.testing import Wand

BOX = (0, 0, 40, 40)


def test_p6_removing_a_hovered_child_sends_its_ancestors_nothing() -> None:
    desk = Desk(a={"box": (0, 0, 80, 80), "hears": "enter leave", "solidity": "solid"})
    desk.add("a/b", BOX, hears="enter leave")
    desk.add("a/b/c", BOX, hears="enter leave", role="button")
    desk.hand.move("l/a/b/c")
    desk.said()
    desk["a/b"].remove()
    assert desk.said() == ["leave c", "leave b"], "deepest first (P5), and those that stay are still hovered"
    desk.router.settle()
    assert desk.said() == []
    assert desk["a"].hovered


def test_s1_hover_and_offers_do_not_go_through_a_solid_into_a_lower_layer() -> None:
    desk = Desk(a={"role": "button", "hears": "enter leave"})
    front = desk.scene.layer("front", order=3)
    front.solidity = "hollow"
    pane = front.add("pane", solidity="solid")
    desk.hand.move((50.0, 50.0))
    assert desk.said() == []
    pane.solidity = "glass"
    desk.router.settle()
    assert desk.said() == ["enter a"]
    pane.solidity = "solid"
    desk.router.settle()
    assert desk.said() == ["leave a"]


@pytest.mark.parametrize("terms", [{"modal": True}, {"claims": ("keys",)}])
def test_w4_a_modal_or_claiming_layer_hears_keys_when_nothing_has_the_focus(terms: dict[str, object]) -> None:
    desk = Desk()
    front = desk.scene.layer("front", order=3, **terms)
    for kind in ("key_down", "key_up"):
        front.on(kind, desk.hear)
    verdict = desk.router.feed(KeySample(0.0, "down", "KeyQ"))
    desk.router.feed(KeySample(0.1, "up", "KeyQ"))
    assert desk.said() == ["key_down front", "key_up front"]
    assert not verdict.world
    front.on("key_down", lambda event: event.take())
    assert desk.router.feed(KeySample(0.2, "down", "KeyQ")).owner is front
    desk.router.feed(KeySample(0.25, "up", "KeyQ"))
    front.visible = False
    desk.said()
    assert desk.router.feed(KeySample(0.3, "down", "KeyE")).world
    assert desk.said() == []


def test_h5_of_two_that_are_reached_at_equal_distances_the_one_in_front_is_hit() -> None:
    for order in (0, 1):
        desk = Desk(
            a={"box": (10, 10, 20, 20), "role": "button", "reach": 20, "order": order},
            b={"box": (50, 10, 20, 20), "role": "button", "reach": 20, "order": 1 - order},
        )
        wanted = desk["a"] if order else desk["b"]
        desk.finger.pos = (40.0, 20.0)
        assert desk.finger.press().owner is wanted, "as it is painted"


def test_p2_hover_is_that_of_the_owner_that_takes_a_press_over() -> None:
    desk = Desk(area={"box": (0, 0, 100, 100), "scrolls": True, "content": (100, 400), "hears": "enter leave scroll"})
    row = desk.add("area/row", (0, 0, 100, 400), role="button", hears="enter leave press cancel look")
    desk.finger.pos = (50.0, 80.0)
    desk.finger.press()
    desk.said()
    desk.finger.move((50.0, 40.0), steps=4)
    told = desk.said()
    assert told.index("cancel row") < told.index("scroll area")
    assert row.look == "idle", "its pressed look has gone with the press (G5)"
    assert desk["area"].hovered
    desk.finger.release()
    assert not desk["area"].hovered
    assert not row.hovered


def test_p10_the_release_of_another_button_than_the_one_that_began_is_a_move_and_no_click() -> None:
    desk = Desk(a={"box": BOX, "hears": "press release click move"})
    desk.hand.move("l/a")
    desk.said()
    desk.hand.press("primary")
    desk.hand.press("secondary")
    desk.hand.release("secondary")
    assert desk.said() == ["press a", "move a", "move a"]
    assert desk.hand.release("primary").owner is desk["a"]
    assert desk.said() == ["release a", "click a"]
    desk.hand.press("primary")
    desk.hand.press("secondary")
    desk.hand.release("primary")
    assert desk.said() == ["press a", "move a", "release a", "click a"]
    verdict = desk.hand.release("secondary")
    assert (verdict.owner, verdict.world) == (desk["a"], False)
    assert "click" not in " ".join(desk.said())


def test_g6_a_pinch_whose_node_is_removed_ends_and_leaves_both_fingers_to_nobody() -> None:
    desk = Desk(chart={"box": (0, 0, 100, 100), "hears": "pinch cancel", "solidity": "solid"})
    desk.finger.pos, desk.thumb.pos = (40.0, 50.0), (60.0, 50.0)
    desk.finger.press()
    desk.thumb.press()
    desk.finger.move((20.0, 50.0), steps=3)
    assert "pinch chart" in desk.said()
    desk["chart"].remove()
    said = desk.said()
    assert said[-1] in ("pinch chart", "cancel chart")
    for hand in (desk.finger, desk.thumb):
        assert hand.move((50.0, 20.0)).reason is Reason.SPENT
        assert hand.release().reason is Reason.SPENT
    desk.router.tick(10.0)
    assert desk.errors == []
    assert desk.said() == []


def test_g6_a_pinch_whose_losers_end_takes_its_node_away_has_not_begun() -> None:
    desk = Desk()
    crate = desk.add("crate", BOX, solidity="solid", hears="press cancel drag_start drag_end pinch")
    crate.on("drag_end", lambda event: crate.remove())
    desk.finger.move((15.0, 15.0))
    desk.finger.press()
    desk.finger.move((30.0, 15.0))
    assert desk.said() == ["press crate", "drag_start crate", "cancel crate"]
    desk.thumb.move((25.0, 25.0))
    desk.thumb.press()
    desk.thumb.move((45.0, 45.0))
    assert desk.said() == ["press crate", "drag_end crate", "cancel crate"], "each press ends once, and no pinch began"
    assert {hand.move((20.0, 20.0)).reason for hand in (desk.finger, desk.thumb)} == {Reason.SPENT}
    assert desk.errors == []


def test_g5_a_recogniser_whose_node_has_gone_is_told_nothing_more() -> None:
    told: list[str] = []

    class Watcher(Recogniser):
        name = "own:watch"
        pointers = 2

        def removed(self, contact: object) -> None:
            told.append("removed")

        def moved(self, contact: object) -> None:
            told.append("moved")

    desk = Desk(card={"box": (0, 0, 100, 100), "solidity": "solid", "hears": "drag"})
    lid = desk.add("card/lid", BOX, solidity="solid")
    lid.recognise(Watcher)
    desk.finger.move((15.0, 15.0))
    desk.finger.press()
    assert desk.finger.move((35.0, 15.0)).gesture == "drag", "the card has won, and the lid waits for a second finger"
    lid.remove()
    assert told == ["moved", "removed"]
    assert desk.finger.move((50.0, 15.0)).gesture == "drag"
    desk.finger.release()
    assert told == ["moved", "removed"]


def test_g5_a_recogniser_that_goes_while_the_others_are_told_is_told_nothing_more() -> None:
    told: list[str] = []

    class Watcher(Recogniser):
        name = "own:watch"

        def pressed(self, contact: object) -> None:
            told.append(f"pressed {self.node.name}")
            if self.node.name == "inner":
                self.node.parent.remove()

        def moved(self, contact: object) -> None:
            told.append(f"moved {self.node.name}")

    desk = Desk(outer={"box": (0, 0, 100, 100), "solidity": "solid"})
    desk.add("outer/inner", BOX, solidity="solid").recognise(Watcher)
    desk["outer"].recognise(Watcher)
    desk.hand.move((10.0, 10.0))
    verdict = desk.hand.press()
    desk.hand.move((30.0, 30.0), steps=3)
    assert told == ["pressed inner"]
    assert verdict.world is False
    assert desk.hand.release().reason is Reason.SPENT
    assert desk.errors == []


@pytest.mark.parametrize("way", ["hide", "disable", "remove", "modal", "cancel"])
def test_g2_a_drag_whose_own_start_loses_the_pointer_ends_once(way: str) -> None:
    desk = Desk(a={"box": BOX, "hears": "drag_start drag drag_end cancel click"})
    a = desk["a"]

    def lose(event: object) -> None:
        if way == "hide":
            a.visible = False
        elif way == "disable":
            a.enabled = False
        elif way == "remove":
            a.remove()
        elif way == "modal":
            desk.scene.layer("ask", order=5, modal=True)
        else:
            desk.router.feed(PointerSample(desk.router.now, "cancel", 20.0, 20.0))

    a.on("drag_start", lose)
    desk.hand.move("l/a")
    desk.hand.press()
    desk.hand.move((36.0, 36.0), steps=4)
    desk.hand.move((38.0, 38.0), steps=2)
    desk.hand.release()
    said = desk.said()
    assert said.count("drag_start a") == 1
    assert said.count("drag_end a") == 1
    assert "click a" not in said
    assert said.index("drag_start a") < said.index("drag_end a")
    assert desk.errors == []


def test_t2_with_the_last_other_seat_gone_a_shared_pointer_is_the_main_seats_everywhere() -> None:
    desk = Desk(a={"role": "button"})
    desk.router.add_seat("two", ["pad1"], viewport=(0.5, 0.0, 0.5, 1.0))
    assert desk.hand.move((75.0, 50.0)).seat == "two"
    desk.router.remove_seat("two")
    assert desk.hand.move((76.0, 50.0)).seat == "main"
    assert desk.hand.press().owner is desk["a"]
    assert desk.hand.release().seat == "main"
    assert desk.router.feed(PadSample(9.0, "left_cluster_top", 1.0, 1)).seat == "main"
    desk.router.feed(WheelSample(9.0, 75.0, 50.0, 0.0, 1.0))
    desk.router.feed(TickSample(9.5))
    with pytest.raises(SceneError, match="no such seat"):
        desk["a"].seats = ["two"]


def test_p11_a_pointer_whose_drag_is_abandoned_hovers_nothing_at_once() -> None:
    desk = Desk(a={"box": (0, 0, 80, 80), "hears": "drag_start drag_end enter leave"})
    desk.hand.move("l/a")
    desk.hand.press()
    desk.hand.move((60.0, 60.0), steps=4)
    desk.said()
    verdict = desk.router.feed(KeySample(desk.router.now, "down", "Escape"))
    assert verdict.reason is Reason.ABANDONED
    assert desk.said() == ["drag_end a", "leave a"]
    assert not desk["a"].hovered


@pytest.mark.parametrize("gesture", ["hold", "repeat", "drag"])
def test_g5_what_a_removed_part_of_a_control_competed_for_wins_nothing_any_more(gesture: str) -> None:
    desk = Desk(a={"box": (0, 0, 60, 60), "role": "button", "hears": "drag_start drag_end click cancel"})
    desk.add("a/icon", BOX, hears="drag_start" if gesture == "drag" else gesture)
    desk.hand.move("l/a/icon")
    verdict = desk.hand.press()
    assert ("drag", "l/a") in verdict.contest
    assert len(verdict.contest) == 2
    desk["a/icon"].remove()
    desk.hand.wait(2.0)
    desk.hand.move((50.0, 50.0), steps=5)
    desk.hand.release()
    assert [one for one in desk.said() if one.startswith(("drag", gesture))] == ["drag_start a", "drag_end a"]
    assert desk.errors == []


def test_g3_x6_a_target_on_a_panel_is_found_beneath_the_crate_that_is_dragged_over_it() -> None:
    desk = Desk()
    panel = desk.scene.panel("table", (1.0, 1.0), (100, 100), position=(0.0, 0.0, -2.0))
    slot = panel.add("slot", place=Place(60, 10, width=30, height=30), accepts=lambda payload: True)
    crate = panel.add("crate", place=Place(10, 10, width=30, height=30), solidity="solid", order=1)
    crate.on("drag_start", lambda event: event.give("salt"))
    crate.on("drag", lambda event: setattr(crate, "place", crate.place.replace(left=crate.edges[0] + event.data["dx"])))
    for node, kinds in ((slot, ("drag_enter", "drop")), (crate, ("drag_end",))):
        for kind in kinds:
            node.on(kind, desk.hear)
    here = panel.to_world
    wand = Wand(desk.router)
    wand.aim(here(25.0, 25.0))
    wand.press()
    for x in (35.0, 50.0, 65.0, 75.0, 76.0):
        wand.aim(here(x, 25.0))
    wand.release()
    assert desk.said() == ["drag_enter slot", "drop slot", "drag_end crate"]
    assert desk.events[-1].data["outcome"] == "dropped"
    assert 55.0 < crate.edges[0] < 65.0, "it lies over the slot"
