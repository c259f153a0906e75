"""The part of the pass-through map that lies beyond the layers: panels and spots, as a camera sees them (W6, X4)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import numpy as np

from glent.core.routing.aim import camera_ray
from glent.core.routing.hit.batch import hits_of_rays
from glent.core.routing.hit.ray import find_beyond
from glent.core.routing.pointers.press import listens_for_press

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node

__all__ = ["look_beyond"]

AT_ONCE = 100_000
WORLD, PASSED, GLASS, SOLID, DISABLED, BLOCKED = range(6)


def look_beyond(view: SeatView, zones: Any, owners: Any, nodes: tuple[Node, ...]) -> tuple[Node, ...]:
    """Mark what the layers leave to the world, and a panel or a spot gets; the nodes, with those that were found there.

    Rays are asked many at once; one by one where glass, a modal or a seat has a say. Cost: a ray for each such pixel.
    """
    found = list(nodes)
    numbers = {node: number for number, node in enumerate(found)}
    rows, columns = np.nonzero((zones == WORLD) | (zones == PASSED))
    alike = view.unrestricted and not view.held_panels and not view.scene._index.reach_limits.get("mouse")
    alike = alike and view.sees_by is not None and view.sees_by.far is None  # else each pixel has a length of its own
    for begin in range(0, len(rows), AT_ONCE):
        part = slice(begin, begin + AT_ONCE)
        rays = _rays(view, columns[part] + 0.5, rows[part] + 0.5)
        asked: Any = range(len(rays))
        if alike:
            origins = np.array([ray.origin for ray in rays])
            directions = np.array([ray.direction for ray in rays])
            hits = hits_of_rays(view, origins, directions, None, "mouse")
            zones[rows[part][hits.blocked], columns[part][hits.blocked]] = BLOCKED
            asked = []
            for number, node in enumerate(hits.nodes):
                if node is None:
                    continue
                if node._effective != "solid":
                    if not node.stops_input:
                        asked.append(number)  # glass: what lies behind it has a say
                    continue
                at = rows[begin + number], columns[begin + number]
                zones[at] = SOLID if node.is_enabled else DISABLED
                owners[at] = _number(node, found, numbers)
        for number in asked:
            at = rows[begin + number], columns[begin + number]
            zone, owner = _press(view, rays[number], int(zones[at]))
            zones[at] = zone
            if owner is not None:
                owners[at] = _number(owner, found, numbers)
    return tuple(found)


def _number(node: Node, found: list[Node], numbers: dict[Node, int]) -> int:
    number = numbers.get(node)
    if number is None:
        number = numbers[node] = len(found)
        found.append(node)
    return number


def _rays(view: SeatView, xs: Any, ys: Any) -> list[Ray]:
    made = [camera_ray(view, x, y) for x, y in zip(xs.tolist(), ys.tolist(), strict=True)]
    return [ray for ray in made if ray is not None]


def _press(view: SeatView, ray: Ray, zone: int) -> tuple[int, Node | None]:
    """What a press along one ray comes to, and who gets it."""
    found = find_beyond(view, ray, "mouse")
    offers = found.nodes
    for index, offer in enumerate(offers):
        if offer._effective == "solid":
            return (SOLID if offer.is_enabled else DISABLED), offer
        behind = offers[index + 1] if index + 1 < len(offers) else None
        if offer.is_enabled and listens_for_press(offer, behind):
            return GLASS, offer
    if found.barrier is not None:
        return BLOCKED, None
    return (PASSED if any(not offer.stops_input for offer in offers) else zone), None
