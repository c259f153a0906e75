"""The command line: looking at scenes, asking them, replaying recordings, and the demonstration.

Exit codes: 0 all is well, 1 something was found, 2 bad usage or a bad file.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Mapping
from pathlib import Path
from typing import Any

import click

import glent
from glent.contract_commands import contract
from glent.demo import GALLERY, HARBOUR
from glent.focus_commands import focus
from glent.formats import (
    EventLog,
    Recording,
    Step,
    bindings_schema,
    counts_of,
    keys_schema,
    log_rows,
    read_recording,
    recording_schema,
    replay,
    scene_schema,
)
from glent.formats.recording import digest_of
from glent.terminal import (
    AS_JSON,
    SCENE,
    WIDTH,
    WINDOW,
    Commands,
    RecordingParam,
    SceneParam,
    console,
    draw_to,
    emit,
    router_for,
    stderr_console,
    table,
)
from glent.world_commands import pick, view


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"], "max_content_width": WIDTH})
@click.version_option(glent.__version__, prog_name="glent")
def main() -> None:
    """Glent, the event layer under a game's user interface.

    Wherever SCENE is asked for, `harbour`, `quay`, `bridge`, `tower` and `gallery` name the shipped scenes, with their
    handlers.
    The recordings that go with them are `night-shift` at the harbour; `crates`, `manifest`, `mooring`, `sticks`,
    `chart`, `rope` and `mishaps` at the quay; `barge`, `menu`, `cargo`, `look`, `by-keys`, `by-pad` and `pilots` on
    the bridge; `two-hands`, `moorings`, `gaze`, `barge-board`, `fingertip` and `at-the-screen` in the tower;
    `orders`, `levels`, `stowing`, `menus` and `radio` in the gallery.
    """


main.add_command(contract)
main.add_command(focus)
main.add_command(pick)
main.add_command(view)


@main.command()
@SCENE
@WINDOW
@AS_JSON
def tree(scene: Path, window: tuple[float, float] | None, as_json: bool) -> None:
    """Show the nodes of SCENE, back to front, with where they are and how solid."""
    router, _ = router_for(scene, window)
    rows = [_tree_row(node) for node in router.scene.walk()]
    if as_json:
        emit(rows)
        return
    shown = table("node", "box in its parent>", "solidity", "role", "notes")
    for row in rows:
        left, top, right, bottom = row["edges"]
        box = f"{left:g},{top:g} {right - left:g}×{bottom - top:g}" if row["spot"] is None else ""
        shown.add_row(
            "  " * row["depth"] + row["name"], box, row["solidity"], row["role"] or "", ", ".join(row["notes"])
        )
    out = console()
    out.print(shown)
    size = _size(router.scene.size)
    layers, standing = len(router.scene.layers), router.scene.standing
    panels = sum(1 for root in standing if isinstance(root, glent.Panel))
    counts = [(layers, "layer"), (panels, "panel"), (len(standing) - panels, "spot")]
    kinds = ", ".join(f"{many} {what}{'s' * (many != 1)}" for many, what in counts if many or what == "layer")
    out.print(f"{len(rows)} nodes in {kinds}; size {size}, fit {router.scene.fit}")


def _size(size: tuple[float, float]) -> str:
    return f"{size[0]:g}×{size[1]:g}"


def _factors(scale: float | tuple[float, float]) -> str:
    return " × ".join(f"{factor:g}" for factor in scale) if isinstance(scale, tuple) else f"{scale:g}"


def _reach(reach: Any) -> str:
    if isinstance(reach, Mapping):
        return ", ".join(f"{kind} {by:g}" for kind, by in reach.items())
    return f"touch {reach:g}" if reach is not None else ""


def _stands(node: glent.Node) -> list[tuple[str, bool]]:
    """What there is to say of a panel or a spot."""
    if isinstance(node, glent.Panel):
        width, height = node.size_in_metres
        radius = f", radius {node.radius:g} m" if node.radius is not None else ""
        return [
            (f"panel {width:.3g}×{height:.3g} m{radius}", True),
            ("two-sided", node.two_sided),
            ("its back is blocked", node.back == "blocked"),
            (f"from within {node.range} m", node.range is not None),
        ]
    if isinstance(node, glent.Spot):
        return [(f"spot: {node.form.kind}", True), (f"tags {' '.join(sorted(node.tags))}", bool(node.tags))]
    return []


def _why_empty(node: glent.Node) -> str:
    if not node.place.fits:
        return ""
    if any(child.visible for child in node.children):
        return ": its children take no room"
    return f": it is to fit its content, and has no {'visible ' if node.children else ''}child and no content"


def _tree_row(node: glent.Node) -> dict[str, Any]:
    place, flow = node.place, node.flow
    spot = node.form.kind if isinstance(node, glent.Spot) else None
    notes = [
        *_stands(node),
        ("hidden", not node.visible),
        ("disabled", not node.enabled),
        ("clips", node.clips),
        (f"order {node.order:g}", bool(node.order)),
        (f"turn {place.turn:g}°", bool(place.turn)),
        (f"scale {_factors(place.scale)}", place.scale not in (1, (1, 1))),
        (f"shape {type(node.shape).__name__.lower()}", node.shape is not None),
        (f"reach {_reach(node.reach)}", node.reach is not None),
        (f"carries {' '.join(sorted(node.carries or ()))}", node.carries is not None),
        (f"scrolls {node.axis or 'both ways'}", node.scrolls),
        (f"axis {node.axis}", node.axis is not None and not node.scrolls),
        (f"feel {', '.join(node.feel or ())}", bool(node.feel)),
        ("modal", node.modal),
        (f"closed by {node.closed_by}", node.closed_by != "none"),
        (f"hangs from {node.hangs_from}", node.hangs_from is not None),
        (f"seats {' '.join(sorted(node.seats or ()))}, others {node.others}", node.seats is not None),
        (f"wraps {node.wrap}", node.wrap is not None),
        ("scope", node.scope),
        (f"claims {' '.join(sorted(getattr(node, 'claims', ())))}", bool(getattr(node, "claims", ()))),
        (f"cursor {getattr(node, 'cursor', None)}", getattr(node, "cursor", None) is not None),
        (f"{flow.kind if flow else ''} flow", flow is not None),
        (f"grows {place.grow:g}", bool(place.grow)),
        ("fits its content", place.fits),
        ("of no size" + _why_empty(node), 0 in node.size and spot is None),
    ]
    return {
        "path": node.path,
        "name": node.name,
        "depth": len(node.line()) - 1,
        "edges": list(node.edges),
        "solidity": "open" if node.ends and node.effective != "solid" else node.effective,
        "given_solidity": node.solidity,
        "role": node.role,
        "spot": spot,
        "notes": [note for note, holds in notes if holds],
    }


def steps_of(scene: Path, recording: Recording) -> list[Step]:
    """Every step of a replay, with progress shown where it is long and someone looks."""
    from rich.progress import track

    router, world = router_for(scene, pilots=len(recording.seats))
    many = len(recording.samples)
    steps = []
    for step in track(
        replay(router, recording),
        "replaying",
        total=many,
        disable=not (sys.stderr.isatty() and many > 5_000),
        transient=True,
        console=stderr_console(),
    ):
        if world is not None:
            world.steer(step.sample, step.verdict)
        steps.append(step)
    return steps


@main.command("replay")
@SCENE
@click.argument("recording", type=RecordingParam())
@click.option(
    "--log",
    type=click.Path(dir_okay=False, path_type=Path),
    help="Write the event log here: .jsonl, .csv or .parquet.",
)
@click.option(
    "--against",
    type=click.Path(exists=True, dir_okay=False, path_type=Path),
    help="Compare with an event log written before; differences are findings (exit code 1).",
)
@click.option("--every", is_flag=True, help="List every sample, not only presses, wheels and what was noted.")
@AS_JSON
def replay_command(
    scene: Path, recording: Path, log: Path | None, against: Path | None, every: bool, as_json: bool
) -> None:
    """Feed RECORDING to SCENE again, and show who got what and why."""
    given = read_recording(recording)
    steps = steps_of(scene, given)
    digest = digest_of(scene)
    made = EventLog(digest, log_rows(steps))
    findings = []
    if given.scene is not None and given.scene != digest:
        findings.append("the recording was made with another scene file, or an earlier state of this one")
    if against is not None:
        findings += made.differences(against)
    if log is not None:
        made.write(log)
    if as_json:
        emit({"counts": counts_of(steps), "findings": findings, "steps": [_step_row(step) for step in steps]})
    else:
        out = console()
        shown = table("time>", "sample", "goes to", "why")
        for step in steps:
            row = _step_row(step)
            if every or row["action"] in ("press", "wheel") or step.note or row["lifts"]:
                to = f"{row['seat']}: {row['to']}" if len(given.seats) > 1 else row["to"]
                lifts = f"; the world lifts {', '.join(row['lifts'])}" if row["lifts"] else ""
                shown.add_row(f"{row['time']:.3f}", row["action"], to, row["why"] + lifts)
        out.print(shown)
        out.print(summary(counts_of(steps)))
        for finding in findings:
            out.print(f"found: {finding}", markup=False)
        if log is not None:
            out.print(f"the event log is in {log}: {len(made.rows)} rows")
    if findings:
        sys.exit(1)


def _step_row(step: Step) -> dict[str, Any]:
    sample, verdict = step.sample, step.verdict
    owner = verdict.owner.path if verdict.owner is not None else None
    return {
        "time": sample.time,
        "action": step.action,
        "to": "world" if verdict.world else owner or "nobody",
        "why": verdict.why,
        "events": [f"{event.kind} {event.node.path}" for event in verdict.events],
        "lifts": list(verdict.lifts),
        "seat": verdict.seat,
        "note": step.note,
    }


def summary(counts: dict[str, int]) -> str:
    """The counts as a sentence."""
    ticks = f"with {counts['ticks']} ticks between them, " if counts["ticks"] else ""
    return (
        f"{counts['samples']} samples: {counts['ui']} went to the UI, {counts['world']} to the world and"
        f" {counts['nobody']} to nobody; {ticks}{counts['events']} events were routed."
    )


@main.command("map")
@SCENE
@WINDOW
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Draw it here, as PNG or SVG by suffix.")
@AS_JSON
def map_command(scene: Path, window: tuple[float, float] | None, out: Path | None, as_json: bool) -> None:
    """Show who gets a press at every pixel of the window: the world, glass, or which solid."""
    from glent.diagnose import Zone, pass_map
    from glent.figures.palette import ZONE_NAMES

    router, _ = router_for(scene, window)
    found = pass_map(router.scene)
    if out is not None:
        draw_to(out, lambda: _draw_map(router.scene, found, out, scene))
    pixels = found.pixels()
    zones = {zone: found.share(zone) for zone in Zone}
    if as_json:
        emit(
            {
                "size": list(found.zones.shape[::-1]),
                "zones": {zone.name.lower(): share for zone, share in zones.items()},
                "pixels": {node.path: count for node, count in pixels.items()},
                "figure": str(out) if out is not None else None,
            }
        )
        return
    to = console()
    shown = table("part of the window>", "a press there goes to")
    for zone, share in zones.items():
        if zone is Zone.BARRED and not share:
            continue  # no modal is open, nothing is claimed
        shown.add_row(f"{share * 100:.1f} %", ZONE_NAMES[zone])
    to.print(shown)
    largest = table("pixels>", "node", "what it is")
    for node, count in list(pixels.items())[:15]:
        largest.add_row(f"{count:,}", node.path, node.effective + ("" if node.is_enabled else ", disabled"))
    to.print(largest)
    if len(pixels) > 15:
        to.print(f"… and {len(pixels) - 15} more nodes (--json lists them)")
    to.print(f"the picture is in {out}" if out is not None else "--out FILE.png draws it")


def _draw_map(scene: glent.Scene, found: Any, out: Path, path: Path) -> None:
    from glent.figures import draw_map

    draw_map(scene, found, out, f"{path.stem}: who gets a press, at {_size(scene.window)}")


@main.command()
@SCENE
@click.argument("recording", type=RecordingParam())
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), required=True, help="PNG or SVG by suffix.")
@AS_JSON
def timeline(scene: Path, recording: Path, out: Path, as_json: bool) -> None:
    """Draw who got each sample of RECORDING over time, when it is fed to SCENE."""
    from glent.figures import draw_timeline

    steps = steps_of(scene, read_recording(recording))
    draw_to(out, lambda: draw_timeline(steps, out, f"{recording.stem}: who got each sample"))
    if as_json:
        emit({"figure": str(out), "counts": counts_of(steps)})
    else:
        console().print(f"the picture is in {out}; {summary(counts_of(steps))}")


@main.command()
@click.argument("what", type=click.Choice(["scene", "recording", "bindings", "keys"]), default="scene")
def schema(what: str) -> None:
    """Print the JSON Schema of scene files, of the lines of a recording, of files of bindings, or of key layouts."""
    schemas = {"scene": scene_schema, "recording": recording_schema, "bindings": bindings_schema, "keys": keys_schema}
    emit(schemas[what]())


@main.command()
@click.argument("scene", type=SceneParam(), default=HARBOUR)
@click.option("--record", type=click.Path(dir_okay=False, path_type=Path), help="Write what is played to a recording.")
@click.option("--seconds", type=float, help="Close by itself after so long.")
@click.option("--shot", type=click.Path(dir_okay=False, path_type=Path), help="On closing, save the window as PNG.")
@click.option("--pilots", type=click.IntRange(1, 2), default=1, help="Two pilots share the bridge, in a split window.")
@click.option("--gallery", is_flag=True, help="The gallery of controls, instead of SCENE.")
@click.option("--watch", is_flag=True, help="Read SCENE again whenever its file changes; what stays keeps its state.")
def play(
    scene: Path,
    record: Path | None,
    seconds: float | None,
    shot: Path | None,
    pilots: int,
    gallery: bool,
    watch: bool,
) -> None:
    """Open SCENE in a window, drawn plainly, with each verdict in a status line."""
    os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")
    from glent.demo.window import play_window

    if gallery:
        scene = GALLERY
    router, world = router_for(scene, pilots=pilots)
    if pilots > 1 and len(router.seats) == 1:
        raise click.UsageError(f"{scene.stem} has no second pilot; `glent play bridge --pilots 2` has")
    made = play_window(router, world, scene, record is not None, seconds, shot, watch)
    if made is not None and record is not None:
        from glent.formats import write_recording

        write_recording(made, record)
        click.echo(f"{len(made.samples)} samples are in {record}")


@main.command()
@click.option(
    "--out", type=click.Path(file_okay=False, path_type=Path), default=Path("build/demo"), show_default=True,
    help="Where the pictures and the log go.",
)  # fmt: skip
@AS_JSON
def demo(out: Path, as_json: bool) -> None:
    """Run the whole example on the shipped data, without a window."""
    from rich.console import Console

    from glent.demo.tour import tour

    out.mkdir(parents=True, exist_ok=True)
    told = tour(out, Console(quiet=True) if as_json else console())
    if as_json:
        emit(told)
