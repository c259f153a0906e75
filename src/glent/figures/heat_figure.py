"""Where presses were, over what lies there: a heat map."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import numpy as np

from glent.figures.map_figure import draw_edges
from glent.figures.palette import INK, PAPER, new_figure, save

if TYPE_CHECKING:
    from collections.abc import Sequence

    from glent.diagnose import PassMap

__all__ = ["draw_heat"]

FINE = 80
"""Cells from left to right."""
EDGE = "#b4bcc2"
GROUND = {0: 1.0, 1: 0.97, 2: 0.93, 3: 0.86, 4: 0.9, 5: 0.95}
"""How light each zone of the map below is."""


def draw_heat(
    found: PassMap,
    presses: Sequence[tuple[float, float, bool]],
    path: str | Path,
    title: str = "",
    near: Sequence[tuple[float, float]] = (),
) -> None:
    """Draw presses over the map of a scene, as it begins; the format is by suffix (PNG or SVG).

    :param found: the scene's map. :param presses: x and y in window pixels, and whether something got it. :param near:
        those that missed a target by little; each gets a mark.
    """
    from matplotlib.colors import LogNorm

    figure, axes = new_figure(0.05)
    height, width = found.zones.shape
    light = np.vectorize(GROUND.get, otypes=[float])(found.zones)
    axes.imshow(light, cmap="gray", vmin=0.0, vmax=1.0, interpolation="nearest", extent=(0, width, height, 0))
    draw_edges(axes, found, EDGE)
    inside = [(x, y, hit) for x, y, hit in presses if 0.0 <= x < width and 0.0 <= y < height]
    if inside:
        xs, ys = np.array([one[0] for one in inside]), np.array([one[1] for one in inside])
        cells = axes.hexbin(
            xs, ys, gridsize=(FINE, max(1, round(FINE * height / width * 0.58))), extent=(0, width, 0, height),
            mincnt=1, cmap="viridis_r", norm=LogNorm(1), linewidths=0.4, edgecolors=PAPER,
        )  # fmt: skip
        axes.set_position((0.05, 0.15, 0.87, 0.78))
        bar = figure.colorbar(cells, cax=figure.add_axes((0.935, 0.15, 0.015, 0.78)))
        most = int(cells.get_array().max())
        ticks = sorted({1, *(number for number in (2, 5, 10, 20, 50, 100, 1000) if number < most), most})
        bar.set_ticks(ticks, labels=[f"{number:,}" for number in ticks])
        bar.ax.minorticks_off()
        bar.ax.set_title("presses", color=INK, fontsize=10)
    missed = [(x, y) for x, y, hit in inside if not hit]
    if missed:
        axes.scatter(*zip(*missed, strict=True), s=34, facecolors="none", edgecolors=INK, linewidths=1.0,
                     label=f"{len(missed)} came to nothing one can press")  # fmt: skip
    if near:
        axes.scatter(*zip(*near, strict=True), s=70, marker="x", color="#b5512a", linewidths=2.0,
                     label=f"{len(near)} missed a target by little")  # fmt: skip
    axes.set_xlim(0, width)
    axes.set_ylim(height, 0)
    axes.set_title(title or "Where presses were", loc="left", color=INK, fontsize=15)
    axes.set_xlabel("window pixels, x to the right and y down", color=INK, fontsize=11)
    axes.tick_params(labelsize=10)
    if missed or near:
        figure.legend(loc="lower center", ncols=2, fontsize=11, frameon=False)
    save(figure, str(path))
