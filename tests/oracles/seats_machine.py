"""Two seats, nested modals, popups, keys held, sticks deflected, layers that come and go: any sequence (W, M, F, T)."""

from __future__ import annotations

from collections import Counter
from types import SimpleNamespace

from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, precondition, rule

import plain_seats as plain
from glent import (
    Bindings,
    ComposeSample,
    Event,
    Feel,
    KeySample,
    Layer,
    Node,
    PadSample,
    Place,
    PointerSample,
    Reason,
    Router,
    Scene,
    Seat,
    TextSample,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.diagnose import focus_map
from glent.mirror import Mirror

KEYS = [
    "KeyW",
    "KeyA",
    "KeyH",
    "AltLeft",
    "Space",
    "Enter",
    "Escape",
    "Tab",
    "ShiftLeft",
    "ArrowLeft",
    "ArrowUp",
    "ArrowDown",
]
BUTTONS = ["right_cluster_bottom", "right_cluster_right", "left_cluster_left", "left_cluster_top"]
AXES = ["left_stick_x", "left_stick_y", "right_stick_x"]
TILTS = [-1.0, -0.6, -0.3, 0.0, 0.0, 0.1, 0.4, 1.0]
PULLS = [0.0, 0.0, 0.1, 0.45, 0.5, 1.0]
NAVIGATES = ("Tab", "Arrow", "left_cluster", "left_stick")
DEVICES = ["keys", "pad0", "pad1", "mouse"]
HEARD = ("press", "release", "cancel", "enter", "leave", "focus", "blur", "key_down", "key_up", "click", "activate")
index = st.integers(0, 1000)


class Believer:
    """The game's world, which knows nothing but verdicts: what it believes to be down (law W3)."""

    def __init__(self) -> None:
        self.down: set[str] = set()

    def lift(self, lifts: tuple[str, ...]) -> None:
        for name in lifts:
            assert name in self.down, f"{name} is lifted, and the world does not hold it"
            self.down.discard(name)

    def hear(self, name: str, value: float, world: bool) -> None:
        """Take note of a value that it got: what is off its rest has to be lifted one day."""
        if world:
            (self.down.add if value else self.down.discard)(name)

    def take(self, name: str, down: bool, world: bool, repeat: bool = False) -> None:
        if not world:
            return
        if down:
            assert repeat == (name in self.down), f"{name} pressed twice, or repeated without a press"
            self.down.add(name)
        else:
            assert name in self.down, f"{name} is released, and the world does not hold it"
            self.down.discard(name)


POINTS = ((5.0, 5.0), (12.0, 10.0), (70.0, 30.0), (100.0, 50.0), (150.5, 5.5), (20.0, 90.0))
"""Where the offers are compared: two of them after each step, and where the mouse is."""


class SeatsMachine(RuleBasedStateMachine):
    """The model says what may be; the believer says what the world was told."""

    @initialize(split=st.booleans(), for_others=st.sampled_from(["through", "blocked"]))
    def begin(self, split: bool, for_others: str) -> None:
        self.scene = scene = Scene(size=(200, 100))
        self.errors: list = []
        self.time = 0.0
        self.world = Believer()
        self.physical: set[str] = set()
        self.tilts: dict[str, float] = {}
        self.where = {"mouse": (5.0, 5.0), "finger": (5.0, 5.0)}
        self.pairs: Counter = Counter()
        self.owed: Counter = Counter()
        self.hearers: dict[tuple[str, str], Node] = {}
        self.pointed: dict[str, Node] = {}
        self.modals: dict[str, list[Node]] = {}
        self.turns: Counter = Counter()
        self.begun: dict[str, tuple[str, int]] = {}
        self.waits: dict[str, Node] = {}
        self.kept: dict[str, Node] = {}
        self.pressing = ""
        self.added = self.checked = 0

        def box(left: float, top: float, width: float, height: float, **more: float) -> Place:
            return Place(left, top, width=width, height=height, **more)

        hud = scene.layer("hud")
        bar = hud.add("bar", place=box(0, 0, 120, 20), solidity="solid", role="toolbar")
        a = bar.add("a", place=box(2, 2, 20, 16), role="button")
        b = bar.add("b", place=box(30, 2, 20, 16, turn=8), role="button")
        hud.add("field", place=box(10, 40, 40, 12), role="textbox")
        rows = hud.add("rows", place=box(60, 30, 50, 40), role="listbox", scrolls=True, content=(50, 90), clips=True)
        for number in range(5):
            rows.add(f"row-{number}", place=box(0, number * 18, 50, 16), role="option")
        hud.add("fog", solidity="glass", place=box(0, 80, 200, 20))
        look = scene.layer("look", order=1, claims=("pad",), cursor="locked", visible=False)
        popup = scene.layer("popups", order=5).add(
            "cargo", place=box(0, 20, 40, 20), solidity="solid", closed_by="any", opener=a, visible=False
        )
        item = popup.add("item", place=box(2, 2, 30, 8), role="menuitem")
        pause = scene.layer("pause", 10, ("keys",), "shown", modal=True, closed_by="back", visible=False)
        sail_on = pause.add("sail-on", place=box(50, 20, 40, 12), role="button")
        leave = pause.add("leave", place=box(50, 40, 40, 12), role="button")
        ask = pause.add("ask", place=box(40, 10, 80, 70), solidity="solid", modal=True, visible=False, tab_order=5)
        yes = ask.add("yes", place=box(5, 40, 20, 12), role="button")
        dialog = scene.layer("dialog", order=20, visible=False)
        barge = dialog.add("barge", place=box(60, 10, 60, 60), solidity="solid", modal=True, closed_by="any")
        barge.add("go", place=box(5, 30, 20, 12), role="button")
        barge.add("name", place=box(5, 5, 40, 12), role="textbox")
        toast = scene.layer("toasts", order=30, visible=False).add("toast", place=box(150, 0, 40, 12), role="button")
        own = scene.layer(
            "two", order=40, seats=["two"], for_others=for_others, modal=True, closed_by="back", visible=False
        )
        own.add("on", place=box(20, 20, 60, 30), role="button")
        claim = scene.layer("claim", order=2, claims=("pointer", "keys", "pad", "text"), visible=False)
        panel = scene.panel("panel", (1, 1), (100, 100), position=(0, 0, -2))
        panel.add("horn", place=box(0, 0, 20, 20), role="button").on("harbour:horn", self.hear)
        panel.add("check", place=box(40, 40, 20, 20), role="button", visible=False, modal=True)
        self.layers = [look, pause, dialog, own, claim, scene["toasts"], scene["hud"]]
        self.parts = [popup, ask, barge, a, b, toast, rows, scene["hud/field"], yes, item, panel["check"]]
        self.router = Router(scene, on_error=lambda error, event: self.errors.append((error, event)))
        half = (0.0, 0.0, 0.5, 1.0) if split else None
        self.router.seat().viewport = half
        self.router.add_seat("two", ["pad1", "finger"], (0.5, 0.0, 0.5, 1.0) if split else None)
        for seat in self.router.seats:
            seat.bindings = Bindings({"harbour:horn": ["KeyH", "right_cluster_top"]})
        for node in scene.walk():
            self.listen(node)
        a.on("click", lambda event: setattr(popup, "visible", True))
        b.on("press", lambda event: setattr(pause, "visible", True))
        sail_on.on("click", lambda event: setattr(pause, "visible", False))
        leave.on("click", lambda event: setattr(ask, "visible", True))
        yes.on("click", lambda event: setattr(ask, "visible", False))
        toast.on("click", lambda event: setattr(dialog, "visible", not dialog.visible))
        item.on("focus", lambda event: setattr(look, "visible", not look.visible))
        scene["hud/rows/row-3"].on("focus", lambda event: setattr(pause, "visible", True))

    def listen(self, node: Node) -> None:
        kinds = (
            HEARD if node.effective_solidity != "hollow" else ("enter", "leave", "focus", "blur", "key_down", "key_up")
        )
        for kind in kinds:
            node.on(kind, self.hear)

    def hear(self, event: Event) -> None:
        if event.here is not event.node:
            return
        key = (event.seat, event.node) if event.kind in ("focus", "blur") else (event.seat, event.pointer, event.node)
        if event.kind in ("enter", "focus"):
            self.pairs[event.kind, *key] += 1
            assert self.pairs[event.kind, *key] == 1
        elif event.kind in ("leave", "blur"):
            begun = "enter" if event.kind == "leave" else "focus"
            self.pairs[begun, *key] -= 1
            assert self.pairs[begun, *key] == 0, f"{event} without its {begun}"
        elif event.kind == "press" and event.pointer in self.where and event.pointer != self.pressing:
            assert event.pointer in self.kept, f"{event} of a press that was kept and has been cancelled since (P8)"
        elif event.kind == "key_down":
            self.check_hearer(event.node)
            if not event.data["repeat"]:
                self.owed[event.data["device"], event.data["code"]] += 1
                self.hearers[event.data["device"], event.data["code"]] = event.node
        elif event.kind == "key_up":
            self.owed[event.data["device"], event.data["code"]] -= 1
            assert self.owed[event.data["device"], event.data["code"]] == 0
            del self.hearers[event.data["device"], event.data["code"]]

    def check_hearer(self, node: Node) -> None:
        """Nothing that is hidden, disabled or slides in hears a key (laws S5, W2)."""
        assert plain.can_hear(node), f"{node} hears a key"

    # -- feeding -----------------------------------------------------------------------------------------------------

    def feed(self, sample, name: str = "", down: bool | None = None, repeat: bool = False):
        """Feed a sample, with what the model knows beforehand and the world is told afterwards."""
        self.time += 0.01
        sample.time = self.time
        self.router.settle()
        self.world.lift(self.router.take_lifts())
        if name and down is not None and not repeat:
            (self.physical.add if down else self.physical.discard)(name)
        self.note_turns()
        shut = {name: bool(opened) for name, opened in self.modals.items()}
        seat = self.router.seat(self.seat_of("keys"))
        bare = seat.modifiers in ((), ("Shift",))
        wanted = plain.shortcut(self.scene, seat.name, "harbour:horn") if bare else None
        pressing = isinstance(sample, PointerSample) and sample.action == "press"
        self.pressing = sample.pointer if pressing else ""
        verdict = self.router.feed(sample)
        if verdict.reason is Reason.KEPT:
            self.kept[sample.pointer] = verdict._about
        if bare and isinstance(sample, KeySample) and (sample.action, sample.code) == ("down", "Escape"):
            assert sample.repeat or verdict.action == "back", "Escape is Escape, unless a modifier is known to be down"
        self.judge_focus(sample, verdict, shut, wanted)
        self.world.lift(verdict.lifts)
        still = shut[verdict.seat] and bool(plain.modals(self.scene, verdict.seat))  # handlers may have closed it
        if still and not isinstance(sample, WindowSample | TickSample):
            assert not verdict.world, f"the world got {verdict} past a modal"
        if name and down is not None:
            self.world.take(name, down, verdict.world, repeat)
            if down and not repeat:
                self.begun[name] = (verdict.seat, self.turns[verdict.seat])
        return verdict

    def seat_of(self, device: str) -> str:
        return next((seat.name for seat in self.router.seats if device in seat.devices), "main")

    def note_turns(self) -> None:
        """Count, for each seat, how often its open modals were others."""
        for seat in self.router.seats:
            now = plain.modals(self.scene, seat.name)
            before = self.modals.get(seat.name, [])
            if set(now) != set(before) or now[-1:] != before[-1:]:
                opened = [node for node in now if node not in before]
                for pointer, layer in list(self.kept.items()):
                    lies = f"{pointer}/primary" in self.physical
                    if self.seat_of(pointer) == seat.name and any(lies or not n.is_within(layer) for n in opened):
                        del self.kept[pointer]
                self.turns[seat.name] += 1
                if seat.focus is None and now and now[-1] not in self.modals.get(seat.name, []):
                    self.waits[seat.name] = now[-1]
            self.modals[seat.name] = now

    def judge_focus(self, sample, verdict, shut: dict[str, bool], wanted: Node | None) -> None:
        """What a held control may move (W3, W4), what a pointer left the focus on (F4), who hears a shortcut (W4)."""
        seat = verdict.seat
        repeats = isinstance(sample, KeySample) and sample.repeat
        if isinstance(sample, TickSample) or repeats:
            others = [
                name for name, open_modals in self.modals.items() if open_modals != plain.modals(self.scene, name)
            ]
            for event in verdict.events:  # where a handler opened or closed one, the focus moves by M1 or M3
                if event.kind == "focus" and event.seat not in others:
                    walkers = [
                        name for name, (whose, turn) in self.begun.items()
                        if whose == event.seat and turn == self.turns[whose] and name in self.physical
                        and name.split("/")[1].startswith(NAVIGATES)
                    ]  # fmt: skip
                    assert walkers, f"{event} though nothing that walks was held since the last modal came or went"
        for name in self.physical:  # what is held goes on walking, if keys or pad are the UI's, and brings the ring
            if name.split("/")[1].startswith(NAVIGATES):
                self.pointed.pop(self.seat_of(name.split("/")[0]), None)
        pressed = isinstance(sample, PointerSample) and sample.action == "press"
        focus = self.router.seat(seat).focus
        owner = verdict.owner if pressed else None
        if owner is not None and focus is not None and owner.is_within(focus):
            self.pointed[seat] = focus
        elif not shut[seat] and verdict.reason in (Reason.NAVIGATED, Reason.NO_WAY):
            self.pointed.pop(seat, None)
        if isinstance(sample, KeySample) and sample.code == "KeyH" and sample.action == "down" and not sample.repeat:
            there = verdict.reason in (Reason.SHORTCUT, Reason.TAKEN, Reason.TYPED, Reason.COMPOSING, Reason.MODAL)
            assert there or wanted is None, f"{wanted} is there for the shortcut, and yet: {verdict.why}"
            assert verdict.reason is not Reason.SHORTCUT or verdict.owner is wanted

    @rule(code=st.sampled_from(KEYS), again=st.booleans())
    def key(self, code: str, again: bool) -> None:
        name = f"keys/{code}"
        if name not in self.physical:
            self.feed(KeySample(0, "down", code), name, True)
        elif again:
            self.feed(KeySample(0, "down", code, repeat=True), name, True, repeat=True)
        else:
            self.feed(KeySample(0, "up", code), name, False)

    @rule(code=st.sampled_from(["Enter", "Space", "Tab", "Escape"]))
    def press_keys(self, code: str) -> None:
        if f"keys/{code}" not in self.physical:
            self.key(code, False)
            self.key(code, False)

    @rule(control=st.sampled_from(BUTTONS), pad=st.integers(0, 1))
    def pad_button(self, control: str, pad: int) -> None:
        name = f"pad{pad}/{control}"
        down = name not in self.physical
        self.feed(PadSample(0, control, float(down), pad), name, down)

    @rule(control=st.sampled_from(AXES), value=st.sampled_from(TILTS), pad=st.integers(0, 1))
    def stick(self, control: str, value: float, pad: int) -> None:
        self.pull(f"pad{pad}/{control}", PadSample(0, control, value, pad))

    @rule(value=st.sampled_from(PULLS), pad=st.integers(0, 1))
    def trigger(self, value: float, pad: int) -> None:
        self.pull(f"pad{pad}/front_bottom_right", PadSample(0, "front_bottom_right", value, pad))

    def pull(self, name: str, sample: PadSample) -> None:
        """Feed what has many values: a world that was told of one off its rest is told the end of it."""
        before = name in self.physical and abs(self.tilts.get(name, 1.0)) > Feel().dead_zone
        (self.physical.add if sample.value else self.physical.discard)(name)
        self.tilts[name] = sample.value
        verdict = self.feed(sample)
        self.world.hear(name, sample.value, verdict.world)
        if not before:  # within its dead zone it is in its middle (W3)
            self.begun[name] = (verdict.seat, self.turns[verdict.seat])

    @rule(pointer=st.sampled_from(["mouse", "finger"]), x=st.integers(0, 199), y=st.integers(0, 99))
    def move(self, pointer: str, x: int, y: int) -> None:
        self.where[pointer] = (float(x), float(y))
        if pointer == "mouse" or "finger/primary" in self.physical:
            self.feed(PointerSample(0, "move", x, y, pointer, "touch" if pointer == "finger" else "mouse"))

    @rule(node=index)
    def move_to(self, node: int) -> None:
        there = [one for one in self.scene.walk() if one.is_visible and one.parent is not None]
        there = [one for one in there if isinstance(one.root, Layer)]
        if there:
            chosen = there[node % len(there)]
            x, y = self.scene.point(chosen, chosen.size[0] / 2, chosen.size[1] / 2)
            self.where["mouse"] = self.where["finger"] = (x, y)
            self.feed(PointerSample(0, "move", x, y))

    @rule(which=index)
    def click_a_stop(self, which: int) -> None:
        there = [one for one in plain.stops(self.scene, "main") if isinstance(one.root, Layer) and one.size[0] > 0]
        if there and "mouse/primary" not in self.physical:
            node = there[which % len(there)]
            self.where["mouse"] = self.scene.point(node, node.size[0] / 2, node.size[1] / 2)
            self.feed(PointerSample(0, "move", *self.where["mouse"]))
            self.press("mouse")
            self.press("mouse")

    @rule(walk=st.sampled_from(["", "left_stick_y", "ArrowDown"]), by_key=st.booleans())
    def open_and_close(self, walk: str, by_key: bool) -> None:
        pause = self.scene["pause"]
        pause.visible = True
        if walk == "left_stick_y":
            self.pull("pad0/left_stick_y", PadSample(0, walk, 1.0, 0))
        elif walk and f"keys/{walk}" not in self.physical:
            self.key(walk, False)
        if by_key:
            self.press_keys("Escape")
        else:
            pause.visible = False
        self.tick(0.5)
        if walk == "ArrowDown" and "keys/ArrowDown" in self.physical:
            self.key(walk, True)

    @rule(pointer=st.sampled_from(["mouse", "finger"]))
    def press(self, pointer: str) -> None:
        name = f"{pointer}/primary"
        down = name not in self.physical
        kind = "touch" if pointer == "finger" else "mouse"
        x, y = self.where[pointer]
        if down:
            self.feed(PointerSample(0, "press", x, y, pointer, kind, 0), name, True)
        else:
            self.feed(PointerSample(0, "release", x, y, pointer, kind, 0), name, False)

    @rule(pointer=st.sampled_from(["mouse", "finger"]))
    def cancel(self, pointer: str) -> None:
        name = f"{pointer}/primary"
        if name in self.physical:
            self.kept.pop(pointer, None)
            self.physical.discard(name)
            kind = "touch" if pointer == "finger" else "mouse"
            self.feed(PointerSample(0, "cancel", *self.where[pointer], pointer, kind, 0))

    @rule(which=index, pointer=st.sampled_from(["mouse", "finger"]), lifts=st.booleans(), what=st.integers(0, 5))
    def press_while_it_slides(self, which: int, pointer: str, lifts: bool, what: int) -> None:
        """A press that a layer keeps, then perhaps what ends it, then the layer is ready (P8, P11, M1)."""
        there = [one for one in plain.stops(self.scene, self.seat_of(pointer)) if isinstance(one.root, Layer)]
        if not there or f"{pointer}/primary" in self.physical:
            return
        node = there[which % len(there)]
        node.root.transition = "keeps_press"  # type: ignore[union-attr]
        self.where[pointer] = self.scene.point(node, node.size[0] / 2, node.size[1] / 2)
        self.press(pointer)
        if lifts:
            self.press(pointer)
        if what == 1:
            self.cancel(pointer)
        elif what == 2:
            self.window("focus_lost", "")
        elif what == 3:
            self.window("device_gone", pointer)
        elif what == 4:
            for shown in (True, False):
                self.scene["dialog"].visible = shown
                self.router.settle()
                self.note_turns()
        elif what == 5:
            self.other_devices([pointer] if pointer not in self.router.seat("two").devices else [])
        node.root.transition = None  # type: ignore[union-attr]
        self.tick(0.5)

    @rule(text=st.sampled_from(["k", "elp"]), composing=st.booleans())
    def text(self, text: str, composing: bool) -> None:
        self.feed(ComposeSample(0, text, 0) if composing else TextSample(0, text))

    @rule()
    def composed(self) -> None:
        self.feed(ComposeSample(0, "", 0))

    @rule(seconds=st.sampled_from([0.05, 0.5]))
    def tick(self, seconds: float) -> None:
        self.time += seconds
        self.feed(TickSample(0))

    @rule()
    def wheel(self) -> None:
        self.feed(WheelSample(0, *self.where["mouse"], 0.0, 1.0, "line"))

    @rule(lost=st.integers(1, 4), sync=st.booleans())
    def alt_tab(self, lost: int, sync: bool) -> None:
        """The window is away, and some releases get lost; a host may say what is down when it is back."""
        self.kept.clear()
        self.feed(WindowSample(0, "focus_lost"))
        keys = sorted(one for one in self.physical if one.startswith("keys/"))
        self.physical -= set(keys[::lost])
        assert not self.router.seat(self.seat_of("keys")).modifiers, "a modifier went up unseen"
        if sync:
            self.feed(WindowSample(0, "sync", held=tuple(sorted(self.physical))))
        else:
            self.press_keys("Escape")

    @rule(what=st.sampled_from(["focus_lost", "sync", "device_gone"]), device=st.sampled_from(DEVICES))
    def window(self, what: str, device: str) -> None:
        if what == "sync":
            kept = tuple(one for one in sorted(self.physical) if len(one) % 3)
            self.physical = set(kept)
            self.feed(WindowSample(0, "sync", held=kept))
        elif what == "device_gone":
            self.physical = {one for one in self.physical if not one.startswith(device + "/")}
            self.kept.pop(device, None)
            self.feed(WindowSample(0, what, pointer=device))
        else:
            self.kept.clear()
            self.feed(WindowSample(0, what))

    # -- the scene -----------------------------------------------------------------------------------------------------

    @rule(which=index)
    def show_or_hide_a_layer(self, which: int) -> None:
        layer = self.layers[which % len(self.layers)]
        layer.visible = not layer.visible

    @rule(which=index)
    def show_or_hide(self, which: int) -> None:
        node = self.parts[which % len(self.parts)]
        node.visible = not node.visible

    @rule(which=index)
    def ghost(self, which: int) -> None:
        node = [*self.parts, *self.layers][which % (len(self.parts) + len(self.layers))]
        plain_again = "hollow" if node.parent is None else "solid"
        node.solidity = plain_again if node.solidity == "ghost" else "ghost"

    @rule(which=index)
    def enable_or_disable(self, which: int) -> None:
        nodes = list(self.scene.walk())
        node = nodes[which % len(nodes)]
        node.enabled = not node.enabled

    @rule(which=index, way=st.sampled_from([None, "ignores", "keeps_press"]))
    def transit(self, which: int, way: str | None) -> None:
        self.layers[which % len(self.layers)].transition = way  # type: ignore[attr-defined]

    @precondition(lambda self: self.added < 12)
    @rule(which=index, modal=st.booleans())
    def add(self, which: int, modal: bool) -> None:
        nodes = [node for node in self.scene.walk() if len(node.lineage()) < 5]
        self.added += 1
        place = Place(which % 60, which % 40, width=30, height=20)
        role = None if modal else "button"
        above = nodes[which % len(nodes)]
        node = above.add(f"new-{self.added}", place=place, role=role, modal=modal, order=which % 3 - 1)
        self.listen(node)

    @rule(which=index)
    def remove(self, which: int) -> None:
        nodes = [node for node in self.scene.walk() if node.parent is not None]
        focused = [seat.focus for seat in self.router.seats if seat.focus is not None]
        if which % 2 and focused:
            focused[which % len(focused)].remove()
        elif nodes and which % 5 == 0:
            nodes[which % len(nodes)].remove()

    @rule(which=index, seat=st.sampled_from(["main", "two"]))
    def set_focus(self, which: int, seat: str) -> None:
        there = plain.stops(self.scene, seat)
        if there:
            self.router.seat(seat).focus = there[which % len(there)]
            self.pointed.pop(seat, None)

    @rule(which=index)
    def other_order(self, which: int) -> None:
        layer = self.layers[which % len(self.layers)]
        layer.order = which % 50

    @rule(devices=st.sampled_from([["pad1", "finger"], ["pad1"], ["pad0", "mouse"], []]))
    def other_devices(self, devices: list[str]) -> None:
        for device in set(self.router.seat("two").devices) ^ set(devices):
            if device in self.where:  # a pointer that changes hands is as good as unplugged
                self.physical = {one for one in self.physical if not one.startswith(device + "/")}
                self.kept.pop(device, None)
        self.router.seat("two").devices = devices

    # -- what always holds ---------------------------------------------------------------------------------------------

    @invariant()
    def all_is_well(self) -> None:
        if not hasattr(self, "router"):
            return
        self.router.settle()
        self.world.lift(self.router.take_lifts())
        assert not self.errors, self.errors
        assert self.world.down <= self.physical, f"the world believes {self.world.down - self.physical} to be down"
        held = frozenset().union(*(seat.held for seat in self.router.seats))
        assert self.world.down == held
        self.note_turns()
        opened = self.modals
        for seat in self.router.seats:
            top = opened[seat.name]
            assert seat.modal is (top[-1] if top else None)
            assert seat.claims == plain.claimed(self.scene, seat.name, top)
            assert seat.cursor == plain.cursor(self.scene, seat.name)
            if seat.focus is not None:
                assert plain.may_have_focus(self.scene, seat.name, seat.focus, top), seat.focus
            self.judge_what_stays(seat)
            for channel in seat.claims - {"text"}:
                assert not [one for one in seat.held if self.channel_of(one) == channel]
        for (kind, *key), count in self.pairs.items():
            assert count == 0 or kind == "enter" or key[1] is self.router.seat(key[0]).focus, (kind, key)
        self.checked += 1
        for x, y in (*POINTS[self.checked % 3 :: 3], self.where["mouse"]):
            seat_name = next(s.name for s in self.router.seats if s is self.router._state.seat_at(x, y))
            if self.router.seat(seat_name).viewport is None:
                offers, blocked = plain.offers(self.scene, seat_name, x, y, opened[seat_name])
                hits = self.router.hits(x, y, seat=seat_name)
                assert [hit.node for hit in hits if hit.offered] == offers
                assert not (blocked and self.router.would_reach_world(x, y, seat=seat_name))

    def judge_what_stays(self, seat: Seat) -> None:
        """Whoever hears a key can still hear it (S5, M1); what a pointer left has no ring (F4); what slid in has the
        focus once it can (M1)."""
        for (device, code), node in self.hearers.items():
            if self.owed[device, code] > 0 and self.seat_of(device) == seat.name:
                assert plain.can_hear(node, sliding=True), node
                assert not plain.is_barred(self.scene, seat.name, node, self.modals[seat.name]), node
        left = self.pointed.get(seat.name)
        if left is not None and seat.focus is left and not self.modals[seat.name] and left.role != "textbox":
            assert not seat.focus_ring, f"a pointer left the focus on {left}, and it has a ring"
        elif left is not None and not self.modals[seat.name]:
            del self.pointed[seat.name]
        waits = self.waits.get(seat.name)
        if waits is not None:
            top = self.modals[seat.name][-1] if self.modals[seat.name] else None
            if top is not waits or seat.focus is not None:
                del self.waits[seat.name]
            else:
                assert not plain.stops(self.scene, seat.name), f"{waits} has stops by now, and no focus"

    @staticmethod
    def channel_of(name: str) -> str:
        device = name.split("/")[0]
        return "keys" if device == "keys" else "pad" if device.startswith("pad") else "pointer"

    @invariant()
    def every_modal_can_be_left_or_the_map_says_why(self) -> None:
        if hasattr(self, "router") and self.scene._version % 7 == 0:
            for seat in self.router.seats:
                top = seat.modal
                if top is None or plain.whose(top, seat.name) != "own":
                    continue
                found = focus_map(self.scene, seat=seat.name)
                closable = [one for one in self.scene.walk() if one.closed_by != "none" and plain.shown(one)]
                stuck = not closable and not plain.stops(self.scene, seat.name)
                assert not stuck or found.problems
                assert [stop.node for stop in found.stops] == plain.stops(self.scene, seat.name)


ACTS = (
    "raise",
    "remove",
    "hide",
    "show",
    "focus",
    "navigate",
    "back",
    "disable",
    "feed",
    "modal",
    "take",
    "blur",
    "grab",
)
KINDS = (*HEARD, "back", "text", "compose")


class WildSeatsMachine(SeatsMachine):
    """Handlers that fail, feed, close, open, move the focus and undo each other: all of it holds even so."""

    @initialize(split=st.booleans(), for_others=st.sampled_from(["through", "blocked"]))
    def begin(self, split: bool, for_others: str) -> None:
        self.promised: list = []
        super().begin(split, for_others)

    def check_hearer(self, node: Node) -> None:
        """A handler on the way may have hidden it: then it still hears what was under way (law R3)."""

    def judge_focus(self, sample, verdict, shut: dict[str, bool], wanted: Node | None) -> None:
        """Handlers move the focus as they like."""

    def judge_what_stays(self, seat: Seat) -> None:
        """Handlers move the focus as they like; who hears a key can still hear it."""
        for (device, code), node in self.hearers.items():
            if self.owed[device, code] > 0 and self.seat_of(device) == seat.name:
                assert plain.can_hear(node, sliding=True), node
                assert not plain.is_barred(self.scene, seat.name, node, self.modals[seat.name]), node

    def feed(self, sample, name: str = "", down: bool | None = None, repeat: bool = False):
        verdict = super().feed(sample, name, down, repeat)
        for promise, (code, goes_down) in self.promised:
            assert promise.sealed
            self.world.lift(promise.lifts)
            self.world.take(f"keys/{code}", goes_down, promise.world)
        self.promised.clear()
        return verdict

    @rule(names=st.lists(st.sampled_from("abcde"), max_size=5), x=st.integers(0, 150), y=st.integers(0, 60))
    def mirror_widgets(self, names: list[str], x: int, y: int) -> None:
        """Widgets that are mirrored lie among what others have made: every law holds (I6)."""
        if not hasattr(self, "mirror") or self.mirrored.scene is None:
            self.added += 1
            self.mirrored = self.scene.layer(f"mirrored{self.added}", order=self.added % 4)
            self.widgets = SimpleNamespace(name="root", box=(0, 0, 200, 100), children=[])
            self.mirror = Mirror(self.mirrored, self.widgets, role=lambda w: None if w.children else "button")
        self.widgets.children = [
            SimpleNamespace(name=name, box=(x + 12 * at, y, 10, 30), children=[])
            for at, name in enumerate(dict.fromkeys(names))
        ]
        self.mirror.update()

    @rule(which=index, other=index, kind=st.sampled_from(KINDS), act=st.sampled_from(ACTS), often=st.integers(1, 3))
    def interfere(self, which: int, other: int, kind: str, act: str, often: int) -> None:
        nodes = list(self.scene.walk())
        left = [often]

        def handler(event: Event) -> None:
            if left[0] > 0:
                left[0] -= 1
                self.act(act, event, other)

        nodes[which % len(nodes)].on(kind, handler)

    def act(self, act: str, event: Event, other: int) -> None:
        nodes = list(self.scene.walk())
        node = nodes[other % len(nodes)]
        seat = next((one for one in self.router.seats if one.name == event.seat), self.router.seat())
        if act == "raise":
            raise ValueError("on purpose")
        if act == "remove" and node.parent is not None:
            node.remove()
        elif act == "hide":
            node.visible = False
        elif act == "show":
            self.parts[other % len(self.parts)].visible = True
        elif act == "focus":
            there = plain.stops(self.scene, seat.name)
            seat.focus = there[other % len(there)] if there else None
        elif act == "blur":
            seat.focus = None
        elif act == "navigate":
            seat.navigate(("left", "down", "next", "previous")[other % 4])
        elif act == "back":
            seat.back()
        elif act == "disable":
            node.enabled = not node.enabled
        elif act == "modal":
            node.modal = not node.modal
        elif act == "take":
            event.take()
        elif act == "grab" and event.pointer in self.where:
            event.grab()
        elif act == "feed":
            code = ("KeyJ", "Escape", "Enter")[other % 3]
            goes_down = f"keys/{code}" not in self.physical
            (self.physical.add if goes_down else self.physical.discard)(f"keys/{code}")
            sample = KeySample(self.router.now, "down" if goes_down else "up", code)
            self.promised.append((self.router.feed(sample), (code, goes_down)))

    @invariant()
    def all_is_well(self) -> None:
        if not hasattr(self, "router"):
            return
        self.router.settle()
        for promise, (code, goes_down) in self.promised:  # of handlers that this settle ran
            self.world.lift(promise.lifts)
            self.world.take(f"keys/{code}", goes_down, promise.world)
        self.promised.clear()
        failed = [error for error, _ in self.errors if isinstance(error, AssertionError)]
        assert not failed, failed
        self.errors.clear()
        super().all_is_well()
