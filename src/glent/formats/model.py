"""The one schema of scene files, as models that validate; the published JSON Schema is made from them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import fields
from difflib import get_close_matches
from typing import Annotated, Any, Literal, Union

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, create_model, model_validator
from pydantic_core import PydanticCustomError

import glent
from glent.core.errors import KindError, SampleError
from glent.core.geometry.shape import Shape
from glent.core.input.feel import Feel, checked_feel
from glent.core.scene.checks import POINTER_KINDS, SOLIDITIES
from glent.core.scene.fit import FITS
from glent.core.scene.kinds import KINDS, check_kind
from glent.core.scene.layer import CHANNELS, CURSORS
from glent.core.scene.place import LIMIT
from glent.core.scene.roles import ROLES
from glent.core.scene.terms import DIRECTIONS

__all__ = ["LayerModel", "NodeModel", "PlaceModel", "SceneModel", "ShapeModel", "shape_model"]

Number = Annotated[float, Field(ge=-LIMIT, le=LIMIT, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Distance = Annotated[float, Field(ge=0, le=LIMIT, allow_inf_nan=False)]
Pair = Annotated[list[Number], Field(min_length=2, max_length=2)]
Length = Union[Number, Annotated[str, Field(max_length=200)]]  # noqa: UP007  (pydantic shows its parts in errors)
Name = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^/\x00-\x1f\x7f]+$")]

Fit = Literal["contain", "cover", "width", "height", "none"]
Solidity = Literal["solid", "glass", "hollow", "ghost"]
Channel = Literal["pointer", "keys", "pad", "text"]
Cursor = Literal["shown", "hidden", "locked"]
Direction = Literal["left", "right", "up", "down"]
Path = Annotated[str, Field(min_length=1, max_length=2000)]
PointerKind = Literal["mouse", "touch", "pen", "ray"]
Kind = Annotated[str, Field(json_schema_extra={"enum": list(KINDS)})]
Role = Annotated[str, Field(json_schema_extra={"enum": sorted(ROLES)})]
assert set(Fit.__args__) == set(FITS)  # type: ignore[attr-defined]
assert set(Solidity.__args__) == set(SOLIDITIES)  # type: ignore[attr-defined]
assert Channel.__args__ == CHANNELS  # type: ignore[attr-defined]
assert Cursor.__args__ == CURSORS  # type: ignore[attr-defined]
assert Direction.__args__ == DIRECTIONS  # type: ignore[attr-defined]
assert set(PointerKind.__args__) == set(POINTER_KINDS)  # type: ignore[attr-defined]


class _Model(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)


class BoxModel(_Model):
    """The node's box, drawn in by ``inset``."""

    kind: Literal["box"]
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.Boxed(self.inset)


class RoundedModel(_Model):
    """The node's box with rounded corners."""

    kind: Literal["rounded"]
    radius: Distance
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.Rounded(self.radius, self.inset)


class EllipseModel(_Model):
    """The ellipse in the node's box."""

    kind: Literal["ellipse"]
    inset: Number = 0.0

    def build(self) -> Shape:
        return glent.Ellipse(self.inset)


class PolygonModel(_Model):
    """Closed rings of points, even-odd; in node-local pixels, or in fractions of the box."""

    kind: Literal["polygon"]
    rings: list[Annotated[list[Pair], Field(min_length=3)]] = Field(min_length=1)
    unit: Literal["px", "box"] = "px"

    def build(self) -> Shape:
        return glent.Polygon(self.rings, self.unit)


class MaskModel(_Model):
    """Texels as text: one string a row, ``#`` in and ``.`` out."""

    kind: Literal["mask"]
    rows: list[Annotated[str, Field(min_length=1, pattern=r"^[#.]+$")]] = Field(min_length=1)

    @model_validator(mode="after")
    def _even(self) -> MaskModel:
        if len({len(row) for row in self.rows}) > 1:
            raise PydanticCustomError("rows", "expected rows of one length")
        return self

    def build(self) -> Shape:
        return glent.Mask(np.array([[sign == "#" for sign in row] for row in self.rows], dtype=bool))


class UnionModel(_Model):
    """All that lies in any of the parts."""

    kind: Literal["union"]
    parts: list[ShapeModel] = Field(min_length=1)

    def build(self) -> Shape:
        return glent.Union(tuple(part.build() for part in self.parts))


class GrownModel(_Model):
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
    if isinstance(shape, glent.Boxed):
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


class PlaceModel(_Model):
    """Where a node sits in its parent, in CSS words."""

    left: Length | None = None
    top: Length | None = None
    right: Length | None = None
    bottom: Length | None = None
    width: Length | None = None
    height: Length | None = None
    turn: Number = 0.0
    scale: Union[Number, Pair] = 1.0  # noqa: UP007
    pivot: Pair = [0.5, 0.5]

    @model_validator(mode="after")
    def _possible(self) -> PlaceModel:
        self.build()
        return self

    def build(self) -> glent.Place:
        given: dict[str, Any] = {}
        for key in type(self).model_fields:
            value = getattr(self, key)
            given[key] = tuple(value) if isinstance(value, list) else value
        return glent.Place(**given)


class _Feel(_Model):
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
    one.name: ((list[PointerKind] if isinstance(one.default, tuple) else Number) | None, None) for one in fields(Feel)
}
FeelModel = create_model("FeelModel", __base__=_Feel, **_FEEL_FIELDS)


class _Box(_Model):
    """What layers and nodes share."""

    name: Name
    role: Role | None = None
    solidity: Solidity | None = None
    shape: ShapeModel | None = None
    reach: Union[Distance, dict[PointerKind, Distance], None] = None  # noqa: UP007
    clips: bool = False
    order: Number = 0
    visible: bool = True
    enabled: bool = True
    carries: list[Kind] | None = None
    focusable: bool | None = None
    tags: list[Annotated[str, Field(min_length=1)]] = []
    scroll: Pair = [0.0, 0.0]
    scrolls: bool = False
    axis: Literal["x", "y"] | None = None
    content: Annotated[list[Distance], Field(min_length=2, max_length=2)] | None = None
    feel: FeelModel | None = None  # type: ignore[valid-type]
    modal: bool = False
    closed_by: Literal["none", "back", "any"] = "none"
    press_through: bool = False
    hangs_from: Path | None = None
    seats: Annotated[list[Name], Field(min_length=1)] | None = None
    others: Literal["through", "blocked"] = "through"
    tab_order: Number = 0
    neighbours: dict[Direction, Path | None] | None = None
    scope: bool = False
    wrap: Literal["x", "y", "both"] | None = None
    children: list[NodeModel] = []

    @model_validator(mode="after")
    def _sound(self) -> _Box:
        if self.role is not None and self.role not in ROLES:
            raise PydanticCustomError("role", "role is {role}; expected a WAI-ARIA role", {"role": repr(self.role)})
        for kind in self.carries or ():
            try:
                check_kind(kind)
            except KindError as error:
                raise PydanticCustomError("kind", "carries: {error}", {"error": str(error)}) from None
        _no_doubles(self.children, f"children of {self.name!r}")
        return self


class NodeModel(_Box):
    """One element of a tree."""

    place: PlaceModel = PlaceModel()


class LayerModel(_Box):
    """A screen-sized root; hollow unless told otherwise."""

    solidity: Solidity = "hollow"
    claims: list[Channel] = []
    cursor: Cursor | None = None


class SceneModel(_Model):
    """A scene file."""

    glent: Literal["scene"]
    version: Literal[1]
    size: Annotated[list[Positive], Field(min_length=2, max_length=2)]
    fit: Fit = "contain"
    layers: list[LayerModel] = []

    @model_validator(mode="after")
    def _sound(self) -> SceneModel:
        _no_doubles(self.layers, "layers")
        paths = set(_paths(self.layers, ""))
        for where, key, path in _references(self.layers, ""):
            if path not in paths:
                near = get_close_matches(path, paths, n=1, cutoff=0.5)
                raise PydanticCustomError(
                    "reference",
                    "{where} names {path} in {key}, expected the path of a node of this file{hint}",
                    {"where": where, "path": repr(path), "key": key, "hint": f"; near is {near[0]}" if near else ""},
                )
        return self


def _paths(boxes: Sequence[_Box], above: str) -> Iterator[str]:
    for one in boxes:
        yield above + one.name
        yield from _paths(one.children, f"{above}{one.name}/")


def _references(boxes: Sequence[_Box], above: str) -> Iterator[tuple[str, str, str]]:
    """Every path that a node names: by which node, under which key, and the path."""
    for one in boxes:
        where = above + one.name
        if one.hangs_from is not None:
            yield where, "hangs_from", one.hangs_from
        for direction, path in (one.neighbours or {}).items():
            if path is not None:
                yield where, f"neighbours.{direction}", path
        yield from _references(one.children, f"{where}/")


def _no_doubles(named: Sequence[_Box], what: str) -> None:
    seen: dict[str, int] = {}
    for index, one in enumerate(named):
        if one.name in seen:
            raise PydanticCustomError(
                "double",
                "the {what} at [{first}] and [{second}] are both named {name}; expected every name once",
                {"what": what, "first": seen[one.name], "second": index, "name": repr(one.name)},
            )
        seen[one.name] = index
