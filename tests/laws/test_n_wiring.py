"""The laws of names between UI and game: what is wired works without glue, and what does not fit is said at start."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

import glent
from glent.formats import FileError, read_contract, read_scene, scene_document, scene_from, write_contract, write_scene
from glent.formats.text import parse
from glent.testing import Hand
from glent.wiring import COMMANDS, TYPES, Wiring, WiringError


def scene_of(*nodes: dict[str, Any]) -> glent.Scene:
    placed = [
        {"place": {"left": 10, "top": 10 + 60 * number, "width": 200, "height": 50}, **node}
        for number, node in enumerate(nodes)
    ]
    document = {"glent": "scene", "version": 2, "size": [800, 600], "layers": [{"name": "hud", "children": placed}]}
    return scene_from(document)


def wired(*nodes: dict[str, Any]) -> tuple[Hand, Wiring]:
    scene = scene_of(*nodes)
    router = glent.Router(scene, on_error=_raise)
    return Hand(router, start=1.0), Wiring(scene)


def _raise(error: Exception, event: object) -> None:
    raise AssertionError(repr(error)) from error


def button(name: str, **wiring: Any) -> dict[str, Any]:
    return {"name": name, "role": "button", "control": {"kind": "button", "argument": name}, "wiring": wiring}


TIDE = {"name": "tide", "role": "slider", "control": {"kind": "slider", "low": 0, "high": 4, "step": 0.5, "start": 1}}


def test_n1_events_go_out_values_both_ways_commands_in() -> None:
    hand, wiring = wired(
        button("horn", tells={"act": "sound-horn", "hold": "long-horn"}),
        {**TIDE, "wiring": {"values": {"value": "tide"}, "commands": {"set": "set-tide", "disable": "lock-tide"}}},
        {
            "name": "fog",
            "solidity": "solid",
            "wiring": {"commands": {"hide": "lift-fog"}, "tells": {"click": "poke-fog"}},
        },
    )
    heard: list[Any] = []
    harbour = glent.Value(50, low=0, high=100)
    wiring.on("sound-horn", heard.append)
    wiring.on("long-horn", lambda: heard.append("long"))
    wiring.on("poke-fog", lambda: heard.append("poked"))
    wiring.bind("tide", harbour, forward=lambda n: n / 25, inverse=lambda m: m * 25)
    set_tide, lock, lift = (wiring.command(name) for name in ("set-tide", "lock-tide", "lift-fog"))
    wiring.start()
    tide = wiring.controls["hud/tide"].value
    assert tide.current == 2
    hand.click("hud/horn")
    hand.click("hud/fog")
    hand.click("hud/tide", at=(0.99, 0.5))
    assert (heard, harbour.current) == (["horn", "poked"], 100)
    harbour.current = 25  # a change from the game shows at once
    assert tide.current == 1
    assert wiring.scene["hud/tide/thumb"].edges[0] == pytest.approx(46)
    set_tide(1.4)
    lift()
    lock()
    assert (harbour.current, wiring.scene["hud/fog"].visible, wiring.scene["hud/tide"].enabled) == (37.5, False, False)
    with pytest.raises(WiringError, match=r"hud/tide: set was given 'high', expected number"):
        set_tide("high")
    with pytest.raises(WiringError, match=r"hud/fog: hide was given 3, expected nothing"):
        lift(3)
    wiring.detach()
    hand.click("hud/horn")
    assert heard == ["horn", "poked"]


@pytest.mark.parametrize(("does", "target", "after"), [
    ({"act": "show"}, {"visible": False}, {"visible": True}),
    ({"act": "hide"}, {}, {"visible": False}),
    ({"act": "toggle"}, {}, {"visible": False}),
    ({"act": "enable"}, {"enabled": False}, {"enabled": True}),
    ({"act": "disable"}, {}, {"enabled": False}),
    ({"act": "open"}, {"control": {"kind": "popup"}}, {"visible": True}),
    ({"act": "close"}, {"control": {"kind": "tool-window"}}, {"visible": False}),
    ({"act": "toggle"}, {"role": "switch", "control": {"kind": "toggle"}}, {"value": True}),
    ({"act": "toggle"}, {"control": {"kind": "popup"}}, {"visible": True}),
    ({"act": "set", "with": 3.2}, TIDE, {"value": 3.0}),
    ({"act": "set", "with": "dawn"}, {"control": {"kind": "textbox"}}, {"value": "dawn"}),
    ({"act": "set"}, {"control": {"kind": "textbox"}}, {"value": "lever"}),
    ({"act": "set", "with": ["a"]}, {"control": {"kind": "listbox"}}, {"value": ("a",)}),
    ({"act": "set", "with": [0.5, 1]}, {"control": {"kind": "stick"}}, {"value": (0.5, 1)}),
])  # fmt: skip
def test_n2_common_acts_need_no_code(does: dict[str, Any], target: dict[str, Any], after: dict[str, Any]) -> None:
    lever = button("lever", does=[{"on": "act", "node": "hud/goal", **does}])
    hand, wiring = wired(lever, {**target, "name": "goal"})
    wiring.start()
    hand.click("hud/lever")
    goal = wiring.scene["hud/goal"]
    seen = {key: getattr(goal, key) if key != "value" else wiring.controls["hud/goal"].value.current for key in after}
    assert seen == after


def test_n2_one_thing_leads_to_another_and_is_told() -> None:
    follow = {"on": "change", "act": "set", "node": "hud/copy"}
    alarm = {"on": "change", "act": "tell", "name": "tide-moved"}
    fixed = {"on": "drag_end", "act": "tell", "name": "let-go-of-tide", "with": 7}
    hand, wiring = wired(
        {**TIDE, "wiring": {"does": [follow, alarm, fixed]}},
        {**TIDE, "name": "copy", "control": {**TIDE["control"], "start": 0.5}},
    )
    heard: list[Any] = []
    wiring.on("tide-moved", heard.append)
    wiring.on("let-go-of-tide", heard.append)
    wiring.start()
    assert (heard, wiring.controls["hud/copy"].value.current) == ([], 0.5)  # nothing has happened yet
    hand.drag(hand.point("hud/tide", (0.3, 0.5)), hand.point("hud/tide", (0.52, 0.5)), steps=1)
    assert heard == [2.0, 7]
    assert wiring.controls["hud/copy"].value.current == 2


def kinds(wiring: Wiring) -> list[str]:
    return [problem.kind for problem in wiring.problems()]


def test_n3_what_does_not_fit_is_said_at_start_with_both_places() -> None:
    horn = button("horn", tells={"act": "sound-horn"})
    gong, bell = button("gong", tells={"act": "sound-horn"}), button("bell", tells={"act": "tide"})
    tide = {**TIDE, "wiring": {"values": {"value": "tide"}}}
    here = Path(__file__).name
    _, wiring = wired(horn, {**horn, "name": "copy"}, gong, tide)
    wiring.on("sound-hron", print)
    wiring.bind("tide", glent.Value("high"))
    wiring.command("sound-horn")
    with pytest.raises(WiringError) as caught:
        wiring.start()
    lines = str(caught.value).splitlines()
    assert lines[0] == (
        "sound-horn: stands at hud/horn and, wired alike in all, at hud/copy: one is a copy of the other;"
        " expected another name, or both to be shared"
    )
    assert lines[1].startswith("sound-horn: stands at hud/horn and at hud/gong; expected another name")
    assert lines[2].startswith(f"sound-hron: is bound at {here}:")
    assert lines[2].endswith("and no node of the scene has it; near is sound-horn, of hud/horn, hud/copy, hud/gong")
    assert lines[3].startswith(f"tide: is text at {here}:")
    assert lines[3].endswith(", and number at hud/tide")
    assert lines[4].startswith(f"sound-horn: is bound as command at {here}:")
    assert lines[4].endswith(", and is event of hud/horn, hud/copy, hud/gong")
    assert kinds(wiring) == ["copied along", "doubled", "unknown", "wrong type", "wrong type"]
    assert all(len(problem.places) >= 2 for problem in caught.value.problems if problem.kind != "unknown")
    _, wiring = wired(tide, bell)
    assert str(wiring.problems()[0]) == "tide: is value of hud/tide and event of hud/bell, expected one of the two"
    asks = button("asks", tells={"act": {"name": "ask-pilot", "request": True}})
    _, wiring = wired(asks)
    assert str(wiring.problems()[0]) == "ask-pilot: is asked for by hud/asks, and nothing in the game binds it"
    empty = {"name": "depth", "control": {"kind": "progressbar"}, "wiring": {"values": {"value": "depth"}}}
    _, wiring = wired(empty)
    wiring.bind("depth", glent.Value())
    (waiting,) = wiring.start()
    assert (waiting.kind, waiting.places) == ("not ready", ("hud/depth",))
    _, wiring = wired(horn, tide)
    assert kinds(wiring) == ["unbound", "unbound"]
    assert str(wiring.problems()[0]) == "sound-horn: is told by hud/horn, and nothing in the game binds it"


def test_n3_what_is_shared_is_shared_by_all_and_of_one_type() -> None:
    shared = {"act": {"name": "send", "shared": True}}
    _, wiring = wired(button("a", tells=shared), button("b", tells=shared))
    heard: list[Any] = []
    wiring.on("send", heard.append)
    wiring.start()
    other = {**button("c", tells=shared), "control": {"kind": "button", "argument": 3}}
    _, wiring = wired(button("a", tells=shared), other, button("d", tells={"act": "send"}))
    wiring.on("send", heard.append)
    assert kinds(wiring) == ["wrong type", "doubled"]


IMPOSSIBLE = [
    (button("x", tells={"hoot": "a"}), "hud/x: found 'hoot' for a Button; expected"),
    (button("x", tells={"clik": "a"}), "hud/x: found 'clik' for a Button; expected click"),
    (button("x", values={"value": "a"}), "hud/x: found 'value' for a Button; expected "),
    (button("x", commands={"set": "a"}), "hud/x: found 'set' for a Button; expected show, hide, toggle"),
    ({"name": "x", "wiring": {"commands": {"open": "a"}}},
     "hud/x: found 'open' for a node without a control; expected"),
    (button("x", does=[{"on": "act", "act": "set", "node": "hud/tide", "with": "high"}]),
     "hud/x: sets hud/tide to 'high', expected number"),
    (button("x", does=[{"on": "act", "act": "set", "node": "hud/tide"}]),
     "hud/x: sets hud/tide to text, expected number"),
    (button("x", does=[{"on": "act", "act": "open", "node": "hud/tide"}]),
     "hud/x: cannot do it: hud/tide: found 'open' for a Slider; expected show, hide, toggle, enable, disable, set"),
]  # fmt: skip


@pytest.mark.parametrize(("node", "words"), IMPOSSIBLE, ids=[words for _, words in IMPOSSIBLE])
def test_n4_what_a_file_wires_that_cannot_be_is_refused_with_its_path(node: dict[str, Any], words: str) -> None:
    with pytest.raises(FileError) as caught:
        scene_of(node, TIDE)
    assert words in str(caught.value)
    scene = scene_of(TIDE)
    scene["hud"].add("x").notes = {key: node[key] for key in ("control", "wiring") if key in node}
    with pytest.raises(WiringError) as again:  # and so it is if code notes it
        Wiring(scene)
    assert words in str(again.value)


@pytest.mark.parametrize(
    ("noted", "words"),
    [
        (3, "wiring is noted as 3, expected a mapping with any of tells, values, commands, does"),
        ({"tell": {}}, "wiring has 'tell', expected any of tells"),
        ({"tells": "horn"}, "tells is 'horn', expected names"),
        ({"commands": {"hide": {"shared": True}}}, "commands is {'hide': {'shared': True}}, expected names"),
        ({"does": [3]}, "does is [3], expected a list of mappings"),
        ({"does": [{"on": "click", "act": "sing", "node": "hud"}]}, "found 'sing' for a node without a control"),
        ({"does": [{"on": "click", "act": "hide", "node": "hud/no"}]}, "does hide to 'hud/no'"),
    ],
)
def test_n4_what_code_notes_out_of_shape_is_refused(noted: Any, words: str) -> None:
    scene = scene_of({"name": "x"})
    scene["hud/x"].notes = {"wiring": noted}
    with pytest.raises(WiringError) as caught:
        Wiring(scene)
    assert words in str(caught.value)
    assert caught.value.problems[0].places[0] == "hud/x"
    scene["hud/x"].notes = {"control": noted if noted != 3 else "slider"}
    with pytest.raises(glent.ControlError, match="hud/x: "):
        Wiring(scene)


FILES = [
    (parse(node.encode(), 'node', '.yaml'), stood, possible)
    for node, stood, possible in (
        ("control: {kind: slidr}", "found 'slidr'", "expected one of button, toggle, radiogroup"),
        ("{role: button, control: {kind: slider}}", "role is 'button' and", "no role or slider"),
        ("control: {kind: slider, low: 3, high: 3}", "low is 3.0 and high 3.0", "low below high"),
        ("control: {kind: slider, hue: red}", "found an unknown key with 'red'", "expected one of kind, low, high"),
        (
            "control: {kind: scrollbar, area: hud/no}",
            "control.area (node hud/x): found 'hud/no'",
            "expected the path of a node",
        ),
        ("control: {kind: scrollbar, area: hud}", "hud does not scroll", "expected a node that does"),
        ("control: {kind: textbox, allowed: '['}", "allowed is '['", "not a regular expression"),
        ("control: {kind: screen-keys, rows: [[{does: sing}]]}", "found 'sing'", "'type', 'shift'"),
        ("control: {kind: screen-keys, rows: [[{does: clear, text: a}]]}", "the text 'a'", "text to type only"),
        ("control: {kind: tablist}", "the tabs are none and the panels none", "expected a panel for each tab"),
        ("control: {kind: slots, columns: 0}", "found 0", "greater than or equal to 1"),
        ("control: {kind: menu, opener: hud, above: hud}", "above is hud", "a node with a control of kind menu"),
        ("{control: {kind: slots, columns: 2, items: {a9: rope}}, children: [{name: a1, role: gridcell}]}",
         "there is no slot 'a9'", "expected one of a1"),
        ("wiring: {commands: {explode: a}}", "found", "'show', 'hide'"),
        ("wiring: {does: [{on: click, act: show}]}", "found a mapping", "expected node with show, and no name"),
        ("wiring: {does: [{on: click, act: tell, node: hud}]}", "found a", "expected name with tell, and no node"),
        ("wiring: {does: [{on: click, act: hide, node: hud, with: 3}]}", "found a", "expected no 'with' for hide"),
        (
            "wiring: {does: [{on: click, act: hide, node: hud/no}]}",
            "wiring.does[0].node (node hud/x): found 'hud/no'",
            "near is hud",
        ),
        ("wiring: {tell: {}}", "found an unknown key", "expected one of tells, values, commands, does"),
    )
]  # fmt: skip


@pytest.mark.parametrize(("node", "stood", "possible"), FILES, ids=[stood + possible for _, stood, possible in FILES])
def test_n4_whatever_a_scene_file_gets_wrong_is_refused(node: dict[str, Any], stood: str, possible: str) -> None:
    with pytest.raises(FileError) as caught:
        scene_of({"name": "x", **node})
    message = str(caught.value)
    assert stood in message
    assert possible in message
    assert "layers[0]" in message or "hud" in message


def test_n5_a_contract_is_saved_read_and_compared(tmp_path: Path) -> None:
    from glent.demo import GALLERY

    wiring = Wiring(read_scene(GALLERY))
    contract = wiring.contract()
    assert contract["send-tug"].kind == "request"
    assert contract["send-tug"].paths == ("desk/orders/tugs/anchovy", "desk/orders/tugs/bramble")
    assert {end.type for end in contract} <= set(TYPES)
    write_contract(contract, tmp_path / "contract.json")
    assert read_contract(tmp_path / "contract.json") == contract
    hand_made = json.loads((tmp_path / "contract.json").read_text())
    hand_made["ends"] = [end for end in hand_made["ends"] if end["name"] != "tide"]
    hand_made["ends"][0].update(kind="value", type="number")
    (tmp_path / "old.json").write_text(json.dumps(hand_made))
    changes = contract.changes_since(read_contract(tmp_path / "old.json"))
    assert changes == ["ask-pilot is event of nothing, and was value of number", "tide is new: value of number"]
    for change, place in (
        ({"ends": [[]]}, r"ends\[0\]"),
        ({"ends": [{"name": "a", "kind": "way", "type": "any", "paths": ["b"]}]}, r"ends\[0\]\.kind"),
        ({"ends": [{"name": "a", "kind": "event", "type": "any", "paths": "abc"}]}, r"ends\[0\]\.paths"),
        ({"ends": [{"name": "a", "kind": "event", "type": 5, "paths": ["b"]}]}, r"ends\[0\]\.type"),
        ({"ends": [{"name": "a", "kind": "event", "type": "anny", "paths": ["b"]}]}, "expected one of nothing, bool"),
        ({"ends": 2 * [hand_made["ends"][0]]}, r"ends\[1\]\.name: found 'ask-pilot' twice"),
        ({"version": 1}, "version"),
    ):
        (tmp_path / "bad.json").write_text(json.dumps({**hand_made, **change}))
        with pytest.raises(FileError, match=place):
            read_contract(tmp_path / "bad.json")
    with pytest.raises(FileError, match=r"no-such\.json: cannot be read"):
        read_contract(tmp_path / "no-such.json")
    with pytest.raises(KeyError):
        contract["no-such"]


def test_n5_controls_and_wiring_are_kept_by_files(tmp_path: Path) -> None:
    from glent.demo import GALLERY

    scene = read_scene(GALLERY)
    for suffix in ("json", "yaml"):
        write_scene(scene, tmp_path / f"gallery.{suffix}")
        again = read_scene(tmp_path / f"gallery.{suffix}")
        assert scene_document(again) == scene_document(scene)
        assert Wiring(again).contract() == Wiring(read_scene(GALLERY)).contract()
    assert set(COMMANDS) >= {"show", "hide", "set", "enable"}
