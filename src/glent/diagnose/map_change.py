"""What two maps of the same window differ in: which pixels have changed hands, and from whom to whom."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from glent.core.errors import SceneError
from glent.diagnose.pass_map import Zone

if TYPE_CHECKING:
    from numpy.typing import NDArray

    from glent.diagnose.pass_map import PassMap

__all__ = ["MapChange", "map_change", "said_of"]

Hand = tuple[str | None, Zone]
"""Who has a pixel, by path, and what it comes to."""


def said_of(hand: Hand) -> str:
    """Who has a pixel, in words."""
    path, zone = hand
    return path or {Zone.WORLD: "the world", Zone.PASSED: "the world, through glass"}.get(zone, "nobody")


@dataclass(frozen=True, slots=True)
class MapChange:
    """What has changed from one map to another.

    :ivar changed: array of shape (height, width): whether the pixel has changed hands. :ivar moves: how many pixels
        went from whom to whom, most first; who has them is a node's path, or None, with the zone.
    """

    changed: NDArray[np.bool_]
    moves: dict[tuple[Hand, Hand], int]


def map_change(before: PassMap, after: PassMap) -> MapChange:
    """Compare two maps of windows of one size; nodes are the same if their paths are.

    :raises SceneError: the sizes differ.
    """
    if before.zones.shape != after.zones.shape:
        sizes = " and ".join(f"{one.zones.shape[1]}x{one.zones.shape[0]}" for one in (before, after))
        raise SceneError(f"map_change: the maps are of windows of {sizes}, expected one size")
    paths: dict[str | None, int] = {None: 0}
    was, now = (_by_path(one, paths) for one in (before, after))
    changed = (was != now) | (before.zones != after.zones)
    # One number for each pixel: unique numbers are found many times faster than unique rows.
    many, zones = len(paths), len(Zone)
    hands = [one[changed] * zones + of.zones[changed] for one, of in ((was, before), (now, after))]
    codes, counts = np.unique(hands[0] * (many * zones) + hands[1], return_counts=True)
    names = list(paths)

    def hand(number: int) -> Hand:
        return names[number // zones], Zone(number % zones)

    moves = {
        (hand(code // (many * zones)), hand(code % (many * zones))): int(pixels)
        for code, pixels in sorted(zip(codes.tolist(), counts.tolist(), strict=True), key=lambda one: -one[1])
    }
    return MapChange(changed, moves)


def _by_path(found: PassMap, paths: dict[str | None, int]) -> NDArray[np.int64]:
    """The owners as numbers that mean the same in both maps."""
    numbers = [paths.setdefault(node.path, len(paths)) for node in found.nodes]
    return np.array([*numbers, 0], dtype=np.int64)[found.owners]
