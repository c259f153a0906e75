"""What `glent demo --full` tells: the scene, the shift, ten decisions, all recordings, and where the pictures are."""

from __future__ import annotations

import textwrap
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.demo import HARBOUR, SHIFT
from glent.demo.bridge_tour import bridge_tour
from glent.demo.gallery_tour import gallery_tour
from glent.demo.mending import mending
from glent.demo.quay_tour import quay_tour
from glent.demo.tower_tour import tower_tour
from glent.demo.worlds import manned, played
from glent.diagnose import pass_map
from glent.figures import draw_map, draw_timeline
from glent.formats import EventLog, Step, counts_of, log_rows, read_recording, replay
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from rich.console import Console

__all__ = ["TELLING", "telling", "tour"]

TELLING = (
    "W1, W6",
    "S1",
    "S2: the fog",
    "S2, P2",
    "S5: a disabled",
    "H1: the compass",
    "P2: the release",
    "P3: a release outside",
    "P11: the focus goes",
    "H5: a finger five",
)
"""How the notes begin whose decisions the tour shows."""


def telling(steps: list[Step]) -> list[Step]:
    """The ten most telling decisions of the shift, in order of time."""
    return [step for step in steps if step.note is not None and step.note.startswith(TELLING)]


def tour(out: Path, console: Console) -> dict[str, Any]:
    """Replay the shift, twice, and tell what happened; the same as plain values."""
    say = console.print
    errors: list[str] = []
    router, harbour = manned(on_error=lambda error, event: errors.append(str(error)))
    nodes = sum(1 for _ in router.scene.walk())
    say("Kelp Harbour, at night. A dispatcher's desk lies over the water: a toolbar, a list of tugs,")
    say("a hold with crates, a compass, a crane, and fog that one clicks through.")
    say(f"The scene has {nodes} nodes in {len(router.scene.layers)} layers. Where no node wants a click, it is the")
    say("water's, and a tug is sent there. That must never happen by a click on the desk.\n")
    recording = read_recording(SHIFT)
    steps = played(router, harbour, recording)
    counts = counts_of(steps)
    world, ui, nobody = counts["world"], counts["ui"], counts["nobody"]
    sent = [order for order in harbour.orders if " is sent to " in order]
    say(f"A recorded shift of {len(steps)} inputs was fed to it: {ui} went to the UI, {world} to the world,")
    say(f"{nobody} to nobody. {len(sent)} times a tug was sent somewhere, each time by a click that")
    say("the world was given.\n")
    say("Ten decisions, each with the reason the library gave:\n")
    for number, step in enumerate(telling(steps), 1):
        laws, _, what = (step.note or "").partition(": ")
        goes = "the world" if step.verdict.world else "the UI" if step.verdict.owner is not None else "nobody"
        say(f"{number:2}. {step.sample.time:5.1f} s  {what}  ({laws})")
        lifts = f" (lifted: {', '.join(step.verdict.lifts)})" if step.verdict.lifts else ""
        for line in textwrap.wrap(f"to {goes}: {step.verdict.why}{lifts}.", 84):
            say(f"             {line}")
    say(f"\nOne handler failed on the way ({', '.join(errors)}): it was reported, and nothing else was disturbed.")
    log = EventLog(digest_of(HARBOUR), log_rows(steps))
    again = EventLog(digest_of(HARBOUR), log_rows(replay(manned(on_error=lambda error, event: None)[0], recording)))
    same = "byte for byte the same" if log.lines() == again.lines() else "NOT the same"
    files = {
        "who gets a press at every pixel": out / "map.png",
        "who got each input, over time": out / "timeline.png",
        f"the event log, {len(log.rows)} rows": out / "events.jsonl",
    }
    fresh = manned()[0].scene
    paths = list(files.values())
    draw_map(pass_map(fresh), paths[0], "Kelp Harbour: who gets a press")
    draw_timeline(steps, paths[1], "The night shift: who got each input")
    log.write(paths[2])
    say(f"Fed a second time, the shift gave {len(again.rows)} rows of events: {same}.\n")
    for what, path in files.items():
        say(f"  {what + ':':40} {path}")
    say("")
    quay = quay_tour(out, console)
    say("")
    bridge = bridge_tour(out, console)
    say("")
    tower = tower_tour(out, console)
    say("")
    gallery = gallery_tour(out, console)
    say("")
    mended = mending(out, console)
    say("\nNext: `glent why harbour 300 352`, `glent replay bridge menu`, `glent focus bridge`,")
    say("`glent view tower --recording two-hands --out view.png`, or, for a window, `glent play quay`,")
    say("`glent play bridge --pilots 2`, `glent play tower` and `glent play gallery`.")
    return {
        "nodes": nodes,
        "inputs": {"all": len(steps), "ui": ui, "world": world, "nobody": nobody},
        "decisions": [
            {"time": step.sample.time, "note": step.note, "world": step.verdict.world, "why": step.verdict.why}
            for step in telling(steps)
        ],
        "tugs_sent": len(sent),
        "handlers_failed": errors,
        "replays_the_same": log.lines() == again.lines(),
        "files": [str(path) for path in paths],
        "quay": quay,
        "bridge": bridge,
        "tower": tower,
        "gallery": gallery,
        "mending": mended,
    }
