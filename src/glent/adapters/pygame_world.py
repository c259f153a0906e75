"""What stands in a scene's world, drawn with pygame as the scene's camera sees it: panels with what is on them, spots.

Colours and texts come from facts, as on the screen (:mod:`glent.adapters.pygame_painter`).
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.adapters.pygame_painter import (
    FAINT,
    FILLS,
    GLASS,
    INK,
    PANEL,
    RIM,
    RING,
    SUNK,
    TEXT,
    colour_of,
)
from glent.adapters.pygame_text import cut, font
from glent.controls.captions import caption_of, owner_of
from glent.core.errors import SceneError
from glent.diagnose import outlines
from glent.extras import needs

with needs("pygame", "the painter for pygame"):
    import pygame

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose import Outline

__all__ = ["paint_world"]

SKY, STONE, BARE, BACK = (30, 38, 52), (104, 100, 92), (28, 42, 56), (44, 40, 38)
FAINT_RIM = (60, 74, 84)


def paint_world(surface: pygame.Surface, scene: Scene) -> None:
    """Draw all that stands in the world, back to front, by look; nothing where the scene has no camera."""
    camera = scene.camera
    if camera is None:
        return
    surface.fill(SKY)
    width, height = scene.window
    for piece in outlines(scene, camera, (0.0, 0.0, width, height)):
        node = piece.node
        points = [(round(x), round(y)) for x, y in piece.points]
        if not _is_near(points, width, height):
            continue
        if node.effective_solidity == "glass" and node.parent is not None:
            veil = pygame.Surface(surface.get_size(), pygame.SRCALPHA)
            pygame.draw.polygon(veil, GLASS[node.look], points)
            surface.blit(veil, (0, 0))
        else:
            pygame.draw.polygon(surface, _fill(piece), points)
        for hole in piece.holes:
            pygame.draw.polygon(surface, SUNK, hole)
        pygame.draw.aalines(surface, RING if node.focus_ring else _rim(node), True, points)
        if node.parent is not None and len(node.children) < 2:
            _label(surface, node, points)
    for node in scene.walk():
        if node.root._in_world and node.parent is not None and node.effective_solidity == "hollow" and node.is_visible:
            _caption(surface, scene, node)


def _caption(surface: pygame.Surface, scene: Scene, node: Node) -> None:
    """What is written on a bare part of a panel, where the camera sees it from the front."""
    text = node.facts.get("text")
    if not isinstance(text, str):
        return
    width, height = node.size
    try:
        corners = [scene.point(node, x, y) for x in (0.0, width) for y in (0.0, height)]
    except SceneError:
        return  # behind the camera
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    words = font(max(11, min(16, round((max(ys) - min(ys)) * 0.7))))
    drawn = words.render(cut(words, text, max(xs) - min(xs)), True, TEXT)
    surface.blit(drawn, drawn.get_rect(center=(sum(xs) / 4, sum(ys) / 4)))


def _is_near(points: list[tuple[int, int]], width: float, height: float) -> bool:
    """Whether any of it may be on the window."""
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return max(xs) >= 0 and min(xs) <= width and max(ys) >= 0 and min(ys) <= height


def _fill(piece: Outline) -> tuple[int, ...]:
    node = piece.node
    own = colour_of(node)
    if node.parent is None and node._own is not None:
        return (own or BARE) if piece.front else BACK
    if node.parent is not None:
        return own if own and node.look == "idle" else FILLS[node.look] if node.is_control else own or PANEL
    tone = (own or STONE) if node.look == "idle" else FILLS[node.look]
    return tuple(round(one * piece.light) for one in tone)


def _rim(node: Node) -> tuple[int, ...]:
    return RIM if node.parent is not None or node.effective_solidity == "solid" else FAINT_RIM


def _label(surface: pygame.Surface, node: Node, points: list[tuple[int, int]]) -> None:
    text = caption_of(node, *owner_of(node))
    xs, ys = [x for x, _ in points], [y for _, y in points]
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    size = max(9, min(16, round(tall * 0.45)))
    light = sum(colour_of(node)) > 450
    colour = INK if node.look == "pressed" or (light and node.look == "idle") else TEXT if node.is_enabled else FAINT
    words = font(size).render(text, True, colour)
    if text and words.get_width() <= wide - 4 and tall >= 10:
        surface.blit(words, words.get_rect(center=(sum(xs) / len(xs), sum(ys) / len(ys))))
