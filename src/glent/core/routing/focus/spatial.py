"""Where focus goes by a direction: the neighbour by position, as scored here (law F2).

The idea is that of the W3C draft on CSS Spatial Navigation: look within the innermost container first, then in the one
around it; rate what lies that way by how far it is, and how far off the line. The rule here:

- Every stop is taken as the box around it on the screen, to 1/1024 of a pixel, so that rounding decides nothing.
  Between two boxes there is a gap across (x) and a gap down (y), below zero by as much as they overlap in that axis.
  A stop lies to the *right* of another if its centre is further right and the gap across is no smaller than the gap
  down: within 45° from edge to edge. Of boxes that overlap in both axes the one whose centre is further right is to
  the right, if the centres are no further apart down than across.
- That is the same seen from the other side, so a step right can always be followed by one to the left; and of two
  stops with different centres each lies in some direction of the other.
- Among those that lie that way the least *score* wins: gap along + 2 × gap across the way + ¼ × distance of the
  centres across the way, in logical pixels; of equals the first in tab order.
- Containers are scroll areas, groups that are one stop to Tab, nodes with ``scope`` or ``wrap``, modals, and panels:
  on a panel its own space is compared, and no direction leads off it, only Tab and named neighbours do. If
  nothing within the innermost one lies that way, one that wraps goes on from its other side; a ``scope`` ends it;
  otherwise the container around it is asked.
- What is scrolled out of view is found from within its own area, and not from outside.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.errors import PathError
from glent.core.geometry.affine import IDENTITY, bounds, compose
from glent.core.routing.focus.tab_order import can_focus, stops
from glent.core.scene.roles import COMPOSITES
from glent.core.scene.space import to_scene

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine, Box
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["SpatialMap", "box_of", "score"]

ACROSS, CENTRES = 2.0, 0.25
"""What a pixel of gap across the way, and of distance of the centres across the way, weighs beside one along it."""

FINE = 1024.0

_AXIS = {"left": (0, -1), "right": (0, 1), "up": (1, -1), "down": (1, 1)}


def box_of(node: Node) -> Box:
    """The box around a node on the screen, in logical pixels to 1/1024; the index must be up to date."""
    left, top, right, bottom = node._edges or (0.0, 0.0, 0.0, 0.0)
    scene = node._scene
    assert scene is not None
    box = bounds(compose(_base(scene, node), to_scene(node)), (0.0, 0.0, right - left, bottom - top))
    left, top, right, bottom = (round(side * FINE) / FINE for side in box)
    return left, top, right, bottom


def _base(scene: Scene, node: Node) -> Affine:
    """The transform from the space of a node's root to where boxes are compared: the screen, or the panel itself."""
    return IDENTITY if node.root._in_world else scene._to_logical


def score(one: Box, other: Box, direction: str) -> float | None:
    """The score of another box from one, or None if it does not lie in that direction. Plain and slow, for one pair."""
    axis, sign = _AXIS[direction]
    gaps = [max(other[k] - one[k + 2], one[k] - other[k + 2]) for k in (0, 1)]
    middle = [(other[k] + other[k + 2]) / 2.0 - (one[k] + one[k + 2]) / 2.0 for k in (0, 1)]
    along, across = gaps[axis], gaps[1 - axis]
    ahead, aside = middle[axis] * sign, abs(middle[1 - axis])
    overlap = along < 0.0 and across < 0.0
    if not (ahead > 0.0 and (aside <= ahead if overlap else along >= across)):
        return None
    return max(along, 0.0) + ACROSS * max(across, 0.0) + CENTRES * aside


class SpatialMap:
    """The stops of a seat with their boxes, as arrays.

    Corners are kept in the space of the innermost area that scrolls, so that scrolling moves an array and not nodes.
    Cost: making it is a walk of what shows, and is done again once a stop, or what holds one, has changed otherwise; a
    scrolled area costs some NumPy operations over what it holds; a question costs some over all stops.
    """

    __slots__ = ("_areas", "_boxes", "_clips", "_containers", "_in_world", "_inside", "_lids", "_middles",
                 "_numbers", "_version", "layout", "stops", "view")  # fmt: skip

    def __init__(self, view: SeatView) -> None:
        self.view = view
        self.layout = view.scene._layout
        self._version = -1
        self.stops = stops(view)
        self._numbers = {node: number for number, node in enumerate(self.stops)}
        self._containers: dict[Node, list[Node]] = {}
        self._inside: dict[Node, Any] = {}
        self._areas = _areas_of(self.stops)
        self._clips = _clips_of(self.stops)
        self._boxes: list[tuple[Any, Any]] = []
        self._middles: list[Any] = []
        self._lids: Any = None
        import numpy as np

        self._in_world = np.array([node.root._in_world for node in self.stops], dtype=bool)
        """Which stops are on panels, so that they are no neighbours of those on layers."""
        self.refresh()

    def refresh(self) -> None:
        """Bring the boxes up to date where something was scrolled. The index must be up to date."""
        scene = self.view.scene
        if self._version == scene._version:
            return
        self._version = scene._version
        moved = [area.move(scene) for area in self._areas]
        if self._boxes and True not in moved:
            return
        import numpy as np  # only wanted where directions are used

        boxes = np.empty((len(self.stops), 4))
        for area in self._areas:
            boxes[area.numbers] = area.boxes
        np.round(boxes * FINE, out=boxes)
        boxes /= FINE
        self._boxes = [(boxes[:, 0].copy(), boxes[:, 2].copy()), (boxes[:, 1].copy(), boxes[:, 3].copy())]
        self._middles = [(low + high) / 2.0 for low, high in self._boxes]
        # By stop, the number of the innermost clipping node that it lies outside of; -1: it is in view.
        self._lids = np.full(len(self.stops), -1)
        for number, (clip, numbers) in enumerate(self._clips):
            left, top, right, bottom = box_of(clip)
            held = boxes[numbers]
            outside = (held[:, 0] >= right) | (held[:, 2] <= left) | (held[:, 1] >= bottom) | (held[:, 3] <= top)
            self._lids[numbers[outside]] = number

    def neighbour(self, node: Node, direction: str) -> Node | None:
        """The stop that a direction leads to from another; None if it leads nowhere."""
        named = node._input_traits.nav
        if named is not None and direction in named:
            return self._named(named[direction])
        number = self._numbers.get(node)
        if number is None:
            return None
        scores = self._scores(number, direction, False)
        for container in self._around(node):
            within = self._members(container)
            found = self._minimum(scores, within)
            if found is not None:
                return found
            wrap = container._input_traits.wrap
            if wrap == "both" or wrap == "xy"[_AXIS[direction][0]]:
                return self._minimum(self._scores(number, direction, True), within)
            if container._input_traits.scope or container._in_world:
                return None
        return self._minimum(scores, self._members(None))

    def is_in_view(self, node: Node) -> bool:
        """Whether a stop is in view, and not scrolled away or clipped."""
        return bool(self._lids[self._numbers[node]] < 0)

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
        """Which stops lie in a container and can be seen in it; for None, which can be seen at all."""
        import numpy as np

        # By the number of a lid, and at last for those without one: whether it is no hindrance in there.
        free = [container is not None and container.is_within(clip) for clip, _ in self._clips]
        seen = np.array([*free, True], dtype=bool)[self._lids]
        if container is None:
            return seen & ~self._in_world
        inside = self._inside.get(container)
        if inside is None:
            each = (stop is not container and stop.is_within(container) for stop in self.stops)
            inside = self._inside[container] = np.fromiter(each, dtype=bool, count=len(self.stops))
        return seen & inside

    def _scores(self, number: int, direction: str, round_again: bool) -> Any:
        """The scores of all stops from one of them; infinite for those that do not lie in that direction.

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

    def _minimum(self, scores: Any, within: Any) -> Node | None:
        import numpy as np

        scores = np.where(within, scores, np.inf)
        best = int(scores.argmin())
        return self.stops[best] if scores[best] < np.inf else None


class _Area:
    """The stops of one scroll area, or of a layer, by their corners in the space of its content."""

    __slots__ = ("_corners", "_matrix", "_top", "_unmoved", "boxes", "numbers")

    def __init__(self, top: Node, held: list[tuple[int, Node]]) -> None:
        import numpy as np

        self._top = top
        self._matrix: Affine | None = None
        self.numbers = np.array([number for number, _ in held])
        known: dict[Node, Affine] = {top: IDENTITY}
        sides = []
        for _, node in held:
            left, top_, right, bottom = node._edges or (0.0, 0.0, 0.0, 0.0)
            sides.append((*_within_top(node, known), right - left, bottom - top_))
        a, b, c, d, e, f, width, height = np.array(sides, dtype=float).T[:, :, None]
        xs, ys = width * np.array([0.0, 1.0, 0.0, 1.0]), height * np.array([0.0, 0.0, 1.0, 1.0])
        self._corners = (a * xs + c * ys + e, b * xs + d * ys + f)
        self.boxes: Any = None

    def move(self, scene: Scene) -> bool:
        """Put the boxes where they are on the screen. Return whether they have moved."""
        scroll_x, scroll_y = self._top._scroll
        m = compose(compose(_base(scene, self._top), to_scene(self._top)), (1.0, 0.0, 0.0, 1.0, -scroll_x, -scroll_y))
        if m == self._matrix:
            return False
        import numpy as np

        before, self._matrix = self._matrix, m
        if before is None or before[:4] != m[:4]:
            x, y = self._corners
            xs, ys = m[0] * x + m[2] * y, m[1] * x + m[3] * y
            self._unmoved = np.stack([xs.min(axis=1), ys.min(axis=1), xs.max(axis=1), ys.max(axis=1)], axis=1)
        self.boxes = self._unmoved + np.array((m[4], m[5], m[4], m[5]))
        return True


def _within_top(node: Node, known: dict[Node, Affine]) -> Affine:
    """The transform from a node's space to that of the content it lies in; ``known`` keeps those of its ancestors."""
    m = known.get(node)
    if m is None:
        parent = node._parent
        assert parent is not None
        left, top, _, _ = node._edges or (0.0, 0.0, 0.0, 0.0)
        a, b, c, d, e, f = above = _within_top(parent, known)
        if node._forward is not None:
            m = compose(above, node._forward)
        else:
            m = (a, b, c, d, a * left + c * top + e, b * left + d * top + f)
        if node._children:
            known[node] = m
    return m


def _areas_of(nodes: list[Node]) -> list[_Area]:
    """The stops by the innermost node above them that scrolls, or else by their layer."""
    held: dict[Node, list[tuple[int, Node]]] = {}
    for number, node in enumerate(nodes):
        top = node._parent or node
        while top._parent is not None and not top._gesture_traits.scrolls and top._scroll == (0.0, 0.0):
            top = top._parent
        held.setdefault(top, []).append((number, node))
    return [_Area(top, inside) for top, inside in held.items()]


def _clips_of(nodes: list[Node]) -> list[tuple[Node, Any]]:
    """The clipping nodes above the stops, outermost first, each with the numbers of the stops in it."""
    import numpy as np

    held: dict[Node, list[int]] = {}
    for number, node in enumerate(nodes):
        above = node._parent
        while above is not None:
            if above._clips:
                held.setdefault(above, []).append(number)
            above = above._parent
    ordered = sorted(held.items(), key=lambda one: one[0]._depth)
    return [(clip, np.array(numbers)) for clip, numbers in ordered]


def _contains(node: Node) -> bool:
    terms = node._input_traits
    if node._gesture_traits.scrolls or node._role in COMPOSITES or node._in_world:
        return True
    return terms.scope or terms.wrap is not None or terms.modal
