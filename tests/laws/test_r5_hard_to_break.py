"""Laws P6, P7, R5, R6 under what is no law: interrupts, threads, handlers without end, pointers without end."""

from __future__ import annotations

import asyncio
import copy
import gc
import pickle
import threading
import weakref
from collections import Counter
from collections.abc import Callable
from functools import partial
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from desk import Desk
from glent import (
    KeySample,
    Node,
    Place,
    PointerSample,
    Router,
    SampleError,
    Scene,
    SceneError,
    ThreadError,
    Value,
    WindowSample,
)

KINDS = ("enter", "leave", "press", "release", "cancel", "click", "move", "focus", "blur", "key_down", "key_up")


PLACES = st.sampled_from([5.0, 30.0, 60.0, 95.0])


@settings(max_examples=300, deadline=None)
@given(
    strokes=st.lists(st.tuples(PLACES, PLACES, st.sampled_from(["release", "cancel"])), min_size=1, max_size=4),
    kind=st.sampled_from(KINDS[:7]),
    name=st.sampled_from(["a", "a/b", "c", ""]),
    nth=st.integers(1, 2),
    stop=st.sampled_from([KeyboardInterrupt, SystemExit, asyncio.CancelledError]),
)
def test_p6_p7_an_interrupt_in_a_handler_comes_through_and_leaves_nothing_open(
    strokes: list[tuple[float, float, str]], kind: str, name: str, nth: int, stop: type[BaseException]
) -> None:
    """The judge pairs what nodes were told; one that was interrupted was told as well."""
    desk = Desk(a={"box": (0, 0, 70, 100)}, c={"box": (40, 0, 40, 100), "solidity": "glass"})
    desk.add("a/b", (0, 0, 40, 100), role="button")
    told: Counter[tuple[str, Node]] = Counter()
    left = [nth]

    def hear(event: Any) -> None:
        told[event.kind, event.here] += 1 if event.here is event.node or event.kind not in ("enter", "leave") else 0
        if event.kind == kind and event.here is (desk[name] if name else desk.layer):
            left[0] -= 1
            if left[0] == 0:
                raise stop

    for node in desk.layer.walk():
        for one in KINDS:
            node.on(one, hear)
    interrupts = 0
    time = 0.0
    for start, end, ending in strokes:
        for action, x in (("move", start), ("press", start), ("move", end), (ending, end)):
            time += 0.1
            try:
                desk.router.feed(PointerSample(time, action, x, 50.0))
            except stop:
                interrupts += 1
    assert interrupts == (left[0] <= 0)
    left[0] = 1_000_000
    desk.router.feed(PointerSample(time, "move", 30.0, 50.0))
    hovered = {node for node in desk.layer.walk() if node.hovered}
    for node in desk.layer.walk():
        assert told["enter", node] - told["leave", node] == (node in hovered)
    assert hovered == {desk.layer, desk["a"], desk["a/b"]}
    desk.router.close()
    for node in desk.layer.walk():
        assert told["enter", node] == told["leave", node]
        assert told["press", node] <= told["release", node] + told["cancel", node]
    assert not desk.errors


def test_an_interrupt_in_the_middle_of_routing_is_made_good_by_the_next_settle() -> None:
    desk = Desk(a={"hears": "enter leave"})
    desk["a"].accepts = lambda payload: True
    desk.scene.on_settle(lambda: (_ for _ in ()).throw(KeyboardInterrupt) if not desk.log else None)
    with pytest.raises(KeyboardInterrupt):
        desk.hand.move("l/a")
    desk.log.append("")
    desk.router.settle()
    desk.hand.move((50.0, 51.0))
    assert desk.said() == ["", "enter a"]


def test_r5_a_call_from_another_thread_while_one_is_routed_is_an_error_at_once() -> None:
    desk = Desk(a={"hears": "press"})
    other = Scene((10, 10))
    failed: list[str] = []
    calls: dict[str, Callable[[], object]] = {
        "feed": lambda: desk.router.feed(KeySample(1.0, "down", "KeyA")),
        "tick": lambda: desk.router.tick(1.0),
        "settle": desk.router.settle,
        "send": lambda: desk.router.send(desk["a"], "own:kind"),
        "close": desk.router.close,
        "move_to": lambda: desk.router.move_to(other),
    }

    def attack() -> None:
        for name, call in calls.items():
            with pytest.raises(ThreadError, match=f"{name}: another thread is feeding this router now"):
                call()
            failed.append(name)

    def handler(event: object) -> None:
        thread = threading.Thread(target=attack)
        thread.start()
        thread.join()

    desk["a"].on("press", handler)
    verdict = desk.hand.click("l/a")
    assert failed == list(calls)
    assert verdict.owner is desk["a"]
    assert verdict.inner == ()
    thread = threading.Thread(target=lambda: failed.append(desk.hand.move((1.0, 1.0)).why))
    thread.start()
    thread.join()
    assert "l/a" in failed[-1], "one after the other is fine"


async def waits(event: object) -> None:
    """A handler that would not run."""


def yields(event: object) -> Any:
    yield event


class Caller:
    async def __call__(self, event: object) -> None: ...
    async def method(self, event: object) -> None: ...


@pytest.mark.parametrize(
    "handler",
    [waits, partial(waits), yields, Caller(), Caller().method],
    ids=["async", "partial", "generator", "caller", "method"],
)
def test_r4_handlers_that_would_not_run_are_refused_when_added(handler: Any) -> None:
    desk = Desk(a={})
    with pytest.raises(SceneError, match="l/a: the handler for click is an async function or a generator"):
        desk["a"].on("click", handler)
    assert not desk["a"].listens("click")


def test_r6_events_that_code_sends_within_each_other_without_end_are_stopped_and_said() -> None:
    desk = Desk(a={})
    heard = []
    desk["a"].on("own:kind", lambda event: (heard.append(1), desk.router.send(desk["a"], "own:kind")))
    desk.router.send(desk["a"], "own:kind")
    assert len(heard) == 32
    (error,) = desk.errors
    assert str(error[0]).startswith("l/a: handlers of own:kind sent 32 events within each other")


def test_a_closed_router_refuses_what_it_cannot_do_any_more() -> None:
    desk = Desk()
    desk.router.close()
    for call in (
        lambda: desk.router.at(1.0, print), lambda: desk.router.add_seat("two"), lambda: desk.router.tick(1.0),
    ):  # fmt: skip
        with pytest.raises(SceneError, match="the router is closed"):
            call()


def test_p1_pointers_that_come_without_end_are_forgotten_but_for_those_that_hold_something() -> None:
    desk = Desk(a={"box": (0, 0, 50, 50), "hears": "enter leave press"})
    desk.hand.move("l/a")
    desk.hand.press()
    for number in range(500):
        desk.router.feed(PointerSample(1.0, "move", 90.0 if number % 2 else 10.0, 10.0, f"guest {number}"))
    assert len(desk.router._state.pointers) == 64
    assert desk.hand.release().owner is desk["a"]
    entered = Counter(line for line in desk.said())
    assert entered["enter a"] - entered["leave a"] == sum(
        desk["a"] in pointer.hovered for pointer in desk.router._state.pointers.values()
    )


def test_scenes_routers_and_nodes_are_let_go_of_and_not_copied() -> None:
    scene = Scene((10, 10))
    node = scene.layer("l").add("a", role="button")
    router = Router(scene)
    value = Value(1.0)
    value.watch(print)
    for thing, way in ((scene, "write it to a file"), (router, "make another"), (node, "copy_to")):
        for copied in (copy.copy, copy.deepcopy):
            with pytest.raises(TypeError, match=way):
                copied(thing)
        with pytest.raises(TypeError, match="not pickled"):
            pickle.dumps(thing)
    router.feed(PointerSample(0.0, "press", 5.0, 5.0))
    kept = [weakref.ref(one) for one in (scene, router, node)]
    del scene, router, node, thing
    gc.collect()
    assert [ref() for ref in kept] == [None, None, None]


@pytest.mark.parametrize("width", [1e-310, 1e-4, 0.0, 2e6, float("inf")])
def test_p12_a_window_that_could_not_be_is_refused_and_changes_nothing(width: float) -> None:
    desk = Desk(a={"role": "button"})
    before = desk.scene.to_screen()
    with pytest.raises(SampleError, match=r"width is .*, expected a (number from 0\.001|finite)"):
        desk.router.feed(WindowSample(1.0, "size", width, 100.0))
    for call in (lambda: Scene((width, 1.0)), lambda: setattr(desk.scene, "window", (width, 1.0))):
        with pytest.raises(SceneError, match=r"from 0\.001 to 1e6"):
            call()
    assert desk.scene.to_screen() == before
    with pytest.raises(ValueError, match="scale is"):
        Place(scale=1e-310)
    assert desk.hand.click("l/a").owner is desk["a"]
