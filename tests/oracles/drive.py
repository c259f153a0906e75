"""Drive a state machine without Hypothesis's engine: the same rules and checks, several times the steps a second.

Soaking needs no database, no coverage and no shrinking while all is well. Here a strategy becomes a plain function of a
`random.Random`, once; a run is a list of steps, each a rule and a seed for its arguments, so that a run that fails can
be repeated, and made shorter by leaving steps out. Half of the runs leave out some of the rules, as what happens rarely
among forty others happens often among ten. Strategies are read by their attributes, which belong to Hypothesis: a test
drives each machine, so a version that names them otherwise shows there.
"""

from __future__ import annotations

import inspect
import random
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from hypothesis.errors import UnsatisfiedAssumption
from hypothesis.stateful import INITIALIZE_RULE_MARKER, INVARIANT_MARKER, RULE_MARKER, RuleBasedStateMachine

Drawn = Callable[[random.Random], Any]
Step = tuple[int, int]

TRIES = 100
FAILURES = (Exception, pytest.fail.Exception)
_known: dict[int, tuple[Any, Drawn]] = {}


def drawn(strategy: Any) -> Drawn:
    """The function that draws from a strategy; made once for each."""
    found = _known.get(id(strategy))
    if found is None:
        found = _known[id(strategy)] = (strategy, _made(strategy))  # the strategy is kept, so that its id stays its own
    return found[1]


def _made(strategy: Any) -> Drawn:
    match type(strategy).__name__:
        case "LazyStrategy":
            return drawn(strategy.wrapped_strategy)
        case "SampledFromStrategy" | "JustStrategy":
            elements, changes = strategy.elements, strategy._transformations
            return _changed(lambda of: elements[int(of.random() * len(elements))], changes)
        case "BooleansStrategy":
            return lambda of: of.random() < 0.5
        case "IntegersStrategy":
            low, span = strategy.start, strategy.end - strategy.start + 1
            return lambda of: low + int(of.random() * span)
        case "FloatStrategy":
            least, width = strategy.min_value, strategy.max_value - strategy.min_value
            return lambda of: least + width * of.random()
        case "TupleStrategy":
            parts = [drawn(one) for one in strategy.element_strategies]
            return lambda of: tuple([part(of) for part in parts])
        case "OneOfStrategy":
            ways = [drawn(one) for one in strategy.element_strategies]
            return lambda of: ways[int(of.random() * len(ways))](of)
        case "ListStrategy" | "UniqueListStrategy":
            return _listed(strategy)
        case "FixedDictStrategy":
            given = {key: drawn(one) for key, one in strategy.mapping.items()}
            perhaps = {key: drawn(one) for key, one in (strategy.optional or {}).items()}
            return lambda of: (
                {key: one(of) for key, one in given.items()}
                | {key: one(of) for key, one in perhaps.items() if of.random() < 0.5}
            )
        case "MappedStrategy":
            base, pack = drawn(strategy.mapped_strategy), strategy.pack
            return lambda of: pack(base(of))
        case "FilteredStrategy":
            return _changed(drawn(strategy.filtered_strategy), [("filter", one) for one in strategy.flat_conditions])
        case "FlatMapStrategy":
            first, expand = drawn(strategy.base), strategy.expand
            return lambda of: drawn(expand(first(of)))(of)
        case "BuildsStrategy":
            args = [drawn(one) for one in strategy.args]
            named = {key: drawn(one) for key, one in strategy.kwargs.items()}
            return lambda of: strategy.target(
                *[one(of) for one in args], **{key: one(of) for key, one in named.items()}
            )
        case "CompositeStrategy":
            return lambda of: strategy.definition(lambda inner: drawn(inner)(of), *strategy.args, **strategy.kwargs)
        case name:
            raise NotImplementedError(f"{name} is not driven yet: {strategy!r}")


def _changed(base: Drawn, changes: Any) -> Drawn:
    """What a strategy's own filters and maps make of what it draws."""
    if not changes:
        return base

    def draw(of: random.Random) -> Any:
        for _ in range(TRIES):
            value = base(of)
            for how, call, *_ in changes:
                if how == "map":
                    value = call(value)
                elif not call(value):
                    break
            else:
                return value
        raise UnsatisfiedAssumption

    return draw


def _listed(strategy: Any) -> Drawn:
    element, least = drawn(strategy.element_strategy), strategy.min_size
    span = min(strategy.max_size, least + 10) - least + 1
    unique = hasattr(strategy, "keys")

    def draw(of: random.Random) -> list[Any]:
        wanted, found = least + int(of.random() * span), []
        for _ in range(TRIES):
            if len(found) == wanted:
                break
            value = element(of)
            if not unique or value not in found:
                found.append(value)
        return found

    return draw


def _with(calls: list[Any], marker: str) -> list[Any]:
    return [found for call in calls if (found := getattr(call, marker, None)) is not None]


class _Rules:
    """The rules of a machine, with their arguments ready to be drawn."""

    def __init__(self, machine: type[RuleBasedStateMachine]) -> None:
        self.machine = machine
        marked = [call for _, call in inspect.getmembers(machine, callable)]
        self.first = [self._ready(call) for call in _with(marked, INITIALIZE_RULE_MARKER)]
        self.rules = [self._ready(call) for call in _with(marked, RULE_MARKER)]
        self.checks = [one.function for one in _with(marked, INVARIANT_MARKER)]

    @staticmethod
    def _ready(rule: Any) -> tuple[Callable[..., None], dict[str, Drawn], tuple[Callable[[Any], bool], ...]]:
        return rule.function, {key: drawn(one) for key, one in rule.arguments.items()}, rule.preconditions

    def play(self, seed: int, steps: Iterator[Step] | list[Step]) -> int:
        """One run: how many steps it did. What it finds wrong is raised."""
        of = random.Random(seed)
        here, done = self.machine(), 0
        try:
            for function, arguments, _ in self.first:
                function(here, **{key: one(of) for key, one in arguments.items()})
            for number, own_seed in steps:
                function, arguments, needed = self.rules[number]
                if all(holds(here) for holds in needed):
                    of.seed(own_seed)
                    function(here, **{key: one(of) for key, one in arguments.items()})
                    for check in self.checks:
                        check(here)
                    done += 1
        except UnsatisfiedAssumption:
            return done
        here.teardown()
        return done


class FoundError(Exception):
    """A run that failed, with the fewest steps found that still fail; its cause is the failure itself."""


def drive(machine: type[RuleBasedStateMachine], seed: int, many: int, shrink: bool = True) -> int:
    """One run of at most so many steps from a seed. Return how many it did; raise FoundError when something fails."""
    rules = _Rules(machine)
    of = random.Random(seed)
    numbers = list(range(len(rules.rules)))
    if of.random() < 0.5:
        numbers = [one for one in numbers if of.random() < 0.5] or numbers
    steps = [(numbers[int(of.random() * len(numbers))], of.getrandbits(48)) for _ in range(many)]
    try:
        return rules.play(seed, steps)
    except FAILURES as error:
        if shrink:
            steps = _fewer(rules, seed, steps, type(error))
        told = "\n".join(_told(rules, step) for step in steps)
        raise FoundError(f"{machine.__name__} from seed {seed}, in {len(steps)} steps:\n{told}") from error


def _fewer(rules: _Rules, seed: int, steps: list[Step], kind: type[BaseException]) -> list[Step]:
    """Leave out steps, in parts that get smaller, for as long as what is left fails in the same way."""
    part = len(steps) // 2
    while part:
        at = 0
        while at < len(steps):
            rest = steps[:at] + steps[at + part :]
            try:
                rules.play(seed, rest)
            except kind:
                steps = rest
            except FAILURES:
                at += part
            else:
                at += part
        part //= 2
    return steps


def _told(rules: _Rules, step: Step) -> str:
    function, arguments, _ = rules.rules[step[0]]
    of = random.Random(step[1])
    return f"  {function.__name__}({', '.join(f'{key}={one(of)!r}' for key, one in arguments.items())})"
