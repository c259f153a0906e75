"""Sliding: a press that goes from one key to the next presses that one instead, where a node asks for it (law P13)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.hover import pick_again
from glent.core.routing.pointers.pointer import SPENT, UI
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.routing.pointers.pointer import Pointer, Press
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["slid", "slides"]


def slides(held: Press) -> Node | None:
    """The innermost node around a press over whose keys it slides; None: it stays where it began."""
    for node in reversed(held.path):
        if node._gesture_traits.slides:
            return node
    return None


def slid(state: State, pointer: Pointer, held: Press, time: float) -> Verdict | None:
    """Take a press over to the key where the pointer is, if that is another of the same keys. The first hears
    ``cancel``. Return the verdict, if so."""
    around = slides(held)
    offers = pointer.offers
    if around is None or held.over or not offers or pointer.blind or not offers[0].is_within(around):
        return None
    here = _key(offers[0], around)
    if here is None or here is _key(held.target, around) or not here.is_enabled or not presses.would_accept(offers):
        return None
    left, button, buttons = held.owner, held.button, pointer.buttons
    presses.cancel_press(state.dispatcher, pointer, time, "", "slid on")
    if pointer.grab is not None:
        return presses.grabbed(state.dispatcher, pointer, "move", time)
    if pointer.buttons != buttons or pointer.press is not None:
        return Verdict(because.SPENT, "move", about=pointer.spent_by)  # handlers have made something else of it
    if state.settling.seen != state.scene._version:
        pick_again(state, pointer)
    pointer.count(None)
    if presses.would_accept(pointer.offers):
        presses.press(state, pointer, button, time)
        state.seats.pressed(pointer)
        if pointer.hold is UI and pointer.press is not None:
            return Verdict(because.SLID, "move", owner=pointer.press.owner, about=left)
    # The key has gone meanwhile. What began as the UI's is not the world's in the middle of it.
    if pointer.hold is not SPENT:
        pointer.spend(f"its press slid off {left.path}")
    return Verdict(because.SPENT, "move", about=pointer.spent_by)


def _key(node: Node, around: Node) -> Node | None:
    """What is pressed of a node, below the one whose keys slide."""
    one: Node | None = node
    while one is not None and one is not around:
        if one._used is not None or one.listens("press") or one.listens("click"):
            return one
        one = one._parent
    return None
