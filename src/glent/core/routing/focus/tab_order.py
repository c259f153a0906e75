"""Tab order: where the focus can stop, and in what order Tab goes round (laws F1, F3)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.errors import PathError
from glent.core.scene.roles import COMPOSITES, NEVER_STOPS, TYPED

if TYPE_CHECKING:
    from glent.core.routing.seat_view import SeatView
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = [
    "Bookmark",
    "after",
    "can_focus",
    "first_in",
    "group_of",
    "is_barred",
    "is_stop",
    "is_text",
    "next_stop",
    "scope_of",
    "stops",
]


def is_stop(node: Node) -> bool:
    """Whether the focus can stop at a node while it shows and is enabled: by its ``focusable``, or by its role."""
    if node._in_world and node._own is None:
        return False  # a spot of the world is pointed at, and never focused
    if node._focusable is not None:
        return node._focusable
    return node._used is not None and node._role not in NEVER_STOPS


def is_text(node: Node | None) -> bool:
    """Whether a node takes text when it has the focus (law W3)."""
    return node is not None and node._role in TYPED


def can_focus(view: SeatView, node: Node) -> bool:
    """Whether the seat's focus can be on a node now: living, shown, enabled, its own, and in the topmost modal."""
    return not is_barred(view, node) and _is_ready(view, node)


def is_barred(view: SeatView, node: Node) -> bool:
    """Whether a modal keeps keys and focus from a node (law M1)."""
    top = view.top
    return view.top_is_foreign or (top is not None and not node.is_within(top)) or _is_blocked(view, node)


def _is_blocked(view: SeatView, node: Node) -> bool:
    """Whether a modal on a node's own panel keeps the focus from it (law M1)."""
    held = view.held_panels.get(node.root) if view.held_panels else None
    return held is not None and not node.is_within(held)


def _is_ready(view: SeatView, node: Node) -> bool:
    """Whether the focus could be on a node if no modal were open."""
    if node._scene is None or not is_stop(node):
        return False
    return all(_is_open(view, one) for one in node.lineage()) and view.whose(node) == "own"


def _is_open(view: SeatView, node: Node) -> bool:
    return (
        node._visible
        and node._enabled
        and node._solidity != "ghost"
        and (node._parent is not None or node not in view.in_transition)
    )


def _in_tab_order(node: Node) -> list[Node]:
    children = list(node._children.values()) if node._children else []
    if any(child._input_traits.tab_order for child in children):
        children.sort(key=_tab_order)
    return children


def _tab_order(node: Node) -> float:
    return node._input_traits.tab_order


def _roots(scene: Scene, scope: Node | None) -> list[Node]:
    if scope is not None:
        return [scope]
    return [*(root for root in scene.in_world if root._own is not None), *reversed(scene._front)]


def stops(view: SeatView, scope: Node | None = None) -> list[Node]:
    """All stops of a seat within a scope, or in the topmost modal, or in the whole scene, in tab order.

    Panels come as they were made, then layers back to front; siblings by ``tab_order`` and then as added.
    Cost: a walk of what shows.
    """
    if view.top_is_foreign:
        return []
    top = view.top
    if top is not None and (scope is None or not scope.is_within(top)):
        scope = top if scope is None or top.is_within(scope) else None
        if scope is None:
            return []
    found = []
    stack = list(reversed(_roots(view.scene, scope)))
    if scope is not None and not all(_is_open(view, one) for one in scope.lineage()):
        return []
    while stack:
        node = stack.pop()
        if not _is_open(view, node):
            continue
        if is_stop(node) and (not view.seated or view.whose(node) == "own") and not _is_blocked(view, node):
            found.append(node)
        if node._children:
            stack.extend(reversed(_in_tab_order(node)))
    return found


def group_of(node: Node, scope: Node | None) -> Node | None:
    """The outermost list, radio group, menu, … that a stop is part of, and which is one stop to Tab (law F1)."""
    found = None
    one: Node | None = node
    while one is not None and one is not scope:
        if one._role in COMPOSITES:
            found = one
        one = one._parent
    return found


def next_stop(view: SeatView, focus: Node | None, back: bool, entry: dict[Node, Node]) -> Node | None:
    """The stop that Tab goes to from another, round from the last to the first; None if there is none (law F1).

    :param entry: by group, where focus last was in it, and so comes back to.
    """
    everyone = stops(view)
    if not everyone:
        return None
    singles: list[Node] = []
    groups: dict[Node, list[Node]] = {}
    for node in everyone:  # one for each group
        group = group_of(node, _bound(view, node))
        if group is None:
            singles.append(node)
            continue
        members = groups.setdefault(group, [])
        if not members:
            singles.append(node)
        members.append(node)
    own = group_of(focus, _bound(view, focus)) if focus is not None else None
    here = groups[own][0] if own in groups and own is not None else focus
    if here in singles and here is not None:
        step = -1 if back else 1
        landed = singles[(singles.index(here) + step) % len(singles)]
    else:
        landed = singles[-1 if back else 0]
    group = group_of(landed, _bound(view, landed))
    if group is None:
        return landed
    if group is own:
        return focus
    for known in (_entry_of(group), entry.get(group)):
        if known is not None and known in groups[group]:
            return known
    return landed


def _bound(view: SeatView, node: Node) -> Node | None:
    """The modal that a stop is in: what lies around that is no group of its stops."""
    return view.top if view.top is not None else view.held_panels.get(node.root)


def first_in(view: SeatView, within: Node | None) -> Node | None:
    """The stop at which the focus enters a node, or what is topmost: its entry, or its first."""
    held = within if within is not None else view.top
    entry = _entry_of(held) if held is not None else None
    if entry is not None and can_focus(view, entry):
        return entry
    return next(iter(stops(view, within)), None)


def _entry_of(group: Node) -> Node | None:
    """The stop at which a group is to be entered, if it names one that is there."""
    named = group._input_traits.entry
    if named is None:
        return None
    try:
        return group[named]
    except PathError:
        return None


def scope_of(node: Node) -> Node | None:
    """The innermost modal that a node lies in."""
    one: Node | None = node
    while one is not None:
        if one._input_traits.modal and one._visible:
            return one
        one = one._parent
    return None


def after(view: SeatView, node: Node, scope: Node | None) -> Node | None:
    """The first stop in a scope at or after a node in tab order, or else the last before it (law F3)."""
    return _after(view, node, scope, False, can_focus)


def _after_removed(view: SeatView, gone: Node) -> Node | None:
    """The first stop after a node that is about to be removed with all below it, whatever modal is in front of it."""
    scope = scope_of(gone._parent) if gone._parent is not None else None
    return _after(view, gone, scope, True, lambda view, one: scope_of(one) is scope and _is_ready(view, one))


def _after(
    view: SeatView, node: Node, scope: Node | None, skip: bool, fits: Callable[[SeatView, Node], bool]
) -> Node | None:
    before: Node | None = None
    passed = False
    stack = list(reversed(_roots(view.scene, scope)))
    while stack:
        one = stack.pop()
        if one is node:
            passed = True
            if skip:
                continue
        if fits(view, one):
            if passed:
                return one
            before = one
        if one._children:
            stack.extend(reversed(_in_tab_order(one)))
    return before if passed else None


class Bookmark:
    """A place in the tree that outlives its node: the next stop, the one before, or what held both.

    :ivar node: what stands for it now; None: nowhere. :ivar ring: whether the focus had come there by key or pad (F4).
    """

    __slots__ = ("node", "ring")

    def __init__(self, node: Node | None, ring: bool = False) -> None:
        self.node = node
        self.ring = ring

    def removing(self, view: SeatView, gone: Node) -> None:
        """Move on from a node that is about to be removed with all below it."""
        node = self.node
        if node is not None and node.is_within(gone):
            self.node = _after_removed(view, gone) or gone._parent

    def at(self, view: SeatView) -> Node | None:
        """The stop it stands for: its own, the next one in the scope, the one before, or the scope's first."""
        node = self.node
        if node is None or view.top_is_foreign:
            return None
        if can_focus(view, node):
            return node
        top = view.top
        if top is not None and not node.is_within(top):
            return next(iter(stops(view)), None)
        return after(view, node, top)
