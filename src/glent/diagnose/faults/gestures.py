"""Faults of gestures and keys: what never wins, has no other way, closes too soon, or is waited for twice."""

from __future__ import annotations

from collections import defaultdict
from functools import partial
from math import hypot
from typing import TYPE_CHECKING

from glent.diagnose.findings import Suspicion
from glent.diagnose.trial import points_of

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene
    from glent.diagnose.trial import Trial

__all__ = ["gesture_faults"]

TRIED = 3
"""Points that a proof drags from."""
WON_BY = {"drag": ("drag_start", "drag"), "hold": ("hold", "hold_progress"), "swipe": ("swipe",)}
"""What is heard of each gesture by who wins it."""
WINNERS = frozenset({"drag_start", "drag", "scroll", "swipe", "pinch", "hold", "hold_progress", "repeat"})
DRAGGED = frozenset({"drag", "drag_start", "swipe", "pinch", "hold", "scroll"})
"""Kinds that take more than a press and its release."""
PRESSED = frozenset({"click", "press", "activate", "act", "wheel"})
CLAIMED = {"keys": "KeyK", "pad": "right_cluster_left"}
"""The channels that layers claim and hear, with a control of each that is bound to nothing by default."""
SLOW = 6.0
"""Pixels from one move to the next: some 120 a second, as an unsteady hand goes."""


def gesture_faults(game: Trial) -> Iterator[Suspicion]:
    """Suspicions about gestures, shortcuts and what opens as it is pointed at."""
    scene = game.scene
    for layer in scene.layers:
        for node in layer.walk():
            if node.made_for_now or not node.is_visible or not node.is_enabled:
                continue
            for gesture, kinds in WON_BY.items():
                if any(node.listens(kind) for kind in kinds):
                    yield _loses(node, gesture, scene.window)
            if node.listens_any(DRAGGED) and not node.is_control and not _has_another_way(node):
                yield _gesture_only(node, scene.window)
            if node.listens("enter"):
                yield _gap(node, scene.window)
    yield from _shortcuts(game, scene)
    yield from _claims(scene)


def _loses(node: Node, gesture: str, size: tuple[float, float]) -> Suspicion:
    """A handler for a gesture that another one always wins."""
    path = node.path
    points = points_of(node, size)[:TRIED]
    kinds = WON_BY[gesture]

    def shown(game: Trial) -> str | None:
        heard: list[object] = []
        winners = []
        for kind in kinds:
            game[path].on(kind, heard.append)
        for x, y in points:
            for told in _tried(game, gesture, node.axis, x, y):
                if heard:
                    return None
                winners += [one for one in told if one.split()[0] in WINNERS]
        if not winners:
            return None  # nothing at all wins there: another fault
        return f"{gesture}s from {len(points)} points of it were tried: {winners[0]} came of it"

    sentence = f"{path} listens for {gesture}s, and another gesture always wins"
    return Suspicion("gesture-loses", (path,), sentence, shown)


def _tried(game: Trial, gesture: str, axis: str | None, x: float, y: float) -> Iterator[list[str]]:
    """What is told of each try at a point."""
    if gesture == "hold":
        yield game.hold(x, y)
    else:
        ways = {"x": [(80.0, 0.0)], "y": [(0.0, 80.0)]}.get(axis or "", [(80.0, 0.0), (0.0, 80.0)])
        for dx, dy in ways:
            yield game.drag(x, y, dx, dy) if gesture == "drag" else game.swipe(x, y, dx, dy)
    game.wait(1.0)


# -- a gesture without another way -------------------------------------------------------------------------------------


def _has_another_way(node: Node) -> bool:
    """Whether a node, what it lies in, or what lies in it, does something by a press alone."""
    return any(one.listens_any(PRESSED) or one.is_control for one in (*node.lineage(), *node.walk()))


def _gesture_only(node: Node, size: tuple[float, float]) -> Suspicion:
    path = node.path
    points = points_of(node, size)

    def shown(game: Trial) -> str | None:
        if _has_another_way(game[path]) or not points:
            return None
        verdict = game.press(*points[0])
        if not game.gives(path, verdict):
            return None
        x, y = points[0]
        return f"a press and its release at {x:g}, {y:g} came to it, and no handler hears of either"

    sentence = f"{path} does something by a drag or another gesture, and nothing by single presses"
    return Suspicion("gesture-only", (path,), sentence, shown)


# -- a gap on the way to what has opened -------------------------------------------------------------------------------


def _gap(opener: Node, size: tuple[float, float]) -> Suspicion:
    """What shows as a node is pointed at, and hides before one is there."""
    path = opener.path
    points = points_of(opener, size)

    def shown(game: Trial) -> str | None:
        if not points:
            return None
        hidden = [node for node in game.scene.walk() if not node.visible and node.parent is not None]
        x, y = points[0]
        game.move(x, y)
        game.wait(0.5)
        opened = next((node for node in hidden if node.is_visible), None)
        there = points_of(opened, size) if opened is not None else []
        if opened is None or not there:
            return None
        to_x, to_y = min(there, key=lambda at: hypot(at[0] - x, at[1] - y))
        steps = max(1, round(hypot(to_x - x, to_y - y) / SLOW))
        for step in range(1, steps + 1):
            at = x + (to_x - x) * step / steps, y + (to_y - y) * step / steps
            game.move(*at)
            if not opened.is_visible:
                return (
                    f"the mouse went straight from {path} to {opened.path}, which was gone at {at[0]:.0f}, {at[1]:.0f}"
                )
        return None

    sentence = f"{path} shows something as it is pointed at, which is gone before the pointer is there"
    return Suspicion("popup-gap", (path,), sentence, shown)


# -- shortcuts ---------------------------------------------------------------------------------------------------------


def _shortcuts(game: Trial, scene: Scene) -> Iterator[Suspicion]:
    heard: dict[str, list[Node]] = defaultdict(list)
    for layer in scene.layers:
        for node in layer.walk():
            if node.is_visible and node.is_enabled:
                for kind in {one.kind for one in node.handlers if ":" in one.kind}:
                    heard[kind].append(node)
    bindings = game.router.seat().bindings
    for action, nodes in heard.items():
        keys = [one for one in bindings.controls(action) if "+" not in one and "_" not in one]
        if len(nodes) > 1 and keys:
            yield _key_twice(action, keys[0], tuple(node.path for node in nodes))


def _key_twice(action: str, code: str, paths: tuple[str, ...]) -> Suspicion:
    def shown(game: Trial) -> str | None:
        there = [path for path in paths if path in game.scene and game[path].listens(action)]
        told: list[str] = []
        for path in there:
            game[path].on(action, partial(_note, told, path))
        verdict = game.key(code)
        silent = [path for path in there if path not in told]
        return f"{code} was pressed, and {silent[0]} heard nothing: {verdict.why}" if told and silent else None

    sentence = f"{' and '.join(paths[:3])} all wait for {action} ({code}), and only the one in front hears it"
    return Suspicion("key-twice", paths, sentence, shown)


def _claims(scene: Scene) -> Iterator[Suspicion]:
    """Layers that wait for keys that one in front of them claims too."""
    for channel, control in CLAIMED.items():
        claiming = [layer for layer in scene.layers if layer.is_visible and channel in layer.claims]
        for layer in claiming[1:]:
            if layer.listens("key_down"):
                yield _claimed_twice(channel, control, layer.path, claiming[0].path)


def _claimed_twice(channel: str, control: str, path: str, front: str) -> Suspicion:
    def shown(game: Trial) -> str | None:
        told: list[str] = []
        game[path].on("key_down", partial(_note, told, path))
        verdict = game.key(control) if channel == "keys" else game.button(control)
        return f"{control} was pressed, and {path} heard nothing: {verdict.why}" if not told else None

    sentence = f"{path} and {front} both claim the {channel} at the beginning, and only {front}, in front, hears them"
    return Suspicion("claimed-twice", (path, front), sentence, shown)


def _note(told: list[str], path: str, event: object) -> None:
    told.append(path)
