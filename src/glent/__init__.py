"""The event layer under a game's user interface.

``import glent`` loads the core alone; ``glent.controls``, ``diagnose``, ``formats``, ``figures``, ``testing``,
``wiring`` and ``adapters`` load when they are used.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.core.errors import (
    BindingError,
    ControlError,
    GlentError,
    KindError,
    MissingExtraError,
    NotSealedError,
    PathError,
    PlaceError,
    SampleError,
    SceneError,
    SeatError,
    SettleError,
    ShapeError,
    ThreadError,
    ValueRefusedError,
)
from glent.core.geometry.boxes import BoxShape, Ellipse, Rounded
from glent.core.geometry.mask import Mask
from glent.core.geometry.polygon import Polygon
from glent.core.geometry.shape import Grown, Shape, Union
from glent.core.input.feel import Feel
from glent.core.input.pad import PAD_CONTROLS
from glent.core.input.samples import (
    ActSample,
    ComposeSample,
    KeySample,
    PadSample,
    PointerButton,
    PointerSample,
    RaySample,
    Sample,
    TextSample,
    TickSample,
    TipSample,
    WheelSample,
    WindowSample,
)
from glent.core.list_value import ListValue
from glent.core.routing.event import ActEvent, DragStart, Event
from glent.core.routing.hit.point import Hit
from glent.core.routing.reasons import Reason
from glent.core.routing.router import Router
from glent.core.routing.timers import Timer
from glent.core.routing.verdict import Drop, Verdict
from glent.core.scene.flow import Flow
from glent.core.scene.handlers import Subscription
from glent.core.scene.kinds import KINDS
from glent.core.scene.layer import Layer
from glent.core.scene.node import Node
from glent.core.scene.place import Place
from glent.core.scene.scene import Scene
from glent.core.value import Value

if TYPE_CHECKING:
    from glent import adapters as adapters
    from glent import controls as controls
    from glent import diagnose as diagnose
    from glent import figures as figures
    from glent import formats as formats
    from glent import testing as testing
    from glent import wiring as wiring
    from glent.core.geometry.world.area import Area
    from glent.core.geometry.world.camera import Camera
    from glent.core.geometry.world.form import Cuboid, Form, Rectangle, SnapPoint, Sphere
    from glent.core.geometry.world.heights import HeightField
    from glent.core.geometry.world.mesh import Mesh
    from glent.core.geometry.world.pose import Pose
    from glent.core.geometry.world.throw import Throw
    from glent.core.input.bindings import Bindings
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.recogniser import Contests, Recogniser
    from glent.core.routing.grab import Grab
    from glent.core.routing.hit.batch import RayHits
    from glent.core.routing.seats.seat import Asked, Seat
    from glent.core.scene.panel import Panel
    from glent.core.scene.spot import Spot

__all__ = [
    "KINDS",
    "PAD_CONTROLS",
    "ActEvent",
    "ActSample",
    "Area",
    "Asked",
    "BindingError",
    "Bindings",
    "BoxShape",
    "Camera",
    "ComposeSample",
    "Contact",
    "Contests",
    "ControlError",
    "Cuboid",
    "DragStart",
    "Drop",
    "Ellipse",
    "Event",
    "Feel",
    "Flow",
    "Form",
    "GlentError",
    "Grab",
    "Grown",
    "HeightField",
    "Hit",
    "KeySample",
    "KindError",
    "Layer",
    "ListValue",
    "Mask",
    "Mesh",
    "MissingExtraError",
    "Node",
    "NotSealedError",
    "PadSample",
    "Panel",
    "PathError",
    "Place",
    "PlaceError",
    "PointerButton",
    "PointerSample",
    "Polygon",
    "Pose",
    "RayHits",
    "RaySample",
    "Reason",
    "Recogniser",
    "Rectangle",
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
    "SnapPoint",
    "Sphere",
    "Spot",
    "Subscription",
    "TextSample",
    "ThreadError",
    "Throw",
    "TickSample",
    "Timer",
    "TipSample",
    "Union",
    "Value",
    "ValueRefusedError",
    "Verdict",
    "WheelSample",
    "WindowSample",
]

__version__ = "0.6.0"

_LATER = {
    "Throw": "glent.core.geometry.world.throw",
    "Area": "glent.core.geometry.world.area",
    "Camera": "glent.core.geometry.world.camera",
    "Cuboid": "glent.core.geometry.world.form",
    "Form": "glent.core.geometry.world.form",
    "Rectangle": "glent.core.geometry.world.form",
    "SnapPoint": "glent.core.geometry.world.form",
    "Sphere": "glent.core.geometry.world.form",
    "HeightField": "glent.core.geometry.world.heights",
    "Mesh": "glent.core.geometry.world.mesh",
    "Pose": "glent.core.geometry.world.pose",
    "Panel": "glent.core.scene.panel",
    "Spot": "glent.core.scene.spot",
    "RayHits": "glent.core.routing.hit.batch",
    "Asked": "glent.core.routing.seats.seat",
    "Bindings": "glent.core.input.bindings",
    "Contact": "glent.core.routing.gestures.contact",
    "Grab": "glent.core.routing.grab",
    "Contests": "glent.core.routing.gestures.recogniser",
    "Recogniser": "glent.core.routing.gestures.recogniser",
    "Seat": "glent.core.routing.seats.seat",
}
"""What is loaded when it is asked for, or with the first router."""


_PACKAGES = ("adapters", "controls", "diagnose", "figures", "formats", "review", "testing", "wiring")


def __getattr__(name: str) -> Any:
    from importlib import import_module

    if name in _PACKAGES:
        return import_module(f"{__name__}.{name}")
    module = _LATER.get(name)
    if module is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(module), name)


def __dir__() -> list[str]:
    return sorted({*globals(), *_LATER, *_PACKAGES})
