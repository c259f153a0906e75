"""Law R7, G9 and D5: what code asks of a node is a sample: it goes where a player's would, and is recorded."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from desk import Desk
from glent import ActSample, KeySample, Node, Place, Reason, Router, SampleError, Scene, SceneError, TickSample, Value
from glent.controls import (
    Button,
    CheckGroup,
    Control,
    Dialog,
    Listbox,
    Menu,
    Progress,
    RadioGroup,
    RangeSlider,
    Slider,
    SliderRow,
    Stick,
    TextField,
    Toggle,
    ToolWindow,
)
from glent.formats import EventLog, Recording, log_rows, read_recording, replay, write_recording
from glent.testing import Hand

GIVEN: dict[str, Any] = {
    "activate": None, "set": 3, "step": 1, "open": None, "close": None, "show": None, "hold": None, "drag": (1.0, 2.0),
    "drag_onto": "l/b", "scroll": (0.0, 1.0), "pinch": (2.0, 0.0), "swipe": "left",
}  # fmt: skip
"""Every act, with a value that may go with it."""


def test_w4_activate_does_what_enter_does_and_leaves_focus_and_last_device_alone() -> None:
    desk = Desk(a={"role": "button", "hears": "activate click focus"}, b={"role": "button"})
    seat = desk.router.seat()
    desk.hand.click("l/b")
    before = (seat.focus, seat.last_kind, seat.focus_ring)
    desk.said()
    verdict = desk.router.activate(desk["a"])
    assert desk.said() == ["activate a", "click a"]
    assert (seat.focus, seat.last_kind, seat.focus_ring) == before
    assert (verdict.owner, verdict.world, verdict.reason) == (desk["a"], False, Reason.ASKED)
    assert verdict.why == "the activation was asked for, and l/a did it"
    desk["a"].on("activate", lambda event: event.take())
    desk.router.activate(desk["a"])
    assert desk.said() == ["activate a"], "who takes the activate has done it himself"


BARS: dict[str, tuple[Callable[[Desk], object], Reason, str]] = {
    "hidden": (
        lambda desk: setattr(desk["box"], "visible", False),
        Reason.UNABLE,
        "l/box, which it lies in, is hidden",
    ),
    "disabled": (lambda desk: setattr(desk["box/a"], "enabled", False), Reason.UNABLE, "l/box/a is disabled"),
    "ghost": (lambda desk: setattr(desk["box"], "solidity", "ghost"), Reason.UNABLE, "is a ghost"),
    "modal": (lambda desk: desk.scene.layer("ask", order=5, modal=True), Reason.MODAL, "ask is modal, so the "),
    "sliding": (lambda desk: setattr(desk.layer, "transition", "ignores"), Reason.TRANSITION, "l is in transition"),
    "another's": (lambda desk: setattr(desk["box"], "seats", ["two"]), Reason.UNABLE, "l/box is not for seat main"),
    "gone": (lambda desk: desk["box/a"].remove(), Reason.UNABLE, "no node at 'l/box/a'"),
}


@pytest.mark.parametrize("act", GIVEN)
@pytest.mark.parametrize("bar", BARS)
def test_g9_d5_an_act_is_refused_with_a_reason_where_a_player_could_not(act: str, bar: str) -> None:
    desk = Desk(box={}, b={"hears": "drop"})
    desk.router.add_seat("two")
    a = desk.add(
        "box/a", hears="activate click act hold drag drag_start pinch swipe scroll", role="button", scrolls=True
    )
    bring, reason, said = BARS[bar]
    bring(desk)
    if bar == "gone":
        verdict = desk.router.feed(ActSample(0.0, "l/box/a", act, GIVEN[act]))
    else:
        verdict = desk.router.act(a, act, GIVEN[act])
    assert (verdict.reason, verdict.owner, verdict.world) == (reason, None, False)
    assert said in verdict.why
    assert (desk.said(), desk.errors) == ([], [])


@pytest.mark.parametrize(
    ("act", "said"),
    [
        ("set", "refused: l/a has no value that can be set"),
        ("step", "refused: l/a has no value that goes by steps"),
        ("open", "refused: l/a has nothing that opens"),
        ("close", "refused: l/a has nothing that closes"),
        ("hold", "refused: l/a does not listen for a hold, nor does what it lies in"),
        ("drag", "refused: l/a does not listen for drags"),
        ("scroll", "refused: l/a does not scroll"),
    ],
)
def test_g9_an_act_that_nobody_does_is_refused(act: str, said: str) -> None:
    desk = Desk(a={"role": "button"})
    verdict = desk.router.act(desk["a"], act, GIVEN[act])
    assert (verdict.reason, verdict.owner) == (Reason.UNABLE, None)
    assert verdict.why.endswith(said)


@pytest.mark.parametrize(
    ("act", "value", "expected"),
    [
        ("press", None, "act is 'press', expected one of activate, set, step"),
        ("activate", 1, "value of activate is 1, expected None"),
        ("set", None, "value of set is None, expected a number, a text"),
        ("set", float("nan"), "value of set is nan"),
        ("set", (1.0, "a"), "expected a number, a text"),
        ("step", 0, "expected a whole number of steps, not 0"),
        ("step", 1.5, "expected a whole number of steps"),
        ("drag", (1.0,), "expected two numbers"),
        ("scroll", (1.0, float("inf")), "expected a finite number"),
        ("pinch", (0.0, 1.0), "expected a factor above zero"),
        ("swipe", "north", "expected one of left, right, up, down"),
        ("drag_onto", "", "expected the path of a node"),
    ],
)
def test_an_act_that_cannot_be_changes_nothing(act: str, value: Any, expected: str) -> None:
    desk = Desk(a={"role": "button", "hears": "activate click"})
    with pytest.raises(SampleError, match=expected):
        desk.router.act(desk["a"], act, value)
    with pytest.raises(SceneError, match="not in a scene that this router serves"):
        desk.router.act(Desk(a={})["a"], "activate")
    assert desk.said() == []


def test_r6_an_act_asked_for_in_a_handler_is_done_after_the_sample() -> None:
    desk = Desk(
        a={"box": (0, 0, 50, 50), "hears": "release click"}, b={"box": (50, 0, 9, 9), "hears": "activate click"}
    )
    asked = []
    desk["a"].on("press", lambda event: asked.append(desk.router.activate(desk["b"])))
    desk.hand.move("l/a")
    verdict = desk.hand.press()
    assert desk.said() == ["activate b", "click b"]
    assert verdict.inner == (asked[0],)
    assert asked[0].owner is desk["b"]


def boxed(layer: Node, name: str, *children: str, role: str | None = None, child: str | None = None) -> Node:
    """A node, and children of it with a role."""
    made = layer.add(name, role=role, place=Place(width=100, height=40))
    for number, one in enumerate(children):
        made.add(one, role=child, place=Place(top=number * 10, width=40, height=10))
    return made


def ask(router: Router, path: str, act: str, value: Any = None) -> str:
    """Ask for an act. Return why it was refused; empty: it was done."""
    verdict = router.act(router.scene[path], act, value)
    return "" if verdict.reason is Reason.ASKED else verdict.why.rpartition("refused: ")[2]


CONTROLS: dict[str, Callable[[Node], Control]] = {
    "tide": lambda on: Slider(boxed(on, "tide"), low=0, high=10, step=2, start=4),
    "depth": lambda on: RangeSlider(boxed(on, "depth"), low=0, high=100, start=(10, 20), apart=5),
    "row": lambda on: SliderRow(boxed(on, "row"), start=(1, 2, 3)),
    "lamp": lambda on: Toggle(boxed(on, "lamp")),
    "tug": lambda on: RadioGroup(boxed(on, "tug", "ann", "bea", child="radio")),
    "crates": lambda on: Listbox(boxed(on, "crates", "salt", "rope", child="option")),
    "checks": lambda on: CheckGroup(boxed(on, "checks", "oil", "tow", child="checkbox")),
    "sign": lambda on: TextField(boxed(on, "sign"), start="KELP", max_length=5, convert="upper"),
    "stick": lambda on: Stick(boxed(on, "stick")),
    "lever": lambda on: Stick(boxed(on, "lever"), springs=False),
    "load": lambda on: Progress(boxed(on, "load"), Value(0.5, low=0.0, high=1.0)),
}


@pytest.mark.parametrize(
    ("path", "act", "value", "refused", "after"),
    [
        ("tide", "set", 7.4, "", (8,)),
        ("tide", "step", -2, "", (0,)),
        ("tide", "step", 100, "", (10,)),
        ("tide", "set", "high", "l/tide was given 'high', expected a number", (4,)),
        ("depth", "set", (80, 90), "", (80, 90)),
        ("depth", "set", (1, 6), "", (1, 6)),
        ("depth", "set", 4, "l/depth has 2 values and was given 4", (10, 20)),
        ("depth/low", "set", 50, "", (15, 20)),
        ("depth/high", "step", 3, "", (10, 23)),
        ("row", "set", [7, 8, 9], "", (7, 8, 9)),
        ("row/1", "set", 50, "", (1, 50, 3)),
        ("lamp", "set", True, "", (True,)),
        ("lamp", "activate", None, "", (True,)),
        ("lamp", "set", "mixed", "l/lamp was given 'mixed', expected True or False", (False,)),
        ("tug", "set", "bea", "", ("bea",)),
        ("tug", "set", "bee", "no item 'bee' that shows and is enabled, expected one of ann, bea; near is bea", ()),
        ("crates", "set", ("salt",), "", (("salt",),)),
        ("crates", "set", ("salt", "rope"), "expected one name at most", ((),)),
        ("checks", "set", ["oil", "tow"], "", (("oil", "tow"),)),
        ("sign", "set", "fog", "", ("FOG",)),
        ("sign", "set", "", "", ("",)),
        ("sign", "set", "far too long", "l/sign does not take 'OO LONG'", ("KELP",)),
        ("stick", "set", (1.0, 0.0), "springs back", ((0.0, 0.0),)),
        ("lever", "set", (0.5, 0.0), "", ((0.5, 0.0),)),
        ("load", "set", 1.0, "l/load has no value that can be set", (0.5,)),
    ],
)
def test_c2_a_control_is_set_by_the_rules_of_a_player(
    path: str, act: str, value: Any, refused: str, after: tuple[Any, ...]
) -> None:
    desk = Desk()
    control = CONTROLS[path.partition("/")[0]](desk.layer)
    told = ask(desk.router, f"l/{path}", act, value)
    assert refused in told
    assert bool(told) == bool(refused)
    assert tuple(one.current for one in control.values.values() if one.ready) == after
    assert not desk.errors


def test_c2_what_opens_and_closes_does_so_when_asked() -> None:
    desk = Desk()
    layer, router = desk.layer, desk.router
    opener = boxed(layer, "opener", role="button")
    Button(opener)
    menu = Menu(boxed(layer, "menu", "cast-off", child="menuitem"), opener)
    chart = ToolWindow(boxed(layer, "chart"))
    ToolWindow(boxed(layer, "fixed"), close_button=False)
    for path, act, shows in (
        ("l/opener", "open", True), ("l/menu", "close", False), ("l/menu", "open", True), ("l/opener", "close", False),
        ("l/chart", "close", False), ("l/chart", "open", True),
    ):  # fmt: skip
        assert ask(router, path, act) == ""
        assert (chart.node if path == "l/chart" else menu.node).visible == shows
    menu.node["cast-off"].visible = False
    assert ask(router, "l/menu", "open") == "l/menu has no item that shows, so it does not open"
    assert ask(router, "l/fixed", "close") == "l/fixed has no button to close it"


def test_c10_a_dialog_is_closed_as_by_back_and_answered_by_its_buttons() -> None:
    desk = Desk()
    dialog = Dialog(boxed(desk.layer, "dialog"))
    first = dialog.ask("Let go?", ["yes", "no"], cancel="no")
    assert ask(desk.router, "l/dialog", "close") == ""
    assert first.choice == "no"
    second = dialog.ask("Sure?", ["yes"])
    assert ask(desk.router, "l/dialog", "close") == "l/dialog has nothing that closes"
    assert ask(desk.router, "l/dialog/choices/choice-0", "activate") == ""
    assert second.choice == "yes"


def test_m2_a_popup_without_a_control_closes_as_by_back() -> None:
    desk = Desk(pop={"closed_by": "any", "hears": "back"}, stays={"closed_by": "any"})
    desk["stays"].on("back", lambda event: event.take())
    assert desk.router.act(desk["pop"], "close").reason is Reason.ASKED
    assert not desk["pop"].visible
    assert "l/stays stays open" in desk.router.act(desk["stays"], "close").why
    assert desk.data("cause") == ["code"]


def test_g4_show_scrolls_a_node_into_view() -> None:
    desk = Desk(area={"scrolls": True, "clips": True, "box": (0, 0, 100, 50)})
    far = desk.add("area/far", (0, 300, 20, 20), role="button")
    assert desk.router.act(far, "show").owner is far
    assert desk["area"].scroll == (0.0, 270.0)
    assert desk.router.seat().focus is None


def test_r7_what_code_asks_for_is_in_the_recording_and_replays_byte_for_byte(tmp_path: Path) -> None:
    def board() -> tuple[Router, list[str]]:
        scene = Scene(size=(200, 200))
        layer = scene.layer("l")
        told: list[str] = []
        slider = Slider(layer.add("tide", place=Place(width=100, height=20)), low=0, high=10, step=1, start=0)
        slider.value.watch(lambda now: told.append(f"tide {now:g}"))
        Button(layer.add("horn", place=Place(top=40, width=100, height=20)), lambda: told.append("horn"))
        layer.add("follow", role="button", place=Place(top=80, width=100, height=20)).on(
            "click", lambda event: router.act(scene["l/tide"], "step", 1)
        )
        names = RadioGroup(layer.add("tugs", place=Place(top=120, width=100, height=20)))
        names.node.add("ann", role="radio")
        names.value.watch(told.append)
        router = Router(scene)
        return router, told

    router, told = board()
    recording = Recording(router.scene.window)
    following = recording.follow(router)
    hand = Hand(router)
    assert router.activate(router.scene["l/horn"]).owner is not None, "before the first sample as well"
    hand.click("l/follow")
    router.act(router.scene["l/tide"], "set", 7)
    router.act(router.scene["l/tugs"], "set", "ann")
    router.scroll(router.scene["l/tide"], 1.0, 2.0)
    router.tick(hand.time + 1.0)
    following.stop()
    following.stop()
    hand.click("l/horn")
    assert told == ["tide 0", "horn", "tide 1", "tide 7", "ann", "horn"]
    acts = [sample for sample in recording.samples if isinstance(sample, ActSample)]
    assert [(one.act, one.value) for one in acts] == [
        ("activate", None),
        ("set", 7),
        ("set", "ann"),
        ("scroll", (1, 2)),
    ]
    assert not any(isinstance(sample, TickSample) for sample in recording.samples), "a tick that sends nothing"
    file, again = tmp_path / "one.jsonl", tmp_path / "two.jsonl"
    write_recording(recording, file)
    write_recording(read_recording(file), again)
    assert file.read_bytes() == again.read_bytes()
    fresh, heard = board()
    steps = list(replay(fresh, read_recording(file)))
    assert heard == told[:-1], "what a handler asked for comes of itself, and once"
    assert [step.action for step in steps] == ["activate", "move", "press", "release", "set", "set", "scroll"]
    logs = [EventLog(None, log_rows(replay(board()[0], read_recording(file)))).lines() for _ in range(2)]
    assert logs[0] == logs[1]


def test_d4_watching_changes_nothing_and_an_error_of_it_is_told() -> None:
    logs = []
    for watches in (False, True):
        desk = Desk(a={"role": "button", "hears": "enter leave press release click move"})
        if watches:
            desk.router.watch(lambda sample, verdict: 1 / 0)
        for x in range(0, 120, 3):
            desk.hand.move((float(x), 50.0))
        desk.hand.click("l/a")
        desk.router.tick(desk.hand.time + 1.0)
        logs.append([(event.kind, event.time, event.pos) for event in desk.events])
        assert len(desk.errors) == (44 if watches else 0)
    assert logs[0] == logs[1]


SWITCH = st.booleans()
BOXES = st.fixed_dictionaries({"modal": SWITCH, "visible": SWITCH, "enabled": SWITCH, "ghost": SWITCH, "mine": SWITCH})


Told = tuple[dict[str, bool], dict[str, bool], bool]
"""A layer with a box, a button in that, and whether it is in transition."""


@settings(max_examples=300, deadline=None)
@given(layers=st.lists(st.tuples(BOXES, BOXES, st.booleans()), min_size=1, max_size=3))
def test_w4_an_act_is_done_just_where_enter_could_be(
    layers: list[tuple[dict[str, bool], dict[str, bool], bool]],
) -> None:
    def built() -> tuple[Scene, Router, list[tuple[str, str]]]:
        scene = Scene(size=(100, 100))
        told: list[tuple[str, str]] = []
        for number, (outer, inner, slides) in enumerate(layers):
            layer = scene.layer(f"l{number}", order=number, visible=outer["visible"])
            layer.transition = "ignores" if slides else None
            box = layer.add(
                "box", modal=outer["modal"], enabled=outer["enabled"], seats=None if outer["mine"] else ["two"]
            )
            box.solidity = "ghost" if outer["ghost"] and inner["ghost"] else None
            node = box.add("go", role="button", visible=inner["visible"], enabled=inner["enabled"])
            for kind in ("activate", "click"):
                node.on(kind, lambda event: told.append((event.kind, event.node.path)))
        return scene, Router(scene), told

    tops = [
        number
        for number, (outer, inner, _) in enumerate(layers)
        if outer["modal"] and outer["visible"] and outer["mine"] and not (outer["ghost"] and inner["ghost"])
    ]
    for number in range(len(layers)):
        scene, router, by_key = built()
        node = scene[f"l{number}/box/go"]
        try:
            router.seat().set_focus(node, True)
        except SceneError:
            can = False
        else:
            router.feed(KeySample(1.0, "down", "Enter"))
            can = router.feed(KeySample(1.1, "up", "Enter")).owner is node
        scene, router, by_act = built()
        verdict = router.activate(scene[f"l{number}/box/go"])
        if tops and number > tops[-1] and verdict.reason is Reason.ASKED:
            continue  # in front of the modal: it has no keys, and could be pressed
        assert (verdict.reason is Reason.ASKED) == can, verdict.why
        assert by_act == by_key


@pytest.mark.parametrize("due", [4.9, float("nan"), float("inf"), "soon", None, True])
def test_r7_a_timer_is_due_at_a_time_that_has_not_passed(due: object) -> None:
    desk = Desk(a={"role": "button"})
    desk.router.tick(5.0)
    with pytest.raises(SampleError, match="at: "):
        desk.router.at(due, lambda time: None)
    desk.router.at(5.0, lambda time: None)
