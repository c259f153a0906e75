"""The picture of a running scene as plain data, for a page to draw: outlines, looks and text, back to front."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.captions import caption_of, owner_of
from glent.controls.text_field import TextField
from glent.core.geometry.affine import apply
from glent.diagnose.sight import outlines

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["pieces_of", "walked"]

MOST_CORNERS = 400
"""Corners of one piece; what has more is drawn as its box."""

Piece = dict[str, Any]
Ring = list[list[float]]


def walked(scene: Scene) -> Iterator[Node]:
    """All nodes in paint order, one at a time: what comes or goes meanwhile may be left out, and disturbs nothing."""
    stack: list[Node] = [*scene.layers, *reversed(scene.in_world)]
    while stack:
        node = stack.pop()
        if node.scene is scene:
            yield node
            stack.extend(reversed(list(node.children_painted())))


def pieces_of(scene: Scene) -> Iterator[Piece]:
    """What there is to draw: first what the camera sees of panels and spots, then what is on the screen.

    Each piece has ``path``, ``rings`` (of corners in window pixels, even-odd), ``kind`` (``solid``, ``glass``,
    ``text`` or ``world``), ``look``, ``role``, ``text``, ``at`` (its middle) and ``size`` in pixels, ``colour``, and
    ``clip`` (left, top, right, bottom, or None).
    """
    if scene.in_world and scene.camera is not None:
        width, height = scene.window
        for one in outlines(scene, scene.camera, (0.0, 0.0, width, height)):
            rings = [[_rounded(point) for point in ring] for ring in (one.points, *one.holes)]
            yield _piece(one.node, rings, "world", caption_of(one.node, *owner_of(one.node)), None)
    for node in walked(scene):
        if node.parent is None or node.root._in_world or not node.is_visible:
            continue
        width, height = node.size
        if width <= 0.0 or height <= 0.0:
            continue
        control, part = owner_of(node)
        said = control.shown if isinstance(control, TextField) and not part else caption_of(node, control, part)
        solidity = node.effective_solidity
        kind = solidity if solidity in ("solid", "glass") else "text"
        if kind == "text" and not said and not isinstance(node.facts.get("colour"), str):
            continue
        if node.made_for_now and kind == "glass":
            continue  # a menu's moat is there to be felt, not seen
        clip = _clip(node)
        if clip is None or clip[0] < clip[2]:
            yield _piece(node, _rings(node), kind, said, clip)


def _piece(node: Node, rings: list[Ring], kind: str, text: str, clip: list[float] | None) -> Piece:
    xs, ys = [x for ring in rings for x, _ in ring], [y for ring in rings for _, y in ring]
    box = (min(xs), min(ys), max(xs), max(ys)) if xs else (0.0, 0.0, 0.0, 0.0)
    colour = node.facts.get("colour")
    return {
        "path": node.path,
        "rings": rings,
        "kind": kind,
        "look": node.look,
        "role": node.role,
        "control": node.is_control,
        "text": text[:200],
        "at": _rounded(((box[0] + box[2]) / 2.0, (box[1] + box[3]) / 2.0)),
        "size": _rounded((box[2] - box[0], box[3] - box[1])),
        "colour": colour if isinstance(colour, str) else None,
        "clip": clip,
    }


def _rings(node: Node) -> list[Ring]:
    """The edge of a node of a layer on the screen; its box, where that has too many corners."""
    scene, shape = node.scene, node.shape
    if scene is None:
        return []
    width, height = node.size
    corners: list[list[tuple[float, float]]] = [[(0.0, 0.0), (width, 0.0), (width, height), (0.0, height)]]
    if shape is not None:
        lines = shape.outline(width, height)
        if len(lines) <= MOST_CORNERS:
            corners = _joined([tuple(line) for line in lines.tolist()])
    m = scene.to_screen(node)
    return [[_rounded(apply(m, x, y)) for x, y in ring] for ring in corners]


def _joined(lines: list[tuple[float, ...]]) -> list[list[tuple[float, float]]]:
    """The rings that straight pieces make, whatever order those are in."""
    after: dict[tuple[float, float], list[tuple[float, float]]] = {}
    for x0, y0, x1, y1 in lines:
        after.setdefault((x0, y0), []).append((x1, y1))
    rings = []
    while after:
        start = next(iter(after))
        ring, at = [start], start
        while at in after:
            ends = after[at]
            to = ends.pop()
            if not ends:
                del after[at]
            if to == start:
                break
            ring.append(to)
            at = to
        rings.append(ring)
    return rings


def _clip(node: Node) -> list[float] | None:
    """The upright box on the screen that a node's ancestors cut it to; None: they do not."""
    clip: list[float] | None = None
    for above in node.lineage()[1:-1]:
        if above.clips:
            xs, ys = zip(*above.screen_corners(), strict=True)
            box = [min(xs), min(ys), max(xs), max(ys)]
            clip = box if clip is None else [*map(max, clip[:2], box[:2]), *map(min, clip[2:], box[2:])]
    return [round(one, 1) for one in clip] if clip is not None else None


def _rounded(point: tuple[float, float]) -> list[float]:
    return [round(point[0], 1), round(point[1], 1)]
