"""What a key or pad button does to the node with the focus: ``activate``, and by default the click (law W4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import Button
from glent.core.routing.event import Event
from glent.core.routing.hit.aim import aim_at, on_screen

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Flow
    from glent.core.scene.node import Node

__all__ = ["activate"]


def activate(flow: Flow, node: Node, device: str, time: float, seat: str, code: str) -> bool:
    """Send ``activate`` to a node and, unless a handler takes it, the click it stands for; whether it was taken.

    Both are at the node's middle; ``event.pointer`` is the device, and ``data["code"]`` its control.
    """
    scene = node._scene
    if scene is None:
        return False
    width, height = node.size
    pos = on_screen(node, width / 2.0, height / 2.0)
    data = {"device": device, "code": code}
    path = node.line()
    event = Event("activate", node, device, time, pos, None, 0, 0, data, seat)
    event.aim = aim_at(node)
    if flow.send(event, path):
        return True
    if node._scene is not None:
        click = Event("click", node, device, time, pos, Button.PRIMARY, 0, 1, data, seat)
        click.aim = event.aim
        flow.send(click, path)
    return False
