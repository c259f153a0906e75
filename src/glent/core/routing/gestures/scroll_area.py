"""Scroll areas: how far each can go, what it gives at its ends, and its glides (law G4)."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from glent.core.routing.event import Event
from glent.core.routing.gestures.inertia import Glide
from glent.core.routing.pointers.pointer import BY_CODE, Pointer
from glent.core.scene.space import into

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.input.feel import Feel
    from glent.core.routing.gestures.services import Services
    from glent.core.scene.node import Node

__all__ = ["ScrollArea", "ScrollAreas", "length_in"]

Vector = tuple[float, float]


class ScrollArea:
    """The scroll state of one node: it ``scrolls`` by itself, or a handler for ``scroll`` takes the event."""

    __slots__ = ("_areas", "_glides", "_pulled", "_range", "_set", "node", "pullers")

    def __init__(self, node: Node, areas: ScrollAreas) -> None:
        self.node = node
        self.pullers: dict[object, None] = {}
        """The contacts of fingers that drag it; it follows the first."""
        self._areas = areas
        self._pulled = node._scroll
        """Where the offset would be if the ends gave in: what is shown is less, beyond them."""
        self._set = node._scroll
        self._glides: tuple[Glide, Glide] | None = None
        self._range: Vector = (0.0, 0.0)

    @property
    def glides(self) -> bool:
        """Whether it still runs on by itself."""
        return self._glides is not None

    def goes(self, axis: int) -> bool:
        """Whether it scrolls along an axis (0: x) at all: its own axis allows it, and there is more than it shows."""
        node = self.node
        return node.axis in (None, "xy"[axis]) and (not node.scrolls or node.scroll_range[axis] > 0.0)

    def can_go(self, axis: int, by: float) -> bool:
        """Whether it can scroll in this direction, and is not at that end yet."""
        if not self.goes(axis) or by == 0.0:
            return False
        node = self.node
        offset = node._scroll[axis]
        return not node.scrolls or (offset > 0.0 if by < 0.0 else offset < node.scroll_range[axis])

    def by(self, dx: float, dy: float, how: str, pointer: Pointer, give: bool = False) -> Vector:
        """Scroll by a distance in the node's space. Return what was used of it.

        With ``give`` the ends give in a little, and everything along its axes is used.
        """
        node = self.node
        dx, dy = (dx if self.goes(0) else 0.0), (dy if self.goes(1) else 0.0)
        if dx == dy == 0.0:
            return 0.0, 0.0
        if not node.scrolls:
            return (dx, dy) if self._tell(dx, dy, how, pointer) else (0.0, 0.0)
        maximum = node.scroll_range
        if node._scroll != self._set:  # someone else has set it
            self._pulled = node._scroll
        if not self.pullers:  # what it holds may have shrunk
            self._pulled = _within(self._pulled, maximum)
        self._glides = None
        edge = self._areas.feel_of(node).max_overscroll
        soft = give and edge > 0.0
        before = self._pulled
        self._pulled = after = (_pull(before[0], dx, maximum[0], soft), _pull(before[1], dy, maximum[1], soft))
        edge = length_in(node, edge)
        self._show((_shown(after[0], maximum[0], edge), _shown(after[1], maximum[1], edge)), how, pointer)
        return after[0] - before[0], after[1] - before[1]

    def keep_within(self, pointer: Pointer) -> None:
        """Show the end of content that has shrunk, unless a finger or a glide is about to bring it back."""
        node = self.node
        if node._scroll == (0.0, 0.0) or self.pullers or self._glides is not None or not node.scrolls:
            return
        within = _within(node._scroll, node.scroll_range)
        if within != node._scroll:
            self._pulled = within
            self._show(within, "content", pointer)

    def _show(self, offset: Vector, how: str, pointer: Pointer) -> None:
        """Set the offset, and tell if it has changed."""
        node = self.node
        before = node._scroll
        self._set = offset
        if offset == before or node._scene is None:
            return
        node.set_for_now(scroll=offset)
        self._set = node._scroll
        self._tell(offset[0] - before[0], offset[1] - before[1], how, pointer)

    def _tell(self, dx: float, dy: float, how: str, pointer: Pointer) -> bool:
        node = self.node
        x, y = node._scroll
        data = {"dx": dx, "dy": dy, "x": x, "y": y, "by": how}
        event = Event("scroll", node, pointer.name, self._areas.now, pointer.pos, None, pointer.buttons, 0, data)
        self._areas.send(event)
        return event.taken

    def let_go(self, speed: Vector, pointer: Pointer) -> None:
        """Run on at a speed in the node's space, pixels a second, or spring back from beyond an end."""
        node, feel, now = self.node, self._areas.feel_of(self.node), self._areas.now
        if node._scene is None:
            return
        maximum: Vector = (0.0, 0.0)
        offset = node._scroll
        if node.scrolls:
            maximum = node.scroll_range
        else:
            maximum, offset = (1e9, 1e9), (5e8, 5e8)  # how far, only its handler knows
        minimum, give = length_in(node, feel.min_glide_speed), length_in(node, feel.max_overscroll)
        made = [
            Glide(
                now,
                offset[axis],
                speed[axis] if self.goes(axis) else 0.0,
                maximum[axis],
                feel.glide_time,
                minimum,
                feel.overscroll_spring,
                give,
            )
            for axis in (0, 1)
        ]
        self._glides, self._range = (made[0], made[1]), maximum
        if all(_is_still(glide, now) for glide in made):
            self.stop()
            return
        self._set = offset
        self._areas.runs(self, pointer)

    def stop(self) -> None:
        """Stop where it is now."""
        self._glides = None
        self._pulled = self._set = self.node._scroll

    def passed(self, time: float, pointer: Pointer) -> bool:
        """Move to where the glide is at a time. Return whether it goes on."""
        glides, node = self._glides, self.node
        if glides is None or node._scene is None:
            return False
        if node.scrolls and node._scroll != self._set:
            self.stop()  # someone else has set it, and means it
            return False
        offset = glides[0].at(time), glides[1].at(time)
        if not node.scrolls:
            dx, dy = offset[0] - self._set[0], offset[1] - self._set[1]
            self._set = offset
            if (dx or dy) and not self._tell(dx, dy, "glide", pointer):
                self._glides = None
        else:
            self._show(offset, "glide", pointer)
            if self._glides is glides and node._scene is not None and node.scroll_range != self._range:
                # What it holds has grown or shrunk: the same speed, between other ends.
                self.let_go((glides[0].speed_at(time), glides[1].speed_at(time)), pointer)
                return self._glides is not None
        if self._glides is glides and glides[0].done and glides[1].done:
            self.stop()
        return self._glides is not None


class ScrollAreas:
    """All scroll areas that something has moved, and those that still run."""

    __slots__ = ("_areas", "_gestures", "_nobody", "_running")

    def __init__(self, gestures: Services) -> None:
        self._gestures = gestures
        self._areas: dict[Node, ScrollArea] = {}
        self._running: dict[ScrollArea, Pointer] = {}
        self._nobody: Pointer | None = None
        """In whose name an area moves that no pointer moved."""

    @property
    def now(self) -> float:
        """The time of the sample being routed."""
        return self._gestures.now

    def feel_of(self, node: Node) -> Feel:
        """The feel at a node."""
        return self._gestures.feel_of(node)

    def send(self, event: Event) -> None:
        """Send an event to its node, along its path."""
        self._gestures.send(event)

    def of(self, node: Node) -> ScrollArea:
        """The area of a node that scrolls."""
        area = self._areas.get(node)
        if area is None:
            area = self._areas[node] = ScrollArea(node, self)
        return area

    def runs(self, area: ScrollArea, pointer: Pointer) -> None:
        """Book an area that runs on by itself; ``pointer`` is the one that flicked it."""
        self._running[area] = pointer
        self._gestures.running[self] = None

    def is_running(self, node: Node) -> bool:
        """Whether a node's content still runs on."""
        area = self._areas.get(node)
        return area is not None and area.glides

    def passed(self, time: float) -> None:
        """Move all that run on to where they are now."""
        for area, pointer in list(self._running.items()):
            if not area.passed(time, pointer):
                self._running.pop(area, None)
        if not self._running:
            self._gestures.running.pop(self, None)

    def keep_within(self) -> None:
        """Bring back areas that are scrolled beyond what they hold now."""
        if not self._areas:
            return
        if self._nobody is None:
            self._nobody = Pointer(BY_CODE, "mouse", self._gestures.state.main)
        for area in list(self._areas.values()):
            area.keep_within(self._nobody)

    def removed(self, gone: Iterable[Node]) -> None:
        """Forget the areas of nodes that have left the scene."""
        for node in gone:
            area = self._areas.pop(node, None)
            if area is not None:
                self._running.pop(area, None)


def _within(offset: Vector, maximum: Vector) -> Vector:
    return min(max(0.0, offset[0]), maximum[0]), min(max(0.0, offset[1]), maximum[1])


def _pull(pulled: float, by: float, maximum: float, give: bool) -> float:
    """The offset after a pull: no farther than the end, unless that gives in; from beyond it, always back."""
    after = pulled + by
    if give:
        return after
    return min(after, max(maximum, pulled)) if by > 0.0 else max(after, min(0.0, pulled))


def _shown(pulled: float, maximum: float, give: float) -> float:
    """The offset that shows: beyond an end only a part of a pull, ever less of it, and never as much as ``give``."""
    end = min(max(0.0, pulled), maximum)
    over = pulled - end
    return end + over * give / (abs(over) + give) if give > 0.0 else end


def length_in(node: Node, length: float) -> float:
    """A length on the screen in a node's space, whichever way the node is turned."""
    x, y = into(node, length, 0.0)
    return math.sqrt(x * x + y * y)


def _is_still(glide: Glide, now: float) -> bool:
    glide.at(now)
    return glide.done
