"""Files that nobody wrote in good faith: each ends in a FileError that says where, soon, and loses nothing."""

from __future__ import annotations

import json
import random
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
import yaml

import glent
from fuzz import CORPUS, DOORS, MUTATED, document_mutated, problems_of_reading, text_mutated
from glent.formats import (
    EventLog,
    FileError,
    Recording,
    log_rows,
    read_bindings,
    read_contract,
    read_recording,
    read_scene,
    replay,
    scene_document,
    write_bindings,
    write_contract,
    write_recording,
    write_scene,
)
from glent.formats.yaml_text import dumped, loaded
from glent.testing import Hand
from glent.wiring import Contract, End

HEAD = '{"glent": "scene", "version": 2, "size": [100, 100], "layers": '


def scene_of(layers: str) -> str:
    return HEAD + layers + "}"


@pytest.mark.parametrize(
    ("name", "text", "said"),
    [
        ("brackets.yaml", "a: " + "[" * 100_000, "too deep|nesting depth"),
        ("mappings.yaml", "{a: " * 100_000, "too deep|nesting depth"),
        ("dashes.yaml", "- " * 100_000, "too deep|nesting depth"),
        ("brackets.json", "[" * 100_000, "too deep"),
        (
            "bind.yaml",
            "a: &a [" + "x, " * 999 + "x]\nb: &b [" + "*a, " * 999 + "*a]\nc: [" + "*b, " * 9 + "*b]",
            "more than",
        ),
        ("deep.yaml", "a0: &a0 [x]\n" + "".join(f"a{n}: &a{n} [*a{n - 1}]\n" for n in range(1, 300)), "too deep"),
        ("circle.yaml", "a: &a [*a]", "circle"),
        ("digits.yaml", "a: " + "1" * 1_000_000, "1000000 digits"),
        ("base60.yaml", "size: " + ":".join(["1"] * 500_000), "glent: is missing"),
        ("digits.json", '{"a": ' + "1" * 1_000_000 + "}", "line 1, column 7: found a number of 1000000 digits"),
        ("double.json", "{" + ", ".join(f'"k{n}": 1' for n in range(100_000)) + ', "k5": 2}', "'k5' twice"),
        ("ones.json", scene_of("[" + "1, " * 600_000 + "1]"), r"and \d+ more|layers\[49\]"),
        ("empty.json", scene_of("[" + "{}, " * 500_000 + "{}]"), r"layers\[49\]"),
        ("tags.json", scene_of('[{"name": "a", "tags": [' + "1, " * 600_000 + "1]}]"), r"tags\[0\]"),
        (
            "rows.json",
            scene_of(
                '[{"name": "a", "children": [{"name": "b", "control": {"kind": "screen-keys", "rows": ['
                + "1, " * 300_000
                + "1]}}]}]"
            ),
            r"rows\[0\]",
        ),
        (
            "keys.json",
            scene_of('[{"name": "a", ' + ", ".join(f'"k{n}": 1' for n in range(200_000)) + "}]"),
            "documented",
        ),
        ("name.json", scene_of('[{"name": "' + "a" * 1_000_000 + '"}]'), "at most 200"),
    ],
    ids=lambda one: one[:20] if isinstance(one, str) and "." in one[:16] else "",
)
def test_a_file_that_is_large_on_purpose_is_refused_soon_and_shortly(
    name: str, text: str, said: str, tmp_path: Path
) -> None:
    file = tmp_path / name
    file.write_text(text)
    began = time.process_time()
    with pytest.raises(FileError, match=said) as caught:
        read_scene(file)
    assert time.process_time() - began < 5.0
    assert len(caught.value.problems) <= 51
    assert len(str(caught.value)) < 20_000
    assert all(len(place) <= 200 for place, _ in caught.value.problems)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("!!python/object:os.system [x]", "tag:yaml.org,2002:python"),
        ("a: !!binary x", "without tags"),
        ("a: !!timestamp x", "without tags"),
        ("a: !!int x", "without tags"),
        ("a: !!set {x}", "without tags"),
        ("a: !own x", "without tags"),
        ("<<: {a: 1}", "merge key"),
        ("a: 1\na: 2", "'a' twice"),
        ("1: a", "keys that are text"),
        ("[a]: b", "keys that are text"),
        ("? [a]\n: b", "keys that are text"),
        ("a: .nan", "finite"),
        ("a: -.Inf", "finite"),
        ("a: 1e999", "finite"),
        ("a: *b", "nowhere before it"),
        ("a: 1\n---\nb: 2", "second document"),
        ("a: [1", "is not YAML"),
        ("a: \x07", "U\\+0007"),
    ],
)
def test_yaml_is_plain_or_refused_with_line_and_column(text: str, said: str) -> None:
    with pytest.raises(FileError, match=said) as caught:
        loaded(text, "file")
    assert all(place for place, _ in caught.value.problems)


def test_yaml_says_what_it_says_to_any_reader_and_dates_and_base_60_are_text() -> None:
    text = "a: 12:30:45\nb: 2026-11-30\nc: on\nd: ~\ne: 0x1F\nf: [1, -2, 3.5, 1e3, .5, true, False, null, '7', \"8\"]\n"
    assert loaded(text, "file") == {
        "a": "12:30:45", "b": "2026-11-30", "c": "on", "d": None, "e": "0x1F",
        "f": [1, -2, 3.5, 1000.0, 0.5, True, False, None, "7", "8"],
    }  # fmt: skip


ODD_TEXTS = [
    "\x85",
    "a\u2028b",
    "\u2029",
    "\ufeff",
    "1e5",
    "0o17",
    "017",
    "12:30",
    "on",
    "null",
    "~",
    "a: b",
    "- a",
    "#x",
    "'",
    '"',
    "\\",
    " a ",
    "é🏴\u200d☠️",
    "2026-11-30",
    "=",
    "<<",
    "*a",
    "&a",
    "!a",
    "%a",
    "@a",
    "`a",
    "-",
    "?",
    "1_000",
]


@pytest.mark.parametrize("text", ODD_TEXTS)
@pytest.mark.parametrize("suffix", [".yaml", ".json"])
def test_d3_odd_texts_come_back_from_a_file_as_they_were(text: str, suffix: str, tmp_path: Path) -> None:
    scene = glent.Scene((10, 10))
    scene.layer("l").add("a", tags=[text], facts={"said": text, "many": [text, {"more": text}]})
    file = tmp_path / f"scene{suffix}"
    write_scene(scene, file)
    again = read_scene(file)
    assert scene_document(again) == scene_document(scene)
    if suffix == ".yaml":
        assert loaded(dumped({"k": text}), "") == {"k": text} == yaml.safe_load(dumped({"k": text}))


@pytest.mark.parametrize("name", ["\ufeff", "a\u2028", "\u00a0", "a/b", "", "\ud800", "x" * 300, "a\nb"])
def test_names_that_no_node_can_have_are_problems_of_the_file(name: str, tmp_path: Path) -> None:
    file = tmp_path / "scene.json"
    file.write_text(json.dumps({"glent": "scene", "version": 2, "size": [9, 9], "layers": [{"name": name}]}))
    with pytest.raises(FileError, match=r"layers\[0\]\.name"):
        read_scene(file)


@pytest.mark.parametrize(
    ("node", "place"),
    [
        ({"seats": ["main", "main"]}, r"layers\[0\]\.children\[0\] \(node l/a\)"),
        ({"shape": {"kind": "polygon", "rings": [[[0, 0], [5, 5], [0, 0]]]}}, r"children\[0\]"),
        ({"wiring": {"told": {}}}, r"children\[0\]\.wiring\.told"),
        ({"control": {"kind": "slider", "low": 2, "high": 1}}, r"children\[0\]\.control"),
        ({"control": {"kind": "screen-keys", "rows": [[{"txt": "a"}]]}}, r"children\[0\]\.control\.rows"),
        ({"wiring": {"tells": {"act": {"nam": "x"}}}}, r"children\[0\]\.wiring\.tells\.act\.nam"),
    ],
)
def test_whatever_the_core_refuses_of_a_file_has_a_place_in_it(
    node: dict[str, Any], place: str, tmp_path: Path
) -> None:
    file = tmp_path / "scene.json"
    layers = [{"name": "l", "children": [{"name": "a", **node}]}]
    file.write_text(json.dumps({"glent": "scene", "version": 2, "size": [9, 9], "layers": layers}))
    with pytest.raises(FileError, match=place):
        read_scene(file)


def written(tmp_path: Path) -> dict[str, tuple[Path, Callable[[Path], object]]]:
    """By what is written, a file that is there, and what would write it with half a character in it."""
    scene = glent.Scene((10, 10))
    node = scene.layer("l").add("a")
    router = glent.Router(scene)
    recording = Recording((10.0, 10.0))
    recording.follow(router)
    Hand(router).click((5.0, 5.0))
    steps = list(replay(glent.Router(glent.Scene((10, 10))), recording))
    log = EventLog("\ud800", log_rows(steps))
    object.__setattr__(node, "_facts", {"said": "\ud800"})
    recording.notes[0] = "\ud800"
    bindings = {"main": glent.Bindings({"own:key": ["Key\ud800"]})}
    contract = Contract([End("a", "event", "any", ("\ud800",))])
    return {
        "scene.yaml": (tmp_path / "scene.yaml", lambda path: write_scene(scene, path)),
        "scene.json": (tmp_path / "scene.json", lambda path: write_scene(scene, path)),
        "recording.jsonl": (tmp_path / "recording.jsonl", lambda path: write_recording(recording, path)),
        "log.jsonl": (tmp_path / "log.jsonl", log.write),
        "bindings.json": (tmp_path / "bindings.json", lambda path: write_bindings(bindings, path)),
        "contract.json": (tmp_path / "contract.json", lambda path: write_contract(contract, path)),
    }


@pytest.mark.parametrize(
    "what",
    ["scene.yaml", "scene.json", "recording.jsonl", "log.jsonl", "bindings.json", "contract.json"],
)
def test_d3_a_write_that_fails_leaves_the_file_as_it_was(what: str, tmp_path: Path) -> None:
    file, write = written(tmp_path)[what]
    file.write_text("what was there")
    with pytest.raises(FileError, match="half a character|cannot hold|not be written"):
        write(file)
    assert file.read_text() == "what was there"
    assert [one.name for one in tmp_path.iterdir()] == [file.name], "nothing is left beside it"


def test_texts_with_half_a_character_are_refused_where_they_come_in() -> None:
    scene = glent.Scene((10, 10))
    layer = scene.layer("l")
    router = glent.Router(scene)
    half = "a\ud800"
    for call in (
        lambda: layer.add(half), lambda: layer.add("a", tags=[half]),
        lambda: router.feed(glent.TextSample(0.0, half)), lambda: router.feed(glent.ComposeSample(0.0, half)),
        lambda: router.feed(glent.KeySample(0.0, "down", half)),
        lambda: router.feed(glent.ActSample(0.0, half, "open")),
        lambda: router.feed(glent.PointerSample(0.0, "move", 1.0, 1.0, half)),
        lambda: router.feed(glent.ActSample(0.0, "l", "set", half)),
    ):  # fmt: skip
        with pytest.raises(glent.GlentError):
            call()


def test_a_log_equals_itself_whatever_line_breaks_its_texts_have(tmp_path: Path) -> None:
    def log() -> EventLog:
        scene = glent.Scene((10, 10))
        name = "a\x85b"
        scene.layer("l").on("own:kind", lambda event: None)
        router = glent.Router(scene)
        scene["l"].on(
            "press", lambda event: router.send(scene["l"], "own:kind", {name: "\u2028\u2029\x85", "n": float("nan")})
        )
        recording = Recording((10.0, 10.0))
        Hand(router, tap=recording.add).click((5.0, 5.0))
        fresh = glent.Scene((10, 10))
        again = glent.Router(fresh)
        fresh.layer("l").on("own:kind", lambda event: None)
        fresh["l"].on(
            "press", lambda event: again.send(fresh["l"], "own:kind", {name: "\u2028\u2029\x85", "n": float("nan")})
        )
        return EventLog(None, log_rows(replay(again, recording)))

    file = tmp_path / "log.jsonl"
    log().write(file)
    assert log().differences(file) == []
    for text, said in (("", "line 1"), ("[]\n", "expected the header of a log"), ('{"glent": "log"}\n', "header")):
        file.write_text(text)
        with pytest.raises(FileError, match=said):
            log().differences(file)


@pytest.mark.parametrize("seed", range(4))
def test_mutated_files_end_in_errors_with_a_place_or_are_read(seed: int, tmp_path: Path) -> None:
    """A short run of what ``make fuzz`` does without end."""
    choose = random.Random(seed)
    for number in range(250):
        door = choose.choice(list(DOORS))
        suffix, seeds, read = DOORS[door]
        if door in MUTATED and choose.random() < 0.5:
            content = document_mutated(choose, seeds[0])
        else:
            content = text_mutated(choose, choose.choice(seeds))
        problem = problems_of_reading(read, tmp_path / f"file{suffix}", content)
        assert problem is None, (number, door, problem)


@pytest.mark.parametrize("kept", sorted(CORPUS.iterdir()), ids=lambda one: one.name)
def test_what_once_was_read_wrongly_is_not_again(kept: Path, tmp_path: Path) -> None:
    door = next(name for name in DOORS if kept.name.startswith(f"{name}-"))
    suffix, _, read = DOORS[door]
    assert problems_of_reading(read, tmp_path / f"file{suffix}", kept.read_bytes()) is None


@pytest.mark.parametrize("door", ["recording", "contract", "bindings"])
def test_other_readers_are_bounded_as_well(door: str, tmp_path: Path) -> None:
    file = tmp_path / "file.json"
    file.write_text("[" * 100_000)
    read = {"recording": read_recording, "contract": read_contract, "bindings": read_bindings}[door]
    with pytest.raises(FileError, match="too deep"):
        read(file)
