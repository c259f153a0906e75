"""The laws of controls: what keys and pointers do to each, as tables that are kept as data."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
import yaml

from stage import Stage

HERE = Path(__file__).parent
TABLES = yaml.safe_load((HERE / "acts.yaml").read_text(encoding="utf-8"))
ROWS = [
    pytest.param(table, row, id=f"{table['role']}-{number}-{row['key']}")
    for table in TABLES
    for number, row in enumerate(table["acts"])
]


def look_at(stage: Stage, wanted: dict[str, Any]) -> dict[str, Any]:
    return {what: stage.see(what) for what in wanted}


@pytest.mark.parametrize(("table", "row"), ROWS)
def test_c1_a_control_does_what_the_aria_practices_say(table: dict[str, Any], row: dict[str, Any]) -> None:
    stage = Stage(table["node"], HERE / table["scene"]) if "scene" in table else Stage(table["node"])
    for act in [*table.get("given", ()), *row.get("given", ())]:
        stage.do(act)
    assert look_at(stage, row["before"]) == row["before"]
    stage.do(row["key"])
    assert look_at(stage, row["after"]) == row["after"]
    assert stage.errors == []
