"""Drop targets: what something that is dragged is over, what that answers, and its enters and leaves (law G3)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, NamedTuple

from glent.core.routing.event import Event
from glent.core.routing.hit.offers import find, find_all

if TYPE_CHECKING:
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.services import Services
    from glent.core.routing.seat_view import Barrier
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["DropTarget", "Targets", "targets_in"]


def answer_of(node: Node, payload: Any) -> tuple[bool, str]:
    """Whether a node takes a payload, and its reason if not. The node is asked beforehand, so it must change nothing.

    Errors of ``accepts`` come through.
    """
    accepts = node.accepts
    if accepts is None:
        return node.listens("drop"), ""
    answer = accepts(payload)
    if answer is None or answer is True:
        return True, ""
    return (False, answer) if isinstance(answer, str) else (bool(answer), "")


class DropTarget(NamedTuple):
    """A node's answer to a payload beforehand: whether it takes it, and the reason in words if not."""

    node: Node
    accepted: bool
    answer: str


def targets_in(scene: Scene, payload: Any) -> list[DropTarget]:
    """The answers of all targets that are visible and enabled, in paint order. Cost: a walk of the scene."""
    return [
        DropTarget(node, *answer_of(node, payload))
        for node in scene.walk()
        if node.is_target and node.is_visible and node.is_enabled
    ]


class Targets:
    """The targets of one drag and drop.

    :ivar hits: what lies where the pointer is, the source and what is below it left out, down to the first solid.
    :ivar seen: the offers that were last looked at, in the scene's ``version``; ``covered``: whether the source lay
        among them, so that what is beneath it must be looked for anew.
    :ivar areas: the scroll areas on the way to these.
    :ivar entered: the targets it is over, outermost first: those that refuse, and perhaps one around that accepts.
    :ivar found: the one that accepts, or None. :ivar answer: why the innermost one refused.
    """

    __slots__ = (
        "_answers",
        "_barrier",
        "_entering",
        "_gestures",
        "_source",
        "answer",
        "areas",
        "covered",
        "entered",
        "found",
        "hits",
        "over",
        "payload",
        "seen",
        "version",
    )

    def __init__(self, source: Node, payload: Any, gestures: Services) -> None:
        self._source = source
        self._gestures = gestures
        self._barrier: Barrier | None = None
        self._entering: Node | None = None
        """The target whose handlers are being told that the drag has entered it."""
        self.version = -1
        self.payload = payload
        self.hits: list[Node] = []
        self.areas: list[Node] = []
        self.seen: list[Node] = []
        self.covered = False
        self._answers: dict[Node, tuple[bool, str]] = {}
        self.entered: list[Node] = []
        self.found: Node | None = None
        self.answer = ""
        self.over = False
        """Whether the drag has ended."""

    def is_over_world(self, contact: Contact) -> bool:
        """Whether nothing solid of the UI lies where the pointer is, and nothing blocks the way behind that."""
        barrier = self._barrier if self.covered else contact._pointer.barrier
        return barrier is None and (not self.hits or self.hits[-1].effective_solidity != "solid")

    def look(self, contact: Contact) -> None:
        """Find the targets where the pointer is, and send the leaves and enters that this brings."""
        source = self._source
        scene = source._scene
        if scene is None:
            return
        pointer = contact._pointer
        if pointer.picked == scene._version:
            hits = pointer.offers  # found for hover already
        else:
            scene._index.refresh()
            hits = find(self._gestures.state, pointer)
        known = self.version == scene._version
        if known and hits == self.seen and not self.covered:
            return
        self.version, self.seen = scene._version, hits
        self.covered = any(node.is_within(source) for node in hits)
        if self.covered:  # the source lies there, as it mostly does: look beneath it
            hits, self._barrier = find_all(self._gestures.state, pointer)
            hits = _beneath(source, hits)
            if known and hits == self.hits:
                return
        self._go_to(contact, hits)

    def look_at(self, contact: Contact, node: Node) -> None:
        """Ask just this node, as if the pointer were over it alone (law G9)."""
        self._go_to(contact, [node])

    def _go_to(self, contact: Contact, hits: list[Node]) -> None:
        self.hits = hits
        areas: list[Node] = []
        top = contact._pointer.seat.view.top
        first: Node | None = None
        for hit in hits:
            node: Node | None = hit
            while node is not None:
                if first is None and node._target and node.is_enabled:
                    first = node
                if node._gesture_traits.scrolls and node not in areas and node.is_enabled:
                    areas.append(node)
                node = node._parent if node is not top else None
        self.areas = areas
        if first is None and not self.entered:
            self.found, self.answer = None, ""
            return
        chain = self._ask_up(first)
        if chain != self.entered:
            self._cross_over(contact, chain)

    def _ask_up(self, first: Node | None) -> list[Node]:
        """Ask the innermost target, and up its path until one accepts. Return those that were asked, outermost first.

        A target that refuses covers what lies beneath it.
        """
        self.found, self.answer = None, ""
        self._answers.clear()
        chain: list[Node] = []
        node = first
        while node is not None and self.found is None:
            if node._target:
                accepted, reason = self._answers[node] = self._ask(node)
                if node is first:
                    self.answer = reason
                chain.insert(0, node)
                if accepted:
                    self.found = node
            node = node._parent
        return chain

    def _ask(self, node: Node) -> tuple[bool, str]:
        try:
            return answer_of(node, self.payload)
        except Exception as error:
            self._gestures.dispatcher.report(error, None)
            return False, f"asking it failed: {error}"

    def still_accepts(self) -> bool:
        """Whether the target that accepted still does, at the moment of the drop."""
        if self.found is None or self.found._scene is None:
            return False
        accepted, self.answer = self._ask(self.found)
        return accepted

    def _cross_over(self, contact: Contact, chain: list[Node]) -> None:
        # Booked one by one before the handlers run, so every enter has its leave whatever they do (law P6).
        entered = self.entered
        for node in entered[::-1]:
            if node not in chain and node in entered:
                entered.remove(node)
                leave = self._event("drag_leave", node, contact, self._data())
                if node is self._entering:  # one of its handlers has ended the drag: the others hear of the enter first
                    self._gestures.dispatcher.owed.append(leave)
                else:
                    self._gestures.dispatcher.tell(leave)
        for node in chain:
            if self.over:
                return  # a handler has ended the drag: what is entered now would never be left
            if node in entered or node._scene is None:
                continue
            entered.append(node)
            if len(entered) > 1:
                entered.sort(key=_depth)
            accepted, answer = self._answers[node]
            data = {"payload": self.payload, "source": self._source, "accepted": accepted, "answer": answer}
            self._entering = node
            self._gestures.dispatcher.tell(self._event("drag_enter", node, contact, data))
            self._entering = None

    def _event(self, kind: str, node: Node, contact: Contact, data: dict[str, Any]) -> Event:
        pointer = contact._pointer
        now = self._gestures.now
        return Event(kind, node, pointer.name, now, pointer.pos, contact.press.button, pointer.buttons, 0, data)

    def _data(self) -> dict[str, Any]:
        return {"payload": self.payload, "source": self._source}

    def drop(self, contact: Contact) -> None:
        """Send the drop to the target that accepts."""
        if self.found is not None:
            self._gestures.send(self._event("drop", self.found, contact, self._data()))

    def leave_all(self, contact: Contact) -> None:
        """Leave all that was entered, deepest first, at the end of the drag."""
        self.found = None
        self.over = True
        self._cross_over(contact, [])

    def owe_leaves(self, contact: Contact, gone: set[Node]) -> None:
        """Book the leaves of nodes that have been removed (law P6)."""
        for node in reversed([one for one in self.entered if one in gone]):
            self.entered.remove(node)
            self._gestures.dispatcher.owed.append(self._event("drag_leave", node, contact, self._data()))
        if self.found in gone:
            self.found = None
        self.version = -1


def _depth(node: Node) -> int:
    return node._depth


def _beneath(source: Node, hits: list[Node]) -> list[Node]:
    """The hits without the source and what is below it in the tree, down to the first solid."""
    left = []
    for node in hits:
        if not node.is_within(source):
            left.append(node)
            if node.stops_input:
                break
    return left
