"""Controls at their edges: second pointers, other ranges, keys on the screen, what cannot show (C2, C11)."""

from __future__ import annotations

from typing import Any

import pytest

from glent import ControlError, Flow, Place, Router, Scene, SceneError, Value, ValueRefusedError
from glent.controls import (
    CheckGroup,
    Dialog,
    KeyLayout,
    Listbox,
    Menu,
    RangeSlider,
    ScreenKeys,
    Slider,
    SliderRow,
    TextField,
    Toggle,
    ToolWindow,
)
from glent.testing import Hand


class Board:
    """A layer of 400 × 300, a router, a mouse and two fingers."""

    def __init__(self) -> None:
        self.scene = Scene((400, 300))
        self.layer = self.scene.layer("ui")
        self.router = Router(self.scene)
        self.hand = Hand(self.router)
        self.one, self.two = Hand(self.router, "f1", "touch"), Hand(self.router, "f2", "touch")

    def add(self, name: str, left: float, top: float, width: float, height: float, **more: Any) -> Any:
        return self.layer.add(name, place=Place(left, top, width=width, height=height), **more)


@pytest.mark.parametrize("second", ["on the rail", "on the thumb", "a tap", "lost"])
def test_p1_the_second_finger_on_a_slider_does_nothing_until_the_first_is_up(second: str) -> None:
    board = Board()
    slider = Slider(board.add("v", 0, 0, 216, 20))
    board.one.pos = board.one.point("ui/v/thumb")
    board.one.press()
    board.one.move((58, 10), 4)
    assert slider.value.current == 25
    board.two.pos = (208.0, 10.0) if second == "on the rail" else (60.0, 10.0)
    board.two.press()
    if second != "a tap":
        board.two.move((150, 10), 3)
    board.two.cancel() if second == "lost" else board.two.release()
    assert slider.value.current == 25
    board.one.move((108, 10), 2)
    assert slider.value.current == 50
    board.one.release()
    board.two.drag((108.0, 10.0), (28.0, 10.0))
    assert slider.value.current == 10


def test_p1_the_second_finger_on_a_windows_title_or_edge_leaves_it_to_the_first() -> None:
    board = Board()
    window = ToolWindow(board.add("w", 10, 10, 200, 100), stays_inside=False)
    board.one.pos = (60.0, 20.0)
    board.one.press()
    board.one.move((110, 20), 4)
    board.two.pos = (130.0, 20.0)
    board.two.press()
    board.two.move((330, 90), 4)
    board.two.release()
    assert window.node.edges[:2] == (60, 10)
    board.one.move((120, 30), 2)
    assert window.node.edges[:2] == (70, 20)


def test_v1_another_range_is_kept_to_at_once_and_thumbs_follow() -> None:
    board = Board()
    slider = Slider(board.add("v", 0, 0, 216, 20), Value(50, low=0, high=100))
    told: list[float] = []
    slider.value.watch(told.append)
    slider.value.high = 40
    assert (slider.value.current, slider.node["thumb"].edges[0]) == (40, 200)
    slider.value.high = 80
    assert (slider.value.current, slider.node["thumb"].edges[0]) == (40, 100)
    slider.value.limit(10, 20, 5)
    slider.value.step = 4
    assert told == [50, 40, 40, 20, 20]
    with pytest.raises(ValueRefusedError, match="low is 30 and high 20"):
        slider.value.low = 30
    assert (slider.value.low, slider.value.high, slider.value.step) == (10, 20, 4)
    other = Value("ebb", options=("ebb", "flood"))
    with pytest.raises(ValueRefusedError, match="no range beside them"):
        other.high = 3
    game = Value(19.0, low=0, high=30)
    slider.value.bind(game)
    slider.value.high = 15
    assert (slider.value.current, game.current) == (15, 15)


@pytest.mark.parametrize("by", ["value", "set"])
def test_c2_code_sets_a_range_by_the_rules_of_a_hand(by: str) -> None:
    board = Board()
    span = RangeSlider(board.add("span", 0, 0, 216, 20), start=(20.0, 60.0), apart=5.0)
    for name, to, comes_to in (("low", 90.0, 55.0), ("high", 10.0, 60.0), ("low", 10.0, 10.0), ("high", 0.0, 15.0)):
        if by == "set":
            span.set(to, name)
        else:
            span.values[name].current = to
        assert span.values[name].current == comes_to
        assert span.low.current <= span.high.current - 5.0
    with pytest.raises(ControlError, match="has no value 'value', expected low or high"):
        span.set(3.0)


def test_c11_a_switch_of_a_number_is_refused() -> None:
    board = Board()
    with pytest.raises(ControlError, match="ui/t: the value is 3, expected True, False or 'mixed'"):
        Toggle(board.add("t", 0, 0, 40, 20), Value(3))
    assert board.layer["t"].role is None


def test_f4_keys_on_the_screen_leave_the_focus_in_their_field() -> None:
    board = Board()
    field = TextField(board.add("sign", 0, 0, 200, 30))
    keys = ScreenKeys(
        board.add("keys", 0, 100, 200, 60, solidity="solid", visible=False), [["a", "b", {"does": "enter"}]], field
    )
    told: list[str] = []
    for kind in ("focus", "blur"):
        field.node.on(kind, lambda event: told.append(event.kind))
    field.node.on("focus", lambda event: setattr(keys.node, "visible", True))
    field.node.on("blur", lambda event: setattr(keys.node, "visible", False))
    board.hand.click("ui/sign")
    board.hand.click(keys.key("a"))
    board.one.click(keys.key("b"))
    board.hand.click((190, 110))
    board.hand.type("c")
    assert (field.value.current, told, board.router.seat().focus) == ("abc", ["focus"], field.node)
    with pytest.raises(ControlError, match="no key types 'entr'; near is enter"):
        keys.key("entr")
    assert ScreenKeys(
        board.add("more", 0, 200, 200, 60), KeyLayout.from_plain([["x", {"text": "1", "shifted": "!"}]])
    ).key("!")


def test_c10_a_dialog_in_something_hidden_says_so_and_one_shows_its_backdrop() -> None:
    board = Board()
    notices = board.scene.layer("notices", order=5)
    backdrop = notices.add("backdrop", solidity="solid", visible=False)
    panel = notices.add("panel", place=Place(100, 100, width=200, height=100), solidity="solid")
    panel.add("frame").add("choices", place=Place(0, 50, width=200, height=40))
    dialog = Dialog(panel, backdrop)
    notices.visible = False
    with pytest.raises(ControlError, match="notices/panel: cannot ask, notices is hidden; show it first"):
        dialog.ask("Cast off?", ["yes", "no"])
    assert dialog.asked is None
    notices.visible = True
    answers: list[Any] = []
    dialog.ask("Cast off?", ["yes", "no"], answers.append, cancel="no")
    assert backdrop.is_visible
    assert dialog.labels == {"frame/choices/choice-0": "yes", "frame/choices/choice-1": "no"}
    board.hand.click("notices/panel/frame/choices/choice-0")
    assert (answers, backdrop.is_visible, panel.is_visible) == (["yes"], False, False)


def test_c5_a_menu_without_an_item_does_not_open() -> None:
    board = Board()
    opener = board.add("open", 0, 0, 60, 20, role="button")
    menu = Menu(board.add("menu", 0, 0, 100, 60), opener)
    board.hand.click("ui/open")
    assert not menu.is_open
    item = menu.node.add("weigh", role="menuitem", visible=False)
    board.hand.click("ui/open")
    assert not menu.is_open
    item.visible = True
    board.hand.click("ui/open")
    assert menu.is_open


def test_c1_a_list_tells_each_pick_also_of_the_same_option() -> None:
    board = Board()
    rows = board.add("rows", 0, 0, 100, 60)
    for number, name in enumerate(("ebb", "flood")):
        rows.add(name, role="option", place=Place(0, number * 30, width=100, height=30))
    told: list[str] = []
    Listbox(rows).on("pick", told.append)
    for path in ("ebb", "ebb", "flood"):
        board.hand.click(f"ui/rows/{path}")
        board.hand.wait(1.0)
    board.hand.press_keys("ArrowUp")
    board.hand.press_keys("Tab")
    board.hand.press_keys("ArrowUp")
    assert told[:3] == ["ebb", "ebb", "flood"]


@pytest.mark.parametrize("orientation", ["vertical", "horizontal"])
def test_c1_a_row_of_sliders_stands_or_lies(orientation: str) -> None:
    board = Board()
    row = SliderRow(board.add("trim", 0, 0, 90, 90), start=[0, 0, 0], orientation=orientation)  # type: ignore[arg-type]
    stroke = [(15.0, 45.0), (75.0, 45.0)] if orientation == "vertical" else [(45.0, 15.0), (45.0, 75.0)]
    board.hand.drag(*stroke)
    assert [value.current for value in row.row] == [50, 50, 50]
    board.router.seat().set_focus(board.layer["trim/0"], True)
    board.hand.press_keys("ArrowRight" if orientation == "vertical" else "ArrowDown")
    board.hand.press_keys("ArrowUp" if orientation == "vertical" else "ArrowRight")
    assert [value.current for value in row.row] == [50, 51, 50]
    assert row.node["1"].edges == ((30, 0, 60, 90) if orientation == "vertical" else (0, 30, 90, 60))


def test_c1_a_group_of_checkboxes_has_one_value() -> None:
    board = Board()
    node = board.add("signals", 0, 0, 100, 90)
    for number, name in enumerate(("lamp", "horn", "flag")):
        node.add(name, role="checkbox", place=Place(0, number * 30, width=100, height=30))
    group = CheckGroup(node, start=["flag"])
    for path in ("horn", "lamp", "horn"):
        board.hand.click(f"ui/signals/{path}")
    assert group.value.current == ("lamp", "flag")
    assert group.look("lamp").marks == ("chosen",)
    board.hand.press_keys("Tab")
    board.hand.press_keys("Space")
    assert group.value.current == ("lamp",)
    board.hand.press_keys("Space")
    node["flag"].remove()
    board.hand.click("ui/signals/horn")
    assert group.value.current == ("lamp", "horn", "flag"), "what is gone stays in it"
    group.set(("horn",))
    assert not group.look("lamp").marks


def test_c9_a_window_that_fits_goes_on_fitting_when_it_is_moved_and_has_only_the_parts_it_wants() -> None:
    board = Board()
    place = Place(100, 50, width="fit-content", height="fit-content")
    node = board.layer.add("log", place=place, flow=Flow("column", padding=8))
    node.add("a", content=(70, 16))
    window = ToolWindow(node)
    assert (node.size, node["a"].edges[:2]) == ((86, 60), (8, 36))
    window.move_by(20, 10)
    node.add("b", content=(150, 16))
    assert node.edges == (120, 60, 120 + 166, 60 + 76)
    assert (node.declared("flow"), node.declared("place")) == (Flow("column", padding=8), place)
    window.size_by(10, 0)
    assert node.size == (176, 76)

    plain = board.add("plain", 0, 300, 100, 100)
    for name, given in {
        "top": Place(top=5, height=10), "fills": Place(), "share": Place(top="50%"),
        "hangs": Place(bottom=5, height=10),
        "pair": Place(top=(0.5, 2)), "up-to": Place(bottom=5),
    }.items():  # fmt: skip
        plain.add(name, place=given)
    for _ in range(2):
        made = ToolWindow(plain)
        tops = {name: plain[name].edges[1] for name in ("top", "fills", "share", "hangs", "pair", "up-to")}
        assert tops == {"top": 33, "fills": 28, "share": 78, "hangs": 85, "pair": 80, "up-to": 28}
        made.detach()
    assert plain["top"].declared("place") == Place(top=5, height=10)
    ToolWindow(plain)
    plain["top"].place = Place(top=7, height=10)
    plain.add("late", place=Place(top=1, height=1))
    board.router.settle()
    assert (plain["top"].edges[1], plain["late"].edges[1]) == (35, 29)

    bare = ToolWindow(board.add("bare", 0, 150, 100, 80), title=False, resizable=False)
    assert bare.node.children == ()
    assert board.hand.click((50, 152)).owner is bare.node
    fixed = ToolWindow(board.add("fixed", 150, 150, 100, 80), close_button=False)
    assert fixed.node["title"].children == ()


def test_t5_the_scene_of_a_router_is_not_set() -> None:
    board = Board()
    with pytest.raises(SceneError, match=r"router\.move_to\(scene\)"):
        board.router.scene = Scene((10, 10))
    assert board.router.scene is board.scene
