"""Cues: each happening once, for the control that it is about, and only what a player did (laws C3, D4)."""

from __future__ import annotations

import pytest

from desk import Desk
from glent import ControlError, Place, WindowSample
from glent.controls import Button, Cues, Slider, Toggle

BOX = (0, 0, 60, 40)


def heard(desk: Desk) -> tuple[Cues, list[str]]:
    cues, said = Cues(desk.router), []
    for cue in ("hover", "press", "click", "focus", "change", "refused"):
        cues.on(cue, lambda node, cue=cue: said.append(f"{cue} {node.name}"))  # type: ignore[arg-type, misc]
    return cues, said


def test_c3_a_cue_comes_once_for_the_innermost_control() -> None:
    desk = Desk(card={"box": (0, 0, 100, 100), "solidity": "solid"})
    Button(desk.add("card/send", BOX))
    desk.add("card/send/icon", (0, 0, 20, 20), solidity="solid")
    cues, said = heard(desk)
    desk.hand.move((10.0, 10.0))
    desk.hand.move((30.0, 10.0))
    desk.hand.press()
    desk.hand.release()
    assert said == ["hover send", "press send", "click send"]
    said.clear()
    desk.hand.press_keys("Tab", "Enter")
    assert said == ["click send"], "the focus was there already"
    cues.stop()
    cues.stop()
    desk.hand.click((10.0, 10.0))
    assert said == ["click send"]


def test_c3_what_the_scene_does_by_itself_is_no_cue() -> None:
    desk = Desk()
    Button(desk.add("a", BOX))
    slider = Slider(desk.add("tide", (0, 50, 100, 20)), low=0, high=10)
    _, said = heard(desk)
    desk.hand.move((90.0, 10.0))
    desk["a"].place = Place(40, 0, width=60, height=40)
    desk.router.tick(1.0)
    assert desk["a"].hovered
    desk["a"].visible = False
    desk.router.tick(1.1)
    desk["a"].visible = True
    desk.router.feed(WindowSample(1.2, "size", 200, 200))
    slider.value.current = 5
    desk.router.tick(1.3)
    desk["a"].facts["text"] = "Send"
    assert said == []


def test_c3_changes_focus_and_refusals_are_told() -> None:
    desk = Desk()
    toggle = Toggle(desk.add("lamp", (0, 0, 40, 20)))
    Button(desk.add("horn", (0, 30, 40, 20)))
    desk.add("off", (0, 60, 40, 20), role="button", enabled=False)
    _, said = heard(desk)
    desk.hand.click((5.0, 5.0))
    assert said[-2:] in (["click lamp", "change lamp"], ["change lamp", "click lamp"])
    said.clear()
    desk.hand.press_keys("Tab")
    assert said == ["focus horn"]
    said.clear()
    desk.hand.click((5.0, 65.0))
    assert said == ["refused off"]
    said.clear()
    toggle.mark("refused")
    desk.router.tick(desk.router.now + 0.1)
    assert said == ["refused lamp"]


def test_c3_cues_that_cannot_be_are_refused() -> None:
    cues = Cues(Desk().router)
    with pytest.raises(ControlError, match="there is no cue 'hovr', expected one of hover, press.*near is hover"):
        cues.on("hovr", print)  # type: ignore[arg-type]
    with pytest.raises(ControlError, match="the cue hover is to be heard by 3"):
        cues.on("hover", 3)  # type: ignore[arg-type]
    heard_ = cues.on("hover", print)
    heard_.stop()
    heard_.stop()
