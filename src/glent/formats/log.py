"""The event log: one row per routed event, with its sample and verdict. The same replay gives the same bytes.

It is written as JSON Lines, CSV or Parquet, by suffix. JSON Lines is what logs are compared in.
"""

from __future__ import annotations

import csv
import json
import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import asdict, dataclass, fields
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter, ValidationError

from glent.core.input.samples import WindowSample
from glent.core.routing.verdict import Verdict
from glent.core.scene.node import Node
from glent.formats import text
from glent.formats.errors import FileError, problems_of, shortened, shown
from glent.formats.recording import MAX_BYTES, Step

VERSION = 5

__all__ = ["EventLog", "LogRow", "log_rows", "read_log"]


@dataclass(frozen=True, slots=True)
class LogRow:
    """One event, or a sample that sent none (``event`` is then None).

    :ivar time: of the sample. :ivar event_time: of the event, which is earlier if a timer sent it.
    :ivar seat: whose event it is, or whose sample, if that sent none.
    :ivar spot: the spot of the world that the sample points at. :ivar point: where on that, metres; to a nanometre.
    :ivar data: the event's data: numbers, words and paths of nodes; of anything else only what type it is.
    """

    sample: int
    time: float
    action: str
    world: bool
    owner: str | None
    reason: str
    gesture: str | None
    spot: str | None
    point: list[float] | None
    why: str
    lifts: tuple[str, ...]
    seat: str
    event: str | None
    event_time: float | None
    node: str | None
    pointer: str | None
    count: int
    data: dict[str, Any]
    taken_by: str | None


_ROW = TypeAdapter(LogRow)


def _plain(value: object) -> Any:
    if value is None or isinstance(value, bool | int):
        return value
    if isinstance(value, str):
        return value if value.isascii() else value.encode("utf-8", "backslashreplace").decode("utf-8")
    if isinstance(value, float):
        return float(value) if math.isfinite(value) else f"<{value}>"
    return value.path if isinstance(value, Node) else f"<{type(value).__name__}>"


def _landed(verdict: Verdict) -> tuple[str | None, list[float] | None]:
    spot = verdict.spot
    if spot is None or spot.point is None:
        return None, None
    return spot.node.path, [round(one, 9) + 0.0 for one in spot.point]


def log_rows(steps: Iterable[Step]) -> Iterator[LogRow]:
    """The rows of a replay, in order; verdicts of samples that handlers fed come after the sample that ran them."""
    for step in steps:
        sample = step.sample
        action = sample.what if isinstance(sample, WindowSample) else step.action
        for verdict in (step.verdict, *step.verdict.inner):
            owner = verdict.owner.path if verdict.owner is not None else None
            reason = verdict.reason.name.lower()
            spot, point = _landed(verdict)
            who = (verdict.world, owner, reason, verdict.gesture, spot, point, verdict.why)
            head = (step.number, sample.time, action, *who)
            for event in verdict.events:
                taker = event.taker.path if event.taker is not None else None
                data = {key: _plain(value) for key, value in event.data.items()}
                said = (event.kind, event.time, event.node.path, event.pointer, event.count, data, taker)
                yield LogRow(*head, verdict.lifts, event.seat, *said)
            if not verdict.events:
                yield LogRow(*head, verdict.lifts, verdict.seat, None, None, None, None, 0, {}, None)


class EventLog:
    """The rows of one replay, as they are written to a JSON Lines file.

    :ivar scene: the SHA-256 of the scene file. :ivar rows: the rows.
    """

    def __init__(self, scene: str | None, rows: Iterable[LogRow]) -> None:
        self.scene = scene
        self.rows = tuple(rows)

    def lines(self) -> list[str]:
        """The file's lines: a header, then a row each."""
        header = {"glent": "log", "version": VERSION, "scene": self.scene, "rows": len(self.rows)}
        return [_line(header), *(_line(asdict(row)) for row in self.rows)]

    def write(self, path: str | Path) -> None:
        """Write the log: JSON Lines (``.jsonl``), CSV (``.csv``) or Parquet (``.parquet``), by suffix.

        In a table ``lifts`` are words with blanks between, and ``data`` is JSON.

        :raises FileError: the suffix is none of these, the file cannot be written, or Parquet's library is missing.
        """
        path = Path(path)
        write = _WRITERS.get(path.suffix.lower())
        if write is None:
            raise FileError(str(path), [("", f"ends in {path.suffix!r}; expected one of {', '.join(_WRITERS)}")])
        write(self, path)

    def differences(self, path: str | Path, maximum: int = 20) -> list[str]:
        """Where a log written before, as JSON Lines, says something else, as sentences; empty if it says the same.

        :raises FileError: the file cannot be read, or is none of JSON Lines.
        """
        if Path(path).suffix.lower() in (".csv", ".parquet"):
            raise FileError(str(path), [("", "is a table; logs are compared as JSON Lines (.jsonl)")])
        before = _lines_of(Path(path))
        now = self.lines()
        found = []
        if before[0] != now[0]:
            found.append(f"header: it was {shortened(before[0])}, it is {shortened(now[0])}")
        for number, (old, new) in enumerate(zip(before[1:], now[1:], strict=False), 2):
            if old != new:
                found.append(f"line {number}: it was {shortened(old, 400)}, it is {shortened(new, 400)}")
                if len(found) >= maximum:
                    found.append("… and perhaps more")
                    break
        if len(before) != len(now):
            found.append(f"it had {max(0, len(before) - 1)} rows, it has {len(now) - 1}")
        return found

    def table(self) -> list[dict[str, Any]]:
        """The rows with plain values in every column."""
        rows = []
        for row in self.rows:
            values = asdict(row)
            values["lifts"] = " ".join(row.lifts)
            values["data"] = _line(row.data)
            values["point"] = _line(row.point) if row.point is not None else None
            rows.append(values)
        return rows


def read_log(path: str | Path) -> EventLog:
    """The event log in a JSON Lines file.

    :raises FileError: the file cannot be read, is none of JSON Lines, or a line is no row; the message names it.
    """
    head, *lines = _lines_of(Path(path))
    rows = []
    for number, line in enumerate(lines, 2):
        value = text.parse(line.encode(), f"{path}: line {number}", ".json")
        try:
            rows.append(_ROW.validate_python(value))
        except ValidationError as error:
            problems = [(f"line {number}, {place}", what) for place, what in problems_of(error)]
            raise FileError(str(path), problems) from None
    return EventLog(json.loads(head)["scene"], rows)


def _lines_of(path: Path) -> list[str]:
    """The lines of a log, the header first.

    :raises FileError: the file cannot be read, is none of JSON Lines, or no log of this version.
    """
    content = text.read_bytes(path, MAX_BYTES)
    try:
        lines = content.decode("utf-8").removesuffix("\n").split("\n")
    except UnicodeDecodeError as error:
        raise FileError(str(path), [(f"byte {error.start}", "found text that is not UTF-8; expected UTF-8")]) from None
    header = text.parse(lines[0].encode(), f"{path}: line 1", ".json")
    expected = {"glent": "log", "version": VERSION}
    given = {key: header.get(key) for key in expected} if isinstance(header, dict) else header
    if given != expected:
        raise FileError(str(path), [("line 1", f"found {shown(given)}; expected the header of a log, {expected}")])
    return lines


def _write_lines(log: EventLog, path: Path) -> None:
    text.write_whole(path, (f"{line}\n" for line in log.lines()))


def _write_csv(log: EventLog, path: Path) -> None:
    with text.whole_characters(path), text.whole(path) as aside, aside.open("w", encoding="utf-8", newline="") as file:
        writer = csv.DictWriter(file, [one.name for one in fields(LogRow)], lineterminator="\n")
        writer.writeheader()
        writer.writerows(log.table())


def _write_parquet(log: EventLog, path: Path) -> None:
    try:
        import pyarrow as arrow
        from pyarrow import parquet
    except ImportError:
        missing = "needs pyarrow, which is not installed: pip install 'glent[parquet]'"
        raise FileError(str(path), [("", missing)]) from None
    types = {"int": arrow.int64(), "float": arrow.float64(), "bool": arrow.bool_()}
    columns = [
        arrow.field(one.name, types.get(str(one.type).partition(" ")[0], arrow.string())) for one in fields(LogRow)
    ]
    schema = arrow.schema(columns, {"glent": "log", "version": str(VERSION), "scene": log.scene or ""})
    with text.whole(path) as aside:
        parquet.write_table(arrow.Table.from_pylist(log.table(), schema), aside)


_WRITERS: dict[str, Callable[[EventLog, Path], None]] = {
    ".jsonl": _write_lines,
    ".csv": _write_csv,
    ".parquet": _write_parquet,
}


def _line(value: object) -> str:
    return json.dumps(value, ensure_ascii=False, allow_nan=False)
