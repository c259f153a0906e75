"""Why a node was hit at a point, or was not (law H8)."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import TYPE_CHECKING

from glent.core.errors import SampleError, SceneError
from glent.core.geometry.world.ray import Ray, checked_ray
from glent.core.routing.aim import Aim, camera_ray, local_of
from glent.core.routing.router import Router
from glent.core.scene.accessible import called
from glent.core.scene.island import BOX
from glent.core.scene.space import covers

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.seat_view import Barrier, SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel

__all__ = ["Consideration", "Outcome", "considered_at", "why", "why_ray"]


class Outcome(Enum):
    """What came of considering a node. The value is the sentence, with places for the node and who decided."""

    OFFERED = "{node} is hit and may have the input"
    REACHED = "{node} is hit by its reach, a little beside its shape"
    COVERED = "{node} is hit, but covered by {by}, which is solid"
    HIDDEN = "{node} is not there: {by} is not visible"
    GHOST = "{node} is passed over: {by} is a ghost"
    EMPTY = "{node} cannot be hit: {by} has no size, or is scaled to nothing"
    CLIPPED = "{node} is cut off here by {by}, which clips"
    HOLLOW = "{node} is hollow: it is never hit itself"
    MODAL = "{node} is hit, but lies behind {by}, which is modal"
    SEAT = "{node} is another seat's, by {by}"
    BLOCKED = "{node} is hit, but {by} blocks the way: it is in transition, or another seat's"
    UNSEEN = "{node} stands in the world, where no camera leads from here"
    MISSED = "the ray misses {by}, or ends before it"
    BACK = "the ray comes to the back of {by}, which is not two-sided"
    FAR = "the ray begins too far away from {by} to point at it"
    OUTSIDE = "the point is outside the shape of {node}"

    def __repr__(self) -> str:
        return f"<Outcome {self.name}>"


@dataclass(frozen=True, slots=True)
class Consideration:
    """One node that was considered at a point.

    :ivar node: the node. :ivar outcome: what came of it. :ivar by: the node that decided; the node itself, or another.
    :ivar inside: whether the point is in its shape, whatever else ruled it out: the ones worth looking at.
    :ivar disabled: the node that disables it, or None: it is hit all the same, and gets nothing (law S5).
    """

    node: Node
    outcome: Outcome
    by: Node
    inside: bool
    disabled: Node | None

    @property
    def hit(self) -> bool:
        """Whether it is among the hits."""
        return self.outcome in HITS

    @property
    def sentence(self) -> str:
        """The outcome as a sentence. Nodes stand in it by their paths."""
        return self._said(lambda node: node.path)

    @property
    def sentence_named(self) -> str:
        """The same, with nodes by what people call them (:attr:`Node.accessible_name`), and their paths after it."""
        return self._said(called)

    def _said(self, name_of: Callable[[Node], str]) -> str:
        node, by = name_of(self.node), name_of(self.by)
        if self.disabled is None or not self.hit:
            return self.outcome.value.format(node=node, by=by)
        off = "it is disabled" if self.disabled is self.node else f"{name_of(self.disabled)} around it is disabled"
        if self.outcome is Outcome.OFFERED or self.outcome is Outcome.REACHED:
            return f"{node} is hit and gets nothing: {off}"
        return f"{self.outcome.value.format(node=node, by=by)}; and {off}"


HITS = (Outcome.OFFERED, Outcome.REACHED, Outcome.COVERED, Outcome.MODAL, Outcome.BLOCKED)


def why(router: Router, x: float, y: float, kind: str = "mouse", seat: str | None = None) -> list[Consideration]:
    """Every node of the scene, front to back, and what ruled it out at a screen point, or that nothing did.

    What stands in the world comes after the layers, as the camera's ray meets it. Cost: a walk of the whole scene. The
    hits are those of ``router.hits(x, y, kind=kind)``, in the same order.
    """
    return list(considered_at(router, x, y, kind, seat))


def considered_at(
    router: Router, x: float, y: float, kind: str = "mouse", seat: str | None = None
) -> Iterator[Consideration]:
    """What :func:`why` tells, node by node, for those who have little time at once. What comes or goes meanwhile may be
    left out.

    :raises SceneError: as :func:`why`, at once. :raises SampleError: as ``router.hits``, at once.
    """
    if not isinstance(router, Router):
        raise SceneError(f"why: the router is {router!r}, expected a Router")
    return _considered_at(router, x, y, router.hits(x, y, kind=kind, seat=seat), kind, seat)


def _considered_at(
    router: Router, x: float, y: float, hits: list[Hit], kind: str, seat: str | None
) -> Iterator[Consideration]:
    scene = router.scene
    view = router._asker(x, y, seat).view
    barrier = next((found for _, found in view.walk(x, y, kind) if found is not None), None)
    offered = {hit.node: hit.offered for hit in hits}
    cover = next((hit.node for hit in hits if hit.node.stops_input), None)
    for layer in scene.layers:
        for node in _front_to_back(layer):
            inside = covers(node, x, y)
            outcome, by = _miss(node, inside, lambda one: covers(one, x, y))
            yield _considered(view, node, outcome, by, inside, offered, cover, barrier)
    if scene.in_world:
        yield from _in_world(view, camera_ray(view, x, y), hits, barrier)


def _front_to_back(root: Node) -> Iterator[Node]:
    """A tree in the reverse of paint order: what lies in a node is in front of it."""
    stack: list[tuple[Node, bool]] = [(root, False)]
    while stack:
        node, is_below_done = stack.pop()
        if node.scene is None:
            continue
        if is_below_done:
            yield node
            continue
        stack.append((node, True))
        stack += [(child, False) for child in node.children_painted()]


def why_ray(
    router: Router, origin: Vector3, direction: Vector3, length: float | None = None, seat: str = "main"
) -> list[Consideration]:
    """Every node that stands in the world, front to back, and what ruled it out along a ray, or that nothing did.

    Cost: a walk of all panels and spots. The hits are those of ``router.hits_ray(origin, direction)``.

    :raises SampleError: as :meth:`Router.hits_ray`.
    """
    ray = Ray(*checked_ray(origin, direction, length, "why_ray", SampleError))
    hits = router.hits_ray(origin, direction, length, seat=seat)
    return _in_world(router.seat(seat).view, ray, hits, None)


def _in_world(view: SeatView, ray: Ray | None, hits: list[Hit], barrier: Barrier | None) -> list[Consideration]:
    """The same of all panels and spots: what was hit in its order, then the rest as it was made."""
    offered = {hit.node: hit.offered for hit in hits}
    cover = next((hit.node for hit in hits if hit.node.stops_input), None)
    order = {hit.node: number for number, hit in enumerate(hits)}
    found = []
    aim = Aim(ray)
    for root in view.scene.in_world:
        missed = _missed(root, ray)
        for node in reversed(list(root.walk())):

            def holds(one: Node) -> bool:
                width, height = one.size
                return (one.shape or BOX).contains(*local_of(one, (0.0, 0.0), aim), width, height)

            inside = missed is None and ((node._own is None and node.parent is None) or holds(node))
            outcome, by = _miss(node, inside, holds, missed)
            found.append(_considered(view, node, outcome, by, inside, offered, cover, barrier))
    return sorted(found, key=lambda one: order.get(one.node, len(order)))


def _missed(root: Node, ray: Ray | None) -> Outcome | None:
    """Why a ray does not come to a panel or a spot at all; None if it does."""
    if ray is None:
        return Outcome.UNSEEN
    if root._own is None:
        return None if root._met_by(ray.origin, ray.direction, ray.length, True) else Outcome.MISSED  # type: ignore[attr-defined]
    panel: Panel = root  # type: ignore[assignment]
    pose = panel.pose
    crossings = panel.surface.crossings(pose.into(ray.origin), pose.into_way(ray.direction), ray.length)
    if not crossings:
        return Outcome.MISSED
    if not panel.two_sided and not any(front for _, _, _, front in crossings):
        return Outcome.BACK
    return Outcome.FAR if panel.range is not None and crossings[0][0] > panel.range else None


def _considered(
    view: SeatView,
    node: Node,
    outcome: Outcome,
    by: Node,
    inside: bool,
    offered: dict[Node, bool],
    cover: Node | None,
    barrier: Barrier | None,
) -> Consideration:
    if node in offered:
        if not offered[node]:
            outcome, by = _blocked(view, node, cover, barrier)
        else:
            outcome, by = (Outcome.OFFERED if inside else Outcome.REACHED), node
    elif view.whose(node) != "own" and outcome in (Outcome.HOLLOW, Outcome.OUTSIDE) and inside:
        outcome, by = Outcome.SEAT, _stranger(view, node)
    disabled = next((one for one in node.lineage() if not one.enabled), None)
    return Consideration(node, outcome, by, inside, disabled)


def _blocked(view: SeatView, node: Node, cover: Node | None, barrier: Barrier | None) -> tuple[Outcome, Node]:
    """What keeps a hit from being offered: a solid in front of it, or what blocks the way."""
    if not view.keeps(node):
        return Outcome.MODAL, view.held_panels.get(node.root) or view.top or node
    if cover is not None and (barrier is None or barrier.about is not cover):
        return Outcome.COVERED, cover
    about = barrier.about if barrier is not None and not isinstance(barrier.about, str) else node
    return Outcome.BLOCKED, about


def _stranger(view: SeatView, node: Node) -> Node:
    """The outermost node by which another one is not for a seat."""
    return next(one for one in node.lineage() if view.whose(one) != "own")


def _miss(
    node: Node, inside: bool, holds: Callable[[Node], bool], missed: Outcome | None = None
) -> tuple[Outcome, Node]:
    """What rules a node out, the outermost cause first."""
    line = node.lineage()
    for one in line:
        if not one.visible:
            return Outcome.HIDDEN, one
        if one.solidity == "ghost":
            return Outcome.GHOST, one
        if one._forward is not None and one._inverse is None:
            return Outcome.EMPTY, one
    if missed is not None:
        return missed, line[0]
    width, height = node.size
    if (width <= 0.0 or height <= 0.0) and not node._in_world:
        return Outcome.EMPTY, node
    if not inside:
        return Outcome.OUTSIDE, node
    for above in line[:-1]:
        if above.clips and not holds(above):
            return Outcome.CLIPPED, above
    return Outcome.HOLLOW, node
