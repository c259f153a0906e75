"""Combo box, tree and spin button beyond their tables of acts: by code, when things go, and what is refused."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

import glent
from glent import Flow, GlentError, ListValue, Place, Router, Scene, Value
from glent.controls import Combobox, Listbox, Popup, Spinbutton, Tree
from stage import Stage

STORES = Path(__file__).parent / "stores.yaml"


def stage(node: str) -> Stage:
    return Stage(node, STORES)


@pytest.mark.parametrize(
    ("node", "act", "value", "what", "after"),
    [
        ("desk/tug", "set", "carp", "value", "carp"),
        ("desk/tug", "open", None, "is_open", True),
        ("desk/casks", "set", 7.2, "value", 7.0),
        ("desk/casks", "step", -2, "value", 2.0),
        ("desk/hold", "set", "aft/in/tar", "value", "aft/in/tar"),
    ],
)
def test_c2_code_does_what_a_player_could(node: str, act: str, value: Any, what: str, after: Any) -> None:
    made = stage(node)
    assert made.router.act(made.scene[node], act, value).reason is glent.Reason.ASKED
    assert made.see(what) == after
    assert made.errors == []


@pytest.mark.parametrize(
    ("node", "act", "value", "why"),
    [
        ("desk/tug", "set", "whale", "has no item 'whale' that shows and is enabled"),
        ("desk/casks", "set", "many", "was given 'many', expected a number"),
        ("desk/hold", "set", "for", "has no item 'for'; near is fore"),
        ("desk/hold/lamp", "open", None, "has nothing that opens"),
    ],
)
def test_c2_what_a_player_could_not_do_is_refused_with_why(node: str, act: str, value: Any, why: str) -> None:
    made = stage(node)
    verdict = made.router.act(made.scene[node], act, value)
    assert (verdict.reason, why in verdict.why) == (glent.Reason.UNABLE, True), verdict.why


def test_c2_branches_open_and_close_by_code_and_let_the_focus_out() -> None:
    made = stage("desk/hold")
    made.do("focus fore/in/rope")
    assert made.router.act(made.scene["desk/hold/fore"], "close").reason is glent.Reason.ASKED
    assert (made.see("focus"), made.see("opened")) == ("fore", [])
    made.control.open.current = ("aft", "gone")
    assert (made.see("shown aft/in"), made.see("shown fore/in")) == (True, False)
    made.scene["desk/hold/aft"].remove()
    made.do("focus fore")
    made.do("End")
    assert made.see("value") == "lamp"
    made.control.open.current = ("fore",)
    assert made.errors == []


def test_c_a_combobox_shows_what_the_game_chose_and_follows_a_list_of_its() -> None:
    scene = Scene(size=(400, 400))
    desk = scene.layer("desk")
    lots = ListValue([f"lot {number}" for number in range(5_000)])
    popup = desk.add("popup", place=Place(width=160, height=120))
    listbox = Listbox(popup.add("lots"))
    listbox.follow_items(lots, lambda row, lot: setattr(row, "label", lot.upper()), 24)
    game = Value("lot 4000")
    box = Combobox(desk.add("box", place=Place(10, 10, width=160, height=30)), popup, listbox, game, gap=4)
    router = Router(scene)
    assert box.shown == "lot 4000"
    router.act(box.node, "open")
    router.settle()
    assert router.seat().focus is listbox.node["lot 4000"]
    assert popup.edges[1] == 44
    game.current = "lot 7"
    lots.remove("lot 7")
    assert (box.shown, "empty" in box.look().marks) == ("", True)
    box.detach()
    assert not popup.visible


@pytest.mark.parametrize(("act", "typed"), [("click desk/sign", "12"), ("hold F9", "12"), ("set value=4", "")])
def test_c_what_is_typed_into_a_spin_button_waits_for_enter_or_the_focus_to_leave(act: str, typed: str) -> None:
    made = stage("desk/casks")
    for key in ("focus .", "letter 1", "letter 2"):
        made.do(key)
    made.do(act)
    assert made.see("value") == {"click desk/sign": 12.0, "hold F9": 3.0, "set value=4": 4.0}[act]
    assert made.see("typing") == ("" if act == "click desk/sign" else typed)


def parts() -> dict[str, Any]:
    desk = Scene(size=(200, 200)).layer("desk")
    tree = desk.add("tree", flow=Flow("column"))
    tree.add("leaf", role="treeitem")
    popup = desk.add("popup")
    return {"desk": desk, "tree": tree, "popup": popup, "list": Listbox(desk.add("list")), "box": desk.add("box")}


@pytest.mark.parametrize(
    ("make", "why"),
    [
        (lambda p: Combobox(p["box"], p["popup"], p["list"]), "expected one within desk/popup"),
        (lambda p: Combobox(p["box"], "popup", p["list"]), "'popup' is no node"),
        (lambda p: Combobox(p["box"], p["popup"], Listbox(p["popup"].add("l")), start="cod"), "has no item 'cod'"),
        (
            lambda p: (Popup(p["popup"]), Combobox(p["box"], p["popup"], Listbox(p["popup"].add("l")))),
            "a Popup already",
        ),
        (lambda p: Tree(p["tree"], start="lea"), "has no item 'lea'; near is leaf"),
        (lambda p: Tree(p["tree"], opened=["leaf"]), "has no branch to open"),
        (lambda p: Spinbutton(p["box"], low=5, high=5), "low is 5 and high 5"),
        (lambda p: Spinbutton(p["box"], step=0), "step is 0, expected more than 0"),
        (lambda p: Spinbutton(p["box"], decimals=-1), "decimals is -1"),
    ],
)
def test_c12_what_cannot_be_made_is_refused_and_changes_nothing(make: Any, why: str) -> None:
    given = parts()
    with pytest.raises(GlentError, match=why):
        make(given)
    assert given["box"].role is None
    assert given["tree"].role is None
    assert given["tree"].children[0].visible
