"""Every gesture by a single call, so that a framework can offer each by single presses (law G9; WCAG 2.5.1, 2.5.7)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from glent.core.errors import SceneError
from glent.core.input.samples import PointerButton
from glent.core.routing.aim import aim_at, on_screen
from glent.core.routing.event import Event
from glent.core.routing.gestures.contact import Contact
from glent.core.routing.gestures.drag import Drag
from glent.core.routing.pointers.pointer import BY_CODE, Pointer, Press

if TYPE_CHECKING:
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.scene.node import Node

__all__ = ["GESTURES"]


def _pointer_at(node: Node) -> Pointer:
    """A pointer of no device at the middle of a node.

    :raises SceneError: the node has left the scene, is hidden or disabled, or a modal keeps pointers from it (law M1).
    """
    scene = node._scene
    router: Any = scene.router if scene is not None else None
    if scene is None or router is None or not node.is_visible or not node.is_enabled:
        raise SceneError(f"{node.path}: no gesture can be done, the node is hidden, disabled or no longer in the scene")
    view = router.seat().view
    router._state.seats.refresh()
    if not view.keeps(node):
        modal = view.held_panels.get(node.root) or view.top
        raise SceneError(f"{node.path}: no gesture can be done behind {modal.path}, which is modal")
    width, height = node.size
    return Pointer(BY_CODE, "mouse", router.seat(), on_screen(node, width / 2.0, height / 2.0), aim_at(node))


def _send(gestures: Gestures, node: Node, kind: str, **data: Any) -> None:
    pointer = _pointer_at(node)
    event = Event(kind, node, BY_CODE, gestures.now, pointer.pos, None, 0, 0, data)
    event.aim = pointer.aim
    gestures.send(event)


def hold(gestures: Gestures, node: Node) -> str:
    """Send what a hold sends."""
    if node.listens("hold_progress"):
        _send(gestures, node, "hold_progress", progress=1.0)
    if node.scene is not None:
        _send(gestures, node, "hold", seconds=0.0)
    return "done"


def _dragged(gestures: Gestures, node: Node, go: Callable[[Drag, Contact], str]) -> str:
    """Drag a node by code, unless its source refuses. A handler of that very drag cannot begin it again."""
    if node in gestures.by_code:
        return "refused"
    gestures.by_code.add(node)
    try:
        begun = _begin_drag(gestures, node)
        return "refused" if begun is None else go(*begun)
    finally:
        gestures.by_code.discard(node)


def _begin_drag(gestures: Gestures, node: Node) -> tuple[Drag, Contact] | None:
    """Begin a drag of a node; None if its source refused it."""
    pointer = _pointer_at(node)
    press = Press(node, node.lineage(), PointerButton.PRIMARY, 1, gestures.now, pointer.pos)
    contact = Contact(gestures, pointer, press)
    press.compete(contact)
    one = Drag(node, gestures)
    one.contacts.append(contact)
    if not one.wants(contact) or node.scene is None:
        return None
    contact.won_by(one, [])
    one.won = True
    return one, contact


def carry(gestures: Gestures, source: Node, target: Node) -> str:
    """Send what a drag and drop sends."""
    at = _pointer_at(target).pos

    def go(one: Drag, contact: Contact) -> str:
        contact._pointer.step_to(*at, 1.0)
        return one.carry_to(contact, target)

    return _dragged(gestures, source, go)


def drag(gestures: Gestures, node: Node, dx: float, dy: float) -> str:
    """Send what a drag sends."""
    return _dragged(gestures, node, lambda one, contact: one.drag_by(contact, float(dx), float(dy)))


def scroll(gestures: Gestures, node: Node, dx: float, dy: float) -> str:
    """Send what scrolling sends."""
    gestures.scroll(node, float(dx), float(dy), BY_CODE, _pointer_at(node))
    return "done"


def pinch(gestures: Gestures, node: Node, scale: float, turn: float) -> str:
    """Send what two fingers send."""
    if not 0.0 < scale < 1e9:
        raise SceneError(f"{node.path}: cannot pinch by {scale!r}, expected a factor above zero")
    none = {"scale": 1.0, "turn": 0.0, "scale_by": 1.0, "turn_by": 0.0, "dx": 0.0, "dy": 0.0}
    whole = {**none, "scale": float(scale), "turn": float(turn)}
    for data in (
        {"phase": "start", **none},
        {"phase": "move", **whole, "scale_by": float(scale), "turn_by": float(turn)},
        {"phase": "end", **whole},
    ):
        if node.scene is not None:
            _send(gestures, node, "pinch", **data)
    return "done"


_WAYS = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "up": (0.0, -1.0), "down": (0.0, 1.0)}


def swipe(gestures: Gestures, node: Node, direction: str) -> str:
    """Send what a swipe sends."""
    if direction not in _WAYS:
        raise SceneError(f"{node.path}: cannot swipe {direction!r}, expected one of {', '.join(_WAYS)}")
    dx, dy = _WAYS[direction]
    feel = gestures.feel_of(node)
    far = feel.swipe_distance
    _send(gestures, node, "swipe", direction=direction, speed=feel.swipe_speed, dx=dx * far, dy=dy * far)
    return "done"


GESTURES: dict[str, Callable[..., str]] = {
    "carry": carry,
    "drag": drag,
    "hold": hold,
    "pinch": pinch,
    "scroll": scroll,
    "swipe": swipe,
}
"""Each by the name of the router's method for it."""
