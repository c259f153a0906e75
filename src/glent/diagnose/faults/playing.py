"""Faults that players stumble over: sizes, names, keys, modals, cursors."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from glent.controls.captions import caption_of
from glent.core.scene.layer import Layer
from glent.diagnose.findings import Mend, Suspicion
from glent.diagnose.focus_map import focus_map, ground
from glent.diagnose.trial import Trial, is_interactive, points_of

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["playing_faults"]

LETTER, LINE = 10.0, 24.0
"""Pixels of a letter and a line, about."""
TOO_WIDE, TIMES = 0.12, 20.0
"""The part of the window, and how often the size of its words, from which a button is wide."""
LEAST, EASY = 24.0, 44.0
"""Pixels of a target by WCAG 2.5.8 (AA) and 2.5.5 (AAA)."""


def playing_faults(game: Trial) -> Iterator[Suspicion]:
    """Suspicions about what is small, far too large, nameless, or unreachable by key."""
    scene = game.scene
    shown = [node for layer in scene.layers for node in layer.walk() if node.is_visible and not node.made_for_now]
    targets = [node for node in shown if _is_target(node)]
    for node in targets:
        yield from _size_faults(game, node, targets)
        if node.role == "button":
            yield from _wide(node, scene.window)
        if node.is_control and not node.accessible_name and node.focusable is not False:
            yield _nameless(node)
    yield from _name_faults(targets)
    yield from _focus_faults(scene)
    for layer in scene.layers:
        if layer.is_visible and "pointer" in layer.claims:
            yield from _cursor_faults(layer)


def _is_target(node: Node) -> bool:
    return is_interactive(node) and node.is_enabled and min(node.size) > 0.0 and _is_whole(node)


def _is_whole(node: Node) -> bool:
    """Whether a node is no part of a control: the thumb of a slider counts with that."""
    above = node.parent
    while above is not None:
        if above.is_control:
            return False
        above = above.parent
    return True


# -- sizes -------------------------------------------------------------------------------------------------------------


def _scale(node: Node) -> float:
    scene = node.scene
    if scene is None:
        return 1.0
    a, b, c, d = scene.to_screen(node)[:4]
    return float(abs(a * d - b * c) ** 0.5)


def _size_faults(game: Trial, node: Node, targets: list[Node]) -> Iterator[Suspicion]:
    size = game.scene.window
    scale = _scale(node)
    least = min(node.size) * scale
    middle = points_of(node, size)[:1]
    if not middle or node.role in ("option", "treeitem", "menuitem", "link", "scrollbar", "gridcell", "tab"):
        return  # those of a list are as high as its rows; links stand in text
    reach = node.reach_for("touch")
    if least < LEAST and least + 2.0 * reach < LEAST:
        near = _nearest(node, targets)
        if near is not None and near[1] < LEAST / 2.0:
            yield _small("small-target", node, LEAST, least, near)
            return
    if least + 2.0 * reach < EASY:
        yield _small("small-for-touch", node, EASY, least + 2.0 * reach, None)


def _nearest(node: Node, targets: list[Node]) -> tuple[Node, float] | None:
    """The target whose box is nearest to the middle of another, and how far away that is on the screen."""
    scene = node.scene
    if scene is None:
        return None
    x, y = scene.point(node, node.size[0] / 2.0, node.size[1] / 2.0)
    best: tuple[Node, float] | None = None
    for other in targets:
        if other is node or other.is_within(node) or node.is_within(other):
            continue
        xs, ys = zip(*other.screen_corners(), strict=True)
        dx, dy = max(min(xs) - x, 0.0, x - max(xs)), max(min(ys) - y, 0.0, y - max(ys))
        away = (dx * dx + dy * dy) ** 0.5
        if best is None or away < best[1]:
            best = other, away
    return best


def _small(code: str, node: Node, wanted: float, least: float, near: tuple[Node, float] | None) -> Suspicion:
    path, scale = node.path, _scale(node)
    scene = node.scene
    assert scene is not None
    wide, tall = (side * scale for side in node.size)
    # Just outside of it, still within the square that it should fill.
    dx, dy = (0.0, tall / 2.0 + _beyond(tall, wanted)) if tall <= wide else (wide / 2.0 + _beyond(wide, wanted), 0.0)
    x, y = scene.point(node, node.size[0] / 2.0, node.size[1] / 2.0)
    tried = [(x + dx, y + dy), (x - dx, y - dy)]

    def shown(game: Trial) -> str | None:
        for at in tried:
            verdict = game.press(*at, kind="touch")
            if not game.gives(path, verdict):
                away = max(dx, dy)
                return f"a touch {away:g} pixels from its middle misses it: {verdict.why}"
        return None

    reach = -(-(wanted - min(wide, tall)) // 2)
    mend = Mend(path, "reach", reach, f"give {path} a reach of {reach:g} pixels")
    beside = f", and {near[0].path} is {near[1]:.0f} pixels from its middle" if near is not None else ""
    with_reach = " with its reach" if code == "small-for-touch" and node.reach_for("touch") else ""
    sentence = f"{path} is {least:.0f} pixels wide or high{with_reach}; a target should be {wanted:g}{beside}"
    nodes = (path,) if near is None else (path, near[0].path)
    return Suspicion(code, nodes, sentence, shown, (mend,))


def _beyond(side: float, wanted: float) -> float:
    return max(0.5, (wanted - side) / 2.0 - 0.5)


def _wide(node: Node, size: tuple[float, float]) -> Iterator[Suspicion]:
    """A button that fills far more than its words. One with a picture, or with more in it than words, shows itself."""
    words = caption_of(node)
    if not words or "picture" in node.facts or any(child.solidity != "ghost" for child in node.children):
        return
    scale = _scale(node)
    wide, tall = node.size[0] * scale, node.size[1] * scale
    seen = max(len(line) for line in words.splitlines()) * LETTER, len(words.splitlines()) * LINE
    if wide * tall < TOO_WIDE * size[0] * size[1] or wide * tall < TIMES * seen[0] * seen[1]:
        return
    path = node.path
    x, y = node.scene.point(node, node.size[0] / 2.0, node.size[1] / 2.0) if node.scene is not None else (0.0, 0.0)
    far = max(points_of(node, size), key=lambda at: abs(at[0] - x) + abs(at[1] - y), default=None)
    if far is None:
        return

    def shown(game: Trial) -> str | None:
        verdict = game.press(*far)
        if not game.gives(path, verdict):
            return None
        away = abs(far[0] - x) + abs(far[1] - y)
        return f"a press at {far[0]:g}, {far[1]:g}, {away:.0f} pixels from “{words}”, is its own"

    width, height = round(seen[0] + 3 * LETTER), round(seen[1] + LINE)
    smaller = node.place.replace(right=None, bottom=None, width=width, height=height)
    mend = Mend(path, "place", smaller, f"make {path} {width} by {height} pixels")
    sentence = f"{path} is {wide:.0f} by {tall:.0f} pixels, and all that is seen of it is “{words}”"
    yield Suspicion("wide-button", (path,), sentence, shown, (mend,))


# -- names -------------------------------------------------------------------------------------------------------------


def _nameless(node: Node) -> Suspicion:
    path = node.path

    def shown(game: Trial) -> str | None:
        if game[path].accessible_name:
            return None
        return f"assistive technology that comes to it says “{game[path].role}”, and nothing else"

    words = node.name.replace("-", " ").replace("_", " ")
    mend = Mend(path, "label", words, f"call {path} something, such as “{words}”")
    sentence = f"{path} has the role {node.role}, and nothing tells what it is called"
    return Suspicion("no-name", (path,), sentence, shown, (mend,), only_reads=True)


def _name_faults(targets: list[Node]) -> Iterator[Suspicion]:
    seen: dict[tuple[Node | None, str | None, str], Node] = {}
    for node in targets:
        name = node.accessible_name
        if not name or not node.is_control:
            continue
        before = seen.setdefault((node.parent, node.role, name), node)
        if before is not node:
            yield _same_name(before.path, node.path, name)


def _same_name(first: str, second: str, name: str) -> Suspicion:
    def shown(game: Trial) -> str | None:
        if game[first].accessible_name != game[second].accessible_name:
            return None
        return f"“{name}” that is asked for is two: both answer to it"

    return Suspicion("same-name", (second, first), f"{second} and {first} are both called “{name}”", shown, (), True)


# -- keys, modals, cursor ----------------------------------------------------------------------------------------------


def _focus_faults(scene: Scene) -> Iterator[Suspicion]:
    found = focus_map(scene)
    if found.modal is not None and not found.closable:
        yield _no_way_out(found.modal)
        return
    if found.modal is not None:
        return
    for stop in found.stops:
        if not stop.in_view:
            continue
        path = stop.node.path
        if not stop.can_reach:
            sentence = f"{path} is a stop, and no arrow leads to it"
            yield Suspicion("no-key-reaches", (path,), sentence, partial(_never_reached, path))
        elif not stop.can_leave and sum(1 for one in found.stops if ground(one.node) is ground(stop.node)) > 1:
            sentence = f"{path} is a stop, and no arrow leads away from it"
            yield Suspicion("focus-trap", (path,), sentence, partial(_never_left, path))


def _never_reached(path: str, game: Trial) -> str | None:
    stops = focus_map(game.scene).stops
    if any(one.node.path == path and one.can_reach for one in stops):
        return None
    seat = game.router.seat()
    tried = 0
    for stop in stops:
        if stop.node.path == path:
            continue
        for code in ("ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"):
            seat.set_focus(stop.node, True)
            game.key(code)
            tried += 1
            if seat.focus is not None and seat.focus.path == path:
                return None
    return f"{tried} arrows were pressed, each from another stop or in another direction, and none comes to it"


def _never_left(path: str, game: Trial) -> str | None:
    seat = game.router.seat()
    for code in ("ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"):
        seat.set_focus(game[path], True)
        game.key(code)
        if seat.focus is None or seat.focus.path != path:
            return None
    return "each of the four arrows was pressed on it, and the focus stayed"


def _no_way_out(modal: Node) -> Suspicion:
    path = modal.path

    def shown(game: Trial) -> str | None:
        verdict = game.key("Escape")
        if not game[path].is_visible:
            return None
        return f"Escape: {verdict.why}"

    mend = Mend(path, "closed_by", "back", f"let back close {path}")
    sentence = f"{path} is modal and open; back does not close it, and nothing in it can be activated"
    return Suspicion("modal-without-way-out", (path,), sentence, shown, (mend,))


def _cursor_faults(layer: Layer) -> Iterator[Suspicion]:
    path = layer.path

    def shown(game: Trial) -> str | None:
        cursor = game.router.seat().cursor
        return f"the cursor is {cursor} while {path} has the pointer" if cursor != "shown" else None

    mend = Mend(path, "cursor", "shown", f"let {path} show the cursor")
    yield Suspicion("no-cursor", (path,), f"{path} claims the pointer, and shows no cursor", shown, (mend,))
