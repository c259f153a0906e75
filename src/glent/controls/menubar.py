"""A row of items, each with a menu that opens below it (ARIA: menubar)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import partial
from typing import TYPE_CHECKING, ClassVar

from glent.controls.context import focus_on, seat_of
from glent.controls.control import Control
from glent.controls.items import Items, Typed
from glent.controls.keys import key_of, typed_of
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.controls.menu import Menu
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["Menubar"]

ENTERS = ("ArrowDown", "ArrowUp")


class Menubar(Control):
    """The nodes of role ``menuitem`` below its node.

    A click on an item opens its menu, or does what ``choose`` waits for if it has none. While one is open, pointing at
    another item, or left and right, also from within the menu, opens that one's. Left and right go round; Home and End
    to the ends; letters to what begins with them; down and up into the menu.

    It acts: ``choose``, with the name of an item that has no menu.

    :param menus: the menus by the name of their item, made with that item as their opener.
    :param label: what an item is called for letters that are typed; by default its name.
    :raises ControlError: a menu does not hang from the item of that name.
    """

    roles = ("menubar",)
    own_acts: ClassVar[Mapping[str, str]] = {"choose": "text"}
    __slots__ = ("_items", "_menus", "_typed")

    def __init__(
        self, node: Node, menus: Mapping[str, Menu], label: Callable[[Node], str] = lambda node: node.name
    ) -> None:
        super().__init__(node)
        self._items = Items(node, "menuitem")
        self._typed = Typed(label)
        self._menus: dict[Node, Menu] = {}
        for name, menu in menus.items():
            item = menu.opener
            if item is None or self._items.of(item) is not item or self._items.name(item) != name:
                where = item.path if item is not None else "nothing"
                if item is not None and item.is_within(node) and item.role != "menuitem":
                    where += f", whose role is {item.role!r} and not 'menuitem'"
                raise ControlError(
                    f"{node.path}: the opener of the menu {name!r} is {where}, expected the item {name} here"
                )
            self._menus[item] = menu
            menu._bar = self
            self.hear("enter", partial(self._entered, item), item)
        self.hear("key_down", self._key_down)
        self.hear("click", self._clicked, phase="capture")

    @property
    def open_menu(self) -> Menu | None:
        """The menu that is open."""
        return next((menu for menu in self._menus.values() if menu.is_open), None)

    def _menu_of(self, item: Node) -> Menu | None:
        """The menu whose opener is an item, as long as it is there."""
        menu = self._menus.get(item)
        return menu if menu is not None and menu.node.scene is not None else None

    def _opening(self, menu: Menu) -> None:
        """One of its menus is about to open."""
        other = self.open_menu
        if other is not None and other is not menu:
            other.close()

    def _entered(self, item: Node, event: Event) -> None:
        open_, menu = self.open_menu, self._menu_of(item)
        if open_ is not None and menu is not None and open_ is not menu and item.is_enabled:
            menu.open(event.seat)

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is not None and self._menu_of(item) is None:
            self.say("choose", self._items.name(item))

    def _key_down(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        open_ = self.open_menu
        key = key_of(event, always=open_ is not None)
        menu = self._menu_of(item)
        if key in ENTERS:
            if menu is not None:
                menu._enter_by(event, key)
            return
        if key in ("ArrowLeft", "ArrowRight"):
            self._go_on(event, 1 if key == "ArrowRight" else -1, item)
            return
        if key in ("Home", "End"):
            to = self._items.first() if key == "Home" else self._items.last()
        else:
            letter = typed_of(event, always=open_ is not None)
            if not letter:
                return
            to = self._typed.find(letter, event.time, self._items, item) or item
        event.take()
        if to is not None:
            focus_on(event, to)

    def _go_on(self, event: Event, by: int, item: Node | None = None) -> None:
        """Go to the next item; if a menu is open, to the next one's menu, and into it if the focus was in one."""
        event.take()
        open_ = self.open_menu
        within = item is None
        item = item if item is not None else (open_.opener if open_ is not None else None)
        to = self._items.step(item, by, wrap=True)
        if to is None:
            return
        menu = self._menu_of(to)
        if open_ is not None:
            open_.close()
        focus_on(event, to)
        if open_ is not None and menu is not None:
            menu.open(event.seat)
            if within:
                seat_of(event).enter(menu.node)
