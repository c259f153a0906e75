"""Drawing a scene plainly with pygame: shapes filled by look, names on what can be hit. No more than a test needs."""

from __future__ import annotations

from typing import TYPE_CHECKING

import pygame

from glent.core.geometry.affine import Affine, apply, compose
from glent.core.geometry.mask import Mask
from glent.core.geometry.polygon import Polygon
from glent.core.geometry.shape import Grown, Union
from glent.core.scene.island import BOX
from glent.core.scene.node import Node

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glent.core.geometry.shape import Shape
    from glent.core.scene.scene import Scene
    from glent.demo.harbour import Harbour

__all__ = [
    "BAR",
    "clip_of",
    "corners_of",
    "fill_shape",
    "font",
    "fonts",
    "paint_scene",
    "paint_status",
    "paint_tugs",
    "paint_water",
]

CAPTIONS = {"at-once": "cast off at once", "lamp": "rest here", "mooring": "hold to cast off"}

BAR = 30
"""The height of the status line, in pixels."""

KEPT_FREE = 6
"""How far text stays from the edges of its node, in pixels."""

WATER, WATER_LINE = (16, 30, 44), (22, 40, 58)
PANEL = (38, 58, 78)
CONTROL = {"idle": (58, 88, 116), "hover": (96, 140, 176), "pressed": (222, 170, 92), "disabled": (66, 64, 66)}
TEXT, DARK_TEXT, FAINT_TEXT = (232, 238, 242), (24, 30, 36), (150, 150, 150)
GLASS = {
    "idle": (200, 214, 222, 40),
    "hover": (200, 214, 222, 74),
    "pressed": (222, 170, 92, 120),
    "disabled": (90, 90, 90, 60),
}
RIM = (120, 150, 176)
RING = (250, 214, 120)
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
    text = font(15)
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


def paint_scene(surface: pygame.Surface, scene: Scene, texts: Mapping[str, str] | None = None) -> None:
    """All that is visible, in paint order, by look.

    :param texts: what to write on nodes, by path; others have their names on them.
    """
    for node in scene.walk():
        if node.root._in_world:
            continue  # a camera sees that, and another painter paints it
        if node.is_visible and node.parent is None and node.modal:
            _dim(surface, scene, node)
        if node.is_visible and node.parent is not None:
            _paint_node(surface, scene, node, texts or {})


def _dim(surface: pygame.Surface, scene: Scene, layer: Node) -> None:
    """What lies behind a modal layer is darker."""
    area = _around(scene.to_screen(layer), layer.size)
    veil = pygame.Surface(area.size, pygame.SRCALPHA)
    veil.fill((8, 14, 20, 130))
    surface.blit(veil, area)


def _paint_node(surface: pygame.Surface, scene: Scene, node: Node, texts: Mapping[str, str]) -> None:
    width, height = node.size
    m = scene.to_screen(node)
    if width <= 0 or height <= 0 or m[0] * m[3] == m[1] * m[2]:
        return
    clip = clip_of(surface, scene, node)
    if clip is None:
        return
    surface.set_clip(clip)
    solidity = node.effective_solidity
    if solidity == "solid":
        control = node.is_control or (node.parent is not None and node.parent.is_control)
        look = node.look if node.is_control else node.parent.look if control and node.parent else "idle"
        fill = CONTROL[look] if control else PANEL
        fill_shape(surface, node.shape or BOX, m, (width, height), fill, RIM)
    elif solidity == "glass":
        veil = pygame.Surface(surface.get_size(), pygame.SRCALPHA)
        fill_shape(veil, node.shape or BOX, m, (width, height), GLASS[node.look], (*RIM, 90))
        surface.blit(veil, (0, 0))
    _label(surface, node, m, (width, height), texts.get(node.path))
    if node.focus_ring:
        pygame.draw.polygon(surface, RING, corners_of(m, (width, height)), 3)
    surface.set_clip(None)


def clip_of(surface: pygame.Surface, scene: Scene, node: Node) -> pygame.Rect | None:
    """The part of a surface that a node is not clipped from; None: nothing."""
    area = surface.get_rect()
    for above in node.lineage()[1:-1]:
        if above.clips:
            area = area.clip(_around(scene.to_screen(above), above.size))
    return area if area.width and area.height else None


def _around(m: Affine, size: tuple[float, float]) -> pygame.Rect:
    points = [apply(m, x, y) for x in (0, size[0]) for y in (0, size[1])]
    left, top = min(p[0] for p in points), min(p[1] for p in points)
    right, bottom = max(p[0] for p in points), max(p[1] for p in points)
    return pygame.Rect(round(left), round(top), round(right - left), round(bottom - top))


Colour = tuple[int, ...]


def fill_shape(
    surface: pygame.Surface, shape: Shape, m: Affine, size: tuple[float, float], fill: Colour, rim: Colour
) -> None:
    """Draw a hit shape of a node of this size, filled, and its rim."""
    if isinstance(shape, Union):
        for part in shape.parts:
            fill_shape(surface, part, m, size, fill, rim)
    elif isinstance(shape, Grown):
        fill_shape(surface, shape.shape, m, size, fill, rim)
    elif isinstance(shape, Mask):
        rows, columns = len(shape.rows), len(shape.rows[0])
        cell = (size[0] / columns, size[1] / rows)
        for j, row in enumerate(shape.rows):
            for i, sign in enumerate(row):
                if sign == "#":
                    corner = compose(m, (1.0, 0.0, 0.0, 1.0, i * cell[0], j * cell[1]))
                    pygame.draw.polygon(surface, fill, corners_of(corner, cell))
    elif isinstance(shape, Polygon):
        sx, sy = size if shape.unit == "box" else (1.0, 1.0)
        rings = [[apply(m, x * sx, y * sy) for x, y in ring] for ring in shape.rings]
        for index, ring in enumerate(rings):  # a second ring is taken for a hole, which is enough to see by
            pygame.draw.polygon(surface, fill if index % 2 == 0 else WATER, ring)
            pygame.draw.polygon(surface, rim, ring, 1)
    else:
        points = [apply(m, float(x), float(y)) for x, y in shape.outline(*size)[:, :2]]
        if len(points) > 2:
            pygame.draw.polygon(surface, fill, points)
            pygame.draw.polygon(surface, rim, points, 1)


def corners_of(m: Affine, size: tuple[float, float]) -> list[tuple[float, float]]:
    """The corners of a node's box on the screen."""
    return [apply(m, 0, 0), apply(m, size[0], 0), apply(m, *size), apply(m, 0, size[1])]


def _label(surface: pygame.Surface, node: Node, m: Affine, size: tuple[float, float], given: str | None = None) -> None:
    text = given if given is not None else _caption(node)
    if text is None:
        return
    look = node.look
    colour = DARK_TEXT if look == "pressed" else FAINT_TEXT if look == "disabled" else TEXT
    room = size[0] * (m[0] * m[0] + m[1] * m[1]) ** 0.5 - 2 * KEPT_FREE
    words = next((font(size) for size in (18, 16, 14) if font(size).size(text)[0] <= room), font(12))
    drawn = words.render(text, True, colour)
    x, y = apply(m, size[0] / 2, size[1] / 2)
    if len(node.children) == 1 and node.is_control:  # keep clear of a control's own part
        child = node.children[0]
        if child.edges[0] > size[0] / 2:
            x, y = apply(m, child.edges[0] / 2, size[1] / 2)
        elif child.edges[2] < size[0] / 2:
            x, y = apply(m, (child.edges[2] + size[0]) / 2, size[1] / 2)
    surface.blit(drawn, drawn.get_rect(center=(round(x), round(y))))


def _caption(node: Node) -> str | None:
    if node.name in ("heading", "title"):
        return node.parent.name.capitalize() if node.name == "heading" and node.parent else "Kelp Harbour"
    if node.name == "message":
        return None
    if node.role == "note":
        return "All tugs have stopped."
    if node.name in CAPTIONS:
        return CAPTIONS[node.name]
    if node.path.startswith("quay/hold/") and node.role is None:
        return f"{node.name.replace('-', ' ')}: 40 kg" if node.name.startswith("shelf") else node.name.replace("-", " ")
    wordy = node.is_control and node.name not in ("mast", "hook", "compass", "lighthouse")
    return node.name.replace("-", " ") if wordy or node.name == "tide" else None


fonts: dict[int, pygame.font.Font] = {}
"""By size. A font does not outlive pygame's font module, so whoever starts that anew empties this."""


def font(size: int) -> pygame.font.Font:
    """The one font, in pixels."""
    if size not in fonts:
        fonts[size] = pygame.font.Font(None, size + 4)
    return fonts[size]


def paint_status(surface: pygame.Surface, world: bool, text: str, mark: str = "") -> None:
    """The last verdict, along the lower edge; or something else, with a mark of its own."""
    width, height = surface.get_size()
    bar = pygame.Rect(0, height - BAR, width, BAR)
    surface.fill((24, 58, 44) if world else (58, 46, 30), bar)
    mark = mark or ("WORLD" if world else "NOT THE WORLD")
    words = font(17)
    first = words.render(mark, True, (180, 226, 200) if world else (240, 206, 150))
    surface.blit(first, first.get_rect(midleft=(10, bar.centery)))
    rest = text
    while words.size(rest)[0] > width - first.get_width() - 40 and len(rest) > 4:
        rest = rest[:-4] + "…"
    drawn = words.render(rest, True, TEXT)
    surface.blit(drawn, drawn.get_rect(midleft=(first.get_width() + 26, bar.centery)))
