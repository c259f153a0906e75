"""The last decisions of a router, and what its errors say in a log."""

from __future__ import annotations

import logging
from pathlib import Path

import pytest

from glent import PointerSample, Router, SampleError, Scene, TickSample
from glent.demo import RECORDINGS, SCENES
from glent.formats import (
    EventLog,
    log_rows,
    read_recording,
    read_scene,
    replay,
    write_trace,
)
from glent.testing import Hand


@pytest.mark.parametrize(
    ("scene", "recording"), [("harbour", "night-shift"), ("tower", "two-hands"), ("quay", "sticks")]
)
def test_d4_a_traced_router_does_the_same_and_its_trace_is_what_it_was_fed(
    scene: str, recording: str, tmp_path: Path
) -> None:
    given = read_recording(RECORDINGS[recording])
    plain = Router(read_scene(SCENES[scene]), on_error=lambda error, event: None)
    traced = Router(read_scene(SCENES[scene]), on_error=lambda error, event: None, trace=100_000)
    logs = [EventLog(None, log_rows(replay(one, given))).lines() for one in (plain, traced)]
    assert logs[0] == logs[1]
    assert plain.trace is None
    kept = [sample for sample, _ in traced.trace]
    assert kept == [sample for sample in given.samples if not isinstance(sample, TickSample) or sample in kept]
    assert all(verdict.why for _, verdict in traced.trace)
    write_trace(traced, tmp_path / "trace.jsonl")
    again = Router(read_scene(SCENES[scene]), on_error=lambda error, event: None)
    dumped = read_recording(tmp_path / "trace.jsonl")
    for step in replay(again, dumped):
        told = f"{'world' if step.verdict.world else 'not the world'}: {step.verdict.why}"
        assert step.note == told


def test_a_trace_has_room_for_so_many_the_idle_moves_and_drags_among_them() -> None:
    scene = Scene((400, 300))
    node = scene.layer("desk").add("crate", solidity="solid")
    node.on("drag", lambda event: None)
    router = Router(scene, trace=20)
    hand = Hand(router)
    for x in range(30):
        hand.move((10.0 + x, 10.0))
    assert [sample.x for sample, _ in router.trace] == [20.0 + x for x in range(20)]
    assert len({id(verdict) for _, verdict in router.trace}) == 1, "idle moves share their verdict"
    hand.drag((50.0, 50.0), (200.0, 200.0), steps=40)
    told = [verdict.gesture for _, verdict in router.trace]
    assert told[:-1] == ["drag"] * 19
    assert len(router.trace) == 20
    assert repr(router.trace) == "<Trace of 20 decisions>"
    for size in (0, -1, 1.5, True, "many", 10**9):
        with pytest.raises(SampleError, match="expected how many decisions to keep"):
            Router(Scene((10, 10)), trace=size)
    with pytest.raises(SampleError, match="make it with trace="):
        write_trace(Router(Scene((10, 10))), "nowhere.jsonl")


def test_errors_of_handlers_are_logged_with_fields(caplog: pytest.LogCaptureFixture) -> None:
    scene = Scene((400, 300))
    scene.layer("desk").add("horn", role="button").on("press", lambda event: 1 / 0)
    router = Router(scene)
    with caplog.at_level(logging.ERROR, "glent"):
        router.feed(PointerSample(1.0, "press", 10, 10, "finger", "touch"))
        router.at(2.0, lambda due: 1 / 0)
        router.tick(3.0)
    first, second = caplog.records
    assert first.name == "glent.routing"
    assert (first.glent_node, first.glent_event, first.glent_pointer, first.glent_seat, first.glent_time) == (
        "desk/horn", "press", "finger", "main", 1.0,
    )  # fmt: skip
    assert "desk/horn" in first.getMessage()
    assert second.glent_node is None
