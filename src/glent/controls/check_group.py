"""Boxes to tick that belong together, with one value (ARIA: group of checkboxes)."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING, Any

from glent.controls.control import Control
from glent.controls.items import Items
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["CheckGroup"]


class CheckGroup(Control):
    """The nodes of role ``checkbox`` below its node. Its one value is the names of those that are ticked.

    A click, or a key or pad button that activates one, turns it over. Each is a stop for Tab.

    :param value: the names (paths below the node) of the ticked ones, as a tuple; none at first.

    :ivar value: that, to watch, bind and set. What was ticked and is gone stays in it.
    """

    roles = ("group",)
    value_type = "names"
    __slots__ = ("_items", "value")

    def __init__(self, node: Node, value: Value[tuple[str, ...]] | None = None, start: Sequence[str] = ()) -> None:
        super().__init__(node)
        self._items = Items(node, "checkbox", "menuitemcheckbox")
        self.value: Value[tuple[str, ...]] = value if value is not None else Value(tuple(start), name=node.path)
        self.follow(self.value, lambda now: None)
        self.hear("click", self._clicked, phase="capture")

    @property
    def _now(self) -> tuple[str, ...]:
        return self.value.current if self.value.ready else ()

    def check(self, to: Any) -> None:
        super().check(to)
        self._items.check(to)

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        name = self._items.name(item)
        ticked = {*self._now} ^ {name}
        shown = [self._items.name(one) for one in self._items.all()]
        gone = [one for one in self._now if one in ticked and one not in shown]
        self.value.current = (*(one for one in shown if one in ticked), *gone)

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("chosen",)) if part and part in self._now else frozenset()
