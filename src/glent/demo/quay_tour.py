"""The tour's second part: the quay and its recordings, each with the gestures that won and what came of them."""

from __future__ import annotations

import textwrap
from collections import Counter
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.demo import QUAY, RECORDINGS
from glent.demo.quay_shift import SCRIPTS
from glent.demo.worlds import manned_quay, played
from glent.diagnose import spans_of
from glent.figures import draw_timeline
from glent.formats import EventLog, Step, counts_of, log_rows, read_recording
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from rich.console import Console

    from glent.demo.quay import Quay

__all__ = ["quay_tour"]

ABOUT = {
    "crates": "a mouse drags crates between slots that may refuse them",
    "manifest": "a finger flicks a list, stops it, taps a row",
    "mooring": "holding, repeating, resting, and the same by single presses",
    "sticks": "two thumbs work the crane at once",
    "chart": "two fingers pinch and turn the chart, one swipes the bulletin",
    "rope": "a gesture of the quay's own, for two fingers",
    "mishaps": "unplugged, locked, rescaled, out of focus, and a gap in what was reported",
}
BARE = {"press", "undecided", "world", "nobody"}


def _many(what: str, count: int) -> str:
    return what if count == 1 else f"{what}es" if what.endswith("ch") else f"{what}s"


def _play(name: str) -> tuple[list[Step], Quay, EventLog]:
    router, quay = manned_quay()
    steps = played(router, quay, read_recording(RECORDINGS[name]))
    return steps, quay, EventLog(digest_of(QUAY), log_rows(steps))


def quay_tour(out: Path, console: Console) -> dict[str, Any]:
    """Replay the recordings, each twice, and tell what happened; the same as plain values."""
    say = console.print
    say(f"At the quay it is done with fingers. {len(SCRIPTS)} recordings, and the gestures that won their presses:\n")
    told: dict[str, Any] = {}
    same = True
    for name in SCRIPTS:
        steps, quay, log = _play(name)
        same = same and _play(name)[2].lines() == log.lines()
        won = Counter(span.what for span in spans_of(steps) if span.what not in BARE)
        counts = counts_of(steps)
        gestures = ", ".join(f"{count} {_many(what, count)}" for what, count in won.items())
        say(f"  {name}: {ABOUT[name]}")
        ticks = f"{counts['ticks']} ticks, " if counts["ticks"] else ""
        say(f"      {counts['samples']} inputs, {ticks}{counts['events']} events; won: {gestures}")
        for sentence in quay.orders:
            for line in textwrap.wrap(sentence, 88, initial_indent="      - ", subsequent_indent="        "):
                say(line, markup=False)
        figure = out / f"quay-{name}.png"
        draw_timeline(steps, figure, f"{name}: {ABOUT[name]}")
        told[name] = {**counts, "won": dict(won), "orders": list(quay.orders), "figure": str(figure)}
    byte = "byte for byte the same" if same else "NOT the same"
    say(f"\nFed a second time, every one of them gave the same events: {byte}.")
    say(f"  {'the timeline of each:':40} {out / 'quay-*.png'}")
    return {"recordings": told, "replays_the_same": same}
