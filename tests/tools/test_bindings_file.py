from __future__ import annotations

from pathlib import Path

import pytest

from glent import Bindings
from glent.demo import BINDINGS
from glent.formats import FileError, read_bindings, write_bindings

HEAD = "glent: bindings\nversion: 1\n"


@pytest.mark.parametrize("suffix", ["yaml", "json"])
def test_f5_bindings_are_written_and_read_back(tmp_path: Path, suffix: str) -> None:
    given = read_bindings(BINDINGS)
    given["second"] = given["main"].bound("harbour:horn", "KeyB").bound("back", "center_left")
    write_bindings(given, tmp_path / f"b.{suffix}")
    assert read_bindings(tmp_path / f"b.{suffix}") == given
    assert given["second"].controls("harbour:horn") == ("KeyB", "right_cluster_left")


def test_f5_what_is_for_all_seats_holds_unless_a_seat_has_its_own(tmp_path: Path) -> None:
    path = tmp_path / "b.yaml"
    path.write_text(HEAD + "bindings: {'a:go': [KeyG], 'a:no': [KeyN]}\nseats: {two: {'a:go': [KeyT]}}\n")
    found = read_bindings(path)
    assert found["main"].controls("a:go") == ("KeyG",)
    assert (found["two"].controls("a:go"), found["two"].controls("a:no")) == (("KeyT",), ("KeyN",))
    assert found["two"].action("Escape") == "back"


@pytest.mark.parametrize(
    ("text", "parts"),
    [
        ("bindings: {'a:go': [KeyG], 'a:no': [KeyG]}", ["bindings", "KeyG is bound to both a:go and a:no"]),
        ("seats: {two: {'a:go': [Tab], next: [Tab]}}", ["seats.two", "Tab is bound to both a:go and next"]),
        ("bindings: {back: []}", ["nothing is bound to back"]),
        ("reserved: {F11: full screen}\nbindings: {'a:go': [F11]}", ["F11", "a:go", "full screen"]),
        ("bindings: {honk: [KeyH]}", ["there is no action 'honk'", "activate"]),
        ("bindings: {'a:go': KeyG}", ["bindings.a:go", "list"]),
        ("seats: 5", ["seats", "5"]),
        ("keys: {}", ["keys"]),
    ],
)
def test_f5_a_bad_file_names_all_parties(tmp_path: Path, text: str, parts: list[str]) -> None:
    path = tmp_path / "b.yaml"
    path.write_text(HEAD + text)
    with pytest.raises(FileError) as caught:
        read_bindings(path)
    for part in (str(path), *parts):
        assert part in str(caught.value)


def test_suffixes_and_places_that_cannot_be_are_refused(tmp_path: Path) -> None:
    for act in (
        lambda: read_bindings(tmp_path / "b.toml"),
        lambda: read_bindings(tmp_path / "none.yaml"),
        lambda: write_bindings({"main": Bindings()}, tmp_path / "b.toml"),
        lambda: write_bindings({"main": Bindings()}, tmp_path / "no" / "b.json"),
    ):
        with pytest.raises(FileError):
            act()
