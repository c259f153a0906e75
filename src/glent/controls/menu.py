"""Menus and submenus (ARIA: menu, menuitem; laws C1, C5)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, ClassVar

from glent.controls.context import focus_on, router_of
from glent.controls.items import Items, Typed
from glent.controls.keys import key_of, typed_of
from glent.controls.menu_moat import Moat
from glent.controls.pointer_path import between, is_on_way, is_within, place_of
from glent.controls.popup import Popup
from glent.core.errors import ControlError

if TYPE_CHECKING:
    from glent.controls.menubar import Menubar
    from glent.controls.options import Distance, Side
    from glent.controls.pointer_path import Point
    from glent.core.routing.event import Event
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["MENU_ITEMS", "Menu"]

MENU_ITEMS = ("menuitem", "menuitemcheckbox", "menuitemradio")
STEPS = {"ArrowDown": 1, "ArrowUp": -1}


class Menu(Popup):
    """The nodes of roles ``menuitem``, ``menuitemcheckbox`` and ``menuitemradio`` below its node.

    It opens by a click on its opener, or by a key there: Enter, Space or the arrow down to the first item, the arrow up
    to the last. A submenu opens as its item is pointed at for a while, clicked, or by the arrow right. Choosing an item
    closes the menu, with all above and below it; Space leaves it open on one that is checked.

    It goes away when the pointer leaves it for good: what counts as inside is its box, those of its submenus, the
    opener, and all straight ways between an opener and what it opened, so gaps and diagonals are forgiven. On the way
    to a submenu other items do not open theirs, as long as the pointer moves within the triangle from where it left the
    item to that submenu.

    It acts: ``choose``, with the name of an item (its path below the node), and as a :class:`Popup` does.

    :param opener: the node that opens it: a button, an item of a menubar, or the item of the menu above.
    :param above: the menu that it is a submenu of.
    :param side: as for :class:`Popup`; by default ``below``, and ``right`` for a submenu.
    :param close_delay: how long the pointer may be outside before it closes, in seconds; None: it stays until it is
        closed by other means.
    :param open_delay: how long the pointer has to be on an item before its submenu opens.
    :param label: what an item is called for letters that are typed; by default its name.
    :raises ControlError: a submenu without an opener in the menu above it.
    """

    roles = ("menu",)
    own_acts: ClassVar[Mapping[str, str]] = {**Popup.own_acts, "choose": "text"}
    __slots__ = (
        "_above",
        "_apex",
        "_bar",
        "_items",
        "_moat",
        "_open_delay",
        "_pointed",
        "_submenus",
        "_timer",
        "_typed",
    )

    _items: Items

    def __init__(
        self,
        node: Node,
        opener: Node | None = None,
        above: Menu | None = None,
        side: Side | None = None,
        gap: Distance = 0.0,
        close_delay: Distance | None = 0.3,
        open_delay: Distance = 0.2,
        label: Callable[[Node], str] = lambda node: node.name,
    ) -> None:
        if above is not None and (opener is None or above._items.of(opener) is not opener):
            what = opener.path if opener is not None else "nothing"
            raise ControlError(
                f"{node.path}: its opener is {what}, expected an item of {above.node.path}, whose submenu it is"
            )
        super().__init__(
            node,
            opener,
            ("below" if above is None else "right") if side is None else side,
            gap,
            opens_on_click=above is None,
        )
        self._items = Items(node, *MENU_ITEMS)
        self._typed = Typed(label)
        self._above, self._open_delay = above, open_delay
        self._bar: Menubar | None = None
        self._submenus: dict[Node, Menu] = {}
        self._pointed: Node | None = None
        """The item a pointer is on."""
        self._apex: Point = (0.0, 0.0)
        """Where it last was on the item whose submenu is open."""
        self._timer: Timer | None = None
        self._moat: Moat | None = Moat(self, close_delay) if above is None and close_delay is not None else None
        if above is not None and opener is not None:
            above._submenus[opener] = self
            node.set_for_now(
                closing_press_acts=(
                    True  # a press elsewhere in the menu above closes this, and does what it does there
                )
            )
        self.hear("move", self._moved, phase="capture")
        self.hear("enter", self._went)
        self.hear("leave", self._went)
        self.hear("click", self._clicked, phase="capture")
        self.hear("key_down", self._key_down)
        if opener is not None:
            self.hear("key_down", self._opener_key, opener)

    @property
    def top(self) -> Menu:
        """The menu at the top of this one's submenus."""
        menu = self
        while menu._above is not None:
            menu = menu._above
        return menu

    @property
    def bar(self) -> Menubar | None:
        """The menubar it belongs to."""
        return self._bar

    @property
    def open_submenu(self) -> Menu | None:
        """Its submenu that is open."""
        return next((menu for menu in self._submenus.values() if menu.is_open), None)

    def _submenu_of(self, item: Node) -> Menu | None:
        """The submenu whose opener is an item, as long as it is there."""
        menu = self._submenus.get(item)
        return menu if menu is not None and menu.node.scene is not None else None

    def open(self, seat: str = "main", focus: bool = False, at: tuple[float, float] | None = None) -> None:
        """Open it, and close what else its menu or its bar has open. One without an item that shows does not open."""
        if not self._items.all():
            return
        if self._above is not None:
            other = self._above.open_submenu
            if other is not None and other is not self:
                other.close()
        if self._bar is not None:
            self._bar._opening(self)
        super().open(seat, focus, at)
        if self._moat is not None:
            self._moat.fill()

    def close(self, cause: str = "code") -> None:
        """Close it, its submenus first."""
        submenu = self.open_submenu
        if submenu is not None:
            submenu.close(cause)
        self._forget()
        self._pointed = None
        super().close(cause)
        if self._moat is not None:
            self._moat.drain()

    def has_inside(self, at: Point) -> bool:
        """Whether a place counts as inside: in it or its open submenus, in an opener, or on a straight way between the
        two (law C5)."""
        scene = self.node.scene
        if scene is None:
            return False
        if self._bar is not None and is_within(at, scene.corners(self._bar.node)):
            return True
        one: Menu | None = self
        while one is not None:
            opener = one.opener if one.opener is not None and one.opener.scene is scene else None
            if is_within(at, scene.corners(one.node) if opener is None else between(opener, one.node)):
                return True
            one = one.open_submenu
        return False

    # -- choosing ------------------------------------------------------------------------------------------------------

    def _clicked(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        submenu = self._submenu_of(item)
        if submenu is not None:
            submenu.open(event.seat, focus="device" in event.data)
            return
        stays = item.role != "menuitem" and event.data.get("code") == "Space"
        self.say("choose", self._items.name(item))
        if not stays:
            self.top.close()

    # -- pointing ------------------------------------------------------------------------------------------------------

    def _went(self, event: Event) -> None:
        moat = self.top._moat
        if moat is not None:
            moat.went(event)

    def _moved(self, event: Event) -> None:
        self._went(event)
        if not self.is_open:
            return
        item, at = self._items.of(event.node), place_of(event)
        submenu = self.open_submenu
        if submenu is not None and item is submenu.opener:
            self._apex = at
        if item is self._pointed and not (submenu is not None and self._is_on_way(submenu, at)):
            return
        self._pointed = item
        self._forget()
        if item is None or (submenu is not None and item is submenu.opener):
            return
        if submenu is None or self._is_on_way(submenu, at):
            # On its way it may rest on another item: that is meant then.
            self._timer = router_of(self.node).at(event.time + self._open_delay, lambda due: self._switch(event.seat))
        else:
            self._switch(event.seat)

    def _is_on_way(self, submenu: Menu, at: Point) -> bool:
        scene = self.node.scene
        assert scene is not None
        return is_on_way(at, self._apex, scene.corners(submenu.node))

    def _switch(self, seat: str) -> None:
        """Have open what belongs to the item that is pointed at, and nothing else."""
        self._timer = None
        item, open_ = self._pointed, self.open_submenu
        if item is None or not self.is_open:
            return
        wanted = self._submenu_of(item)
        if open_ is not None and open_ is not wanted:
            open_.close()
        if wanted is not None and not wanted.is_open and item.is_enabled:
            wanted.open(seat)

    def _forget(self) -> None:
        if self._timer is not None:
            self._timer.stop()
            self._timer = None

    # -- keys ----------------------------------------------------------------------------------------------------------

    def _opener_key(self, event: Event) -> None:
        """Open by a key on the opener; a submenu's item is its own menu's matter."""
        if self._above is not None or self._bar is not None or event.node is not self._opener:
            return
        self._enter_by(event, key_of(event, always=self.is_open))

    def _enter_by(self, event: Event, key: str) -> None:
        """Open it by an arrow, if that is what the key is, with the focus at that end."""
        if key not in STEPS:
            return
        event.take()
        self.open(event.seat)
        end = self._items.first() if key == "ArrowDown" else self._items.last()
        if end is not None:
            focus_on(event, end)

    def _key_down(self, event: Event) -> None:
        item = self._items.of(event.node)
        if item is None:
            return
        key = key_of(event, always=True)
        submenu = self._submenu_of(item)
        if key in STEPS:
            to = self._items.step(item, STEPS[key], wrap=True)
        elif key in ("Home", "End"):
            to = self._items.first() if key == "Home" else self._items.last()
        elif key == "ArrowRight" and submenu is not None:
            event.take()
            submenu.open(event.seat, focus=True)
            return
        elif key == "ArrowLeft" and self._above is not None:
            event.take()
            self.close()
            return
        elif key in ("ArrowLeft", "ArrowRight"):
            event.take()
            bar = self.top._bar
            if bar is not None:
                bar._go_on(event, 1 if key == "ArrowRight" else -1)
            return
        elif event.data["action"] in ("next", "previous"):
            self.top.close()  # and the key goes on from where the focus is then
            return
        else:
            letter = typed_of(event, always=True)
            if not letter:
                return
            to = self._typed.find(letter, event.time, self._items, item) or item
        event.take()
        if to is not None:
            focus_on(event, to)

    def marks_of(self, part: str) -> frozenset[str]:
        submenu = self.open_submenu if part else None
        if submenu is not None and submenu.opener is not None and self._items.name(submenu.opener) == part:
            return frozenset(("open",))
        return super().marks_of(part)
