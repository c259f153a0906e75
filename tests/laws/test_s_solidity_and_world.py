from __future__ import annotations

import pytest

import plain_hits as plain
from desk import Desk
from glent import KINDS, PointerSample, Reason, Router, Scene, WheelSample
from glent.testing import Hand


@pytest.mark.parametrize(
    ("solidity", "hears", "world", "reason", "owner"),
    [
        ("solid", "", False, Reason.SOLID, "a"),
        ("glass", "", True, Reason.PASSED, None),
        ("glass", "press", True, Reason.PASSED, None),
        ("glass", "click", False, Reason.GLASS, "a"),
        ("glass", "hold", False, Reason.GLASS, "a"),
        ("glass", "drag", False, Reason.GLASS, "a"),
        ("glass", "scroll", False, Reason.GLASS, "a"),
        ("glass", "wheel", True, Reason.PASSED, None),
        ("hollow", "press click", True, Reason.OPEN, None),
        ("ghost", "press click", True, Reason.OPEN, None),
    ],
)
def test_s1_s2_s3_s4_p2_who_gets_a_press(
    solidity: str, hears: str, world: bool, reason: Reason, owner: str | None
) -> None:
    desk = Desk(a={"solidity": solidity, "hears": hears})
    verdict = desk.hand.click((50, 50))
    assert (verdict.world, verdict.reason, verdict.owner.name if verdict.owner else None) == (world, reason, owner)
    assert ("press a" in desk.said()) == ("press" in hears and solidity == "glass")


@pytest.mark.parametrize("kind", KINDS)
def test_s3_unset_solidity_follows_handlers(kind: str) -> None:
    desk = Desk(a={})
    assert desk["a"].effective_solidity == "hollow"
    subscription = desk["a"].on(kind, print)
    solid = kind in plain.WANTS
    assert (desk["a"].effective_solidity == "solid") == solid == bool(desk.router.hits(50, 50))
    subscription.stop()
    assert desk["a"].effective_solidity == "hollow"
    assert not desk.router.hits(50, 50)


def test_s3_a_control_is_solid_and_a_layer_never_becomes_so() -> None:
    desk = Desk(a={"role": "button", "box": (0, 0, 10, 10)})
    desk.layer.on("click", print)
    assert [hit.node.name for hit in desk.router.hits(5, 5)] == ["a"]
    assert desk.router.hits(50, 50) == []
    assert desk.router.would_reach_world(50, 50)


def test_s4_nothing_below_a_ghost_is_hit() -> None:
    desk = Desk(a={"solidity": "ghost"}, a__b={"solidity": "solid"})
    assert desk.hand.click((50, 50)).world


def test_s5_disabled_solid_leaks_nothing_and_disabled_glass_is_passed_over() -> None:
    desk = Desk(
        card={"solidity": "solid", "hears": "press click wheel enter leave"},
        card__grey={
            "role": "button",
            "enabled": False,
            "box": (0, 0, 50, 50),
            "hears": "press click wheel enter leave move",
        },
        card__grey__icon={"solidity": "solid", "box": (0, 0, 10, 10), "hears": "press enter"},
        card__pane={"solidity": "glass", "enabled": False, "box": (50, 50, 50, 50), "hears": "click press"},
    )
    verdict = desk.hand.click((5, 5))
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.DISABLED)
    assert "disabled" in verdict.why
    assert desk["card/grey"].look == "disabled"
    assert desk.said() == ["enter card", "enter grey", "enter icon"], "hover stays true, and nothing else is heard"
    assert desk.hand.wheel(1).owner is desk["card/grey/icon"]
    assert desk.said() == ["wheel icon@card"], "the wheel goes on to an enabled ancestor"
    assert desk.hand.click((60, 60)).owner is desk["card"], "disabled glass is passed over"
    assert "press card" in desk.said()


def test_s5_an_owner_disabled_in_mid_press_is_cancelled_and_its_pointer_spent() -> None:
    desk = Desk(a={"role": "button", "box": (0, 0, 50, 50), "hears": "press release cancel click"})
    desk.hand.move((5, 5))
    desk.hand.press()
    desk["a"].enabled = False
    verdict = desk.hand.move((6, 6))
    assert (verdict.world, verdict.reason) == (False, Reason.SPENT)
    assert "disabled" in verdict.why
    assert desk.hand.release().reason is Reason.SPENT
    assert desk.said() == ["press a", "cancel a"]


@pytest.mark.parametrize(("what", "how"), [("visible", False), ("place", "remove")])
def test_s5_p11_an_owner_that_vanishes_in_mid_press_spends_the_pointer(what: str, how: object) -> None:
    desk = Desk(
        a={"role": "button", "box": (0, 0, 50, 50), "hears": "press release cancel leave"},
        b={"solidity": "solid", "hears": "enter", "order": -1},
    )
    desk.hand.move((5, 5))
    desk.hand.press()
    desk.said()
    if how == "remove":
        desk["a"].remove()
        assert desk.said() == ["cancel a", "leave a"], "at once, outside of an event"
    else:
        setattr(desk["a"], what, how)
        desk.router.settle()
        assert desk.said() == ["cancel a", "leave a"]
    assert not desk.hand.move((6, 6)).world
    assert desk.said() == [], "a spent pointer hovers nothing"
    assert not desk.hand.release().world
    assert desk.said() == ["enter b"], "with its buttons up it is back"
    assert desk.hand.click((6, 6)).owner is desk["b"]


def test_w1_a_move_is_the_takers_or_the_first_solids_or_the_worlds() -> None:
    desk = Desk(solid={"solidity": "solid", "box": (0, 0, 50, 100)}, pane={"solidity": "glass", "hears": "move"})
    assert desk.hand.move((10, 10)).owner is desk["solid"]
    assert desk.hand.move((60, 10)).world
    desk["pane"].on("move", lambda event: event.take())
    verdict = desk.hand.move((61, 10))
    assert (verdict.world, verdict.owner, verdict.reason) == (False, desk["pane"], Reason.TAKEN)
    assert "l/pane took the move" in verdict.why


def test_w1_g4_a_wheel_goes_where_it_points_and_not_through_a_plain_panel() -> None:
    desk = Desk(
        panel={"solidity": "solid", "box": (0, 0, 50, 100)},
        pane={"solidity": "glass", "box": (50, 0, 50, 100), "hears": "wheel"},
    )
    feed = desk.router.feed
    assert not feed(WheelSample(1.0, 10, 10, 0, 1)).world
    assert feed(WheelSample(1.1, 60, 10, 0, 1)).world
    assert desk.said() == ["wheel pane"]
    assert desk.events[-1].data == {"dx": 0, "dy": 1, "unit": "pixel"}
    desk["pane"].on("wheel", lambda event: event.take())
    assert feed(WheelSample(1.2, 60, 10, 0, 1)).owner is desk["pane"]


def test_p10_the_wheel_is_the_worlds_while_the_world_owns_the_pointer() -> None:
    desk = Desk(a={"solidity": "solid", "box": (0, 0, 50, 50)})
    desk.hand.move((80, 80))
    desk.hand.press()
    desk.hand.move((10, 10))
    verdict = desk.hand.wheel(1)
    assert (verdict.world, verdict.reason) == (True, Reason.WORLD_HELD)


@pytest.mark.parametrize("action", ["press", "move", "wheel"])
def test_w6_the_question_asked_beforehand_agrees_with_the_verdict(action: str) -> None:
    desk = Desk(
        solid={"role": "button", "box": (0, 0, 20, 100)},
        pane={"solidity": "glass", "box": (20, 0, 20, 100)},
        keen={"solidity": "glass", "box": (40, 0, 20, 100), "hears": "click"},
        grey={"role": "button", "enabled": False, "box": (60, 0, 20, 100)},
    )
    for x in range(5, 100, 10):
        asked = desk.router.would_reach_world(x, 50, action)
        sample = WheelSample(desk.hand.time + 0.1, x, 50, 0, 1) if action == "wheel" else None
        if sample is None:
            desk.hand.pause(1)
            sample = PointerSample(desk.hand.time, action, float(x), 50.0, f"p{x}", "touch")
        assert desk.router.feed(sample).world == asked


def test_w1_every_reason_reads_as_a_sentence() -> None:
    for reason in Reason:
        text = reason.value.format(what="press", owner="hud/a", about="hud/b")
        assert text[0].islower()
        assert "{" not in text
        assert not text.endswith(".")


def test_s5_a_press_on_a_disabled_node_stays_nobodys_when_that_is_removed() -> None:
    desk = Desk(grey={"role": "button", "enabled": False}, under={"solidity": "solid", "order": -1, "hears": "enter"})
    desk.hand.move((5, 5))
    desk.hand.press()
    desk["grey"].remove()
    assert desk.hand.move((6, 6)).reason is Reason.DISABLED
    assert desk.said() == ["enter under"], "only a press of the UI limits hover"
    desk.hand.release()
    assert desk.said() == []


def test_s4_w2_a_layer_in_transition_that_is_a_ghost_lets_input_through() -> None:
    scene = Scene((100, 100))
    button = scene.layer("desk").add("send", role="button")
    veil = scene.layer("veil", order=1)
    router = Router(scene)
    veil.transition = "ignores"
    assert Hand(router).click("desk/send").owner is None
    veil.solidity = "ghost"
    assert Hand(router).click("desk/send").owner is button
