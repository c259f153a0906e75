"""Findings as SARIF 2.1.0 (OASIS), which code hosts and editors show beside the lines they are about."""

from __future__ import annotations

import hashlib
from pathlib import Path
from typing import Any

import glent
from glent.diagnose import CODES, STRICT

__all__ = ["sarif_log"]

SCHEMA = "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json"
NOTES = frozenset({*STRICT, "unused-suppression", "same-order"})
"""Codes that are told as notes; all others are warnings."""


def sarif_log(told: list[dict[str, Any]], suppressed: list[dict[str, Any]], root: Path) -> dict[str, Any]:
    """Findings as a SARIF log.

    :param told: the findings, as ``glent check --json`` has them. :param suppressed: those that a scene suppresses,
        each with its reason. :param root: the folder that paths of files are told from, where they lie in it.
    """
    rules = [
        {"id": code, "shortDescription": {"text": sentence[0].upper() + sentence[1:] + "."},
         "defaultConfiguration": {"level": _level(code)}, "properties": {"tags": ["glent"]}}
        for code, sentence in CODES.items()
    ]  # fmt: skip
    driver = {"name": "glent check", "version": glent.__version__, "rules": rules}
    results = [_result(row, root) for row in (*told, *suppressed)]
    run = {
        "tool": {"driver": driver},
        "columnKind": "unicodeCodePoints",
        "originalUriBaseIds": {"ROOT": {"uri": root.as_uri() + "/"}},
        "results": results,
    }
    return {"$schema": SCHEMA, "version": "2.1.0", "runs": [run]}


def _level(code: str) -> str:
    return "note" if code in NOTES else "warning"


def _result(row: dict[str, Any], root: Path) -> dict[str, Any]:
    mend = f" What cures it: {row['mend']}." if row["mend"] is not None else ""
    width, height = row["size"]
    result: dict[str, Any] = {
        "ruleId": row["code"],
        "ruleIndex": list(CODES).index(row["code"]),
        "level": _level(row["code"]),
        "message": {"text": f"{_whole(row['sentence'])} Shown: {_whole(row['shown'])}{mend}"},
        "locations": [_location(row, root)],
        "partialFingerprints": {"codeAndNodes/v1": _fingerprint(row)},
        "properties": {"window": f"{width:g}x{height:g}", "scene": row["scene"]},
    }
    if "reason" in row:
        result["suppressions"] = [{"kind": "inSource", "justification": row["reason"]}]
    return result


def _whole(sentence: str) -> str:
    return sentence[0].upper() + sentence[1:].rstrip(".") + "."


def _location(row: dict[str, Any], root: Path) -> dict[str, Any]:
    """Where it is in the file, if it comes from one, and which nodes it is about."""
    named = [{"fullyQualifiedName": path, "kind": "element"} for path in dict.fromkeys(row["nodes"])]
    found: dict[str, Any] = {"logicalLocations": named}
    if row["file"] is not None:
        file = Path(row["file"]).resolve()
        inside = file.is_relative_to(root)
        place = {"uri": file.relative_to(root).as_posix(), "uriBaseId": "ROOT"} if inside else {"uri": file.as_uri()}
        region = {"startLine": row["line"], "startColumn": row["column"]}
        found["physicalLocation"] = {"artifactLocation": place, "region": region}
    return found


def _fingerprint(row: dict[str, Any]) -> str:
    """What stays the same when lines move. A node may suppress several codes that are not there."""
    more = [row["sentence"]] if row["code"] == "unused-suppression" else []
    return hashlib.sha256("\n".join([row["scene"], row["code"], *row["nodes"], *more]).encode()).hexdigest()[:32]
