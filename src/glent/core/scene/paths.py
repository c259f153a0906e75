"""Paths: finding nodes, and the names that were near when there is none."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import PathError

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glent.core.scene.node import Node

__all__ = ["descend", "missing"]


def descend(node: Node, path: str, whole: str = "") -> Node:
    """The node at a path below another; ``whole`` is what errors call it, by default that path.

    :raises PathError: there is none; the message says how far the path goes and which names are there.
    """
    if not isinstance(path, str):
        raise PathError(f"a path below {node.path} is {path!r}, expected text such as 'bar/send-tug'")
    for name in path.split("/"):
        child = node._children.get(name) if node._children else None
        if child is None:
            raise missing(whole or path, name, node._children or {}, node.path)
        node = child
    return node


def missing(path: str, name: str, there: Mapping[str, object], where: str) -> PathError:
    """The error for a name that is not among those there."""
    from difflib import get_close_matches  # slow to import, and only wanted here

    near = get_close_matches(str(name), there, n=3, cutoff=0.5)
    if near:
        hint = f"did you mean {' or '.join(near)}?"
    elif there:
        names = list(there)
        hint = f"it has {', '.join(names[:8])}{', …' if len(names) > 8 else ''}"
    else:
        hint = "it has no children"
    return PathError(f"no node at {path!r}: {where} has no {name!r}; {hint}")
