"""Record what a user did, and replay it: the same samples give the same events, byte for byte."""

import tempfile
from pathlib import Path

import glent
from glent.formats import EventLog, Recording, log_rows, read_recording, replay, write_recording
from glent.testing import Hand


def desk() -> glent.Router:
    scene = glent.Scene(size=(200, 100))
    scene.layer("hud").add("horn", role="button", place=glent.Place(left=10, top=10, width=80, height=40))
    return glent.Router(scene)


router = desk()
recording = Recording(router.scene.window)
recording.follow(router)
hand = Hand(router)
hand.click("hud/horn")
router.activate(router.scene["hud/horn"])
hand.click((150.0, 80.0))

with tempfile.TemporaryDirectory() as folder:
    file = Path(folder) / "shift.jsonl"
    write_recording(recording, file)
    print(file.read_text())
    logs = [EventLog(None, log_rows(replay(desk(), read_recording(file)))).lines() for _ in range(2)]
print("the same twice:", logs[0] == logs[1], f"({len(logs[0]) - 1} rows)")
