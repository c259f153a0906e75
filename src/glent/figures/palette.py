"""Colours that stay apart in greyscale and for colour-blind eyes: they differ in lightness first, and in hatching."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from glent.diagnose import Zone
from glent.formats.text import whole

__all__ = [
    "GESTURE_COLOURS",
    "HATCHES",
    "INK",
    "OWN_GESTURE",
    "PAPER",
    "ZONE_COLOURS",
    "new_figure",
    "save",
]

INK = "#1b2430"
PAPER = "#ffffff"

ZONE_COLOURS = {
    Zone.WORLD: "#eef3ec",
    Zone.PASSED: "#cfdcd6",
    Zone.GLASS: "#8fb0c4",
    Zone.SOLID: "#2c4a66",
    Zone.DISABLED: "#a5683a",
    Zone.BLOCKED: "#e6d7c3",
}
"""Lightness falls from the world to the solid; disabled is the one warm colour, and hatched."""

HATCHES = {Zone.PASSED: "..", Zone.GLASS: "//", Zone.DISABLED: "xx", Zone.BLOCKED: "\\\\"}

GESTURE_COLOURS = {
    "undecided": "#ffffff",
    "press": "#d5dbe0",
    "tap": "#8fb0c4",
    "hold": "#7d5a94",
    "repeat": "#b9953b",
    "drag": "#b5512a",
    "scroll": "#2f6f57",
    "pinch": "#30598f",
    "swipe": "#a83f63",
    "dwell": "#6f7d53",
    "world": "#dfe8da",
    "nobody": "#f3e6da",
}
"""What has a pointer, from pale (nothing has won it) to dark; a gesture of the user's own is nearly black."""

OWN_GESTURE = "#2b2f36"


def new_figure(
    left: float, width: float = 12.8, height: float = 8.0, top: float = 0.93, bottom: float = 0.15
) -> tuple[Any, Any]:
    """A figure, of 1280 × 800 pixels unless told otherwise, with axes that leave parts of it free; needs no display.

    ``left``, ``top`` and ``bottom`` are where the axes end, in fractions of it; sizes are in inches of 100 pixels.
    """
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    figure = Figure(figsize=(width, height), dpi=100, facecolor=PAPER)
    FigureCanvasAgg(figure)
    return figure, figure.add_axes((left, bottom, 0.98 - left, top - bottom))


def save(figure: Any, path: str) -> None:
    """Write a figure as PNG or SVG by suffix, without the date that would make equal pictures differ."""
    with whole(Path(path)) as aside:
        figure.savefig(aside, metadata={"Date": None} if path.lower().endswith(".svg") else {"Software": "glent"})
