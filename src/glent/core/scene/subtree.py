"""A subtree as a whole: copied, moved to another parent, or called otherwise.

A copy has what was declared: places, shapes, solidity, flow, facts, the notes that controls and wires are made from.
What is so for now stays behind, and handlers come along only if they are asked for by kind. A copied node that tells
the game something has to be told under which name, so that no copy ever does what the original was wired to do.

A node that moves or gets another name stays the same node: it keeps its handlers, hover, focus and press (law T5).

Paths within the subtree lead to the copies, and follow a node that is moved or renamed: those of ``opener``, ``nav``,
``entry``, ``labelled_by`` and ``described_by``, and those in notes.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from glent.core.arguments import listed
from glent.core.errors import GlentError, SceneError, near
from glent.core.scene import checks
from glent.core.scene.fact_attributes import WORDS
from glent.core.scene.handlers import Subscription
from glent.core.scene.kinds import check_kind

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["copy_subtree", "move_subtree", "rename_node"]

Change = Callable[[str], str]
"""What a path becomes."""


def copy_subtree(
    source: Node, parent: Node, name: str, rename: Mapping[str, str] | None, handlers: Iterable[str]
) -> Node:
    """See :meth:`Node.copy_to`."""
    where = _free_place(source, parent, name, "copied")
    if source._scene is None:
        raise SceneError(f"{source.path}: cannot be copied, it has been removed")
    scene = parent._scene
    assert scene is not None
    kinds = _checked_kinds(handlers, source)
    others = _checked_renames(source, scene, rename, where)
    for one in _declared(source):
        if one._input_traits.seats:
            scene._check_seats(one._input_traits.seats, where)
    old = source.path
    paths = {one.path: where + one.path[len(old) :] for one in _declared(source)}
    top = _copied(source, parent, name)
    stack = [(source, top)]
    made = [(source, top)]
    while stack:
        original, copied = stack.pop()
        below = original.declared_children() if original._children else ()
        if below:
            copied._children = {}
            copied._ordered = original._ordered
            for child in below:
                inner = copied._children[child._name] = _copied(child, copied, child._name)
                stack.append((child, inner))
                made.append((child, inner))
    for _, copied in made:
        _rewrite(copied, lambda path: paths.get(path, path), others)
    if parent._children is None:
        parent._children = {}
    parent._children[name] = top
    parent._ordered = parent._ordered or top._order != 0
    scene._index.grafted(top)
    for original, copied in made:
        if copied._input_traits.stands_out:
            scene._input_traits_changed(copied)
        if kinds:
            _copy_handlers(original, copied, kinds)
    try:
        scene.refresh_attachments()
    except GlentError:
        top.remove()
        raise
    return top


def move_subtree(node: Node, parent: Node, name: str | None) -> None:
    """See :meth:`Node.move_to`."""
    scene, before = node._scene, node._parent
    wanted = node._name if name is None else name
    where = _free_place(node, parent, wanted, "moved")
    if scene is None or parent._scene is not scene:
        gone = f"{node.path}: cannot be moved, it has been removed"
        raise SceneError(gone if scene is None else f"{node.path}: cannot be moved to another scene; copy_to copies it")
    assert before is not None
    assert before._children is not None
    old = node.path
    del before._children[node._name]
    scene._index.removed(node)
    node._parent, node._name, node._slot = parent, wanted, None
    deeper = parent._depth + 1 - node._depth
    for one in node.walk():
        one._depth += deeper
    if parent._children is None:
        parent._children = {}
    parent._children[wanted] = node
    parent._ordered = parent._ordered or node._order != 0
    scene._index.grafted(node)
    scene.refresh_looks()
    _follow(scene, old, where)


def rename_node(node: Node, name: str) -> None:
    """See :meth:`Node.rename`."""
    scene, parent = node._scene, node._parent
    if scene is None:
        raise SceneError(f"{node.path}: cannot be renamed, it has been removed")
    if name == node._name:
        return
    if parent is None or parent._children is None:
        raise SceneError(f"{node.path}: is a root of the scene, and keeps its name; its parts can be renamed")
    where = f"{parent.path}/{name}"
    checks.name(name, where)
    _check_free(parent, name, where)
    old = node.path
    parent._children = {name if one is node else key: one for key, one in parent._children.items()}
    node._name = name
    scene._layout += 1
    scene._version += 1
    _follow(scene, old, where)


# -- checks ------------------------------------------------------------------------------------------------------------


def _free_place(node: Node, parent: Node, name: str, what: str) -> str:
    """The path that a node would have there.

    :raises SceneError: it cannot be there.
    """
    where = f"{parent.path}/{name}"
    if node._parent is None:
        raise SceneError(f"{node.path}: is a root of the scene, and cannot be {what}; what is in it can")
    if parent._scene is None:
        raise SceneError(f"{where}: cannot be {what} there, {parent.path} has been removed")
    if parent.is_within(node):
        raise SceneError(f"{where}: cannot be {what} there, that lies in {node.path} itself")
    checks.name(name, where)
    if what != "moved" or parent is not node._parent or name != node._name:
        _check_free(parent, name, where)
    deepest = max(one._depth for one in node.walk()) - node._depth
    if parent._depth + 1 + deepest > checks.DEPTH:
        raise SceneError(f"{where}: the tree would be deeper than {checks.DEPTH} nodes")
    if parent.root._in_world and parent.root._own is None:
        raise SceneError(f"{where}: cannot be {what} there, a spot has nothing below it")
    return where


def _check_free(parent: Node, name: str, where: str) -> None:
    if parent._children and name in parent._children:
        raise SceneError(f"{where}: the name {name!r} is already taken by a child of {parent.path}")


def _checked_kinds(handlers: Iterable[str], source: Node) -> frozenset[str]:
    given = listed(handlers)
    if given is None:
        raise SceneError(f"{source.path}: handlers is {handlers!r}, expected the kinds whose handlers are copied")
    return frozenset(one if one == "accepts" else check_kind(one) for one in given)


def _checked_renames(source: Node, scene: Scene, rename: Mapping[str, str] | None, where: str) -> Mapping[str, str]:
    """By the name that a node of the subtree is wired to, the name that its copy is.

    :raises SceneError: a name that is told by one node alone is not told anew, or as one that is there already.
    """
    if rename is not None and not isinstance(rename, Mapping):
        raise SceneError(f"{where}: rename is {rename!r}, expected a mapping from names to names")
    others = dict(rename or {})
    alone = {name: path for one in _declared(source) for name, shared, path in _wired(one) if not shared}
    known = {name for one in _declared(source) for name, _, _ in _wired(one)}
    for name, other in others.items():
        if name not in known:
            raise SceneError(
                f"{where}: rename has {name!r}, which nothing below {source.path} is wired to{near(name, known)}"
            )
        if not isinstance(other, str) or not other:
            raise SceneError(f"{where}: {name} is to be {other!r}, expected a name")
    missing = [name for name in alone if name not in others]
    if missing:
        told = ", ".join(f"{name} ({alone[name]})" for name in missing)
        raise SceneError(
            f"{where}: the copy would be wired to what {source.path} is wired to: {told};"
            f" expected other names, as in rename={{{missing[0]!r}: {missing[0] + '-2'!r}}}"
        )
    if alone:
        taken = {name: path for one in scene.walk() for name, _, path in _wired(one)}
        for name in alone:
            if others[name] in taken:
                at = taken[others[name]]
                raise SceneError(
                    f"{where}: {name} is to be {others[name]!r}, and {at} is wired to that; expected another"
                )
    return others


def _wired(node: Node) -> Iterator[tuple[str, bool, str]]:
    """Each name that a node is wired to, whether it is shared, and the node's path."""
    wiring = node._gesture_traits.notes.get("wiring") if node._gesture_traits.notes is not None else None
    if not isinstance(wiring, Mapping):
        return
    told = [one for key in ("tells", "values", "commands") for one in _values(wiring.get(key))]
    told += [one for one in _values(wiring.get("does")) if isinstance(one, Mapping) and one.get("act") == "tell"]
    for one in told:
        name = one.get("name") if isinstance(one, Mapping) else one
        if isinstance(name, str):
            yield name, isinstance(one, Mapping) and bool(one.get("shared")), node.path


def _values(given: Any) -> Iterable[Any]:
    if isinstance(given, Mapping):
        return given.values()
    return given if isinstance(given, list | tuple) else ()


def _declared(node: Node) -> Iterator[Node]:
    """A node and all below it that file or code has told of."""
    stack = [node]
    while stack:
        one = stack.pop()
        yield one
        if one._children:
            stack.extend(one.declared_children())


# -- copying -----------------------------------------------------------------------------------------------------------


def _copied(original: Node, parent: Node, name: str) -> Node:
    """A node like another, without what is below it, its handlers, and what is so for now."""
    scene = parent._scene
    assert scene is not None
    node = original.__class__(scene, parent, name)
    node._place, node._flow, node._role = original._place, original._flow, original._role
    node._solidity, node._shape, node._reach = original._solidity, original._shape, original._reach
    node._clips, node._order = original._clips, original._order
    node._visible, node._enabled = original._visible, original._enabled
    node._carries, node._focusable, node._tags = original._carries, original._focusable, original._tags
    node._scroll = original._scroll
    node._facts, node._words = original._facts, original._words
    node._input_traits = original._input_traits
    traits = original._gesture_traits
    node._gesture_traits = traits if traits.accepts is None else replace(traits, accepts=None)
    if original._for_now is not None:
        told = {name: original.declared(name) for name in original._for_now if name != "children"}
        told.pop("accepts", None)
        node._set_keywords(node.path, told)
    elif traits.scrolls or traits.recognisers:
        node._derive_gestures()
    node._derive()
    return node


def _copy_handlers(original: Node, copied: Node, kinds: frozenset[str]) -> None:
    if "accepts" in kinds and original._gesture_traits.accepts is not None:
        copied.accepts = original._gesture_traits.accepts
    for table, phase in ((original._capture, "capture"), (original._bubble, "bubble")):
        for kind, subscriptions in (table or {}).items():
            for one in subscriptions if kind in kinds else ():
                if not one.for_now:
                    copied._subscribe(Subscription(copied, kind, one.handler, phase))


# -- paths -------------------------------------------------------------------------------------------------------------


def _follow(scene: Scene, old: str, new: str) -> None:
    """Let all that names a path follow a node from one to another."""
    below = old + "/"

    def change(path: str) -> str:
        return new + path[len(old) :] if path == old or path.startswith(below) else path

    for node in scene.walk():
        _rewrite(node, change, {})
    scene.refresh_attachments()


def _rewrite(node: Node, change: Change, names: Mapping[str, str]) -> None:
    """Let the paths that a node names be others, and the names that it is wired to."""
    traits = node._input_traits
    if traits.opener is not None or traits.nav is not None:
        opener = traits.opener if traits.opener is None else change(traits.opener)
        nav = traits.nav and {way: path if path is None else change(path) for way, path in traits.nav.items()}
        if opener != traits.opener or nav != traits.nav:
            node._input_traits = replace(traits, opener=opener, nav=MappingProxyType(nav) if nav else nav)
    words = node._words
    if words[1] is not None or words[3] is not None:
        assert WORDS[1::2] == ("labelled_by", "described_by")
        node._words = tuple(change(word) if word is not None and at % 2 else word for at, word in enumerate(words))
    notes = node._gesture_traits.notes
    if notes is not None:
        other = {key: _rewritten(value, change) for key, value in notes.items()}
        if names and "wiring" in other:
            other["wiring"] = _renamed(other["wiring"], names)
        if other != notes:
            node._gesture_traits = replace(node._gesture_traits, notes=MappingProxyType(other))


def _rewritten(value: Any, change: Change) -> Any:
    """Notes with other paths in them."""
    if isinstance(value, str):
        return change(value)
    if isinstance(value, Mapping):
        return {key: _rewritten(one, change) for key, one in value.items()}
    return type(value)(_rewritten(one, change) for one in value) if type(value) in (list, tuple) else value


def _renamed(wiring: Any, names: Mapping[str, str]) -> Any:
    """A node's wiring with other names in it."""
    if not isinstance(wiring, Mapping):
        return wiring

    def other(told: Any) -> Any:
        if isinstance(told, str):
            return names.get(told, told)
        if isinstance(told, Mapping) and told.get("name") in names:
            return {**told, "name": names[told["name"]]}
        return told

    made = dict(wiring)
    for key in ("tells", "values", "commands"):
        if isinstance(made.get(key), Mapping):
            made[key] = {part: other(told) for part, told in made[key].items()}
    if isinstance(made.get("does"), list | tuple):
        made["does"] = [
            other(one) if isinstance(one, Mapping) and one.get("act") == "tell" else one for one in made["does"]
        ]
    return made
