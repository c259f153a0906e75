"""What the models of scene files are made of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from glent.core.scene.checks import POINTER_KINDS
from glent.core.scene.place import LIMIT

__all__ = ["Distance", "Model", "Name", "Number", "Pair", "PointerKind", "Positive"]

Number = Annotated[float, Field(ge=-LIMIT, le=LIMIT, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Distance = Annotated[float, Field(ge=0, le=LIMIT, allow_inf_nan=False)]
Pair = Annotated[list[Number], Field(min_length=2, max_length=2)]
Name = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^/\x00-\x1f\x7f]+$")]
PointerKind = Literal["mouse", "touch", "pen", "ray"]
assert set(PointerKind.__args__) == set(POINTER_KINDS)  # type: ignore[attr-defined]


class Model(BaseModel):
    """Says just what it may say, in just the types it may have."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)
