"""Seven short recordings at the bridge: who has the input, and how it goes back. Run as a module it writes them anew.

Every note begins with the laws that are met there.
"""

from __future__ import annotations

from collections.abc import Callable

from glent.demo import BRIDGE, RECORDINGS
from glent.demo.scribe import Scribe
from glent.demo.worlds import manned_bridge
from glent.formats import Recording, write_recording
from glent.testing import Hand

__all__ = ["SCRIPTS", "record"]


class _Bridge(Scribe):
    """A hand at the bridge, and notes beside its samples."""

    def __init__(self, pilots: int) -> None:
        router, self.world = manned_bridge(pilots)
        super().__init__(router, BRIDGE)
        self.hand = Hand(router, tap=self.keep)

    def noted(self, text: str) -> Hand:
        """The hand, with a note beside what it does next."""
        self.note(text)
        return self.hand

    def click(self, target: str, text: str | None = None) -> None:
        """Go to a node and click it; the note is beside the press."""
        self.hand.move(target, 4)
        if text is not None:
            self.note(text)
        self.hand.press()
        self.hand.release()
        self.hand.pause(0.3)


def _barge(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.noted("W3: nothing of the UI wants this key: the boat runs ahead").key("KeyW")
    hand.wait(0.3, 0.1)
    bridge.click("helm/watch/ferry")
    hand.move("helm/bar/hail", 4)
    hand.press()
    bridge.noted("M1, W3: the click opens the dialog; the key that is still held is lifted at once").release()
    hand.pause(0.1)
    hand.pause(0.4)
    hand.move((640.0, 640.0), 3)
    bridge.noted("M1: nothing beneath reacts, and the water does not get it").press()
    hand.release()
    bridge.noted("W3: its real release is nobody's").key("KeyW", "up")
    bridge.noted("F2: arrows go from one choice to the other …").press_keys("ArrowRight")
    bridge.noted("W4: … and Enter presses it; it is activated when that comes up").key("Enter")
    bridge.noted("M3: it asks again, with another message and other choices").key("Enter", "up")
    hand.pause(0.2)
    bridge.noted("M4: a modal that cannot be closed uses back up").press_keys("Escape")
    bridge.click("dialog/barge/choices/the tide", "M3: answered; the focus goes back to where it was")
    bridge.noted("W3: the key is pressed anew, and is the world's again").key("KeyW")
    hand.wait(0.2, 0.1)
    hand.key("KeyW", "up")


def _menu(bridge: _Bridge) -> None:
    hand = bridge.hand
    hand.key("KeyW")
    hand.key("KeyD")
    hand.wait(0.3, 0.1)
    bridge.noted("W2, W3, W4: a shortcut opens the menu; both keys are lifted, so nobody sails on behind it").key("F10")
    hand.key("F10", "up")
    bridge.noted("W2: what is pressed now is the menu's alone").key("KeyA")
    hand.key("KeyA", "up")
    bridge.noted("W3: a lifted key stays lifted until it is up, and that is nobody's").key("KeyD", "up")
    bridge.click("pause/panel/horn-key", "F5: ask for another key for the horn …")
    bridge.noted("F5: … the next key is the answer, and is used up by that").press_keys("KeyB")
    bridge.click("toasts/toast", "M1: above the menu the toast keeps the pointer")
    bridge.noted("M4: back closes the menu, and does nothing else").key("Escape")
    hand.key("Escape", "up")
    hand.wait(0.2, 0.1)
    bridge.noted("W3: KeyW is still held down; nothing is pressed again by the end of the claim").key("KeyS")
    hand.key("KeyS", "up")
    bridge.noted("W3: and its release, at last, is nobody's").key("KeyW", "up")
    bridge.noted("F5: the new key sounds the horn, in the world").press_keys("KeyB")
    bridge.noted("M4: with nothing to close, back is the world's").press_keys("Escape")


def _cargo(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.click("helm/bar/cargo", "M2: a popup belongs to its opener")
    hand.move("popups/cargo/count", 4)
    bridge.click("helm/bar/cargo", "M2: a press on the opener only closes it")
    bridge.click("helm/bar/cargo")
    hand.move((640.0, 420.0), 4)
    bridge.noted("M2: a press outside closes it, and does nothing else: no order to the water").press()
    hand.release()
    hand.pause(0.4)
    bridge.noted("W1: the next one is the water's again").press()
    hand.release()
    hand.pause(0.4)
    bridge.click("helm/bar/cargo")
    bridge.noted("M4: back closes it as well").press_keys("Escape")
    bridge.click("helm/bar/cargo")
    bridge.click("popups/cargo/count", "P3: a click in it")


def _look(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.click("helm/bar/look", "W5: free look: the layer says that the cursor is locked")
    bridge.noted("P12, W5: while it is locked, movement is the world's, and turns the view").move_locked(120.0, 4.0)
    for _ in range(4):
        hand.move_locked(60.0, -2.0)
    bridge.noted("W2, W5: the menu opens over it, and shows the cursor again").press_keys("F10")
    bridge.noted("P12: the first sample after the lock adds no distance").move("pause/panel/sail-on", 3)
    bridge.click("pause/panel/sail-on", "W5: closed, the cursor is locked again, by itself")
    bridge.noted("W5: and movement turns the view").move_locked(-80.0, 0.0)
    bridge.noted("M4: back ends the free look").press_keys("Escape")
    bridge.noted("W5: the cursor is there again").move((600.0, 400.0), 3)


def _by_keys(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.noted("F1, F4: Tab enters the UI, and the ring shows").press_keys("Tab")
    bridge.noted("F1: a toolbar is one stop, with arrows inside").press_keys("ArrowRight")
    hand.press_keys("ArrowRight")
    bridge.noted("F1: Tab leaves it for the next stop, a group of radios").press_keys("Tab")
    bridge.noted("F2: an arrow goes to the next one in it …").press_keys("ArrowDown")
    bridge.noted("W4: … and Enter chooses it when it comes up").press_keys("Enter")
    bridge.noted("F1: the watch list is one stop as well").press_keys("Tab")
    for _ in range(6):
        hand.press_keys("ArrowDown")
    bridge.noted("F2: down the list, which scrolls to show where the focus is").press_keys("Enter")
    bridge.noted("F1: the call sign").press_keys("Tab")
    bridge.noted("W3, W4: the text field has the focus: keys that make text are its own").press_keys("KeyK")
    hand.type("k")
    hand.press_keys("KeyE")
    hand.type("e")
    bridge.noted("W4: text is composed: keys reach only the field …").compose("rup")
    hand.key("Enter")
    hand.compose("")
    bridge.noted("W4: … and the Enter that ends it does nothing else").type("lp")
    hand.key("Enter", "up")
    hand.press_keys("Backspace")
    bridge.noted("F1: on to the bearing plate, which is turned").press_keys("Tab")
    bridge.noted("F2: to the left of it lies the call sign").press_keys("ArrowLeft")
    bridge.noted("F2, F1: and from there, by Shift and Tab, back to the list").press_keys("ShiftLeft", "Tab")


def _by_pad(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.noted("W3: with nothing focused a stick is the world's").pad("left_stick_y", -0.9)
    hand.wait(0.3, 0.1)
    bridge.noted("W2, W3: the menu opens: the stick's deflection is lifted").press_pad("center_right")
    bridge.noted("W3: it is nobody's until it has been in its dead zone").pad("left_stick_y", -0.7)
    hand.pad("left_stick_y", 0.05)
    bridge.noted("F5: now it moves the focus: a step at once …").pad("left_stick_y", 0.8)
    bridge.noted("F5: … though wobbling aside, in one direction").pad("left_stick_x", 0.45)
    hand.pad("left_stick_x", 0.0)
    bridge.noted("F5: held on, it steps again after a delay").wait(0.6, 0.1)
    hand.pad("left_stick_y", 0.0)
    hand.press_pad("left_cluster_top")
    bridge.noted("W4: a button presses what has the focus").press_pad("right_cluster_bottom")
    hand.pause(0.2)
    bridge.noted("W3: and the stick steers again").pad("left_stick_x", 0.6)
    hand.wait(0.2, 0.1)
    hand.pad("left_stick_x", 0.0)
    bridge.noted("T4: the pad is unplugged with a button held: that is lifted").pad("front_bottom_right", 1.0)
    hand.pointer = "pad0"
    hand.window("device_gone")
    hand.pointer = "mouse"


def _pilots(bridge: _Bridge) -> None:
    hand = bridge.hand
    bridge.noted("T1: the keys are the first pilot's …").key("KeyW")
    bridge.noted("T1: … and the second pad is the second's").pad("left_stick_y", -1.0, 1)
    hand.wait(0.3, 0.1)
    bridge.noted("T3, W3: the second pilot pauses alone: only that stick is lifted").press_pad("center_right", 1)
    bridge.noted("T3: the first sails on").key("KeyD")
    hand.key("KeyD", "up")
    hand.move((300.0, 400.0), 4)
    bridge.note("T2: a shared mouse takes the seat under it; the leaves come before the enters")
    hand.move(hand.point("pause-2/panel/sail-on"), 8)
    bridge.noted("T2: and clicks for that seat").press()
    hand.release()
    hand.pad("left_stick_y", 0.0, 1)
    hand.pause(0.3)
    hand.pad("left_stick_x", 0.9, 1)
    hand.move("helm/bar/all-stop", 4)
    hand.press()
    bridge.noted("T3, W3: all stop, for both: the key and the stick are lifted").release()
    hand.pause(0.2)
    bridge.noted("T3: nobody's").key("KeyA")
    hand.key("KeyA", "up")
    hand.pad("left_stick_x", 0.0, 1)
    bridge.noted("T3: either of them can end it").press_pad("right_cluster_bottom", 1)
    bridge.noted("W3: the first pilot's key is still down, and not pressed again").key("KeyW", "up")
    bridge.noted("T1, T3: both are under way again").key("KeyW")
    hand.key("KeyW", "up")


SCRIPTS: dict[str, tuple[int, Callable[[_Bridge], None]]] = {
    "barge": (1, _barge),
    "menu": (1, _menu),
    "cargo": (1, _cargo),
    "look": (1, _look),
    "by-keys": (1, _by_keys),
    "by-pad": (1, _by_pad),
    "pilots": (2, _pilots),
}
"""The recordings by name, in the order they are told, with how many pilots are aboard."""


def record(name: str) -> Recording:
    """Play one of them and record it."""
    pilots, script = SCRIPTS[name]
    bridge = _Bridge(pilots)
    script(bridge)
    return bridge.recording


if __name__ == "__main__":
    for script in SCRIPTS:
        write_recording(record(script), RECORDINGS[script])
