"""Whether a player could press a node: what a careful hand asks before it acts."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import GlentError
from glent.core.routing.pointers.press import would_own
from glent.diagnose import why, why_ray

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.hit.point import Hit
    from glent.core.routing.router import Router
    from glent.core.scene.node import Node
    from glent.diagnose import Consideration

__all__ = ["OutOfReachError", "check_point", "check_ray"]


class OutOfReachError(GlentError, AssertionError):
    """A scripted user was to do what a player could not; the message says what is in the way."""


def check_point(router: Router, node: Node, x: float, y: float, kind: str) -> None:
    """Make sure that a press at a point of the screen comes to a node, or to something in it.

    :raises OutOfReachError: it does not.
    """
    __tracebackhide__ = True
    width, height = router.scene.window
    if not (0.0 <= x < width and 0.0 <= y < height):
        raise OutOfReachError(f"{node.path} cannot be pressed at {x:g}, {y:g}: that is outside of the window,"
                              f" which is {width:g} by {height:g}")  # fmt: skip
    where = f"at {x:g}, {y:g}"
    _check(node, router.hits(x, y, kind=kind), where, lambda: why(router, x, y, kind))


def check_ray(router: Router, node: Node, origin: Vector3, direction: Vector3) -> None:
    """The same of a ray in the world.

    :raises OutOfReachError: its press does not come to the node.
    """
    __tracebackhide__ = True
    _check(node, router.hits_ray(origin, direction), "by this ray", lambda: why_ray(router, origin, direction))


def _check(node: Node, hits: list[Hit], where: str, considered: Callable[[], list[Consideration]]) -> None:
    __tracebackhide__ = True
    offers = [hit.node for hit in hits if hit.offered]
    owner = would_own(offers)
    if owner is not None and not owner.is_within(node):
        kept = "is solid" if owner.effective_solidity == "solid" else "listens for what a press may become"
        raise OutOfReachError(f"{node.path} cannot be pressed {where}: {owner.path} is in front, and {kept}")
    if owner is not None:
        _check_enabled(node, owner, where)
        return
    passed = next((offer for offer in offers if offer.is_within(node)), None)
    if passed is not None:  # glass
        _check_enabled(node, passed, where)
        raise OutOfReachError(f"{node.path} cannot be pressed {where}: {passed.path} is glass and does not want it")
    told = next((one.sentence for one in considered() if one.node is node), f"nothing of {node.path} lies there")
    raise OutOfReachError(f"{node.path} cannot be pressed {where}: {told}")


def _check_enabled(node: Node, offer: Node, where: str) -> None:
    __tracebackhide__ = True
    off = next((one for one in offer.lineage() if not one.enabled), None)
    if off is not None:
        raise OutOfReachError(f"{node.path} cannot be pressed {where}: {off.path} is disabled")
