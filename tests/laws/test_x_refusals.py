"""What cannot stand in the world or point into it is refused by name, and leaves no trace."""

from __future__ import annotations

import math
from typing import Any

import pytest

from glent import (
    Area,
    Camera,
    Cuboid,
    HeightField,
    Mesh,
    Pose,
    RaySample,
    Router,
    SampleError,
    Scene,
    SceneError,
    ShapeError,
    Sphere,
    Throw,
)
from quay import Quay

# -- what cannot be --------------------------------------------------------------------------------------------------


PANEL: dict[str, Any] = {"size": (1, 1), "pixels": (100, 100)}
FLAT = [[1, 0, 0, 0], [0, 1, 0, 0], [1, 1, 0, 0], [0, 0, 0, 1]]


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda s: s.panel("chart", **PANEL, facing=(0, 0, 0)), r"chart: facing is \(0, 0, 0\), which has no length"),
        (lambda s: s.panel("chart", **PANEL, position=(0, math.nan, 0)), r"chart: position is \(0, nan, 0\)"),
        (lambda s: s.panel("chart", **PANEL, facing=(0, 2, 0), up=(0, 1, 0)), "chart: up is .* along facing"),
        (lambda s: s.panel("chart", **PANEL, matrix=FLAT), "chart: matrix is .* singular"),
        (lambda s: s.panel("chart", **PANEL, matrix=[[1, 2], [3, 4]]), "chart: matrix is .* expected a 4×4 matrix"),
        (lambda s: s.panel("chart", (0, 1), (100, 100)), r"chart: size in metres is \(0, 1\)"),
        (lambda s: s.panel("chart", (1, 1), (100, 100), radius=0), "chart: radius is 0"),
        (lambda s: s.panel("chart", (1, 1), (100, 100), arc=20), "chart: arc is 20 without a radius"),
        (lambda s: s.panel("chart", (9, 1), (100, 100), radius=1), "chart: size is .* more than once round"),
        (lambda s: s.panel("chart", (1, 1), (100, 100), radius=1, arc=20), "chart: size is .* agrees"),
        (lambda s: s.panel("chart", **PANEL, reverse="open"), "chart: reverse is 'open'"),
        (lambda s: s.panel("chart", **PANEL, range=-1), "chart: range is -1"),
        (lambda s: s.panel("taken", **PANEL), "taken: the name is already taken by a spot"),
        (lambda s: s.spot("berth", Area([(0, 0), (1, 1)])), "berth: Area: outline .* 2 points, expected at least 3"),
        (lambda s: s.spot("berth", Area([(0, 0), (2, 2), (2, 0), (0, 2)])), "berth: Area: outline crosses itself"),
        (lambda s: s.spot("berth", Area([[(0, 0), (4, 0), (4, 4)], [(1, -1), (3, -1), (3, 1)]])), "berth: .* ring 1"),
        (lambda s: s.spot("berth", Area([(0, 0), (1, 0), (math.inf, 1)])), "berth: Area: outline .* finite"),
        (lambda s: s.spot("berth", Area([(0, 0), (1, 1), (2, 2)])), "berth: Area: outline"),
        (lambda s: s.spot("hull", Mesh([(0, 0, 0), (1, 0, 0), (0, 1, 0)], [(0, 1, 3)])), r"hull: Mesh: triangles\[0\]"),
        (lambda s: s.spot("hull", Mesh([(0, 0, 0), (1, 0, 0), (0, 1, 0)], [(0, 1, -1)])), "hull: Mesh: triangles"),
        (lambda s: s.spot("hull", Mesh([(0, 0, math.nan)] * 3, [(0, 1, 2)])), r"hull: Mesh: vertices\[0\] is"),
        (lambda s: s.spot("hull", Mesh([(0, 0)] * 3, [(0, 1, 2)])), r"hull: Mesh: vertices has the shape"),
        (lambda s: s.spot("buoy", Sphere(-1)), "buoy: Sphere: radius is -1"),
        (lambda s: s.spot("buoy", Cuboid((1, math.inf, 1))), "buoy: Cuboid: size"),
        (lambda s: s.spot("buoy", "ball"), "buoy: form is 'ball'"),
        (lambda s: s["taken"].add("child"), "taken/child: cannot be added, taken is a spot"),
        (lambda s: s["taken"].move(matrix=FLAT), "taken: matrix is .* singular"),
        (lambda s: setattr(s, "camera", "eye"), "the scene: camera is 'eye'"),
        (lambda s: Camera((0, 0, 0), (0, 0, 0), fov=60), "Camera: target is .* at the eye"),
        (lambda s: Camera((0, 0, 0), (0, 0, 1)), "Camera: fov is None and height is None"),
        (lambda s: Camera((0, 0, 0), (0, 0, 1), fov=180), "Camera: fov is 180"),
        (lambda s: HeightField([[0, 1], [math.nan, 2]], 1.0), r"HeightField: values\[1, 0\] is nan"),
        (lambda s: Throw([(0, 0, 0), (0, 0, 0)]), "Throw: points has 1 places"),
        (lambda s: Throw.from_velocity((0, 0, 0), (1, 0, 0), length=0), "Throw: length is 0"),
    ],
)  # fmt: skip
def test_what_cannot_stand_in_the_world_is_refused_by_name_and_leaves_no_trace(make, says):
    scene = Scene((100, 100))
    scene.spot("taken", Sphere(1.0))
    router = Router(scene)
    with pytest.raises((SceneError, ShapeError), match=says):
        make(scene)
    assert [one.name for one in scene.in_world] == ["taken"]
    assert scene["taken"].pose == Pose()
    assert scene.camera is None
    assert router.hits_ray((0, 0, 5), (0, 0, -1))[0].distance == pytest.approx(4.0)


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ({"direction": (0, 0, 0)}, r"RaySample: direction is \(0, 0, 0\), which has no length"),
        ({"direction": (0, math.nan, 0)}, "RaySample: direction is"),
        ({"origin": (0, math.inf, 0)}, "RaySample: origin is"),
        ({"origin": (0, 0)}, "RaySample: origin is .* three numbers"),
        ({"action": "poke"}, "RaySample: action is 'poke'"),
        ({"length": 0}, "RaySample: length is 0"),
        ({"button": 9}, "RaySample: button is 9|PointerSample: button is 9"),
        ({"path": ()}, "RaySample: path is 0 points"),
        ({"path": "east"}, "RaySample: path is 'east'"),
        ({"path": [(0, 1, 0)]}, "RaySample: path ends where it begins"),
        ({"path": [(0, 1, -1), (0, math.nan, 0)]}, r"RaySample: path\[1\] is"),
    ],
)
def test_a_ray_sample_that_cannot_be_is_refused_and_changes_nothing(given, says):
    quay = Quay()
    quay.wand.aim("water")
    before = quay.wand.verdicts[-1].spot.point
    sample = RaySample(**{"time": 1.0, "action": "move", "origin": (0, 1, 0), "direction": (0, -1, -1), **given})
    with pytest.raises(SampleError, match=says):
        quay.router.feed(sample)
    assert quay.router.now < 1.0
    with pytest.raises(SampleError, match="direction"):
        quay.router.hits_ray((0, 0, 0), (0, 0, 0))
    with pytest.raises(SampleError, match="row 1"):
        quay.router.hits_rays([(0, 0, 0)] * 2, [(0, 0, 1), (0, 0, 0)])
    assert quay.wand.aim("water").spot.point == before
