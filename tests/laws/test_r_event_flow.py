from __future__ import annotations

from typing import Literal

import pytest

import glent
from desk import Desk
from glent import Event, KindError, NotSealedError, PointerSample, Reason, SceneError

CHAIN = {"a": {}, "a__b": {}, "a__b__c": {"solidity": "solid"}}


def traced(desk: Desk, kind: str = "press", take: str = "") -> list[str]:
    """Listen everywhere in both phases; ``take`` names who takes it, as ``node phase``."""
    trace: list[str] = []
    for node in desk.scene.walk():
        solidity = node.solidity
        node.solidity = solidity or "hollow"
        for phase in ("capture", "bubble"):

            def hear(event: Event, phase: str = phase) -> None:
                trace.append(f"{event.here.name} {phase}")
                if trace[-1] == take:
                    event.take()

            node.on(kind, hear, phase)
            node.on(kind, lambda event, phase=phase: trace.append(f"{event.here.name} {phase} 2"), phase)
    return trace


def test_r1_capture_then_bubble() -> None:
    desk = Desk(**CHAIN)
    trace = traced(desk)
    desk.hand.click((5, 5))
    down = [f"{name} capture" for name in "labc"]
    up = [f"{name} bubble" for name in "cbal"]
    assert [line for line in trace if not line.endswith("2")] == down + up
    assert trace[1::2] == [f"{line} 2" for line in down + up], "R4: in the order they were added"


@pytest.mark.parametrize("take", ["l capture", "b capture", "c capture", "c bubble", "a bubble"])
def test_r1_take_ends_it_after_the_handlers_of_that_node_and_phase(take: str) -> None:
    desk = Desk(**CHAIN)
    trace = traced(desk, take=take)
    verdict = desk.hand.click((5, 5))
    assert trace[-2:] == [take, f"{take} 2"]
    assert not verdict.world


@pytest.mark.parametrize(
    ("role", "carries", "kinds"),
    [
        (None, None, "press click wheel move"),
        (None, (), ""),
        (None, ("click", "wheel"), "click wheel"),
        ("button", None, "wheel move"),
        ("button", ("click",), "click wheel move"),
        ("button", ("press", "release"), "press wheel move"),
        ("slider", None, "wheel move"),
        ("group", None, "press click wheel move"),
    ],
)
def test_r2_carries_decides_kind_by_kind_what_goes_on(role: str | None, carries: object, kinds: str) -> None:
    desk = Desk(above={"solidity": "solid"}, above__inner={"solidity": "solid", "role": role, "carries": carries})
    for kind in ("press", "click", "wheel", "move"):
        desk["above"].on(kind, desk.hear)
        desk["above"].on(kind, lambda event: desk.log.append("caught"), phase="capture")
    if role in (None, "group"):
        desk["above/inner"].on("click", print)
    desk.hand.click((5, 5))
    desk.hand.wheel(1)
    said = {line.split()[0] for line in desk.said()}
    assert said == {"caught", *kinds.split()}, "it limits bubbling alone"
    assert all(event.node.name == "inner" for event in desk.events), "and never changes the target"


def test_r3_the_path_is_fixed_when_the_event_starts() -> None:
    desk = Desk(**CHAIN)
    trace = traced(desk)

    def meddle(event: Event) -> None:
        desk["a"].visible = False
        desk["a/b"].remove()
        desk.layer.on("press", lambda event: trace.append("late"))
        desk.layer.add("new", solidity="solid", order=-1).on("press", lambda event: trace.append("new"))

    desk["a/b/c"].on("press", meddle)
    verdict = desk.hand.click((5, 5))
    assert trace[-2:] == ["l bubble", "l bubble 2"]
    assert "b bubble" not in trace, "a removed node gets nothing more of it"
    assert "a bubble" in trace, "one hidden still does"
    assert not {"late", "new"} & set(trace)
    assert (verdict.world, verdict.reason) == (False, Reason.SPENT)


@pytest.mark.parametrize("phase", ["capture", "bubble"])
@pytest.mark.parametrize("kind", ["leave", "release", "cancel", "drag_end"])
def test_p6_an_end_goes_its_whole_way_whoever_removes_what_lies_on_it(
    kind: str, phase: Literal["capture", "bubble"]
) -> None:
    desk = Desk(a={"solidity": "solid"}, a__b={"solidity": "solid"})
    a, heard = desk["a"], []
    for node in (desk["a"], desk["a/b"]):
        for begun in ("press", "drag_start"):
            node.on(begun, print)
    desk["a/b"].on(kind, lambda event: a.remove(), phase=phase)
    for node in (desk["a"], desk["a/b"]):
        node.on(kind, lambda event: heard.append(event.here.name))
    desk.hand.move((5, 5))
    desk.hand.press()
    if kind == "drag_end":
        desk.hand.move((35, 35))
    desk.hand.cancel() if kind == "cancel" else desk.hand.release()
    desk.hand.move((300, 300))
    assert heard == ["b", "a"]


def test_r4_adding_and_removing_during_the_event_takes_effect_after_it() -> None:
    desk = Desk(a={"solidity": "solid"})
    a, heard = desk["a"], []

    def first(event: Event) -> None:
        heard.append("first")
        second.stop()
        second.stop()
        a.on("press", lambda event: heard.append("third"))

    once = a.on("press", first)
    second = a.on("press", lambda event: heard.append("second"))
    desk.hand.click((5, 5))
    once.stop()
    desk.hand.click((5, 5))
    assert heard == ["first", "second", "third"]


@pytest.mark.parametrize("solidity", ["solid", "glass"])
def test_r5_a_handler_that_raises_breaks_nothing_and_takes_nothing(solidity: str) -> None:
    desk = Desk(a={"solidity": "hollow", "hears": "press"}, a__b={"solidity": solidity})

    def fail(event: Event) -> None:
        event.take()
        raise ValueError("jammed")

    desk["a/b"].on("press", fail)
    verdict = desk.hand.click((5, 5))
    assert desk.said() == ["press b@a"], "the event goes on as not taken"
    assert verdict.world == (solidity == "glass")
    ((error, event),) = desk.errors
    assert str(error) == "jammed"
    assert event.node is desk["a/b"]


def test_r5_what_another_had_taken_stays_taken() -> None:
    desk = Desk(a={"solidity": "hollow", "hears": "press"}, a__b={"solidity": "glass"})
    desk["a/b"].on("press", lambda event: event.take())
    desk["a/b"].on("press", lambda event: 1 / 0)
    assert not desk.hand.click((5, 5)).world
    assert desk.said() == []


def test_r5_errors_are_logged_by_default_and_on_error_may_fail_too(caplog: pytest.LogCaptureFixture) -> None:
    for on_error in (None, lambda error, event: 1 / 0):
        scene = glent.Scene(size=(10, 10))
        scene.layer("l").add("a").on("click", lambda event: [][1])
        router = glent.Router(scene, on_error=on_error)
        router.feed(PointerSample(0.0, "press", 5, 5))
        assert router.feed(PointerSample(0.1, "release", 5, 5)).owner is scene["l/a"]
        assert "l/a" in caplog.text
        assert "click" in caplog.text
        assert "IndexError" in caplog.text
    assert "ZeroDivisionError" in caplog.text


def test_r6_a_sample_fed_from_inside_is_queued_sealed_and_listed() -> None:
    desk = Desk(
        a={"role": "button", "box": (0, 0, 50, 50), "hears": "click release"},
        b={"solidity": "solid", "box": (50, 0, 50, 50), "hears": "enter"},
    )
    promised = []

    def feed_more(event: Event) -> None:
        inner = desk.router.feed(PointerSample(event.time, "move", 60.0, 10.0))
        assert not inner.sealed
        for read in (lambda: inner.world, lambda: inner.why, lambda: inner.events, lambda: inner.owner):
            with pytest.raises(NotSealedError):
                read()
        promised.append(inner)
        desk.router.tick(event.time + 1)
        assert desk.router.settle() == ()
        with pytest.raises(glent.SampleError, match="time"):
            desk.router.feed(PointerSample(event.time, "move", 60.0, 10.0))

    desk["a"].on("release", feed_more)
    desk.hand.move((5, 5))
    desk.hand.press()
    verdict = desk.hand.release()
    assert desk.said() == ["release a", "click a", "enter b"], "routed after the current one"
    assert verdict.inner == tuple(promised)
    assert promised[0].owner is desk["b"]
    assert desk.router.now == pytest.approx(desk.hand.time + 1)
    assert desk.errors == []


def test_r7_timers_fire_by_due_time_then_creation_before_the_sample() -> None:
    desk = Desk(a={"solidity": "solid", "hears": "move"})
    router, fired = desk.router, []
    router.tick(0.0)
    router.at(2.0, lambda due: fired.append(("late", due)))
    router.at(1.0, lambda due: fired.append(("one", router.now)))
    router.at(1.0, lambda due: (fired.append(("two", due)), router.at(1.5, lambda due: fired.append(("nested", due)))))
    router.at(1.2, lambda due: 1 / 0)
    stopped = router.at(1.1, lambda due: fired.append(("never", due)))
    stopped.stop()
    router.feed(PointerSample(1.0, "move", 5.0, 5.0))
    assert fired == [("one", 1.0), ("two", 1.0)]
    router.tick(3.0)
    assert fired[2:] == [("nested", 1.5), ("late", 2.0)]
    assert [type(error) for error, _ in desk.errors] == [ZeroDivisionError]

    def again(due: float) -> None:
        router.at(due, again)

    router.at(4.0, again)
    router.tick(4.0)
    assert isinstance(desk.errors[-1][0], glent.SettleError)


def test_unknown_kinds_phases_names_and_values_are_refused_by_name() -> None:
    desk = Desk(a={}, a__b={})
    with pytest.raises(KindError, match="'klick'.*click, hold"):
        desk["a"].on("klick", print)
    for bad, match in [
        (lambda: desk["a"].on("click", print, phase="sink"), "l/a.*sink.*capture, bubble"),
        (lambda: desk["a"].on("click", None), "l/a.*None"),
        (lambda: desk["a"].add("b"), "l/a/b.*already taken"),
        (lambda: desk["a"].add("x/y"), "x/y"),
        (lambda: desk["a"].add("c", solidity="firm"), "l/a/c.*'firm'.*solid, glass"),
        (lambda: desk["a"].add("c", role="knob"), "'knob'"),
        (lambda: desk["a"].add("c", place=3), "l/a/c.*3"),
        (lambda: desk["a"].add("c", reach={"claw": 1}), "claw"),
        (lambda: desk["a"].add("c", scroll=(1,)), "scroll"),
        (lambda: desk["a"].add("c", tags="one"), "tags"),
        (lambda: setattr(desk["a"], "order", float("nan")), "l/a.*nan"),
        (lambda: setattr(desk["a"], "visible", 1), "l/a.*visible"),
        (lambda: setattr(desk["a"], "shape", "round"), "l/a.*round"),
        (lambda: setattr(desk.layer, "place", glent.Place()), "layer"),
        (lambda: desk.scene.layer("l"), "already taken"),
        (lambda: glent.Scene(size=(0, 1)), "size"),
        (lambda: glent.Scene(size=(1, 1), fit="squash"), "squash.*contain"),
    ]:
        with pytest.raises(SceneError, match=match):
            bad()
    assert [node.path for node in desk.scene.walk()] == ["l", "l/a", "l/a/b"], "nothing was added on the way"
    with pytest.raises(glent.PathError, match="did you mean a"):
        desk.scene["l/aa"]
    with pytest.raises(glent.PathError, match="it has l"):
        desk.scene["menu/x"]
    gone = desk["a"]
    gone.remove()
    gone.remove()
    assert gone.path == "l/a"
    for late in (lambda: gone.add("c"), lambda: gone.on("click", print)):
        with pytest.raises(SceneError, match="removed"):
            late()


def test_r3_an_enter_whose_own_handler_removes_the_node_is_heard_there_no_further() -> None:
    scene = glent.Scene((100, 100))
    node = scene.layer("desk").add("crate", solidity="solid")
    heard: list[str] = []
    node.on("enter", lambda event: node.remove(), phase="capture")
    node.on("enter", lambda event: heard.append("enter"))
    node.on("leave", lambda event: heard.append("leave"))
    router = glent.Router(scene)
    router.feed(glent.PointerSample(0.0, "move", 50.0, 50.0))
    assert heard == ["leave"]  # what it is owed it gets (law P6)
