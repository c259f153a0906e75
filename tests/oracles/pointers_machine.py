"""The machines of any sequence of input and changes, judged step by step by the plain model."""

from __future__ import annotations

from collections import Counter, defaultdict
from dataclasses import replace
from itertools import islice
from types import SimpleNamespace
from typing import ClassVar

import pytest
from hypothesis import strategies as st
from hypothesis.errors import UnsatisfiedAssumption
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

import plain_hits as plain
from glent import Event, Feel, KeySample, Node, Place, PointerSample, Reason, Router, WheelSample, WindowSample
from glent.core.routing.gestures.drag import Drag
from glent.immediate import Draft
from glent.mirror import Mirror
from plain_contest import TooCloseError
from plain_pointers import PlainRouter, path
from strategies import keywords, places, points, scenes, solidities

HEARD = ("enter", "leave", "press", "release", "cancel", "click", "move", "wheel")
DRAGS = ("drag_start", "drag", "drag_end")
NAMES = {"mouse": "mouse", "f1": "touch", "f2": "touch", "pen": "pen"}
index = st.integers(0, 1000)
ways = st.one_of(st.just((0, 0)), st.tuples(st.integers(-30, 30), st.integers(-30, 30)))
names = st.sampled_from(list(NAMES))
buttons = st.sampled_from([0, 0, 0, 2, 1])
PAIRS = {"enter": "leave", "drag_start": "drag_end", "drag_enter": "drag_leave"}


class RouterMachine(RuleBasedStateMachine):
    """Handlers only listen here; the machine below has handlers that interfere."""

    wild = False
    feel = Feel(min_glide_speed=1e9, max_overscroll=0.0)
    """Nothing runs on by itself: where a glide is, its own tests judge."""
    extra: ClassVar[tuple[str, ...]] = ()
    outside = False

    @initialize(scene=scenes(least=4, most=25))
    def begin(self, scene) -> None:
        self.scene = scene
        self.errors: list = []
        self.router = Router(scene, feel=self.feel, on_error=lambda error, event: self.errors.append((error, event)))
        self.model = PlainRouter(scene)
        self.time = 0.0
        self.pairs: dict[tuple[str, str], set[Node]] = defaultdict(set)  # what began and has not ended, by kind
        self.owed: dict[str, Counter] = defaultdict(Counter)  # presses heard and not ended, by pointer and node
        self.owned: dict[str, set[Node]] = defaultdict(set)  # on whose path the last owned press of a pointer landed
        self.starts: list[tuple[str, Event]] = []
        self.clicked: list[Node] = []
        self.wheeled: list[tuple[Node, Node]] = []
        self.burst: tuple[float, Node, int] | None = None
        self.added = self.checked = 0
        for node in list(scene.walk()):
            self.listen(node)
        self.lay_out_pads()

    def lay_out_pads(self) -> None:
        """Some nodes that every sort of gesture can happen on, in front at first."""
        desk = self.scene.layer("pads", order=3)
        panel = desk.add("panel", place=Place(20, 10, width=120, height=100), scrolls=True, content=(300, 200))
        rows = panel.add("list", place=Place(10, 10, width=100, height=80), scrolls=True, axis="y", content=(100, 300))
        slider = rows.add("slider", place=Place(0, 0, width=100, height=30), role="slider", axis="x")
        button = rows.add("button", place=Place(0, 30, width=60, height=30, turn=20), role="button")
        crate = rows.add("crate", place=Place(70, 40, width=30, height=60), solidity="glass")
        more = {panel: DRAGS, slider: DRAGS, button: ("hold",), crate: (*DRAGS, "hold")}
        for node in (desk, panel, rows, slider, button, crate):
            kinds = more.get(node, ())
            for kind in ("enter", "leave", "press", "release", "cancel", "click", *kinds, *self.extra):
                node.on(kind, self.hear)
        veil = rows.add("veil", place=Place(0, 0, width=100, height=60), role="button", solidity="glass")
        for kind in ("enter", "leave", "release", "cancel"):  # a control that listens for nothing to come of a press
            veil.on(kind, self.hear)
        if self.wild:
            for node in (crate, slider):
                node.on("drag_start", lambda event: event.give("salt"))
            rows.accepts = panel.accepts = lambda payload: True
            button.accepts = lambda payload: "no room"
        self.pads = [panel, rows, slider, button, crate]

    def listen(self, node: Node) -> None:
        """Hear as little as leaves the node's solidity what it was, or all there is."""
        quiet = node.effective_solidity == "hollow" and node.solidity is None
        kinds = ("enter", "leave", "release", "cancel") if quiet else HEARD
        self.added += 1
        if self.added % 3 == 0:
            kinds = tuple(kind for kind in kinds if kind not in ("click", "press"))
        if not quiet and self.added % 4 == 0:
            kinds += DRAGS
        if not quiet and self.added % 5 == 0:
            kinds += ("hold", *self.extra)
        for kind in kinds:
            node.on(kind, self.hear)

    def hear(self, event: Event) -> None:
        node, pointer, kind = event.here, event.pointer, event.kind
        ends = ("leave", "release", "cancel", "drag_end", "drag_leave", "pinch", "hold_progress")
        assert node.scene is not None or kind in ends, "P6: only what is owed reaches a removed node"
        if kind == "drag_start":
            self.starts.append((pointer, event))
        if kind in PAIRS and event.node is node and not getattr(event, "refused", False):
            self.forget_refused()
            begun = self.pairs[pointer, kind]
            assert node not in begun, f"P6: {kind} twice"
            begun.add(node)
        if kind == "enter":
            others = [begun for key, begun in self.pairs.items() if key[1] == "enter" and key[0] != pointer]
            assert event.data["first"] == (not any(node in begun for begun in others))
        if kind in PAIRS.values() and event.node is node:
            (start,) = (start for start, end in PAIRS.items() if end == kind)
            begun = self.pairs[pointer, start]
            # P6: what ends has begun, but if a handler that interferes took the begin of a drag on its way here, or
            # removed the node before this one heard of it
            assert node in begun or (self.wild and (kind == "drag_end" or node.scene is None))
            begun.discard(node)
        if kind == "leave":
            assert event.data["last"] == (
                not any(node in begun for key, begun in self.pairs.items() if key[1] == "enter")
            )
        elif kind == "drag":
            assert self.wild or event.node in self.pairs[pointer, "drag_start"] or event.node is not node
        elif kind == "press":
            self.owed[pointer][node] += 1
        elif kind in ("release", "cancel"):
            self.owed[pointer].pop(node, None)
        elif kind == "click" and event.node is node:
            self.clicked.append(node)
        elif kind == "wheel":
            self.wheeled.append((node, event.node))

    def forget_refused(self) -> None:
        """A drag that its source refused, after others had heard of it, has not begun."""
        for pointer, event in self.starts:
            if event.refused:
                self.pairs[pointer, "drag_start"].discard(event.node)
        self.starts = [(pointer, event) for pointer, event in self.starts if not event.refused]

    def nodes(self) -> list[Node]:
        return [node for node in self.scene.walk() if node.parent is not None]

    def node(self, number: int) -> Node | None:
        nodes = self.nodes()
        return nodes[number % len(nodes)] if nodes else None

    def put_in_range(self) -> None:
        """A list that was made larger, or lost rows, may lie beyond its range: it runs back once it is let go of, and a
        press would stop it (law G4). Nothing is to run here, so it is put there at once."""
        for node in self.nodes():
            if node.scrolls and node.scroll != (0.0, 0.0):
                last = [max(0.0, content - side) for content, side in zip(node.content_size, node.size, strict=True)]
                inside = tuple(min(max(0.0, at), end) for at, end in zip(node.scroll, last, strict=True))
                if inside != node.scroll:
                    node.scroll = inside

    # -- pointers ----------------------------------------------------------------------------------------------------

    def pointer(self, name: str, action: str, at, button: int = 0, by=None) -> None:
        kind = NAMES[name]
        button = 0 if kind == "touch" else button
        self.time += 0.01
        number = button if action in ("press", "release") else None
        x, y = map(float, at)
        moved = by or (0.0, 0.0)
        sample = PointerSample(
            self.time, action, x, y, name, kind, number, dx=moved[0], dy=moved[1], relative=by is not None
        )
        self.clicked.clear()
        if action == "press":
            self.put_in_range()
        try:
            expected = self.model.feed(action, name, kind, (x, y), button, self.time, by)
        except TooCloseError:
            raise UnsatisfiedAssumption from None
        verdict = self.router.feed(sample)
        if not self.wild:
            clicks = [event.node for event in verdict.events if event.kind == "click"]
            assert (verdict.world, verdict.owner, clicks, verdict.gesture) == expected, (verdict.why, sample)
        pressed = self.model.pointers.get(name) if action == "press" and not self.wild else None
        if pressed is not None and verdict.owner is not None and pressed.contest is not None:
            self.owned[name] = set(pressed.press_path)
        elif action == "press" and verdict.owner is None:
            self.owned[name] = set()  # glass has heard a press that became the world's or nobody's, and no more (P2)
        assert verdict.why[0].islower() or verdict.why[0].isalnum()
        assert verdict.world is False or verdict.owner is None

    @rule(name=names, at=points)
    def move(self, name: str, at) -> None:
        self.pointer(name, "move", at)

    @rule(name=names, at=points, button=buttons)
    def press(self, name: str, at, button: int) -> None:
        self.pointer(name, "press", at, button)

    @rule(name=names, at=points, button=buttons)
    def release(self, name: str, at, button: int) -> None:
        self.pointer(name, "release", at, button)

    @rule(name=names)
    def cancel(self, name: str) -> None:
        self.pointer(name, "cancel", (0, 0))

    @rule(name=names, number=index, by=ways, let_go=st.booleans())
    def stroke(self, name: str, number: int, by, let_go: bool) -> None:
        """Press on a node, go a little way, and perhaps let go."""
        self.stroke_on(name, self.node(number), by, let_go)

    @rule(name=names, number=index, by=ways, let_go=st.booleans())
    def stroke_on_a_pad(self, name: str, number: int, by, let_go: bool) -> None:
        self.stroke_on(name, self.pads[number % len(self.pads)], by, let_go)

    @rule(name=names, number=index)
    def rest_on_a_pad(self, name: str, number: int) -> None:
        self.stroke_on(name, self.pads[number % len(self.pads)], (1, 0), False)
        self.tick(0.5)

    @rule(one=ways, other=ways, number=index)
    def two_fingers_on_a_pad(self, one, other, number: int) -> None:
        self.stroke_on("f1", self.pads[number % len(self.pads)], one, False)
        self.stroke_on("f2", self.pads[number % len(self.pads)], other, False)

    def stroke_on(self, name: str, node: Node | None, by, let_go: bool) -> None:
        if node is None or node.scene is None:
            return
        at = self.scene.point(node, *(side / 2 for side in node.size))
        x, y = (round(value * 4) / 4 for value in at)
        if max(abs(x), abs(y)) < 1e6:
            self.pointer(name, "press", (x, y))
            for part in (0.25, 0.5, 1.0):
                self.pointer(name, "move", (x + by[0] * part, y + by[1] * part))
            if let_go:
                self.pointer(name, "release", (x + by[0], y + by[1]))

    @rule(name=names, by=ways)
    def nudge(self, name: str, by) -> None:
        """Go on a little from where it is."""
        pointer = self.model.pointers.get(name)
        if pointer is not None and pointer.pos is not None:
            self.pointer(name, "move", (pointer.pos[0] + by[0], pointer.pos[1] + by[1]))

    @rule(name=names, by=ways)
    def locked(self, name: str, by) -> None:
        pointer = self.model.pointers.get(name)
        at = pointer.seen if pointer is not None and pointer.seen is not None else (0, 0)
        self.pointer(name, "move", at, 0, tuple(map(float, by)))

    @rule(at=points, by=st.integers(-3, 3).filter(bool), axis=st.sampled_from([0, 1]), pause=st.booleans())
    def wheel(self, at, by: int, axis: int, pause: bool) -> None:
        self.time += 0.5 if pause else 0.01
        self.model.pass_time(self.time)
        hold = self.model.pointers["mouse"].hold if "mouse" in self.model.pointers else "free"
        offers = plain.offers(self.scene, *at)
        solid = bool(offers) and offers[-1].effective_solidity == "solid"
        amount = (float(by), 0.0) if axis == 0 else (0.0, float(by))
        burst = self.burst if self.burst and self.time - self.burst[0] <= self.feel.wheel_gap else None
        lost = burst is not None and not (burst[1].is_visible and burst[1].is_enabled)
        if lost:
            burst = None  # though it may stay with the area that it has along the other axis, which is not booked here
        self.wheeled.clear()
        verdict = self.router.feed(WheelSample(self.time, *map(float, at), *amount))
        if not self.wild and not burst and not lost and hold not in ("world", "spent"):
            told = [one for one in plain.heard("wheel", offers) if one[0].listens("wheel")]
            assert self.wheeled == told, (self.wheeled, told, verdict)
        if hold in ("world", "spent"):
            assert verdict.world == (hold == "world") or self.wild
        elif not self.wild and burst:
            assert not verdict.world
            assert verdict.owner is burst[1] or axis != burst[2], "G4: a burst stays with the area it began in"
        elif not self.wild and not lost:
            assert verdict.world == (not solid and verdict.reason not in (Reason.SCROLLED, Reason.AT_END))
            assert verdict.owner is None or not solid or any(verdict.owner in path(offer) for offer in offers)
        if verdict.reason in (Reason.SCROLLED, Reason.AT_END):
            self.burst = (self.time, verdict.owner, axis if not burst or axis == burst[2] else burst[2])
            if burst and axis != burst[2]:
                self.burst = (self.time, burst[1], burst[2])

    @rule()
    def emulated(self) -> None:
        verdict = self.router.feed(PointerSample(self.time, "press", 5.0, 5.0, "f1", "touch", emulated=True))
        assert (verdict.reason is Reason.EMULATED and not verdict.events) or self.wild
        assert not verdict.world

    # -- keys, window, devices, time ---------------------------------------------------------------------------------

    @rule(code=st.sampled_from(["Escape", "KeyW"]), action=st.sampled_from(["down", "up"]))
    def key(self, code: str, action: str) -> None:
        self.model.pass_time(self.time)
        abandoned = [
            pointer
            for pointer in self.model.pointers.values()
            if code == "Escape" and action == "down" and self.model.abandon(pointer)
        ]
        verdict = self.router.feed(KeySample(self.time, action, code))
        assert self.wild or (verdict.reason is Reason.ABANDONED) == bool(abandoned)
        assert verdict.owner is None

    @rule(size=st.sampled_from([(256, 128), (300, 200), (512, 512)]))
    def resize(self, size) -> None:
        self.model.pass_time(self.time)
        self.router.feed(WindowSample(self.time, "size", *size))
        self.model.settle()

    @rule(scale=st.sampled_from([1.0, 2.0, 0.5]))
    def rescale(self, scale: float) -> None:
        self.model.pass_time(self.time)
        self.router.feed(WindowSample(self.time, "scale", scale=scale))

    @rule()
    def focus_lost(self) -> None:
        self.model.pass_time(self.time)
        world = [name for name, pointer in self.model.pointers.items() if pointer.hold == "world"]
        for pointer in self.model.pointers.values():
            if pointer.hold != "free":
                pointer.free("spent")
        verdict = self.router.feed(WindowSample(self.time, "focus_lost"))
        if not self.wild:
            assert {lift.split("/")[0] for lift in verdict.lifts if not lift.startswith("keys/")} == set(world)

    @rule()
    def mouse_leaves_window(self) -> None:
        self.model.pass_time(self.time)
        self.router.feed(WindowSample(self.time, "pointer_left", pointer="mouse"))
        mouse = self.model.pointers.get("mouse")
        if mouse is not None and mouse.hold == "free":
            mouse.pos = None

    @rule(name=names)
    def warp(self, name: str) -> None:
        self.model.pass_time(self.time)
        self.router.feed(WindowSample(self.time, "warp", pointer=name))
        if name in self.model.pointers:
            self.model.pointers[name].jumped = True

    @rule(name=names)
    def unplug(self, name: str) -> None:
        self.model.pass_time(self.time)
        self.model.device_gone(name)
        self.router.feed(WindowSample(self.time, "device_gone", pointer=name))

    @rule(held=st.lists(st.sampled_from(["mouse/primary", "mouse/secondary", "pen/primary", "f1/primary"]), max_size=2))
    def sync(self, held: list[str]) -> None:
        self.model.pass_time(self.time)
        down: dict[str, set[int]] = defaultdict(set)
        for one in held:
            name, _, button = one.partition("/")
            down[name].add({"primary": 0, "secondary": 2}[button])
        self.model.sync(down)
        self.router.feed(WindowSample(self.time, "sync", held=tuple(held)))

    @rule(seconds=st.sampled_from([0.05, 0.5, 3.0]))
    def tick(self, seconds: float) -> None:
        self.time += seconds
        self.model.pass_time(self.time)
        self.router.tick(self.time)

    @rule(number=index, how=st.sampled_from(["leave", "cancel"]), seconds=st.sampled_from([0.0, 0.05, 0.5]))
    def stop_a_timer(self, number: int, how: str, seconds: float) -> None:
        """A timer that a handler stops: the settle before it fires may be the one that does (law R7)."""
        node = self.node(number)
        if node is None:
            return
        stopped: list[str] = []

        def call(due: float) -> None:
            assert not stopped, "R7: a timer that was stopped has fired"
            assert self.router.now == due, "R7: a timer fires at its time"

        timer = self.router.at(self.time + seconds, call)
        node.on(how, lambda event: (stopped.append(how), timer.stop()))
        node.visible = not node.visible
        self.tick(seconds)

    # -- the scene -----------------------------------------------------------------------------------------------------

    @rule(number=index, how=st.sampled_from(["visible", "enabled"]))
    def toggle(self, number: int, how: str) -> None:
        if (node := self.node(number)) is not None:
            setattr(node, how, not getattr(node, how))

    @rule(number=index, place=places())
    def move_node(self, number: int, place) -> None:
        if (node := self.node(number)) is not None:
            node.place = place

    @rule(number=index, order=st.integers(-2, 2), solidity=solidities)
    def reorder(self, number: int, order: int, solidity) -> None:
        if (node := self.node(number)) is not None:
            node.order = order
            node.solidity = solidity

    @rule(number=index, to=st.tuples(st.integers(0, 300), st.integers(0, 300)), axis=st.sampled_from([None, "x", "y"]))
    def scroll_to(self, number: int, to, axis) -> None:
        if (node := self.node(number)) is not None:
            node.scroll = to
            if node.scrolls:
                node.scroll = tuple(min(a, b) for a, b in zip(to, node.scroll_range, strict=True))

    @rule(number=index, given=keywords)
    def add(self, number: int, given) -> None:
        parents = list(self.scene.walk())
        self.listen(parents[number % len(parents)].add(f"a{self.added}", **given))

    @rule(solidity=solidities)
    def open(self, solidity) -> None:
        """A whole layer comes up in front, under whatever is pressed."""
        layer = self.scene.layer(f"open{self.added}", order=9)
        self.added += 1
        self.listen(layer.add("backdrop", solidity=solidity))

    @precondition(lambda self: len(self.scene.layers) > 1)
    @rule(number=index)
    def close(self, number: int) -> None:
        self.take_out(self.scene.layers[number % len(self.scene.layers)])

    @precondition(lambda self: len(self.nodes()) > 3)
    @rule(number=index)
    def remove(self, number: int) -> None:
        self.take_out(self.node(number))

    def take_out(self, node: Node) -> None:
        gone = list(node.walk())
        self.outside = True  # what is owed is sent at once, and a handler that feeds then is no other sample's
        node.remove()
        self.outside = False
        self.model.removed(gone)
        assert not any(one in begun for begun in self.pairs.values() for one in gone), "P6: ends are owed at once"

    @rule(number=index, kind=st.sampled_from(["press", "click", "release", "drag"]))
    def carry(self, number: int, kind: str) -> None:
        if (node := self.node(number)) is not None:
            node.carries = {kind, "enter"}

    # -- what always holds ---------------------------------------------------------------------------------------------

    @invariant()
    def hover_is_true_once_settled(self) -> None:
        """P5, P7: what handlers were told, what the router believes, and what the laws say are one."""
        if not hasattr(self, "router"):
            return
        self.router.settle()
        self.model.settle()
        counts: Counter = Counter()
        for name, pointer in self.router._state.pointers.items():
            counts.update(pointer.hovered.keys())
            assert {node for node in pointer.hovered if node.listens("enter")} == {
                node for node in self.pairs[name, "enter"] if node.listens("enter")
            }
            assert all(node.is_visible for node in pointer.hovered) or self.errors
            if not self.wild:
                assert set(pointer.hovered) == self.model.hovered(self.model.pointers[name]), name
                assert pointer.hold == self.model.pointers[name].hold
        self.checked += 1
        for node in islice(self.scene.walk(), self.checked % 4, None, 4):  # all of them in any four steps
            assert node._hovers == counts[node]
            assert node.look in ("idle", "hover", "pressed", "disabled")
            if node.look == "pressed":
                assert any(
                    p.press is not None and p.press.owner.is_within(node) for p in self.router._state.pointers.values()
                )
        failed = [error for error, _ in self.errors if not self.wild or isinstance(error, AssertionError)]
        assert not failed, failed

    @invariant()
    def what_began_goes_on_or_has_ended(self) -> None:
        if not hasattr(self, "router"):
            return
        self.forget_refused()
        for name, owed in self.owed.items():
            pointer = self.router._state.pointers.get(name)
            held = pointer.press if pointer is not None and pointer.hold == "ui" else None
            for node in owed:  # whoever heard a press and not its end is on the path of a press that is still held,
                # or was passed over as glass, and hears nothing more (P2)
                if held is not None and node in held.path:
                    assert not held.over or pointer.grab is not None
                if held is None and not self.wild:
                    assert node not in self.owned[name], "P6: a press that was owned has ended without a word"
        for (name, kind), begun in self.pairs.items():
            if kind == "enter" or not begun:
                continue
            pointer = self.router._state.pointers.get(name)
            assert pointer is not None, f"a {kind} of {name} has no end"
            contact = pointer.press.contact if pointer.press is not None else None
            assert contact is not None
            assert isinstance(contact.winner, Drag), f"a {kind} of {name} has no end"
            if kind == "drag_start":
                assert begun == {contact.winner.node}
        gestures = self.router._gestures
        for one in gestures.shared.values():
            assert one.contacts, "a recogniser of several pointers stays when they have gone"

    def teardown(self) -> None:
        if hasattr(self, "router"):
            self.router.close()
            self.forget_refused()
            assert not any(self.pairs.values()), "P6: closing sends the last leaves and ends"


ACTS = (
    *("raise", "remove", "hide", "show", "feed", "take", "stop", "add", "settle", "disable", "take+raise", "move"),
    *("grab", "let_go", "refuse", "payload", "carry", "scroll", "key"),
)


WILD_KINDS = ("hold_progress", "repeat", "pinch", "swipe", "drag_enter", "drag_leave", "drop", "dwell")


class WildMachine(RouterMachine):
    """Handlers that raise, remove, hide, add, feed more and undo each other: every law about pairs still holds."""

    wild = True
    feel = Feel(dwell_kinds=("mouse", "pen"), dwell_time=0.3, scroll_kinds=("mouse", "touch"))
    extra = WILD_KINDS

    @initialize()
    def count(self) -> None:
        self.fed = 0
        self.promised: list = []
        self.grabs: list = []

    @rule(
        number=index,
        other=index,
        kind=st.sampled_from((*HEARD, *DRAGS, "hold", "scroll", *WILD_KINDS)),
        act=st.sampled_from(ACTS),
        phase=st.sampled_from(["bubble", "capture"]),
        pads=st.sampled_from([(False, False), (True, False), (True, True)]),
    )
    def interfere(self, number: int, other: int, kind: str, act: str, phase: str, pads) -> None:
        node = self.pads[number % len(self.pads)] if pads[0] else self.node(number)
        victim = self.pads[other % len(self.pads)] if pads[1] else self.node(other)
        if node is None or node.scene is None or victim is None:
            return
        if kind == "enter" and not node.listens("enter"):
            return  # a declared one, of whose enters the book of pairs has not heard from the first
        if kind == "drag_end" and "take" in act:
            return  # by R1 an end that is taken on its way is heard no further, which the book of pairs cannot know

        def handler(event: Event) -> None:
            if "take" in act:
                event.take()
            if "raise" in act:
                raise RuntimeError("a handler failed")
            self.act(act, event, victim)
            if act == "stop":
                subscription.stop()

        subscription = node.on(kind, handler, phase)

    def act(self, act: str, event: Event, victim: Node) -> None:
        if act == "remove":
            victim.remove()
        elif act == "hide":
            victim.visible = False
        elif act == "show":
            victim.visible = True
        elif act == "disable":
            victim.enabled = not victim.enabled
        elif act == "let_go" and self.grabs:
            self.grabs.pop().let_go()
        elif act in ("refuse", "payload") and event.kind == "drag_start":
            event.refuse() if act == "refuse" else event.give("salt")
        elif self.fed >= 50 or victim.scene is None:
            return
        self.fed += 1
        if act == "feed":
            outside, self.outside = self.outside, False
            inner = self.router.feed(PointerSample(self.router.now, "move", float(self.fed * 7 % 300), 50.0))
            self.outside = outside
            if not outside:
                with pytest.raises(Exception, match="outermost"):
                    _ = inner.world
            self.promised.append(inner)
        elif act == "key":
            self.promised.append(self.router.feed(KeySample(self.router.now, "down", "Escape")))
        elif act == "add" and victim.scene is not None:
            self.listen(victim.add(f"w{self.added}", solidity="glass"))
        elif act == "settle":
            self.router.settle()
        elif act == "move" and victim.scene is not None:
            victim.order = (victim.order + 1) % 3
        elif act == "grab":
            self.grabs.append(event.grab())
        elif act == "carry" and victim.is_visible and victim.is_enabled and event.here.is_visible:
            self.router.drag_onto(event.here, victim)
        elif act == "scroll" and victim.is_visible and victim.is_enabled:
            self.router.scroll(victim, 5, 30)

    @rule(numbers=st.lists(st.integers(0, 5), max_size=6), at=points, mirrored=st.booleans())
    def declare(self, numbers: list[int], at, mirrored: bool) -> None:
        """Things that are declared, and widgets that are mirrored, lie among the nodes: every law holds (I6)."""
        shown = list(dict.fromkeys(numbers))
        if not hasattr(self, "draft") or self.draft_layer.scene is None:
            self.added += 1
            self.draft_layer = self.scene.layer(f"draft{self.added}", order=self.added % 3)
            self.draft = Draft(self.draft_layer)
            self.widgets = SimpleNamespace(name="root", box=(0, 0, 300, 300), children=[])
            self.mirror = Mirror(
                self.draft_layer,
                self.widgets,
                handle=lambda widget, event: self.hear(event),
                hears=("enter", "leave", "press", "release", "cancel"),
            )
        if mirrored:
            self.widgets.children = [
                SimpleNamespace(name=f"w{one}", box=(at[0] + 20 * one, at[1], 30, 30), children=[]) for one in shown
            ]
            self.mirror.update()
            return
        with self.draft as now:
            for one in shown:
                with now.window(f"t{one}", at=(at[0] / 2 + 40 * one, at[1] / 2), closable=False):
                    now.number("n", float(one), high=9.0)
                    now.region("r", (40, 30))
                    now.button("b")

    @rule(
        number=index, slides=st.booleans(), again=st.sampled_from([0.0, 0.3]), kinds=st.sampled_from([(), ("mouse",)])
    )
    def let_slide(self, number: int, slides: bool, again: float, kinds: tuple[str, ...]) -> None:
        if (node := self.node(number)) is not None:
            node.slides = slides
        self.router.feel = replace(self.feel, click_again_after=again, dwell_activates=kinds)

    @rule(number=index, accepts=st.sampled_from([None, lambda payload: True, lambda payload: "too heavy", len]))
    def make_target(self, number: int, accepts) -> None:
        if (node := self.node(number)) is not None:
            node.accepts = accepts

    @invariant()
    def promises_are_kept(self) -> None:
        """R6: every inner verdict is sealed when the outermost feed has returned."""
        for verdict in getattr(self, "promised", ()):
            assert verdict.sealed
            assert verdict.why

    @invariant()
    def grabs_are_held_or_over(self) -> None:
        for grab in getattr(self, "grabs", ()):
            if grab.active:
                assert any(pointer.grab is grab for pointer in self.router._state.pointers.values())
                assert grab.node.scene is not None
