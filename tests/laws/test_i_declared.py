"""What code declares in each frame: kept by key, answered once, and all or nothing (laws I1–I5)."""

from __future__ import annotations

from types import SimpleNamespace
from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from glent import KeySample, PointerSample, Reason, Router, Scene, TickSample
from glent.formats import Recording
from glent.immediate import DeclarationError, Draft
from glent.testing import Hand

pytestmark = pytest.mark.long

KINDS = ("text", "rule", "button", "toggle", "number", "choice", "field", "region", "row", "scroll", "window")
HOLDS = ("row", "scroll", "window")
keys = st.sampled_from("abcdef")
number = st.integers(0, 999)


class Thing:
    """What the program of the machine has, and declares in every frame."""

    def __init__(self, kind: str, key: str) -> None:
        self.kind, self.key = kind, key
        self.text = key
        self.value: Any = {"toggle": False, "number": 1.0, "choice": "red", "field": "kelp"}.get(kind)
        self.clicks = 0
        self.things: list[Thing] = []

    def walk(self) -> list[Thing]:
        return [self, *(one for thing in self.things for one in thing.walk())]


def declare(now: Any, things: list[Thing]) -> None:
    for one in things:
        if one.kind == "text":
            now.text(one.text, key=one.key)
        elif one.kind == "rule":
            now.rule(key=one.key)
        elif one.kind == "button":
            one.clicks += now.button(one.text, key=one.key)
        elif one.kind == "toggle":
            one.value = now.toggle(one.text, one.value, key=one.key)
        elif one.kind == "number":
            one.value = now.number(one.text, one.value, high=4.0, key=one.key)
        elif one.kind == "choice":
            one.value = now.choice(one.text, one.value, ("red", "green"), key=one.key)
        elif one.kind == "field":
            one.value = now.field(one.text, one.value, key=one.key)
        elif one.kind == "region":
            one.clicks += now.region(one.key, (30, 20)).clicks
        elif one.kind == "row":
            with now.row(key=one.key):
                declare(now, one.things)
        elif one.kind == "scroll":
            with now.scroll(one.key, 60):
                declare(now, one.things)
        else:
            with now.window(one.text, key=one.key, at=(10, 10), closable=False):
                declare(now, one.things)


class World:
    """A scene whose tools are declared, and the program that does so."""

    def __init__(self) -> None:
        self.scene = Scene((400, 300))
        self.errors: list = []
        self.router = Router(self.scene, on_error=lambda error, event: self.errors.append(error))
        self.hand = Hand(self.router)
        self.draft = Draft(self.scene.layer("tools"))
        self.root = Thing("window", "")
        self.frame()

    def frame(self) -> None:
        with self.draft as now:
            declare(now, self.root.things)

    def one(self, at: int) -> Thing:
        found = self.root.walk()[1:]
        return found[at % len(found)] if found else self.root

    def holders(self) -> list[Thing]:
        return [one for one in self.root.walk() if one.kind in HOLDS]

    def path_of(self, one: Thing, above: Thing | None = None, path: str = "") -> str | None:
        for child in (above or self.root).things:
            here = f"{path}{child.key}"
            if child is one:
                return here
            found = self.path_of(one, child, here + "/")
            if found is not None:
                return found
        return None

    def book(self) -> list[Any]:
        return [(one.kind, one.value, one.clicks) for one in self.root.walk()]

    def seen(self, scene: Scene) -> Any:
        def of(node: Any) -> Any:
            below = [of(child) for child in node.children]
            what = (node.name, node.role, node.solidity, node.facts.get("text"), node.content, node.size)
            return (*what, sorted(below) if node.parent is None else below)

        return of(scene["tools"])

    def failing(self, at: int, how: str) -> None:
        with self.draft as now:
            now.text("something new", key="new")
            declare(now, self.root.things[: at % (len(self.root.things) + 1)])
            if how == "raise":
                _ = 1 / 0
            now.text("twice", key="new" if how == "double" else "a/b")


class DraftMachine(RuleBasedStateMachine):
    """One world declares in every frame, and again; another only when its program has changed what there is, as one who
    keeps nodes would. Event by event they are the same. A draft that is new, in a scene that is new, is the judge of
    what stands there; clicks and values are counted by a plain book; what stays is the same node."""

    @initialize()
    def begin(self) -> None:
        self.eager, self.lazy = self.worlds = World(), World()
        self.kept: dict[str, Any] = {}

    def changed(self) -> None:
        for world in self.worlds:
            world.frame()

    @rule(at=number, kind=st.sampled_from(KINDS), key=keys)
    def add(self, at: int, kind: str, key: str) -> None:
        for world in self.worlds:
            holders = world.holders()
            above = world.root if kind == "window" else holders[at % len(holders)]
            if len(world.root.walk()) < 25 and key not in [one.key for one in above.things]:
                above.things.insert(at % (len(above.things) + 1), Thing(kind, key))
        self.changed()

    @rule(at=number)
    def remove(self, at: int) -> None:
        for world in self.worlds:
            gone = world.one(at)
            for holder in world.holders():
                if gone in holder.things:
                    holder.things.remove(gone)
        self.changed()

    @rule(at=number)
    def turn_round(self, at: int) -> None:
        for world in self.worlds:
            holders = world.holders()
            holders[at % len(holders)].things.reverse()
        self.changed()

    @rule(at=number, text=st.sampled_from(["kelp", "a much longer text", "x/y"]))
    def say_otherwise(self, at: int, text: str) -> None:
        for world in self.worlds:
            world.one(at).text = text
        self.changed()

    @rule(at=number, value=st.sampled_from([0.5, 3.0]))
    def the_program_sets_a_value(self, at: int, value: float) -> None:
        self.changed()
        for world in self.worlds:
            one = world.one(at)
            if one.value is not None:
                one.value = {"toggle": value > 1, "number": value, "choice": "green", "field": f"{value}"}[one.kind]
        self.changed()

    @rule(at=number, many=st.integers(1, 3))
    def clicked(self, at: int, many: int) -> None:
        """However many clicks there are between two frames, each is told of once."""
        self.changed()
        for world in self.worlds:
            one = world.one(at)
            if one.kind == "button" and (path := world.path_of(one)) is not None:
                before = one.clicks
                for _ in range(many):
                    world.router.activate(world.draft.node(path))
                world.frame()
                world.frame()
                assert one.clicks == before + many

    @rule(at=number)
    def turned_over(self, at: int) -> None:
        self.changed()
        for world in self.worlds:
            one = world.one(at)
            if one.kind == "toggle" and (path := world.path_of(one)) is not None:
                before = one.value
                if world.router.act(world.draft.node(path), "set", not before).reason is Reason.ASKED:
                    world.frame()
                    assert one.value is (not before), "the control's counts where the program gave none other"

    @rule(x=st.integers(0, 399), y=st.integers(0, 299), action=st.sampled_from(["move", "press", "release"]))
    def point(self, x: int, y: int, action: str) -> None:
        self.feed(lambda hand: PointerSample(hand.time, action, x, y))

    @rule(code=st.sampled_from(["Tab", "ArrowRight", "Space", "Enter", "KeyA", "Escape"]))
    def key(self, code: str) -> None:
        for action in ("down", "up"):
            self.feed(lambda hand, action=action: KeySample(hand.time, action, code))

    def feed(self, sample: Any) -> None:
        told = []
        for world in self.worlds:
            world.hand.pause(0.1)
            verdict = world.router.feed(sample(world.hand))
            told.append((verdict.why, verdict.world, verdict.lifts, [repr(event) for event in verdict.events]))
        assert told[0] == told[1], "what is declared again is as what is kept, event by event"

    @rule(at=number, how=st.sampled_from(["raise", "double", "key"]))
    def a_frame_that_fails_changes_nothing(self, at: int, how: str) -> None:
        world = self.eager
        world.frame()
        before = world.seen(world.scene)
        with pytest.raises((ZeroDivisionError, DeclarationError)):
            world.failing(at, how)
        assert world.seen(world.scene) == before

    @invariant()
    def what_stands_there_is_what_was_declared(self) -> None:
        if not hasattr(self, "eager"):
            return
        world = self.eager
        world.frame()
        for one in self.worlds:
            one.hand.wait(0.05)
        world.frame()
        book = world.book()
        fresh = Scene((400, 300))
        with Draft(fresh.layer("tools")) as now:
            declare(now, world.root.things)
        assert world.book() == book, "a new draft answers what it is given"
        assert str(world.seen(world.scene)) == str(world.seen(fresh))
        kinds = {world.path_of(one): one.kind for one in world.root.walk()[1:]}
        nodes = {path: (world.draft.node(path), kind) for path, kind in kinds.items()}
        for path, (node, kind) in self.kept.items():
            if path in nodes and nodes[path][1] == kind and node.scene is not None:
                assert nodes[path][0] is node, "what is declared again is the same"
        self.kept = nodes
        assert self.eager.errors == self.lazy.errors == []


TestDraftMachine = DraftMachine.TestCase
TestDraftMachine.settings = settings(
    max_examples=40, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck)
)


def a_desk() -> SimpleNamespace:
    scene = Scene((800, 600))
    router = Router(scene)
    return SimpleNamespace(scene=scene, router=router, hand=Hand(router), draft=Draft(scene.layer("tools")))


def test_i1_a_drag_goes_on_while_what_is_dragged_is_declared_in_another_order_with_another_text() -> None:
    desk, values, seen = a_desk(), [1.0, 2.0], []

    def frame(names: list[str]) -> None:
        with desk.draft as now, now.window("tug", at=(0, 0)):
            for name in names:
                index = "ab".index(name)
                values[index] = now.number(f"{name}: {values[index]:.1f}", values[index], high=4.0, key=name)
                seen.append(values[index])

    frame(["a", "b"])
    rail = desk.draft.node("tug/a")["0"]
    desk.hand.move(rail, at=(0.25, 0.5))
    desk.hand.press()
    frame(["b", "a"])
    x, y = desk.hand.pos
    for share in (0.5, 0.75, 0.9):
        desk.hand.move((x + 100.0 * (share - 0.25), y))
        frame(["b", "a"] if share < 0.8 else ["a", "b"])
    desk.hand.release()
    frame(["a", "b"])
    assert values[0] > 3.0
    assert values[1] == 2.0
    assert desk.draft.node("tug/a")["0"] is rail


def test_i2_what_is_declared_no_more_cancels_and_windows_stay_where_they_were_put() -> None:
    desk, log = a_desk(), []

    def frame(shown: bool) -> None:
        with desk.draft as now:
            with now.window("tug", key="tug", at=(100, 50)) as box:
                if shown:
                    now.region("pad", (40, 40))
            log.append(box.closed)

    frame(True)
    pad = desk.draft.node("tug/pad")
    told: list[str] = []
    pad.on("cancel", lambda event: told.append(event.kind))
    desk.hand.move(pad)
    desk.hand.press()
    frame(False)
    assert told == ["cancel"]
    desk.hand.release()
    desk.hand.drag("tools/tug/title", (300.0, 200.0))
    frame(True)
    places = desk.draft.places()
    left, top, *_ = places["tug"]
    assert (left, top) != (100, 50)
    with desk.draft:
        pass
    frame(True)
    assert desk.draft.places() == places, "a window that comes back is where it was"
    desk.hand.click("tools/tug/title/close")
    assert not desk.scene["tools/tug"].visible
    frame(True)
    assert log[-1] is True
    frame(True)
    assert (log[-1], desk.scene["tools/tug"].visible) == (False, True), "what is declared shows"
    other = Draft(Scene((800, 600)).layer("tools"), places=places)
    with other as now, now.window("tug", key="tug", at=(0, 0)):
        now.text("kelp")
    assert other.places()["tug"][:2] == places["tug"][:2]


def test_i4_menus_choices_tables_regions_and_tooltips_answer() -> None:
    desk, told = a_desk(), []

    def frame() -> None:
        with desk.draft as now:
            with now.menus() as bar, bar.menu("file") as file:
                told.extend(["open"] * file.item("open", key="file-open"))
                with file.menu("recent") as recent:
                    told.extend(["kelp"] * recent.item("kelp"))
            with now.window("hold", at=(300, 40)):
                for index in now.table("rows", 100_000, height=100, row_height=20, width=200):
                    told.extend([f"row {index}"] * now.button(f"row {index}", key="pick"))
                source = now.region("source", (40, 20), gives="salt")
                now.tooltip("drag it to the quay")
                quay = now.region("quay", (40, 20), accepts=lambda payload: payload == "salt")
                told.extend(quay.dropped)
                told.extend(["source"] * source.clicks)

    frame()
    draft, hand = desk.draft, desk.hand
    assert len(draft.node("hold/rows").children) < 10
    hand.click(draft.node("menus/file"))
    hand.click(draft.node("menus/file/file-open"))
    hand.click(draft.node("menus/file"))
    hand.click(draft.node("menus/file/recent"))
    hand.click(draft.node("menus/file/recent/kelp"))
    frame()
    assert told == ["open", "kelp"]
    hand.click(draft.node("hold/rows/2/pick"))
    draft.node("hold/rows").scroll = (0.0, 40_000.0)
    frame()
    frame()
    hand.click(draft.node("hold/rows/2001/pick"))
    hand.drag(draft.node("hold/source"), draft.node("hold/quay"))
    frame()
    assert told[2:] == ["row 2", "row 2001", "salt"]
    assert len(draft.node("hold/rows").children) < 10
    hand.move(draft.node("hold/source"))
    hand.wait(1.0)
    assert [one.facts["text"] for one in desk.scene["tools"].children if one.role == "tooltip" and one.visible] == [
        "drag it to the quay"
    ]


def declares_a_rope(draft: Draft) -> None:
    with draft as now:
        now.text("tar")
        now.button("rope")


def test_i5_declarations_out_of_place_are_refused_with_the_line() -> None:
    desk = a_desk()
    with desk.draft as now:
        now.button("kelp")
    with pytest.raises(DeclarationError, match=r"test_i_declared.py:\d+: the frame is over"):
        now.button("rope")
    errors: list[Exception] = []

    def declares(event: Any) -> None:
        for call in (lambda: desk.draft.__enter__(), lambda: now.text("tar")):
            try:
                call()
            except DeclarationError as error:
                errors.append(error)

    desk.draft.node("kelp").on("click", declares)
    desk.hand.click(desk.draft.node("kelp"))
    assert "a handler cannot begin a frame" in str(errors[0])
    with desk.draft as now:
        now.button("kelp")
        with pytest.raises(DeclarationError, match="a frame is under way already"):
            desk.draft.__enter__()
    other = desk.scene["tools"].add("rope")
    with pytest.raises(DeclarationError, match="the key 'rope' is the name of a node that is in tools already"):
        declares_a_rope(desk.draft)
    assert desk.scene["tools"].children == (desk.draft.node("kelp"), other), "nothing has changed"
    desk.scene["tools"].remove()
    with pytest.raises(DeclarationError, match="has been removed"):
        desk.draft.__enter__()


@pytest.mark.parametrize(
    ("call", "why"),
    [
        (lambda now: (now.text("a"), now.text("a")), r"the key 'a' stands at test_i_declared.py:\d+ already"),
        (lambda now: now.text(""), "the key is '', expected printable text without a slash; key= gives one"),
        (lambda now: now.text(3), "the text is 3, expected a text"),
        (lambda now: now.numbers("a", ()), "the numbers are \\(\\), expected one to 4"),
        (lambda now: now.number("a", 1, low=2, high=2), "low is 2 and high 2"),
        (lambda now: now.choice("a", "blue", ("red",)), "the choice is 'blue' of \\('red',\\)"),
        (lambda now: now.field("a", 3), "the text in it is 3"),
        (lambda now: now.region("a", (1,)), "the size is \\(1,\\), expected two finite numbers"),
        (lambda now: now.region("a", (1, -1)), "the size is \\(1, -1\\), expected 0 to"),
        (lambda now: now.region("a", (1, 1), at=(1, "2")), "the place is "),
        (lambda now: now.number("a", 1.0, step=0), "the step is 0, expected None or more than 0"),
        (lambda now: now.field("a", "", lines=0), "lines is 0, expected 1 to 1000"),
        (lambda now: now.button("a", enabled=1), "enabled is 1, expected True or False"),
        (lambda now: now.scroll("a", 0).__enter__(), "the size is \\(0, 0\\), expected 1 to"),
        (lambda now: list(now.table("a", -1, 100, 20)), "the count is -1"),
        (lambda now: now.window("a", at=(1, 2, 3)).__enter__(), "the place is \\(1, 2, 3\\)"),
        (lambda now: now.window("a", bar=3).__enter__(), "bar is 3, expected True or False"),
        (lambda now: now.tooltip("a"), "there is nothing that a tooltip could be about"),
    ],
)
def test_i3_what_cannot_be_declared_is_refused_with_the_line(call: Any, why: str) -> None:
    desk = a_desk()
    with pytest.raises(DeclarationError, match=f"test_i_declared.py:\\d+: {why}"), desk.draft as now:
        call(now)
    assert desk.scene["tools"].children == ()


def test_r7_the_same_samples_are_the_same_again_though_all_is_declared() -> None:
    def program(router: Router) -> list[str]:
        draft, tugs, told = Draft(router.scene.layer("tools")), {"a": 1.0, "b": 2.0}, []

        def frame() -> None:
            with draft as now:
                for name in sorted(tugs, key=tugs.get):
                    with now.window(name, at=(20, 20 + 200 * (name == "b"))) as box:
                        tugs[name] = now.number("speed", tugs[name], high=9.0)
                        tugs[name] += now.button("faster")
                        if box.closed:
                            tugs.pop(name)

        def fed(sample: Any, verdict: Any) -> None:
            if not isinstance(sample, TickSample) or verdict.events:  # which are recorded
                told.extend([f"{verdict.why} {verdict.world}", *map(repr, verdict.events), repr(tugs)])
                frame()

        frame()
        router.watch(fed)
        return told

    scene = Scene((800, 600))
    router, recording = Router(scene), Recording((800.0, 600.0))
    recording.follow(router)
    told, hand = program(router), Hand(router)
    hand.wait(0.1)
    for path in ("a/in/faster", "b/in/speed/0", "a/title/close"):
        hand.click(f"tools/{path}")
    hand.drag("tools/b/title", (300.0, 300.0))
    hand.wait(0.2)
    assert "{'b': 4." in told[-1]
    again = Router(Scene((800, 600)))
    others = program(again)
    for sample in recording.samples:
        again.feed(sample)
    assert others == told
