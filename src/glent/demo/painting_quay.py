"""What the quay shows besides its nodes: the crane over the water, what is afloat, gauges, and the bulletin."""

from __future__ import annotations

from typing import TYPE_CHECKING

import pygame

from glent.adapters.pygame_painter import FILLS, TEXT
from glent.adapters.pygame_text import font
from glent.core.geometry.affine import apply
from glent.demo.painting import TUG

if TYPE_CHECKING:
    from glent.core.scene.scene import Scene
    from glent.demo.quay import Quay

__all__ = ["paint_crane", "paint_gauges"]

STEEL, ROPE, FULL, REFUSED = (150, 166, 178), (214, 196, 150), (222, 170, 92), (122, 52, 38)
LEFT, RIGHT, RAIL = 430.0, 850.0, 420.0
"""The crane's rail in scene pixels."""


def paint_crane(surface: pygame.Surface, scene: Scene, quay: Quay) -> None:
    """The crane's rail, trolley and hook, and the crates in the water."""
    m = scene.to_screen()
    pygame.draw.line(surface, STEEL, apply(m, LEFT, RAIL), apply(m, RIGHT, RAIL), 4)
    x = LEFT + 20 + quay.trolley * (RIGHT - LEFT - 40)
    y = RAIL + 30 + quay.hook * 200
    pygame.draw.line(surface, ROPE, apply(m, x, RAIL), apply(m, x, y), 2)
    left, top = apply(m, x - 18, RAIL - 8)
    pygame.draw.rect(surface, STEEL, (left, top, 36, 16))
    pygame.draw.circle(surface, STEEL, apply(m, x, y + 8), 9, 3)
    words = font(14)
    for name, x, y in quay.afloat:
        px, py = apply(m, x, y)
        pygame.draw.rect(surface, TUG, (px - 26, py - 14, 52, 28), border_radius=3)
        drawn = words.render(name, True, TEXT)
        surface.blit(drawn, drawn.get_rect(center=(px, py)))


def paint_gauges(surface: pygame.Surface, scene: Scene, quay: Quay) -> None:
    """Over the nodes: the names of the sticks, the ballast, the mooring's progress, what refuses a crate."""
    words, small = font(16), font(13)
    for path, text, across, down in (
        ("quay/trolley", "trolley", 0.5, 0.16),
        ("quay/winch", "winch", 0.16, 0.5),
        ("quay/fill", f"ballast {quay.ballast}", 1.03, 1.3),
    ):
        node = scene[path]
        drawn = small.render(text, True, TEXT)
        x, y = scene.point(node, node.size[0] * across, node.size[1] * down)
        surface.blit(drawn, drawn.get_rect(center=(round(x), round(y))))
    if 0.0 < quay.progress < 1.0:
        node = scene["quay/mooring"]
        x, y = scene.point(node, 0.0, node.size[1] - 8)
        end, _ = scene.point(node, node.size[0] * quay.progress, 0.0)
        pygame.draw.rect(surface, FULL, (x, y, end - x, 8))
    if quay.answer and quay.lifted is not None:
        crate = scene[f"quay/hold/{quay.lifted}"]
        x, y = scene.point(crate, 0.0, crate.size[1] + 6)
        drawn = words.render(quay.answer, True, TEXT)
        pygame.draw.rect(surface, REFUSED, (x - 6, y - 3, drawn.get_width() + 12, drawn.get_height() + 6))
        surface.blit(drawn, (x, y))
    for name in ("trolley", "winch"):
        knob = scene[f"quay/{name}/knob"]
        x, y = scene.point(knob, knob.size[0] / 2, knob.size[1] / 2)
        look = scene[f"quay/{name}"].look
        pygame.draw.circle(surface, FILLS["hover" if look == "idle" else look], (x, y), 30)
