"""Islands: parts of a tree that keep a grid in a space of their own, and are one entry in the grid around them.

A node with children becomes an island if it turns, scales or scrolls, if it clips to a shape or clips a long list, or
if it has many nodes below it and moves, hides or changes its order. Moving, scrolling, hiding or raising an island
changes one entry; what is inside stays as it is. Islands nest. A layer is the outermost island. A turned node without
children is a plain entry, and a small box that clips just cuts the entries of what is in it.

Inside one island the offsets of nodes that only shift are added up, so a point is compared with stored edges: that is
what makes neighbours meet exactly (law H2). A clip is asked once, on the way in (law H3).
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.geometry.boxes import BoxShape
from glent.core.scene.grid import ROW, Grid

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine, Box
    from glent.core.geometry.shape import Shape
    from glent.core.scene.node import Node

__all__ = ["BOX", "GLASS", "Glass", "Island", "Passed", "Shaped", "Turned"]

Passed = tuple[float, float, float, float, "Island", bool, "Box | None"]
"""What a node passes to its children: width, height, where its origin is in their island, the island, whether they
are shown, and the box in that island that they are clipped to."""

FAR = 1e15
"""A point mapped farther than this lies nowhere: floats are too coarse there to say where (law H6)."""


class Glass:
    """A glass node that fills its entry's box."""

    __slots__ = ("solid",)

    def __init__(self) -> None:
        self.solid = False

    def meet(self, node: Node, x: float, y: float, out: list[Node], deep: bool) -> bool:
        """A hit that does not end the search (law S2)."""
        out.append(node)
        return False


Test = Callable[[float, float], bool]
"""Whether a node-local point is in a shape of a size that is known."""

GLASS = Glass()
BOX = BoxShape()


class Shaped:
    """A node that only shifts and has a shape of its own."""

    __slots__ = ("origin_x", "origin_y", "solid", "test")

    def __init__(self, left: float, top: float, test: Test, solid: bool) -> None:
        self.origin_x, self.origin_y = left, top
        self.test = test
        self.solid = solid

    def meet(self, node: Node, x: float, y: float, out: list[Node], deep: bool) -> bool:
        """Whether the shape is hit at a point of the island, and whether that ends the search."""
        if self.test(x - self.origin_x, y - self.origin_y):
            out.append(node)
            return self.solid and not deep
        return False


class Turned:
    """A turned or scaled node without an island of its own."""

    __slots__ = ("inverse", "origin_x", "origin_y", "solid", "test")

    def __init__(self, origin_x: float, origin_y: float, inverse: Affine, test: Test, solid: bool) -> None:
        self.origin_x, self.origin_y = origin_x, origin_y  # the pivot, which the inverse is about
        self.inverse = inverse
        self.test = test
        self.solid = solid

    def meet(self, node: Node, x: float, y: float, out: list[Node], deep: bool) -> bool:
        """Whether the shape is hit at a point of the island, and whether that ends the search."""
        a, b, c, d, e, f = self.inverse
        x -= self.origin_x
        y -= self.origin_y
        if self.test(a * x + c * y + e, b * x + d * y + f):
            out.append(node)
            return self.solid and not deep
        return False


class Island:
    """A node's children in a space of their own.

    That space is node-local plus the scroll offset: its origin is the top left corner of the node's scrolled content.
    """

    __slots__ = (
        "base_x",
        "base_y",
        "clip",
        "edges",
        "exact",
        "forward",
        "grid",
        "hittable",
        "home",
        "inverse",
        "node",
        "origin_x",
        "origin_y",
        "reachers",
        "scroll_x",
        "scroll_y",
        "shape",
        "solid",
    )

    def __init__(self, node: Node) -> None:
        self.node = node
        self.grid = Grid()
        self.reachers: Grid | None = None
        """Nodes with a reach, and islands that hold such nodes (law H5)."""
        self.home: Island | None = None
        self.base_x = self.base_y = 0.0
        self.origin_x = self.origin_y = 0.0
        """Its top left corner in the space around, or the pivot if it is turned: what a point is relative to."""
        self.edges: Box = (0.0, 0.0, 0.0, 0.0)
        self.forward: Affine | None = None
        self.inverse: Affine | None = None
        self.clip = self.hittable = self.solid = False
        self.exact = False
        """Whether its entry is exactly its clip, so that a point found there is inside."""
        self.shape: Shape | None = None
        self.scroll_x = self.scroll_y = 0.0

    def into(self, x: float, y: float) -> tuple[float, float]:
        """A point of the island around this one, in this node's local space (before scrolling)."""
        x -= self.origin_x
        y -= self.origin_y
        if self.inverse is None:
            return x, y
        a, b, c, d, e, f = self.inverse
        return a * x + c * y + e, b * x + d * y + f

    def covers(self, x: float, y: float, local_x: float, local_y: float) -> bool:
        """Whether the node's own shape has the point, given in the space around and in node-local space."""
        edges = self.edges
        shape = self.shape
        if shape is not None:
            width, height = edges[2] - edges[0], edges[3] - edges[1]
            return width > 0.0 and height > 0.0 and shape.contains(local_x, local_y, width, height)
        if self.inverse is None:  # compared with the stored edges, as its siblings are (law H2)
            left, top = self.base_x, self.base_y
            return left + edges[0] <= x < left + edges[2] and top + edges[1] <= y < top + edges[3]
        return 0.0 <= local_x < edges[2] - edges[0] and 0.0 <= local_y < edges[3] - edges[1]

    def meet(self, node: Node, x: float, y: float, out: list[Node], deep: bool) -> bool:
        """Append everything hit inside, then the node itself, which its children cover (law H1)."""
        local_x = x - self.origin_x
        local_y = y - self.origin_y
        if self.inverse is not None:
            a, b, c, d, e, f = self.inverse
            local_x, local_y = a * local_x + c * local_y + e, b * local_x + d * local_y + f
            if not (-FAR < local_x < FAR and -FAR < local_y < FAR):
                return False
        if self.exact:
            inside = True
        else:
            inside = (self.clip or self.hittable) and self.covers(x, y, local_x, local_y)
            if self.clip and not inside:
                return False
        x = local_x + self.scroll_x
        y = local_y + self.scroll_y
        grid = self.grid
        inverse_size = grid.inverse
        cell = grid.kept.get(int(x * inverse_size) * ROW + int(y * inverse_size))
        if cell is None:
            cell = grid.collect(x, y)
        for left, top, right, bottom, inner, target in cell:
            if left <= x < right and top <= y < bottom:
                if target is None:  # a solid that fills its box
                    out.append(inner)
                    if not deep:
                        return True
                elif target.meet(inner, x, y, out, deep):
                    return True
        if inside and self.hittable:
            out.append(node)
            return self.solid and not deep
        return False
