"""Laws X1, X2, X4–X6: what a ray meets, by which camera, and what holds it."""

from __future__ import annotations

import math

import pytest

from glent import (
    Area,
    Camera,
    Cuboid,
    Feel,
    Place,
    Reason,
    Rectangle,
    Router,
    Scene,
    SnapPoint,
    Sphere,
    Throw,
)
from glent.testing import Hand
from quay import Quay

Vector3 = tuple[float, float, float]

# -- X1: the nearest wins --------------------------------------------------------------------------------------------


def test_x1_the_nearest_surface_wins_panel_or_spot():
    quay = Quay()
    quay.add("send", (20, 20, 60, 60))
    post = quay.scene.spot("post", Sphere(0.2), position=(0.0, 1.5, -1.0))
    assert quay.wand.aim("board/send").spot.node is post
    post.visible = False
    assert quay.wand.aim("board/send").owner is quay.scene["board/send"]
    verdict = quay.wand.aim((0.0, 0.0, -1.0))
    assert (verdict.world, verdict.reason, verdict.spot.node, verdict.owner) == (True, Reason.SPOT, quay.water, None)
    assert verdict.spot.tags == {"sea"}
    assert "water, a spot of the world" in verdict.why


def test_x1_a_hollow_part_of_a_panel_lets_the_ray_through_and_glass_asks_on():
    quay = Quay(water=False)
    behind = quay.scene.panel("behind", (4, 4), (400, 400), position=(0.0, 1.5, -3.0))
    quay.add("wide", (0, 0, 400, 400), "press enter", parent=behind)
    quay.add("pane", (40, 40, 20, 20), "press enter", solidity="glass")
    assert quay.wand.aim((-0.4, 1.5, -2.0)).owner is behind["wide"]
    assert quay.said() == ["enter wide"]
    quay.wand.aim("board/pane")
    assert quay.said() == ["enter pane"]  # both are hovered now (law P5)
    verdict = quay.wand.press()
    assert quay.said() == ["press pane", "press wide"]
    assert verdict.owner is behind["wide"]
    assert [(hit.node.name, hit.offered) for hit in quay.router.hits_ray((0, 1.5, 0), (0, 0, -1))] == [
        ("pane", True),
        ("wide", True),
    ]


@pytest.mark.parametrize(
    ("solidity", "hears", "world", "owner", "ends"),
    [
        (None, "", True, False, True),
        (None, "enter leave", True, False, True),
        (None, "click", False, True, True),
        ("solid", "", False, True, True),
        ("glass", "", True, False, False),
        ("hollow", "click", True, False, False),
        ("ghost", "click", True, False, False),
    ],
)
def test_x1_what_a_spot_does_with_a_press_goes_by_its_handlers_and_solidity(solidity, hears, world, owner, ends):
    quay = Quay(water=False)
    post = quay.hear(quay.scene.spot("post", Cuboid((1, 1, 1)), position=(0, 1.5, -3), solidity=solidity), hears)
    back = quay.scene.spot("back", Rectangle(9, 9), position=(0, 1.5, -6))
    quay.wand.aim((0.0, 1.5, -3.0))
    verdict = quay.wand.press()
    assert (verdict.world, verdict.owner is post) == (world, owner)
    assert verdict.spot.node is (post if ends else back)
    quay.wand.release()
    assert quay.said()[:1] == [f"{kind} post" for kind in hears.split()[:1] if solidity is None]


def test_x1_of_two_at_one_distance_order_decides_then_what_came_later():
    scene = Scene((100, 100))
    one = scene.panel("one", (1, 1), (100, 100), position=(0, 0, -2))
    two = scene.panel("two", (1, 1), (100, 100), position=(0, 0, -2))
    one.solidity = two.solidity = "solid"
    router = Router(scene)
    ahead = ((0.0, 0.0, 0.0), (0.0, 0.0, -1.0))
    assert [hit.node.name for hit in router.hits_ray(*ahead)] == ["two", "one"]
    one.order = 1
    assert [hit.node.name for hit in router.hits_ray(*ahead)] == ["one", "two"]
    assert router.hits_rays([ahead[0]], [ahead[1]]).nodes == [one]


# -- X2: fronts, backs, lengths --------------------------------------------------------------------------------------


@pytest.mark.parametrize("curve", [{}, {"size": (None, 1.0), "radius": 1.0, "arc": 60.0}], ids=["flat", "curved"])
def test_x2_the_back_of_a_panel_is_not_hit_unless_two_sided_but_can_block(curve):
    quay = Quay(**curve)
    quay.add("send", (0, 0, 100, 100), "click")
    quay.wand.origin = (0.0, 1.5, -4.0)
    assert quay.wand.aim((0.0, 1.2, -2.0)).spot.node is quay.water
    quay.panel.reverse = "blocked"
    verdict = quay.wand.aim((0.1, 1.2, -2.0))
    assert (verdict.world, verdict.owner, verdict.spot, verdict.reason) == (False, None, None, Reason.REVERSE)
    assert quay.wand.press().world is False
    assert quay.wand.release().world is False
    quay.panel.two_sided = True
    assert quay.wand.click((0.2, 1.5, -2.0)).owner is quay.scene["board/send"]
    assert quay.events[-1].local[0] == pytest.approx(quay.events[-1].point[0] * 100 + 50, abs=2.0)


def test_x2_beyond_the_panels_or_the_rays_length_nothing_is_hit():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100))
    send = quay.scene["board/send"]
    quay.wand.length = 1.9
    assert quay.wand.aim("board/send").owner is None
    quay.wand.length = 2.1
    assert quay.wand.aim("board/send").owner is send
    quay.panel.range = 1.5
    assert quay.wand.aim("board/send").world
    quay.wand.origin = (0.0, 1.5, -1.0)
    assert quay.wand.aim("board/send").owner is send
    assert quay.router.hits_ray((0, 1.5, 0), (0, 0, -1), length=3) == []


def test_x3_a_ray_from_outside_comes_through_a_curved_panel_twice_and_each_node_is_offered_once():
    scene = Scene((100, 100))
    ring = scene.panel("ring", (None, 1.0), (360, 100), radius=1.0, arc=360.0, two_sided=True)
    ring.add("all", place=Place(left=0, top=0, right=0, bottom=0), solidity="glass").on("press", lambda event: None)
    router = Router(scene)
    axis = ring.to_world(180, 50)
    hits = router.hits_ray((axis[0], axis[1], axis[2] + 5), (0, 0, -1))
    assert [hit.node.name for hit in hits] == ["all"]
    assert hits[0].distance == pytest.approx(3.0)  # the near side, from behind; its front looks inwards
    ring.two_sided = False
    assert router.hits_ray((axis[0], axis[1], axis[2] + 5), (0, 0, -1))[0].distance == pytest.approx(5.0)


# -- X4: the camera --------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("seen", [{"fov": 70.0}, {"fov": 20.0, "near": 0.5}, {"height": 3.0}])
@pytest.mark.parametrize("view", [(0.0, 0.0, 200.0, 100.0), (30.0, 10.0, 64.0, 80.0)])
def test_x4_a_point_that_is_projected_has_a_ray_that_comes_through_it(seen, view):
    camera = Camera((1.0, 2.0, 3.0), (0.5, 0.0, -4.0), **seen)
    for point in [(0.0, 0.0, 0.0), (1.0, -1.0, -3.0), (-2.0, 1.5, -7.0)]:
        x, y = camera.project(point, view)
        ray = camera.ray(x, y, view)
        away = math.dist(ray.origin, point)
        assert math.dist(ray.at(away), point) < 1e-9
    assert camera.project((1.0, 2.0, 30.0), view) is None  # behind it
    middle = camera.ray(view[0] + view[2] / 2, view[1] + view[3] / 2, view)
    assert math.dist(middle.direction, camera.ahead) < 1e-12


def test_x4_screen_layers_come_first_then_the_ray():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100))
    quay.scene.camera = Camera((0.0, 1.5, 0.0), (0.0, 1.5, -2.0), fov=60)
    hud = quay.scene.layer("hud")
    bar = hud.add("bar", place=Place(left=0, top=0, width=200, height=20), solidity="solid")
    fog = hud.add("fog", place=Place(left=0, top=20, width=200, height=40), solidity="glass")
    hand = Hand(quay.router)
    assert hand.move((100, 10)).owner is bar
    assert hand.click((100, 50)).owner is quay.scene["board/send"]
    assert quay.said() == ["click send"]
    assert quay.events[0].local == pytest.approx((50.0, 50.0))
    assert quay.events[0].point == pytest.approx((0.0, 1.5, -2.0))
    assert [hit.node for hit in quay.router.hits(100, 50)] == [fog, quay.scene["board/send"]]
    assert not quay.router.would_reach_world(100, 50)
    assert quay.router.would_reach_world(100, 99)
    assert hand.move((100, 99)).spot.node is quay.water
    quay.scene.camera = None
    assert hand.move((100, 50)).world


def test_x4_each_seat_looks_through_a_camera_and_viewport_of_its_own():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100))
    quay.router.seat().viewport = (0, 0, 0.5, 1)
    guest = quay.router.add_seat("guest", viewport=(0.5, 0, 0.5, 1))
    quay.router.seat().camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    guest.camera = Camera((0, 1.5, 0), (0, 1.5, 2), fov=60)
    hand = Hand(quay.router)
    assert hand.move((50, 50)).owner is quay.scene["board/send"]
    assert hand.move((150, 50)).world
    guest.camera = Camera((0, 1.5, 2), (0, 1.5, -2), fov=60)
    assert hand.click((150, 50)).seat == "guest"
    assert quay.events[-1].seat == "guest"
    assert quay.events[-1].local == pytest.approx((50, 50))


def test_x4_p7_hover_follows_a_camera_that_moves_under_a_still_mouse():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100), "enter leave click")
    quay.scene.camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    Hand(quay.router).move((100, 50))
    assert quay.said() == ["enter send"]
    quay.scene.camera = Camera((0, 1.5, 0), (2, 1.5, 0), fov=60)
    quay.router.settle()
    assert quay.said() == ["leave send"]


# -- X5: spots, snaps, arcs ------------------------------------------------------------------------------------------


def test_x5_a_spot_answers_with_point_normal_distance_snap_and_tags():
    scene = Scene((100, 100))
    scene.spot("bollard", SnapPoint(0.3), position=(0, 0.5, -4), tags=["iron"])
    berth = scene.spot("berth", Area([(-2, -8), (2, -8), (2, -6), (-2, -6)], snap=(0, -7)), position=(0, 0.1, 0))
    router = Router(scene)
    hit = router.hits_ray((0, 0.5, 0), (0, 0, -2))[0]
    assert (hit.point, hit.normal, hit.distance) == ((0, 0.5, -3.7), (0, 0, 1), pytest.approx(3.7))
    assert (hit.snap, hit.tags, hit.local) == ((0, 0.5, -4), {"iron"}, (0, 0))
    hit = router.hits_ray((1, 4, -6.5), (0, -1, 0))[0]
    assert (hit.node, hit.snap, hit.normal) == (berth, (0, 0.1, -7), (0, 1, 0))
    assert router.hits_ray((1, -4, -6.5), (0, 1, 0))[0].normal == (0, -1, 0)  # on the side it came from


def test_x5_a_moving_spot_is_hit_where_it_is_and_hover_follows():
    quay = Quay(water=False)
    barge = quay.hear(quay.scene.spot("barge", Cuboid((2, 1, 2)), position=(0, 1, -6)), "enter leave")
    quay.wand.aim((0.0, 1.0, -6.0))
    for x in range(1, 9):
        barge.move((x, 1.0, -6.0))
        quay.router.tick(quay.router.now + 0.02)
    assert quay.said() == ["enter barge", "leave barge"]
    assert barge.pose.position == (8.0, 1.0, -6.0)
    barge.form = Sphere(9.0)
    quay.router.settle()
    assert quay.said() == ["enter barge"]
    barge.remove()
    assert quay.said() == ["leave barge"]
    assert quay.router.hits_ray((0, 1, 0), (0, 0, -1)) == []


def test_x5_a_thrown_arc_lands_on_the_first_surface_it_meets_and_no_farther_than_its_cap():
    quay = Quay()
    arc = Throw.from_velocity((0, 1.5, 0), (0, 3.0, -4.0))
    landed = quay.router.hits_throw(arc)
    assert [hit.node for hit in landed] == [quay.water]
    fall = (3.0 + math.sqrt(9.0 + 2 * 9.81 * 1.5)) / 9.81
    assert landed[0].point == pytest.approx((0, 0, -4.0 * fall), abs=0.02)
    assert landed[0].distance > 4.0 * fall
    assert quay.router.hits_throw(Throw.from_velocity((0, 1.5, 0), (0, 3.0, -4.0), length=2.0)) == []
    quay.add("send", (0, 0, 100, 100))
    low = quay.router.hits_throw(Throw([(0, 1.5, 0), (0, 1.6, -1), (0, 1.4, -3), (0, -1, -5)]))
    assert [hit.node.name for hit in low] == ["send"]
    assert low[0].distance == pytest.approx(
        math.dist((0, 1.5, 0), (0, 1.6, -1)) + math.dist((0, 1.6, -1), low[0].point)
    )


def test_x5_a_pointer_that_throws_presses_what_its_throw_lands_on():
    quay = Quay()
    deck = quay.hear(quay.scene.spot("deck", Rectangle(2, 2), (0, 1, -4), (0, 1, 0)), "enter leave press click")
    verdict = quay.wand.throw((0.0, 3.0, -6.0))
    landed = quay.router.hits_throw(Throw.from_velocity((0, 1.5, 0), (0.0, 3.0, -6.0)))
    assert verdict.owner is landed[0].node is deck
    assert verdict.spot.point == pytest.approx(landed[0].point, abs=1e-5)
    assert verdict.spot.distance == pytest.approx(landed[0].distance, abs=1e-5)
    assert quay.wand.press().owner is deck
    quay.wand.release()
    assert quay.said() == ["enter deck", "press deck", "click deck"]
    assert quay.events[-1].point == pytest.approx(landed[0].point, abs=1e-5)
    deck.move((30, 1, -4))
    quay.router.settle()
    assert quay.said() == ["leave deck"], "hover is true without movement (P7)"
    assert quay.wand.throw((0.0, 3.0, -4.0)).spot.node is quay.water
    quay.wand.length = 2.0
    assert quay.wand.throw((0.0, 3.0, -4.0)).spot is None


def test_x5_what_a_throw_passes_within_reach_is_caught_only_if_it_lands_on_nothing_that_wants_it():
    quay = Quay()
    post = quay.hear(quay.scene.spot("post", Cuboid((0.3, 2, 0.3)), (0.4, 1, -3), reach={"ray": 6.0}), "click")
    beside = quay.wand.throw((0.0, 1.0, -6.0))
    assert beside.owner is post
    assert beside.spot.node is post
    assert quay.wand.throw((-1.0, 1.0, -6.0)).spot.node is quay.water
    deck = quay.hear(quay.scene.spot("deck", Rectangle(4, 4), (0, 0.5, -4.5), (0, 1, 0)), "click")
    assert quay.wand.throw((0.0, 1.0, -6.0)).owner is deck


def test_x6_a_throw_drags_where_it_comes_through_its_panel_and_trembling_drags_nothing():
    quay = Quay()
    quay.add("slider", (20, 20, 60, 60), "drag_start drag click")
    quay.wand.throw((0.0, 1.9, -6.5))
    quay.wand.press()
    for tremble in (0.01, -0.01, 0.0):
        quay.wand.throw((tremble, 1.9, -6.5))
    assert quay.said() == []
    for x in (0.5, 1.0, 1.5, 2.5, 4.0):
        quay.wand.throw((x, 1.9, -6.5))
    xs = [event.local[0] for event in quay.events if event.kind == "drag"]
    assert xs == sorted(xs)
    assert xs[-1] > 80, "beyond the edge of the panel"
    quay.wand.release()
    assert "click slider" not in quay.said()


# -- X6: grabs -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("curve", [{}, {"size": (None, 1.0), "radius": 2.0, "arc": math.degrees(0.5)}])
def test_x6_dragging_goes_on_when_the_ray_slides_off_the_edge_and_keeps_its_last_point_when_it_misses(curve):
    quay = Quay(**curve)
    quay.add("slider", (10, 40, 80, 20), "drag_start drag drag_end press")
    quay.wand.aim("board/slider")
    quay.wand.press()
    inside = quay.wand.aim((0.3, 1.5, -2.0))
    assert inside.owner is quay.scene["board/slider"]
    quay.wand.aim((1.0, 1.5, -2.0))
    drags = [event for event in quay.events if event.kind == "drag"]
    assert drags[-1].local[0] > 80  # beyond the edge of the panel
    assert drags[-1].data["x"] == pytest.approx(drags[-1].local[0] - 40, abs=1e-6)
    before = drags[-1].local
    verdict = quay.wand.aim((0.0, 9.0, 0.0))  # along it
    assert verdict.owner is quay.scene["board/slider"]
    assert quay.router._state.pointers["ray"].pos == pytest.approx((before[0] + 10, before[1] + 40))
    quay.wand.release()
    assert quay.events[-1].kind == "drag_end"
    assert quay.events[-1].local == pytest.approx(before)


def test_x6_a_panel_that_moves_carries_its_grab_along():
    quay = Quay(water=False)
    quay.add("slider", (10, 40, 80, 20), "drag_start drag")
    quay.wand.aim("board/slider")
    quay.wand.press()
    quay.wand.aim((0.1, 1.5, -2.0))
    x = quay.events[-1].data["x"]
    # The ship sails on, and he who points stands on it.
    for step in range(1, 20):
        at = (step * 3.0, 1.5, -2.0)
        quay.panel.move(at)
        quay.wand.origin = (step * 3.0, 1.5, 0.0)
        quay.wand.aim((at[0] + 0.1, 1.5, -2.0))
    assert quay.events[-1].data["x"] == pytest.approx(x, abs=1e-3)
    # It turns away under a ray that keeps still: the point on it is another one.
    quay.panel.move(facing=(0.5, 0.0, 1.0))
    quay.wand.aim((57.1, 1.5, -2.0))
    assert quay.events[-1].local[0] != pytest.approx(x + 40, abs=1e-3)
    assert math.dist(quay.events[-1].point, quay.panel.to_world(*quay.router._state.pointers["ray"].pos)) < 1e-9


def test_g7_thresholds_are_degrees_for_rays_and_carried_along_by_a_panel_that_moves():
    quay = Quay(water=False)
    quay.add("crate", (10, 10, 80, 80), "drag_start click")
    quay.wand.aim("board/crate")
    quay.wand.press()
    wide = math.tan(math.radians(Feel().ray_threshold)) * 2.0
    quay.wand.aim((wide * 0.95, 1.5, -2.0))
    assert quay.said() == []
    quay.wand.aim((wide * 1.05, 1.5, -2.0))
    assert quay.said() == ["drag_start crate"]
    quay.wand.release()
    quay.wand.aim("board/crate")
    quay.wand.press()
    quay.panel.move((5.0, 1.5, -2.0))
    quay.wand.origin = (5.0, 1.5, 0.0)
    quay.wand.aim("board/crate")
    quay.wand.release()
    assert quay.said() == ["click crate"]  # 68 degrees in the world, and none on the panel


# -- reach, and many rays --------------------------------------------------------------------------------------------


@pytest.mark.parametrize("way", [(-1.0, 0.0), (1.0, 0.0), (0.0, 1.0), (0.0, -1.0)])
@pytest.mark.parametrize(
    ("position", "facing", "near", "far"),
    [
        ((0.0, 0.0, -0.6), (0.0, 1.0, 0.0), 3.5, 4.5),
        ((-0.5, 0.0, -0.4), (0.0, 1.0, 0.0), 3.5, 4.5),
        ((-0.6, 0.0, -0.4), (0.6, 1.0, 0.4), 3.5, 4.5),
        ((0.4, 0.0, -2.5), (0.0, 1.0, 0.0), 3.0, 6.0),  # the more aslant, the less exact
        ((1.5, 0.0, -1.5), (0.0, 1.0, 0.0), 3.0, 6.0),
    ],
)
@pytest.mark.parametrize("reached", [True, False])
def test_h5_a_ray_that_points_down_reaches_as_far_to_every_side(
    position: Vector3, facing: Vector3, near: float, far: float, way: tuple[float, float], reached: bool
) -> None:
    beside = near if reached else far
    scene = Scene((100, 100))
    floor = scene.panel("floor", (4.0, 4.0), (400, 400), position=position, facing=facing, up=(0, 0, -1))
    floor.add("key", place=Place(180, 180, width=40, height=40), role="button", reach={"ray": 4})
    router = Router(scene)
    eye = (0.0, 2.0, 0.0)
    middle = scene.to_world(floor["key"], 20.0 + 20.0 * way[0], 20.0 + 20.0 * way[1])  # the middle of an edge
    farther = scene.to_world(floor["key"], 20.0 + 21.0 * way[0], 20.0 + 21.0 * way[1])
    to, out = ([a - b for a, b in zip(at, eye, strict=True)] for at in (middle, farther))
    # Turn from the edge outwards, square to the way there, by so many degrees.
    side = [b - a for a, b in zip(to, out, strict=True)]
    long = math.sqrt(sum(one * one for one in to))
    along = sum(a * b for a, b in zip(side, to, strict=True)) / (long * long)
    square = [a - along * b for a, b in zip(side, to, strict=True)]
    size = math.sqrt(sum(one * one for one in square))
    aside = math.tan(math.radians(beside)) * long
    aim = tuple(a + b / size * aside for a, b in zip(to, square, strict=True))
    found = [hit.node.name for hit in router.hits_ray(eye, aim)]
    assert ("key" in found) is reached


@pytest.mark.parametrize(("beside", "reached"), [(8.0, True), (12.0, False)])
def test_x4_an_orthographic_camera_reaches_by_pixels_of_the_screen(beside: float, reached: bool) -> None:
    scene = Scene((200, 100))
    scene.camera = Camera((0.0, 0.0, 2.0), (0.0, 0.0, 0.0), fov=None, height=2.0)  # 50 pixels a metre
    panel = scene.panel("board", (2.0, 1.0), (200, 100))
    panel.add("key", place=Place(80, 30, width=40, height=40), role="button", reach={"touch": 10})
    router = Router(scene)
    right = router.scene.point(panel["key"], 40.0, 20.0)
    hits = router.hits(right[0] + beside, right[1], kind="touch")
    assert ("key" in [hit.node.name for hit in hits]) is reached


def test_x4_what_a_solid_layer_covers_is_not_hovered_in_the_world_behind_it() -> None:
    scene = Scene((200, 100))
    scene.camera = Camera((0.0, 0.0, 2.0), (0.0, 0.0, 0.0), fov=60)
    board = scene.panel("board", (2.0, 1.0), (200, 100))
    key = board.add("key", place=Place(50, 20, width=100, height=60), role="button")
    shutter = scene.layer("hud").add("shutter", solidity="solid", seats=["main"])
    router = Router(scene)
    router.add_seat("two", ["keys2"])
    hand = Hand(router)
    hand.move((100.0, 50.0))
    assert (shutter.hovered, key.hovered) == (True, False)
    assert [hit.node.name for hit in router.hits(100.0, 50.0) if hit.offered] == ["shutter"]
    shutter.visible = False
    router.settle()
    assert key.hovered


def test_x1_many_rays_are_answered_one_by_one_too_where_they_meet_nothing():
    quay = Quay(water=False)
    quay.add("send", (20, 20, 60, 60), reach={"ray": 3})
    ways = [(0.0, 0.0, -1.0), (0.0, 0.0, 1.0), (0.24, 0.0, -1.0)]
    found = quay.router.hits_rays((0.0, 1.5, 0.0), ways)
    for number, way in enumerate(ways):
        first = next((hit for hit in quay.router.hits_ray((0.0, 1.5, 0.0), way) if hit.offered), None)
        assert found.nodes[number] is (first.node if first is not None else None)
