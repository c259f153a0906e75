"""A small desk for tests of single laws: nodes from a short notation, and a log of what each hears."""

from __future__ import annotations

from typing import Any

from glent import Event, Node, Place, Router, Scene
from glent.testing import Hand

HEARD = ("enter", "leave", "press", "release", "cancel", "click", "move", "wheel")


class Desk:
    """A 100 × 100 scene with one layer, a router, a hand and a log of ``kind node`` for every node that listens."""

    def __init__(self, **nodes: dict[str, Any]) -> None:
        self.scene = Scene(size=(100, 100))
        self.layer = self.scene.layer("l")
        self.log: list[str] = []
        self.events: list[Event] = []
        self.errors: list[tuple[Exception, Event | None]] = []
        self.router = Router(self.scene, on_error=lambda error, event: self.errors.append((error, event)))
        self.hand = Hand(self.router)
        self.finger = Hand(self.router, "finger", "touch")
        self.thumb = Hand(self.router, "thumb", "touch")
        for path, given in nodes.items():
            self.add(path.replace("__", "/"), **given)

    def add(
        self, path: str, box: tuple[float, float, float, float] | None = None, hears: str = "", **given: Any
    ) -> Node:
        """A node at a path below the layer; ``box`` is left, top, width, height; ``hears`` kinds in words."""
        above, _, name = path.rpartition("/")
        parent = self.layer[above] if above else self.layer
        place = Place(*box[:2], width=box[2], height=box[3]) if box is not None else Place()
        node = parent.add(name, **{"place": place, **given})
        for kind in hears.split():
            node.on(kind, self.hear)
        return node

    def __getitem__(self, path: str) -> Node:
        return self.layer[path]

    def hear(self, event: Event) -> None:
        self.events.append(event)
        at = "" if event.here is event.node else f"@{event.here.name}"
        self.log.append(f"{event.kind} {event.node.name}{at}")

    def data(self, key: str) -> list[Any]:
        """One value of the data of each event heard."""
        return [event.data[key] for event in self.events if key in event.data]

    def said(self) -> list[str]:
        """The log since it was last asked for."""
        said, self.log = self.log, []
        return said
