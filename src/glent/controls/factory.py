"""Controls by declaration: ``control: {kind: slider, …}`` in a node's notes, as scene files have it (laws C11, C12)."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import TYPE_CHECKING, Any, TypeVar

from glent.controls.button import Button
from glent.controls.control import NOTHING, Control
from glent.controls.dialog import Dialog
from glent.controls.key_layout import Key, KeyLayout
from glent.controls.listbox import Listbox
from glent.controls.menu import Menu
from glent.controls.menubar import Menubar
from glent.controls.popup import Popup
from glent.controls.progress import Progress
from glent.controls.radio_group import RadioGroup
from glent.controls.range_slider import RangeSlider
from glent.controls.screen_keys import ScreenKeys
from glent.controls.scroll_area import ScrollArea
from glent.controls.scrollbar import Scrollbar
from glent.controls.slider import Slider
from glent.controls.slider_row import SliderRow
from glent.controls.slots import Slots
from glent.controls.stick import Stick
from glent.controls.tabs import Tabs
from glent.controls.toggle import Toggle
from glent.controls.tool_window import ToolWindow
from glent.controls.tooltip import Tooltip
from glent.core.errors import ControlError, PathError, ValueRefusedError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["CONVERTS", "KINDS", "REFERENCES", "Controls"]

C = TypeVar("C", bound=Control)

CONVERTS: Mapping[str, Callable[[str], str]] = {"upper": str.upper, "lower": str.lower}
"""What a file can have a text field make of what is typed."""

REFERENCES = ("opener", "above", "area", "target", "field")
"""The options that are paths of other nodes."""

SPAN = ("low", "high", "step", "start")


class Controls(Mapping[str, Control]):
    """The controls of a scene by the path of their node, made from what the nodes declare.

    :param scene: where ``node.notes["control"]`` is a mapping with a ``kind`` and that control's options.
    :raises ControlError: an unknown kind, an option it does not have, or what the control itself raises; nothing is
        left half made then.
    """

    def __init__(self, scene: Scene) -> None:
        self._scene = scene
        self._made: dict[str, Control] = {}
        self._told: dict[str, tuple[Node, Mapping[str, Any]]] = {}
        self.refresh()

    def refresh(self) -> None:
        """Make what is declared by now and close what is not: after a scene file was read again, for example.

        A control whose node and declaration are the same stays; one that is made anew keeps its value, if it can.
        """
        told: dict[str, tuple[Node, Mapping[str, Any]]] = {}
        for node in self._scene.walk():
            given = node.notes.get("control") if node.notes is not None else None
            if given is not None and not isinstance(given, Mapping):
                raise ControlError(f"{node.path}: control is noted as {given!r}, expected a mapping with a kind")
            if given is not None:
                told[node.path] = (node, given)
        kept: dict[str, Any] = {}
        for path, before in list(self._told.items()):
            if told.get(path) != before:
                control = self._made.pop(path)
                kept[path] = getattr(control, "value", None)
                control.detach()
        new = [path for path in told if path not in self._made]
        try:
            for path in new:
                self._make(path, told, ())
        except Exception:
            for path in new:
                control_ = self._made.pop(path, None)
                if control_ is not None:
                    control_.detach()
            self._told = {path: one for path, one in told.items() if path in self._made}
            raise
        self._told = told
        for path in new:
            value, before_ = getattr(self._made[path], "value", None), kept.get(path)
            if value is not None and before_ is not None and before_.ready:
                try:
                    value.current = before_.current
                except ValueRefusedError:
                    continue  # it cannot have that any more, and begins as its declaration says

    def _make(
        self, path: str, told: Mapping[str, tuple[Node, Mapping[str, Any]]], under_way: tuple[str, ...]
    ) -> Control:
        made = self._made.get(path)
        if made is not None:
            return made
        if path in under_way:
            raise ControlError(f"{path}: refers to itself through {' and '.join(under_way)}, expected no circle")
        node, given = told[path]
        kind, options = str(given.get("kind")), {key: value for key, value in given.items() if key != "kind"}
        if kind not in KINDS:
            raise ControlError(f"{path}: the kind of control is {kind!r}, expected one of {', '.join(KINDS)}")
        for name in REFERENCES:
            if name in options:
                options[name] = self._referred(path, name, options[name])
        for name, wanted in (("above", "menu"), ("field", "textbox")):
            if name in options:
                other = options[name].path
                if other not in told or told[other][1].get("kind") != wanted:
                    raise ControlError(f"{path}: {name} is {other}, expected a node with a control of kind {wanted}")
                options[name] = self._make(other, told, (*under_way, path))
        if kind == "menubar":
            menus = self._menus_of(node, told, (*under_way, path))
            options["menus"] = menus
        if kind == "scrollbar" and "area" in options:
            area = options["area"].path
            if area in told:
                self._make(area, told, (*under_way, path))
        try:
            control = KINDS[kind][1](node, options)
        except TypeError as error:
            raise ControlError(f"{path}: a control of kind {kind} cannot be made: {error}") from None
        self._made[path] = control
        return control

    def _referred(self, path: str, name: str, other: object) -> Node:
        try:
            return self._scene[str(other)]
        except PathError as error:
            raise ControlError(f"{path}: {name} is {other!r}: {error}") from None

    def _menus_of(
        self, bar: Node, told: Mapping[str, tuple[Node, Mapping[str, Any]]], under_way: tuple[str, ...]
    ) -> dict[str, Menu]:
        """The menus that hang from items of a menubar, by the item's path below it."""
        menus: dict[str, Menu] = {}
        for path, (_, given) in told.items():
            opener = given.get("opener")
            if given.get("kind") == "menu" and isinstance(opener, str) and opener.startswith(bar.path + "/"):
                menu = self._make(path, told, under_way)
                assert isinstance(menu, Menu)
                menus[opener[len(bar.path) + 1 :]] = menu
        return menus

    # -- a mapping -----------------------------------------------------------------------------------------------------

    def __getitem__(self, path: str) -> Any:
        """The control at a path; its class is the caller's to know, or to ask by :meth:`of`.

        :raises KeyError: there is none.
        """
        return self._made[path]

    def __iter__(self) -> Iterator[str]:
        return iter(self._made)

    def __len__(self) -> int:
        return len(self._made)

    def of(self, kind: type[C], path: str) -> C:
        """The control at a path, which is of this class.

        :raises ControlError: it is not, or there is none.
        """
        control = self._made.get(path)
        if not isinstance(control, kind):
            what = f"a {type(control).__name__}" if control is not None else "no control"
            raise ControlError(f"{path}: is {what}, expected a {kind.__name__}")
        return control

    def detach(self) -> None:
        """Close all of them."""
        for control in self._made.values():
            control.detach()
        self._made.clear()
        self._told.clear()


def _number(node: Node, options: dict[str, Any], low: float, high: float, start: Any = NOTHING) -> Value[float]:
    """A value of a range, of what the options say of one, which are taken out of them."""
    low, high = options.pop("low", low), options.pop("high", high)
    step, start = options.pop("step", None), options.pop("start", start)
    if start is NOTHING:
        return Value(name=node.path, low=low, high=high, step=step)
    return Value(start, name=node.path, low=low, high=high, step=step)


def _plain(kind: type[Control]) -> Callable[[Node, dict[str, Any]], Control]:
    return lambda node, options: kind(node, **options)


def _toggle(node: Node, options: dict[str, Any]) -> Control:
    options_ = (False, True) if (node.role or "switch") == "switch" else (False, True, "mixed")
    return Toggle(node, Value(options.pop("start", False), name=node.path, options=options_), **options)


def _named(kind: type[RadioGroup] | type[Tabs]) -> Callable[[Node, dict[str, Any]], Control]:
    def make(node: Node, options: dict[str, Any]) -> Control:
        start = options.pop("start", None)
        control = kind(node, **options)
        if start is not None:
            control.value.current = start
        return control

    return make


def _slider(node: Node, options: dict[str, Any]) -> Control:
    return Slider(node, _number(node, options, 0.0, 100.0, options.get("low", 0.0)), **options)


def _range_slider(node: Node, options: dict[str, Any]) -> Control:
    span = {key: options.pop(key) for key in SPAN if key in options}
    low, high = span.get("low", 0.0), span.get("high", 100.0)
    starts = span.pop("start", (low, high))
    values = [_number(node, {**span, "start": start}, low, high) for start in starts]
    return RangeSlider(node, values[0], values[1], **options)


def _slider_row(node: Node, options: dict[str, Any]) -> Control:
    span = {key: options.pop(key) for key in SPAN if key in options}
    values = [_number(node, {**span, "start": start}, 0.0, 100.0) for start in span.pop("start", ())]
    return SliderRow(node, values, **options)


def _progress(node: Node, options: dict[str, Any]) -> Control:
    return Progress(node, _number(node, options, 0.0, 1.0), **options)


def _listbox(node: Node, options: dict[str, Any]) -> Control:
    return Listbox(node, Value(tuple(options.pop("start", ())), name=node.path), **options)


def _slots(node: Node, options: dict[str, Any]) -> Control:
    items = options.pop("items", {})
    slots = Slots(node, **options)
    for slot, thing in items.items():
        slots.put(slot, thing)
    return slots


def _text_field(node: Node, options: dict[str, Any]) -> Control:
    from glent.controls.text_field import TextField  # needs the extra

    convert = options.pop("convert", None)
    value = Value(options.pop("start", ""), name=node.path)
    return TextField(node, value, convert=CONVERTS[convert] if convert is not None else None, **options)


def _screen_keys(node: Node, options: dict[str, Any]) -> Control:
    rows = [
        [Key(**key) if isinstance(key, Mapping) else Key(str(key)) for key in row] for row in options.pop("rows", ())
    ]
    return ScreenKeys(node, KeyLayout(rows), **options)


def _tool_window(node: Node, options: dict[str, Any]) -> Control:
    if "min_size" in options:
        options["min_size"] = tuple(options["min_size"])
    return ToolWindow(node, **options)


KINDS: Mapping[str, tuple[type[Control], Callable[[Node, dict[str, Any]], Control]]] = {
    "button": (Button, _plain(Button)),
    "toggle": (Toggle, _toggle),
    "radiogroup": (RadioGroup, _named(RadioGroup)),
    "slider": (Slider, _slider),
    "range-slider": (RangeSlider, _range_slider),
    "slider-row": (SliderRow, _slider_row),
    "progressbar": (Progress, _progress),
    "stick": (Stick, _plain(Stick)),
    "scroll-area": (ScrollArea, _plain(ScrollArea)),
    "scrollbar": (Scrollbar, _plain(Scrollbar)),
    "listbox": (Listbox, _listbox),
    "slots": (Slots, _slots),
    "popup": (Popup, _plain(Popup)),
    "menu": (Menu, _plain(Menu)),
    "menubar": (Menubar, _plain(Menubar)),
    "dialog": (Dialog, _plain(Dialog)),
    "tooltip": (Tooltip, _plain(Tooltip)),
    "tablist": (Tabs, _named(Tabs)),
    "textbox": (Control, _text_field),
    "screen-keys": (ScreenKeys, _screen_keys),
    "tool-window": (ToolWindow, _tool_window),
}
"""By the kind that a file names: the class, and what makes one of a node and its options."""
