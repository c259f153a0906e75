"""Hover, and the enters and leaves that keep it true (laws P5–P8)."""

from __future__ import annotations

from collections.abc import Iterable
from types import MappingProxyType
from typing import TYPE_CHECKING

from glent.core.routing.event import Event
from glent.core.routing.hit.offers import find
from glent.core.routing.pointers.pointer import UI

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = [
    "change_hover",
    "depth_over",
    "hover_after",
    "is_pressed",
    "look_around",
    "offers_changed",
    "owe_leaves",
    "pick_again",
    "set_hover",
    "shows_hover",
    "wanted",
]

_FIRST = {flag: MappingProxyType({"first": flag}) for flag in (True, False)}
_LAST = {flag: MappingProxyType({"last": flag}) for flag in (True, False)}


def union(offers: Iterable[Node]) -> dict[Node, None]:
    """The paths of all offers, each from its layer down."""
    nodes: dict[Node, None] = {}
    for offer in offers:
        for node in offer.lineage():
            nodes[node] = None
    return nodes


def wanted(pointer: Pointer) -> dict[Node, None]:
    """The nodes that a pointer should hover, by where it is and who holds it (laws P2, P5, P11)."""
    if pointer.blind or pointer.away:
        return {}
    press = pointer.press
    if pointer.hold is UI and press is not None:
        # While a node has the press only the path it landed on can be hovered.
        path = press.path
        depth = depth_over(pointer.offers, path)
        hovered = pointer.hovered
        if len(hovered) == depth + 1 and (depth < 0 or (path[depth] in hovered and path[0] in hovered)):
            return hovered  # a path's nodes down to one depth, and all of them are hovered already
        return dict.fromkeys(path[: depth + 1])
    return union(pointer.offers)


def depth_over(offers: list[Node], path: list[Node]) -> int:
    """The depth of the last node of a path that is on the path of some offer; -1 if none is.

    A path's depth is that of its last node; removed parts of a control have shortened it (law P2).
    """
    deepest = -1
    last = len(path) - 1
    for offer in offers:
        node: Node | None = offer
        while node is not None and node._depth > last:
            node = node._parent
        while node is not None and node is not path[node._depth]:
            node = node._parent
        if node is not None and node._depth > deepest:
            deepest = node._depth
            if deepest == last:
                break
    return deepest


def change_hover(dispatcher: Dispatcher, pointer: Pointer, nodes: dict[Node, None], time: float) -> None:
    """Send the leaves and enters that bring a pointer's hover to these nodes.

    All leaves come first, deepest first over all branches, then enters, outermost first (law P5). Each is booked
    before its handlers run, so that whatever they do, every enter is matched by one leave (law P6).
    """
    hovered = pointer.hovered
    if nodes is hovered or hovered.keys() == nodes.keys():
        return
    leaves = [node for node in hovered if node not in nodes]
    leaves.sort(key=_depth, reverse=True)
    enters = [node for node in nodes if node not in hovered]
    enters.sort(key=_depth)
    for node in leaves:
        if node in hovered:  # not if it was removed meanwhile, and told so
            dispatcher.tell(_leave(dispatcher, pointer, node, time))
    for node in enters:
        if node._scene is not None and node not in hovered:
            hovered[node] = None
            node._hovers += 1
            dispatcher.hovers += 1
            dispatcher.tell(
                Event(
                    "enter", node, pointer.name, time, pointer.pos, None, pointer.buttons, 0, _FIRST[node._hovers == 1]
                )
            )


def _leave(dispatcher: Dispatcher, pointer: Pointer, node: Node, time: float) -> Event:
    del pointer.hovered[node]
    dispatcher.hovers += 1
    node._hovers -= 1
    return Event("leave", node, pointer.name, time, pointer.pos, None, pointer.buttons, 0, _LAST[node._hovers == 0])


def look_around(state: State, pointer: Pointer) -> None:
    """Find the offers where the pointer is, and what it hovers by that."""
    scene = state.scene
    if pointer.picked == scene._version and pointer.hovered_for is pointer.hold:
        return  # as before: mostly a press or a release where the last move already was
    pointer.seen(scene._version)
    offers = find(state, pointer)
    if offers == pointer.offers and pointer.hovered_for is pointer.hold:
        return
    offers_changed(state, pointer, offers)


def offers_changed(state: State, pointer: Pointer, offers: list[Node]) -> None:
    """Note that other nodes lie where a pointer is, and hover them."""
    scene = state.scene
    pointer.see(offers, pointer.picked)
    held = pointer.press
    if held is not None:
        depth = depth_over(offers, held.path)
        held.look_inside(depth)
        if pointer.hovered_for is UI and pointer.hold is UI and len(pointer.hovered) == depth + 1:
            return  # of the path that holds it, it hovers as much as before
    version = scene._version
    set_hover(state, pointer)
    if scene._version != version:
        pick_again(state, pointer)


def set_hover(state: State, pointer: Pointer) -> None:
    """Bring a pointer's hover in line with its offers and with who holds it."""
    pointer.hovers_rightly()
    change_hover(state.dispatcher, pointer, wanted(pointer), state.now)
    if state.scene._listeners.get("dwell") or state.feel.dwell_activates:
        state.gestures.look(pointer)


def pick_again(state: State, pointer: Pointer) -> None:
    """Find the offers again, after handlers have changed the scene."""
    state.scene._index.refresh()
    pointer.unsettle()
    pointer.see(pointer.offers if pointer.away else find(state, pointer), state.scene._version)


def hover_after(state: State, pointer: Pointer) -> None:
    """Bring hover up to date after a press, a release or a move: who holds the pointer may have changed."""
    if state.settling.seen != state.scene._version:
        pick_again(state, pointer)
    elif pointer.hovered_for is pointer.hold:
        return
    elif (
        not pointer.blind
        and len(pointer.offers) == 1
        and pointer.offers[0] in pointer.hovered
        and (pointer.hold is not UI or pointer.press is None or pointer.press.target is pointer.offers[0])
    ):
        pointer.hovers_rightly()  # the path of its one offer is hovered, whoever holds the pointer
        if state.scene._listeners.get("dwell") or state.feel.dwell_activates:
            state.gestures.look(pointer)
        return
    set_hover(state, pointer)


def owe_leaves(dispatcher: Dispatcher, pointer: Pointer, gone: set[Node], time: float) -> None:
    """Book the leaves of removed nodes; they are sent directly after the running event (law P6)."""
    leaves = [node for node in pointer.hovered if node in gone]
    leaves.sort(key=_depth, reverse=True)
    dispatcher.owed.extend(_leave(dispatcher, pointer, node, time) for node in leaves)


def shows_hover(pointer: Pointer, node: Node) -> bool:
    """Whether a node shows that a pointer hovers it: no control in between keeps the look to itself (law P5)."""
    if node not in pointer.hovered:
        return False
    if node._used is None:
        return True
    targets = [pointer.press.target] if pointer.press is not None and pointer.hold is UI else pointer.offers
    return any(target.is_within(node) and _carried(target, node, "enter") for target in targets)


def _carried(below: Node, above: Node, kind: str) -> bool:
    """Whether the controls from one node up to, and without, another let this kind go on."""
    node: Node | None = below
    while node is not None and node is not above:
        if node._used is not None and not node.carries_on(kind):
            return False
        node = node._parent
    return True


def is_pressed(pointer: Pointer, node: Node) -> bool:
    """Whether a pointer presses a node: it owns the press, or the owner carries presses up to it (laws P4, R2)."""
    press = pointer.press
    if pointer.hold is not UI or press is None or not press.inside:
        return False
    contact = press.contact
    if contact is None:
        if press.over:
            return False
    elif contact._look_delayed or (press.over and (contact.winner is None or not contact.winner.keeps_look)):
        return False
    owner = press.owner
    return owner is node or (node._used is not None and owner.is_within(node) and _carried(owner, node, "press"))


def _depth(node: Node) -> int:
    return node._depth
