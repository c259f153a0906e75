"""A plain painter: a scene drawn with pygame, to see and to test by. No picture is needed, and any can be used.

Each node that can be hit is filled in its shape, by its look; controls and their parts as what they are. What is
written on a node is its fact ``text``, or what its control says; without either, controls have their names on them. The
fact ``colour`` fills a node, the fact ``align`` puts its text at the ``start``. Toolkits with pictures of their own use
the parts: :func:`fill_shape`, :func:`write`, :func:`clip_of`, and of ``glent.controls`` :func:`caption_of` and
:func:`owner_of`.
"""

from __future__ import annotations

from functools import lru_cache
from typing import TYPE_CHECKING, Any

from glent.adapters.pygame_text import drawn, font, set_in
from glent.controls import (
    Combobox,
    Look,
    Slider,
    SliderRow,
    Slots,
    Spinbutton,
    Stick,
    TextField,
    ToolWindow,
    Tree,
)
from glent.controls.captions import WORDY, caption_of, owner_of
from glent.core.geometry.affine import Affine, apply, compose
from glent.core.geometry.boxes import BoxShape
from glent.core.geometry.mask import Mask
from glent.core.geometry.polygon import Polygon
from glent.core.geometry.shape import Grown, Union
from glent.core.scene.island import BOX
from glent.extras import needs

with needs("pygame", "the painter for pygame"):
    import pygame

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.controls import Control
    from glent.core.geometry.shape import Shape
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = [
    "ACCENT",
    "FAINT",
    "FILLS",
    "GLASS",
    "INK",
    "PANEL",
    "RIM",
    "RING",
    "SUNK",
    "TEXT",
    "clip_of",
    "colour_of",
    "fill_of",
    "fill_shape",
    "paint_node",
    "paint_scene",
    "write",
]

Colour = tuple[int, ...]

TEXT, INK, FAINT = (232, 238, 242), (24, 30, 36), (150, 150, 150)
PANEL, SUNK, RIM, RING = (38, 58, 78), (26, 42, 58), (120, 150, 176), (250, 214, 120)
ACCENT, HELD, BAR, TITLE, SELECTED = (232, 196, 120), (255, 224, 160), (96, 150, 170), (52, 78, 102), (60, 110, 150)
HINT = (128, 140, 150)
FILLS = {
    "idle": (58, 88, 116),
    "hover": (84, 124, 156),
    "pressed": (222, 170, 92),
    "disabled": (58, 60, 64),
    "idle chosen": (64, 132, 118),
    "hover chosen": (84, 160, 142),
    "idle mixed": (70, 104, 116),
    "idle pending": (128, 112, 70),
    "idle refused": (140, 66, 60),
    "idle empty": (44, 66, 88),
    "idle open": (84, 124, 156),
}
"""What a control is filled with, by the names of its looks; all others fall back to one of these."""
GLASS = {
    "idle": (200, 214, 222, 40),
    "hover": (200, 214, 222, 74),
    "pressed": (222, 170, 92, 120),
    "disabled": (90, 90, 90, 60),
}
LIT = {"hover": 1.25, "pressed": 1.5, "disabled": 0.6}
"""How much lighter a colour of a node's own is, by its look."""

AT_START = ("option", "menuitem", "switch", "checkbox", "treeitem")
SIZE, SMALLEST = 15, 11
"""Of text, in pixels of the node's own space, and on the screen."""
MARGIN = 6.0
"""How far text stays from the edges of its node, in pixels of its own space."""


def paint_scene(surface: pygame.Surface, scene: Scene) -> None:
    """Draw all that shows on the screen, in paint order; behind what is modal all is darker."""
    for node in scene.walk():
        if node.root._in_world or not node.is_visible:
            continue  # what stands in the world is seen by a camera: glent.adapters.pygame_world
        if node.modal:
            _dim(surface, node.root)
        if node.parent is not None:
            paint_node(surface, node)


def _dim(surface: pygame.Surface, layer: Node) -> None:
    """What lies behind something modal is darker, as far as its layer goes: that of one seat lies in its viewport."""
    area = _around(layer)
    veil = pygame.Surface(area.size, pygame.SRCALPHA)
    veil.fill((8, 14, 20, 130))
    surface.blit(veil, area)


def _around(node: Node) -> pygame.Rect:
    """The box on the screen around a node."""
    corners = node.screen_corners()
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    left, top = round(min(xs)), round(min(ys))
    return pygame.Rect(left, top, round(max(xs)) - left, round(max(ys)) - top)


def paint_node(surface: pygame.Surface, node: Node) -> None:
    """Draw one node, as far as it is not clipped, without what is below it."""
    scene, size = node.scene, node.size
    if scene is None or size[0] <= 0 or size[1] <= 0:
        return
    m = scene.to_screen(node)
    area = clip_of(surface, node)
    if area is None or m[0] * m[3] == m[1] * m[2]:
        return
    surface.set_clip(area)
    control, part = owner_of(node)
    look = control.look(part) if control is not None else Look(node.look)
    fill = fill_of(node, control, part, look)
    if len(fill) == 4:
        _fill_glass(surface, node, m, fill)
    elif fill:
        rim = ACCENT if "open" in look.marks and node.role != "treeitem" else _rim_of(fill)
        fill_shape(surface, node.shape or BOX, m, (size[0], _row_of(node)), fill, rim)
    if isinstance(control, Combobox) and not part:
        _paint_arrow(surface, m, size[0] - 16.0, size[1] / 2.0, True)
    elif isinstance(control, Tree) and node.name == "knob" and node.parent is not None:
        _paint_arrow(surface, m, size[0] / 2.0, size[1] / 2.0, control.is_open(node.parent))
    if isinstance(control, Stick) and part == "knob" and node.place.width is None:
        _paint_knob(surface, m, size, control)
    if isinstance(control, TextField) and not part:
        surface.set_clip(area.clip(_around(node)))
        _paint_field(surface, node, control, m)
    else:
        text = caption_of(node, control, part)
        if text:
            write(surface, node, text, look)
    if node.role in ("switch", "checkbox"):
        _paint_tick(surface, m, size, look, node.role == "switch")
    if (isinstance(control, Slots) and "chosen" in look.marks) or node.focus_ring:
        pygame.draw.polygon(surface, RING, node.screen_corners(), 3)
    surface.set_clip(None)


# -- what a node is ----------------------------------------------------------------------------------------------------


@lru_cache(maxsize=256)
def _colour(text: str) -> Colour:
    try:
        return tuple(pygame.Color(text))[:3]
    except ValueError:
        return ()


def colour_of(node: Node) -> Colour:
    """The colour that its facts give it, by name or as ``#rrggbb``; empty if they give none that there is."""
    given = node.facts.get("colour")
    return _colour(given) if isinstance(given, str) else ()


def fill_of(node: Node, control: Control | None, part: str, look: Look) -> Colour:
    """What a node is filled with; four numbers for what one sees through, none for what is not filled."""
    own = colour_of(node)
    if own:
        return tuple(min(255, round(one * LIT.get(look.state, 1.0))) for one in own)
    if isinstance(control, Tree) and node.name == "knob":
        return ()  # an arrow, which is drawn
    if isinstance(control, Tree) and node.role == "treeitem":
        return Look(look.state, [mark for mark in look.marks if mark != "open"]).of(FILLS)
    if control is not None and node.name in ("thumb", "knob", "low", "high") and part:
        if isinstance(control, Stick) and node.place.width is None:
            return ()  # drawn by the stick's value
        return HELD if "pressed" in (control.look().state, look.state) else ACCENT
    if control is not None and node.name == "fill" and part:
        return BAR
    if isinstance(control, Slider | SliderRow | Stick | TextField | Spinbutton) and not part:
        return SUNK
    if isinstance(control, ToolWindow) and part.startswith("size-"):
        return ()  # its edges are there to be grabbed, not seen
    if isinstance(control, ToolWindow) and part == "title":
        return TITLE
    if node.role in WORDY or node.is_control:
        return look.of(FILLS)
    if node.effective_solidity == "solid":
        return SUNK if control is not None and not part else PANEL
    if node.effective_solidity == "glass" and not node.made_for_now:  # a menu's moat is there to be felt, not seen
        return GLASS[node.look]
    return ()


def _rim_of(fill: Colour) -> Colour:
    """What goes around something filled like this."""
    if fill in (ACCENT, HELD):
        return INK
    return fill if fill == BAR else RIM


def clip_of(surface: pygame.Surface, node: Node) -> pygame.Rect | None:
    """The part of a surface that a node is not clipped from, by boxes; None: nothing."""
    area = surface.get_rect()
    above = node.parent
    while above is not None and above.parent is not None:
        if above.clips:
            area = area.clip(_around(above))
        above = above.parent
    return area if area.width and area.height else None


# -- drawing -----------------------------------------------------------------------------------------------------------


def _fill_glass(surface: pygame.Surface, node: Node, m: Affine, fill: Colour) -> None:
    area = _around(node).inflate(2, 2).clip(surface.get_clip())
    if area.width and area.height:
        veil = pygame.Surface(area.size, pygame.SRCALPHA)
        moved = (*m[:4], m[4] - area.left, m[5] - area.top)
        fill_shape(veil, node.shape or BOX, moved, node.size, fill, (*RIM, 90))
        surface.blit(veil, area)


def fill_shape(
    surface: pygame.Surface, shape: Shape, m: Affine, size: tuple[float, float], fill: Colour, rim: Colour
) -> None:
    """Draw a hit shape of a node of this size, filled, and its rim; ``m`` takes it to the surface."""
    if isinstance(shape, BoxShape) and not shape.inset and m[1] == 0.0 == m[2]:  # most are: the short way
        (x0, y0), (x1, y1) = apply(m, 0.0, 0.0), apply(m, *size)
        left, top = round(min(x0, x1)), round(min(y0, y1))
        box = (left, top, round(max(x0, x1)) - left + 1, round(max(y0, y1)) - top + 1)
        pygame.draw.rect(surface, fill, box)
        pygame.draw.rect(surface, rim, box, 1)
    elif isinstance(shape, Union):
        for part in shape.parts:
            fill_shape(surface, part, m, size, fill, rim)
    elif isinstance(shape, Grown):
        fill_shape(surface, shape.shape, m, size, fill, rim)
    elif isinstance(shape, Mask):
        rows, columns = len(shape.rows), len(shape.rows[0])
        wide, high = size[0] / columns, size[1] / rows
        for j, row in enumerate(shape.rows):
            for i, sign in enumerate(row):
                if sign == "#":
                    c = compose(m, (1.0, 0.0, 0.0, 1.0, i * wide, j * high))
                    cell = [apply(c, x, y) for x, y in ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high))]
                    pygame.draw.polygon(surface, fill, cell)
    elif isinstance(shape, Polygon):
        sx, sy = size if shape.unit == "box" else (1.0, 1.0)
        for index, ring in enumerate(shape.rings):  # a second ring is taken for a hole, which is enough to see by
            points = [apply(m, x * sx, y * sy) for x, y in ring]
            pygame.draw.polygon(surface, fill if index % 2 == 0 else SUNK, points)
            pygame.draw.polygon(surface, rim, points, 1)
    else:
        points = [apply(m, float(x), float(y)) for x, y in shape.outline(*size)[:, :2]]
        if len(points) > 2:
            pygame.draw.polygon(surface, fill, points)
            pygame.draw.polygon(surface, rim, points, 1)


def write(surface: pygame.Surface, node: Node, text: str, look: Look | None = None) -> None:
    """Write on a node: as large as its scale on the screen, smaller where that has no room, then wrapped, then cut."""
    scene = node.scene
    if scene is None:
        return
    state = look.state if look is not None else node.look
    colour = INK if state == "pressed" else FAINT if state == "disabled" else TEXT
    m, width, height = scene.to_screen(node), node.size[0], _row_of(node)
    scale = (m[0] * m[0] + m[1] * m[1]) ** 0.5
    right = 50.0 if node.role in ("switch", "checkbox") else MARGIN
    left, right = _beside_a_part(node, MARGIN, right)
    room, tall = (width - left - right) * scale, (height - 2.0) * scale
    largest = max(SMALLEST, min(72, round(SIZE * scale)))
    size, lines = set_in(text, largest, SMALLEST, int(room), int(tall))
    step = font(size).get_linesize()
    start = node.facts.get("align") == "start" or node.role in AT_START or len(lines) > 3
    x0, y0 = apply(m, left, height / 2.0)
    if m[1]:  # upright, in the middle of what is turned
        x0, y0 = apply(m, width / 2.0, height / 2.0)
        x0 -= room / 2.0
    top = y0 - step * len(lines) / 2.0
    if len(lines) > 3:
        top = max(top, apply(m, left, 4.0)[1])
    for number, line in enumerate(lines):
        words = drawn(line, size, colour)
        x = x0 + (4.0 if start else (room - words.get_width()) / 2.0)
        surface.blit(words, (round(x), round(top + step * number)))


def _beside_a_part(node: Node, left: float, right: float) -> tuple[float, float]:
    """The margins that keep clear of a control's parts."""
    knob = next((child for child in node.children if child.name == "knob"), None)
    if node.role == "treeitem":
        return left + (knob.edges[2] if knob is not None else 20.0) - 4.0, right
    if node.role == "combobox":
        return left, right + 22.0
    solid = [child for child in node.children if child.visible and child.effective_solidity == "solid"]
    if solid and node.is_control:
        near, far = min(child.edges[0] for child in solid), max(child.edges[2] for child in solid)
        middle = node.size[0] / 2.0
        if near > middle:
            return left, max(right, node.size[0] - near + 2.0)
        if far < middle:
            return max(left, far + 2.0), right
    return left, right


def _row_of(node: Node) -> float:
    """How high a node is, of an item of a tree without the branch that hangs below it."""
    if node.role == "treeitem":
        for child in node.children:
            if child.role == "group" and child.visible:
                return child.edges[1]
    return node.size[1]


def _paint_arrow(surface: pygame.Surface, m: Affine, x: float, y: float, down: bool) -> None:
    """A little triangle that points down, or right."""
    corners = [(-5.0, -3.0), (5.0, -3.0), (0.0, 4.0)] if down else [(-3.0, -5.0), (4.0, 0.0), (-3.0, 5.0)]
    pygame.draw.polygon(surface, TEXT, [apply(m, x + dx, y + dy) for dx, dy in corners])


def _paint_knob(surface: pygame.Surface, m: Affine, size: tuple[float, float], stick: Stick) -> None:
    """A knob that fills its stick, by the stick's value."""
    x, y = stick.value.current if stick.value.ready else (0.0, 0.0)
    radius = min(size) * 0.2
    at = apply(m, size[0] / 2 + x * (size[0] / 2 - radius), size[1] / 2 + y * (size[1] / 2 - radius))
    pygame.draw.circle(surface, HELD if stick.held else ACCENT, at, max(3.0, radius * abs(m[0])))


def _paint_tick(surface: pygame.Surface, m: Affine, size: tuple[float, float], look: Look, slides: bool) -> None:
    """The box of a checkbox, or the slot of a switch."""
    scale = abs(m[0]) or 1.0
    x, y = apply(m, size[0] - 26.0, size[1] / 2.0)
    on = "chosen" in look.marks

    def box(left: float, top: float, width: float, height: float) -> tuple[Any, ...]:
        return (x + left * scale, y + top * scale, width * scale, height * scale)

    if slides:
        pygame.draw.rect(surface, SUNK, box(-16, -8, 34, 16), border_radius=round(8 * scale))
        pygame.draw.circle(surface, ACCENT if on else RIM, (x + (10 if on else -8) * scale, y), 7 * scale)
        return
    pygame.draw.rect(surface, SUNK, box(-4, -9, 18, 18))
    if on or "mixed" in look.marks:
        pygame.draw.rect(surface, ACCENT, box(0, -5, 10, 10) if on else box(0, -2, 10, 4))


@lru_cache(maxsize=64)
def _measure(size: int, scale: float) -> Callable[[str], float]:
    """How wide a text is in a size of the font, in pixels of a node at a scale; the same call each time, as a field
    wraps its text anew for another."""
    return lambda text: font(size).size(text)[0] / scale


def _paint_field(surface: pygame.Surface, node: Node, field: TextField, m: Affine) -> None:
    """The text of a field, or else a hint, what is selected in it, and its caret."""
    scale = abs(m[0]) or 1.0
    size = max(SMALLEST, round(min(17.0, field.line_height * 0.8) * scale))
    words = font(size)
    field.measure = _measure(size, scale)
    half = words.get_linesize() / 2.0
    shown, (first, last) = field.shown, field.selection
    scrolled = node.scroll[1]
    for number, (start, end) in enumerate(field.lines):
        down = field.from_top + (number + 0.5) * field.line_height - scrolled
        left, middle = apply(m, field.inset - field.offset, down)
        from_, to = max(first, start), min(last, end)
        if from_ < to:
            x0, x1 = (left + words.size(shown[start:place])[0] for place in (from_, to))
            pygame.draw.rect(surface, SELECTED, (x0, middle - half, x1 - x0, 2 * half))
        hint = caption_of(node) or node.name.replace("-", " ")
        line = words.render(shown[start:end] if shown else hint, True, TEXT if shown else HINT)
        surface.blit(line, line.get_rect(midleft=(left, middle)))
    if node.focused:
        x, y = field.caret_at
        left, middle = apply(m, x, y + field.line_height / 2.0 - scrolled)
        pygame.draw.line(surface, ACCENT, (left, middle - half), (left, middle + half), 2)
