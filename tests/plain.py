"""The plain slow model: hit testing straight from the laws, with no index, no islands and no caches. The judge."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, fmod, radians, sin
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent import Node, Scene

QUARTERS = {0: (1, 0), 90: (0, 1), 180: (-1, 0), 270: (0, -1)}


@dataclass
class Seen:
    node: Node
    local: tuple[float, float]


def _inverse(node: Node, edges: tuple[float, float, float, float], x: float, y: float) -> tuple[float, float] | None:
    """From the parent's space to the node's own, for a node that turns or scales."""
    place = node.place
    left, top, right, bottom = edges
    px, py = place.pivot[0] * (right - left), place.pivot[1] * (bottom - top)
    sx, sy = place.scale if isinstance(place.scale, tuple) else (place.scale, place.scale)
    if sx == 0 or sy == 0:
        return None
    turn = fmod(place.turn, 360) % 360
    c, s = QUARTERS.get(turn) or (cos(radians(turn)), sin(radians(turn)))
    dx, dy = x - left - px, y - top - py
    return (c * dx + s * dy) / sx + px, (c * dy - s * dx) / sy + py


def _edges(node: Node, size: tuple[float, float]) -> tuple[float, float, float, float]:
    return node.place.edges(*size) if node.parent is not None else (0.0, 0.0, *size)


def _kids(node: Node) -> list[Node]:
    return sorted(node.children, key=lambda child: child.order)


def under(node: Node, size: tuple[float, float], x: float, y: float) -> Iterator[Seen]:
    """What of this subtree is hit, front to back; ``x`` and ``y`` in the parent's content space (laws S1–S5, H1–H6)."""
    if not node.visible or node.effective == "ghost":
        return
    left, top, right, bottom = edges = _edges(node, size)
    width, height = right - left, bottom - top
    plain = node.place.turn % 360 == 0 and node.place.scale in (1, (1, 1))
    if plain:
        local: tuple[float, float] | None = (x - left, y - top)
    else:
        local = _inverse(node, edges, x, y)
    if local is None:
        return
    if width <= 0 or height <= 0:
        inside = False
    elif node.shape is not None:
        inside = node.shape.contains(*local, width, height)
    elif plain:  # H2: against the stored edges, in the parent's space
        inside = left <= x < right and top <= y < bottom
    else:
        inside = 0 <= local[0] < width and 0 <= local[1] < height
    if inside or not node.clips:
        for child in reversed(_kids(node)):
            yield from under(child, (width, height), local[0] + node.scroll[0], local[1] + node.scroll[1])
    if inside and node.effective in ("solid", "glass"):
        yield Seen(node, local)


def hits(scene: Scene, x: float, y: float) -> list[Seen]:
    """Every hit at a screen point, front to back."""
    sx, sy = scene.from_screen(x, y)
    found: list[Seen] = []
    for layer in scene.layers:
        found.extend(under(layer, scene.layer_size, sx, sy))
    return found


def offers(scene: Scene, x: float, y: float) -> list[Node]:
    """The hits down to and with the first solid."""
    found = []
    for seen in hits(scene, x, y):
        found.append(seen.node)
        if seen.node.effective == "solid":
            break
    return found
