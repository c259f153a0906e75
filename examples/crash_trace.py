"""What a game that crashes leaves behind: the last decisions of its router, as a recording with the verdicts in it."""

import sys
import tempfile
from pathlib import Path

from glent import Place, PointerSample, Router, Scene
from glent.formats import read_recording, write_trace

scene = Scene(size=(800, 600))
bar = scene.layer("hud").add("bar", place=Place(height=60), solidity="solid")
horn = bar.add("horn", role="button", place=Place(10, 10, width=120, height=40))
router = Router(scene, trace=1000)
file = Path(tempfile.mkdtemp()) / "last.jsonl"


def on_crash(kind, error, trace):
    write_trace(router, file)
    print(f"{kind.__name__}: {error}; the last {len(router.trace)} decisions are kept")


sys.excepthook, before = on_crash, sys.excepthook


def game():
    for number, (action, x, y) in enumerate(
        [("move", 60, 30), ("press", 60, 30), ("release", 60, 30), ("move", 400, 400)]
    ):
        verdict = router.feed(PointerSample(number * 0.1, action, x, y))
    if verdict.world:
        raise RuntimeError("the tug has run aground")


try:
    game()
except RuntimeError as error:  # what Python itself would do, were the program to end here
    sys.excepthook(type(error), error, error.__traceback__)
sys.excepthook = before
recording = read_recording(file)
for number, sample in enumerate(recording.samples):
    print(f"{sample.time:.1f} {sample.action}: {recording.notes[number]}")
