"""The commands that show a scene: its nodes, who gets a press where, the world, a recording over time."""

from __future__ import annotations

import json
from collections.abc import Mapping
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

import glent
from glent.cli.terminal import (
    AS_JSON,
    RAY,
    SCENE,
    WINDOW,
    RecordingParam,
    SceneParam,
    console,
    draw_to,
    emit,
    parts_of,
    router_for,
    steps_of,
    summary,
    table,
)
from glent.core.geometry.world.camera import Camera
from glent.core.geometry.world.ray import Ray
from glent.core.geometry.world.throw import Throw
from glent.core.input.samples import RaySample
from glent.formats import counts_of, read_recording, replay

if TYPE_CHECKING:
    from glent.cli.scene_source import SceneSource
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.demo.worlds import World
    from glent.diagnose import PassMap
    from glent.figures import ShownRay

__all__ = ["map_command", "timeline", "tree", "view"]


@click.command()
@SCENE
@WINDOW
@click.option("--facts", is_flag=True, help="What each is called, and the facts that the toolkit keeps on it, instead.")
@AS_JSON
def tree(scene: SceneSource, window: tuple[float, float] | None, facts: bool, as_json: bool) -> None:
    """Show the nodes of SCENE, back to front, with where they are and how solid."""
    router, _ = router_for(scene, window)
    rows = [_tree_row(node) for node in router.scene.walk()]
    if as_json:
        emit(rows)
        return
    if facts:
        _print_facts(rows)
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
    layers, in_world = len(router.scene.layers), router.scene.in_world
    panels = sum(1 for root in in_world if isinstance(root, glent.Panel))
    counts = [(layers, "layer"), (panels, "panel"), (len(in_world) - panels, "spot")]
    kinds = ", ".join(f"{many} {what}{'s' * (many != 1)}" for many, what in counts if many or what == "layer")
    out.print(f"{len(rows)} nodes in {kinds}; size {size}, fit {router.scene.fit}")


def _print_facts(rows: list[dict[str, Any]]) -> None:
    """What the nodes are called, what is said of them, and their facts; those of which there is nothing to say only
    where they lead to others."""
    shown = table("node", "role", "is called", "facts")
    out = console()
    told = [row["path"] for row in rows if row["facts"] or row["called"] or row["described"]]
    if not told:
        out.print("no node of it has facts, or says what it is called")
        return
    leads = {path[:at] for path in told for at, sign in enumerate(path) if sign == "/"}
    for row in rows:
        if row["path"] not in leads and row["path"] not in told:
            continue
        called = row["called"] + (f" ({row['described']})" if row["described"] else "")
        facts = ", ".join(f"{name}: {json.dumps(value, ensure_ascii=False)}" for name, value in row["facts"].items())
        shown.add_row("  " * row["depth"] + row["name"], row["role"] or "", called, facts)
    out.print(shown)
    many = sum(1 for row in rows if row["facts"])
    out.print(f"{many} of {len(rows)} nodes have facts")


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
            ("its back is blocked", node.reverse == "blocked"),
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


def _fills(node: glent.Node) -> str:
    """Which sides of a node's box are its parent's because its place leaves its size out."""
    place, parent = node.place, node.parent
    if parent is None or parent.flow is not None or node.effective_solidity in ("hollow", "ghost"):
        return ""
    wide, tall = place.width is None and place.right is None, place.height is None and place.bottom is None
    ends = {(True, True): "to the right and down", (True, False): "to the right", (False, True): "down"}
    return f"fills its parent {ends[wide, tall]}" if wide or tall else ""


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
        (f"opener {node.opener}", node.opener is not None),
        (f"seats {' '.join(sorted(node.seats or ()))}, others {node.for_others}", node.seats is not None),
        (f"wraps {node.wrap}", node.wrap is not None),
        ("scope", node.scope),
        (f"claims {' '.join(sorted(getattr(node, 'claims', ())))}", bool(getattr(node, "claims", ()))),
        (f"cursor {getattr(node, 'cursor', None)}", getattr(node, "cursor", None) is not None),
        (f"{'wrapping ' * bool(flow and flow.wraps)}{flow.kind if flow else ''} flow", flow is not None),
        (f"grows {place.grow:g}", bool(place.grow)),
        ("fits its content", place.fits),
        (_fills(node), bool(_fills(node))),
        ("of no size" + _why_empty(node), 0 in node.size and spot is None),
    ]
    return {
        "path": node.path,
        "name": node.name,
        "depth": len(node.lineage()) - 1,
        "edges": list(node.edges),
        "solidity": "open" if node.stops_input and node.effective_solidity != "solid" else node.effective_solidity,
        "given_solidity": node.solidity,
        "role": node.role,
        "spot": spot,
        "notes": [note for note, holds in notes if holds],
        "facts": node.facts.plain(),
        "called": node.accessible_name,
        "described": node.accessible_description,
    }


@click.command("map")
@SCENE
@WINDOW
@click.option(
    "--kind", type=click.Choice(["press", "hover", "wheel", "touch", "keys"]), default="press", show_default=True,
    help="What to ask at every pixel; touch has its reach, keys ask whether the focus comes there.",
)  # fmt: skip
@click.option("--seat", default="main", show_default=True, help="For whom.")
@click.option(
    "--diff", "other", type=SceneParam(), metavar="OTHER", help="Show what changes hands from SCENE to OTHER."
)
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Draw it here, as PNG or SVG by suffix.")
@AS_JSON
def map_command(
    scene: SceneSource,
    window: tuple[float, float] | None,
    kind: str,
    seat: str,
    other: SceneSource | None,
    out: Path | None,
    as_json: bool,
) -> None:
    """Show who gets a press at every pixel of the window: the world, glass, or which solid.

    With --kind, the same of hover, wheel, touches, and of where keys bring the focus; with --diff, what changes hands
    (exit code 1 if anything does).
    """
    from glent.diagnose import kind_map

    pilots = 1 if seat == "main" else 2
    found = kind_map(router_for(scene, window, pilots)[0], kind, seat)
    if other is not None:
        _map_change(scene, other, found, kind_map(router_for(other, window, pilots)[0], kind, seat), out, as_json)
        return
    if out is not None:
        from glent.figures import draw_map

        height, width = found.zones.shape
        draw_to(out, lambda: draw_map(found, out, f"{scene.stem}: {TITLES[kind]}, at {width} × {height}", kind))
    if as_json:
        _emit_map(found, out)
    else:
        _show_map(found, kind, out)


TITLES = {
    "press": "who gets a press",
    "hover": "what a mouse hovers",
    "wheel": "who gets the wheel",
    "touch": "who gets a touch, with its reach",
    "keys": "where keys bring the focus",
}


COLUMN = {
    "press": "a press there goes to",
    "hover": "a mouse there",
    "wheel": "the wheel there goes to",
    "touch": "a touch there goes to",
    "keys": "what lies there",
}


def _emit_map(found: PassMap, out: Path | None) -> None:
    from glent.diagnose import Zone

    emit(
        {
            "size": list(found.zones.shape[::-1]),
            "zones": {zone.name.lower(): found.share(zone) for zone in Zone},
            "pixels": {node.path: count for node, count in found.pixels().items()},
            "figure": str(out) if out is not None else None,
        }
    )


def _show_map(found: PassMap, kind: str, out: Path | None) -> None:
    from glent.diagnose import MAPS, Zone

    pixels = found.pixels()
    to = console()
    shown = table("part of the window>", COLUMN[kind])
    for zone in Zone:
        if zone is Zone.BLOCKED and not found.share(zone):
            continue  # no modal is open, nothing is claimed
        if zone in MAPS[kind]:
            shown.add_row(f"{found.share(zone) * 100:.1f} %", MAPS[kind][zone])
    to.print(shown)
    largest = table("pixels>", "node", "what it is")
    for node, count in list(pixels.items())[:15]:
        largest.add_row(f"{count:,}", node.path, node.effective_solidity + ("" if node.is_enabled else ", disabled"))
    to.print(largest)
    if len(pixels) > 15:
        to.print(f"… and {len(pixels) - 15} more nodes (--json lists them)")
    to.print(f"the picture is in {out}" if out is not None else "--out FILE.png draws it")


def _map_change(
    source: SceneSource, other: SceneSource, before: PassMap, after: PassMap, out: Path | None, as_json: bool
) -> None:
    from glent.diagnose.map_change import map_change, said_of

    change = map_change(before, after)
    if out is not None:
        from glent.figures import draw_map_change

        draw_to(
            out, lambda: draw_map_change(before, after, out, f"What changes hands from {source.stem} to {other.stem}")
        )
    if as_json:
        moves = [
            {"pixels": many, "was": was[0], "was_zone": was[1].name.lower(), "now": now[0],
             "now_zone": now[1].name.lower()}
            for (was, now), many in change.moves.items()
        ]  # fmt: skip
        emit({"changed": int(change.changed.sum()), "moves": moves, "figure": str(out) if out is not None else None})
    else:
        to = console()
        shown = table("pixels>", "went to", "goes to")
        for (was, now), many in list(change.moves.items())[:20]:
            shown.add_row(f"{many:,}", said_of(was), said_of(now))
        if change.moves:
            to.print(shown)
        if len(change.moves) > 20:
            to.print(f"… and {len(change.moves) - 20} more (--json lists them)")
        part = change.changed.mean() * 100.0
        to.print(f"{part:.1f} % of the window changes hands from {source.stem} to {other.stem}")
        if out is not None:
            to.print(f"the picture is in {out}")
    if change.moves:
        raise SystemExit(1)


@click.command()
@SCENE
@click.argument("recording", type=RecordingParam())
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), required=True, help="PNG or SVG by suffix.")
@AS_JSON
def timeline(scene: SceneSource, recording: Path, out: Path, as_json: bool) -> None:
    """Draw who got each sample of RECORDING over time, when it is fed to SCENE."""
    from glent.figures import draw_timeline

    given = read_recording(recording)
    steps = steps_of(*router_for(scene, pilots=len(given.seats)), given)
    draw_to(out, lambda: draw_timeline(steps, out, f"{recording.stem}: who got each sample"))
    if as_json:
        emit({"figure": str(out), "counts": counts_of(steps)})
    else:
        console().print(f"the picture is in {out}; {summary(counts_of(steps))}")


@click.command()
@SCENE
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), required=True, help="PNG or SVG by suffix.")
@click.option(
    "--camera", type=RAY, metavar="EX EY EZ TX TY TZ",
    help="Where the eye is and a point it looks at, metres; else the scene's own camera.",
)  # fmt: skip
@click.option("--fov", type=float, default=60.0, show_default=True, help="How much --camera sees, degrees.")
@click.option("--ray", type=RAY, metavar="OX OY OZ DX DY DZ", multiple=True, help="A ray to draw; may be given again.")
@click.option("--recording", type=RecordingParam(), help="Draw the rays of this recording, as they last pointed.")
@click.option("--at", type=float, help="Play the recording up to this time, seconds; else to its end.")
@AS_JSON
def view(
    scene: SceneSource,
    out: Path,
    camera: tuple[float, ...] | None,
    fov: float,
    ray: tuple[tuple[float, ...], ...],
    recording: Path | None,
    at: float | None,
    as_json: bool,
) -> None:
    """Draw what a camera sees of the panels and spots of SCENE, with rays, what they hit, and their verdicts."""
    from glent.figures import draw_view

    router, world = router_for(scene)
    sees = router.scene.camera
    if camera is not None:
        sees = Camera(*parts_of(camera), fov=fov)
    if sees is None:
        raise click.UsageError(f"{scene.stem} has no camera of its own; give --camera EX EY EZ TX TY TZ")
    if not router.scene.in_world:
        raise click.UsageError(f"nothing of {scene.stem} stands in the world: it has no panels and no spots")
    shown: list[ShownRay] = []
    if recording is not None:
        shown = _rays_of(router, world, recording, at)
    for number, numbers in enumerate(ray, 1):
        origin, direction = parts_of(numbers)
        time = max(router.now, 0.0)
        shown.append(_shown(router, RaySample(time, "move", origin, direction, f"ray-{number}")))
    width, height = router.scene.window
    title = f"{scene.stem}: the world, its panels and spots"
    draw_to(out, lambda: draw_view(router.scene, sees, out, shown, title, (round(width), round(height))))
    if as_json:
        emit({"figure": str(out), "rays": [_ray_row(one) for one in shown]})
        return
    to = console()
    if shown:
        rows = table("ray", "lands on", "metres>", "why")
        for one in shown:
            first = next((hit for hit in one.hits if hit.offered), None)
            far = f"{first.distance:.2f}" if first is not None and first.distance is not None else ""
            rows.add_row(one.name, first.node.path if first is not None else "", far, one.verdict.why)
        to.print(rows)
    to.print(f"the picture is in {out}")


def _shown(router: Router, sample: RaySample) -> ShownRay:
    return _drawn(router, sample, router.feed(sample))


def _drawn(router: Router, sample: RaySample, verdict: Verdict) -> ShownRay:
    """The way of a sample, with what it meets."""
    from glent.figures import ShownRay

    if sample.path is not None:
        throw = Throw([sample.origin, *sample.path], sample.length)
        return ShownRay(sample.pointer, throw, tuple(router.hits_throw(throw, seat=verdict.seat)), verdict)
    ray = Ray(sample.origin, sample.direction, sample.length)
    hits = router.hits_ray(sample.origin, sample.direction, sample.length, seat=verdict.seat)
    return ShownRay(sample.pointer, ray, tuple(hits), verdict)


def _rays_of(router: Router, world: World, recording: Path, at: float | None) -> list[ShownRay]:
    last: dict[str, tuple[RaySample, Any]] = {}
    for step in replay(router, read_recording(recording)):
        if at is not None and step.sample.time > at:
            break
        world.steer(step.sample, step.verdict)
        if isinstance(step.sample, RaySample):
            last[step.sample.pointer] = (step.sample, step.verdict)
    return [_drawn(router, sample, verdict) for sample, verdict in last.values()]


def _course(way: Ray | Throw) -> dict[str, Any]:
    if isinstance(way, Throw):
        return {"path": [list(point) for point in way.points[1:]]}
    return {"direction": list(way.direction)}


def _ray_row(one: ShownRay) -> dict[str, Any]:
    return {
        "ray": one.name,
        "origin": list(one.way.origin),
        **_course(one.way),
        "world": one.verdict.world,
        "owner": one.verdict.owner.path if one.verdict.owner is not None else None,
        "why": one.verdict.why,
        "hits": [{"node": hit.node.path, "distance": hit.distance, "offered": hit.offered} for hit in one.hits],
    }
