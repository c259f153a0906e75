"""Scene files, JSON or YAML by suffix. What is written reads back as the same scene."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any, NamedTuple, cast
from weakref import WeakKeyDictionary

from pydantic import BaseModel, ValidationError

from glent.core.errors import GlentError, near
from glent.core.geometry.shape import Shape
from glent.core.scene.fact_attributes import FACT_NAMES
from glent.core.scene.facts import Facts
from glent.core.scene.flow import Flow
from glent.core.scene.gesture_attributes import NOTES
from glent.core.scene.layer import CHANNELS, Layer
from glent.core.scene.node import Node
from glent.core.scene.panel import Panel
from glent.core.scene.place import Place
from glent.core.scene.root import Root
from glent.core.scene.scene import Scene
from glent.core.scene.spot import Spot
from glent.formats import model, patterns, text, world_model
from glent.formats.base_model import GIVEN_UP
from glent.formats.control_model import model_of
from glent.formats.errors import FileError, Problem, problems_of
from glent.formats.facts_schema import KEPT, FactsSchema
from glent.formats.file_types import KeyModel
from glent.formats.proving import proved, refused
from glent.formats.text_edit import GONE, Edit, edited
from glent.formats.wiring_model import ActionModel, TellModel, WiringModel
from glent.formats.yaml_text import dumped

__all__ = ["read_scene", "scene_document", "scene_from", "write_scene"]


class Told(NamedTuple):
    """What a file told when it was last read, in its words: what they say is read from them when it is wanted."""

    text: str
    suffix: str
    path: Path

    def model(self, file: str = "scene") -> model.SceneModel:
        """What it told; ``file`` is what errors call it."""
        return checked_scene(text.parse(self.text.encode("utf-8"), file, self.suffix), file)


TOLD: WeakKeyDictionary[Scene, Told] = WeakKeyDictionary()
"""By scene, what its file told: a reload goes by what has changed there since (law T5), and so does writing (D3)."""

KINDS: dict[int | str, type[BaseModel]] = {
    "layers": model.LayerModel,
    "panels": model.PanelModel,
    "spots": model.SpotModel,
    "children": model.NodeModel,
    "place": model.PlaceModel,
    "flow": model.FlowModel,
    "feel": model.FeelModel,
    "camera": world_model.CameraModel,
    "rows": KeyModel,
    "wiring": WiringModel,
    "does": ActionModel,
    "tells": TellModel,
}
"""By the key that it stands under, what a mapping says."""

SPOT_KEYS = ("role", "solidity", "reach", "order", "visible", "enabled", "carries", "tags", "seats", "for_others",
             *FACT_NAMES)  # fmt: skip
"""What a file tells of a spot besides its form, its pose and its feel."""


def read_scene(path: str | Path) -> Scene:
    """The scene in a file.

    :raises FileError: the file cannot be read or says something no scene file can say; every problem is named with
        its place in the file and the node, what stood there, and what was expected.
    """
    path = Path(path)
    with text.many_objects():
        checked, told = told_by(path)
        try:
            scene = _put_up(checked, _taken)
        except GlentError:  # with all of it there, to say where
            scene = _made(told.model(str(path)), str(path))
        TOLD[scene] = told
    return scene


def told_by(path: Path) -> tuple[model.SceneModel, Told]:
    """What a file tells, checked, and in its words.

    :raises FileError: as :func:`read_scene`.
    """
    suffix = text.checked_suffix(path)
    content = text.read_bytes(path, text.MAX_BYTES)
    try:
        # What has become models is let go of on the way: a large file is in memory once, not twice.
        checked = _checked(text.parse(content, str(path), suffix), str(path), {"problems": 0, GIVEN_UP: 1})
    except FileError:  # read again, with all of it there, to say where
        checked = checked_scene(text.parse(content, str(path), suffix), str(path))
    return checked, Told(content.decode("utf-8"), suffix, path)


def write_scene(scene: Scene, path: str | Path) -> None:
    """Write a scene to a file: what was declared, and what code has changed on purpose (law D3).

    What runs stays out of it: what controls and players have opened, moved, scrolled and added. Handlers are code. A
    scene that was read from a file of this kind is written as it stood there, comments and all, but for the values that
    are others now.

    :raises FileError: the suffix is none of a scene file's, no file can hold a shape or a note, or the file cannot be
        written; what stood there stays then.
    """
    path = Path(path)
    suffix = text.checked_suffix(path)
    document = scene_document(scene)
    told = TOLD.get(scene)
    with text.whole_characters(path):
        content = _edited_text(told, suffix, document) if told is not None and told.suffix == suffix else None
        if content is None:
            content = _dumped(document, suffix)
    text.write_whole(path, content)


def _dumped(document: dict[str, Any], suffix: str) -> str:
    if suffix == ".json":
        return json.dumps(document, indent=1, ensure_ascii=False, allow_nan=False) + "\n"
    return dumped(document)


def _edited_text(told: Told, suffix: str, document: dict[str, Any]) -> str | None:
    """The text of a file with what is otherwise in a document; None: nodes came, went or changed places."""
    raw = text.parse(told.text.encode("utf-8"), "scene", told.suffix)
    written = patterns.written_out(raw, "scene")
    before, now = patterns.folded(raw, written, scene_document(_built(checked_scene(raw, "scene"))), document)
    edits = _differences(before, now, ())
    if edits is None and "patterns" in raw:
        head, rest = ({key: now.pop(key) for key in list(now) if (key in NODES) == after} for after in (False, True))
        return _dumped({**head, "patterns": raw["patterns"], **rest}, suffix)
    if edits is None:
        return None
    made = edited(told.text, suffix, edits)
    try:
        read = checked_scene(text.parse(made.encode("utf-8"), "scene", suffix), "scene")
    except FileError:
        return None
    return made if scene_document(_built(read)) == document else None


NODES = ("layers", "panels", "spots", "children")


def _differences(before: dict[str, Any], now: dict[str, Any], path: tuple[str | int, ...]) -> list[Edit] | None:
    """The edits that lead from one document of a node to another; None if other nodes are below it."""
    edits: list[Edit] = []
    for key in {**before, **now}:
        old, new = before.get(key), now.get(key)
        if key in NODES:
            if list(map(_called, old or ())) != list(map(_called, new or ())):
                if not any(map(patterns.is_use, (*(old or ()), *(new or ())))):
                    return None
                edits.append(((*path, key), new or []))
                continue
            for at, (one, other) in enumerate(zip(old or (), new or (), strict=True)):
                if patterns.is_use(one):
                    continue
                inner = _differences(one, other, (*path, key, at))
                if inner is None:
                    return None
                edits += inner
        elif old != new:
            edits.append(((*path, key), now.get(key, GONE)))
    return edits


def _called(given: dict[str, Any]) -> str:
    """What tells an entry of a list of nodes from the others: its name, or all that a use says."""
    return json.dumps(given) if patterns.is_use(given) else given["name"]


def scene_from(document: Any, file: str = "scene") -> Scene:
    """The scene that a document of plain values describes; ``file`` is what errors call it.

    :raises FileError: as :func:`read_scene`.
    """
    return _made(checked_scene(document, file), file)


def _made(checked: model.SceneModel, file: str) -> Scene:
    """The scene that a file describes; what the core refuses of it is a problem of the file."""
    try:
        return _built(checked)
    except GlentError as error:
        raise FileError(file, [refused(checked, error)]) from None


def _built(checked: model.SceneModel) -> Scene:
    return _put_up(checked, iter)


def _put_up(checked: model.SceneModel, each: Callable[[list[Any]], Iterator[Any]]) -> Scene:
    """Put up a scene, going through its roots in one way or another."""
    scene = Scene((checked.size[0], checked.size[1]), checked.fit)
    for given in each(checked.layers):
        add_layer(scene, given)
    for panel in each(checked.panels):
        add_panel(scene, panel)
    for spot in each(checked.spots):
        add_spot(scene, spot)
    if checked.camera is not None:
        scene.camera = checked.camera.build()
    keep_facts_schema(scene, checked)
    return scene


def keep_facts_schema(scene: Scene, checked: model.SceneModel) -> None:
    """Let a scene have the schema of facts that its file has."""
    scene.attachments.pop(KEPT, None)
    if checked.facts_schema is not None:
        scene.attachments[KEPT] = checked.facts_schema


def _taken(items: list[Any]) -> Iterator[Any]:
    """The items of a list, each taken out of it."""
    items.reverse()
    while items:
        yield items.pop()


def checked_scene(document: Any, file: str) -> model.SceneModel:
    """What a document says, checked.

    :raises FileError: as :func:`read_scene`.
    """
    return _checked(document, file, {"problems": 0})


def _checked(document: Any, file: str, context: dict[str, int]) -> model.SceneModel:
    written = patterns.written_out(document, file)
    try:
        checked = model.SceneModel.model_validate(written.document, context=context)
    except ValidationError as error:
        raise FileError(
            file,
            problems_of(error, lambda loc: _where(written, loc), lambda loc: _known(written.document, loc)),
        ) from None
    if written.document is not document:
        checked._written = written
    problems = proved(checked, lambda given: _made(given, file))
    if not problems and checked.facts_schema is not None:
        problems = _facts_problems(checked, checked.facts_schema)
    if problems:
        raise FileError(file, problems)
    return checked


def _facts_problems(checked: model.SceneModel, schema: Mapping[str, Any]) -> list[Problem]:
    """What is wrong with the facts of a file by its schema, or with that."""
    try:
        checker, found = FactsSchema(schema), []
        for loc, path, facts in model.with_facts(checked):
            for way, what in checker.problems(facts):
                found.append((f"{checked.place_of((*loc, 'facts', *way))} (node {path})", what))
        return found
    except ValueError as error:
        return [(KEPT, str(error))]


def add_layer(scene: Scene, given: model.LayerModel) -> Layer:
    """Add a layer, with all that is in it."""
    layer = scene.layer(given.name, given.order)
    for key, value in layer_attributes_of(given).items():
        setattr(layer, key, value)
    for child in given.children:
        add_node(layer, child)
    return layer


def add_panel(scene: Scene, given: model.PanelModel) -> Panel:
    """Put up a panel, with all that is on it."""
    panel = given.put_up(scene)
    for key, value in panel_attributes_of(given).items():
        if key != "extent":
            setattr(panel, key, value)
    for child in given.children:
        add_node(panel, child)
    return panel


def add_spot(scene: Scene, given: model.SpotModel) -> Spot:
    """Mark a spot."""
    spot = scene.spot(given.name, given.form.build())
    for key, value in spot_attributes_of(given).items():
        setattr(spot, key, value)
    return spot


def add_node(parent: Node, given: model.ToldNode) -> Node:
    """Add a node, with all that is below it."""
    top: Node | None = None
    stack: list[tuple[Node, model.ToldNode]] = [(parent, given)]
    while stack:
        above, one = stack.pop()
        node = above.add(one.name, **_told_attributes(one))
        top = top or node
        stack.extend((node, inner) for inner in reversed(one.children))
    assert top is not None
    return top


def _told_attributes(given: model.ToldNode) -> dict[str, Any]:
    """The attributes of a node that its file tells: all others are as by default."""
    notes = given.all_notes()
    return given.attributes if notes is None else {**given.attributes, "notes": notes}


def attributes_of(given: model.ToldNode) -> dict[str, Any]:
    """All attributes of a node that a file can tell."""
    return {**model.DEFAULTS, **given.attributes, "notes": given.all_notes()}


def panel_attributes_of(given: model.PanelModel) -> dict[str, Any]:
    """The same of a panel; ``extent`` is what :meth:`Panel.resize` takes."""
    return {
        "extent": (tuple(given.size), tuple(given.pixels), given.radius, given.arc),
        "pose": given.pose(),
        "two_sided": given.two_sided,
        "reverse": given.reverse,
        "range": given.range,
        **_common(given),
    }


def spot_attributes_of(given: model.SpotModel) -> dict[str, Any]:
    """The same of a spot."""
    return {
        "form": given.form.build(),
        "pose": given.pose(),
        **{key: getattr(given, key) for key in SPOT_KEYS},
        "feel": given.feel.build() if given.feel is not None else None,
    }


def _common(given: model.LayerModel | model.PanelModel) -> dict[str, Any]:
    """What layers, panels and nodes have in common."""
    told = {name: getattr(given, name) for name in model.DEFAULTS if name != "place"}
    return {**{name: value.build() if hasattr(value, "build") else value for name, value in told.items()},
            "notes": given.all_notes()}  # fmt: skip


def layer_attributes_of(given: model.LayerModel) -> dict[str, Any]:
    """The same of a layer."""
    own = {name: getattr(given, name) for name in ("claims", "cursor", "covers", "shortcuts_first")}
    return {**own, **_common(given)}


def scene_document(scene: Scene) -> dict[str, Any]:
    """The scene as plain values, as they stand in a file; what is as by default is left out.

    :raises FileError: a node has a shape of the user's own, which no file can hold.
    """
    panels = [one for one in scene.in_world if isinstance(one, Panel)]
    spots = [one for one in scene.in_world if isinstance(one, Spot)]
    document = {
        "glent": "scene",
        "version": 2,
        "size": list(scene.size),
        "fit": scene.fit,
        **({"camera": world_model.camera_model(scene.camera)} if scene.camera is not None else {}),
        **({KEPT: scene.attachments[KEPT]} if KEPT in scene.attachments else {}),
        **({"panels": [_node_document(panel) for panel in panels]} if panels else {}),
        **({"spots": [_spot_document(spot) for spot in spots]} if spots else {}),
        "layers": [_node_document(layer) for layer in scene._layers.values()],
    }
    return cast("dict[str, Any]", plain_numbers(document))


def plain_numbers(value: Any) -> Any:
    """Whole floats as integers: 56 rather than 56.0, whichever it was set as."""
    if isinstance(value, float) and value.is_integer() and abs(value) < 1e15:
        return int(value)
    if isinstance(value, list):
        return [plain_numbers(one) for one in value]
    if isinstance(value, dict):
        return {key: plain_numbers(one) for key, one in value.items()}
    return value


def _node_document(node: Node) -> dict[str, Any]:
    document: dict[str, Any] = {"name": node.name}
    if isinstance(node, Panel):
        document.update(_panel_document(node))
    try:
        told = told_attributes(node, node.declared)
    except TypeError as error:
        raise FileError(node.path, [("shape", str(error))]) from None
    document.update({key: value for key, (value, default) in told.items() if value != default})
    notes = node.notes or {}
    document.update({key: model.plain(notes[key]) for key in NOTES if key in notes})
    children = node.declared_children()
    if children:
        document["children"] = [_node_document(child) for child in children]
    return document


def told_attributes(node: Node, read: Callable[[str], Any]) -> dict[str, tuple[Any, Any]]:
    """What a file can tell of the attributes of a node, each with what it is unless it does."""
    told = {name: (_in_file(read(name)), _in_file(default)) for name, default in model.DEFAULTS.items()}
    if isinstance(node, Root):
        told["solidity"] = (read("solidity"), "hollow")
        del told["place"]
    if isinstance(node, Layer):
        told["claims"] = ([channel for channel in CHANNELS if channel in node.claims], [])
        told["cursor"] = (node.cursor, None)
        told["covers"] = (node.covers, "scene")
        told["shortcuts_first"] = (node.shortcuts_first, False)
    return told


def _in_file(value: Any) -> Any:
    """The value of an attribute as it stands in a file.

    :raises TypeError: a shape of the user's own, which no file can hold.
    """
    if isinstance(value, Place | Flow):
        return model.plain(value.given())
    if isinstance(value, Facts):
        return value.plain()
    return model.shape_model(value) if isinstance(value, Shape) else model.plain(value)


def _panel_document(panel: Panel) -> dict[str, Any]:
    values: dict[str, tuple[Any, Any]] = {
        "size": (list(panel.size_in_metres), None),
        "pixels": (list(panel.pixels), None),
        "radius": (panel.radius, None),
        "two_sided": (panel.two_sided, False),
        "reverse": (panel.reverse, "through"),
        "range": (panel.range, None),
    }
    return {**panel.pose.given, **{key: value for key, (value, default) in values.items() if value != default}}


def _spot_document(spot: Spot) -> dict[str, Any]:
    try:
        form = world_model.form_model(spot.form)
    except TypeError as error:
        raise FileError(spot.path, [("form", str(error))]) from None
    document: dict[str, Any] = {"name": spot.name, "form": form, **spot.pose.given}
    rest = _node_document(spot)
    document.update({key: rest[key] for key in (*SPOT_KEYS, "feel") if key in rest})
    return document


def _where(written: patterns.Written, loc: Sequence[int | str]) -> str:
    """A place in the file, with the path of the node it is in: errors by index alone are hard to find."""
    names = [
        value["name"]
        for part, value, inside in patterns.along(written.document, loc)
        if inside and isinstance(part, int) and isinstance(value, dict) and isinstance(value.get("name"), str)
    ]
    place = written.place(tuple(loc))
    return f"{place} (node {'/'.join(names)})" if names else place


def _known(document: Any, loc: Sequence[int | str]) -> str:
    """The keys there are where an unknown one stood."""
    kind: type[BaseModel] = model.SceneModel
    for part, here, inside in patterns.along(document, loc[:-1]):
        if part in ("shape", "form"):
            return f"the keys of its kind of {part}"
        if inside:
            is_control = part == "control" and "kind" in here
            kind = model_of(here["kind"]) if is_control else KINDS.get(part, kind)
    return f"one of {', '.join(kind.model_fields)}{near(loc[-1], kind.model_fields)}"
