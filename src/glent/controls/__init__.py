"""The behaviour of controls, made of public calls to the core: they draw nothing.

Each is made on a node, which then has its role, its handlers and, where a renderer or a scene file has not made them
already, its parts. What it shows is in its values, in the places of its parts, and in :meth:`Control.look`.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.controls.button import Button
from glent.controls.captions import caption_of, owner_of
from glent.controls.check_group import CheckGroup
from glent.controls.combobox import Combobox
from glent.controls.control import Control, Subscription, control_of
from glent.controls.cues import Cues
from glent.controls.dialog import Answer, Dialog
from glent.controls.factory import Controls, controls_of
from glent.controls.key_layout import Key, KeyLayout
from glent.controls.listbox import Listbox
from glent.controls.look import Look
from glent.controls.menu import Menu
from glent.controls.menubar import Menubar
from glent.controls.options import Bounds, Distance, Positive
from glent.controls.popup import Popup
from glent.controls.progress import Progress
from glent.controls.radio_group import RadioGroup
from glent.controls.range_slider import RangeSlider
from glent.controls.registry import register
from glent.controls.rows import Rows, RowsInView
from glent.controls.screen_keys import ScreenKeys
from glent.controls.scroll_area import ScrollArea
from glent.controls.scrollbar import Scrollbar
from glent.controls.slider import Slider
from glent.controls.slider_row import SliderRow
from glent.controls.slots import SlotDrag, Slots
from glent.controls.spinbutton import Spinbutton
from glent.controls.stick import Stick
from glent.controls.tabs import Tabs
from glent.controls.toggle import Toggle
from glent.controls.tool_window import ToolWindow
from glent.controls.tooltip import Tooltip
from glent.controls.tree import Tree

if TYPE_CHECKING:
    from glent.controls.edited_line import EditedLine
    from glent.controls.text_field import Clipboard, TextField

__all__ = [
    "Answer",
    "Bounds",
    "Button",
    "CheckGroup",
    "Clipboard",
    "Combobox",
    "Control",
    "Controls",
    "Cues",
    "Dialog",
    "Distance",
    "EditedLine",
    "Key",
    "KeyLayout",
    "Listbox",
    "Look",
    "Menu",
    "Menubar",
    "Popup",
    "Positive",
    "Progress",
    "RadioGroup",
    "RangeSlider",
    "Rows",
    "RowsInView",
    "ScreenKeys",
    "ScrollArea",
    "Scrollbar",
    "Slider",
    "SliderRow",
    "SlotDrag",
    "Slots",
    "Spinbutton",
    "Stick",
    "Subscription",
    "Tabs",
    "TextField",
    "Toggle",
    "ToolWindow",
    "Tooltip",
    "Tree",
    "caption_of",
    "control_of",
    "controls_of",
    "owner_of",
    "register",
]

NEED_TEXT = {
    "EditedLine": "glent.controls.edited_line",
    "Clipboard": "glent.controls.text_field",
    "TextField": "glent.controls.text_field",
}
"""What needs the extra ``glent[text]``, and is loaded when it is asked for."""


def __getattr__(name: str) -> Any:
    module = NEED_TEXT.get(name)
    if module is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    from importlib import import_module

    return getattr(import_module(module), name)


_BUILT_IN: dict[str, type[Control] | str] = {
    "button": Button,
    "toggle": Toggle,
    "radiogroup": RadioGroup,
    "check-group": CheckGroup,
    "slider": Slider,
    "range-slider": RangeSlider,
    "slider-row": SliderRow,
    "progressbar": Progress,
    "stick": Stick,
    "scroll-area": ScrollArea,
    "scrollbar": Scrollbar,
    "listbox": Listbox,
    "tree": Tree,
    "combobox": Combobox,
    "spinbutton": Spinbutton,
    "slots": Slots,
    "popup": Popup,
    "menu": Menu,
    "menubar": Menubar,
    "dialog": Dialog,
    "tooltip": Tooltip,
    "tablist": Tabs,
    "textbox": "glent.controls.text_field:TextField",
    "screen-keys": ScreenKeys,
    "tool-window": ToolWindow,
}
for _name, _class in _BUILT_IN.items():
    register(_name, _class)
