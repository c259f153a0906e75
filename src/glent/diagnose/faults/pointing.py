"""Faults that keep a pointer from what it is pointed at: covers, holes, sizes, orders."""

from __future__ import annotations

from collections import Counter
from functools import partial
from typing import TYPE_CHECKING

from glent.controls.captions import owner_of
from glent.core.scene.layer import Layer
from glent.core.scene.space import covers
from glent.diagnose.findings import Mend, Suspicion
from glent.diagnose.trial import Trial, is_interactive, points_of
from glent.diagnose.why import Outcome, why

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.scene.node import Node

__all__ = ["pointing_faults"]

LABELS = ("img", "heading", "note", "status", "tooltip")
TRIED = 3
"""Points that a proof presses at."""


def pointing_faults(game: Trial) -> Iterator[Suspicion]:
    """Suspicions about what can be pressed, and about what lies over the world."""
    size = game.scene.window
    for layer in game.scene.layers:
        for node in layer.walk():
            if node.made_for_now or not _may_be_meant(node):
                continue
            if is_interactive(node):
                yield from _reach_faults(game, node, size)
                yield from _order_faults(game, node, size)
            elif node.parent is not None:
                yield from _screen_faults(node, size)
            if node.listens("enter") and not node.listens("leave") and owner_of(node)[0] is None:
                yield _no_leave(node, size)


def _may_be_meant(node: Node) -> bool:
    """Whether a node is there now, for the first player."""
    if not node.is_visible:
        return False
    return all(one.seats is None or "main" in one.seats for one in node.lineage())


def _reach_faults(game: Trial, node: Node, size: tuple[float, float]) -> Iterator[Suspicion]:
    path = node.path
    disabled = next((one for one in node.lineage()[:-1] if not one.enabled), None)
    if disabled is not None and node.enabled:
        mend = Mend(disabled.path, "enabled", True, f"enable {disabled.path}")
        sentence = f"{path} is enabled, and {disabled.path} around it is not"
        points = points_of(node, size)
        if points:
            shown = partial(_is_missed, path, points)
            yield Suspicion("disabled-above", (path, disabled.path), sentence, shown, (mend,))
        return
    ghost = next((one for one in node.lineage() if one.solidity == "ghost"), None)
    if ghost is not None:
        mends = tuple(
            Mend(ghost.path, "solidity", value, f"make {ghost.path} {value or 'solid by what it is'}")
            for value in (None, "hollow", "solid")
        )
        where = "is a ghost" if ghost is node else f"is in {ghost.path}, which is a ghost"
        shown = partial(_is_missed, path, points_of(node, size))
        yield Suspicion("ghost", (path, ghost.path), f"{path} {where}, so nothing hits it", shown, mends)
        return
    width, height = node.size
    if width <= 0.0 or height <= 0.0:
        yield _no_size(node, size)
        return
    points = points_of(node, size)
    if not points:
        yield from _nowhere(node, size)
        return
    if node.solidity == "hollow" and not any(is_interactive(one) for one in node.walk() if one is not node):
        mend = Mend(path, "solidity", None, f"make {path} solid by what it is")
        shown = partial(_is_missed, path, points)
        yield Suspicion("hollow", (path,), f"{path} is hollow, so nothing hits it", shown, (mend,))
        return
    yield from _cover_faults(game, node, points)


def _is_missed(path: str, points: list[tuple[float, float]], game: Trial) -> str | None:
    """What presses at some points of a node show if none of them comes to it."""
    said = None
    for x, y in points[:TRIED]:
        verdict = game.press(x, y)
        if game.gives(path, verdict):
            return None
        said = said or f"a press at {x:g}, {y:g}: {verdict.why}"
    return said


def _no_size(node: Node, size: tuple[float, float]) -> Suspicion:
    path = node.path
    wide, tall = node.size

    def shown(game: Trial) -> str | None:
        here = game[path]
        points = points_of(here, size)
        if points:
            return _is_missed(path, points, game)
        x, y = game.scene.point(here, 0.0, 0.0)
        verdict = game.press(x, y)
        if game.gives(path, verdict):
            return None
        return f"a press at {x:g}, {y:g}, where it is: {verdict.why}"

    sides = {}
    if wide <= 0.0:
        sides["width"] = 44
    if tall <= 0.0:
        sides["height"] = 44
    mends = []
    if node.place.left is None or node.place.right is None or node.place.width is not None:
        place = node.place.replace(right=None, bottom=None, **sides)
        mends = [Mend(path, "place", place, f"give {path} a size, such as 44 by 44")]
    return Suspicion("no-size", (path,), f"{path} is {wide:g} by {tall:g} pixels large", shown, tuple(mends))


def _nowhere(node: Node, size: tuple[float, float]) -> Iterator[Suspicion]:
    """It has no point in the window that is not clipped."""
    scene, path = node.scene, node.path
    if scene is None or any(one.scrolls or one.listens("wheel") or one.listens("scroll") for one in node.lineage()):
        return  # what scrolls is scrolled into view
    width, height = node.size
    x, y = scene.point(node, width / 2.0, height / 2.0)
    is_out = not (0.0 <= x < size[0] and 0.0 <= y < size[1])
    clip = next((one for one in node.lineage()[:-1] if one.clips), None)

    def shown(game: Trial) -> str | None:
        here = game[path]
        points = points_of(here, size)
        if points:
            return _is_missed(path, points, game)
        at = game.scene.point(here, width / 2.0, height / 2.0)
        inside = min(max(at[0], 0.0), size[0] - 1.0), min(max(at[1], 0.0), size[1] - 1.0)
        verdict = game.press(*inside)
        if game.gives(path, verdict):
            return None
        return f"a press at {inside[0]:g}, {inside[1]:g}, as near as one comes: {verdict.why}"

    if is_out:
        sentence = f"{path} lies at {x:g}, {y:g}, outside the window of {size[0]:g} by {size[1]:g}"
        yield Suspicion("off-screen", (path,), sentence, shown)
    elif clip is not None:
        mend = Mend(clip.path, "clips", False, f"let {clip.path} not clip")
        sentence = f"{path} is cut off wholly by {clip.path}, which clips"
        yield Suspicion("clipped", (path, clip.path), sentence, shown, (mend,))


# -- covers ------------------------------------------------------------------------------------------------------------


def _cover_faults(game: Trial, node: Node, points: list[tuple[float, float]]) -> Iterator[Suspicion]:
    path = node.path
    found: Counter[Node] = Counter()
    lost: list[tuple[float, float]] = []
    for x, y in points:
        hits = game.router.hits(x, y)
        if any(hit.offered and hit.node.is_within(node) for hit in hits):
            continue
        considered = {one.node: one for one in why(game.router, x, y)}
        if considered[node].outcome in (Outcome.MODAL, Outcome.SEAT, Outcome.BLOCKED):
            return  # by design, for as long as that is so
        front = next((hit.node for hit in hits if hit.node.stops_input), None)
        if front is not None and not node.is_within(front):
            found[front] += 1
            lost.append((x, y))
    if not found:
        return
    cover = found.most_common(1)[0][0]
    if is_interactive(cover) or any(is_interactive(one) for one in cover.lineage()):
        if len(lost) < len(points) or any(one.listens("drag_start") for one in cover.lineage()):
            return  # a part of it is free; or what lies there can be dragged away
        yield _covered(node, cover, lost)
        return
    share = found[cover] / len(points)
    middle_lost = points[0] in lost
    if _shows_nothing(cover) and share >= 0.25:
        sentence = f"{cover.path} is solid, shows nothing, and lies over {path}"
        mends = tuple(_softer(cover, ("hollow", "glass")))
        yield Suspicion("unseen-cover", (cover.path, path), sentence, partial(_is_missed, path, lost), mends)
    elif _is_label(cover) and middle_lost and not _is_behind_all(cover, node):
        sentence = f"{cover.path} lies on {path}, and takes its presses"
        mends = tuple(_softer(cover, ("ghost", "hollow")))
        yield Suspicion("label-over", (cover.path, path), sentence, partial(_is_missed, path, lost), mends)
    elif _is_behind_all(cover, node) and share == 1.0:
        lowest = min(one.order for one in _siblings(cover))
        mend = Mend(cover.path, "order", lowest - 1, f"put {cover.path} behind what it holds (order {lowest - 1:g})")
        sentence = f"{cover.path} is painted over {path} and what lies beside that"
        shown = partial(_is_missed, path, lost)
        yield Suspicion("background-in-front", (cover.path, path), sentence, shown, (mend,))
    elif share == 1.0:
        yield _covered(node, cover, lost)


def _covered(node: Node, cover: Node, lost: list[tuple[float, float]]) -> Suspicion:
    sentence = f"{node.path} lies under {cover.path} at every point"
    mends = [] if is_interactive(cover) else list(_softer(cover, ("glass",)))
    mends += _raised(node, cover)
    shown = partial(_is_missed, node.path, lost)
    return Suspicion("covered", (node.path, cover.path), sentence, shown, tuple(mends))


def _softer(cover: Node, solidities: tuple[str, ...]) -> Iterator[Mend]:
    for solidity in solidities:
        yield Mend(cover.path, "solidity", solidity, f"make {cover.path} {solidity}")


def _raised(node: Node, cover: Node) -> Iterator[Mend]:
    """Mends that put a node in front of another, by the order of those two above them that lie side by side."""
    ours, theirs = node.lineage(), cover.lineage()
    for mine, other in zip(ours, theirs, strict=False):
        if mine is not other:
            order = int(other.order) + 1
            yield Mend(mine.path, "order", order, f"raise {mine.path} above {other.path} (order {order})")
            return


def _shows_nothing(node: Node) -> bool:
    """Whether there is nothing that a renderer could draw of a node: no role, no facts, no name, nothing in it."""
    return node.role is None and not node.facts and node.label is None and not node.children


def _is_label(node: Node) -> bool:
    shows = {"text", "picture", "image", "icon"}
    return node.role in LABELS or node.label is not None or any(name in shows for name in node.facts)


def _siblings(node: Node) -> list[Node]:
    return [one for one in node.parent.children if one is not node] if node.parent is not None else []


def _is_behind_all(cover: Node, node: Node) -> bool:
    """Whether a node is a background: it has the boxes of several beside it, ``node`` among them, in its own."""
    left, top, right, bottom = cover.edges
    inside = [
        one
        for one in _siblings(cover)
        if left <= one.edges[0] and top <= one.edges[1] and right >= one.edges[2] and bottom >= one.edges[3]
    ]
    return len(inside) >= 2 and any(node.is_within(one) for one in inside)


def _screen_faults(node: Node, size: tuple[float, float]) -> Iterator[Suspicion]:
    """A solid node that shows nothing over much of the window takes from the world what nobody wants."""
    if node.effective_solidity != "solid" or not _shows_nothing(node) or node.parent is None:
        return
    if any(above.modal or above.is_control for above in node.lineage()) or _siblings_in_front(node):
        return
    points = points_of(node, size)
    left, top, right, bottom = node.edges
    if not points or (right - left) * (bottom - top) < 0.5 * size[0] * size[1]:
        return
    path = node.path

    def shown(game: Trial) -> str | None:
        for x, y in points:
            verdict = game.press(x, y)
            if verdict.owner is not None and verdict.owner is game[path]:
                return f"a press at {x:g}, {y:g}: {verdict.why}"
        return None

    sentence = f"{path} is solid, shows nothing, and lies over half of the window or more"
    yield Suspicion("unseen-cover", (path,), sentence, shown, tuple(_softer(node, ("hollow", "glass"))))


def _siblings_in_front(node: Node) -> bool:
    """Whether something that can be pressed lies on a node, so that it is the ground of that."""
    parent = node.parent
    if parent is None:
        return False
    painted = parent.children_painted()
    left, top, right, bottom = node.edges
    return any(
        is_interactive(one)
        and one.edges[0] < right
        and one.edges[2] > left
        and one.edges[1] < bottom
        and one.edges[3] > top
        for one in painted[painted.index(node) + 1 :]
    )


def _no_leave(node: Node, size: tuple[float, float]) -> Suspicion:
    path = node.path
    points = points_of(node, size)

    def shown(game: Trial) -> str | None:
        if not points:
            return None
        here = game[path]
        game.move(*points[0])
        if not here.hovered:
            return None
        game.move(-1e6, -1e6)
        if here.hovered or here.listens("leave"):
            return None
        return (
            f"a move to {points[0][0]:g}, {points[0][1]:g} is told to it; that the pointer goes away is told to nobody"
        )

    return Suspicion("enter-without-leave", (path,), f"{path} hears enter, and nothing hears its leave", shown)


def _order_faults(game: Trial, node: Node, size: tuple[float, float]) -> Iterator[Suspicion]:
    parent = node.parent
    if parent is None or parent.flow is not None or isinstance(node, Layer):
        return
    for other in parent.children:
        if other is node:
            return  # each pair once: with those before it
        if other.order != node.order or not is_interactive(other) or not _may_be_meant(other):
            continue
        shared = _common_point(node, other, size)
        if shared is None:
            continue
        x, y = shared
        yield _same_order(node.path, other.path, x, y, node.order)


def _common_point(node: Node, other: Node, size: tuple[float, float]) -> tuple[float, float] | None:
    """A point well inside of both of two nodes side by side."""
    (a0, b0, a1, b1), (c0, d0, c1, d1) = node.edges, other.edges
    left, top, right, bottom = max(a0, c0), max(b0, d0), min(a1, c1), min(b1, d1)
    if right - left < 4.0 or bottom - top < 4.0 or node.place.turn or other.place.turn:
        return None
    contains = (a0 <= c0 and b0 <= d0 and a1 >= c1 and b1 >= d1) or (c0 <= a0 and d0 <= b0 and c1 >= a1 and d1 >= b1)
    parent = node.parent
    scene = node.scene
    if contains or parent is None or scene is None:
        return None  # one on the other is meant to be
    x, y = scene.point(parent, (left + right) / 2.0 + parent.scroll[0], (top + bottom) / 2.0 + parent.scroll[1])
    inside = 0.0 <= x < size[0] and 0.0 <= y < size[1]
    return (x, y) if inside and covers(node, x, y) and covers(other, x, y) else None


def _same_order(path: str, other: str, x: float, y: float, order: float) -> Suspicion:
    def shown(game: Trial) -> str | None:
        if game[path].order != game[other].order:
            return None
        verdict = game.press(x, y)
        owner = verdict.owner
        if owner is None or not (owner.is_within(game[path]) or owner.is_within(game[other])):
            return None
        return f"a press at {x:g}, {y:g} is on both: {verdict.why}"

    mend = Mend(path, "order", order + 1, f"say that {path} is in front (order {order + 1:g})")
    sentence = f"{path} and {other} overlap, and have the same order"
    return Suspicion("same-order", (path, other), sentence, shown, (mend,))
