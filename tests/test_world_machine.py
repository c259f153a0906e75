"""The world in any sequence, for as long as `make test` has time; `make soak` runs longer."""

from __future__ import annotations

from hypothesis import HealthCheck, settings

from world_machine import WorldMachine

TestWorldMachine = WorldMachine.TestCase
TestWorldMachine.settings = settings(
    max_examples=80, stateful_step_count=50, deadline=None, suppress_health_check=list(HealthCheck)
)
