"""A scene, the handlers on it, and the world behind it, ready to be fed."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from glent.core.routing.router import Router
from glent.demo import HARBOUR, QUAY
from glent.demo.harbour import Harbour
from glent.demo.quay import Quay
from glent.formats import read_scene

if TYPE_CHECKING:
    from glent.core.routing.flow import OnError

__all__ = ["World", "manned", "manned_quay", "world_for"]

World = Harbour | Quay
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


def world_for(path: Path, on_error: OnError | None = None) -> tuple[Router, World | None]:
    """The same for any scene file; only the shipped ones have handlers and a world."""
    if path == HARBOUR:
        return manned(path, on_error)
    if path == QUAY:
        return manned_quay(path, on_error)
    return Router(read_scene(path), on_error=on_error), None
