"""Bring your own tree: nodes that stand for the widgets of another toolkit, and keep in step (laws I1–I3, I6).

A toolkit that has widgets of its own keeps them. The mirror reads them by callables or attribute names, makes a node
for each, and each :meth:`Mirror.update` brings the nodes in line with what the widgets are now. It works in two steps:
first all that has changed is read and checked, then it is put into the tree, so what is wrong anywhere changes nothing.

- A widget is known by its key among its siblings: with the same key it keeps its node, and with it hover, press, focus
  and scroll, though it has moved among them or is another object.
- Where widgets have versions, one whose version is as it was is not looked into, nor what is below it.
- Without, each is read and compared; the children of one are compared as objects first, and by keys only where they
  are others.

Cost: an update costs what it reads, and for what has changed what the same changes cost by hand.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from itertools import compress
from operator import attrgetter, is_, ne
from typing import TYPE_CHECKING, Any

from glent.core.arguments import is_number, listed
from glent.core.errors import GlentError, near
from glent.core.scene.kinds import check_kind
from glent.core.scene.node import checked_node
from glent.core.scene.place import Place
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Mirror", "MirrorError"]

Reader = str | Callable[[Any], Any]
"""Reads something of a widget: something to call, or the name of its attribute."""


class MirrorError(GlentError, ValueError):
    """A widget cannot be mirrored; the message names it, what was read of it, and what was expected."""


class _Mirrored:
    """A widget and its node."""

    __slots__ = ("below", "entries", "node", "of_key", "seen", "version", "versions", "widget")

    def __init__(self, widget: Any, node: Node) -> None:
        self.widget = widget
        self.node = node
        self.below: list[Any] = []
        """The widgets below it, as they were read last."""
        self.versions: list[Any] = []
        """And their versions, where they have any."""
        self.version: Any = None
        self.seen: tuple[Any, ...] = ()
        """What was read of it last, in the order of the readers."""
        self.of_key: dict[str, _Mirrored] = {}
        """What stands for its children, by key, in their order."""
        self.entries: list[_Mirrored] = []
        """The same without their keys."""


class _Read:
    """What was read of a widget that has changed, or is new."""

    __slots__ = ("below", "children", "entry", "given", "inner", "key", "seen", "version", "versions", "widget")

    def __init__(self, widget: Any, key: str, entry: _Mirrored | None) -> None:
        self.widget, self.key, self.entry = widget, key, entry
        self.version: Any = None
        self.seen: tuple[Any, ...] = ()
        self.given: dict[str, Any] = {}
        """The attributes of its node that are to be set."""
        self.below: list[Any] = []
        self.versions: list[Any] = []
        self.children: list[_Read | _Mirrored] | None = None
        """What its children are to be, in order; None: as they were."""
        self.inner: list[_Read] = []
        """What of its children has changed, where they are as they were."""


class Mirror:
    """Nodes below a parent that stand for a tree of widgets.

    Readers are called with a widget, or are names of its attributes.

    :param parent: the node, or layer, that the root's node is added to.
    :param root: the widget at the root of the tree.
    :param children: reads the widgets below one, in paint order.
    :param box: reads where it is in its parent: left, top, width and height, in pixels; or a :class:`Place`.
    :param key: reads what tells it from its siblings: a text, or a number. It is the name of its node.
    :param version: reads a number that is another whenever anything has changed of the widget, or below it. None:
        every widget is compared.
    :param transform: reads how it is turned and scaled around its middle: degrees and a factor, or None.
    :param handle: called with a widget and an event that has come to it.
    :param hears: the kinds of event that come to widgets: a tuple, or what reads them of one.
    :param attributes: what reads further attributes of a node: ``solidity``, ``role``, ``order``, ``clips``, ``label``,
        ``modal``, ….
    :raises MirrorError: a reader is neither. :raises TypeError: there is no such attribute.
    """

    __slots__ = (
        "_box",
        "_busy",
        "_by_id",
        "_by_node",
        "_children",
        "_handle",
        "_hears",
        "_key",
        "_names",
        "_parent",
        "_proof",
        "_readers",
        "_root",
        "_top",
        "_transform",
        "_version",
    )  # fmt: skip

    def __init__(
        self,
        parent: Node,
        root: Any,
        *,
        children: Reader = "children",
        box: Reader = "box",
        key: Reader = "name",
        version: Reader | None = None,
        transform: Reader | None = None,
        handle: Callable[[Any, Event], object] | None = None,
        hears: Iterable[str] | Callable[[Any], Iterable[str]] = (),
        **attributes: Reader,
    ) -> None:
        self._parent = checked_node(parent, "the parent of a mirror")
        self._root = root
        self._children, self._box, self._key = (
            _reader(given, name) for given, name in ((children, "children"), (box, "box"), (key, "key"))
        )
        self._version = _reader(version, "version") if version is not None else None
        self._transform = _reader(transform, "transform") if transform is not None else None
        if handle is not None and not callable(handle):
            raise MirrorError(f"handle is {handle!r}, expected None or something to call with a widget and an event")
        self._handle = handle
        self._hears = hears if callable(hears) else _checked_kinds(hears, "hears")
        self._proof = Scene((1, 1)).layer("proof").add("node")
        """A node that values are tried on before they are set."""
        for name in attributes:
            if name in ("place", "on") or not isinstance(getattr(type(self._proof), name, None), property):
                known = [one for one in dir(type(self._proof)) if _can_be_set(type(self._proof), one)]
                raise TypeError(f"a node has no attribute {name!r} to be read of widgets{near(name, known)}")
        self._names = tuple(attributes)
        self._readers = tuple(_reader(given, name) for name, given in attributes.items())
        self._top: _Mirrored | None = None
        self._by_node: dict[Node, _Mirrored] = {}
        self._by_id: dict[int, _Mirrored] = {}
        self._busy = False
        self.update()

    def __len__(self) -> int:
        """How many widgets are mirrored."""
        return len(self._by_node)

    def widget(self, node: Node) -> Any:
        """The widget that a node stands for, or lies in; None if that is none of this mirror's."""
        one: Node | None = checked_node(node, "mirror.widget")
        while one is not None:
            entry = self._by_node.get(one)
            if entry is not None:
                return entry.widget
            one = one.parent
        return None

    def node(self, widget: Any) -> Node:
        """The node of a widget.

        :raises MirrorError: it is not in the tree, or was not when that was read last.
        """
        entry = self._by_id.get(id(widget))
        if entry is None or entry.widget is not widget:
            raise MirrorError(f"{widget!r} has no node, expected a widget of the tree; update() reads it anew")
        return entry.node

    def stop(self) -> None:
        """Take the nodes away. Twice does nothing."""
        top, self._top = self._top, None
        if top is not None:
            self._forget(top)

    # -- bringing it up to date ----------------------------------------------------------------------------------------

    def update(self) -> int:
        """Bring the nodes in line with the widgets. Return how many have changed, come or gone.

        From inside itself, by a handler of what it sends, it does nothing: call it again afterwards.

        :raises MirrorError: a widget cannot be mirrored as it is; nothing has changed then.
        """
        if self._busy:
            return 0
        if self._parent.scene is None:
            raise MirrorError(f"{self._parent.path}: has been removed, so nothing can be mirrored below it")
        top = self._top
        if top is not None and top.node.scene is None:
            self.stop()
            top = None
        self._busy = True
        try:
            root = self._root
            read = self._read_new(root, self._key_of(root, "")) if top is None else self._read(root, top)
            if read is None:
                return 0
            changed = [0]
            self._put(read, self._parent, changed)
            return changed[0]
        finally:
            self._busy = False

    def _read(self, widget: Any, entry: _Mirrored) -> _Read | None:
        """What has changed of a widget that has a node, and below it; None if nothing has."""
        version = None
        if self._version is not None:
            version = self._read_of(self._version, widget, "version")
            if version == entry.version and widget is entry.widget:
                return None
        return self._compared(widget, entry, version)

    def _compared(self, widget: Any, entry: _Mirrored, version: Any) -> _Read | None:
        seen = self._read_all(widget)
        given = self._read_of(self._children, widget, "children")
        known = entry.of_key
        read: _Read | None = None
        if seen != entry.seen or widget is not entry.widget or version != entry.version:
            read = self._begun(widget, entry, seen, version)
            if seen != entry.seen:
                read.given = self._checked(widget, entry, seen, entry.seen)
        if not known and isinstance(given, list | tuple) and not given:
            return read
        below, versions = self._listed(widget, given, entry), entry.versions
        if self._version is not None:
            versions = self._versions(below)
        inner: list[_Read] = []
        children: list[_Read | _Mirrored] | None = None
        if self._are_as_they_were(entry, below):
            entries = entry.entries
            if self._version is None:
                for one, other in zip(below, entries, strict=True):
                    new = self._compared(one, other, None)
                    if new is not None:
                        inner.append(new)
            else:
                for at in compress(range(len(below)), map(ne, versions, entry.versions)):
                    new = self._compared(below[at], entries[at], versions[at])
                    if new is not None:
                        inner.append(new)
            if not inner and self._version is None:
                return read
        else:
            children = self._by_keys(entry.node.path, below, known)
        if read is None:
            read = self._begun(widget, entry, seen, version)
        read.below, read.versions, read.children, read.inner = below, versions, children, inner
        return read

    @staticmethod
    def _are_as_they_were(entry: _Mirrored, below: list[Any]) -> bool:
        """Whether the widgets below one are the same, in the same order, and all their nodes are there."""
        was = entry.below
        if len(below) != len(was) or not all(map(is_, below, was)):
            return False
        return len(entry.node) == len(was) or all(one.node.scene is not None for one in entry.of_key.values())

    def _versions(self, widgets: list[Any]) -> list[Any]:
        assert self._version is not None
        try:
            return list(map(self._version, widgets))
        except Exception:
            return [self._read_of(self._version, one, "version") for one in widgets]  # which says whose it is

    @staticmethod
    def _begun(widget: Any, entry: _Mirrored, seen: tuple[Any, ...], version: Any) -> _Read:
        read = _Read(widget, entry.node.name, entry)
        read.seen, read.version = seen, version
        return read

    def _by_keys(self, path: str, widgets: Sequence[Any], known: Mapping[str, _Mirrored]) -> list[_Read | _Mirrored]:
        children: list[_Read | _Mirrored] = []
        by_key: dict[str, Any] = {}
        for one in widgets:
            key = self._key_of(one, path)
            if key in by_key:
                raise MirrorError(f"{path}: {by_key[key]!r} and {one!r} have the key {key!r}, expected each its own")
            by_key[key] = one
            entry = known.get(key)
            if entry is None or entry.node.scene is None:
                children.append(self._read_new(one, key, path))
            else:
                children.append(self._read(one, entry) or entry)
        return children

    def _read_new(self, widget: Any, key: str, above: str = "") -> _Read:
        read = _Read(widget, key, None)
        path = f"{above or self._parent.path}/{key}"
        if self._version is not None:
            read.version = self._read_of(self._version, widget, "version")
        read.seen = self._read_all(widget)
        read.given = self._checked(widget, path, read.seen, ())
        read.below = self._listed(widget, self._read_of(self._children, widget, "children"), path)
        if self._version is not None:
            read.versions = self._versions(read.below)
        read.children = self._by_keys(path, read.below, {})
        return read

    def _read_all(self, widget: Any) -> tuple[Any, ...]:
        """What attributes go by: its box, its transform, and the rest in the order they were given in."""
        try:
            turned = self._transform(widget) if self._transform is not None else None
            return (self._box(widget), turned, *[read(widget) for read in self._readers])
        except Exception as error:
            raise MirrorError(f"{widget!r}: cannot be read: {type(error).__name__}: {error}") from error

    def _read_of(self, reader: Callable[[Any], Any], widget: Any, what: str) -> Any:
        try:
            return reader(widget)
        except Exception as error:
            raise MirrorError(f"{widget!r}: its {what} cannot be read: {type(error).__name__}: {error}") from error

    def _listed(self, widget: Any, given: Any, where: _Mirrored | str) -> list[Any]:
        """The children of a widget as they are now; the list that it gave may change meanwhile."""
        widgets = given if isinstance(given, list | tuple) else listed(given)
        if widgets is None:
            raise MirrorError(f"{_path_of(where)}: the children of {widget!r} are {given!r}, expected widgets")
        return list(widgets)

    def _key_of(self, widget: Any, path: str) -> str:
        key = self._read_of(self._key, widget, "key")
        if isinstance(key, int) and not isinstance(key, bool):
            key = str(key)
        if not isinstance(key, str) or not key or "/" in key or not key.isprintable():
            where = f"{path}: " if path else ""
            raise MirrorError(f"{where}the key of {widget!r} is {key!r}, expected printable text without a slash")
        return key

    def _checked(
        self, widget: Any, where: _Mirrored | str, seen: tuple[Any, ...], before: tuple[Any, ...]
    ) -> dict[str, Any]:
        """The attributes that differ from before, each tried on a node that nobody sees."""
        given: dict[str, Any] = {}
        try:
            if seen[:2] != before[:2]:
                moves = before and before[1] is seen[1] is None and not isinstance(before[0], Place)
                given["place"] = self._place(
                    seen[0], seen[1], where.node.place if moves and isinstance(where, _Mirrored) else None
                )
            for number, name in enumerate(self._names, 2):
                if not before or seen[number] != before[number]:
                    setattr(self._proof, name, seen[number])
                    given[name] = seen[number]
        except (GlentError, TypeError, ValueError) as error:
            what = str(error).removeprefix(f"{self._proof.path}: ")
            raise MirrorError(f"{_path_of(where)}: {widget!r}: {what}") from error
        return given

    @staticmethod
    def _place(box: Any, transform: Any, before: Place | None) -> Place:
        if isinstance(box, Place):
            place = box
        else:
            numbers = listed(box)
            if numbers is None or len(numbers) != 4 or not all(map(is_number, numbers)):
                raise MirrorError(f"its box is {box!r}, expected left, top, width and height, or a Place")
            left, top, width, height = map(float, numbers)
            if before is not None:  # it was a box too, so sides alone differ
                return before.replace(left=left, top=top, right=None, bottom=None, width=width, height=height)
            place = Place(left, top, width=width, height=height)
        if transform is None:
            return place
        parts = listed(transform)
        if parts is None or len(parts) != 2:
            raise MirrorError(f"its transform is {transform!r}, expected None, or degrees and a scale")
        return place.replace(turn=parts[0], scale=parts[1])

    # -- putting it into the tree --------------------------------------------------------------------------------------

    def _put(self, read: _Read, parent: Node, changed: list[int]) -> _Mirrored:
        entry = read.entry
        if entry is None:
            node = parent.add_for_now(read.key, **read.given)
            entry = _Mirrored(read.widget, node)
            self._by_node[node] = self._by_id[id(read.widget)] = entry
            if parent is self._parent:
                self._top = entry
            changed[0] += 1
            self._listen(entry)
        else:
            for name, value in read.given.items():
                setattr(entry.node, name, value)
            changed[0] += bool(read.given)
        if entry.widget is not read.widget:
            self._by_id.pop(id(entry.widget), None)
            entry.widget = read.widget
            self._by_id[id(read.widget)] = entry
        entry.seen, entry.version = read.seen, read.version
        if read.children is not None or read.inner:
            entry.below, entry.versions = read.below, read.versions
        for one in read.inner:
            if entry.node.scene is not None:
                self._put(one, entry.node, changed)
        if read.children is not None:
            self._put_children(entry, read.children, changed)
        return entry

    def _put_children(self, entry: _Mirrored, children: list[_Read | _Mirrored], changed: list[int]) -> None:
        before = entry.of_key
        keys = [one.key if isinstance(one, _Read) else one.node.name for one in children]
        stay = {id(one.entry if isinstance(one, _Read) else one) for one in children}
        for gone in [one for one in before.values() if id(one) not in stay]:
            self._forget(gone)
            changed[0] += 1
        after: dict[str, _Mirrored] = {}
        entry.of_key = after
        for key, one in zip(keys, children, strict=True):
            if entry.node.scene is None:
                return  # a handler of what this has sent has removed it: the next update sees that
            after[key] = self._put(one, entry.node, changed) if isinstance(one, _Read) else one
        entry.entries = list(after.values())
        if list(before) != keys or any(isinstance(one, _Read) and one.entry is None for one in children):
            entry.node.arrange_for_now(keys)

    def _forget(self, entry: _Mirrored) -> None:
        node = entry.node
        for one in node.walk():
            gone = self._by_node.pop(one, None)
            if gone is not None and self._by_id.get(id(gone.widget)) is gone:
                del self._by_id[id(gone.widget)]
        node.remove()

    def _listen(self, entry: _Mirrored) -> None:
        handle = self._handle
        if handle is None:
            return
        kinds = self._hears
        if callable(kinds):
            kinds = _checked_kinds(kinds(entry.widget), f"what {entry.widget!r} hears")
        for kind in kinds:
            entry.node.on_for_now(kind, lambda event: handle(entry.widget, event))


def _path_of(where: _Mirrored | str) -> str:
    return where if isinstance(where, str) else where.node.path


def _reader(given: object, name: str) -> Callable[[Any], Any]:
    if isinstance(given, str) and given:
        return attrgetter(given)
    if not callable(given):
        raise MirrorError(f"{name} is {given!r}, expected the name of an attribute, or something to call")
    return given


def _can_be_set(cls: type, name: str) -> bool:
    found = getattr(cls, name, None)
    return isinstance(found, property) and found.fset is not None


def _checked_kinds(given: object, what: str) -> tuple[str, ...]:
    kinds = listed(given)
    if kinds is None:
        raise MirrorError(f"{what} is {given!r}, expected kinds of event")
    for kind in kinds:
        check_kind(kind)
    return kinds
