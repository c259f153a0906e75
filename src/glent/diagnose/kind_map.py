"""Maps of the window by what is asked: presses, hover, the wheel, touches with their reach, and the reach of keys.

A press is painted at every pixel (:mod:`pass_map`). Hover, wheel and touch are asked of the hit test that routing uses,
at the corners of cells of four pixels, and at every pixel of a cell whose corners do not agree; what is narrower than
that, and lies between corners, may be missed. Keys are the map of presses with another question: does the focus come
to the control there?
"""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np

from glent.core.arguments import is_choice
from glent.core.errors import SceneError
from glent.core.routing.hit.offers import find_at
from glent.core.routing.pointers.press import would_own
from glent.diagnose.focus_map import focus_map
from glent.diagnose.pass_map import PassMap, Zone, pass_map
from glent.diagnose.trial import is_pressable

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.router import Router
    from glent.core.routing.seat_view import Barrier
    from glent.core.scene.node import Node

__all__ = ["MAPS", "kind_map"]

STEP = 4
"""Pixels from one corner to the next."""

PRESSED = {
    Zone.WORLD: "world: nothing lies there",
    Zone.PASSED: "world, through glass",
    Zone.GLASS: "glass that listens",
    Zone.SOLID: "a solid node",
    Zone.DISABLED: "nobody: a disabled solid",
    Zone.BLOCKED: "nobody: kept from the world",
}
MAPS: dict[str, dict[Zone, str]] = {
    "press": PRESSED,
    "touch": PRESSED,
    "hover": {
        Zone.WORLD: "world: nothing lies there",
        Zone.PASSED: "glass is hovered, the world has the move",
        Zone.GLASS: "glass is hovered, the world is kept out",
        Zone.SOLID: "a solid node is hovered",
        Zone.BLOCKED: "nobody: kept from the world",
    },
    "wheel": {
        Zone.WORLD: "world: nothing lies there",
        Zone.PASSED: "world, through glass",
        Zone.GLASS: "something scrolls, or hears it",
        Zone.SOLID: "a solid node, where nothing scrolls",
        Zone.BLOCKED: "nobody: kept from the world",
    },
    "keys": {
        Zone.WORLD: "nothing that can be pressed",
        Zone.SOLID: "a control that keys come to",
        Zone.DISABLED: "one that no key comes to, or disabled",
    },
}
"""What each map asks, with what its zones mean."""

Answer = tuple[Zone, "Node | None"]


def kind_map(router: Router, kind: str = "press", seat: str = "main") -> PassMap:
    """The map of a game as it is now, for a free pointer of a seat.

    :param kind: one of :data:`MAPS`.
    :raises SceneError: there is no such map. :raises SeatError: there is no such seat.
    """
    if not is_choice(kind, tuple(MAPS)):
        raise SceneError(f"kind_map: the kind is {kind!r}, expected one of {', '.join(MAPS)}")
    player = router.seat(seat)
    router.settle()
    if kind == "press":
        return pass_map(router.scene, seat)
    if kind == "keys":
        return _keys_map(router, seat)
    answer = {"touch": _touched, "hover": _hovered, "wheel": _turned}[kind]
    pointer = "touch" if kind == "touch" else "mouse"
    state = router._state

    def asked(x: int, y: int) -> Answer:
        if not state.is_inside(player, x + 0.5, y + 0.5):
            return Zone.BLOCKED, None
        return answer(*find_at(state, player, x + 0.5, y + 0.5, pointer))

    return _sampled(router, asked)


def _touched(offers: list[Node], barrier: Barrier | None) -> Answer:
    owner = would_own(offers)
    if owner is None:
        return _left(offers, barrier), None
    if owner.effective_solidity != "solid":
        return Zone.GLASS, owner
    return (Zone.SOLID if owner.is_enabled else Zone.DISABLED), owner


def _hovered(offers: list[Node], barrier: Barrier | None) -> Answer:
    if not offers:
        return _left(offers, barrier), None
    if offers[-1].effective_solidity == "solid":
        return Zone.SOLID, offers[0]
    return (Zone.PASSED if barrier is None else Zone.GLASS), offers[0]


def _turned(offers: list[Node], barrier: Barrier | None) -> Answer:
    for offer in offers:
        for node in reversed(offer.lineage()):
            if node.is_enabled and (node.scrolls or node.listens("scroll") or node.listens("wheel")):
                return Zone.GLASS, node
    if offers and offers[-1].effective_solidity == "solid":
        return Zone.SOLID, offers[-1]
    return _left(offers, barrier), None


def _left(offers: list[Node], barrier: Barrier | None) -> Zone:
    """What is left where no node has it."""
    return Zone.BLOCKED if barrier is not None else Zone.PASSED if offers else Zone.WORLD


def _sampled(router: Router, asked: Callable[[int, int], Answer]) -> PassMap:
    width, height = (max(1, round(side)) for side in router.scene.window)
    numbers: dict[Node, int] = {}
    zones = np.zeros((height, width), dtype=np.uint8)
    owners = np.full((height, width), -1, dtype=np.int32)

    def ask(x: int, y: int) -> tuple[int, int]:
        zone, node = asked(x, y)
        return int(zone), -1 if node is None else numbers.setdefault(node, len(numbers))

    columns = [*range(0, width - 1, STEP), width - 1]
    rows = [*range(0, height - 1, STEP), height - 1]
    corners = [[ask(x, y) for x in columns] for y in rows]
    for j, top in enumerate(rows):
        bottom = rows[j + 1] if j + 1 < len(rows) else height
        for i, left in enumerate(columns):
            right = columns[i + 1] if i + 1 < len(columns) else width
            around = {corners[b][a] for b in (j, min(j + 1, len(rows) - 1)) for a in (i, min(i + 1, len(columns) - 1))}
            if len(around) == 1:
                zones[top:bottom, left:right], owners[top:bottom, left:right] = corners[j][i]
                continue
            for y in range(top, bottom):
                for x in range(left, right):
                    zones[y, x], owners[y, x] = ask(x, y)
    return PassMap(zones, owners, tuple(numbers))


def _keys_map(router: Router, seat: str) -> PassMap:
    """Where presses go, by whether the focus comes there too."""
    pressed = pass_map(router.scene, seat)
    stops = {one.node for one in focus_map(router.scene, None, seat).stops if one.can_reach or one.number is not None}
    numbers: dict[Node, int] = {}
    zones = np.full(len(pressed.nodes) + 1, Zone.WORLD, dtype=np.uint8)
    owners = np.full(len(pressed.nodes) + 1, -1, dtype=np.int32)
    for index, node in enumerate(pressed.nodes):
        target = next((one for one in reversed(node.lineage()) if one in stops or is_pressable(one)), None)
        if target is not None:
            reached = target.is_enabled and any(one in stops for one in target.lineage())
            zones[index] = Zone.SOLID if reached else Zone.DISABLED
            owners[index] = numbers.setdefault(target, len(numbers))
    return PassMap(zones[pressed.owners], owners[pressed.owners], tuple(numbers))
