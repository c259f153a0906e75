"""The water as the pilots of the bridge see it: their boats, and the line between two viewports."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

import pygame

from glent.adapters.pygame_painter import TEXT
from glent.adapters.pygame_text import font
from glent.demo.painting import CHOSEN_TUG, GOAL, TUG

if TYPE_CHECKING:
    from glent.core.routing.router import Router
    from glent.demo.bridge import Bridge

__all__ = ["paint_boats", "paint_viewports"]


def paint_boats(surface: pygame.Surface, router: Router, bridge: Bridge) -> None:
    """Each pilot's boat in that pilot's viewport, with where it is pushed and where the pilot looks."""
    width, height = router.scene.window
    for seat in router.seats:
        boat = bridge.boats.get(seat.name)
        if boat is None:
            continue
        left, top, across, down = seat.viewport or (0.0, 0.0, 1.0, 1.0)
        area = pygame.Rect(round(left * width), round(top * height), round(across * width), round(down * height))
        surface.set_clip(area)
        x = area.left + (area.width / 2 + boat.x) % area.width
        y = area.top + (area.height * 0.55 + boat.y) % area.height
        hull = [(x - 9, y + 20), (x - 9, y - 8), (x, y - 24), (x + 9, y - 8), (x + 9, y + 20)]
        pygame.draw.polygon(surface, CHOSEN_TUG if seat.name == "main" else TUG, hull)
        east, south = boat.push()
        if east or south:
            pygame.draw.line(surface, GOAL, (x, y), (x + east * 60, y + south * 60), 3)
        angle = math.radians(boat.view - 90.0)
        pygame.draw.line(surface, TEXT, (x, y), (x + math.cos(angle) * 36, y + math.sin(angle) * 36), 1)
        held = ", ".join(sorted(boat.held)) or "nothing held"
        words = font(14).render(f"{seat.name}: {held}", True, TEXT)
        surface.blit(words, words.get_rect(midtop=(x, y + 28)).clamp(area))
        surface.set_clip(None)


def paint_viewports(surface: pygame.Surface, router: Router) -> None:
    """The border of each viewport."""
    width, height = router.scene.window
    for seat in router.seats:
        if seat.viewport is not None:
            left, top, across, down = seat.viewport
            area = (round(left * width), round(top * height), round(across * width), round(down * height))
            pygame.draw.rect(surface, (200, 214, 222), area, 1)
