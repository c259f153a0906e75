"""The pass-through map as a picture."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np

from glent.diagnose import MAPS, PassMap, Zone, map_change
from glent.diagnose.map_change import said_of
from glent.figures.palette import HATCHES, INK, PAPER, ZONE_COLOURS, new_figure, save

__all__ = ["draw_edges", "draw_map", "draw_map_change"]

MAX_LABELS = 80
MIN_LABEL = (46, 17)


CHANGED = "#b5512a"
"""What has changed hands."""
MOVES = 5
"""Moves that are told under the picture of a change."""


def draw_map(found: PassMap, path: str | Path, title: str = "", kind: str = "press") -> None:
    """Draw who gets a press at every pixel, or whatever the kind of map asks; PNG or SVG by suffix."""
    from matplotlib.colors import ListedColormap
    from matplotlib.patches import Patch

    figure, axes = new_figure(0.05)
    height, width = found.zones.shape
    colours = ListedColormap([ZONE_COLOURS[zone] for zone in Zone])
    axes.imshow(
        found.zones, cmap=colours, vmin=0, vmax=len(Zone) - 1, interpolation="nearest", extent=(0, width, height, 0)
    )
    for zone, hatch in HATCHES.items():
        inside = (found.zones == zone).astype(float)
        if inside.any():
            middle = (np.arange(width) + 0.5, np.arange(height) + 0.5)
            axes.contourf(*middle, inside, levels=[0.5, 1.5], colors="none", hatches=[hatch])
    draw_edges(axes, found)
    _labels(axes, found)
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.set_title(title or "Who gets a press", loc="left", color=INK, fontsize=15)
    axes.set_xlabel("window pixels, x to the right and y down", color=INK, fontsize=11)
    axes.tick_params(labelsize=10)
    handles = [
        Patch(
            facecolor=ZONE_COLOURS[zone],
            edgecolor=INK,
            hatch=HATCHES.get(zone),
            label=f"{MAPS[kind].get(zone, zone.name.lower())} ({_percent(found.share(zone))})",
        )
        for zone in Zone
        if found.share(zone) > 0
    ]
    figure.legend(handles=handles, loc="lower center", ncols=3, fontsize=11, frameon=False)
    save(figure, str(path))


def draw_map_change(before: PassMap, after: PassMap, path: str | Path, title: str = "") -> None:
    """Draw what has changed hands from one map to another, over the pale second one; PNG or SVG by suffix.

    :raises SceneError: the maps are not of one size.
    """
    from matplotlib.colors import ListedColormap

    change = map_change(before, after)
    figure, axes = new_figure(0.05, bottom=0.24)
    height, width = after.zones.shape
    colours = ListedColormap([ZONE_COLOURS[zone] for zone in Zone])
    extent = (0, width, height, 0)
    axes.imshow(
        after.zones, cmap=colours, vmin=0, vmax=len(Zone) - 1, interpolation="nearest", extent=extent, alpha=0.35
    )
    if change.changed.any():
        shown = np.ma.masked_where(~change.changed, np.ones_like(after.zones))
        axes.imshow(shown, cmap=ListedColormap([CHANGED]), interpolation="nearest", extent=extent, alpha=0.7)
        axes.contour(
            np.arange(width) + 0.5, np.arange(height) + 0.5, change.changed.astype(float), levels=[0.5], colors=INK,
            linewidths=1.2,
        )  # fmt: skip
    draw_edges(axes, before, PAPER)
    draw_edges(axes, after, PAPER)
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.set_title(title or "What has changed hands", loc="left", color=INK, fontsize=15)
    axes.set_xlabel("window pixels, x to the right and y down", color=INK, fontsize=11)
    axes.tick_params(labelsize=10)
    moves = list(change.moves.items())
    lines = [f"{many:,} px: {said_of(was)} → {said_of(now)}" for (was, now), many in moves[:MOVES]]
    if len(moves) > MOVES:
        lines.append(f"… and {len(moves) - MOVES} more")
    share = float(np.count_nonzero(change.changed)) / change.changed.size
    told = f"{_percent(share)} of the window has changed hands" if share else "Nothing has changed hands"
    figure.text(0.05, 0.165, told, color=INK, fontsize=12, va="top")
    for number, line in enumerate(lines):
        column, row = divmod(number, 3)
        figure.text(0.05 + column * 0.48, 0.125 - row * 0.036, line, color=INK, fontsize=11, va="top", parse_math=False)
    save(figure, str(path))


def _percent(share: float) -> str:
    return "under 0.1 %" if share < 0.001 else f"{share * 100:.1f} %"


def draw_edges(axes: Any, found: PassMap, colour: str = PAPER) -> None:
    """Draw a line where one owner ends and another begins."""
    from matplotlib.collections import LineCollection

    owners = found.owners
    rows, columns = np.nonzero(owners[1:, :] != owners[:-1, :])
    level = [((x, y + 1), (x + 1, y + 1)) for x, y in zip(columns, rows, strict=True)]
    rows, columns = np.nonzero(owners[:, 1:] != owners[:, :-1])
    upright = [((x + 1, y), (x + 1, y + 1)) for x, y in zip(columns, rows, strict=True)]
    axes.add_collection(LineCollection(level + upright, colors=colour, linewidths=0.8))


def _labels(axes: Any, found: PassMap) -> None:
    """The name of an owner in its largest free row of pixels, where there is room for it."""
    for node, pixels in list(found.pixels().items())[:MAX_LABELS]:
        index = found.nodes.index(node)
        mine = found.owners == index
        spot = _roomiest(mine)
        if spot is None or pixels < MIN_LABEL[0] * MIN_LABEL[1]:
            continue
        x, y, room = spot
        text = node.name
        if len(text) * 8.2 > room:
            continue
        zone = Zone(found.zones[int(y), int(x)])
        colour = PAPER if zone in (Zone.SOLID, Zone.DISABLED) else INK
        behind = {"facecolor": ZONE_COLOURS[zone], "linewidth": 0, "pad": 1.0}
        axes.text(x, y, text, ha="center", va="center", fontsize=9.5, color=colour, bbox=behind)


def _roomiest(mine: Any) -> tuple[float, float, float] | None:
    """The middle and length of the longest run of owned pixels that is owned a text's height up and down as well."""
    tall = MIN_LABEL[1] // 2
    padded = np.pad(mine, ((tall, tall), (0, 0)))
    free = mine.copy()
    for shift in range(2 * tall + 1):
        free &= padded[shift : shift + len(mine)]
    best: tuple[float, float, float] | None = None
    rows = np.flatnonzero(free.any(axis=1))
    # From the middle outwards, so that of equally long runs the most central one is taken.
    for row in sorted(rows[::2], key=lambda row: abs(row - rows.mean())):
        edges = np.flatnonzero(np.diff(np.concatenate(([0], free[row].view(np.int8), [0]))))
        lengths = edges[1::2] - edges[::2]
        longest = int(np.argmax(lengths))
        if best is None or lengths[longest] > best[2] * 1.2:
            best = (float(edges[2 * longest] + lengths[longest] / 2), float(row), float(lengths[longest]))
    return best
