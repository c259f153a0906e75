"""Wrong arguments in every place of public calls: each gives a documented error, or is taken, and breaks nothing."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
import pytest

import glent
from glent import (
    ActSample,
    Area,
    Bindings,
    Camera,
    ComposeSample,
    Cuboid,
    Ellipse,
    Feel,
    Flow,
    Form,
    GlentError,
    Grown,
    HeightField,
    KeySample,
    ListValue,
    Mask,
    Mesh,
    PadSample,
    Place,
    PointerSample,
    Polygon,
    Pose,
    RaySample,
    Rectangle,
    Rounded,
    Router,
    Scene,
    SnapPoint,
    Sphere,
    TextSample,
    TickSample,
    TipSample,
    Union,
    Value,
    WheelSample,
    WindowSample,
    controls,
    diagnose,
    testing,
)

ODD: list[Any] = [
    None, True, -1, 0, 2.5, float("nan"), float("inf"), 10**400, -(10**400), "", "x", "\ud800", b"x", [], [1], [None],
    (), (1,), (1, 2, 3), {}, {"a": 1}, {1}, object(), object, np.zeros(3), np.float64(1.5), np.int64(3),
    np.array([[1], [2]]), print, 1 + 2j, range(3),
]  # fmt: skip


KEYWORDS = re.compile("there is no attribute|Feel has no")
"""A wrong keyword is a TypeError, as Python has it; and ``object`` raises one of its own when it is called."""


class World:
    """A small scene with a router, made anew for each call."""

    def __init__(self) -> None:
        self.scene = scene = Scene((100, 100))
        self.layer = scene.layer("l")
        self.node = self.layer.add("n", role="button", place=Place(width=40, height=40))
        self.plain = self.layer.add("m")
        self.panel = scene.panel("p", (1.0, 1.0), (100, 100), position=(0.0, 0.0, -2.0))
        self.router = Router(scene, on_error=lambda error, event: None)
        self.seat = self.router.seat()
        self.hand = testing.Hand(self.router)

    def goes_on(self) -> None:
        """Whatever was called, input goes on."""
        if not self.router._closed:
            self.router.feed(PointerSample(1e11, "move", 5.0, 5.0))
            self.router.feed(KeySample(1e11, "down", "Tab"))
            self.router.tick(1e11)


Call = Callable[[World], tuple[Callable[..., object], dict[str, Any]]]
NODE = {
    "name": "z", "place": Place(), "flow": None, "shape": None, "role": "button", "solidity": "solid", "reach": 3,
    "clips": True, "order": 1, "visible": True, "enabled": True, "carries": ["click"], "focusable": True, "tags": ["a"],
    "scroll": (0, 0), "scrolls": True, "axis": "x", "content": (1, 1), "feel": None, "accepts": None, "recognisers": (),
    "notes": None, "modal": True, "closed_by": "any", "opener": "l/n", "seats": ["main"], "for_others": "through",
    "tab_order": 1, "nav": {"left": "l/n"}, "scope": True, "wrap": "x", "entry": "n", "press_focuses": True,
}  # fmt: skip

CALLS: dict[str, Call] = {
    "Scene": lambda w: (Scene, {"size": (100, 100), "fit": "contain"}),
    "Scene.layer": lambda w: (w.scene.layer, {"name": "z", "order": 1, "claims": ["keys"], "cursor": "shown"}),
    "Scene.panel": lambda w: (w.scene.panel, {"name": "z", "size": (1.0, 1.0), "pixels": (9, 9), "radius": None,
                                              "position": (0.0, 0.0, 0.0), "facing": (0.0, 0.0, 1.0), "range": None}),
    "Scene.spot": lambda w: (w.scene.spot, {"name": "z", "form": Sphere(1.0), "position": (0.0, 0.0, 0.0)}),
    "Scene[]": lambda w: (w.scene.__getitem__, {"path": "l/n"}),
    "Scene.point": lambda w: (w.scene.point, {"node": w.node, "x": 1.0, "y": 1.0}),
    "Scene.local": lambda w: (w.scene.local, {"node": w.node, "x": 1.0, "y": 1.0}),
    "Scene.corners": lambda w: (w.scene.corners, {"node": w.node}),
    "Node.add": lambda w: (w.plain.add, NODE),
    "Node[]": lambda w: (w.layer.__getitem__, {"path": "n"}),
    "Node.on": lambda w: (w.node.on, {"kind": "click", "handler": print, "phase": "bubble", "button": "primary"}),
    "Node.arrange": lambda w: (w.layer.arrange, {"names": ["m", "n"]}),
    "Node.is_within": lambda w: (w.node.is_within, {"other": w.layer}),
    "Node.scroll_by": lambda w: (w.node.scroll_by, {"dx": 1.0, "dy": 1.0}),
    "Router": lambda w: (Router, {"scene": Scene((9, 9)), "feel": Feel()}),
    "Router.feed": lambda w: (w.router.feed, {"sample": TickSample(1.0)}),
    "Router.tick": lambda w: (w.router.tick, {"time": 1.0}),
    "Router.at": lambda w: (w.router.at, {"due": 1.0, "call": print}),
    "Router.watch": lambda w: (w.router.watch, {"call": lambda sample, verdict: None}),
    "Router.move_to": lambda w: (w.router.move_to, {"scene": Scene((9, 9))}),
    "Router.act": lambda w: (w.router.act, {"node": w.node, "act": "set", "value": 1, "seat": "main"}),
    "Router.drag": lambda w: (w.router.drag, {"node": w.node, "dx": 1.0, "dy": 1.0}),
    "Router.drag_onto": lambda w: (w.router.drag_onto, {"source": w.node, "target": w.plain}),
    "Router.pinch": lambda w: (w.router.pinch, {"node": w.node, "scale": 1.0, "turn": 1.0}),
    "Router.swipe": lambda w: (w.router.swipe, {"node": w.node, "direction": "left"}),
    "Router.send": lambda w: (w.router.send, {"node": w.node, "kind": "a:b", "data": {"a": 1}, "seat": "main"}),
    "Router.seat": lambda w: (w.router.seat, {"name": "main"}),
    "Router.add_seat": lambda w: (w.router.add_seat, {"name": "two", "devices": ["pad1"], "viewport": (0, 0, 0.5, 1)}),
    "Router.hits": lambda w: (w.router.hits, {"x": 1.0, "y": 1.0, "kind": "mouse", "seat": None}),
    "Router.hits_ray": lambda w: (w.router.hits_ray, {"origin": (0.0, 0.0, 0.0), "direction": (0.0, 0.0, -1.0)}),
    "Router.would_reach_world": lambda w: (w.router.would_reach_world, {"x": 1.0, "y": 1.0, "action": "press"}),
    "Seat.navigate": lambda w: (w.seat.navigate, {"direction": "left"}),
    "Seat.enter": lambda w: (w.seat.enter, {"within": w.layer}),
    "Seat.set_focus": lambda w: (w.seat.set_focus, {"node": w.node, "ring": True}),
    "Seat.ask": lambda w: (w.seat.ask, {"action": "activate", "then": print}),
    "Seat.keys_are_ui": lambda w: (w.seat.keys_are_ui, {"device": "keys"}),
    "Seat.project": lambda w: (w.seat.project, {"point": (0.0, 0.0, 1.0)}),
    "Place": lambda w: (Place, {"left": 1, "top": 1, "width": 1, "turn": 1, "scale": 1, "pivot": (0, 0), "min_width": 1,
                                "grow": 1}),
    "Flow": lambda w: (Flow, {"kind": "row", "gap": 1, "padding": 1, "align": "start", "justify": "start"}),
    "Feel": lambda w: (Feel, {"hold_delay": 1.0, "dwell_kinds": ("mouse",)}),
    "Bindings": lambda w: (Bindings, {"given": {"back": ["Escape"]}, "reserved": {"F1": "help"}}),
    "Bindings.bound": lambda w: (Bindings().bound, {"action": "activate", "control": "KeyQ"}),
    "Value": lambda w: (Value, {"start": 1.0, "low": 0.0, "high": 2.0, "step": 0.5}),
    "Value of options": lambda w: (Value, {"start": "a", "options": ("a", "b")}),
    "Value.limit": lambda w: (Value(1.0, low=0.0, high=2.0).limit, {"low": 0.0, "high": 3.0, "step": None}),
    "ListValue": lambda w: (ListValue, {"items": ["a"], "key": str, "name": "it", "gaps": False}),
    "ListValue.add": lambda w: (ListValue(["a"]).add, {"item": "b", "at": 1}),
    "ListValue.put": lambda w: (ListValue(["a"]).put, {"at": 0, "item": "b"}),
    "ListValue.move": lambda w: (ListValue(["a", "b"]).move, {"key": "a", "to": 1}),
    "ListValue.set_all": lambda w: (ListValue(["a"]).set_all, {"items": ["b"]}),
    "ListValue.remove": lambda w: (ListValue(["a"]).remove, {"key": "a"}),
    "Value.bind": lambda w: (Value(1.0).bind, {"source": Value(2.0)}),
    "Rounded": lambda w: (Rounded, {"radius": 3.0}),
    "Polygon": lambda w: (Polygon, {"rings": [(0, 0), (1, 0), (1, 1)], "unit": "px"}),
    "Union": lambda w: (Union, {"parts": (Ellipse(),)}),
    "Grown": lambda w: (Grown, {"shape": Ellipse(), "by": 2.0}),
    "Mask": lambda w: (Mask, {"alpha": np.ones((3, 3)), "threshold": 0.5}),
    "Camera": lambda w: (Camera, {"eye": (0.0, 0.0, 1.0), "target": (0.0, 0.0, 0.0), "fov": 60.0}),
    "Hand.click": lambda w: (w.hand.click, {"target": "l/n", "button": "primary", "steps": 1, "at": (0.5, 0.5)}),
    "Hand.drag": lambda w: (w.hand.drag, {"start": "l/n", "end": "l/m"}),
    "Hand.wait": lambda w: (w.hand.wait, {"seconds": 0.1}),
    "why": lambda w: (diagnose.why, {"router": w.router, "x": 1.0, "y": 1.0}),
    "pass_map": lambda w: (diagnose.pass_map, {"scene": w.scene}),
    "Button": lambda w: (controls.Button, {"node": w.plain, "while_held": None}),
    "Slider": lambda w: (controls.Slider, {"node": w.plain, "value": None, "low": 0.0, "high": 1.0, "step": 0.1,
                                           "start": 0.5, "orientation": "horizontal"}),
    "Toggle": lambda w: (controls.Toggle, {"node": w.plain, "value": None}),
    "ToolWindow": lambda w: (controls.ToolWindow, {"node": w.plain, "title": True, "title_height": 20.0,
                                                   "edge_width": 5.0, "min_size": (1, 1), "resizable": True}),
    "Menu": lambda w: (controls.Menu, {"node": w.plain, "opener": w.node, "side": "below"}),
    "Dialog.ask": lambda w: (controls.Dialog(w.plain).ask, {"message": "m", "choices": ["a", "b"], "cancel": "a"}),
    "Control.set": lambda w: (controls.Slider(w.plain, low=0, high=1).set, {"to": 0.5, "name": "value"}),
    "Control.mark": lambda w: (controls.Button(w.node).mark, {"mark": "pending", "on": True}),
    "Control.look": lambda w: (controls.Button(w.node).look, {"part": ""}),
    "Control.on": lambda w: (controls.Button(w.node).on, {"act": "act", "call": print}),
    "Pose": lambda w: (Pose, {"position": (0.0, 0.0, 0.0), "facing": (0.0, 0.0, 1.0), "up": None, "matrix": None}),
}  # fmt: skip
FORMS: dict[type[Form], dict[str, Any]] = {
    Sphere: {"radius": 1.0, "snap": None},
    Cuboid: {"size": (1.0, 1.0, 1.0), "snap": None},
    Rectangle: {"width": 1.0, "height": 1.0, "snap": None},
    SnapPoint: {"radius": 1.0},
    Area: {"outline": [(0, 0), (1, 0), (1, 1)], "ground": None, "snap": None},
    HeightField: {"values": [[0.0, 1.0], [1.0, 0.0]], "step": 1.0, "origin": (0.0, 0.0)},
    Mesh: {"vertices": [(0, 0, 0), (1, 0, 0), (0, 1, 0)], "triangles": [(0, 1, 2)], "snap": None},
}
SAMPLES: dict[type, dict[str, Any]] = {
    PointerSample: {"time": 1.0, "action": "move", "x": 1.0, "y": 1.0, "pointer": "mouse", "kind": "mouse", "button": 0,
                    "buttons": 0, "dx": 0.0, "dy": 0.0, "pressure": None, "raw": (), "emulated": False,
                    "relative": False},
    RaySample: {"time": 1.0, "action": "move", "origin": (0.0, 0.0, 0.0), "direction": (0.0, 0.0, -1.0), "pointer": "r",
                "length": 3.0, "path": None, "buttons": 0},
    TipSample: {"time": 1.0, "tip": (0.0, 0.0, 0.0), "pointer": "t"},
    WheelSample: {"time": 1.0, "x": 1.0, "y": 1.0, "dx": 0.0, "dy": 1.0, "unit": "line", "pointer": "mouse"},
    WindowSample: {"time": 1.0, "what": "size", "width": 10.0, "height": 10.0},
    KeySample: {"time": 1.0, "action": "down", "code": "KeyA", "key": "a", "repeat": False, "device": "keys"},
    TickSample: {"time": 1.0},
    TextSample: {"time": 1.0, "text": "a", "device": "keys"},
    ComposeSample: {"time": 1.0, "text": "a", "cursor": 0, "device": "keys"},
    PadSample: {"time": 1.0, "control": "left_stick_x", "value": 1.0, "pad": 0},
    ActSample: {"time": 1.0, "path": "l/n", "act": "set", "value": 1, "seat": "main"},
}  # fmt: skip
SETS: dict[str, Callable[[World], object]] = {
    **{f"node.{name}": lambda w: w.node for name in NODE if name not in ("name", "recognisers")},
    **{f"layer.{name}": lambda w: w.layer for name in ("claims", "cursor", "transition", "order", "seats")},
    **{f"scene.{name}": lambda w: w.scene for name in ("size", "fit", "window", "scale", "camera")},
    **{f"seat.{name}": lambda w: w.seat for name in ("focus", "viewport", "devices", "bindings", "camera")},
    **{f"value.{name}": lambda w: Value(1.0, low=0.0, high=2.0) for name in ("current", "low", "high", "step")},
}


def fed(cls: type, good: Mapping[str, Any]) -> Call:
    return lambda w: (lambda **given: w.router.feed(cls(**given)), dict(good))


def formed(cls: type[Form], good: Mapping[str, Any]) -> Call:
    return lambda w: (lambda **given: w.scene.spot("q", cls(**given)), dict(good))


def setting(name: str) -> Call:
    return lambda w: (lambda value: setattr(SETS[name](w), name.partition(".")[2], value), {"value": None})


ALL: dict[str, Call] = {
    **CALLS,
    **{cls.__name__: fed(cls, good) for cls, good in SAMPLES.items()},
    **{cls.__name__: formed(cls, good) for cls, good in FORMS.items()},
    **{name: setting(name) for name in SETS},
}


@pytest.mark.parametrize("name", ALL)
def test_a_wrong_argument_is_a_documented_error_or_is_taken(name: str) -> None:
    _, good = ALL[name](World())
    for key in good:
        for odd in ODD:
            world = World()
            call, given = ALL[name](world)
            try:
                call(**{**given, key: odd})
            except GlentError as error:
                said = str(error)
            except TypeError as error:
                said = str(error) if odd is object else str(error) * bool(KEYWORDS.search(str(error)))
            else:
                said = "taken"
            assert said, f"{key}={odd!r}"
            world.goes_on()


GIVEN_OUT = [
    "Event",
    "ActEvent",
    "DragStart",
    "Hit",
    "Verdict",
    "Drop",
    "Timer",
    "Subscription",
    "Reason",
    "Layer",
    "Panel",
    "Spot",
    "Asked",
    "Contact",
    "Contests",
    "Grab",
    "Recogniser",
    "RayHits",
    "PointerButton",
    "Seat",
    "Node",
    "Shape",
    "BoxShape",
    "Ellipse",
    "Form",
    "Throw",
    "Ray",
]
"""What is made by others, is a base, or has nothing to be given."""


def test_every_public_class_of_the_core_is_walked() -> None:
    walked = {re.split(r"[.\[ ]", name)[0] for name in ALL}
    made = {name for name in glent.__all__ if isinstance(getattr(glent, name), type)}
    errors = {name for name in made if issubclass(getattr(glent, name), Exception)}
    assert made - errors - set(GIVEN_OUT) - walked == set()
