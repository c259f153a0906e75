"""The event log: one row per routed event, with its sample and verdict. The same replay gives the same bytes."""

from __future__ import annotations

import json
from collections.abc import Iterable, Iterator
from dataclasses import asdict, dataclass
from pathlib import Path

from glent.core.input.samples import WindowSample
from glent.formats.errors import FileError
from glent.formats.recording import Step

__all__ = ["EventLog", "LogRow", "log_rows"]


@dataclass(frozen=True, slots=True)
class LogRow:
    """One event, or a sample that sent none (``event`` is then None)."""

    sample: int
    time: float
    action: str
    world: bool
    owner: str | None
    reason: str
    why: str
    event: str | None
    node: str | None
    pointer: str | None
    count: int
    taken_by: str | None
    lifts: tuple[str, ...]


def log_rows(steps: Iterable[Step]) -> Iterator[LogRow]:
    """The rows of a replay, in order; verdicts of samples that handlers fed come after the sample that ran them."""
    for step in steps:
        sample = step.sample
        action = sample.what if isinstance(sample, WindowSample) else step.action
        for verdict in (step.verdict, *step.verdict.inner):
            owner = verdict.owner.path if verdict.owner is not None else None
            head = (step.number, sample.time, action, verdict.world, owner, verdict.reason.name.lower(), verdict.why)
            for event in verdict.events:
                taker = event.taker.path if event.taker is not None else None
                yield LogRow(*head, event.kind, event.node.path, event.pointer, event.count, taker, verdict.lifts)
            if not verdict.events:
                yield LogRow(*head, None, None, None, 0, None, verdict.lifts)


class EventLog:
    """The rows of one replay, as they are written to a JSON Lines file.

    :ivar scene: the SHA-256 of the scene file. :ivar rows: the rows.
    """

    def __init__(self, scene: str | None, rows: Iterable[LogRow]) -> None:
        self.scene = scene
        self.rows = tuple(rows)

    def lines(self) -> list[str]:
        """The file's lines: a header, then a row each."""
        header = {"glent": "log", "version": 1, "scene": self.scene, "rows": len(self.rows)}
        return [_line(header), *(_line(asdict(row)) for row in self.rows)]

    def write(self, path: str | Path) -> None:
        """Write the log.

        :raises FileError: the file cannot be written.
        """
        try:
            Path(path).write_text("\n".join(self.lines()) + "\n", encoding="utf-8")
        except OSError as error:
            raise FileError(str(path), [("", f"cannot be written: {error.strerror or error}")]) from None

    def differences(self, path: str | Path, most: int = 20) -> list[str]:
        """Where a log written before says something else, as sentences; empty if it says the same.

        :raises FileError: the file cannot be read.
        """
        from glent.formats.recording import MOST_BYTES
        from glent.formats.text import read_bytes

        before = read_bytes(Path(path), MOST_BYTES).decode("utf-8", "replace").splitlines()
        now = self.lines()
        found = []
        if before[:1] != now[:1]:
            found.append(f"header: it was {before[0] if before else 'nothing'}, it is {now[0]}")
        for number, (old, new) in enumerate(zip(before[1:], now[1:], strict=False), 2):
            if old != new:
                found.append(f"line {number}: it was {old}, it is {new}")
                if len(found) >= most:
                    found.append("… and perhaps more")
                    break
        if len(before) != len(now):
            found.append(f"it had {max(0, len(before) - 1)} rows, it has {len(now) - 1}")
        return found


def _line(value: object) -> str:
    return json.dumps(value, ensure_ascii=False, allow_nan=False)
