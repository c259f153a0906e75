"""Any sequence of input and changes: the machines, for as long as `make test` has time. `make soak` runs longer."""

from __future__ import annotations

from hypothesis import HealthCheck, settings

from machine import RouterMachine, WildMachine

steps = settings(max_examples=60, stateful_step_count=50, deadline=None, suppress_health_check=list(HealthCheck))
TestRouterMachine = RouterMachine.TestCase
TestRouterMachine.settings = steps
TestWildMachine = WildMachine.TestCase
TestWildMachine.settings = steps


def test_the_machines_have_rules_enough() -> None:
    for machine, least in ((RouterMachine, 25), (WildMachine, 27)):
        assert sum(hasattr(getattr(machine, name), "hypothesis_stateful_rule") for name in dir(machine)) >= least
