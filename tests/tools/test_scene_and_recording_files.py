"""Scene files and recordings: lossless, and hostile ones end in a clear error, soon."""

from __future__ import annotations

import json
import time
from contextlib import suppress
from pathlib import Path

import jsonschema
import pytest
import yaml
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import glent
from glent import PointerSample, Scene, WheelSample, WindowSample
from glent.formats import (
    FileError,
    Recording,
    read_recording,
    read_scene,
    recording_schema,
    scene_document,
    scene_from,
    scene_schema,
    write_recording,
    write_scene,
)
from strategies import scenes

GOOD = {
    "glent": "scene",
    "version": 2,
    "size": [100, 100],
    "layers": [{"name": "hud", "children": [{"name": "a"}, {"name": "b", "children": [{"name": "c"}]}]}],
}


def same(one: Scene, other: Scene) -> None:
    assert scene_document(one) == scene_document(other)
    for a, b in zip(one.walk(), other.walk(), strict=True):
        for key in (
            "name",
            "place",
            "role",
            "solidity",
            "shape",
            "reach",
            "clips",
            "order",
            "visible",
            "enabled",
            "carries",
            "focusable",
            "tags",
            "scroll",
            "edges",
        ):
            assert getattr(a, key) == getattr(b, key), (a.path, key)


@pytest.mark.parametrize("suffix", [".json", ".yaml"])
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
@given(scene=scenes(most=20), extra=st.data())
def test_a_scene_file_is_lossless(tmp_path: Path, suffix: str, scene: Scene, extra: st.DataObject) -> None:
    nodes = list(scene.walk())
    node = nodes[extra.draw(st.integers(0, len(nodes) - 1))]
    node.reach, node.carries, node.tags, node.focusable = (
        {"pen": 3, "touch": 8.5},
        ("wheel", "click"),
        {"x", "ü"},
        False,
    )
    file = tmp_path / f"scene{suffix}"
    write_scene(scene, file)
    again = read_scene(file)
    again.window = scene.window
    same(scene, again)
    jsonschema.Draft202012Validator(scene_schema()).validate(json.loads(json.dumps(scene_document(scene))))
    first = file.read_bytes()
    write_scene(again, file)
    assert file.read_bytes() == first


def changed(**how: object) -> dict:
    document = json.loads(json.dumps(GOOD))
    document["layers"][0]["children"][1].update(how)
    return document


@pytest.mark.parametrize(
    ("document", "expected"),
    [
        (changed(place={"left": "12 cows"}), ["layers[0].children[1].place", "hud/b", "12 cows", "50% - 60"]),
        (changed(place={"left": 1, "right": 2, "width": 3}), ["layers[0].children[1].place", "at most two"]),
        (changed(place={"lft": 1}), ["place.lft", "unknown key", "left, top, right"]),
        (changed(colour="red"), ["children[1].colour", "hud/b", "'red'", "solidity"]),
        (changed(name="a"), ["children[1].name", "'a'", "every name once, and children[0] has it"]),
        (changed(name="a/b"), ["children[1].name", "'a/b'"]),
        (changed(solidity="firm"), ["children[1].solidity", "'firm'", "'solid', 'glass', 'hollow' or 'ghost'"]),
        (changed(role="knob"), ["children[1]", "'knob'", "WAI-ARIA"]),
        (changed(order="high"), ["children[1].order", "'high'", "number"]),
        (changed(order=1e300), ["children[1].order", "1e+300", "1000000000"]),
        (changed(visible=1), ["children[1].visible", "found 1", "boolean"]),
        (changed(carries=["klick"]), ["klick", "click"]),
        (changed(shape={"kind": "blob"}), ["children[1].shape", "blob", "polygon"]),
        (changed(shape={"kind": "polygon", "rings": [[[0, 0], [1, 1]]]}), ["shape", "rings[0]", "at least 3"]),
        (changed(shape={"kind": "mask", "rows": ["##", "#"]}), ["shape", "one length"]),
        (changed(reach={"claw": 3}), ["reach", "claw"]),
        (changed(children=[{"place": {}}]), ["children[1].children[0]", "children[0].name", "is missing", "hud/b"]),
        ({**GOOD, "size": [0, 5]}, ["size[0]", "found 0", "greater than 0"]),
        ({**GOOD, "fit": "squash"}, ["fit", "'squash'", "'contain'"]),
        ({**GOOD, "version": 9}, ["version", "found 9", "2"]),
        ({**GOOD, "version": 1}, ["version", "version 1 is from before Glent 0.6", "expected 2"]),
        ({**GOOD, "layers": GOOD["layers"] * 2}, ["layers[1].name", "and layers[0] has it", "'hud'"]),
        ([1, 2], ["found"]),
    ],
    ids=lambda value: None if isinstance(value, list) else "file",
)
@pytest.mark.parametrize("suffix", [".json", ".yaml"])
def test_what_is_wrong_is_named_with_place_value_and_expectation(
    tmp_path: Path, suffix: str, document: object, expected: list[str]
) -> None:
    file = tmp_path / f"bad{suffix}"
    file.write_text(json.dumps(document) if suffix == ".json" else yaml.safe_dump(document))
    with pytest.raises(FileError) as caught:
        read_scene(file)
    assert str(file) in str(caught.value)
    for part in expected:
        assert part in str(caught.value), str(caught.value)


HOSTILE = {
    "deep.json": "[" * 1_000_000,
    "deep-objects.json": '{"a":' * 300_000,
    "deep-but-closed.json": "[" * 5_000 + "]" * 5_000,
    "deep.yaml": "[" * 1_000_000,
    "deep-block.yaml": "- " * 100_000 + "x",
    "nan.json": json.dumps(GOOD).replace("100, 100", "NaN, 100"),
    "nan.yaml": "glent: scene\nversion: 2\nsize: [.nan, 1]\n",
    "infinite.json": json.dumps(GOOD).replace("100, 100", "1e999, 100"),
    "infinite.yaml": "glent: scene\nversion: 2\nsize: [.inf, 1]\n",
    "huge.json": json.dumps(GOOD).replace("100, 100", "9" * 100_000 + ", 1"),
    "huge.yaml": "glent: scene\nversion: 2\nsize: [" + "9" * 4_000 + ", 1]\n",
    "huger.yaml": "glent: scene\nversion: 2\nsize: [" + "9" * 10_000 + ", 1]\n",
    "circle.yaml": "glent: scene\nversion: 2\nsize: [1, 1]\nlayers: &a\n- name: x\n  children: *a\n",
    "circle-self.yaml": "&a [*a]",
    "laughs.yaml": "a0: &a0 [x, x]\n"
    + "".join(f"a{n}: &a{n} [*a{n - 1}, *a{n - 1}, *a{n - 1}]\n" for n in range(1, 40)),
    "merge.yaml": "a: &a {x: 1}\nb: {<<: *a}\n",
    "twice.json": '{"glent": "scene", "glent": "scene"}',
    "twice.yaml": "glent: scene\nglent: scene\n",
    "binary.json": b"\xff\xfe\x00",
    "tag.yaml": "!!python/object/apply:os.system [echo]",
    "empty.json": "",
    "cut.json": '{"glent": "scene", "size": [1',
    "large.json": " " * (9 * 1024 * 1024),
    "scene.txt": "glent",
}


@pytest.mark.parametrize("name", HOSTILE)
def test_a_hostile_file_ends_in_a_clear_error_soon(tmp_path: Path, name: str) -> None:
    content = HOSTILE[name]
    file = tmp_path / name
    file.write_bytes(content if isinstance(content, bytes) else content.encode())
    began = time.perf_counter()
    with pytest.raises(FileError, match=r"expected|most|larger|is no") as caught:
        read_scene(file)
    assert time.perf_counter() - began < 20
    assert len(str(caught.value)) < 1000
    with pytest.raises(FileError):
        read_recording(file)


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats() | st.text(max_size=3),
        lambda inner: (
            st.lists(inner, max_size=3)
            | st.dictionaries(
                st.sampled_from(["glent", "version", "size", "layers", "name", "children", "place", "shape", "kind"]),
                inner,
                max_size=4,
            )
        ),
        max_leaves=15,
    )
)
def test_any_document_is_a_scene_or_a_file_error(document: object) -> None:
    with suppress(FileError):
        assert scene_document(scene_from(document))["glent"] == "scene"


def recording() -> Recording:
    made = Recording((640, 480), scene="ab" * 32)
    made.add(PointerSample(0.1, "move", 3.0, 4.5, dx=1.0, raw=((0.05, 1.0, 2.0), (0.1, 3.0, 4.5))), "it begins")
    made.add(PointerSample(0.2, "press", 3.0, 4.5, "f1", "touch", button=0, buttons=1, pressure=0.25))
    made.add(PointerSample(0.2, "release", 1 / 3, -4.5, button="secondary", emulated=True))
    made.add(WheelSample(0.3, 1.0, 2.0, 0.0, -3.0, "line"))
    made.add(WindowSample(0.4, "size", 800, 600.5))
    made.add(WindowSample(1.0, "pointer_left", pointer="mouse"))
    return made


def test_a_recording_reads_back_byte_for_byte(tmp_path: Path) -> None:
    one, two = tmp_path / "a.jsonl", tmp_path / "b.jsonl"
    write_recording(recording(), one)
    again = read_recording(one)
    write_recording(again, two)
    assert one.read_bytes() == two.read_bytes()
    assert again.notes == {0: "it begins"}
    assert again.samples[0].raw == ((0.05, 1.0, 2.0), (0.1, 3.0, 4.5))
    assert again.samples[2].button == 2
    validator = jsonschema.Draft202012Validator(recording_schema())
    for line in one.read_text().splitlines():
        validator.validate(json.loads(line))


@pytest.mark.parametrize(
    ("line", "expected"),
    [
        (
            '{"sample": "pointer", "time": 2, "action": "hover", "x": 1, "y": 1}',
            ["line 8, action", "'hover'", "'move'"],
        ),
        ('{"sample": "pointer", "time": 2, "action": "move", "x": NaN, "y": 1}', ["line 8", "NaN"]),
        ('{"sample": "pointer", "time": 2, "action": "move", "x": 1e400, "y": 1}', ["line 8, x", "inf"]),
        (
            '{"sample": "pointer", "time": 0.5, "action": "move", "x": 1, "y": 1}',
            ["line 8", "time is 0.5", "before 1.0"],
        ),
        (
            '{"sample": "pointer", "time": 2, "action": "press", "x": 1, "y": 1, "button": "left"}',
            ["line 8, button", "'left'", "primary"],
        ),
        ('{"sample": "claw", "time": 2}', ["line 8", "claw", "wheel"]),
        ('{"sample": "wheel", "time": 2, "x": 1, "y": 1, "dx": 0}', ["line 8, dy", "missing"]),
        ('{"sample": "window", "time": 2, "what": "size"}', ["line 8", "width is None"]),
        ("[]", ["line 8"]),
        ("x" * 2_000_000, ["line 8", "longer"]),
    ],
    ids=lambda value: value[:40] if isinstance(value, str) else None,
)
def test_a_bad_line_is_named(tmp_path: Path, line: str, expected: list[str]) -> None:
    file = tmp_path / "bad.jsonl"
    write_recording(recording(), file)
    file.write_text(file.read_text() + line + "\n")
    with pytest.raises(FileError) as caught:
        read_recording(file)
    for part in (str(file), *expected):
        assert part in str(caught.value), str(caught.value)


def test_a_shape_of_ones_own_cannot_be_written(tmp_path: Path) -> None:
    class Half(glent.BoxShape):
        pass

    class Own(glent.Shape):
        contains = inside = bounds = outline = lambda *_: None

    scene = Scene(size=(10, 10))
    scene.layer("hud").add("a", shape=Own())
    with pytest.raises(FileError, match="hud/a"):
        write_scene(scene, tmp_path / "a.json")
    with pytest.raises(FileError, match="cannot be written"):
        write_scene(Scene(size=(1, 1)), tmp_path / "no" / "a.json")
