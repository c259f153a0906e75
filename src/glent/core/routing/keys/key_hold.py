"""One key or button: that it went down or up, and who has it until it is up (law W3)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, Literal

if TYPE_CHECKING:
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node

__all__ = ["NAVIGATION", "NOBODY", "PRESSING", "UI", "WORLD", "KeyHold", "KeyPress", "Who"]

WORLD: Final = "world"
NOBODY: Final = "nobody"
"""It was used up, or lifted."""
UI: Final = "ui"
"""A node took its press, or it makes text there."""
PRESSING: Final = "pressing"
"""It presses the node with the focus, and activates it if it is still there when this comes up (law W4)."""
NAVIGATION: Final = "navigation"
"""It moves the focus."""
Who = Literal["world", "nobody", "ui", "pressing", "navigation"]


class KeyPress:
    """A control going down or up.

    :ivar device: which device. :ivar code: which control of it. :ivar key: what a key means, or None.
    :ivar channel: ``keys`` or ``pad``.
    """

    __slots__ = ("channel", "code", "device", "key", "what")

    def __init__(self, device: str, code: str, key: str | None, channel: str) -> None:
        self.device = device
        self.code = code
        self.key = key
        self.channel = channel
        self.what = f"{code} key" if channel == "keys" else f"{code} of {device}"


class KeyHold:
    """A control that is down.

    :ivar answers: whether it answers a question for a binding if it comes up with nothing else pressed meanwhile.
    :ivar who: who has it. :ivar owner: the node, if one has. :ivar heard: where its ``key_down`` went.
    :ivar moves: the count of focus changes when it began to press. :ivar modals: what its seat's modals were when it
        went down. :ivar unseen: whether its release may have got lost since, because the window was without the focus.
    """

    __slots__ = (
        "action", "answers", "heard", "modals", "moves", "owner", "press", "seat", "unseen", "who"
    )  # fmt: skip

    def __init__(self, seat: Seat, press: KeyPress, action: str | None) -> None:
        self.seat = seat
        self.press = press
        self.action = action
        self.who: Who = NOBODY
        self.owner: Node | None = None
        self.heard: Node | None = None
        self.moves = 0
        self.modals = seat._modals_seen
        self.unseen = False
        self.answers = False

    @property
    def name(self) -> str:
        """What lifts call it: ``keys/KeyW``."""
        return f"{self.press.device}/{self.press.code}"

    @property
    def is_as_it_was(self) -> bool:
        """Whether no modal of its seat has opened, closed, or come to the front since it went down."""
        return self.modals == self.seat._modals_seen

    @property
    def is_still_focused(self) -> bool:
        """Whether the focus has not moved since the control began to press its owner; back again does not count
        (W4)."""
        focus = self.seat._focus
        return focus.node is self.owner and focus.moves == self.moves
