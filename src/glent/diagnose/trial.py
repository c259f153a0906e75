"""A game to try things on: made anew for each question, so that no question is answered by what another one did."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import KeySample, PadSample, PointerSample, TickSample, WindowSample
from glent.core.scene.kinds import MAKES_SOLID
from glent.core.scene.space import covers

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.diagnose.findings import Mend

__all__ = ["Trial", "is_interactive", "is_pressable", "points_of"]

PACE = 1.0
"""Seconds from one try to the next: no two are one double click."""
HELD, FRAME = 2.0, 0.05
"""Seconds that a press is held, and from one tick to the next."""
GRID = (0.5, 0.1, 0.9, 0.3, 0.7)


class Trial:
    """A game as it begins, and someone who tries it.

    :param build: makes the game. :param size: of its window, pixels; None: as it is.
    """

    __slots__ = ("_now", "_pointers", "router", "scene")

    def __init__(self, build: Callable[[], Router], size: tuple[float, float] | None = None) -> None:
        self.router = build()
        self.scene = self.router.scene
        self._now = max(0.0, self.router.now) + PACE
        self._pointers = 0
        if size is not None:
            self.router.feed(WindowSample(self._now, "size", *size))
        self.wait(PACE)

    def __getitem__(self, path: str) -> Node:
        return self.scene[path]

    def apply(self, mend: Mend) -> None:
        """Make a change."""
        setattr(self.scene[mend.path], mend.name, mend.value)
        self.router.settle()

    def wait(self, seconds: float) -> None:
        """Let time pass."""
        self._now += seconds
        self.router.feed(TickSample(self._now))

    def press(self, x: float, y: float, kind: str = "mouse") -> Verdict:
        """Press and release at a point, with a pointer that was never seen before. Return the verdict of the press."""
        self._pointers += 1
        name = "mouse" if kind == "mouse" else f"{kind}-{self._pointers}"
        if kind == "mouse":
            self.router.feed(PointerSample(self._now, "move", x, y, name, kind))
        verdict = self.router.feed(PointerSample(self._now, "press", x, y, name, kind))
        self._now += 0.05
        self.router.feed(PointerSample(self._now, "release", x, y, name, kind))
        self.wait(PACE)
        return verdict

    def gives(self, path: str, verdict: Verdict) -> bool:
        """Whether a verdict gives its sample to a node, or to something in it."""
        return verdict.owner is not None and verdict.owner.is_within(self.scene[path])

    def move(self, x: float, y: float) -> Verdict:
        """Move the mouse there."""
        self._now += 0.05
        return self.router.feed(PointerSample(self._now, "move", x, y))

    def drag(self, x: float, y: float, dx: float, dy: float) -> list[str]:
        """Drag the mouse from a point by a distance. Return what was told of it, as kind and path."""
        told = [*self.router.feed(PointerSample(self._now, "move", x, y)).events]
        told += self.router.feed(PointerSample(self._now, "press", x, y)).events
        for step in range(1, 9):
            self._now += 0.02
            sample = PointerSample(self._now, "move", x + dx * step / 8.0, y + dy * step / 8.0, buttons=1)
            told += self.router.feed(sample).events
        told += self.router.feed(PointerSample(self._now, "release", x + dx, y + dy)).events
        return [f"{event.kind} {event.node.path}" for event in told]

    def hold(self, x: float, y: float) -> list[str]:
        """Hold the mouse down at a point for longer than a hold takes. Return what was told of it."""
        told = [*self.router.feed(PointerSample(self._now, "move", x, y)).events]
        told += self.router.feed(PointerSample(self._now, "press", x, y)).events
        for _ in range(round(HELD / FRAME)):
            self._now += FRAME
            told += self.router.feed(TickSample(self._now)).events
        told += self.router.feed(PointerSample(self._now, "release", x, y)).events
        return [f"{event.kind} {event.node.path}" for event in told]

    def swipe(self, x: float, y: float, dx: float, dy: float) -> list[str]:
        """Swipe by a finger from a point, fast. Return what was told of it."""
        self._pointers += 1
        name = f"swipe-{self._pointers}"
        told = [*self.router.feed(PointerSample(self._now, "press", x, y, name, "touch")).events]
        for step in range(1, 5):
            self._now += 0.01
            at = x + dx * step / 4.0, y + dy * step / 4.0
            told += self.router.feed(PointerSample(self._now, "move", *at, name, "touch", None, 1)).events
        told += self.router.feed(PointerSample(self._now, "release", x + dx, y + dy, name, "touch")).events
        return [f"{event.kind} {event.node.path}" for event in told]

    def key(self, code: str) -> Verdict:
        """Press a key and let it go."""
        self._now += 0.05
        verdict = self.router.feed(KeySample(self._now, "down", code))
        self.router.feed(KeySample(self._now, "up", code))
        self.wait(0.2)
        return verdict

    def button(self, control: str) -> Verdict:
        """Press a button of the first pad and let it go."""
        self._now += 0.05
        verdict = self.router.feed(PadSample(self._now, control, 1.0))
        self.router.feed(PadSample(self._now, control, 0.0))
        self.wait(0.2)
        return verdict


PRESSED = frozenset(MAKES_SOLID) - {"drop", "wheel", "scroll"}


def is_interactive(node: Node) -> bool:
    """Whether a press on a node may do something there: not on one that things are dropped on, or that scrolls."""
    return node.is_control or node.listens_any(PRESSED)


def is_pressable(node: Node) -> bool:
    """Whether a press may do something to this very node: not one that only hears what is done to those in it."""
    return is_interactive(node) and node.effective_solidity in ("solid", "glass")


def points_of(node: Node, size: tuple[float, float]) -> list[tuple[float, float]]:
    """Points of a node's shape on the screen that lie in the window, and inside of what clips it; its middle first."""
    scene = node.scene
    width, height = node.size
    if scene is None or node.root._in_world or width <= 0.0 or height <= 0.0:
        return []
    clips = [above for above in node.lineage()[:-1] if above.clips]
    found = []
    for fy in GRID:
        for fx in GRID:
            x, y = scene.point(node, width * fx, height * fy)
            if not (0.0 <= x < size[0] and 0.0 <= y < size[1]):
                continue
            if covers(node, x, y) and all(covers(above, x, y) for above in clips):
                found.append((round(x, 2), round(y, 2)))
    return found
