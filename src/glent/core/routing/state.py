"""The state of one router: what its parts share, as data, and what the lower parts may ask of those above them.

Calls go downwards: router, seats, gestures, keys, focus, pointers, hit. Where something below has to tell something
above, such as a press that begins a contest, it does so by a protocol of this module. So no file below names one above,
and each part can be read with what lies under it alone.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from glent.core.input.feel import with_changes
from glent.core.input.validate import LATEST

if TYPE_CHECKING:
    from collections.abc import Mapping

    from glent.core.input.feel import Feel
    from glent.core.input.samples import PointerSample, RaySample, WheelSample
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.pointers.pointer import Pointer, Press
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.seats.lifts import Lifts
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.timers import Timers
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["MAIN", "State"]

MAIN = "main"


class GesturesAbove(Protocol):
    """The gestures, as pointers and the focus see them."""

    def begin(self, pointer: Pointer, press: Press) -> None:
        """Gather who competes for a press."""

    def look(self, pointer: Pointer) -> None:
        """Take note that what a pointer hovers may have changed."""

    def forget(self, nodes: list[Node]) -> None:
        """Forget nodes that have left the scene."""

    def scroll(self, node: Node, dx: float, dy: float, how: str, pointer: Pointer) -> tuple[float, float]:
        """Scroll an area by a distance in its own space. Return what was used of it."""

    def wheel_holder(self, sample: WheelSample, view: SeatView) -> Node | None:
        """The area that a burst of the wheel stays with."""

    def turn_wheel(self, sample: WheelSample, offers: list[Node], pointer: Pointer) -> Node | None:
        """Scroll by wheel. Return who had it."""

    def close(self) -> None:
        """Let nothing run any more."""


class SeatsAbove(Protocol):
    """The seats, as pointers, keys and the focus see them."""

    def refresh(self) -> None:
        """Bring what each seat sees up to date."""

    def note_acting(self, pointer: Pointer | None, sample: PointerSample | RaySample) -> None:
        """Note whose sample this is."""

    def note_tip(self, name: str, pointer: Pointer | None) -> None:
        """Note whose fingertip's sample this is."""

    def hand_to(self, pointer: Pointer) -> None:
        """Give a pointer to the seat that it is at."""

    def forget(self, pointer: Pointer) -> None:
        """Forget a pointer that is gone."""

    def pressed(self, pointer: Pointer) -> None:
        """Move the focus after a press."""

    def set_focus(self, seat: Seat, node: Node | None, ring: bool) -> None:
        """Move a seat's focus."""

    def show(self, node: Node) -> None:
        """Scroll a node into view."""

    def is_pressing(self, node: Node) -> bool:
        """Whether a key or a button of a pad presses a node."""

    def close(self) -> None:
        """End all focus."""


class SettlingAbove(Protocol):
    """The settle loop, as those that it settles see it."""

    seen: int
    """The scene's version that all is settled for."""

    def settle(self) -> None:
        """Settle seats, hover and presses."""

    def settle_seats(self) -> None:
        """Settle what has opened, closed, come or gone for each seat."""


class State:
    """What the parts of one router share.

    :ivar scene: what is hit. :ivar feel: the adjustable times and distances. :ivar now: the time of the sample being
        routed, seconds. :ivar dispatcher: sends events. :ivar timers: fire by sample time. :ivar lifts: what the world
        must believe to be up. :ivar pointers: by name. :ivar seats_by_name: all seats, the main one first.
    :ivar owners: by device, whose it is. :ivar main: the seat that is always there.
    :ivar many: whether there is more than one, so that a shared pointer may change hands.
    """

    __slots__ = (
        "dispatcher",
        "feel",
        "gestures",
        "lifts",
        "main",
        "many",
        "now",
        "owners",
        "pointers",
        "scene",
        "seats",
        "seats_by_name",
        "settling",
        "timers",
    )

    gestures: GesturesAbove
    seats: SeatsAbove
    settling: SettlingAbove
    main: Seat

    def __init__(self, scene: Scene, feel: Feel, dispatcher: Dispatcher, timers: Timers, lifts: Lifts) -> None:
        self.scene = scene
        self.feel = feel
        self.now = -LATEST
        self.dispatcher = dispatcher
        self.timers = timers
        self.lifts = lifts
        self.pointers: dict[str, Pointer] = {}
        self.seats_by_name: dict[str, Seat] = {}
        self.owners: dict[str, Seat] = {}
        self.many = False

    def join(self, gestures: GesturesAbove, seats: SeatsAbove, settling: SettlingAbove) -> None:
        """Note the parts above, which are made after this."""
        self.gestures = gestures
        self.seats = seats
        self.settling = settling

    def enter(self, scene: Scene) -> None:
        """Note another scene."""
        self.scene = scene

    def add_seat(self, seat: Seat) -> None:
        """Note a seat; the first is the main one."""
        if not self.seats_by_name:
            self.main = seat
        self.seats_by_name[seat.name] = seat
        self.many = len(self.seats_by_name) > 1

    def remove_seat(self, seat: Seat) -> None:
        """Forget a seat."""
        del self.seats_by_name[seat.name]
        self.many = len(self.seats_by_name) > 1

    def give(self, device: str, seat: Seat) -> None:
        """Note whose a device is."""
        self.owners[device] = seat

    def take(self, device: str) -> None:
        """Note that a device is no seat's any more."""
        del self.owners[device]

    def pass_time(self, time: float) -> None:
        """Note the time of the sample that is being routed now."""
        self.now = time

    def feel_of(self, node: Node) -> Feel:
        """The feel at a node: the router's, with the changes of the nodes from its layer down to it."""
        changes: list[Mapping[str, object]] = []
        one: Node | None = node
        while one is not None:
            change = one._gesture_traits.feel
            if change is not None:
                changes.append(change)
            one = one._parent
        feel = self.feel
        for change in reversed(changes):
            feel = with_changes(feel, change)
        return feel

    def seat_of(self, device: str) -> Seat:
        """The seat of a device; one of no seat is the main seat's."""
        return self.owners.get(device, self.main)

    def seat_at(self, x: float, y: float) -> Seat:
        """The seat in whose viewport a point of the window is; the main seat where there is none."""
        if self.many:
            for seat in reversed(self.seats_by_name.values()):
                if seat._viewport is not None and self.is_inside(seat, x, y):
                    return seat
        return self.main

    def is_inside(self, seat: Seat, x: float, y: float) -> bool:
        """Whether a point of the window is in a seat's viewport."""
        if seat._viewport is None:
            return True
        left, top, width, height = seat._viewport
        across, down = self.scene._window
        return left * across <= x < (left + width) * across and top * down <= y < (top + height) * down

    def pointers_of(self, seat: Seat) -> list[Pointer]:
        """The pointers of a seat."""
        return [pointer for pointer in self.pointers.values() if pointer.seat is seat]
