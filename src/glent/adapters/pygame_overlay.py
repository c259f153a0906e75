"""The live view drawn over a game: outlines, then its panels by the plain painter."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.adapters.pygame_painter import paint_scene
from glent.extras import needs

with needs("pygame", "the live view in a window"):
    import pygame

if TYPE_CHECKING:
    from glent.live.overlay import Overlay

__all__ = ["COLOURS", "paint_overlay"]

COLOURS = {
    "hover": ((120, 200, 240), 1),
    "clip": ((170, 140, 230), 1),
    "box": ((245, 245, 245), 1),
    "shape": ((255, 120, 90), 3),
    "reach": ((255, 190, 90), 1),
}
"""The colour of each kind of outline, and how many pixels wide it is drawn."""


def paint_overlay(surface: pygame.Surface, overlay: Overlay) -> None:
    """Draw the live view over what has been drawn of the game; nothing while it does not show."""
    if not overlay.shown:
        return
    for outline in overlay.outlines:
        colour, wide = COLOURS[outline.kind]
        for x0, y0, x1, y1 in outline.lines:
            pygame.draw.line(surface, colour, (x0, y0), (x1, y1), wide)
    paint_scene(surface, overlay.scene)
