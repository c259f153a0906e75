"""The event: one routed happening that handlers see."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from glent.core.errors import KindError
from glent.core.routing.aim import local_of, world_point

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import PointerButton
    from glent.core.routing.aim import Aim
    from glent.core.routing.grab import Grab
    from glent.core.scene.node import Node

__all__ = ["NO_DATA", "ActEvent", "DragStart", "Event"]

NO_DATA: Mapping[str, Any] = MappingProxyType({})


class Event:
    """A press, a click, an enter, …, on its way along a path of nodes.

    :ivar kind: what happened, one of ``glent.KINDS``.
    :ivar node: the target: the node it happened to.
    :ivar here: the node whose handler is running; the target before and after.
    :ivar pointer: which pointer did it, or which device (``keys``, ``pad0``); empty for focus, blur and back.
    :ivar seat: whose that is.
    :ivar time: seconds, as its sample told.
    :ivar pos: where, in window pixels; of a ray or a fingertip in the pixels of the panel it is on, else (0, 0);
        of an activate and its click the node's middle, of keys and text (0, 0).
    :ivar count: of a press, release or click: the how-manieth in quick succession (2: a double click).
    :ivar button: of a press, release or click: the button; None for others. :ivar buttons: all that are down, as bits.
    :ivar data: more, by kind; the guide has the whole list. ``first`` for an enter (the first pointer in), ``last`` for
        a leave (the last one out), ``dx``, ``dy``, ``unit`` for a wheel, ``progress`` for a dwell, and so on.
    :ivar taker: the node that took it, or None.
    """

    __slots__ = (
        "aim",
        "button",
        "buttons",
        "count",
        "data",
        "here",
        "kind",
        "node",
        "pointer",
        "pos",
        "seat",
        "taker",
        "time",
    )

    def __init__(
        self,
        kind: str,
        node: Node,
        pointer: str,
        time: float,
        pos: tuple[float, float],
        button: PointerButton | None = None,
        buttons: int = 0,
        count: int = 0,
        data: Mapping[str, Any] = NO_DATA,
        seat: str = "main",
    ) -> None:
        self.kind = kind
        self.node = node
        self.here = node
        self.pointer = pointer
        self.seat = seat
        self.time = time
        self.pos = pos
        self.count = count
        self.button = button
        self.buttons = buttons
        self.data = data
        self.taker: Node | None = None
        self.aim: Aim | None = None

    @property
    def taken(self) -> bool:
        """Whether a handler has taken it."""
        return self.taker is not None

    @property
    def local(self) -> tuple[float, float]:
        """The position in the local space of :attr:`here`, in logical pixels; its origin if it has left the scene.

        On a panel it is where the pointer's ray comes through the surface, extended beyond its edges while a node of it
        is pressed (law X6). A spot has no such space: its origin.
        """
        if self.aim is not None:
            return local_of(self.here, self.pos, self.aim)
        scene = self.here._scene
        return scene.local(self.here, *self.pos) if scene is not None else (0.0, 0.0)

    @property
    def ray(self) -> Ray | None:
        """The ray that the pointer points along: a hand's own ray, or the camera's through its point of the screen.

        None, if nothing stands in the world, no camera leads there, or the event has no pointer.
        """
        return self.aim.ray if self.aim is not None else None

    @property
    def point(self) -> Vector3 | None:
        """The point of the world that the pointer is at, metres: on the panel of :attr:`here`, or on the spot; None
        elsewhere."""
        return world_point(self.here, self.aim) if self.aim is not None else None

    def take(self) -> None:
        """Take the event: no further node hears of it, and the world does not get it.

        Other handlers of the same node and phase still run (law R1). Taking an enter or a leave changes nothing (P5).
        """
        if self.taker is None:
            self.taker = self.here

    def grab(self, on_lost: Callable[[str], object] | None = None) -> Grab:
        """Give all samples of this event's pointer to :attr:`here`, whether it is pressed or not, until it lets go.

        What competed for the press, and who heard it and is not on the path to here, is cancelled.

        :param on_lost: called with the reason, in words, if the grab ends without being let go.
        :raises KindError: the event is not of a pointer that is there.
        :raises SceneError: the node has left the scene, is hidden or disabled.
        """
        scene = self.here._scene
        router = scene.router if scene is not None else None
        if router is None:
            raise KindError(f"{self!r}: nothing can be grabbed, the node has left the scene")
        grab: Grab = router._grab(self.here, self.pointer, on_lost)
        return grab

    def __repr__(self) -> str:
        return f"<Event {self.kind} at {self.node.path}, {self.pointer}, {self.time:g} s>"


class DragStart(Event):
    """A ``drag_start``: its handlers decide whether there will be a drag, and of what (laws G2, G3).

    :ivar refused: whether one refused it. :ivar carrying: whether one gave it a payload.
    :ivar payload: what is dragged, anything at all.
    """

    __slots__ = ("carrying", "payload", "refused")

    def __init__(self, *given: Any) -> None:
        super().__init__(*given)
        self.refused = False
        self.carrying = False
        self.payload: Any = None

    def refuse(self) -> None:
        """Refuse the drag: a release inside is still a click (law G2)."""
        self.refused = True

    def give(self, payload: Any) -> None:
        """Give the drag a payload, which makes it a drag and drop: targets are asked whether they accept it (law
        G3)."""
        self.carrying = True
        self.payload = payload


class ActEvent(Event):
    """An ``act``: the node is asked to do something that is no press (law R7). Who does it takes the event.

    ``data["act"]`` is ``set``, ``step``, ``open`` or ``close``; ``data["value"]`` what goes with it.

    :ivar refusal: why it cannot be done, if a handler said so.
    """

    __slots__ = ("refusal",)

    def __init__(self, *given: Any) -> None:
        super().__init__(*given)
        self.refusal = ""

    def refuse(self, why: str) -> None:
        """Say that it cannot be done, and why, as the end of a sentence: no further node is asked."""
        self.refusal = why
        self.take()
