"""The index of laws: which modules keep each, and which tests hold it. As a program it writes docs/laws/index.md."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[2]
INDEX = ROOT / "docs/laws/index.md"
CHAPTERS = (
    "solidity", "hit-testing", "pointers", "routing", "gestures", "world", "modals-and-focus", "rays-and-panels",
    "seats", "flow-and-values", "controls", "names-and-requests",
    "declared-and-mirrored", "tools",
)  # fmt: skip
LETTERS = "SHPRGWMFXTLVCNQID"
MENTION = re.compile(rf"(?<![\w#.\"'])([{LETTERS}])(\d{{1,2}})(?:–\1?(\d{{1,2}}))?(?![\w\"'])")
HEAD = """# Law, code and tests

Each law with the modules that keep it and the files of tests that are named after it. A test checks that this page is
true: `python tests/oracles/law_index.py` writes it anew.

| law | kept in `src/glent/` | held by `tests/` |
| --- | --- | --- |
"""


def laws() -> dict[str, tuple[str, str]]:
    """Every law by its number, with its title and its chapter, in the order of the chapters."""
    found = {}
    for chapter in CHAPTERS:
        text = (ROOT / f"docs/laws/{chapter}.md").read_text(encoding="utf-8")
        for law, title in re.findall(r"^#{2,3} ([A-Z]\d+) – (.+)$", text, flags=re.M):
            found[law] = (title, chapter)
    return found


def mentioned(text: str) -> Iterator[str]:
    """The laws that a text names, ranges such as P2–P4 spelt out."""
    for letter, first, last in MENTION.findall(text):
        for number in range(int(first), int(last or first) + 1):
            yield f"{letter}{number}"


def kept() -> dict[str, list[str]]:
    """The modules that name each law; the demo, which shows them all, is left out."""
    found: dict[str, set[str]] = {}
    source = ROOT / "src/glent"
    for path in source.rglob("*.py"):
        if "demo" not in path.parts:
            for law in mentioned(path.read_text(encoding="utf-8")):
                found.setdefault(law, set()).add(path.relative_to(source).as_posix())
    return {law: sorted(paths) for law, paths in found.items()}


def held() -> dict[str, list[str]]:
    """The files with tests that are named after each law: ``test_p6_…``, ``test_s5_p11_…``."""
    found: dict[str, set[str]] = {}
    for path in (ROOT / "tests").rglob("test_*.py"):
        for names in re.findall(r"^def test_((?:[a-z]\d+_)+)", path.read_text(encoding="utf-8"), flags=re.M):
            for law in names.strip("_").upper().split("_"):
                found.setdefault(law, set()).add(path.relative_to(ROOT / "tests").as_posix())
    return {law: sorted(paths) for law, paths in found.items()}


def page() -> str:
    """The index as it should be."""
    modules, files = kept(), held()
    rows = []
    for law, (title, chapter) in laws().items():
        where = ", ".join(f"`{path}`" for path in modules.get(law, ()))
        by = ", ".join(f"`{path}`" for path in files.get(law, ()))
        rows.append(f"| [{law}]({chapter}.md) {title} | {where} | {by} |")
    return HEAD + "\n".join(rows) + "\n"


if __name__ == "__main__":
    INDEX.write_text(page(), encoding="utf-8")
