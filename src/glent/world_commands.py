"""The commands that look into the world: what a point or a ray hits, and what a camera sees."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from glent.core.geometry.world.camera import Camera
from glent.core.geometry.world.ray import Ray
from glent.core.input.samples import RaySample
from glent.formats import read_recording, replay
from glent.terminal import AS_JSON, SCENE, WINDOW, RecordingParam, console, draw_to, emit, router_for, table

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.router import Router
    from glent.diagnose import Consideration
    from glent.figures import ShownRay

__all__ = ["pick", "view"]

RAY = (float,) * 6


@click.command()
@SCENE
@click.argument("x", type=float, required=False)
@click.argument("y", type=float, required=False)
@click.option("--ray", type=RAY, metavar="OX OY OZ DX DY DZ", help="A ray in the world instead of X and Y, metres.")
@click.option("--kind", type=click.Choice(["mouse", "touch", "pen"]), default="mouse", help="Touch has a longer reach.")
@click.option("--all", "all_nodes", is_flag=True, help="Show also layers and the nodes that lie elsewhere.")
@WINDOW
@AS_JSON
def pick(
    scene: Path,
    x: float | None,
    y: float | None,
    ray: tuple[float, ...] | None,
    kind: str,
    all_nodes: bool,
    window: tuple[float, float] | None,
    as_json: bool,
) -> None:
    """Say what lies at the point X, Y of the window in SCENE, front to back, and what ruled the others out.

    With --ray, the same along a ray in the world: from a point, in a direction, in metres.
    """
    from glent.diagnose import why, why_ray

    router, _ = router_for(scene, window)
    if ray is not None:
        if x is not None:
            raise click.UsageError("give X and Y, or --ray, and not both")
        origin, direction = _parts(ray)
        _show_pick(why_ray(router, origin, direction), router.hits_ray(origin, direction), all_nodes, as_json, {
            "ray": {"origin": list(origin), "direction": list(direction)}})  # fmt: skip
        if not as_json:
            _tell_ray(router, origin, direction)
        return
    if x is None or y is None:
        raise click.UsageError("expected X and Y, a point of the window, or --ray with six numbers")
    world = {action: router.would_reach_world(x, y, action) for action in ("press", "move", "wheel")}
    told = {"point": [x, y], "world": world}
    _show_pick(why(router, x, y, kind), router.hits(x, y, kind=kind), all_nodes, as_json, told)
    if not as_json:
        goes = ", ".join(f"a {action} to {'the world' if yes else 'the UI'}" for action, yes in world.items())
        console().print(f"From a free mouse at ({x:g}, {y:g}) would go: {goes}.")


def _parts(numbers: tuple[float, ...]) -> tuple[Vector3, Vector3]:
    ox, oy, oz, dx, dy, dz = numbers
    return (ox, oy, oz), (dx, dy, dz)


def _show_pick(
    found: list[Consideration], hits: list[Hit], all_nodes: bool, as_json: bool, told: dict[str, Any]
) -> None:
    from glent.diagnose import Outcome

    by_node = {hit.node: hit for hit in hits}
    if as_json:
        emit({**told, "nodes": [_pick_row(one, by_node.get(one.node)) for one in found]})
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
        shown.add_row(mark, local, *([metres] if far else []), one.sentence)
    out = console()
    if shown.row_count:
        out.print(shown)
    if outside:
        out.print(f"{outside} others, layers and nodes that lie elsewhere, are not shown (--all shows them)")


def _pick_row(one: Consideration, hit: Hit | None) -> dict[str, Any]:
    row: dict[str, Any] = {
        "node": one.node.path,
        "outcome": one.outcome.name.lower(),
        "by": one.by.path,
        "local": list(hit.local) if hit is not None else None,
        "sentence": one.sentence,
    }
    if hit is not None and hit.point is not None and hit.normal is not None:
        row |= {"distance": hit.distance, "point": list(hit.point), "normal": list(hit.normal)}
        row |= {"snap": list(hit.snap) if hit.snap is not None else None, "tags": sorted(hit.tags)}
    return row


def _tell_ray(router: Router, origin: Vector3, direction: Vector3) -> None:
    verdict = router.feed(RaySample(router.now if router.now > -1e11 else 0.0, "press", origin, direction))
    out = console()
    out.print(f"A press of a ray there: {verdict.why}.", markup=False)
    spot = verdict.spot
    if spot is not None and spot.point is not None and spot.normal is not None:
        at, normal = (", ".join(f"{one:.3f}" for one in part) for part in (spot.point, spot.normal))
        snap = f", snaps to {', '.join(f'{one:g}' for one in spot.snap)}" if spot.snap is not None else ""
        tags = f", tags {' '.join(sorted(spot.tags))}" if spot.tags else ""
        out.print(f"It lands on {spot.node.path} at ({at}), normal ({normal}){snap}{tags}.", markup=False)


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
    scene: Path,
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
        sees = Camera(*_parts(camera), fov=fov)
    if sees is None:
        raise click.UsageError(f"{scene.stem} has no camera of its own; give --camera EX EY EZ TX TY TZ")
    if not router.scene.standing:
        raise click.UsageError(f"nothing of {scene.stem} stands in the world: it has no panels and no spots")
    shown: list[ShownRay] = []
    if recording is not None:
        shown = _rays_of(router, world, recording, at)
    for number, numbers in enumerate(ray, 1):
        origin, direction = _parts(numbers)
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
    from glent.figures import ShownRay

    verdict = router.feed(sample)
    ray = Ray(sample.origin, sample.direction, sample.length)
    hits = router.hits_ray(sample.origin, sample.direction, sample.length, seat=verdict.seat)
    return ShownRay(sample.pointer, ray, tuple(hits), verdict)


def _rays_of(router: Router, world: Any, recording: Path, at: float | None) -> list[ShownRay]:
    from glent.figures import ShownRay

    last: dict[str, tuple[RaySample, Any]] = {}
    for step in replay(router, read_recording(recording)):
        if at is not None and step.sample.time > at:
            break
        if world is not None:
            world.steer(step.sample, step.verdict)
        if isinstance(step.sample, RaySample):
            last[step.sample.pointer] = (step.sample, step.verdict)
    shown = []
    for name, (sample, verdict) in last.items():
        ray = Ray(sample.origin, sample.direction, sample.length)
        hits = router.hits_ray(sample.origin, sample.direction, sample.length)
        shown.append(ShownRay(name, ray, tuple(hits), verdict))
    return shown


def _ray_row(one: ShownRay) -> dict[str, Any]:
    return {
        "ray": one.name,
        "origin": list(one.ray.origin),
        "direction": list(one.ray.direction),
        "world": one.verdict.world,
        "owner": one.verdict.owner.path if one.verdict.owner is not None else None,
        "why": one.verdict.why,
        "hits": [{"node": hit.node.path, "distance": hit.distance, "offered": hit.offered} for hit in one.hits],
    }
