"""Why a sample went where it went, as sentences."""

from __future__ import annotations

from enum import Enum

__all__ = ["LAWS", "LAW_NAMES", "Reason"]


class Reason(Enum):
    """Why a sample went where it went. The value is the sentence, with places for what, who and about."""

    OPEN = "nothing of the UI lies where the {what} is, so the world gets it"
    PASSED = "the {what} passes through {about}, which is glass and does not want it, so the world gets it"
    SPOT = "the {what} landed on {about}, a spot of the world that nothing of the UI listens to, so the world gets it"
    REVERSE = "the {what} came to the back of {about}, which lets nobody through"
    SOLID = "the {what} landed on {about}, which is solid"
    REACHED = "the {what} fell within reach of {about}, a little beside it"
    GLASS = "the {what} landed on {about}, which is glass and listens for what a press may become"
    TAKEN = "a handler of {about} took the {what}"
    HELD = "{owner} has held the pointer since its press, so the {what} is its own"
    WORLD_HELD = "the world has held the pointer since a press that no UI wanted, so the {what} is the world's"
    DISABLED = "the press came to {about}, which is solid but disabled, so nobody gets the {what}"
    SPENT = "the pointer is spent, because {about}: nobody gets this {what}, until all its buttons are up"
    STRAY = "the {what} came without a press before it, so it does nothing"
    EMULATED = "the {what} is the system's copy of another pointer's, so it is dropped"
    CANCELLED = "the device took the pointer away, so {about}"
    GESTURE = "{owner} has won the pointer for a {about}, so the {what} is its own"
    ENDED = "the {what} ends the {about}"
    ABANDONED = "the {what} abandons the drag of {about}, and does nothing else"
    GRABBED = "{owner} has grabbed the pointer, so the {what} is its own"
    SCROLLED = "the {what} scrolls {owner}"
    AT_END = "the {what} is for {owner}, which is at its end"
    LOCKED = "the pointer is locked, so its {what} is the world's"
    KEY = "nothing of the UI has asked for the {what}, so the world gets it"
    KEY_HELD = "{owner} got the press of the {what}, so this goes there too"
    USED = "the press of the {what} was used up, or lifted, so what follows it is nobody's"
    TYPED = "the {what} makes text or edits it, and {owner} has the focus"
    TEXT = "the {what} goes to {owner}, which has the focus"
    COMPOSING = "text is being composed in {owner}, which gets the {what}"
    COMPOSED = "the {what} ended a composition, and does nothing else"
    PRESSED = "the {what} presses {owner}, which has the focus; it is activated when that comes up"
    ACTIVATED = "the {what} came up, and activates {owner}"
    MOVED_ON = "the focus is no longer on {about}, which the {what} pressed, so nothing is activated"
    NAVIGATED = "the {what} moves the focus to {owner}"
    NO_WAY = "the {what} finds nothing to focus that way, so the focus stays on {about}"
    NOTHING = "the {what} finds nothing that could have the focus"
    SHORTCUT = "the {what} is a shortcut that {owner} listens for"
    CLOSED = "the {what} closes {about}, and does nothing else"
    KEPT_OPEN = "the {what} means back, and {about}, which is modal, cannot be closed by it"
    BOUND = "the {what} is the new binding that seat {about} was asked for"
    OPENED = "the {what} opened {about}, and does nothing else"
    SHUT = "the {what} closed a modal, and does nothing else"
    DISMISSED = "the {what} outside {about} closes it, and does nothing else"
    MODAL = "{about} is modal, so the {what} goes nowhere else"
    CLAIMED = "{about} claims the {what} for as long as it shows, so the world does not get it"
    OTHER_SEAT = "{about} is another seat's, and blocks the {what}"
    TRANSITION = "{about} is in transition, and ignores the {what}"
    KEPT = "{about} is in transition, and keeps the {what} until it is ready"
    OUTSIDE = "the {what} came outside the viewport of seat {about}, so nobody gets it"
    COUNTED = "the {what} continues a count of clicks from before {about} opened, so it clicks nothing there"
    AGAIN = "the {what} comes so soon after a click on {about} that it counts for nothing"
    SLID = "the {what} takes the press from {about} over to {owner}"
    ASKED = "the {what} was asked for, and {owner} did it"
    UNABLE = "the {what} was asked for, and refused: {about}"
    ENDLESS = "handlers fed too many samples while one was routed, so the {what} is dropped"
    TIME = "time passed, and nothing came in"
    WITHHELD = "{about} has all input now, so the {what} is withheld from the game"
    WINDOW = "the window reported that {what}, which is nobody's input"

    def __repr__(self) -> str:
        return f"<Reason {self.name}>"


_BY_LAW = {
    "S1": "SOLID", "S2": "PASSED", "S5": "DISABLED", "H5": "REACHED",
    "P1": "STRAY EMULATED GRABBED", "P2": "GLASS HELD WORLD_HELD", "P8": "CANCELLED", "P10": "AGAIN", "P11": "SPENT",
    "P12": "LOCKED", "P13": "SLID", "R1": "TAKEN", "R6": "ENDLESS", "R7": "TIME",
    "G2": "ENDED", "G3": "ABANDONED", "G4": "SCROLLED AT_END", "G5": "GESTURE",
    "W1": "OPEN WINDOW", "W2": "CLAIMED TRANSITION", "W3": "KEY_HELD USED",
    "W4": "KEY TYPED TEXT COMPOSING COMPOSED PRESSED ACTIVATED MOVED_ON SHORTCUT",
    "M1": "MODAL", "M2": "OPENED SHUT DISMISSED COUNTED KEPT", "M4": "CLOSED KEPT_OPEN",
    "F2": "NAVIGATED NO_WAY NOTHING", "F5": "BOUND", "X1": "SPOT", "X2": "REVERSE",
    "T1": "OTHER_SEAT", "T2": "OUTSIDE", "D4": "WITHHELD", "D5": "ASKED UNABLE",
}  # fmt: skip
LAWS = {Reason[name]: law for law, names in _BY_LAW.items() for name in names.split()}
"""The law behind each reason."""

LAW_NAMES = {
    "S1": "solid", "S2": "glass", "S5": "disabled", "H5": "reach", "P1": "pointers and grabs", "P2": "presses",
    "P8": "cancels", "P10": "presses again", "P11": "spent pointers", "P12": "locked pointers", "P13": "sliding",
    "R1": "taking", "R6": "samples from handlers", "R7": "time", "G2": "drags", "G3": "drops", "G4": "scrolling",
    "G5": "contests", "W1": "the world", "W2": "claims", "W3": "keys that stay down", "W4": "keys and text",
    "M1": "modals", "M2": "dismissal by a press", "M4": "back", "F2": "arrows", "F5": "bindings", "X1": "spots",
    "X2": "backs of panels", "T1": "nodes of one seat", "T2": "viewports", "D4": "tools", "D5": "acts asked for",
}  # fmt: skip
"""What each of these laws is about, in few words."""

# Each also by its bare name: looking a member up on an Enum costs as much as a hit test's loop.
OPEN = Reason.OPEN
PASSED = Reason.PASSED
SPOT = Reason.SPOT
REVERSE = Reason.REVERSE
SOLID = Reason.SOLID
REACHED = Reason.REACHED
GLASS = Reason.GLASS
TAKEN = Reason.TAKEN
HELD = Reason.HELD
WORLD_HELD = Reason.WORLD_HELD
DISABLED = Reason.DISABLED
SPENT = Reason.SPENT
STRAY = Reason.STRAY
EMULATED = Reason.EMULATED
CANCELLED = Reason.CANCELLED
GESTURE = Reason.GESTURE
ENDED = Reason.ENDED
ABANDONED = Reason.ABANDONED
GRABBED = Reason.GRABBED
SCROLLED = Reason.SCROLLED
AT_END = Reason.AT_END
LOCKED = Reason.LOCKED
KEY = Reason.KEY
KEY_HELD = Reason.KEY_HELD
USED = Reason.USED
TYPED = Reason.TYPED
TEXT = Reason.TEXT
COMPOSING = Reason.COMPOSING
COMPOSED = Reason.COMPOSED
PRESSED = Reason.PRESSED
ACTIVATED = Reason.ACTIVATED
MOVED_ON = Reason.MOVED_ON
NAVIGATED = Reason.NAVIGATED
NO_WAY = Reason.NO_WAY
NOTHING = Reason.NOTHING
SHORTCUT = Reason.SHORTCUT
CLOSED = Reason.CLOSED
KEPT_OPEN = Reason.KEPT_OPEN
BOUND = Reason.BOUND
OPENED = Reason.OPENED
SHUT = Reason.SHUT
DISMISSED = Reason.DISMISSED
MODAL = Reason.MODAL
CLAIMED = Reason.CLAIMED
OTHER_SEAT = Reason.OTHER_SEAT
TRANSITION = Reason.TRANSITION
KEPT = Reason.KEPT
OUTSIDE = Reason.OUTSIDE
COUNTED = Reason.COUNTED
AGAIN = Reason.AGAIN
SLID = Reason.SLID
ASKED = Reason.ASKED
UNABLE = Reason.UNABLE
ENDLESS = Reason.ENDLESS
TIME = Reason.TIME
WITHHELD = Reason.WITHHELD
WINDOW = Reason.WINDOW
