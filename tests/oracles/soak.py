"""The router's machines on every core for as long as is wanted: `make soak MINUTES=10`. Millions of steps, on demand.

Each worker runs round after round with seeds of its own. What fails is printed with the steps that led there, shrunk,
and the exit code is 1.
"""

from __future__ import annotations

import argparse
import multiprocessing
import os
import sys
import time
import traceback
from pathlib import Path

from hypothesis import HealthCheck, Phase, seed, settings
from hypothesis.stateful import run_state_machine_as_test

sys.path.insert(0, str(Path(__file__).parent))

from controls_machine import ControlsMachine
from pointers_machine import RouterMachine, WildMachine
from seats_machine import SeatsMachine, WildSeatsMachine
from world_machine import WorldMachine

RUNS, STEPS = 50, 60
MACHINES = (RouterMachine, WildMachine, SeatsMachine, WildSeatsMachine, WorldMachine, ControlsMachine)


def work(number: int, first_seed: int, until: float, shrink: bool) -> tuple[int, str]:
    """Rounds until the time is over or something fails: how many, and what failed."""
    phases = [Phase.generate, Phase.shrink] if shrink else [Phase.generate]
    chosen = settings(
        max_examples=RUNS,
        stateful_step_count=STEPS,
        deadline=None,
        database=None,
        phases=phases,
        suppress_health_check=list(HealthCheck),
    )
    rounds = 0
    while time.monotonic() < until:
        machine = MACHINES[rounds % len(MACHINES)]
        seeded = seed(first_seed + number * 1_000_000 + rounds)(type(machine.__name__, (machine,), {}))
        try:
            run_state_machine_as_test(seeded, settings=chosen)
        except BaseException:
            return rounds, f"seed {first_seed + number * 1_000_000 + rounds}\n{traceback.format_exc()}"
        rounds += 1
    return rounds, ""


def main() -> int:
    """Run the workers and say what they found."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--minutes", type=float, default=10.0)
    parser.add_argument("--seed", type=int, default=int(time.time()))
    parser.add_argument("--no-shrink", action="store_true", help="show a failure as it was found, which is quicker")
    given = parser.parse_args()
    workers = os.cpu_count() or 1
    until = time.monotonic() + given.minutes * 60
    tasks = [(number, given.seed, until, not given.no_shrink) for number in range(workers)]
    with multiprocessing.Pool(workers) as pool:
        results = pool.starmap(work, tasks)
    for _, failure in results:
        if failure:
            print(failure)
    rounds = sum(count for count, _ in results)
    steps = rounds * RUNS * STEPS
    print(f"{rounds} rounds of {RUNS} runs with up to {STEPS} steps: up to {steps:,} steps, from seed {given.seed}")
    return 1 if any(failure for _, failure in results) else 0


if __name__ == "__main__":
    sys.exit(main())
