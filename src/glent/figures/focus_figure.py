"""Where the focus goes, as a picture: stops with their numbers in tab order, and an arrow for each direction."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any, Literal

from glent.core.errors import SceneError
from glent.core.scene.node import Node
from glent.core.scene.scene import Scene
from glent.diagnose import FocusMap, FocusStop
from glent.figures.palette import INK, PAPER, new_figure, save

__all__ = ["draw_focus"]

FILL, GROUP_FILL, STUCK_FILL = "#dfe7ee", "#eef2f5", "#f0d3c4"
BOTH, ONE, NAMED = "#2f5d8a", "#b5512a", "#6d4a92"
"""Arrows: there and back is one line with two heads; a way that does not come back the same is a colour of its own."""

ROUND: Literal["--"] = "--"

BACK = {"left": "right", "right": "left", "up": "down", "down": "up"}
SIDES = {"left": (0.0, 0.5), "right": (1.0, 0.5), "up": (0.5, 0.0), "down": (0.5, 1.0)}


def draw_focus(scene: Scene, found: FocusMap, path: str | Path, title: str = "") -> None:
    """Draw where each direction leads; the format is by suffix (PNG or SVG)."""
    from matplotlib.lines import Line2D
    from matplotlib.patches import Patch

    figure, axes = new_figure(0.05)
    width, height = scene.window
    seen = tuple(stop for stop in found.stops if _is_seen(scene, stop.node))
    found = replace(found, stops=seen)
    stops = {stop.node: stop for stop in found.stops}
    for node in scene.walk():
        if node not in stops and node.effective_solidity != "hollow" and _is_seen(scene, node):
            _outline(axes, scene, node, "none", "#c3ccd4", 0.8)
    for stop in found.stops:
        stuck = not stop.can_leave or not stop.can_reach
        fill = STUCK_FILL if stuck else FILL if stop.number is not None else GROUP_FILL
        _outline(axes, scene, stop.node, fill, INK, 1.2, "solid" if stop.in_view else "dotted")
    drawn = _arrows(axes, scene, found)
    for stop in found.stops:
        _label(axes, scene, stop)
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.set_aspect("equal")
    axes.set_title(title or "Where the focus goes", loc="left", color=INK, fontsize=15)
    axes.set_xlabel("window pixels, x to the right and y down", color=INK, fontsize=11)
    axes.tick_params(labelsize=10)
    handles: list[Any] = [
        Patch(facecolor=FILL, edgecolor=INK, label="a stop, with its number in tab order"),
        Patch(facecolor=GROUP_FILL, edgecolor=INK, label="inside a group: arrows lead there"),
    ]
    if not all(stop.in_view for stop in found.stops):
        handles.append(Patch(facecolor=GROUP_FILL, edgecolor=INK, linestyle="dotted", label="scrolled out of view"))
    if found.problems:
        handles.append(Patch(facecolor=STUCK_FILL, edgecolor=INK, label="cannot be reached or left by arrows"))
    kinds = (BOTH, "there and back"), (ONE, "one way"), (NAMED, "a neighbour by name")
    handles += [Line2D([], [], color=colour, linewidth=2, label=what) for colour, what in kinds if colour in drawn]
    if ROUND in drawn:
        handles.append(Line2D([], [], color=INK, linewidth=2, linestyle=ROUND, label="round the end"))
    figure.legend(handles=handles, loc="lower center", ncols=3, fontsize=11, frameon=False)
    save(figure, str(path))


def _corners(scene: Scene, node: Node) -> list[tuple[float, float]]:
    width, height = node.size
    return [scene.point(node, x, y) for x, y in ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height))]


def _is_seen(scene: Scene, node: Node) -> bool:
    """Whether a node is on the screen: of those on panels, all of it as the scene's camera sees it."""
    if node.parent is None or not node.is_visible:
        return False
    try:
        _corners(scene, node)
    except SceneError:
        return False
    return True


def _outline(axes: Any, scene: Scene, node: Node, fill: str, edge: str, line: float, style: str = "solid") -> None:
    from matplotlib.patches import Polygon

    corners = _corners(scene, node)
    axes.add_patch(Polygon(corners, closed=True, facecolor=fill, edgecolor=edge, linewidth=line, linestyle=style))


def _side(scene: Scene, node: Node, direction: str, shift: float) -> tuple[float, float]:
    """The middle of the side of a node's box on the screen that a direction leaves by, a little along it."""
    corners = _corners(scene, node)
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    across, down = SIDES[direction]
    x, y = min(xs) + across * (max(xs) - min(xs)), min(ys) + down * (max(ys) - min(ys))
    return (x, y + shift) if direction in ("left", "right") else (x + shift, y)


def _arrows(axes: Any, scene: Scene, found: FocusMap) -> set[str]:
    """An arrow for each way; there and back between the same two stops is one, with two heads."""
    from matplotlib.patches import FancyArrowPatch

    drawn: set[str] = set()
    directions = {stop.node: stop.directions for stop in found.stops}
    done: set[tuple[Node, str]] = set()
    for stop in found.stops:
        for direction, to in stop.directions.items():
            if to is None or to not in directions or (stop.node, direction) in done:
                continue
            both = directions.get(to, {}).get(BACK[direction]) is stop.node
            named = direction in stop.named
            if both:
                done.add((to, BACK[direction]))
            colour = NAMED if named else BOTH if both else ONE
            drawn.add(colour)
            shift = 0.0 if both else 7.0 if direction in ("left", "up") else -7.0
            start = _side(scene, stop.node, direction, shift)
            end = _side(scene, to, BACK[direction], shift)
            backwards = _is_backwards(start, end, direction)
            if backwards:
                drawn.add(ROUND)
            axes.add_patch(
                FancyArrowPatch(
                    start,
                    end,
                    arrowstyle="<|-|>" if both else "-|>",
                    mutation_scale=13,
                    linewidth=1.5,
                    color=colour,
                    connectionstyle=f"arc3,rad={0.35 if backwards else 0.06}",
                    shrinkA=1,
                    shrinkB=1,
                    linestyle=ROUND if backwards else "solid",
                    zorder=3,
                )
            )
    return drawn


def _is_backwards(start: tuple[float, float], end: tuple[float, float], direction: str) -> bool:
    """Whether a way goes round the end: against its own direction."""
    dx, dy = end[0] - start[0], end[1] - start[1]
    return {"left": dx > 1, "right": dx < -1, "up": dy > 1, "down": dy < -1}[direction]


def _label(axes: Any, scene: Scene, stop: FocusStop) -> None:
    corners = _corners(scene, stop.node)
    x, y = sum(x for x, _ in corners) / 4, sum(y for _, y in corners) / 4
    text = f"{stop.number}  {stop.node.name}" if stop.number is not None else stop.node.name
    behind = {"facecolor": PAPER, "alpha": 0.75, "linewidth": 0, "pad": 1.0}
    axes.text(x, y, text, ha="center", va="center", fontsize=9.5, color=INK, bbox=behind, zorder=4)
