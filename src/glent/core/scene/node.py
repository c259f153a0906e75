"""One element of a tree: a place, a shape, children, handlers."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import TYPE_CHECKING, Unpack

from glent.core.arguments import is_choice, is_number, listed
from glent.core.errors import PathError, SceneError
from glent.core.scene import checks
from glent.core.scene.attributes import Attributes
from glent.core.scene.extent import scroll_range
from glent.core.scene.handlers import BUTTONS, PHASES, Handler, Subscription, is_async, of_primary
from glent.core.scene.input_attributes import PLAIN
from glent.core.scene.kinds import GESTURES, MAKES_SOLID, TARGETED, check_kind
from glent.core.scene.layout import Natural, natural, tall

if TYPE_CHECKING:
    from glent.core.geometry.affine import Affine, Box
    from glent.core.scene.island import Island, Passed
    from glent.core.scene.keywords import NodeKeywords
    from glent.core.scene.scene import Scene

__all__ = ["Node", "checked_node"]


class Node(Attributes):
    """One element of a tree. Made by :meth:`add` on its parent; every keyword is also an attribute to set later.

    The attributes are those of :class:`Attributes`.
    """

    __slots__ = (
        "__weakref__",
        "_base_x",
        "_base_y",
        "_bubble",
        "_capture",
        "_children",
        "_depth",
        "_edges",
        "_extent",
        "_forward",
        "_home",
        "_hovers",
        "_inverse",
        "_made_for_now",
        "_name",
        "_natural",
        "_own",
        "_parent",
        "_passed",
        "_shown",
        "_slot",
        "_z",
    )

    _in_world = False
    """Whether it is a root that stands in the world."""

    def __init__(self, scene: Scene, parent: Node | None, name: str) -> None:
        super().__init__(scene)
        self._parent = parent
        self._name = name
        self._depth: int = 0 if parent is None else parent._depth + 1
        self._children: dict[str, Node] | None = None
        self._bubble: dict[str, tuple[Subscription, ...]] | None = None
        self._capture: dict[str, tuple[Subscription, ...]] | None = None
        self._hovers = 0
        # Kept by the index:
        self._made_for_now = False
        self._natural: Natural | None = None
        self._slot: Box | None = None
        self._edges: Box | None = None
        self._extent: tuple[float, float] | None = None
        self._forward: Affine | None = None
        self._inverse: Affine | None = None
        self._base_x = 0.0
        self._base_y = 0.0
        self._home: Island | None = None
        self._own: Island | None = None
        self._passed: Passed | None = None
        self._shown = False
        self._z = 0

    # -- the tree ------------------------------------------------------------------------------------------------

    def add(
        self,
        name: str,
        **given: Unpack[NodeKeywords],
    ) -> Node:
        """Add a child in front of its siblings of the same order, and return it.

        :param given: any of the :class:`Attributes`.
        :raises TypeError: there is no such attribute; the message names the nearest one.
        :raises SceneError: the name is empty, has a slash in it, or is taken by a sibling; a value is out of range;
            the tree would be too deep; or this node is no longer in a scene.
        """
        scene = self._scene
        where = f"{self.path}/{name}"
        if scene is None:
            raise SceneError(f"{where}: cannot be added, {self.path} has been removed")
        checks.name(name, where)
        if self._depth >= checks.DEPTH:
            raise SceneError(f"{where}: the tree would be deeper than {checks.DEPTH} nodes")
        if self._children is not None and name in self._children:
            raise SceneError(f"{where}: the name {name!r} is already taken by a child of {self.path}")
        child = Node(scene, self, name)
        if given:
            child._set_keywords(where, given)
        child._derive()
        if self._children is None:
            self._children = {}
        self._children[name] = child
        self._ordered = self._ordered or child._order != 0
        if child._flow is not None or child._place.fits:
            scene._index.flows = True
        scene._index.added(child)
        if child._input_traits is not PLAIN:
            scene._input_traits_changed(child)
        return child

    def add_for_now(self, name: str, **given: Unpack[NodeKeywords]) -> Node:
        """Add a child as :meth:`add` does, as a part of how things run: files do not tell of it (law D3)."""
        child = self.add(name, **given)
        child._made_for_now = True
        return child

    def arrange_for_now(self, names: Iterable[str]) -> None:
        """Put children into an order as :meth:`arrange` does, as a part of how things run (law D3)."""
        declared = tuple(child._name for child in self.declared_children())
        self.arrange(names)
        if self._for_now is None:
            self._for_now = {}
        self._for_now["children"] = (declared, tuple(self._children or ()))

    def declared_children(self) -> tuple[Node, ...]:
        """Its children that file or code have told of, in the order that they were told in."""
        children = self._children or {}
        kept = self._for_now.get("children") if self._for_now is not None else None
        names = [name for name in kept[0] if name in children] if kept and kept[1] == tuple(children) else children
        return tuple(children[name] for name in names if not children[name]._made_for_now)

    @property
    def made_for_now(self) -> bool:
        """Whether it was added by :meth:`add_for_now`, and files do not tell of it."""
        return self._made_for_now

    def arrange(self, names: Iterable[str]) -> None:
        """Put children with these names into this order, behind those of the same ``order`` that are not named (H1)."""
        children = self._children
        if not children or self._scene is None:
            return
        given = listed(names)
        if given is None:
            raise SceneError(f"{self.path}: the names are {names!r}, expected the names of children")
        first = [name for name in given if isinstance(name, str) and name in children]
        after = [*first, *(name for name in children if name not in set(first))]
        if after == list(children):
            return
        moved = [children[name] for name, before in zip(after, children, strict=True) if name != before]
        self._children = {name: children[name] for name in after}
        for child in moved:
            self._scene._index.reordered(child)

    def copy_to(
        self,
        parent: Node,
        name: str,
        *,
        rename: Mapping[str, str] | None = None,
        handlers: Iterable[str] = (),
    ) -> Node:
        """Make another node like this one, with all below it, in front of what ``parent`` has. Return it.

        The copy has what was declared: places, shapes, roles, facts, and controls with values of their own. What is so
        for now, such as what a menu has opened, stays behind. Paths that lead to nodes within lead to their copies.

        :param rename: by each name that a node here is wired to, the name that its copy is; shared names may stay.
        :param handlers: the kinds whose handlers the copies take along, and ``accepts``; else they have none.
        :raises SceneError: a name that is wired to one node is not told anew, or as one that is taken; the copy would
            lie in what is copied; the name is taken; this is a root of the scene. Nothing changes then.

        Cost: about that of making it by code.
        """
        from glent.core.scene.subtree import copy_subtree

        return copy_subtree(self, checked_node(parent, f"{self.path}: copy_to"), name, rename, handlers)

    def move_to(self, parent: Node, name: str | None = None) -> None:
        """Put this node, with all below it, in front of what another parent has; it stays the node it is (law T5).

        It keeps its handlers, hover, focus and press. Paths that lead to it follow it.

        :param name: its name there; None: the one it has.
        :raises SceneError: the name is taken there; that parent lies within it, or in another scene.
        """
        from glent.core.scene.subtree import move_subtree

        move_subtree(self, checked_node(parent, f"{self.path}: move_to"), name)

    def rename(self, name: str) -> None:
        """Give it another name among its siblings; it stays the node it is (law T5). Paths that lead to it follow it.

        :raises SceneError: the name is no name, or is taken; or this is a root of the scene.
        """
        from glent.core.scene.subtree import rename_node

        rename_node(self, name)

    def remove(self) -> None:
        """Take this node and all below it out of the scene, for good.

        What is owed to it, a leave or a cancel, it gets at once, or directly after the running event (law P6).
        Removing it again does nothing.
        """
        scene, parent = self._scene, self._parent
        if scene is None:
            return
        router = scene.router
        if router is not None:
            router._on_removing(self)
        if parent is None:
            scene._drop_root(self)
        else:
            assert parent._children is not None
            del parent._children[self._name]
            scene._index.removed(self)
        gone = list(self.walk())
        for node in gone:
            node._scene = None
        if scene._outstanding:
            for node in gone:
                scene._outstanding.pop(node, None)
        if router is not None:
            router._on_removed(gone)

    @property
    def name(self) -> str:
        """Its name, unique among its siblings."""
        return self._name

    @property
    def path(self) -> str:
        """The names from its layer down to itself, joined by slashes; kept when it is removed."""
        names = [self._name]
        node = self._parent
        while node is not None:
            names.append(node._name)
            node = node._parent
        return "/".join(reversed(names))

    @property
    def parent(self) -> Node | None:
        """The node it was added to; None for a layer."""
        return self._parent

    @property
    def children(self) -> tuple[Node, ...]:
        """Its children in the order they were added."""
        return tuple(self._children.values()) if self._children else ()

    def __getitem__(self, path: str) -> Node:
        """The node at a path below this one.

        :raises PathError: there is none.
        """
        from glent.core.scene.paths import descend

        return descend(self, path)

    def __contains__(self, path: object) -> bool:
        """Whether there is a node at a path below this one."""
        try:
            return isinstance(path, str) and self[path] is not None
        except PathError:
            return False

    def __iter__(self) -> Iterator[Node]:
        """Its children, in the order they were added."""
        return iter(self.children)

    def __len__(self) -> int:
        return len(self._children) if self._children else 0

    def __bool__(self) -> bool:
        return True

    def __copy__(self) -> Node:
        raise TypeError(f"{self.path}: a node is not copied by copy; node.copy_to(parent, name) makes another like it")

    def __deepcopy__(self, memo: object) -> Node:
        return self.__copy__()

    def __reduce_ex__(self, protocol: object) -> str:
        raise TypeError(f"{self.path}: a node is not pickled; glent.formats.write_scene writes a scene to a file")

    def walk(self) -> Iterator[Node]:
        """This node and all below it, in paint order, back to front (the reverse of hit order, law H1)."""
        stack = [self]
        while stack:
            node = stack.pop()
            yield node
            if node._children:
                stack.extend(reversed(node.children_painted()))

    def children_painted(self) -> list[Node]:
        """Its children, back to front: by ``order``, then as added (law H1)."""
        painted = list(self._children.values()) if self._children else []
        if self._ordered:
            painted.sort(key=_order)
        return painted

    def lineage(self) -> list[Node]:
        """The nodes from its layer down to itself."""
        line = [self]
        node = self._parent
        while node is not None:
            line.append(node)
            node = node._parent
        line.reverse()
        return line

    @property
    def root(self) -> Node:
        """The root of its tree: a layer, a panel, or a spot."""
        node = self
        while node._parent is not None:
            node = node._parent
        return node

    @property
    def stops_input(self) -> bool:
        """Whether what lies behind it is not offered what comes there: it is solid, or a spot of the world (S1, X1)."""
        return self._effective == "solid"

    def is_within(self, other: Node) -> bool:
        """Whether this is the other node or lies somewhere below it."""
        node: Node | None = self
        try:
            while node is not None and node._depth >= other._depth:
                if node is other:
                    return True
                node = node._parent
        except AttributeError:
            checked_node(other, f"{self.path}: is_within")
            raise
        return False

    def __repr__(self) -> str:
        gone = "" if self._scene is not None else " (removed)"
        return f"<{type(self).__name__} {self.path}{gone}>"

    # -- handlers ------------------------------------------------------------------------------------------------

    def on(self, kind: str, handler: Handler, phase: str = "bubble", button: str = "primary") -> Subscription:
        """Call ``handler(event)`` for events of a kind that arrive here, after the handlers already there (law R4).

        :param phase: ``"bubble"``, on the way from the target to the root, or ``"capture"``, on the way there (R1).
        :param button: of clicks: ``"primary"``, or ``"any"``: then the event says which (law P3).
        :raises KindError: no such kind.
        :raises SceneError: no such phase or button, the handler cannot be called, or the node has been removed.
        """
        return self._on(kind, handler, phase, button, False)

    def on_for_now(self, kind: str, handler: Handler, phase: str = "bubble", button: str = "primary") -> Subscription:
        """Call a handler as :meth:`on` does, as a part of how things run: no copy of the node takes it along."""
        return self._on(kind, handler, phase, button, True)

    def _on(self, kind: str, handler: Handler, phase: str, button: str, for_now: bool) -> Subscription:
        check_kind(kind)
        if not is_choice(phase, PHASES):
            raise SceneError(f"{self.path}: phase is {phase!r}, expected one of {', '.join(PHASES)}")
        if not callable(handler):
            raise SceneError(f"{self.path}: the handler for {kind} is {handler!r}, expected something to call")
        if is_async(handler):
            raise SceneError(
                f"{self.path}: the handler for {kind} is an async function or a generator, which would not run;"
                " expected a plain function, which may start a task"
            )
        if self._scene is None:
            raise SceneError(f"{self.path}: cannot hear {kind}, the node has been removed")
        if not is_choice(button, BUTTONS) or (button == "any" and kind != "click"):
            raise SceneError(f"{self.path}: button is {button!r} for {kind}, expected primary, or any for click")
        if kind == "click" and button == "primary":
            handler = of_primary(handler)
        subscription = Subscription(self, kind, handler, phase, for_now)
        self._subscribe(subscription)
        return subscription

    def _subscribe(self, subscription: Subscription) -> None:
        phase, kind = subscription.phase, subscription.kind
        table = self._capture if phase == "capture" else self._bubble
        if table is None:
            table = {}
            if phase == "capture":
                self._capture = table
            else:
                self._bubble = table
        # A new tuple each time: an event under way keeps the one it started with (law R4).
        table[kind] = (*table.get(kind, ()), subscription)
        self._handlers_changed(kind, 1)

    def _unsubscribe(self, subscription: Subscription) -> None:
        table = self._capture if subscription.phase == "capture" else self._bubble
        if table is None or subscription not in table.get(subscription.kind, ()):
            return
        left = tuple(one for one in table[subscription.kind] if one is not subscription)
        if left:
            table[subscription.kind] = left
        else:
            del table[subscription.kind]
        self._handlers_changed(subscription.kind, -1)

    def _handlers_changed(self, kind: str, by: int) -> None:
        scene = self._scene
        if scene is not None:
            scene._listeners[kind] = scene._listeners.get(kind, 0) + by
            scene._version += 1
            if kind in GESTURES or kind in TARGETED:
                self._derive_gestures()
            elif kind == "look":
                scene._looked[self] = None
            if self._solidity is None and kind in MAKES_SOLID:
                self._derive()
                scene._index.changed(self)

    @property
    def handlers(self) -> tuple[Subscription, ...]:
        """The handlers on this very node: those of the capture phase, then the others, each kind's in their order."""
        tables = (self._capture or {}, self._bubble or {})
        return tuple(one for table in tables for of_kind in table.values() for one in of_kind)

    def listens(self, kind: str) -> bool:
        """Whether a handler for this kind is on this very node, in either phase."""
        return bool((self._bubble and kind in self._bubble) or (self._capture and kind in self._capture))

    def listens_any(self, kinds: frozenset[str]) -> bool:
        """Whether a handler for any of these kinds is on this very node."""
        return bool(
            (self._bubble and not kinds.isdisjoint(self._bubble))
            or (self._capture and not kinds.isdisjoint(self._capture))
        )

    def _changed(self) -> None:
        if self._scene is not None:
            self._scene._index.changed(self)

    def _refitted(self) -> None:
        if self._scene is not None:
            self._scene._index.reflowed(self)

    def _reordered(self) -> None:
        if self._scene is None:
            return
        if self._parent is None:
            self._scene._layers_changed()
        else:
            self._parent._ordered = True
            self._scene._index.reordered(self)

    # -- what it is at present -----------------------------------------------------------------------------------

    @property
    def is_enabled(self) -> bool:
        """Whether it and all its ancestors are enabled."""
        node: Node | None = self
        while node is not None:
            if not node._enabled:
                return False
            node = node._parent
        return True

    @property
    def is_visible(self) -> bool:
        """Whether it is in the scene and it and all its ancestors are visible."""
        node: Node | None = self
        while node is not None:
            if not node._visible:
                return False
            node = node._parent
        return self._scene is not None

    @property
    def hovered(self) -> bool:
        """Whether any pointer is over it or over something below it (law P5)."""
        return self._hovers > 0

    @property
    def look(self) -> str:
        """The look that a renderer should draw: ``idle``, ``hover``, ``pressed`` or ``disabled`` (laws P4, P5, S5)."""
        if not self.is_enabled:
            return "disabled"
        router = self._scene.router if self._scene is not None else None
        return router._look(self) if router is not None else "idle"

    @property
    def focused(self) -> bool:
        """Whether the focus of any seat is here (law F1)."""
        router = self._scene.router if self._scene is not None else None
        return router is not None and router._focused(self) > 0

    @property
    def focus_ring(self) -> bool:
        """Whether a renderer should draw a ring around it: focus came here by key or pad, or it is a text
        field (law F4)."""
        router = self._scene.router if self._scene is not None else None
        return router is not None and router._focused(self) > 1

    @property
    def accessible_name(self) -> str:
        """What it is called, for people and assistive technology (ACCNAME 1.2): by the node it is ``labelled_by``, its
        ``label``, or the ``text`` in its facts and, for such as buttons, in those below it. Empty if nothing tells."""
        from glent.core.scene.accessible import name_of

        return name_of(self)

    @property
    def accessible_description(self) -> str:
        """What is said of it besides its name: by the node it is ``described_by``, or its ``description``."""
        from glent.core.scene.accessible import description_of

        return description_of(self)

    @property
    def size(self) -> tuple[float, float]:
        """Width and height in node-local pixels."""
        left, top, right, bottom = self.edges
        return right - left, bottom - top

    def screen_corners(self) -> tuple[tuple[float, float], ...]:
        """The corners of its box on the screen, in window pixels, clockwise from its own top left one; of a node on a
        panel, where the scene's camera sees them.

        :raises SceneError: it has been removed, or stands in the world and no camera sees it.
        """
        scene = self._scene
        if scene is None:
            raise SceneError(f"{self.path}: is nowhere on the screen, it has been removed")
        width, height = self.size
        return tuple(scene.point(self, x, y) for x, y in ((0.0, 0.0), (width, 0.0), (width, height), (0.0, height)))

    @property
    def scroll_range(self) -> tuple[float, float]:
        """How far it can be scrolled to the right and down, in node-local pixels (law G4).

        That is its :attr:`content`, or else how far its visible children reach, beyond its own size. Cost: a look at
        all children after one of them was placed anew, nothing after that.
        """
        return scroll_range(self)

    def scroll_by(self, dx: float, dy: float) -> tuple[float, float]:
        """Scroll its content by a distance in its own space, in pixels, as far as it goes. Return what was used (law
        G4).

        It is for the toolkit's own doings; what a player or a tool asks for goes by :meth:`Router.scroll`.

        :raises SceneError: there is no router.
        """
        router = self._scene.router if self._scene is not None else None
        if router is None:
            raise SceneError(f"{self.path}: cannot be scrolled, its scene has no router")
        if not (is_number(dx) and is_number(dy)):
            raise SceneError(f"{self.path}: is to be scrolled by ({dx!r}, {dy!r}), expected two finite numbers")
        return router._scroll(self, float(dx), float(dy))

    @property
    def content_size(self) -> tuple[float, float]:
        """Width and height of its content, padding included: what a size of ``"fit-content"`` comes to (law L2).

        That is its :attr:`content`, or what its flow needs, or else how far its visible children reach by places that
        do not depend on its own size; the height is that at the width it has, where rows below wrap.
        Cost: a look at what is below, once, and later at what has changed.
        """
        scene = self._scene
        if scene is None:
            return 0.0, 0.0
        scene._index.flows = True
        scene._index.refresh()
        return natural(self)[0], tall(self, self.size[0])

    @property
    def edges(self) -> Box:
        """Left, top, right and bottom in the parent's space, before its own turn and scale."""
        scene = self._scene
        if scene is not None:
            scene._index.refresh()
        return self._edges if self._edges is not None else (0.0, 0.0, 0.0, 0.0)


def checked_node(value: object, what: str) -> Node:
    """A value that is a node.

    :raises SceneError: it is none.
    """
    if not isinstance(value, Node):
        raise SceneError(f"{what}: {value!r} is no node, expected a Node, such as scene['hud/bar']")
    return value


def _order(node: Node) -> float:
    return node._order
