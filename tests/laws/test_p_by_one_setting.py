"""What a player or a toolkit changes by one setting: sliding over keys, clicks by dwelling, no click again so soon."""

from __future__ import annotations

import pytest

from desk import Desk
from glent import Feel, Reason
from glent.controls import ScreenKeys, Slider, Toggle

HEARS = "press release click cancel"


def keys(**given: bool) -> Desk:
    desk = Desk()
    desk.add("keys", (0, 0, 100, 40), **given)
    for number in range(4):
        desk.add(f"keys/k{number}", (number * 25, 0, 20, 40), role="button", hears=HEARS)
    return desk


def test_p13_a_press_slides_from_key_to_key_and_the_last_is_clicked() -> None:
    desk = keys(slides=True)
    for hand in (desk.hand, desk.finger):
        hand.move((5.0, 5.0))
        hand.press()
        hand.move((15.0, 20.0))
        assert desk.said() == ["press k0"]
        verdict = hand.move((30.0, 20.0))
        assert (verdict.reason, verdict.world) == (Reason.SLID, False)
        assert desk.said() == ["cancel k0", "press k1"]
        assert [desk[f"keys/k{number}"].look for number in range(2)] == ["idle", "pressed"]
        hand.move((22.0, 20.0))
        hand.move((50.0, 90.0))
        assert desk.said() == [], "beside the keys it stays with the last"
        hand.move((60.0, 5.0))
        hand.release()
        assert desk.said() == ["cancel k1", "press k2", "release k2", "click k2"]


@pytest.mark.parametrize("given", [{}, {"slides": False}])
def test_p13_a_press_stays_where_it_began_unless_asked(given: dict) -> None:
    desk = keys(**given)
    desk.hand.drag((5.0, 5.0), (55.0, 5.0))
    assert desk.said() == ["press k0", "release k0"]


def test_p13_it_slides_over_what_is_below_one_node_and_not_while_a_gesture_has_it() -> None:
    desk = keys(slides=True)
    other = desk.add("other", (0, 50, 100, 40), role="button", hears=HEARS)
    desk.hand.drag("l/other", "l/keys/k1")
    desk.hand.drag((35.0, 20.0), (35.0, 70.0))
    assert desk.said() == ["press other", "release other", "press k1", "release k1"]
    desk["keys/k0"].on("drag", lambda event: None)
    desk.hand.drag("l/keys/k0", "l/keys/k2")
    assert desk.said() == ["press k0", "cancel k0"], "it is dragged"
    desk["keys/k2"].enabled = False
    desk.hand.drag("l/keys/k1", "l/keys/k2")
    assert desk.said() == ["press k1", "release k1"], "a disabled key is not pressed"
    assert not other.hovered


ENDS = {
    "hide": lambda event, key: setattr(key, "visible", False),
    "remove": lambda event, key: key.remove(),
    "grab": lambda event, key: event.grab(),
}


@pytest.mark.parametrize("act", ENDS)
def test_p13_who_hides_or_removes_what_is_slid_onto_loses_nothing(act: str) -> None:
    desk = keys(slides=True)
    goes = desk["keys/k1"]
    desk["keys/k0"].on("cancel", lambda event: ENDS[act](event, goes))
    desk.hand.move((5.0, 5.0))
    desk.hand.press()
    assert not desk.hand.move((30.0, 5.0)).world
    desk.hand.release()
    assert desk.said()[:2] == ["press k0", "cancel k0"]
    assert not desk.errors
    assert desk.router._state.pointers["mouse"].hold == ("ui" if act == "grab" else "free")


def test_p13_keys_on_the_screen_type_where_they_are_let_go() -> None:
    desk = Desk()
    board = ScreenKeys(desk.add("board", (0, 0, 100, 40)), ["ab"], slides=True)
    typed: list[str] = []
    board.on("key", lambda key: typed.append(key.typed(False)))
    desk.finger.drag(board.key("a"), board.key("b"))
    assert typed == ["b"]


def test_g1_a_press_so_soon_after_a_click_there_does_nothing() -> None:
    desk = Desk(
        a={"box": (0, 0, 40, 40), "role": "button", "hears": HEARS},
        b={"box": (50, 0, 40, 40), "role": "button", "hears": HEARS},
    )
    desk.router.feel = Feel(click_again_after=0.4)
    desk.hand.click("l/a")
    desk.hand.wait(0.2)
    again = desk.hand.click("l/a")
    assert (again.reason, again.world, again.why.split(" on ")[1][:3]) == (Reason.AGAIN, False, "l/a")
    desk.hand.click("l/b")
    assert desk.said() == ["press a", "release a", "click a", "press b", "release b", "click b"], "another is another"
    desk["b"].feel = {"click_again_after": 0.0}
    assert desk.hand.click("l/b").reason is Reason.SOLID, "a node can have it otherwise"
    desk.hand.wait(0.5)
    desk.said()
    desk.hand.click("l/a")
    assert "click a" in desk.said()
    desk.finger.click("l/a")
    assert desk.said() == [], "any pointer of the player"
    desk["a"].remove()
    assert desk.finger.click((5.0, 5.0)).world


def test_g6_dwelling_clicks_controls_of_every_sort_and_moves_the_focus_as_a_press_does() -> None:
    desk = Desk(plain={"box": (0, 60, 40, 30), "solidity": "solid"})
    toggle = Toggle(desk.add("toggle", (0, 0, 40, 40)))
    slider = Slider(desk.add("slider", (50, 0, 50, 20)), low=0.0, high=100.0)
    desk.router.feel = Feel(dwell_activates=("mouse",), dwell_time=0.5)
    desk.hand.move("l/toggle")
    desk.hand.wait(0.4)
    assert toggle.value.current is False
    desk.hand.wait(0.2)
    assert toggle.value.current is True
    assert desk.router.seat().focus is toggle.node
    desk.hand.wait(3.0)
    desk.hand.move((22.0, 22.0))
    desk.hand.wait(3.0)
    assert toggle.value.current is True, "once, until the pointer has left"
    desk.hand.move((75.0, 10.0))
    desk.hand.wait(0.6)
    assert slider.value.current == pytest.approx(50.0, abs=5)
    desk.hand.move((20.0, 75.0))
    desk.hand.wait(2.0)
    desk.hand.move("l/toggle")
    toggle.node.feel = {"dwell_activates": ()}
    desk.hand.move((75.0, 10.0))
    desk.hand.move("l/toggle")
    desk.hand.wait(2.0)
    assert toggle.value.current is True, "a node can do without"
    desk.finger.move("l/toggle")
    assert not desk.errors
