"""A button that nobody can click, found in the running game: its cover is made glass, and that is kept in the file.

Without an argument it is done by code, without a window; `python examples/live_view.py 60` opens a window for a minute,
in which F8 opens the live view, and prints the address of its page.
"""

import difflib
import sys
import tempfile
from pathlib import Path

from glent import KeySample, PointerSample, Router
from glent.formats import read_scene
from glent.live import Overlay

DESK = """\
glent: scene
version: 2
size: [1280, 800]
layers:
- name: desk
  children:
  - name: dock
    place: {left: 60, top: 560, width: 520, height: 160}
    solidity: solid
    children:
    - {name: cast-off, role: button, place: {left: 20, top: 35, width: 220, height: 90}, reach: 12}
    - {name: make-fast, role: button, place: {left: 280, top: 35, width: 220, height: 90}}
- name: weather
  order: 10
  children:
  - {name: fog, solidity: solid, place: {left: 0, top: 420, right: 0, bottom: 0}, facts: {colour: "#43525c"}}
"""

file = Path(tempfile.mkdtemp()) / "desk.yaml"
file.write_text(DESK)
router = Router(read_scene(file))
router.scene["desk/dock/cast-off"].on("click", lambda event: print("the tug casts off"))

if len(sys.argv) > 1:
    from glent.adapters.pygame_text import font
    from glent.adapters.pygame_window import play
    from glent.live.server import serve

    with serve(router, write=True) as server:
        print(f"the page is at {server.address}")
        overlay = Overlay(router, measure=lambda text: font(15).size(text))
        play(router, overlay=overlay, title="Fog over the dock: F8", seconds=float(sys.argv[1]))
    print(file.read_text())
else:
    overlay, time = Overlay(router), 0.0

    def feed(kind, *fields):
        global time
        time += 0.05
        verdict = overlay.feed(kind(time, *fields))
        overlay.tick(time)
        return verdict

    def click():
        for action in ("move", "press", "release"):
            verdict = feed(PointerSample, action, 150, 640)
        return verdict

    print("click:", click().why)
    feed(KeySample, "down", "F8")
    feed(KeySample, "up", "F8")
    click()
    for one in overlay.inspection.found:
        print(f"  {one.mark}: {one.sentence}")
    overlay.edits.set(overlay.chosen, "solidity", "glass")
    print("kept:", *overlay.edits.keep())
    feed(KeySample, "down", "F8")
    feed(KeySample, "up", "F8")
    print("click:", click().why)
    for line in difflib.unified_diff(DESK.splitlines(), file.read_text().splitlines(), lineterm="", n=0):
        print(line)
