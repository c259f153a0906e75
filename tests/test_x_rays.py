"""Laws X1, X2, X4–X7, and of P, S, M, T, H what they mean for rays: single laws on small worlds."""

from __future__ import annotations

import math
from typing import Any

import pytest

from glent import (
    Arc,
    Area,
    Camera,
    Cuboid,
    Feel,
    Heights,
    Mesh,
    Patch,
    Place,
    PointerSample,
    Pose,
    RaySample,
    Reason,
    Router,
    SampleError,
    Scene,
    SceneError,
    ShapeError,
    SnapPoint,
    Sphere,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.testing import Fingertip, Hand, Wand

WATER = [(-50, -50), (50, -50), (50, 50), (-50, 50)]


class Quay:
    """A panel of 1 m × 1 m and 100 × 100 pixels, 2 m ahead at eye level, with water below; and a log."""

    def __init__(self, feel: Feel | None = None, water: bool = True, **panel: Any) -> None:
        self.scene = Scene((200, 100))
        given = {"size": (1.0, 1.0), "pixels": (100, 100), "position": (0.0, 1.5, -2.0), **panel}
        self.panel = self.scene.panel("board", **given)
        if water:
            self.water = self.scene.spot("water", Area(WATER), tags=["sea"])
        self.log: list[str] = []
        self.events: list[Any] = []
        self.errors: list[Exception] = []
        self.router = Router(self.scene, feel, on_error=lambda error, _: self.errors.append(error))
        self.wand = Wand(self.router, (0.0, 1.5, 0.0))
        self.tip = Fingertip(self.router)

    def add(self, name: str, box: tuple[float, float, float, float], hears: str = "click", **given: Any) -> Any:
        x, y, width, height = box
        parent = given.pop("parent", self.panel)
        node = parent.add(name, place=Place(left=x, top=y, width=width, height=height), **given)
        return self.hear(node, hears)

    def hear(self, node: Any, kinds: str) -> Any:
        for kind in kinds.split():
            node.on(kind, self._heard)
        return node

    def _heard(self, event: Any) -> None:
        self.events.append(event)
        self.log.append(f"{event.kind} {event.here.name}")

    def said(self) -> list[str]:
        said, self.log = self.log, []
        return said


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
    back = quay.scene.spot("back", Patch(9, 9), position=(0, 1.5, -6))
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
    quay.panel.back = "blocked"
    verdict = quay.wand.aim((0.1, 1.2, -2.0))
    assert (verdict.world, verdict.owner, verdict.spot, verdict.reason) == (False, None, None, Reason.BACK)
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
    arc = Arc.thrown((0, 1.5, 0), (0, 3.0, -4.0))
    landed = quay.router.hits_arc(arc)
    assert [hit.node for hit in landed] == [quay.water]
    fall = (3.0 + math.sqrt(9.0 + 2 * 9.81 * 1.5)) / 9.81
    assert landed[0].point == pytest.approx((0, 0, -4.0 * fall), abs=0.02)
    assert landed[0].distance > 4.0 * fall
    assert quay.router.hits_arc(Arc.thrown((0, 1.5, 0), (0, 3.0, -4.0), length=2.0)) == []
    quay.add("send", (0, 0, 100, 100))
    low = quay.router.hits_arc(Arc([(0, 1.5, 0), (0, 1.6, -1), (0, 1.4, -3), (0, -1, -5)]))
    assert [hit.node.name for hit in low] == ["send"]
    assert low[0].distance == pytest.approx(
        math.dist((0, 1.5, 0), (0, 1.6, -1)) + math.dist((0, 1.6, -1), low[0].point)
    )


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
    assert quay.router._pointing.pointers["ray"].pos == pytest.approx((before[0] + 10, before[1] + 40))
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
    assert math.dist(quay.events[-1].point, quay.panel.to_world(*quay.router._pointing.pointers["ray"].pos)) < 1e-9


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


# -- X7, P1, P6: several rays ----------------------------------------------------------------------------------------


def test_x7_several_rays_are_independent_and_each_enter_has_its_leave():
    quay = Quay(water=False)
    quay.add("left", (0, 0, 50, 100), "enter leave click")
    quay.add("right", (50, 0, 50, 100), "enter leave click")
    other = Wand(quay.router, (0.5, 1.5, 0.0), "second")
    quay.wand.aim("board/left")
    other.aim("board/right")
    assert quay.said() == ["enter left", "enter right"]
    quay.wand.press()
    other.aim("board/left")
    assert quay.said() == ["leave right", "enter left"]
    assert quay.events[-1].data["first"] is False  # the other ray is in already
    other.press()
    other.release()
    quay.wand.release()
    assert quay.said() == ["click left", "click left"]
    assert quay.scene["board/left"].look == "hot"
    quay.wand.feed(WindowSample(9.0, "device_gone", pointer="ray"))
    quay.wand.feed(WindowSample(9.0, "device_gone", pointer="second"))
    assert quay.said() == ["leave left", "leave left"]


def test_p2_a_ray_drag_begun_in_the_world_is_never_stolen_and_names_the_spot_it_is_over():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave press click")
    assert quay.wand.aim((0.0, 0.0, -1.0)).world
    assert quay.wand.press().world
    verdict = quay.wand.aim("board/send")
    assert (verdict.world, verdict.spot) == (True, None)
    assert quay.said() == []
    verdict = quay.wand.aim((3.0, 0.0, -3.0))
    assert verdict.world
    assert verdict.spot.point == pytest.approx((3.0, 0.0, -3.0), abs=1e-5)
    assert quay.wand.release().world


def test_w3_m1_a_modal_on_a_screen_layer_bars_the_world_for_rays_and_lifts_what_it_holds():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave click")
    pause = quay.scene.layer("pause", visible=False, modal=True)
    quay.wand.aim("board/send")
    other = Wand(quay.router, (0, 1.5, 0), "second")
    other.aim((0.0, 0.0, -1.0))
    other.press()
    pause.visible = True
    verdict = quay.wand.aim((0.01, 1.5, -2.0))
    assert quay.said() == ["enter send", "leave send"]
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.MODAL)
    assert verdict.lifts == ("second/primary",)
    assert quay.wand.click("board/send").reason is Reason.MODAL
    pause.visible = False
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]


def test_w2_a_claim_of_the_pointer_keeps_rays_from_the_world_but_not_from_panels():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100))
    quay.scene.layer("map", claims=["pointer"])
    assert quay.wand.aim((0.0, 0.0, -1.0)).reason is Reason.CLAIMED
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]


@pytest.mark.parametrize("bars_all", [False, True])
def test_m1_a_modal_on_a_panel_bars_its_panel_or_all_if_told(bars_all):
    quay = Quay()
    send = quay.add("send", (0, 0, 40, 40))
    quay.add("ask", (50, 50, 50, 50), "", modal=True, bars_all=bars_all, visible=False)
    yes = quay.add("yes", (10, 10, 20, 20), parent=quay.panel["ask"], role="button")
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    lamp = quay.add("lamp", (0, 0, 100, 100), parent=wall)
    quay.wand.aim("board/send")
    quay.wand.press()
    quay.panel["ask"].visible = True
    quay.wand.release()
    assert quay.said() == []  # its pointer was spent (law M1)
    assert quay.wand.click(send).reason is Reason.MODAL
    assert quay.wand.click(quay.panel.to_world(20, 80)).reason is Reason.MODAL  # where nothing lies on it
    assert quay.wand.click(yes).owner is yes
    assert quay.wand.click(lamp).owner is (None if bars_all else lamp)
    assert quay.wand.aim((0.0, 0.0, -1.0)).world is not bars_all
    quay.panel["ask"].visible = False
    assert quay.wand.click(send).owner is send


def test_m1_m3_a_modal_on_a_panel_takes_the_focus_of_that_panel_and_gives_it_back():
    quay = Quay()
    quay.add("send", (0, 0, 40, 40), role="button")
    quay.add("ask", (50, 50, 50, 50), "", modal=True, closed_by="back", visible=False)
    yes = quay.add("yes", (0, 0, 20, 20), parent=quay.panel["ask"], role="button")
    no = quay.add("no", (30, 0, 20, 20), parent=quay.panel["ask"], role="button")
    seat = quay.router.seat()
    seat.focus = quay.panel["send"]
    quay.panel["ask"].visible = True
    quay.router.settle()
    assert seat.focus is yes
    assert [seat.navigate("next"), seat.navigate("next")] == [no, yes]
    with pytest.raises(SceneError, match="cannot have the focus"):
        seat.focus = quay.panel["send"]
    assert seat.back()
    quay.router.settle()
    assert seat.focus is quay.panel["send"]


def test_f2_arrows_move_within_a_panel_by_its_own_positions():
    quay = Quay(water=False, facing=(0, 0, -1))  # turned away, which is nothing to its own positions
    names = {
        name: quay.add(name, box, role="button")
        for name, box in {"a": (0, 0, 20, 20), "b": (40, 0, 20, 20), "c": (0, 40, 20, 20)}.items()
    }
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    far = quay.add("far", (45, 0, 20, 20), parent=wall, role="button")
    seat = quay.router.seat()
    seat.focus = names["a"]
    assert seat.navigate("right") is names["b"]
    assert seat.navigate("left") is names["a"]
    assert seat.navigate("down") is names["c"]
    assert seat.navigate("right") in (names["b"], names["c"])
    assert far in [seat.navigate("next") for _ in range(4)]


def test_t1_a_panel_of_some_seats_is_let_through_or_blocks_for_others():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100))
    guest = quay.router.add_seat("guest", devices=["second"])
    other = Wand(quay.router, (0, 1.5, 0), "second")
    quay.panel.seats = ["main"]
    assert quay.wand.click("board/send").owner is quay.scene["board/send"]
    assert other.aim((0.0, 1.4, -2.0)).seat == guest.name
    assert other.aim("board/send").owner is None
    assert quay.router.hits_ray((0, 1.5, 0), (0, 0, -1), seat="guest") == []
    quay.panel.others = "blocked"
    assert other.aim((0.0, 1.3, -2.0)).reason is Reason.OTHERS


# -- gestures --------------------------------------------------------------------------------------------------------


def test_g6_a_gaze_dwells_with_its_progress_and_on_spots_too():
    quay = Quay(Feel(dwell_time=0.5), water=False)
    quay.add("send", (0, 0, 100, 100), "dwell", role="button")
    quay.hear(quay.scene.spot("post", Sphere(0.3), position=(2, 1.5, -2)), "dwell")
    quay.wand.aim("board/send")
    quay.wand.rest(0.6, 0.1)
    progress = [event.data["progress"] for event in quay.events]
    assert progress == sorted(progress)
    assert progress[0] > 0.0
    assert (progress[-1], [event.data["done"] for event in quay.events].count(True)) == (1.0, 1)
    quay.events.clear()
    quay.wand.aim((2.0, 1.5, -2.0))
    quay.wand.rest(0.2, 0.1)
    quay.wand.aim((9.0, 1.5, -2.0))
    assert [event.data["progress"] for event in quay.events][-1] == 0.0
    assert {event.here.name for event in quay.events} == {"post"}


def test_g1_clicks_of_a_ray_count_by_degrees_and_hold_forgives_a_tremble():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100), "click hold")
    quay.wand.click("board/send")
    quay.wand.click((0.05, 1.5, -2.0))  # 1.4 degrees
    quay.wand.click((0.25, 1.5, -2.0))  # 5.7 more
    assert [event.count for event in quay.events] == [1, 2, 1]
    quay.said()
    quay.wand.wait(2.0)
    quay.wand.aim("board/send")
    quay.wand.press()
    quay.wand.aim((0.05, 1.5, -2.0))
    quay.wand.rest(0.6)
    assert quay.said() == ["hold send"]


def test_g3_a_crate_is_dragged_from_a_panel_to_another_and_to_a_spot_of_the_world():
    quay = Quay()
    crate = quay.add("crate", (40, 40, 20, 20), "")
    crate.on("drag_start", lambda event: event.carry("rope"))
    wall = quay.scene.panel("wall", (1, 1), (100, 100), position=(1.5, 1.5, -2.0))
    quay.add("shelf", (0, 0, 100, 100), "drop drag_enter drag_leave", parent=wall)
    hold = quay.hear(quay.scene.spot("hold", Sphere(0.5), position=(-2.0, 1.5, -2.0)), "drop")
    quay.wand.drag(crate, "wall/shelf")
    assert quay.said() == ["drag_enter shelf", "drop shelf", "drag_leave shelf"]
    quay.wand.drag(crate, hold)
    assert quay.said() == ["drop hold"]
    quay.wand.drag(crate, (0.0, 0.0, -1.0))
    verdict = quay.wand.verdicts[-1]
    assert (verdict.drop.payload, verdict.world, verdict.spot.node) == ("rope", False, quay.water)


def test_g4_a_list_on_a_panel_scrolls_by_wheel_of_the_ray_and_by_its_drag():
    quay = Quay(Feel(scroll_kinds=("touch", "ray")), water=False)
    quay.add("list", (0, 0, 100, 100), "", scrolls=True, clips=True, content=(100, 1000), solidity="solid")
    quay.wand.aim("board/list")
    quay.wand.feed(WheelSample(1.0, 0, 0, 0, 2, "line", "ray"))
    assert quay.panel["list"].scroll == (0.0, 80.0)
    quay.wand.drag((0.0, 1.4, -2.0), (0.0, 1.7, -2.0), steps=30)
    assert quay.panel["list"].scroll[1] == pytest.approx(110.0, abs=4.0)  # 30 pixels of the panel


# -- H5: reach -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("degrees", "hit"), [(0.9, True), (1.1, False)])
@pytest.mark.parametrize(
    "form", [SnapPoint(0.1), Cuboid((0.2, 0.2, 0.2)), Patch(0.2, 0.2)], ids=["snap", "box", "patch"]
)
def test_h5_a_far_small_spot_is_reached_within_its_cone(form, degrees, hit):
    quay = Quay()
    post = quay.hear(quay.scene.spot("post", form, position=(0, 1.5, -20), reach={"ray": 1.0}), "click")
    near = 20.0 - 0.1 * (not isinstance(form, Patch)) * (not isinstance(form, SnapPoint))
    edge = math.atan2(0.1, near) if not isinstance(form, SnapPoint) else math.asin(0.1 / 20.0)
    beside = math.tan(edge + math.radians(degrees)) * 20.0
    verdict = quay.wand.click((beside, 1.5, -20.0))
    assert (verdict.owner is post) is hit
    if hit:
        assert verdict.reason is Reason.REACHED
        assert verdict.spot.node is post
    hits = quay.router.hits_ray((0, 1.5, 0), (beside, 0.0, -20.0))
    assert ([found.node for found in hits if found.offered][:1] == [post]) is hit


def test_h5_reach_along_a_ray_yields_to_true_containment_and_to_what_covers_it():
    quay = Quay()
    small = quay.add("small", (48, 48, 4, 4), "click", reach={"ray": 3.0})
    assert quay.wand.click(quay.panel.to_world(56, 50)).owner is small
    wide = quay.add("wide", (0, 0, 100, 47), "click")
    assert quay.wand.click(quay.panel.to_world(50, 46)).owner is wide
    quay.scene.spot("shed", Cuboid((4, 4, 0.1)), position=(0, 1.5, -1), solidity="solid")
    assert quay.wand.click(quay.panel.to_world(56, 50)).owner is quay.scene["shed"]


def test_h5_touch_through_a_camera_reaches_nodes_of_panels_by_pixels_of_the_screen():
    quay = Quay()
    small = quay.add("small", (45, 45, 10, 10), "click", reach=6)
    quay.scene.camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    finger = Hand(quay.router, "finger", "touch")
    right, down = quay.scene.point(small, 10.0, 5.0)
    assert finger.click((right + 5.5, down)).owner is small
    assert finger.click((right + 6.5, down)).owner is None


# -- direct touch ----------------------------------------------------------------------------------------------------


def test_a_fingertip_presses_by_coming_through_the_front_and_releases_coming_back():
    quay = Quay(water=False)
    quay.add("send", (20, 20, 60, 60), "enter leave press release click")
    verdicts = [quay.tip.to("board/send", depth) for depth in (0.2, 0.03, 0.005, -0.01, -0.02, 0.01, 0.2)]
    assert quay.said() == ["enter send", "press send", "release send", "click send", "leave send"]
    assert [verdict.owner is not None for verdict in verdicts] == [False, False, False, True, True, True, False]
    assert quay.events[-2].local == pytest.approx((30, 30))
    assert quay.router.seat().last_kind == "touch"
    quay.tip.poke("board/send")
    quay.tip.poke("board/send")
    assert [event.count for event in quay.events if event.kind == "click"] == [1, 2, 3]


@pytest.mark.parametrize(
    ("depths", "pressed"),
    [
        ((0.3, -0.01), False),
        ((0.04, -0.3), False),
        ((-0.02, 0.02, -0.02), True),
        ((-0.02, -0.01), False),
        ((0.04, 0.0), True),
    ],
    ids=["too far before", "too deep", "from behind first", "behind all along", "just on it"],
)
def test_a_fingertip_presses_only_from_within_a_few_centimetres_in_front(depths, pressed):
    quay = Quay(water=False)
    quay.add("send", (20, 20, 60, 60), "press")
    for depth in depths:
        quay.tip.to("board/send", depth)
    assert quay.said() == (["press send"] if pressed else [])


def test_a_fingertip_drags_on_the_panel_beyond_its_edge_and_a_lost_hand_cancels():
    quay = Quay(water=False)
    quay.add("slider", (10, 40, 80, 20), "drag_start drag cancel drag_end")
    quay.tip.to("board/slider", 0.02)
    quay.tip.to("board/slider", -0.01)
    quay.tip.to((0.3, 1.5, -2.01))
    quay.tip.to((0.8, 1.5, -2.02))
    assert quay.events[-1].data["x"] == pytest.approx(80.0)
    assert quay.events[-1].local[0] == pytest.approx(120.0)
    assert quay.tip.lost().reason is Reason.CANCELLED
    assert quay.said()[-1] == "drag_end slider"
    assert quay.tip.lost().reason is Reason.STRAY


def test_a_fingertip_at_rest_on_a_ship_presses_nothing_while_the_ship_sails():
    quay = Quay(water=False)
    quay.add("send", (0, 0, 100, 100), "press")
    quay.tip.to("board/send", 0.02)
    for step in range(1, 30):
        quay.panel.move((step * 0.2, 1.5, -2.0 - step * 0.15))
        quay.tip.to("board/send", 0.02)
    assert quay.said() == []
    quay.tip.to("board/send", -0.005)
    assert quay.said() == ["press send"]


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
        (lambda s: s.panel("chart", **PANEL, back="open"), "chart: back is 'open'"),
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
        (lambda s: Heights([[0, 1], [math.nan, 2]], 1.0), r"Heights: values\[1, 0\] is nan"),
        (lambda s: Arc([(0, 0, 0), (0, 0, 0)]), "Arc: points has 1 places"),
        (lambda s: Arc.thrown((0, 0, 0), (1, 0, 0), length=0), "Arc: length is 0"),
    ],
)  # fmt: skip
def test_what_cannot_stand_in_the_world_is_refused_by_name_and_leaves_no_trace(make, says):
    scene = Scene((100, 100))
    scene.spot("taken", Sphere(1.0))
    router = Router(scene)
    with pytest.raises((SceneError, ShapeError), match=says):
        make(scene)
    assert [one.name for one in scene.standing] == ["taken"]
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


def test_p7_handlers_see_a_world_that_is_true_after_everything_was_torn_down():
    quay = Quay()
    send = quay.add("send", (0, 0, 100, 100), "enter leave press cancel")
    send.on("press", lambda event: quay.panel.remove())
    quay.wand.aim("board/send")
    verdict = quay.wand.press()
    assert quay.said() == ["enter send", "press send", "cancel send", "leave send"]
    assert verdict.reason is Reason.SPENT
    assert quay.wand.aim((0.0, 0.0, -1.0)).reason is Reason.SPENT
    quay.wand.release()
    assert quay.wand.aim((0.0, 0.0, -1.0)).spot.node is quay.water
    assert quay.errors == []
    quay.router.feed(TickSample(99.0))
    quay.router.feed(PointerSample(100.0, "move", 5, 5))
    quay.router.close()


def test_p1_a_name_that_goes_on_as_another_sort_of_pointer_ends_what_it_held_before():
    quay = Quay()
    quay.add("send", (0, 0, 100, 100), "enter leave press cancel click")
    quay.wand.pointer = "mouse"
    quay.wand.aim("board/send")
    quay.wand.press()
    verdict = quay.router.feed(PointerSample(5.0, "press", 50, 50))
    assert quay.said() == ["enter send", "press send", "cancel send", "leave send"]
    assert verdict.world
    quay.wand.buttons = 0
    verdict = quay.wand.aim("board/send")
    assert verdict.lifts == ("mouse/primary",)  # the world held it as a mouse
    assert quay.wand.release().reason is Reason.STRAY
    quay.tip.pointer = "mouse"
    assert quay.tip.poke("board/send").owner is quay.scene["board/send"]
    assert quay.said() == ["enter send", "leave send", "enter send", "press send", "click send", "leave send"]


def test_event_grab_and_gestures_by_code_are_where_their_node_is_on_the_panel():
    quay = Quay(water=False)
    node = quay.add("wheel-house", (10, 10, 50, 30), "move click hold drag", role="button")
    lost: list[str] = []
    node.on("press", lambda event: event.grab(lost.append))
    quay.wand.aim(node)
    quay.wand.press()
    quay.wand.aim((1.0, 1.5, -2.0))
    assert quay.events[-1].local == pytest.approx((140.0, 40.0))
    quay.panel.visible = False
    quay.router.settle()
    assert len(lost) == 1
    quay.panel.visible = True
    quay.wand.release()
    hand = Hand(quay.router)
    quay.router.seat().focus = None
    hand.strike("Tab")
    hand.strike("Enter")
    quay.router.hold(node)
    quay.router.drag(node, 4.0, 3.0)
    assert [event.kind for event in quay.events[-3:]] == ["click", "hold", "drag"]
    assert all(event.local == pytest.approx((25.0, 15.0)) for event in quay.events[-3:])
    assert all(event.point == pytest.approx((-0.15, 1.75, -2.0)) for event in quay.events[-3:])


@pytest.mark.parametrize("on", ["panel", "layer"])
def test_m2_a_popup_is_closed_by_a_rays_press_outside_of_it_which_does_nothing_else(on):
    quay = Quay()
    opener = quay.add("open", (0, 0, 20, 20), role="button")
    parent = quay.panel if on == "panel" else quay.scene.layer("top")
    popup = quay.add("popup", (30, 30, 40, 40), "", parent=parent, solidity="solid", closed_by="any")
    popup.hangs_from = opener
    verdict = quay.wand.click((0.0, 0.0, -1.0))
    assert (verdict.reason, verdict.world, popup.visible) == (Reason.DISMISSED, False, False)
    popup.visible = True
    assert quay.wand.click(opener).reason is Reason.CLOSED
    popup.visible = True
    if on == "panel":
        assert quay.wand.click(popup).owner is popup
        assert popup.visible


def test_g4_a_panel_in_view_of_a_camera_scrolls_by_wheel_and_by_finger():
    quay = Quay()
    quay.add("list", (0, 0, 100, 100), "", scrolls=True, clips=True, content=(100, 900), solidity="solid")
    quay.scene.camera = Camera((0, 1.5, 0), (0, 1.5, -2), fov=60)
    mouse = Hand(quay.router)
    mouse.move((100, 50))
    assert mouse.wheel(2).reason is Reason.SCROLLED
    assert quay.panel["list"].scroll == (0.0, 80.0)
    finger = Hand(quay.router, "finger", "touch")
    finger.pos = (100.0, 60.0)
    finger.press()
    finger.move((100.0, 35.0), steps=5)
    gone = quay.scene.local(quay.panel["list"], 100, 60)[1] - quay.scene.local(quay.panel["list"], 100, 35)[1]
    assert quay.panel["list"].scroll[1] == pytest.approx(80.0 + gone, abs=1e-6)


@pytest.mark.parametrize("carries", [[], ["enter", "leave"], ["click"], ["enter", "leave", "click"]])
def test_r2_a_small_button_in_a_large_one_lights_and_clicks_both_or_one_as_told_under_a_ray(carries):
    quay = Quay(water=False)
    large = quay.add("large", (0, 0, 100, 100), "click", role="button")
    small = quay.add("small", (20, 20, 30, 30), "click", parent=large, role="button", carries=carries)
    quay.wand.aim(small)
    assert (small.look, large.look) == ("hot", "hot" if "enter" in carries else "idle")
    quay.wand.press()
    quay.wand.release()
    assert quay.said() == ["click small", *(["click large"] if "click" in carries else [])]


def test_h9_many_things_in_one_place_are_all_found_and_the_last_is_in_front():
    scene = Scene((10, 10))
    for number in range(300):
        scene.spot(f"flag-{number}", Patch(1, 1))
    router = Router(scene)
    assert [hit.node.name for hit in router.hits_ray((0, 0, 1), (0, 0, -1))] == [
        f"flag-{n}" for n in range(299, -1, -1)
    ]
    for number in range(0, 300, 2):
        scene[f"flag-{number}"].remove()
    scene["flag-299"].move((0, 0, -3))
    assert router.hits_ray((0, 0, 1), (0, 0, -1))[0].node.name == "flag-297"
    assert router.hits_rays([(0, 0, 1)], [(0, 0, -1)]).nodes == [scene["flag-297"]]
