"""The router's machines on every core for as long as is wanted: `make soak MINUTES=10`. Millions of steps, on demand.

Each worker makes run after run with seeds of its own, by `drive.py`. What fails is printed with the few steps that lead
there, and the exit code is 1.
"""

from __future__ import annotations

import argparse
import multiprocessing
import os
import sys
import time
import traceback
import warnings
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parent))

from controls_machine import ControlsMachine, StoresMachine
from drive import FoundError, drive
from pointers_machine import RouterMachine, WildMachine
from seats_machine import SeatsMachine, WildSeatsMachine
from world_machine import WorldMachine

MACHINES = (RouterMachine, WildMachine, SeatsMachine, WildSeatsMachine, WorldMachine, ControlsMachine, StoresMachine)
LENGTHS = (60, 150, 300, 600)
"""Steps of a run: short ones see more scenes, long ones more of each."""


def work(number: int, first_seed: int, until: float, shrink: bool) -> tuple[int, int, str]:
    """Runs until the time is over or something fails: how many, with how many steps, and what failed."""
    runs = steps = 0
    while time.monotonic() < until:
        machine = MACHINES[runs % len(MACHINES)]
        seed = first_seed + number * 10_000_000 + runs
        try:
            steps += drive(machine, seed, LENGTHS[runs // len(MACHINES) % len(LENGTHS)], shrink)
        except FoundError:
            return runs, steps, traceback.format_exc()
        runs += 1
    return runs, steps, ""


def main() -> int:
    """Run the workers and say what they found."""
    parser = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    parser.add_argument("--minutes", type=float, default=10.0)
    parser.add_argument("--seed", type=int, default=int(time.time()))
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    parser.add_argument("--no-shrink", action="store_true", help="show a failure as it was found, which is quicker")
    given = parser.parse_args()
    warnings.simplefilter("ignore")
    until = time.monotonic() + given.minutes * 60
    tasks = [(number, given.seed, until, not given.no_shrink) for number in range(given.workers)]
    with multiprocessing.Pool(given.workers) as pool:
        results = pool.starmap(work, tasks)
    for _, _, failure in results:
        if failure:
            print(failure)
    runs, steps = (sum(result[place] for result in results) for place in (0, 1))
    print(f"{runs:,} runs, {steps:,} steps, from seed {given.seed}")
    return 1 if any(failure for _, _, failure in results) else 0


if __name__ == "__main__":
    sys.exit(main())
