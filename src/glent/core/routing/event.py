"""One routed happening that handlers see."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from glent.core.input.samples import Button
    from glent.core.scene.node import Node

__all__ = ["NO_DATA", "Event"]

NO_DATA: Mapping[str, Any] = MappingProxyType({})


class Event:
    """A press, a click, an enter, …, on its way along a path of nodes.

    :ivar kind: what happened, one of ``glent.KINDS``.
    :ivar node: the target: the node it happened to.
    :ivar here: the node whose handler is running; the target before and after.
    :ivar pointer: which pointer did it. :ivar seat: whose pointer that is.
    :ivar time: seconds, as its sample told.
    :ivar pos: where, in window pixels.
    :ivar count: of a press, release or click: the how-manieth in quick succession (2: a double click).
    :ivar button: of a press, release or click: the button; None for others. :ivar buttons: all that are down, as bits.
    :ivar data: more, by kind: ``first`` for an enter (the first pointer in), ``last`` for a leave (the last one out),
        ``dx``, ``dy``, ``unit`` for a wheel.
    :ivar taker: the node that took it, or None.
    """

    __slots__ = (
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
        button: Button | None = None,
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

    @property
    def taken(self) -> bool:
        """Whether a handler has taken it."""
        return self.taker is not None

    @property
    def local(self) -> tuple[float, float]:
        """The position in the local space of :attr:`here`, in logical pixels; its origin if it has left the scene."""
        scene = self.here._scene
        return scene.local(self.here, *self.pos) if scene is not None else (0.0, 0.0)

    def take(self) -> None:
        """Say "mine": no further node hears of it, and the world does not get it.

        Other handlers of the same node and phase still run (law R1). Taking an enter or a leave changes nothing (P5).
        """
        if self.taker is None:
            self.taker = self.here

    def __repr__(self) -> str:
        return f"<Event {self.kind} at {self.node.path}, {self.pointer}, {self.time:g} s>"
