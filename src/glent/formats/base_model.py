"""What the models of files are made of.

A file that is wrong throughout is told of in few problems: lists of nodes stop after ``MAX_PROBLEMS``, other lists at
their first, and a mapping with far more keys than any may have is one problem. So a hostile file of some megabytes
makes neither a million errors nor a message of as many lines.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from itertools import islice
from typing import Annotated, Any, Literal, TypeVar, get_args

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    ValidationError,
    ValidationInfo,
    WrapValidator,
    model_validator,
)
from pydantic_core import InitErrorDetails, PydanticCustomError, core_schema

from glent.core.arguments import has_halves
from glent.core.scene.checks import POINTER_KINDS
from glent.core.scene.place import LIMIT
from glent.formats.limits import MAX_PROBLEMS

__all__ = [
    "GIVEN_UP",
    "Distance",
    "Many",
    "Model",
    "Name",
    "Nodes",
    "Number",
    "Pair",
    "PointerKind",
    "Positive",
    "Text",
    "not_too_many",
    "problem",
    "told",
    "usual_copy",
]

T = TypeVar("T")

GIVEN_UP = "given up"
"""In the context of a validation: the document is let go of, item by item, as it is checked."""

MOST_KEYS = 100
"""No mapping of the documented keys has more."""
MOST_ENTRIES = 10_000
"""No mapping by names has more."""


def _printable(text: str) -> str:
    if not text.isprintable():
        raise PydanticCustomError("printable", "expected printable text, without line breaks and odd spaces")
    return text


def _whole_characters(text: str) -> str:
    if has_halves(text):
        raise PydanticCustomError("text", "expected text of whole characters")
    return text


def not_too_many(value: Any) -> Any:
    """Check that a mapping by names has not far more than any may have, before each is looked at."""
    if isinstance(value, dict) and len(value) > MOST_ENTRIES:
        raise PydanticCustomError("too_many", "expected at most {most} entries", {"most": f"{MOST_ENTRIES:,}"})
    return value


def _one_by_one(value: Any, handler: Callable[[Any], list[Any]], info: ValidationInfo) -> list[Any]:
    """Check a list item by item, until there are problems enough in the whole file."""
    if not isinstance(value, list):
        return handler(value)
    count: dict[str, int] = info.context if isinstance(info.context, dict) else {"problems": 0}
    made: list[Any] = []
    found: list[InitErrorDetails] = []
    for at, one in enumerate(value):
        before = count["problems"]
        try:
            checked = handler([one])[0]
            made.append(checked.kept() if hasattr(checked, "kept") else checked)
            if GIVEN_UP in count:
                value[at] = None
        except ValidationError as error:
            inner = count["problems"] - before
            count["problems"] += max(0, error.error_count() - inner)
            found += [_moved(item, at) for item in error.errors(include_url=False)]
            if count["problems"] >= MAX_PROBLEMS:
                break
    if found:
        raise ValidationError.from_exception_data("list", found)
    return made


def _moved(item: Any, at: int) -> InitErrorDetails:
    """A problem of the only item of a list, as one of the item that it was in the whole."""
    kind, ctx = item["type"], item.get("ctx", {})
    custom = kind not in _KNOWN
    said = PydanticCustomError(kind, "{message}", {"message": item["msg"]}) if custom else kind
    moved: InitErrorDetails = {"type": said, "loc": (at, *item["loc"][1:]), "input": item["input"]}
    if not custom and ctx:
        moved["ctx"] = ctx
    return moved


Number = Annotated[float, Field(ge=-LIMIT, le=LIMIT, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e6, allow_inf_nan=False)]
Distance = Annotated[float, Field(ge=0, le=LIMIT, allow_inf_nan=False)]
Pair = Annotated[list[Number], Field(min_length=2, max_length=2)]
Text = Annotated[str, Field(min_length=1), AfterValidator(_whole_characters)]
Name = Annotated[str, Field(min_length=1, max_length=200, pattern=r"^[^/\x00-\x1f\x7f]+$"), AfterValidator(_printable)]
PointerKind = Literal["mouse", "touch", "pen", "ray"]
assert set(PointerKind.__args__) == set(POINTER_KINDS)  # type: ignore[attr-defined]


class _ToTheFirstProblem:
    """What ``pydantic.FailFast`` says, as something that types can be joined with: that has no hash."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return {**handler(source), "fail_fast": True}


Many = Annotated[list[T], _ToTheFirstProblem()]
"""A list that is told of by its first problem."""
Nodes = Annotated[list[T], WrapValidator(_one_by_one)]
"""A list of nodes, or the like, whose problems are all told, up to a number."""

_KNOWN = set(get_args(core_schema.ErrorType)) - {"value_error", "assertion_error"}
"""The problems that pydantic has the words for."""


def problem(place: tuple[int | str, ...], kind: str, message: str, found: object) -> InitErrorDetails:
    """A problem at a place below that of the model that tells of it."""
    return {"type": PydanticCustomError(kind, "{message}", {"message": message}), "loc": place, "input": found}


def told(problems: Iterable[InitErrorDetails]) -> None:
    """Raise the problems there are, if any: so many as are told of a file.

    :raises ValidationError: there are some.
    """
    found = list(islice(problems, MAX_PROBLEMS))
    if found:
        raise ValidationError.from_exception_data("file", found)


def usual_copy(usual: list[Any] | dict[str, Any]) -> Any:
    """The default of a field that is a list or a mapping: made anew for each model, since pydantic is slow to copy."""
    return Field(default_factory=usual.copy, json_schema_extra={"default": usual})


class Model(BaseModel):
    """Says just what it may say, in just the types it may have."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True)

    @model_validator(mode="before")
    @classmethod
    def _of_few_keys(cls, given: Any) -> Any:
        if isinstance(given, dict) and len(given) > MOST_KEYS:
            raise PydanticCustomError(
                "too_many", "expected the documented keys, and found {many}", {"many": len(given)}
            )
        return given
