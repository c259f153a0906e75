"""Laws X1, X3, X5 against outside judges: trimesh for surfaces, shapely for areas; exact far from the origin too."""

from __future__ import annotations

import math
import random
import warnings

import numpy as np
import pytest
import shapely
import trimesh

from glent import Area, Cuboid, HeightField, Mesh, Pose, Rectangle, Router, Scene, SnapPoint, Sphere

pytestmark = pytest.mark.long

RAYS = 6_000


def rays_around(seed: int, size: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Rays from anywhere around the origin towards anywhere near it; every tenth from within."""
    rng = np.random.default_rng(seed)
    origins = rng.normal(size=(RAYS, 3)) * 3.0 * size
    origins[::10] *= 0.05
    goals = rng.uniform(-1.2, 1.2, size=(RAYS, 3)) * size
    return origins, goals - origins


def judged(mesh: trimesh.Trimesh, origins: np.ndarray, directions: np.ndarray) -> np.ndarray:
    """How far each ray goes until it first meets a mesh; infinite if it never does."""
    units = directions / np.linalg.norm(directions, axis=1)[:, None]
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        points, rays, _ = mesh.ray.intersects_location(origins, units)
    far = np.full(len(origins), np.inf)
    if len(rays):
        np.minimum.at(far, rays, np.linalg.norm(points - origins[rays], axis=1))
    return far


def turned(seed: int) -> np.ndarray:
    """A rigid matrix: turned anyhow, shifted a little."""
    matrix = trimesh.transformations.random_rotation_matrix(np.random.default_rng(seed).random(3))
    matrix[:3, 3] = np.random.default_rng(seed + 1).uniform(-0.5, 0.5, 3)
    matrix[3] = (0.0, 0.0, 0.0, 1.0)
    return matrix


def both_ways(scene: Scene, origins: np.ndarray, directions: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """The distances and points of the first hits, in one go; each tenth is asked alone too, and must be the same."""
    router = Router(scene)
    hits = router.hits_rays(origins, directions)
    for n in range(0, len(origins), 10):
        alone = next(iter(router.hits_ray(tuple(origins[n].tolist()), tuple(directions[n].tolist()))), None)
        if alone is None:
            assert hits.nodes[n] is None
        else:
            assert hits.nodes[n] is alone.node
            assert hits.distance[n] == pytest.approx(alone.distance, abs=1e-9)
            np.testing.assert_allclose(hits.point[n], alone.point, atol=1e-9)
            np.testing.assert_allclose(hits.normal[n], alone.normal, atol=1e-9)
    return hits.distance, hits.point


def agree(scene: Scene, mesh: trimesh.Trimesh, seed: int, off: float = 1e-6, strays: int = 0) -> None:
    """All rays agree on whether, how far and where; ``strays`` may pass an edge of the judge on its other side."""
    origins, directions = rays_around(seed)
    far = judged(mesh, origins, directions)
    ours, points = both_ways(scene, origins, directions)
    met = np.isfinite(far)
    assert 0.1 < met.mean() < 0.98, "the rays must be worth asking"
    assert (met != np.isfinite(ours)).sum() <= strays
    both = met & np.isfinite(ours)
    close = np.abs(far[both] - ours[both]) <= off
    assert (~close).sum() <= strays
    units = directions / np.linalg.norm(directions, axis=1)[:, None]
    there = origins[both] + far[both, None] * units[both]
    assert (np.linalg.norm(points[both] - there, axis=1)[close] <= off * 1.000001).all()


@pytest.mark.parametrize("seed", [1, 2])
def test_x1_x3_a_flat_panel_is_met_where_its_two_triangles_are(seed):
    matrix = turned(seed)
    scene = Scene((100, 100))
    panel = scene.panel("panel", (1.6, 0.9), (1600, 900), matrix=matrix, two_sided=True)
    panel.solidity = "solid"
    corners = np.array([(-0.8, -0.45, 0), (0.8, -0.45, 0), (0.8, 0.45, 0), (-0.8, 0.45, 0)])
    mesh = trimesh.Trimesh(corners, [(0, 1, 2), (0, 2, 3)], process=False).apply_transform(matrix)
    agree(scene, mesh, seed, strays=2)  # a ray through the very diagonal may slip between the judge's triangles


@pytest.mark.parametrize(("radius", "arc"), [(1.0, 90.0), (-0.7, 200.0), (0.8, 360.0)])
def test_x3_a_curved_panel_is_met_where_a_fine_mesh_of_it_is(radius, arc):
    matrix, strips = turned(7), 600
    scene = Scene((100, 100))
    panel = scene.panel("wall", (None, 1.2), (2000, 1000), matrix=matrix, radius=radius, arc=arc, two_sided=True)
    panel.solidity = "solid"
    angles = np.radians(np.linspace(-arc / 2, arc / 2, strips + 1)) * np.sign(radius)
    across = np.stack([radius * np.sin(angles), np.zeros_like(angles), radius * (1 - np.cos(angles))], axis=1)
    half = np.array((0.0, 0.6, 0.0))
    low, high = across - half, across + half
    n = np.arange(strips)
    faces = np.concatenate([np.stack([n, n + 1, n + strips + 2], 1), np.stack([n, n + strips + 2, n + strips + 1], 1)])
    mesh = trimesh.Trimesh(np.concatenate([low, high]), faces, process=False).apply_transform(matrix)
    # A strip lies within the arc by its sagitta, r · (1 - cos(half a strip)); a grazing ray meets it the farther off.
    sagitta = abs(radius) * (1 - math.cos(math.radians(arc) / strips / 2))
    agree(scene, mesh, 3, off=60 * sagitta, strays=25)


@pytest.mark.parametrize("seed", [4, 5])
def test_x5_a_mesh_spot_is_met_where_the_judge_meets_it(seed):
    solid = trimesh.creation.annulus(0.4, 0.9, 0.6) if seed == 4 else trimesh.creation.icosphere(3)
    matrix = turned(seed)
    scene = Scene((100, 100))
    scene.spot("hull", Mesh(solid.vertices, solid.faces), matrix=matrix)
    agree(scene, solid.copy().apply_transform(matrix), seed, strays=1)


@pytest.mark.parametrize(
    ("form", "mesh"),
    [
        (Cuboid((1.0, 0.6, 1.4)), trimesh.creation.box((1.0, 0.6, 1.4))),
        (Rectangle(1.2, 0.8), trimesh.creation.box((1.2, 0.8, 1e-12))),
    ],
    ids=["box", "patch"],
)
def test_x5_box_and_patch_are_met_where_the_judge_meets_them(form, mesh):
    matrix = turned(11)
    scene = Scene((100, 100))
    scene.spot("crate", form, matrix=matrix)
    agree(scene, mesh.copy().apply_transform(matrix), 6, strays=2)


@pytest.mark.parametrize("kind", [Sphere, SnapPoint])
def test_x5_a_ball_is_met_where_its_equation_says(kind):
    scene = Scene((100, 100))
    scene.spot("buoy", kind(0.8), position=(0.2, 0.1, -0.3))
    origins, directions = rays_around(8)
    ours, _ = both_ways(scene, origins, directions)
    units = directions / np.linalg.norm(directions, axis=1)[:, None]
    away = origins - (0.2, 0.1, -0.3)
    b, c = (away * units).sum(axis=1), (away * away).sum(axis=1) - 0.64
    with np.errstate(invalid="ignore"):
        root = np.sqrt(b * b - c)
    near = np.where(-b - root >= 0, -b - root, np.where(-b + root >= 0, -b + root, np.inf))
    near = np.where(np.isnan(near), np.inf, near)
    assert (np.isfinite(near) == np.isfinite(ours)).all()
    met = np.isfinite(near)
    np.testing.assert_allclose(ours[met], near[met], atol=1e-6)


STAR = [
    (r * math.cos(n * math.pi / 5), r * math.sin(n * math.pi / 5)) for n in range(10) for r in [2.0 if n % 2 else 5.0]
]
DOCK = [(-6, -4), (6, -4), (6, 4), (3, 4), (3, -1), (-3, -1), (-3, 4), (-6, 4)]
HOLE = [(4, -3), (5, -3), (5, 3), (4, 3)]
ISLE = [(4.3, -2), (4.7, -2), (4.7, 2), (4.3, 2)]


@pytest.mark.parametrize(
    "rings", [[STAR], [DOCK], [DOCK, HOLE], [DOCK, HOLE, ISLE]], ids=["star", "dock", "hole", "isle"]
)
def test_x5_an_area_has_the_points_that_shapely_says(rings):
    polygon = shapely.Polygon(rings[0], rings[1:2])
    for isle in rings[2:]:
        polygon = polygon.union(shapely.Polygon(isle))
    rng = np.random.default_rng(9)
    x, z = rng.uniform(-7, 7, (2, RAYS))
    expected = shapely.contains_xy(polygon, x, z)
    assert 0.1 < expected.mean() < 0.9
    area = Area(rings)
    assert (area.inside(x, z) == expected).all()
    assert [area.contains(a, b) for a, b in zip(x[:500], z[:500], strict=True)] == expected[:500].tolist()
    scene = Scene((100, 100))
    scene.spot("berth", area)
    down = np.tile([0.0, -2.0, 0.0], (RAYS, 1))
    hits = Router(scene).hits_rays(np.stack([x, np.full(RAYS, 3.0), z], axis=1), down)
    assert (np.isfinite(hits.distance) == expected).all()
    np.testing.assert_allclose(hits.distance[expected], 3.0)


def rough(seed: int = 3) -> HeightField:
    rng = np.random.default_rng(seed)
    return HeightField(rng.uniform(0.0, 1.5, (17, 21)), 0.75, (-7.5, -6.0))


def test_x5_a_draped_area_is_met_where_the_judge_meets_the_ground_within_the_outline():
    ground = rough()
    vertices, faces = ground.triangles()
    mesh = trimesh.Trimesh(vertices, faces, process=False)
    polygon = shapely.Polygon(DOCK, [HOLE])
    scene = Scene((100, 100))
    scene.spot("slipway", Area([DOCK, HOLE], ground=ground))
    rng = np.random.default_rng(10)
    origins = rng.uniform((-9, -1, -8), (9, 5, 8), (RAYS, 3))
    directions = rng.uniform((-7, 0, -5), (7, 1.5, 5), (RAYS, 3)) - origins
    units = directions / np.linalg.norm(directions, axis=1)[:, None]
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        points, rays, _ = mesh.ray.intersects_location(origins, units, multiple_hits=True)
    inside = shapely.contains_xy(polygon, points[:, 0], points[:, 2])
    far = np.full(RAYS, np.inf)
    np.minimum.at(far, rays[inside], np.linalg.norm(points - origins[rays], axis=1)[inside])
    ours, _ = both_ways(scene, origins, directions)
    assert 0.1 < np.isfinite(far).mean() < 0.9
    both = np.isfinite(far) & np.isfinite(ours)
    astray = (np.isfinite(far) != np.isfinite(ours)).sum() + (np.abs(far[both] - ours[both]) > 1e-6).sum()
    assert astray <= 2  # through the very edge of two triangles, or of the outline


def test_x5_heights_between_the_values_are_those_of_the_two_triangles():
    ground = rough()
    vertices, faces = ground.triangles()
    mesh = trimesh.Trimesh(vertices, faces, process=False)
    rng = random.Random(4)
    places = [(rng.uniform(-7.4, 7.4), rng.uniform(-5.9, 5.9)) for _ in range(300)]
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        points, rays, _ = mesh.ray.intersects_location([(x, 9, z) for x, z in places], [(0, -1, 0)] * 300)
    for point, ray in zip(points, rays, strict=True):
        assert ground.at(*places[ray]) == pytest.approx(point[1], abs=1e-9)
    assert len(set(rays)) == 300


@pytest.mark.parametrize("away", [0.0, 1000.0], ids=["near", "1 km"])
@pytest.mark.parametrize(
    "curve", [{}, {"radius": 1.4, "arc": 110.0}, {"radius": -0.6, "arc": 150.0}], ids=["flat", "hollow", "bulging"]
)
def test_x3_local_points_keep_to_a_thousandth_of_a_pixel_at_a_metre(curve, away):
    rng = random.Random(12)
    place = (away, away / 3, -away)
    scene = Scene((100, 100))
    width = None if curve else 1.2
    panel = scene.panel(
        "panel", (width, 0.8), (1200, 800), position=place, facing=(0.3, 0.2, 1.0), **curve, two_sided=True
    )
    panel.solidity = "solid"
    router = Router(scene)
    for _ in range(500):
        x, y = rng.uniform(0, 1200), rng.uniform(0, 800)
        goal, out = panel.to_world(x, y), panel.normal(x, y)
        lean = [one + rng.uniform(-0.4, 0.4) for one in out]
        origin = tuple(goal[n] + lean[n] / math.hypot(*lean) for n in range(3))
        hit = router.hits_ray(origin, tuple(goal[n] - origin[n] for n in range(3)))[0]
        assert math.dist(hit.local, (x, y)) <= 0.001
        assert hit.distance == pytest.approx(1.0, abs=1e-6)
        assert math.dist(hit.point, goal) <= 1e-6


def test_x5_a_pose_that_shears_and_mirrors_still_meets_where_the_judge_does():
    matrix = np.array([(1.2, 0.5, 0, 0.1), (0, -0.8, 0.2, 0), (0.1, 0, 1.5, -0.2), (0, 0, 0, 1)])
    scene = Scene((100, 100))
    solid = trimesh.creation.icosphere(2)
    scene.spot("float", Mesh(solid.vertices, solid.faces), matrix=matrix)
    agree(scene, solid.copy().apply_transform(matrix), 13, strays=1)
    assert Pose(matrix=matrix).into(Pose(matrix=matrix).out((0.3, -2.0, 5.0))) == pytest.approx((0.3, -2.0, 5.0))
