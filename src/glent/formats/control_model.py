"""The controls that nodes declare in a scene file: models derived from the options of each class (law C12).

A control's options are the keywords of its constructor (:mod:`glent.controls.options`). A model of them is made when
the first file names its kind, so a control that a game has registered is validated, and stands in the schema, as the
built-in ones do. What cannot be told from the types is proved by making the control, on a scene that is thrown away.
"""

from __future__ import annotations

import inspect
from typing import Any, Literal

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler, create_model
from pydantic_core import InitErrorDetails, PydanticCustomError, ValidationError, core_schema

from glent.controls.options import REQUIRED, options_of
from glent.controls.registry import class_of, names
from glent.core.errors import ControlError
from glent.formats.base_model import Model
from glent.formats.file_types import file_type

__all__ = ["ControlField", "ControlModel", "control_models", "fits", "model_of"]


class ControlModel(Model):
    """What all have in common."""

    kind: str

    def references(self) -> dict[str, str]:
        """The paths that it names, by option."""
        options = options_of(class_of(self.kind))
        given = {name: getattr(self, name) for name, option in options.items() if option.reference is not None}
        return {name: path for name, path in given.items() if path is not None}

    def options(self) -> dict[str, Any]:
        """What is given, as it stands in the file."""
        return self.model_dump(exclude_unset=True)


_models: dict[str, type[ControlModel]] = {}


def model_of(kind: str) -> type[ControlModel]:
    """The model of the controls of a kind.

    :raises ControlError: there is none.
    """
    cls = class_of(kind)
    made = _models.get(kind)
    if made is None:
        fields: dict[str, Any] = {"kind": (Literal[kind], ...)}
        for name, option in options_of(cls).items():
            default = ... if option.default is REQUIRED else option.default
            fields[name] = (file_type(option.type), list(default) if isinstance(default, tuple) else default)
        about = (inspect.getdoc(cls) or "").partition("\n\n")[0]
        made = _models[kind] = create_model(f"{cls.__name__}Model", __base__=ControlModel, __doc__=about, **fields)
    return made


def control_models() -> dict[str, type[ControlModel]]:
    """The model of each kind there is."""
    return {kind: model_of(kind) for kind in names()}


class ControlField:
    """The type of a ``control`` in a scene file: the model of its kind validates it."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        return core_schema.no_info_plain_validator_function(cls._validated)

    @classmethod
    def __get_pydantic_json_schema__(
        cls, schema: core_schema.CoreSchema, handler: GetJsonSchemaHandler
    ) -> dict[str, Any]:
        models = {kind: model.__pydantic_core_schema__ for kind, model in control_models().items()}
        return handler(core_schema.tagged_union_schema(models, "kind"))

    @staticmethod
    def _validated(given: Any) -> ControlModel:
        kind = given.get("kind") if isinstance(given, dict) else None
        if not isinstance(kind, str):
            raise PydanticCustomError("control", "expected a mapping with a kind")
        try:
            model = model_of(kind)
        except ControlError as error:
            problem = PydanticCustomError("control", "{error}", {"error": str(error)})
            raise ValidationError.from_exception_data(
                "control", [InitErrorDetails(type=problem, loc=("kind",), input=kind)]
            ) from None
        return model.model_validate(given)  # a ValidationError within becomes part of the outer one


def fits(kind: str, role: str | None) -> None:
    """Check that a node of a role can have a control of a kind.

    :raises PydanticCustomError: it cannot; the message says what is possible.
    """
    roles = class_of(kind).roles
    if role is not None and roles and role not in roles:
        raise PydanticCustomError(
            "control",
            "role is {role} and control.kind {kind}; expected no role or {roles} for that, or another kind",
            {"role": repr(role), "kind": repr(kind), "roles": " or ".join(roles)},
        )
