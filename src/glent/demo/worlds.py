"""A scene, the handlers on it, and the world behind it, ready to be fed."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from glent.core.routing.router import Router
from glent.demo import BINDINGS, BRIDGE, GALLERY, HARBOUR, QUAY, TOWER
from glent.demo.bridge import Bridge
from glent.demo.gallery import Gallery
from glent.demo.harbour import Harbour
from glent.demo.quay import Quay
from glent.demo.tower import Tower
from glent.formats import Recording, Step, read_bindings, read_scene, replay
from glent.wiring import Rehearsal

if TYPE_CHECKING:
    from glent.core.routing.dispatch import OnError

__all__ = ["World", "manned", "manned_bridge", "manned_gallery", "manned_quay", "manned_tower", "played", "world_for"]

World = Harbour | Quay | Bridge | Tower | Gallery | Rehearsal
"""What stands behind a scene: it takes samples with their verdicts by ``steer``, and notes its ``orders``."""


def manned(path: Path = HARBOUR, on_error: OnError | None = None) -> tuple[Router, Harbour]:
    """A router for the harbour's scene with the desk's handlers on it, and the world behind it."""
    router = Router(read_scene(path), on_error=on_error)
    harbour = Harbour(router.scene)
    harbour.man(router)
    return router, harbour


def manned_quay(path: Path = QUAY, on_error: OnError | None = None) -> tuple[Router, Quay]:
    """The same for the quay."""
    router = Router(read_scene(path), on_error=on_error)
    quay = Quay(router.scene)
    quay.man(router)
    return router, quay


def manned_bridge(pilots: int = 1, path: Path = BRIDGE, on_error: OnError | None = None) -> tuple[Router, Bridge]:
    """The same for the bridge, with one pilot or two."""
    router = Router(read_scene(path), on_error=on_error)
    router.seat().bindings = read_bindings(BINDINGS)["main"]
    bridge = Bridge(router.scene)
    bridge.man(router)
    if pilots > 1:
        bridge.second_pilot(router)
    return router, bridge


def manned_tower(path: Path = TOWER, on_error: OnError | None = None) -> tuple[Router, Tower]:
    """The same for the tower."""
    router = Router(read_scene(path), on_error=on_error)
    tower = Tower(router.scene)
    tower.man(router)
    return router, tower


def manned_gallery(path: Path = GALLERY, on_error: OnError | None = None) -> tuple[Router, Gallery]:
    """The same for the gallery of controls."""
    router = Router(read_scene(path), on_error=on_error)
    gallery = Gallery(router.scene)
    gallery.man(router)
    return router, gallery


def world_for(path: Path, on_error: OnError | None = None, pilots: int = 1) -> tuple[Router, World]:
    """The same for any scene file: the shipped ones have their worlds, others stand-ins (law D1)."""
    if path == BRIDGE:
        return manned_bridge(pilots, path, on_error)
    if path == HARBOUR:
        return manned(path, on_error)
    if path == QUAY:
        return manned_quay(path, on_error)
    if path == GALLERY:
        return manned_gallery(path, on_error)
    if path == TOWER:
        return manned_tower(path, on_error)
    router = Router(read_scene(path), on_error=on_error)
    return router, Rehearsal(router)


def played(router: Router, world: World, recording: Recording) -> list[Step]:
    """Replay a recording, and let the world have what is its own of each sample."""
    steps = []
    for step in replay(router, recording):
        world.steer(step.sample, step.verdict)
        steps.append(step)
    return steps
