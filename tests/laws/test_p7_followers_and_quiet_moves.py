"""What controls are built on: boxes that follow, parts that only show, groups entered where they say, keys again."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import glent
from glent import Flow, Place, Router, Scene, SceneError
from glent.testing import Hand
from plain_flow import boxes
from plain_hits import hits as plain_hits

sides = st.one_of(
    st.floats(-50, 250), st.tuples(st.floats(-0.5, 1.5), st.floats(-40, 40)), st.sampled_from(("50%", "10%"))
)
shifts = st.lists(
    st.tuples(
        st.integers(0, 11),
        st.sampled_from(
            ("place", "place", "place", "scale", "hittable", "child", "scrolls", "flow", "resize", "remove")
        ),
        sides,
    ),
    max_size=25,
)


def tree() -> tuple[Scene, list[glent.Node]]:
    """Panels with parts that are never hit: thumbs, fills, labels."""
    scene = Scene((400, 300))
    layer = scene.layer("desk")
    nodes = []
    for number in range(3):
        panel = layer.add(f"p{number}", place=Place(20 + number * 120, 20, width=100, height=200), solidity="solid")
        nodes.append(panel)
        for part, solidity in (("fill", "hollow"), ("thumb", "hollow"), ("label", None)):
            made = panel.add(part, place=Place(width=30, height=10), solidity=solidity)
            nodes += [made]
    return scene, nodes


@settings(max_examples=200, deadline=None)
@given(shifts, st.lists(st.tuples(st.floats(0, 400), st.floats(0, 300)), min_size=3, max_size=6))
def test_h9_what_only_shows_moves_without_a_new_answer_and_all_answers_stay_true(
    steps: list[tuple[int, str, Any]], points: list[tuple[float, float]]
) -> None:
    scene, nodes = tree()
    flowed = False
    for at, what, side in steps:
        node = nodes[at % len(nodes)]
        if node.scene is None:
            continue
        if what == "place":
            shows = node.effective_solidity == "hollow" and not (node.children or node.parent.scrolls)
            scene.box(node, scene["desk"])  # all is placed
            before = (scene._version, scene._shifts)
            node.place = node.place.replace(left=side)
            assert flowed or (scene._version > before[0], scene._shifts - before[1]) == (not shows, int(shows))
        elif what == "scale":
            node.place = node.place.replace(scale=0.5, turn=30)
        elif what == "hittable":
            node.solidity = "solid"
        elif what == "child" and not node.children:
            nodes.append(node.add("inner", place=Place(width=8, height=8), solidity="solid"))
        elif what == "scrolls":
            node.scrolls = not node.scrolls
        elif what == "flow":
            node.flow, flowed = None if node.flow else Flow("row"), True
        elif what == "resize":
            node.place = node.place.replace(height=17)
        elif what == "remove" and at % 4:
            node.remove()
        wanted = boxes(scene["desk"], *scene.layer_size)
        for one in (one for one in nodes if one.scene is not None):
            assert one.edges == pytest.approx(wanted[one.path], abs=1e-9), one.path
    router = Router(scene)
    for x, y in points if not flowed else ():
        assert [hit.node for hit in router.hits(x, y)] == [seen.node for seen in plain_hits(scene, x, y)]


def test_p7_what_goes_by_others_boxes_follows_them_on_settle() -> None:
    scene, _ = tree()
    panel, follower = scene["desk/p0"], scene["desk"].add("tip", place=Place(width=10, height=10), role="button")
    follower.on("enter", lambda event: None)
    calls: list[tuple[float, ...]] = []

    def follow() -> None:
        calls.append(scene.box(scene["desk/p0/thumb"], scene["desk"]))
        follower.place = Place(left=calls[-1][2], top=calls[-1][1], width=10, height=10)

    settling = scene.on_settle(follow)
    router = Router(scene)
    hand = Hand(router)
    hand.move((205.0, 25.0))
    scene["desk/p0/thumb"].place = Place(left=150, width=30, height=10)  # a part that is never hit
    router.tick(2.0)
    assert calls[-1] == (170, 20, 200, 30)
    assert follower.hovered  # and hover is right at once, under a pointer that stays where it is
    panel.place = panel.place.replace(left=60)
    router.settle()
    assert calls[-1][0] == 210
    assert not follower.hovered
    count = len(calls)
    router.tick(3.0)
    assert len(calls) == count  # nothing has changed
    settling.stop()
    settling.stop()
    panel.place = panel.place.replace(left=90)
    router.settle()
    assert len(calls) == count


def test_p7_calls_that_fail_or_undo_each_other_are_reported_and_do_not_hang() -> None:
    scene, nodes = tree()
    errors: list[str] = []
    router = Router(scene, on_error=lambda error, event: errors.append(str(error)))
    flips = iter(range(10_000))
    scene.on_settle(lambda: setattr(nodes[0], "place", Place(left=next(flips) % 2, width=50, height=50)))
    scene.on_settle(lambda: 1 / 0)
    nodes[0].place = Place(left=9, width=50, height=50)
    router.settle()
    assert any("did not come to rest" in error for error in errors)
    assert any("division by zero" in error for error in errors)


@given(st.floats(-180, 180), st.floats(0.2, 3), st.floats(0, 60), st.floats(0, 60))
def test_g7_a_box_in_another_space_is_where_it_is_seen(turn: float, scale: float, across: float, down: float) -> None:
    scene = Scene((400, 300))
    layer = scene.layer("desk")
    inner = layer.add("a", place=Place(50, 40, width=100, height=80, turn=turn, scale=scale)).add(
        "b", place=Place(10, 10, width=20, height=20)
    )
    area = layer.add("c", place=Place(30, 30, width=300, height=200, turn=-turn, scale=2), scroll=(across, down))
    corners = [scene.local(area, *scene.point(inner, x, y)) for x, y in ((0, 0), (20, 0), (20, 20), (0, 20))]
    xs, ys = [x + across for x, _ in corners], [y + down for _, y in corners]
    assert scene.box(inner, area) == pytest.approx((min(xs), min(ys), max(xs), max(ys)), abs=1e-6)
    seen = [scene.from_screen(*scene.point(inner, x, y)) for x, y in ((0, 0), (20, 0), (20, 20), (0, 20))]
    assert [axis for corner in scene.corners(inner) for axis in corner] == pytest.approx(
        [axis for corner in seen for axis in corner], abs=1e-6
    )
    area.place = area.place.replace(scale=0)
    with pytest.raises(SceneError, match="desk/c: is scaled to nothing"):
        scene.box(inner, area)


def test_g4_an_area_is_kept_within_what_it_holds_though_that_is_never_hit() -> None:
    scene, _ = tree()
    panel = scene["desk/p0"]
    panel.scrolls = True
    label = scene["desk/p0/label"]
    label.place = Place(top=500, height=100)
    router = Router(scene)
    router.scroll(panel, 0.0, 400.0)
    assert panel.scroll == (0, 400)
    label.place = Place(top=200, height=100)
    router.settle()
    assert panel.scroll == (0, 100)


# -- focus and keys ----------------------------------------------------------------------------------------------------


def group(**more: Any) -> tuple[Router, Hand, glent.Node]:
    scene = Scene((400, 300))
    layer = scene.layer("desk")
    layer.add("before", role="button", place=Place(0, 0, width=50, height=20))
    held = layer.add("watch", role="radiogroup", place=Place(0, 40, width=200, height=20), **more)
    for number, name in enumerate(("first", "middle", "last")):
        held.add(name, role="radio", place=Place(number * 60, 0, width=50, height=20))
    router = Router(scene)
    hand = Hand(router)
    hand.press_keys("Tab")
    return router, hand, held


def test_f1_tab_enters_a_group_where_it_says_as_long_as_that_can_have_the_focus() -> None:
    router, hand, held = group(entry="middle")
    version = router.scene._layout
    for entry, lands in (("middle", "middle"), ("last", "last"), ("no-such", "last"), (None, "last")):
        held.entry = entry
        hand.press_keys("Tab")
        assert router.seat().focus is held[lands]
        hand.press_keys("Tab")
        assert router.seat().focus.name == "before"
    assert router.scene._layout == version  # it costs nobody a look around
    held.entry = "middle"
    held["middle"].enabled = False
    hand.press_keys("Tab")
    assert router.seat().focus is held["last"]
    assert router.seat().enter(held) is held["first"]
    with pytest.raises(SceneError, match="entry is 3, expected None, a node or the path of one"):
        held.entry = 3


def test_f4_keys_are_the_controls_once_the_focus_came_by_key() -> None:
    router, hand, held = group()
    seat = router.seat()
    assert seat.keys_are_ui("keys")
    hand.click("desk/watch/first")
    assert (seat.focus, seat.keys_are_ui("keys"), seat.keys_are_ui("pad0")) == (held["first"], False, False)
    held.parent.claims = ["pad"]
    assert (seat.keys_are_ui("keys"), seat.keys_are_ui("pad0")) == (False, True)
    assert seat.modifiers == ()
    hand.key("ShiftRight")
    hand.key("ControlLeft")
    assert seat.modifiers == ("Control", "Shift")
    hand.key("ShiftRight", "up")
    assert seat.modifiers == ("Control",)


def test_w4_a_pad_tells_again_whoever_took_its_button_for_as_long_as_it_is_held() -> None:
    router, hand, held = group()
    told: list[tuple[str, bool]] = []

    def take(event: glent.Event) -> None:
        told.append((event.data["code"], event.data["repeat"]))
        event.take()

    held.on("key_down", take)
    hand.press_keys("Tab")
    hand.pad("left_cluster_right", 1.0)
    hand.wait(router.feel.navigate_delay + 2.5 * router.feel.navigate_gap)
    hand.pad("left_cluster_right", 0.0)
    hand.wait(1.0)
    assert told == [("left_cluster_right", False), *[("left_cluster_right", True)] * 3]
    told.clear()
    hand.pad("left_cluster_right", 1.0)
    router.scene.layer("menu", order=9, modal=True).add("ok", role="button")  # held on, it does nothing more
    hand.wait(2.0)
    assert [repeat for _, repeat in told] == [False]


def test_r1_code_sends_changes_and_kinds_of_its_own_and_nothing_else() -> None:
    router, hand, held = group()
    heard: list[tuple[str, str, Any]] = []
    for node in (held, held.parent):
        for kind in ("change", "watch:ends"):
            node.on(kind, lambda event: heard.append((event.kind, event.here.name, event.data.get("to"))))
    assert not router.send(held, "change", {"to": 1})
    assert not router.send(held["first"], "change")  # a radio keeps its own to itself
    held.on("watch:ends", lambda event: event.take())
    assert router.send(held["first"], "watch:ends", {"to": 2})
    assert heard == [("change", "watch", 1), ("change", "desk", 1), ("watch:ends", "watch", 2)]
    assert [event.kind for event in hand.move((399.0, 299.0)).events][:3] == ["change", "change", "watch:ends"]
    with pytest.raises(glent.KindError, match="click cannot be sent by code, expected change or a kind of your own"):
        router.send(held, "click")
    held.remove()
    with pytest.raises(SceneError, match="desk/watch: cannot be told of change"):
        router.send(held, "change")


def test_t3_looks_are_told_by_all_seats_and_who_goes_is_forgotten() -> None:
    router, hand, held = group()
    told: list[tuple[str, str, bool]] = []
    for node in held.children:
        node.on("look", lambda event: told.append((event.node.name, event.data["look"], event.data["focus_ring"])))
    second = router.add_seat("second", devices=["pad1"])
    hand.press_keys("Tab")
    hand.press_pad("left_cluster_right", pad=1)  # the second player's focus comes in at the first stop
    second.focus = held["first"]
    router.settle()
    assert ("first", "idle", True) in told
    router.remove_seat("second")
    hand.press_keys("Tab")
    assert told[-1] == ("first", "idle", False)
    hand.move("desk/watch/last")
    held["last"].remove()
    hand.move((1.0, 299.0))
    assert [name for name, _, _ in told].count("last") == 1
    held["middle"].role = "button"
    held["middle"].notes = {"control": 1}
    with pytest.raises(SceneError, match="notes is 3, expected None or a mapping"):
        held["middle"].notes = 3
    assert held["middle"].notes["control"] == 1
