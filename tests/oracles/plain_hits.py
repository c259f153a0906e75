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
    if not node.visible or node.effective_solidity == "ghost":
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
    if inside and node.effective_solidity in ("solid", "glass"):
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
        if seen.node.effective_solidity == "solid":
            break
    return found


def _point_on_screen(scene: Scene, node: Node, x: float, y: float) -> tuple[float, float]:
    """From node-local to the screen, one node at a time."""
    line = node.lineage()
    sizes = [scene.layer_size]
    for one in line[1:]:
        left, top, right, bottom = one.place.edges(*sizes[-1])
        sizes.append((right - left, bottom - top))
    for depth in range(len(line) - 1, 0, -1):
        place = line[depth].place
        left, top, right, bottom = place.edges(*sizes[depth - 1])
        px, py = place.pivot[0] * (right - left), place.pivot[1] * (bottom - top)
        sx, sy = place.scale if isinstance(place.scale, tuple) else (place.scale, place.scale)
        turn = radians(place.turn)
        dx, dy = (x - px) * sx, (y - py) * sy
        x, y = left + px + cos(turn) * dx - sin(turn) * dy, top + py + sin(turn) * dx + cos(turn) * dy
        x, y = x - line[depth - 1].scroll[0], y - line[depth - 1].scroll[1]
    m = scene.to_screen()
    return m[0] * x + m[4], m[3] * y + m[5]


def away(scene: Scene, node: Node, x: float, y: float) -> float:
    """How far a screen point is from a node's shape, by walking its outline on the screen in small steps (H5)."""
    import glent

    width, height = node.size
    best = float("inf")
    for x0, y0, x1, y1 in (node.shape or glent.BoxShape()).outline(width, height).tolist():
        (ax, ay), (bx, by) = (_point_on_screen(scene, node, *p) for p in ((x0, y0), (x1, y1)))
        ux, uy = bx - ax, by - ay
        length = ux * ux + uy * uy
        t = max(0.0, min(1.0, ((x - ax) * ux + (y - ay) * uy) / length)) if length else 0.0
        best = min(best, ((ax + t * ux - x) ** 2 + (ay + t * uy - y) ** 2) ** 0.5)
    return best


WANTS = {
    "press",
    "click",
    "drop",
    "wheel",
    "scroll",
    "hold",
    "hold_progress",
    "repeat",
    "drag_start",
    "drag",
    "drag_end",
}


def with_reach(scene: Scene, x: float, y: float, kind: str) -> tuple[list[Node], float]:
    """The offers of a pointer with reach, and by how much the closest decision could have gone the other way (H5)."""
    sx, sy = scene.from_screen(x, y)
    found: list[Node] = []
    margin = float("inf")
    for layer in scene.layers:
        true = [seen.node for seen in under(layer, scene.layer_size, sx, sy)]
        offers = []
        for node in true:
            offers.append(node)
            if node.effective_solidity == "solid":
                break
        painted = list(layer.walk())
        wants = [n for n in painted if n.is_control or any(n.listens(kind) for kind in WANTS)]
        # What an offer stands for: a picture on a button is the button (P2).
        touched = [next((n for n in reversed(offer.lineage()) if n in wants), None) for offer in offers]
        touched = [n for n in touched if n is not None]
        near = []
        for node in painted:
            by = node.reach_for(kind)
            there = all(
                n.visible and n.effective_solidity != "ghost" for n in node.lineage()
            ) and node.effective_solidity in (
                "solid",
                "glass",
            )
            width, height = node.size
            if by <= 0 or not there or width <= 0 or height <= 0 or node in true or _scaled_to_nothing(node):
                continue
            if not all(_clip_has(scene, above, x, y) for above in node.lineage()[:-1] if above.clips):
                continue
            distance = away(scene, node, x, y)
            margin = min(margin, abs(distance - by), distance)
            if distance > by or (node.shape is None and distance == 0):
                continue
            if any(other not in node.lineage() for other in touched):
                continue
            last = offers[-1] if offers else None
            if last is not None and last.effective_solidity == "solid" and painted.index(last) > painted.index(node):
                continue
            near.append((distance, -painted.index(node), node))
        if near:
            near.sort(key=lambda one: one[:2])
            if len(near) > 1:
                margin = min(margin, near[1][0] - near[0][0])
            best = near[0][2]
            offers = sorted([*true, best], key=painted.index, reverse=True)
        else:
            offers = true
        for node in offers:
            found.append(node)
            if node.effective_solidity == "solid":
                return found, margin
    return found, margin


def _scaled_to_nothing(node: Node) -> bool:
    return any(
        0 in (one.place.scale if isinstance(one.place.scale, tuple) else (one.place.scale,)) for one in node.lineage()
    )


def _clip_has(scene: Scene, node: Node, x: float, y: float) -> bool:
    import glent

    width, height = node.size
    local = scene.local(node, x, y)
    return width > 0 and height > 0 and (node.shape or glent.BoxShape()).contains(*local, width, height)
