"""The controls that nodes declare in a scene file, as models that validate."""

from __future__ import annotations

from typing import Annotated, Any, Literal, Union

import regex
from pydantic import Field, field_validator, model_validator
from pydantic_core import PydanticCustomError

from glent.controls.factory import CONVERTS, KINDS, REFERENCES
from glent.controls.key_layout import DOES, Key, KeyLayout
from glent.core.errors import ControlError
from glent.formats.base_model import Distance, Model, Number, Pair, Positive

__all__ = ["ControlModel", "ControlModels", "KeyModel", "KeyRows", "built_rows", "control_models", "fits"]

Path = Annotated[str, Field(min_length=1, max_length=2000)]
Name = Annotated[str, Field(min_length=1, max_length=2000)]
Argument = Union[bool, int, Number, str]  # noqa: UP007
Orientation = Literal["horizontal", "vertical"]
Side = Literal["below", "above", "right", "left"]


class _Control(Model):
    """What all have in common."""

    def references(self) -> dict[str, str]:
        """The paths that it names, by option."""
        given = {name: getattr(self, name, None) for name in REFERENCES}
        return {name: path for name, path in given.items() if path is not None}

    def options(self) -> dict[str, Any]:
        """What is given, as it stands in the file."""
        return self.model_dump(exclude_unset=True)


class ButtonModel(_Control):
    """Acts when it is clicked, again and again while held, or once it has been held long enough."""

    kind: Literal["button"]
    argument: Argument | None = None
    while_held: Literal["hold", "repeat", "confirm"] | None = None


class ToggleModel(_Control):
    """What is on or off."""

    kind: Literal["toggle"]
    start: bool | Literal["mixed"] = False


class RadioGroupModel(_Control):
    """One of several, by name."""

    kind: Literal["radiogroup"]
    start: Name | None = None


class _Span(_Control):
    low: Number = 0.0
    high: Number = 100.0
    step: Positive | None = None

    @model_validator(mode="after")
    def _possible(self) -> _Span:
        if self.low >= self.high:
            raise PydanticCustomError(
                "span", "low is {low} and high {high}; expected low below high", {"low": self.low, "high": self.high}
            )
        return self


class SliderModel(_Span):
    """A number along a rail."""

    kind: Literal["slider"]
    start: Number | None = None
    orientation: Orientation = "horizontal"
    page: Positive | None = None


class RangeSliderModel(_Span):
    """Two numbers on one rail."""

    kind: Literal["range-slider"]
    start: Pair | None = None
    apart: Distance = 0.0
    orientation: Orientation = "horizontal"
    page: Positive | None = None


class SliderRowModel(_Span):
    """Several numbers in a row."""

    kind: Literal["slider-row"]
    start: Annotated[list[Number], Field(min_length=1, max_length=1000)]


class ProgressModel(_Span):
    """How far something has come; without a start, nobody knows yet."""

    kind: Literal["progressbar"]
    high: Number = 1.0
    start: Number | None = None
    orientation: Orientation = "horizontal"


class StickModel(_Control):
    """A stick on the screen."""

    kind: Literal["stick"]
    dead_zone: Annotated[float, Field(ge=0, lt=1)] | None = None
    axis: Literal["x", "y"] | None = None
    rim: Literal["round", "square"] = "round"
    springs: bool = True


class ScrollAreaModel(_Control):
    """What scrolls, by keys too."""

    kind: Literal["scroll-area"]
    line: Positive | None = None
    axis: Literal["x", "y"] | None = "y"


class ScrollbarModel(_Control):
    """Shows where a scroll area is, and moves it."""

    kind: Literal["scrollbar"]
    area: Path
    orientation: Orientation = "vertical"
    auto_hide: bool = True
    min_thumb: Positive = 24.0


class ListboxModel(_Control):
    """A list to choose from."""

    kind: Literal["listbox"]
    start: list[Name] = []
    several: bool = False


class SlotsModel(_Control):
    """Slots that things lie in."""

    kind: Literal["slots"]
    columns: Annotated[int, Field(ge=1, le=10_000)]
    items: dict[str, Argument] = {}


class PopupModel(_Control):
    """What opens beside something."""

    kind: Literal["popup"]
    opener: Path | None = None
    side: Side = "below"
    gap: Distance = 0.0
    opens_on_click: bool = True


class MenuModel(_Control):
    """A menu, or a submenu of the menu ``above``."""

    kind: Literal["menu"]
    opener: Path | None = None
    above: Path | None = None
    side: Side | None = None
    gap: Distance = 0.0
    close_delay: Distance | None = 0.3
    open_delay: Distance = 0.2


class SimpleModel(_Control):
    """A control without options: a menubar finds the menus that hang from its items by itself."""

    kind: Literal["menubar", "dialog"]


class TooltipModel(_Control):
    """A word about another node."""

    kind: Literal["tooltip"]
    target: Path
    open_delay: Distance = 0.5
    close_delay: Distance = 0.15
    side: Side = "below"
    gap: Distance = 4.0


class TabsModel(_Control):
    """Tabs; each shows the sibling of role ``tabpanel`` that has its name."""

    kind: Literal["tablist"]
    start: Name | None = None
    orientation: Orientation = "horizontal"
    activation: Literal["automatic", "manual"] = "automatic"


class TextFieldModel(_Control):
    """A field to type into."""

    kind: Literal["textbox"]
    start: str = ""
    max_length: Annotated[int, Field(ge=0, le=1_000_000)] | None = None
    allowed: str | None = None
    convert: Literal["upper", "lower"] | None = None
    password: bool = False
    inset: Distance = 6.0

    @field_validator("allowed")
    @classmethod
    def _expression(cls, value: str | None) -> str | None:
        try:
            regex.compile(value or "")
        except regex.error as error:
            raise PydanticCustomError(
                "allowed", "expected a regular expression for a character: {error}", {"error": str(error)}
            ) from None
        return value


class KeyModel(Model):
    """One key on the screen."""

    text: str = ""
    shifted: str | None = None
    does: Literal["type", "shift", "backspace", "clear", "enter", "left", "right"] = "type"
    label: str | None = None
    width: Positive = 1.0

    @model_validator(mode="after")
    def _possible(self) -> KeyModel:
        self.build()
        return self

    def build(self) -> Key:
        try:
            return Key(self.text, self.shifted, self.does, self.label, self.width)
        except ControlError as error:
            raise PydanticCustomError("key", "{error}", {"error": str(error)}) from None


KeyRow = Annotated[list[Annotated[str, Field(min_length=1)] | KeyModel], Field(min_length=1)]
KeyRows = Annotated[list[KeyRow], Field(min_length=1)]


def built_rows(rows: list[list[str | KeyModel]]) -> KeyLayout:
    """The layout of rows as they stand in a file."""
    return KeyLayout([[Key(key) if isinstance(key, str) else key.build() for key in row] for row in rows])


class ScreenKeysModel(_Control):
    """Keys on the screen; a key that only types can be given as its text."""

    kind: Literal["screen-keys"]
    rows: KeyRows
    field: Path | None = None


class ToolWindowModel(_Control):
    """A window that is moved, sized, raised and closed."""

    kind: Literal["tool-window"]
    title_height: Positive = 28.0
    edge_width: Positive = 6.0
    min_size: Annotated[list[Distance], Field(min_length=2, max_length=2)] = [80.0, 60.0]
    stays_inside: bool = True
    resizable: bool = True
    step: Positive = 8.0


ControlModel = Annotated[
    Union[  # noqa: UP007
        ButtonModel,
        ToggleModel,
        RadioGroupModel,
        SliderModel,
        RangeSliderModel,
        SliderRowModel,
        ProgressModel,
        StickModel,
        ScrollAreaModel,
        ScrollbarModel,
        ListboxModel,
        SlotsModel,
        PopupModel,
        MenuModel,
        SimpleModel,
        TooltipModel,
        TabsModel,
        TextFieldModel,
        ScreenKeysModel,
        ToolWindowModel,
    ],
    Field(discriminator="kind"),
]
assert set(KeyModel.model_fields["does"].annotation.__args__) == set(DOES)  # type: ignore[union-attr]
assert set(CONVERTS) == {"upper", "lower"}


class ControlModels(Model):
    """Stands for all of them, where the kind is yet to be known."""


def control_models() -> dict[str, type[Model]]:
    """The model of each kind."""
    models = [*_Control.__subclasses__(), *_Span.__subclasses__()]
    return {kind: one for one in models for kind in _kinds_of(one)}


def _kinds_of(model: type[Model]) -> tuple[str, ...]:
    field = model.model_fields.get("kind")
    if field is None:  # what several have in common
        return ()
    return tuple(field.annotation.__args__)  # type: ignore[union-attr]


def roles_of(kind: str) -> tuple[str, ...]:
    """The roles that a node with a control of this kind can have; none: any."""
    if kind == "textbox":
        return ("textbox", "searchbox", "combobox")
    return KINDS[kind][0].roles


def fits(kind: str, role: str | None) -> None:
    """Check that a node of a role can have a control of a kind.

    :raises PydanticCustomError: it cannot; the message says what is possible.
    """
    roles = roles_of(kind)
    if role is not None and roles and role not in roles:
        raise PydanticCustomError(
            "control",
            "role is {role} and control.kind {kind}; expected no role or {roles} for that, or another kind",
            {"role": repr(role), "kind": repr(kind), "roles": " or ".join(roles)},
        )
