"""How a node grabs a pointer by code, what it hears of it, and how it gives it back (law P1, ``event.grab()``)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.core.input.samples import PointerButton
from glent.core.routing.event import Event
from glent.core.routing.grab import Grab
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.pointer import UI, Press

if TYPE_CHECKING:
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.state import State
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node

__all__ = ["begin", "route_grabbed"]


def begin(state: State, pointer: Pointer, node: Node, on_lost: Callable[[str], object] | None) -> Grab:
    """Give a node the pointer.

    :raises SceneError: the node has left the scene, is hidden or disabled.
    """
    if not node.is_visible or not node.is_enabled:
        raise SceneError(f"{node.path}: cannot grab, the node is hidden, disabled or no longer in the scene")
    dispatcher = state.dispatcher
    grab = Grab(node, pointer.name, lambda: _give_back(state, pointer, node), on_lost, dispatcher.report)
    held = pointer.press if pointer.hold is UI else None
    if held is None:
        held = Press(node, node.lineage(), PointerButton.PRIMARY, 1, state.now, pointer.pos)
    elif held.contact is not None:
        held.contact.cancel("taken over")
    held.give_to(node, presses.is_over(pointer, node))
    before = pointer.grabbed_by(grab, held)
    state.scene._version += 1
    if before is not None:
        before._lose(f"{node.path} grabbed the pointer")
    presses.grabbed(dispatcher, pointer, "grab", state.now)
    return grab


def _give_back(state: State, pointer: Pointer, node: Node) -> None:
    """Take the pointer from a node that lets go of it."""
    held = pointer.press
    pointer.ungrab()
    pointer.spend(f"{node.path}, which had grabbed it, let it go")
    pointer.unsettle()
    state.scene._version += 1  # whom it hovers is another matter now: the next settle sees to it
    if held is not None:
        presses.cancel_heard(state.dispatcher, pointer, held, state.now)


def route_grabbed(state: State, pointer: Pointer, what: str, button: PointerButton, time: float) -> Verdict:
    """Route a sample of a pointer that a node has grabbed."""
    held = pointer.press
    assert held is not None
    dispatcher = state.dispatcher
    verdict = presses.grabbed(dispatcher, pointer, what, time)
    if what == "move":
        presses.send_move(dispatcher, pointer, held, time)
    elif what == "press":
        pointer.down(button)
        event = Event("press", held.target, pointer.name, time, pointer.pos, button, pointer.buttons, 1)
        dispatcher.send(event, held.path, held.heard)
    else:
        pointer.up(button)
        presses.end_grabbed(dispatcher, pointer, held, button, time)
        if not pointer.buttons and pointer.grab is None:
            pointer.free()
    return verdict
