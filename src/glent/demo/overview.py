"""What `glent demo` tells on one screen: what this is, the five places, what was proved, and what to try next."""

from __future__ import annotations

import textwrap
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

from rich import box
from rich.table import Table

if TYPE_CHECKING:
    from rich.console import Console

__all__ = ["overview"]

PLACES = {
    "harbour": "a desk over the water, by mouse and finger",
    "quay": "drags, lists, pinches, sticks, by fingers",
    "bridge": "menus over a world, by keys and pads",
    "tower": "rays and fingertips on panels in the world",
    "gallery": "one of each control, wired by name",
}
SHOWN = ("S2: the fog", "P11: the focus goes")
"""How the notes begin of the decisions that are shown."""


def overview(told: dict[str, Any], out: Path, console: Console) -> None:
    """Print it, of what the whole tour has told."""
    say = console.print
    say(
        "Glent is the event layer under a game's user interface. It routes each input to a node, and says whether the"
        " game's world has it, and why. Five places of Kelp Harbour, all made up, were fed recorded inputs:"
    )
    table = Table(box=box.SIMPLE_HEAD, pad_edge=False)
    for name in ("place", "what it is about"):
        table.add_column(name)
    for name in ("recordings", "inputs", "UI", "world", "nobody"):
        table.add_column(name, justify="right")
    inputs = 0
    for place, about in PLACES.items():
        counts = _counts(told, place)
        inputs += counts[1]
        table.add_row(place, about, *map(str, counts))
    say(table)
    say("Two of the decisions, each with its reason:")
    for line in _decisions(told):
        say(line, markup=False)
    say("\nProved on the way:")
    for proof in _proofs(told, inputs):
        for line in textwrap.wrap(proof, 96, initial_indent="  - ", subsequent_indent="    "):
            say(line, markup=False)
    say("\nA night shutter was left rolled out over the desk, solid and unseen. From the fault to its mending:")
    for name in ("check", "why", "mend", "compare"):
        for line in textwrap.wrap(told["mending"][name], 96, initial_indent=f"  {name:8} ", subsequent_indent=" " * 11):
            say(line, markup=False)
    say(
        f"\nPictures and the event log are in {out}: map.png, timeline.png, quay-*.png, bridge-focus.png,"
        " tower-view.png, shutter.png, events.jsonl."
    )
    say(
        "Try next: `glent play` (a window; also quay, bridge, tower, gallery), `glent why harbour 300 352`,"
        " `glent replay bridge menu`, `glent focus bridge`. `glent demo --full` tells all that happened."
    )


def _counts(told: dict[str, Any], place: str) -> tuple[int, int, int, int, int]:
    if place == "harbour":
        one = told["inputs"]
        return 1, one["all"], one["ui"], one["world"], one["nobody"]
    recordings = told[place]["recordings"].values()
    many = [sum(one[key] for one in recordings) for key in ("samples", "ui", "world", "nobody")]
    return len(recordings), many[0], many[1], many[2], many[3]


def _decisions(told: dict[str, Any]) -> Iterator[str]:
    for one in told["decisions"]:
        if one["note"].startswith(SHOWN):
            what = one["note"].partition(": ")[2]
            yield f"  {one['time']:4.1f} s  {what}:"
            goes = "to the world" if one["world"] else "not to the world"
            for line in textwrap.wrap(f"{goes}: {one['why']}", 88):
                yield f"          {line}"


def _proofs(told: dict[str, Any], inputs: int) -> Iterator[str]:
    places = [told, *(told[place] for place in PLACES if place != "harbour")]
    same = all(place["replays_the_same"] for place in places)
    yield f"All {inputs:,} inputs were fed twice, and the events were {'byte for byte' if same else 'NOT'} the same."
    yield f"{told['tugs_sent']} tugs were sent out, each by a click that the world was given: none by one on the desk."
    lifted = told["bridge"]["recordings"]["menu"]["lifts"]
    yield f"A menu opened over held keys: the world was told to lift {', '.join(lifted)}, and walks nowhere behind it."
    failed = ", ".join(told["handlers_failed"])
    yield f"A handler failed ({failed}): it was reported, and nothing else was disturbed."
