"""The upper part of a timeline: a row for each pointer, and a bar for each press in the colour of its winner."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from glent.diagnose import Span
from glent.figures.palette import GESTURE_COLOURS, INK, OWN_GESTURE, PAPER

__all__ = ["draw_pointers"]

DARK = {"hold", "drag", "scroll", "pinch", "swipe", "dwell"}
"""Bars that a label stands on in white."""

LETTER = 7.4
SMALL = 6.4
"""How wide a letter is, in pixels, in a bar and above one, with some room."""


def draw_pointers(axes: Any, spans: Sequence[Span], pointers: Sequence[str], thick: float = 0.52) -> None:
    """Draw the bars; what a bar is too short to say stands in the legend by its colour."""
    seen: set[str] = set()
    start, end = axes.get_xlim()
    box = axes.get_window_extent()
    pixels = box.width / (end - start)
    free: dict[int, float] = {}  # up to where the labels above each row reach
    for span in spans:
        row = pointers.index(span.pointer)
        colour = GESTURE_COLOURS.get(span.what, OWN_GESTURE)
        width = max(span.end - span.start, 2.0 / pixels)
        axes.barh(
            row,
            width,
            left=span.start,
            height=thick,
            color=colour,
            edgecolor=INK,
            linewidth=0.8,
            label=None if span.what in seen else span.what,
            hatch="...." if span.what == "undecided" else None,
        )
        seen.add(span.what)
        if span.what in ("undecided", "press", "world", "nobody"):
            continue
        node = span.node.rpartition("/")[2] if span.node is not None else ""
        inside = next(
            (text for text in (f"{span.what}: {node}", node, span.what) if len(text) * LETTER < width * pixels), None
        )
        if inside is not None:
            white = span.what in DARK or span.what not in GESTURE_COLOURS
            axes.text(
                span.start + width / 2,
                row,
                inside,
                ha="center",
                va="center",
                fontsize=9,
                color=PAPER if white else INK,
                clip_on=True,
            )
            continue
        text = f"{span.what}: {node}"
        where = span.start + width / 2 - len(text) * SMALL / pixels / 2
        where = max(start, min(where, end - len(text) * SMALL / pixels))
        if where >= free.get(row, start):  # beside what is already written there; else its colour must do
            axes.text(where, row - thick / 2 - 0.05, text, ha="left", va="bottom", fontsize=8.5, color=INK)
            free[row] = where + (len(text) + 1) * SMALL / pixels
    axes.set_yticks(range(len(pointers)), pointers, fontsize=10)
    axes.set_ylim(len(pointers) - 0.5, -0.78)
    axes.tick_params(axis="y", length=0)
    axes.tick_params(axis="x", labelbottom=False, length=0)
    for side in ("top", "right", "left", "bottom"):
        axes.spines[side].set_visible(False)
    axes.set_facecolor("#f7f8f9")
