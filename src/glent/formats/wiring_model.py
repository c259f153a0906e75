"""What nodes of a scene file tell, which commands they take, and what they do by themselves, as models."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, model_validator
from pydantic_core import PydanticCustomError

from glent.formats.base_model import Many, Model, Number, not_too_many, usual_copy
from glent.wiring.ends import COMMANDS

__all__ = ["WiringModel"]

Name = Annotated[str, Field(min_length=1, max_length=200)]
Path = Annotated[str, Field(min_length=1, max_length=2000)]
Part = Annotated[str, Field(min_length=1, max_length=200)]
Act = Literal["show", "hide", "toggle", "enable", "disable", "open", "close", "set", "tell"]
CommandName = Literal["show", "hide", "toggle", "enable", "disable", "open", "close", "set"]
With = bool | int | Number | str | Many[str] | Many[Number]
assert CommandName.__args__ == COMMANDS  # type: ignore[attr-defined]
assert set(Act.__args__) == {*COMMANDS, "tell"}  # type: ignore[attr-defined]


class NamedModel(Model):
    """A name, with what is to be said of it."""

    name: Name
    shared: bool = False


class TellModel(NamedModel):
    """A name that is told to the game; as a request it goes to the authority first."""

    request: bool = False


class ActionModel(Model):
    """Something a node does by itself when something happens at it."""

    on: Part
    act: Act
    node: Path | None = None
    name: Name | None = None
    with_: With | None = Field(default=None, alias="with")
    shared: bool = False

    @model_validator(mode="after")
    def _sound(self) -> ActionModel:
        wanted, unwanted = ("name", "node") if self.act == "tell" else ("node", "name")
        if getattr(self, wanted) is None or getattr(self, unwanted) is not None:
            raise PydanticCustomError(
                "action", "expected {wanted} with {act}, and no {unwanted}",
                {"wanted": wanted, "act": self.act, "unwanted": unwanted},
            )  # fmt: skip
        if self.with_ is not None and self.act not in ("set", "tell"):
            raise PydanticCustomError("action", "expected no 'with' for {act}, it takes nothing", {"act": self.act})
        return self


class WiringModel(Model):
    """What a node tells, which of its values are the game's, which commands it takes, and what it does by itself."""

    tells: Annotated[dict[Part, Name | TellModel], BeforeValidator(not_too_many)] = Field(default_factory=dict)
    values: Annotated[dict[Part, Name | NamedModel], BeforeValidator(not_too_many)] = Field(default_factory=dict)
    commands: Annotated[dict[CommandName, Name | NamedModel], BeforeValidator(not_too_many)] = Field(
        default_factory=dict
    )
    does: Many[ActionModel] = usual_copy([])

    def notes(self) -> dict[str, Any]:
        """What is given, as it stands in the file."""
        return self.model_dump(exclude_unset=True, by_alias=True)

    def references(self) -> dict[str, str]:
        """The paths that it names, by key."""
        return {f"does[{at}].node": one.node for at, one in enumerate(self.does) if one.node is not None}
