"""The laws of text fields: characters stay whole, and every edit is what a plain string and a caret come to."""

from __future__ import annotations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

import glent
from glent.controls import EditedLine, TextField
from glent.testing import Hand
from plain_text import PlainText, cut

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
@settings(max_examples=400, deadline=None)
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


@pytest.mark.parametrize(("options", "words"), [
    ({"max_length": -1}, "max_length is -1, expected a whole number from 0"),
    ({"max_length": True}, "max_length is True"),
    ({"allowed": "["}, "which is not a regular expression"),
])  # fmt: skip
def test_c4_what_a_field_cannot_be_is_refused(options: dict, words: str) -> None:
    with pytest.raises(glent.ControlError, match=words.replace("[", r"\[")):
        field(**options)
