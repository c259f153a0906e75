"""The state of one pointer and of its press."""

from __future__ import annotations

from typing import TYPE_CHECKING, Final, Literal

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import PointerButton
    from glent.core.routing.aim import Aim
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.pointers.grab import Grab
    from glent.core.routing.pointers.travel import Mark
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.world_index import Met

__all__ = ["FREE", "NOBODY", "SPENT", "UI", "WORLD", "Hold", "Pointer", "Press", "bit_of", "names_of"]

_BITS = (1, 4, 2, 8, 16)  # W3C: the bits of `buttons` are not in the order of `button`
_NAMES = ("primary", "auxiliary", "secondary", "back", "forward")


def bit_of(button: int) -> int:
    """The bit of a button in a W3C ``buttons`` mask."""
    return _BITS[button]


def names_of(pointer: str, buttons: int) -> tuple[str, ...]:
    """The buttons of a mask as controls of a device: ``mouse/primary``."""
    return tuple(f"{pointer}/{name}" for bit, name in zip(_BITS, _NAMES, strict=True) if buttons & bit)


FREE: Final = "free"  # no button is down
UI: Final = "ui"  # a node owns it
WORLD: Final = "world"  # the world has it
NOBODY: Final = "nobody"  # its press came to a disabled solid
SPENT: Final = "spent"  # its owner was cancelled or is gone
Hold = Literal["free", "ui", "world", "nobody", "spent"]
"""Who has a pointer until its buttons are up. Plain constants: they are compared several times for every sample."""


class Press:
    """A press from the button going down to all buttons being up.

    :ivar target: the offer it landed on. :ivar owner: the control that stands for it, or the offer itself (law P2).
    :ivar path: from the layer to the target. :ivar heard: who heard it, with phase bits.
    :ivar inside: whether the owner is on the path of an offer where the pointer is now (law P4).
    :ivar over: whether it has ended as a press, though the pointer is still held: its button was released (law P10),
        or a gesture has won it (law G5). :ivar contact: the contest for it, if anything competes.
    """

    __slots__ = ("button", "contact", "count", "heard", "inside", "over", "owner", "path", "pos", "target", "time")

    def __init__(
        self, target: Node, path: list[Node], button: PointerButton, count: int, time: float, pos: tuple[float, float]
    ) -> None:
        self.target = target
        self.path = path
        self.owner = target
        for node in reversed(path):
            if node._used is not None:
                self.owner = node
                break
        self.button = button
        self.count = count
        self.time = time
        self.pos = pos
        self.heard: dict[Node, int] = {}
        self.inside = True
        self.over = False
        self.contact: Contact | None = None


LastPress = tuple["Node", float, tuple[float, float], "PointerButton", int, "Mark | None"]
"""Target, time, place, button and count of the press before, by which the next one is counted; and its place in the
world."""


class Pointer:
    """One mouse, finger, pen or ray."""

    __slots__ = (
        "aim",
        "aimed",
        "armed",
        "away",
        "barrier",
        "buttons",
        "dragging",
        "grab",
        "hold",
        "hovered",
        "hovered_for",
        "idle",
        "jumped",
        "kind",
        "last_click",
        "name",
        "offers",
        "picked",
        "pos",
        "press",
        "ray",
        "seat",
        "spent_by",
        "spot",
        "strayed",
        "tip",
        "tip_ray",
        "touched",
        "used_from",
        "used_way",
    )

    seat: Seat
    """Whose it is at present."""

    def __init__(self, name: str, kind: str) -> None:
        self.name = name
        self.kind = kind
        self.pos = (0.0, 0.0)
        self.away = True
        """Nowhere over the window, as before its first sample."""
        self.buttons = 0
        self.hold: Hold = FREE
        self.press: Press | None = None
        self.grab: Grab | None = None
        self.dragging: Contact | None = None
        """The contact by which it drags, if it does: its moves can go a shorter way."""
        self.jumped = False
        """Whether its next absolute sample adds no distance: it was locked, or warped (law P12)."""
        self.offers: list[Node] = []
        self.barrier: Barrier | None = None
        """What blocks the way behind the offers, so that the world does not get what they leave."""
        self.used_way: Ray | None = None
        """Where it pointed then, if it is a ray."""
        self.ray: Ray | None = None
        """Where it points, if it is a ray of its own."""
        self.tip: Vector3 | None = None
        """Where it is in the world, if it is a fingertip; ``touched``: the panel it presses; ``armed``: those that
        it is near, in front of, and where."""
        self.tip_ray: Ray | None = None
        """From there square onto the panel that it presses."""
        self.touched: Panel | None = None
        self.armed: dict[Panel, tuple[float, float, float]] = {}
        self.aim: Aim | None = None
        """Where that is in the world, as it was found in the scene's version ``aimed``."""
        self.aimed = -1
        self.spot: Met | None = None
        """The spot of the world that its way ends at."""
        self.used_from: tuple[float, float] | None = None
        """Where it was when the player last used something else (law T4)."""
        self.strayed = (0.0, 0.0)
        """How far it has gone since then while it was locked."""
        self.picked = -1
        """The scene's version in which the offers were found at this position."""
        self.hovered: dict[Node, None] = {}
        self.hovered_for: Hold | None = None
        """By whose hold the hover was last brought up to date for these offers; None: it has to be looked at."""
        self.idle: Verdict | None = None
        """The answer to a move that changes nothing; None when that has to be found out anew."""
        self.spent_by = ""
        self.last_click: LastPress | None = None

    @property
    def blind(self) -> bool:
        """Whether it hovers nothing wherever it is (laws P2, P11), so that an idle move need not be hit-tested."""
        return self.hold is WORLD or self.hold is SPENT
