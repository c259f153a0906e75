"""Seats: devices, viewports, what is for whom, the kind used last, and a scene that is reloaded (T1–T5)."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from desk import Desk
from glent import PadSample, Place, PointerSample, Reason, Router, Scene, SeatError
from glent.diagnose import Outcome, Zone, pass_map, why
from glent.formats import FileError, read_scene, reload_scene, write_scene
from glent.testing import Hand

LEFT, RIGHT = (0.0, 0.0, 0.5, 1.0), (0.5, 0.0, 0.5, 1.0)


class Two(Desk):
    """Two seats side by side, each with a button in a layer of its own, and a shared mouse."""

    def __init__(self) -> None:
        super().__init__()
        self.two = self.router.add_seat("two", devices=["pad1", "finger"], viewport=RIGHT)
        self.mine = self.scene.layer("mine", order=1, seats=["main"])
        self.theirs = self.scene.layer("theirs", order=2, seats=["two"])
        for layer in (self.mine, self.theirs):
            button = layer.add(f"{layer.name}-button", role="button", place=Place(10, 10, width=40, height=40))
            for kind in ("enter", "leave", "press", "click", "focus", "blur", "cancel", "activate"):
                button.on(kind, self.note)
        self.seat = self.router.seat()
        self.seat.viewport = LEFT

    def note(self, event: Any) -> None:
        self.log.append(f"{event.seat} {event.kind} {event.node.name}")


def test_t1_what_is_for_one_seat_is_let_through_or_blocked_for_others() -> None:
    desk = Desk()
    desk.router.add_seat("two", devices=["finger"])
    mine = desk.add("mine", (0, 0, 50, 50), role="button", hears="click", seats=["main"], order=1)
    under = desk.add("under", (0, 0, 100, 100), role="button", hears="click")
    assert desk.hand.click(mine).owner is mine
    assert desk.finger.click(mine).owner is under
    found = {one.node: one.outcome for one in why(desk.router, 10, 10, seat="two")}
    assert found[mine] is Outcome.SEAT
    assert [hit.node for hit in desk.router.hits(10, 10, seat="two")] == [under]
    mine.for_others = "blocked"
    verdict = desk.finger.click(mine)
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.OTHER_SEAT)
    assert verdict.seat == "two"
    assert not desk.router.would_reach_world(10, 10, seat="two")
    assert desk.finger.click((80.0, 80.0)).owner is under
    assert pass_map(desk.scene, "two").zones[10, 10] == Zone.BLOCKED
    assert pass_map(desk.scene).zones[10, 10] == Zone.SOLID


def test_t2_a_layer_of_one_seat_is_laid_out_in_its_viewport() -> None:
    desk = Two()
    mine, theirs = desk.mine.children[0], desk.theirs.children[0]
    assert desk.scene.point(mine, 0, 0) == pytest.approx((5, 30))
    assert desk.scene.point(theirs, 40, 40) == pytest.approx((75, 50))
    assert desk.router.hits(60, 40)[0].local == pytest.approx((10, 20))
    desk.scene.window = (200, 100)
    assert desk.scene.point(mine, 0, 0) == pytest.approx((10, 10))
    assert desk.scene.point(theirs, 0, 0) == pytest.approx((110, 10))
    zones = pass_map(desk.scene).zones
    assert zones[30, 30] == Zone.SOLID
    assert zones[30, 130] == Zone.BLOCKED
    desk.seat.viewport = None
    assert desk.scene.point(mine, 0, 0) == pytest.approx((60, 10))


def test_t2_a_device_of_a_seat_hits_nothing_outside_its_viewport_and_nobody_gets_that() -> None:
    desk = Two()
    verdict = desk.finger.click((20.0, 40.0))
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.OUTSIDE)
    assert "viewport of seat two" in verdict.why
    desk.finger.pos = (90.0, 90.0)
    assert desk.finger.press().world
    assert desk.finger.move((10.0, 90.0)).world, "what the world holds is its own until it is up"
    desk.finger.release()


def test_t2_a_shared_mouse_takes_the_seat_under_it_and_old_leaves_come_before_new_enters() -> None:
    desk = Two()
    mine, theirs = desk.mine.children[0], desk.theirs.children[0]
    assert desk.hand.move(mine).seat == "main"
    assert desk.hand.move(theirs).seat == "two"
    assert desk.said() == ["main enter mine-button", "main leave mine-button", "two enter theirs-button"]
    desk.hand.press()
    assert desk.hand.move(mine).seat == "two", "while pressed it is the press's seat"
    assert not mine.hovered
    assert desk.hand.release().seat == "two"
    assert desk.hand.move(mine, at=(0.6, 0.5)).seat == "main"
    desk.hand.click(theirs)
    assert (desk.two.focus, desk.seat.focus) == (theirs, None)
    assert "two click theirs-button" in desk.said()


def test_t3_focus_modals_claims_cursor_and_lifts_are_per_seat() -> None:
    desk = Two()
    menu = desk.scene.layer(
        "menu", order=9, seats=["two"], modal=True, closed_by="back", cursor="hidden", visible=False
    )
    on = menu.add("on", role="button", place=Place(20, 20, width=20, height=20))
    assert desk.hand.key("KeyW").world
    assert desk.hand.pad("left_stick_x", 1.0, 1).world
    assert desk.seat.held == {"keys/KeyW"}
    assert desk.two.held == {"pad1/left_stick_x"}
    menu.visible = True
    verdict = desk.hand.key("KeyQ")
    assert (verdict.world, verdict.lifts) == (True, ("pad1/left_stick_x",))
    assert (desk.seat.modal, desk.two.modal, desk.two.focus) == (None, menu, on)
    assert (desk.seat.cursor, desk.two.cursor) == ("shown", "hidden")
    assert desk.hand.press_pad("right_cluster_right", 0).world, "the first player's back closes nothing of the second's"
    assert desk.hand.press_pad("right_cluster_right", 1).reason is Reason.CLOSED
    menu.for_others, menu.visible = "blocked", True
    assert desk.hand.key("KeyE").reason is Reason.MODAL, "one player's menu may block all"
    assert desk.hand.click((5.0, 90.0)).reason is Reason.MODAL
    assert desk.hand.key("KeyW", "up").reason is Reason.USED
    assert desk.hand.press_keys("Escape").reason is Reason.MODAL
    assert desk.seat.focus is None
    menu.seats = None
    desk.router.settle()
    assert desk.seat.focus is on is desk.two.focus
    desk.hand.press_pad("right_cluster_bottom", 1)
    assert (on.focused, on.focus_ring) == (True, True)


def test_t4_the_kind_used_last_changes_on_purpose_only() -> None:
    desk = Desk()
    seat, hand = desk.router.seat(), desk.hand
    kinds = []
    for act in (
        lambda: hand.move((50.0, 50.0)),
        lambda: hand.key("KeyW"),
        lambda: hand.move((53.0, 50.0)),
        lambda: hand.move((50.0, 47.0)),
        lambda: hand.pad("left_stick_x", 0.3),
        lambda: hand.pad("left_stick_x", 0.8),
        lambda: hand.move((58.0, 50.0)),
        lambda: hand.move((70.0, 50.0)),
        lambda: hand.pad("right_cluster_top", 1.0),
        lambda: hand.press(),
        lambda: desk.finger.click((10.0, 10.0)),
        lambda: hand.wheel(1),
        lambda: hand.window("focus_lost"),
    ):
        act()
        kinds.append(seat.last_kind)
    assert kinds == [
        "mouse", "keys", "keys", "keys", "keys", "pad", "pad", "mouse", "pad", "mouse", "touch", "mouse", "mouse",
    ]  # fmt: skip


def test_p6_a_seat_that_goes_leaves_and_lifts_all_it_had() -> None:
    desk = Two()
    theirs = desk.theirs.children[0]
    desk.hand.pad("left_stick_x", 1.0, 1)
    desk.two.focus = theirs
    desk.finger.pos = desk.finger.point(theirs)
    desk.finger.press()
    desk.said()
    desk.router.remove_seat("two")
    assert desk.said() == [
        "two cancel theirs-button", "two leave theirs-button", "two blur theirs-button",
    ]  # fmt: skip
    assert desk.router.take_lifts() == ("pad1/left_stick_x",)
    assert [seat.name for seat in desk.router.seats] == ["main"]
    verdict = desk.router.feed(PadSample(9.0, "left_stick_x", 0.9, 1))
    assert (verdict.world, verdict.seat) == (False, "main"), "lifted until it has been in the middle (W3)"
    desk.router.feed(PadSample(9.1, "left_stick_x", 0.0, 1))
    verdict = desk.router.feed(PadSample(9.2, "left_stick_x", 1.0, 1))
    assert (verdict.world, verdict.seat) == (True, "main"), "the pad is anybody's now"
    with pytest.raises(SeatError, match="the seat main cannot be removed"):
        desk.router.remove_seat("main")


def test_a_device_that_changes_hands_lets_go_of_all_it_held() -> None:
    desk = Two()
    desk.hand.pad("left_stick_x", 1.0, 1)
    desk.two.devices = ["finger", "keys"]
    assert desk.router.take_lifts() == ("pad1/left_stick_x",)
    assert desk.hand.key("KeyW").seat == "two"


def test_seats_are_refused_with_all_parties_named() -> None:
    desk = Two()
    for act, said in (
        (lambda: desk.router.add_seat("two"), "seat two is there already, with devices pad1, finger and viewport (0.5"),
        (lambda: desk.router.add_seat("three", ["pad1"]), "seat three: the device pad1 is already given to seat two"),
        (lambda: desk.router.add_seat("three", ["pad2", "pad2"]), "devices names pad2 twice"),
        (
            lambda: desk.router.add_seat("three", viewport=(0.5, 0, 0, 1)),
            "viewport is (0.5, 0, 0, 1), which has no size",
        ),
        (lambda: desk.router.add_seat("three", viewport=(0.6, 0, 0.5, 1)), "which reaches beyond the window"),
        (lambda: desk.router.add_seat("three", viewport=(0, 0, 640, 720)), "in fractions of the window"),
        (lambda: desk.router.add_seat(""), "a seat cannot be named ''"),
        (lambda: setattr(desk.seat, "devices", ["finger"]), "the device finger is already given to seat two"),
        (lambda: setattr(desk.seat, "viewport", (0, 0, 1)), "seat main: viewport is (0, 0, 1)"),
        (lambda: desk.router.seat("three"), "there is no seat 'three', the seats are main, two"),
    ):
        with pytest.raises(SeatError) as caught:
            act()
        assert said in str(caught.value)
    assert [seat.name for seat in desk.router.seats] == ["main", "two"]
    assert desk.two.devices == ("pad1", "finger")
    desk.mine.children[0].on("click", lambda event: desk.router.add_seat("late"))
    desk.hand.click(desk.mine.children[0])
    assert "not from inside a handler" in str(desk.errors[0][0])


def test_t2_four_players_share_a_window() -> None:
    desk = Desk()
    quarters = {f"p{n}": (n % 2 * 0.5, n // 2 * 0.5, 0.5, 0.5) for n in range(4)}
    for number, (name, viewport) in enumerate(quarters.items()):
        desk.router.add_seat(name, [f"pad{number}"], viewport)
        desk.scene.layer(name, seats=[name]).add("b", role="button", place=Place(10, 10, width=80, height=80))
    for number, name in enumerate(quarters):
        assert desk.hand.pad("left_stick_x", 0.5, number).seat == name
        verdict = desk.hand.move((25.0 + number % 2 * 50, 25.0 + number // 2 * 50))
        assert (verdict.seat, verdict.owner) == (name, desk.scene[f"{name}/b"])


# -- T5: a scene file that is read again ----------------------------------------------------------------------------

BOX = {"left": 10, "top": 10, "width": 20, "height": 20}


def document(*children: dict) -> dict:
    return {
        "glent": "scene", "version": 2, "size": [100, 100],
        "layers": [{"name": "l", "children": list(children)}],
    }  # fmt: skip


def running(tmp_path: Path, *children: dict) -> tuple[Desk, Path]:
    path = tmp_path / "scene.json"
    path.write_text(json.dumps(document(*children)))
    desk = Desk()
    desk.router.close()
    desk.scene = read_scene(path)
    desk.layer = desk.scene["l"]
    from glent import Router
    from glent.testing import Hand

    desk.router = Router(desk.scene)
    desk.hand = Hand(desk.router)
    for node in desk.layer.children:
        for kind in ("enter", "leave", "press", "cancel", "release", "click", "focus", "blur"):
            node.on(kind, desk.hear)
    return desk, path


def test_t5_what_keeps_path_and_role_keeps_hover_focus_press_and_handlers(tmp_path: Path) -> None:
    a, b = ({"name": name, "role": "button", "place": {**BOX, "left": left}} for name, left in (("a", 10), ("b", 40)))
    desk, path = running(tmp_path, a, b)
    desk.layer.add("made-by-code", place=Place(80, 80, width=10, height=10), role="button")
    desk.hand.move("l/a")
    desk.hand.press()
    desk.said()
    path.write_text(json.dumps(document({**b, "enabled": False}, {**a, "place": {**BOX, "left": 5}}, {"name": "new"})))
    done = reload_scene(desk.scene, path)
    assert (done.changed, done.added, done.removed) == (("l/b", "l/a"), ("l/new",), ())
    desk.router.settle()
    assert desk.said() == []
    node = desk.scene["l/a"]
    assert (node.hovered, node.focused, node.look, node.place.left) == (True, True, "pressed", 5)
    assert [child.name for child in desk.layer.children] == ["b", "a", "new", "made-by-code"]
    assert desk.hand.release().owner is node
    assert desk.said() == ["release a", "click a"]
    node.visible, node.place = False, Place(7, 7, width=5, height=5)
    desk.scene["l/new"].remove()
    path.write_text(path.read_text().replace('"left": 40', '"left": 44'))
    assert reload_scene(desk.scene, path).changed == ("l/b",), "what code has done meanwhile stays"
    assert (node.visible, node.place.left, "l/new" in desk.scene) == (False, 7, False)


def test_t5_the_rest_leaves_and_cancels_as_if_removed(tmp_path: Path) -> None:
    a, b = ({"name": name, "role": "button", "place": {**BOX, "left": left}} for name, left in (("a", 10), ("b", 40)))
    desk, path = running(tmp_path, a, b)
    desk.hand.move("l/a")
    desk.hand.press()
    desk.said()
    path.write_text(json.dumps(document({**a, "role": "switch"}, b)))
    done = reload_scene(desk.scene, path)
    assert (done.added, done.removed) == (("l/a",), ("l/a",))
    assert sorted(desk.said()) == ["blur a", "cancel a", "leave a"]
    assert desk.hand.release().reason is Reason.SPENT
    path.write_text(json.dumps(document()))
    assert reload_scene(desk.scene, path).removed == ("l/a", "l/b")
    assert not desk.layer.children


def test_t5_a_bad_file_is_refused_and_changes_nothing(tmp_path: Path) -> None:
    desk, path = running(tmp_path, {"name": "a", "role": "button", "place": BOX})
    before = desk.scene._version
    for text, said in (
        ("{", "scene.json"),
        (json.dumps(document({"name": "a", "rolle": "button"})), "rolle"),
        (json.dumps(document({"name": "a", "opener": "l/b"})), "opener (node l/a): found 'l/b'; expected the path"),
        (json.dumps(document({"name": "a", "nav": {"left": "l/aa"}})), "near is l/a"),
        (json.dumps(document({"name": "a", "claims": ["keys"]})), "claims"),
    ):
        path.write_text(text)
        with pytest.raises(FileError) as caught:
            reload_scene(desk.scene, path)
        assert said in str(caught.value)
        assert desk.scene._version == before
    layer = document()["layers"][0]
    path.write_text(json.dumps({**document(), "layers": [{**layer, "claims": ["keys", "sound"]}]}))
    with pytest.raises(FileError, match="'keys' or 'text'|'pointer', 'keys', 'pad' or 'text'"):
        reload_scene(desk.scene, path)


def test_t5_all_terms_survive_writing_and_reading(tmp_path: Path) -> None:
    scene = Scene(size=(100, 100))
    hud = scene.layer("hud", order=3, claims=["pad", "keys"], cursor="locked", visible=False, seats=["two", "main"])
    a = hud.add("a", role="button")
    hud.add(
        "b", modal=True, closed_by="any", closing_press_acts=True, opener=a, for_others="blocked", tab_order=-2.5,
        nav={"left": a, "up": None}, scope=True, wrap="both",
    )  # fmt: skip
    for name in ("s.yaml", "s.json"):
        write_scene(scene, tmp_path / name)
        again = read_scene(tmp_path / name)
        write_scene(again, tmp_path / f"again-{name}")
        assert (tmp_path / name).read_bytes() == (tmp_path / f"again-{name}").read_bytes()
        node, layer = again["hud/b"], again["hud"]
        assert (node.nav, node.opener, node.wrap) == ({"left": "hud/a", "up": None}, "hud/a", "both")
        assert (layer.claims, layer.cursor, layer.seats) == ({"pad", "keys"}, "locked", {"two", "main"})
        reload_scene(again, tmp_path / name)


def test_p12_a_pointer_of_another_seat_at_the_border_adds_no_click_count() -> None:
    desk = Two()
    counts = []
    for layer in (desk.mine, desk.theirs):
        layer.children[0].on("click", lambda event: counts.append((event.seat, event.count)))
    for x in (15.0, 65.0, 15.0):
        desk.router.feed(PointerSample(desk.router.now + 0.01 if counts else 0.0, "move", x, 45.0))
        desk.router.feed(PointerSample(desk.router.now, "press", x, 45.0, button=0))
        desk.router.feed(PointerSample(desk.router.now, "release", x, 45.0, button=0))
    assert counts == [("main", 1), ("two", 1), ("main", 1)]


def test_t1_the_outermost_word_on_seats_decides_and_blocked_layers_rule_no_cursor() -> None:
    desk = Desk()
    desk.router.add_seat("two", devices=["finger"])
    outer = desk.add("outer", (0, 0, 50, 50), seats=["two"], for_others="through")
    desk.add("outer/inner", (0, 0, 20, 20), role="button", seats=["two"], for_others="blocked")
    assert desk.hand.click((5.0, 5.0)).world, "what is let through is not there at all"
    outer.for_others = "blocked"
    assert desk.hand.click((5.0, 5.0)).reason is Reason.OTHER_SEAT
    desk.scene.layer("look", order=5, seats=["two"], for_others="blocked", cursor="locked", claims=["keys"])
    assert (desk.router.seat().cursor, desk.router.seat("two").cursor) == ("shown", "locked")
    assert desk.router.seat().claims == {"keys"}, "what blocks a seat keeps its claims from it"


def test_t2_a_finger_that_comes_again_elsewhere_is_the_other_seats() -> None:
    desk = Two()
    desk.two.devices = ["pad1"]
    desk.said()
    for layer in (desk.theirs, desk.mine, desk.theirs):
        desk.finger.click(layer.children[0])
    seats = [said.split()[0] for said in desk.said() if "click" in said]
    assert seats == ["two", "main", "two"]
    verdicts = [
        desk.router.feed(PointerSample(9.0, "release", x, 50.0, "ghost", "touch", 0)).seat for x in (80.0, 20.0)
    ]
    assert verdicts == ["two", "main"], "a stray sample has a seat as well"


def test_t2_a_press_outside_its_seats_viewport_closes_nothing_there() -> None:
    desk = Two()
    popup = desk.theirs.add("popup", place=Place(0, 0, width=20, height=20), solidity="solid", closed_by="any")
    assert desk.finger.click((10.0, 50.0)).reason is Reason.OUTSIDE
    assert popup.visible
    assert desk.finger.click((95.0, 90.0)).reason is Reason.DISMISSED
    assert not popup.visible


@pytest.mark.parametrize("drags", [False, True])
def test_t2_moves_across_the_edge_of_a_viewport_over_open_water_are_not_taken_for_idle(drags: bool) -> None:
    desk = Desk()
    crate = desk.add("crate", (70, 40, 20, 20))
    if drags:
        crate.on("drag_start", lambda event: event.give("salt"))
    desk.router.add_seat("two", devices=["trackball"], viewport=RIGHT)
    found = []
    for number, (action, x) in enumerate(
        [
            ("move", 60),
            ("press", 80),
            ("move", 90),
            ("move", 45),
            ("move", 40),
            ("move", 55),
            ("move", 58),
            ("move", 20),
        ]
    ):
        if action == "move" or drags:
            button = 0 if action == "press" else None
            sample = PointerSample(number / 10, action, float(x), 50.0, "trackball", button=button)
            found.append(desk.router.feed(sample).reason)
    if drags:
        assert found[3:] == [Reason.GESTURE] * 5
        dropped = desk.router.feed(PointerSample(9.0, "release", 20.0, 50.0, "trackball", button=0))
        assert dropped.drop is None, "outside of its viewport there is no world for it"
    else:
        out, water = Reason.OUTSIDE, Reason.OPEN
        assert found == [water, water, out, out, water, water, out]


def test_t1_a_drag_says_whose_it_is() -> None:
    scene = Scene((100, 100))
    crate = scene.layer("l").add("crate", place=Place(left=0, top=0, width=50, height=50), solidity="solid")
    told: list[tuple[str, str]] = []
    for kind in ("drag_start", "drag", "drag_end"):
        crate.on(kind, lambda event: told.append((event.kind, event.seat)))
    router = Router(scene)
    router.add_seat("guest", devices=["second"])
    Hand(router, "second").drag((10, 10), (40, 40))
    assert {seat for _, seat in told} == {"guest"}
    assert {kind for kind, _ in told} == {"drag_start", "drag", "drag_end"}
