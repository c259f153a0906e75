"""A scene file read again while its scene runs: nodes are matched by path and role (law T5)."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from glent.core.scene.node import Node
from glent.core.scene.scene import Scene
from glent.formats import model, text
from glent.formats.scene_file import (
    TOLD,
    add_layer,
    add_node,
    attributes_of,
    checked_scene,
    checked_suffix,
    layer_attributes_of,
)

__all__ = ["Reloaded", "reload_scene"]


SETS = ("carries", "claims", "seats", "tags")


@dataclass(frozen=True, slots=True)
class Reloaded:
    """What a reload did, as paths in paint order.

    :ivar changed: nodes that stayed, with other attributes. They keep handlers, hover, focus, press and scroll.
    :ivar added: nodes that are new, or have another role than before: their handlers are yours to add.
    :ivar removed: nodes that left, or were replaced; they got their leaves and cancels.
    """

    changed: tuple[str, ...]
    added: tuple[str, ...]
    removed: tuple[str, ...]


def reload_scene(scene: Scene, path: str | Path) -> Reloaded:
    """Bring a running scene in line with its file. A node is the same as before if its path and its role are.

    Nodes that code has added to what stays are left as they are, unless the file has one of that path now.

    :raises FileError: as :func:`glent.formats.read_scene`; the scene is as it was then.
    """
    path = Path(path)
    document = text.parse(text.read_bytes(path, text.MOST_BYTES), str(path), checked_suffix(path))
    given = checked_scene(document, str(path))
    made = TOLD.get(scene)
    if made is None:  # the scene was not read from a file: all of it is taken to be the file's
        made = {node.path for node in scene.walk()}
    work = _Work(scene, made)
    work.layers(given.layers)
    scene.fit = given.fit
    if scene.size != (given.size[0], given.size[1]):
        scene.size = (given.size[0], given.size[1])
    TOLD[scene] = work.told
    return Reloaded(tuple(work.changed), tuple(work.added), tuple(work.removed))


class _Work:
    def __init__(self, scene: Scene, made: set[str]) -> None:
        self.scene = scene
        self.made = made
        self.told: set[str] = set()
        self.changed: list[str] = []
        self.added: list[str] = []
        self.removed: list[str] = []

    def layers(self, given: list[model.LayerModel]) -> None:
        scene = self.scene
        there = {layer.name: layer for layer in scene.layers}
        wanted = {one.name: one for one in given}
        for layer in there.values():
            one = wanted.get(layer.name)
            if (one is None and layer.path in self.made) or (one is not None and one.role != layer.role):
                self._remove(layer)
        for one in given:
            kept = next((layer for layer in scene.layers if layer.name == one.name), None)
            if kept is None:
                self._note_added(add_layer(scene, one))
                continue
            self.told.add(kept.path)
            self._change(kept, layer_attributes_of(one))
            self._children(kept, one)

    def _children(self, parent: Node, given: model.LayerModel | model.NodeModel) -> None:
        wanted = {one.name: one for one in given.children}
        for child in parent.children:
            one = wanted.get(child.name)
            if (one is None and child.path in self.made) or (one is not None and one.role != child.role):
                self._remove(child)
        there = {child.name: child for child in parent.children}
        for one in given.children:
            kept = there.get(one.name)
            if kept is None:
                self._note_added(add_node(parent, one))
                continue
            self.told.add(kept.path)
            self._change(kept, attributes_of(one))
            self._children(kept, one)
        parent.arrange([one.name for one in given.children])

    def _change(self, node: Node, attributes: dict[str, Any]) -> None:
        """Set what is otherwise in the file; what a player has scrolled stays."""
        changed = False
        for key, value in attributes.items():
            if key == "scroll" and node.scrolls:
                continue
            if isinstance(value, list):
                value = frozenset(value) if key in SETS else tuple(value)
            if getattr(node, key) != value:
                setattr(node, key, value)
                changed = True
        if changed:
            self.changed.append(node.path)

    def _remove(self, node: Node) -> None:
        self.removed.extend(one.path for one in node.walk())
        node.remove()

    def _note_added(self, node: Node) -> None:
        for one in node.walk():
            self.added.append(one.path)
            self.told.add(one.path)
