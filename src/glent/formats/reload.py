"""A scene file read again while its scene runs: nodes are matched by path and role (law T5)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any, cast

from glent.core.geometry.world.form import Form
from glent.core.scene.node import Node
from glent.core.scene.panel import Panel
from glent.core.scene.scene import Scene
from glent.core.scene.spot import Spot
from glent.formats import model
from glent.formats.scene_file import (
    TOLD,
    add_layer,
    add_node,
    add_panel,
    add_spot,
    attributes_of,
    keep_facts_schema,
    layer_attributes_of,
    panel_attributes_of,
    spot_attributes_of,
    told_by,
)
from glent.formats.world_model import form_model

__all__ = ["Reloaded", "reload_scene"]

Tree = model.LayerModel | model.ToldNode | model.PanelModel

SETS = ("carries", "claims", "seats", "tags")


@dataclass(frozen=True, slots=True)
class Reloaded:
    """What a reload did, as paths in the order of the file.

    :ivar changed: nodes that stayed, with other attributes. They keep handlers, hover, focus, press, and whatever else
        was set by code and not changed in the file.
    :ivar added: nodes that are new, or have another role than before: their handlers are yours to add.
    :ivar removed: nodes that left, or were replaced; they got their leaves and cancels.
    """

    changed: tuple[str, ...]
    added: tuple[str, ...]
    removed: tuple[str, ...]


def reload_scene(scene: Scene, path: str | Path) -> Reloaded:
    """Bring a running scene in line with what has changed in its file. A node is the same if its path and role are.

    It goes by the file as it was last read, so what code has shown, hidden, moved, added or removed meanwhile stays,
    unless the file has changed just there. A scene that was not read from a file is brought in line with all of it.

    :raises FileError: as :func:`glent.formats.read_scene`; the scene is as it was then.
    """
    path = Path(path)
    given, told = told_by(path)
    known = TOLD.get(scene)
    before = known.model() if known is not None else None
    work = _Work(scene, before)
    work.layers(given.layers)
    work.in_world(given.panels, given.spots)
    if before is None or before.camera != given.camera:
        scene.camera = given.camera.build() if given.camera is not None else None
    keep_facts_schema(scene, given)
    if before is None or before.fit != given.fit:
        scene.fit = given.fit
    if before is None or before.size != given.size:
        scene.size = (given.size[0], given.size[1])
    TOLD[scene] = told
    return Reloaded(tuple(work.changed), tuple(work.added), tuple(work.removed))


Box = model.LayerModel | model.ToldNode | model.PanelModel | model.SpotModel


class _Work:
    def __init__(self, scene: Scene, before: model.SceneModel | None) -> None:
        self.scene = scene
        self.before: dict[str, Box] | None = None
        if before is not None:
            self.before = dict(_told([*before.layers, *before.panels, *before.spots], ""))
        self.changed: list[str] = []
        self.added: list[str] = []
        self.removed: list[str] = []

    def layers(self, given: Sequence[model.LayerModel]) -> None:
        """Bring the layers in line, and all in them."""
        self._drop(self.scene.layers, given)
        there = {layer.name: layer for layer in self.scene.layers}
        for one in given:
            kept = there.get(one.name)
            if kept is not None:
                self._change(kept, one)
                self._children(kept, one)
            elif self._is_new(one.name):
                self._note_added(add_layer(self.scene, one))

    def in_world(self, panels: Sequence[model.PanelModel], spots: Sequence[model.SpotModel]) -> None:
        """Bring what stands in the world in line; a panel that became a spot is another thing."""
        in_world = self.scene.in_world
        self._drop([one for one in in_world if isinstance(one, Panel)], panels)
        self._drop([one for one in in_world if isinstance(one, Spot)], spots)
        there = {one.name: one for one in self.scene.in_world}
        given: list[model.PanelModel | model.SpotModel] = [*panels, *spots]
        for one in given:
            kept = there.get(one.name)
            if kept is not None:
                self._change(kept, one)
                if isinstance(one, model.PanelModel):
                    self._children(kept, one)
            elif self._is_new(one.name):
                made = add_panel(self.scene, one) if isinstance(one, model.PanelModel) else add_spot(self.scene, one)
                self._note_added(made)

    def _children(self, parent: Node, given: Tree) -> None:
        self._drop(parent.children, given.children)
        there = {child.name: child for child in parent.children}
        added = len(self.added)
        for one in given.children:
            kept = there.get(one.name)
            if kept is not None:
                self._change(kept, one)
                self._children(kept, one)
            elif self._is_new(f"{parent.path}/{one.name}"):
                self._note_added(add_node(parent, one))
        before = cast("Tree | None", self.before.get(parent.path)) if self.before is not None else None
        names = [one.name for one in given.children]
        if before is None or len(self.added) > added or names != [one.name for one in before.children]:
            parent.arrange(names)

    def _is_new(self, path: str) -> bool:
        """Whether the file did not tell of it before; if it did, code has removed it, and that stays."""
        return self.before is None or path not in self.before

    def _drop(self, there: Sequence[Node], given: Sequence[Box]) -> None:
        """Remove what the file no longer tells of, and what has another role there: to add that anew is left to it."""
        wanted = {one.name: one for one in given}
        for node in there:
            one = wanted.get(node.name)
            told = self.before is None or node.path in self.before
            if one is None:
                if not told:
                    continue
            elif one.role == node.declared("role"):
                continue
            self.removed.extend(inner.path for inner in node.walk())
            if self.before is not None:
                for inner in node.walk():
                    self.before.pop(inner.path, None)
            node.remove()

    def _change(self, node: Node, given: Box) -> None:
        """Set what the file tells otherwise than before; what a player has scrolled stays."""
        attributes = _attributes_of(given)
        old = self.before.get(node.path) if self.before is not None else None
        before = _attributes_of(old) if old is not None else None
        changed = False
        for key, value in attributes.items():
            if key == "scroll" and node.scrolls:
                continue
            if isinstance(node, Panel) and key == "extent":
                if before is None or before[key] != value:
                    node.resize(*value)
                    changed = True
            elif not _alike(getattr(node, key) if before is None else before[key], value):
                setattr(node, key, value)
                changed = True
        if changed:
            self.changed.append(node.path)

    def _note_added(self, node: Node) -> None:
        self.added.extend(one.path for one in node.walk())


def _alike(one: Any, other: Any) -> bool:
    """Whether two values of an attribute say the same; forms are compared by what a file says of them."""
    if isinstance(one, Form) and isinstance(other, Form):
        one.prepare()
        other.prepare()
        return form_model(one) == form_model(other)
    return bool(one == other)


def _told(boxes: Sequence[Box], above: str) -> Iterator[tuple[str, Box]]:
    for one in boxes:
        yield above + one.name, one
        if not isinstance(one, model.SpotModel):
            yield from _told(one.children, f"{above}{one.name}/")


def _attributes_of(given: Box) -> dict[str, Any]:
    """What a node has by its file, in the types that the node has it in."""
    if isinstance(given, model.PanelModel):
        attributes = panel_attributes_of(given)
    elif isinstance(given, model.SpotModel):
        attributes = spot_attributes_of(given)
    else:
        attributes = layer_attributes_of(given) if isinstance(given, model.LayerModel) else attributes_of(given)
    return {
        key: (frozenset(value) if key in SETS else tuple(value)) if isinstance(value, list) else value
        for key, value in attributes.items()
    }
