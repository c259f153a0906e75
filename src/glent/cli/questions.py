"""The commands that answer questions about a scene: why, what is wrong, and where the focus goes."""

from __future__ import annotations

import sys
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from glent.cli.terminal import (
    AS_JSON,
    RAY,
    SCENE,
    WINDOW,
    RecordingParam,
    SceneParam,
    SizeParam,
    console,
    draw_to,
    emit,
    parts_of,
    router_for,
    shown_file,
    steps_of,
    table,
)
from glent.core.input.samples import RaySample
from glent.core.scene.place import Place
from glent.formats import read_recording, source_of
from glent.formats.recording import sample_fields

if TYPE_CHECKING:
    from glent.cli.scene_source import SceneSource
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose import Consideration, Finding, FocusMap, FocusStop, Mend

__all__ = ["check_command", "focus", "why_command"]


@click.command("why")
@SCENE
@click.argument("x", type=float, required=False)
@click.argument("y", type=float, required=False)
@click.option("--ray", type=RAY, metavar="OX OY OZ DX DY DZ", help="A ray in the world instead of X and Y, metres.")
@click.option("--node", "path", metavar="PATH", help="Why this node does not get its press, and what would let it.")
@click.option("--key", metavar="CODE", help="Who is asked for this key, such as KeyW, or this button of a pad.")
@click.option("--recording", type=RecordingParam(), help="A recording, of which --at chooses a sample.")
@click.option("--at", type=float, help="The story of the first sample of --recording at this time or later, seconds.")
@click.option("--kind", type=click.Choice(["mouse", "touch", "pen"]), default="mouse", help="Touch has a longer reach.")
@click.option("--all", "all_nodes", is_flag=True, help="Show also layers and the nodes that lie elsewhere.")
@click.option("--names", is_flag=True, help="Say what nodes are called, before their paths.")
@WINDOW
@AS_JSON
def why_command(
    scene: SceneSource,
    x: float | None,
    y: float | None,
    ray: tuple[float, ...] | None,
    path: str | None,
    key: str | None,
    recording: Path | None,
    at: float | None,
    kind: str,
    all_nodes: bool,
    names: bool,
    window: tuple[float, float] | None,
    as_json: bool,
) -> None:
    """Say what lies at the point X, Y of the window in SCENE, front to back, and what ruled the others out.

    With --ray, the same along a ray in the world: from a point, in a direction, in metres. With --node, why a node does
    not get its press; with --key, who is asked for a key; with --recording and --at, the story of a sample.
    """
    from glent.diagnose import why, why_ray

    if sum(one is not None for one in (x, ray, path, key, recording)) > 1:
        raise click.UsageError("give X and Y, or --ray, --node, --key or --recording, and not several of them")
    if key is not None:
        _tell_key(router_for(scene, window)[0], key, as_json)
        return
    if path is not None:
        _tell_node(scene, path, window, as_json)
        return
    if recording is not None:
        _tell_sample(scene, recording, at, all_nodes, names, as_json)
        return
    router, _ = router_for(scene, window)
    if ray is not None:
        origin, direction = parts_of(ray)
        _show_why(why_ray(router, origin, direction), router.hits_ray(origin, direction), all_nodes, names, as_json, {
            "ray": {"origin": list(origin), "direction": list(direction)}})  # fmt: skip
        if not as_json:
            _tell_ray(router, origin, direction, names)
        return
    if x is None or y is None:
        raise click.UsageError("expected X and Y, a point of the window, or --ray with six numbers")
    world = {action: router.would_reach_world(x, y, action) for action in ("press", "move", "wheel")}
    told = {"point": [x, y], "world": world}
    _show_why(why(router, x, y, kind), router.hits(x, y, kind=kind), all_nodes, names, as_json, told)
    if not as_json:
        goes = ", ".join(f"a {action} to {'the world' if yes else 'the UI'}" for action, yes in world.items())
        console().print(f"From a free mouse at ({x:g}, {y:g}) would go: {goes}.")


def _tell_node(source: SceneSource, path: str, window: tuple[float, float] | None, as_json: bool) -> None:
    from glent.diagnose import why_node

    told = why_node(partial(_built, source), path, window)
    mend = ", and ".join(one.sentence for one in told.mends)
    if as_json:
        changes = [_change_row(one) for one in told.mends]
        emit({"node": path, "gets_it": told.gets_it, "sentence": told.sentence, "shown": told.shown,
              "mend": mend or None, "changes": changes})  # fmt: skip
    else:
        click.echo(f"{told.sentence}.\n    shown: {told.shown}")
        if mend:
            click.echo(f"    what would let it: {mend}")
    if not told.gets_it:
        raise SystemExit(1)


def _tell_key(router: Router, code: str, as_json: bool) -> None:
    from glent.diagnose import why_key

    told = why_key(router, code)
    if as_json:
        emit({"key": code, "asked": list(told.asked), "sentences": list(told.story.sentences),
              "world": told.story.verdict.world})  # fmt: skip
        return
    for sentence in told.asked:
        click.echo(sentence)
    for number, sentence in enumerate(told.story.sentences):
        click.echo(f"{'so' if not number else '  '} {sentence}")


def _tell_sample(
    source: SceneSource, recording: Path, at: float | None, all_nodes: bool, names: bool, as_json: bool
) -> None:
    from glent.diagnose import why_sample

    given = read_recording(recording)
    number = next((n for n, one in enumerate(given.samples) if at is None or one.time >= at), None)
    if number is None:
        raise click.UsageError(f"{recording.stem} ends at {given.samples[-1].time:g} s, before --at {at:g}")
    sample = given.samples[number]
    del given.samples[number:]
    router, world = router_for(source, pilots=len(given.seats))
    steps_of(router, world, given)
    told = why_sample(router, sample)
    if as_json:
        emit({"sample": sample_fields(sample), "before": list(told.before), "sentences": list(told.sentences),
              "nodes": [_why_row(one, None, names) for one in told.considered]})  # fmt: skip
        return
    click.echo(f"{sample!r}, the {number + 1}. of {recording.stem}")
    for sentence in told.before:
        click.echo(f"before it: {sentence}")
    if told.considered:
        _show_why(list(told.considered), [], all_nodes, names, False, {})
    for sentence in told.sentences:
        click.echo(sentence)


def _show_why(
    found: list[Consideration], hits: list[Hit], all_nodes: bool, names: bool, as_json: bool, told: dict[str, Any]
) -> None:
    from glent.diagnose import Outcome

    by_node = {hit.node: hit for hit in hits}
    if as_json:
        emit({**told, "nodes": [_why_row(one, by_node.get(one.node), names) for one in found]})
        return
    far = any(hit.distance is not None for hit in hits)
    shown = table("", "local>", *(["metres>"] if far else []), "front to back")
    outside = 0
    for one in found:
        layer_or_panel = one.node.parent is None and (one.node.children or not one.node._in_world)
        if not all_nodes and not one.hit and (not one.inside or layer_or_panel):
            outside += 1
            continue
        hit = by_node.get(one.node)
        mark = {Outcome.OFFERED: "hit", Outcome.REACHED: "near", Outcome.COVERED: "covered"}.get(one.outcome, "")
        spot = hit is not None and hit.distance is not None and one.node.parent is None and not one.node.children
        local = "" if hit is None or spot else f"{hit.local[0]:.1f}, {hit.local[1]:.1f}"
        metres = "" if hit is None or hit.distance is None else f"{hit.distance:.3f}"
        shown.add_row(mark, local, *([metres] if far else []), one.sentence_named if names else one.sentence)
    out = console()
    if shown.row_count:
        out.print(shown)
    if outside:
        out.print(f"{outside} others, layers and nodes that lie elsewhere, are not shown (--all shows them)")


def _why_row(one: Consideration, hit: Hit | None, names: bool) -> dict[str, Any]:
    row: dict[str, Any] = {
        "node": one.node.path,
        "outcome": one.outcome.name.lower(),
        "by": one.by.path,
        "local": list(hit.local) if hit is not None else None,
        "sentence": one.sentence_named if names else one.sentence,
    }
    if hit is not None and hit.point is not None and hit.normal is not None:
        row |= {"distance": hit.distance, "point": list(hit.point), "normal": list(hit.normal)}
        row |= {"snap": list(hit.snap) if hit.snap is not None else None, "tags": sorted(hit.tags)}
    return row


def _tell_ray(router: Router, origin: Vector3, direction: Vector3, names: bool) -> None:
    verdict = router.feed(RaySample(router.now if router.now > -1e11 else 0.0, "press", origin, direction))
    out = console()
    out.print(f"A press of a ray there: {verdict.why_named if names else verdict.why}.", markup=False)
    spot = verdict.spot
    if spot is not None and spot.point is not None and spot.normal is not None:
        at, normal = (", ".join(f"{one:.3f}" for one in part) for part in (spot.point, spot.normal))
        snap = f", snaps to {', '.join(f'{one:g}' for one in spot.snap)}" if spot.snap is not None else ""
        tags = f", tags {' '.join(sorted(spot.tags))}" if spot.tags else ""
        out.print(f"It lands on {spot.node.path} at ({at}), normal ({normal}){snap}{tags}.", markup=False)


DIRECTIONS = ("left", "right", "up", "down")


@click.command()
@SCENE
@click.option("--scope", metavar="PATH", help="Only the stops within this node.")
@click.option("--show", metavar="PATH", multiple=True, help="Show this node first, such as a menu; may be given twice.")
@click.option("--seat", default="main", show_default=True, help="Whose focus.")
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Draw it here, as PNG or SVG by suffix.")
@WINDOW
@AS_JSON
def focus(
    scene: SceneSource,
    scope: str | None,
    show: tuple[str, ...],
    seat: str,
    out: Path | None,
    window: tuple[float, float] | None,
    as_json: bool,
) -> None:
    """Show where the focus goes in SCENE: tab order, and where each arrow leads from each stop.

    What a player with keys or a pad would stumble over is a finding (exit code 1).
    """
    from glent.diagnose import focus_map

    router, _ = router_for(scene, window)
    for path in show:
        router.scene[path].visible = True
    found = focus_map(router.scene, router.scene[scope] if scope is not None else None, seat)
    if out is not None:
        from glent.figures import draw_focus

        draw_to(out, lambda: draw_focus(router.scene, found, out, f"{scene.stem}: where the focus goes"))
    if as_json:
        emit(
            {
                "modal": found.modal.path if found.modal is not None else None,
                "stops": [_row(stop) for stop in found.stops],
                "problems": found.problems,
                "figure": str(out) if out is not None else None,
            }
        )
    else:
        _show(found, out)
    if found.problems:
        sys.exit(1)


def _path(node: Node | None) -> str | None:
    return node.path if node is not None else None


def _row(stop: FocusStop) -> dict[str, Any]:
    return {
        "path": stop.node.path,
        "tab": stop.number,
        "next": _path(stop.next),
        **{direction: _path(stop.directions[direction]) for direction in DIRECTIONS},
        "named": list(stop.named),
        "reached": stop.can_reach,
        "left_again": stop.can_leave,
        "in_view": stop.in_view,
    }


def _show(found: FocusMap, out: Path | None) -> None:
    to = console()
    if found.modal is not None:
        to.print(f"{found.modal.path} is modal: the focus stays within it")
    shown = table("tab>", "stop", *DIRECTIONS)
    common = _common([stop.node.path for stop in found.stops])
    for stop in found.stops:
        leads = [_short(_path(stop.directions[direction]), common) for direction in DIRECTIONS]
        number = str(stop.number) if stop.number is not None else ""
        shown.add_row(number, _short(stop.node.path, common), *leads)
    to.print(shown)
    tabs = sum(stop.number is not None for stop in found.stops)
    inside = f"; all paths are below {common.rstrip('/')}" if common else ""
    many = f"{len(found.stops)} stop{'s' * (len(found.stops) != 1)}"
    rest = ", the others by arrows within their group" if tabs < len(found.stops) else ""
    to.print(f"{many}, {tabs} of them by Tab{rest}{inside}")
    for problem in found.problems:
        to.print(f"found: {problem}", markup=False)
    to.print(f"the picture is in {out}" if out is not None else "--out FILE.png draws it")


def _common(paths: list[str]) -> str:
    """The path that all of them begin with, with its slash."""
    if not paths:
        return ""
    first, last = min(paths).split("/")[:-1], max(paths).split("/")[:-1]
    same = 0
    while same < min(len(first), len(last)) and first[same] == last[same]:
        same += 1
    return "/".join(first[:same]) + "/" if same else ""


def _short(path: str | None, common: str) -> str:
    return "–" if path is None else path.removeprefix(common)


class SizesParam(click.ParamType[list[tuple[float, float]]]):
    """Sizes of the window, as in ``1280x720,390x844``."""

    name = "WxH,…"

    def convert(
        self, value: Any, param: click.Parameter | None, ctx: click.Context | None
    ) -> list[tuple[float, float]]:
        if isinstance(value, list):
            return value
        return [SizeParam().convert(one, param, ctx) for one in str(value).split(",")]


@click.command("check")
@click.argument("scenes", metavar="SCENE...", type=SceneParam(), nargs=-1, required=True)
@click.option("--sizes", type=SizesParam(), default=[], help="Sizes of the window to look at; by default the scene's.")
@click.option("--code", "codes", multiple=True, help="Only this code; may be given again.")
@click.option("--strict", is_flag=True, help="Look also for what WCAG asks for at its highest level.")
@click.option(
    "--mend", "mends", is_flag=True, help="Write the changes that were tried, and cure, into the scene's file."
)
@click.option(
    "--format", "form", type=click.Choice(["text", "json", "sarif"]), default="text", show_default=True,
    help="How to print them; SARIF 2.1.0 is what code hosts and editors read.",
)  # fmt: skip
@AS_JSON
def check_command(
    scenes: tuple[SceneSource, ...],
    sizes: list[tuple[float, float]],
    codes: tuple[str, ...],
    strict: bool,
    mends: bool,
    form: str,
    as_json: bool,
) -> None:
    """Find the faults of each SCENE, each shown by an input, with a change that was tried and cures it.

    Exit code 1 if there is any. docs/findings.md tells of each code. What a scene suppresses, with a reason, is no
    finding; a suppression that is not needed is one.
    """
    from glent.diagnose import CODES, examine

    wanted = codes or (tuple(CODES) if strict else None)
    told: list[dict[str, Any]] = []
    suppressed: list[dict[str, Any]] = []
    for source in scenes:
        found = examine(partial(_built, source), sizes, wanted)
        scene = _built(source).scene
        told += [_finding_row(one, source, scene) for one in found.findings]
        suppressed += [_finding_row(one, source, scene) | {"reason": reason} for one, reason in found.suppressed]
        if mends:
            _mend(source, found.findings)
    if form == "sarif":
        from glent.cli.sarif import sarif_log

        emit(sarif_log(told, suppressed, Path.cwd()))
    elif as_json or form == "json":
        emit(told)
    else:
        for row in told:
            place = f"{shown_file(row['file'])}:{row['line']}:{row['column']}: " if row["file"] else f"{row['scene']}: "
            click.echo(f"{place}{row['code']}: {row['sentence']}")
            click.echo(f"    shown: {row['shown']}")
            if row["mend"] is not None:
                click.echo(f"    mend: {row['mend']}")
        names = ", ".join(source.stem for source in scenes)
        many = f"{len(told)} finding{'s' * (len(told) != 1)}" if told else "no findings"
        more = f", and {len(suppressed)} suppressed" if suppressed else ""
        click.echo(f"{many} in {names}{more}")
    if told:
        raise SystemExit(1)


def _built(source: SceneSource) -> Router:
    return router_for(source, on_error=lambda error, event: None)[0]


def _finding_row(one: Finding, source: SceneSource, scene: Scene) -> dict[str, Any]:
    place = source_of(scene[one.nodes[0]]) if one.nodes and one.nodes[0] in scene else None
    return {
        "scene": source.stem,
        "code": one.code,
        "nodes": list(one.nodes),
        "sentence": one.sentence,
        "shown": one.shown,
        "mend": one.mend.sentence if one.mend is not None else None,
        "change": _change_row(one.mend) if one.mend is not None else None,
        "size": list(one.size),
        "file": str(place.file) if place is not None else None,
        "line": place.line if place is not None else None,
        "column": place.column if place is not None else None,
    }


def _change_row(mend: Mend) -> dict[str, Any]:
    value = mend.value.given() if isinstance(mend.value, Place) else mend.value
    return {"path": mend.path, "name": mend.name, "value": value}


def _mend(source: SceneSource, found: tuple[Finding, ...]) -> None:
    """Write the proved mends of a scene into its file, one change each (law D3)."""
    from glent.formats import keep_all, read_scene

    if not isinstance(source, Path):
        raise click.UsageError(f"{source.stem} is code, in which nothing is mended; --mend is for scene files")
    scene = read_scene(source)
    changes: dict[Node, list[str]] = {}
    for one in found:
        if one.mend is not None:
            node = scene[one.mend.path]
            setattr(node, one.mend.name, one.mend.value)
            changes.setdefault(node, []).append(one.mend.name)
    if changes:
        keep_all(source, changes)
