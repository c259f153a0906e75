"""One choice of a list that drops down (ARIA: combobox, select-only)."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from typing import TYPE_CHECKING, Any

from glent.controls.context import router_of, seat_of
from glent.controls.control import Control
from glent.controls.keys import key_of, typed_of
from glent.controls.listbox import Listbox
from glent.controls.popup import Popup
from glent.core.errors import ControlError, SceneError
from glent.core.scene.node import checked_node
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Distance, Side
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Combobox"]

OPENS = frozenset({"ArrowDown", "ArrowUp", "Enter", "NumpadEnter", "Space", "Home", "End"})


class Combobox(Control):
    """A node that shows which option of a list is chosen, and opens the list for another.

    A click, Enter, Space, an arrow, Home, End or a letter opens it, with the focus on the chosen option, or where the
    key leads. There arrows and letters go about; Enter, Space, Tab, a click, or Alt with the arrow up takes the option
    with the focus and closes. Escape and a press outside close it and leave the choice as it was.

    :param popup: the node that opens, beside this one, as a :class:`Popup` does.
    :param listbox: the list, for one choice; it lies in the popup.
    :param value: the name of the chosen option, empty if none is; by default one that begins as ``start``.
    :param label: what an option is called for letters that are typed, and in :attr:`shown`; by default its name.
    :param side: on which side of this node the popup opens. :param gap: how far from it.
    :raises ControlError: the list lies elsewhere, the popup has a control already, or there is no option ``start``.

    :ivar value: that, to watch, bind and set.
    """

    roles = ("combobox",)
    value_type = "text"
    __slots__ = ("_label", "_listbox", "_popup", "value")

    def __init__(
        self,
        node: Node,
        popup: Node,
        listbox: Listbox,
        value: Value[str] | None = None,
        start: str = "",
        label: Callable[[Node], str] = lambda node: node.name,
        side: Side = "below",
        gap: Distance = 0.0,
    ) -> None:
        super().__init__(node)
        checked_node(popup, f"the popup of {node.path}")
        if not isinstance(listbox, Listbox) or not listbox.node.is_within(popup):
            raise ControlError(f"{node.path}: the list is {listbox!r}, expected one within {popup.path}")
        self._listbox, self._label = listbox, label
        if start:
            listbox.check((start,))
        self.value: Value[str] = value if value is not None else Value(start, name=node.path)
        self._popup = Popup(popup, node, side, gap)
        if node.focusable is None:
            node.set_for_now(focusable=True)
        self.follow(self.value, self._show)
        self._popup.on("open", self._opened)
        self.hear("key_down", self._key_down)
        self.hear("click", self._taken, listbox.node, "capture")
        self.hear("key_down", self._list_key, listbox.node)

    def detach(self) -> None:
        """Stop doing anything; the list closes."""
        self._popup.detach()
        super().detach()

    @property
    def shown(self) -> str:
        """What a renderer writes: the label of the chosen option; empty if none is chosen, or it is gone."""
        option = self._option(self.value.current) if self.value.ready else None
        return self._label(option) if option is not None else ""

    @property
    def is_open(self) -> bool:
        """Whether the list shows."""
        return self._popup.is_open

    def check(self, to: Any) -> None:
        super().check(to)
        if to:
            self._listbox.check((to,))

    def _option(self, name: str) -> Node | None:
        """The node of an option, whether its list shows or not."""
        node = self._listbox.node
        return node[name] if name and name in node else None

    def _show(self, name: str) -> None:
        self._listbox.set((name,) if name else ())

    def _opened(self) -> None:
        """Bring the focus to the chosen option, or the first."""
        self._show(self.value.current if self.value.ready else "")
        self._focus(self._popup.seat, self._listbox.chosen[:1] or self._listbox.options[:1])

    def _focus(self, seat: str, options: list[Node]) -> None:
        """Bring the focus to the first of these, with its ring: what is open takes keys, however it was opened."""
        for option in options[:1]:
            with suppress(SceneError):  # it cannot have the focus: what opens stays open
                router_of(self.node).seat(seat).set_focus(option, True)

    def _key_down(self, event: Event) -> None:
        if event.node is not self.node or self.is_open:
            return
        key, letter = key_of(event), typed_of(event)
        if key not in OPENS and not letter:
            return
        event.take()
        if event.data["repeat"]:
            return
        self._popup.open(event.seat)
        options = self._listbox.options
        self._focus(event.seat, self._listbox.chosen[:1] or options[:1])
        if letter:
            self._focus(event.seat, [self._listbox.find(letter, event.time) or options[0]] if options else [])
        elif key in ("Home", "End") and options:
            self._focus(event.seat, [options[0 if key == "Home" else -1]])

    def _list_key(self, event: Event) -> None:
        key = key_of(event, always=True)
        modifiers = seat_of(event).modifiers
        if key == "Tab" or (key == "ArrowUp" and "Alt" in modifiers):
            self._take(event.node)
            if key != "Tab":
                event.take()

    def _taken(self, event: Event) -> None:
        self._take(event.node)

    def _take(self, node: Node) -> None:
        """Choose the option that a node is, or lies in, and close."""
        if not self.is_open:
            return
        name = self._listbox.name_of(node)
        self._popup.close()
        if name is not None:
            self.value.current = name

    def marks_of(self, part: str) -> frozenset[str]:
        if part:
            return frozenset()
        marks = {"open"} if self.is_open else set()
        return frozenset(marks if self.shown else marks | {"empty"})
