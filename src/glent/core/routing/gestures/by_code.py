"""Every gesture by a single call, so that a framework can offer each by single presses (law G9; WCAG 2.5.1, 2.5.7)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from glent.core.input.samples import PointerButton
from glent.core.routing.aim import aim_at, on_screen
from glent.core.routing.event import Event
from glent.core.routing.gestures.contact import Contact
from glent.core.routing.gestures.drag import Drag
from glent.core.routing.pointers.pointer import BY_CODE, Pointer, Press

if TYPE_CHECKING:
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node

__all__ = ["perform", "why_not"]


def why_not(act: str, node: Node) -> str:
    """Why a gesture would come to nothing: no node on the path listens for it; empty if one does."""
    if act in ("drag", "drag_onto"):
        return "" if "drag" in (node._gestures or ()) else f"{node.path} does not listen for drags"
    if act == "scroll":
        return "" if "scroll" in (node._gestures or ()) else f"{node.path} does not scroll"
    heard = any(act in (one._gestures or ()) for one in node.lineage())
    return "" if heard else f"{node.path} does not listen for a {act}, nor does what it lies in"


def perform(gestures: Gestures, seat: Seat, act: str, node: Node, value: Any) -> str:
    """Send what a gesture sends, at once.

    :param value: what goes with it, as in an act sample; of ``drag_onto`` the target itself.
    :return: what became of it: ``done``, and of drags also ``dropped``, ``returned`` or ``refused``.
    """
    return _Gesture(gestures, seat, node).perform(act, value)


class _Gesture:
    """A gesture of no device at the middle of a node."""

    __slots__ = ("_gestures", "_node", "_seat")

    def __init__(self, gestures: Gestures, seat: Seat, node: Node) -> None:
        self._gestures = gestures
        self._seat = seat
        self._node = node

    def perform(self, act: str, value: Any) -> str:
        done: str | None = getattr(self, act)(value)
        return done or "done"

    def _pointer_at(self, node: Node) -> Pointer:
        width, height = node.size
        return Pointer(BY_CODE, "mouse", self._seat, on_screen(node, width / 2.0, height / 2.0), aim_at(node))

    def _send(self, kind: str, **data: Any) -> None:
        node = self._node
        if node.scene is None:
            return  # a handler of what was sent before has removed it
        pointer = self._pointer_at(node)
        event = Event(kind, node, BY_CODE, self._gestures.now, pointer.pos, None, 0, 0, data, self._seat.name)
        event.aim = pointer.aim
        self._gestures.send(event)

    def hold(self, value: None) -> None:
        if self._node.listens("hold_progress"):
            self._send("hold_progress", progress=1.0)
        self._send("hold", seconds=0.0)

    def drag(self, way: tuple[float, float]) -> str:
        return self._dragged(lambda one, contact: one.drag_by(contact, float(way[0]), float(way[1])))

    def drag_onto(self, target: Node) -> str:
        at = self._pointer_at(target).pos

        def go(one: Drag, contact: Contact) -> str:
            contact._pointer.step_to(*at, 1.0)
            return one.carry_to(contact, target)

        return self._dragged(go)

    def _dragged(self, go: Callable[[Drag, Contact], str]) -> str:
        node, gestures = self._node, self._gestures
        pointer = self._pointer_at(node)
        press = Press(node, node.lineage(), PointerButton.PRIMARY, 1, gestures.now, pointer.pos)
        contact = Contact(gestures, pointer, press)
        press.compete(contact)
        one = Drag(node, gestures)
        one.contacts.append(contact)
        if not one.wants(contact) or node.scene is None:
            return "refused"
        contact.won_by(one, [])
        one.won = True
        return go(one, contact)

    def scroll(self, way: tuple[float, float]) -> None:
        self._gestures.scroll(self._node, float(way[0]), float(way[1]), BY_CODE, self._pointer_at(self._node))

    def pinch(self, value: tuple[float, float]) -> None:
        scale, turn = float(value[0]), float(value[1])
        none = {"scale": 1.0, "turn": 0.0, "scale_by": 1.0, "turn_by": 0.0, "dx": 0.0, "dy": 0.0}
        whole = {**none, "scale": scale, "turn": turn}
        self._send("pinch", phase="start", **none)
        self._send("pinch", phase="move", **{**whole, "scale_by": scale, "turn_by": turn})
        self._send("pinch", phase="end", **whole)

    def swipe(self, direction: str) -> None:
        dx, dy = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "up": (0.0, -1.0), "down": (0.0, 1.0)}[direction]
        feel = self._gestures.feel_of(self._node)
        far = feel.swipe_distance
        self._send("swipe", direction=direction, speed=feel.swipe_speed, dx=dx * far, dy=dy * far)
