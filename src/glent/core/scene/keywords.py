"""The attributes of a node as typed keywords, for type checkers, editors, and what scene files may say.

Each stands here with the types it may be given in; its check, default and property stand in ``input_attributes.py``,
``gesture_attributes.py`` or ``attributes.py``. Nothing of this is loaded while a game runs.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import TYPE_CHECKING, Any, Literal, TypedDict

from glent.core.scene.gesture_attributes import Accepts
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.geometry.shape import Shape
    from glent.core.scene.flow import Flow
    from glent.core.scene.node import Node

__all__ = ["InputKeywords", "NodeKeywords"]


class InputKeywords(TypedDict, total=False):
    """The attributes that modals, seats and focus go by."""

    modal: bool
    blocks_all: bool
    closed_by: Literal["none", "back", "any"]
    closing_press_acts: bool
    opener: str | Node | None
    seats: Iterable[str] | None
    for_others: Literal["through", "blocked"]
    tab_order: float
    nav: Mapping[str, str | Node | None] | None
    scope: bool
    wrap: Literal["x", "y", "both"] | None
    entry: str | Node | None
    press_focuses: bool


class GestureKeywords(TypedDict, total=False):
    """The attributes that gestures go by."""

    scrolls: bool
    slides: bool
    axis: Literal["x", "y"] | None
    content: tuple[float, float] | None
    accepts: Accepts | None
    feel: Mapping[str, Any] | None
    notes: Mapping[str, Any] | None


class OwnKeywords(TypedDict, total=False):
    """Place, shape, role and the rest."""

    place: Place | None
    flow: Flow | None
    shape: Shape | None
    role: str | None
    solidity: Literal["solid", "glass", "hollow", "ghost"] | None
    reach: float | Mapping[str, float] | None
    clips: bool
    order: float
    visible: bool
    enabled: bool
    carries: Iterable[str] | None
    focusable: bool | None
    tags: Iterable[str]
    scroll: tuple[float, float]


class FactKeywords(TypedDict, total=False):
    """What a toolkit keeps on a node, and what the node is called."""

    facts: Mapping[str, Any] | None
    label: str | None
    labelled_by: str | Node | None
    description: str | None
    described_by: str | Node | None


class NodeKeywords(OwnKeywords, GestureKeywords, InputKeywords, FactKeywords, total=False):
    """All attributes of a node, as the keywords of :meth:`Node.add`."""
