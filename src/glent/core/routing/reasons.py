"""Why a sample went where it went, as sentences."""

from __future__ import annotations

from enum import Enum

__all__ = ["Reason"]


class Reason(Enum):
    """Why a sample went where it went. The value is the sentence, with places for what, who and about."""

    OPEN = "nothing of the UI lies where the {what} is, so the world gets it"
    PASSED = "the {what} passes through {about}, which is glass and does not want it, so the world gets it"
    SOLID = "the {what} landed on {about}, which is solid"
    REACHED = "the {what} fell within reach of {about}, a little beside it"
    GLASS = "the {what} landed on {about}, which is glass and listens for what may come of it"
    TAKEN = "a handler of {about} took the {what}"
    HELD = "{owner} has held the pointer since its press, so the {what} is its own"
    WORLD_HELD = "the world has held the pointer since a press that no UI wanted, so the {what} is the world's"
    DISABLED = "the press came to {about}, which is solid but disabled, so nobody gets the {what}"
    SPENT = "the pointer is spent, because {about}: until all its buttons are up nobody gets it, nor this {what}"
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
    KEY = "no node has asked for keys, so the world gets the {what}"
    TIME = "time passed, and nothing came in"
    WINDOW = "the window reported that {what}, which is nobody's input"

    def __repr__(self) -> str:
        return f"<Reason {self.name}>"


# Each also by its bare name: looking a member up on an Enum costs as much as a hit test's loop.
OPEN = Reason.OPEN
PASSED = Reason.PASSED
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
TIME = Reason.TIME
WINDOW = Reason.WINDOW
