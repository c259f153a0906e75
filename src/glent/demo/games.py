"""The demo's games by name, such as ``glent.demo.games:quay``: each a router, with the world behind it going along."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.demo import BRIDGE, GALLERY, HARBOUR, QUAY, TOWER
from glent.demo.worlds import world_for

if TYPE_CHECKING:
    from pathlib import Path

    from glent.core.routing.router import Router

__all__ = ["bridge", "gallery", "harbour", "quay", "shuttered", "tower", "two_pilots"]


def _played(path: Path, pilots: int = 1) -> Router:
    router, world = world_for(path, lambda error, event: None, pilots)
    router.watch(world.steer)
    return router


def harbour() -> Router:
    """The dispatcher's desk."""
    return _played(HARBOUR)


def shuttered() -> Router:
    """The same, with a fault: the night shutter was left rolled out over it, solid and unseen."""
    router = _played(HARBOUR)
    shutter = router.scene["hud/shutter"]
    shutter.place = shutter.place.replace(scale=1)
    return router


def quay() -> Router:
    """The quay."""
    return _played(QUAY)


def bridge() -> Router:
    """The bridge, with one pilot."""
    return _played(BRIDGE)


def two_pilots() -> Router:
    """The bridge, with two pilots."""
    return _played(BRIDGE, 2)


def tower() -> Router:
    """The tower."""
    return _played(TOWER)


def gallery() -> Router:
    """The gallery of controls."""
    return _played(GALLERY)
