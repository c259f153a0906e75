"""UI and game by name: events out, values both ways, commands in; and all that does not fit, said at start."""

from __future__ import annotations

import glent
from glent.formats import scene_from
from glent.testing import Hand
from glent.wiring import Wiring, WiringError

DESK = {
    "glent": "scene",
    "version": 2,
    "size": [1280, 720],
    "layers": [
        {
            "name": "desk",
            "children": [
                {
                    "name": "horn",
                    "place": {"left": 20, "top": 20, "width": 120, "height": 40},
                    "control": {"kind": "button", "argument": "two long"},
                    "wiring": {
                        "tells": {"act": "sound-horn"},
                        "does": [{"on": "act", "act": "set", "node": "desk/tide", "with": 3}],
                    },
                },
                {
                    "name": "tide",
                    "place": {"left": 20, "top": 80, "width": 200, "height": 30},
                    "control": {"kind": "slider", "low": 0, "high": 4, "step": 0.5},
                    "wiring": {"values": {"value": "tide"}, "commands": {"disable": "lock-the-tide"}},
                },
            ],
        }
    ],
}

router = glent.Router(scene_from(DESK))
wiring = Wiring(router.scene)
for end in wiring.contract():
    print(f"{end.name}: {end.kind} of {end.type}, at {', '.join(end.paths)}")

wiring.on("sound-hron", print)
try:
    wiring.start()
except WiringError as error:
    for problem in error.problems:
        print(f"  {problem.kind}: {problem}")

wiring = Wiring(router.scene, wiring.controls)
tide = glent.Value(50, name="the game's tide", low=0, high=100)
wiring.on("sound-horn", lambda how: print(f"the horn sounds, {how}"))
wiring.bind("tide", tide, forward=lambda percent: percent / 25, inverse=lambda metres: metres * 25)
lock = wiring.command("lock-the-tide")
wiring.start()

hand = Hand(router)
hand.click("desk/horn")
print(f"and the tide was set without any code: {tide.current} %")
lock()
print(f"a click on it now: {hand.click('desk/tide').why}")
