"""Focus: tab order, directions, F3, the ring, sticks and bindings (F1–F5)."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

import plain_seats
from desk import Desk
from glent import BindingError, Bindings, Node, Place, Reason, Router, Scene, SceneError
from glent.core.routing.focus.spatial import box_of, score
from glent.diagnose import focus_map
from strategies import scenes

WAYS = ("left", "right", "up", "down")
BACK = {"left": "right", "right": "left", "up": "down", "down": "up"}
lenient = settings(max_examples=30, deadline=None, suppress_health_check=list(HealthCheck))


class Deck(Desk):
    """Three buttons in a row, a group of radios below them, a list that scrolls, a field."""

    def __init__(self) -> None:
        super().__init__()
        for number, name in enumerate("abc"):
            self.add(name, (number * 30, 0, 20, 10), role="button", hears="focus blur click")
        self.add("radios", (0, 20, 20, 40), role="radiogroup")
        for number in range(3):
            self.add(f"radios/r{number}", (0, number * 14, 20, 10), role="radio", hears="focus blur")
        self.add("list", (40, 20, 30, 40), role="listbox", scrolls=True, clips=True)
        for number in range(6):
            self.add(f"list/row{number}", (0, number * 12, 30, 10), role="option", hears="focus blur")
        self.add("field", (0, 80, 50, 10), role="textbox", hears="focus blur")
        self.seat = self.router.seat()

    def walk(self, *ways: str) -> list[str | None]:
        found = []
        for way in ways:
            node = self.seat.navigate(way)
            found.append(node.name if node is not None else None)
        return found


def test_f1_tab_goes_round_and_a_group_is_one_stop_entered_where_it_was_left() -> None:
    deck = Deck()
    assert deck.walk(*["next"] * 7) == ["a", "b", "c", "r0", "row0", "field", "a"]
    assert deck.walk("previous", "previous", "previous") == ["field", "row0", "r0"]
    assert deck.walk("down", "next", "previous") == ["r1", "row0", "r1"]
    deck["radios/r1"].enabled = False
    deck.router.settle()
    assert deck.seat.focus is deck["radios/r2"]
    deck["b"].tab_order = 5
    deck["c"].tab_order = -1
    deck.seat.focus = None
    assert deck.walk("next", "next", "next", "next", "next", "next") == ["c", "a", "r2", "row0", "field", "b"]


def test_f1_only_what_can_be_used_is_a_stop() -> None:
    deck = Deck()
    deck["a"].visible = False
    deck["b"].enabled = False
    deck["c"].solidity = "ghost"
    deck["radios"].enabled = False
    deck["list"].visible = False
    deck.add("panel", (0, 0, 5, 5), solidity="solid")
    deck.add("bar", (0, 0, 5, 5), role="scrollbar")
    deck.add("plain", (90, 90, 5, 5), focusable=True)
    deck.add("quiet", (80, 90, 5, 5), role="button", focusable=False)
    assert deck.walk("next", "next", "next") == ["field", "plain", "field"]


def test_f2_an_explicit_neighbour_overrides_and_none_keeps_the_focus() -> None:
    deck = Deck()
    deck.seat.focus = deck["a"]
    assert deck.walk("right", "right", "left") == ["b", "c", "b"]
    deck["a"].nav = {"right": deck["field"], "down": None, "up": "l/nowhere"}
    deck.seat.focus = deck["a"]
    assert deck.walk("down", "up", "right") == ["a", "a", "field"]
    deck["field"].enabled = False
    deck.seat.focus = deck["a"]
    assert deck.walk("right") == ["a"], "a neighbour that cannot have it leaves the focus where it is"
    verdict = deck.hand.key("ArrowDown")
    assert (verdict.reason, verdict.world) == (Reason.NO_WAY, False)


def test_f2_scopes_hold_arrows_and_wrap_by_choice() -> None:
    deck = Deck()
    deck["radios"].scope = True
    deck.seat.focus = deck["radios/r2"]
    assert deck.walk("down", "right", "up", "up", "up") == ["r2", "r2", "r1", "r0", "r0"]
    deck["radios"].wrap = "y"
    assert deck.walk("up", "down", "right") == ["r2", "r0", "r0"]
    deck["radios"].scope = False
    assert deck.walk("right") == ["row0"]
    assert deck.walk("next") == ["field"]


def test_f2_moving_into_what_is_scrolled_away_brings_it_into_view() -> None:
    deck = Deck()
    deck.seat.focus = deck["list/row0"]
    assert deck.walk("down", "down", "down", "down", "down", "down") == [
        "row1",
        "row2",
        "row3",
        "row4",
        "row5",
        "field",
    ]
    assert deck["list"].scroll == (0.0, 30.0)
    deck.seat.focus = deck["c"]
    assert deck.walk("down") == ["row2"], "rows above the view are not met from outside"
    assert deck.walk("up", "up") == ["row1", "row0"]
    assert deck["list"].scroll == (0.0, 0.0)


@pytest.mark.parametrize("turn", [0, 20, 90, 200])
def test_f2_directions_go_by_where_nodes_are_seen(turn: int) -> None:
    desk = Desk()
    ring = desk.layer.add("ring", place=Place(30, 30, width=40, height=40, turn=turn))
    middle = ring.add("middle", role="button", place=Place(15, 15, width=10, height=10))
    for number in range(4):
        angle = math.radians(number * 90)
        left, top = 15 + 30 * math.cos(angle), 15 + 30 * math.sin(angle)
        ring.add(f"b{number}", role="button", place=Place(left, top, width=10, height=10))
    seat = desk.router.seat()
    for way, (dx, dy) in {"left": (-1, 0), "right": (1, 0), "up": (0, -1), "down": (0, 1)}.items():
        seat.focus = middle
        found = seat.navigate(way)
        x, y = desk.scene.point(found, 5, 5)
        assert (x - 50) * dx + (y - 50) * dy > 20, (way, found)


def plain_neighbour(scene: Scene, node: Node, way: str) -> Node | None:
    """By the rule as it is written down, pair by pair."""
    stops = plain_seats.stops(scene, "main")
    boxes = {stop: box_of(stop) for stop in stops}

    def hidden(stop: Node, within: Node | None) -> bool:
        for above in stop.lineage()[:-1]:
            if above.clips and (within is None or above not in within.lineage()):
                a, b = boxes[stop], box_of(above)
                if a[0] >= b[2] or a[2] <= b[0] or a[1] >= b[3] or a[3] <= b[1]:
                    return True
        return False

    def best(among: list[Node]) -> Node | None:
        rated = [(score(boxes[node], boxes[stop], way), number, stop) for number, stop in enumerate(among)]
        near = [(rate, number, stop) for rate, number, stop in rated if rate is not None]
        return min(near, key=lambda one: one[:2])[2] if near else None

    modals = plain_seats.modals(scene, "main")
    line = node.lineage()[:-1]
    if modals:
        line = line[line.index(modals[-1]) :] if modals[-1] in line else line
    for container in reversed(line):
        kind = container.scrolls or container.role in plain_seats.COMPOSITES
        if not (kind or container.scope or container.wrap or container.modal):
            continue
        inside = [one for one in stops if container in one.lineage()[:-1] and not hidden(one, container)]
        found = best(inside)
        if found is not None or container.scope:
            return found
    return best([one for one in stops if not hidden(one, None)])


@pytest.mark.long
@lenient
@given(scenes(least=6, most=25), st.data())
def test_f2_the_chart_equals_the_rule_pair_by_pair_and_every_step_can_be_taken_back(scene: Scene, data: Any) -> None:
    nodes = [node for node in scene.walk() if node.parent is not None]
    for number in data.draw(st.lists(st.integers(0, len(nodes) - 1), max_size=8)):
        nodes[number].focusable = True
    for number in data.draw(st.lists(st.integers(0, len(nodes) - 1), max_size=3)):
        name = data.draw(st.sampled_from(["scope", "role", "scrolls", "modal"]))
        setattr(nodes[number], name, "listbox" if name == "role" else True)
    router = Router(scene)
    stops = plain_seats.stops(scene, "main")
    found = focus_map(scene)
    assert [stop.node for stop in found.stops] == stops
    for stop in found.stops:
        for way in WAYS:
            there = plain_neighbour(scene, stop.node, way)
            if there is stop.directions[way]:
                continue
            assert there is not None, (stop.node, way, stop.directions[way])
            assert stop.directions[way] is not None, (stop.node, way, there)
            here = box_of(stop.node)
            ours, theirs = (score(here, box_of(one), way) for one in (stop.directions[way], there))
            assert ours == pytest.approx(theirs, abs=1e-6 * max(map(abs, here))), "only a tie may go by rounding"
    boxes = {node: box_of(node) for node in stops}
    for one in stops:
        for other in stops:
            for way in WAYS:
                assert (score(boxes[one], boxes[other], way) is None) == (
                    score(boxes[other], boxes[one], BACK[way]) is None
                )
    if stops:
        seat = router.seat()
        seat.focus = stops[0]
        for way in data.draw(st.lists(st.sampled_from([*WAYS, "next", "previous"]), max_size=8)):
            before = seat.focus
            entry = dict(seat._focus.entry)
            node = seat.navigate(way)
            if way in ("next", "previous"):
                assert node is plain_seats.tab(scene, "main", before, way == "previous", entry)
            assert plain_seats.may_have_focus(scene, "main", node)


@pytest.mark.parametrize("how", ["hidden", "disabled", "removed", "parent removed"])
@pytest.mark.parametrize(
    ("start", "after"), [("b", "c"), ("field", "row5"), ("radios/r1", "r2"), ("list/row5", "field")]
)
def test_f3_focus_moves_on_to_the_next_stop_or_else_the_one_before(how: str, start: str, after: str) -> None:
    deck = Deck()
    node = deck[start]
    deck.seat.focus = node
    deck.said()
    if how == "hidden":
        node.visible = False
    elif how == "disabled":
        node.enabled = False
    elif how == "removed" or node.parent is deck.layer:
        node.remove()
    else:
        after = {"radios/r1": "row0", "list/row5": "field"}[start]
        node.parent.remove()
    deck.router.settle()
    assert deck.seat.focus.name == after
    assert deck.said() == [f"blur {node.name}", f"focus {after}"]


def test_f3_a_list_that_is_built_anew_keeps_the_focus_within_it_and_with_nothing_left_it_is_nowhere() -> None:
    desk = Desk()
    rows = desk.add("rows", (0, 0, 50, 100))
    for number in range(3):
        rows.add(f"old{number}", role="button", place=Place(0, number * 10, width=50, height=9))
    seat = desk.router.seat()
    seat.focus = rows["old1"]
    for child in rows.children:
        child.remove()
    for number in range(3):
        rows.add(f"new{number}", role="button", place=Place(0, number * 10, width=50, height=9))
    desk.router.settle()
    assert seat.focus is rows["new0"]
    rows.visible = False
    desk.router.settle()
    assert seat.focus is None
    rows.visible = True
    desk.router.settle()
    assert seat.focus is None, "nowhere is nowhere, until somebody moves it"


def test_f3_hover_that_comes_from_settle_never_moves_the_focus() -> None:
    deck = Deck()
    deck.seat.focus = deck["a"]
    deck.hand.move((90.0, 90.0))
    deck["b"].place = Place(80, 80, width=20, height=20)
    deck.router.settle()
    assert deck["b"].hovered
    assert deck.seat.focus is deck["a"]


def test_f3_handlers_that_undo_each_other_end_with_a_report() -> None:
    deck = Deck()
    deck["a"].on("focus", lambda event: setattr(deck.seat, "focus", deck["b"]))
    deck["b"].on("focus", lambda event: setattr(deck.seat, "focus", deck["a"]))
    deck.seat.focus = deck["a"]
    assert "focus did not come to rest" in str(deck.errors[0][0])
    assert deck.seat.focus in (deck["a"], deck["b"], None)
    said = deck.said()
    assert abs(said.count("focus a") - said.count("blur a")) <= 1


def test_f4_the_ring_is_on_by_key_and_pad_off_by_pointer_and_always_on_for_text() -> None:
    deck = Deck()
    rings = []
    for act in (
        lambda: deck.hand.press_keys("Tab"),
        lambda: deck.hand.click(deck["b"]),
        lambda: deck.hand.press_keys("Tab"),
        lambda: deck.finger.click(deck["a"]),
        lambda: deck.hand.click(deck["field"]),
    ):
        act()
        rings.append((deck.seat.focus.name, deck.seat.focus_ring, deck.seat.focus.focus_ring))
    shows = [True, False, True, False, True]
    assert rings == [(name, ring, ring) for name, ring in zip(["a", "b", "c", "a", "field"], shows, strict=True)]
    deck.hand.click((99.0, 99.0))
    assert deck.seat.focus is None, "a press on the world takes the focus away"
    assert not deck["field"].focused


def test_f5_a_stick_steps_at_once_then_after_a_delay_and_in_one_direction() -> None:
    deck = Deck()
    deck.hand.press_keys("Tab")

    def tilt(axis: str, value: float) -> str:
        deck.hand.pad(f"left_stick_{axis}", value)
        return deck.seat.focus.name

    assert [tilt("x", 0.1), tilt("x", 0.4), tilt("x", 0.6)] == ["a", "a", "b"]
    assert [tilt("y", 0.7), tilt("y", -0.7), tilt("x", 0.4), tilt("x", 0.55)] == ["b", "b", "b", "b"]
    assert tilt("y", 0.0) == "b"
    deck.hand.wait(0.3, 0.05)
    assert deck.seat.focus.name == "b"
    deck.hand.wait(0.2, 0.05)
    assert deck.seat.focus.name == "c"
    assert [tilt("x", 0.3), tilt("x", 0.0), tilt("x", -0.8)] == ["c", "c", "b"]
    deck.hand.wait(0.55, 0.01)
    assert deck.seat.focus.name == "a"
    tilt("x", 0.0)
    deck.hand.wait(1.0)
    assert deck.seat.focus.name == "a"
    deck.hand.pad("left_cluster_right", 1.0)
    deck.hand.wait(0.45, 0.01)
    assert deck.seat.focus.name == "c", "a button of the pad repeats as well"


def test_f5_a_stick_that_is_held_while_a_modal_opens_does_not_step_in_it() -> None:
    deck = Deck()
    deck.hand.press_keys("Tab")
    deck.hand.pad("left_stick_x", 1.0)
    menu = deck.scene.layer("menu", order=5, modal=True)
    for number in range(3):
        menu.add(f"m{number}", role="button", place=Place(number * 30, 0, width=20, height=10))
    deck.hand.wait(2.0, 0.05)
    assert deck.seat.focus is menu["m0"]
    deck.hand.pad("left_stick_x", 0.0)
    deck.hand.pad("left_stick_x", 1.0)
    assert deck.seat.focus is menu["m1"]


def test_f5_bindings_clash_by_name_and_back_cannot_be_left_unbound() -> None:
    for given_, said in (
        ({"activate": ["Enter"], "back": ["Enter"]}, "Enter is bound to both activate and back"),
        ({"desk:horn": ["KeyH"], "desk:hide": ["KeyH"]}, "KeyH is bound to both desk:horn and desk:hide"),
        ({"desk:horn": ["Shift+Control+KeyH"], "desk:hide": ["Control+Shift+KeyH"]}, "both desk:horn and desk:hide"),
        ({"back": []}, "nothing is bound to back"),
        ({"honk": ["KeyH"]}, "there is no action 'honk'"),
        ({"back": ["left_stick_x"]}, "expected a half of it: left_stick_x- or left_stick_x+"),
        ({"back": ["Hyper+KeyH"]}, "names 'Hyper+KeyH', expected a key code with any of Control, Alt, Shift, Meta"),
        ({"back": ["Escape", "Escape"]}, "back names Escape twice"),
        ({"back": [""]}, "back names ''"),
    ):
        with pytest.raises(BindingError) as caught:
            Bindings(given_)
        assert said in str(caught.value)
    with pytest.raises(BindingError, match="F11 is bound to desk:full, but the host keeps it: full screen"):
        Bindings({"desk:full": ["F11"]}, {"F11": "full screen"})
    bindings = Bindings({"desk:horn": ["Space"]})
    assert bindings.controls("activate") == ("Enter", "right_cluster_bottom"), "what was given elsewhere is free"
    with pytest.raises(BindingError, match="Space cannot be bound to back, desk:horn has it"):
        bindings.bound("back", "Space")
    assert bindings.bound("back", "Space", take=True).controls("desk:horn") == ()
    assert bindings.bound("back", "KeyX").controls("back") == ("KeyX", "right_cluster_right")
    only = Bindings({"back": ["Escape"], "desk:horn": ["KeyH"]})
    with pytest.raises(BindingError, match="nothing is bound to back"):
        only.bound("desk:horn", "Escape", take=True)


def test_f5_asking_for_a_binding_uses_up_the_key_it_gets() -> None:
    deck = Deck()
    answers = []
    deck.seat.ask("desk:horn", answers.append)
    assert deck.seat.asking == "desk:horn"
    assert deck.hand.key("KeyH").reason is Reason.BOUND
    assert not deck.hand.key("KeyH", "up").world
    assert deck.seat.asking is None
    assert deck.seat.bindings.controls("desk:horn") == ("KeyH",)
    deck.seat.ask("desk:horn", answers.append)
    deck.hand.press_keys("Escape")
    assert answers[-1].clash == "back", "Escape is an answer like any other"
    assert deck.seat.bindings.controls("desk:horn") == ("KeyH",)
    answers[-1].replace()
    assert deck.seat.bindings.controls("desk:horn") == ("Escape",)
    assert deck.seat.bindings.controls("back") == ("BrowserBack", "right_cluster_right")
    deck.seat.ask("back", answers.append)
    deck.hand.press_pad("center_left")
    assert deck.seat.bindings.controls("back") == ("center_left", "BrowserBack")
    deck.seat.ask("back", answers.append)
    deck.hand.pad("left_stick_y", -1.0)
    assert answers[-1].control == "left_stick_y-"
    deck.seat.ask("back", answers.append)
    deck.seat.stop_asking()
    assert deck.hand.key("KeyJ").world
    with pytest.raises(BindingError, match="there is no action 'honk'"):
        deck.seat.ask("honk", answers.append)


def test_f5_shortcuts_go_to_the_frontmost_listener_in_reach_and_else_name_the_action_to_the_world() -> None:
    deck = Deck()
    deck.seat.bindings = Bindings({"desk:horn": ["KeyH", "right_cluster_left"]})
    verdict = deck.hand.key("KeyH")
    assert (verdict.world, verdict.action) == (True, "desk:horn")
    deck.layer.on("desk:horn", deck.hear)
    front = deck.scene.layer("front", order=5)
    front.on("desk:horn", deck.hear)
    for control, hears in (("KeyH", "front"), ("right_cluster_left", "front")):
        deck.said()
        verdict = deck.hand.press_pad(control) if "_" in control else deck.hand.press_keys(control)
        assert verdict.owner is front
        assert deck.said() == [f"desk:horn {hears}"]
    front.visible = False
    assert deck.hand.press_keys("KeyH").owner is deck.layer
    deck.add("ask", (0, 0, 50, 50), modal=True)
    assert deck.hand.press_keys("KeyH").reason is Reason.MODAL


def test_focus_map_names_what_cannot_be_reached_or_left() -> None:
    deck = Deck()
    deck["a"].nav = dict.fromkeys(WAYS)
    found = focus_map(deck.scene)
    assert "l/a cannot be left by directions" in found.problems
    assert "l/b cannot be reached by directions from l/a" in found.problems
    assert [stop.number for stop in found.stops][:5] == [1, 2, 3, 4, None]
    assert focus_map(deck.scene, deck["list"]).problems == []
    stuck = deck.add("stuck", (0, 0, 50, 50), modal=True, solidity="solid")
    assert "l/stuck is modal and cannot be left" in focus_map(deck.scene).problems[0]
    stuck.closed_by = "back"
    assert focus_map(deck.scene).problems == []


def test_focus_by_code_is_refused_where_it_cannot_be() -> None:
    deck = Deck()
    deck.add("ask", (0, 0, 50, 50), modal=True)
    with pytest.raises(SceneError, match="l/a: cannot have the focus of seat main.* l/ask is modal"):
        deck.seat.focus = deck["a"]
    with pytest.raises(SceneError, match="cannot navigate 'north', expected one of left, right"):
        deck.seat.navigate("north")
