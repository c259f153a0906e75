"""What a tool looks at in a running scene: a point, all that lies there, and the one node that is chosen of it."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SceneError
from glent.live.beneath import Beneath, beneath
from glent.live.edits import Edits

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.routing.router import Router
    from glent.core.scene.node import Node

__all__ = ["Inspection"]


class Inspection:
    """A look at a running scene.

    :param router: the scene's router.

    :ivar router: that. :ivar edits: the changes that were made to the scene. :ivar point: where one looks, window
        pixels; None: nowhere yet. :ivar kind: as which kind of pointer. :ivar is_pinned: whether the point stays where
        it is while the pointer moves on.
    """

    __slots__ = ("_chosen", "_found", "_seen", "edits", "is_pinned", "kind", "point", "router")

    def __init__(self, router: Router) -> None:
        self.router = router
        self.edits = Edits(router.scene)
        self.point: tuple[float, float] | None = None
        self.kind = "mouse"
        self.is_pinned = False
        self._chosen: Node | None = None
        self._found: list[Beneath] = []
        self._seen: tuple[object, ...] | None = None

    def look(self, x: float, y: float, kind: str = "mouse") -> None:
        """Look at a point, unless another one is pinned."""
        if not self.is_pinned:
            self.point, self.kind = (x, y), kind

    def pin(self, x: float, y: float, kind: str = "mouse") -> None:
        """Look at a point, and stay there. The foremost that is hit is chosen, or else the foremost."""
        self.point, self.kind, self.is_pinned = (x, y), kind, True
        found = self.found
        self._chosen = next((one.node for one in found if one.hit), found[0].node if found else None)

    def let_go(self) -> None:
        """Let the point follow the pointer again."""
        self.is_pinned = False

    @property
    def found(self) -> list[Beneath]:
        """All that lies at the point, front to back. It is found anew when the point or the scene has changed."""
        scene = self.router.scene
        if self.edits.scene is not scene:  # the router has gone on to another one
            self.edits, self._chosen = Edits(scene), None
        now = (self.point, self.kind, scene, scene._version, scene._shifts)
        if now != self._seen:
            self._seen = now
            self._found = beneath(self.router, *self.point, self.kind) if self.point is not None else []
        return self._found

    @property
    def chosen(self) -> Node | None:
        """The node that is chosen; None if none is, or it has been removed."""
        node = self._chosen
        return node if node is not None and node.scene is self.router.scene else None

    @property
    def chosen_entry(self) -> Beneath | None:
        """What :attr:`found` tells of the chosen node; None if it lies elsewhere."""
        return next((one for one in self.found if one.node is self.chosen), None)

    def choose(self, node: Node) -> None:
        """Choose a node, wherever it lies.

        :raises SceneError: it is not in the scene.
        """
        if node.scene is not self.router.scene:
            raise SceneError(f"{node.path}: is not in the scene, so it cannot be looked at")
        self._chosen = node

    def step(self, by: int) -> None:
        """Choose what lies so many places farther back in the list, or in front."""
        nodes = [one.node for one in self.found]
        if not nodes:
            return
        at = nodes.index(self._chosen) + by if self._chosen in nodes else (0 if by > 0 else len(nodes) - 1)
        self._chosen = nodes[max(0, min(at, len(nodes) - 1))]

    def go(self, way: str) -> None:
        """Choose a node beside the chosen one in the tree: ``parent``, ``child``, ``before`` or ``after``."""
        node = self.chosen
        if node is None:
            return
        if way == "parent":
            self._chosen = node.parent or node
        elif way == "child":
            self._chosen = next(iter(node.children), node)
        else:
            roots: Iterable[Node] = (*self.router.scene.layers, *self.router.scene.in_world)
            among = list(node.parent.children if node.parent is not None else roots)
            if node in among:
                at = among.index(node) + (1 if way == "after" else -1)
                self._chosen = among[max(0, min(at, len(among) - 1))]
