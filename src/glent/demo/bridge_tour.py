"""The tour's third part: the bridge, and in sentences how the input is taken and given back."""

from __future__ import annotations

import textwrap
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.demo import BRIDGE, RECORDINGS
from glent.demo.bridge_shift import SCRIPTS
from glent.demo.worlds import manned_bridge, played
from glent.diagnose import focus_map
from glent.figures import draw_focus
from glent.formats import EventLog, Step, counts_of, log_rows, read_recording
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from rich.console import Console

    from glent.demo.bridge import Bridge

__all__ = ["bridge_tour"]

ABOUT = {
    "barge": "a dialog with its own message and choices, over a key that is held",
    "menu": "a pause menu over two held keys; a new key for the horn",
    "cargo": "a popup that a press outside closes, and does nothing else",
    "look": "free look: the cursor locked, shown by the menu, locked again",
    "by-keys": "the whole bridge by keys, and a call sign with composed text",
    "by-pad": "the same by pad: a stick steers, is lifted, moves the focus, steers",
    "pilots": "two pilots in a split window: one pauses alone, then both",
}

KEY_STORY = "menu"
"""The recording whose held key the tour follows from its press to its release."""


def _play(name: str) -> tuple[list[Step], Bridge, EventLog]:
    router, bridge = manned_bridge(SCRIPTS[name][0])
    steps = played(router, bridge, read_recording(RECORDINGS[name]))
    return steps, bridge, EventLog(digest_of(BRIDGE), log_rows(steps))


def _story(steps: list[Step], code: str) -> list[str]:
    """What became of one key, as sentences: who got its press, what lifted it, whose its release was."""
    told = []
    for step in steps:
        sample, verdict = step.sample, step.verdict
        at = f"{sample.time:.2f} s"
        if f"keys/{code}" in verdict.lifts:
            told.append(f"{at}: {verdict.why}; with that the world is told to lift {code}")
        if getattr(sample, "code", None) == code:
            told.append(f"{at}: {step.action}: {verdict.why}")
        told.extend(
            f"{at}: {event.node.path} closes, and {code}, still down, is not pressed again"
            for event in verdict.events
            if event.kind == "back"
        )
    return told


def bridge_tour(out: Path, console: Console) -> dict[str, Any]:
    """Replay the recordings, each twice, and tell what happened; the same as plain values."""
    say = console.print
    say(f"On the bridge it is keys and pads. {len(SCRIPTS)} recordings of who has the input, and what became of it:\n")
    told: dict[str, Any] = {}
    same = True
    story: list[str] = []
    for name in SCRIPTS:
        steps, bridge, log = _play(name)
        same = same and _play(name)[2].lines() == log.lines()
        counts = counts_of(steps)
        lifts = [lift for step in steps for lift in step.verdict.lifts]
        say(f"  {name}: {ABOUT[name]}")
        lifted = f"; lifted: {', '.join(dict.fromkeys(lifts))}" if lifts else ""
        say(f"      {counts['samples']} inputs, {counts['world']} to the world{lifted}")
        for line in textwrap.wrap("; ".join(bridge.orders), 88, initial_indent="      ", subsequent_indent="      "):
            say(line, markup=False)
        if name == KEY_STORY:
            story = _story(steps, "KeyW")
        told[name] = {**counts, "lifts": lifts, "orders": list(bridge.orders)}
    say("\nThe story of one key, W, held down while the menu opens and closes:")
    for sentence in story:
        for line in textwrap.wrap(sentence, 92, initial_indent="  - ", subsequent_indent="    "):
            say(line, markup=False)
    byte = "byte for byte the same" if same else "NOT the same"
    say(f"\nFed a second time, every one of them gave the same events: {byte}.")
    router, _ = manned_bridge()
    found = focus_map(router.scene)
    figure = out / "bridge-focus.png"
    draw_focus(router.scene, found, figure, "bridge: where the focus goes")
    say(f"  {'where arrows lead on the bridge:':40} {figure}")
    return {"recordings": told, "story": story, "replays_the_same": same, "focus": str(figure)}
