"""The event layer under a game's user interface.

``import glent`` loads the core alone. Files, figures, windows and the command line load when they are imported.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.errors import (
    BindingError,
    GlentError,
    KindError,
    NotSealedError,
    PathError,
    PlaceError,
    SampleError,
    SceneError,
    SeatError,
    SettleError,
    ShapeError,
)
from glent.core.geometry.boxes import Boxed, Ellipse, Rounded
from glent.core.geometry.mask import Mask
from glent.core.geometry.polygon import Polygon
from glent.core.geometry.shape import Grown, Shape, Union
from glent.core.input.feel import Feel
from glent.core.input.pad import PAD_CONTROLS
from glent.core.input.samples import (
    Button,
    ComposeSample,
    KeySample,
    PadSample,
    PointerSample,
    Sample,
    TextSample,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.core.routing.event import DragStart, Event
from glent.core.routing.picking import Hit
from glent.core.routing.reasons import Reason
from glent.core.routing.router import Router
from glent.core.routing.timers import Timer
from glent.core.routing.verdict import Verdict
from glent.core.scene.handlers import Subscription
from glent.core.scene.kinds import KINDS
from glent.core.scene.layer import Layer
from glent.core.scene.node import Node
from glent.core.scene.place import Place
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from glent.core.input.bindings import Bindings
    from glent.core.routing.gestures.contact import Contact, Drop
    from glent.core.routing.gestures.recogniser import Recogniser
    from glent.core.routing.grab import Grab
    from glent.core.routing.seat import Asked, Seat

__all__ = [
    "KINDS",
    "PAD_CONTROLS",
    "Asked",
    "BindingError",
    "Bindings",
    "Boxed",
    "Button",
    "ComposeSample",
    "Contact",
    "DragStart",
    "Drop",
    "Ellipse",
    "Event",
    "Feel",
    "GlentError",
    "Grab",
    "Grown",
    "Hit",
    "KeySample",
    "KindError",
    "Layer",
    "Mask",
    "Node",
    "NotSealedError",
    "PadSample",
    "PathError",
    "Place",
    "PlaceError",
    "PointerSample",
    "Polygon",
    "Reason",
    "Recogniser",
    "Rounded",
    "Router",
    "Sample",
    "SampleError",
    "Scene",
    "SceneError",
    "Seat",
    "SeatError",
    "SettleError",
    "Shape",
    "ShapeError",
    "Subscription",
    "TextSample",
    "TickSample",
    "Timer",
    "Union",
    "Verdict",
    "WheelSample",
    "WindowSample",
]

__version__ = "0.3.0"

_LATER = {
    "Asked": "glent.core.routing.seat",
    "Bindings": "glent.core.input.bindings",
    "Contact": "glent.core.routing.gestures.contact",
    "Drop": "glent.core.routing.gestures.contact",
    "Grab": "glent.core.routing.grab",
    "Recogniser": "glent.core.routing.gestures.recogniser",
    "Seat": "glent.core.routing.seat",
}
"""What is loaded when it is asked for, or with the first router."""


def __getattr__(name: str) -> Any:
    module = _LATER.get(name)
    if module is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    from importlib import import_module

    return getattr(import_module(module), name)
