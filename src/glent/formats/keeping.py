"""Keeping changes of a running scene in its file, and finding where a node stands there.

One change that is kept is one change in the file (law D3): the text is edited at the places of the values alone, and
the outcome is read again and compared before anything is written.
"""

from __future__ import annotations

import json
from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple

from glent.core.errors import SceneError, near
from glent.core.scene.node import Node
from glent.core.scene.scene import Scene
from glent.formats import text
from glent.formats.errors import FileError
from glent.formats.scene_file import NODES, TOLD, Told, checked_scene, plain_numbers, told_attributes
from glent.formats.text_edit import GONE, Edit, edited, position_in

__all__ = ["Source", "file_of", "keep", "keep_all", "source_of"]

Place = tuple[str | int, ...]


class Source(NamedTuple):
    """Where something stands in a file.

    :ivar file: the file. :ivar line: from 1. :ivar column: from 1.
    """

    file: Path
    line: int
    column: int

    def __str__(self) -> str:
        return f"{self.file}:{self.line}:{self.column}"


def file_of(scene: Scene) -> Path | None:
    """The file that a scene was last read from, or kept in; None if code has built it."""
    told = TOLD.get(scene)
    return told.path if told is not None else None


def source_of(node: Node) -> Source | None:
    """Where a node stands in the file of its scene, as that was last read; None if it does not stand there.

    Of a node that a pattern makes it is the use of the pattern.
    """
    told = TOLD.get(node.scene) if node.scene is not None else None
    if told is None:
        return None
    place = _nearest(_document_of(told), node)
    return Source(told.path, *position_in(told.text, told.suffix, place)) if place else None


@lru_cache(maxsize=4)
def _document_of(told: Told) -> Any:
    """What a file says, to be looked into and not changed; kept, as a tool asks for one node after the other."""
    return text.parse(told.text.encode("utf-8"), str(told.path), told.suffix)


def keep(path: str | Path, node: Node, attributes: Iterable[str]) -> None:
    """Write what some attributes of a running node are now into its file, and change nothing else there (law D3).

    From now on they count as declared.

    :param path: the scene file. :param attributes: their names, such as ``["place", "order"]``.
    :raises FileError: the file cannot be read or written, has no such node, or cannot say that; it is as it was then.
    :raises SceneError: there is no attribute of such a name that a file can tell.
    """
    keep_all(path, {node: tuple(attributes)})


def keep_all(path: str | Path, changes: Mapping[Node, Iterable[str]]) -> None:
    """Write what some attributes of several running nodes are now into their file: all of them, or none.

    :param path: the scene file. :param changes: by node, the names of its attributes.
    :raises FileError: as :func:`keep`. :raises SceneError: as :func:`keep`.
    """
    path = Path(path)
    suffix = text.checked_suffix(path)
    content = text.read_bytes(path, text.MAX_BYTES).decode("utf-8")
    document = text.parse(content.encode("utf-8"), str(path), suffix)
    checked_scene(document, str(path))
    named = {node: tuple(attributes) for node, attributes in changes.items()}
    edits: list[Edit] = []
    for node, attributes in named.items():
        edits += _edits(document, str(path), node, attributes)
    made = edited(content, suffix, edits)
    wanted = _with(document, edits)
    if text.parse(made.encode("utf-8"), str(path), suffix) != wanted:
        where = ", ".join(node.path for node in named)
        raise FileError(str(path), [(where, "stands there by an alias; expected it written out, to be changed alone")])
    checked_scene(wanted, str(path))
    text.write_whole(path, made)
    for node, attributes in named.items():
        for name in attributes:
            node.declare(name)
        if node.scene is not None:
            TOLD[node.scene] = Told(made, suffix, path)


def _edits(document: Any, file: str, node: Node, attributes: Sequence[str]) -> list[Edit]:
    """What has to be otherwise in a document for it to say what some attributes of a node are."""
    place = _place_of(document, node)
    if place is None:
        by = " of its own, which may be one of a pattern" if "patterns" in document else ""
        what = f"has no node {node.path}{by}; expected the file that it was read from"
        raise FileError(file, [(NODES[0], what)])
    known = told_attributes(node, lambda name: getattr(node, name))
    here = _at(document, place)
    edits: list[Edit] = []
    for name in attributes:
        if name not in known:
            raise SceneError(f"{node.path}: {name!r} is no attribute that a file can tell{near(name, known)}")
        value, default = known[name]
        if here.get(name, default) != value:
            edits.append(((*place, name), GONE if value == default else plain_numbers(value)))
    return edits


def _at(document: Any, place: Place) -> Any:
    for part in place:
        document = document[part]
    return document


def _place_of(document: Any, node: Node) -> Place | None:
    """Where a file tells of a node; None if it does not."""
    place = _nearest(document, node)
    return place if len(place) == 2 * len(node.lineage()) else None


def _nearest(document: Any, node: Node) -> Place:
    """Where a file tells of a node, or else of the nearest node above it of which it does."""
    place: Place = ()
    here = document
    for depth, one in enumerate(node.lineage()):
        found = None
        for key in NODES[:3] if depth == 0 else NODES[3:]:
            for at, given in enumerate(here.get(key) or ()):
                if given.get("name") == one.name:
                    found = (key, at, given)
        if found is None:
            break
        place, here = (*place, *found[:2]), found[2]
    return place


def _with(document: Any, edits: Sequence[Edit]) -> Any:
    """A document with these values in it."""
    made = json.loads(json.dumps(document))
    for path, value in edits:
        here = _at(made, path[:-1])
        if value is GONE:
            here.pop(path[-1], None)
        else:
            here[path[-1]] = value
    return made
