"""Tabs and the panels they show (ARIA: tablist, tab, tabpanel)."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TYPE_CHECKING, Any, Literal

from glent.controls.context import focus_on
from glent.controls.control import Control
from glent.controls.items import Items
from glent.controls.keys import key_of
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Orientation
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Tabs"]

ACTIVATIONS = ("automatic", "manual")


class Tabs(Control):
    """The nodes of role ``tab`` below its node, one of which is chosen, and whose panel shows.

    Left and right, or up and down if it stands upright, go round; Home and End to the ends.

    :param panels: the nodes that show, by the name of their tab; by default the node's siblings of role ``tabpanel``
        of the same names.
    :param value: the name of the chosen tab; by default the first one's, or ``start``.
    :param orientation: ``horizontal`` or ``vertical``.
    :param activation: ``automatic``: a tab is chosen as it gets the focus; ``manual``: once it is activated (ARIA).
    :raises ControlError: there is no tab, a tab has no panel, a panel no tab, or there is no such activation.

    :ivar value: that, to watch, bind and set.
    """

    roles = ("tablist",)
    value_type = "text"
    __slots__ = ("_items", "_manual", "_panels", "_steps", "value")

    def __init__(
        self,
        node: Node,
        panels: Mapping[str, Node] | None = None,
        value: Value[str] | None = None,
        start: str | None = None,
        orientation: Orientation = "horizontal",
        activation: Literal["automatic", "manual"] = "automatic",
    ) -> None:
        super().__init__(node)
        if activation not in ACTIVATIONS:
            raise ControlError(f"{node.path}: activation is {activation!r}, expected one of {', '.join(ACTIVATIONS)}")
        self._items = Items(node, "tab")
        names = [self._items.name(item) for item in self._items.all()]
        if panels is None:
            siblings = node.parent.children if node.parent is not None else ()
            panels = {one.name: one for one in siblings if one.role == "tabpanel"}
        if not names or set(names) != set(panels):
            raise ControlError(
                f"{node.path}: the tabs are {', '.join(names) or 'none'} and the panels"
                f" {', '.join(panels) or 'none'}, expected a panel for each tab, and one tab at least"
            )
        self._panels = dict(panels)
        before, after = ("ArrowLeft", "ArrowRight") if orientation == "horizontal" else ("ArrowUp", "ArrowDown")
        self._steps = {before: -1, after: 1}
        self._manual = activation == "manual"
        self.value: Value[str] = value if value is not None else Value(names[0], name=node.path, options=tuple(names))
        if start is not None:
            self.value.current = start
        self.follow(self.value, self._show)
        self.hear("click", self._clicked, phase="capture")
        self.hear("key_down", self._key_down)

    def check(self, to: Any) -> None:
        super().check(to)
        self._items.check((to,))

    def _show(self, name: str) -> None:
        self.node.set_for_now(entry=name)
        for one, panel in self._panels.items():
            panel.set_for_now(visible=one == name)

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is not None:
            self.value.current = self._items.name(item)

    def _key_down(self, event: Event) -> None:
        key, item = key_of(event), self._items.of(event.node)
        if item is None:
            return
        if key in self._steps:
            to = self._items.step(item, self._steps[key], wrap=True)
        elif key in ("Home", "End"):
            to = self._items.first() if key == "Home" else self._items.last()
        else:
            return
        event.take()
        if to is not None and focus_on(event, to) and not self._manual:
            self.value.current = self._items.name(to)

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("chosen",)) if part and self.value.ready and self.value.current == part else frozenset()
