"""One of several (ARIA: radiogroup)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.context import focus_on
from glent.controls.control import Control
from glent.controls.items import Items
from glent.controls.keys import key_of
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["RadioGroup"]

STEPS = {"ArrowRight": 1, "ArrowDown": 1, "ArrowLeft": -1, "ArrowUp": -1}


class RadioGroup(Control):
    """The nodes of role ``radio`` below its node, of which one is chosen, or none at first.

    Tab enters at the chosen one; arrows go round and choose; Space or a click chooses.

    :param value: the name of the chosen one (its path below the node); not ready: none.

    :ivar value: that, to watch, bind and set.
    """

    roles = ("radiogroup",)
    value_type = "text"
    __slots__ = ("_items", "value")

    def __init__(self, node: Node, value: Value[str] | None = None, start: str | None = None) -> None:
        super().__init__(node)
        self._items = Items(node, "radio", "menuitemradio")
        self.value: Value[str] = value if value is not None else Value(name=node.path)
        self.follow(self.value, self._enter_at)
        if start is not None:
            self.value.current = start
        self.hear("click", self._clicked, phase="capture")
        self.hear("key_down", self._key_down)

    @property
    def chosen(self) -> Node | None:
        """The chosen one."""
        return self._items.named(self.value.current) if self.value.ready else None

    def check(self, to: Any) -> None:
        super().check(to)
        self._items.check((to,))

    def _enter_at(self, name: str) -> None:
        self.node.set_for_now(entry=name or None)

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is not None:
            self.value.current = self._items.name(item)

    def _key_down(self, event: Event) -> None:
        by = STEPS.get(key_of(event))
        item = self._items.of(event.node)
        if by is None or item is None:
            return
        other = self._items.step(item, by, wrap=True)
        event.take()
        if other is not None and focus_on(event, other):
            self.value.current = self._items.name(other)

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset(("chosen",)) if part and self.value.ready and self.value.current == part else frozenset()
