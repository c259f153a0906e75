"""Modals, light dismiss, popups and back (M1–M4), and what clicks count on from (G1)."""

from __future__ import annotations

import pytest

from desk import Desk
from glent import Layer, Node, PointerSample, Reason
from glent.diagnose import Outcome, Zone, pass_map, why


class Screens(Desk):
    """A desk with a button and a field, a menu in front of it, and a toast in front of that."""

    def __init__(self, **menu: object) -> None:
        super().__init__()
        self.open = self.add("open", (0, 0, 20, 10), role="button", hears="click cancel press enter leave focus blur")
        self.other = self.add("other", (30, 0, 20, 10), role="button", hears="click")
        self.menu = self.scene.layer("menu", order=10, **{"modal": True, "visible": False, **menu})
        self.sail_on = self.menu.add("sail-on", role="button", place=self.at(40, 40, 20, 10))
        self.go_ashore = self.menu.add("go-ashore", role="button", place=self.at(40, 60, 20, 10))
        for node in (self.sail_on, self.go_ashore):
            for kind in ("click", "focus", "blur"):
                node.on(kind, self.hear)
        self.toast = self.scene.layer("toasts", order=20).add("toast", role="button", place=self.at(80, 0, 20, 10))
        self.toast.on("click", self.hear)
        self.seat = self.router.seat()

    @staticmethod
    def at(left: float, top: float, width: float, height: float):
        from glent import Place

        return Place(left, top, width=width, height=height)


def test_m1_nothing_beneath_a_modal_reacts_and_the_world_gets_nothing() -> None:
    desk = Screens()
    desk.menu.visible = True
    for point in ((5.0, 5.0), (5.0, 90.0)):
        verdict = desk.hand.click(point)
        assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.MODAL)
        assert "menu is modal" in verdict.why
        assert not desk.router.would_reach_world(*point)
    assert desk.hand.wheel(1).reason is Reason.MODAL
    assert desk.hand.key("KeyW").reason is Reason.MODAL
    assert desk.hand.pad("right_stick_x", 0.9).reason is Reason.MODAL
    assert desk.hand.type("k").reason is Reason.MODAL
    assert not [said for said in desk.said() if "open" in said]
    assert desk.hand.click(desk.sail_on).owner is desk.sail_on
    assert desk.hand.click(desk.toast).owner is desk.toast
    assert desk.seat.focus is desk.sail_on, "a layer above keeps the pointer, not the focus"


def test_m1_the_hit_test_the_map_and_why_say_so_too() -> None:
    desk = Screens()
    desk.menu.visible = True
    (hit,) = desk.router.hits(5, 5)
    assert (hit.node, hit.offered) == (desk.open, False)
    found = {one.node: one for one in why(desk.router, 5, 5)}
    assert (found[desk.open].outcome, found[desk.open].by) == (Outcome.MODAL, desk.menu)
    zones = pass_map(desk.scene).zones
    assert zones[5, 5] == zones[90, 90] == Zone.BLOCKED
    assert zones[45, 45] == zones[5, 90] == Zone.SOLID
    desk.menu.visible = False
    assert pass_map(desk.scene).zones[90, 90] == Zone.WORLD


def test_m1_a_modal_on_a_node_blocks_all_that_is_painted_behind_it() -> None:
    desk = Desk()
    behind = desk.add("behind", (0, 0, 50, 50), role="button", hears="click")
    ask = desk.add("ask", (20, 20, 60, 60), modal=True, solidity="solid", order=1)
    yes = desk.add("ask/yes", (10, 10, 20, 20), role="button", hears="click")
    front = desk.add("front", (60, 0, 40, 30), role="button", hears="click", order=2)
    assert desk.hand.click(behind, at=(0.1, 0.1)).reason is Reason.MODAL
    assert desk.hand.click(yes).owner is yes
    assert desk.hand.click(front).owner is front
    assert desk.hand.click((95.0, 95.0)).reason is Reason.MODAL
    ask.modal = False
    assert desk.hand.click(behind, at=(0.1, 0.1)).owner is behind


@pytest.mark.parametrize("cause", ["handler", "code", "key"])
def test_m1_opening_spends_pointers_lifts_keys_and_moves_the_focus(cause: str) -> None:
    desk = Screens()
    desk.hand.key("KeyW")
    desk.finger.click((5.0, 90.0))
    desk.finger.press()
    desk.hand.move(desk.open)
    desk.hand.press()
    desk.said()
    if cause == "code":
        desk.menu.visible = True
        desk.router.settle()
        lifts = desk.router.take_lifts()
    elif cause == "key":
        desk.layer.on("desk:menu", lambda event: setattr(desk.menu, "visible", True))
        from glent import Bindings

        desk.seat.bindings = Bindings({"desk:menu": ["F10"]})
        lifts = desk.hand.key("F10").lifts
    else:
        desk.open.on("move", lambda event: setattr(desk.menu, "visible", True))
        lifts = desk.hand.move((6.0, 5.0)).lifts
    assert set(lifts) == {"finger/primary", "keys/KeyW"}
    desk.router.settle()
    assert "cancel open" in desk.said()
    assert desk.seat.focus is desk.sail_on
    verdict = desk.hand.release()
    assert (verdict.world, verdict.owner, verdict.reason) == (False, None, Reason.SPENT)
    assert "menu, which is modal, has opened" in verdict.why
    assert desk.finger.release().reason is Reason.SPENT
    assert "click open" not in desk.said()


def test_m2_the_press_that_opens_a_modal_cannot_click_in_it() -> None:
    desk = Screens()
    under = desk.menu.add("under", role="button", place=desk.at(0, 0, 20, 10))
    under.on("click", desk.hear)
    desk.open.on("press", lambda event: setattr(desk.menu, "visible", True))
    desk.hand.click(desk.open)
    assert "click under" not in desk.said()


@pytest.mark.parametrize("kind", ["mouse", "finger"])
def test_g1_a_press_that_continues_a_count_from_before_a_modal_clicks_nothing_in_it(kind: str) -> None:
    desk = Screens()
    hand = desk.hand if kind == "mouse" else desk.finger
    under = desk.menu.add("under", role="button", place=desk.at(0, 0, 20, 10))
    under.on("click", desk.hear)
    desk.open.on("click", lambda event: setattr(desk.menu, "visible", True))
    hand.click(desk.open)
    desk.said()
    for _ in range(2):  # the second and the third of a triple click
        verdict = hand.click(under)
        assert (verdict.reason, desk.said()) == (Reason.COUNTED, [])
    hand.pause(1.0)
    assert hand.click(under).owner is under
    assert "click under" in desk.said()


def popup(**more: object) -> Screens:
    desk = Screens()
    desk.popup = desk.add("popup", (0, 12, 40, 40), solidity="solid", closed_by="any", opener=desk.open, **more)
    desk.item = desk.add("popup/item", (5, 5, 20, 10), role="menuitem", hears="click")
    return desk


@pytest.mark.parametrize("modal", [False, True])
def test_m2_a_press_outside_closes_and_does_nothing_else(modal: bool) -> None:
    desk = popup(modal=modal)
    verdict = desk.hand.click((95.0, 95.0))
    assert (verdict.reason, verdict.world, desk.popup.visible) == (Reason.DISMISSED, False, False)
    assert "l/popup" in verdict.why
    assert desk.hand.click((95.0, 95.0)).world
    desk.popup.visible = True
    assert desk.hand.click(desk.other).reason is Reason.DISMISSED
    assert "click other" not in desk.said()
    desk.popup.visible = True
    assert desk.hand.click(desk.item).owner is desk.item
    assert desk.popup.visible
    assert desk.hand.click(desk.toast).owner is desk.toast, "what lies in front is not outside"
    assert desk.popup.visible


def test_m2_unless_told_the_press_goes_on() -> None:
    desk = popup(closing_press_acts=True)
    assert desk.hand.click(desk.other).owner is desk.other
    assert not desk.popup.visible
    assert "click other" in desk.said()


@pytest.mark.parametrize("modal", [False, True])
def test_m2_what_it_is_opened_by_counts_as_inside_and_only_closes(modal: bool) -> None:
    desk = popup(modal=modal)
    desk.open.on("click", lambda event: setattr(desk.popup, "visible", True))
    verdict = desk.hand.click(desk.open)
    assert (verdict.reason, desk.popup.visible) == (Reason.CLOSED, False)
    assert "click open" not in desk.said()
    desk.hand.click(desk.open)
    assert desk.popup.visible


def test_m2_a_submenu_is_opened_by_an_item_and_a_press_in_it_is_inside_both() -> None:
    desk = popup()
    sub = desk.add("sub", (45, 12, 30, 30), solidity="solid", closed_by="any", opener=desk.item)
    deep = desk.add("sub/deep", (5, 5, 10, 10), role="menuitem", hears="click")
    assert desk.hand.click(deep).owner is deep
    assert (desk.popup.visible, sub.visible) == (True, True)
    desk.hand.click(desk.popup, at=(0.9, 0.9))
    assert (desk.popup.visible, sub.visible) == (True, False), "outside the submenu, inside the menu"
    sub.visible = True
    desk.hand.click((95.0, 95.0))
    assert (desk.popup.visible, sub.visible) == (False, False)


def test_m2_a_handler_of_back_may_keep_it_open_and_the_press_is_used_up_all_the_same() -> None:
    desk = popup()
    desk.popup.on("back", lambda event: event.take())
    causes = []
    desk.layer.on("back", lambda event: causes.append(event.data["cause"]), phase="capture")
    assert desk.hand.click((95.0, 95.0)).reason is Reason.DISMISSED
    assert desk.hand.click(desk.open).reason is Reason.CLOSED
    desk.hand.press_keys("Escape")
    assert desk.popup.visible
    assert causes == ["outside", "opener", "back"]


def test_m3_modals_stack_and_the_focus_goes_back_to_before_the_lowest_now_closed() -> None:
    desk = Screens(closed_by="back")
    ask = desk.scene.layer("ask", order=15, modal=True, visible=False)
    yes = ask.add("yes", role="button", place=desk.at(40, 40, 20, 10))
    desk.hand.press_keys("Tab")
    assert desk.seat.focus is desk.open
    desk.menu.visible = True
    desk.router.settle()
    desk.seat.focus = desk.go_ashore
    ask.visible = True
    desk.router.settle()
    assert desk.seat.focus is yes
    ask.visible = False
    desk.router.settle()
    assert desk.seat.focus is desk.go_ashore
    ask.visible = True
    desk.router.settle()
    desk.menu.visible = ask.visible = False
    desk.router.settle()
    assert desk.seat.focus is desk.open
    assert desk.open.focus_ring


def test_m3_a_lower_one_that_closes_first_hands_its_place_up() -> None:
    desk = Screens()
    ask = desk.scene.layer("ask", order=15, modal=True, visible=False)
    yes = ask.add("yes", role="button", place=desk.at(40, 40, 20, 10))
    desk.seat.focus = desk.other
    for layer in (desk.menu, ask):
        layer.visible = True
        desk.router.settle()
    desk.menu.visible = False
    desk.router.settle()
    assert desk.seat.focus is yes
    ask.visible = False
    desk.router.settle()
    assert desk.seat.focus is desk.other


@pytest.mark.parametrize("how", ["hidden", "disabled", "removed"])
def test_m3_where_the_place_before_has_gone_the_focus_goes_to_f3s(how: str) -> None:
    desk = Screens()
    desk.seat.focus = desk.open
    desk.menu.visible = True
    desk.router.settle()
    if how == "removed":
        desk.open.remove()
    elif how == "hidden":
        desk.open.visible = False
    else:
        desk.open.enabled = False
    desk.menu.visible = False
    desk.router.settle()
    assert desk.seat.focus is desk.other


def test_m3_a_handler_that_moved_the_focus_itself_is_not_overruled() -> None:
    desk = Screens()
    desk.seat.focus = desk.open
    desk.menu.visible = True
    desk.router.settle()

    def close(event: object) -> None:
        desk.menu.visible = False
        desk.seat.focus = desk.other

    desk.sail_on.on("click", close)
    desk.hand.click(desk.sail_on)
    desk.router.settle()
    assert desk.seat.focus is desk.other


def test_m4_back_closes_the_topmost_thing_that_can_be_closed_and_is_used_up() -> None:
    desk = popup()
    desk.menu.closed_by = "back"
    desk.menu.visible = True
    for closed in (desk.menu, desk.popup):
        verdict = desk.hand.press_keys("Escape")
        assert (verdict.reason, closed.visible) == (Reason.CLOSED, False)
    verdict = desk.hand.key("Escape")
    assert verdict.world
    assert verdict.action == "back"
    assert desk.hand.key("Escape", "up").world
    assert desk.hand.press_pad("right_cluster_right").world


def test_m4_under_a_modal_that_cannot_be_closed_back_is_used_up() -> None:
    desk = popup()
    desk.menu.visible = True
    verdict = desk.hand.key("Escape")
    assert (verdict.reason, verdict.world) == (Reason.KEPT_OPEN, False)
    assert (desk.popup.visible, desk.menu.visible) == (True, True)
    assert not desk.hand.key("Escape", "up").world


def test_m4_one_back_never_both_closes_and_opens() -> None:
    desk = Screens(closed_by="back")
    opened = []

    def world(verdict) -> None:
        if verdict.world and verdict.action == "back":
            desk.menu.visible = True
            opened.append(verdict)

    for expected in (True, False, True, False):
        for verdict in (desk.hand.key("Escape"), desk.hand.key("Escape", "up")):
            world(verdict)
        assert desk.menu.visible is expected
    assert len(opened) == 2
    desk.menu.visible = True
    desk.hand.key("Escape")
    assert desk.router.seat().back() is False


def test_g3_drags_are_undone_by_a_modal_and_drops_stay_within_it() -> None:
    desk = Screens()
    for kind in ("drag_start", "drag_end"):
        desk.open.on(kind, desk.hear)
    desk.open.on("drag_start", lambda event: event.give("salt"))
    desk.hand.move(desk.open)
    desk.hand.press()
    desk.hand.move((50.0, 90.0), 4)
    desk.menu.visible = True
    desk.router.settle()
    assert desk.data("outcome")[-1:] == ["cancelled"] or "drag_end open" in desk.said()
    assert desk.hand.release().drop is None
    crate = desk.menu.add("crate", role="button", place=desk.at(10, 80, 10, 10))
    crate.on("drag_start", lambda event: event.give("kelp"))
    crate.on("drag_end", desk.hear)
    desk.other.on("drop", desk.hear)
    desk.hand.drag(crate, desk.other)
    assert desk.hand.verdicts[-1].drop is None, "behind a modal there is no world to drop on"
    assert "drop other" not in desk.said()


def test_p6_hover_leaves_what_a_modal_covers_and_enters_it_again() -> None:
    desk = Screens()
    desk.hand.move(desk.open)
    assert desk.open.hovered
    desk.menu.visible = True
    desk.router.settle()
    assert not desk.open.hovered
    assert desk.hand.move((6.0, 5.0)).reason is Reason.MODAL
    desk.menu.visible = False
    desk.router.settle()
    assert desk.open.hovered
    assert [said for said in desk.said() if said.endswith("open")] == ["enter open", "leave open", "enter open"]


def test_w6_idle_moves_outside_a_modal_share_a_verdict_and_say_the_same() -> None:
    desk = Screens()
    desk.menu.visible = True
    first = [desk.router.feed(PointerSample(float(n), "move", 5.0 + n / 8, 90.0)) for n in range(4)]
    assert {verdict.reason for verdict in first} == {Reason.MODAL}
    assert first[2] is first[3]
    assert desk.router.feed(PointerSample(9.0, "move", 45.0, 45.0)).owner is desk.sail_on


def test_the_terms_of_nodes_are_checked_and_name_all_parties() -> None:
    desk = Desk()
    from glent import SceneError

    for given, said in (
        ({"modal": 1}, "l/a: modal is 1, expected True or False"),
        ({"closed_by": "esc"}, "closed_by is 'esc', expected one of none, back, any"),
        ({"opener": 5}, "opener is 5, expected None, a node or the path of one"),
        ({"seats": ["two", "two"]}, "seats names 'two' twice"),
        ({"seats": []}, "seats is [], expected None or the names of seats"),
        ({"for_others": "ignore"}, "expected one of through, blocked"),
        ({"nav": {"north": "l"}}, "nav names 'north', expected one of left, right, up, down"),
        ({"wrap": "z"}, "wrap is 'z'"),
        ({"tab_order": "first"}, "tab_order is 'first'"),
    ):
        with pytest.raises(SceneError) as caught:
            desk.layer.add("a", **given)
        assert said in str(caught.value)
        assert not desk.layer.children
    with pytest.raises(TypeError, match="l/a: there is no attribute 'modla', .*; near is modal$"):
        desk.layer.add("a", modla=True)
    with pytest.raises(
        SceneError, match="menu: claims names 'sound', expected channels among pointer, keys, pad, text"
    ):
        desk.scene.layer("menu", claims=["keys", "sound"])
    with pytest.raises(SceneError, match="menu: cursor is 'gone', expected None or one of shown, hidden, locked"):
        desk.scene.layer("menu", cursor="gone")
    with pytest.raises(SceneError, match="transition is 'slow'"):
        desk.layer.transition = "slow"
    assert [layer.name for layer in desk.scene.layers] == ["l"]
    assert isinstance(desk.layer, Layer)
    assert isinstance(desk.layer, Node)


def test_m1_what_a_modal_lies_in_is_behind_it_for_clicks_gestures_wheels_and_drops() -> None:
    desk = Desk()
    card = desk.add("card", (0, 0, 100, 100), scrolls=True, content=(100, 400), accepts=lambda payload: True)
    for kind in ("click", "drag_start", "hold", "drop", "dwell"):
        card.on(kind, desk.hear)
    ask = desk.add("card/ask", (20, 20, 60, 60), modal=True, solidity="solid")
    crate = desk.add("card/ask/crate", (5, 5, 10, 10))
    crate.on("drag_start", lambda event: event.give("salt"))
    desk.hand.click(ask, at=(0.9, 0.9))
    desk.hand.drag((70.0, 70.0), (30.0, 75.0))
    desk.hand.drag(crate, (70.0, 70.0))
    desk.finger.drag((70.0, 75.0), (70.0, 30.0))
    desk.hand.wheel(1)
    assert desk.said() == ["drag_start crate@card"], "its own events bubble, and nothing begins there"
    assert card.scroll == (0.0, 0.0)
    ask.modal = False
    desk.hand.pause(1.0)
    desk.hand.click(ask, at=(0.9, 0.9))
    desk.hand.wheel(1)
    assert desk.said() == ["click card"]
    assert card.scroll[1] > 0


def test_g4_a_burst_of_the_wheel_ends_at_a_modal() -> None:
    desk = Screens()
    rows = desk.add("rows", (0, 20, 50, 60), scrolls=True, content=(50, 4000))
    desk.hand.move((10.0, 50.0))
    desk.hand.wheel(1)
    desk.menu.visible = True
    before = rows.scroll
    assert desk.hand.wheel(1).reason is Reason.MODAL
    assert rows.scroll == before
    desk.menu.visible = False
    assert desk.hand.wheel(1).owner is rows


def test_p6_a_router_that_closes_blurs_comes_up_and_lifts() -> None:
    desk = Screens()
    desk.other.on("key_down", desk.hear)
    desk.other.on("key_up", desk.hear)
    desk.other.on("blur", desk.hear)
    desk.hand.move((90.0, 90.0))
    desk.seat.focus = desk.other
    desk.hand.key("F5")
    desk.hand.pad("left_stick_x", 1.0)
    desk.hand.press()
    desk.said()
    desk.seat.focus = desk.other
    desk.router.close()
    assert desk.said() == ["key_up other", "blur other"]
    assert set(desk.router.take_lifts()) == {"keys/F5", "pad0/left_stick_x", "mouse/primary"}
    assert not desk.other.focused


@pytest.mark.parametrize("how", ["hidden", "removed"])
def test_m3_what_was_focused_nowhere_is_nowhere_again(how: str) -> None:
    desk = Screens()
    desk.menu.visible = True
    desk.router.settle()
    assert desk.seat.focus is desk.sail_on
    if how == "hidden":
        desk.menu.visible = False
    else:
        desk.menu.remove()
    desk.router.settle()
    assert desk.seat.focus is None


def test_m4_a_key_whose_handler_closes_a_modal_does_nothing_else_even_if_it_is_not_taken() -> None:
    desk = Screens()
    desk.menu.visible = True
    desk.menu.on("key_down", lambda event: setattr(desk.menu, "visible", False))
    verdict = desk.hand.key("Escape")
    assert (verdict.reason, verdict.world, desk.menu.visible) == (Reason.SHUT, False, False)
    assert not desk.hand.key("Escape", "up").world
    assert desk.hand.press_keys("Escape").world


def test_s4_a_modal_in_a_ghost_bars_nothing() -> None:
    desk = Screens()
    desk.menu.visible, desk.menu.solidity = True, "ghost"
    assert desk.hand.click(desk.open).owner is desk.open
    assert desk.seat.modal is None
    assert desk.hand.press_keys("KeyQ").world
    desk.menu.solidity = "hollow"
    assert desk.hand.click(desk.open).reason is Reason.MODAL


@pytest.mark.parametrize(("order", "closes"), [(50, False), (-1, True)])
def test_m2_a_press_that_comes_to_a_layer_in_transition_in_front_closes_nothing(order: int, closes: bool) -> None:
    desk = popup()
    coming = desk.scene.layer("coming", order=order)
    coming.transition = "ignores"
    desk.hand.click((95.0, 95.0))
    assert desk.popup.visible is not closes
