"""Any sequence of input and changes, judged step by step by the plain model."""

from __future__ import annotations

from collections import Counter, defaultdict

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

from glent import Event, Node, PointerSample, Reason, Router, WheelSample, WindowSample
from plain_router import PlainRouter
from strategies import keywords, places, points, scenes, solidities

HEARD = ("enter", "leave", "press", "release", "cancel", "click", "move", "wheel")
NAMES = {"mouse": "mouse", "f1": "touch", "f2": "touch", "pen": "pen"}
index = st.integers(0, 1000)


class RouterMachine(RuleBasedStateMachine):
    """Handlers only listen here; the machine below has handlers that interfere."""

    wild = False

    @initialize(scene=scenes(least=4, most=25))
    def begin(self, scene) -> None:
        self.scene = scene
        self.errors: list = []
        self.router = Router(scene, on_error=lambda error, event: self.errors.append((error, event)))
        self.model = PlainRouter(scene)
        self.time = 0.0
        self.inside: dict[str, set[Node]] = defaultdict(set)
        self.owed: dict[str, Counter] = defaultdict(Counter)  # presses heard and not ended, by pointer and node
        self.clicked: list[Node] = []
        self.added = 0
        for node in list(scene.walk()):
            self.listen(node)

    def listen(self, node: Node) -> None:
        """Hear as little as leaves the node's solidity what it was, or all there is."""
        kinds = (
            HEARD
            if node.effective != "hollow" or node.solidity is not None
            else ("enter", "leave", "release", "cancel")
        )
        self.added += 1
        if self.added % 3 == 0:
            kinds = tuple(kind for kind in kinds if kind not in ("click", "press"))
        for kind in kinds:
            node.on(kind, self.hear)

    def hear(self, event: Event) -> None:
        node, pointer, inside = event.here, event.pointer, self.inside[event.pointer]
        assert node.scene is not None or event.kind in ("leave", "cancel"), (
            "P6: only what is owed reaches a removed node"
        )
        if event.kind == "enter":
            assert node not in inside, "P6: entered twice"
            assert event.data["first"] == (not any(node in other for other in self.inside.values()))
            inside.add(node)
        elif event.kind == "leave":
            inside.remove(node)  # P6: a leave has its enter
            assert event.data["last"] == (not any(node in other for other in self.inside.values()))
        elif event.kind == "press":
            self.owed[pointer][node] += 1
        elif event.kind in ("release", "cancel"):
            self.owed[pointer].pop(node, None)
        elif event.kind == "click" and event.node is node:
            self.clicked.append(node)

    def feed(self, sample, action: str, name: str, x: float, y: float, button: int = 0) -> None:
        self.clicked.clear()
        self.model.settle()
        expected = self.model.feed(action, name, NAMES[name], x, y, button)
        verdict = self.router.feed(sample)
        if not self.wild:
            got = (verdict.world, verdict.owner, [event.node for event in verdict.events if event.kind == "click"])
            assert got == expected, (verdict.why, expected)
        assert verdict.why[0].islower() or verdict.why[0].isalnum()
        assert verdict.world is False or verdict.owner is None

    def nodes(self) -> list[Node]:
        return [node for node in self.scene.walk() if node.parent is not None]

    def node(self, number: int) -> Node | None:
        nodes = self.nodes()
        return nodes[number % len(nodes)] if nodes else None

    @rule(
        name=st.sampled_from(list(NAMES)),
        action=st.sampled_from(["move", "move", "press", "press", "release", "release", "cancel"]),
        at=points,
        button=st.sampled_from([0, 0, 0, 2, 1]),
    )
    def pointer(self, name: str, action: str, at, button: int) -> None:
        button = 0 if NAMES[name] == "touch" else button
        self.time += 0.01
        sample = PointerSample(
            self.time, action, *map(float, at), name, NAMES[name], button if action in ("press", "release") else None
        )
        self.feed(sample, action, name, *at, button)

    @rule(name=st.sampled_from(list(NAMES)), number=index, press=st.booleans())
    def click_on_a_node(self, name: str, number: int, press: bool) -> None:
        node = self.node(number)
        if node is not None:
            at = self.scene.point(node, *(side / 2 for side in node.size))
            at = tuple(round(value * 4) / 4 for value in at)
            if max(map(abs, at)) < 1e6:
                self.pointer(name, "press", at, 0)
                if not press:
                    self.pointer(name, "release", at, 0)

    @rule(at=points)
    def wheel(self, at) -> None:
        self.model.settle()
        hold = self.model.pointers["mouse"].hold if "mouse" in self.model.pointers else "free"
        verdict = self.router.feed(WheelSample(self.time, *map(float, at), 0.0, 1.0))
        if not self.wild:
            import plain

            offers = plain.offers(self.scene, *at)
            solid = bool(offers) and offers[-1].effective == "solid"
            assert verdict.world == (hold == "world" or (hold != "spent" and not solid))

    @rule()
    def emulated(self) -> None:
        before = dict(self.inside)
        verdict = self.router.feed(PointerSample(self.time, "press", 5.0, 5.0, "f1", "touch", emulated=True))
        assert verdict.reason is Reason.EMULATED or self.wild
        assert not verdict.world
        assert before.keys() <= self.inside.keys()

    @rule(size=st.sampled_from([(256, 128), (300, 200), (512, 512)]))
    def resize(self, size) -> None:
        self.router.feed(WindowSample(self.time, "size", *size))
        self.model.settle()

    @rule()
    def focus_lost(self) -> None:
        self.model.settle()
        world = [name for name, pointer in self.model.pointers.items() if pointer.hold == "world"]
        for pointer in self.model.pointers.values():
            if pointer.hold != "free":
                pointer.hold, pointer.owner, pointer.press_path = "spent", None, []
        verdict = self.router.feed(WindowSample(self.time, "focus_lost"))
        if not self.wild:
            assert {lift.split("/")[0] for lift in verdict.lifts} == set(world)

    @rule()
    def mouse_leaves_window(self) -> None:
        self.router.feed(WindowSample(self.time, "pointer_left", pointer="mouse"))
        mouse = self.model.pointers.get("mouse")
        if mouse is not None and mouse.hold == "free":
            mouse.pos = None

    @rule()
    def tick(self) -> None:
        self.time += 0.5
        self.router.tick(self.time)

    @rule(number=index, how=st.sampled_from(["visible", "enabled"]))
    def toggle(self, number: int, how: str) -> None:
        node = self.node(number)
        if node is not None:
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

    @rule(number=index, given=keywords)
    def add(self, number: int, given) -> None:
        parents = list(self.scene.walk())
        self.listen(parents[number % len(parents)].add(f"a{self.added}", **given))

    @precondition(lambda self: len(self.nodes()) > 3)
    @rule(number=index)
    def remove(self, number: int) -> None:
        node = self.node(number)
        gone = list(node.walk())
        node.remove()
        self.model.removed(gone)
        assert not any(one in inside for inside in self.inside.values() for one in gone), "P6: leaves are owed at once"

    @rule(number=index, kind=st.sampled_from(["press", "click", "release"]))
    def carry(self, number: int, kind: str) -> None:
        if (node := self.node(number)) is not None:
            node.carries = {kind, "enter"}

    @invariant()
    def hover_is_true_once_settled(self) -> None:
        """P5, P7: what handlers were told, what the router believes, and what the laws say are one."""
        if not hasattr(self, "router"):
            return
        self.router.settle()
        self.model.settle()
        counts: Counter = Counter()
        for name, pointer in self.router._pointing.pointers.items():
            counts.update(pointer.hovered.keys())
            assert {node for node in pointer.hovered if node.listens("enter")} == {
                n for n in self.inside[name] if n.listens("enter")
            }
            assert all(node.is_visible for node in pointer.hovered) or self.errors
            if not self.wild:
                assert set(pointer.hovered) == self.model.hovered(self.model.pointers[name]), name
                assert pointer.hold == self.model.pointers[name].hold
        for node in self.scene.walk():
            assert node._hovers == counts[node]
            assert node.hovered == bool(counts[node])
            assert node.look in ("idle", "hot", "pressed", "off")
            if node.look == "pressed":
                assert any(
                    p.press is not None and p.press.owner.is_within(node)
                    for p in self.router._pointing.pointers.values()
                )
        for name, owed in self.owed.items():
            pointer = self.router._pointing.pointers.get(name)
            held = pointer.press if pointer is not None and pointer.hold == "ui" else None
            for node in owed:  # whoever heard a press and not its end is on the path of a press that is still held,
                # or was passed over as glass, and hears nothing more (P2)
                if held is not None and node in held.path:
                    assert not held.over
        if not self.wild:
            assert not self.errors, self.errors

    def teardown(self) -> None:
        if hasattr(self, "router"):
            self.router.close()
            assert not any(self.inside.values()), "P6: closing sends the last leaves"


class WildMachine(RouterMachine):
    """Handlers that raise, remove, hide, add, feed more and undo each other: every law about pairs still holds."""

    wild = True

    @rule(
        number=index,
        other=index,
        kind=st.sampled_from(HEARD),
        act=st.sampled_from(
            [
                "raise",
                "remove",
                "hide",
                "show",
                "feed",
                "take",
                "stop",
                "add",
                "settle",
                "disable",
                "take+raise",
                "move",
            ]
        ),
        phase=st.sampled_from(["bubble", "capture"]),
    )
    def interfere(self, number: int, other: int, kind: str, act: str, phase: str) -> None:
        node, victim = self.node(number), self.node(other)
        if node is None or victim is None:
            return

        def handler(event: Event) -> None:
            if "take" in act:
                event.take()
            if "raise" in act:
                raise RuntimeError("a handler failed")
            if act == "remove":
                victim.remove()
            elif act == "hide":
                victim.visible = False
            elif act == "show":
                victim.visible = True
            elif act == "disable":
                victim.enabled = not victim.enabled
            elif act == "feed" and self.fed < 50:
                self.fed += 1
                inner = self.router.feed(PointerSample(self.router.now, "move", float(other % 300), 50.0))
                with pytest.raises(Exception, match="outermost"):
                    _ = inner.world
                self.promised.append(inner)
            elif act == "stop":
                subscription.stop()
            elif act == "add" and victim.scene is not None and self.fed < 50:
                self.fed += 1
                self.listen(victim.add(f"w{self.added}", solidity="glass"))
            elif act == "settle":
                self.router.settle()
            elif act == "move" and victim.scene is not None:
                victim.order = (victim.order + 1) % 3

        subscription = node.on(kind, handler, phase)

    @initialize()
    def count(self) -> None:
        self.fed = 0
        self.promised: list = []

    @invariant()
    def promises_are_kept(self) -> None:
        """R6: every inner verdict is sealed when the outermost feed has returned."""
        for verdict in getattr(self, "promised", ()):
            assert verdict.sealed
            assert verdict.why


steps = settings(max_examples=60, stateful_step_count=50, deadline=None, suppress_health_check=list(HealthCheck))
TestRouterMachine = RouterMachine.TestCase
TestRouterMachine.settings = steps
TestWildMachine = WildMachine.TestCase
TestWildMachine.settings = steps
