"""The tour's fourth part: the tower, and what was pointed at, by which ray, and who got it."""

from __future__ import annotations

import textwrap
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.core.geometry.world.ray import Ray
from glent.core.geometry.world.throw import Throw
from glent.core.input.samples import RaySample
from glent.demo import RECORDINGS, TOWER
from glent.demo.tower_shift import SCRIPTS
from glent.demo.worlds import manned_tower, played
from glent.figures import ShownRay, draw_view
from glent.formats import EventLog, Step, counts_of, log_rows, read_recording
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from rich.console import Console

    from glent.core.routing.router import Router
    from glent.demo.tower import Tower

__all__ = ["tower_tour"]

ABOUT = {
    "two-hands": "two rays at once, on a tilted table and a curved wall",
    "moorings": "water, bent berths, rough ground, bollards a degree aside",
    "gaze": "eyes without a button: they dwell, with progress",
    "barge-board": "a panel that sails, a modal that blocks just its panel",
    "fingertip": "a fingertip through the table's front, and back",
    "at-the-screen": "the same world by a mouse, through the camera",
}

THROW = ((0.45, 1.45, 0.2), (5.0, 6.0, -17.0))
"""Where a line is thrown from, and how fast, metres a second."""


def _play(name: str) -> tuple[Router, Tower, list[Step], EventLog]:
    router, tower = manned_tower()
    steps = played(router, tower, read_recording(RECORDINGS[name]))
    return router, tower, steps, EventLog(digest_of(TOWER), log_rows(steps))


def shown_rays(router: Router, steps: list[Step], until: float) -> list[ShownRay]:
    """Where each ray of a replay last pointed before a time, and who got that."""
    last: dict[str, Step] = {}
    for step in steps:
        if isinstance(step.sample, RaySample) and step.sample.time <= until:
            last[step.sample.pointer] = step
    shown = []
    for name, step in last.items():
        sample = step.sample
        assert isinstance(sample, RaySample)
        hits = router.hits_ray(sample.origin, sample.direction)
        shown.append(ShownRay(name, Ray(sample.origin, sample.direction), tuple(hits), step.verdict))
    return shown


def tower_tour(out: Path, console: Console) -> dict[str, Any]:
    """Replay the recordings, each twice, and tell what happened; the same as plain values."""
    say = console.print
    say(f"In the tower one points into the world. {len(SCRIPTS)} recordings, and what was landed on:\n")
    told: dict[str, Any] = {}
    same = True
    for name in SCRIPTS:
        _, tower, steps, log = _play(name)
        same = same and _play(name)[3].lines() == log.lines()
        counts = counts_of(steps)
        spots = {step.verdict.spot.node.name for step in steps if step.verdict.spot is not None}
        say(f"  {name}: {ABOUT[name]}")
        landed = f"; spots: {', '.join(sorted(spots))}" if spots else ""
        text = f"{counts['samples']} inputs, {counts['ui']} to the UI, {counts['world']} to the world{landed}"
        for line in textwrap.wrap(text, 88, initial_indent="      ", subsequent_indent="      "):
            say(line, markup=False)
        for line in textwrap.wrap("; ".join(tower.orders), 88, initial_indent="      ", subsequent_indent="      "):
            say(line, markup=False)
        told[name] = {**counts, "spots": sorted(spots), "orders": list(tower.orders)}
    byte = "byte for byte the same" if same else "NOT the same"
    say(f"\nFed a second time, every one of them gave the same events: {byte}.")
    router, _, steps, _ = _play("moorings")
    arc = Throw.from_velocity(*THROW, length=60.0)
    landed_on = router.hits_throw(arc)[0]
    x, y, z = landed_on.point or (0.0, 0.0, 0.0)
    say(
        f"A line thrown from the tower flies {landed_on.distance:.1f} m and lands on {landed_on.node.name}, at"
        f" ({x:.2f}, {y:.2f}, {z:.2f})."
    )
    figure = out / "tower-view.png"
    camera = router.scene.camera
    assert camera is not None
    rays = [ray for until in (0.17, 0.5, 0.97) for ray in shown_rays(router, steps, until)]
    draw_view(router.scene, camera, figure, rays, "The tower: three presses of one hand, and who got them")
    say(f"  {'the world, with three of the rays:':40} {figure}")
    return {"recordings": told, "replays_the_same": same, "thrown": landed_on.node.path, "view": str(figure)}
