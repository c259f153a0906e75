"""The pass-through map: for every pixel of the window, who gets a press there (law W6).

It is painted, not picked: islands are walked back to front as a renderer would, and each node writes itself over the
pixels it is hit at, whole boxes at a time. Positions and comparisons are the hit test's own, on arrays of pixel
centres instead of one point, so the map agrees with ``Router.would_reach_world`` at every pixel centre.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from glent.core.errors import SceneError
from glent.core.routing.pointers.press import listens_for_press
from glent.core.routing.seat_view import SeatView
from glent.core.scene.grid import paint_number
from glent.core.scene.island import BOX, FAR, Island, Shaped, Turned
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from glent.core.geometry.shape import Shape
    from glent.core.scene.grid import Entry
    from glent.core.scene.node import Node

__all__ = ["PassMap", "Zone", "pass_map"]

Floats = NDArray[np.float64]
Mask = NDArray[np.bool_]
Numbers = NDArray[Any]
FINE = 1024.0
"""Coordinates that are whole multiples of the inverse of this are subtracted without rounding."""

Block = tuple[slice, slice]


class Zone(IntEnum):
    """What a press at a pixel comes to."""

    WORLD = 0
    """Nothing lies there; the world gets it."""
    PASSED = 1
    """Glass lies there and does not want it; the world gets it."""
    GLASS = 2
    """Glass lies there and listens for what a press may become; it gets the press."""
    SOLID = 3
    """A solid node gets it."""
    DISABLED = 4
    """A disabled solid node lies there; nobody gets it."""
    BLOCKED = 5
    """A modal, a claim, a layer in transition or another seat keeps it from the world; nobody gets it."""


@dataclass(frozen=True, slots=True)
class PassMap:
    """Who gets a press at every pixel of the window.

    :ivar zones: array of shape (height, width) of :class:`Zone` numbers.
    :ivar owners: array of the same shape: an index into ``nodes``, or -1 where the world gets it. Where the zone is
        ``DISABLED`` it is the node in the way, and where it is ``BLOCKED`` nobody's, or another seat's.
    :ivar nodes: the nodes that are hit anywhere, in paint order.
    """

    zones: NDArray[np.uint8]
    owners: NDArray[np.int32]
    nodes: tuple[Node, ...]

    def share(self, zone: Zone) -> float:
        """The part of all pixels, 0 to 1, that are in a zone."""
        return float(np.count_nonzero(self.zones == zone)) / self.zones.size

    def pixels(self) -> dict[Node, int]:
        """How many pixels each owner has, most first; nodes that own none are left out."""
        counts = np.bincount(self.owners[self.owners >= 0], minlength=len(self.nodes))
        order = np.argsort(-counts, kind="stable")[: np.count_nonzero(counts)]
        return {self.nodes[index]: int(counts[index]) for index in order}


def pass_map(scene: Scene, seat: str = "main") -> PassMap:
    """The map of a scene as it is now, one entry a window pixel, asked at pixel centres, for a free mouse of a seat."""
    if not isinstance(scene, Scene):
        raise SceneError(f"pass_map: the scene is {scene!r}, expected a Scene")
    scene._index.refresh()
    view = SeatView(scene, seat)
    view.refresh()
    width, height = (max(1, round(side)) for side in scene.window)
    painter = _Painter(width, height, scene._index.count + 1, None if view.unrestricted else view)
    m = scene._from_screen
    xs = m[0] * (np.arange(width, dtype=float) + 0.5)[None, :] + m[4]
    ys = m[3] * (np.arange(height, dtype=float) + 0.5)[:, None] + m[5]
    fine = bool((xs * FINE % 1.0 == 0.0).all() and (ys * FINE % 1.0 == 0.0).all())
    for layer in reversed(scene.layers):
        if layer._shown and layer._own is not None:
            painter.island(layer._own, _Region(xs, ys, slice(0, height), slice(0, width), None, fine))
    found = painter.finished(scene)
    if view.sees_by is not None and (view.top is None or view.top.root._in_world) and not view.in_transition:
        from glent.diagnose.pass_map_world import look_beyond  # only where something stands in the world

        found = PassMap(found.zones, found.owners, look_beyond(view, found.zones, found.owners, found.nodes))
    if not view.unrestricted:
        _bar(found, view)
    viewport = scene._viewports.get(seat)
    if viewport is not None:
        _keep_within(found, viewport)
    return found


def _bar(found: PassMap, view: SeatView) -> None:
    """Mark what would be the world's, and is kept from it; and what another seat's nodes block."""
    zones = found.zones
    if view.top is not None or view.in_transition or view.has("pointer"):
        zones[(zones == Zone.WORLD) | (zones == Zone.PASSED)] = Zone.BLOCKED
    foreign = np.array([view.whose(node) == "blocked" for node in found.nodes] or [False])
    zones[(found.owners >= 0) & foreign[found.owners]] = Zone.BLOCKED


def _keep_within(found: PassMap, viewport: tuple[float, float, float, float]) -> None:
    """Outside a seat's viewport its pointers hit nothing (law T2)."""
    left, top, across, down = viewport
    height, width = found.zones.shape
    xs, ys = np.arange(width) + 0.5, np.arange(height) + 0.5
    columns = (xs >= left * width) & (xs < (left + across) * width)
    rows = (ys >= top * height) & (ys < (top + down) * height)
    outside = ~(rows[:, None] & columns[None, :])
    found.zones[outside] = Zone.BLOCKED
    found.owners[outside] = -1


class _Region:
    """Part of the window: which pixels, and where their centres are in some space."""

    __slots__ = ("columns", "fine", "mask", "rows", "xs", "ys")

    def __init__(self, xs: Floats, ys: Floats, rows: slice, columns: slice, mask: Mask | None, fine: bool) -> None:
        self.xs, self.ys = xs, ys  # (1, w) and (h, 1) as long as nothing turned, both (h, w) after that
        self.rows, self.columns = rows, columns
        self.mask = mask
        self.fine = fine  # whether all coordinates are whole multiples of 1 / FINE

    @property
    def upright(self) -> bool:
        """Whether x depends on the column alone, and y on the row alone."""
        return bool(self.xs.shape[0] == 1 and self.ys.shape[1] == 1)

    def part(self, r0: int, r1: int, c0: int, c1: int) -> _Region:
        """A block of it, by indices within it; only while upright."""
        top, left = self.rows.start, self.columns.start
        return _Region(
            self.xs[:, c0:c1],
            self.ys[r0:r1],
            slice(top + r0, top + r1),
            slice(left + c0, left + c1),
            None if self.mask is None else self.mask[r0:r1, c0:c1],
            self.fine,
        )

    def masked(self, inside: Mask) -> _Region:
        """Only the pixels that are in the mask as well."""
        return _Region(self.xs, self.ys, self.rows, self.columns, _both(self.mask, inside), self.fine)

    def moved(self, dx: float, dy: float) -> _Region:
        fine = self.fine and dx * FINE % 1.0 == 0.0 == dy * FINE % 1.0
        return _Region(self.xs + dx, self.ys + dy, self.rows, self.columns, self.mask, fine)

    def turned(self, inverse: tuple[float, ...]) -> _Region:
        a, b, c, d, e, f = inverse
        xs, ys = a * self.xs + c * self.ys + e, b * self.xs + d * self.ys + f
        return _Region(xs, ys, self.rows, self.columns, self.mask, False)


class _Painter:
    """Writes nodes over pixels, back to front.

    Nodes are numbered from 1 as they are painted, so of the numbers at a pixel the greatest is the frontmost. A solid
    overwrites nothing but other solids: what it covers is known by its number.
    """

    def __init__(self, width: int, height: int, count: int, view: SeatView | None) -> None:
        self.view = view
        self.nodes: list[Node | None] = [None]
        # Narrow numbers as long as they do: much of the time here goes into writing memory.
        kind = np.uint16 if count < 1 << 16 else np.uint32
        self.solid: Numbers = np.zeros((height, width), dtype=kind)  # the frontmost solid
        self.glass: Numbers = np.zeros((height, width), dtype=kind)  # the frontmost glass
        self.taker: Numbers = np.zeros((height, width), dtype=kind)  # the frontmost glass that accepts a press
        self.shapes: dict[int, int] = {}
        self.values: dict[Shape | None, int] = {}
        self.masks: dict[tuple[Any, ...], Mask] = {}

    def island(self, island: Island, region: _Region) -> None:
        """Paint a node that has an island, and all that is in it; the region is in the space around it."""
        local = region.moved(-island.origin_x, -island.origin_y)
        if island.inverse is not None:
            local = local.turned(island.inverse)
            if max(map(abs, island.inverse)) > 1e5 and not (np.abs(local.xs) + np.abs(local.ys) < FAR).all():
                return  # scaled so far down that floats no longer say where a pixel is
        if island.clip or island.hittable:
            mask = None if island.exact else self._own_shape(island, region, local)
            if island.hittable and self._counts(island.node):
                self._node(island.node, island.solid, (region.rows, region.columns), _both(region.mask, mask))
            if island.clip and mask is not None:
                if not mask.any():
                    return
                local.mask = _both(local.mask, mask)
        content = local.moved(island.scroll_x, island.scroll_y)
        self._entries(sorted(island.grid, key=paint_number), content)

    def _own_shape(self, island: Island, region: _Region, local: _Region) -> Mask:
        left, top, right, bottom = island.edges
        width, height = right - left, bottom - top
        if width <= 0.0 or height <= 0.0:
            return np.zeros((1, 1), dtype=bool)
        if island.shape is None and island.inverse is None:
            x, y, xs, ys = island.base_x, island.base_y, region.xs, region.ys
            return (xs >= x + left) & (xs < x + right) & (ys >= y + top) & (ys < y + bottom)
        return (island.shape or BOX).inside(local.xs, local.ys, width, height)

    def _bars(self, node: Node) -> bool:
        """Whether a node is another seat's and blocks this one, whatever its solidity (law T1)."""
        return self.view is not None and self.view.whose(node) == "blocked"

    def _counts(self, node: Node) -> bool:
        """Whether a node is there at all for the seat, and not behind what blocks the way."""
        view = self.view
        if view is None:
            return True
        if view.whose(node) == "through" or not view.keeps(node):
            return False
        return all(not view.is_behind(node, layer) for layer in view.in_transition)

    def _entries(self, entries: list[Entry], region: _Region) -> None:
        if self.view is not None:
            entries = [entry for entry in entries if isinstance(entry[5], Island) or self._counts(entry[4])]
        if not entries:
            return
        if not region.upright:
            for entry in entries:
                self._turned_entry(entry, region)
            return
        # All boxes are turned into pixel ranges at once.
        boxes = np.array([entry[:4] for entry in entries])
        columns = np.searchsorted(region.xs[0], boxes[:, 0::2]).tolist()
        rows = np.searchsorted(region.ys[:, 0], boxes[:, 1::2]).tolist()
        fine = region.fine
        solid, nodes = self.solid, self.nodes
        top, left, xs, ys, whole = region.rows.start, region.columns.start, region.xs, region.ys, region.mask
        for entry, (c0, c1), (r0, r1) in zip(entries, columns, rows, strict=True):
            if c0 == c1 or r0 == r1:
                continue
            target = entry[5]
            if target is None and whole is None:
                solid[top + r0 : top + r1, left + c0 : left + c1] = len(nodes)
                nodes.append(entry[4])
            elif target.__class__ is Island:
                self.island(target, region.part(r0, r1, c0, c1))
            else:
                mask = None if whole is None else whole[r0:r1, c0:c1]
                if target.__class__ is Shaped or target.__class__ is Turned:
                    mask = _both(mask, self._mask(entry[4], target, xs[:, c0:c1], ys[r0:r1], fine))
                block = slice(top + r0, top + r1), slice(left + c0, left + c1)
                self._node(entry[4], target is None or target.solid, block, mask)

    def _turned_entry(self, entry: Entry, region: _Region) -> None:
        """Paint an entry where rows and columns say nothing: every pixel of the region is asked."""
        x0, y0, x1, y1, node, target = entry
        xs, ys, block = region.xs, region.ys, (region.rows, region.columns)
        # The box also where there is a shape in it: an ancestor that clips may have cut it.
        inside = ((xs >= x0) & (xs < x1)) & ((ys >= y0) & (ys < y1))
        if target.__class__ is Shaped or target.__class__ is Turned:
            inside &= _inside(node, target, xs - target.origin_x, ys - target.origin_y)
            self._node(node, target.solid, block, _both(region.mask, inside))
            return
        if not isinstance(target, Island):
            self._node(node, target is None, block, _both(region.mask, inside))
        elif inside.any():
            self.island(target, region.masked(inside))

    def _mask(self, node: Node, target: Shaped | Turned, xs: Floats, ys: Floats, fine: bool) -> Mask:
        """Which of a block of upright pixels are in a node's shape; asked once for all that lie alike under theirs."""
        left, top, right, bottom = node._edges or (0.0, 0.0, 0.0, 0.0)
        shape = self.shapes.get(id(node._shape))
        if shape is None:  # equal shapes share their masks, and each is hashed by its value once
            shape = self.shapes[id(node._shape)] = self.values.setdefault(node._shape, len(self.values))
        x, y = target.origin_x, target.origin_y
        inverse = target.inverse if isinstance(target, Turned) else None
        key: tuple[Any, ...] = (shape, inverse, right - left, bottom - top, xs.shape, ys.shape)
        if fine and x * FINE % 1.0 == 0.0 == y * FINE % 1.0:
            # No difference is rounded here, so the first pixel tells where all others lie.
            key += (float(xs[0, 0]) - x, float(ys[0, 0]) - y)
        else:
            key += ((xs - x).tobytes(), (ys - y).tobytes())
        mask = self.masks.get(key)
        if mask is None:
            self.masks[key] = mask = _inside(node, target, xs - x, ys - y)
        return mask

    def _node(self, node: Node, solid: bool, block: Block, mask: Mask | None) -> None:
        """Paint one node over a block of pixels, or those of them in a mask."""
        solid = solid or self._bars(node)
        number = len(self.nodes)
        self.nodes.append(node)
        if solid:
            _fill(self.solid[block], mask, number)
            return
        if listens_for_press(node, None) and node.is_enabled:
            self._accept(node, number, block, mask)
        _fill(self.glass[block], mask, number)

    def _accept(self, node: Node, number: int, block: Block, mask: Mask | None) -> None:
        """Whether glass accepts may depend on the next offer, which is what has been painted there before (law P2)."""
        if listens_for_press(node, node._parent):  # it listens itself, whatever lies behind
            _fill(self.taker[block], mask, number)
            return
        behind = np.maximum(self.solid[block], self.glass[block])
        for other in np.unique(behind):
            next_one = self.nodes[other]
            if next_one is not None and self._bars(next_one):
                next_one = None  # no offer, but the end of them
            if listens_for_press(node, next_one):
                _fill(self.taker[block], _both(mask, behind == other), number)

    def finished(self, scene: Scene) -> PassMap:
        """The map."""
        owners = np.maximum(self.solid, self.taker).astype(np.int32)
        owners -= 1
        owned = owners >= 0
        # By arithmetic rather than by masks, which take several times as long over a million pixels.
        zones = owned.astype(np.uint8) * np.uint8(Zone.SOLID)
        zones -= (self.taker > self.solid).view(np.uint8) * np.uint8(Zone.SOLID - Zone.GLASS)
        zones += (~owned & (self.glass > 0)).view(np.uint8) * np.uint8(Zone.PASSED)
        nodes = tuple(node for node in self.nodes if node is not None)
        if scene._index.disabled:
            off = np.array([not node.is_enabled for node in nodes] or [False])
            zones[owned & (zones == Zone.SOLID) & off[owners]] = Zone.DISABLED
        return PassMap(zones, owners, nodes)


def _inside(node: Node, target: Shaped | Turned, xs: Floats, ys: Floats) -> Mask:
    """Which pixels are in a node's shape, given relative to where its target counts from."""
    if isinstance(target, Turned):
        a, b, c, d, e, f = target.inverse
        xs, ys = a * xs + c * ys + e, b * xs + d * ys + f
    left, top, right, bottom = node._edges or (0.0, 0.0, 0.0, 0.0)
    return (node._shape or BOX).inside(xs, ys, right - left, bottom - top)


def _both(one: Mask | None, other: Mask | None) -> Mask | None:
    return one if other is None else other if one is None else one & other


def _fill(pixels: Numbers, mask: Mask | None, value: int) -> None:
    if mask is None:
        pixels[...] = value
    else:
        np.copyto(pixels, value, where=mask)
