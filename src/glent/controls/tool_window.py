"""A window in the screen: moved by its title, sized by its edges, raised by a press, closed by a button (law C9)."""

from __future__ import annotations

from collections.abc import Mapping
from functools import partial
from typing import TYPE_CHECKING, Any, ClassVar
from weakref import WeakKeyDictionary

from glent.controls.beside import put_at
from glent.controls.context import seat_of
from glent.controls.control import Control
from glent.controls.keys import key_of
from glent.core.arguments import is_number
from glent.core.errors import ControlError
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.controls.options import Distance, Positive
    from glent.core.routing.event import ActEvent, DragStart, Event
    from glent.core.scene.node import Node
    from glent.core.scene.place import Length

__all__ = ["EDGES", "ToolWindow"]

EDGES = {
    "size-left": (-1, 0),
    "size-right": (1, 0),
    "size-top": (0, -1),
    "size-bottom": (0, 1),
    "size-top-left": (-1, -1),
    "size-top-right": (1, -1),
    "size-bottom-left": (-1, 1),
    "size-bottom-right": (1, 1),
}
"""The parts that size it, each with the sides it moves."""

PARTS = ("title", *EDGES)

ARROWS = {"ArrowLeft": (-1, 0), "ArrowRight": (1, 0), "ArrowUp": (0, -1), "ArrowDown": (0, 1)}


def _lowered(top: Length | None, by: float) -> Length:
    """A distance from the top, and some pixels more."""
    if isinstance(top, str):
        return f"{top} + {by:g}"
    return (top[0], top[1] + by) if isinstance(top, tuple) else (top or 0.0) + by


class ToolWindow(Control):
    """A node that a player puts where it is wanted.

    It is moved by its part ``title``, sized by those of :data:`EDGES`, and hidden by ``close``, a button. Parts that
    are not there are added: the title along its top, the edges around it, thin, in front. By keys: arrows move it while
    the focus is on its title, with Shift they size it. A drag that is abandoned puts it back.

    What is in it begins below the title: distances from its top, and the padding of its flow, count from there. A
    window that fits its content goes on doing so when it is moved; sized by hand, it has that size.

    It acts: ``close``; and ``place``, with left, top, width and height, once it rests somewhere.

    :param title: whether it has one. :param close_button: whether the title has one.
    :param title_height: how high the title is, if it is added, in pixels. :param edge_width: how thick the edges are.
    :param min_size: the smallest width and height. :param stays_inside: whether it stays within its parent.
    :param resizable: whether it can be sized. :param step: how far an arrow goes, in pixels.
    :raises ControlError: a least size below 0.
    """

    roles = ("dialog", "region", "group")
    own_acts: ClassVar[Mapping[str, str]] = {"close": "nothing", "place": "any"}
    __slots__ = (
        "_before",
        "_from",
        "_has_close",
        "_lowered",
        "_min_size",
        "_stays_inside",
        "_step",
        "_title",
        "_title_height",
    )

    def __init__(
        self,
        node: Node,
        title: bool = True,
        close_button: bool = True,
        title_height: Positive = 28.0,
        edge_width: Positive = 6.0,
        min_size: tuple[Distance, Distance] = (80.0, 60.0),
        stays_inside: bool = True,
        resizable: bool = True,
        step: Positive = 8.0,
    ) -> None:
        super().__init__(node)
        for key, flag in (("title", title), ("close_button", close_button), ("resizable", resizable)):
            if not isinstance(flag, bool):
                raise ControlError(f"{node.path}: {key} is {flag!r}, expected True or False")
        if (
            not isinstance(min_size, tuple | list)
            or len(min_size) != 2
            or not all(map(is_number, min_size))
            or min(min_size) < 0.0
        ):
            raise ControlError(f"{node.path}: min_size is {min_size!r}, expected a width and a height from 0")
        self._min_size, self._stays_inside, self._step = tuple(min_size), stays_inside, step
        self._before: Place | None = None
        self._from = (0.0, 0.0, 0.0, 0.0)
        if node.solidity is None:
            node.set_for_now(solidity="solid")
        self._lowered: WeakKeyDictionary[Node, Place] = WeakKeyDictionary()
        """By node in it, the place that it was declared with, which has been put below the title."""
        self._title_height = title_height
        self._has_close = title and close_button
        self._title = self._made_title(title_height, close_button) if title else None
        for name, (across, down) in EDGES.items() if resizable else ():
            corner = across != 0 and down != 0
            part = self.part(name, order=2 if corner else 1, place=_along_edge(across, down, edge_width))
            self._hear_drags(part, (across, down))
        self.hear("press", self._raise, phase="capture")

    def _made_title(self, height: float, close_button: bool) -> Node:
        title = self.part("title", place=Place(left=0, right=0, top=0, height=height))
        if title.focusable is None:
            title.set_for_now(focusable=True)
        self._hear_drags(title, (0, 0))
        self.hear("key_down", self._key_down, title)
        if close_button:
            place = Place(right=0, top=0, width=height, height=height)
            there = next((child for child in title.children if child.name == "close"), None)
            close = there or title.add_for_now("close", role="button", place=place)
            self.hear("click", lambda event: self.close(), close)
        flow = self.node.declared("flow")
        if flow is not None:
            top, right, bottom, left = flow.padding
            self.node.set_for_now(flow=flow.replace(padding=(top + height, right, bottom, left)))
        else:
            self._below_title()
            self.on_settle(self._below_title)
        return title

    def _below_title(self) -> None:
        """Put what it holds, without a flow, below its title: what hangs from its top, or fills it, begins there."""
        for child in self.node.declared_children():
            place = child.declared("place")
            if child.name in PARTS or place is self._lowered.get(child):
                continue
            self._lowered[child] = place
            if place.bottom is None or place.height is None:
                child.set_for_now(place=place.replace(top=_lowered(place.top, self._title_height)))

    def close(self) -> None:
        """Close it: it is hidden."""
        self.node.set_for_now(visible=False)
        self.say("close")

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        if event.node is not self.node or act not in ("open", "close"):
            return super().perform(act, value, event)
        if act == "close":
            if not self._has_close:
                raise ControlError(f"{self.node.path} has no button to close it")
            self.close()
        else:
            self.node.set_for_now(visible=True)
            self.to_front()
        return True

    def to_front(self) -> None:
        """Bring it in front of its siblings of the same ``order``."""
        parent = self.node.parent
        if parent is not None:
            names = [child.name for child in parent.children if child is not self.node]
            if parent.children and parent.children[-1] is not self.node:
                parent.arrange_for_now([*names, self.node.name])

    def move_by(self, dx: float, dy: float) -> None:
        """Move it by a distance in its parent's space, as far as that lets it."""
        self._lay((0, 0), dx, dy, self._box())
        self._rests()

    def size_by(self, dx: float, dy: float) -> None:
        """Move its right and bottom edges by a distance."""
        self._lay((1, 1), dx, dy, self._box())
        self._rests()

    # -- inside --------------------------------------------------------------------------------------------------------

    def _hear_drags(self, part: Node, sides: tuple[int, int]) -> None:
        self.hear("drag_start", self._started, part)
        self.hear("drag", partial(self._dragged, sides), part)
        self.hear("drag_end", self._ended, part)

    def _raise(self, event: Event) -> None:
        self.to_front()

    def _box(self) -> tuple[float, float, float, float]:
        return self.node.edges

    def _started(self, event: DragStart) -> None:
        if self._before is not None:
            event.refuse()  # another pointer has it
            return
        self._before = self.node.place
        self._from = self._box()

    def _dragged(self, sides: tuple[int, int], event: Event) -> None:
        if self._before is not None:
            self._lay(sides, event.data["x"], event.data["y"], self._from)

    def _ended(self, event: Event) -> None:
        before, self._before = self._before, None
        if event.data["outcome"] != "done" and before is not None:
            self.node.set_for_now(place=before)
        self._rests()

    def _rests(self) -> None:
        left, top, right, bottom = self._box()
        self.say("place", left, top, right - left, bottom - top)

    def _lay(self, sides: tuple[int, int], dx: float, dy: float, box: tuple[float, float, float, float]) -> None:
        """Move a box, or some of its sides, by a distance from where it was."""
        room = self.node.parent.size if self.node.parent is not None else (0.0, 0.0)
        spans = []
        for axis, by in ((0, dx), (1, dy)):
            low, high, side = box[axis], box[axis + 2], sides[axis]
            smallest = self._min_size[axis]
            if sides == (0, 0):
                if self._stays_inside:
                    by = max(-low, min(by, room[axis] - high)) if high - low <= room[axis] else -low
                low, high = low + by, high + by
            elif side < 0:
                low = min(low + by, high - smallest)
                low = max(low, 0.0) if self._stays_inside else low
            elif side > 0:
                high = max(high + by, low + smallest)
                high = min(high, max(room[axis], low + smallest)) if self._stays_inside else high
            spans.append((low, high))
        (left, right), (top, bottom) = spans
        if sides != (0, 0):
            self.node.set_for_now(place=self.node.place.replace(width=right - left, height=bottom - top))
        put_at(self.node, left, top)

    def _key_down(self, event: Event) -> None:
        way = ARROWS.get(key_of(event))
        if way is None or event.node is not self._title:
            return
        event.take()
        dx, dy = way[0] * self._step, way[1] * self._step
        if "Shift" in seat_of(event).modifiers:
            self.size_by(dx, dy)
        else:
            self.move_by(dx, dy)


def _along_edge(across: int, down: int, thick: float) -> Place:
    """Where the part is that sizes these sides."""
    sides: dict[str, Any] = {}
    for way, low, high, size in ((across, "left", "right", "width"), (down, "top", "bottom", "height")):
        if way == 0:
            sides[low] = sides[high] = 0.0
        else:
            sides[low if way < 0 else high] = 0.0
            sides[size] = thick
    return Place(**sides)
