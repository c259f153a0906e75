"""The gallery of Kelp Harbour: one of each control in five recordings, its contract, its window, its keys in a file."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

import pytest

import glent
from glent.controls import ScreenKeys, TextField
from glent.demo import GALLERY, RADIO_PAD, RECORDINGS
from glent.demo.gallery_shift import SCRIPTS, record
from glent.demo.worlds import manned_gallery, played
from glent.formats import EventLog, FileError, log_rows, read_key_layout, read_recording, write_recording
from glent.testing import Hand
from test_command_line import run


def watched(name: str) -> tuple[list, object]:
    router, gallery = manned_gallery(on_error=lambda error, event: pytest.fail(f"{event}: {error!r}"))
    return played(router, gallery, read_recording(RECORDINGS[name])), gallery


@pytest.mark.parametrize("name", SCRIPTS)
def test_the_shipped_recording_is_what_the_script_plays_and_replays_byte_for_byte(name: str, tmp_path: Path) -> None:
    write_recording(record(name), tmp_path / "again.jsonl")
    assert (tmp_path / "again.jsonl").read_bytes() == RECORDINGS[name].read_bytes()
    digest = hashlib.sha256(GALLERY.read_bytes()).hexdigest()
    assert read_recording(RECORDINGS[name]).scene == digest
    logs = [EventLog(digest, log_rows(watched(name)[0])).lines() for _ in range(2)]
    assert logs[0] == logs[1]


TOLD = {
    "orders": ["anchovy goes out", "the fog lamp is lit", "the line is cast off",
               "the lamp flashes long", "barge 7: hold it"],
    "levels": [],
    "stowing": ["kelp lies in a2 now", "anvil stays: anvil weighs 90 kg, and the upper row bears 40",
                "rope lies in b1 now", "rope lies in a1 now", "oskar is called"],
    "menus": ["light-buoy: bell"],
    "radio": ["hailed: GULL  11", "the cabinet opens"],
}  # fmt: skip


@pytest.mark.parametrize("name", SCRIPTS)
def test_what_was_done_at_the_gallery(name: str) -> None:
    steps, gallery = watched(name)
    assert gallery.orders == TOLD[name]
    notes = {step.note.partition(":")[0] for step in steps if step.note}
    assert notes
    if name == "orders":
        assert gallery.controls["desk/orders/tugs/bramble"].reason == "bramble is 910 m out, beyond 400 m"
        gallery.show()
        assert "bramble is 910 m out" in gallery.scene["desk/orders/lamps/notices"].facts["text"]
        assert gallery.watch.current == "morning"
    if name == "levels":
        assert (gallery.tide.current, round(gallery.hook[1])) == (3.75, 49)
        assert gallery.scene["popups/tide-tip"].visible


def test_the_contract_of_the_gallery_on_the_command_line(tmp_path: Path) -> None:
    said = run("contract", "gallery", "--out", tmp_path / "c.json")
    assert "send-tug" in said
    assert "request" in said
    given = json.loads((tmp_path / "c.json").read_text())
    assert run("contract", "gallery", "--against", tmp_path / "c.json") == said
    given["ends"] = [end for end in given["ends"] if end["name"] != "hail"]
    (tmp_path / "c.json").write_text(json.dumps(given))
    told = json.loads(run("contract", "gallery", "--against", tmp_path / "c.json", "--json", code=1))
    assert told["changes"] == ["hail is new: event of text"]
    assert run("contract", "harbour").strip()


def test_the_gallery_in_a_window(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("SDL_VIDEODRIVER", "dummy")
    run("play", "gallery", "--seconds", "0.2", "--shot", tmp_path / "g.png", "--record", tmp_path / "g.jsonl")
    assert (tmp_path / "g.png").stat().st_size > 20_000
    assert read_recording(tmp_path / "g.jsonl").scene == hashlib.sha256(GALLERY.read_bytes()).hexdigest()


def test_t5_the_gallery_is_wired_anew_when_its_file_was_read_again(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("SDL_VIDEODRIVER", "dummy")
    import pygame

    from glent.demo.window import Window
    from glent.demo.worlds import manned_gallery as manned

    file = tmp_path / "gallery.yaml"
    text = GALLERY.read_text()
    file.write_text(text)
    router, gallery = manned(file)
    window = Window(router, gallery, watched=file)
    gallery.controls["desk/levels/tide"].value.current = 3
    slider = gallery.controls["desk/levels/tide"]
    kept = gallery.controls["desk/levels/wind"]
    file.write_text(text.replace("control: {high: 4, step: 0.25, start: 1}", "control: {high: 8}"))
    window.reload()
    assert "1 changed" in window.said
    assert gallery.controls["desk/levels/tide"] is not slider
    assert gallery.controls["desk/levels/wind"] is kept
    gallery.tide.current = 2.0
    assert gallery.controls["desk/levels/tide"].value.current == 2.0
    assert slider.value.current == 3  # the old one is bound to nothing any more
    hand = Hand(router, start=1.0)
    hand.drag("desk/levels/hold/a1", "desk/levels/hold/a3")
    assert gallery.orders == ["kelp lies in a3 now"]
    file.write_text(text.replace("control: {high: 4,", "wiring: {values: {value: ebb}}, control: {high: 4,"))
    window.reload()
    assert "ebb: is a value of desk/levels/tide, and nothing in the game binds it" in window.said
    file.write_text(text.replace("{kind: tooltip, target: desk/levels/tide}", "{kind: tooltip, target: desk/nowhere}"))
    window.reload()
    assert "found 'desk/nowhere'; expected the path of a node" in window.said
    pygame.quit()


def test_keys_on_the_screen_from_a_file_type_where_the_focus_is(tmp_path: Path) -> None:
    scene = glent.Scene((800, 600))
    desk = scene.layer("desk")
    field = TextField(desk.add("sign", place=glent.Place(height=40)))
    keys = ScreenKeys(desk.add("keys", place=glent.Place(top=100)), read_key_layout(RADIO_PAD))
    router = glent.Router(scene)
    hand = Hand(router)
    labels = {label: path for path, label in keys.labels.items()}
    hand.click("desk/sign")
    for label in ("k", "e", "shift", "l", "p", "-", "erase", "<", "space", "enter", "shift", "shift", "a"):
        hand.click(f"desk/keys/{labels[label]}")
    assert router.seat().focus is field.node
    assert (field.value.current, keys.shift, field.caret) == ("keL Ap", "locked", 5)
    hand.click(f"desk/keys/{labels['clear']}")
    assert field.value.current == ""
    for text, words in (
        ("rows: []", "rows"), ("rows: [[]]", "rows[0]"), ("rows: [[{does: hum}]]", "'hum'"), ("keys: 3", "keys"),
    ):  # fmt: skip
        (tmp_path / "k.yaml").write_text(f"glent: key-layout\nversion: 1\n{text}\n")
        with pytest.raises(FileError) as caught:
            read_key_layout(tmp_path / "k.yaml")
        assert words in str(caught.value)
    with pytest.raises(FileError, match="ends in '.txt'"):
        read_key_layout(tmp_path / "k.txt")
    assert json.loads(run("schema", "key-layout"))["title"] == "Glent key layout"
