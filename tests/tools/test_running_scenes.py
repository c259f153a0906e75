"""What a tool shows is what the game does: files and code, with their controls and wires, in every command (law D1)."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
import yaml
from click.testing import CliRunner
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from glent import ControlError, PointerSample, Router, controls
from glent.cli import main
from glent.controls import Slider, controls_of
from glent.diagnose import pass_map, why
from glent.formats import Recording, read_scene, scene_from, write_recording
from glent.testing import Hand
from glent.wiring import Rehearsal, Wiring, wiring_of


def leaf(name: str, **more: Any) -> dict[str, Any]:
    return {"name": name, "place": {"height": 24}, **more}


ROWS = [leaf("one", role="option"), leaf("two", role="option")]
KINDS: dict[str, dict[str, Any]] = {
    "button": {},
    "toggle": {},
    "radiogroup": {"children": [leaf("ebb", role="radio"), leaf("flood", role="radio")]},
    "check-group": {"children": [leaf("lamp", role="checkbox"), leaf("horn", role="checkbox")]},
    "slider": {"control": {"low": 0, "high": 4}},
    "range-slider": {"control": {"low": 0, "high": 4}},
    "slider-row": {"control": {"low": 0, "high": 4, "start": [1, 2, 3]}},
    "progressbar": {},
    "stick": {},
    "scroll-area": {"content": [100, 400]},
    "scrollbar": {"control": {"area": "desk/scroll-area"}},
    "listbox": {"children": ROWS, "flow": {"kind": "column"}},
    "slots": {
        "control": {"columns": 1},
        "children": [leaf("hold-1", role="gridcell"), leaf("hold-2", role="gridcell")],
        "flow": {"kind": "column"},
    },
    "popup": {"control": {"opener": "desk/button"}, "solidity": "solid"},
    "menu": {
        "control": {"opener": "desk/toggle"},
        "flow": {"kind": "column"},
        "children": [leaf("weigh", role="menuitem"), leaf("moor", role="menuitem")],
    },
    "menubar": {"children": [leaf("file", role="menuitem")]},
    "dialog": {"solidity": "solid"},
    "tooltip": {"control": {"target": "desk/button"}},
    "tablist": {"children": [leaf("one", role="tab")]},
    "textbox": {},
    "screen-keys": {"control": {"rows": [["a", "b"]]}, "solidity": "solid"},
    "tool-window": {},
    "tree": {"children": [leaf("fore", role="treeitem"), leaf("aft", role="treeitem")], "flow": {"kind": "column"}},
    "combobox": {"control": {"popup": "desk/drop", "listbox": "desk/drop/names", "start": "two"}},
    "spinbutton": {},
}
"""One of each control that a file can declare, with the least it needs."""


def document(kinds: list[str]) -> dict[str, Any]:
    nodes = []
    for number, kind in enumerate(kinds):
        given = dict(KINDS[kind])
        control = {"kind": kind, **given.pop("control", {})}
        place = {"left": 10 + number % 5 * 155, "top": 10 + number // 5 * 115, "width": 140, "height": 100}
        nodes.append({"name": kind, "place": place, "control": control, **given})
    if "tablist" in kinds:
        nodes.append(leaf("one", role="tabpanel", solidity="glass"))
    if "combobox" in kinds:
        names = {"name": "names", "flow": {"kind": "column"}, "control": {"kind": "listbox"}, "children": ROWS}
        nodes.append(leaf("drop", children=[names]))
    return {"glent": "scene", "version": 2, "size": [800, 600], "layers": [{"name": "desk", "children": nodes}]}


@pytest.fixture
def desk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A file with one of each control, a program that builds the same, and a recording of a hand at it."""
    monkeypatch.chdir(tmp_path)
    monkeypatch.syspath_prepend(str(tmp_path))
    file = tmp_path / "desk.yaml"
    given = document(list(KINDS))
    given["layers"][0]["children"][0]["wiring"] = {"tells": {"act": "send-tug"}}
    given["layers"][0]["children"][list(KINDS).index("slider")]["wiring"] = {"values": {"value": "tide"}}
    file.write_text(yaml.safe_dump(given, sort_keys=False))
    package = tmp_path / f"game_{tmp_path.name.replace('-', '_')}"
    package.mkdir()
    (package / "__init__.py").touch()
    (package / "ui.py").write_text(
        "import glent\nfrom glent.formats import read_scene\nfrom glent.wiring import Wiring\n\n"
        "def build():\n    return read_scene('desk.yaml')\n\n"
        "def routed():\n    scene = build()\n    router = glent.Router(scene)\n    wiring = Wiring(scene)\n"
        "    wiring.on('send-tug', lambda: None)\n    return router\n\n"
        "class Game:\n    build = staticmethod(build)\n\n"
        "def broken():\n    return tugs[0]\n\nNUMBER = 3\n\ndef nothing():\n    return None\n"
    )
    router = Router(read_scene(file))
    Rehearsal(router)
    recording = Recording((800.0, 600.0))
    hand = Hand(router, tap=recording.add)
    for path in ("button", "toggle", "menu/weigh", "slider", "listbox/two", "tool-window/title"):
        if router.scene[f"desk/{path}"].is_visible:
            hand.click(f"desk/{path}")
    write_recording(recording, tmp_path / "hand.jsonl")
    return package


def told(*words: str, code: int = 0) -> Any:
    result = CliRunner().invoke(main, [*words, "--json"])
    assert result.exit_code == code, result.output
    return json.loads(result.stdout)


def test_d1_a_scene_with_each_control_is_shown_alike_from_a_file_and_from_code(desk: Path) -> None:
    assert set(KINDS) == set(controls._BUILT_IN)
    for words in (("tree",), ("map",), ("focus",), ("why", "60", "40"), ("replay", "hand.jsonl")):
        command, *rest = words
        shown = [
            told(command, source, *rest, code=int(command == "focus"))
            for source in ("desk.yaml", f"{desk.name}.ui:build", f"{desk.name}.ui:routed", f"{desk.name}.ui:Game.build")
        ]
        for one in shown:
            one.pop("orders", None) if isinstance(one, dict) else None
        assert shown[0] == shown[1] == shown[2] == shown[3], command
    rows = {row["path"]: row for row in told("tree", "desk.yaml")}
    assert rows["desk/button"]["role"] == "button"
    assert "hidden" in rows["desk/menu"]["notes"]
    played = told("replay", "desk.yaml", "hand.jsonl")
    assert played["orders"][0] == "told send-tug"
    assert played["orders"][-1].startswith("told tide: ")
    assert all(step["to"] != "world" for step in played["steps"])
    for name in ("desk.yaml", f"{desk.name}.ui:build"):
        result = CliRunner().invoke(main, ["timeline", name, "hand.jsonl", "--out", "line.png"])
        assert result.exit_code == 0, result.output


@pytest.mark.parametrize(
    ("name", "code", "says"),
    [
        ("ui:broken", 1, "in broken\n    return tugs[0]"),
        ("ui:nothing", 2, "returned None, expected a Scene or a Router"),
        ("ui:NUMBER", 2, "is 3, expected a callable"),
        ("ui:biuld", 2, "has no biuld; near is build"),
        ("gui:build", 2, "there is no module"),
    ],
)
def test_d1_a_program_that_builds_no_scene_says_why(desk: Path, name: str, code: int, says: str) -> None:
    result = CliRunner().invoke(main, ["map", f"{desk.name}.{name}"])
    assert (result.exit_code, says in result.output) == (code, True), result.output
    assert "scene_source" not in result.output


def test_d1_a_rehearsal_takes_what_the_program_has_made_and_stands_in_for_the_rest() -> None:
    scene = scene_from(document(["button", "toggle", "slider"]))
    does = [{"on": "act", "act": "toggle", "node": "desk/toggle"}]
    button, slider = scene["desk/button"], scene["desk/slider"]
    button.notes = {**button.notes, "wiring": {"tells": {"act": "go"}, "does": does}}
    slider.notes = {**slider.notes, "wiring": {"values": {"value": "tide"}}}
    wiring = Wiring(scene)
    heard: list[str] = []
    wiring.on("go", lambda: heard.append("go"))
    router = Router(scene)
    rehearsal = Rehearsal(router)
    assert rehearsal.wiring is wiring is wiring_of(scene)
    assert rehearsal.controls is wiring.controls is controls_of(scene)
    wiring.start()
    hand = Hand(router)
    hand.click("desk/button")
    hand.click("desk/slider", at=(0.99, 0.5))
    assert (heard, rehearsal.controls["desk/toggle"].value.current) == (["go"], True)
    assert rehearsal.orders == ["told tide: 4.0"]
    rehearsal.wire()
    hand.click("desk/button")
    assert rehearsal.orders[1:] == ["told go"]


def test_c11_a_node_has_one_control_until_that_is_detached() -> None:
    scene = scene_from(document(["slider"]))
    made = controls_of(scene)
    before = made["desk/slider"].value.current
    with pytest.raises(ControlError, match="desk/slider: is a Slider already"):
        Slider(scene["desk/slider"], low=0, high=9)
    made["desk/slider"].value.current = before + 1
    made["desk/slider"].detach()
    assert Slider(scene["desk/slider"], low=0, high=9).value.high == 9


@settings(max_examples=220, deadline=None, suppress_health_check=list(HealthCheck))
@given(
    st.lists(st.sampled_from(sorted(set(KINDS) - {"scrollbar", "popup", "menu", "tooltip"})), unique=True),
    st.integers(0, 799),
    st.integers(0, 599),
)
def test_d1_map_and_why_say_what_a_press_does(kinds: list[str], x: int, y: int) -> None:
    router = Router(scene_from(document(kinds)))
    Rehearsal(router)
    found = pass_map(router.scene)
    at = found.nodes[found.owners[y, x]] if found.owners[y, x] >= 0 else None
    hit = [one for one in why(router, x + 0.5, y + 0.5) if one.hit]
    first = next((one for one in hit if one.node.effective_solidity == "solid"), None)
    verdict = router.feed(PointerSample(1.0, "press", x + 0.5, y + 0.5))
    assert verdict.world == (at is None) == (first is None)
    assert at is None or (first is not None and first.node is at)
    assert verdict.owner is None or (at is not None and at.is_within(verdict.owner))


def test_i6_tools_show_what_is_declared_and_what_is_mirrored_under_its_keys(tmp_path, monkeypatch) -> None:
    monkeypatch.syspath_prepend(str(tmp_path))
    (tmp_path / "declared_ui.py").write_text(
        "import glent\nfrom types import SimpleNamespace as Widget\n"
        "from glent.immediate import Draft\nfrom glent.mirror import Mirror\n\n"
        "def build():\n    router = glent.Router(glent.Scene((400, 300)))\n"
        "    draft = Draft(router.scene.layer('tools', order=5))\n"
        "    with draft as now, now.window('tug', at=(20, 20)):\n        now.button('stop')\n"
        "    buoy = Widget(name='buoy', box=(300, 200, 50, 50), children=[])\n"
        "    Mirror(router.scene.layer('sea'), buoy, solidity=lambda one: 'solid')\n    return router\n"
    )
    paths = {one["path"] for one in told("tree", "declared_ui:build")}
    assert {"tools/tug/in/stop", "sea/buoy"} <= paths
    hits = [
        one["node"] for one in told("why", "declared_ui:build", "320", "220")["nodes"] if one["outcome"] == "offered"
    ]
    assert hits == ["sea/buoy"]
    assert {"tools/tug/in/stop", "sea/buoy"} <= told("map", "declared_ui:build")["pixels"].keys()
