"""The plain slow model of the contest for one press, straight from laws G1, G2, G4, G5 and G7. A part of the judge."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

if TYPE_CHECKING:
    from glent import Node

HOLD_DELAY, WANDER = 0.5, 8.0
THRESHOLD = {"mouse": 4.0, "pen": 4.0, "touch": 10.0}
DRAGS = ("drag_start", "drag", "drag_end")


class TooCloseError(Exception):
    """Two lengths differ by less than rounding, so the laws alone cannot say which is the larger."""


def into(node: Node, vector: np.ndarray) -> np.ndarray:
    """A distance on the screen in the space of a node."""
    if node.scene is None:  # handlers that interfere do not tell the model
        return np.zeros(2)
    a, b, c, d, _, _ = node.scene.to_screen(node)
    matrix = np.array([[a, c], [b, d]]) / node.scene.scale
    return np.linalg.solve(matrix, vector) if abs(np.linalg.det(matrix)) > 1e-300 else np.zeros(2)


@dataclass
class Contest:
    """Who competes for one press, inner to outer."""

    path: list[Node]
    kind: str
    began: float
    travel: np.ndarray = field(default_factory=lambda: np.zeros(2))
    entries: list[tuple[str, Node]] = field(default_factory=list)
    winner: tuple[str, Node] | None = None

    def __post_init__(self) -> None:
        for index in range(len(self.path) - 1, -1, -1):
            node, below = self.path[index], self.path[index + 1 :]
            asks = {
                "drag": any(node.listens(kind) for kind in DRAGS),
                "scroll": (node.scrolls or node.listens("scroll")) and self.kind != "mouse",
                "hold": node.listens("hold"),
            }
            for gesture, asked in asks.items():
                if asked and all(other.carries_on(gesture) for other in below):
                    self.entries.append((gesture, node))

    def step(self, by: tuple[float, float], inside: dict[Node, bool]) -> None:
        """The pointer went on by so many logical pixels."""
        self.travel = self.travel + np.array(by)
        if self.winner is not None:
            return
        far = float(np.hypot(*self.travel))
        if abs(far - THRESHOLD[self.kind]) < 1e-9 or abs(far - WANDER) < 1e-9:
            raise TooCloseError
        for entry in list(self.entries):
            gesture, node = entry
            if gesture == "hold":
                if far > WANDER or not inside[node]:
                    self.entries.remove(entry)
            elif far > THRESHOLD[self.kind]:
                if self.wants(gesture, node):
                    self.winner = entry
                    return
                self.entries.remove(entry)

    def wants(self, gesture: str, node: Node) -> bool:
        x, y = along(node, self.travel)
        if gesture == "drag":
            return node.axis is None or (x >= y if node.axis == "x" else y >= x)
        axes = [0, 1] if x == y else [0] if x > y else [1]
        for axis in axes:
            if not goes(node, axis):
                continue
            at_end = not can_go(node, axis, self.travel)
            around = [other for kind, other in self.entries if kind == "scroll" and other is not node]
            if at_end and any(can_go(other, main_axis(other, self.travel), self.travel) for other in around):
                continue
            return True
        return False

    def due(self, now: float, inside: dict[Node, bool]) -> None:
        """Time has passed."""
        if self.winner is None and now >= self.began + HOLD_DELAY:
            for entry in [one for one in self.entries if one[0] == "hold"]:
                if inside[entry[1]]:
                    self.winner = entry
                    return
                self.entries.remove(entry)


def goes(node: Node, axis: int) -> bool:
    return node.axis in (None, "xy"[axis]) and (not node.scrolls or node.scroll_range[axis] > 0)


def along(node: Node, travel: np.ndarray) -> tuple[float, float]:
    """How far that goes along each axis of a node. A diagonal of the screen is one to the last bit; in a turned node a
    tie is one of rounding, which may fall here otherwise than there."""
    x, y = np.abs(into(node, travel))
    if abs(x - y) < 1e-9 * max(x, y) and not (x == y and abs(travel[0]) == abs(travel[1])):
        raise TooCloseError
    return x, y


def main_axis(node: Node, travel: np.ndarray) -> int:
    x, y = along(node, travel)
    return 0 if x > y else 1


def can_go(node: Node, axis: int, travel: np.ndarray) -> bool:
    by = -into(node, travel)[axis]
    if abs(by) < 1e-9 and by != 0:
        raise TooCloseError
    if not goes(node, axis) or by == 0:
        return False
    if not node.scrolls:
        return True
    return node.scroll[axis] > 0 if by < 0 else node.scroll[axis] < node.scroll_range[axis]
