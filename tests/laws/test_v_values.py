"""Values that the game and its UI share (laws V1–V6)."""

from __future__ import annotations

import math
import operator
from itertools import pairwise

import pytest
from hypothesis import HealthCheck, assume, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from glent import Router, Scene, SceneError, Value, ValueRefusedError

pytestmark = pytest.mark.long

numbers = st.integers(-80, 80).map(lambda n: n / 4)
ranges = st.sampled_from(
    [{}, {"low": 0, "high": 10}, {"low": -5, "high": 5, "step": 2.5}, {"step": 0.5}, {"low": 0, "high": 10, "step": 4}]
)
twice, half = (lambda n: n * 2), (lambda n: n / 2)
ways = st.sampled_from([(None, None), (twice, half), (operator.neg, operator.neg)])


def allowed(value: Value[float], number: float) -> bool:
    """V1, said otherwise: in range, and on a step or at the upper end."""
    low, high, step = value.low, value.high, value.step
    if (low is not None and number < low) or (high is not None and number > high):
        return False
    return step is None or number == high or math.isclose((number - (low or 0)) % step % step, 0, abs_tol=1e-9)


class ValueMachine(RuleBasedStateMachine):
    """Whatever is set, bound and let go, by code and by watchers: values stay in range and watchers know them."""

    @initialize(given_=st.lists(st.tuples(ranges, st.one_of(st.none(), numbers)), min_size=3, max_size=6))
    def begin(self, given_: list[tuple[dict, float | None]]) -> None:
        self.values, self.heard, self.bounds = [], [], []
        for limits, start in given_:
            self.values.append(Value(**({} if start is None else {"start": start}), **limits))
            self.heard.append([])
            self.values[-1].watch(self.heard[-1].append)

    def one(self, number: int) -> Value[float]:
        return self.values[number % len(self.values)]

    @rule(number=st.integers(0, 5), to=numbers)
    def set(self, number: int, to: float) -> None:
        value = self.one(number)
        value.current = to
        assert allowed(value, value.current)
        if allowed(value, to):
            assert value.current == to  # who was set keeps it (V2)

    @rule(number=st.integers(0, 5), other=st.integers(0, 5), way=ways)
    def bind(self, number: int, other: int, way: tuple) -> None:
        value, source = self.one(number), self.one(other)
        assume(value is not source)
        kept = source.current if source.ready else None
        before = value.current if value.ready else None
        self.bounds.append(value.bind(source, *way))
        if kept is not None:
            assert source.current == kept
            assert value.current == value._fitting((way[0] or (lambda n: n))(kept))
        else:
            assert not source.ready
            assert (value.current if value.ready else None) == before  # the UI's start is not sent to the game (V4)

    @rule(number=st.integers(0, 20))
    def let_go(self, number: int) -> None:
        assume(self.bounds)
        self.bounds[number % len(self.bounds)].stop()

    @rule(number=st.integers(0, 5), to=numbers)
    def refuse(self, number: int, to: float) -> None:
        """Something down the line does not take it: nobody changes, nobody is told (V3)."""
        value = self.one(number)
        assume(value.ready and value._fitting(to) != value.current)
        refuses = False
        pump: Value[float] = Value(0.0, name="the pump")
        bound = pump.bind(value, lambda n: 1 / 0 if refuses else 0.0)
        refuses = True
        before = [(one.ready and one.current, list(heard)) for one, heard in zip(self.values, self.heard, strict=True)]
        with pytest.raises(ZeroDivisionError):
            value.current = to
        with pytest.raises(ZeroDivisionError):
            Value[float]().bind(value, lambda n: 1 / 0)
        assert before == [
            (one.ready and one.current, heard) for one, heard in zip(self.values, self.heard, strict=True)
        ]
        bound.stop()

    @invariant()
    def all_are_allowed_and_heard(self) -> None:
        for value, heard in zip(self.values, self.heard, strict=True):
            assert value.ready == bool(heard)
            if heard:
                assert allowed(value, value.current)
                assert heard[-1] == value.current
                assert all(one != other for one, other in pairwise(heard))  # news alone


TestValueMachine = ValueMachine.TestCase
TestValueMachine.settings = settings(
    max_examples=80, stateful_step_count=25, deadline=None, suppress_health_check=list(HealthCheck)
)


@pytest.mark.parametrize(
    ("limits", "to", "now"),
    [
        ({}, "dogleg", "dogleg"),
        ({"low": 0, "high": 4}, 9, 4),
        ({"low": 0, "high": 4}, -9, 0),
        ({"low": 0, "high": 10, "step": 4}, 9.5, 10),
        ({"low": 0, "high": 10, "step": 4}, 8.9, 8),
        ({"low": 1, "step": 2}, 4, 5),
        ({"step": 0.1}, 0.31, 3 * 0.1),
        ({"step": 1e-300}, 1e300, 1e300),
        ({"options": ("ebb", "flood")}, "flood", "flood"),
    ],
)
def test_v1_a_value_is_the_nearest_that_it_can_be(limits: dict, to: object, now: object) -> None:
    value: Value = Value(**limits)
    value.current = to
    assert value.current == now


@pytest.mark.parametrize(
    ("given_", "part"),
    [
        ({"low": 3, "high": 2}, "tide: low is 3 and high 2, expected low no higher than high"),
        ({"step": 0}, "tide: step is 0, expected more than 0"),
        ({"high": float("nan")}, "tide: high is nan, expected a finite number"),
        ({"options": ()}, "tide: options are (), expected at least one"),
        ({"options": (1,), "low": 0}, "and no range beside them"),
        ({"start": True, "low": 0}, "tide: is set to True, expected a finite number"),
        ({"start": "high", "options": ("ebb", "flood")}, "tide: is set to 'high', expected one of 'ebb', 'flood'"),
    ],
)
def test_v1_what_a_value_cannot_be_is_refused(given_: dict, part: str) -> None:
    with pytest.raises(ValueRefusedError) as error:
        Value(name="tide", **given_)
    assert part in str(error.value)


def test_v2_in_a_ring_each_is_told_once_and_the_one_that_was_set_keeps_its_value() -> None:
    metres, feet, shown = Value(2.0, name="metres"), Value(0.0, name="feet"), Value("", name="shown")
    feet.bind(metres, lambda m: round(m * 3.281, 1), lambda f: round(f / 3.281, 1))
    shown.bind(feet, lambda f: f"{f:g} ft", lambda text: float(text.removesuffix(" ft")))
    metres.bind(shown, lambda text: round(float(text.removesuffix(" ft")) / 3.281), lambda m: f"{m * 3:g} ft")
    told: list = []
    for value in (metres, feet, shown):
        value.watch(lambda now, name=value.name: told.append((name, now)))
    told.clear()
    metres.current = 3.3
    assert told[0] == ("metres", 3.3)
    assert sorted(name for name, _ in told) == ["feet", "metres", "shown"]
    assert metres.current == 3.3


def test_v2_setting_what_it_is_already_does_nothing_down_the_line() -> None:
    game, slider = Value(13.0), Value(0.0, step=10)
    slider.bind(game)
    slider.current = 12
    assert (slider.current, game.current) == (10, 13.0)


def test_v3_what_is_refused_down_the_line_changes_nothing_and_says_where() -> None:
    text, number, gauge = Value("7", name="text"), Value(0, name="number"), Value(0, name="gauge", low=0, high=9)
    number.bind(text, int, str)
    gauge.bind(number)
    told: list = []
    for value in (text, number, gauge):
        value.watch(told.append)
    with pytest.raises(ValueError, match="seven") as error:
        text.current = "seven"
    assert error.value.__notes__ == ["text would be 'seven', which could not be passed on to number"]
    assert (text.current, number.current, gauge.current, told) == ("7", 7, 7, ["7", 7, 7])
    with pytest.raises(ValueRefusedError, match="gauge: is to be bound to itself"):
        gauge.bind(gauge)


def test_v4_nothing_is_sent_to_a_game_that_is_not_ready() -> None:
    game, slider = Value[float](name="throttle"), Value(0.5, low=0, high=1)
    sent: list[float] = []
    game.watch(sent.append)
    slider.bind(game)
    slider.current = 0.7
    assert (sent, game.ready) == ([], False)
    with pytest.raises(ValueRefusedError, match="throttle: is not ready"):
        game.current  # noqa: B018
    game.current = 0.2
    assert (sent, slider.current) == ([0.2], 0.2)
    slider.current = 0.9
    assert sent == [0.2, 0.9]


def test_v5_a_watcher_that_fails_when_it_begins_does_not_watch() -> None:
    value, other, told = Value(0, name="tide"), Value(5, name="other"), []
    with pytest.raises(ZeroDivisionError):
        value.watch(lambda now: told.append(now) or 1 / now)
    value.current = 2
    assert told == [0]
    shaky = other.watch(lambda now: 1 / (now - 2))
    with pytest.raises(ZeroDivisionError):
        other.bind(value)
    shaky.stop()
    value.current = 9
    assert other.current == 2  # told, though not bound


def test_v5_watchers_that_set_fail_or_stop_leave_the_others_told_of_what_it_is() -> None:
    value, told = Value(0, name="tide"), []
    value.watch(lambda now: setattr(value, "current", 10) if now > 10 else None)
    value.watch(told.append)
    value.current = 14
    assert (value.current, told) == (10, [0, 10])
    failing = value.watch(lambda now: 1 / now)
    last = value.watch(told.append)
    with pytest.raises(ZeroDivisionError):
        value.current = 0
    assert told[-2:] == [0, 0]
    failing.stop()
    last.stop()
    late: list[int] = []
    value.watch(lambda now: gone.stop() if now == 3 else None)
    gone = value.watch(late.append)
    value.current = 3
    assert (told[-1], late) == (3, [0])
    other = Value(1, name="other")
    other.watch(lambda now: setattr(other, "current", 1 - now) if now in (0, 1) and value.current == 4 else None)
    value.current = 4
    with pytest.raises(ValueRefusedError, match="other: its watchers set it again and again"):
        other.current = 0


class Tug:
    """A plain object of a game; its speed is kept in bounds by itself, its name cannot be set."""

    def __init__(self) -> None:
        self.fuel, self._speed = 10.0, 1.0

    @property
    def speed(self) -> float:
        return self._speed

    @speed.setter
    def speed(self, value: float) -> None:
        self._speed = min(value, 6.0)

    @property
    def name(self) -> str:
        return "anchovy"


def test_v6_an_attribute_of_a_plain_object_is_a_value_both_ways() -> None:
    tug = Tug()
    fuel, speed = Value.of(tug, "fuel", low=0, high=50), Value.of(tug, "speed")
    gauge, told = Value(0.0, low=0, high=100), []
    gauge.bind(fuel, forward=lambda litres: litres * 2, inverse=lambda part: part / 2)
    fuel.watch(told.append)
    gauge.current = 60
    assert (tug.fuel, told) == (30.0, [10.0, 30.0])
    tug.fuel = 40.0
    assert (gauge.current, fuel.poll(), fuel.poll(), gauge.current) == (60, True, False, 80)
    tug.fuel = 90.0
    assert (fuel.poll(), tug.fuel, fuel.current, gauge.current) == (True, 50, 50, 100)
    tug.fuel = "empty"  # type: ignore[assignment]
    with pytest.raises(ValueRefusedError, match="fuel: is set to 'empty', expected a finite number"):
        fuel.poll()
    assert tug.fuel == fuel.current == 50
    speed.current = 9.0
    assert tug.speed == speed.current == 6.0, "what the object makes of it is what it is"
    with pytest.raises(ValueRefusedError, match="Tug has no attribute 'fule'.*near is fuel"):
        Value.of(tug, "fule")
    with pytest.raises(AttributeError):
        Value.of(tug, "name").current = "bramble"


def test_v6_an_attribute_is_polled_as_a_routers_time_goes_on() -> None:
    tug, router = Tug(), Router(Scene((10, 10)))
    fuel = Value.of(tug, "fuel")
    polling = fuel.poll_with(router)
    tug.fuel = 7.0
    assert fuel.current == 10.0
    router.tick(0.01)
    assert fuel.current == 7.0
    router.move_to(Scene((20, 20)))
    tug.fuel = 8.0
    router.tick(0.02)
    assert fuel.current == 8.0, "it goes on in another scene"
    polling.stop()
    polling.stop()
    tug.fuel = 9.0
    router.tick(1.0)
    assert fuel.current == 8.0
    with pytest.raises(SceneError, match="each_time: 3 cannot be called"):
        router.each_time(3)  # type: ignore[arg-type]


def test_v6_what_follows_another_value_tells_it_nothing() -> None:
    tide, gauge, chart = Value(1.0), Value(0.0), Value(0.0)
    bound = gauge.follow(tide, forward=lambda metres: metres * 100)
    chart.bind(gauge)
    assert (gauge.current, chart.current) == (100.0, 100.0)
    gauge.current = 7.0
    assert (tide.current, chart.current) == (1.0, 7.0), "its own, until the source changes"
    tide.current = 2.0
    assert (gauge.current, chart.current) == (200.0, 200.0)
    bound.stop()
    tide.current = 3.0
    assert gauge.current == 200.0
    with pytest.raises(ValueRefusedError, match="bound to itself"):
        tide.follow(tide)
