"""Who made the tower's recordings: scripted hands, eyes and a fingertip. Run this file to make them anew."""

from __future__ import annotations

from collections.abc import Callable

from glent.core.input.samples import Sample
from glent.demo import RECORDINGS, TOWER
from glent.demo.scribe import Scribe
from glent.demo.tower import hands
from glent.demo.worlds import manned_tower
from glent.formats import Recording, write_recording
from glent.testing import Fingertip, Hand, Wand

__all__ = ["SCRIPTS", "record"]


class _Watch:
    """One watch in the tower: a right and a left hand, eyes, a fingertip and a mouse."""

    def __init__(self) -> None:
        self.router, self.tower = manned_tower()
        self.scribe = Scribe(self.router, TOWER)
        keep = self._keep
        self.right = Wand(self.router, hands("right"), "right-hand", 0.04, tap=keep)
        self.left = Wand(self.router, hands("left"), "left-hand", 0.04, tap=keep)
        self.eyes = Wand(self.router, hands("eyes"), "gaze", 0.04, tap=keep)
        self.tip = Fingertip(self.router, "finger", 0.04, tap=keep)
        self.mouse = Hand(self.router, pace=0.04, tap=keep)
        for one in (self.right, self.left, self.eyes, self.tip, self.mouse):
            feed = one.feed
            one.feed = lambda sample, feed=feed: self._fed(sample, feed)  # type: ignore[method-assign,misc,assignment]

    def _keep(self, sample: Sample) -> None:
        self.scribe.keep(sample)

    def _fed(self, sample: Sample, feed: Callable[[Sample], object]) -> object:
        verdict = feed(sample)
        self.tower.steer(sample, verdict)  # type: ignore[arg-type]
        return verdict

    def noted(self, text: str) -> _Watch:
        self.scribe.note(text)
        return self


def _two_hands(watch: _Watch) -> None:
    right, left = watch.right, watch.left
    watch.noted("X1: the right hand points at the chart table").right.aim("chart-table/berths/dogleg-berth", 3)
    right.press()
    right.release()
    watch.noted("X3: the left one at the curved wall").left.aim("signal-wall/storm", 3)
    watch.noted("X7: each has a press of its own").left.press()
    watch.noted("X7: both buttons are held by different hands").right.aim("chart-table/tide", 2)
    right.press()
    watch.noted("G7: a drag begins by degrees, and goes by the pixels of the table").right.aim(
        "chart-table/tide", 4, (0.8, 0.5)
    )
    left.release()
    watch.noted("X6: the ray slides off the edge of the table, and the slider goes on").right.aim((1.5, 0.75, -0.6), 3)
    watch.noted("X6: it misses even the surface extended, and keeps its last point").right.aim((0.35, 3.0, 1.2), 1)
    right.aim("chart-table/tide", 2, (0.25, 0.5))
    right.release()
    watch.noted("P5, R2: a small button in a large one lights both …").right.aim("chart-table/send/urgent", 2)
    watch.noted("R2: … and clicks itself alone").right.press()
    right.release()
    watch.noted("G1: a long press of the left hand").left.aim("chart-table/lamp-key", 2)
    left.press()
    left.wait(0.6, 0.1)
    left.release()
    watch.noted("X1: the wall's bare parts are hollow: the beacon's light is seen through").right.aim(
        (46.0, 2.0, -78.0), 2
    )


def _moorings(watch: _Watch) -> None:
    right = watch.right
    watch.noted("X1, X5: the water is a spot that nobody listens to: the press is the world's, and named").right.aim(
        (-4.0, -9.0, -44.0), 3
    )
    right.press()
    right.release()
    watch.noted("X5: a berth is of any outline; this one is bent, and what it is bent round is water").right.aim(
        (47.0, -8.9, -58.0), 2
    )
    right.press()
    right.release()
    right.aim((56.0, -8.9, -40.0), 2)
    watch.noted("X5: in the berth the answer has the point to snap to").right.press()
    right.release()
    watch.noted("X5: the shoal in the pool is a hole in the berth").right.aim((-60.0, -8.9, -52.0), 2)
    right.press()
    right.release()
    watch.noted("X5: an area draped over rough ground").right.aim((-15.0, -7.4, -31.0), 2)
    right.press()
    right.release()
    watch.noted("H5: a bollard 56 m away is missed by a degree, and reached").right.aim((32.0, -5.9, -42.0), 2)
    right.press()
    right.release()
    watch.noted("G3, X5: a crate's tag is dragged from the table …").right.aim("chart-table/crate-tag", 2)
    right.press()
    right.aim((0.6, -1.0, -8.0), 2)
    watch.noted("G3, X5: … over the berth, which takes ropes").right.aim((19.0, -8.9, -56.0), 3)
    right.release()
    watch.noted("P2: a drag begun in the world stays the world's, over the table too").right.aim((8.0, -9.0, -30.0), 2)
    right.press()
    right.aim("chart-table/send", 2)
    right.aim((14.0, -8.85, -33.0), 2)
    right.release()


def _gaze(watch: _Watch) -> None:
    eyes = watch.eyes
    watch.noted("G6: a gaze rests on a lamp, with its progress").eyes.aim("signal-wall/hail", 3)
    eyes.wait(0.9, 0.1)
    watch.noted("G6: it reads past the next one, too quickly for it").eyes.aim("signal-wall/clear", 2)
    eyes.wait(0.3, 0.1)
    watch.noted("G6: the dwell that was broken off ends with 0").eyes.aim("signal-wall/fog", 2)
    eyes.wait(0.9, 0.1)
    watch.noted("G6, X5: spots dwell as well; the buoy is small and far").eyes.aim((-12.4, -8.2, -92.0), 3)
    eyes.wait(0.9, 0.1)
    watch.noted("X2: from outside, the wall's back lets nobody through").eyes.origin = (0.0, 2.9, -4.5)
    eyes.aim((0.0, 2.6, -2.0), 1)
    watch.eyes.origin = hands("eyes")
    eyes.aim((0.0, -9.0, -60.0), 1)


def _barge(watch: _Watch) -> None:
    right, left = watch.right, watch.left
    left.aim("barge-board/horn", 3)
    watch.noted("X5: the hull is a spot with a handler").right.aim((-20.0, -6.6, -37.5), 2)
    right.press()
    watch.noted("M1: this click makes the table ask: a modal that blocks just its panel").right.release()
    watch.noted("M1: the rest of the table hears nothing").right.aim("chart-table/send", 2)
    right.press()
    right.release()
    watch.noted("M1: other panels are not").left.press()
    left.release()
    watch.noted("M1: an answer").right.aim("chart-table/ask/let-go", 2)
    right.press()
    right.release()
    watch.noted("P7: the barge sails under a ray that keeps still: hover follows").left.wait(1.6, 0.1)
    watch.noted("X6: a grab is carried along: the hand follows the throttle").right.aim("barge-board/throttle", 2)
    right.press()
    for part in (0.55, 0.65, 0.75, 0.85):
        right.wait(0.2, 0.1)
        right.aim("barge-board/throttle", 1, (part, 0.5))
    right.release()
    right.wait(0.5, 0.1)
    watch.noted("P7: and is moored by a click on a board that sails").right.aim("barge-board/moor", 1)
    right.press()
    right.release()
    right.wait(0.3, 0.1)


def _fingertip(watch: _Watch) -> None:
    tip = watch.tip
    tip.to("chart-table/send", 0.12)
    watch.noted("a fingertip near the table is no press yet").tip.to("chart-table/send", 0.03)
    watch.noted("it comes through the front, and presses").tip.to("chart-table/send", -0.008)
    watch.noted("and releases coming back").tip.to("chart-table/send", 0.02)
    watch.noted("G4: a list scrolls under it").tip.to("chart-table/berths", 0.03, (0.5, 0.7))
    tip.to("chart-table/berths", -0.01, (0.5, 0.7))
    for part in (0.65, 0.55, 0.45, 0.4):
        tip.to("chart-table/berths", -0.012, (0.5, part))
    tip.wait(0.2, 0.1)
    tip.to("chart-table/berths", 0.03, (0.5, 0.4))
    tip.to("chart-table/berths/outer-buoy", 0.03)
    watch.noted("P3: a tap on a row that has come up").tip.to("chart-table/berths/outer-buoy", -0.01)
    tip.to("chart-table/berths/outer-buoy", 0.03)
    tip.to("chart-table/tide", 0.03)
    tip.to("chart-table/tide", -0.01)
    tip.to("chart-table/tide", -0.012, (0.7, 0.5))
    watch.noted("P8: the hand is not seen any more: the slide is cancelled").tip.lost()
    watch.noted("a hand that reappears behind the front presses nothing").tip.to("chart-table/send", -0.02)


def _mouse(watch: _Watch) -> None:
    mouse = watch.mouse
    watch.noted("X4: screen layers come first").mouse.click("hud/strip/log", steps=3)
    mouse.pause(0.5)
    watch.noted("X4: then the ray of the camera: a click on the tilted table").mouse.click("chart-table/send", steps=4)
    mouse.pause(0.5)
    watch.noted("X3, X4: on the curved wall").mouse.click("signal-wall/storm", steps=4)
    mouse.pause(0.5)
    watch.noted("X4, X6: a slider on the table, off its edge").mouse.drag("chart-table/tide", (1270.0, 520.0), 6)
    mouse.pause(0.5)
    watch.noted("X1, X5: and beyond it the water, where a tug is sent").mouse.move((700.0, 330.0), 3)
    mouse.press()
    mouse.release()


SCRIPTS: dict[str, Callable[[_Watch], None]] = {
    "two-hands": _two_hands,
    "moorings": _moorings,
    "gaze": _gaze,
    "barge-board": _barge,
    "fingertip": _fingertip,
    "at-the-screen": _mouse,
}
"""The recordings by name, in the order they are told."""


def record(name: str) -> Recording:
    """Play one of them and record it."""
    watch = _Watch()
    SCRIPTS[name](watch)
    return watch.scribe.recording


if __name__ == "__main__":
    for script in SCRIPTS:
        write_recording(record(script), RECORDINGS[script])
