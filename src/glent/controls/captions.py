"""What is written on a node, whoever draws it: what its control says, its fact ``text``, or its name."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.combobox import Combobox
from glent.controls.control import control_of
from glent.controls.dialog import Dialog
from glent.controls.screen_keys import ScreenKeys
from glent.controls.slots import Slots
from glent.controls.spinbutton import Spinbutton
from glent.controls.tool_window import ToolWindow

if TYPE_CHECKING:
    from glent.controls.control import Control
    from glent.core.scene.node import Node

__all__ = ["WORDY", "caption_of", "owner_of"]

WORDY = (
    "button",
    "switch",
    "checkbox",
    "radio",
    "tab",
    "option",
    "menuitem",
    "gridcell",
    "tooltip",
    "link",
    "treeitem",
)
"""The roles that have their names on them where nothing else is said."""


def owner_of(node: Node) -> tuple[Control | None, str]:
    """The control that a node has, or is a part of, and which part it is: a path below the control's node, or empty."""
    above: Node | None = node
    while above is not None:
        control = control_of(above)
        if control is not None:
            return control, node.path[len(above.path) + 1 :]
        above = above.parent
    return None, ""


def caption_of(node: Node, control: Control | None = None, part: str = "") -> str:
    """What to write on a node: what its control says, its fact ``text``, or the name of a control that says neither."""
    if isinstance(control, ScreenKeys) and (label := control.label_of(part)):
        return label
    if isinstance(control, Dialog) and (part == "message" or part in control.labels):
        return control.message if part == "message" else control.labels[part]
    if isinstance(control, Slots) and part in control.items:
        return str(control.items[part])
    if isinstance(control, ToolWindow) and not part:
        return ""  # its title says it
    if isinstance(control, Spinbutton) and part in ("more", "less"):
        return "+" if part == "more" else "\u2212"
    if isinstance(control, Spinbutton | Combobox) and not part:
        return control.shown
    said = node.facts.get("text")
    if isinstance(said, str):
        return said
    if isinstance(control, ToolWindow) and part in ("title", "title/close"):
        return "×" if part == "title/close" else control.node.accessible_name or control.node.name.replace("-", " ")
    wordy = node.role in WORDY and not (control is not None and part and part in control.values)
    return node.label or (node.name.replace("-", " ") if wordy else "")
