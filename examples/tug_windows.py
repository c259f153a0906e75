"""Tool windows declared anew in each frame: a click on a tug opens one, whose sliders turn and scale it as one drags.

Without an argument a hand does it, without a window; `python examples/tug_windows.py 60` opens one for a minute.
"""

import sys

from glent import Place, Router, Scene
from glent.adapters.pygame_text import font
from glent.immediate import Draft
from glent.testing import Hand


class Tug:
    """A tug of the game's: it knows nothing of nodes, nor of windows."""

    def __init__(self, name, left, top):
        self.name, self.left, self.top = name, left, top
        self.length, self.beam, self.heading, self.anchored = 1.0, 1.0, 0.0, False


tugs = [Tug("anchovy", 120, 360), Tug("bramble", 420, 480), Tug("cuttle", 760, 380)]
picked = []
scene = Scene(size=(1280, 800))
router = Router(scene)
water = scene.layer("water")
draft = Draft(scene.layer("tools", order=20), measure=lambda text: font(15).size(text))

for tug in tugs:
    hull = water.add(tug.name, solidity="solid", facts={"colour": "#7a3b2e"}, label=tug.name)
    hull.on("click", lambda event, tug=tug: picked.append(tug) if tug not in picked else None)


def turn(time, fed):
    with draft as now:
        with now.menus() as bar, bar.menu("harbour") as harbour:
            if harbour.item("weigh all anchors"):
                for tug in tugs:
                    tug.anchored = False
            if harbour.item("close all windows", enabled=bool(picked)):
                picked.clear()
        for number, tug in enumerate(list(picked)):
            with now.window(tug.name, key=tug.name, at=(60 + 400 * number, 60)) as box:
                now.text(f"heading {tug.heading:.0f}°, {'at anchor' if tug.anchored else 'under way'}", key="state")
                tug.length, tug.beam = now.numbers("size", (tug.length, tug.beam), low=0.5, high=2.0)
                tug.heading = now.number("heading", tug.heading, low=-180.0, high=180.0, step=1.0)
                tug.anchored = now.toggle("anchored", tug.anchored)
                with now.row(key="turns"):
                    tug.heading -= 10.0 * now.button("hard to port", key="port")
                    tug.heading += 10.0 * now.button("hard to starboard", key="starboard")
            if box.closed:
                picked.remove(tug)
    for tug in tugs:
        water[tug.name].place = Place(
            tug.left, tug.top, width=140, height=48, turn=tug.heading, scale=(tug.length, tug.beam)
        )


if __name__ == "__main__" and len(sys.argv) > 1:
    from glent.adapters.pygame_window import play

    play(router, update=turn, title="Tugs", seconds=float(sys.argv[1]))
else:
    hand = Hand(router)
    turn(0.0, [])
    hand.click("water/anchovy")
    hand.click("water/cuttle")
    turn(0.1, [])
    rail = draft.node("anchovy/heading")["0"]
    hand.move(rail, at=(0.5, 0.5))
    hand.press()
    for share in (0.6, 0.7, 0.8):
        hand.move(rail, at=(share, 0.5))
        turn(0.2, [])
        print(f"anchovy heads {tugs[0].heading:.0f}°, and lies turned by {water['anchovy'].place.turn:.0f}°")
    hand.release()
    hand.click(draft.node("cuttle/anchored"))
    hand.click(draft.node("cuttle/turns/starboard"))
    hand.click(draft.node("cuttle/turns/starboard"))
    turn(0.3, [])
    print(f"cuttle heads {tugs[2].heading:.0f}°, {'at anchor' if tugs[2].anchored else 'under way'}")
    hand.click("tools/anchovy/title/close")
    turn(0.4, [])
    turn(0.5, [])
    print("windows:", [tug.name for tug in picked], "places:", draft.places()["cuttle"])
