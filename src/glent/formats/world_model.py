"""What stands in the world, as scene files tell it: panels, spots and their forms, and the camera."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Union

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

import glent
from glent.core.errors import GlentError
from glent.core.geometry.world.vectors import FARTHEST
from glent.formats.base_model import Distance, Many, Model, Pair, PointerKind, Positive

__all__ = ["CameraModel", "FormModel", "Posed", "form_model"]

Metres = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Triple = Annotated[list[Metres], Field(min_length=3, max_length=3)]
Row = Annotated[list[Metres], Field(min_length=4, max_length=4)]
Reach = Union[Distance, dict[PointerKind, Distance], None]  # noqa: UP007


class Posed(Model):
    """Where something stands: a position and ways, or a matrix."""

    position: Triple = [0.0, 0.0, 0.0]
    facing: Triple = [0.0, 0.0, 1.0]
    up: Triple | None = None
    matrix: Annotated[list[Row], Field(min_length=4, max_length=4)] | None = None

    @model_validator(mode="after")
    def _stands(self) -> Posed:
        if self.matrix is not None and {"position", "facing", "up"} & self.model_fields_set:
            raise PydanticCustomError("pose", "has a matrix and a position, facing or up besides; expected one of both")
        refused(self.pose)
        return self

    def pose(self) -> glent.Pose:
        """The pose."""
        if self.matrix is not None:
            return glent.Pose(matrix=self.matrix)
        up = None if self.up is None else _triple(self.up)
        return glent.Pose(_triple(self.position), _triple(self.facing), up)


def _triple(numbers: list[float]) -> tuple[float, float, float]:
    return numbers[0], numbers[1], numbers[2]


def refused(make: Any) -> None:
    """Tell what is wrong with a value of the core in the words of that."""
    try:
        make()
    except GlentError as error:
        raise PydanticCustomError("world", "{error}", {"error": str(error)}) from None


class _Form(Model):
    @model_validator(mode="after")
    def _possible(self) -> _Form:
        refused(lambda: self.build().prepare())
        return self

    def build(self) -> glent.Form:
        raise NotImplementedError


class _Snapping(_Form):
    snap: Triple | None = None

    @property
    def snap_at(self) -> tuple[float, float, float] | None:
        """Where things snap to."""
        return None if self.snap is None else _triple(self.snap)


class CuboidModel(_Snapping):
    """A box around its origin."""

    kind: Literal["cuboid"]
    size: Triple

    def build(self) -> glent.Form:
        return glent.Cuboid(_triple(self.size), self.snap_at)


class SphereModel(_Snapping):
    """A ball around its origin."""

    kind: Literal["sphere"]
    radius: Positive

    def build(self) -> glent.Form:
        return glent.Sphere(self.radius, self.snap_at)


class SnapModel(_Form):
    """A point, and the ball around it that it is caught in."""

    kind: Literal["snap"]
    radius: Positive

    def build(self) -> glent.Form:
        return glent.SnapPoint(self.radius)


class RectangleModel(_Snapping):
    """A flat rectangle that faces along z."""

    kind: Literal["rectangle"]
    width: Positive
    height: Positive

    def build(self) -> glent.Form:
        return glent.Rectangle(self.width, self.height, self.snap_at)


class HeightFieldModel(Model):
    """Rough ground: rows along z of heights along x."""

    values: Many[Many[Metres]]
    step: Positive
    origin: Pair = [0.0, 0.0]

    def build(self) -> glent.HeightField:
        return glent.HeightField(self.values, self.step, (self.origin[0], self.origin[1]))


class AreaModel(_Form):
    """What rings of points (x, z) enclose, even-odd, on level ground or on heights."""

    kind: Literal["area"]
    outline: Many[Many[Pair]] = Field(min_length=1)
    ground: HeightFieldModel | None = None
    snap: Pair | None = None

    def build(self) -> glent.Form:
        snap = None if self.snap is None else (self.snap[0], self.snap[1])
        return glent.Area(self.outline, None if self.ground is None else self.ground.build(), snap)


class MeshModel(_Snapping):
    """Triangles: three indices of vertices each."""

    kind: Literal["mesh"]
    vertices: Many[Triple] = Field(min_length=3)
    triangles: Many[Annotated[list[int], Field(min_length=3, max_length=3)]] = Field(min_length=1)

    def build(self) -> glent.Form:
        return glent.Mesh(self.vertices, self.triangles, self.snap_at)


FormModel = Annotated[
    Union[CuboidModel, SphereModel, SnapModel, RectangleModel, AreaModel, MeshModel],  # noqa: UP007
    Field(discriminator="kind"),
]


def form_model(form: glent.Form) -> dict[str, Any]:
    """A form as it stands in a file.

    :raises TypeError: a form of the user's own, which no file can hold.
    """
    if isinstance(form, glent.SnapPoint):
        return {"kind": "snap", "radius": form.radius}
    document: dict[str, Any]
    if isinstance(form, glent.Cuboid):
        document = {"kind": "cuboid", "size": list(form.size)}
    elif isinstance(form, glent.Sphere):
        document = {"kind": "sphere", "radius": form.radius}
    elif isinstance(form, glent.Rectangle):
        document = {"kind": "rectangle", "width": form.width, "height": form.height}
    elif isinstance(form, glent.Mesh):
        document = {"kind": "mesh", "vertices": form.vertices.tolist(), "triangles": form.triangles.tolist()}
    elif isinstance(form, glent.Area):
        document = {"kind": "area", "outline": [[list(p) for p in ring] for ring in form.outline]}
        if form.ground is not None:
            document["ground"] = {
                "values": form.ground.values.tolist(),
                "step": form.ground.step,
                "origin": list(form.ground.origin),
            }
    else:
        raise TypeError(f"{form!r} is a form that no file can hold")
    if form.snap_at is not None:
        document["snap"] = list(form.snap_at)
    return document


class CameraModel(Model):
    """What the world is looked at with: perspective with ``fov``, orthographic with ``height``."""

    eye: Triple
    target: Triple
    up: Triple | None = None
    fov: Annotated[float, Field(gt=0, lt=180)] | None = None
    height: Positive | None = None
    near: Distance = 0.0
    far: Positive | None = None

    @model_validator(mode="after")
    def _sees(self) -> CameraModel:
        refused(self.build)
        return self

    def build(self) -> glent.Camera:
        """The camera."""
        up = None if self.up is None else _triple(self.up)
        return glent.Camera(_triple(self.eye), _triple(self.target), up, self.fov, self.height, self.near, self.far)


def camera_model(camera: glent.Camera) -> dict[str, Any]:
    """A camera as it stands in a file."""
    values = {
        "eye": list(camera.eye),
        "target": list(camera.target),
        "up": None if camera.up is None else list(camera.up),
        "fov": camera.fov,
        "height": camera.height,
        "near": camera.near or None,
        "far": camera.far,
    }
    return {key: value for key, value in values.items() if value is not None}
