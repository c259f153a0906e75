"""Who made the gallery's recordings: a mouse, two fingers, keys and a pad. Run this file to make them anew.

Every note begins with the laws that are met there.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.demo import GALLERY, RECORDINGS
from glent.demo.scribe import Scribe
from glent.demo.worlds import manned_gallery
from glent.formats import Recording, write_recording
from glent.testing import Hand

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.verdict import Verdict

__all__ = ["SCRIPTS", "record"]


class _Watch:
    """One watch at the gallery: a mouse with keys and a pad, and two fingers."""

    def __init__(self) -> None:
        self.router, self.gallery = manned_gallery()
        self.scribe = Scribe(self.router, GALLERY)
        self.mouse = Hand(self.router, tap=self.scribe.keep)
        self.fingers = [Hand(self.router, f"finger-{n}", "touch", tap=self.scribe.keep) for n in (1, 2)]
        for hand in (self.mouse, *self.fingers):
            feed = hand.feed
            hand.feed = lambda sample, feed=feed: self._fed(sample, feed)  # type: ignore[method-assign,misc]

    def _fed(self, sample: Sample, feed: Callable[[Sample], Verdict]) -> Verdict:
        verdict = feed(sample)
        self.gallery.steer(sample, verdict)
        return verdict

    def noted(self, text: str) -> Hand:
        """Leave a note beside what the mouse, or a key, does next."""
        self.scribe.note(text)
        return self.mouse


def _orders(watch: _Watch) -> None:
    mouse, orders = watch.mouse, "desk/orders/"
    watch.noted("Q1: a tug is asked for, and is pending").click(orders + "tugs/anchovy", steps=4)
    mouse.wait(0.6)
    watch.noted("Q1: another is too far out: refused, with the reason").click(orders + "tugs/bramble", steps=3)
    mouse.wait(0.6)
    mouse.move(orders + "ballast", 3)
    watch.noted("G1: ballast is filled as long as the button is held, ever faster").press()
    mouse.wait(1.2)
    mouse.release()
    watch.noted("C1: a switch, and what the game has of it").click(orders + "fog-lamp", steps=3)
    watch.noted("C1: mixed becomes on").click(orders + "lanterns", steps=3)
    watch.noted("F1, C1: Tab enters the watch at the one that is chosen").press_keys("Tab")
    watch.noted("C1: and the arrow right chooses the next").press_keys("ArrowRight")
    mouse.move(orders + "cast-off", 4)
    watch.noted("G1: let go too soon").press()
    mouse.wait(0.5)
    mouse.release()
    mouse.pause(0.3)
    watch.noted("G1: held long enough").press()
    mouse.wait(1.1)
    mouse.release()
    mouse.wait(1.0)
    mouse.move(orders + "lamp-row/signal-lamp", 3)
    watch.noted("G1: held, it does something else than clicked").press()
    mouse.wait(0.7)
    mouse.release()
    watch.noted("C10, M1: barge 7 is asked about").click(orders + "ask-pilot", steps=4)
    mouse.pause(0.3)
    watch.noted("M1: all else is blocked").click(orders + "ballast", steps=4)
    watch.noted("M4, C10: back stands for holding it").press_keys("Escape")


def _levels(watch: _Watch) -> None:
    mouse, levels = watch.mouse, "desk/levels/"
    one, two = watch.fingers
    mouse.move(levels + "tide", 4, (0.4, 0.5))
    watch.noted("V1, C1: the tide is dragged, in steps").press()
    mouse.move((630.0, 64.0), 12)
    mouse.release()
    watch.noted("F4: keys are the controls' once the focus has come by key").press_keys("Tab")
    mouse.press_keys("ShiftLeft", "Tab")
    watch.noted("C1: and so the tide goes a step back").press_keys("ArrowLeft")
    watch.noted("C1: two thumbs, neither passes the other").drag(levels + "depth/low", (620.0, 170.0), 8)
    start, end = mouse.point(levels + "tanks", (0.05, 0.6)), mouse.point(levels + "tanks", (0.95, 0.2))
    watch.noted("C1: six tanks with one stroke").drag(start, end, 10)
    one.pos, two.pos = one.point(levels + "trolley"), two.point(levels + "winch")
    watch.scribe.note("C6: one finger on each stick")
    one.press()
    two.press()
    one.move(levels + "trolley", 5, (0.95, 0.3))
    watch.scribe.note("C6, P2: however far a finger goes, it keeps its stick")
    two.move(levels + "winch", 6, (0.5, 3.0))
    mouse.wait(0.7)
    one.release()
    mouse.wait(0.3)
    watch.scribe.note("C6: let go, it springs back")
    two.release()
    watch.noted("C8: a tooltip, after a while").move(levels + "tide", 4)
    mouse.wait(0.7)


def _stowing(watch: _Watch) -> None:
    mouse, hold = watch.mouse, "desk/levels/hold/"
    watch.noted("G3, C7: kelp and rope change places").drag(hold + "a1", hold + "a2", 6)
    watch.noted("G3, C7: the upper row does not bear the anvil").drag(hold + "b4", hold + "a3", 6)
    watch.noted("G9, C7: by single presses: picked up ...").click(hold + "a1", steps=3)
    watch.noted("G9, C7: ... and put down").click(hold + "b1", steps=3)
    watch.noted("F4: by pad, once the focus has come by key or pad").press_keys("Tab")
    mouse.press_keys("ShiftLeft", "Tab")
    watch.noted("C7: by pad: picked up,").press_pad("right_cluster_bottom")
    mouse.press_pad("left_cluster_top")
    watch.noted("C7: and put down in the row above").press_pad("right_cluster_bottom")
    papers = "desk/papers/"
    watch.noted("G4, C8: the manifest is scrolled by its bar").drag(
        papers + "manifest/rows-bar/thumb", (930.0, 690.0), 6
    )
    watch.noted("C1: two are ticked").click(papers + "manifest/rows/list/oars", steps=3)
    mouse.click(papers + "manifest/rows/list/pitch", steps=2)
    watch.noted("C1: the crew's tab").click(papers + "tabs/crew", steps=4)
    watch.noted("C1: by keys: down the list").press_keys("Tab")
    mouse.press_keys("ArrowDown")
    mouse.press_keys("Enter")


def _menus(watch: _Watch) -> None:
    mouse = watch.mouse
    watch.noted("C5: the harbour's menu").click("desk/bar/harbour", steps=4)
    watch.noted("C5: across the gap").move("popups/harbour-menu/buoys", 8)
    mouse.wait(0.3)
    watch.noted("C5: aslant, over another item, to the submenu").move("popups/buoy-menu/wreck", 14, (0.3, 0.5))
    watch.noted("C5: one is chosen, and all is closed").click("popups/buoy-menu/bell", steps=4)
    watch.noted("C5: again,").click("desk/bar/harbour", steps=6)
    watch.noted("C5: along the bar, to the next menu").move("desk/bar/cargo", 5)
    watch.noted("C5: away for a moment").move((520.0, 300.0), 5)
    mouse.wait(0.1)
    watch.noted("C5: and back in time").move("popups/cargo-menu/lash", 5)
    mouse.wait(0.5)
    watch.noted("C5: away for good").move((620.0, 300.0), 5)
    mouse.wait(0.5)
    watch.noted("C1: by keys: into the menu, up to its end, into the submenu").press_keys("Tab")
    watch.router.seat().focus = watch.router.scene["desk/bar/harbour"]
    mouse.press_keys("ArrowDown")
    mouse.press_keys("ArrowDown")
    mouse.press_keys("ArrowDown")
    mouse.press_keys("ArrowRight")
    watch.noted("M4, C1: back closes the submenu alone").press_keys("Escape")
    mouse.press_keys("Escape")
    watch.noted("C9: the chart is put elsewhere").drag("desk/chart/title", (420.0, 620.0), 8)
    watch.noted("C9: made larger").drag("desk/chart/size-bottom-right", (760.0, 712.0), 6)
    watch.noted("N2: and hidden by a button, without any code").click("desk/orders/chart-window", steps=4)


def _radio(watch: _Watch) -> None:
    mouse, radio = watch.mouse, "desk/radio/"
    watch.noted("C4: a press puts the caret there").click(radio + "call-sign", steps=4, at=(0.9, 0.5))
    watch.noted("C4: all is selected").press_keys("ControlLeft", "KeyA")
    watch.noted("C4: what is typed is made capitals; a letter that is not allowed is refused").type("gull é 12")
    watch.noted("C4: word by word").press_keys("ControlLeft", "ArrowLeft")
    mouse.press_keys("ControlLeft", "ShiftLeft", "ArrowLeft")
    watch.noted("C4: cut,").press_keys("ControlLeft", "KeyX")
    watch.noted("C4: and undone").press_keys("ControlLeft", "KeyZ")
    mouse.press_keys("End")
    watch.noted("P4, C1: a press that slides off a key un-lights it").move(radio + "pad/row-1/key-0", 4)
    mouse.press()
    mouse.move(radio + "pad/row-1/key-3", 3)
    mouse.release()
    watch.noted("C1: on the screen as well").click(radio + "pad/row-0/key-5", steps=3)
    mouse.click(radio + "pad/row-0/key-0", steps=3)
    watch.noted("C1: enter hails").click(radio + "pad/row-3/key-3", steps=3)
    watch.noted("C4: a word that nobody is to see").click(radio + "secret", steps=3)
    mouse.type("ebb")
    watch.noted("N1: what it opens is the game's matter").press_keys("Enter")


SCRIPTS: dict[str, Callable[[_Watch], None]] = {
    "orders": _orders,
    "levels": _levels,
    "stowing": _stowing,
    "menus": _menus,
    "radio": _radio,
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
