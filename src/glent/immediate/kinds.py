"""The kinds of thing that can be declared: each a node with a control of the library's own, and how it is brought in
line with a declaration."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.button import Button
from glent.controls.radio_group import RadioGroup
from glent.controls.scroll_area import ScrollArea
from glent.controls.slider import Slider
from glent.controls.toggle import Toggle
from glent.controls.tool_window import ToolWindow
from glent.core.scene.flow import Flow
from glent.core.scene.place import Place
from glent.core.value import Value
from glent.immediate.item import FIT, Item, Kind, Style, caption, named

if TYPE_CHECKING:
    from glent.core.routing.event import DragStart, Event
    from glent.core.scene.node import Node

__all__ = ["BUTTON", "CHOICE", "COLUMN", "FIELD", "NUMBERS", "REGION", "ROW", "RULE", "SCROLL", "TABLE", "TABLE_ROW",
           "TEXT", "TOGGLE", "WINDOW"]  # fmt: skip

TICK = 44.0
"""The room beside the text of a toggle."""
RAIL = 96.0
"""How wide a slider of numbers is."""
FIELD_WIDE = 160.0


class _Text(Kind):
    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text = args[0]
        caption(item.node, text, style.size(text))
        item.node.facts["align"] = "start"


class _Rule(Kind):
    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        item.node.content = (1.0, 1.0)
        item.node.solidity = "glass"
        item.node.place = Place(height=2)


class _Button(Kind):
    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        item = super().add(parent, key, args, style)
        item.control = Button(item.node, item.count_click)
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, enabled = args
        caption(item.node, text, style.size(text))
        item.node.enabled = enabled


class _Toggle(Kind):
    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        item = Item(self, key, parent.add_for_now(key, role="checkbox"))
        item.control = Toggle(item.node)
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, enabled = args
        caption(item.node, text, style.size(text, TICK))
        item.node.enabled = enabled

    def value_of(self, item: Item) -> bool:
        assert isinstance(item.control, Toggle)
        return bool(item.control.value.current is True)

    def set_value(self, item: Item, value: Any) -> None:
        assert isinstance(item.control, Toggle)
        item.control.value.current = bool(value)


class _Numbers(Kind):
    """A text and one slider to four."""

    can_be_disabled = True

    def fits(self, item: Item, args: tuple[Any, ...]) -> bool:
        return bool(len(item.data) == args[4])

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        _, low, high, step, count, _ = args
        node = parent.add_for_now(key, place=FIT, flow=Flow("row", gap=style.gap), role="group")
        item = Item(self, key, node)
        item.parts.append(node.add_for_now("text", facts={"align": "start"}))
        item.data = [
            Slider(
                node.add_for_now(f"{number}", place=Place(width=RAIL, height=style.line)),
                Value(low, name=f"{node.path}/{number}", low=low, high=high, step=step),
            )
            for number in range(count)
        ]
        item.parts += [one for slider in item.data for one in slider.node.walk()]
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, low, high, step, _, enabled = args
        caption(item.node["text"], text, style.size(text))
        for slider in item.data:
            slider.value.limit(low, high, step)
        item.node.enabled = enabled

    def value_of(self, item: Item) -> tuple[float, ...]:
        return tuple(slider.value.current for slider in item.data)

    def set_value(self, item: Item, value: Any) -> None:
        for slider, one in zip(item.data, value, strict=True):
            slider.value.current = one


class _Choice(Kind):
    """One of some texts."""

    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        _, options, _ = args
        node = parent.add_for_now(key, place=FIT, flow=Flow("row", gap=style.gap), role="group")
        item = Item(self, key, node)
        item.parts.append(node.add_for_now("text", facts={"align": "start"}))
        radios = node.add_for_now("options", place=FIT, flow=Flow("row", gap=style.gap))
        item.data = named(options)
        for name, text in item.data.items():
            caption(radios.add_for_now(name, role="radio"), text, style.size(text))
        item.control = RadioGroup(radios)
        item.parts.append(radios)
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        text, options, enabled = args
        caption(item.node["text"], text, style.size(text))
        item.node.enabled = enabled
        assert isinstance(item.control, RadioGroup)
        if list(item.data.values()) != list(options):
            radios = item.control.node
            item.data = named(options)
            for gone in [one for one in radios.children if one.name not in item.data]:
                gone.remove()
            for name, shown in item.data.items():
                if name not in radios:
                    caption(radios.add_for_now(name, role="radio"), shown, style.size(shown))
            radios.arrange_for_now(item.data)

    def value_of(self, item: Item) -> str:
        assert isinstance(item.control, RadioGroup)
        return str(item.data.get(item.control.value.current, ""))

    def set_value(self, item: Item, value: Any) -> None:
        assert isinstance(item.control, RadioGroup)
        item.control.value.current = str(value).replace("/", "\u2215")


class _Field(Kind):
    can_be_disabled = True

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        from glent.controls.text_field import TextField  # needs the extra glent[text]

        _, lines, _ = args
        high = style.line * lines + (style.pad if lines > 1 else 0.0)
        item = Item(self, key, parent.add_for_now(key, role="textbox", place=Place(width=FIELD_WIDE, height=high)))
        item.control = TextField(item.node, lines=lines, measure=lambda text: style.measure(text)[0])
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        item.node.facts["text"], _, item.node.enabled = args

    def value_of(self, item: Item) -> str:
        return str(item.control.values["value"].current) if item.control is not None else ""

    def set_value(self, item: Item, value: Any) -> None:
        if item.control is not None:
            item.control.set(value)


class _Line(Kind):
    """A row or a column."""

    def __init__(self, kind: str) -> None:
        self._kind = kind

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        return Item(self, key, parent.add_for_now(key, place=FIT, flow=Flow(self._kind, gap=style.gap)))


class _Scroll(Kind):
    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        node = parent.add_for_now(key, flow=Flow("column", gap=style.gap, padding=style.gap))
        item = Item(self, key, node)
        item.control = ScrollArea(node)
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        width, height = args
        item.node.place = Place(height=height) if width is None else Place(width=width, height=height)


class _Table(Kind):
    """Rows of one height, of which those that show are declared."""

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        item = Item(self, key, parent.add_for_now(key))
        item.control = ScrollArea(item.node)
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        width, height, count, row_height = args
        item.node.place = Place(height=height) if width is None else Place(width=width, height=height)
        item.node.content = (0.0, count * row_height)


class _TableRow(Kind):
    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        return Item(self, key, parent.add_for_now(key, flow=Flow("row", gap=style.gap)))

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        top, height = args
        item.node.place = Place(left=0, right=0, top=top, height=height)


class _Window(Kind):
    """A window; where it is, and in front of what, is the player's."""

    keeps_order = False

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        title, (left, top), size, bar, closable = args
        width, height = size if size is not None else ("fit-content", "fit-content")
        place = Place(left, top, width=width, height=height)
        node = parent.add_for_now(key, place=place, flow=Flow("column", padding=style.pad), label=title)
        item = Item(self, key, node)
        item.holder = node.add_for_now(
            "in", place=FIT if size is None else Place(grow=1), flow=Flow("column", gap=style.gap)
        )
        item.parts.append(item.holder)
        window = ToolWindow(node, title=bar, close_button=closable, resizable=size is not None)
        window.on("close", item.count_click)
        item.control = window
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        item.node.label = args[0]


class _Touched:
    """What has happened at a region since it was asked for."""

    __slots__ = ("accepts", "drag", "dropped", "gives")

    def __init__(self) -> None:
        self.drag = (0.0, 0.0)
        self.dropped: list[Any] = []
        self.gives: Any = None
        self.accepts: Any = None


class _Region(Kind):
    """A place that tells of hover, press and drag, and is drawn by whoever declares it."""

    def add(self, parent: Node, key: str, args: tuple[Any, ...], style: Style) -> Item:
        item = super().add(parent, key, args, style)
        node, touched = item.node, _Touched()
        item.data = touched
        node.solidity = "solid"
        node.on_for_now("click", item.count_click)

        def started(event: DragStart) -> None:
            if touched.gives is not None:
                event.give(touched.gives)

        def dragged(event: Event) -> None:
            x, y = touched.drag
            touched.drag = x + event.data["dx"], y + event.data["dy"]

        def dropped(event: Event) -> None:
            touched.dropped.append(event.data["payload"])
            event.take()

        node.on_for_now("drag_start", started)
        node.on_for_now("drag", dragged)
        node.on_for_now("drop", dropped)
        node.accepts = lambda payload: touched.accepts(payload) if touched.accepts is not None else False
        return item

    def update(self, item: Item, args: tuple[Any, ...], style: Style) -> None:
        at, (width, height), item.data.gives, item.data.accepts = args
        left, top = at if at is not None else (None, None)
        item.node.place = Place(left, top, width=width, height=height)


TEXT, RULE, BUTTON, TOGGLE, NUMBERS, CHOICE, FIELD = (
    _Text(), _Rule(), _Button(), _Toggle(), _Numbers(), _Choice(), _Field()
)  # fmt: skip
ROW, COLUMN, SCROLL, WINDOW, REGION = _Line("row"), _Line("column"), _Scroll(), _Window(), _Region()
TABLE, TABLE_ROW = _Table(), _TableRow()
