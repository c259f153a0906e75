"""What recordings meet of a game, and what never: nodes, handlers, kinds, laws, misses, the time to click."""

from __future__ import annotations

import json
from collections import Counter
from math import hypot, log2
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

import compared
from glent import Place, PointerSample, Router, Scene
from glent.cli import main
from glent.cli.recordings import game_of
from glent.core.routing.reasons import LAW_NAMES, LAWS, Reason
from glent.demo import QUAY, RECORDINGS
from glent.formats import Recording, log_rows, read_recording, replay
from glent.review import cover, coverage_tables
from glent.testing import Hand

POINTS = st.lists(
    st.tuples(st.integers(0, 399), st.integers(0, 299), st.sampled_from(["click", "press", "release", "move", "drag"])),
    max_size=20,
)


def nested(runs: Counter[tuple[str, str, str]]) -> Router:
    """Handlers in both phases on nested nodes: some take, some remove, some raise; each counts its own runs."""
    scene = Scene((400, 300))
    desk = scene.layer("desk")
    dock = desk.add("dock", place=Place(20, 20, width=300, height=200), solidity="solid")
    horn = dock.add("horn", role="button", label="Horn", place=Place(10, 10, width=100, height=80))
    lamp = dock.add("lamp", role="button", label="Lamp", place=Place(150, 10, width=100, height=80), carries=["click"])
    raft = dock.add("raft", place=Place(10, 110, width=100, height=80), solidity="glass")

    def hears(node: Any, kind: str, phase: str, does: Any = None) -> None:
        def handler(event: Any) -> None:
            runs[node.path, kind, phase] += 1
            if does is not None:
                does(event)

        node.on(kind, handler, phase)

    for node, kind, phase, does in (
        (dock, "click", "capture", None),
        (dock, "press", "bubble", None),
        (horn, "click", "bubble", lambda event: event.take()),
        (dock, "click", "bubble", None),
        (lamp, "click", "bubble", lambda event: 1 / 0),
        (raft, "click", "bubble", lambda event: lamp.remove()),
        (raft, "drag", "bubble", None),
        (lamp, "enter", "bubble", None),
        (horn, "leave", "bubble", None),
        (desk, "wheel", "bubble", None),
    ):
        hears(node, kind, phase, does)
    return Router(scene, on_error=lambda error, event: None)


def played(points: list[tuple[int, int, str]], router: Router) -> Recording:
    recording = Recording((400, 300))
    hand = Hand(router, tap=recording.add)
    for x, y, action in points:
        if action in ("click", "move"):
            getattr(hand, action)((x, y))
        elif action == "drag":
            hand.drag(hand.pos, (x, y))
        else:
            getattr(hand, action)()
    return recording


@given(POINTS)
@settings(max_examples=120, deadline=None)
def test_d4_handlers_are_counted_as_they_run_and_nothing_else_changes(
    points: list[tuple[int, int, str]],
) -> None:
    ran: Counter[tuple[str, str, str]] = Counter()
    recording = played(points, nested(ran))
    alone: Counter[tuple[str, str, str]] = Counter()
    rows = list(log_rows(replay(nested(alone), recording)))
    counted: Counter[tuple[str, str, str]] = Counter()
    games = []

    def build(recording: object) -> Router:
        games.append(nested(counted))
        return games[-1]

    found = cover(build, [("one", recording)])
    assert counted == alone == ran
    assert {(one.path, one.kind, one.phase): one.runs for one in found.handlers} == {
        **dict.fromkeys(((one.path, one.kind, one.phase) for one in found.handlers), 0), **ran
    }  # fmt: skip
    assert len(found.handlers) == 10
    assert found.kinds == Counter(row.event for row in rows if row.event is not None)
    assert {LAWS[reason] for reason in found.reasons} == {LAWS[Reason[row.reason.upper()]] for row in rows}
    assert set(found.unsent()) == {
        one.kind for one in found.handlers if all(row.event != one.kind for row in rows)
    }  # fmt: skip


@given(st.lists(st.tuples(st.integers(0, 399), st.integers(0, 299)), max_size=8))
@settings(max_examples=80, deadline=None)
def test_misses_are_measured_to_the_nearest_target(points: list[tuple[int, int]]) -> None:
    recording = Recording((400, 300))
    hand = Hand(compared.plain(None), tap=recording.add)
    for point in points:
        hand.click(point)
    found = cover(compared.plain, [("one", recording)])
    boxes = {
        name: (10 + at % 4 * 95, 10 + at // 4 * 95) for name, at in zip(compared.NAMES, (0, 1, 2, 5, 6, 7), strict=True)
    }

    def away(name: str, x: float, y: float) -> float:
        left, top = boxes[name]
        return hypot(max(left - x, 0, x - left - 80), max(top - y, 0, y - top - 60))

    def inside(name: str, x: float, y: float) -> bool:
        left, top = boxes[name]
        return left <= x < left + 80 and top <= y < top + 60

    missed = [(x, y) for x, y in points if not any(inside(name, x, y) for name in boxes)]
    assert [(one.x, one.y) for one in found.misses] == missed
    for one in found.misses:
        nearest = min(away(name, one.x, one.y) for name in boxes)
        assert one.away == pytest.approx(nearest)
        assert away(str(one.nearest).removeprefix("desk/"), one.x, one.y) == pytest.approx(nearest)
        assert one.to == "world"
        assert one.near == (0.0 < nearest <= 24.0)
    assert len(found.presses) == len(points)
    reached = {f"desk/{name}" for x, y in points for name in boxes if inside(name, x, y)}
    assert {path for path, use in found.nodes.items() if use.reached} == reached
    assert found.share == len(reached) / 6


def test_the_slope_of_the_time_to_click_is_found_again() -> None:
    router = compared.plain(None)
    recording = Recording((400, 300))
    time, at = 0.0, (0.0, 0.0)
    for number in range(30):
        name = compared.NAMES[number * 7 % 6]
        to = Hand(router).point(f"desk/{name}")
        bits = log2(hypot(to[0] - at[0], to[1] - at[1]) / 60.0 + 1.0)
        begun = time + 0.5
        recording.add(PointerSample(begun, "move", *(((at[0] + to[0]) / 2, (at[1] + to[1]) / 2) if number else at)))
        time = begun + 0.2 + 0.15 * bits
        recording.add(PointerSample(time, "move", *to))
        recording.add(PointerSample(time, "press", *to, button=0, buttons=1))
        time += 0.05
        recording.add(PointerSample(time, "release", *to, button=0))
        at = to
    found = cover(compared.plain, [("one", recording)])
    assert found.fitts() == pytest.approx((0.2, 0.15))
    (target,) = {(one.path, one.width) for one in found.clicks if one.path == "desk/horn"}
    assert target[1] == 60.0
    assert cover(compared.plain, []).fitts() is None


def test_what_its_own_press_removes_and_handlers_of_one_name_are_counted_once() -> None:
    def build(recording: object) -> Router:
        scene = Scene((100, 100))
        flare = scene.layer("desk").add("flare", role="button", label="Flare", place=Place(10, 10, width=60, height=60))
        for _ in range(2):
            flare.on("press", lambda event: event.node.remove())
        return Router(scene)

    recording = Recording((100, 100))
    hand = Hand(build(None), tap=recording.add)
    hand.move((90, 90))
    hand.click((40, 40), steps=4)
    found = cover(build, [("one", recording)])
    assert (found.failed, found.clicks, [one.runs for one in found.handlers]) == ({}, [], [1])
    assert found.nodes["desk/flare"].presses == 1


def test_recordings_that_cannot_be_fed_are_told_and_the_others_count() -> None:
    found = cover(compared.failing, [("bad", Recording((333, 300))), ("good", Recording((400, 300)))])
    assert (found.failed, found.recordings) == ({"bad": "the pier is closed"}, 2)


def test_the_shipped_recordings_as_tables() -> None:
    names = ("crates", "mooring", "sticks", "chart", "rope")
    found = cover(lambda recording: game_of(QUAY, (), recording), [(n, read_recording(RECORDINGS[n])) for n in names])
    tables = coverage_tables(found)
    assert set(tables) == {"nodes", "handlers", "misses", "targets", "reasons"}
    assert len(tables["nodes"]) == len(found.nodes)
    assert int(tables["reasons"]["times"].sum()) == sum(found.reasons.values())
    assert set(LAW_NAMES) == set(LAWS.values())
    assert set(LAWS) == set(Reason)
    assert set(found.unmet()).isdisjoint({LAWS[one] for one in found.reasons})


def test_the_command_draws_writes_a_page_and_tells(tmp_path: Path) -> None:
    page, picture = tmp_path / "met.html", tmp_path / "met.svg"

    def run(*words: object) -> Any:
        return CliRunner().invoke(main, ["coverage", *map(str, words)])

    done = run("harbour", "night-shift", "--out", page)
    assert done.exit_code == 0, done.output
    assert "hud/toolbar/flares" in done.output
    assert "nodes were reached" in done.output
    text = page.read_text()
    assert text.count("data:image/png;base64,") == 1
    assert not any(word in text for word in ("http:", "https:", "<script", 'src="/', "@import"))
    assert "<title>harbour: what 1 recording met</title>" in text
    assert run("harbour", "night-shift", "--out", picture).exit_code == 0
    assert "presses" in picture.read_text()
    row = json.loads(run("quay", "crates", "--json").stdout)
    assert 0.0 < row["reached"] < 1.0
    assert run("quay", "crates", "--least", "1").exit_code == 0
    assert run("quay", "crates", "--least", "99").exit_code == 1
    (tmp_path / "bad.jsonl").write_text("kelp\n")
    assert run("quay", tmp_path / "bad.jsonl").exit_code in (1, 2)
