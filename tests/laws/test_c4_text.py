"""The laws of text fields: characters stay whole, and every edit is what a plain string and a caret come to."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

import glent
from glent.controls import EditedLine, TextField
from glent.testing import Hand
from plain_text import PlainLines, PlainText, cut

PIECES = (
    "a", "Z", "7", " ", "-", "_", "ß", "e\u0301", "\u0301", "n\u0303\u0323", "🇳", "🇴", "🇳🇴", "👩‍👩‍👧", "\u200d",
    "👍🏽", "🏽", "ᄒ", "ᅡ", "ᆫ", "한", "क्षि", "\u093f", "\r", "\n", "\r\n", "\t", "kelp 7", "日本", "مد", "\ufe0f",
)  # fmt: skip
text = st.lists(st.sampled_from(PIECES), max_size=4).map("".join)
unit = st.sampled_from(("character", "word", "line"))
step = st.one_of(
    st.tuples(st.just("insert"), text),
    st.tuples(st.just("move"), unit, st.booleans(), st.booleans()),
    st.tuples(st.just("erase"), unit, st.booleans()),
    st.tuples(st.just("undo")),
)


@pytest.mark.long
@settings(max_examples=220, deadline=None)
@given(st.lists(step, max_size=25), st.none() | st.integers(0, 9), st.booleans())
@example([("insert", "a"), ("insert", "\u0301\r\u200d")], 1, False)
def test_c4_edits_agree_with_a_plain_string_and_caret(
    steps: list[tuple], max_length: int | None, capitals: bool
) -> None:
    edit = EditedLine(max_length=max_length, convert=str.upper if capitals else None)
    plain = PlainText(max_length, capitals)
    before: list[tuple[str, int, int]] = []
    for name, *given_ in steps:
        if name == "undo":
            while edit.undo():  # all the way back, and here again
                assert edit.text == "".join(cut(edit.text))
                assert edit.caret in edit.bounds
            assert edit.text == ""
            while edit.redo():
                pass
        else:
            getattr(edit, name)(*given_)
            getattr(plain, name)(*given_)
        assert (edit.text, edit.caret, edit.anchor) == (plain.text, plain.caret, plain.anchor)
        assert {edit.caret, edit.anchor} <= set(plain.places())
        assert edit.bounds == plain.places()
        before.append((edit.text, edit.caret, edit.anchor))


def test_c4_undo_goes_back_word_by_word_and_forth() -> None:
    edit = EditedLine()
    for sign in "low tide":
        edit.insert(sign)
    edit.erase("character", ahead=False)
    edit.erase("character", ahead=False)
    seen = [edit.text]
    while edit.undo():
        seen.append(edit.text)
    assert seen == ["low ti", "low tide", "low ", "low", ""]
    assert edit.redo()
    assert edit.redo()
    assert edit.text == "low "
    edit.insert("!")
    assert not edit.redo()
    assert edit.undo()
    assert edit.text == "low "


def field(**options) -> tuple[glent.Router, Hand, TextField]:
    scene = glent.Scene((400, 300))
    node = scene.layer("desk").add("sign", place=glent.Place(left=20, top=20, width=112, height=30))
    node.parent.add("other", role="button", place=glent.Place(left=20, top=90, width=112, height=30))
    router = glent.Router(scene, on_error=lambda error, event: (_ for _ in ()).throw(error))
    return router, Hand(router), TextField(node, **options)


def test_c4_the_caret_stays_in_view_and_a_point_finds_its_place() -> None:
    router, hand, made = field(measure=lambda text: 10.0 * len(cut(text)))
    router.seat().focus = made.node
    hand.type("abcdefghijklmnop👍🏽")
    assert made.offset == 70.0  # of 170 pixels the last 100 show
    hand.press_keys("Home")
    assert made.offset == 0.0
    hand.click(made.node, at=(0.5, 0.5))
    assert made.edit.caret == 5
    hand.press_keys("End")
    hand.click(made.node, at=(0.94, 0.5))
    assert made.caret == len("abcdefghijklmnop👍🏽")


def test_c4_what_a_bound_value_refuses_is_not_typed() -> None:
    class Strict(glent.Value):
        pass

    game = glent.Value("", options=("", "k", "kelp"))
    router, hand, made = field()
    errors: list[Exception] = []
    router._dispatcher._on_error = lambda error, event: errors.append(error)
    made.value.bind(game)
    router.seat().focus = made.node
    hand.type("k")
    hand.type("x")
    assert (made.edit.text, game.current, len(errors)) == ("k", "k", 1)
    game.current = "kelp"
    assert made.edit.text == "kelp"
    assert made.caret == 4


def test_c4_a_composition_stands_in_for_the_selection_until_it_is_committed() -> None:
    router, hand, made = field(value=glent.Value("tide"))
    router.seat().focus = made.node
    hand.press_keys("ControlLeft", "KeyA")
    hand.compose("ebbe", 2)
    assert (made.shown, made.caret, made.value.current) == ("ebbe", 2, "tide")
    assert hand.key("Enter", key="Enter").owner is made.node
    hand.compose("")
    hand.type("Ebbe")
    assert (made.shown, made.value.current, made.composing) == ("Ebbe", "Ebbe", "")
    hand.compose("x")
    router.seat().focus = router.scene["desk/other"]
    assert made.shown == "Ebbe"


KEYS = {
    "ArrowUp": ("vertical", -1),
    "ArrowDown": ("vertical", 1),
    "PageUp": ("vertical", -3),
    "PageDown": ("vertical", 3),
    "Home": ("end_of_row", False),
    "End": ("end_of_row", True),
    "ArrowLeft": ("move", "character", False),
    "ArrowRight": ("move", "character", True),
    "Backspace": ("erase", "character", False),
    "Delete": ("erase", "character", True),
}
WORDS = ["kelp", " ", "rope and tar ", "\n", "a\r\nb", "harbourmaster", "👍🏽", "  ", "é"]
typed = st.tuples(st.just("type"), st.sampled_from(WORDS))
pressed = st.tuples(st.sampled_from(list(KEYS)), st.booleans(), st.booleans())
pointed = st.tuples(st.just("click"), st.integers(0, 10), st.integers(0, 3))


def note(text: str = "", **options: Any) -> tuple[glent.Router, Hand, TextField]:
    """A field of four lines of ten characters."""
    scene = glent.Scene(size=(200, 200))
    node = scene.layer("desk").add("note", place=glent.Place(0, 0, width=112, height=92))
    router = glent.Router(scene)
    made = TextField(node, glent.Value(text), measure=lambda text: 10.0 * len(cut(text)), lines=4, **options)
    router.seat().focus = node
    return router, Hand(router), made


@pytest.mark.long
@settings(max_examples=160, deadline=None)
@given(st.lists(st.one_of(typed, pressed, pointed), max_size=30))
def test_c4_many_lines_agree_with_a_table_of_characters(steps: list[tuple]) -> None:
    _, hand, made = note()
    plain = PlainLines(10, 4)
    for name, *given_ in steps:
        if name == "type":
            hand.type(given_[0]) if "\r" not in given_[0] and "\n" not in given_[0] else made.type(given_[0])
            plain.insert(given_[0])
        elif name == "click":
            column, row = given_
            hand.wait(1.0)
            down = 6.0 + 20.0 * row + 5.0
            number = int((down + made.node.scroll[1] - 6.0) // 20)
            hand.click((6.0 + 10.0 * column + 1.0, down))
            plain.goal = None
            plain.to_row(min(number, len(plain.table()) - 1), column, False)
        else:
            shift, control = given_
            call, *args = KEYS[name]
            hand.press_keys(*["ShiftLeft"] * shift, *["ControlLeft"] * control, name)
            if call == "vertical":
                plain.vertical(*args, shift)
            elif call == "end_of_row" and not control:
                plain.end_of_row(*args, shift)
            else:
                unit, ahead = ("line", args[0]) if call == "end_of_row" else ("word" if control else args[0], args[1])
                plain.other("move" if call == "end_of_row" else call, unit, ahead, shift)
        edit = made.edit
        assert (edit.text, edit.caret, edit.anchor) == (plain.text, plain.caret, plain.anchor)
        rows = plain.table()
        assert [(line.start, made.shown[line.start : line.end]) for line in made.lines] == [
            (start, "".join(row)) for start, row in rows
        ]
        row = plain.row_of(plain.caret)
        assert made.caret_at == (6.0 + 10.0 * len(cut(plain.text[rows[row][0] : plain.caret])), 6.0 + 20.0 * row)
        assert made.node.scroll[1] <= 20.0 * row <= made.node.scroll[1] + 60.0, "the line of the caret shows"
        assert made.node.content == (0.0, 12.0 + 20.0 * len(rows))


SUBMITS = [("control-enter", [], ["ControlLeft"]), ("enter", ["ControlLeft"], [])]


@pytest.mark.parametrize(("submits", "breaks", "ends"), SUBMITS)
def test_c4_enter_submits_or_begins_a_line(submits: str, breaks: list[str], ends: list[str]) -> None:
    _, hand, made = note("tide", submits=submits)
    told: list[str] = []
    made.on("submit", told.append)
    hand.press_keys(*breaks, "Enter")
    hand.press_keys("ShiftLeft", "NumpadEnter")
    assert (made.value.current, told) == ("tide\n\n", [])
    hand.press_keys(*ends, "Enter")
    assert told == ["tide\n\n"]


def test_c4_a_finger_scrolls_several_lines_and_selects_once_it_has_rested() -> None:
    router, _, made = note("\n".join(f"buoy {number}" for number in range(12)))
    finger = Hand(router, "finger", "touch")
    made.edit.go(0)
    finger.pos = (50.0, 80.0)
    finger.press()
    finger.move((50.0, 30.0), steps=5)
    finger.release()
    assert made.node.scroll[1] > 20.0
    assert made.edit.selected == ""
    finger.wait(3.0)
    finger.pos = (20.0, 16.0)
    finger.press()
    finger.wait(0.3)
    finger.move((50.0, 56.0), steps=5)
    finger.release()
    assert "\n" in made.edit.selected
    finger.wait(3.0)
    hand = Hand(router)
    for _ in range(3):
        hand.click((20.0, 16.0))
    assert made.edit.selected.startswith("buoy ")
    assert "\n" not in made.edit.selected


def test_c4_what_is_composed_wraps_with_the_rest_and_a_narrower_node_wraps_anew() -> None:
    router, hand, made = note("rope and")
    made.press("End")
    hand.compose(" anchors", 3)
    assert [made.shown[line.start : line.end] for line in made.lines] == ["rope and ", "anchors"]
    assert made.caret_at == (6.0 + 20.0, 26.0)
    hand.compose("")
    made.node.place = glent.Place(0, 0, width=62, height=92)
    router.tick(router.now)
    assert [made.shown[line.start : line.end] for line in made.lines] == ["rope ", "and"]
    assert made.node.content == (0.0, 52.0)


@pytest.mark.parametrize(("options", "words"), [
    ({"max_length": -1}, "max_length is -1, expected a whole number from 0"),
    ({"max_length": True}, "max_length is True"),
    ({"lines": 0}, "lines is 0, expected a whole number from 1 to 1000"),
    ({"lines": 3, "password": True}, "a password has one line, and lines is 3"),
    ({"lines": 3, "submits": "tab"}, "submits is 'tab', expected enter or control-enter"),
    ({"allowed": "["}, "which is not a regular expression"),
])  # fmt: skip
def test_c4_what_a_field_cannot_be_is_refused(options: dict, words: str) -> None:
    with pytest.raises(glent.ControlError, match=words.replace("[", r"\[")):
        field(**options)
