"""How one event travels: capture, bubble, take, and errors on the way (laws R1–R5)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.core.routing.aim import Aim
    from glent.core.routing.event import Event
    from glent.core.scene.handlers import Subscription
    from glent.core.scene.node import Node

__all__ = ["BUBBLE", "CAPTURE", "Dispatcher", "OnError"]

CAPTURE, BUBBLE = 1, 2
"""Phases as bits, so that a node can have heard something in both."""

ENDS = frozenset({"leave", "release", "cancel", "blur", "key_up", "drag_leave", "drag_end"})
"""The kinds that end what another began. All nodes on the way hear them, also those that a handler has removed (P6)."""

OnError = Callable[[Exception, "Event | None"], object]
"""Called with the error and the event (None outside of one); ``event.here`` is the node whose handler raised."""


Plan = list[tuple["Node", tuple["Subscription", ...], int]]
"""The nodes whose handlers run for an event, in order, with these handlers and the phase."""


def log_error(error: Exception, event: Event | None) -> None:
    """Log an error with the node's path and the event, to ``glent.routing``: the default of ``on_error``.

    The record has ``glent_node``, ``glent_event``, ``glent_pointer``, ``glent_seat`` and ``glent_time`` for formatters
    that write fields; None where there was no event.
    """
    import logging  # slow to import, and seldom wanted

    where = f"a handler of {event.here.path} for {event!r}" if event is not None else "input handling"
    fields = {
        "glent_node": event.here.path if event is not None else None,
        "glent_event": event.kind if event is not None else None,
        "glent_pointer": event.pointer if event is not None else None,
        "glent_seat": event.seat if event is not None else None,
        "glent_time": event.time if event is not None else None,
    }
    name = type(error).__name__
    logging.getLogger("glent.routing").error("%s raised %s: %s", where, name, error, exc_info=error, extra=fields)


class Dispatcher:
    """The sender of events; it keeps what it sent until a verdict collects it."""

    __slots__ = ("_on_error", "aims", "events", "hovers", "listeners", "owed", "running", "seats", "stop")

    def __init__(self, on_error: OnError | None, listeners: Mapping[str, int]) -> None:
        self.listeners = listeners
        self._on_error = on_error if on_error is not None else log_error
        self.events: list[Event] = []
        self.stop: BaseException | None = None
        """What stopped a handler and is no Exception: it waits for the end of the sample."""
        self.running = False
        self.hovers = 0
        """Counts enters and leaves."""
        self.seats: dict[str, str] = {}
        """By device, whose it is, where that is not the main seat."""
        self.aims: dict[str, Aim] = {}
        """By pointer, where it points in the world, where that is anywhere."""
        self.owed: list[Event] = []
        """Leaves and cancels for nodes that were removed, sent directly after the running event (law P6)."""

    def hear(self, listeners: Mapping[str, int]) -> None:
        """Send the events of another scene from now on, of which these are the listeners."""
        self.listeners = listeners
        self.aims.clear()

    def send(
        self,
        event: Event,
        path: list[Node],
        heard: dict[Node, int] | None = None,
        reached: dict[Node, int] | None = None,
        owed_to: Node | None = None,
    ) -> bool:
        """Send an event along a path from root to target, and back. Return whether it was taken.

        ``heard`` collects the nodes whose handlers ran, ``reached`` those that the event came to, with phase bits. The
        node it is ``owed_to`` hears it even if a handler on the way has removed it (law P6).
        """
        kind = event.kind
        if self.seats or self.aims:
            self._sign(event)
        self.events.append(event)
        if not self.listeners.get(kind) and reached is None:
            return False
        plan, upto = self.plan(kind, path)
        stopped = self.run(event, plan, heard, owed_to) if plan else None
        if reached is not None:
            self._note_reached(path, upto, stopped, reached)
        if self.owed and not self.running:
            self.pay()
        return stopped is not None

    def send_past_disabled(self, event: Event, path: list[Node], first: int) -> bool:
        """Send an event along a path whose nodes from index ``first`` on are disabled (laws S5, R2).

        They hear nothing of it; what they carry on, by their role and their ``carries``, goes on to those above. Return
        whether it was taken.
        """
        self.note(event)
        plan, _ = self.plan(event.kind, path[:first])
        if not all(node.carries_unheard(event.kind) for node in path[first:]):
            plan = [step for step in plan if step[2] == CAPTURE]
        stopped = self.run(event, plan) if plan else None
        if self.owed and not self.running:
            self.pay()
        return stopped is not None

    def note(self, event: Event) -> None:
        """Book an event whose handlers the caller runs itself, so that the verdict lists it."""
        if self.seats or self.aims:
            self._sign(event)
        self.events.append(event)

    def _sign(self, event: Event) -> None:
        """Fill in the event's seat, and where its pointer points."""
        event.seat = self.seats.get(event.pointer, event.seat)
        event.aim = self.aims.get(event.pointer, event.aim)

    @staticmethod
    def plan(kind: str, path: list[Node]) -> tuple[Plan, int]:
        """The handlers on the way down and back, and how far up the path the way back goes.

        The whole way is fixed before the first handler runs: the path (law R3) and the handlers on it (law R4).
        """
        plan: Plan = []
        for node in path:
            table = node._capture
            if table is not None and kind in table:
                plan.append((node, table[kind], CAPTURE))
        upto = 0
        for index in range(len(path) - 1, -1, -1):
            node = path[index]
            table = node._bubble
            if table is not None and kind in table:
                plan.append((node, table[kind], BUBBLE))
            if (node._used is not None or node._carries is not None) and not node.carries_on(kind):
                upto = index
                break
        return plan, upto

    def run(
        self, event: Event, plan: Plan, heard: dict[Node, int] | None = None, owed_to: Node | None = None
    ) -> tuple[Node, int] | None:
        """Run the handlers of a plan until one takes the event. Return the node and the phase in which it was taken."""
        outer, self.running = self.running, True
        ends = event.kind in ENDS
        try:
            for node, subscriptions, phase in plan:
                event.here = node
                owed = ends or (node is owed_to and node._scene is None)
                if self._run(event, node, subscriptions, owed) and heard is not None:
                    heard[node] = heard.get(node, 0) | phase
                if event.taker is not None:
                    return node, phase
        finally:
            event.here = event.node
            self.running = outer
        return None

    def tell(self, event: Event) -> None:
        """Send an event to its target alone: enter, leave, and what is owed to one node."""
        node, kind = event.node, event.kind
        if self.seats or self.aims:
            self._sign(event)
        self.events.append(event)
        if not self.owed and node._capture is None and (node._bubble is None or kind not in node._bubble):
            return
        plan = [table[kind] for table in (node._capture, node._bubble) if table is not None and kind in table]
        if plan:
            outer, self.running = self.running, True
            # It is owed the end of what it heard begin, even if its own handlers remove it (laws R3, P6).
            owed = node._scene is None or kind in ENDS
            try:
                for subscriptions in plan:
                    self._run(event, node, subscriptions, even_removed=owed)
            finally:
                self.running = outer
        if self.owed and not self.running:
            self.pay()

    def pay(self) -> None:
        """Send what is owed to removed nodes. Handlers may bring about more of it."""
        owed = self.owed
        while owed:
            self.tell(owed.pop(0))

    def report(self, error: Exception, event: Event | None) -> None:
        """Hand an error to ``on_error``; if that raises as well, both are logged."""
        try:
            self._on_error(error, event)
        except Exception as second:
            log_error(error, event)
            log_error(second, event)

    def _run(
        self, event: Event, node: Node, subscriptions: tuple[Subscription, ...], even_removed: bool = False
    ) -> bool:
        ran = False
        for subscription in subscriptions:
            if node._scene is None and not even_removed:
                break  # removed on the way: it gets nothing more of this event (law R3)
            ran = True
            taker = event.taker
            try:
                subscription.handler(event)
            except BaseException as error:
                event.taker = taker  # what a handler that failed had taken is not taken (law R5)
                if isinstance(error, Exception):
                    self.report(error, event)
                else:
                    # An interrupt, say: what is under way is brought to its end first, so that every enter has its
                    # leave and every press its end (law P6), and then it goes on to whoever fed the sample.
                    self.stop = self.stop or error
        return ran

    @staticmethod
    def _note_reached(path: list[Node], upto: int, stopped: tuple[Node, int] | None, reached: dict[Node, int]) -> None:
        for node in path:
            reached[node] = reached.get(node, 0) | CAPTURE
            if stopped == (node, CAPTURE):
                return
        for node in reversed(path[upto:]):
            reached[node] = reached.get(node, 0) | BUBBLE
            if stopped == (node, BUBBLE):
                return
