"""Scroll by wheel: bursts that stay with the area they began in (law G4)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.routing.gestures.scroll_area import length_in

if TYPE_CHECKING:
    from glent.core.input.samples import WheelSample
    from glent.core.routing.gestures.recogniser import Contests
    from glent.core.routing.gestures.scroll_area import ScrollArea
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node

__all__ = ["Wheel"]


class _Burst:
    """Wheel samples in quick succession, and the area that has them, for each axis."""

    __slots__ = ("areas", "time")

    def __init__(self, time: float) -> None:
        self.time = time
        self.areas: list[ScrollArea | None] = [None, None]


class Wheel:
    """The bursts of all wheels.

    At the begin of a burst the innermost area that can still go that way gets it, for each axis; the rest of the
    burst stays with it, also once it is at its end. If none can go that way, the innermost that goes along that axis
    at all has it, and nothing moves.
    """

    __slots__ = ("_bursts", "_gestures")

    def __init__(self, gestures: Contests) -> None:
        self._gestures = gestures
        self._bursts: dict[str, _Burst] = {}

    def holder(self, sample: WheelSample, view: SeatView) -> Node | None:
        """The area that a burst under way stays with, if this sample belongs to one and no modal has come between."""
        burst = self._bursts.get(sample.pointer)
        if burst is None:
            return None
        for area in burst.areas:
            if area is not None and area.node.is_visible and area.node.is_enabled and view.reaches(area.node):
                feel = self._gestures.feel_of(area.node)
                if sample.time - burst.time <= feel.wheel_gap:
                    return area.node
        del self._bursts[sample.pointer]
        return None

    def scroll(self, sample: WheelSample, offers: list[Node], pointer: Pointer) -> Node | None:
        """Scroll what lies at these offers, or what the burst stays with. Return who had it, or None if nobody
        scrolls."""
        view = pointer.seat.view
        holder = self.holder(sample, view)
        burst = self._bursts.get(sample.pointer)
        areas = [] if holder is not None else self._areas_at(offers, view.top)
        if burst is None:
            if not areas:
                return None
            burst = _Burst(sample.time)
        elif holder is not None:
            areas = [self._gestures.areas.of(node) for node in reversed(holder.lineage()) if _scrolls(node)]
        burst.time = sample.time
        had: Node | None = None
        for axis, amount in ((0, sample.dx), (1, sample.dy)):
            if amount == 0.0:
                continue
            area = burst.areas[axis]
            if area is not None:
                self._turn(area, axis, amount, sample, pointer)
            else:
                area = self._first(areas, axis, amount, sample, pointer)
            if area is not None:
                burst.areas[axis] = area
                had = area.node
        if had is not None:
            self._bursts[sample.pointer] = burst
        return had

    def _turn(self, area: ScrollArea, axis: int, amount: float, sample: WheelSample, pointer: Pointer) -> bool:
        """Scroll one area. Return whether it used any of it."""
        length = self._length(area.node, axis, amount, sample.unit)
        used = area.by(length if axis == 0 else 0.0, length if axis == 1 else 0.0, "wheel", pointer)
        return used != (0.0, 0.0)

    def _areas_at(self, offers: list[Node], top: Node | None) -> list[ScrollArea]:
        """The areas on the paths of these offers, front to back, inner to outer, as far as the topmost modal (M1)."""
        found: dict[Node, ScrollArea] = {}
        for offer in offers:
            for node in reversed(offer.lineage()):
                if _scrolls(node) and node not in found and node.is_enabled:
                    found[node] = self._gestures.areas.of(node)
                if node is top:
                    break
        return list(found.values())

    def _first(
        self, areas: list[ScrollArea], axis: int, amount: float, sample: WheelSample, pointer: Pointer
    ) -> ScrollArea | None:
        """Scroll the innermost area that can go that way. If there is none, the innermost of that axis has it."""
        for area in areas:
            if area.can_go(axis, amount) and self._turn(area, axis, amount, sample, pointer):
                return area
        return next((area for area in areas if area.node.scrolls and area.goes(axis)), None)

    def _length(self, node: Node, axis: int, amount: float, unit: str) -> float:
        """The distance of a wheel's step in the node's space."""
        feel = self._gestures.feel_of(node)
        if unit == "page":
            line = length_in(node, feel.scroll_line)
            return amount * max(node.size[axis] - line, line)
        screen = amount * feel.scroll_line if unit == "line" else amount
        return math.copysign(length_in(node, screen), screen)


def _scrolls(node: Node) -> bool:
    return node.scrolls or node.listens("scroll")
