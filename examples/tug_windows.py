"""Tool windows declared anew in each frame: a click on a tug opens one, whose sliders turn and scale it as one drags.

Without an argument a hand does it, without a window, and its recording is replayed; `python examples/tug_windows.py 60`
opens a window for a minute.
"""

import sys

from glent import Place, Router, Scene
from glent.adapters.pygame_text import font
from glent.formats import Recording
from glent.immediate import Draft
from glent.testing import Hand


class Tug:
    """A tug of the game's: it knows nothing of nodes, nor of windows."""

    def __init__(self, name, left, top):
        self.name, self.left, self.top = name, left, top
        self.length, self.beam, self.heading, self.anchored = 1.0, 1.0, 0.0, False


class Harbour:
    """The game: tugs in the water, and what has been picked of them."""

    def __init__(self):
        self.tugs = [Tug("anchovy", 120, 360), Tug("bramble", 420, 480), Tug("cuttle", 760, 380)]
        self.picked = []
        self.scene = Scene(size=(1280, 800))
        self.router = Router(self.scene)
        self.water = self.scene.layer("water")
        self.draft = Draft(self.scene.layer("tools", order=20), measure=lambda text: font(15).size(text))
        for tug in self.tugs:
            hull = self.water.add(tug.name, solidity="solid", facts={"colour": "#7a3b2e"}, label=tug.name)
            hull.on("click", lambda event, tug=tug: self.pick(tug))
        self.turn()

    def pick(self, tug):
        if tug not in self.picked:
            self.picked.append(tug)

    def turn(self, *_):
        """One frame: what there is to be worked with now, and where that has put the tugs."""
        with self.draft as now:
            with now.menus() as bar, bar.menu("harbour") as harbour:
                if harbour.item("weigh all anchors"):
                    for tug in self.tugs:
                        tug.anchored = False
                if harbour.item("close all windows", enabled=bool(self.picked)):
                    self.picked.clear()
            for number, tug in enumerate(list(self.picked)):
                with now.window(tug.name, at=(60 + 400 * number, 60)) as box:
                    now.text(f"heading {tug.heading:.0f}°, {'at anchor' if tug.anchored else 'under way'}", key="state")
                    tug.length, tug.beam = now.numbers("size", (tug.length, tug.beam), low=0.5, high=2.0)
                    tug.heading = now.number("heading", tug.heading, low=-180.0, high=180.0, step=1.0)
                    tug.anchored = now.toggle("anchored", tug.anchored)
                    with now.row(key="turns"):
                        tug.heading -= 10.0 * now.button("hard to port", key="port")
                        tug.heading += 10.0 * now.button("hard to starboard", key="starboard")
                if box.closed:
                    self.picked.remove(tug)
        for tug in self.tugs:
            scale = (tug.length, tug.beam)
            self.water[tug.name].place = Place(tug.left, tug.top, width=140, height=48, turn=tug.heading, scale=scale)


if __name__ == "__main__" and len(sys.argv) > 1:
    from glent.adapters.pygame_window import play

    game = Harbour()
    play(game.router, update=game.turn, title="Tugs", seconds=float(sys.argv[1]))
else:
    game, recording = Harbour(), Recording((1280.0, 800.0))
    recording.follow(game.router)
    game.router.watch(game.turn)  # a frame after each sample
    hand = Hand(game.router)
    hand.click("water/anchovy")
    hand.click("water/cuttle")
    rail = game.draft.node("anchovy/heading")["0"]
    hand.move(rail, at=(0.5, 0.5))
    hand.press()
    for share in (0.6, 0.7, 0.8):
        hand.move(rail, at=(share, 0.5))
        print(f"anchovy heads {game.tugs[0].heading:.0f}°, lies turned by {game.water['anchovy'].place.turn:.0f}°")
    hand.release()
    for key in ("anchored", "turns/starboard", "turns/starboard"):
        hand.click(game.draft.node(f"cuttle/{key}"))
    print(f"cuttle heads {game.tugs[2].heading:.0f}°, {'at anchor' if game.tugs[2].anchored else 'under way'}")
    hand.click("tools/anchovy/title/close")
    hand.move((640, 700))
    print("windows:", [tug.name for tug in game.picked], "places:", game.draft.places()["cuttle"])

    again = Harbour()
    again.router.watch(again.turn)
    for sample in recording.samples:
        again.router.feed(sample)
    same = [vars(tug) for tug in again.tugs] == [vars(tug) for tug in game.tugs]
    print(f"{len(recording.samples)} samples replayed, and the tugs are {'the same' if same else 'others'}")
