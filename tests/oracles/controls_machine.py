"""The laws of controls under any sequence of input: the whole gallery, acted on at random."""

from __future__ import annotations

from pathlib import Path
from typing import Any, ClassVar

from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, rule

import glent
from glent.controls import Combobox, Controls, Listbox, Menu, Slider, Slots, Spinbutton, Stick, Tabs, TextField, Tree
from glent.demo import GALLERY
from glent.formats import read_scene, scene_document, scene_from
from glent.testing import Hand

DOCUMENT = scene_document(read_scene(GALLERY))
STORES = scene_document(read_scene(Path(__file__).parents[1] / "laws/stores.yaml"))
OPENERS = ["desk/bar/harbour", "desk/bar/cargo", "popups/harbour-menu/buoys", "desk/orders/lamp-row/signals"]


def paths_of(document: dict[str, Any]) -> tuple[list[str], list[str]]:
    """The nodes that are acted on, and those of them that do something."""
    nodes = [node for node in scene_from(document).walk() if "/" in node.path]
    busy = [node.path for node in nodes if node.is_control or node.role == "gridcell"]
    return [node.path for node in nodes], busy


CODES = [
    "Tab",
    "Enter",
    "Space",
    "Escape",
    "Home",
    "End",
    "PageUp",
    "PageDown",
    "ArrowLeft",
    "ArrowRight",
    "ArrowUp",
    "ArrowDown",
    "Backspace",
    "Delete",
    "KeyA",
    "KeyV",
    "KeyX",
    "KeyZ",
    "KeyM",
]
PADS = ("left_cluster_left", "left_cluster_right", "left_cluster_top", "left_cluster_bottom", "right_cluster_bottom",
        "right_cluster_right", "left_stick_x", "left_stick_y")  # fmt: skip

inside = st.floats(0.05, 0.95)
few = st.floats(-40, 400)


def acts_on(paths: list[str], busy: list[str]) -> st.SearchStrategy[tuple[str, Any, Any]]:
    """What is done to a scene with these nodes."""
    spot = st.one_of(
        st.tuples(st.sampled_from(busy), inside, inside),
        st.tuples(st.sampled_from(paths), st.floats(-0.3, 1.3), st.floats(-0.3, 1.3)),
    )
    values = {**VALUES, "drag_onto": st.sampled_from(paths)}
    asked = st.sampled_from(sorted(values)).flatmap(lambda act: st.tuples(st.just(act), values[act]))
    return st.one_of(
        st.tuples(st.just("move"), st.sampled_from(("hand", "finger", "other")), spot),
        st.tuples(st.just("press"), st.sampled_from(("hand", "finger", "other")), st.just(None)),
        st.tuples(st.just("release"), st.sampled_from(("hand", "finger", "other")), st.just(None)),
        st.tuples(st.just("cancel"), st.sampled_from(("hand", "finger")), st.just(None)),
        st.tuples(st.just("click"), st.sampled_from(("hand", "finger")), spot),
        st.tuples(st.just("drag"), st.just("hand"), st.tuples(spot, spot)),
        st.tuples(
            st.just("key"), st.sampled_from(("down", "up")), st.sampled_from((*CODES, "ShiftLeft", "ControlLeft"))
        ),
        st.tuples(st.just("keys"), st.just(None), st.sampled_from(CODES)),
        st.tuples(st.just("pad"), st.sampled_from((0.0, 1.0, -1.0)), st.sampled_from(PADS)),
        st.tuples(st.just("type"), st.just(None), st.sampled_from(("k", "éa", "e\u0301", "🏴‍☠️", "\r\n", "-"))),
        st.tuples(st.just("compose"), st.just(None), st.sampled_from(("", "ka"))),
        st.tuples(st.just("wait"), st.just(None), st.sampled_from((0.05, 0.4, 1.3))),
        st.tuples(st.just("focus"), st.just(None), st.sampled_from(paths)),
        st.tuples(st.just("enable"), st.booleans(), st.sampled_from(paths)),
        st.tuples(st.just("ask"), st.just(None), st.sampled_from((("yes",), ("yes", "no", "later")))),
        st.tuples(st.just("window"), st.just(None), st.sampled_from(("focus_lost", "size"))),
        st.tuples(st.just("set"), st.integers(0, 400), st.floats(-50, 50)),
        st.tuples(st.just("act"), asked, st.sampled_from(busy)),
    )


VALUES = {
    "activate": st.none(), "open": st.none(), "close": st.none(), "show": st.none(), "hold": st.none(),
    "set": st.one_of(few, st.booleans(), st.sampled_from(("kelp", "", "red", "manifest", "far too long for it")),
                     st.tuples(few, few), st.lists(st.sampled_from(("kelp", "salt", "ann")), max_size=2)),
    "step": st.sampled_from((1, -1, 7)), "drag": st.tuples(few, few), "scroll": st.tuples(few, few),
    "pinch": st.tuples(st.floats(0.2, 4), few),
    "swipe": st.sampled_from(("left", "up")),
}  # fmt: skip
"""What a node can be asked to do, and what with."""
JUDGED = (Tabs, Stick, Slider, Listbox, Menu, TextField, Tree, Combobox, Spinbutton)


class Run:
    """One run of a scene, with all that was told kept beside it."""

    def __init__(self, document: dict[str, Any]) -> None:
        self.scene = scene_from(document)
        self.controls = Controls(self.scene)
        self.errors: list[str] = []
        self.router = glent.Router(self.scene, on_error=lambda error, event: self.errors.append(repr(error)))
        self.hands = {"hand": Hand(self.router)}
        self.hands["finger"] = Hand(self.router, "finger-1", "touch")
        self.hands["other"] = Hand(self.router, "finger-2", "touch")
        self.looks: dict[glent.Node, tuple[str, bool]] = {}
        self.checked = 0
        self.nodes = list(self.scene.walk())
        self.judged = [pair for pair in self.controls.items() if isinstance(pair[1], JUDGED)]
        for node in self.scene.walk():
            node.on("look", self._look)
        self.router.settle()
        self.told: list[str] = []
        self.slots = [one for one in self.controls.values() if isinstance(one, Slots)]
        self.items = self.lying()

    def lying(self) -> list[Any]:
        """All that lies in slots."""
        return sorted(item for slots in self.slots for item in slots.items.values())

    def _look(self, event: glent.Event) -> None:
        self.looks[event.node] = (event.data["look"], event.data["focus_ring"])

    def do(self, act: tuple[str, Any, Any]) -> None:
        word, who, what = act
        hand, router = self.hands.get(who if isinstance(who, str) else "hand", self.hands["hand"]), self.router
        before = len(hand.verdicts)
        if word in ("move", "click"):
            path, x, y = what
            node = self.scene[path] if path in self.scene else self.scene["desk"]
            (hand.move if word == "move" else hand.click)(hand.point(node, (x, y)))
        elif word == "drag":
            if all(path in self.scene for path, _, _ in what):
                hand.drag(*(hand.point(self.scene[path], (x, y)) for path, x, y in what), steps=3)
        elif word in ("press", "release", "cancel"):
            getattr(hand, word)()
        elif word == "key":
            hand.key(what, who)
        elif word == "keys":
            hand.press_keys(what)
        elif word == "pad":
            hand.pad(what, who if "stick" in what else abs(who))
        elif word in ("type", "compose"):
            getattr(hand, word)(what)
        elif word == "wait":
            hand.wait(what)
        elif word == "focus":
            try:
                router.seat().focus = self.scene[what]
            except glent.GlentError:
                return
        elif word == "enable":
            if what in self.scene:
                self.scene[what].enabled = who
        elif word == "ask":
            if len(self.told) % 3 == 0 and "notices/question" in self.controls:
                self.controls["notices/question"].ask("How many buoys are out?", what, cancel=what[-1])
        elif word == "window":
            hand.window(what, *((1600.0, 900.0) if what == "size" else ()))
        elif word == "act":
            if what in self.scene:
                verdict = router.act(self.scene[what], *who)
                assert not verdict.world
                assert (verdict.owner is None) == (verdict.reason is not glent.Reason.ASKED)
                self.told.append(verdict.why)
        else:
            values = [value for control in self.controls.values() for value in control.values.values()]
            value = values[who % len(values)]
            if value.low is not None:
                value.current = what
        router.settle()
        self.told += [
            f"{event.kind} {event.node.path}" for verdict in hand.verdicts[before:] for event in verdict.events
        ]

    def check(self) -> None:
        assert self.errors == []
        self.checked += 1
        for node in self.nodes[self.checked % 8 :: 8]:  # all of them in any eight steps
            if node.scene is not None:
                assert self.looks.get(node, ("idle", False)) == (node.look, node.focus_ring), node.path
        assert self.lying() == self.items
        for path, control in self.judged:
            if isinstance(control, Tabs):
                shown = [name for name in ("manifest", "crew", "log") if self.scene[f"desk/papers/{name}"].visible]
                assert shown == [control.value.current]
            elif isinstance(control, Stick):
                x, y = control.value.current
                assert x * x + y * y <= 1.000001
                if not control.held and control.look().state != "pressed":
                    assert (x, y) == (0.0, 0.0), path
            elif isinstance(control, Slider):
                left, top, right, bottom = self.scene[f"{path}/thumb"].edges
                width, height = self.scene[path].size
                assert left >= -1e-6
                assert right <= width + 1e-6
                assert top >= -1e-6
                assert bottom <= height + 1e-6
            elif isinstance(control, Listbox):
                assert len(control.value.current) <= 1 or "manifest" in path
            elif isinstance(control, Menu):
                assert control.is_open == self.scene[path].visible
                assert not control.is_open or control.top.is_open
            elif isinstance(control, TextField):
                edit = control.edit
                assert {edit.caret, edit.anchor} <= set(edit.bounds)
                assert edit.text == control.value.current
                assert edit.max_length is None or len(edit.bounds) - 1 <= edit.max_length
                lines = control.lines
                assert "".join(control.shown[line.start : line.end] for line in lines) == control.shown.replace(
                    "\n", ""
                )
            elif isinstance(control, Tree):
                for item in (one for one in control.node.walk() if one.role == "treeitem"):
                    branch = control.branch_of(item)
                    assert branch is None or branch.visible == control.is_open(item)
            elif isinstance(control, Combobox):
                assert control.is_open == self.scene["desk/tugs"].visible
                assert control.shown == control.value.current
            elif isinstance(control, Spinbutton):
                number = control.value.current
                assert -5 <= number <= 40
                assert number * 2 == round(number * 2)
                assert control.typing == "" or control.node.focused
        openers = [one for _, one in self.judged if isinstance(one, Menu) and one.is_open and one.bar]
        assert len(openers) <= 1


PATHS, BUSY = paths_of(DOCUMENT)
BUSY += OPENERS * 3


class ControlsMachine(RuleBasedStateMachine):
    """The gallery in any sequence (law C2); in the end the same again has to be the same (law R7)."""

    document: ClassVar[dict[str, Any]] = DOCUMENT

    def __init__(self) -> None:
        super().__init__()
        self.run = Run(self.document)
        self.done: list[tuple[str, Any, Any]] = []

    @rule(act=acts_on(PATHS, BUSY))
    def something_comes_in(self, act: tuple[str, Any, Any]) -> None:
        self.done.append(act)
        self.run.do(act)

    @invariant()
    def controls_are_what_they_are(self) -> None:
        self.run.check()

    def teardown(self) -> None:
        if len(self.done) % 3:
            return  # a run of 60 steps is repeated; of those that the soak makes, of any length, a third
        again = Run(self.document)
        for act in self.done:
            again.do(act)
        assert again.told == self.run.told


class StoresMachine(ControlsMachine):
    """The same with a combo box, a tree, a spin button, and text of several lines."""

    document = STORES

    @rule(act=acts_on(*paths_of(STORES)))
    def something_comes_in(self, act: tuple[str, Any, Any]) -> None:
        self.done.append(act)
        self.run.do(act)
