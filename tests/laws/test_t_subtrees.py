"""Subtrees copied, moved and renamed: laws T5, H9, N1 and R7, judged by the same built by code and by a plain scan."""

from __future__ import annotations

import random
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import glent
import plain_hits as plain
from desk import Desk
from glent import Node, Place, Scene, SceneError
from glent.controls import Controls, Slider
from glent.core.scene.keywords import NodeKeywords
from glent.demo import GALLERY
from glent.formats import read_scene, scene_document
from glent.testing import Hand
from glent.wiring import Wiring
from strategies import scenes

BOX = (0, 0, 40, 40)
KINDS = ("enter", "leave", "press", "release", "click", "drag_start", "drag_end", "wheel", "cancel")


def built(source: Node, parent: Node, name: str) -> Node:
    """The plain way: the same made by code, attribute by attribute."""
    given_: dict[str, Any] = {key: source.declared(key) for key in NodeKeywords.__annotations__ if key != "accepts"}
    node = parent.add(name, **given_)
    for child in source.declared_children():
        built(child, node, child.name)
    return node


def document_of(node: Node) -> dict[str, Any]:
    def find(documents: list[dict[str, Any]], names: list[str]) -> dict[str, Any]:
        found = next(one for one in documents if one["name"] == names[0])
        return find(found["children"], names[1:]) if names[1:] else found

    assert node.scene is not None
    return {**find(scene_document(node.scene)["layers"], node.path.split("/")), "name": ""}


def check_hits(scene: Scene, of: random.Random, many: int = 20) -> None:
    router = scene.router or glent.Router(scene)
    for _ in range(many):
        x, y = of.randrange(-80, 1300) / 4, of.randrange(-80, 1300) / 4
        assert [hit.node for hit in router.hits(x, y)] == [seen.node for seen in plain.hits(scene, x, y)]


def play(scene: Scene, seed: int) -> list[str]:
    """What comes of random input, by paths."""
    said: list[str] = []
    for node in scene.walk():
        if node.solidity is not None:
            for kind in KINDS:
                node.on(kind, lambda event: said.append(f"{event.kind} {event.here.path} {event.local}"))
    router = glent.Router(scene)
    hand, of = Hand(router), random.Random(seed)
    for _ in range(40):
        act = of.choice(("move", "move", "press", "release", "wheel", "cancel"))
        hand.move((of.randrange(0, 256), of.randrange(0, 128)))
        getattr(hand, act)(*((1,) if act == "wheel" else ((5.0, 5.0),) if act == "move" else ()))
        said.append(hand.verdicts[-1].why)
    return said


@settings(max_examples=25, deadline=None)
@given(data=st.data(), seed=st.integers(0, 2**32))
def test_t5_a_copied_subtree_is_as_the_same_built_by_code_event_by_event(data: st.DataObject, seed: int) -> None:
    scene = data.draw(scenes(least=3, most=20))
    twin = glent.formats.scene_from(scene_document(scene))
    twin.window = scene.window
    nodes = [node for node in scene.walk() if node.parent is not None]
    source = data.draw(st.sampled_from(nodes))
    parent = data.draw(st.sampled_from([node for node in scene.walk() if not node.is_within(source)]))
    if data.draw(st.booleans()):
        glent.Router(scene).settle()  # islands and grids are there already
    copied = source.copy_to(parent, "copy")
    made = built(twin[source.path], twin[parent.path], "copy")
    assert document_of(copied) == document_of(made)
    assert scene_document(scene) == scene_document(twin)
    scene.router and scene.router.close()  # type: ignore[func-returns-value, attr-defined]
    check_hits(scene, random.Random(seed))
    scene.router and scene.router.close()  # type: ignore[func-returns-value, attr-defined]
    assert play(scene, seed) == play(twin, seed)


@settings(max_examples=30, deadline=None)
@given(data=st.data(), seed=st.integers(0, 2**32))
def test_h9_moved_renamed_and_copied_subtrees_are_found_as_a_plain_scan_finds_them(
    data: st.DataObject, seed: int
) -> None:
    scene = data.draw(scenes(least=4, most=25))
    router, of = glent.Router(scene), random.Random(seed)
    pairs: set[Node] = set()
    for node in scene.walk():
        node.on("enter", lambda event: pairs.add(event.node))
        node.on("leave", lambda event: pairs.remove(event.node))
    for step in range(8):
        at = of.randrange(256), of.randrange(128)
        router.feed(glent.PointerSample(step, "move", *at))
        nodes = [node for node in scene.walk() if node.parent is not None]
        if not nodes:
            break
        node = of.choice(nodes)
        parents = [one for one in scene.walk() if not one.is_within(node)]
        parent = of.choice(parents)
        act = of.choice(("move", "move", "rename", "copy", "remove"))
        depths = {one: len(one.lineage()) for one in node.walk()}
        if act == "move":
            node.move_to(parent, f"m{step}")
            assert node.path == f"{parent.path}/m{step}"
            assert len({len(one.lineage()) - depth for one, depth in depths.items()}) == 1
        elif act == "rename":
            node.rename(f"r{step}")
        elif act == "copy":
            node.copy_to(parent, f"c{step}")
        elif len(nodes) > 2:
            node.remove()
        assert scene[nodes[0].path] is nodes[0] if nodes[0].scene is not None else True
        check_hits(scene, of, 8)
        router.settle()
        hovered = {one for offer in plain.offers(scene, *at) for one in offer.lineage()}
        assert pairs == {one for one in hovered if one.listens("enter")}
    assert scene._index.count == sum(1 for one in scene.walk() if one.parent is not None)
    assert scene._index.disabled == sum(1 for one in scene.walk() if not one.enabled)


def test_t5_what_is_moved_and_renamed_keeps_hover_focus_and_press() -> None:
    desk = Desk(card={"solidity": "solid", "place": Place(0, 0, width=50, height=50)}, tray={})
    ok = desk.add("card/ok", BOX, role="button", hears="enter leave press release click cancel focus blur")
    desk.add("card/caption", labelled_by=ok, nav={"left": ok}, opener=ok, described_by="l/tray")
    desk.hand.click((5, 5))
    desk.hand.press()
    desk.said()
    ok.move_to(desk["tray"], "fine")
    ok.rename("okay")
    desk.router.settle()
    assert ok.path == "l/tray/okay"
    assert (ok.hovered, ok.focused, ok.look) == (True, True, "pressed")
    assert desk.said() == []
    caption = desk["card/caption"]
    assert (caption.labelled_by, caption.nav, caption.opener) == ("l/tray/okay", {"left": "l/tray/okay"}, "l/tray/okay")
    assert caption.described_by == "l/tray"
    desk.hand.release()
    assert desk.said() == ["release okay", "click okay"]
    desk["tray"].rename("shelf")
    assert (ok.path, caption.described_by, caption.opener) == ("l/shelf/okay", "l/shelf", "l/shelf/okay")


@pytest.mark.parametrize(
    ("act", "words"),
    [
        (lambda desk: desk["a"].copy_to(desk["a/b"], "c"), "l/a/b/c: cannot be copied there, that lies in l/a itself"),
        (lambda desk: desk["a"].copy_to(desk["a"], "c"), "that lies in l/a itself"),
        (lambda desk: desk["a"].move_to(desk["a/b"]), "l/a/b/a: cannot be moved there, that lies in l/a itself"),
        (lambda desk: desk["a"].copy_to(desk.layer, "z"), "l/z: the name 'z' is already taken by a child of l"),
        (lambda desk: desk["a"].copy_to(desk.layer, "a"), "the name 'a' is already taken"),
        (lambda desk: desk["z"].move_to(desk["a"], "b"), "l/a/b: the name 'b' is already taken by a child of l/a"),
        (lambda desk: desk["a"].rename("z"), "l/z: the name 'z' is already taken"),
        (lambda desk: desk["a"].rename("x/y"), "the name is 'x/y', expected printable text without a slash"),
        (lambda desk: desk["a"].copy_to(desk.layer, ""), "the name is ''"),
        (lambda desk: desk["a"].copy_to("l", "c"), "l/a: copy_to: 'l' is no node, expected a Node"),
        (lambda desk: desk.layer.copy_to(desk["a"], "c"), "l: is a root of the scene, and cannot be copied"),
        (lambda desk: desk.layer.rename("m"), "l: is a root of the scene, and keeps its name"),
        (lambda desk: desk["a"].copy_to(desk.layer, "c", handlers=["clik"]), "clik"),
        (lambda desk: desk["a"].copy_to(desk.layer, "c", handlers=3), "handlers is 3, expected the kinds"),
        (lambda desk: desk["a"].copy_to(desk.layer, "c", rename={"quit": "q"}), "'quit', which nothing below l/a is"),
        (lambda desk: desk["a"].copy_to(desk.layer, "c", rename=3), "rename is 3, expected a mapping"),
        (lambda desk: desk["a"].move_to(Desk(q={})["q"]), "cannot be moved to another scene; copy_to copies it"),
    ],
)  # fmt: skip
def test_t5_what_cannot_be_copied_moved_or_renamed_is_refused_and_changes_nothing(act: Any, words: str) -> None:
    desk = Desk(a={}, a__b={}, z={})
    before = scene_document(desk.scene)
    with pytest.raises((SceneError, glent.KindError)) as raised:
        act(desk)
    assert words in str(raised.value)
    assert scene_document(desk.scene) == before
    deep = desk["z"]
    for number in range(95):
        deep = deep.add(f"d{number}")
    for number in range(6):
        desk["a/b" + "/x" * number].add("x")
    with pytest.raises(SceneError, match="deeper than 100 nodes"):
        desk["a"].copy_to(deep, "c")


def test_r5_handlers_come_along_by_kind_and_never_those_of_controls() -> None:
    desk = Desk(a={"role": "button", "place": Place(0, 0, width=40, height=40)})
    heard: list[str] = []
    desk["a"].on("click", lambda event: heard.append(f"click {event.node.name}"))
    desk["a"].on("press", lambda event: heard.append(f"press {event.node.name}"), phase="capture")
    desk["a"].accepts = lambda payload: payload == "salt"
    control = glent.controls.Button(desk["a"])
    control.on("act", lambda: heard.append("act"))
    for name, kinds in (("none", ()), ("some", ("click",)), ("all", ("click", "press", "accepts"))):
        copied = desk["a"].copy_to(desk.layer, name, handlers=kinds)
        desk.hand.click((5, 5))
        assert heard == [f"{kind} {name}" for kind in ("press", "click") if kind in kinds]
        assert (copied.accepts is not None) == ("accepts" in kinds)
        heard.clear()
        copied.remove()
    desk.hand.click((5, 5))
    assert heard == ["press a", "click a", "act"]


def test_n1_a_copy_tells_by_names_of_its_own_or_is_refused() -> None:
    scene = read_scene(GALLERY)
    wiring = Wiring(scene)
    router = glent.Router(scene)
    told: list[str] = []
    name, path = "ask-pilot", wiring.contract()["ask-pilot"].paths[0]
    source = scene[path]
    before = scene_document(scene)
    with pytest.raises(SceneError, match=f"would be wired to what {path} is wired to: .*{name}"):
        source.copy_to(source.parent, "second")  # type: ignore[arg-type]
    with pytest.raises(SceneError, match="is wired to that; expected another"):
        source.copy_to(source.parent, "second", rename={name: name})  # type: ignore[arg-type]
    assert scene_document(scene) == before
    wiring.on(name, lambda *given: told.append("first"))
    wiring.on(f"{name}-2", lambda *given: told.append("second"))
    copied = source.copy_to(source.parent, "second", rename={name: f"{name}-2"})  # type: ignore[arg-type]
    copied.place = Place(0, 0, width=200, height=100)
    copied.order = 99
    assert wiring.contract()[f"{name}-2"].paths == (copied.path,)
    router.activate(copied)
    assert told == ["second"]


def test_c12_each_copy_of_a_declared_control_has_a_value_of_its_own_and_stays_itself_when_renamed() -> None:
    scene = read_scene(GALLERY)
    controls = Controls(scene)
    path = next(
        path for path, control in controls.items() if type(control) is Slider and control.value.high is not None
    )
    slider, node = controls.of(Slider, path), scene[path]
    slider.value.current = slider.value.high
    parent = node.parent
    assert parent is not None
    copied = node.copy_to(parent, "copied", rename={"tide": "tide-2"})
    second = controls.of(Slider, copied.path)
    assert second is not slider
    assert second.value.current != slider.value.current
    assert set(controls) > {path}
    assert [child.name for child in copied.declared_children()] == [child.name for child in node.declared_children()]
    node.rename("renamed")
    assert controls.of(Slider, node.path) is slider
    assert path not in controls
    assert slider.value.current == slider.value.high
