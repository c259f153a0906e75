"""Any sequence of input and changes: the machines, for as long as `make test` has time. `make soak` runs longer."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, settings

from controls_machine import ControlsMachine
from drive import drive
from pointers_machine import RouterMachine, WildMachine
from seats_machine import SeatsMachine, WildSeatsMachine
from soak import MACHINES
from world_machine import WorldMachine

pytestmark = pytest.mark.long


def steps(examples: int, count: int = 50) -> settings:
    return settings(
        max_examples=examples, stateful_step_count=count, deadline=None, suppress_health_check=list(HealthCheck)
    )


TestRouterMachine = RouterMachine.TestCase
TestRouterMachine.settings = steps(12)
TestWildMachine = WildMachine.TestCase
TestWildMachine.settings = steps(12)
TestSeatsMachine = SeatsMachine.TestCase
TestSeatsMachine.settings = steps(12)
TestWildSeatsMachine = WildSeatsMachine.TestCase
TestWildSeatsMachine.settings = steps(12)
TestWorldMachine = WorldMachine.TestCase
TestWorldMachine.settings = steps(14)
TestControlsMachine = ControlsMachine.TestCase
TestControlsMachine.settings = steps(8, 40)


@pytest.mark.filterwarnings("ignore")
@pytest.mark.parametrize("machine", MACHINES)
def test_a_machine_driven_for_long_keeps_the_laws(machine: type) -> None:
    """By seeds that stay the same; `make soak` takes others. What fails names its seed and its steps."""
    assert sum(drive(machine, 4100 + number, (60, 400)[number % 2]) for number in range(8)) > 500


def test_the_machines_have_rules_enough() -> None:
    for machine, minimum in ((RouterMachine, 25), (WildMachine, 27)):
        rules = sum(hasattr(getattr(machine, name), "hypothesis_stateful_rule") for name in dir(machine))
        assert rules >= minimum
