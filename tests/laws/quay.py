"""A small quay for tests of single laws of rays: a panel, water, a hand, a fingertip, and a log."""

from __future__ import annotations

from typing import Any

from glent import Area, Feel, Place, Router, Scene
from glent.testing import Fingertip, Wand

WATER = [(-50, -50), (50, -50), (50, 50), (-50, 50)]


class Quay:
    """A panel of 1 m × 1 m and 100 × 100 pixels, 2 m ahead at eye level, with water below; and a log."""

    def __init__(self, feel: Feel | None = None, water: bool = True, **panel: Any) -> None:
        self.scene = Scene((200, 100))
        given = {"size": (1.0, 1.0), "pixels": (100, 100), "position": (0.0, 1.5, -2.0), **panel}
        self.panel = self.scene.panel("board", **given)
        if water:
            self.water = self.scene.spot("water", Area(WATER), tags=["sea"])
        self.log: list[str] = []
        self.events: list[Any] = []
        self.errors: list[Exception] = []
        self.router = Router(self.scene, feel, on_error=lambda error, _: self.errors.append(error))
        self.wand = Wand(self.router, (0.0, 1.5, 0.0))
        self.tip = Fingertip(self.router)

    def add(self, name: str, box: tuple[float, float, float, float], hears: str = "click", **given: Any) -> Any:
        x, y, width, height = box
        parent = given.pop("parent", self.panel)
        node = parent.add(name, place=Place(left=x, top=y, width=width, height=height), **given)
        return self.hear(node, hears)

    def hear(self, node: Any, kinds: str) -> Any:
        for kind in kinds.split():
            node.on(kind, self._heard)
        return node

    def _heard(self, event: Any) -> None:
        self.events.append(event)
        self.log.append(f"{event.kind} {event.here.name}")

    def said(self) -> list[str]:
        said, self.log = self.log, []
        return said
