"""What a thrown arc comes down on (law X5)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.routing.hit.point import Hit, hits_along

if TYPE_CHECKING:
    from glent.core.geometry.world.arc import Arc
    from glent.core.routing.seat_view import View
    from glent.core.scene.node import Node

__all__ = ["hits_of_arc"]


def hits_of_arc(view: View, arc: Arc, where: Callable[[Node], bool] | None) -> list[Hit]:
    """What an arc meets on its way, down to the first that ends it, with the way to it measured along the arc."""
    found: list[Hit] = []
    for ray, gone in arc.pieces():
        for hit in hits_along(view, ray, "ray", where):
            hit.distance = (hit.distance or 0.0) + gone
            found.append(hit)
            if hit.node.ends or not hit.offered:
                return found
    return found
