"""What a toolkit keeps on nodes, and what nodes are called: laws D3 and T5, and ACCNAME for the names."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

import glent
from desk import Desk
from glent import SceneError
from glent.diagnose import why
from glent.formats import (
    FileError,
    facts_problems,
    keep,
    read_scene,
    reload_scene,
    scene_document,
    scene_from,
    write_scene,
)

JSON = st.recursive(
    st.none() | st.booleans() | st.integers(-(2**40), 2**40) | st.floats(-1e9, 1e9).map(lambda x: x + 0.5) | st.text(),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3),
    max_leaves=8,
)


@given(facts=st.dictionaries(st.text(min_size=1, max_size=8), JSON, max_size=4))
def test_d3_facts_are_what_json_holds_and_come_back_from_a_file(facts: dict[str, Any]) -> None:
    scene = glent.Scene((10, 10))
    node = scene.layer("l").add("a", facts=facts)
    assert node.facts.plain() == facts
    assert node.facts == node.facts
    assert scene_from(scene_document(scene))["l/a"].facts.plain() == facts


@pytest.mark.parametrize(
    ("facts", "words"),
    [
        ({"": 1}, "facts has the name '', expected text"),
        ({3: 1}, "facts has the name 3, expected text"),
        ({"x": float("nan")}, r"facts\['x'\] is nan, expected a finite number"),
        ({"x": [1, {"y": {1, 2}}]}, r"facts\['x'\]\[1\]\['y'\] is \{1, 2\}, expected what JSON can hold"),
        ({"x": {1: 2}}, r"facts\['x'\] has the key 1, expected text"),
        ({"x": "\ud800"}, "half a character"),
        (3, "facts is 3, expected a mapping"),
    ],
)
def test_d3_facts_that_json_cannot_hold_are_refused_and_change_nothing(facts: Any, words: str) -> None:
    desk = Desk(a={"facts": {"text": "Send tug"}})
    with pytest.raises(SceneError, match=f"^l/a: {words}" if "half" not in words else words):
        desk["a"].facts = facts
    if isinstance(facts, dict):
        with pytest.raises(SceneError):
            desk["a"].facts.update(facts)
    deep: list[Any] = []
    for _ in range(40):
        deep = [deep]
    with pytest.raises(SceneError, match="deeper than 30 levels"):
        desk["a"].facts["deep"] = deep
    assert desk["a"].facts.plain() == {"text": "Send tug"}


def test_d3_a_change_of_facts_is_told_once_and_by_name() -> None:
    desk = Desk(a={"facts": {"text": "Send", "count": 1, "sizes": [1, 2]}})
    told: list[tuple[str, ...]] = []
    desk["a"].on("change", lambda event: told.append(event.data["facts"]))
    facts = desk["a"].facts
    facts["text"] = "Send"
    facts["sizes"] = (1, 2)
    assert told == [], "what is there already is no change"
    facts["text"] = "Send tug"
    facts["count"] = True
    facts.update(text="Recall", colour="red")
    del facts["count"]
    desk["a"].label = desk["a"].label
    desk["a"].label = "Send a tug"
    facts.clear()
    assert told == [("text",), ("count",), ("text", "colour"), ("count",), ("label",), ("text", "sizes", "colour")]
    facts["list"] = {"a": 1}
    with pytest.raises(TypeError):
        facts["list"]["a"] = 2
    with pytest.raises(KeyError):
        del facts["none"]
    desk["a"].remove()
    facts["text"] = "gone, and still its own"


FILE = """\
glent: scene
version: 2
size: [100, 100]
layers:
- name: l
  children:
  - {name: send, role: button, facts: {text: Send, colour: red}, description: to open water}
  - {name: depth, role: slider, labelled_by: l/caption, place: {left: 10}}
  - {name: caption, facts: {text: Depth}}
spots:
- {name: buoy, form: {kind: sphere, radius: 1}, facts: {text: Buoy}, label: the red buoy}
"""


def test_t5_facts_follow_the_file_where_it_changes_and_stay_where_code_set_them(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(FILE)
    scene = read_scene(file)
    scene["l/caption"].facts["text"] = "Depth in metres"
    file.write_text(FILE.replace("text: Send,", "text: Send tug,").replace("left: 10", "left: 20"))
    assert reload_scene(scene, file).changed == ("l/send", "l/depth")
    assert scene["l/send"].facts == {"text": "Send tug", "colour": "red"}
    assert scene["l/depth"].accessible_name == "Depth in metres"
    keep(file, scene["l/caption"], ["facts"])
    assert "Depth in metres" in file.read_text()
    assert len(set(file.read_text().splitlines()) - set(FILE.splitlines())) == 3
    scene["l/send"].set_for_now(facts={"text": "Sending …"})
    write_scene(scene, file)
    assert "Sending" not in file.read_text(), "what is so for now is not declared"
    assert read_scene(file)["buoy"].accessible_name == "the red buoy"
    file.write_text(FILE.replace("l/caption", "l/captoin"))
    with pytest.raises(FileError, match=r"labelled_by .*a node of this file.*l/caption"):
        read_scene(file)


@pytest.mark.parametrize(
    ("given_", "name"),
    [
        ({}, ""),
        ({"facts": {"text": "Send"}}, "Send"),
        ({"facts": {"text": 3}}, ""),
        ({"facts": {"text": "Send"}, "label": "Send a tug"}, "Send a tug"),
        ({"label": "Send a tug", "labelled_by": "l/caption"}, "The caption of it"),
        ({"label": "Send a tug", "labelled_by": "l/none"}, "Send a tug"),
        ({"role": "button"}, "icon shown"),
        ({"role": "button", "facts": {"text": "Send"}}, "Send icon shown"),
        ({"role": "slider"}, ""),
        ({"role": "textbox", "facts": {"text": "what was typed"}}, ""),
    ],
)
def test_d5_the_accessible_name_goes_by_accname(given_: dict[str, Any], name: str) -> None:
    desk = Desk(a=given_, a__icon={"label": "icon"}, a__word={"facts": {"text": "shown"}})
    desk.add("a/hidden", facts={"text": "hidden"}, visible=False)
    desk.add("caption", facts={"text": "The caption"}, described_by="l/a").add("more", label="of it")
    assert desk["a"].accessible_name == name
    desk["a"].description = "for small craft"
    assert desk["a"].accessible_description == "for small craft"
    desk["a"].described_by = desk["caption"]
    assert desk["a"].accessible_description == "The caption of it"
    with pytest.raises(SceneError, match="l/a: label is 3, expected None or text"):
        desk["a"].label = 3  # type: ignore[assignment]
    with pytest.raises(SceneError, match="l/a: labelled_by is 3, expected None, a node or the path of one"):
        desk["a"].labelled_by = 3  # type: ignore[assignment]


SCHEMA = {
    "properties": {
        "text": {"type": "string"}, "colour": {"enum": ["red", "green"]}, "pattern": {"type": "integer"},
        "pictures": {"$ref": "#/$defs/pictures"},
    },
    "required": ["text"],
    "$defs": {"pictures": {"additionalProperties": {"type": "string"}}},
}  # fmt: skip


@pytest.mark.parametrize(
    ("facts", "place", "words"),
    [
        ({"text": "Send", "pictures": {"idle": "send.png"}, "pattern": 1}, "", ""),
        ({"text": 3}, ".facts.text", "found 3; expected string"),
        ({"text": "Send", "colour": "blue"}, ".facts.colour", "found 'blue'; expected one of red, green"),
        ({"text": "Send", "pictures": {"idle": 3}}, ".facts.pictures.idle", "found 3; expected string"),
        ({"colour": "red"}, ".facts", "expected it to have text"),
    ],
)
def test_d3_the_facts_of_a_file_keep_to_its_schema(
    facts: dict[str, Any], place: str, words: str, tmp_path: Path
) -> None:
    nodes = [{"name": "send", "facts": facts}, {"name": "bar"}]
    layers = [{"name": "l", "children": nodes}]
    document = {"glent": "scene", "version": 2, "size": [9, 9], "facts_schema": SCHEMA, "layers": layers}
    if not words:
        scene = scene_from(document)
        assert scene_document(scene)["facts_schema"] == SCHEMA
        scene["l/bar"].facts["text"] = 3
        assert facts_problems(scene) == [("l/bar", "facts.text: found 3; expected string")]
        assert facts_problems(scene, {}) == []
        return
    with pytest.raises(FileError) as raised:
        scene_from(document)
    (at, what), *_ = raised.value.problems
    assert (at, words in what) == (f"layers[0].children[0]{place} (node l/send)", True), what


@pytest.mark.parametrize(
    ("schema", "words"),
    [
        ({"type": "texts"}, "is no JSON Schema, at type: 'texts'"),
        ({"properties": {"text": {"pattern": "(a+)+$"}}}, "has pattern, which is not used here"),
        ({"$ref": "#"}, "has references that lead on and on"),
        ({"$ref": "http://harbour.example/schema"}, "has a reference that leads nowhere"),
        ({"$ref": "#/$defs/none"}, "has a reference that leads nowhere"),
        (
            {"$ref": "#/$defs/a20", "$defs": {"a0": {}} | {
                f"a{n}": {"allOf": [{"$ref": f"#/$defs/a{n - 1}"}] * 3} for n in range(1, 21)
            }},
            "lead on and on",
        ),
    ],
)  # fmt: skip
def test_d3_a_schema_of_facts_that_cannot_be_used_is_refused_soon(schema: dict[str, Any], words: str) -> None:
    layers = [{"name": "l", "facts": {"text": "a" * 60 + "!"}}]
    document = {"glent": "scene", "version": 2, "size": [9, 9], "facts_schema": schema, "layers": layers}
    with pytest.raises(FileError) as raised:
        scene_from(document)
    ((at, what),) = raised.value.problems
    assert at == "facts_schema"
    assert words in what


def test_d5_sentences_say_what_nodes_are_called_where_asked() -> None:
    desk = Desk(sail={"box": (0, 0, 40, 40), "role": "button", "facts": {"text": "Sail on"}})
    verdict = desk.hand.click((5.0, 5.0))
    assert verdict.why == "the press landed on l/sail, which is solid"
    assert verdict.why_named == "the press landed on “Sail on” (l/sail), which is solid"
    found = {one.node: one for one in why(desk.router, 5.0, 5.0)}
    assert found[desk["sail"]].sentence_named == "“Sail on” (l/sail) is hit and may have the input"
    desk["sail"].facts = {}
    assert verdict.why_named == verdict.why
    assert desk.hand.click((90.0, 90.0)).why_named.startswith("nothing of the UI lies where the press is")
