"""What the README, the docs and the examples show is run here, so it cannot rot."""

from __future__ import annotations

import os
import re
import subprocess
import sys
from importlib import import_module
from pathlib import Path

import pytest

from glent import Router
from glent.formats import read_scene
from glent.wiring import Wiring

ROOT = Path(__file__).parents[2]
LAWS = ROOT / "docs/laws"
CHAPTERS = sorted(f"docs/laws/{path.name}" for path in LAWS.glob("*.md") if path.name not in ("README.md", "index.md"))
PAGES = [
    "README.md",
    "docs/guide.md",
    "docs/gestures.md",
    "docs/controls.md",
    "docs/screens.md",
    "docs/live.md",
    "docs/findings.md",
    "docs/recordings.md",
    *CHAPTERS,
]
DRAWN = ("terminal_shots.py", "live_shots.py")
"""Examples that draw pictures, and have tests of their own."""
EXAMPLES = sorted(path.name for path in (ROOT / "examples").glob("*.py") if path.name not in DRAWN)


def blocks_of(path: Path) -> list[str]:
    return re.findall(r"^```python\n(.*?)^```", path.read_text(), flags=re.M | re.S)


@pytest.mark.parametrize("page", PAGES)
def test_every_block_of_python_runs_as_pasted(page: str, capsys: pytest.CaptureFixture[str]) -> None:
    blocks = blocks_of(ROOT / page)
    assert blocks
    if page in CHAPTERS:  # they use what the contents page defines
        blocks = blocks_of(LAWS / "README.md") + blocks
    namespace: dict[str, object] = {"__name__": page}
    for number, block in enumerate(blocks, 1):
        exec(compile(block, f"{page}, block {number}", "exec"), namespace)


def test_the_scene_file_in_the_docs_is_one(tmp_path: Path) -> None:
    page = (ROOT / "docs/files.md").read_text()
    block, world, wired, patterns = re.findall(r"^```yaml\n(.*?)^```", page, flags=re.M | re.S)
    file = tmp_path / "shown.yaml"
    file.write_text(patterns)
    desk = read_scene(file)
    assert [len(desk[path]) for path in ("desk/keys", "desk/hold")] == [5, 12]
    assert desk["desk/keys/space"].facts == {"text": "space", "colour": "gold"}
    file.write_text(block + wired + world)
    scene = read_scene(file)
    assert scene["hud/bar/horn"].reach == {"touch": 12}
    assert scene["hud/board"].size == (136, 64)
    assert [end.name for end in Wiring(scene).contract()] == ["eyed-the-button", "lock-the-tide", "send-tug", "tide"]
    assert [one.name for one in scene.in_world] == ["table", "slipway"]
    assert Router(scene).hits_ray((2.0, 0.0, 1.0), (0.0, -1.0, 0.0))[0].node is scene["slipway"]


@pytest.mark.parametrize("name", EXAMPLES)
def test_examples_run_headless(name: str, tmp_path: Path) -> None:
    words = [str(tmp_path)] if name.endswith("shots.py") else ["1"] if name == "window.py" else []
    done = subprocess.run(
        [sys.executable, ROOT / "examples" / name, *words],
        capture_output=True,
        text=True,
        timeout=120,
        env={**os.environ, "SDL_VIDEODRIVER": "dummy"},
    )
    assert done.returncode == 0, done.stderr
    assert "Traceback" not in done.stderr
    if name == "shots.py":
        made = {path.name for path in tmp_path.iterdir()}
        drawn = "map map-change timeline window quay pilots focus tower view gallery"
        assert made == {f"{name}.png" for name in drawn.split()}
    elif name == "gesture_shots.py":
        shown = set(re.findall(r"\]\(gestures/(.+?)\)", (ROOT / "docs/gestures.md").read_text()))
        assert {path.name for path in tmp_path.iterdir()} == shown
        assert {path.name for path in (ROOT / "docs/gestures").iterdir()} == shown
    else:
        assert done.stdout.strip()


def test_the_picture_of_the_live_view_in_its_window_is_drawn(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(ROOT / "examples"))
    import_module("live_shots").overlay_shot(tmp_path)  # its page has tests of its own
    assert (tmp_path / "live-window.png").stat().st_size > 10_000


def test_terminal_pictures_show_what_the_commands_print_now(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.syspath_prepend(str(ROOT / "examples"))
    monkeypatch.chdir(tmp_path)
    shots = import_module("terminal_shots")
    for name in shots.SHOTS.keys() - {"demo"}:  # that takes its time, and has a test of its own
        kept = (shots.TEXTS / f"{name}.txt").read_text(encoding="utf-8")
        assert shots.printed(name) == kept, f"{name}.png is of an older version: run make shots"
    shots.draw(kept, tmp_path / "shot.png")
    assert (tmp_path / "shot.png").stat().st_size > 10_000


def test_what_the_page_on_recordings_shows_is_what_the_command_prints() -> None:
    page = (ROOT / "docs/recordings.md").read_text()
    (shown,) = re.findall(r"^```text\n(.*?)^```", page, flags=re.M | re.S)
    assert shown in (ROOT / "examples/terminal_text/check-and-compare.txt").read_text(encoding="utf-8")


def test_links_and_pictures_exist() -> None:
    for page in [ROOT / "README.md", *(ROOT / "docs").rglob("*.md")]:
        targets = re.findall(r"\]\((?!http)([^)#]+)", page.read_text())
        for target in targets:
            assert (page.parent / target).exists(), f"{page.name}: {target}"
    pages = "".join(page.read_text() for page in [ROOT / "README.md", *(ROOT / "docs").glob("*.md")])
    for picture in (ROOT / "docs/screenshots").iterdir():
        assert picture.name in pages, picture.name


@pytest.mark.long
def test_a_type_checker_knows_the_attributes_of_nodes(tmp_path: Path) -> None:
    file = tmp_path / "desk.py"
    lines = (
        "import glent",
        "layer = glent.Scene((1, 1)).layer('desk')",
        "layer.add('a', visble=False)",
        "layer.add('b', solidity='glas')",
        "layer.add('c', closed_by='any', order=2).modal = 'yes'",
        "glent.Scene((1, 1)).layer('menu', modla=True)",
        "layer.add('d', nav={'left': layer}, opener=layer, feel={'hold_delay': 1}).nav = None",
    )
    file.write_text("\n".join(lines))
    said = subprocess.run(
        [sys.executable, "-m", "mypy", "--strict", "--config-file=", str(file)], capture_output=True, text=True
    ).stdout
    for line, words in ((3, 'did you mean "visible"?'), (4, "'glass'"), (5, "bool"), (6, 'did you mean "modal"?')):
        assert any(f"desk.py:{line}: error" in one and words in one for one in said.splitlines()), said
    assert "Found 4 errors" in said
