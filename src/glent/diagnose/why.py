"""Why a node was hit at a point, or was not (law H8)."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum
from typing import TYPE_CHECKING

from glent.core.scene.space import covers

if TYPE_CHECKING:
    from glent.core.routing.router import Router
    from glent.core.routing.view import Barrier, View
    from glent.core.scene.node import Node

__all__ = ["Consideration", "Outcome", "why"]


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
    BARRED = "{node} is hit, but {by} bars the way: it is coming or going, or another seat's"
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
        """The outcome as a sentence."""
        text = self.outcome.value.format(node=self.node.path, by=self.by.path)
        return f"{text}; disabled by {self.disabled.path}" if self.disabled is not None and self.hit else text


HITS = (Outcome.OFFERED, Outcome.REACHED, Outcome.COVERED, Outcome.MODAL, Outcome.BARRED)


def why(router: Router, x: float, y: float, kind: str = "mouse", seat: str | None = None) -> list[Consideration]:
    """Every node of the scene, front to back, and what ruled it out at a screen point, or that nothing did.

    Cost: a walk of the whole scene. The hits are those of ``router.hits(x, y, kind=kind)``, in the same order.
    """
    scene = router.scene
    hits = router.hits(x, y, kind=kind, seat=seat)
    view = router._asker(x, y, seat).view
    barrier = next((found for _, found in view.walk(x, y, kind) if found is not None), None)
    offered = {hit.node: hit.offered for hit in hits}
    cover = next((hit.node for hit in hits if hit.node.effective == "solid"), None)
    found = []
    for layer in scene.layers:
        for node in reversed(list(layer.walk())):
            inside = covers(node, x, y)
            outcome, by = _miss(node, x, y, inside)
            if node in offered:
                if not offered[node]:
                    outcome, by = _barred(view, node, cover, barrier)
                else:
                    outcome, by = (Outcome.REACHED if outcome is Outcome.OUTSIDE else Outcome.OFFERED), node
            elif view.whose(node) != "own" and outcome in (Outcome.HOLLOW, Outcome.OUTSIDE) and inside:
                outcome, by = Outcome.SEAT, _stranger(view, node)
            disabled = next((one for one in node.line() if not one.enabled), None)
            found.append(Consideration(node, outcome, by, inside, disabled))
    return found


def _barred(view: View, node: Node, cover: Node | None, barrier: Barrier | None) -> tuple[Outcome, Node]:
    """What keeps a hit from being offered: a solid in front of it, or what bars the way."""
    if view.top is not None and not view.keeps(node):
        return Outcome.MODAL, view.top
    if cover is not None and (barrier is None or barrier.about is not cover):
        return Outcome.COVERED, cover
    about = barrier.about if barrier is not None and not isinstance(barrier.about, str) else node
    return Outcome.BARRED, about


def _stranger(view: View, node: Node) -> Node:
    """The outermost node by which another one is not for a seat."""
    return next(one for one in node.line() if view.whose(one) != "own")


def _miss(node: Node, x: float, y: float, inside: bool) -> tuple[Outcome, Node]:
    """What rules a node out, the outermost cause first."""
    line = node.line()
    for one in line:
        if not one.visible:
            return Outcome.HIDDEN, one
        if one.solidity == "ghost":
            return Outcome.GHOST, one
        if one._forward is not None and one._inverse is None:
            return Outcome.EMPTY, one
    width, height = node.size
    if width <= 0.0 or height <= 0.0:
        return Outcome.EMPTY, node
    if not inside:
        return Outcome.OUTSIDE, node
    for above in line[:-1]:
        if above.clips and not covers(above, x, y):
            return Outcome.CLIPPED, above
    return Outcome.HOLLOW, node
