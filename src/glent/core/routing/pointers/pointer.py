"""One pointer: what it holds, the table of what may happen to it, and each transition as a method.

Who has a pointer is its ``hold``, from a press until its buttons are up. What a sample does to it then, and the law:

======== ============================ ============================== =========================== =====================
hold     move                         press                          release                     cancel
======== ============================ ============================== =========================== =====================
free     hovers; offered front to     lands: ``own``, ``deny``,      stray (P1)                  free; a finger is
         back (P5, P10)               ``to_world`` or ``spend``                                  forgotten (P1, P8)
                                      (P2, S5, M1, M2, W2)
UI       its owner's, or its          its owner's, as a further      ``release``, perhaps        ``end``: all who heard
         gesture's (P4, G5)           button (P10); abandons a       ``click``; the last one     the press are told
                                      drag: ``spend`` (G3)           frees it (P3, P10)          (P6)
world    the world's (P2)             the world's (P2)               the world's; the last one   ``end``: the world is
                                                                     frees it (P2)               told to lift (P11)
nobody   nobody's (S5)                nobody's (S5)                  nobody's; the last one      ``end``
                                                                     frees it (S5)
spent    nobody's (P11, G3, M1)       nobody's (P11)                 nobody's; the last one      ``end``
                                                                     frees it (P11)
======== ============================ ============================== =========================== =====================

Handlers, the settle loop and the window may end a press between samples: ``cancel`` with a reason leaves it spent
until its buttons are up. Only the methods here write these fields (a test reads the source to prove it); the two paths
that speed rules, an idle move and a drag that goes on, are named there.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any, ClassVar, Final, Literal, Protocol

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.geometry.world.throw import Throw
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import PointerButton, PointerSample, RaySample
    from glent.core.routing.aim import Aim, Mark
    from glent.core.routing.grab import Grab
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.verdict import Drop, Verdict
    from glent.core.scene.node import Node
    from glent.core.scene.panel import Panel
    from glent.core.scene.posed import Met

__all__ = ["BY_CODE", "FREE", "NOBODY", "SPENT", "UI", "WORLD", "Hold", "Pointer", "Press", "bit_of", "names_of"]

_BITS = (1, 4, 2, 8, 16)  # W3C: the bits of `buttons` are not in the order of `button`
_NAMES = ("primary", "auxiliary", "secondary", "back", "forward")


def bit_of(button: int) -> int:
    """The bit of a button in a W3C ``buttons`` mask."""
    return _BITS[button]


def names_of(pointer: str, buttons: int) -> tuple[str, ...]:
    """The buttons of a mask as controls of a device: ``mouse/primary``."""
    return tuple(f"{pointer}/{name}" for bit, name in zip(_BITS, _NAMES, strict=True) if buttons & bit)


BY_CODE: Final = "code"
"""The name of the pointer in events that no pointer made."""

FREE: Final = "free"  # no button is down
UI: Final = "ui"  # a node owns it
WORLD: Final = "world"  # the world has it
NOBODY: Final = "nobody"  # its press came to a disabled solid
SPENT: Final = "spent"  # its owner was cancelled or is gone
Hold = Literal["free", "ui", "world", "nobody", "spent"]
"""Who has a pointer until its buttons are up. Plain constants: they are compared several times for every sample."""


class Winner(Protocol):
    """A gesture that has won a press, as its pointer sees it."""

    name: ClassVar[str]
    abandons: ClassVar[bool]
    keeps_look: ClassVar[bool]
    node: Node


class Contest(Protocol):
    """The contest for a press, as its pointer sees it: a contact of the gestures."""

    open: bool
    drop: Drop | None

    @property
    def winner(self) -> Winner | None:
        """The gesture that has won, or None while it is undecided."""

    @property
    def button(self) -> PointerButton:
        """The button that began it."""

    @property
    def step(self) -> tuple[float, float]:
        """How far the last sample took it."""

    @property
    def _look_delayed(self) -> bool:
        """Whether its pressed look does not show yet (law G5)."""

    @property
    def _ending(self) -> str:
        """What came of it, in words."""

    def _competitors(self) -> tuple[tuple[str, Node], ...]:
        """Who competes, or has won: names of gestures with their nodes."""

    def _went(self, time: float, step: tuple[float, float], sample: PointerSample | RaySample) -> None:
        """Book a sample."""

    def _book_tip(self, time: float) -> None:
        """Book a fingertip's sample."""

    def _moved(self) -> None:
        """Tell those who compete that the pointer moved."""

    def _released(self) -> None:
        """Tell the winner that the button is up; where nobody had won, it was a tap."""

    def cancel(self, why: str) -> None:
        """End it without a release."""

    def removed(self, gone: set[Node]) -> None:
        """Take note that nodes have left the scene."""

    def _scrolled_under(self) -> None:
        """Take note that what lies under the pointer has scrolled, though the pointer is still."""


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
        self,
        target: Node,
        path: list[Node],
        button: PointerButton,
        count: int,
        time: float,
        pos: tuple[float, float],
        heard: dict[Node, int] | None = None,
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
        self.heard: dict[Node, int] = {} if heard is None else heard
        self.inside = True
        self.over = False
        self.contact: Contest | None = None

    def compete(self, contact: Contest | None) -> None:
        """Note the contest for it; None once that is over."""
        self.contact = contact

    def look_inside(self, depth: int) -> None:
        """Note down to which depth of its path the pointer is over it (law P4)."""
        self.inside = depth >= self.owner._depth

    def end(self) -> None:
        """Note that it has ended as a press."""
        self.over = True

    def give_to(self, node: Node, inside: bool) -> None:
        """Give it to a node that has won or grabbed the pointer; as a press it has ended."""
        self.over = True
        self.owner = self.target = node
        self.path = node.lineage()
        self.inside = inside

    def shorten(self, left: list[Node]) -> None:
        """Take removed parts of its owner out of its path (law P2)."""
        for node in self.path:
            if node not in left:
                self.heard.pop(node, None)
        self.path = left
        self.target = left[-1]

    def take_heard(self) -> dict[Node, int]:
        """Take out who heard it, so that nobody is told of its end twice.

        Emptied and not replaced: a press that is still on its way notes here who hears it from now on.
        """
        heard = dict(self.heard)
        self.heard.clear()
        return heard


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
        "throw",
        "tip",
        "tip_ray",
        "touched",
        "used_from",
        "used_way",
        "way",
    )

    def __init__(
        self,
        name: str,
        kind: str,
        seat: Seat,
        pos: tuple[float, float] | None = None,
        aim: Aim | None = None,
        buttons: int = 0,
    ) -> None:
        self.name = name
        self.kind = kind
        self.seat = seat
        """Whose it is at present."""
        self.pos = pos if pos is not None else (0.0, 0.0)
        self.away = pos is None
        """Nowhere over the window, as before its first sample."""
        self.buttons = buttons
        self.hold: Hold = FREE
        self.press: Press | None = None
        self.grab: Grab | None = None
        self.dragging: Any = None  # a Contact: the fast path of a drag knows
        """The contact by which it drags, if it does: its moves can go a shorter way."""
        self.jumped = False
        """Whether its next absolute sample adds no distance: it was locked, or warped (law P12)."""
        self.offers: list[Node] = []
        self.barrier: Barrier | None = None
        """What blocks the way behind the offers, so that the world does not get what they leave."""
        self.used_way: Ray | None = None
        """Where it pointed then, if it is a ray."""
        self.way: Ray | None = None
        """Where it points, if it is a ray of its own; ``throw``: how it goes on from there, if not straight;
        ``ray``: what it meets things along, which of a throw is one piece."""
        self.throw: Throw | None = None
        self.ray: Ray | None = None
        self.tip: Vector3 | None = None
        """Where it is in the world, if it is a fingertip; ``touched``: the panel it presses; ``armed``: those that
        it is near, in front of, and where."""
        self.tip_ray: Ray | None = None
        """From there square onto the panel that it presses."""
        self.touched: Panel | None = None
        self.armed: dict[Panel, tuple[float, float, float]] = {}
        self.aim = aim
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

    @property
    def is_in_world(self) -> bool:
        """Whether it points at the world, or is a fingertip in it."""
        return self.aim is not None or self.tip is not None

    # -- who has it: the transitions of the table ----------------------------------------------------------------------

    def own(self, press: Press) -> None:
        """Give it to the owner of a press (law P2)."""
        self.press, self.hold = press, UI

    def deny(self, press: Press) -> None:
        """Give it to nobody: its press landed on a disabled solid (law S5)."""
        self.press, self.hold = press, NOBODY

    def to_world(self) -> None:
        """Give it to the world (law P2)."""
        self.press, self.hold, self.last_click = None, WORLD, None

    def spend(self, why: str) -> None:
        """Let nobody have it until its buttons are up (laws P11, M1); it is free if none is down."""
        self.press, self.hold, self.spent_by = None, (SPENT if self.buttons else FREE), why
        self.idle = self.last_click = None

    def free(self) -> None:
        """Take it from whoever has it. A count of clicks goes on."""
        self.press, self.hold = None, FREE

    def end(self, why: str) -> tuple[Press | None, Grab | None]:
        """Take it from whoever has it, without a click: spent if there is a reason, or free. Return the press that a
        node owned, and the grab of it."""
        held = self.press if self.hold is UI else None
        self.spend(why)
        if not why:
            self.hold = FREE
        return held, self.ungrab()

    def grabbed_by(self, grab: Grab, press: Press) -> Grab | None:
        """Give it to a node that grabs it. Return the grab before."""
        before, self.grab = self.grab, grab
        self.own(press)
        self.won()
        return before

    def ungrab(self) -> Grab | None:
        """Take the grab from it, if there is one, and return that."""
        grab, self.grab = self.grab, None
        return grab

    def won(self) -> None:
        """Note that a gesture has won its press: what it hovers, and its count of clicks, are another matter now."""
        self.unsettle()
        self.last_click = None

    # -- its buttons ---------------------------------------------------------------------------------------------------

    def down(self, button: PointerButton) -> None:
        """Note that a button went down."""
        self.buttons |= _BITS[button]

    def up(self, button: PointerButton) -> None:
        """Note that a button went up."""
        self.buttons &= ~_BITS[button]

    def has_down(self, buttons: int) -> None:
        """Note which buttons are down, as a W3C mask."""
        self.buttons = buttons

    def count(self, last: LastPress | None) -> None:
        """Note the press that the next one is counted by; None ends the count (law G1)."""
        self.last_click = last

    # -- where it is ---------------------------------------------------------------------------------------------------

    def step_to(self, x: float, y: float, scale: float) -> tuple[float, float]:
        """Move it to a point of the window. Return how far that is, in logical pixels (law P12)."""
        x0, y0 = self.pos
        jumped = self.jumped or self.away
        if x != x0 or y != y0 or self.away:
            self.pos, self.away = (x, y), False
            self.picked = self.aimed = -1
        self.jumped = False
        return (0.0, 0.0) if jumped else ((x - x0) / scale, (y - y0) / scale)

    def turn_to(self, way: Ray, throw: Throw | None = None) -> None:
        """Point a ray elsewhere, or to the same place as before; a throw goes its own way from there."""
        if way != self.way or throw != self.throw or self.away:
            self.way, self.throw, self.away = way, throw, False
            self.ray = way
            self.picked = self.aimed = -1
        self.jumped = False

    def tip_to(self, tip: Vector3) -> None:
        """Move a fingertip in the world."""
        self.tip, self.away = tip, False
        self.aimed = self.picked = -1
        self.idle = None

    def touch(self, panel: Panel | None) -> None:
        """Note the panel that a fingertip presses; without one it is nowhere."""
        self.touched, self.away = panel, panel is None

    def follow(self, piece: Ray) -> None:
        """Note the piece of its throw that meets something."""
        self.ray = piece

    def face(self, ray: Ray) -> None:
        """Note the way from a fingertip square onto the panel that it presses."""
        self.ray, self.tip_ray = None, ray

    def jump(self) -> None:
        """Let the next sample add no distance: it was locked, or warped (law P12)."""
        self.jumped, self.idle = True, None

    def leave(self) -> None:
        """Let it be nowhere over the window."""
        self.away, self.picked, self.idle = True, -1, None

    def vanish(self) -> None:
        """Let it be nowhere, over nothing: it is about to be forgotten."""
        self.away, self.spot, self.offers = True, None, []

    def leave_scene(self) -> None:
        """Let it be over nothing: the router leaves the scene. Where it is on the screen or in the world stays."""
        self.offers, self.barrier, self.picked, self.hovered_for = [], None, -1, None
        self.aim, self.aimed, self.spot = None, -1, None
        self.tip_ray, self.touched, self.armed = None, None, {}
        self.idle = self.last_click = None

    def aim_as(self, aim: Aim, version: int) -> None:
        """Note where it points in the world, as found in this version of the scene (law X6)."""
        self.aim, self.aimed = aim, version

    def land_at(self, pos: tuple[float, float]) -> None:
        """Note where a ray or a fingertip is on what it points at, in the pixels of that."""
        self.pos = pos

    def meet(self, spot: Met | None) -> None:
        """Note the spot of the world that its way ends at (law X1)."""
        self.spot = spot

    def stray(self, dx: float, dy: float) -> tuple[float, float]:
        """Add to how far it went, locked, since another device was used. Return the whole (law T4)."""
        self.strayed = x, y = self.strayed[0] + dx, self.strayed[1] + dy
        return x, y

    def rest_here(self) -> None:
        """Measure from here whether it is in use again, once another device is used (law T4)."""
        self.idle = None  # its next move may be a sign of that
        self.used_from, self.strayed = (None if self.away else self.pos), (0.0, 0.0)
        self.used_way = self.way

    def measure_use(self) -> None:
        """Measure from here, if there is no place yet to measure from (law T4)."""
        self.used_from = self.used_from or self.pos
        self.used_way = self.used_way or self.way

    # -- what lies there -----------------------------------------------------------------------------------------------

    def see(self, offers: list[Node], version: int) -> None:
        """Note what lies where it is, as found in this version of the scene."""
        self.offers, self.picked = offers, version

    def seen(self, version: int) -> None:
        """Note that the same lies there in this version of the scene."""
        self.picked = version

    def bar(self, barrier: Barrier | None) -> None:
        """Note what blocks the way behind the offers."""
        self.barrier = barrier

    def hovers_rightly(self) -> None:
        """Note that its hover is right for its offers and for who holds it."""
        self.hovered_for = self.hold

    def unsettle(self) -> None:
        """Have its hover and its answer to an idle move found anew."""
        self.idle = self.hovered_for = None

    def remember(self, verdict: Verdict | None) -> None:
        """Note the answer to a move that changes nothing; None: that has to be found out."""
        self.idle = verdict

    def drag_by(self, contact: Contest | None) -> None:
        """Note the contact by which it drags the short way."""
        self.dragging = contact

    def change_hands(self, seat: Seat) -> None:
        """Give it to another seat, as one that has just come (law T2)."""
        self.seat = seat
        self.offers, self.barrier, self.picked = [], None, -1
        self.hovered_for = self.last_click = None
