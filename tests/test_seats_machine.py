"""Two seats in any sequence, for as long as `make test` has time; `make soak` runs longer."""

from __future__ import annotations

from hypothesis import HealthCheck, settings

from seats_machine import SeatsMachine, WildSeatsMachine

TestSeatsMachine = SeatsMachine.TestCase
TestSeatsMachine.settings = settings(
    max_examples=60, stateful_step_count=50, deadline=None, suppress_health_check=list(HealthCheck)
)
TestWildSeatsMachine = WildSeatsMachine.TestCase
TestWildSeatsMachine.settings = TestSeatsMachine.settings
