"""Keeping the islands' grids in step with the tree: only what a change touched is placed and filed anew (law H9).

Changes are noted when they happen and worked off at the next question (``refresh``), so a node changed ten times in a
frame is filed once. Cost: a change to a node costs its own filing, and that of the nodes below it in the same island
where they moved along; a parent's new size goes down only as far as sizes change.
"""

from __future__ import annotations

import heapq
from itertools import islice
from typing import TYPE_CHECKING, cast

from glent.core.geometry.affine import Box
from glent.core.scene.checks import POINTER_KINDS
from glent.core.scene.grid import Grid
from glent.core.scene.grid_entries import common, entry_of, island_entry_of
from glent.core.scene.island import Island, Passed
from glent.core.scene.layout import fitted, lay, natural
from glent.core.scene.paint_order import number_new

if TYPE_CHECKING:
    from glent.core.scene.grid import Entry
    from glent.core.scene.node import Node
    from glent.core.scene.root import Root
    from glent.core.scene.scene import Scene

__all__ = ["Index"]

LARGE = 24
"""A subtree of more nodes than this becomes an island when it moves, hides, or changes its order as a whole."""


UNSEEN = ("hollow", "ghost")


class Index:
    """The upkeep of one scene's islands."""

    __slots__ = (
        "_dirty",
        "_grown",
        "_relaid",
        "_scene",
        "_shifted",
        "_unmeasured",
        "_unnumbered",
        "count",
        "disabled",
        "flows",
        "reach_limits",
    )

    def __init__(self, scene: Scene) -> None:
        self._scene = scene
        self._dirty: dict[Node, None] = {}
        self._unnumbered: dict[Node, int] = {}
        self._grown: list[tuple[int, int, Island]] = []
        self._unmeasured: dict[Node, None] = {}
        self._relaid: dict[Node, None] = {}
        self._shifted: dict[Node, None] = {}
        self.flows = False
        """Whether any node ever had a flow or a size that fits: without one, none of it is looked at."""
        self.count = 0
        """How many nodes there are, layers not counted."""
        self.disabled = 0
        """How many nodes and layers are disabled themselves."""
        self.reach_limits: dict[str, float] = {}
        """The longest reach that any node ever had, by pointer kind."""

    # -- what the tree reports -----------------------------------------------------------------------------------

    def changed(self, node: Node) -> None:
        """Note that an attribute which decides where or whether the node is hit was set."""
        self._dirty[node] = None
        self._scene._version += 1
        if node._children or _may_stop(node):
            self._scene._layout += 1
        if self.flows and node._parent is not None and _minds(node._parent):
            self.reflowed(node._parent)

    def placed(self, node: Node) -> None:
        """Note that its place was set. A node that is never hit, holds nothing and is followed by nobody only shows
        elsewhere: what can be found stays as it is."""
        parent = node._parent
        if (
            node._effective in UNSEEN
            and node._home is not None
            and not node._children
            and node._own is None
            and parent is not None
            and node._focusable is None
            and node._used is None
            and not node._place.fits
            and not (self.flows and _minds(parent))
            and not parent._gesture_traits.scrolls
        ):
            self._shifted[node] = None
            self._scene._shifts += 1
        else:
            self.changed(node)

    def reflowed(self, node: Node) -> None:
        """Note that the size of its content, or how it lays its children, may have changed."""
        if self.flows:
            self._unmeasured[node] = None
            self._dirty[node] = None
            self._scene._version += 1
            self._scene._layout += 1

    def scrolled(self, node: Node) -> None:
        """Note that the node's content was scrolled: it moved as a whole."""
        self._dirty[node] = None
        self._scene._version += 1

    def added(self, node: Node) -> None:
        """Note that the node is new below its parent."""
        parent = node._parent
        assert parent is not None
        self.count += 1
        self.disabled += not node._enabled
        self._dirty[node] = None
        self._unnumbered[parent] = self._unnumbered.get(parent, 0) + 1
        if parent._own is None and len(parent._children or ()) == 1:
            self._dirty[parent] = None  # with a child it may have to be an island
        elif parent._own is None and parent._clips and len(parent._children or ()) > LARGE:
            self._dirty[parent] = None  # a long list, about to be scrolled
        self._scene._version += 1
        if _may_stop(node):
            self._scene._layout += 1
        if self.flows and _minds(parent):
            self.reflowed(parent)

    def grafted(self, top: Node) -> None:
        """Note that a node is new below its parent, with all that is below it."""
        for one in top.walk():
            self.count += 1
            self.disabled += not one._enabled
            if one._flow is not None or one._place.fits:
                self.flows = True
        self.count -= 1
        self.disabled -= not top._enabled
        self.added(top)
        self._scene._layout += 1
        if self.flows:
            for one in top.walk():
                if one._flow is not None:
                    self.reflowed(one)

    def removed(self, node: Node) -> None:
        """Note that the node has left its parent; its subtree still hangs on it."""
        for one in node.walk():
            self.count -= one._parent is not None
            self.disabled -= not one._enabled
            self._dirty.pop(one, None)
            self._shifted.pop(one, None)
            self._unnumbered.pop(one, None)
            self._unmeasured.pop(one, None)
        self._withdraw(node)
        if node._parent is not None:
            node._parent._extent = None
            if _minds(node._parent):
                self.reflowed(node._parent)
        self._scene._version += 1
        self._scene._layout += 1

    def reordered(self, node: Node) -> None:
        """Note that the node has another order among its siblings."""
        if node._own is None and node._home is not None and _is_large(node):
            self._make_island(node)
        self._withdraw(node)
        parent = node._parent
        assert parent is not None
        self._unnumbered[parent] = self._unnumbered.get(parent, 0) + 1
        self.changed(node)

    # -- working it off ------------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Bring placement and grids up to date. Costs nothing where nothing has changed."""
        if self._shifted:
            self._shift()
        if not self._dirty:
            return
        for parent, count in self._unnumbered.items():
            number_new(parent, count)
        self._unnumbered.clear()
        dirty = self._dirty
        if self._unmeasured:
            self._measure()
            for node in sorted(self._relaid, key=_depth):  # from the root down: the boxes below are given once
                if node in dirty:
                    self._visit(node)
            self._relaid.clear()
        for node in list(dirty):
            if node in dirty:
                self._visit(node)
        dirty.clear()
        while self._grown:
            _, _, island = heapq.heappop(self._grown)
            if not self._grown or self._grown[0][2] is not island:
                self._file_island(island)

    def _shift(self) -> None:
        """Give boxes to what only shows elsewhere; it is in no grid, and has nothing below it."""
        for node in self._shifted:
            parent = node._parent
            passed = parent._passed if parent is not None else None
            if node._home is None or passed is None or node in self._dirty or parent in self._dirty:
                self._dirty[node] = None  # there is more to be done there
                continue
            place = node._place
            edges = node._edges = place.edges(passed[0], passed[1])
            node._forward = forward = place.affine(edges)
            node._inverse = place.inverse(edges) if forward is not None else None
            if parent is not None:
                parent._extent = None
        self._shifted.clear()

    def _measure(self) -> None:
        """Find the sizes of content anew where they may differ, from the leaves up, as far as they do (law L5)."""
        waiting = [(-node._depth, id(node), node) for node in self._unmeasured]
        self._unmeasured.clear()
        heapq.heapify(waiting)
        last = None
        while waiting:
            _, _, node = heapq.heappop(waiting)
            if node is last:
                continue
            last = node
            known = node._natural
            if known is not None:
                node._natural = None
                if natural(node) != known:
                    self._dirty[node] = None
                    if node._parent is not None and _minds(node._parent):
                        heapq.heappush(waiting, (-node._parent._depth, id(node._parent), node._parent))
            self._relaid[node] = self._dirty[node] = None
            node._extent = None

    def _visit(self, top: Node) -> None:
        """Place a node anew, and all below it for which that makes a difference."""
        parent = top._parent
        if parent is None:
            if top._own is not None:
                self._visit_root(cast("Root", top))
            return
        if parent._edges is None or (parent._own is None and parent._home is None):
            return  # the parent is to be placed as well, and its own visit comes down here
        first = parent._passed if parent._passed is not None else self._passing(parent)
        parent._passed = first
        stack: list[tuple[Node, Passed]] = [(top, first)]
        while stack:
            node, passed = stack.pop()
            self._dirty.pop(node, None)
            self._place(node, passed, node is top)
            if node._children:
                passing = self._passing(node)
                moved = self._laid(node, passing) if self.flows else None
                if passing != node._passed:
                    node._passed = passing
                    stack.extend([(child, passing) for child in reversed(node.children_painted())])
                elif moved:
                    stack.extend([(child, passing) for child in moved])
            else:
                node._passed = None  # it may be placed elsewhere before it holds anything again

    def _laid(self, node: Node, passing: Passed) -> list[Node] | None:
        """Lay its children if they may have other boxes now. Return those that do."""
        relaid = node in self._relaid
        if relaid:
            del self._relaid[node]
        elif node._flow is None or (node._passed is not None and node._passed[:2] == passing[:2]):
            return None
        return lay(node, passing[0], passing[1])

    def _visit_root(self, root: Root) -> None:
        width, height, forward, inverse = root._frame()
        edges = (0.0, 0.0, width, height)
        root._edges, root._forward, root._inverse = edges, forward, inverse
        root._shown = root._visible and root._solidity != "ghost"
        own = root._own
        assert own is not None
        own.edges, own.forward, own.inverse = edges, forward, inverse
        own.origin_x, own.origin_y = (forward[4], forward[5]) if forward is not None else (0.0, 0.0)
        own.clip, own.shape = root._clips, root._shape
        own.scroll_x, own.scroll_y = root._scroll
        own.hittable, own.solid = root._solidity in ("solid", "glass"), root._solidity == "solid"
        passing = self._passing(root)
        moved = self._laid(root, passing) if self.flows else None
        if passing != root._passed:
            root._passed = passing
            moved = root.children_painted()
        for child in moved or ():
            self._visit(child)

    def _passing(self, node: Node) -> Passed:
        edges = node._edges
        assert edges is not None
        width, height = edges[2] - edges[0], edges[3] - edges[1]
        if node._own is not None:
            return (width, height, 0.0, 0.0, node._own, True, None)
        assert node._home is not None
        left, top = node._base_x + edges[0], node._base_y + edges[1]
        clip = node._parent._passed[6] if node._parent is not None and node._parent._passed is not None else None
        if node._clips:
            own = (left, top, node._base_x + edges[2], node._base_y + edges[3])
            clip = own if clip is None else common(own, clip)
        return (width, height, left, top, node._home, node._shown, clip)

    def _place(self, node: Node, passed: Passed, is_top: bool) -> None:
        width, height, base_x, base_y, home, shown, clip = passed
        place = node._place
        edges = node._slot
        if edges is None:
            edges = fitted(node, width, height) if place.fits else place.edges(width, height)
        forward = place.affine(edges)
        inverse = place.inverse(edges) if forward is not None else None
        shown = shown and node._visible and node._solidity != "ghost" and (forward is None or inverse is not None)
        before = node._home
        if node._children and node._own is None:
            must = (
                forward is not None
                or node._scroll != (0.0, 0.0)
                or (node._clips and (node._shape is not None or _is_large(node)))
            )
            moved = before is not None and (
                node._edges != edges or shown != node._shown or base_x != node._base_x or base_y != node._base_y
            )
            if must or (is_top and moved and _is_large(node)):
                self._make_island(node)
        if before is not home:
            if before is not None:
                self._unfile(node, before)
            node._home = home
        parent = node._parent
        if (
            parent is not None
            and parent._extent is not None
            and (node._edges != edges or node._forward != forward or node._shown != shown)
        ):
            parent._extent = None
        node._edges, node._forward, node._inverse = edges, forward, inverse
        node._base_x, node._base_y, node._shown = base_x, base_y, shown
        reach = node._reach
        if reach is not None:
            for kind in POINTER_KINDS:
                if (by := node.reach_for(kind)) > self.reach_limits.get(kind, 0.0):
                    self.reach_limits[kind] = by
        own = node._own
        if own is None:
            self._file(node, home, entry_of(node), clip)
            return
        own.home, own.base_x, own.base_y = home, base_x, base_y
        own.edges, own.forward, own.inverse = edges, forward, inverse
        own.origin_x, own.origin_y = base_x + edges[0], base_y + edges[1]
        if inverse is not None:
            own.origin_x += inverse[4]
            own.origin_y += inverse[5]
        own.clip, own.shape = node._clips, node._shape
        own.scroll_x, own.scroll_y = node._scroll
        effective = node._effective
        own.hittable, own.solid = effective in ("solid", "glass"), effective == "solid"
        own.exact = own.clip and own.shape is None and forward is None
        self._grew(own)

    def _file(self, node: Node, home: Island, entry: Entry | None, clip: Box | None) -> None:
        """Replace the node's entry, as far as the clip leaves any of it."""
        self._file_reach(node, home, entry)
        if entry is not None and clip is not None:
            left, top, right, bottom = common(entry[:4], clip)
            entry = (left, top, right, bottom, node, entry[5]) if left < right and top < bottom else None
        grid = home.grid
        known = grid.entries.get(node)
        if known is not None:
            if entry is not None and known[5] is entry[5] and known[:4] == entry[:4]:
                return
            grid.remove(node)
        if entry is not None and grid.add(entry):
            self._grew(home)

    def _file_reach(self, node: Node, home: Island, entry: Entry | None) -> None:
        reachers = home.reachers
        own = node._own
        wanted = entry is not None and (
            (node._reach is not None and node._effective in ("solid", "glass"))
            or (own is not None and own.reachers is not None and bool(own.reachers.entries))
        )
        known = reachers.entries.get(node) if reachers is not None else None
        if known == entry and wanted == (known is not None):
            return
        if reachers is not None and known is not None:
            reachers.remove(node)
        if wanted and entry is not None:
            if reachers is None:
                home.reachers = reachers = Grid()
            reachers.add(entry)
        if wanted or known is not None:
            self._grew(home)

    def _unfile(self, node: Node, home: Island) -> None:
        if node in home.grid.entries:
            home.grid.remove(node)
        if home.reachers is not None and node in home.reachers.entries:
            home.reachers.remove(node)
            self._grew(home)

    def _grew(self, island: Island) -> None:
        """Make the entry of this island larger, or found by reach, if it has to be."""
        if island.home is not None:
            heapq.heappush(self._grown, (-island.node._depth, id(island), island))

    def _file_island(self, island: Island) -> None:
        node, home = island.node, island.home
        if home is None or node._home is not home or node._scene is None:
            return
        entry = island_entry_of(island) if node._shown else None
        parent = node._parent
        assert parent is not None
        assert parent._passed is not None
        self._file(node, home, entry, parent._passed[6])

    # -- islands and removal -------------------------------------------------------------------------------------

    def _make_island(self, node: Node) -> None:
        """Give a node an island; its children move into it when they are visited."""
        node._own = Island(node)
        node._passed = None
        if node._home is not None:
            self._unfile(node, node._home)

    def _withdraw(self, node: Node) -> None:
        """Take a node and those below it in the same island out of that island's grid, and forget their numbers."""
        home = node._home
        if home is None:
            for one in node.walk():
                one._z = 0
            return
        stack = [node]
        while stack:
            one = stack.pop()
            if one._home is not home:
                continue  # new, not filed yet
            self._unfile(one, home)
            one._home = None
            one._z = 0
            if one._own is None:
                one._passed = None
                if one._children:
                    stack.extend(one._children.values())


def _may_stop(node: Node) -> bool:
    """Whether focus might stop at a node, so that its place matters to focus."""
    return node._used is not None or node._focusable is not None


def _is_large(node: Node) -> bool:
    return next(islice(node.walk(), LARGE, None), None) is not None


def _minds(parent: Node) -> bool:
    """Whether it lays its children, or somebody goes by the size they need."""
    return parent._flow is not None or parent._natural is not None


def _depth(node: Node) -> int:
    return node._depth
