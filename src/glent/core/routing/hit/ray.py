"""What lies beyond the layers of the screen: panels and spots along a ray, as a seat gets them (laws X1, X2, X4, M1).

Screen layers come first; a ray of its own, such as a hand's, meets no layer. A modal on a layer blocks the whole world,
one on a panel just that panel, unless it is told to block everything.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.hit.point import Hit, Offers, hit_of, offers_beyond
from glent.core.routing.seat_view import Barrier

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.throw import Throw
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.posed import Met

__all__ = ["find_beyond", "hits_along", "hits_of_throw", "walk_beyond"]


def find_beyond(view: SeatView, ray: Ray, kind: str, deep: bool = False) -> Offers:
    """Find the offers to a seat along a ray, and what blocks the way behind them.

    :param deep: whether to go on behind the first that ends it, down to the barrier.
    """
    scene = view.scene
    world_index = scene._world_index
    assert world_index is not None
    offers: list[tuple[Met, Node]] = []
    barrier: Barrier | None = None
    spot: Met | None = None
    if view.unrestricted and not view.held_panels:
        found = world_index.along(ray, deep)
        if len(found) == 1 and not found[0].blocks:  # mostly, so it goes a shorter way
            first = found[0]
            offers = [(first, node) for node in first.nodes]
            spot = first if first.at is None else None
            found = []
        ended = False
        for met in found:
            if met.blocks:
                barrier = None if ended and not deep else Barrier(because.REVERSE, met.root)
                break
            offers.extend((met, node) for node in met.nodes)
            if met.at is None and not ended:
                spot = met
            ended = ended or met.stops_input
    else:
        ended = False
        for on, node, bar in walk_beyond(view, ray):
            if bar is not None:
                barrier = bar
                break
            if node is not None and on is not None:
                offers.append((on, node))
                if on.at is None and not ended:
                    spot = on
                if node.stops_input:
                    ended = True
                    if not deep:
                        # What comes to a spot that nobody listens to is the world's, unless that is kept from it.
                        barrier = view.last() if node._effective != "solid" else None
                        break
    if len(offers) > 1:
        offers = _once(offers)
    if scene._index.reach_limits.get(kind):
        from glent.core.routing.hit.ray_reach import with_cone  # seldom wanted

        return with_cone(view, ray, kind, offers_beyond(offers, barrier, spot), deep)
    return offers_beyond(offers, barrier, spot)


def _once(offers: list[tuple[Met, Node]]) -> list[tuple[Met, Node]]:
    """Each node once, where a ray meets it first: it may come through a curved panel twice."""
    seen: set[Node] = set()
    left = []
    for one in offers:
        if one[1] not in seen:
            seen.add(one[1])
            left.append(one)
    return left


def walk_beyond(view: SeatView, ray: Ray) -> Iterator[tuple[Met | None, Node | None, Barrier | None]]:
    """All that a ray meets, front to back; from a barrier on each comes with it. A barrier that is no node comes alone.

    After the last, what keeps the world from getting what nobody took comes alone too.
    """
    world_index, top = view.scene._world_index, view.top
    assert world_index is not None
    barrier: Barrier | None = None
    if top is not None and not top.root._in_world:
        barrier = Barrier(because.MODAL, top)
        yield None, None, barrier
    for met in world_index.along(ray, True):
        if met.blocks and barrier is None:
            barrier = Barrier(because.REVERSE, met.root)
            yield met, None, barrier
        for node, bar in view.filtered(met.nodes, barrier):
            barrier = bar
            yield met, node, bar
        held = view.held_panels.get(met.root)
        if barrier is None and held is not None:
            barrier = Barrier(because.MODAL, held)
            yield met, None, barrier
    if barrier is None:
        barrier = view.last()
        if barrier is not None:
            yield None, None, barrier


def hits_along(
    view: SeatView, ray: Ray, kind: str, where: Callable[[Node], bool] | None, offered: bool = True
) -> list[Hit]:
    """All hits along a ray, front to back, as far as it goes."""
    view.scene._index.refresh()
    found = list(walk_beyond(view, ray))
    if view.scene._index.reach_limits.get(kind):
        for met, node in find_beyond(view, ray, kind).beyond:
            if met.beside:
                _put_in(found, met, node)
    hits = []
    seen: set[Node] = set()
    for on, hit, barrier in found:
        offered = offered and barrier is None
        if on is not None and hit is not None and hit not in seen and (where is None or where(hit)):
            seen.add(hit)
            hits.append(hit_of(on, hit, ray, offered))
            offered = offered and not hit.stops_input
    return hits


def _put_in(found: list[tuple[Met | None, Node | None, Barrier | None]], met: Met, node: Node) -> None:
    """Put what is reached beside the ray in its place among what the ray meets."""
    from glent.core.routing.hit.ray_reach import lies_before  # seldom wanted

    at = len(found)
    for number, (other, hit, barrier) in enumerate(found):
        if barrier is not None or other is None or (hit is not None and lies_before(node, met, hit, other)):
            at = number
            break
    found.insert(at, (met, node, None))


def hits_of_throw(view: SeatView, arc: Throw, where: Callable[[Node], bool] | None) -> list[Hit]:
    """What a throw meets, down to the first hit that ends it, with distances along the throw."""
    found: list[Hit] = []
    for piece in arc.pieces():
        for hit in hits_along(view, piece, "ray", where):
            found.append(hit)
            if hit.node.stops_input or not hit.offered:
                return found
    return found
