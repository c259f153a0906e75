"""Kelp Harbour and its recorded shift, which meets every law of this version."""

from __future__ import annotations

import hashlib
import re
from pathlib import Path

import pytest

import glent
import plain_hits as plain
from glent import PointerSample, Reason
from glent.demo import HARBOUR, SHIFT
from glent.demo import shift as shift_module
from glent.demo.harbour import Harbour
from glent.demo.tour import telling
from glent.diagnose import why
from glent.formats import EventLog, log_rows, read_recording, read_scene, replay, scene_document, write_recording

LAWS = {
    f"{letter}{number}"
    for letter, numbers in {
        "S": range(1, 6),
        "H": range(1, 10),
        "P": (2, 3, 4, 5, 6, 7, 10, 11),
        "R": range(1, 8),
        "W": (1, 6),
    }.items()
    for number in numbers
}


@pytest.fixture(scope="module")
def played() -> tuple[list, Harbour, list]:
    """The shift, replayed, with every law that can be asked checked at every sample."""
    errors: list = []
    router, harbour = shift_module.manned(on_error=lambda error, event: errors.append((error, event)))
    recording = read_recording(SHIFT)
    steps = []
    for number, sample in enumerate(recording.samples):
        asked = None
        if (
            isinstance(sample, PointerSample)
            and sample.action == "press"
            and sample.kind == "mouse"
            and sample.buttons in (1, 2)
        ):
            router.settle()
            asked = router.would_reach_world(sample.x, sample.y)
        verdict = router.feed(sample)
        if asked is not None:
            assert verdict.world == asked, f"W6 at sample {number}"
        if isinstance(sample, PointerSample):
            hits = router.hits(sample.x, sample.y)
            assert [hit.node for hit in hits] == [seen.node for seen in plain.hits(router.scene, sample.x, sample.y)], (
                "H7, H9"
            )
            assert [one.node for one in why(router, sample.x, sample.y) if one.hit] == [hit.node for hit in hits], "H8"
        harbour.steer(sample, verdict)
        steps.append((sample, verdict, recording.notes.get(number)))
    return steps, harbour, errors


def test_the_shift_is_long_enough_and_meets_every_law(played: tuple) -> None:
    steps, _, _ = played
    assert len(steps) >= 400
    met = {law for _, _, note in steps if note for law in re.findall(r"[SHPRW]\d+", note.partition(":")[0])}
    assert met >= LAWS, LAWS - met
    words = "OPEN PASSED SOLID REACHED GLASS TAKEN HELD WORLD_HELD DISABLED SPENT WINDOW"
    assert {verdict.reason for _, verdict, _ in steps} >= {Reason[word] for word in words.split()}


def verdict_at(steps: list, note: str) -> glent.Verdict:
    (found,) = [verdict for _, verdict, said in steps if said and said.startswith(note)]
    return found


@pytest.mark.parametrize(
    ("note", "world", "owner", "reason"),
    [
        ("W1, W6: open water", True, None, Reason.OPEN),
        ("P2: the release over a panel", True, None, Reason.WORLD_HELD),
        ("S1:", False, "hud/toolbar", Reason.SOLID),
        ("S2: the fog", True, None, Reason.PASSED),
        ("S2, P2: the tide dial", False, "dial/tide", Reason.GLASS),
        ("S4:", False, "hud/toolbar", Reason.SOLID),
        ("S3, H4: the crane's box", True, None, Reason.OPEN),
        ("S5: a disabled", False, None, Reason.DISABLED),
        ("S5: nor the release", False, None, Reason.DISABLED),
        ("S5, G4", False, "hud/tugs/list/dabchick", Reason.SOLID),
        ("H1: the compass lies", False, "hud/compass", Reason.SOLID),
        ("H2:", True, None, Reason.OPEN),
        ("H3:", False, "hud/hold", Reason.SOLID),
        ("S3, P10", False, "hud/hold/crates", Reason.TAKEN),
        ("H4, H6", False, "hud/crane/mast", Reason.SOLID),
        ("H4: the mask", False, "hud/crane/hook", Reason.SOLID),
        ("P2: the icon", False, "hud/toolbar/send-tug", Reason.SOLID),
        ("P3: a release outside", False, "hud/toolbar/recall", Reason.HELD),
        ("P10: … a second", False, "hud/toolbar/horn", Reason.HELD),
        ("H5: a finger", False, "hud/toolbar/send-tug", Reason.REACHED),
        ("H5: but not", False, "hud/toolbar/recall", Reason.SOLID),
        ("R2:", False, "hud/toolbar/watch/relief", Reason.SOLID),
        ("P11: the pointer is spent", False, None, Reason.SPENT),
        ("W1: where the panel was", True, None, Reason.OPEN),
    ],
)
def test_the_shifts_decisions(played: tuple, note: str, world: bool, owner: str | None, reason: Reason) -> None:
    verdict = verdict_at(played[0], note)
    assert (verdict.world, verdict.owner.path if verdict.owner else None, verdict.reason) == (world, owner, reason)


def test_what_the_desk_and_the_water_did(played: tuple) -> None:
    steps, harbour, errors = played
    assert [str(error) for error, _ in errors] == ["the hook is jammed"], "R5"
    assert not any("still here" in order for order in harbour.orders), "R3"
    assert verdict_at(steps, "R6: here").inner[0].reason is Reason.OPEN, "R6"
    assert verdict_at(steps, "P11: the focus goes").lifts == ("mouse/primary",)
    said = [order for order in harbour.orders if not order.startswith("log: ")]
    assert [order for order in said if order.startswith("the horn")] == [
        "the horn is freed",
        "the horn sounds, 1 in a row",
        "the horn sounds, 1 in a row",
        "the horn sounds, 2 in a row",
    ], "R4, G1"
    assert "the watch is relieved" in said
    assert "the watch is noted" not in said
    assert "log: relief" in harbour.orders, "R1: capture comes first"
    sent = [
        (sample.x, sample.y)
        for sample, verdict, _ in steps
        if verdict.world and isinstance(sample, PointerSample) and sample.action == "release"
    ]
    assert len(sent) == sum(" is sent to " in order for order in said) == 7
    assert harbour.turned != 0
    assert harbour.zoom > 1


def test_the_shipped_recording_is_what_the_script_plays(tmp_path: Path) -> None:
    write_recording(shift_module.record(), tmp_path / "again.jsonl")
    assert (tmp_path / "again.jsonl").read_bytes() == SHIFT.read_bytes()
    assert read_recording(SHIFT).scene == hashlib.sha256(HARBOUR.read_bytes()).hexdigest()


def log_of(scene: Path) -> EventLog:
    router, _ = shift_module.manned(scene)
    return EventLog(hashlib.sha256(scene.read_bytes()).hexdigest(), log_rows(replay(router, read_recording(SHIFT))))


def test_r7_two_replays_are_byte_for_byte_the_same_and_a_changed_byte_shows(tmp_path: Path) -> None:
    one, two, moved = tmp_path / "1.jsonl", tmp_path / "2.jsonl", tmp_path / "moved.yaml"
    log_of(HARBOUR).write(one)
    log_of(HARBOUR).write(two)
    assert one.read_bytes() == two.read_bytes()
    assert not log_of(HARBOUR).differences(one)
    moved.write_text(HARBOUR.read_text().replace("{left: 360, top: 8, width: 120", "{left: 390, top: 8, width: 120"))
    found = log_of(moved).differences(one)
    assert len(found) > 2
    assert found[0].startswith("header: it was")
    moved.write_text(HARBOUR.read_text() + "#")
    assert len(log_of(moved).differences(one)) == 1, "a comment changes the scene's digest and nothing else"


def test_ten_telling_decisions() -> None:
    router, _ = shift_module.manned()
    assert len(telling(list(replay(router, read_recording(SHIFT))))) == 10


def test_the_harbours_scene_loads_alone_and_saves_as_it_was() -> None:
    scene = read_scene(HARBOUR)
    assert scene_document(scene)["size"] == [1280, 720]
    assert scene.find("icon")[0].path == "hud/toolbar/send-tug/icon"
    assert len(scene.find(lambda node: node.role == "option")) == 12
