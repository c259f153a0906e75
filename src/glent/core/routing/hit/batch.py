"""Thousands of rays at once, in NumPy, each with the answer it would have alone (laws H7, X1)."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

import numpy as np

from glent.core.errors import SampleError
from glent.core.geometry.world.ray import Ray, checked_ray
from glent.core.geometry.world.surfaces import Curved, Flat
from glent.core.routing.hit.ray import find_beyond, hits_along

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glent.core.geometry.world.form import Form
    from glent.core.geometry.world.surfaces import Surface
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.spot import Spot
    from glent.core.scene.world_index import WorldIndex

__all__ = ["RayHits", "hits_of_rays"]


class RayHits:
    """The first offered hit of each of n rays.

    :ivar nodes: the node of each, or None.
    :ivar distance: how far along the ray, metres, of shape (n,); infinite where nothing was hit.
    :ivar point: where in the world, metres, of shape (n, 3); NaN where nothing was hit.
    :ivar normal: what stands square there, on the side that the ray came from, of shape (n, 3); NaN there too.
    :ivar blocked: where a panel's back lets nobody through, of shape (n,).
    :ivar local: where on a panel, in the panel's pixels, of shape (n, 2); NaN off panels.
    """

    __slots__ = ("blocked", "distance", "local", "nodes", "normal", "point")

    def __init__(self, count: int) -> None:
        self.nodes: list[Node | None] = [None] * count
        self.distance = np.full(count, np.inf)
        self.point = np.full((count, 3), np.nan)
        self.normal = np.full((count, 3), np.nan)
        self.local = np.full((count, 2), np.nan)
        self.blocked = np.zeros(count, dtype=bool)

    def __len__(self) -> int:
        return len(self.nodes)


def hits_of_rays(view: SeatView, origins: Any, directions: Any, length: float | None, kind: str = "ray") -> RayHits:
    """The first offered hit of each ray. ``kind`` is that of the pointer asked for, whose reach may be longer."""
    o, d, far = _checked(origins, directions, length)
    hits = RayHits(o.shape[1])
    world_index = view.scene._world_index
    if world_index is None or not o.shape[1]:
        return hits
    view.scene._index.refresh()
    world_index.refresh()
    if not view.unrestricted or view.held_panels or view.scene._index.reach_limits.get(kind):
        _one_by_one(
            view, o, d, far, kind, hits
        )  # where a modal, a seat or a reach has a say, each ray is asked by itself
    else:
        _all_at_once(world_index, o, d, far, hits)
    return hits


def _checked(origins: Any, directions: Any, length: float | None) -> tuple[Any, Any, float]:
    try:
        ways = np.array(directions, dtype=float)
        starts = np.array(origins, dtype=float)
    except (TypeError, ValueError):
        raise SampleError("hits_rays: origins and directions must be arrays of numbers, of shape (n, 3)") from None
    if ways.ndim != 2 or ways.shape[1] != 3:
        raise SampleError(f"hits_rays: directions has the shape {ways.shape}, expected (n, 3)")
    if starts.shape not in ((3,), ways.shape):
        raise SampleError(f"hits_rays: origins has the shape {starts.shape}, expected (3,) or {ways.shape}")
    starts = np.broadcast_to(starts, ways.shape)
    long = np.sqrt((ways * ways).sum(axis=1))
    bad = np.flatnonzero(~((np.abs(starts) <= 1e9).all(axis=1) & (long > 1e-150) & (long <= 1e9)))
    if len(bad):
        row = int(bad[0])
        checked_ray(starts[row].tolist(), ways[row].tolist(), None, f"hits_rays: row {row}", SampleError)
        raise SampleError(f"hits_rays: row {row}: direction is {ways[row].tolist()}, expected one of a length near 1")
    _, _, far = checked_ray((0.0, 0.0, 0.0), (0.0, 0.0, 1.0), length, "hits_rays", SampleError)
    return np.ascontiguousarray(starts.T), np.ascontiguousarray((ways / long[:, None]).T), far


def _one_by_one(view: SeatView, o: Any, d: Any, far: float, kind: str, hits: RayHits) -> None:
    for number, (start, way) in enumerate(zip(o.T.tolist(), d.T.tolist(), strict=True)):
        ray = Ray(tuple(start), tuple(way), far)
        first = next((hit for hit in hits_along(view, ray, kind, None) if hit.offered), None)
        if first is None:
            hits.blocked[number] = find_beyond(view, ray, kind).barrier is not None
        if first is not None and first.distance is not None:
            hits.nodes[number] = first.node
            hits.distance[number] = first.distance
            hits.point[number], hits.normal[number] = first.point, first.normal
            root: Any = first.node.root
            if root._own is not None:
                at = root.from_ray(ray) if first.point is None else root.surface.foot(root.pose.into(first.point))[:2]
                hits.local[number] = at


class _Group:
    """Panels of one kind of surface, or spots of one kind of form."""

    __slots__ = ("columns", "kind", "numbers", "places", "turns")

    def __init__(self, kind: Any, numbers: list[int], roots: Sequence[Panel | Spot]) -> None:
        self.kind = kind
        self.numbers = np.array(numbers)
        members: list[Any] = [roots[number] for number in numbers]
        self.turns = np.array([one.pose.inverse for one in members]).T
        self.places = np.array([one.pose.position for one in members]).T
        if issubclass(kind, Flat | Curved):
            surfaces: list[Surface] = [one.surface for one in members]
            self.columns: Any = np.array(
                [
                    (
                        *one.numbers(),
                        panel.two_sided,
                        panel.reverse == "blocked",
                        math.inf if panel.range is None else panel.range,
                    )
                    for one, panel in zip(surfaces, members, strict=True)
                ]
            ).T
        else:
            forms: list[Form] = [one.form for one in members]
            self.columns = kind._columns(forms)

    def into(self, which: Any, o: Any, d: Any) -> tuple[Any, Any]:
        """Rays in the spaces of members."""
        turn = self.turns[:, which]
        away = o - self.places[:, which]
        made = []
        for x, y, z in (away, d):
            made.append(np.stack([turn[row] * x + turn[row + 1] * y + turn[row + 2] * z for row in (0, 3, 6)]))
        return made[0], made[1]

    def out_normals(self, which: Any, normals: Any) -> Any:
        """Normals of members in the world, of length 1."""
        turn = self.turns[:, which]
        x, y, z = normals
        made = np.stack([turn[column] * x + turn[column + 3] * y + turn[column + 6] * z for column in (0, 1, 2)])
        return made / np.sqrt((made * made).sum(axis=0))


class _Batch:
    """All that stands in the world, by kind, as arrays."""

    __slots__ = ("group_of", "groups", "place_of", "ranks", "roots", "things")

    def __init__(self, things: Any, ranks: Any) -> None:
        roots: list[Panel | Spot] = things.tolist()
        self.things = things
        self.roots = roots
        self.ranks = ranks
        kinds: dict[Any, list[int]] = {}
        for number, root in enumerate(roots):
            one: Any = root
            kinds.setdefault(type(one.surface) if root._own is not None else type(one.form), []).append(number)
        self.groups = [_Group(kind, numbers, roots) for kind, numbers in kinds.items()]
        self.group_of = np.zeros(len(roots), dtype=np.intp)
        self.place_of = np.zeros(len(roots), dtype=np.intp)
        for index, group in enumerate(self.groups):
            self.group_of[group.numbers] = index
            self.place_of[group.numbers] = np.arange(len(group.numbers))


def _batch_of(world_index: WorldIndex) -> tuple[Any, _Batch]:
    flat = world_index.volumes.flat()
    known = world_index.batch
    if known is None or known[0] is not flat or known[1] != world_index.many:
        known = world_index.batch = (
            flat,
            world_index.many,
            _Batch(flat.things, world_index.ranks(flat.things.tolist())),
        )
    return flat, known[2]


def _all_at_once(
    world_index: WorldIndex, o: NDArray[np.float64], d: NDArray[np.float64], far: float, hits: RayHits
) -> None:
    flat, batch = _batch_of(world_index)
    spots: list[tuple[Any, ...]] = []
    panels: list[tuple[Any, ...]] = []
    ends = np.full(o.shape[1], far)
    # The large things first: no ray has to look for anything beyond the ground.
    _meet(batch, o, d, ends, flat.pairs(o, d, ends, large=True), spots, panels)
    for ray, t, *_ in spots:
        np.minimum.at(ends, ray, t)
    _meet(batch, o, d, ends, flat.pairs(o, d, ends, large=False), spots, panels)
    if spots:
        ray, t, number, normal = (np.concatenate([one[n] for one in spots], axis=-1) for n in range(4))
        _take_nearest(batch, o, d, (ray, t, number, normal), hits)
    if panels:
        ray, t, number, x, y, seen = (np.concatenate([one[n] for one in panels]) for n in range(6))
        _ask_panels(world_index, batch, o, d, (ray, t, number, x, y, seen), hits)


def _meet(
    batch: _Batch,
    o: Any,
    d: Any,
    ends: Any,
    pairs: tuple[Any, Any],
    spots: list[tuple[Any, ...]],
    panels: list[tuple[Any, ...]],
) -> None:
    """Where rays meet the things whose boxes they meet, kind by kind."""
    rays, numbers = pairs
    of_group = batch.group_of[numbers]
    for index, group in enumerate(batch.groups):
        mine = np.flatnonzero(of_group == index)
        if not len(mine):
            continue
        ray, number = rays[mine], numbers[mine]
        which = batch.place_of[number]
        local_o, local_d = group.into(which, o[:, ray], d[:, ray])
        if issubclass(group.kind, Flat | Curved):
            _cross_panels(group, which, ray, number, local_o, local_d, ends[ray], panels)
        else:
            t, normals = group.kind._many(group.columns, which, local_o, local_d)
            met = np.flatnonzero(np.isfinite(t) & (t <= ends[ray]))
            spots.append((ray[met], t[met], number[met], group.out_normals(which[met], normals[:, met])))


def _cross_panels(
    group: _Group, which: Any, ray: Any, number: Any, o: Any, d: Any, far: Any, found: list[tuple[Any, ...]]
) -> None:
    columns = group.columns[:, which]
    two_sided, blocked, ranges = columns[-3], columns[-2], columns[-1]
    for t, x, y, front in group.kind.many(columns[:-3], o, d):
        seen = front | (two_sided > 0.0)
        met = np.flatnonzero(np.isfinite(t) & (t <= far) & (t <= ranges) & (seen | (blocked > 0.0)))
        found.append((ray[met], t[met], number[met], x[met], y[met], seen[met]))


def _take_nearest(batch: _Batch, o: Any, d: Any, met: tuple[Any, ...], hits: RayHits) -> None:
    """The nearest spot of each ray; of two at one distance the one that is in front."""
    ray, t, number, normal = met
    np.minimum.at(hits.distance, ray, t)
    first = np.flatnonzero(t == hits.distance[ray])
    if np.bincount(ray[first]).max(initial=0) > 1:
        first = first[np.lexsort((-batch.ranks[number[first]], ray[first]))]
        first = first[np.flatnonzero(np.diff(ray[first], prepend=-1))]
    ray, t, number, normal = ray[first], t[first], number[first], normal[:, first]
    way = d[:, ray]
    normal = np.where((normal * way).sum(axis=0) <= 0.0, normal, -normal)
    hits.point[ray] = (o[:, ray] + t * way).T
    hits.normal[ray] = normal.T
    nodes = np.full(len(hits), None, dtype=object)
    nodes[ray] = batch.things[number]
    hits.nodes = nodes.tolist()


def _ask_panels(world_index: WorldIndex, batch: _Batch, o: Any, d: Any, met: tuple[Any, ...], hits: RayHits) -> None:
    """Panels that a ray meets before the nearest spot, nearest first: whether anything is hit on them."""
    ray, t, number, x, y, seen = met
    rank = batch.ranks
    near = np.flatnonzero(t <= hits.distance[ray])
    order = near[np.lexsort((-rank[number[near]], t[near], ray[near]))]
    done = -1
    for one, far, which, px, py, front in zip(
        *(part[order].tolist() for part in (ray, t, number, x, y, seen)), strict=True
    ):
        if one == done:
            continue
        panel: Any = batch.roots[which]
        if far == hits.distance[one] and hits.nodes[one] is not None:
            # Beside a spot at the very same distance, what is in front of the two decides.
            spot: Any = hits.nodes[one]
            if world_index.is_in_front(spot, panel):
                continue
        nodes: list[Node] = []
        if front:
            panel._own.meet(panel, px, py, nodes, False)
            if not nodes:
                continue
        done = one
        hits.nodes[one] = nodes[0] if nodes else None
        if not nodes:  # its back lets nobody through
            hits.blocked[one] = True
            hits.distance[one], hits.point[one], hits.normal[one] = np.inf, np.nan, np.nan
            continue
        normal = np.array(panel.normal(px, py))
        way = d[:, one]
        hits.distance[one] = far
        hits.point[one] = o[:, one] + far * way
        hits.normal[one] = normal if normal @ way <= 0.0 else -normal
        hits.local[one] = px, py
