"""A stick on the screen, for a thumb or the mouse, with axes as the W3C Gamepad text has them (law C6)."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal

from glent.controls.context import feel_of
from glent.controls.control import Control
from glent.controls.keys import key_of
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Bounds
    from glent.core.routing.event import ActEvent, Event
    from glent.core.routing.grab import Grab
    from glent.core.scene.node import Node

__all__ = ["Stick"]

AXES = (None, "x", "y")
RIMS = ("round", "square")
WAYS = {"ArrowLeft": (-1.0, 0.0), "ArrowRight": (1.0, 0.0), "ArrowUp": (0.0, -1.0), "ArrowDown": (0.0, 1.0)}


class Stick(Control):
    """A knob that is pushed away from the middle, and comes back when it is let go.

    It answers at once, without a threshold, and keeps its pointer however far that goes: several sticks can be held at
    once, each by its own finger. Arrow keys push it to the rim for as long as they are held (law G9).

    It acts: ``let_go``.

    :param value: a pair, right and down from -1 to 1; (0, 0) in the middle.
    :param dead_zone: the part of the way, from 0 to below 1, in which it gives (0, 0); beyond it the value begins at 0.
        None: ``Feel.dead_zone``.
    :param axis: the one it moves along, ``x`` or ``y``; None: both.
    :param rim: ``round``: never longer than 1; or ``square``: each axis by itself.
    :param springs: whether it comes back when it is let go.
    :raises ControlError: a dead zone, an axis or a rim that cannot be.

    :ivar value: the value. Its part is ``knob``.
    """

    own_acts: ClassVar[Mapping[str, str]] = {"let_go": "nothing"}
    value_type = "pair"
    __slots__ = ("_axis", "_dead_zone", "_grab", "_keys", "_knob", "_offset", "_rim", "_springs", "value")

    def __init__(
        self,
        node: Node,
        value: Value[tuple[float, float]] | None = None,
        dead_zone: Annotated[float, Bounds(least=0.0, below=1.0)] | None = None,
        axis: Literal["x", "y"] | None = None,
        rim: Literal["round", "square"] = "round",
        springs: bool = True,
    ) -> None:
        super().__init__(node)
        if dead_zone is not None and (
            isinstance(dead_zone, bool) or not isinstance(dead_zone, int | float) or not 0.0 <= dead_zone < 1.0
        ):
            raise ControlError(f"{node.path}: dead_zone is {dead_zone!r}, expected None or a number from 0 to below 1")
        if axis not in AXES:
            raise ControlError(f"{node.path}: axis is {axis!r}, expected None, x or y")
        if rim not in RIMS:
            raise ControlError(f"{node.path}: rim is {rim!r}, expected one of {', '.join(RIMS)}")
        self._dead_zone, self._axis, self._rim, self._springs = dead_zone, axis, rim, springs
        self.value: Value[tuple[float, float]] = value if value is not None else Value((0.0, 0.0), name=node.path)
        self._grab: Grab | None = None
        self._offset = (0.0, 0.0)
        self._keys: dict[tuple[str, str], tuple[float, float]] = {}
        self._knob = self.part("knob", solidity="hollow")
        self._ends.append(self.value.watch(lambda now: self.tell_change(value=now)))
        if node.focusable is None:
            node.set_for_now(focusable=True)
        self._put(*(self.value.current if self.value.ready else (0.0, 0.0)))
        self.hear("press", self._pressed)
        self.hear("move", self._moved)
        self.hear("release", self._released)
        self.hear("key_down", self._key_down)
        self.hear("key_up", self._key_up)
        self.hear("blur", self._blurred)

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        if act == "set" and self._springs:
            raise ControlError(f"{self.node.path} springs back as it is let go, so it cannot be set")
        return super().perform(act, value, event)

    @property
    def held(self) -> bool:
        """Whether a pointer holds it."""
        return self._grab is not None

    def state_of(self, node: Node, part: str) -> str:
        state = self.node.look
        return "pressed" if state != "disabled" and (self._grab is not None or self._keys) else state

    # -- pointers ------------------------------------------------------------------------------------------------------

    def _reach(self) -> float:
        """How far the knob goes from the middle, in node-local pixels."""
        width, height = self.node.size
        knob = max(self._knob.size) if self._knob.place.width is not None else 0.0
        room = {"x": width, "y": height}.get(self._axis or "", min(width, height))
        return max(1.0, (room - knob) / 2.0)

    def _push_of(self, event: Event) -> tuple[float, float]:
        (x, y), (width, height) = event.local, self.node.size
        reach = self._reach()
        return (x - width / 2.0) / reach, (y - height / 2.0) / reach

    def _pressed(self, event: Event) -> None:
        if self._grab is not None:
            event.take()  # a second finger does not take it from the first
            return
        self._grab = event.grab(self._lost)
        x, y = self._push_of(event)
        at = self.value.current if self.value.ready else (0.0, 0.0)
        # Where the knob is taken it stays in hand; beside it, it comes there.
        near = math.hypot(x - at[0], y - at[1]) * self._reach() <= max(self._knob.size) / 2.0
        self._offset = (x - at[0], y - at[1]) if near and self._knob.place.width is not None else (0.0, 0.0)
        self._push(x - self._offset[0], y - self._offset[1])

    def _moved(self, event: Event) -> None:
        if self._grab is not None and event.pointer == self._grab.pointer:
            x, y = self._push_of(event)
            self._push(x - self._offset[0], y - self._offset[1])

    def _released(self, event: Event) -> None:
        grab = self._grab
        if grab is not None and event.pointer == grab.pointer:
            self._grab = None
            grab.let_go()
            self._let_go()

    def _lost(self, why: str) -> None:
        self._grab = None
        self._let_go()

    def _let_go(self) -> None:
        if self._springs:
            self._push(0.0, 0.0)
        self.say("let_go")

    # -- keys ----------------------------------------------------------------------------------------------------------

    def _key_down(self, event: Event) -> None:
        way = WAYS.get(key_of(event))
        if way is None or (self._axis == "x" and way[1]) or (self._axis == "y" and way[0]):
            return
        event.take()
        self._keys[event.data["device"], event.data["code"]] = way
        self._push_by_keys()

    def _key_up(self, event: Event) -> None:
        if self._keys.pop((event.data["device"], event.data["code"]), None) is not None:
            self._push_by_keys()

    def _blurred(self, event: Event) -> None:
        if self._keys:
            self._keys.clear()
            self._push_by_keys()

    def _push_by_keys(self) -> None:
        if self._grab is None:
            ways = self._keys.values()
            self._push(sum(x for x, _ in ways), sum(y for _, y in ways))

    # -- the value -----------------------------------------------------------------------------------------------------

    def _push(self, x: float, y: float) -> None:
        """Push the knob so far from the middle, 1 being the rim, and give what that comes to."""
        x, y = (0.0 if self._axis == "y" else x), (0.0 if self._axis == "x" else y)
        if self._rim == "round":
            far = math.hypot(x, y)
            if far > 1.0:
                x, y = x / far, y / far
            far = min(far, 1.0)
            part = self._beyond(far) / far if far else 0.0
            to = (x * part, y * part)
        else:
            x, y = max(-1.0, min(1.0, x)), max(-1.0, min(1.0, y))
            to = (math.copysign(self._beyond(abs(x)), x), math.copysign(self._beyond(abs(y)), y))
        self._put(x, y)
        self.value.current = (to[0] + 0.0, to[1] + 0.0)

    def _beyond(self, far: float) -> float:
        """What a way comes to beyond the dead zone: 0 at its edge, 1 at the rim."""
        if far <= 0.0:
            return 0.0  # also once the node has left the scene, and has no feel any more
        dead_zone = self._dead_zone if self._dead_zone is not None else feel_of(self.node, "dead_zone")
        return max(0.0, (far - dead_zone) / (1.0 - dead_zone))

    def _put(self, x: float, y: float) -> None:
        """Put the knob where it is pushed to."""
        place = self._knob.place
        width, height = place.width, place.height
        if not isinstance(width, int | float) or not isinstance(height, int | float):
            return  # one that fills its stick is drawn by the value
        reach = self._reach()
        left, top = (0.5, x * reach - width / 2.0), (0.5, y * reach - height / 2.0)
        self._knob.set_for_now(place=place.replace(left=left, top=top, right=None, bottom=None))
