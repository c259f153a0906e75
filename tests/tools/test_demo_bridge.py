"""The bridge of Kelp Harbour: who has the input, in seven recordings, and where the focus goes."""

from __future__ import annotations

import hashlib
import json
import re
from pathlib import Path

import pytest

from glent import SeatError
from glent.demo import BRIDGE, RECORDINGS
from glent.demo.bridge_shift import SCRIPTS, record
from glent.demo.worlds import manned_bridge
from glent.diagnose import focus_map
from glent.formats import EventLog, log_rows, read_recording, replay, write_recording
from test_command_line import run


def played(name: str) -> tuple[list, object]:
    router, bridge = manned_bridge(SCRIPTS[name][0], on_error=lambda error, event: pytest.fail(f"{event}: {error!r}"))
    steps = []
    for step in replay(router, read_recording(RECORDINGS[name])):
        bridge.steer(step.sample, step.verdict)
        steps.append(step)
        held = set().union(*(seat.held for seat in router.seats))
        believed = {one for boat in bridge.boats.values() for one in boat.held}
        assert believed <= held, "the boats never steer by what the world does not hold"
    return steps, bridge


@pytest.mark.parametrize("name", SCRIPTS)
def test_the_shipped_recording_is_what_the_script_plays_and_replays_byte_for_byte(name: str, tmp_path: Path) -> None:
    write_recording(record(name), tmp_path / "again.jsonl")
    assert (tmp_path / "again.jsonl").read_bytes() == RECORDINGS[name].read_bytes()
    digest = hashlib.sha256(BRIDGE.read_bytes()).hexdigest()
    assert read_recording(RECORDINGS[name]).scene == digest
    logs = [EventLog(digest, log_rows(played(name)[0])).lines() for _ in range(2)]
    assert logs[0] == logs[1]


def test_every_law_of_who_has_the_input_is_met() -> None:
    notes = [note for name in SCRIPTS for note in read_recording(RECORDINGS[name]).notes.values()]
    met = {law for note in notes for law in re.findall(r"[A-Z]\d+", note.partition(":")[0])}
    assert met >= {"W1", "W2", "W3", "W4", "W5", "M1", "M2", "M3", "M4", "F1", "F2", "F4", "F5", "T1", "T2", "T3", "T4"}


TOLD = {
    "barge": ["main: ahead", "asked: let ferry go? (let go / wait)", "main: keys/KeyW is lifted", "answered: wait",
              "asked: for how long? (a minute / the tide)", "told: waiting for the tide", "main: ahead no more"],
    "menu": ["pause opens", "main: keys/KeyW is lifted", "main: keys/KeyD is lifted", "told: the horn is on KeyB now",
             "pause is closed by back", "main: astern", "main: the horn sounds"],
    "cargo": ["popups/cargo is closed by a press on its button", "popups/cargo is closed by a press outside of it",
              "popups/cargo is closed by back", "cargo: count"],
    "look": ["free look begins, and the cursor is locked", "pause opens", "pause closes", "look is closed by back"],
    "by-keys": ["engine slow", "watching south buoy", "the call sign is kel"],
    "by-pad": ["main: steers by the stick", "pause opens", "main: pad0/left_stick_y is lifted", "pause closes"],
    "pilots": ["second: steers by the stick", "pause-2 opens", "second: pad1/left_stick_y is lifted",
               "main: to starboard", "pause-2 closes", "both opens", "main: keys/KeyW is lifted",
               "second: pad1/left_stick_x is lifted", "both closes", "main: ahead"],
}  # fmt: skip


@pytest.mark.parametrize("name", SCRIPTS)
def test_what_the_pilots_did(name: str) -> None:
    _, bridge = played(name)
    told = iter(bridge.orders)
    for sentence in TOLD[name]:
        assert sentence in told, (sentence, bridge.orders)


def test_free_look_turns_the_view_and_the_menu_does_not() -> None:
    _, bridge = played("look")
    assert bridge.boats["main"].view == pytest.approx((120 + 4 * 60 - 80) * 0.25)


def test_a_recording_of_two_pilots_needs_both() -> None:
    router, _ = manned_bridge(1)
    with pytest.raises(SeatError, match="the recording is of the seats main, second; this router has no second"):
        next(replay(router, read_recording(RECORDINGS["pilots"])))


@pytest.mark.parametrize("shown", [(), ("pause",), ("both",), ("popups/cargo",), ("dialog/barge",)])
def test_the_focus_can_go_everywhere_on_the_bridge_and_leave_again(shown: tuple) -> None:
    router, bridge = manned_bridge()
    if "dialog/barge" in shown:
        bridge.hail()
    for path in shown:
        router.scene[path].visible = True
    found = focus_map(router.scene)
    assert found.problems == []
    assert len(found.stops) >= 1


def test_glent_focus_prints_the_map_draws_it_and_names_what_is_wrong(tmp_path: Path) -> None:
    said = run("focus", "bridge", "--out", tmp_path / "f.png")
    for part in ("bar/cargo", "17 stops, 5 of them by Tab", "all paths are below helm", "the picture is in"):
        assert part in said
    assert (tmp_path / "f.png").stat().st_size > 20_000
    told = json.loads(run("focus", "bridge", "--show", "pause", "--json"))
    assert (told["modal"], [stop["tab"] for stop in told["stops"]], told["problems"]) == ("pause", [1, 2], [])
    assert told["stops"][0]["down"] == "pause/panel/horn-key"
    bad = tmp_path / "bad.yaml"
    bad.write_text(
        "glent: scene\nversion: 2\nsize: [100, 100]\nlayers:\n- name: l\n  modal: true\n  children:\n"
        "  - {name: a, role: button, nav: {right: null, down: null}, place: {width: 9, height: 9}}\n"
        "  - {name: b, role: button, place: {left: 50, top: 50, width: 9, height: 9}}\n"
    )
    assert "found: l/b cannot be reached by directions from l/a" in run("focus", bad, code=1)
    assert "helm has no 'nowhere'" in run("focus", "bridge", "--scope", "helm/nowhere", code=2)


def test_replay_tells_seats_and_lifts() -> None:
    said = run("replay", "bridge", "pilots")
    assert "second: helm-2" in said
    assert "the world lifts" in said
    assert "bridge --pilots 2" in run("play", "quay", "--pilots", "2", code=2)
