"""Navigation: the focus moves by Tab and by direction, and is scrolled into view (laws F1, F2)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.affine import apply
from glent.core.routing.aim import on_screen
from glent.core.routing.focus.spatial import SpatialMap
from glent.core.routing.focus.tab_order import next_stop, stops
from glent.core.routing.pointers.pointer import BY_CODE, Pointer
from glent.core.scene.space import enter, to_scene

if TYPE_CHECKING:
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["DIRECTIONS", "Navigation"]

DIRECTIONS = ("left", "right", "up", "down", "next", "previous")


ROUNDING = 1e-6


class Navigation:
    """The navigation of all seats of one router."""

    __slots__ = ("_maps", "_state")

    def __init__(self, state: State) -> None:
        self._state = state
        self._maps: dict[str, SpatialMap] = {}

    def go(self, seat: Seat, direction: str, time: float) -> Node | None:
        """Move a seat's focus one step. Return where it is then, which is where it was if nothing lies in that
        direction.

        Its ring shows from then on (law F4).

        With focus nowhere a direction leads to the first stop.
        """
        focus, view = seat._focus, seat.view
        node = focus.node
        if direction in ("next", "previous"):
            target = next_stop(view, node, direction == "previous", focus.entry)
        elif node is None:
            target = next(iter(stops(view)), None)
        else:
            target = self.spatial_map(seat).neighbour(node, direction)
        if target is None:
            if node is not None:
                focus.ring = True
            return node
        self._state.seats.set_focus(seat, target, True)
        if focus.node is target:
            self.show(target)
        return focus.node

    def spatial_map(self, seat: Seat) -> SpatialMap:
        """The map of a seat's stops as they are now."""
        spatial_map = self._maps.get(seat.name)
        if spatial_map is None or spatial_map.layout != seat.view.scene._layout or spatial_map.view is not seat.view:
            spatial_map = self._maps[seat.name] = SpatialMap(seat.view)
        spatial_map.refresh()
        return spatial_map

    def show(self, node: Node) -> None:
        """Scroll the areas around a node until it is in view, innermost first, by no more than that takes."""
        area = node._parent
        while area is not None and area._scene is not None:
            if area._gesture_traits.scrolls:
                dx, dy = _missing(node, area)
                if dx or dy:
                    pointer = Pointer(BY_CODE, "mouse", self._state.main, on_screen(area, 0.0, 0.0))
                    self._state.gestures.scroll(area, dx, dy, "focus", pointer)
            area = area._parent


def _missing(node: Node, area: Node) -> tuple[float, float]:
    """How far an area has to be scrolled for a node in it to be in view, in the area's own pixels."""
    scene = node._scene
    if scene is None:
        return 0.0, 0.0
    scene._index.refresh()
    corners = []
    width, height = node.size
    for x, y in ((0.0, 0.0), (width, 0.0), (0.0, height), (width, height)):
        if node.root._in_world:
            corners.append(enter(area, *apply(to_scene(node), x, y)))
        else:
            corners.append(scene.local(area, *scene.point(node, x, y)))
    across, down = area.size
    lows = (min(x for x, _ in corners), min(y for _, y in corners))
    highs = (max(x for x, _ in corners), max(y for _, y in corners))
    moves = []
    for low, high, room in zip(lows, highs, (across, down), strict=True):
        if low < 0.0 or high - low > room:
            moves.append(low)
        else:
            moves.append(max(high - room, 0.0))
    across, down = (0.0 if abs(move) < ROUNDING else move for move in moves)
    return across, down
