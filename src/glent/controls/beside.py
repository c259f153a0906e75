"""Where a popup or a tooltip goes: beside what it belongs to, on the side where it fits (law C8)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.arguments import is_choice
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.place import Length

__all__ = ["SIDES", "checked_side", "put_at", "put_beside"]

SIDES = {"below": (1, 1), "above": (1, -1), "right": (0, 1), "left": (0, -1)}
"""By side: the axis, and which way along it."""

NEAR = 1e-6


def checked_side(side: str, where: str) -> str:
    """A side.

    :raises ControlError: it is none.
    """
    if not is_choice(side, SIDES):
        raise ControlError(f"{where}: side is {side!r}, expected one of {', '.join(SIDES)}")
    return side


def put_beside(node: Node, opener: Node, side: str, gap: float = 0.0) -> None:
    """Put a node beside another: on this side if there is room in its parent, else opposite if there is more.

    Along the side it begins where the opener does, and is moved back as far as it has to be to lie within the parent.
    Nothing is set that is so already, so it can be asked again at each settle.
    """
    parent, scene = node.parent, node.scene
    if parent is None or scene is None or opener.scene is not scene:
        return
    box, room, size = scene.box(opener, parent), parent.size, node.size
    main, ahead = SIDES[side]
    after, before = room[main] - box[main + 2] - gap, box[main] - gap
    wanted, other = (after, before) if ahead > 0 else (before, after)
    if size[main] > wanted and other > wanted:
        ahead = -ahead
    at = [0.0, 0.0]
    at[main] = box[main + 2] + gap if ahead > 0 else box[main] - gap - size[main]
    at[1 - main] = max(0.0, min(box[1 - main], room[1 - main] - size[1 - main]))
    put_at(node, at[0], at[1])


def put_at(node: Node, left: float, top: float) -> None:
    """Put the top left corner of a node somewhere in its parent; it keeps its size."""
    place, (width, height) = node.place, node.size
    if place.right is None and place.bottom is None and _is(place.left, left) and _is(place.top, top):
        return
    node.set_for_now(
        place=place.replace(
            left=left,
            top=top,
            right=None,
            bottom=None,
            width=width if place.width is None else place.width,
            height=height if place.height is None else place.height,
        )
    )


def _is(given: Length | None, wanted: float) -> bool:
    return isinstance(given, int | float) and abs(given - wanted) < NEAR
