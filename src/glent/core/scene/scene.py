"""The scene: everything that can be hit, in layers in front of each other, and how they fit the window."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import TYPE_CHECKING, Any, Protocol, Unpack

from glent.core.arguments import is_choice, is_number
from glent.core.errors import PathError, SceneError, near
from glent.core.geometry.affine import Affine, Box, apply, compose, invert
from glent.core.scene import checks
from glent.core.scene.fit import FITS, Viewport, check_size, fitted
from glent.core.scene.index import Index
from glent.core.scene.layer import Layer, checked_claims, checked_covers, checked_cursor
from glent.core.scene.node import Node, checked_node
from glent.core.scene.paths import descend, missing
from glent.core.scene.scene_world import SceneWorld
from glent.core.scene.space import enter, to_scene

if TYPE_CHECKING:
    from weakref import ReferenceType

    from glent.core.scene.keywords import InputKeywords

__all__ = ["Attached", "Scene", "Settling"]


class Attached(Protocol):
    """What a scene asks of its router."""

    def _on_removed(self, nodes: list[Node]) -> None: ...

    def _look(self, node: Node) -> str: ...

    def _grab(self, node: Node, name: str, on_lost: Callable[[str], object] | None) -> Any: ...

    def _scroll(self, node: Node, dx: float, dy: float) -> tuple[float, float]: ...

    def _on_removing(self, node: Node) -> None: ...

    def _focused(self, node: Node) -> int: ...

    def _on_change(self, node: Node, names: tuple[str, ...]) -> None: ...

    @property
    def seats(self) -> tuple[Any, ...]: ...


class Settling:
    """A call that is made at each settle, until :meth:`stop`."""

    __slots__ = ("_scene", "call")

    def __init__(self, scene: Scene, call: Callable[[], object]) -> None:
        self._scene = scene
        self.call = call

    def stop(self) -> None:
        """Stop the calls. Twice does nothing."""
        self._scene._on_settle = tuple(one for one in self._scene._on_settle if one is not self)


class Scene(SceneWorld):
    """A stack of layers over the game's world.

    :param size: the reference size in logical pixels that places are thought out for.
    :param fit: how it is fitted to a window of another size: ``contain``, ``cover``, ``width``, ``height``, ``none``.
    :raises SceneError: a size that is not two numbers above zero, or an unknown fit.

    :ivar _listeners: how many handlers there are by kind; never fewer than there really are.
    :ivar version: counts every change that could make a difference to an answer.
    :ivar _shifts: counts the changes of place that make none: of what is never hit and holds nothing.
    :ivar _layout: counts those that could make one to where focus can go, other than scrolling.
    """

    __slots__ = (
        "__weakref__",
        "_fit",
        "_from_screen",
        "_front",
        "_index",
        "_layers",
        "_layout",
        "_listeners",
        "_looked",
        "_on_settle",
        "_outstanding",
        "_router",
        "_scale",
        "_shifts",
        "_size",
        "_to_logical",
        "_to_screen",
        "_viewports",
        "_window",
        "attachments",
        "layer_size",
    )

    def __init__(self, size: tuple[float, float], fit: str = "contain") -> None:
        super().__init__()
        self._size = check_size(size, "the size of a scene")
        self._fit = _checked_fit(fit)
        self._window = self._size
        self._scale = 1.0
        self.attachments: dict[str, object] = {}
        """What those above the core keep with the scene, each by a name of its own: its controls, its wiring."""
        self._layers: dict[str, Layer] = {}
        self._front: tuple[Layer, ...] = ()
        self._router: ReferenceType[Attached] | None = None
        self._outstanding: dict[Node, None] = {}
        """The nodes that are modal, can be closed, or are for some seats only."""
        self._viewports: dict[str, Viewport] = {}
        self._on_settle: tuple[Settling, ...] = ()
        self._looked: dict[Node, None] = {}
        """Nodes to be looked at anew by their router: enabled or disabled with what is below, or just listening."""
        self._layout = 0
        self._shifts = 0
        self._listeners: dict[str, int] = {}
        self._index = Index(self)
        self._refit()

    def __copy__(self) -> Scene:
        raise TypeError("a scene is not copied by copy; write it to a file and read that, or build another")

    def __deepcopy__(self, memo: object) -> Scene:
        return self.__copy__()

    def __reduce_ex__(self, protocol: object) -> str:
        raise TypeError("a scene is not pickled; glent.formats.write_scene writes it to a file")

    # -- layers and nodes ----------------------------------------------------------------------------------------

    def layer(
        self,
        name: str,
        order: float = 0,
        claims: Iterable[str] = (),
        cursor: str | None = None,
        visible: bool = True,
        covers: str = "scene",
        **terms: Unpack[InputKeywords],
    ) -> Layer:
        """Add a layer; in front of those with a lower order, and of earlier ones with the same.

        :param claims: the channels it keeps from the world while it shows (law W2): ``pointer``, ``keys``, ``pad``,
            ``text``.
        :param cursor: what the cursor should be while it shows: ``shown``, ``hidden``, ``locked``, None (law W5).
        :param visible: whether it shows; a menu is mostly made hidden and shown later.
        :param covers: what it lies over: ``scene``, or ``window``, with the bars that the scene may leave.
        :param terms: any of the attributes of :class:`InputAttributes`: ``modal``, ``closed_by``, ``seats``, ….
        :raises SceneError: the name is no name or is taken, or a value is out of range.
        """
        self._check_free(name)
        order = checks.number(order, "order", name)
        layer = Layer(self, name, order)
        layer._claims = checked_claims(claims, name)
        layer._cursor = checked_cursor(cursor, name)
        layer._visible = checks.flag(visible, "visible", name)
        layer._covers = checked_covers(covers, name)
        if terms:
            layer._set_terms(name, terms)
            self._input_traits_changed(layer)
        self._layers[name] = layer
        self._layers_changed()
        self._index.changed(layer)
        return layer

    def _check_free(self, name: str) -> None:
        checks.name(name, str(name))
        world_index = self._world_index.roots if self._world_index is not None else {}
        if name in self._layers or name in world_index:
            what = "layer" if name in self._layers else world_index[name]._what
            raise SceneError(f"{name}: the name is already taken by a {what} of this scene")

    @property
    def layers(self) -> tuple[Layer, ...]:
        """The layers, front to back."""
        return self._front

    @property
    def router(self) -> Attached | None:
        """The router that takes samples for this scene, if there is one."""
        return self._router() if self._router is not None else None

    def _layers_changed(self) -> None:
        stack = sorted(self._layers.values(), key=lambda layer: layer._order)
        self._front = tuple(reversed(stack))
        self._version += 1
        self._layout += 1

    def _input_traits_changed(self, node: Node) -> None:
        """Note that a node has other input attributes: those few nodes are looked at wherever a pointer is."""
        if node._input_traits.stands_out:
            self._outstanding[node] = None
        else:
            self._outstanding.pop(node, None)
        if node._parent is None:
            self._index.changed(node)  # a layer of one seat is laid out in that seat's viewport
        self._version += 1
        self._layout += 1

    def _check_seats(self, names: Iterable[str], where: str) -> None:
        """Check that a node is for seats that there are, or that others of the scene wait for already.

        :raises SceneError: there is a router, and one of the names is neither.
        """
        router = self.router
        if router is None:
            return  # which seats there will be is not known yet
        known = {seat.name for seat in router.seats}
        for node in self._outstanding:
            known.update(node._input_traits.seats or ())
        for name in sorted(names):  # in one order, so that the message is the same each time
            if name not in known:
                raise SceneError(
                    f"{where}: seats names {name!r}, and the router has no such seat, expected one of"
                    f" {', '.join(sorted(known))}{near(name, known)}; add_seat() comes first"
                )

    def _set_viewport(self, seat: str, viewport: Viewport | None) -> None:
        """Set where on the window the layers of one seat are laid out (law T2)."""
        if viewport is None:
            self._viewports.pop(seat, None)
        else:
            self._viewports[seat] = viewport
        self._refit()

    def _drop_root(self, root: Node) -> None:
        self._index.removed(root)
        if root._name in self._layers:
            del self._layers[root._name]
            self._layers_changed()
        elif self._world_index is not None:
            self._world_index.drop(root)  # type: ignore[arg-type]

    def __getitem__(self, path: str) -> Node:
        """The node at a path such as ``"hud/bar/send-tug"``.

        :raises PathError: there is none; the message says where the path ends and which names are near.
        """
        if not isinstance(path, str):
            raise PathError(f"a path is {path!r}, expected text such as 'hud/bar/send-tug'")
        name, _, rest = path.partition("/")
        root: Node | None = self._layers.get(name)
        if root is None and self._world_index is not None:
            root = self._world_index.roots.get(name)
        if root is None:
            raise missing(path, name, dict.fromkeys([*self._layers, *(one.name for one in self.in_world)]), "the scene")
        return descend(root, rest, path) if rest else root

    def __contains__(self, path: str) -> bool:
        try:
            self[path]
        except PathError:
            return False
        return True

    def walk(self) -> Iterator[Node]:
        """All nodes in paint order, back to front, layers included; first what stands in the world, as it was made."""
        for root in self.in_world:
            yield from root.walk()
        for layer in reversed(self._front):
            yield from layer.walk()

    def find(self, what: str | Callable[[Node], bool]) -> list[Node]:
        """All nodes with this name, or for which the predicate holds, in paint order. Cost: a walk of the scene."""
        test = what if callable(what) else (lambda node: node._name == what)
        return [node for node in self.walk() if test(node)]

    def refresh_attachments(self) -> None:
        """Have what is attached to the scene see what is declared by now: controls and wires, by ``refresh()``."""
        for attached in tuple(self.attachments.values()):
            refresh = getattr(attached, "refresh", None)
            if refresh is not None:
                refresh()

    def refresh_looks(self) -> None:
        """Have the router look again at all nodes that listen for ``look``: what they depend on has changed."""
        if self._listeners.get("look"):
            self._looked.update((root, None) for root in (*self.in_world, *self._front))

    def on_settle(self, call: Callable[[], object]) -> Settling:
        """Call ``call()`` whenever the router settles a scene that has changed, before hover is looked at (law P7).

        For what has to follow boxes that others place: a scrollbar's thumb, a popup beside its button. What it changes
        is settled with the rest; calls that undo each other are given up as handlers are.
        """
        settling = Settling(self, call)
        self._on_settle = (*self._on_settle, settling)
        return settling

    # -- size and fit --------------------------------------------------------------------------------------------

    @property
    def size(self) -> tuple[float, float]:
        """The reference size in logical pixels."""
        return self._size

    @size.setter
    def size(self, value: tuple[float, float]) -> None:
        self._size = check_size(value, "the size of a scene")
        self._refit()

    @property
    def fit(self) -> str:
        """How the reference size is fitted to the window."""
        return self._fit

    @fit.setter
    def fit(self, value: str) -> None:
        self._fit = _checked_fit(value)
        self._refit()

    @property
    def window(self) -> tuple[float, float]:
        """The window's size in pixels, the unit of samples; the reference size until told otherwise."""
        return self._window

    @window.setter
    def window(self, value: tuple[float, float]) -> None:
        self._window = check_size(value, "the size of the window")
        self._refit()

    @property
    def scale(self) -> float:
        """How many window pixels a logical pixel of the screen is long, by the display: reach and thresholds are
        measured in logical pixels. 1 until told otherwise."""
        return self._scale

    @scale.setter
    def scale(self, value: float) -> None:
        self._scale = float(checks.number(value, "scale", "the scene", 1 / 64))
        self._refit()

    def _refit(self) -> None:
        self._to_screen, self.layer_size = fitted(self._fit, self._size, self._window)
        scale, _, _, _, left, top = self._to_screen
        self._to_logical: Affine = tuple(number / self._scale for number in self._to_screen)  # type: ignore[assignment]
        # Undone step by step rather than by a determinant: 1280 over 1600 then gives 1.25, and not nearly that.
        self._from_screen: Affine = (1.0 / scale, 0.0, 0.0, 1.0 / scale, -left / scale, -top / scale)
        for layer in self._layers.values():
            self._index.changed(layer)
        self._version += 1
        self._layout += 1

    def from_screen(self, x: float, y: float) -> tuple[float, float]:
        """A point of the screen (window pixels) in scene space."""
        if not (is_number(x) and is_number(y)):
            raise SceneError(f"the point of the screen is ({x!r}, {y!r}), expected two finite numbers")
        m = self._from_screen
        return m[0] * x + m[4], m[3] * y + m[5]

    def to_screen(self, node: Node | None = None) -> Affine:
        """The transform to screen space, from scene space or from a node's local space.

        :raises SceneError: the node stands in the world, from where there is no such transform; see :meth:`point`.
        """
        if node is None:
            return self._to_screen
        if node.root._in_world:
            raise SceneError(f"{node.path}: stands in the world, so no one transform takes it to the screen")
        self._index.refresh()
        return compose(self._to_screen, to_scene(node))

    def local(self, node: Node, x: float, y: float) -> tuple[float, float]:
        """A point of the screen in a node's local space; its origin where a scale of zero leaves no answer.

        The arithmetic is the hit test's own, so a point that hits lies in the node's box here too. Of a node on a panel
        it is where the scene's camera sees it, on the panel's surface extended.
        """
        if not isinstance(node, Node):
            raise SceneError(f"local: {node!r} is no node, expected a Node")
        self._index.refresh()
        if self._world_index is not None and (panel := self._world_index.panel_of(node)) is not None:
            ray = self._camera.ray(x, y, (0.0, 0.0, *self._window)) if self._camera is not None else None
            at = panel.from_ray(ray) if ray is not None else None
            return enter(node, *at) if at is not None else (0.0, 0.0)
        return enter(node, *self.from_screen(x, y))

    def corners(self, node: Node) -> tuple[tuple[float, float], ...]:
        """The corners of a node's box in scene space, clockwise from its own top left one; of a node on a panel in the
        panel's pixels."""
        self._index.refresh()
        m, (width, height) = to_scene(checked_node(node, "corners")), node.size
        return tuple(apply(m, x, y) for x, y in ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height)))

    def box(self, node: Node, within: Node) -> Box:
        """Left, top, right and bottom of the box around a node, in the space that another's children are placed in.

        :raises SceneError: one of them stands in the world, and the other is not on the same panel; or that other is
            scaled to nothing.
        """
        if node.root is not within.root and (node.root._in_world or within.root._in_world):
            raise SceneError(f"{node.path}: is not on one panel with {within.path}, so it has no place in that")
        corners = self.corners(node)
        inverse = invert(to_scene(within))
        if inverse is None:
            raise SceneError(f"{within.path}: is scaled to nothing, so {node.path} has no place in it")
        points = [apply(inverse, x, y) for x, y in corners]
        across, down = within.scroll
        xs, ys = [x + across for x, _ in points], [y + down for _, y in points]
        return min(xs), min(ys), max(xs), max(ys)

    def point(self, node: Node, x: float, y: float) -> tuple[float, float]:
        """A point of a node's local space on the screen; of one on a panel, where the scene's camera sees it.

        :raises SceneError: the node stands in the world and no camera sees the point.
        """
        checked_node(node, "point")
        if not (is_number(x) and is_number(y)):
            raise SceneError(f"{node.path}: the point is ({x!r}, {y!r}), expected two finite numbers")
        if not node.root._in_world:
            return apply(self.to_screen(node), x, y)
        seen = self._camera.project(self.to_world(node, x, y), (0.0, 0.0, *self._window)) if self._camera else None
        if seen is None:
            raise SceneError(f"{node.path}: the scene's camera does not see it, so it is nowhere on the screen")
        return seen


def _checked_fit(fit: object) -> str:
    if not is_choice(fit, FITS):
        raise SceneError(f"fit is {fit!r}, expected one of {', '.join(FITS)}")
    return str(fit)
