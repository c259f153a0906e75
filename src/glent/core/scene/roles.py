"""Roles: which nodes are controls, and which kinds of event a control uses up (laws S3, R2).

The names are WAI-ARIA's. A role that is no control (``group``, ``dialog``, ``img``, …) is kept for the renderer and
for tools and changes nothing about routing.
"""

from __future__ import annotations

__all__ = ["COMPOSITES", "CONTROLS", "NEVER_STOPS", "ROLES", "TYPED"]

_POINTED = frozenset({"enter", "leave", "press", "release", "cancel", "click"})
_HELD = _POINTED | {"hold", "hold_progress", "repeat", "activate"}
_DRAGGED = _POINTED | {"drag_start", "drag", "drag_end", "change"}
_TYPED = _DRAGGED | {"text", "compose", "key_down", "key_up"}

CONTROLS: dict[str, frozenset[str]] = {
    "button": _HELD,
    "checkbox": _HELD | {"change"},
    "combobox": _TYPED,
    "link": _HELD,
    "menuitem": _HELD,
    "menuitemcheckbox": _HELD | {"change"},
    "menuitemradio": _HELD | {"change"},
    "option": _HELD,
    "radio": _HELD | {"change"},
    "scrollbar": _DRAGGED,
    "searchbox": _TYPED,
    "slider": _DRAGGED,
    "spinbutton": _DRAGGED,
    "switch": _HELD | {"change"},
    "tab": _HELD,
    "textbox": _TYPED,
    "treeitem": _HELD,
}
"""Each control role with the kinds of event it uses and therefore does not carry on to its ancestors."""

NEVER_STOPS = frozenset({"scrollbar"})
"""Controls that focus does not stop at unless told to: what they do, the keys of what they scroll do as well."""

TYPED = frozenset({"combobox", "searchbox", "textbox"})
"""Roles that take text when they have the focus (law W3)."""

COMPOSITES = frozenset({"grid", "listbox", "menu", "menubar", "radiogroup", "tablist", "toolbar", "tree", "treegrid"})
"""Roles of groups that are one stop to Tab, with arrows inside (law F1, and the ARIA practices)."""

ROLES = frozenset(CONTROLS) | {
    "alert",
    "alertdialog",
    "application",
    "dialog",
    "figure",
    "form",
    "grid",
    "gridcell",
    "group",
    "heading",
    "img",
    "list",
    "listbox",
    "listitem",
    "log",
    "main",
    "menu",
    "menubar",
    "meter",
    "navigation",
    "none",
    "note",
    "presentation",
    "progressbar",
    "radiogroup",
    "region",
    "row",
    "rowgroup",
    "search",
    "separator",
    "status",
    "table",
    "tablist",
    "tabpanel",
    "timer",
    "toolbar",
    "tooltip",
    "tree",
    "treegrid",
}
