"""What the demo draws besides its scenes: water, tugs, and the status line."""

from __future__ import annotations

from typing import TYPE_CHECKING

import pygame

from glent.adapters.pygame_painter import TEXT
from glent.adapters.pygame_text import cut, font
from glent.core.geometry.affine import apply

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene
    from glent.demo.harbour import Harbour

__all__ = ["BAR", "CHOSEN_TUG", "GOAL", "TUG", "paint_status", "paint_tugs", "paint_water"]

BAR = 30
"""The height of the status line, in pixels."""

WATER, WATER_LINE = (16, 30, 44), (22, 40, 58)
TUG, CHOSEN_TUG, GOAL = (208, 120, 74), (240, 196, 110), (130, 170, 150)


def paint_water(surface: pygame.Surface, scene: Scene) -> None:
    """The world: water."""
    surface.fill(WATER)
    m = scene.to_screen()
    for line in range(0, int(scene.size[1]), 36):
        start, end = apply(m, 0, line), apply(m, scene.size[0], line)
        pygame.draw.line(surface, WATER_LINE, start, end)


def paint_tugs(surface: pygame.Surface, scene: Scene, harbour: Harbour) -> None:
    """The tugs on the water, and where they are bound."""
    m = scene.to_screen()
    text = font(13)
    for tug in harbour.tugs:
        x, y = apply(m, tug.x, tug.y)
        if tug.goal is not None:
            gx, gy = apply(m, *tug.goal)
            pygame.draw.line(surface, GOAL, (x, y), (gx, gy))
            pygame.draw.line(surface, GOAL, (gx - 6, gy - 6), (gx + 6, gy + 6), 2)
            pygame.draw.line(surface, GOAL, (gx - 6, gy + 6), (gx + 6, gy - 6), 2)
        hull = [(x - 16, y - 5), (x + 8, y - 5), (x + 18, y), (x + 8, y + 5), (x - 16, y + 5)]
        pygame.draw.polygon(surface, CHOSEN_TUG if tug.name == harbour.chosen else TUG, hull)
        surface.blit(text.render(tug.name, True, TEXT), (x - 16, y + 8))


def paint_status(surface: pygame.Surface, world: bool, text: str, mark: str = "") -> None:
    """The last verdict, along the lower edge; or something else, with a mark of its own."""
    width, height = surface.get_size()
    bar = pygame.Rect(0, height - BAR, width, BAR)
    surface.fill((24, 58, 44) if world else (58, 46, 30), bar)
    mark = mark or ("WORLD" if world else "NOT THE WORLD")
    words = font(15)
    first = words.render(mark, True, (180, 226, 200) if world else (240, 206, 150))
    surface.blit(first, first.get_rect(midleft=(10, bar.centery)))
    drawn = words.render(cut(words, text, width - first.get_width() - 40), True, TEXT)
    surface.blit(drawn, drawn.get_rect(midleft=(first.get_width() + 26, bar.centery)))
