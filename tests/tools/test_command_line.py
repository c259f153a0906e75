from __future__ import annotations

import csv
import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from click.testing import CliRunner

from glent.cli import main
from glent.demo import HARBOUR
from glent.demo import tour as tours

ROOT = Path(__file__).parents[2]


def run(*words: object, code: int = 0) -> str:
    result = CliRunner().invoke(main, [str(word) for word in words])
    assert result.exit_code == code, result.output
    assert (
        all(len(line.rstrip()) <= 100 for line in result.stdout.splitlines())
        or "--json" in words
        or words[0] == "schema"
    )
    assert "\x1b[" not in result.output
    return result.output if code else result.stdout


def test_demo_tells_a_newcomer_what_happened_on_one_screen(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    # What it prints without options is the text of its picture.
    said = (ROOT / "examples/terminal_text/demo.txt").read_text()
    assert len(said.splitlines()) <= 46
    for part in ("Kelp Harbour", "gallery", "to the world", "byte for byte", "keys/KeyW", "glent play", "--full",
                 "make hud/shutter hollow: 1 line", "mended, none does"):  # fmt: skip
        assert part in said
    kept: list[Any] = []
    monkeypatch.setattr(tours, "tour", lambda *given, once=tours.tour: kept.append(once(*given)) or kept[0])
    monkeypatch.chdir(tmp_path)
    full = run("demo", "--full")
    tmp_path /= "build/demo"
    for part in ("inputs was fed", "10.", "byte for byte the same", "which is solid", "lifted: mouse/primary"):
        assert part in full
    for name in ("map.png", "timeline.png", "events.jsonl"):
        assert (tmp_path / name).stat().st_size > 10_000
        assert name in full.replace("\n", "")
    monkeypatch.setattr(tours, "tour", lambda *given: kept[0])  # it takes its time, and once is enough
    plain = run("demo").rstrip().splitlines()
    assert ["$ glent demo", *(line.rstrip() for line in plain)] == said.splitlines(), "run make shots"
    told = json.loads(run("demo", "--json"))
    assert len(told["decisions"]) == 10
    assert told["replays_the_same"]
    assert told["mending"]["cured"]
    assert {Path(file).name for file in told["mending"]["files"]} <= {file.name for file in tmp_path.iterdir()}
    assert told["inputs"]["all"] == sum(told["inputs"][who] for who in ("ui", "world", "nobody"))
    header, *rows = (tmp_path / "events.jsonl").read_text().splitlines()
    assert json.loads(header)["rows"] == len(rows) > 500


@pytest.mark.parametrize(
    ("children", "note"),
    [
        ("[]", "of no size: it is to fit its content, and has no child and no content"),
        ("[{name: tip, visible: false}]", "of no size: it is to fit its content, and has no visible child"),
        ("[{name: tip}]", "of no size: its children take no room"),
        ("[{name: tip, content: [9, 9]}]", "fits its content"),
    ],
)
def test_l2_the_tree_says_why_a_box_is_of_no_size(tmp_path: Path, children: str, note: str) -> None:
    file = tmp_path / "menu.yaml"
    file.write_text(
        "{glent: scene, version: 2, size: [100, 100], layers: [{name: hud, children: [{name: menu, flow: {kind: row},"
        f" place: {{width: fit-content, height: fit-content}}, children: {children}}}]}}]}}"
    )
    rows = {row["path"]: row["notes"] for row in json.loads(run("tree", file, "--json"))}
    assert rows["hud/menu"][-1].startswith(note)
    assert "row flow" in rows["hud/menu"]


def test_tree(tmp_path: Path) -> None:
    said = run("tree", "harbour")
    for part in (
        "send-tug",
        "212,8 140×40",
        "carries enter",
        "disabled",
        "shape polygon",
        "hidden",
        "3 layers",
    ):
        assert part in said
    rows = json.loads(run("tree", HARBOUR, "--json"))
    assert rows[0] == {
        "path": "dial",
        "name": "dial",
        "depth": 0,
        "edges": [0, 0, 1280, 720],
        "solidity": "hollow",
        "given_solidity": "hollow",
        "role": None,
        "spot": None,
        "notes": ["order 10"],
        "facts": {},
        "called": "",
        "described": "",
    }


def test_d3_the_tree_shows_facts_and_what_nodes_are_called(tmp_path: Path) -> None:
    file = tmp_path / "desk.yaml"
    file.write_text(
        "{glent: scene, version: 2, size: [100, 100], layers: [{name: hud, children: [{name: plain}, {name: bar,"
        " children: [{name: send, role: button, facts: {text: Send tug, sizes: [1, 2]}, description: to sea}]}]}]}"
    )
    said = run("tree", file, "--facts")
    for part in ("hud", "bar", "send", "button", "Send tug (to sea)", 'text: "Send tug", sizes: [1, 2]'):
        assert part in said
    assert "plain" not in said
    assert "1 of 4 nodes have facts" in said
    file.write_text("{glent: scene, version: 2, size: [9, 9], layers: [{name: hud}]}")
    assert "no node of it has facts" in run("tree", file, "--facts")


def test_pick_says_what_is_hit_and_what_ruled_the_others_out() -> None:
    said = run("why", "harbour", 300, 400)
    for part in (
        "hit",
        "hud/compass is hit",
        "covered",
        "dial/tide is hit, but covered by hud/compass",
        "a press to the UI",
    ):
        assert part in said
    assert "hud/hold" not in said
    assert "hud/hold" in run("why", "harbour", 300, 400, "--all")
    assert "near" in run("why", "harbour", 207, 28, "--kind", "touch")
    found = json.loads(run("why", "harbour", 640, 600, "--json", "--window", "1920x1080"))
    assert found["world"] == {"press": True, "move": True, "wheel": True}
    assert found["point"] == [640, 600]


def test_map(tmp_path: Path) -> None:
    picture = tmp_path / "sub" / "map.svg"
    said = run("map", "harbour", "--out", picture)
    for part in ("a solid node", "world, through glass", "hud/hold", "map.svg"):
        assert part in said.replace("\n", "")
    assert picture.read_text().startswith("<?xml")
    found = json.loads(run("map", "harbour", "--json", "--window", "640x360"))
    assert sum(found["zones"].values()) == pytest.approx(1)
    assert found["size"] == [640, 360]
    assert "cannot be drawn" in run("map", "harbour", "--out", tmp_path / "map.doc", code=1)


def test_replay_and_timeline(tmp_path: Path) -> None:
    log = tmp_path / "log.jsonl"
    said = run("replay", "harbour", "night-shift", "--log", log)
    for part in ("which is solid", "samples:", "went to the UI", "log.jsonl"):
        assert part in said.replace("\n", "")
    run("replay", "harbour", "night-shift", "--against", log)
    moved = tmp_path / "moved.yaml"
    moved.write_text(HARBOUR.read_text().replace("order: 5", "order: -5"))
    found = run("replay", moved, "night-shift", "--against", log, code=1)
    assert "found: the recording was made with another scene file" in found.replace("\n", " ")
    answer = json.loads(run("replay", "harbour", "night-shift", "--json"))
    assert (
        answer["counts"]["samples"]
        == len(answer["steps"])
        == sum(answer["counts"][who] for who in ("ui", "world", "nobody"))
    )
    picture = tmp_path / "t.png"
    assert "t.png" in run("timeline", "harbour", "night-shift", "--out", picture).replace("\n", "")
    assert picture.read_bytes()[:4] == b"\x89PNG"
    assert (
        json.loads(run("timeline", "harbour", "night-shift", "--out", picture, "--json"))["counts"] == answer["counts"]
    )


@pytest.mark.parametrize("what", ["scene", "recording", "bindings"])
def test_schema_is_a_schema(what: str) -> None:
    schema = json.loads(run("schema", what))
    jsonschema.Draft202012Validator.check_schema(schema)
    assert "Glent" in schema["title"]


@pytest.mark.parametrize(
    ("words", "part"),
    [
        (("tree", "nowhere.yaml"), "cannot be read"),
        (("tree", "setup.cfg"), "ends in '.cfg'"),
        (("why", "harbour", "x", "1"), "'x' is not a valid float"),
        (("why", "harbour", "nan", "1"), "x is nan"),
        (("map", "harbour", "--window", "big"), "1920x1080"),
        (("map", "harbour", "--window", "0x5"), "from 0.001 to 1e6"),
        (("replay", "harbour", "harbour"), "cannot be read"),
        (("dance",), "No such command"),
        (("tree",), "Missing argument"),
    ],
)
def test_bad_usage_and_bad_files_end_with_code_2(words: tuple, part: str) -> None:
    assert part in run(*words, code=2)


@pytest.mark.parametrize(
    ("package", "missing", "extra"),
    [
        ("glent.formats", "pydantic", "tools"),
        ("glent.formats", "yaml", "tools"),
        ("glent.figures", "matplotlib", "tools"),
        ("glent.adapters.pygame_events", "pygame", "pygame"),
        ("glent.controls.text_field", "regex", "text"),
    ],
)
def test_a_missing_extra_is_a_sentence(package: str, missing: str, extra: str) -> None:
    code = f"import sys; sys.modules[{missing!r}] = None\nimport glent\nglent.core\nimport {package}"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert done.returncode == 1
    last = done.stderr.splitlines()[-1]
    assert f"needs {missing}, which is not installed: pip install 'glent[{extra}]'" in last


def test_packages_are_there_after_import_glent_and_load_when_used() -> None:
    code = (
        "import sys, glent\nlazy = ('controls', 'diagnose', 'figures', 'formats', 'testing', 'wiring')\n"
        "assert {*lazy, 'Camera', 'Router'} <= set(dir(glent))\n"
        "assert not [name for name in lazy if f'glent.{name}' in sys.modules]\n"
        "assert glent.diagnose.why and glent.controls.Slider and glent.wiring.Wiring and glent.formats.read_scene\n"
        "try:\n    glent.widgets\nexcept AttributeError as error:\n    print(error)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "module 'glent' has no attribute 'widgets'"


def test_import_glent_loads_the_core_alone() -> None:
    outside = {"numpy", "pydantic", "yaml", "click", "rich", "matplotlib", "pygame", "pandas", "logging"}
    code = f"import glent, sys; print(sorted({{name.split('.')[0] for name in sys.modules}} & {outside}))"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


@pytest.mark.parametrize("suffix", [".jsonl", ".csv", ".parquet"])
def test_replay_writes_the_log_by_suffix(tmp_path: Path, suffix: str) -> None:
    log = tmp_path / f"log{suffix}"
    assert f"the event log is in {log}" in run("replay", "quay", "crates", "--log", log).replace("\n", "")
    if suffix == ".jsonl":
        rows = [json.loads(line) for line in log.read_text().splitlines()[1:]]
    elif suffix == ".csv":
        with log.open(newline="") as file:
            rows = list(csv.DictReader(file))
    else:
        parquet = pytest.importorskip("pyarrow.parquet")
        table = parquet.read_table(log)
        assert table.schema.metadata[b"version"] == b"5"
        rows = table.to_pylist()
    drops = [row for row in rows if row["event"] == "drop"]
    assert [row["node"] for row in drops] == ["quay/hold/shelf-2", "quay/hold/shelf-2"] or len(drops) == 2
    data = drops[0]["data"] if suffix == ".jsonl" else json.loads(drops[0]["data"])
    assert data == {"payload": "kelp", "source": "quay/hold/kelp"}
    assert float(drops[0]["event_time"]) == float(drops[0]["time"])
    assert {row["gesture"] or None for row in rows} == {None, "drag"}


def test_logs_of_other_suffixes_and_tables_to_compare_with_are_refused(tmp_path: Path) -> None:
    said = run("replay", "quay", "rope", "--log", tmp_path / "log.txt", code=2)
    assert "ends in '.txt'; expected one of .jsonl, .csv, .parquet" in said.replace("\n", "")
    table = tmp_path / "log.csv"
    run("replay", "quay", "rope", "--log", table)
    said = run("replay", "quay", "rope", "--against", table, code=2)
    assert "is a table; logs are compared as JSON Lines (.jsonl)" in said.replace("\n", "")


@pytest.mark.parametrize("name", ["crates", "manifest", "mooring", "sticks", "chart", "rope", "mishaps"])
def test_timeline_of_gestures(tmp_path: Path, name: str) -> None:
    said = run("timeline", "quay", name, "--out", tmp_path / "t.png")
    assert "samples" in said
    assert (tmp_path / "t.png").stat().st_size > 10_000
