"""The tour's fifth part: the gallery, what was done at its controls, and what the game had of it by name."""

from __future__ import annotations

import textwrap
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.controls import Listbox, RangeSlider, SliderRow, Slots
from glent.demo import GALLERY, RECORDINGS
from glent.demo.gallery_shift import SCRIPTS
from glent.demo.worlds import manned_gallery, played
from glent.formats import EventLog, counts_of, log_rows, read_recording, write_contract
from glent.formats.recording import digest_of

if TYPE_CHECKING:
    from rich.console import Console

    from glent.demo.gallery import Gallery

__all__ = ["gallery_tour"]

ABOUT = {
    "orders": "buttons, a switch, a box, radios, a dialog; requests that are refused",
    "levels": "sliders, two thumbs, a row of tanks, two sticks at once, a tooltip",
    "stowing": "slots, a list that scrolls, tabs; by mouse, by single presses, by pad",
    "menus": "a menubar, a submenu reached aslant, going away and coming back; a window",
    "radio": "text, a caret, undo, keys on the screen, a password",
}


def _play(name: str) -> tuple[Gallery, dict[str, int], EventLog]:
    router, gallery = manned_gallery()
    steps = played(router, gallery, read_recording(RECORDINGS[name]))
    return gallery, counts_of(steps), EventLog(digest_of(GALLERY), log_rows(steps))


def _state(name: str, gallery: Gallery) -> str:
    """What is otherwise in the end, in words."""
    controls = gallery.controls
    if name == "levels":
        depth, tanks = controls.of(RangeSlider, "desk/levels/depth"), controls.of(SliderRow, "desk/levels/tanks")
        rows = ", ".join(f"{value.current:g}" for value in tanks.row)
        x, y = gallery.hook
        return (
            f"tide {gallery.tide.current:g} m, depth {depth.low.current:g} to {depth.high.current:g}, tanks {rows},"
            f" hook at {x:.0f}, {y:.0f}"
        )
    if name == "stowing":
        ticked = controls.of(Listbox, "desk/papers/manifest/rows/list").value.current
        things = controls.of(Slots, "desk/levels/hold").items
        stowed = ", ".join(f"{thing} in {slot}" for slot, thing in sorted(things.items()))
        return f"{stowed}; ticked {', '.join(ticked)}"
    if name == "orders":
        refused = gallery.controls["desk/orders/tugs/bramble"].reason
        return f"refused: {refused}; {gallery.ballast} t of ballast, the {gallery.watch.current} watch"
    return f"call sign {gallery.call_sign.current}" if name == "radio" else ""


def gallery_tour(out: Path, console: Console) -> dict[str, Any]:
    """Replay the recordings, each twice, and tell what happened; the same as plain values."""
    say = console.print
    contract = manned_gallery()[1].wiring.contract()
    write_contract(contract, out / "contract.json")
    kinds = {kind: sum(end.kind == kind for end in contract) for kind in ("event", "request", "value", "command")}
    say("In the gallery there is one of each control, declared in its scene file and wired to the")
    say(f"game by name: {kinds['event']} events and {kinds['request']} request out, {kinds['value']} values both ways.")
    say(f"Each of them is bound, or the game would not start. {len(SCRIPTS)} recordings:\n")
    told: dict[str, Any] = {}
    same = True
    for name in SCRIPTS:
        gallery, counts, log = _play(name)
        same = same and _play(name)[2].lines() == log.lines()
        say(f"  {name}: {ABOUT[name]}")
        state = _state(name, gallery)
        told[name] = {**counts, "orders": list(gallery.orders), "state": state}
        text = "; ".join([f"{counts['samples']} inputs", *gallery.orders, *([state] if state else [])])
        for line in textwrap.wrap(text, 88, initial_indent="      ", subsequent_indent="      "):
            say(line, markup=False)
    byte = "byte for byte the same" if same else "NOT the same"
    say(f"\nFed a second time, every one of them gave the same events: {byte}.")
    say(f"  {'what the UI and the game agree on:':40} {out / 'contract.json'}")
    return {"recordings": told, "replays_the_same": same, "contract": contract.document()}
