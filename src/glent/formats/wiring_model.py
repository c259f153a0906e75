"""What nodes of a scene file emit, accept, and do by themselves, as models that validate."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator
from pydantic_core import PydanticCustomError

from glent.formats.base_model import Model, Number
from glent.wiring.ends import SWITCHES

__all__ = ["WiringModel"]

Name = Annotated[str, Field(min_length=1, max_length=200)]
Path = Annotated[str, Field(min_length=1, max_length=2000)]
Part = Annotated[str, Field(min_length=1, max_length=200)]
Do = Literal["show", "hide", "toggle", "enable", "disable", "open", "close", "set", "emit"]
SwitchName = Literal["show", "hide", "toggle", "enable", "disable", "open", "close", "set"]
To = bool | int | Number | str | list[str] | list[Number]
assert SwitchName.__args__ == SWITCHES  # type: ignore[attr-defined]
assert set(Do.__args__) == {*SWITCHES, "emit"}  # type: ignore[attr-defined]


class NamedModel(Model):
    """A name, with what is to be said of it."""

    name: Name
    shared: bool = False


class EmitModel(NamedModel):
    """A name that is emitted; as a request it goes to the authority first."""

    request: bool = False


class ActionModel(Model):
    """Something a node does by itself when something happens at it."""

    when: Part
    do: Do
    what: Path | None = None
    name: Name | None = None
    to: To | None = None
    shared: bool = False

    @model_validator(mode="after")
    def _sound(self) -> ActionModel:
        wanted, unwanted = ("name", "what") if self.do == "emit" else ("what", "name")
        if getattr(self, wanted) is None or getattr(self, unwanted) is not None:
            raise PydanticCustomError(
                "action", "expected {wanted} with {do}, and no {unwanted}",
                {"wanted": wanted, "do": self.do, "unwanted": unwanted},
            )  # fmt: skip
        if self.to is not None and self.do not in ("set", "emit"):
            raise PydanticCustomError("action", "expected no 'to' with {do}, it takes nothing", {"do": self.do})
        return self


class WiringModel(Model):
    """What a node emits, which of its values are the game's, what it accepts, and what it does by itself."""

    emits: dict[Part, Name | EmitModel] = {}
    values: dict[Part, Name | NamedModel] = {}
    accepts: dict[SwitchName, Name | NamedModel] = {}
    does: list[ActionModel] = []

    def notes(self) -> dict[str, Any]:
        """What is given, as it stands in the file."""
        return self.model_dump(exclude_unset=True)

    def references(self) -> dict[str, str]:
        """The paths that it names, by key."""
        return {f"does[{at}].what": one.what for at, one in enumerate(self.does) if one.what is not None}
