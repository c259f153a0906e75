"""The laws are numbered without gaps, and each is named by a module and by a test; none is unknown."""

from __future__ import annotations

import re

from law_index import INDEX, LETTERS, ROOT, held, kept, laws, page


def test_every_law_is_kept_somewhere_and_held_by_a_test() -> None:
    known = laws()
    assert set(kept()) == set(known), "named by modules, and written down"
    assert set(held()) == set(known), "named by tests, and written down"
    for letter in LETTERS:
        numbers = [int(law[1:]) for law in known if law[0] == letter]
        assert numbers == list(range(1, len(numbers) + 1)), letter


def test_the_index_and_the_contents_are_true() -> None:
    assert INDEX.read_text(encoding="utf-8") == page(), "run python tests/oracles/law_index.py"
    contents = (ROOT / "docs/laws/README.md").read_text(encoding="utf-8")
    assert re.findall(r"^- ([A-Z]\d+ – .+)$", contents, flags=re.M) == [
        f"{law} – {title}" for law, (title, _) in laws().items()
    ]
