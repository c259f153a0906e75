"""Grabs by code: a node holds a pointer until it lets go (law P1, and ``event.grab()``)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.input.samples import PointerButton
from glent.core.routing.event import Event
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.pointer import UI, Press

if TYPE_CHECKING:
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node

__all__ = ["Grab", "begin"]


class Grab:
    """The grab of a pointer by a node.

    It hears ``press``, ``move`` and ``release`` of the pointer wherever that is, along its path; no gesture and no
    click come of them. It ends by :meth:`let_go`, when a finger is lifted, or is lost: the node is removed, hidden or
    disabled, the device cancels, the window loses the focus, or another node grabs.
    """

    __slots__ = ("_on_lost", "_pointer", "_pointing", "active", "node")

    def __init__(
        self, pointing: Pointing, pointer: Pointer, node: Node, on_lost: Callable[[str], object] | None
    ) -> None:
        self._pointing = pointing
        self._pointer = pointer
        self._on_lost = on_lost
        self.node = node
        self.active = True
        """Whether the node still has the pointer."""

    @property
    def pointer(self) -> str:
        """The name of the pointer."""
        return self._pointer.name

    def let_go(self) -> None:
        """Give the pointer back. While its buttons are down it is spent, so the release lands nowhere (law P11)."""
        if not self.active:
            return
        self.active = False
        pointer = self._pointer
        held = pointer.press
        pointer.ungrab()
        pointer.spend(f"{self.node.path}, which had grabbed it, let it go")
        pointer.unsettle()
        self._pointing.scene._version += 1  # whom it hovers is another matter now: the next settle sees to it
        if held is not None:
            presses.cancel_heard(self._pointing.dispatcher, pointer, held, self._pointing.now)

    def _route(self, what: str, button: PointerButton, time: float) -> Verdict:
        """Route a sample of the pointer that the node has grabbed."""
        pointing, pointer = self._pointing, self._pointer
        held = pointer.press
        assert held is not None
        dispatcher, name = pointing.dispatcher, pointer.name
        verdict = presses.grabbed(dispatcher, pointer, what, time)
        if what == "move":
            presses.send_move(dispatcher, pointer, held, time)
        elif what == "press":
            pointer.down(button)
            event = Event("press", held.target, name, time, pointer.pos, button, pointer.buttons, 1)
            dispatcher.send(event, held.path, held.heard)
        else:
            pointer.up(button)
            presses.end_grabbed(dispatcher, pointer, held, button, time)
            if not pointer.buttons and pointer.grab is None:
                pointer.free()
        return verdict

    def finish(self) -> None:
        """Note that it is over, without a word to its node: the finger was lifted."""
        self.active = False

    def _end(self, why: str) -> None:
        if self.active:
            self.active = False
            if self._on_lost is not None:
                try:
                    self._on_lost(why)
                except Exception as error:
                    self._pointing.dispatcher.report(error, None)

    def __repr__(self) -> str:
        return f"<Grab of {self._pointer.name} by {self.node.path}{'' if self.active else ', over'}>"


def begin(pointing: Pointing, pointer: Pointer, node: Node, on_lost: Callable[[str], object] | None) -> Grab:
    """Give a node the pointer.

    :raises SceneError: the node has left the scene, is hidden or disabled.
    """
    if not node.is_visible or not node.is_enabled:
        raise SceneError(f"{node.path}: cannot grab, the node is hidden, disabled or no longer in the scene")
    grab = Grab(pointing, pointer, node, on_lost)
    held = pointer.press if pointer.hold is UI else None
    if held is None:
        held = Press(node, node.lineage(), PointerButton.PRIMARY, 1, pointing.now, pointer.pos)
    elif held.contact is not None:
        held.contact.cancel("taken over")
    held.give_to(node, presses.is_over(pointer, node))
    before = pointer.grabbed_by(grab, held)
    pointing.scene._version += 1
    if before is not None:
        before._end(f"{node.path} grabbed the pointer")
    presses.grabbed(pointing.dispatcher, pointer, "grab", pointing.now)
    return grab
