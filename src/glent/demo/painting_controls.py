"""Drawing controls plainly, by their looks: a colour for each state and mark there is one for, and what stands in."""

from __future__ import annotations

from typing import TYPE_CHECKING

import pygame

from glent.controls import Dialog, ScreenKeys, Slider, SliderRow, Slots, Stick, TextField, ToolWindow
from glent.controls.look import Look
from glent.core.geometry.affine import apply
from glent.core.scene.island import BOX
from glent.demo.painting import GLASS, PANEL, RIM, RING, TEXT, clip_of, corners_of, fill_shape, font

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glent.controls import Control
    from glent.core.geometry.affine import Affine
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["paint_controls"]

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

ACCENT, SUNK, INK, SELECTED = (232, 196, 120), (26, 42, 58), (24, 30, 36), (60, 110, 150)
WORDY = ("button", "switch", "checkbox", "radio", "tab", "option", "menuitem", "gridcell", "tooltip")


def paint_controls(
    surface: pygame.Surface, scene: Scene, controls: Mapping[str, Control], texts: Mapping[str, str]
) -> None:
    """All that shows on the screen, in paint order.

    :param texts: what to write on nodes, by path; what a player can use has its name on it otherwise.
    """
    owners = _owners(controls)
    for node in scene.walk():
        if not node.is_visible or node.parent is None or node.root._in_world or node.name.startswith("size-"):
            continue
        width, height = node.size
        if width <= 0 or height <= 0:
            continue
        area = clip_of(surface, scene, node)
        if area is None:
            continue
        surface.set_clip(area)
        if node.modal:
            _dim(surface)
        _paint(surface, scene, node, owners.get(node.path), texts.get(node.path))
        surface.set_clip(None)


def _owners(controls: Mapping[str, Control]) -> dict[str, tuple[Control, str]]:
    """By path, whose control or part a node is."""
    found: dict[str, tuple[Control, str]] = {}
    for path, control in controls.items():
        for node in control.node.walk():
            if node is not control.node and node.path not in controls:
                found[node.path] = (control, node.path[len(path) + 1 :])  # the innermost, which comes last
        found[path] = (control, "")
    return found


def _dim(surface: pygame.Surface) -> None:
    veil = pygame.Surface(surface.get_size(), pygame.SRCALPHA)
    veil.fill((8, 14, 20, 140))
    surface.blit(veil, (0, 0))


def _paint(
    surface: pygame.Surface,
    scene: Scene,
    node: Node,
    owner: tuple[Control, str] | None,
    text: str | None,
) -> None:
    m, size = scene.to_screen(node), node.size
    control, part = owner if owner is not None else (None, "")
    look = control.look(part) if control is not None else Look(node.look)
    shape = node.shape or BOX
    if isinstance(control, Stick) and part == "knob" and node.place.width is None:
        _paint_knob(surface, m, size, control)
    elif node.name in ("thumb", "knob", "low", "high") and control is not None:
        held = control.look().state == "pressed" or look.state == "pressed"
        fill_shape(surface, shape, m, size, (255, 224, 160) if held else ACCENT, INK)
    elif node.name == "fill":
        fill_shape(surface, shape, m, size, (96, 150, 170), (96, 150, 170))
    elif isinstance(control, Slider | SliderRow | Stick | TextField) and not part:
        fill_shape(surface, shape, m, size, SUNK, RIM)
    elif isinstance(control, ToolWindow) and part == "title":
        fill_shape(surface, shape, m, size, (52, 78, 102), RIM)
    elif node.role in WORDY or node.is_control:
        fill_shape(surface, shape, m, size, look.of(FILLS), ACCENT if "open" in look.marks else RIM)
    elif node.effective_solidity == "solid":
        fill_shape(surface, shape, m, size, SUNK if control is not None and not part else PANEL, RIM)
    elif node.effective_solidity == "glass" and not node.made_for_now:  # a menu's moat is there to be felt, not seen
        veil = pygame.Surface(surface.get_size(), pygame.SRCALPHA)
        fill_shape(veil, shape, m, size, GLASS[node.look], (*RIM, 90))
        surface.blit(veil, (0, 0))
    if isinstance(control, TextField) and not part:
        _paint_field(surface, node, control, m, text if text is not None else node.name.replace("-", " "))
    elif text is not None or node.role in WORDY or (isinstance(control, ToolWindow) and part == "title"):
        _write(surface, node, m, text if text is not None else _name(node, control, part), look)
    if node.role == "switch" or node.role == "checkbox":
        _paint_tick(surface, m, size, look, node.role == "switch")
    if (isinstance(control, Slots) and "chosen" in look.marks) or node.focus_ring:
        pygame.draw.polygon(surface, RING, corners_of(m, size), 3)


def _name(node: Node, control: Control | None, part: str) -> str:
    """What to write on a node of which nothing is said."""
    if isinstance(control, ToolWindow) and part in ("title", "title/close"):
        return "x" if part == "title/close" else control.node.name.replace("-", " ")
    if isinstance(control, ScreenKeys | Dialog) and part in control.labels:
        return control.labels[part]
    if isinstance(control, Slots) and part in control.items:
        return str(control.items[part])
    return node.name.replace("-", " ")


def _paint_knob(surface: pygame.Surface, m: Affine, size: tuple[float, float], stick: Stick) -> None:
    """A knob that fills its stick, by the stick's value."""
    x, y = stick.value.current if stick.value.ready else (0.0, 0.0)
    radius = min(size) * 0.2
    at = apply(m, size[0] / 2 + x * (size[0] / 2 - radius), size[1] / 2 + y * (size[1] / 2 - radius))
    pygame.draw.circle(surface, (255, 224, 160) if stick.held else ACCENT, at, max(3.0, radius * abs(m[0])))


def _paint_tick(surface: pygame.Surface, m: Affine, size: tuple[float, float], look: Look, slides: bool) -> None:
    """The box of a checkbox, or the slot of a switch."""
    x, y = apply(m, size[0] - 30.0, size[1] / 2.0)
    on = "chosen" in look.marks
    if slides:
        pygame.draw.rect(surface, SUNK, (x - 14, y - 8, 34, 16), border_radius=8)
        pygame.draw.circle(surface, ACCENT if on else RIM, (x + 12 if on else x - 6, y), 7)
        return
    pygame.draw.rect(surface, SUNK, (x - 2, y - 9, 18, 18))
    if on or "mixed" in look.marks:
        pygame.draw.rect(surface, ACCENT, (x + 2, y - 5, 10, 10) if on else (x + 2, y - 2, 10, 4))


def _write(surface: pygame.Surface, node: Node, m: Affine, text: str, look: Look) -> None:
    colour = INK if look.state == "pressed" else (150, 150, 150) if look.state == "disabled" else TEXT
    width, height = node.size
    room = width - (56.0 if node.role in ("switch", "checkbox") else 12.0)
    if room < 12.0:
        return  # what slides or is ticked leaves none
    words = font(16)
    lines = [line for given in text.split("\n") for line in _wrapped(words, given, room)]
    step = words.get_linesize()
    down = 10.0 if len(lines) > 3 else (height - step * len(lines)) / 2.0
    for number, line in enumerate(lines):
        drawn = words.render(_cut(words, line, room + 8.0), True, colour)
        left = node.role in ("option", "menuitem", "switch", "checkbox") or len(lines) > 3
        x, y = apply(m, 12.0 if left else (width - drawn.get_width()) / 2.0, down + step * number)
        surface.blit(drawn, (round(x), round(y)))


def _wrapped(words: pygame.font.Font, text: str, width: float) -> list[str]:
    """A line of text, broken where it is longer than there is room."""
    lines: list[str] = []
    for word in text.split(" "):
        if lines and words.size(f"{lines[-1]} {word}")[0] <= width:
            lines[-1] = f"{lines[-1]} {word}"
        else:
            lines.append(word)
    return lines


def _cut(words: pygame.font.Font, text: str, width: float) -> str:
    """As much of a word as there is room for."""
    if words.size(text)[0] <= width:
        return text
    many = len(text)
    while many > 1 and words.size(text[:many] + "…")[0] > width:
        many -= 1
    return text[:many] + "…" if many > 1 else text[:1]


def _paint_field(surface: pygame.Surface, node: Node, field: TextField, m: Affine, hint: str) -> None:
    """The text of a field, or else a hint, what is selected in it, and its caret."""
    words = font(18)
    field.measure = lambda text: float(words.size(text)[0])
    height = node.size[1]
    left, top = apply(m, 6.0 - field.offset, height / 2.0)
    shown, (start, end) = field.shown, field.selection
    x0, x1 = (left + words.size(shown[:place])[0] for place in (start, end))
    if start != end:
        pygame.draw.rect(surface, SELECTED, (x0, top - 12, x1 - x0, 24))
    empty = not shown
    drawn = words.render(hint if empty else shown, True, (128, 140, 150) if empty else TEXT)
    surface.blit(drawn, drawn.get_rect(midleft=(left, top)))
    if node.focused:
        x = left + words.size(shown[: field.caret])[0]
        pygame.draw.line(surface, ACCENT, (x, top - 12), (x, top + 12), 2)
