"""Look events: nodes are told when what a renderer draws of them changes (laws P4, P5, S5, F4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.event import Event

if TYPE_CHECKING:
    from glent.core.routing.keys.routing import KeyPresses
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["LookEvents"]

PLAIN = ("idle", False)


class LookEvents:
    """What the nodes that listen for ``look`` were last told.

    Only nodes that something points at, presses or has the focus on can look otherwise than idle, or those that were
    enabled or disabled: these alone are looked at, so many controls cost no more than few.
    """

    __slots__ = ("_key_presses", "_seen", "_state", "_told")

    def __init__(self, state: State, key_presses: KeyPresses) -> None:
        self._state = state
        self._key_presses = key_presses
        self._seen: object = None
        """What looks depended on when they were last told."""
        self._told: dict[Node, tuple[str, bool]] = {}
        """By node, where that is not the plain look."""

    def tell(self) -> None:
        """Tell the nodes whose look has changed, each alone, in the order of the tree's paths to them."""
        state, told = self._state, self._told
        scene = state.scene
        seen = self._causes()
        if seen == self._seen and not scene._looked:
            return
        self._seen = seen
        asked: dict[Node, None] = dict.fromkeys(told)
        if scene._looked:
            looked = list(scene._looked)
            scene._looked.clear()
            asked.update((node, None) for above in looked for node in above.walk())
        for pointer in state.pointers.values():
            asked.update(pointer.hovered)
        for held in self._key_presses.held.values():
            if held.owner is not None:
                asked.update((node, None) for node in held.owner.lineage())
        for seat in state.seats_by_name.values():
            if seat._focus.node is not None:
                asked[seat._focus.node] = None
        for node in asked:
            if node._scene is None or not node.listens("look"):
                told.pop(node, None)
                continue
            before = told.get(node, PLAIN)
            now = (node.look, node.focus_ring)
            if now == before:
                continue
            if now == PLAIN:
                told.pop(node, None)
            else:
                told[node] = now
            data = {"look": now[0], "before": before[0], "focus_ring": now[1]}
            state.dispatcher.tell(Event("look", node, "", state.now, (0.0, 0.0), data=data))

    def _causes(self) -> tuple[object, ...]:
        """All that looks depend on besides the nodes themselves: nodes are looked at only if this has changed."""
        state = self._state
        causes: list[object] = [state.dispatcher.hovers]
        for pointer in state.pointers.values():
            press = pointer.press
            causes += (pointer.offers, pointer.hold, press)
            if press is not None:
                contact = press.contact
                causes += (press.inside, press.over, press.owner)
                if contact is not None:
                    causes += (contact.winner, contact._look_delayed)
        for held in self._key_presses.held.values():
            causes += (held.who, held.owner)
        for seat in state.seats_by_name.values():
            causes += (seat._focus.node, seat._focus.moves, seat._focus.ring)
        return tuple(causes)
