"""What a pointer hovers, and the enters and leaves that keep it true (laws P5–P8)."""

from __future__ import annotations

from collections.abc import Iterable
from types import MappingProxyType
from typing import TYPE_CHECKING

from glent.core.routing.event import Event
from glent.core.routing.pointer import FREE, UI

if TYPE_CHECKING:
    from glent.core.routing.flow import Flow
    from glent.core.routing.pointer import Pointer
    from glent.core.scene.node import Node

__all__ = ["is_hot", "owe_leaves", "set_hover", "wanted"]

_FIRST = {flag: MappingProxyType({"first": flag}) for flag in (True, False)}
_LAST = {flag: MappingProxyType({"last": flag}) for flag in (True, False)}


def union(offers: Iterable[Node]) -> dict[Node, None]:
    """The paths of all offers, each from its layer down."""
    nodes: dict[Node, None] = {}
    for offer in offers:
        for node in offer.line():
            nodes[node] = None
    return nodes


def wanted(pointer: Pointer) -> dict[Node, None]:
    """What the pointer should hover where it is, by who holds it (laws P2, P5, P11)."""
    if pointer.blind or pointer.away:
        return {}
    nodes = union(pointer.offers)
    press = pointer.press
    if pointer.hold is not FREE and press is not None:
        # While a press is held only the path it landed on can be hovered.
        return {node: None for node in press.path if node in nodes}
    return nodes


def set_hover(flow: Flow, pointer: Pointer, nodes: dict[Node, None], time: float) -> None:
    """Send the leaves and enters that bring a pointer's hover to these nodes.

    All leaves come first, deepest first over all branches, then enters, outermost first (law P5). Each is booked
    before its handlers run, so that whatever they do, every enter is matched by one leave (law P6).
    """
    hovered = pointer.hovered
    if hovered.keys() == nodes.keys():
        return
    leaves = [node for node in hovered if node not in nodes]
    leaves.sort(key=_depth, reverse=True)
    enters = [node for node in nodes if node not in hovered]
    enters.sort(key=_depth)
    for node in leaves:
        if node in hovered:  # not if it was removed meanwhile, and told so
            flow.tell(_leave(pointer, node, time))
    for node in enters:
        if node._scene is not None and node not in hovered:
            hovered[node] = None
            node._hovers += 1
            flow.tell(
                Event(
                    "enter", node, pointer.name, time, pointer.pos, None, pointer.buttons, 0, _FIRST[node._hovers == 1]
                )
            )


def _leave(pointer: Pointer, node: Node, time: float) -> Event:
    del pointer.hovered[node]
    node._hovers -= 1
    return Event("leave", node, pointer.name, time, pointer.pos, None, pointer.buttons, 0, _LAST[node._hovers == 0])


def owe_leaves(flow: Flow, pointer: Pointer, gone: set[Node], time: float) -> None:
    """Book the leaves of removed nodes; they are sent directly after the running event (law P6)."""
    leaves = [node for node in pointer.hovered if node in gone]
    leaves.sort(key=_depth, reverse=True)
    flow.owed.extend(_leave(pointer, node, time) for node in leaves)


def is_hot(pointer: Pointer, node: Node) -> bool:
    """Whether a pointer lights a node: it hovers it, and no control in between keeps the light to itself (law P5)."""
    if node not in pointer.hovered:
        return False
    if node._used is None:
        return True
    targets = [pointer.press.target] if pointer.press is not None else pointer.offers
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
    elif contact.hushed or (press.over and (contact.winner is None or not contact.winner.keeps_look)):
        return False
    owner = press.owner
    return owner is node or (node._used is not None and owner.is_within(node) and _carried(owner, node, "press"))


def _depth(node: Node) -> int:
    return node._depth
