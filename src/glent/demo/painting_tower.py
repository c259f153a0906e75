"""The world as the tower's camera sees it: water, stone, berths, and the panels with what is on them."""

from __future__ import annotations

from typing import TYPE_CHECKING

import pygame

from glent.core.errors import SceneError
from glent.core.geometry.world.area import Area
from glent.core.scene.spot import Spot
from glent.demo.painting import CONTROL, DARK_TEXT, FAINT_TEXT, GLASS, PANEL, RIM, RING, TEXT, WATER, font
from glent.diagnose import outlines

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose import Outline

__all__ = ["paint_captions", "paint_world"]

SKY, STONE, GROUND, BERTH = (30, 38, 52), (104, 100, 92), (52, 58, 52), (30, 62, 84)
BARE, BACK = (28, 42, 56), (44, 40, 38)
LIT = (226, 190, 104)


def paint_world(surface: pygame.Surface, scene: Scene, texts: Mapping[str, str], lit: frozenset[str]) -> None:
    """All that stands in the world, back to front, by look.

    :param texts: what to write on nodes, by path; others have their names on them. :param lit: signals that are on.
    """
    surface.fill(SKY)
    camera = scene.camera
    if camera is None:
        return
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
            pygame.draw.polygon(surface, _fill(piece, lit), points)
        for hole in piece.holes:
            pygame.draw.polygon(surface, WATER, hole)
        pygame.draw.aalines(surface, RING if node.focus_ring else _rim(node), True, points)
        if node.parent is not None and len(node.children) < 2:
            _label(surface, node, points, texts.get(node.path, node.name), lit)


def paint_captions(surface: pygame.Surface, scene: Scene, texts: Mapping[str, str]) -> None:
    """What is written on the bare parts of panels, where the camera sees it from the front."""
    camera = scene.camera
    for path, text in texts.items():
        node = scene[path]
        if camera is None or not node.root._in_world or node.effective_solidity != "hollow" or not node.is_visible:
            continue
        width, height = node.size
        try:
            corners = [scene.point(node, x, y) for x in (0.0, width) for y in (0.0, height)]
        except SceneError:
            continue  # behind the camera
        x, y = sum(x for x, _ in corners) / 4, sum(y for _, y in corners) / 4
        words = font(16).render(text, True, TEXT)
        if words.get_width() <= max(x for x, _ in corners) - min(x for x, _ in corners):
            surface.blit(words, words.get_rect(center=(x, y)))


def _is_near(points: list[tuple[int, int]], width: float, height: float) -> bool:
    """Whether any of it may be on the window."""
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return max(xs) >= 0 and min(xs) <= width and max(ys) >= 0 and min(ys) <= height


def _fill(piece: Outline, lit: frozenset[str]) -> tuple[int, ...]:
    node = piece.node
    if node.parent is None and node._own is not None:
        return BARE if piece.front else BACK
    if node.parent is not None:
        if node.name in lit and node.look == "idle":
            return LIT
        return CONTROL[node.look] if node.is_control else PANEL
    tone = STONE
    if isinstance(node, Spot) and isinstance(node.form, Area):
        tone = BERTH if node.effective_solidity == "solid" else WATER if "water" in node.tags else GROUND
    if node.look != "idle":
        tone = CONTROL[node.look]
    return tuple(round(one * piece.light) for one in tone)


def _rim(node: Node) -> tuple[int, ...]:
    return RIM if node.parent is not None or node.effective_solidity == "solid" else (60, 74, 84)


def _label(surface: pygame.Surface, node: Node, points: list[tuple[int, int]], text: str, lit: frozenset[str]) -> None:
    xs, ys = [x for x, _ in points], [y for _, y in points]
    wide, tall = max(xs) - min(xs), max(ys) - min(ys)
    size = max(9, min(18, round(tall * 0.5)))
    dark = node.look == "pressed" or (node.name in lit and node.look == "idle")
    words = font(size).render(text, True, DARK_TEXT if dark else TEXT if node.is_enabled else FAINT_TEXT)
    if words.get_width() <= wide - 4 and tall >= 10:
        surface.blit(words, words.get_rect(center=(sum(xs) / len(xs), sum(ys) / len(ys))))
