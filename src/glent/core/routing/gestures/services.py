"""What every gesture needs of its router: the time, the feel at a node, timers, and the sending of events."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

if TYPE_CHECKING:
    from glent.core.input.feel import Feel
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.event import Event
    from glent.core.routing.state import State
    from glent.core.routing.timers import Timers
    from glent.core.scene.node import Node

__all__ = ["Services"]


class Ticking(Protocol):
    """Something that wants to know that time passes."""

    def passed(self, time: float) -> None:
        """Hear that time has passed."""


class Services:
    """The services of one router to its gestures.

    :ivar state: what the parts of the router share. :ivar running: what wants to know that time passes.
    """

    __slots__ = ("dispatcher", "running", "state", "timers")

    def __init__(self, state: State) -> None:
        self.state = state
        self.dispatcher: Dispatcher = state.dispatcher
        self.timers: Timers = state.timers
        self.running: dict[Ticking, None] = {}

    @property
    def now(self) -> float:
        """The time of the sample being routed."""
        return self.state.now

    def feel_of(self, node: Node) -> Feel:
        """The feel at a node."""
        return self.state.feel_of(node)

    def send(self, event: Event, path: list[Node] | None = None) -> None:
        """Send an event to its node, along its path if that is known already."""
        if event.node._scene is not None:
            self.dispatcher.send(event, path if path is not None else event.node.lineage())

    def send_last(self, event: Event) -> None:
        """Send an event that ends something: it reaches its node even if a handler has removed that meanwhile (law
        P6)."""
        node = event.node
        if node._scene is not None:
            self.dispatcher.send(event, node.lineage(), owed_to=node)
        else:
            self.dispatcher.tell(event)
