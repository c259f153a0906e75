"""Comparisons as a table: a row for each change, and one for each recording that has none.

Equal comparisons give equal bytes, whoever has made them: rows are in the order of the recordings, and are written in
groups whose size depends on nothing else.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.extras import needs
from glent.formats import text

if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

    import pandas

    from glent.review.comparison import Comparison

__all__ = ["comparison_table", "write_comparisons"]

GROUP = 2_000
"""Rows that are written at once."""
COLUMNS = {
    "recording": "string",
    "status": "string",
    "samples": "int64",
    "changed": "int64",
    "flipped": "int64",
    "number": "int64",
    "time": "float64",
    "action": "string",
    "was": "string",
    "now": "string",
    "was_events": "string",
    "now_events": "string",
    "was_why": "string",
    "now_why": "string",
    "receivers": "string",
    "failed": "string",
}
"""The columns, with their types in Parquet."""


def _rows(one: Comparison) -> Iterator[dict[str, Any]]:
    head: dict[str, Any] = dict.fromkeys(COLUMNS) | {
        "recording": one.recording,
        "status": one.status,
        "samples": one.samples,
        "changed": one.many,
        "flipped": one.flipped,
        "failed": one.failed,
    }
    for change in one.changes:
        was, now = change.was, change.now
        yield head | {
            "number": change.number,
            "time": float(change.time),
            "action": change.action,
            "was": was.to,
            "now": now.to,
            "was_events": "; ".join(was.events),
            "now_events": "; ".join(now.events),
            "was_why": was.why,
            "now_why": now.why,
            "receivers": json.dumps(change.receivers, ensure_ascii=False),
        }
    if not one.changes:
        yield head


def comparison_table(comparisons: Iterable[Comparison]) -> pandas.DataFrame:
    """The comparisons as a pandas table, a row for each change, and one for each recording that has none.

    :raises MissingExtraError: pandas is not installed.
    """
    with needs("tables", "a table of comparisons"):
        import pandas
    types = {"int64": "Int64", "float64": "Float64", "string": "object"}
    rows = [row for one in comparisons for row in _rows(one)]
    columns = {name: pandas.Series([row[name] for row in rows], dtype=types[kind]) for name, kind in COLUMNS.items()}
    return pandas.DataFrame(columns)


def write_comparisons(comparisons: Iterable[Comparison], path: str | Path) -> None:
    """Write the comparisons to a Parquet file, as they come, in constant memory.

    :raises FileError: the file cannot be written. :raises MissingExtraError: pyarrow is not installed.
    """
    with needs("tables", "a Parquet file"):
        import pyarrow
        from pyarrow import parquet
    schema = pyarrow.schema(
        [pyarrow.field(name, pyarrow.type_for_alias(kind)) for name, kind in COLUMNS.items()], {"glent": "comparisons"}
    )
    rows: list[dict[str, Any]] = []
    with text.whole(Path(path)) as aside, parquet.ParquetWriter(aside, schema) as writer:
        for one in comparisons:
            rows += _rows(one)
            while len(rows) >= GROUP:
                writer.write_table(pyarrow.Table.from_pylist(rows[:GROUP], schema))
                del rows[:GROUP]
        writer.write_table(pyarrow.Table.from_pylist(rows, schema))
