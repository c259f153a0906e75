"""The recogniser: what every gesture is, on one node, and competes for presses as. Also the base for your own."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, ClassVar

from glent.core.routing.event import Event
from glent.core.routing.gestures.services import Services
from glent.core.scene.space import into

if TYPE_CHECKING:
    from glent.core.input.feel import Feel
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.scroll_area import ScrollAreas
    from glent.core.routing.state import State
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Contests", "Recogniser"]


class Contests(Services, ABC):
    """The contests of one router, as contacts and recognisers see them.

    :ivar areas: the scroll areas that something has moved.
    """

    __slots__ = ("areas",)

    def __init__(self, state: State, areas: ScrollAreas) -> None:
        super().__init__(state)
        self.areas = areas

    @abstractmethod
    def claim(self, one: Recogniser) -> bool:
        """Let a recogniser win all its contacts, if the order allows it (law G5). Return whether it won."""

    @abstractmethod
    def drop(self, one: Recogniser, contact: Contact, why: str) -> None:
        """Take a recogniser out of the contest for a contact."""

    @abstractmethod
    def moved(self, contact: Contact) -> None:
        """Tell the recognisers of an open contact that its pointer moved."""

    @abstractmethod
    def released(self, contact: Contact) -> None:
        """Tell the winner that the button which began a contact is up; where nobody had won, it was a tap."""

    @abstractmethod
    def cancel(self, contact: Contact, why: str) -> None:
        """End a contact without a release."""

    @abstractmethod
    def removed(self, contact: Contact, gone: set[Node]) -> None:
        """Take out the recognisers of nodes that have left the scene."""


class Recogniser:
    """One gesture on one node.

    Subclass it and hand the class to ``node.recognise`` to add a gesture of your own. One object is made for each press
    that lands on the node, or, if it wants several pointers, one for all that are down there. The contest (law G5)
    calls, in this order:

    - :meth:`pressed` when a press has landed and been told;
    - :meth:`moved` for each of its samples, while undecided and after winning;
    - :meth:`wants`, while undecided, once the pointer has gone farther than :attr:`threshold`: True claims it, False
      gives up. Recognisers are asked from the innermost node outwards, and the first to claim wins;
    - :meth:`released` if it had won; :meth:`lost` if it had not, or the pointer was taken away.

    One of several pointers that has won ends with the first of them that is released or lost: it is told once, and
    hears of the others no more. They may go on to what else the node takes, such as a drag (law G6).

    :cvar name: what verdicts and timelines call it; a node in between whose ``carries`` names some kinds lets it
        through if this is one of them (law R2), so it may well be the kind that it sends.
    :cvar pointers: how many pointers it wants. With more than one, :meth:`wants` is asked only when so many are down.
    :cvar kinds: the kinds of pointer it takes: of ``mouse``, ``touch``, ``pen`` and ``ray``; None: all.
    :cvar keeps_look: whether the node still looks pressed once this has won.
    :cvar abandons: whether a second button, or Escape, abandons it once it has won.
    :cvar waits: whether it is decided by how far the pointer goes, so that recognisers farther out wait for it.

    :ivar node: the node. :ivar contacts: the presses that it has a part in. :ivar won: whether it has won them.
    :ivar feel: the feel at this node.
    """

    name: ClassVar[str] = "gesture"
    pointers: ClassVar[int] = 1
    kinds: ClassVar[frozenset[str] | None] = None
    keeps_look: ClassVar[bool] = False
    waits: ClassVar[bool] = True
    abandons: ClassVar[bool] = False

    def __init__(self, node: Node, gestures: Contests) -> None:
        self.node = node
        self.contacts: list[Contact] = []
        self.won = False
        self.feel: Feel = gestures.feel_of(node)
        self._gestures = gestures
        self._over = False
        """Whether it has ended, though a pointer that it had won is still down."""

    # -- what the contest calls --------------------------------------------------------------------------------------

    def threshold(self, contact: Contact) -> float:
        """How far a pointer must go before :meth:`wants` is asked, in logical pixels of the screen, or for rays in
        degrees (law G7)."""
        if contact.kind == "ray":
            return self.feel.ray_threshold
        return self.feel.touch_threshold if contact.kind == "touch" else self.feel.drag_threshold

    def pressed(self, contact: Contact) -> None:
        """Hear that a press has landed; ``contacts`` already has it."""

    def wants(self, contact: Contact) -> bool:
        """Whether this gesture wants the pointer, by where it went."""
        return False

    def claimed(self) -> None:
        """Hear that it has won."""

    def moved(self, contact: Contact) -> None:
        """Hear that the pointer moved. The base asks :meth:`wants` in time; an override that wants that calls it."""
        if self.won or len(self.contacts) < self.pointers or contact.distance <= self.threshold(contact):
            return
        if self.wants(contact):
            self.claim()
        else:
            self.give_up(contact)

    def released(self, contact: Contact) -> None:
        """Hear that the button which began a press it had won is up; ``contacts`` still has it."""

    def lost(self, contact: Contact, why: str) -> None:
        """Hear that it has lost a press, won or not; ``contacts`` no longer has it.

        :param why: ``another won``, ``released`` (as a tap), ``abandoned``, ``cancelled``, ``vanished`` or
            ``taken over``.
        """

    def removed(self, contact: Contact) -> None:
        """Hear that the node, or the press's owner, has left the scene. Nothing may be sent now, only owed: see
        :meth:`owe`."""

    def scrolled_under(self, contact: Contact) -> None:
        """Hear that what lies under the pointer has scrolled, though the pointer is still."""

    def passed(self, time: float) -> None:
        """Hear that time has passed: for each sample and tick between :meth:`start_ticking` and
        :meth:`stop_ticking`."""

    # -- what it can do ----------------------------------------------------------------------------------------------

    def claim(self) -> bool:
        """Win all its contacts now. Return whether that was possible."""
        return self._gestures.claim(self)

    def give_up(self, contact: Contact) -> None:
        """Stop competing for a press."""
        self._gestures.drop(self, contact, "another won")

    def event(self, kind: str, contact: Contact, data: dict[str, Any], pos: tuple[float, float] | None = None) -> Event:
        """An event of this gesture, which is not sent yet.

        :param pos: where it is, window pixels; None: where the pointer is.
        """
        pointer = contact._pointer
        at = pointer.pos if pos is None else pos
        event = Event(kind, self.node, pointer.name, self._gestures.now, at, contact.button, pointer.buttons, 0, data)
        event.aim = pointer.aim
        return event

    def send(self, kind: str, contact: Contact, *, pos: tuple[float, float] | None = None, **data: Any) -> Event:
        """Send an event to the node and, as far as it is carried on, to its ancestors. Return the event.

        :param pos: where it is, window pixels; None: where the pointer is.
        """
        event = self.event(kind, contact, data, pos)
        self._gestures.send(event)
        return event

    def send_last(self, kind: str, contact: Contact, *, pos: tuple[float, float] | None = None, **data: Any) -> None:
        """Send an event that ends the gesture: the node hears it even if a handler has removed it before (law P6)."""
        self._gestures.send_last(self.event(kind, contact, data, pos))

    def owe(self, kind: str, contact: Contact, *, pos: tuple[float, float] | None = None, **data: Any) -> None:
        """Send an event to the node alone, directly after the running event, even if the node is removed (law P6)."""
        self._gestures.dispatcher.owed.append(self.event(kind, contact, data, pos))

    def after(self, seconds: float, call: Callable[[float], object]) -> Timer:
        """Call ``call(due)`` so many seconds from now (law R7)."""
        return self._gestures.timers.add(self._gestures.now + seconds, call)

    def start_ticking(self) -> None:
        """Have :meth:`passed` called from now on."""
        self._gestures.running[self] = None

    def stop_ticking(self) -> None:
        """Have :meth:`passed` called no longer."""
        self._gestures.running.pop(self, None)

    def along_axis(self, vector: tuple[float, float]) -> bool:
        """Whether a distance on the screen runs along the node's axis in its own space; a tie does (law G5)."""
        axis = self.node.axis
        if axis is None:
            return True
        x, y = into(self.node, *vector)
        return abs(x) >= abs(y) if axis == "x" else abs(y) >= abs(x)

    def __repr__(self) -> str:
        return f"<{type(self).__name__} at {self.node.path}{', won' if self.won else ''}>"
