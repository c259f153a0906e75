"""What a node is called, and what is said of it: the accessible name and description (WAI-ARIA, ACCNAME 1.2).

A node is called by the text of the node that labels it, else by its label, else by what it shows: the fact ``text``,
its own and, for roles that are named by their content, those below it. What labels it is followed once, not on and on.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.scene.roles import TYPED

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["called", "description_of", "name_of"]

BY_CONTENT = frozenset({
    "button", "checkbox", "gridcell", "heading", "link", "listitem", "menuitem", "menuitemcheckbox", "menuitemradio",
    "option", "radio", "switch", "tab", "tooltip", "treeitem",
})  # fmt: skip
"""The roles that are named by their content."""


def name_of(node: Node) -> str:
    """What a node is called; empty if nothing tells."""
    by = _other(node, node.labelled_by)
    if by is not None:
        return _own_name(by, True)
    return _own_name(node, node.role in BY_CONTENT)


def called(node: Node) -> str:
    """A node as a sentence for people has it: by what it is called, with its path; by that alone if nothing tells."""
    name = name_of(node)
    return f"“{name}” ({node.path})" if name else node.path


def description_of(node: Node) -> str:
    """What is said of a node besides its name; empty if nothing is."""
    by = _other(node, node.described_by)
    return _own_name(by, True) if by is not None else node.description or ""


def _own_name(node: Node, with_content: bool) -> str:
    if node.label:
        return node.label
    texts = [] if node.role in TYPED else [_text(node)]
    if with_content:
        texts.extend(_own_name(child, True) for child in node.children if child.visible)
    return " ".join(text for text in texts if text)


def _text(node: Node) -> str:
    text = node.facts.get("text")
    return text if isinstance(text, str) else ""


def _other(node: Node, path: str | None) -> Node | None:
    """The node that a path names, if there is one."""
    scene = node.scene
    return scene[path] if path is not None and scene is not None and path in scene else None
