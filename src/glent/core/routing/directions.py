"""Where focus goes by a direction: the neighbour by position, as scored here (law F2).

The idea is that of the W3C draft on CSS Spatial Navigation: look within the innermost container first, then in the one
around it; rate what lies that way by how far it is, and how far off the line. The rule here:

- Every stop is taken as the box around it on the screen. Between two boxes there is a gap across (x) and a gap down
  (y), below zero by as much as they overlap in that axis. A stop lies to the *right* of another if its centre is
  further right and the gap across is no smaller than the gap down: within 45° from edge to edge. Of boxes that overlap
  in both axes the one whose centre is further right is to the right, if the centres are no further apart down than
  across.
- That is the same seen from the other side, so a step right can always be followed by one to the left; and of two
  stops with different centres each lies in some direction of the other.
- Among those that lie that way the least *score* wins: gap along + 2 × gap across the way + ¼ × distance of the
  centres across the way, in logical pixels; of equals the first in tab order.
- Containers are scroll areas, groups that are one stop to Tab, nodes with ``scope`` or ``wrap``, modals, layers. If
  nothing within the innermost one lies that way, one that wraps goes on from its other side; a ``scope`` ends it;
  otherwise the container around it is asked.
- What is scrolled out of view is found from within its own area, and not from outside.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.errors import PathError
from glent.core.geometry.affine import bounds, compose
from glent.core.routing.stops import can_focus, stops
from glent.core.scene.roles import COMPOSITES
from glent.core.scene.space import to_scene

if TYPE_CHECKING:
    from glent.core.geometry.affine import Box
    from glent.core.routing.view import View
    from glent.core.scene.node import Node

__all__ = ["Chart", "box_of", "score"]

ACROSS, CENTRES = 2.0, 0.25
"""What a pixel of gap across the way, and of distance of the centres across the way, weighs beside one along it."""

_AXIS = {"left": (0, -1), "right": (0, 1), "up": (1, -1), "down": (1, 1)}


def box_of(node: Node) -> Box:
    """The box around a node on the screen, in logical pixels; the index must be up to date."""
    left, top, right, bottom = node._edges or (0.0, 0.0, 0.0, 0.0)
    scene = node._scene
    assert scene is not None
    return bounds(compose(scene._to_logical, to_scene(node)), (0.0, 0.0, right - left, bottom - top))


def score(one: Box, other: Box, direction: str) -> float | None:
    """The score of another box from one, or None if it does not lie that way. Plain and slow, for one pair."""
    axis, sign = _AXIS[direction]
    gaps = [max(other[k] - one[k + 2], one[k] - other[k + 2]) for k in (0, 1)]
    middle = [(other[k] + other[k + 2] - one[k] - one[k + 2]) / 2.0 for k in (0, 1)]
    along, across = gaps[axis], gaps[1 - axis]
    ahead, aside = middle[axis] * sign, abs(middle[1 - axis])
    overlap = along < 0.0 and across < 0.0
    if not (ahead > 0.0 and (aside <= ahead if overlap else along >= across)):
        return None
    return max(along, 0.0) + ACROSS * max(across, 0.0) + CENTRES * aside


class Chart:
    """The stops of a seat with their boxes, as arrays; made anew where the scene has changed since.

    Cost: making it is a walk of what shows; a question is a few NumPy operations over all stops.
    """

    __slots__ = ("_boxes", "_containers", "_lids", "_middles", "_numbers", "_within", "stops", "version", "view")

    def __init__(self, view: View) -> None:
        import numpy as np  # only wanted where directions are used

        self.view = view
        self.version = view.scene.version
        self.stops = stops(view)
        self._numbers = {node: number for number, node in enumerate(self.stops)}
        boxes = np.array([box_of(node) for node in self.stops], dtype=float).reshape(-1, 4)
        # By axis: lows and highs of all stops, and their middles.
        self._boxes = [(boxes[:, 0].copy(), boxes[:, 2].copy()), (boxes[:, 1].copy(), boxes[:, 3].copy())]
        self._middles = [(low + high) / 2.0 for low, high in self._boxes]
        self._lids = [_lid(node, box) for node, box in zip(self.stops, boxes.tolist(), strict=True)]
        self._containers: dict[Node, list[Node]] = {}
        self._within: dict[Node | None, Any] = {}

    def neighbour(self, node: Node, direction: str) -> Node | None:
        """Where a direction leads from a stop; None if nowhere."""
        named = node._terms.neighbours
        if named is not None and direction in named:
            return self._named(named[direction])
        number = self._numbers.get(node)
        if number is None:
            return None
        scores = self._scores(number, direction, False)
        for container in self._around(node):
            within = self._members(container)
            found = self._least(scores, within)
            if found is not None:
                return found
            wrap = container._terms.wrap
            if wrap == "both" or wrap == "xy"[_AXIS[direction][0]]:
                return self._least(self._scores(number, direction, True), within)
            if container._terms.scope:
                return None
        return self._least(scores, self._members(None))

    def _named(self, path: str | None) -> Node | None:
        if path is None:
            return None
        try:
            node = self.view.scene[path]
        except PathError:
            return None
        return node if can_focus(self.view, node) else None

    def _around(self, node: Node) -> list[Node]:
        """The containers of a stop, innermost first, as far as the topmost modal."""
        parent = node._parent
        if parent is None:
            return []
        known = self._containers.get(parent)
        if known is None:
            known = []
            one: Node | None = parent
            while one is not None:
                if _contains(one):
                    known.append(one)
                if one is self.view.top:
                    break
                one = one._parent
            self._containers[parent] = known
        return known

    def _members(self, container: Node | None) -> Any:
        """Which stops lie in a container and can be seen in it; of None, which can be seen at all."""
        within = self._within.get(container)
        if within is None:
            import numpy as np

            within = self._within[container] = np.array(
                [
                    (container is None or (stop is not container and stop.is_within(container)))
                    and (lid is None or (container is not None and container.is_within(lid)))
                    for stop, lid in zip(self.stops, self._lids, strict=True)
                ],
                dtype=bool,
            )
        return within

    def _scores(self, number: int, direction: str, round_again: bool) -> Any:
        """The scores of all stops from one of them; infinite where they do not lie that way.

        :param round_again: as if the stop lay beyond the other side of them all.
        """
        import numpy as np

        axis, sign = _AXIS[direction]
        (low, high), middle = self._boxes[axis], self._middles[axis]
        (side_low, side_high), side_middle = self._boxes[1 - axis], self._middles[1 - axis]
        across = np.maximum(side_low - side_high[number], side_low[number] - side_high)
        aside = np.abs(side_middle - side_middle[number])
        if round_again:
            # From outside, everything lies ahead; the first row or column met is the nearest.
            along = (low - low.min()) if sign > 0 else (high.max() - high)
            scores = along + ACROSS * np.maximum(across, 0.0) + CENTRES * aside
            scores[number] = np.inf
            return scores
        along = np.maximum(low - high[number], low[number] - high)
        ahead = (middle - middle[number]) * sign
        overlap = (along < 0.0) & (across < 0.0)
        lies = (ahead > 0.0) & np.where(overlap, aside <= ahead, along >= across)
        scores = np.maximum(along, 0.0) + ACROSS * np.maximum(across, 0.0) + CENTRES * aside
        scores[~lies] = np.inf
        return scores

    def _least(self, scores: Any, within: Any) -> Node | None:
        import numpy as np

        scores = np.where(within, scores, np.inf)
        best = int(scores.argmin())
        return self.stops[best] if scores[best] < np.inf else None


def _lid(node: Node, box: list[float]) -> Node | None:
    """The outermost clipping node that a stop lies outside of, on the screen; None if it is in view."""
    found: Node | None = None
    above = node._parent
    while above is not None:
        if above._clips:
            left, top, right, bottom = box_of(above)
            if box[0] >= right or box[2] <= left or box[1] >= bottom or box[3] <= top:
                found = above
        above = above._parent
    return found


def _contains(node: Node) -> bool:
    terms = node._terms
    return (
        node._parent is None
        or node._traits.scrolls
        or node._role in COMPOSITES
        or terms.scope
        or terms.wrap is not None
        or terms.modal
    )
