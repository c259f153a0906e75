"""The commands that work through recordings: what came of each sample, and what a change does to them."""

from __future__ import annotations

import sys
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from glent.cli.as_test import write_test_case
from glent.cli.terminal import (
    AS_JSON,
    SCENE,
    RecordingParam,
    SceneParam,
    console,
    digest_for,
    draw_to,
    emit,
    router_for,
    stderr_console,
    steps_of,
    summary,
    table,
)
from glent.core.input.feel import with_changes
from glent.core.input.samples import ActSample
from glent.core.routing.reasons import LAW_NAMES
from glent.formats import EventLog, Step, counts_of, log_rows, read_recording
from glent.wiring import Rehearsal

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.cli.scene_source import SceneSource
    from glent.core.routing.router import Router
    from glent.formats import Recording, RecordingStream
    from glent.review import Change, Comparison, Coverage

__all__ = ["compare_command", "coverage_command", "replay_command"]


@click.command("replay")
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
@click.option(
    "--as-test", type=click.Path(dir_okay=False, path_type=Path), metavar="test_NAME.py",
    help="Write a test for pytest that plays RECORDING, and expects the events that came now.",
)  # fmt: skip
@click.option(
    "--all", "all_samples", is_flag=True, help="List every sample, not only presses, wheels, acts and what was noted."
)
@AS_JSON
def replay_command(
    scene: SceneSource,
    recording: Path,
    log: Path | None,
    against: Path | None,
    as_test: Path | None,
    all_samples: bool,
    as_json: bool,
) -> None:
    """Feed RECORDING to SCENE again, and show who got what and why."""
    given = read_recording(recording)
    router, world = router_for(scene, pilots=len(given.seats))
    digest = digest_for(scene, router.scene)
    steps = steps_of(router, world, given)
    made = EventLog(digest, log_rows(steps))
    findings = []
    if given.scene is not None and given.scene != digest:
        findings.append("the recording was made with another scene file, or an earlier state of this one")
    if against is not None:
        findings += made.differences(against)
    if log is not None:
        made.write(log)
    written = write_test_case(as_test, scene, given, recording.stem) if as_test is not None else []
    if as_json:
        rows = [_step_row(step) for step in steps]
        emit({"counts": counts_of(steps), "findings": findings, "orders": world.orders, "steps": rows})
    else:
        out = console()
        shown = table("time>", "sample", "goes to", "why")
        for step in steps:
            row = _step_row(step)
            told = row["action"] in ("press", "wheel") or isinstance(step.sample, ActSample)
            if all_samples or told or step.note or row["lifts"]:
                to = f"{row['seat']}: {row['to']}" if len(given.seats) > 1 else row["to"]
                lifts = f"; the world lifts {', '.join(row['lifts'])}" if row["lifts"] else ""
                shown.add_row(f"{row['time']:.3f}", row["action"], to, row["why"] + lifts)
        out.print(shown)
        out.print(summary(counts_of(steps)))
        if isinstance(world, Rehearsal) and world.orders:
            out.print(f"the game was {'; '.join(world.orders)}", markup=False)
        for finding in findings:
            out.print(f"found: {finding}", markup=False)
        if log is not None:
            out.print(f"the event log is in {log}: {len(made.rows)} rows")
        if written:
            out.print(f"the test is in {written[0]}, with {written[1].name} and {written[2].name} beside it")
    if findings:
        sys.exit(1)


def _step_row(step: Step) -> dict[str, Any]:
    sample, verdict = step.sample, step.verdict
    return {
        "time": sample.time,
        "action": step.action,
        "to": verdict.to,
        "why": verdict.why,
        "events": [f"{event.kind} {event.node.path}" for event in verdict.events],
        "lifts": list(verdict.lifts),
        "seat": verdict.seat,
        "note": step.note,
    }


class FeelParam(click.ParamType[tuple[str, float]]):
    """A field of the feel with its value, as in ``click_slack=12``."""

    name = "NAME=VALUE"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> tuple[str, float]:
        if isinstance(value, tuple):
            return value
        name, _, number = str(value).partition("=")
        try:
            return name, float(number)
        except ValueError:
            self.fail(f"{value!r} is no field with its value; expected such as click_slack=12", param, ctx)


def game_of(source: SceneSource, feel: tuple[tuple[str, float], ...], recording: Recording | RecordingStream) -> Router:
    """The game that a recording is fed to, with its seats, and the world behind it that goes along."""
    router, world = router_for(source, pilots=len(recording.seats), on_error=lambda error, event: None)
    router.feel = with_changes(router.feel, dict(feel))
    router.watch(world.steer)
    return router


def recordings_in(paths: tuple[Path, ...]) -> list[Path]:
    """The recordings of files and folders, those of a folder in the order of their names."""
    found: list[Path] = []
    for path in paths:
        if path.is_dir():
            inside = [one for one in sorted(path.rglob("*.jsonl")) if not _is_other(one)]
            if not inside:
                raise click.UsageError(f"there is no recording (.jsonl) in {path}")
            found += inside
        else:
            found.append(path)
    return found


def _is_other(path: Path) -> bool:
    """Whether the file is another one of Glent's, such as an event log."""
    with path.open("rb") as file:
        head = file.readline(1000)
    return b'"glent": "' in head and b'"glent": "recording"' not in head


@click.command("compare")
@click.argument("before", type=SceneParam())
@click.argument("after", type=SceneParam())
@click.argument("recordings", metavar="RECORDING...", type=RecordingParam(), nargs=-1, required=True)
@click.option(
    "--by", type=click.Choice(["point", "node"]), default="point", show_default=True,
    help="Aim at the same points, or at the same nodes, so that one that has only moved is no difference.",
)  # fmt: skip
@click.option("--feel", multiple=True, type=FeelParam(), help="Change the feel of AFTER; may be given again.")
@click.option("--jobs", type=click.IntRange(1, 256), default=1, show_default=True, help="How many processes work.")
@click.option("--dask", metavar="ADDRESS", help="The scheduler of a Dask cluster, which does the work instead.")
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Write all changes to this Parquet file.")
@AS_JSON
def compare_command(
    before: SceneSource,
    after: SceneSource,
    recordings: tuple[Path, ...],
    by: str,
    feel: tuple[tuple[str, float], ...],
    jobs: int,
    dask: str | None,
    out: Path | None,
    as_json: bool,
) -> None:
    """Feed each RECORDING to the scenes BEFORE and AFTER a change, and tell what comes out otherwise.

    A folder stands for all recordings in it. Exit code 1 if anything has changed, or a recording could not be fed. For
    one scene under two feels, give it twice, with --feel.
    """
    from glent.review import compare_all, write_comparisons

    paths = recordings_in(recordings)
    found = compare_all(partial(game_of, before, ()), partial(game_of, after, feel), paths, by, jobs, dask)
    told: list[Comparison] = []
    shown = _noted(found, len(paths), told)
    if out is not None:
        write_comparisons(shown, out)
    else:
        for _ in shown:
            pass
    if as_json:
        emit([_comparison_row(one) for one in told])
    else:
        _tell_comparisons(told)
        if out is not None:
            click.echo(f"all changes are in {out}")
    if any(one.status != "same" for one in told):
        sys.exit(1)


def _noted(found: Iterator[Comparison], many: int, told: list[Comparison]) -> Iterator[Comparison]:
    """The comparisons as they come, with progress; what is told of each is kept, and not its changes."""
    from dataclasses import replace

    from rich.progress import track

    hidden = not (sys.stderr.isatty() and many > 1)
    for one in track(found, "comparing", total=many, disable=hidden, transient=True, console=stderr_console()):
        told.append(replace(one, changes=one.changes[:1]))
        yield one


def _tell_comparisons(told: list[Comparison]) -> None:
    to = console()
    many = {status: [one for one in told if one.status == status] for status in ("changed", "failed", "same")}
    for one in many["failed"]:
        to.print(f"{one.recording} could not be fed: {one.failed}", markup=False)
    if many["changed"]:
        shown = table("recording", "samples>", "otherwise>", "world flips>", "first at>", "what")
        for one in many["changed"]:
            first = one.changes[0]
            numbers = (f"{one.samples:,}", f"{one.many:,}", f"{one.flipped:,}", f"{first.time:.3f}")
            shown.add_row(one.recording, *numbers, _said(first))
        to.print(shown)
        _tell_receivers(many["changed"])
        first = many["changed"][0].changes[0]
        to.print(f"The first in {many['changed'][0].recording}, at {first.time:.3f} s, a {first.action}:")
        for title, sentences in (("before", many["changed"][0].before), ("after", many["changed"][0].after)):
            for number, sentence in enumerate(sentences):
                to.print(f"{title if not number else '':>8}  {sentence}", markup=False)
    counts = ", ".join(f"{len(ones)} {status}" for status, ones in many.items() if ones)
    to.print(f"{len(told)} recording{'s' * (len(told) != 1)}, {sum(one.samples for one in told):,} samples: {counts}")


def _tell_receivers(changed: list[Comparison]) -> None:
    """How often which events have changed hands, over all recordings: first what players do, and then hover."""
    from collections import Counter

    counts: Counter[tuple[str, str | None, str | None]] = Counter()
    for one in changed:
        counts.update(one.receivers)
    shown = table("times>", "event", "went to", "goes to")
    for (kind, was, now), times in sorted(counts.items(), key=lambda one: (one[0][0] in HOVER, -one[1]))[:SHOWN]:
        shown.add_row(f"{times:,}", kind, was or "nobody", now or "nobody")
    if counts:
        console().print(shown)
    if len(counts) > SHOWN:
        console().print(f"… and {len(counts) - SHOWN} more (--json lists them)")


SHOWN = 12
HOVER = ("enter", "leave", "move")


def _said(change: Change) -> str:
    if change.was.to != change.now.to:
        return f"{change.action}: {change.was.to} → {change.now.to}"
    if change.receivers:
        kind, was, now = change.receivers[0]
        return f"{kind}: {was or 'nobody'} → {now or 'nobody'}"
    return f"{change.action}: taken, lifted or answered otherwise"


def _comparison_row(one: Comparison) -> dict[str, Any]:
    from dataclasses import asdict

    row = asdict(one)
    del row["changes"]
    first = asdict(one.changes[0]) if one.changes else None
    receivers = [
        {"event": kind, "was": was, "now": now, "times": times} for (kind, was, now), times in one.receivers.items()
    ]
    return row | {"status": one.status, "receivers": receivers, "first": first}


@click.command("coverage")
@SCENE
@click.argument("recordings", metavar="RECORDING...", type=RecordingParam(), nargs=-1, required=True)
@click.option(
    "--out", type=click.Path(dir_okay=False, path_type=Path),
    help="Write it as a page (.html) in one file, or draw where presses were (.png, .svg).",
)  # fmt: skip
@click.option("--least", type=click.FloatRange(0, 100), help="Exit code 1 if fewer nodes were reached, in percent.")
@AS_JSON
def coverage_command(
    scene: SceneSource, recordings: tuple[Path, ...], out: Path | None, least: float | None, as_json: bool
) -> None:
    """Tell what RECORDINGs never meet of SCENE: nodes, handlers, kinds, laws; and which presses miss, and by how much.

    A folder stands for all recordings in it.
    """
    from glent.review import cover

    paths = recordings_in(recordings)
    build = partial(game_of, scene, ())
    found = cover(build, ((path.stem, read_recording(path)) for path in paths))
    if out is not None:
        _draw_coverage(found, scene, out)
    if as_json:
        emit(_coverage_row(found))
    else:
        _tell_coverage(found)
        click.echo(f"it is drawn in {out}" if out is not None else "--out FILE.html writes it all as a page")
    if found.failed or (least is not None and found.share * 100.0 < least):
        sys.exit(1)


def _draw_coverage(found: Coverage, source: SceneSource, out: Path) -> None:
    from glent.review import draw_coverage, write_coverage

    begun = router_for(source)[0].scene
    if out.suffix.lower() == ".html":
        title = f"{source.stem}: what {found.recordings} recording{'s' * (found.recordings != 1)} met"
        draw_to(out, lambda: write_coverage(found, begun, out, title))
    else:
        draw_to(out, lambda: draw_coverage(found, begun, out, f"{source.stem}: where presses were"))


def _tell_coverage(found: Coverage) -> None:
    to = console()
    for name, why in found.failed.items():
        to.print(f"{name} could not be fed: {why}", markup=False)
    unreached, unrun, near = found.unreached(), found.unrun(), found.near_misses()
    if unreached:
        shown = table("never reached", "role", "hovered>", "why not, perhaps")
        for one in unreached[:SHOWN]:
            shown.add_row(one.path, one.role or "", f"{one.hovers:,}", "" if one.seen else "never shown and enabled")
        to.print(shown)
        _tell_rest(len(unreached), "nodes")
    if unrun:
        shown = table("handlers that never ran", "kind", "called")
        for use in unrun[:SHOWN]:
            shown.add_row(use.path, use.kind, use.name)
        to.print(shown)
        _tell_rest(len(unrun), "handlers")
    if near:
        shown = table("missed by little", "at>", "press at", "pixels away>", "went to")
        for miss in near[:SHOWN]:
            at, away = f"{miss.time:.3f}", f"{miss.away or 0.0:.0f}"
            shown.add_row(miss.nearest or "", at, f"{miss.x:g}, {miss.y:g} of {miss.recording}", away, miss.to)
        to.print(shown)
        _tell_rest(len(near), "presses")
    laws = [f"{LAW_NAMES[law]} ({law})" for law in found.unmet()]
    for title, words in (("kinds listened for that never came", found.unsent()), ("laws never met", laws)):
        if words:
            to.print(f"{title}: {', '.join(words)}", markup=False)
    fitts = found.fitts()
    if fitts is not None:
        to.print(f"a click takes {fitts[0] * 1000.0:.0f} ms, and {max(0.0, fitts[1]) * 1000.0:.0f} ms for each bit of"
                 f" distance over width ({len(found.clicks)} clicks)")  # fmt: skip
    to.print(
        f"{found.share:.0%} of {len(found.nodes)} nodes were reached, {len(found.handlers) - len(unrun)} of"
        f" {len(found.handlers)} handlers ran; {len(found.misses)} of {len(found.presses)} presses came to nothing one"
        f" can press ({found.recordings} recording{'s' * (found.recordings != 1)}, {found.samples:,} samples)"
    )


def _tell_rest(many: int, what: str) -> None:
    if many > SHOWN:
        console().print(f"… and {many - SHOWN} more {what} (--json lists them)")


def _coverage_row(found: Coverage) -> dict[str, Any]:
    from dataclasses import asdict

    return {
        "recordings": found.recordings,
        "samples": found.samples,
        "reached": found.share,
        "nodes": [asdict(one) | {"reached": one.reached} for one in found.nodes.values()],
        "handlers": [asdict(one) for one in found.handlers],
        "kinds": dict(found.kinds),
        "never_sent": found.unsent(),
        "laws_never_met": list(found.unmet()),
        "misses": [asdict(one) | {"near": one.near} for one in found.misses],
        "clicks": [asdict(one) for one in found.clicks],
        "fitts": list(found.fitts() or ()) or None,
        "failed": found.failed,
    }
