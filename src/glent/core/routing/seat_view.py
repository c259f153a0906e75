"""What one seat sees of the scene: its modals, its claims, its cursor, and what is not for it (laws M1, T1, W2, W5). It
has the one filter of seat and modal over hits."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from functools import cmp_to_key
from typing import TYPE_CHECKING, NamedTuple

from glent.core.routing import reasons as because
from glent.core.scene.layer import CHANNELS, Layer
from glent.core.scene.reach import is_painted_over, with_reach

if TYPE_CHECKING:
    from glent.core.geometry.world.camera import Camera
    from glent.core.routing.reasons import Reason
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Barrier", "SeatView"]


class Barrier(NamedTuple):
    """The reason why a point gives nothing to those who lie behind, nor to the world."""

    reason: Reason
    about: Node | str


class SeatView:
    """A seat's view of the scene, brought up to date whenever the scene has changed.

    :ivar modals: the open modals, front to back, those of other seats that block this one included.
    :ivar top: the first of them. :ivar top_is_foreign: whether that is another seat's.
    :ivar closable: what back or a press can close, front to back.
    :ivar claimed: who claims each channel that is claimed; a modal claims all of them.
    :ivar cursor: what the topmost layer with an opinion says. :ivar in_transition: the layers in transition.
    :ivar held_panels: by panel, the modal on it that blocks the rest of it, and nothing else (law M1).
    :ivar unrestricted: whether a point means to this seat what it means to all.
    :ivar screen_only: whether nothing stands behind the layers either, so that they say all there is to say of a point.
    :ivar camera: the seat's own. :ivar sees_by: that or the scene's, if anything stands in the world to be seen.
    :ivar window: what it fills: left, top, width and height in window pixels.
    """

    __slots__ = (
        "_layers",
        "camera",
        "claimed",
        "closable",
        "cursor",
        "held_panels",
        "in_transition",
        "modals",
        "name",
        "scene",
        "screen_only",
        "seated",
        "sees_by",
        "top",
        "top_is_foreign",
        "unrestricted",
        "version",
        "window",
    )

    def __init__(self, scene: Scene, name: str) -> None:
        self.scene = scene
        self.name = name
        self.version = -1
        self.modals: list[Node] = []
        self.top: Node | None = None
        self.top_is_foreign = False
        self.closable: list[Node] = []
        self.claimed: dict[str, Node] = {}
        self.cursor = "shown"
        self.in_transition: list[Layer] = []
        self.unrestricted = self.screen_only = True
        self.held_panels: dict[Node, Node] = {}
        self.camera: Camera | None = None
        self.sees_by: Camera | None = None
        self.window = (0.0, 0.0, 0.0, 0.0)
        self.seated = False
        self._layers: dict[Node, int] = {}

    def enter(self, scene: Scene) -> None:
        """See another scene from now on."""
        self.scene, self.version = scene, -1
        self.refresh()

    # -- bringing it up to date ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Look at the layers and at the few nodes with input attributes of their own. The index must be up to date."""
        scene = self.scene
        if self.version == scene._version:
            return
        self.version = scene._version
        front = scene._front
        self._layers = {layer: number for number, layer in enumerate(front)}
        outstanding = scene._outstanding
        self.seated = any(node._input_traits.seats is not None for node in outstanding)
        self.modals, self.closable, self.held_panels = [], [], {}
        if outstanding:
            shown = [
                node
                for node in outstanding
                if (node._input_traits.modal or node._input_traits.closed_by != "none")
                and _is_there(node)
                and self.whose(node) != "through"
            ]
            shown.sort(key=cmp_to_key(self._before))
            self.modals = [node for node in shown if node._input_traits.modal and not self.is_local(node)]
            for node in reversed(shown):
                if node._input_traits.modal and self.is_local(node):
                    self.held_panels[node.root] = node
            self.closable = [
                node for node in shown if node._input_traits.closed_by != "none" and self.whose(node) == "own"
            ]
        self.top = self.modals[0] if self.modals else None
        self.top_is_foreign = self.top is not None and self.whose(self.top) != "own"
        self.claimed, self.in_transition, cursor = {}, [], ""
        for layer in front:
            if not layer._visible or (layer._claims, layer._cursor, layer._transition) == NOTHING:
                continue
            whose = self.whose(layer)
            if whose == "through":
                continue
            for channel in CHANNELS:
                if channel in layer._claims:
                    self.claimed.setdefault(channel, layer)
            if layer._transition is not None and layer._solidity != "ghost":
                self.in_transition.append(layer)
            if whose == "own":
                cursor = cursor or layer._cursor or ""
        self.cursor = cursor or "shown"
        if self.top is not None:
            self.claimed = dict.fromkeys(CHANNELS, self.top)
        whole = self.name not in scene._viewports  # else what lies outside of its viewport is another matter (law T2)
        self.unrestricted = (
            whole and self.top is None and not self.seated and not self.in_transition and "pointer" not in self.claimed
        )
        self._look_beyond()

    def _look_beyond(self) -> None:
        """Note whether anything stands in the world, and the camera that sees it."""
        scene = self.scene
        world_index = scene._world_index
        there = world_index is not None and bool(world_index.roots)
        self.sees_by = (self.camera or scene._camera) if there else None
        self.screen_only = self.unrestricted and self.sees_by is None
        left, top, width, height = scene._viewports.get(self.name, (0.0, 0.0, 1.0, 1.0))
        across, down = scene._window
        self.window = (left * across, top * down, width * across, height * down)

    def is_local(self, modal: Node) -> bool:
        """Whether a modal blocks no more than the panel that it is on (law M1)."""
        world_index = self.scene._world_index
        return (
            world_index is not None and not modal._input_traits.blocks_all and world_index.panel_of(modal) is not None
        )

    def whose(self, node: Node) -> str:
        """Whose a node is: this seat's ``own``, or another's: ``through`` or ``blocked`` (law T1)."""
        if not self.seated:
            return "own"
        return self.stranger(node)[0]

    def stranger(self, node: Node) -> tuple[str, Node]:
        """Whose a node is, with the outermost node that decides it."""
        found = ("own", node)
        one: Node | None = node
        while one is not None:
            seats = one._input_traits.seats
            if seats is not None and self.name not in seats:
                found = (one._input_traits.for_others, one)
            one = one._parent
        return found

    def _before(self, one: Node, other: Node) -> int:
        if self.is_in_front(one, other):
            return -1
        return 1 if self.is_in_front(other, one) else 0

    def is_in_front(self, one: Node, other: Node) -> bool:
        """Whether a node is painted over another one, by layers and then in their tree (law H1)."""
        layers = self._layers
        a, b = layers.get(_root(one), FAR_BACK), layers.get(_root(other), FAR_BACK)
        if a != b:
            return a < b
        return _root(one) is _root(other) and is_painted_over(one, other)

    # -- what a point means to it ------------------------------------------------------------------------------------

    def find(self, x: float, y: float, kind: str, deep: bool = False) -> tuple[list[Node], Barrier | None]:
        """The offers of the layers at a point, and what blocks the way behind them.

        :param deep: whether to go on behind the first solid, down to the barrier.
        """
        offers: list[Node] = []
        for node, barrier in self.walk(x, y, kind):
            if barrier is not None:
                return offers, barrier
            if node is not None:
                offers.append(node)
                if not deep and node._effective == "solid":
                    return offers, None
        return offers, None

    def walk(self, x: float, y: float, kind: str) -> Iterator[tuple[Node | None, Barrier | None]]:
        """All hits of the layers front to back; from a barrier on each comes with it. A barrier that is no node comes
        alone."""
        scene, top = self.scene, self.top
        m = scene._from_screen
        x, y = m[0] * x + m[4], m[3] * y + m[5]
        reach = bool(scene._index.reach_limits.get(kind))
        barrier: Barrier | None = None
        for layer in scene._front:
            if not layer._shown:
                continue
            if barrier is None and layer in self.in_transition:
                barrier = Barrier(because.TRANSITION, layer)
                yield None, barrier
            own = layer._own
            assert own is not None
            found: list[Node] = []
            own.meet(layer, x, y, found, True)
            if reach:
                found = with_reach(scene, layer, kind, x, y, found, scene._to_logical)
            for node, bar in self.filtered(found, barrier):
                barrier = bar
                yield node, bar
            if barrier is None and top is not None and self._layers[layer] >= self._layers.get(_root(top), FAR_BACK):
                barrier = Barrier(because.MODAL, top)
                yield None, barrier

    def filtered(self, hits: Iterable[Node], barrier: Barrier | None) -> Iterator[tuple[Node, Barrier | None]]:
        """Filter hits, front to back, by seats and modals (laws T1, M1): the one place where that is done.

        What is another seat's and lets input through is left out. From the first that is blocked on, each comes with
        the barrier; ``barrier`` is one that stands in front of all of them already.
        """
        for node in hits:
            if self.seated:
                whose, by = self.stranger(node)
                if whose == "through":
                    continue
                if whose == "blocked" and barrier is None:
                    barrier = Barrier(because.OTHER_SEAT, by)
            if barrier is None:
                barrier = self.modal_before(node)
            yield node, barrier

    def modal_before(self, node: Node) -> Barrier | None:
        """The barrier of the modal that keeps the pointer from a node; None if none does (law M1)."""
        if self.keeps(node):
            return None
        held = self.held_panels.get(node.root)
        return Barrier(because.MODAL, held if held is not None and _is_behind_modal(held, node) else self.top or node)

    def barrier_of(self, node: Node) -> Barrier | None:
        """The barrier that keeps a node from what is asked of it: a modal, or its own layer in transition (M1, W2)."""
        barrier = self.modal_before(node)
        if barrier is None and is_sliding(node.root):
            return Barrier(because.TRANSITION, node.root)
        return barrier

    def last(self, channel: str = "pointer") -> Barrier | None:
        """The barrier that keeps the world from getting what nobody took of a channel: a modal, or a claim (M1, W2)."""
        if self.top is not None:
            return Barrier(because.MODAL, self.top)
        return Barrier(because.CLAIMED, self.claimed[channel]) if channel in self.claimed else None

    def keeps(self, node: Node) -> bool:
        """Whether the modals leave the pointer to a node: it is within the topmost, or in front (law M1)."""
        top = self.top
        if self.held_panels:
            held = self.held_panels.get(node.root)
            if held is not None and _is_behind_modal(held, node):
                return False
        return (
            top is None
            or (not self.top_is_foreign and node.is_within(top))
            or (not node.is_within(top) and self.is_in_front(node, top))
        )

    def reaches(self, node: Node) -> bool:
        """Whether input of the seat may still go to a node, wherever it lies: nothing has come in front of it."""
        if self.unrestricted and not self.held_panels:
            return True
        return (
            self.keeps(node)
            and self.whose(node) == "own"
            and not any(self.is_behind(node, layer) for layer in self.in_transition)
        )

    def is_behind(self, node: Node, layer: Node) -> bool:
        """Whether a node is in a layer or in one behind it."""
        root = _root(node)
        return self._layers.get(root, -1 if root._scene is None else FAR_BACK) >= self._layers.get(layer, FAR_BACK)

    def has(self, channel: str) -> bool:
        """Whether a channel is kept from the world."""
        return channel in self.claimed

    def ear(self, channel: str) -> Node | None:
        """The node that hears keys that there is no focus for: the topmost modal, or the layer that claims them. One
        that is disabled or still sliding in is deaf (laws W2, S5)."""
        node = self.top if self.top is not None else self.claimed.get(channel)
        if node is None or self.top_is_foreign or self.whose(node) != "own":
            return None
        return node if node.is_enabled and not is_sliding(node.root) else None


def is_sliding(root: Node) -> bool:
    """Whether a root is a layer in transition, which is deaf (law W2)."""
    return isinstance(root, Layer) and root._transition is not None


NOTHING: tuple[frozenset[str], None, None] = (frozenset(), None, None)


FAR_BACK = 1 << 60


def _is_behind_modal(modal: Node, node: Node) -> bool:
    """Whether a modal blocks a node of its own panel, which is neither in it nor painted over it (law M1)."""
    return not node.is_within(modal) and not is_painted_over(node, modal)


def _is_there(node: Node) -> bool:
    """Whether a node shows and is no ghost: nothing in a ghost could be hit or focused, so it blocks nothing (S4)."""
    return node.is_visible and all(one._solidity != "ghost" for one in node.lineage())


def _root(node: Node) -> Node:
    while node._parent is not None:
        node = node._parent
    return node
