"""Patterns of scene files: what they become, how they are refused, and that they stay as they stood (laws D3, T5)."""

from __future__ import annotations

import json
import random
from pathlib import Path
from typing import Any

import jsonschema
import pytest
import yaml
from hypothesis import given, settings
from hypothesis import strategies as st

from glent.formats import FileError, read_scene, reload_scene, scene_document, scene_from, write_scene
from glent.formats.schema import scene_schema
from strategies import scenes

FILE = """\
glent: scene
version: 2
size: [800, 400]
patterns:
  key:
    takes: [letter]
    usual: {width: 40}
    name: key-{letter}
    role: button
    place: {width: "{width}", height: 40}
    facts: {text: "{letter}", hint: "type {letter} {{now}}"}
    control: {kind: button, argument: "{letter}"}
  row:
    takes: [letters, number]
    name: row-{number}
    flow: {kind: row}
    children:
    - {use: key, each: "{letters}"}
    - {name: end}
  slot: {takes: [number], name: "slot-{number}", role: gridcell}
layers:
- name: desk
  children:
  - name: keys  # the keyboard
    children:
    - {use: row, each: [{letters: [a, b], number: 1}, {letters: [c], number: 2}]}
    - {use: key, with: {letter: space, width: 200}, name: space, facts: {colour: red}, children: [{name: light}]}
  - name: hold
    children:
    - {use: slot, count: 3}
    - {name: more}
"""


def key(letter: str, **more: Any) -> dict[str, Any]:
    return {
        "name": f"key-{letter}", "role": "button", "place": {"width": 40, "height": 40},
        "facts": {"text": letter, "hint": f"type {letter} {{now}}"}, "control": {"kind": "button", "argument": letter},
        **more,
    }  # fmt: skip


def row(number: int, *letters: str) -> dict[str, Any]:
    return {"name": f"row-{number}", "flow": {"kind": "row"}, "children": [*map(key, letters), {"name": "end"}]}


WRITTEN_OUT = {
    "glent": "scene", "version": 2, "size": [800, 400],
    "layers": [{"name": "desk", "children": [
        {"name": "keys", "children": [
            row(1, "a", "b"), row(2, "c"),
            key("space", name="space", place={"width": 200, "height": 40}, children=[{"name": "light"}],
                facts={"text": "space", "hint": "type space {now}", "colour": "red"}),
        ]},
        {"name": "hold", "children": [
            *({"name": f"slot-{n}", "role": "gridcell"} for n in (1, 2, 3)), {"name": "more"},
        ]},
    ]}],
}  # fmt: skip


def changed(file: Path, before: str) -> set[str]:
    return set(file.read_text().splitlines()) ^ set(before.splitlines())


@pytest.mark.parametrize("suffix", ["yaml", "json"])
def test_d3_a_scene_by_patterns_is_the_scene_written_out_and_stays_as_it_stood(tmp_path: Path, suffix: str) -> None:
    file = tmp_path / f"desk.{suffix}"
    text = FILE if suffix == "yaml" else json.dumps(yaml.safe_load(FILE), indent=1)
    file.write_text(text)
    jsonschema.Draft202012Validator(scene_schema()).validate(yaml.safe_load(FILE))
    scene = read_scene(file)
    assert scene_document(scene) == scene_document(scene_from(WRITTEN_OUT))
    write_scene(scene, file)
    assert file.read_text() == text
    scene["desk/hold/more"].order = 3
    write_scene(scene, file)
    assert len(changed(file, text)) == (2 if suffix == "yaml" else 3)
    scene["desk/keys/row-1/key-b"].facts["text"] = "B"
    scene["desk/hold"].add("last")
    scene["desk/keys/space"].order = 1
    write_scene(scene, file)
    assert scene_document(read_scene(file)) == scene_document(scene)
    assert "count" in file.read_text(), "uses whose nodes are as they were stay"
    assert '"{letters}"' in file.read_text().replace("'", '"'), "and so do the patterns"
    assert "slot-3" not in file.read_text()


def test_t5_a_pattern_that_changes_changes_its_nodes_where_it_is_used(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(FILE)
    scene = read_scene(file)
    scene["desk/hold/slot-2"].facts["text"] = "crate"
    file.write_text(FILE.replace("role: gridcell}", "role: gridcell, clips: true}").replace("count: 3", "count: 4"))
    done = reload_scene(scene, file)
    assert done.changed == ("desk/hold/slot-1", "desk/hold/slot-2", "desk/hold/slot-3")
    assert (done.added, done.removed) == (("desk/hold/slot-4",), ())
    assert scene["desk/hold/slot-2"].facts == {"text": "crate"}
    assert [child.name for child in scene["desk/hold"].children] == ["slot-1", "slot-2", "slot-3", "slot-4", "more"]


AT_SPACE = "layers[0].children[0].children[1]"
AT_ROWS = "layers[0].children[0].children[0]"


@pytest.mark.parametrize(
    ("old", "new", "place", "words"),
    [
        (
            "use: slot",
            "use: slott",
            "layers[0].children[1].children[0].use",
            "found 'slott'; expected the name of a pattern; near is slot",
        ),
        ("use: slot", "use: [1]", "layers[0].children[1].children[0].use", "expected the name of a pattern"),
        ("letter: space, ", "", AT_SPACE, "gives no letter; expected what key takes"),
        (
            "letter: space,",
            "letter: space, colour: 1,",
            f"{AT_SPACE}.with",
            "found colour; expected parameters of key: letter, width",
        ),
        ("with: {letter: space, width: 200}", "with: 3", f"{AT_SPACE}.with", "found 3; expected a mapping"),
        (
            "usual: {width: 40}",
            "usual: {width: 40, tall: 1}",
            "patterns.key.usual",
            "found tall; expected it to be used in the pattern",
        ),
        ("takes: [letter]", "takes: letter", "patterns.key.takes", "found 'letter'; expected a list of names"),
        (
            'hint: "type {letter}',
            'hint: "type {lettre}',
            "patterns.key.facts.hint",
            "found {lettre}; expected one of its parameters: letter, width; near is letter",
        ),
        (
            "count: 3",
            "count: 0",
            "layers[0].children[1].children[0].count",
            "found 0; expected a whole number from 1 to 10,000",
        ),
        ("count: 3", "count: 3, each: [1]", "layers[0].children[1].children[0].count", "found count beside each"),
        (
            "each: [{letters: [a, b], number: 1}, {letters: [c], number: 2}]",
            "each: []",
            f"{AT_ROWS}.each",
            "expected a list of 1 to 10,000 values",
        ),
        ("letters: [c], number: 2}", "letters: [c]}", f"{AT_ROWS}.each[1]", "gives no number; expected what row takes"),
        (
            "{letters: [c], number: 2}",
            "7",
            f"{AT_ROWS}.each[1]",
            "expected one parameter of row to be left for it, and letters, number are",
        ),
        (
            "letters: [c]",
            "letters: c",
            f"patterns.row.children[0].each, used at {AT_ROWS}",
            "found 'c'; expected a list",
        ),
        (
            "role: button",
            "role: buton",
            f"patterns.key, used at {AT_ROWS} (node desk/keys/row-1/key-a)",
            "role is 'buton'",
        ),
        (
            "- {name: end}",
            "- {name: end, colour: red}",
            f"patterns.row.children[1].colour, used at {AT_ROWS} (node desk/keys/row-1/end)",
            "found an unknown key",
        ),
        (
            "kind: button, arg",
            "kind: buton, arg",
            f"patterns.key.control.kind, used at {AT_ROWS} (node desk/keys/row-1/key-a)",
            "buton",
        ),
        (
            "- {name: end}",
            "- {use: row, with: {letters: [a], number: 3}}",
            f"patterns.row.children[1].use, used at {AT_ROWS}",
            "found row, which uses itself: row → row",
        ),
        (
            "{name: more}",
            "{name: more, order: x}",
            "layers[0].children[1].children[1].order (node desk/hold/more)",
            "found 'x'",
        ),
        (
            "{use: slot, count: 3}",
            "{use: slot, count: 3, name: same}",
            "layers[0].children[1].children[0].name (node desk/hold/same)",
            "expected every name once",
        ),
        ("  slot: {takes", "  slot: {use: key, takes", "patterns.slot.use", "found a use; expected a node"),
        ("  slot: {", "  none: 3\n  slot: {", "patterns.none", "found 3; expected a node"),
        ("patterns:\n", "patterns: 3\nspots:\n", "patterns", "found 3; expected a mapping from names to nodes"),
    ],
)
def test_d3_a_pattern_that_cannot_be_is_refused_with_its_place_and_the_place_of_use(
    tmp_path: Path, old: str, new: str, place: str, words: str
) -> None:
    assert old in FILE
    file = tmp_path / "desk.yaml"
    file.write_text(FILE.replace(old, new, 1))
    with pytest.raises(FileError) as raised:
        read_scene(file)
    found = [(at, what) for at, what in raised.value.problems if at.startswith(place)]
    assert found, raised.value
    assert words in found[0][1]


def test_d3_patterns_that_would_become_far_too_much_are_refused_at_once(tmp_path: Path) -> None:
    patterns = {"p0": {"takes": ["n"], "name": "a{n}"}}
    for level in range(1, 7):
        patterns[f"p{level}"] = {"takes": ["n"], "name": "a{n}", "children": [{"use": f"p{level - 1}", "count": 1000}]}
    file = tmp_path / "bomb.json"
    layers = [{"name": "l", "children": [{"use": "p6", "count": 1000}]}]
    file.write_text(
        json.dumps({"glent": "scene", "version": 2, "size": [1, 1], "patterns": patterns, "layers": layers})
    )
    with pytest.raises(FileError, match="would become more than 50,000 nodes; expected fewer"):
        read_scene(file)


@settings(max_examples=40, deadline=None)
@given(scene=scenes(least=3, most=15), seed=st.integers(0, 2**32))
def test_d3_whatever_is_made_a_pattern_comes_back_as_it_was(scene: Any, seed: int) -> None:
    document, of = scene_document(scene), random.Random(seed)
    told: dict[str, Any] = json.loads(json.dumps(document))
    patterns: dict[str, Any] = {}

    def make(children: list[Any]) -> None:
        for at, child in enumerate(children):
            make(child.get("children", []))
            if of.random() < 0.4:
                name = f"p{len(patterns)}"
                taken = of.choice([key for key in child if key not in ("children", "use", "each", "count")])
                if "use" in child:
                    continue
                patterns[name] = {"takes": ["it"], **child, taken: "{it}"}
                children[at] = {
                    "use": name,
                    **of.choice(({"with": {"it": child[taken]}}, {"each": [{"it": child[taken]}]})),
                }

    for layer in told["layers"]:
        make(layer.get("children", []))
    if patterns:
        assert scene_document(scene_from({**told, "patterns": patterns})) == document


def test_a_parameter_is_written_as_words(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(
        "glent: scene\nversion: 2\nsize: [100, 100]\npatterns:\n"
        '  key: {takes: [name], name: "{name}", label: "the {name:words}, {{name:words}}, {name}"}\n'
        "layers:\n- name: desk\n  children: [{use: key, each: [tide-table_2, horn]}]\n"
    )
    scene = read_scene(file)
    assert scene["desk/tide-table_2"].label == "the tide table 2, {name:words}, tide-table_2"
    assert scene["desk/horn"].label == "the horn, {name:words}, horn"
    write_scene(scene, tmp_path / "again.yaml")
    assert (tmp_path / "again.yaml").read_text() == file.read_text()
    file.write_text(file.read_text().replace("{name:words},", "{nam:words},", 1))
    with pytest.raises(FileError, match="nam"):
        read_scene(file)
