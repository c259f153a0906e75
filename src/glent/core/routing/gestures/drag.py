"""Drag, and drag and drop: from beyond the threshold to a drop, a return, or an end (laws G2, G3)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.routing.event import DragStart, Event
from glent.core.routing.gestures.autoscroll import Autoscroll
from glent.core.routing.gestures.drop_targets import Targets
from glent.core.routing.gestures.recogniser import Contests, Recogniser
from glent.core.scene.space import into

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Plan
    from glent.core.routing.gestures.contact import Contact
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Drag"]


class Drag(Recogniser):
    """The recogniser of a drag on one node.

    ``drag_start`` comes first, at the place of the press; its handler may refuse it, or give it a payload, which makes
    it a drag and drop. Then each sample sends ``drag`` with the distance since the last, and ``drag_end`` says what
    became of it, in ``outcome``: ``done`` (a drag without payload), ``dropped``, ``world``, ``returned``,
    ``abandoned``, ``cancelled``, ``vanished`` or ``taken over``. Every drag that starts ends.
    """

    name = "drag"
    keeps_look = True
    abandons = True

    def __init__(self, node: Node, gestures: Contests) -> None:
        super().__init__(node, gestures)
        self.outcome = ""
        """What became of it, once it has ended."""
        self._x = self._y = 0.0
        self._started = False
        self._known = -1
        self._axes = (1.0, 0.0, 0.0, 1.0)
        self._plan: Plan = []
        self._targets: Targets | None = None
        self._autoscroll: Autoscroll | None = None

    def moved(self, contact: Contact) -> None:
        if self.won:
            self.go_on(contact, *contact.step)
        elif contact.distance > self.threshold(contact) and self._comes_too_soon(contact):
            self.give_up(contact)
        else:
            super().moved(contact)

    def _comes_too_soon(self, contact: Contact) -> bool:
        """Whether a finger has to rest first before it can drag, and has not, so that a scroll can have it."""
        return contact.kind == "touch" and contact.time - contact.began < self.feel.drag_delay

    def wants(self, contact: Contact) -> bool:
        if not self.along_axis(contact.travel):
            return False
        pointer = contact._pointer
        event = DragStart(
            "drag_start",
            self.node,
            pointer.name,
            self._gestures.now,
            contact.start,
            contact.button,
            pointer.buttons,
            contact.press.count,
        )
        self._started = True
        self._gestures.send(event)
        if event.refused:
            self._started = False
            return False
        if not contact.open or contact.winner is not None or contact not in self.contacts:
            # What its handlers did has cost it the pointer; it has begun for them, so it ends for them.
            self._started = False
            self._end(contact, "vanished" if self.node._scene is None else "cancelled")
            return False
        if event.carrying:
            self._targets = Targets(self.node, event.payload, self._gestures)
            self._autoscroll = Autoscroll(self, contact)
        return True

    def claim(self) -> bool:
        won = super().claim()
        if not won and self._started and not self.won:
            self._started = False  # its own start, or what the losers did, has cost it the pointer
            for contact in self.contacts:
                self._end(contact, "cancelled")
        return won

    def claimed(self) -> None:
        for contact in list(self.contacts):
            self.go_on(contact, *contact.travel)

    def go_on(self, contact: Contact, right: float, down: float) -> None:
        """Go on by a distance on the screen, in logical pixels."""
        node = self.node
        scene = node._scene
        if scene is None:
            return
        if self._known != scene._version:
            self._look_up(scene, contact)
        ax, ay, bx, by = self._axes
        dx, dy = ax * right + bx * down, ay * right + by * down
        self._x += dx
        self._y += dy
        targets = self._targets
        if targets is not None:
            if targets.covered or targets.version != scene._version or targets.seen != contact._pointer.offers:
                targets.look(contact)
                if not self.won:
                    return
            scrolling = self._autoscroll
            if scrolling is not None and (targets.areas or scrolling.node is not None):
                scrolling.consider(targets.areas)
        plan = self._plan
        if plan:
            pointer, dispatcher = contact._pointer, self._gestures.dispatcher
            data = self._data(dx, dy)
            button, buttons = contact.press.button, pointer.buttons
            event = Event("drag", node, pointer.name, contact.time, pointer.pos, button, buttons, 0, data)
            dispatcher.note(event)
            dispatcher.run(event, plan)
            if dispatcher.owed and not dispatcher.running:
                dispatcher.pay()

    def _look_up(self, scene: Scene, contact: Contact) -> None:
        """Look up what stays as it is while the scene does."""
        self._known = scene._version
        # Where both axes of the screen go in the node's space (law G7).
        self._axes = (*into(self.node, 1.0, 0.0), *into(self.node, 0.0, 1.0))
        self._plan = self._gestures.dispatcher.plan("drag", contact.press.path)[0]

    def _data(self, dx: float, dy: float) -> dict[str, Any]:
        targets = self._targets
        if targets is None:
            return {"dx": dx, "dy": dy, "x": self._x, "y": self._y}
        return {
            "dx": dx,
            "dy": dy,
            "x": self._x,
            "y": self._y,
            "payload": targets.payload,
            "target": targets.found,
            "answer": targets.answer,
        }

    def scrolled_under(self, contact: Contact) -> None:
        if self._targets is not None and contact.open:
            self._targets.look(contact)

    def released(self, contact: Contact) -> None:
        targets = self._targets
        if targets is None:
            contact.say("it is let go")
            self._end(contact, "done")
            return
        targets.look(contact)
        self._finish(contact, targets)

    def carry_to(self, contact: Contact, target: Node) -> str:
        """Drop by code, without a way over the screen: ask a node and its ancestors. Return what became of it (law
        G9)."""
        if self._targets is not None:
            self._targets.look_at(contact, target)
            if self._targets.entered:
                self._finish(contact, self._targets)
            elif self.won:
                self._end(contact, "returned")  # nothing there wants it, and there is no point of the world to fall to
        else:
            self._end(contact, "done")
        return self.outcome

    def drag_by(self, contact: Contact, dx: float, dy: float) -> str:
        """Drag by a distance in the node's space, and end. Return what became of it (law G9)."""
        self._x, self._y = dx, dy
        self.send("drag", contact, **self._data(dx, dy))
        if self.won:
            self._end(contact, "done" if self._targets is None else "returned")
        return self.outcome

    def _finish(self, contact: Contact, targets: Targets) -> None:
        if not self.won or contact not in self.contacts:
            return
        if targets.found is not None and targets.still_accepts():
            found = targets.found
            contact.say(f"{found.path} took it")
            self.outcome = "dropped"  # also if the target's handler removes the source
            targets.drop(contact)
            if self.won:
                self._end(contact, "dropped", found)
        elif not targets.entered and targets.is_over_world(contact):
            contact.say("it fell to the world")
            contact._dropped(targets.payload, self.node)
            self._end(contact, "world")
        else:
            refuser = targets.entered[-1] if targets.entered else None
            contact.say(
                "nothing there takes it, so it returns"
                if refuser is None
                else f"{refuser.path} refused it ({targets.answer or 'no reason given'}), so it returns"
            )
            self._end(contact, "returned")

    def lost(self, contact: Contact, why: str) -> None:
        if self.won:
            self._end(contact, self.outcome or why)

    def _end(self, contact: Contact, outcome: str, target: Node | None = None) -> None:
        self.won = False
        self.outcome = outcome
        if self._autoscroll is not None:
            self._autoscroll.stop()
        answer = ""
        if self._targets is not None:
            answer = self._targets.answer
            self._targets.leave_all(contact)
        self.send_last("drag_end", contact, **self._ending(outcome, target, answer))

    def _ending(self, outcome: str, target: Node | None, answer: str) -> dict[str, Any]:
        data: dict[str, Any] = {"outcome": outcome, "x": self._x, "y": self._y}
        if self._targets is not None:
            data.update(payload=self._targets.payload, target=target, answer=answer)
        return data

    def removed(self, contact: Contact) -> None:
        if not self.won:
            return
        self.won = False
        if self._autoscroll is not None:
            self._autoscroll.stop()
        if self._targets is not None:
            self._targets.over = True
            self._targets.owe_leaves(contact, set(self._targets.entered))
        self.owe("drag_end", contact, **self._ending(self.outcome or "vanished", None, ""))

    def targets_removed(self, gone: set[Node]) -> None:
        """Book the leaves of targets that have left the scene while the drag goes on."""
        if self._targets is not None:
            for contact in self.contacts:
                self._targets.owe_leaves(contact, gone)
