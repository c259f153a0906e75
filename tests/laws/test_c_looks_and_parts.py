"""The laws of controls that tables of acts do not tell: looks, parts, sticks, slots, dialogs, what follows what."""

from __future__ import annotations

import asyncio
import math
import random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import glent
from glent.controls import (
    Button,
    Controls,
    Dialog,
    Key,
    KeyLayout,
    Listbox,
    Look,
    Menu,
    Menubar,
    Popup,
    Progress,
    RadioGroup,
    RangeSlider,
    ScreenKeys,
    Scrollbar,
    Slider,
    SliderRow,
    Slots,
    Stick,
    Tabs,
    Toggle,
    Tooltip,
    ToolWindow,
)
from glent.controls.look import MARKS, STATES
from glent.testing import Hand, Wand
from stage import Stage


def desk(**place: Any) -> tuple[glent.Router, Hand, glent.Node]:
    scene = glent.Scene((800, 600))
    layer = scene.layer("desk")
    node = layer.add("it", place=glent.Place(**{"left": 100, "top": 100, "width": 200, "height": 200, **place}))
    router = glent.Router(scene, on_error=_raise)
    return router, Hand(router), node


def _raise(error: Exception, event: object) -> None:
    raise AssertionError(f"{error!r} at {event!r}") from error


# -- looks -------------------------------------------------------------------------------------------------------------


@given(st.sampled_from(list(STATES)), st.sets(st.sampled_from(MARKS)), st.sets(st.sampled_from(MARKS)))
def test_c3_a_look_falls_back_by_state_first_and_then_by_the_least_mark(
    state: str, marks: set[str], drawn: set[str]
) -> None:
    look = Look(state, marks)
    names = list(look.names())
    assert names[0] == look.name
    assert names[-1] == "idle"
    assert len(names) == len(set(names)) == (len(marks) + 1) * len(STATES[state])
    kept = [mark for mark in MARKS if mark in marks]
    pictures = {"idle": "plain"} | {
        " ".join(("idle", *kept[:n])): n for n in range(1, len(kept) + 1) if kept[n - 1] in drawn
    }
    most = max((n for n in range(1, len(kept) + 1) if kept[n - 1] in drawn), default="plain")
    assert look.of(pictures) == most
    with pytest.raises(glent.ControlError, match="expected at least one named 'idle'"):
        look.of({})


def test_c3_looks_are_told_to_those_who_listen_and_only_when_they_change() -> None:
    stage = Stage("desk/orders/tugs/anchovy")
    told = []
    for path in ("desk/orders/tugs/anchovy", "desk/orders/tugs/bramble", "desk/orders"):
        stage.scene[path].on("look", lambda event: told.append((event.node.name, *event.data.values())))
    stage.do("move .")
    stage.do("move . 0.4 0.4")
    stage.do("press . 0.4 0.4")
    assert told == [
        ("orders", "hover", "idle", False),
        ("anchovy", "hover", "idle", False),
        ("anchovy", "pressed", "hover", False),
    ]
    told.clear()
    stage.do("move desk/orders/tugs/bramble")
    assert told == [("anchovy", "idle", "pressed", False)]
    stage.do("release")
    told.clear()
    stage.scene["desk/orders"].enabled = False
    stage.router.settle()
    assert {(name, look) for name, look, _, _ in told} == {
        ("orders", "disabled"),
        ("anchovy", "disabled"),
        ("bramble", "disabled"),
    }
    told.clear()
    stage.scene["desk/orders"].enabled = True
    stage.hand.press_keys("Tab")
    stage.seat.focus = stage.node(".")
    stage.router.settle()
    assert told[-1] == ("anchovy", "idle", "idle", True)


def test_c3_marks_of_a_control_and_its_parts() -> None:
    stage = Stage("desk/orders/fog-lamp")
    changes = []
    stage.node(".").on("change", lambda event: changes.append(dict(event.data)))
    stage.control.mark("pending")
    stage.control.mark("pending")
    stage.control.value.current = True
    assert stage.control.look().name == "idle chosen pending"
    stage.control.mark("pending", False)
    assert changes == [{"marks": ("pending",)}, {"value": True}, {"marks": ()}]
    with pytest.raises(glent.ControlError, match="a look cannot be 'lit'"):
        stage.control.mark("lit")
    stage.control.detach()
    stage.do("click .")
    assert stage.control.value.current is True


# -- sticks ------------------------------------------------------------------------------------------------------------


@settings(max_examples=150, deadline=None)
@given(
    st.floats(-3, 3), st.floats(-3, 3), st.floats(0, 0.9), st.sampled_from((None, "x", "y")),
    st.sampled_from(("round", "square")), st.booleans(), st.floats(-170, 170),
)  # fmt: skip
def test_c6_a_stick_gives_what_it_is_pushed_beyond_its_dead_zone(
    x: float, y: float, dead: float, axes: str | None, rim: str, springs: bool, turn: float
) -> None:
    router, hand, node = desk(turn=turn)
    node.add("knob", place=glent.Place(width=40, height=40))
    stick = Stick(node, dead_zone=dead, axis=axes, rim=rim, springs=springs)
    hand.move(node)
    hand.press()
    hand.move(router.scene.point(node, 100 + x * 80, 100 + y * 80))
    dx, dy = (0.0 if axes == "y" else x), (0.0 if axes == "x" else y)
    if rim == "square":
        wanted = [math.copysign(max(0.0, (min(abs(one), 1.0) - dead) / (1 - dead)), one) for one in (dx, dy)]
    else:
        far = math.hypot(dx, dy)
        grown = max(0.0, (min(far, 1.0) - dead) / (1 - dead))
        wanted = [one / far * grown if far else 0.0 for one in (dx, dy)]
    assert stick.value.current == pytest.approx(tuple(wanted), abs=1e-4)
    left, top, _, _ = node["knob"].edges
    kx, ky = (left - 80) / 80, (top - 80) / 80
    assert max(abs(kx), abs(ky)) <= 1.0001
    assert rim == "square" or math.hypot(kx, ky) <= 1.0001
    hand.release()
    assert stick.value.current == ((0.0, 0.0) if springs else pytest.approx(tuple(wanted), abs=1e-4))
    assert not stick.held


def test_c6_several_sticks_are_held_at_once_each_by_its_own_finger() -> None:
    stage = Stage("desk/levels/trolley")
    other = Hand(stage.router, "finger-2", "touch")
    winch = stage.controls["desk/levels/winch"]
    stage.do("swipe . 0.5 0.5 4 0.5 held")
    other.pos = other.point("desk/levels/winch")
    other.press()
    other.move("desk/levels/winch", at=(0.5, 3.0))
    assert (stage.control.value.current, winch.value.current) == ((1.0, 0.0), (0.0, 1.0))
    stage.hand.move("desk/levels/trolley", at=(0.1, 0.5))
    stage.hand.press()  # a mouse that comes third takes it from neither
    assert stage.control.value.current == (1.0, 0.0)
    stage.do("lift")
    assert (stage.control.value.current, winch.value.current) == ((0.0, 0.0), (0.0, 1.0))
    stage.hand.window("focus_lost")
    assert winch.value.current == (0.0, 0.0)


@pytest.mark.parametrize(("at", "low", "high"), [(0.2, 20, 50), (0.8, 50, 80)])
def test_c2_of_two_thumbs_on_one_spot_the_one_goes_that_can(at: float, low: int, high: int) -> None:
    _router, hand, node = desk()
    made = RangeSlider(node, step=10, start=(50, 50))
    hand.click(node, at=(at, 0.5))
    assert (made.low.current, made.high.current) == (low, high)


def test_c1_tabs_that_wait_choose_once_they_are_activated() -> None:
    router, hand, node = desk()
    for number, name in enumerate(("log", "crew")):
        node.add(name, role="tab", place=glent.Place(left=number * 100, width=100))
        node.parent.add(name, role="tabpanel")
    tabs = Tabs(node, activation="manual")
    hand.press_keys("Tab")
    hand.press_keys("ArrowRight")
    assert (router.seat().focus, tabs.value.current) == (node["crew"], "log")
    hand.press_keys("Enter")
    assert tabs.value.current == "crew"


# -- slots, scrollbars, windows ----------------------------------------------------------------------------------------


def test_c7_things_are_never_lost_and_lie_only_where_they_may() -> None:
    rng = random.Random(7)
    stage = Stage("desk/levels/hold")
    slots: Slots = stage.control
    names = ["a1", "a2", "a3", "a4", "b1", "b2", "b3", "b4"]
    slots.accepts = lambda slot, item: "too heavy for the upper shelf" if item == "anvil" and slot[0] == "a" else None
    moved = refused = 0
    slots.on("moved", lambda carried, slot: None)
    for _ in range(300):
        before = dict(slots.items)
        one, other = rng.sample(names, 2)
        if rng.random() < 0.5:
            stage.hand.drag(stage.node(one), stage.node(other), steps=2)
        else:
            stage.router.settle()
            stage.do(f"click {one}")
            stage.do(f"click {other}")
            if one not in before and other in before:
                stage.do(f"click {other}")  # it had picked that up
        swapped = {one: other, other: one}
        moves = {swapped.get(slot, slot): item for slot, item in before.items()}
        allowed = one in before and not any(item == "anvil" and slot[0] == "a" for slot, item in moves.items())
        assert slots.items == (moves if allowed else before), (one, other)
        moved, refused = moved + allowed, refused + (one in before and not allowed)
    assert moved > 50 < 10 * refused
    assert [act for act, *_ in stage.said].count("moved") == moved
    with pytest.raises(glent.ControlError, match="there is no slot 'c9', expected one of a1"):
        slots.put("c9", "rope")
    with pytest.raises(glent.ControlError, match="cannot be there: too heavy"):
        slots.put(next(name for name in names if name[0] == "a" and name not in slots.items), "anvil")


def test_c8_a_scrollbar_follows_its_area_however_that_changes() -> None:
    stage = Stage("desk/papers/manifest/rows-bar")
    area, bar = stage.scene["desk/papers/manifest/rows"], stage.control

    def seen() -> tuple[int, int]:
        top, bottom = bar.node["thumb"].edges[1::2]
        return round(top), round(bottom)

    assert seen() == (0, 415)  # 552 of 734 pixels show
    stage.router.scroll(area, 0, 91)
    stage.router.settle()
    assert seen() == (68, 484)
    for option in list(area["list"].children)[8:]:
        option.remove()
    stage.router.settle()
    assert not bar.needed
    assert not bar.node.visible
    assert area.scroll == (0, 0)
    area["list"].add("ballast", role="option", place=glent.Place(height=4000))
    stage.router.settle()
    assert bar.node.visible
    assert bar.fraction == 0
    stage.do("press . 0.5 0.9")
    stage.do("wait 3")
    assert 0.8 < bar.fraction < 1  # page after page, until the thumb is under the pointer


def test_c9_a_window_is_raised_by_a_press_and_stays_inside_its_parent() -> None:
    stage = Stage("desk/chart")
    second = stage.scene["desk"].add("tide-book", order=5, place=glent.Place(left=900, top=430, width=200, height=150))
    ToolWindow(second, min_size=(160, 100))
    stage.router.settle()
    assert stage.router.hits(990, 470)[0].node.is_within(second)
    stage.do("press sheet 0.9 0.9")
    stage.do("release")
    assert stage.router.hits(990, 470)[0].node.is_within(stage.node("."))
    stage.control.move_by(5000, -5000)
    assert stage.see("box") == [1000, 0, 280, 200]
    stage.control.size_by(900, 40)
    assert stage.see("box") == [1000, 0, 280, 240]
    assert stage.said[-1] == ["place", 1000.0, 0.0, 280.0, 240.0]


# -- dialogs -----------------------------------------------------------------------------------------------------------


def test_c10_a_dialog_asks_one_question_after_the_other_and_can_be_awaited() -> None:
    stage = Stage("notices/question")
    dialog: Dialog = stage.control
    heard = []

    async def night() -> list[str | None]:
        first = dialog.ask("Let barge 7 go?", ("yes", "no"), cancel="no", default="no")
        second = dialog.ask("Which gate?", ("north", "south", "sea gate"), heard.append)
        return [await first, await second]

    async def both() -> list[str | None]:
        task = asyncio.create_task(night())
        await asyncio.sleep(0)
        stage.router.settle()
        assert dialog.message == "Let barge 7 go?"
        assert (stage.see("focus"), dialog.labels) == (
            "choices/choice-1",
            {"choices/choice-0": "yes", "choices/choice-1": "no"},
        )
        assert stage.hand.click("desk/orders/ballast").reason is glent.Reason.MODAL
        stage.hand.press_keys("Escape")
        stage.router.settle()
        assert dialog.message == "Which gate?"
        stage.hand.press_keys("Escape")  # it has no choice that back stands for
        assert dialog.asked is not None
        stage.do("click choices/choice-2")
        return await task

    assert asyncio.run(both()) == ["no", "sea gate"]
    assert heard == ["sea gate"]
    assert not stage.see("shown .")
    answer = dialog.ask("Anyone there?", ("aye",))
    stage.node(".").visible = False
    stage.router.settle()
    assert answer.done
    assert answer.choice is None
    assert answer.then(heard.append) is answer
    assert heard[-1] is None


# -- what cannot be ----------------------------------------------------------------------------------------------------

REFUSED = [
    (lambda node: Button(_as(node, "slider")), "it: role is 'slider', expected button or link for a Button"),
    (lambda node: Slider(node, glent.Value(3)), "expected one with low below high"),
    (lambda node: Slider(node, orientation="slanted"), "orientation is 'slanted', expected horizontal or vertical"),
    (lambda node: RangeSlider(node, (_upto(2), _upto(3))), "from 0 to 2 and from 0 to 3, expected one range"),
    (lambda node: SliderRow(node, []), "there are no values, expected at least one"),
    (lambda node: Progress(node, glent.Value(1)), "expected one with low below high"),
    (lambda node: Stick(node, dead_zone=1.0), "dead_zone is 1.0, expected None or a number from 0 to below 1"),
    (lambda node: Stick(node, axis="z"), "axis is 'z', expected None, x or y"),
    (lambda node: Stick(node, rim="star"), "rim is 'star', expected one of round, square"),
    (lambda node: Listbox(node, glent.Value(("a", "b"))), "are chosen in a list for a single choice"),
    (lambda node: Tabs(node), "the tabs are none and the panels none"),
    (lambda node: Slots(node, 0), "columns is 0, expected 1 or more"),
    (lambda node: Slots(node, 2), "there is no slot, expected nodes of role gridcell"),
    (lambda node: Popup(node, side="behind"), "side is 'behind', expected one of below, above, right, left"),
    (lambda node: Menu(node, above=Menu(node.add("m"))), "its opener is nothing, expected an item of desk/it/m"),
    (lambda node: Menubar(node, {"x": Menu(node.add("m"))}), "the opener of the menu 'x' is nothing"),
    (lambda node: Scrollbar(node, node.parent), "desk does not scroll, expected a node that does"),
    (lambda node: Tooltip(node, node.parent, side="x"), "side is 'x'"),
    (lambda node: Dialog(node).ask("?", ("a", "a")), "the choices are ('a', 'a'), expected some, each once"),
    (lambda node: Dialog(node).ask("?", ("a",), cancel="b"), "cancel is 'b', expected one of a"),
    (lambda node: ToolWindow(node, min_size=(-1, 0)), "min_size is (-1, 0)"),
    (lambda node: ScreenKeys(node, KeyLayout([[]])), "a row without keys"),
    (lambda node: Key(), "expected text to type only"),
    (lambda node: Key("a", does="sing"), "a key does 'sing', expected one of type, shift"),
    (lambda node: Key("a", width=0), "width 0"),
    (lambda node: Toggle(node).on("explode", print), "a Toggle has no act 'explode'"),
    (lambda node: Popup(node).open(), "is in no scene that a router serves"),
    (lambda node: node.remove() or RadioGroup(node), "cannot be a RadioGroup, the node has been removed"),
    (lambda node: _noted(node, {"kind": "lever"}), "the kind of control is 'lever', expected one of button"),
    (lambda node: _noted(node, {"kind": "slider", "stat": 3}), "no option 'stat', expected one of low, high"),
    (lambda node: _noted(node, {"kind": "slider", "stat": 3}), "near is start"),
    (lambda node: _noted(node, {"kind": "tooltip", "target": "desk/no"}), "target is 'desk/no': no node at"),
    (lambda node: _noted(node, {"kind": "menu", "above": "desk/it", "opener": "desk/it"}), "refers to itself"),
]  # fmt: skip


MADE = ("its opener", "the opener of", "the menu", "the choices", "cancel is", "a Toggle", "is in no scene")
"""Where a control is made first, and then asked what it cannot do."""


def _upto(high: float) -> glent.Value[float]:
    return glent.Value(1.0, low=0, high=high)


def _as(node: glent.Node, role: str) -> glent.Node:
    node.role = role
    return node


def _noted(node: glent.Node, control: dict[str, Any]) -> None:
    node.notes = {"control": control}
    Controls(node.scene)


@pytest.mark.parametrize(("make", "words"), REFUSED, ids=[words for _, words in REFUSED])
def test_c11_what_a_control_cannot_be_is_refused_and_leaves_nothing_behind(make: Any, words: str) -> None:
    scene = glent.Scene((800, 600))
    node = scene.layer("desk").add("it")
    with pytest.raises(glent.ControlError) as caught:
        make(node)
    before = "slider" if "role is" in words else None
    assert words in str(caught.value)
    if not words.startswith(MADE):
        assert (node.role, node.children, any(scene._listeners.values())) == (before, (), False)


def test_c12_controls_are_made_anew_where_their_declaration_changes_and_keep_their_values() -> None:
    stage = Stage("desk/levels/tide")
    stage.control.value.current = 3
    kept = stage.controls["desk/levels/wind"]
    stage.node(".").notes = {"control": {"kind": "slider", "low": 0, "high": 6, "step": 0.5}}
    stage.scene["desk/orders/ballast"].remove()
    stage.controls.refresh()
    assert stage.controls["desk/levels/tide"].value.current == 3
    assert stage.controls["desk/levels/wind"] is kept
    assert "desk/orders/ballast" not in stage.controls
    stage.hand.click("desk/levels/tide", at=(0.99, 0.5))
    assert stage.controls["desk/levels/tide"].value.current == 6
    assert stage.control.value.current == 3
    with pytest.raises(glent.ControlError, match="is a Slider, expected a Button"):
        stage.controls.of(Button, "desk/levels/tide")
    stage.controls.detach()
    assert not stage.controls


# -- what goes, and where else it stands -------------------------------------------------------------------------------


def test_c2_a_node_that_goes_takes_its_control_along_and_leaves_nothing() -> None:
    stage = Stage("popups/harbour-menu")
    stage.do("click desk/bar/harbour")
    stage.do("move buoys")
    stage.do("wait 0.3")
    answer = stage.controls["notices/question"].ask("Anyone?", ("aye",))
    late = stage.controls["notices/question"].ask("And now?", ("aye",))
    stage.scene["popups/harbour-menu"].remove()
    stage.scene["notices/question"].remove()
    stage.router.settle()
    assert not stage.control.is_open
    assert [node.path for node in stage.scene.walk() if "moat" in node.name] == []
    assert answer.done
    assert (answer.choice, late.done, late.choice) == (None, True, None)
    settling = len(stage.scene._on_settle)
    for path in ("popups/signal-flags", "popups/tide-tip", "desk/papers/manifest/rows-bar"):
        stage.scene[path].remove()
    stage.router.settle()
    assert len(stage.scene._on_settle) == settling - 3
    stage.do("click desk/orders/lamp-row/signals")
    stage.do("move desk/levels/tide")
    stage.do("wait 1")
    assert stage.errors == []
    stage.do("click desk/bar/cargo")
    stage.scene["popups"].visible = False
    stage.router.settle()
    assert stage.see("open") == []


def test_c1_on_a_panel_in_the_world_a_ray_does_what_a_mouse_does() -> None:
    scene = glent.Scene((800, 600))
    table = scene.panel("table", (1.6, 1.2), (800, 600), position=(0, 1.2, -2), facing=(0, 0.2, 1))
    for name, top in (("tide", 50), ("cargo", 120), ("winch", 300)):
        table.add(name, place=glent.Place(50, top, width=200, height=40 if name != "winch" else 200))
    table["cargo"].role = "button"
    tide, winch = Slider(table["tide"]), Stick(table["winch"])
    menu = Menu(table.add("menu", place=glent.Place(width=200, height=120)), table["cargo"], gap=20)
    for name in ("weigh", "lash"):
        menu.node.add(name, role="menuitem", place=glent.Place(top=60 if name == "lash" else 0, height=60))
    chosen: list[str] = []
    menu.on("choose", chosen.append)
    router = glent.Router(scene, on_error=_raise)
    wand = Wand(router, (0.2, 1.6, 0.5))

    def aim(node: glent.Node, at: tuple[float, float], steps: int = 3) -> None:
        wand.aim(node, steps, at)

    aim(table["tide"], (0.25, 0.5))
    wand.press()
    aim(table["tide"], (1.6, 0.5))
    wand.release()
    assert tide.value.current == 100
    aim(table["winch"], (0.5, 0.5))
    wand.press()
    aim(table["winch"], (0.5, 2.0))
    assert winch.value.current == pytest.approx((0.0, 1.0))
    wand.release()
    assert winch.value.current == (0.0, 0.0)
    aim(table["cargo"], (0.5, 0.5))
    wand.press()
    wand.release()
    assert menu.is_open
    aim(table["menu/lash"], (0.9, 0.5), 8)
    wand.wait(0.5)
    assert menu.is_open
    aim(table, (0.95, 0.9), 4)
    wand.wait(0.5)
    assert not menu.is_open
    aim(table["cargo"], (0.5, 0.5))
    wand.press()
    wand.release()
    aim(table["menu/weigh"], (0.5, 0.5))
    wand.press()
    wand.release()
    assert chosen == ["weigh"]
