"""A night shift at the dispatcher's desk, as a script; run as a module it writes the shipped recording anew.

Every note begins with the laws that are met there.
"""

from __future__ import annotations

from glent.core.input.samples import PointerButton
from glent.demo import HARBOUR, SHIFT
from glent.demo.scribe import Scribe
from glent.demo.worlds import manned
from glent.formats import Recording, write_recording
from glent.testing import Hand

__all__ = ["record"]

BAR = "hud/toolbar/"


class _Shift(Scribe):
    """A hand that leaves notes beside its samples."""

    def __init__(self) -> None:
        router, self.harbour = manned(on_error=lambda error, event: None)  # the hook is jammed on purpose
        super().__init__(router, HARBOUR)
        self.mouse = Hand(router, tap=self.keep)

    def press_at(self, target: str | tuple[float, float], text: str, steps: int = 8) -> None:
        """Go somewhere, and press there with a note."""
        self.mouse.move(target, steps)
        self.mouse.pause(0.2)
        self.note(text)
        self.mouse.press()

    def click_at(self, target: str | tuple[float, float], text: str, after: str | None = None, steps: int = 8) -> None:
        """The same, and let go; ``after`` is a note beside the release."""
        self.press_at(target, text, steps)
        if after is not None:
            self.note(after)
        self.mouse.pause(0.08)
        self.mouse.release()
        self.mouse.pause(0.7)


def record() -> Recording:
    """Play the shift and record it."""
    shift = _Shift()
    _open_water(shift)
    _what_is_in_the_way(shift)
    _shapes(shift)
    _presses(shift)
    _fingers(shift)
    _handlers(shift)
    _window(shift)
    shift.router.close()
    return shift.recording


def _open_water(shift: _Shift) -> None:
    mouse = shift.mouse
    mouse.pos = (640.0, 690.0)
    shift.note("W1: over open water a move is the world's")
    mouse.move((520.0, 640.0), 20)
    shift.click_at((470.0, 600.0), "W1, W6: open water; the question asked beforehand says the same", "a tug is sent")
    shift.note("W1: the wheel over open water zooms the chart")
    mouse.wheel(-1.0)
    shift.press_at((420.0, 640.0), "P2: a drag begun in the world")
    shift.note("P2, P5: passing over the crane and the hold, it is still the world's and lights nothing")
    mouse.move((1100.0, 300.0), 24)
    shift.note("P2: the release over a panel is the world's as well")
    mouse.release()
    mouse.move((1100.0, 500.0), 4)


def _what_is_in_the_way(shift: _Shift) -> None:
    shift.click_at((900.0, 28.0), "S1: the toolbar is solid, so no tug is sent there, though nobody listens")
    shift.click_at((620.0, 250.0), "S2: the fog is glass and does not want it; the click goes through to the water")
    shift.click_at((80.0, 28.0), "S4: the title is a ghost, the press lands on the toolbar below it")
    shift.click_at((898.0, 640.0), "S3, H4: the crane's box is hollow, and here its lattice has a gap")
    shift.click_at(BAR + "flares", "S5: a disabled button does not leak the press", "S5: nor the release")
    shift.mouse.move("hud/tugs/list/dabchick", 8)
    shift.note("S5, G4: the wheel over a disabled tug goes on to its panel and does not zoom the chart")
    shift.mouse.wheel(1.0)


def _shapes(shift: _Shift) -> None:
    mouse = shift.mouse
    shift.click_at((300.0, 352.0), "H1: the compass lies over panel and dial, by order", "H1: it is the compass's")
    shift.click_at((312.0, 56.0), "H2: the toolbar's lower edge is out, the pixel above it is in")
    mouse.move((312.0, 55.0), 2)
    shift.click_at((310.0, 460.0), "S2, P2: the tide dial is glass too, but listens for a click, so it has the press")
    shift.click_at((1120.0, 455.0), "H3: a crate below the edge of its list is cut off; the hold gets it")
    mouse.move("hud/hold/crates", 8)
    shift.note("S3, P10: a wheel listener takes it, and the list scrolls under the still mouse")
    mouse.wheel(1.0)
    shift.note("P7: the next sample finds another crate under the mouse, and leave and enter are sent")
    mouse.wheel(1.0)
    shift.click_at((820.0, 558.0), "H4, H6: the mirrored lattice is hit; the shutter over all is scaled to nothing")
    shift.click_at(
        (1175.0, 620.0), "H4, R6: the lighthouse feeds a sample from its handler; it waits its turn", "R6: here"
    )
    shift.click_at((720.0, 595.0), "H4: the mask of the hook is in here", "R5: its handler raises")


def _presses(shift: _Shift) -> None:
    mouse = shift.mouse
    shift.click_at(BAR + "send-tug/icon", "P2: the icon lies in a button, and the button stands for it", "P3: a click")
    shift.press_at(BAR + "recall", "P3: press on a button …")
    shift.note("P4: … and off it: the pressed look goes")
    mouse.move((430.0, 620.0), 12)
    shift.note("P3: a release outside is no click, and no order to a tug either")
    mouse.release()
    shift.press_at(BAR + "recall", "P4: press again, off …")
    mouse.move((430.0, 120.0), 4)
    shift.note("P4: … and back: pressed again")
    mouse.move(BAR + "recall", 4)
    shift.note("P3: this is a click; a notice opens")
    mouse.release()
    mouse.pause(0.5)
    shift.click_at("hud/notices/notice", "P6: the notice has come where nothing was")
    shift.click_at(
        "hud/notices/notice/understood", "P6: the notice goes under the mouse", "P6: and its leaves are sent"
    )
    shift.press_at(BAR + "horn", "P10: a chord: the first button …")
    shift.note("P10: … a second one starts no second owner")
    mouse.press(PointerButton.SECONDARY)
    mouse.release(PointerButton.SECONDARY)
    shift.note("R4: the click of the first; a handler that adds another is not heard twice")
    mouse.release()
    mouse.pause(0.8)
    shift.click_at(BAR + "horn", "P3: any click after that sounds it")
    mouse.click(BAR + "horn")
    mouse.click(BAR + "horn")
    shift.note("P5: down the list of tugs: leaves first, then enters")
    mouse.move("hud/tugs/list/anchovy", 10)
    mouse.move("hud/tugs/list/cormorant", 30)
    shift.click_at("hud/tugs/list/bramble", "P3: a tug is chosen")


def _fingers(shift: _Shift) -> None:
    finger = Hand(shift.router, "finger-1", "touch", start=shift.mouse.time, tap=shift.keep)
    shift.note("H5: a finger five pixels beside a button is near enough")
    finger.click((207.0, 28.0))
    finger.pause(0.4)
    shift.note("H5: but not where the pointer truly lies on another button")
    finger.click((361.0, 28.0))
    finger.pause(0.4)
    finger.pos = (660.0, 640.0)
    shift.note("P2: a finger on the water, while the mouse rests on the desk")
    finger.press()
    finger.release()
    shift.mouse.time = finger.time


def _handlers(shift: _Shift) -> None:
    mouse = shift.mouse
    shift.click_at(BAR + "watch/relief", "R2: the small button lights the large one too", "R1, R2: and clicks alone")
    mouse.move("hud/hold/crates", 10)
    mouse.wheel(-3.0)
    shift.click_at("hud/hold/crates/kelp", "R1: the desk's log hears a click on its way down", "R3: the crate is gone")
    mouse.move("hud/tugs/list/anchovy", 12)
    shift.click_at("hud/tugs/dismiss", "P6: the panel removes itself …", "P6, P7: … and the mouse is over water")
    mouse.move((140.0, 380.0), 6)
    shift.click_at((140.0, 200.0), "W1: where the panel was there is water now")


def _window(shift: _Shift) -> None:
    mouse = shift.mouse
    shift.press_at(BAR + "horn", "P11: pressed …")
    shift.note("P11: … and the window loses the focus: the press is cancelled")
    mouse.window("focus_lost")
    mouse.move((600.0, 400.0), 4)
    shift.note("P11: the pointer is spent until its button is up")
    mouse.release()
    mouse.window("focus_gained")
    shift.press_at((600.0, 640.0), "P11: the world holds the button …")
    shift.note("P11: the focus goes while the world holds a button, and it is told to lift it")
    mouse.window("focus_lost")
    mouse.release()
    shift.press_at(BAR + "send-tug", "P3: a press survives the window's new size …")
    mouse.window("size", 960.0, 600.0)
    mouse.move(BAR + "send-tug", 3)
    shift.note("P3: … and is a click where the button now is")
    mouse.release()
    mouse.window("size", 1280.0, 720.0)
    mouse.move((640.0, 640.0), 20)
    shift.note("H7, H8, H9, R7: whatever was answered so far can be asked for again and comes out the same")
    mouse.move((660.0, 640.0))
    shift.note("P6: the mouse leaves the window, and hovers nothing")
    mouse.window("pointer_left")


if __name__ == "__main__":
    write_recording(record(), SHIFT)
