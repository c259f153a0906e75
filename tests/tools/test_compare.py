"""What a change does: the same recordings fed to a game before and after it (law D6)."""

from __future__ import annotations

import json
import os
import signal
from functools import partial
from pathlib import Path
from typing import Any

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

import compared
from glent import GlentError, Router, SampleError, SeatError
from glent.cli import main
from glent.cli.recordings import game_of
from glent.demo import AT_QUAY, BRIDGE, QUAY, RECORDINGS
from glent.demo.worlds import manned_tower
from glent.formats import Recording, Step, log_rows, prepare_replay, read_recording, write_recording
from glent.review import Comparison, compare, compare_all, comparison_table, write_comparisons
from glent.testing import Hand, Wand

NAMES = compared.NAMES


def told(router: Router, recording: Recording) -> list[list[tuple[Any, ...]]]:
    """What came of each sample, by the event log: the judge."""
    prepare_replay(router, recording)
    found = []
    for number, sample in enumerate(recording.samples):
        rows = log_rows([Step(number, sample, router.feed(sample), None)])
        found.append([(one.world, one.owner, one.lifts, one.event, one.node, one.taken_by) for one in rows])
    return found


@pytest.mark.parametrize("name", sorted(AT_QUAY))
def test_d6_a_game_is_as_itself(name: str) -> None:
    build = partial(game_of, QUAY, ())
    for by in ("point", "node"):
        found = compare(build, build, read_recording(RECORDINGS[name]), by)
        assert (found.status, found.changes, found.receivers, found.before) == ("same", (), {}, ())
        assert found.samples == len(read_recording(RECORDINGS[name]).samples)


@given(
    st.lists(st.tuples(st.integers(0, 399), st.integers(0, 299), st.sampled_from(["move", "press", "release"]))),
    st.booleans(),
    st.sets(st.sampled_from(NAMES)),
)
@settings(max_examples=60, deadline=None)
def test_d6_what_comes_out_otherwise_is_what_the_logs_say(
    points: list[tuple[int, int, str]], fog: bool, hidden: set[str]
) -> None:
    recording = Recording((400, 300))
    hand = Hand(compared.plain(None), tap=recording.add)
    for x, y, action in points:
        hand.pos = (float(x), float(y))
        getattr(hand, action)(*([hand.pos] if action == "move" else []))

    def after(recording: object) -> Router:
        return compared.desk([0, 1, 2, 5, 6, 7], fog, tuple(hidden))

    found = compare(compared.plain, after, recording)
    was, now = told(compared.plain(None), recording), told(after(None), recording)
    otherwise = [number for number, (one, two) in enumerate(zip(was, now, strict=True)) if one != two]
    assert [change.number for change in found.changes] == otherwise
    assert found.many == len(otherwise)
    assert found.flipped == sum(was[n][0][0] != now[n][0][0] for n in otherwise)
    assert bool(found.before and found.after) == bool(otherwise)
    if otherwise:
        first = found.changes[0]
        assert any(first.was.why in sentence for sentence in found.before)
        assert any(first.now.why in sentence for sentence in found.after)


@given(st.permutations(range(12)), st.lists(st.tuples(st.sampled_from(NAMES), st.sampled_from(["click", "drag"]))))
@settings(max_examples=60, deadline=None)
def test_d6_aimed_at_nodes_one_that_has_moved_is_no_difference(places: list[int], acts: list[tuple[str, str]]) -> None:
    recording = Recording((400, 300))
    hand = Hand(compared.plain(None), tap=recording.add)
    for name, act in acts:
        at = hand.point(f"desk/{name}", (0.3, 0.7))
        hand.click(at) if act == "click" else hand.drag(at, (at[0] + 20.0, at[1] + 5.0))

    def after(recording: object) -> Router:
        return compared.desk(places)

    # From one to another node a press and its release are where the node is; between presses a hover follows it.
    found = compare(compared.plain, after, recording, "node")
    kinds = {kind for change in found.changes for kind, _, _ in change.receivers}
    assert kinds <= {"enter", "leave", "move"}, found.changes[0]
    assert all(change.was.to == change.now.to or change.action == "move" for change in found.changes)


def test_d6_a_ray_is_aimed_at_nodes_of_panels() -> None:
    recording = Recording((1280, 720))
    wand = Wand(manned_tower()[0], (0.0, 1.6, 0.4), tap=recording.add)
    for node in manned_tower()[0].scene.walk():
        if node.root._in_world and node.is_control and node.is_visible and min(node.size) > 0:
            wand.click(node.path)
    assert recording.samples

    def after(recording: object) -> Router:
        router = manned_tower()[0]
        for panel in router.scene.in_world:
            if panel.children:
                x, y, z = panel.pose.position
                panel.pose = panel.pose.at((x + 0.15, y, z))
        return router

    assert compare(lambda recording: manned_tower()[0], after, recording, "node").status == "same"


def test_d6_a_node_that_is_gone_leaves_its_samples_where_they_were(tmp_path: Path) -> None:
    recording = read_recording(compared.clicks(tmp_path / "horn.jsonl", ["horn"]))
    found = compare(compared.plain, lambda _: compared.desk([0, 1], hidden=("horn",)), recording, "node")
    assert found.receivers["click", "desk/horn", None] == 1
    assert found.flipped == 3  # the move onto it, press and release are the world's


def test_d6_a_recording_that_cannot_be_fed_is_a_result(tmp_path: Path) -> None:
    paths = [compared.clicks(tmp_path / "a.jsonl", ["wait"]), compared.clicks(tmp_path / "b.jsonl", ["moor"], 333.0)]
    (tmp_path / "c.jsonl").write_text("kelp\n")
    write_recording(Recording((400, 300), seats=("main", "second")), tmp_path / "d.jsonl")
    paths += [tmp_path / "c.jsonl", tmp_path / "d.jsonl", tmp_path / "e.jsonl"]
    found = list(compare_all(compared.plain, compared.failing, paths))
    assert [one.status for one in found] == ["changed", "failed", "failed", "failed", "failed"]
    assert found[1].failed == "RuntimeError: the pier is closed"
    assert "line 1" in str(found[2].failed)
    assert "no second" in str(found[3].failed)
    with pytest.raises(SeatError):
        compare(compared.plain, compared.plain, Recording((400, 300), seats=("main", "second")))
    for wrong in ({"by": "colour"}, {"jobs": 0}, {"jobs": True}):
        with pytest.raises(SampleError):
            compare_all(compared.plain, compared.plain, paths, **wrong)  # type: ignore[arg-type]


def test_d6_a_game_that_cannot_be_sent_is_refused_at_once(tmp_path: Path) -> None:
    paths = [compared.clicks(tmp_path / "a.jsonl", ["wait"])]
    for how in ({"jobs": 2}, {"dask": "tcp://127.0.0.1:1"}):
        with pytest.raises(SampleError, match="after cannot be sent to other processes: .*expected a function"):
            compare_all(compared.plain, lambda recording: compared.foggy(recording), paths, **how)  # type: ignore[arg-type]
    (one,) = compare_all(compared.plain, lambda recording: compared.foggy(recording), paths)
    assert one.status == "changed"


def test_d6_recordings_of_one_name_are_told_apart_by_their_folders(tmp_path: Path) -> None:
    for folder in ("monday", "tuesday"):
        (tmp_path / folder).mkdir()
        compared.clicks(tmp_path / folder / "watch.jsonl", ["wait"])
    found = compare_all(compared.plain, compared.foggy, sorted(tmp_path.rglob("*.jsonl")))
    assert [one.recording for one in found] == ["watch", "tuesday/watch"]


def many(folder: Path) -> list[Path]:
    found = []
    for number in range(12):
        names = [NAMES[number % 6], NAMES[number * 5 % 6]]
        found.append(compared.clicks(folder / f"watch-{number:02}.jsonl", names, 400.0 + number % 3))
    return found


def test_d6_processes_of_this_machine_make_the_same_bytes_also_where_one_is_killed(tmp_path: Path) -> None:
    paths = many(tmp_path)
    alone = list(compare_all(compared.plain, compared.foggy, paths))
    assert {one.status for one in alone} == {"changed", "same"}
    write_comparisons(alone, tmp_path / "alone.parquet")
    table = comparison_table(alone)
    assert list(dict.fromkeys(table["recording"])) == [path.stem for path in paths]
    assert len(table) == sum(max(1, one.many) for one in alone)
    for number, build in enumerate((compared.foggy, partial(compared.killed_once, str(tmp_path)))):
        found = list(compare_all(compared.plain, build, paths, jobs=2))
        assert found == alone
        write_comparisons(found, tmp_path / f"{number}.parquet")
        assert (tmp_path / f"{number}.parquet").read_bytes() == (tmp_path / "alone.parquet").read_bytes()
    assert (tmp_path / "0").exists()  # it was killed
    again = tmp_path / "again"
    again.mkdir()
    found = list(compare_all(compared.plain, partial(compared.killed, str(again), 99), paths[:4], jobs=2))
    assert found == [alone[0], Comparison("watch-01", failed="its process was killed, 3 times"), *alone[2:4]]


@pytest.mark.filterwarnings("ignore")
def test_d6_a_cluster_makes_the_same_bytes_and_loses_nothing_with_a_worker(tmp_path: Path) -> None:
    from distributed import LocalCluster

    paths = many(tmp_path) * 3
    alone = list(compare_all(compared.plain, compared.foggy, paths))
    with pytest.raises(GlentError, match="no Dask scheduler at kelp"):
        next(compare_all(compared.plain, compared.foggy, paths, dask="kelp"))
    with LocalCluster(
        n_workers=2, threads_per_worker=1, dashboard_address=None, silence_logs=50, host="127.0.0.1"
    ) as cluster:
        found: list[Comparison] = []
        for one in compare_all(compared.plain, compared.foggy, paths, dask=cluster.scheduler_address):
            found.append(one)
            if len(found) == 5:
                os.kill(next(iter(cluster.workers.values())).pid, signal.SIGKILL)
    assert found == alone
    write_comparisons(found, tmp_path / "cluster.parquet")
    write_comparisons(alone, tmp_path / "alone.parquet")
    assert (tmp_path / "cluster.parquet").read_bytes() == (tmp_path / "alone.parquet").read_bytes()


def test_the_command_tells_what_has_changed(tmp_path: Path) -> None:
    def run(*words: object) -> tuple[int, str]:
        done = CliRunner().invoke(main, ["compare", *map(str, words)])
        return done.exit_code, done.output

    folder = tmp_path / "watches"
    folder.mkdir()
    many(folder)
    CliRunner().invoke(main, ["replay", "quay", "rope", "--log", str(folder / "log.jsonl")])
    code, text = run("quay", "quay", folder)
    assert (code, text.splitlines()[-1]) == (0, "12 recordings, 120 samples: 12 same")
    copy = tmp_path / "bridge.yaml"
    copy.write_text(BRIDGE.read_text())
    out = tmp_path / "changes.parquet"
    code, text = run("quay", "quay", "rope", "crates", "--feel", "touch_threshold=60", "--out", out)
    assert code == 1
    assert "changed" in text
    assert "The first in" in text
    assert out.exists()
    code, text = run("quay", "quay", "rope", "--feel", "touch_threshold=60", "--json")
    (row,) = json.loads(text)
    assert code == 1
    assert row["status"] == "changed"
    assert row["first"]["action"] == "move"
    assert all(set(one) == {"event", "was", "now", "times"} for one in row["receivers"])
    code, text = run("bridge", "bridge", "pilots")
    assert (code, text.splitlines()[-1].endswith("1 same")) == (0, True)
    code, text = run(copy, copy, "pilots")  # a copy has no second pilot
    assert code == 1
    assert "no second" in text.replace("\n", " ")
    assert run("quay", "quay", tmp_path / "none")[0] in (1, 2)
    empty = tmp_path / "empty"
    empty.mkdir()
    assert "there is no recording" in run("quay", "quay", empty)[1]
    assert "click_slack" in run("quay", "quay", "rope", "--feel", "click_slakc=3")[1]
    assert "click_slack=12" in run("quay", "quay", "rope", "--feel", "click_slack")[1]
