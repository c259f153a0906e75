"""The world as a camera sees it, and from above, with rays, what they hit, and who got what they did."""

from __future__ import annotations

import math
import textwrap
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.core.geometry.world.area import Area
from glent.core.geometry.world.camera import Camera
from glent.core.geometry.world.vectors import along
from glent.core.scene.spot import Spot
from glent.diagnose import Zone
from glent.diagnose.sight import Outline, outlines
from glent.figures.palette import INK, PAPER, ZONE_COLOURS, save

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.throw import Throw
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene

__all__ = ["ShownRay", "draw_view"]

TO_UI, TO_WORLD, TO_NOBODY = "#1f5f9e", "#2f7a3f", "#b4551d"
GROUND, STONE, LISTENS, PANEL = (0.87, 0.91, 0.90), (0.80, 0.76, 0.70), (0.70, 0.80, 0.91), "#f4f5f6"
MAX_RAYS = 5
LONGEST = 400.0
"""Metres: a ray that meets nothing is drawn as far as this."""

Box = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class ShownRay:
    """A ray to draw.

    :ivar name: what it is called. :ivar way: where it goes. :ivar hits: what it meets, front to back.
    :ivar verdict: who got the sample it came by.
    """

    name: str
    way: Ray | Throw
    hits: tuple[Hit, ...]
    verdict: Verdict

    @property
    def end(self) -> float:
        """How far it is drawn, metres."""
        first = next((hit for hit in self.hits if hit.offered and hit.node.stops_input), None)
        if first is not None and first.distance is not None:
            return first.distance
        return min(self.way.length, LONGEST)

    @property
    def colour(self) -> str:
        """By who got it."""
        if self.verdict.world:
            return TO_WORLD
        return TO_UI if self.verdict.owner is not None else TO_NOBODY


def draw_view(
    scene: Scene,
    camera: Camera,
    path: str | Path,
    rays: list[ShownRay],
    title: str = "",
    size: tuple[int, int] = (1280, 720),
) -> None:
    """Draw what a camera sees of what stands in the world; the format is by suffix (PNG or SVG).

    :param size: of the window the camera fills, pixels; the picture shows it smaller, with its sides in proportion.
    """
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    figure = Figure(figsize=(12.8, 8.0), dpi=100, facecolor=PAPER)
    FigureCanvasAgg(figure)
    figure.text(0.02, 0.955, title or "What the camera sees", fontsize=15, color=INK)
    width, height = size
    across = 0.695
    tall = min(0.66 if rays else 0.83, across * 12.8 / 8.0 * height / width)
    top = 0.93
    main = figure.add_axes((0.02, top - tall, across, tall))
    _frame(main, width, height)
    view = (0.0, 0.0, float(width), float(height))
    seen = outlines(scene, camera, view)
    _draw(main, seen)
    _name(main, seen, (width, height), _draw_rays(main, camera, view, rays))
    plan, plan_view = _plan_camera(scene, camera, rays)
    aside = figure.add_axes((0.735, top - tall, 0.245, tall))
    _frame(aside, plan_view[2], plan_view[3])
    _draw(aside, outlines(scene, plan, plan_view))
    _draw_rays(aside, plan, plan_view, rays)
    _draw_eye(aside, plan, plan_view, camera)
    _scale_bar(aside, plan, plan_view)
    figure.text(0.735, top + 0.008, "the same from above, north (-z) up", fontsize=10.5, color=INK)
    _tell(figure, rays, top - tall - 0.03)
    save(figure, str(path))


def _frame(axes: Any, width: float, height: float) -> None:
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.set_aspect("equal", adjustable="box", anchor="N")
    axes.set_xticks([])
    axes.set_yticks([])
    axes.set_facecolor("#fbfcfd")
    for side in axes.spines.values():
        side.set_color("#9aa5ad")


def _draw(axes: Any, pieces: list[Outline]) -> None:
    from matplotlib.patches import PathPatch
    from matplotlib.path import Path as Outlined

    for order, piece in enumerate(pieces):
        points, codes = [], []
        for ring in (piece.points, *piece.holes):
            points += [*ring, ring[0]]
            codes += [Outlined.MOVETO, *[Outlined.LINETO] * (len(ring) - 1), Outlined.CLOSEPOLY]
        fill, edge, dash = _colours(piece)
        made = {"facecolor": fill, "edgecolor": edge, "linewidth": 0.8, "linestyle": dash, "zorder": 2 + order * 1e-3}
        axes.add_patch(PathPatch(Outlined(points, codes), **made))


def _colours(piece: Outline) -> tuple[Any, str, str]:
    node = piece.node
    if node.parent is None and node._own is not None:
        return (PANEL if piece.front else "#d9d5cf"), "#5b6b78", "-" if piece.front else "--"
    if node.parent is not None:
        if not node.is_enabled:
            return ZONE_COLOURS[Zone.DISABLED], PAPER, "-"
        return ZONE_COLOURS[Zone.SOLID if node.effective_solidity == "solid" else Zone.GLASS], PAPER, "-"
    flat = isinstance(node, Spot) and isinstance(node.form, Area)
    tone = LISTENS if node.effective_solidity == "solid" else GROUND if flat else STONE
    return tuple(one * piece.light for one in tone), "#7d8a86" if flat else "#6f685e", "-"


def _name(axes: Any, pieces: list[Outline], size: tuple[float, float], placed: list[Box]) -> None:
    """Write the names where they cover neither each other nor what is placed already."""
    named: set[str] = set()
    for order in range(len(pieces) - 1, -1, -1):  # the nearest have theirs first
        _label(axes, pieces[order], size, named, placed, 3 + order * 1e-3)


def _label(
    axes: Any, piece: Outline, size: tuple[float, float], named: set[str], placed: list[Box], order: float
) -> None:
    """The name in the middle of a piece, once for each node, where there is room for it."""
    node = piece.node
    if node.path in named or (node.parent is None and node._own is not None) or len(node.children) > 1:
        return
    xs = [min(max(x, 0.0), size[0]) for x, _ in piece.points]
    ys = [min(max(y, 0.0), size[1]) for _, y in piece.points]
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    on_panel = node.parent is not None
    letter, line = 0.0064 * size[0], 0.0165 * size[0]
    if (on_panel and (wide < (len(node.name) + 2) * letter or tall < line)) or wide <= 0.0:
        return
    x, y = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
    half = len(node.name) * letter / 2 + (2 if on_panel else 8)
    for aside in (0.0,) if on_panel else (0.0, line, -line):
        box = (x - half, y + aside - line / 2, x + half, y + aside + line / 2)
        if box[0] >= 0 and box[2] <= size[0] and not any(_overlap(box, other) for other in placed):
            break
    else:
        return
    y += aside
    named.add(node.path)
    placed.append(box)
    text = {"ha": "center", "va": "center", "fontsize": 8.6, "zorder": order, "clip_on": True}
    if on_panel:
        axes.text(x, y, node.name, color=PAPER if node.effective_solidity == "solid" else INK, **text)
    else:
        behind = {"facecolor": PAPER, "alpha": 0.85, "linewidth": 0, "pad": 0.8}
        axes.text(x, y, node.name, color=INK, bbox=behind, **text | {"zorder": 40.5})  # a ray must not strike it out


def _overlap(one: Box, other: Box) -> bool:
    return one[0] < other[2] and other[0] < one[2] and one[1] < other[3] and other[1] < one[3]


def _draw_rays(axes: Any, camera: Camera, view: Box, rays: list[ShownRay]) -> list[Box]:
    """The boxes of its marks, where no name should be."""
    marks: list[Box] = []
    for number, shown in enumerate(rays[:MAX_RAYS], 1):
        parts = [shown.end * (n / 200.0) ** 2 for n in range(201)]
        seen = [camera.project(shown.way.at(part), view) for part in parts]
        points = [point for point in seen if point is not None and abs(point[0]) < 1e5 and abs(point[1]) < 1e5]
        if len(points) > 1:
            line = {"solid_capstyle": "round", "zorder": 40, "clip_on": True}
            axes.plot(*zip(*points, strict=True), color=PAPER, linewidth=3.6, alpha=0.8, **line)
            axes.plot(*zip(*points, strict=True), color=shown.colour, linewidth=1.8, **line)
        for hit in shown.hits:
            at = camera.project(hit.point, view) if hit.point is not None else None
            if at is not None and hit.offered:
                axes.plot(*at, "o", color=shown.colour, markeredgecolor=PAPER, markersize=7, zorder=41, clip_on=True)
                marks.append((at[0] - 7.0, at[1] - 7.0, at[0] + 7.0, at[1] + 7.0))
        end = points[-1] if points else None
        if end is not None and 0 <= end[0] <= view[2] and 0 <= end[1] <= view[3]:
            badge = {"boxstyle": "circle,pad=0.22", "facecolor": shown.colour, "edgecolor": PAPER, "linewidth": 1}
            x = min(max(end[0] + view[2] * 0.018, 16.0), view[2] - 16.0)
            y = min(max(end[1] - view[3] * 0.032, 16.0), view[3] - 16.0)
            axes.text(x, y, str(number), color=PAPER, fontsize=9, ha="center", va="center", bbox=badge, zorder=42)
            marks.append((x - 14.0, y - 14.0, x + 14.0, y + 14.0))
    return marks


def _plan_camera(scene: Scene, camera: Camera, rays: list[ShownRay]) -> tuple[Camera, Box]:
    """A camera from above over all that matters: where rays begin and end, and the eye."""
    points = [camera.eye, *(shown.way.origin for shown in rays)]
    points += [shown.way.at(shown.end) for shown in rays if shown.end < LONGEST]
    if len(points) < 3:
        points += [root.pose.position for root in scene.in_world]
    xs, zs = [point[0] for point in points], [point[2] for point in points]
    wide, deep = max(xs) - min(xs), max(zs) - min(zs)
    window = (314.0, 504.0)
    height = max(deep * 1.25, wide * 1.25 * window[1] / window[0], 4.0)
    x, z = (max(xs) + min(xs)) / 2, (max(zs) + min(zs)) / 2
    top = max(2000.0, *(abs(point[1]) + 10.0 for point in points))
    return Camera((x, top, z), (x, 0.0, z), height=height), (0.0, 0.0, *window)


def _draw_eye(axes: Any, plan: Camera, view: Box, camera: Camera) -> None:
    at = plan.project(camera.eye, view)
    ahead = plan.project(along(camera.eye, camera.ahead, (plan.height or 1.0) * 0.06), view)
    if at is not None and ahead is not None:
        axes.annotate(
            "", xy=ahead, xytext=at, arrowprops={"arrowstyle": "-|>", "color": INK, "linewidth": 1.2}, zorder=43
        )
        axes.plot(*at, "o", color=INK, markersize=4, zorder=43)


def _scale_bar(axes: Any, plan: Camera, view: Box) -> None:
    per = view[3] / (plan.height or 1.0)
    metres = 10.0 ** math.floor(math.log10(view[2] * 0.4 / per))
    metres *= 5 if metres * 5 * per < view[2] * 0.45 else 2 if metres * 2 * per < view[2] * 0.45 else 1
    x, y = 12.0, view[3] - 14.0
    axes.plot([x, x + metres * per], [y, y], color=INK, linewidth=2.5, solid_capstyle="butt", zorder=44)
    behind = {"facecolor": PAPER, "alpha": 0.75, "linewidth": 0, "pad": 0.6}
    axes.text(x, y - 8, f"{metres:g} m", fontsize=9, color=INK, va="bottom", bbox=behind, zorder=44)


def _tell(figure: Any, rays: list[ShownRay], top: float) -> None:
    """Each ray as a sentence, and what the colours mean."""
    y = top
    key = (("a ray that the UI has", TO_UI), ("the world's", TO_WORLD), ("nobody's", TO_NOBODY)) if rays else ()
    for place, (text, colour) in zip((0.02, 0.20, 0.31), key, strict=False):
        figure.text(place, y, "━━", color=colour, fontsize=12, va="top")
        figure.text(place + 0.032, y, text, color=INK, fontsize=10.5, va="top")
    beside = 0.42 if rays else 0.02
    figure.text(beside, y, "■", color=LISTENS, fontsize=14, va="top")
    figure.text(
        beside + 0.017, y, "a spot that listens; the others are the world's", color=INK, fontsize=10.5, va="top"
    )
    y -= 0.04
    for number, shown in enumerate(rays[:MAX_RAYS], 1):
        first = next((hit for hit in shown.hits if hit.offered and hit.node.stops_input), None)
        far = f", {first.distance:.2f} m" if first is not None and first.distance is not None else ""
        text = textwrap.shorten(f"{shown.name}{far}: {shown.verdict.why}", 140, placeholder=" …")
        badge = {"boxstyle": "circle,pad=0.2", "facecolor": shown.colour, "linewidth": 0}
        figure.text(0.028, y - 0.004, str(number), color=PAPER, fontsize=9, ha="center", va="top", bbox=badge)
        figure.text(0.045, y, text, color=INK, fontsize=10.5, va="top")
        y -= 0.036
    if len(rays) > MAX_RAYS:
        figure.text(0.045, y, f"and {len(rays) - MAX_RAYS} more rays, not drawn", color=INK, fontsize=10.5, va="top")
