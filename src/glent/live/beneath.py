"""What lies at a point of the screen, front to back, whether it can be hit or only draws, each with its reason."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from glent.core.scene.spot import Spot
from glent.diagnose.why import Consideration, Outcome, why

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["MARKS", "Beneath", "beneath", "told_of"]

MARKS = {
    Outcome.OFFERED: "hit",
    Outcome.REACHED: "within reach",
    Outcome.COVERED: "covered",
    Outcome.HIDDEN: "hidden",
    Outcome.GHOST: "ghost",
    Outcome.EMPTY: "no size",
    Outcome.CLIPPED: "clipped",
    Outcome.HOLLOW: "only drawn",
    Outcome.MODAL: "behind a modal",
    Outcome.SEAT: "another seat's",
    Outcome.BLOCKED: "blocked",
    Outcome.UNSEEN: "not in view",
    Outcome.MISSED: "missed",
    Outcome.BACK: "its back",
    Outcome.FAR: "too far",
    Outcome.OUTSIDE: "outside",
}
"""Each outcome in a word or two."""


@dataclass(frozen=True, slots=True)
class Beneath:
    """A node that lies at a point.

    :ivar node: the node. :ivar mark: what became of it, in a word or two: ``hit``, ``covered``, ``hidden``, ``ghost``,
        ``only drawn``, …. :ivar sentence: the same with its reason. :ivar hit: whether it is hit. :ivar by: the node
        that decided: itself, what covers it, the ancestor that hides it, ….
    """

    node: Node
    mark: str
    sentence: str
    hit: bool
    by: Node


def beneath(router: Router, x: float, y: float, kind: str = "mouse", seat: str | None = None) -> list[Beneath]:
    """All that lies at a point in window pixels, front to back: what is hit, covered, only drawn, hidden, a ghost.

    Roots that are as large as their scene, and do nothing, are left out. Cost: a walk of the whole scene.
    """
    return told_of(why(router, x, y, kind, seat))


def told_of(considered: Iterable[Consideration]) -> list[Beneath]:
    """Of all that was considered, what lies there."""
    return [_told(one) for one in considered if _lies_there(one)]


def _lies_there(one: Consideration) -> bool:
    if one.hit:
        return True
    if not one.inside or one.outcome in (Outcome.MISSED, Outcome.UNSEEN):
        return False
    return one.node.parent is not None or isinstance(one.node, Spot) or one.node.effective_solidity != "hollow"


def _told(one: Consideration) -> Beneath:
    mark = MARKS[one.outcome]
    if one.hit and one.disabled is not None:
        mark += ", disabled"
    return Beneath(one.node, mark, one.sentence, one.hit, one.by)
