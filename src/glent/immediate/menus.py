"""A bar of menus, menus, and their items, as they are declared."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.menu import Menu
from glent.controls.menubar import Menubar
from glent.core.scene.flow import Flow
from glent.core.scene.place import Place
from glent.immediate.item import Item, Kind, Style, caption

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["BAR", "ITEM", "MENU"]

WIDE = 160.0


class _Bar(Kind):
    """A bar along the top of the layer. Its control is made again where it has other menus."""

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        place = Place(left=0, right=0, top=0, height=style.line)
        node = parent.add_for_now(key, place=place, role="menubar", solidity="solid", flow=Flow("row"))
        return Item(self, key, node)

    def after(self, item: Item) -> None:
        menus = {key: child.control for key, child in item.children.items() if isinstance(child.control, Menu)}
        if item.data != menus:
            item.data = menus
            if item.control is not None:
                item.control.detach()
            item.control = Menubar(item.node, menus)


class _Menu(Kind):
    """An item, and the menu that it opens, which lies in the layer."""

    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        node = parent.add_for_now(key, role="menuitem")
        item = Item(self, key, node)
        name = "menu:" + "-".join(node.path.split("/")[1:])
        item.holder = node.root.add_for_now(
            name, order=1_000, place=Place(width=WIDE, height="fit-content"), flow=Flow("column", padding=style.gap)
        )
        item.parts.append(item.holder)
        return item

    def begin(self, item: Item, above: Item) -> None:
        menu = Menu(item.holder, item.node, above.control if isinstance(above.control, Menu) else None)
        menu.on("choose", lambda name: _chosen(item, name))
        item.control = menu

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, enabled = args
        caption(item.node, text, style.size(text, style.pad))
        item.node.enabled = enabled


def _chosen(item: Item, name: str) -> None:
    child = item.children.get(name)
    if child is not None:
        child.count_click()


class _MenuItem(Kind):
    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        return Item(self, key, parent.add_for_now(key, role="menuitem"))

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, enabled = args
        caption(item.node, text, style.size(text))
        item.node.enabled = enabled


BAR, MENU, ITEM = _Bar(), _Menu(), _MenuItem()
