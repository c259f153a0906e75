"""Where focus can go: where each direction leads from each stop, and what cannot be reached or left (F1, F2, M4)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from glent.core.routing.focus.spatial import SpatialMap
from glent.core.routing.focus.tab_order import next_stop
from glent.core.routing.seat_view import SeatView

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["FocusMap", "FocusStop", "focus_map", "ground"]

DIRECTIONS = ("left", "right", "up", "down")


@dataclass(frozen=True, slots=True)
class FocusStop:
    """One stop.

    :ivar node: where focus can stop. :ivar number: its place in tab order, from 1; None for those of a group that
        arrows alone lead to. :ivar next: where Tab leads from it.
    :ivar directions: by direction, where that leads, or None. :ivar named: the directions that ``nav`` names.
    :ivar can_reach: whether directions lead here from the first stop. :ivar can_leave: whether one leads away.
    :ivar in_view: whether it is in view now, or scrolled away.
    """

    node: Node
    number: int | None
    next: Node | None
    directions: dict[str, Node | None]
    named: tuple[str, ...]
    can_reach: bool
    can_leave: bool
    in_view: bool


@dataclass(frozen=True, slots=True)
class FocusMap:
    """The stops of a scope, in tab order.

    :ivar scope: the node asked about, or None for all a seat has now.
    :ivar modal: the modal that has the input, if one is open.
    :ivar closable: whether back leaves that modal, something in it can be activated, or it is another seat's (law M4).
    """

    scope: Node | None
    modal: Node | None
    closable: bool
    stops: tuple[FocusStop, ...]

    @property
    def problems(self) -> list[str]:
        """What a player with keys or a pad would stumble over, in sentences."""
        found = []
        for stop in self.stops:
            # Directions lead over all layers, and over each panel by itself.
            beside = [one for one in self.stops if ground(one.node) is ground(stop.node)]
            if not stop.can_reach:
                found.append(f"{stop.node.path} cannot be reached by directions from {beside[0].node.path}")
            if not stop.can_leave and len(beside) > 1:
                found.append(f"{stop.node.path} cannot be left by directions")
        if self.modal is not None and not self.closable:
            found.append(f"{self.modal.path} is modal and cannot be left: back does not close it, and nothing in it can"
                         " be activated")  # fmt: skip
        return found


def focus_map(scene: Scene, scope: Node | None = None, seat: str = "main") -> FocusMap:
    """Where focus can go within a scope, for a seat, as the scene is now.

    Cost: a walk of what shows, and four questions for each stop.
    """
    scene._index.refresh()
    view = SeatView(scene, seat)
    view.refresh()
    spatial_map = SpatialMap(view)
    inside = [node for node in spatial_map.stops if scope is None or node.is_within(scope)]
    directions = {
        node: {direction: spatial_map.neighbour(node, direction) for direction in DIRECTIONS}
        for node in spatial_map.stops
    }
    # Directions lead over the layers, and over each panel by itself; from one to the other Tab does.
    firsts = {ground(node): node for node in reversed(inside)}
    reached = {node for first in firsts.values() for node in _reached(first, directions)}
    numbers = _tab_numbers(view)
    stops = tuple(
        FocusStop(
            node,
            numbers.get(node),
            next_stop(view, node, False, {}),
            directions[node],
            tuple(direction for direction in DIRECTIONS if direction in (node.nav or {})),
            node in reached,
            any(to is not None and to is not node for to in directions[node].values()),
            spatial_map.is_in_view(node),
        )
        for node in inside
    )
    top = view.top
    closable = top is not None and (
        view.top_is_foreign  # to close it is another player's business
        or any(view.keeps(node) for node in view.closable)
        or any(node.is_control or node.listens("click") or node.listens("activate") for node in inside)
    )
    return FocusMap(scope, top, closable, stops)


def ground(node: Node) -> Node | None:
    """What directions lead over from a node: its panel, or None for all layers."""
    root = node.root
    return root if root._in_world else None


def _reached(first: Node, directions: dict[Node, dict[str, Node | None]]) -> set[Node]:
    seen = {first}
    ahead = [first]
    while ahead:
        for node in directions[ahead.pop()].values():
            if node is not None and node not in seen:
                seen.add(node)
                ahead.append(node)
    return seen


def _tab_numbers(view: SeatView) -> dict[Node, int]:
    """The stops of Tab, from 1, as it goes round from the first."""
    numbers: dict[Node, int] = {}
    node = next_stop(view, None, False, {})
    while node is not None and node not in numbers:
        numbers[node] = len(numbers) + 1
        node = next_stop(view, node, False, {})
    return numbers
