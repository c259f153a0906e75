"""The plain slow model: hit testing straight from the laws, with no index, no islands and no caches. The judge."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, fmod, radians, sin
from typing import TYPE_CHECKING

import shapely

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
    if node.children and (inside or not node.clips):
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


def heard(kind: str, offers: list[Node]) -> list[tuple[Node, Node]]:
    """Who hears of what comes to these offers if nobody takes it, and with which target (R2, P2, S5)."""
    done: set[Node] = set()
    found = []
    for offer in offers:
        line = offer.lineage()
        for node in reversed(line):
            if node in done:
                break
            hears = all(one.enabled for one in node.lineage())
            if hears:
                found.append((node, offer))
            if not (node.carries_on(kind) if hears else node.carries_unheard(kind)):
                break
        done.update(line)
    return found


def out_of(node: Node, size: tuple[float, float], x: float, y: float) -> tuple[float, float]:
    """From node-local to the space of its root, one node at a time; ``size`` is the root's."""
    line = node.lineage()
    sizes = [size]
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
    return x, y


def beside_segment(x: float, y: float, a: tuple[float, float], b: tuple[float, float]) -> float:
    """How far a point is from a segment."""
    ux, uy = b[0] - a[0], b[1] - a[1]
    length = ux * ux + uy * uy
    t = max(0.0, min(1.0, ((x - a[0]) * ux + (y - a[1]) * uy) / length)) if length else 0.0
    return ((a[0] + t * ux - x) ** 2 + (a[1] + t * uy - y) ** 2) ** 0.5


def outline(node: Node, size: tuple[float, float]) -> Iterator[tuple[tuple[float, float], tuple[float, float]]]:
    """The segments of a node's outline, in the space of its root."""
    import glent

    for x0, y0, x1, y1 in (node.shape or glent.BoxShape()).outline(*node.size).tolist():
        yield out_of(node, size, x0, y0), out_of(node, size, x1, y1)


def away(scene: Scene, node: Node, x: float, y: float) -> float:
    """How far a screen point is from a node's shape, by walking its outline on the screen in small steps (H5)."""
    m = scene.to_screen()

    def on_screen(at: tuple[float, float]) -> tuple[float, float]:
        return m[0] * at[0] + m[4], m[3] * at[1] + m[5]

    sides = outline(node, scene.layer_size)
    return min((beside_segment(x, y, on_screen(a), on_screen(b)) for a, b in sides), default=float("inf"))


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
    at = scene.from_screen(x, y)
    found: list[Node] = []
    margin = float("inf")
    for layer in scene.layers:
        true = [seen.node for seen in under(layer, scene.layer_size, *at)]
        painted = list(layer.walk())
        last = next((n for n in true if n.effective_solidity == "solid"), None)
        touched = stands_for(true[: true.index(last) + 1] if last is not None else true)
        near = []
        for node in with_a_reach(layer, scene.layer_size, kind, at, true):
            distance = away(scene, node, x, y)
            margin = min(margin, abs(distance - node.reach_for(kind)), distance)
            if distance > node.reach_for(kind) or (node.shape is None and distance == 0):
                continue
            covered = last is not None and painted.index(last) > painted.index(node)
            if not covered and all(other in node.lineage() for other in touched):
                near.append((distance, -painted.index(node), node))
        near.sort(key=lambda one: one[:2])
        if len(near) > 1:
            margin = min(margin, near[1][0] - near[0][0])
        offers = sorted([*true, near[0][2]], key=painted.index, reverse=True) if near else true
        for node in offers:
            found.append(node)
            if node.effective_solidity == "solid":
                return found, margin
    return found, margin


def stands_for(offers: list[Node]) -> list[Node]:
    """What offers stand for: a picture on a button is the button (P2)."""

    def wants(node: Node) -> bool:
        return node.is_control or any(node.listens(kind) for kind in WANTS)

    found = [next((n for n in reversed(offer.lineage()) if wants(n)), None) for offer in offers]
    return [n for n in found if n is not None]


def with_a_reach(
    root: Node, size: tuple[float, float], kind: str, at: tuple[float, float], true: list[Node]
) -> Iterator[Node]:
    """The nodes of one root that can be hit and have a reach, with a point of its space inside all their clips."""
    import glent

    for node in root.walk():
        there = all(one.visible and one.effective_solidity != "ghost" for one in node.lineage())
        width, height = node.size
        if node.reach_for(kind) <= 0 or not there or width <= 0 or height <= 0 or node in true:
            continue
        if node.effective_solidity not in ("solid", "glass") or _scaled_to_nothing(node):
            continue
        clips = [above for above in node.lineage()[:-1] if above.clips]
        ends = [root] if isinstance(root, glent.Panel) else []
        if all(_clip_has(above, size, at) for above in clips) and all(_overlap(a, node, size) for a in clips + ends):
            yield node


def _scaled_to_nothing(node: Node) -> bool:
    return any(
        0 in (one.place.scale if isinstance(one.place.scale, tuple) else (one.place.scale,)) for one in node.lineage()
    )


def _overlap(clip: Node, node: Node, size: tuple[float, float]) -> bool:
    """Whether a clip leaves anything of a node's box, asked of shapely."""
    clip_box, box = (
        shapely.Polygon(
            [out_of(one, size, x * one.size[0], y * one.size[1]) for x, y in ((0, 0), (1, 0), (1, 1), (0, 1))]
        )
        for one in (clip, node)
    )
    return bool(clip_box.intersection(box).area > 1e-6)


def _clip_has(node: Node, size: tuple[float, float], at: tuple[float, float]) -> bool:
    import glent

    width, height = node.size
    x0, y0 = out_of(node, size, 0, 0)
    (ax, ay), (bx, by) = out_of(node, size, 1, 0), out_of(node, size, 0, 1)
    a, b, c, d = ax - x0, ay - y0, bx - x0, by - y0
    area, x, y = a * d - b * c, at[0] - x0, at[1] - y0
    if width <= 0 or height <= 0 or area == 0:
        return False
    return (node.shape or glent.BoxShape()).contains((d * x - c * y) / area, (a * y - b * x) / area, width, height)
