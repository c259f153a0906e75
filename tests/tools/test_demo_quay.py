"""The quay of Kelp Harbour: seven recordings, which meet every law of gestures."""

from __future__ import annotations

import hashlib
import re
from collections import Counter
from pathlib import Path

import pytest

from glent import Reason, TickSample
from glent.demo import QUAY, RECORDINGS
from glent.demo.quay_shift import SCRIPTS, record
from glent.demo.worlds import manned_quay
from glent.diagnose import spans_of
from glent.formats import EventLog, log_rows, read_recording, replay, write_recording


def played(name: str) -> tuple[list, object]:
    router, quay = manned_quay(on_error=lambda error, event: pytest.fail(f"{event}: {error!r}"))
    steps = []
    for step in replay(router, read_recording(RECORDINGS[name])):
        quay.steer(step.sample, step.verdict)
        steps.append(step)
    return steps, quay


@pytest.mark.parametrize("name", SCRIPTS)
def test_the_shipped_recording_is_what_the_script_plays(name: str, tmp_path: Path) -> None:
    write_recording(record(name), tmp_path / "again.jsonl")
    assert (tmp_path / "again.jsonl").read_bytes() == RECORDINGS[name].read_bytes()
    assert read_recording(RECORDINGS[name]).scene == hashlib.sha256(QUAY.read_bytes()).hexdigest()


def test_every_law_of_gestures_is_met() -> None:
    met = {
        law
        for name in SCRIPTS
        for note in read_recording(RECORDINGS[name]).notes.values()
        for law in re.findall(r"[A-Z]\d+", note.partition(":")[0])
    }
    assert met >= {"G1", "G2", "G3", "G4", "G5", "G6", "G7", "G9", "P1", "P2", "P8", "P11", "P12", "T4", "W3"}


@pytest.mark.parametrize(
    ("name", "orders", "won"),
    [
        (
            "crates",
            [
                "kelp is stowed in shelf-2",
                "anvil goes back: too heavy: anvil weighs 90 kg, and shelf-3 bears 40",
                "rope stays where it was (abandoned)",
                "anvil stays where it was (abandoned)",
                "anvil is chosen; click a slot to put it there",
                "anvil is stowed in floor-3",
                "rope falls into the water at (640, 520)",
            ],
            {"drag": 5, "tap": 2},
        ),
        ("manifest", ["slates is ticked off"], {"scroll": 3, "tap": 1}),
        (
            "mooring",
            [
                "hold it longer to cast off the line",
                "the mooring line is cast off",
                "the mooring line is cast off",
                "the lamp is lit by resting on it",
            ],
            {"tap": 3, "hold": 1, "repeat": 1, "dwell": 1},
        ),
        ("sticks", ["the trolley stops (cancelled)", "the winch stops (done)"], {"drag": 2}),
        (
            "chart",
            [
                "the chart is at scale 2.38, turned by 22°",
                "the chart is at scale 2.97, turned by 22°",
                "the bulletin says: tide turns at six",
            ],
            {"pinch": 2, "drag": 1, "tap": 1, "swipe": 2},
        ),
        ("rope", ["the crane's bell rings"], {"rope pull": 2}),
        (
            "mishaps",
            [
                "kelp stays where it was (cancelled)",
                "the trolley stops (done)",
                "anvil stays where it was (cancelled)",
                "hold it longer to cast off the line",
            ],
            {"drag": 3, "tap": 1},
        ),
    ],
)
def test_what_the_quay_did(name: str, orders: list[str], won: dict[str, int]) -> None:
    steps, quay = played(name)
    assert quay.orders == orders
    counted = Counter(span.what for span in spans_of(steps))
    assert {what: counted[what] for what in won} == won
    assert set(counted) - set(won) <= {"undecided", "press", "world", "nobody"}
    again = EventLog(None, log_rows(played(name)[0])).lines()
    assert EventLog(None, log_rows(steps)).lines() == again, "R7"


def test_the_quays_world_follows() -> None:
    _, quay = played("sticks")
    assert quay.trolley > 0.6, "the trolley ran to the right while its stick was held there"
    assert quay.sticks == {"trolley": 0.0, "winch": 0.0}
    _, quay = played("mooring")
    assert quay.ballast > 12
    steps, _ = played("mishaps")
    lifts = [step.verdict.lifts for step in steps if step.verdict.lifts]
    assert lifts == [("mouse/primary",)]
    (drop,) = [step.verdict.drop for step in played("crates")[0] if step.verdict.drop]
    assert (drop.payload, drop.source.path) == ("rope", "quay/hold/rope")


def test_g8_ticks_change_when_things_are_told_and_not_what_comes_of_them() -> None:
    """Without its ticks a recording ends in the same state."""
    for name in ("manifest", "mooring"):
        router, quay = manned_quay()
        for sample in read_recording(RECORDINGS[name]).samples:
            if not isinstance(sample, TickSample):
                router.feed(sample)
        router.tick(100.0)
        with_ticks, full = played(name)
        assert quay.orders == full.orders
        full_router = full.scene.router
        full_router.tick(100.0)
        assert quay.scene["quay/manifest/list"].scroll == full.scene["quay/manifest/list"].scroll
        assert with_ticks


def test_a_press_says_who_competes_and_its_release_what_came_of_it() -> None:
    steps, _ = played("chart")
    contests = [step.verdict.contest for step in steps if step.verdict.contest]
    assert contests[0] == (("pinch", "quay/chart"), ("drag", "quay/chart"))
    ended = [step.verdict.why for step in steps if step.verdict.reason is Reason.ENDED]
    assert ended == [
        "the release ends the pinch of quay/chart: scaled by 2.38, turned by 22.2°",
        "the release ends the drag of quay/chart: it is let go",
        "the release ends the swipe of quay/bulletin: left, at 1876 px/s",
        "the release ends the swipe of quay/bulletin: too short or too slow (130 px at 113 px/s) to be one",
    ]
