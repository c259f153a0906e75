"""The contest: who competes for a press, who wins it, and what becomes of the others (law G5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.gestures.contact import Contact
from glent.core.routing.gestures.drag import Drag
from glent.core.routing.gestures.drag_fast_path import follow
from glent.core.routing.gestures.dwell import Dwelling
from glent.core.routing.gestures.hold import Hold, Repeat
from glent.core.routing.gestures.pinch import Pinch
from glent.core.routing.gestures.recogniser import Contests
from glent.core.routing.gestures.scroll import Scroll
from glent.core.routing.gestures.scroll_area import ScrollAreas
from glent.core.routing.gestures.swipe import Swipe
from glent.core.routing.gestures.wheel_scroll import Wheel
from glent.core.routing.pointers.press import take_over
from glent.core.scene.kinds import OWN, OWN_OF_SEVERAL

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator, Sequence

    from glent.core.input.samples import WheelSample
    from glent.core.routing.gestures.recogniser import Recogniser
    from glent.core.routing.pointers.pointer import Pointer, Press
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["Gestures"]

_CLASSES: dict[str, type[Recogniser]] = {cls.name: cls for cls in (Pinch, Drag, Swipe, Scroll, Hold, Repeat)}
"""The recogniser of each gesture; what asks for it, and in which order, stands in ``core/scene/kinds.py``."""


class Gestures(Contests):
    """All contests of one router.

    :ivar shared: recognisers of several pointers, by node.
    """

    __slots__ = ("dwelling", "follow", "shared", "wheel")

    def __init__(self, state: State) -> None:
        super().__init__(state, ScrollAreas(self))
        self.shared: dict[tuple[Node, type[Recogniser]], Recogniser] = {}
        """The nodes that are being dragged by code, so that a handler of that cannot begin it over and over."""
        self.dwelling = Dwelling(self)
        self.follow = follow
        self.wheel = Wheel(self)

    # -- a press begins ------------------------------------------------------------------------------------------------

    def begin(self, pointer: Pointer, press: Press) -> None:
        """Gather who competes for a press that has an owner and has been told."""
        found = list(self._candidates(pointer, press.path))
        if not found:
            return
        contact = self._contact(pointer, press)
        press.compete(contact)
        self._enter(contact, found)
        if contact.winner is None and pointer.kind == "touch" and any(one.name == "scroll" for one in found):
            contact.delay_look(True)

            def show(due: float) -> None:
                contact.delay_look(False)

            self.timers.add(self.now + self.state.feel.look_delay, show)

    def _contact(self, pointer: Pointer, press: Press) -> Contact:
        if not press.path[0]._in_world:
            return Contact(self, pointer, press)
        from glent.core.routing.gestures.surface_contact import SurfaceContact  # only where something stands there

        return SurfaceContact(self, pointer, press)

    def begin_again(self, contact: Contact, node: Node) -> None:
        """Let a pointer that is still down begin a new contest after its gesture has ended, without a tap."""
        contact.start_anew()
        if contact.open and node._scene is not None:
            found = self._candidates(contact._pointer, node.lineage(), True)
            self._enter(contact, [one for one in found if one not in contact._candidates])

    def _enter(self, contact: Contact, found: list[Recogniser]) -> None:
        contact.enter(found)
        for one in found:
            one.contacts.append(contact)
        for one in found:
            if contact.open and one in contact._candidates:
                self._tell(one.pressed, contact)

    def _candidates(self, pointer: Pointer, path: list[Node], by_way: bool = False) -> Iterator[Recogniser]:
        """The recognisers on a path, from its target outwards, as far as its nodes carry the gesture on and no farther
        than the topmost modal (laws R2, M1).

        :param by_way: only those that are decided by how far the pointer goes: it has been down for a while.
        """
        for index in range(len(path) - 1, -1, -1):
            node = path[index]
            for name in node._gestures or ():
                for cls in self._classes(node, name, pointer, path[index + 1 :]):
                    if (cls.waits or not by_way) and (one := self._make(node, cls, pointer)) is not None:
                        yield one
            if node is pointer.seat.view.top:
                return

    def _classes(self, node: Node, name: str, pointer: Pointer, below: list[Node]) -> Sequence[type[Recogniser]]:
        """What recognises a gesture of a node: one class, or the user's own; nothing if it does not come to it."""
        if name in OWN:
            several = name == OWN_OF_SEVERAL
            owns = [own for own in node._gesture_traits.recognisers if (own.pointers > 1) is several]
            return [own for own in owns if all(one.carries_on(own.name) for one in below)]
        if name == "scroll" and pointer.kind not in self.feel_of(node).scroll_kinds:
            return ()
        return (_CLASSES[name],) if all(one.carries_on(name) for one in below) else ()

    def _make(self, node: Node, cls: type[Recogniser], pointer: Pointer) -> Recogniser | None:
        if cls.kinds is not None and pointer.kind not in cls.kinds:
            return None
        key = (node, cls)
        one = self.shared.get(key) if cls.pointers > 1 else None
        if one is None:
            try:
                one = cls(node, self)
            except Exception as error:
                self.dispatcher.report(error, None)
                return None
            if cls.pointers > 1:
                self.shared[key] = one
        return one if len(one.contacts) < cls.pointers else None

    def _tell(self, method: Callable[..., None], *given: object) -> None:
        """Call a method of a recogniser. An error, as the user's own may raise, is reported, and the rest goes on (law
        R5)."""
        try:
            method(*given)
        except Exception as error:
            self.dispatcher.report(error, None)

    # -- it goes on ----------------------------------------------------------------------------------------------------

    def moved(self, contact: Contact) -> None:
        """Tell the recognisers of an open contact that its pointer moved."""
        winner = contact.winner
        if winner is not None:
            if not winner._over:
                self._tell(winner.moved, contact)
            if contact.winner is not winner or not contact._candidates:
                return
        for one in list(contact._candidates):
            if not contact.open:
                return
            if one in contact._candidates and one is not contact.winner:
                self._tell(one.moved, contact)
                if contact.winner is not winner:
                    return

    def claim(self, one: Recogniser) -> bool:
        """Let a recogniser win all its contacts, if the order allows it (law G5). Return whether it won."""
        contacts = [contact for contact in one.contacts if contact.open]
        if not contacts or one.won or not self._is_able(one):
            return False
        if one.pointers > 1 and any(self._has_inner(contact, one) for contact in contacts):
            return False
        one.won = True
        for contact in contacts:
            losers = [other for other in contact._candidates if other is not one]
            # Those who wait for more fingers on this node, or within it, may still take over.
            waiting = [other for other in losers if other.pointers > 1 and other.node.is_within(one.node)]
            before = contact.won_by(one, waiting)
            if before is not None:
                self._forget(before, contact, "taken over")
            for other in losers:
                if other not in waiting:
                    self._forget(other, contact, "another won")
            if contact.open and contact.winner is one:
                take_over(self.dispatcher, contact._pointer, contact.press, one.node, self.now)
        if not any(contact.open and contact.winner is one for contact in contacts):
            return False  # what the losers' handlers did has cost it all of them
        self._tell(one.claimed)
        for contact in one.contacts:
            if isinstance(one, Drag) and contact._can_go_fast and contact.open and contact.winner is one:
                contact._pointer.drag_by(contact)
        return True

    def _is_able(self, one: Recogniser) -> bool:
        return one.node.is_visible and one.node.is_enabled

    @staticmethod
    def _has_inner(contact: Contact, one: Recogniser) -> bool:
        """Whether a recogniser within this one's node is still to be decided by how far the pointer goes."""
        return any(
            other is not one and other.waits and other.node is not one.node and other.node.is_within(one.node)
            for other in contact._candidates
        )

    def drop(self, one: Recogniser, contact: Contact, why: str) -> None:
        """Take a recogniser out of the contest for a contact."""
        if one in contact._candidates:
            contact.leave(one)
            self._forget(one, contact, why)

    def _forget(self, one: Recogniser, contact: Contact, why: str) -> None:
        if contact in one.contacts and not one._over:
            if one.pointers > 1 and one.won:
                self._end_several(one, contact, one.lost, contact, why)
            else:
                self._take_from(one, contact)
                self._tell(one.lost, contact, why)

    def _end_several(self, one: Recogniser, contact: Contact, tell: Callable[..., None], *given: object) -> None:
        """End a recogniser of several pointers that had won, since one of them is gone: it is told once, and what the
        others could begin on its node competes anew (law G6)."""
        others = self._close_several(one, contact)
        self._tell(tell, *given)
        one.contacts.clear()
        for other in others:
            if other.open and other.winner is one:
                self.begin_again(other, one.node)

    def _close_several(self, one: Recogniser, contact: Contact) -> list[Contact]:
        """Let a recogniser hear no more, and a new one be made for new presses. Return its other contacts."""
        one._over = True
        self._unshare(one)
        return [other for other in one.contacts if other is not contact]

    def _take_from(self, one: Recogniser, contact: Contact) -> None:
        """Take a contact from a recogniser. One of several pointers that has none left is shared no more."""
        one.contacts.remove(contact)
        if not one.contacts:
            self._unshare(one)

    def _unshare(self, one: Recogniser) -> None:
        key = (one.node, type(one))
        if self.shared.get(key) is one:
            del self.shared[key]

    # -- it ends -------------------------------------------------------------------------------------------------------

    def released(self, contact: Contact) -> None:
        """Tell the winner that the button which began a contact is up; where nobody had won, it was a tap."""
        contact.close()
        winner = contact.winner
        if winner is not None and winner.pointers > 1:
            if not winner._over:
                self._end_several(winner, contact, winner.released, contact)
        elif winner is not None:
            self._tell(winner.released, contact)
            if contact in winner.contacts:
                winner.contacts.remove(contact)
        for one in list(contact._candidates):
            self.drop(one, contact, "released")

    def cancel(self, contact: Contact, why: str) -> None:
        """End a contact without a release."""
        if not contact.open:
            return
        contact.close()
        if contact.winner is not None:
            self._forget(contact.winner, contact, why)
        for one in list(contact._candidates):
            self.drop(one, contact, why)

    def removed(self, contact: Contact, gone: set[Node]) -> None:
        """Take out the recognisers of nodes that have left the scene; with the owner goes the whole contact (law
        P11)."""
        everything = contact.press.owner in gone
        concerned = list(contact._candidates)
        if contact.winner is not None and contact.winner not in concerned:
            concerned.append(contact.winner)
        if everything:
            contact.close()
        for one in concerned:
            if everything or one.node in gone:
                if one in contact._candidates:
                    contact.leave(one)
                if contact in one.contacts and not one._over:
                    if one.pointers > 1 and one.won:
                        self._close_several(one, contact)  # nothing may begin anew while nodes are being removed
                    self._take_from(one, contact)
                    self._tell(one.removed, contact)
            elif isinstance(one, Drag):
                one.targets_removed(gone)

    # -- what pointers, the focus and the wheel ask (glent.core.routing.state) -----------------------------------------

    def look(self, pointer: Pointer) -> None:
        """Take note that what a pointer hovers may have changed: it may dwell elsewhere."""
        self.dwelling.look(pointer)

    def scroll(self, node: Node, dx: float, dy: float, how: str, pointer: Pointer) -> tuple[float, float]:
        """Scroll an area by a distance in its own space. Return what was used of it."""
        return self.areas.of(node).by(dx, dy, how, pointer)

    def wheel_holder(self, sample: WheelSample, view: SeatView) -> Node | None:
        """The area that a burst of the wheel stays with."""
        return self.wheel.holder(sample, view)

    def turn_wheel(self, sample: WheelSample, offers: list[Node], pointer: Pointer) -> Node | None:
        """Scroll by wheel. Return who had it."""
        return self.wheel.scroll(sample, offers, pointer)

    def forget(self, nodes: list[Node]) -> None:
        """Forget nodes that have left the scene."""
        self.areas.removed(nodes)

    def close(self) -> None:
        """Let nothing run any more."""
        self.running.clear()

    def pass_time(self, time: float) -> None:
        """Tell all that run by time that time has passed."""
        for one in list(self.running):
            if one in self.running:
                self._tell(one.passed, time)
