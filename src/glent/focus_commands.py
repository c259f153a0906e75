"""The command that shows where the focus goes."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from glent.terminal import AS_JSON, SCENE, WINDOW, console, draw_to, emit, router_for, table

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.diagnose import FocusMap, FocusStop

__all__ = ["focus"]

WAYS = ("left", "right", "up", "down")


@click.command()
@SCENE
@click.option("--scope", metavar="PATH", help="Only the stops within this node.")
@click.option("--show", metavar="PATH", multiple=True, help="Show this node first, such as a menu; may be given twice.")
@click.option("--seat", default="main", show_default=True, help="Whose focus.")
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Draw it here, as PNG or SVG by suffix.")
@WINDOW
@AS_JSON
def focus(
    scene: Path,
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
        **{way: _path(stop.ways[way]) for way in WAYS},
        "named": list(stop.named),
        "reached": stop.reached,
        "left_again": stop.left,
        "in_view": stop.in_view,
    }


def _show(found: FocusMap, out: Path | None) -> None:
    to = console()
    if found.modal is not None:
        to.print(f"{found.modal.path} is modal: the focus stays within it")
    shown = table("tab>", "stop", *WAYS)
    common = _common([stop.node.path for stop in found.stops])
    for stop in found.stops:
        leads = [_short(_path(stop.ways[way]), common) for way in WAYS]
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
