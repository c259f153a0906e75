"""The tower of Kelp Harbour: rays, eyes, a fingertip and a mouse in six recordings, and the pictures of them."""

from __future__ import annotations

import hashlib
import json
import re
from pathlib import Path

import pytest

from glent import Router, SceneError, Throw
from glent.demo import RECORDINGS, TOWER
from glent.demo.tower_shift import SCRIPTS, record
from glent.demo.worlds import manned_tower, played
from glent.diagnose import Outcome, Zone, outlines, pass_map, why, why_ray
from glent.formats import EventLog, log_rows, read_recording, read_scene, write_recording
from test_command_line import run


def watched(name: str) -> tuple[list, object, Router]:
    router, tower = manned_tower(on_error=lambda error, event: pytest.fail(f"{event}: {error!r}"))
    return played(router, tower, read_recording(RECORDINGS[name])), tower, router


@pytest.mark.parametrize("name", SCRIPTS)
def test_the_shipped_recording_is_what_the_script_plays_and_replays_byte_for_byte(name: str, tmp_path: Path) -> None:
    write_recording(record(name), tmp_path / "again.jsonl")
    assert (tmp_path / "again.jsonl").read_bytes() == RECORDINGS[name].read_bytes()
    digest = hashlib.sha256(TOWER.read_bytes()).hexdigest()
    assert read_recording(RECORDINGS[name]).scene == digest
    logs = [EventLog(digest, log_rows(watched(name)[0])).lines() for _ in range(2)]
    assert logs[0] == logs[1]


def test_every_law_of_rays_is_met() -> None:
    notes = [note for name in SCRIPTS for note in read_recording(RECORDINGS[name]).notes.values()]
    met = {law for note in notes for law in re.findall(r"[A-Z]\d+", note.partition(":")[0])}
    assert met >= {"X1", "X2", "X3", "X4", "X5", "X6", "X7", "G6", "H5", "P7", "M1", "R2"}


TOLD = {
    "two-hands": ["dogleg-berth is chosen", "signals: storm", "the tide is set to 0.25",
                  "a tug is rushed to dogleg-berth", "the lamp is held open"],
    "moorings": ["a tug is sent to -4.0, -44.0", "a tug is sent into dogleg-berth, to 56, -55",
                 "a line is made fast to bollard-1 at (31.2, -5.9, -42)",
                 "a crate of rope is bound for north-berth, at 19, -56"],
    "gaze": ["hail is looked at for long enough", "fog is looked at for long enough",
             "outer-buoy is looked at for long enough"],
    "barge-board": ["the table asks whether the barge may go", "the barge sounds its horn", "the barge casts off",
                    "the barge is moored"],
    "fingertip": ["a tug is sent to north-berth", "outer-buoy is chosen", "the tide is set to 0.70"],
    "at-the-screen": ["the log has 0 lines", "a tug is sent to north-berth", "signals: storm",
                      "the tide is set to 1.00"],
}  # fmt: skip


@pytest.mark.parametrize("name", SCRIPTS)
def test_what_was_done_in_the_tower(name: str) -> None:
    _, tower, _ = watched(name)
    told = iter(tower.orders)
    for sentence in TOLD[name]:
        assert sentence in told, (sentence, tower.orders)


def test_p7_hover_stays_true_while_the_barge_sails_under_a_still_ray() -> None:
    steps, _, router = watched("barge-board")
    told = [(event.kind, event.node.path) for step in steps for event in step.verdict.events
            if event.pointer == "left-hand" and event.kind in ("enter", "leave")]  # fmt: skip
    assert ("leave", "barge-board/horn") in told
    inside: list[str] = []
    for kind, path in told:
        inside.append(path) if kind == "enter" else inside.remove(path)
    assert sorted(inside) == sorted(node.path for node in router._state.pointers["left-hand"].hovered)
    sailed = router.scene["barge"].pose.position[0] + 26.0
    assert sailed == pytest.approx(router.scene["barge-board"].pose.position[0] + 26.0)
    assert sailed > 10.0


def test_h8_everything_that_stands_in_the_world_says_why_a_ray_does_not_hit_it() -> None:
    router, _ = manned_tower()
    found = {one.node.path: one for one in why_ray(router, (0.45, 1.45, 0.2), (31.0, -7.3, -42.2))}
    assert found["bollard-1"].outcome is Outcome.OFFERED
    assert found["pier"].sentence == "pier is hit, but covered by bollard-1, which is solid"
    assert found["chart-table/send"].outcome is Outcome.MISSED
    assert found["signal-wall/hail"].outcome is Outcome.MISSED
    hits = [hit.node.path for hit in router.hits_ray((0.45, 1.45, 0.2), (31.0, -7.3, -42.2))]
    assert [one.node.path for one in found.values() if one.hit] == hits
    behind = {one.node.path: one for one in why_ray(router, (0.0, 2.9, -4.5), (0.0, -0.3, 2.0))}
    assert behind["signal-wall/hail"].outcome is Outcome.BACK
    table = {one.node.path: one for one in why(router, 640.0, 600.0)}
    assert table["chart-table/tide"].outcome is Outcome.OFFERED
    assert table["chart-table/ask/let-go"].outcome is Outcome.HIDDEN
    router.scene.camera = None
    assert {one.node.path: one for one in why(router, 640.0, 600.0)}["chart-table"].outcome is Outcome.UNSEEN


def test_w6_the_map_has_what_the_camera_sees() -> None:
    router, _ = manned_tower()
    router.scene.window = (160, 90)
    found = pass_map(router.scene)
    for row in range(0, 90, 3):
        for column in range(0, 160, 3):
            x, y = column + 0.5, row + 0.5
            zone = Zone(found.zones[row, column])
            assert router.would_reach_world(x, y) == (zone in (Zone.WORLD, Zone.PASSED)), (x, y, zone)
            if zone in (Zone.SOLID, Zone.DISABLED):
                hit = next(hit for hit in router.hits(x, y) if hit.offered and hit.node.effective_solidity == "solid")
                assert found.nodes[found.owners[row, column]] is hit.node
    owners = {node.path for node in found.pixels()}
    assert {"hud/strip", "chart-table/send", "signal-wall/hail", "barge", "pool-berth"} <= owners
    router.scene["chart-table/ask"].visible = True
    blocked = pass_map(router.scene)
    assert blocked.share(Zone.BLOCKED) > found.share(Zone.BLOCKED)


def test_x4_outlines_lie_where_the_camera_projects_their_nodes() -> None:
    router, _ = manned_tower()
    scene = router.scene
    pieces = outlines(scene, scene.camera, (0.0, 0.0, 1280.0, 720.0))
    send = next(piece for piece in pieces if piece.node.path == "chart-table/send")
    corners = [scene.point(scene["chart-table/send"], x, y) for x, y in ((0, 0), (500, 0), (500, 250), (0, 250))]
    for corner in corners:
        assert min(abs(corner[0] - x) + abs(corner[1] - y) for x, y in send.points) < 1e-6
    far = [
        max(piece.far for piece in pieces if piece.node.root is one) for one in (scene["water"], scene["chart-table"])
    ]
    assert far[0] > far[1]
    with pytest.raises(SceneError, match="stands in the world"):
        scene.to_screen(scene["chart-table/send"])


def test_x5_a_line_thrown_from_the_tower_lands_on_the_pier_and_not_beyond_its_length() -> None:
    router, _ = manned_tower()
    thrown = Throw.from_velocity((0.45, 1.45, 0.2), (12.0, 6.0, -20.0), length=80.0)
    landed = router.hits_throw(thrown)
    assert landed[0].node.path in ("water", "pier", "dogleg-berth")
    assert landed[0].distance < 80.0
    assert router.hits_throw(Throw.from_velocity((0.45, 1.45, 0.2), (12.0, 6.0, -20.0), length=10.0)) == []


@pytest.mark.parametrize("suffix", ["png", "svg"])
def test_view_draws_rays_with_what_they_hit(suffix: str, tmp_path: Path) -> None:
    out = tmp_path / f"view.{suffix}"
    said = run("view", "tower", "--recording", "two-hands", "--at", "0.5", "--out", out, "--json")
    told = json.loads(said)
    assert {row["ray"] for row in told["rays"]} == {"right-hand", "left-hand"}
    assert out.stat().st_size > 10_000
    said = run(
        "view", "tower", "--ray", 0.45, 1.45, 0.2, 31, -7.3, -42.2, "--camera", 14, 9, 8, 4, -4, -30, "--out", out
    )
    assert "bollard-1" in said
    assert "52.28" in said


def test_pick_along_a_ray_says_what_it_lands_on() -> None:
    said = run("why", "tower", "--ray", 0.45, 1.45, 0.2, 31, -7.3, -42.2)
    for part in ("52.277", "bollard-1", "covered", "tags iron", "snaps to 31.2", "others"):
        assert part in said
    rows = json.loads(run("why", "tower", "--ray", 0.45, 1.45, 0.2, -4, -10, -44, "--json"))["nodes"]
    assert (rows[0]["node"], rows[0]["outcome"], rows[0]["tags"]) == ("water", "offered", ["water"])
    assert rows[0]["point"][1] == pytest.approx(-9.0)
    for wrong, says in (
        (("why", "tower", "--ray", 0, 0, 0, 0, 0, 0), "has no length"),
        (("why", "tower"), "expected X and Y"),
        (("why", "tower", 5, 5, "--ray", 0, 0, 0, 0, 0, 1), "not several of them"),
        (("view", "harbour", "--out", "x.png"), "no camera"),
        (("view", "harbour", "--camera", 0, 0, 0, 0, 0, 1, "--out", "x.png"), "no panels and no spots"),
        (("view", "tower", "--camera", 0, 0, 0, 0, 0, 0, "--out", "x.png"), "at the eye"),
    ):
        assert says in run(*wrong, code=2).replace("\n", " ")


def test_t5_the_tower_is_read_again_while_a_ray_points_at_it(tmp_path: Path) -> None:
    from glent.formats import reload_scene

    path = tmp_path / "tower.yaml"
    text = TOWER.read_text()
    path.write_text(text)
    scene = read_scene(path)
    router = Router(scene)
    heard: list[str] = []
    scene["signal-wall/hail"].on("enter", lambda event: heard.append("enter"))
    scene["signal-wall/hail"].on("leave", lambda event: heard.append("leave"))
    from glent.testing import Wand

    wand = Wand(router, (0.0, 1.75, 0.4))
    wand.aim("signal-wall/hail")
    path.write_text(text.replace("radius: 2.6", "radius: 4").replace("[-12, -8.4, -92]", "[-14, -8.4, -92]"))
    done = reload_scene(scene, path)
    assert set(done.changed) == {"signal-wall", "outer-buoy"}
    assert (done.added, done.removed) == ((), ())
    path.write_text(text.replace("- name: beacon", "- name: lighthouse").replace("two_sided", "two_sided"))
    done = reload_scene(scene, path)
    assert "beacon" in done.removed
    assert "lighthouse" in done.added
    wand.aim("signal-wall/hail")
    assert heard in (["enter"], ["enter", "leave", "enter"])
    assert scene["signal-wall"].radius == 2.6
