"""The one schema of scene files, as models that validate; the published JSON Schema is made from them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import fields
from typing import TYPE_CHECKING, Annotated, Any, Literal, Union, get_type_hints

import numpy as np
from pydantic import BeforeValidator, Field, JsonValue, PrivateAttr, create_model, field_validator, model_validator
from pydantic_core import InitErrorDetails, PydanticCustomError

import glent
from glent.core.errors import KindError, PlaceError, SampleError, near
from glent.core.geometry.shape import Shape
from glent.core.input.feel import Feel, checked_feel
from glent.core.scene.checks import SOLIDITIES
from glent.core.scene.fit import FITS
from glent.core.scene.input_attributes import DIRECTIONS
from glent.core.scene.keywords import NodeKeywords
from glent.core.scene.kinds import KINDS, check_kind
from glent.core.scene.layer import CHANNELS, CURSORS
from glent.core.scene.roles import ROLES
from glent.formats.base_model import (
    Distance,
    Many,
    Model,
    Name,
    Nodes,
    Number,
    Pair,
    PointerKind,
    Positive,
    Text,
    not_too_many,
    problem,
    told,
    usual_copy,
)
from glent.formats.control_model import ControlField, ControlModel, fits
from glent.formats.errors import place_of
from glent.formats.file_types import Path, file_type
from glent.formats.patterns import Written
from glent.formats.wiring_model import WiringModel
from glent.formats.world_model import CameraModel, FormModel, Posed, Reach, refused

__all__ = [
    "DEFAULTS",
    "LayerModel",
    "NodeModel",
    "PanelModel",
    "PlaceModel",
    "SceneModel",
    "ShapeModel",
    "SpotModel",
    "ToldNode",
    "plain",
    "shape_model",
    "with_facts",
]

Length = Union[Number, Annotated[str, Field(max_length=200)], Pair]  # noqa: UP007  (pydantic shows its parts in errors)

Fit = Literal["contain", "cover", "width", "height", "none"]
Solidity = Literal["solid", "glass", "hollow", "ghost"]
Channel = Literal["pointer", "keys", "pad", "text"]
Cursor = Literal["shown", "hidden", "locked"]
Direction = Literal["left", "right", "up", "down"]
Kind = Annotated[str, Field(json_schema_extra={"enum": list(KINDS)})]
Role = Annotated[str, Field(json_schema_extra={"enum": sorted(ROLES)})]
assert set(Fit.__args__) == set(FITS)  # type: ignore[attr-defined]
assert set(Solidity.__args__) == set(SOLIDITIES)  # type: ignore[attr-defined]
assert Channel.__args__ == CHANNELS  # type: ignore[attr-defined]
assert Cursor.__args__ == CURSORS  # type: ignore[attr-defined]
assert Direction.__args__ == DIRECTIONS  # type: ignore[attr-defined]


class BoxModel(Model):
    """The node's box, drawn in by ``inset``."""

    kind: Literal["box"]
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.BoxShape(self.inset)


class RoundedModel(Model):
    """The node's box with rounded corners."""

    kind: Literal["rounded"]
    radius: Distance
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.Rounded(self.radius, self.inset)


class EllipseModel(Model):
    """The ellipse in the node's box."""

    kind: Literal["ellipse"]
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.Ellipse(self.inset)


class PolygonModel(Model):
    """Closed rings of points, even-odd; in node-local pixels, or in fractions of the box."""

    kind: Literal["polygon"]
    rings: Many[Annotated[Many[Pair], Field(min_length=3)]] = Field(min_length=1)
    unit: Literal["px", "box"] = "px"

    _made: Shape = PrivateAttr()

    @model_validator(mode="after")
    def _possible(self) -> PolygonModel:
        self._made = glent.Polygon(self.rings, self.unit)  # its ShapeError is a ValueError, and so a problem here
        return self

    def build(self) -> Shape:
        return self._made


class MaskModel(Model):
    """Texels as text: one string a row, ``#`` in and ``.`` out."""

    kind: Literal["mask"]
    rows: Many[Annotated[str, Field(min_length=1, pattern=r"^[#.]+$")]] = Field(min_length=1)

    @model_validator(mode="after")
    def _even(self) -> MaskModel:
        if len({len(row) for row in self.rows}) > 1:
            raise PydanticCustomError("rows", "expected rows of one length")
        return self

    def build(self) -> Shape:
        return glent.Mask(np.array([[sign == "#" for sign in row] for row in self.rows], dtype=bool))


class UnionModel(Model):
    """All that lies in any of the parts."""

    kind: Literal["union"]
    parts: Many[ShapeModel] = Field(min_length=1)

    def build(self) -> Shape:
        return glent.Union(tuple(part.build() for part in self.parts))


class GrownModel(Model):
    """Another shape, its edge moved outwards by ``by`` pixels, or inwards."""

    kind: Literal["grown"]
    shape: ShapeModel
    by: Number

    def build(self) -> Shape:
        return glent.Grown(self.shape.build(), self.by)


ShapeModel = Annotated[
    Union[BoxModel, RoundedModel, EllipseModel, PolygonModel, MaskModel, UnionModel, GrownModel],  # noqa: UP007
    Field(discriminator="kind"),
]


def shape_model(shape: Shape) -> dict[str, Any]:
    """A shape as it stands in a file.

    :raises TypeError: a shape of the user's own, which no file can hold.
    """
    if isinstance(shape, glent.BoxShape):
        return {"kind": "box", "inset": shape.inset}
    if isinstance(shape, glent.Rounded):
        return {"kind": "rounded", "radius": shape.radius, "inset": shape.inset}
    if isinstance(shape, glent.Ellipse):
        return {"kind": "ellipse", "inset": shape.inset}
    if isinstance(shape, glent.Polygon):
        return {
            "kind": "polygon",
            "rings": [[list(point) for point in ring] for ring in shape.rings],
            "unit": shape.unit,
        }
    if isinstance(shape, glent.Mask):
        return {"kind": "mask", "rows": list(shape.rows)}
    if isinstance(shape, glent.Union):
        return {"kind": "union", "parts": [shape_model(part) for part in shape.parts]}
    if isinstance(shape, glent.Grown):
        return {"kind": "grown", "shape": shape_model(shape.shape), "by": shape.by}
    raise TypeError(f"{shape!r} is a shape that no file can hold")


class PlaceModel(Model):
    """Where a node sits in its parent, in CSS words."""

    _made: glent.Place = PrivateAttr()
    left: Length | None = None
    top: Length | None = None
    right: Length | None = None
    bottom: Length | None = None
    width: Length | None = None
    height: Length | None = None
    turn: Number = 0.0
    scale: Union[Number, Pair] = 1.0  # noqa: UP007
    pivot: Pair = usual_copy([0.5, 0.5])
    min_width: Length | None = None
    max_width: Length | None = None
    min_height: Length | None = None
    max_height: Length | None = None
    grow: Annotated[Number, Field(ge=0)] = 0.0

    @model_validator(mode="after")
    def _possible(self) -> PlaceModel:
        try:
            self._made = glent.Place(**_as_tuples(self))
        except PlaceError as error:
            raise error.__cause__ or error from None  # the file says where, and has the whole place
        return self

    def build(self) -> glent.Place:
        return self._made


def _as_tuples(given: Model) -> dict[str, Any]:
    values = {key: getattr(given, key) for key in given.model_fields_set}
    return {key: tuple(value) if isinstance(value, list) else value for key, value in values.items()}


FILLS = PlaceModel()
"""What a node has that is told no place, shared: it never changes."""


class FlowModel(Model):
    """How a node lays out its children, in CSS words."""

    kind: Literal["row", "column", "grid"]
    gap: Union[Distance, Annotated[list[Distance], Field(min_length=2, max_length=2)]] = 0.0  # noqa: UP007
    padding: Union[Distance, Annotated[list[Distance], Field(min_length=2, max_length=4)]] = 0.0  # noqa: UP007
    align: Literal["stretch", "start", "center", "end"] = "stretch"
    justify: Literal["start", "center", "end", "space-between"] = "start"
    columns: int | None = None
    wraps: bool = False

    @model_validator(mode="after")
    def _possible(self) -> FlowModel:
        self.build()
        return self

    def build(self) -> glent.Flow:
        return glent.Flow(**_as_tuples(self))


class _Feel(Model):
    """What is otherwise for this node and what is below it; the fields of :class:`glent.Feel`."""

    @model_validator(mode="after")
    def _possible(self) -> _Feel:
        try:
            checked_feel(self.build(), "the node")
        except SampleError as error:
            raise PydanticCustomError("feel", "{error}", {"error": str(error)}) from None
        return self

    def build(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in type(self).model_fields if getattr(self, name) is not None}


_FEEL_FIELDS: dict[str, Any] = {
    one.name: ((Many[PointerKind] if isinstance(one.default, tuple) else Number) | None, None) for one in fields(Feel)
}
FeelModel = create_model("FeelModel", __base__=_Feel, **_FEEL_FIELDS)


_FRESH = glent.Scene((1.0, 1.0)).layer("fresh").add("node")
DEFAULTS = {name: getattr(_FRESH, name) for name in NodeKeywords.__annotations__ if name not in ("accepts", "notes")}
"""The attributes that a file can tell of a node, and what each is unless it does, in the order files have them."""

FindingCode = Annotated[str, Field(pattern=r"^[a-z]+(-[a-z]+)*$", max_length=100)]
FactsField = Annotated[dict[Text, JsonValue], BeforeValidator(not_too_many)]
_IN_FILES: dict[str, Any] = {
    "place": PlaceModel,
    "flow": FlowModel | None,
    "shape": ShapeModel | None,
    "role": Role | None,
    "reach": Reach,
    "carries": Many[Kind] | None,
    "tags": Many[Text],
    "scroll": Pair,
    "content": Annotated[list[Distance], Field(min_length=2, max_length=2)] | None,
    "feel": FeelModel | None,
    "opener": Path | None,
    "entry": Path | None,
    "seats": Annotated[Many[Name], Field(min_length=1)] | None,
    "nav": dict[Direction, Path | None] | None,
    "facts": FactsField,
    "labelled_by": Path | None,
    "described_by": Path | None,
}
"""The types that a file has otherwise than code: those of all the others are the keywords' own."""


def _attribute_fields() -> dict[str, Any]:
    hints = get_type_hints(NodeKeywords, localns={"Node": glent.Node, "Shape": Shape, "Flow": glent.Flow})
    fields_ = {}
    for name, default in DEFAULTS.items():
        if name != "place":  # roots have none
            usual = plain(default)
            kept = usual_copy(usual) if isinstance(usual, list | dict) else usual
            fields_[name] = (_IN_FILES.get(name) or file_type(hints[name]), kept)
    return fields_


def plain(value: Any) -> Any:
    """A value as it stands in a file: sets sorted, pairs and tuples as lists, mappings as such."""
    if isinstance(value, Mapping):
        return {key: plain(one) for key, one in value.items()}
    if isinstance(value, frozenset):
        return sorted(value)
    return [plain(one) for one in value] if isinstance(value, list | tuple) else value


_Attributes = create_model("_Attributes", __base__=Model, **_attribute_fields())


Place = tuple[int | str, ...]
"""Where in a file."""


class _Box(_Attributes):  # type: ignore[misc, valid-type]
    """What layers and nodes share."""

    name: Name
    control: Annotated[ControlModel, ControlField] | None = None
    wiring: WiringModel | None = None
    suppress: Annotated[dict[FindingCode, Text], Field(min_length=1)] | None = None
    if TYPE_CHECKING:
        children: list[ToldNode] = []
    else:
        children: Nodes[NodeModel] = usual_copy([])

    @model_validator(mode="after")
    def _sound(self) -> _Box:
        _sound_role_and_kinds(self.role, self.carries)
        if self.control is not None:
            fits(self.control.kind, self.role)
        told(_children_doubled(self.children))
        return self

    def attribute(self, name: str) -> Any:
        """One that it is told, or None."""
        return getattr(self, name)

    def all_notes(self) -> dict[str, Any] | None:
        """What the node is to be told for those above the core."""
        return _all_notes(self)


def _all_notes(given: _Box | ToldNode) -> dict[str, Any] | None:
    found: dict[str, Any] = {}
    if given.control is not None:
        found["control"] = given.control.options()
    if given.wiring is not None:
        found["wiring"] = given.wiring.notes()
    if given.suppress is not None:
        found["suppress"] = given.suppress
    return found or None


class ToldNode:
    """What a file tells of a node, once it has been checked: the attributes that it tells, as the node is to have them.

    A file of many nodes becomes many of these, where the models that checked them would be several times as large.
    """

    __slots__ = ("attributes", "children", "control", "name", "suppress", "wiring")

    def __init__(self, checked: NodeModel) -> None:
        given = {name: getattr(checked, name) for name in checked.model_fields_set if name in DEFAULTS}
        self.name: str = checked.name
        self.attributes = {name: one.build() if hasattr(one, "build") else one for name, one in given.items()}
        self.control = checked.control
        self.wiring = checked.wiring
        self.suppress: dict[str, str] | None = checked.suppress
        self.children: list[ToldNode] = checked.children

    @property
    def role(self) -> str | None:
        """Its role, or None."""
        return self.attributes.get("role")

    def attribute(self, name: str) -> Any:
        """One that it is told, or None."""
        return self.attributes.get(name)

    def all_notes(self) -> dict[str, Any] | None:
        """What the node is to be told for those above the core."""
        return _all_notes(self)


class NodeModel(_Box):
    """One element of a tree."""

    place: PlaceModel = Field(default_factory=lambda: FILLS)

    def kept(self) -> ToldNode:
        """What is kept of it: the model has done its work."""
        return ToldNode(self)


class LayerModel(_Box):
    """A screen-sized root; hollow unless told otherwise."""

    solidity: Solidity = "hollow"
    claims: Many[Channel] = usual_copy([])
    cursor: Cursor | None = None
    covers: Literal["scene", "window"] = "scene"
    shortcuts_first: bool = False


class PanelModel(_Box, Posed):
    """A root that stands in the world, on a flat or curved surface; hollow unless told otherwise."""

    solidity: Solidity = "hollow"
    size: Annotated[list[Positive | None], Field(min_length=2, max_length=2)]
    pixels: Annotated[list[Positive], Field(min_length=2, max_length=2)]
    radius: Number | None = None
    arc: Positive | None = None
    two_sided: bool = False
    reverse: Literal["through", "blocked"] = "through"
    range: Distance | None = None

    @model_validator(mode="after")
    def _large_enough(self) -> PanelModel:
        refused(lambda: self.put_up(glent.Scene((1.0, 1.0))))
        return self

    def put_up(self, scene: glent.Scene) -> glent.Panel:
        """The panel, in a scene, without what is on it."""
        return scene.panel(
            self.name,
            (self.size[0], self.size[1]),  # type: ignore[arg-type]
            (self.pixels[0], self.pixels[1]),
            matrix=[list(row) for row in self.pose().matrix],
            radius=self.radius,
            arc=self.arc,
            two_sided=self.two_sided,
            reverse=self.reverse,
            range=self.range,
            order=self.order,
        )


class SpotModel(Posed):
    """A piece of the game's world that can be pointed at."""

    name: Name
    form: FormModel
    role: Role | None = None
    solidity: Solidity | None = None
    reach: Reach = None
    order: Number = 0
    visible: bool = True
    enabled: bool = True
    carries: Many[Kind] | None = None
    tags: Many[Text] = usual_copy([])
    feel: FeelModel | None = None  # type: ignore[valid-type]
    seats: Annotated[Many[Name], Field(min_length=1)] | None = None
    for_others: Literal["through", "blocked"] = "through"
    facts: FactsField = usual_copy({})
    label: str | None = None
    labelled_by: Path | None = None
    description: str | None = None
    described_by: Path | None = None

    @model_validator(mode="after")
    def _sound(self) -> SpotModel:
        _sound_role_and_kinds(self.role, self.carries)
        return self


class SceneModel(Model):
    """A scene file."""

    glent: Literal["scene"]
    version: Literal[2]
    size: Annotated[list[Positive], Field(min_length=2, max_length=2)]
    fit: Fit = "contain"
    camera: CameraModel | None = None
    facts_schema: dict[str, JsonValue] | None = None
    _written: Written | None = PrivateAttr(default=None)
    """Where its nodes came from, if some came of patterns."""
    panels: Nodes[PanelModel] = usual_copy([])
    spots: Nodes[SpotModel] = usual_copy([])
    layers: Nodes[LayerModel] = usual_copy([])

    def place_of(self, loc: Place) -> str:
        """A place in the file, of one in the document that was checked: of what came of a pattern, the place there."""
        return self._written.place(loc) if self._written is not None else place_of(loc)

    @field_validator("version", mode="before")
    @classmethod
    def _of_today(cls, value: object) -> object:
        if value == 1:
            raise PydanticCustomError(
                "version", "version 1 is from before Glent 0.6, which renamed keys; expected 2, with the keys of today"
            )
        return value

    @model_validator(mode="after")
    def _sound(self) -> SceneModel:
        told(self._doubles())
        trees: list[tuple[Place, _Box | ToldNode]] = [
            ((key, number), one) for key in ("layers", "panels") for number, one in enumerate(getattr(self, key))
        ]
        paths = {*_paths([*self.layers, *self.panels], ""), *(spot.name for spot in self.spots)}
        missing = ((where, path) for where, path in _references(trees) if path not in paths)
        told(
            problem(where, "reference", f"expected the path of a node of this file{near(path, paths)}", path)
            for where, path in missing
        )
        return self

    def _doubles(self) -> Iterator[InitErrorDetails]:
        """Layers, panels and spots of one name."""
        seen: dict[str, str] = {}
        for key in ("layers", "panels", "spots"):
            for number, one in enumerate(getattr(self, key)):
                if one.name in seen:
                    what = f"expected every name once, and {seen[one.name]} has it"
                    yield problem((key, number, "name"), "double", what, one.name)
                seen.setdefault(one.name, f"{key}[{number}]")


def _paths(boxes: Sequence[_Box | ToldNode], above: str) -> Iterator[str]:
    for one in boxes:
        yield above + one.name
        yield from _paths(one.children, f"{above}{one.name}/")


def with_facts(checked: SceneModel) -> Iterator[tuple[Place, str, dict[str, Any]]]:
    """The place, the path and the facts of all that have any."""
    stack: list[tuple[Place, str, _Box | ToldNode | SpotModel]] = [
        ((key, at), "", one)
        for key in ("spots", "panels", "layers")
        for at, one in reversed(list(enumerate(getattr(checked, key))))
    ]
    while stack:
        place, above, one = stack.pop()
        facts = one.facts if isinstance(one, SpotModel) else one.attribute("facts")
        if facts:
            yield place, above + one.name, facts
        if not isinstance(one, SpotModel):
            inner = list(enumerate(one.children))
            stack.extend(((*place, "children", at), f"{above}{one.name}/", child) for at, child in reversed(inner))


def _references(boxes: Sequence[tuple[Place, _Box | ToldNode]]) -> Iterator[tuple[Place, str]]:
    """Every path that a node names, with where in the file."""
    stack = list(reversed(boxes))
    while stack:
        place, one = stack.pop()
        for key in ("opener", "labelled_by", "described_by"):
            if (path := one.attribute(key)) is not None:
                yield (*place, key), path
        for given, key in ((one.control, "control"), (one.wiring, "wiring")):
            if given is not None:
                yield from (((*place, key, option), path) for option, path in given.references().items())
        for direction, path in (one.attribute("nav") or {}).items():
            if path is not None:
                yield (*place, "nav", direction), path
        stack.extend(((*place, "children", at), one.children[at]) for at in range(len(one.children) - 1, -1, -1))


def _sound_role_and_kinds(role: str | None, carries: Sequence[str] | None) -> None:
    if role is not None and role not in ROLES:
        raise PydanticCustomError("role", "role is {role}; expected a WAI-ARIA role", {"role": repr(role)})
    for kind in carries or ():
        try:
            check_kind(kind)
        except KindError as error:
            raise PydanticCustomError("kind", "carries: {error}", {"error": str(error)}) from None


def _children_doubled(children: Sequence[ToldNode]) -> Iterator[InitErrorDetails]:
    seen: dict[str, int] = {}
    for index, one in enumerate(children):
        first = seen.setdefault(one.name, index)
        if first != index:
            what = f"expected every name once, and children[{first}] has it"
            yield problem(("children", index, "name"), "double", what, one.name)
