"""Seven short recordings at the quay, one for each sort of gesture; run as a module it writes them anew.

Every note begins with the laws that are met there.
"""

from __future__ import annotations

from collections.abc import Callable

from glent.core.input.samples import PointerButton, PointerSample
from glent.demo import QUAY, RECORDINGS
from glent.demo.scribe import Scribe
from glent.demo.worlds import manned_quay
from glent.formats import Recording, write_recording
from glent.testing import Hand

__all__ = ["SCRIPTS", "record"]


class _Quay(Scribe):
    """Hands at the quay, and notes beside their samples."""

    def __init__(self) -> None:
        router, self.world = manned_quay()
        super().__init__(router, QUAY)
        self.mouse = Hand(self.router, tap=self.keep)
        self.finger = Hand(self.router, "finger-1", "touch", tap=self.keep)
        self.thumb = Hand(self.router, "finger-2", "touch", tap=self.keep)

    def down(self, hand: Hand, target: str | tuple[float, float], text: str | None = None) -> None:
        """Put a finger down, or press the mouse after going there."""
        if hand is self.mouse:
            hand.move(target, 6)
        else:
            hand.pos = hand.point(target)
        if text is not None:
            self.note(text)
        hand.press()


def _crates(quay: _Quay) -> None:
    mouse, hold = quay.mouse, "quay/hold/"
    quay.down(mouse, hold + "kelp", "P2: a press on a crate; a drag competes with the click")
    quay.note("G2, G3: beyond the threshold the drag has won, and the slots answer beforehand")
    mouse.move(hold + "shelf-2", 12)
    quay.note("G3: the shelf bears 40 kg, the crate weighs 30: it is stowed there")
    mouse.release()
    mouse.pause(0.4)
    quay.down(mouse, hold + "anvil")
    mouse.move(hold + "shelf-3", 12)
    quay.note("G3: the anvil weighs 90 kg; the refusal has its reason, and the anvil goes back")
    mouse.release()
    mouse.pause(0.4)
    quay.down(mouse, hold + "rope")
    mouse.move(hold + "shelf-2", 8)
    quay.note("G3: Escape abandons the drag, and is used up by that")
    mouse.key("Escape")
    quay.note("P11: the pointer is spent until its button is up")
    mouse.release()
    mouse.key("Escape", "up")
    mouse.pause(0.4)
    quay.down(mouse, hold + "anvil")
    mouse.move(hold + "floor-3", 6)
    quay.note("G3: so does a second button, which then does nothing else")
    mouse.press(PointerButton.SECONDARY)
    mouse.release(PointerButton.SECONDARY)
    mouse.release()
    mouse.pause(0.4)
    quay.down(mouse, hold + "anvil", "G9: by single presses: click a crate …")
    mouse.release()
    quay.down(mouse, hold + "floor-3")
    quay.note("G9: … and a slot, and the same events are sent as for a drag")
    mouse.release()
    mouse.pause(0.4)
    quay.down(mouse, hold + "rope")
    mouse.move((640.0, 520.0), 14)
    quay.note("G3: let go over the water: the verdict names what fell, and the world gets no click")
    mouse.release()
    mouse.move((660.0, 540.0))


def _manifest(quay: _Quay) -> None:
    finger, mouse = quay.finger, quay.mouse
    finger.pos = (1070.0, 400.0)
    quay.note("G5: a finger on a row: a tap, or a scroll; the row hears the press, and does not light up yet")
    finger.press()
    quay.note("G4, G5: beyond the threshold it is a scroll; the row hears a cancel")
    finger.move((1074.0, 180.0), 10)
    quay.note("G4: let go at speed, the list glides on as time passes")
    finger.release()
    finger.wait(0.5)
    finger.pos = (1070.0, 300.0)
    quay.note("G4: a touch on a list that still runs stops it, and is no tap")
    finger.press()
    finger.release()
    finger.pause(0.5)
    quay.note("P3: now a tap ticks a row off")
    finger.press()
    finger.pause(0.05)
    finger.release()
    finger.pause(0.3)
    finger.pos = (1070.0, 120.0)
    finger.press()
    finger.move((1070.0, 440.0), 5)
    finger.release()
    quay.note("G4: a hard flick back meets the end, which gives a little and springs back")
    finger.wait(1.6)
    mouse.move((1070.0, 300.0), 3)
    quay.note("G4: a wheel scrolls it by lines")
    for _ in range(4):
        mouse.wheel(3.0)
    mouse.pause(0.5)
    mouse.move((700.0, 200.0), 4)
    quay.note("G4, W1: over a plain panel a wheel does nothing, and does not zoom the water behind it")
    mouse.wheel(1.0)


def _mooring(quay: _Quay) -> None:
    mouse, finger = quay.mouse, quay.finger
    quay.down(mouse, "quay/mooring", "G1: a press on the mooring line begins to count …")
    mouse.wait(0.6, 0.05)
    quay.note("G1: … let go too soon, it is a click, and the progress goes back to 0")
    mouse.release()
    mouse.pause(0.3)
    quay.down(mouse, "quay/mooring", "G1: held on …")
    mouse.wait(1.3, 0.05)
    quay.note("G1: … it has run to 1 once; the release is no click any more")
    mouse.release()
    mouse.pause(0.3)
    quay.down(mouse, "quay/at-once")
    quay.note("G9: the same by a single press")
    mouse.release()
    mouse.pause(0.3)
    quay.down(finger, "quay/fill", "G1: a pump that repeats while it is held, ever faster …")
    finger.wait(1.5, 0.05)
    finger.release()
    finger.pause(0.2)
    quay.down(finger, "quay/drain")
    finger.pause(0.05)
    quay.note("G1: … and a short press is a click")
    finger.release()
    mouse.move("quay/lamp", 6)
    mouse.wait(0.7, 0.05)
    quay.note("G6: a pointer that rests on the lamp long enough lights it")
    mouse.wait(0.2, 0.05)


def _sticks(quay: _Quay) -> None:
    left, right = quay.finger, quay.thumb
    quay.down(left, "quay/trolley", "P1: one thumb on the trolley's stick …")
    quay.down(right, "quay/winch", "P1: … and another on the winch's, at the same time")
    quay.note("G5, G7: each is a drag of its own, along the stick's own axis")
    for step in range(1, 13):
        left.move((101.0 + step * 4, 619.0))
        right.move((291.0, 619.0 + step * 4))
    time = quay.router.now
    copy = PointerSample(time, "move", 291.0, 667.0, emulated=True)
    quay.note("P1: the system's copy of a finger as a mouse is dropped")
    quay.keep(copy)
    quay.router.feed(copy)
    left.wait(0.6, 0.1)
    quay.note("P2: a thumb that slides off its stick still has it")
    left.move((420.0, 560.0), 6)
    quay.note("P8: the system takes one thumb away: its stick springs back, the other goes on")
    left.cancel()
    right.move((291.0, 560.0), 6)
    right.wait(0.3, 0.1)
    quay.note("G2: the other is let go")
    right.release()


def _chart(quay: _Quay) -> None:
    one, two = quay.finger, quay.thumb
    one.pos, two.pos = (620.0, 190.0), (700.0, 150.0)
    quay.note("G5: one finger on the chart could push it …")
    one.press()
    quay.note("G6: … with a second one they pinch")
    two.press()
    for step in range(1, 13):
        one.move((620.0 - step * 6, 190.0 + step * 4))
        two.move((700.0 + step * 5, 150.0 + step * 6))
    quay.note("G6: one finger is lifted: the pinch ends …")
    two.release()
    quay.note("G6: … and the other goes on, and pushes the chart")
    one.move((500.0, 200.0), 8)
    one.release()
    one.pause(0.4)
    quay.down(quay.mouse, "quay/chart/closer")
    quay.note("G9: closer by a single press")
    quay.mouse.release()
    quay.mouse.pause(0.3)
    quay.note("G6: a quick stroke over the bulletin …")
    one.pos = (740.0, 360.0)
    one.press()
    one.move((560.0, 366.0), 5)
    quay.note("G6: … is a swipe, with its direction and speed")
    one.release()
    one.pause(0.3)
    one.pos = (560.0, 360.0)
    one.press()
    one.move((690.0, 360.0), 60)
    quay.note("G6: too slow for a swipe, and too far for a tap")
    one.release()


def _rope(quay: _Quay) -> None:
    one, two = quay.finger, quay.thumb
    one.pos, two.pos = (1090.0, 500.0), (1140.0, 500.0)
    quay.note("G5: a gesture of the quay's own: one finger is not enough …")
    one.press()
    one.move((1090.0, 540.0), 4)
    one.release()
    one.pause(0.3)
    one.pos = (1090.0, 500.0)
    one.press()
    quay.note("G5: … two of them compete together")
    two.press()
    for step in range(1, 11):
        one.move((1090.0, 500.0 + step * 9))
        two.move((1140.0, 500.0 + step * 8))
    quay.note("G5, G7: pulled far enough, by both: the bell rings")
    two.release()
    one.release()


def _mishaps(quay: _Quay) -> None:
    mouse, finger = quay.mouse, quay.finger
    quay.down(mouse, "quay/hold/kelp")
    mouse.move((120.0, 290.0), 4)
    quay.note("P12: the display's scale changes in the middle of a drag, which goes on")
    mouse.window("scale", scale=1.5)
    mouse.move((200.0, 280.0), 4)
    mouse.window("scale", scale=1.0)
    quay.note("P1, T4: the mouse is unplugged: the drag is undone")
    mouse.window("device_gone")
    mouse.buttons = 0
    mouse.pause(0.4)
    quay.down(mouse, "quay/trolley", "P12: the stick is held, and the pointer is locked …")
    for _ in range(6):
        mouse.move_locked(9.0, 1.0)
    quay.note("P12: … and the first sample after the lock adds no distance")
    mouse.move((60.0, 560.0), 3)
    mouse.release()
    mouse.pause(0.4)
    quay.down(mouse, "quay/hold/anvil")
    mouse.move((300.0, 300.0), 4)
    quay.note("P11: the window loses the focus: the drag is undone, the pointer spent")
    mouse.window("focus_lost")
    mouse.buttons = 0
    mouse.window("focus_gained")
    quay.note("T4: what is down after the gap is told anew: nothing")
    mouse.window("sync")
    mouse.move((640.0, 560.0), 6)
    quay.note("P2: the world holds a button …")
    mouse.press()
    mouse.pause(0.2)
    mouse.buttons = 0
    quay.note("T4, W3: … and after a gap it is up: the world is told to lift it")
    mouse.window("sync")
    quay.down(finger, "quay/mooring", "P1: a finger goes down …")
    finger.pause(0.1)
    quay.note("P1: … and down again without having been up: the old press is cancelled first")
    finger.press()
    finger.release()
    quay.note("P1: a stray release does nothing, and is not the world's")
    finger.release()
    quay.note("W3: a key that nobody in the UI asks for is the world's, and so is its release")
    mouse.key("KeyW")
    mouse.key("KeyW", "up")


SCRIPTS: dict[str, Callable[[_Quay], None]] = {
    "crates": _crates,
    "manifest": _manifest,
    "mooring": _mooring,
    "sticks": _sticks,
    "chart": _chart,
    "rope": _rope,
    "mishaps": _mishaps,
}
"""The recordings by name, in the order they are told."""


def record(name: str) -> Recording:
    """Play one of them and record it."""
    quay = _Quay()
    SCRIPTS[name](quay)
    return quay.recording


if __name__ == "__main__":
    for script in SCRIPTS:
        write_recording(record(script), RECORDINGS[script])
