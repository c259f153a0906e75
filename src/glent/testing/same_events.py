"""Whether a recording still comes out as an event log says: for tests of what once went right, or wrong."""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.formats import EventLog, log_rows, read_log, read_recording, replay

if TYPE_CHECKING:
    from glent.core.routing.router import Router

__all__ = ["check_same_events", "log_beside", "write_events"]

SHOWN = 8
"""Samples that a difference is told of."""


def log_beside(recording: str | Path) -> Path:
    """Where the event log of a recording is: ``crates.events.jsonl`` beside ``crates.jsonl``."""
    path = Path(recording)
    return path.with_name(f"{path.stem}.events.jsonl")


def write_events(router: Router, recording: str | Path, log: str | Path | None = None) -> None:
    """Feed a recording to a router that is as new, and write its event log.

    :param log: the event log; None: the one beside the recording.
    :raises FileError: a file cannot be read or written.
    """
    _made(router, recording).write(log if log is not None else log_beside(recording))


def check_same_events(router: Router, recording: str | Path, log: str | Path | None = None) -> None:
    """Feed a recording to a router that is as new, and make sure that it comes out as its event log says.

    :param log: the event log; None: the one beside the recording.
    :raises AssertionError: something comes out otherwise; the message shows what, sample by sample.
    :raises FileError: a file cannot be read.
    """
    made, path = _made(router, recording), Path(log) if log is not None else log_beside(recording)
    differences = _differences(read_log(path), made)
    if differences:
        many = f"{len(differences)} sample{'s' * (len(differences) != 1)}"
        more = [f"  … and {len(differences) - SHOWN} more"] if len(differences) > SHOWN else []
        lines = [line for one in differences[:SHOWN] for line in one]
        head = f"{Path(recording).name} comes out otherwise than {path.name} says, at {many}:"
        raise AssertionError("\n".join([head, *lines, *more]))


def _made(router: Router, recording: str | Path) -> EventLog:
    given = read_recording(recording)
    return EventLog(given.scene, log_rows(replay(router, given)))


def _differences(before: EventLog, now: EventLog) -> list[list[str]]:
    """The samples that come out otherwise, each as lines."""
    was, are = _by_sample(before), _by_sample(now)
    found = []
    for number in sorted({*was, *are}):
        old, new = was.get(number, []), are.get(number, [])
        if [one[1] for one in old] == [one[1] for one in new]:
            continue
        head = (old or new)[0][0]
        lines = [f"  {head}"]
        old_lines, new_lines = [one[1] for one in old], [one[1] for one in new]
        lines += [f"    - {line}" for line in old_lines if line not in new_lines]
        lines += [f"    + {line}" for line in new_lines if line not in old_lines]
        if len(lines) == 1:
            lines.append("    in another order: " + ", ".join(new_lines))
        found.append(lines)
    return found


def _by_sample(log: EventLog) -> dict[int, list[tuple[str, str]]]:
    found: dict[int, list[tuple[str, str]]] = {}
    for row in log.rows:
        head = f"sample {row.sample + 1}, {row.time:.3f} s, {row.action}"
        to = "the world" if row.world else row.owner or "nobody"
        lifts = f", lifts {' '.join(row.lifts)}" if row.lifts else ""
        mine = found.setdefault(row.sample, [])
        if not mine or row.event is None:
            mine.append((head, f"goes to {to}{lifts}"))
        if row.event is not None:
            taken = f", taken by {row.taken_by}" if row.taken_by is not None else ""
            mine.append((head, f"{row.event} {row.node}{taken}{_data(row.data)}"))
    return found


def _data(data: dict[str, Any]) -> str:
    return f" {json.dumps(data, ensure_ascii=False)}" if data else ""
