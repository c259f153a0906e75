"""The settle loop: seats, then hover and presses, brought in line with the scene as it is now (laws P7, M1, W3, F3).

One round lets scroll areas keep within their content and followers follow their boxes, brings the index up to date,
settles the seats, and then each pointer. A round whose handlers changed the scene is followed by another, up to
``ROUNDS``; then the handlers undo each other, which is reported. Seats come to rest within a round by the same loop,
and also by themselves where a sample has opened something: what opens lifts and spends at once.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SettleError
from glent.core.routing.hit.offers import find
from glent.core.routing.pointers import hover
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.pointer import FREE, UI, WORLD
from glent.core.routing.pointers.press_guard import deliver_kept
from glent.core.scene.layer import CHANNELS

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.gestures.scroll_area import ScrollAreas
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.seats.seats import Seats
    from glent.core.scene.node import Node

__all__ = ["Settling"]

ROUNDS = 8
"""How often the loop goes round before it gives up on handlers that undo each other (law P7)."""

NO_REST = (
    f"hover did not come to rest within {ROUNDS} rounds: handlers of enter, leave or cancel keep undoing each other's"
    " changes to the scene"
)
SEATS_NO_REST = f"modals and focus did not come to rest within {ROUNDS} rounds: handlers undo each other's changes"


class Settling:
    """The settle loop of one router.

    :ivar seen: the scene's version that all is settled for. :ivar seats_seen: the one that seats are settled for.
    :ivar boxes_seen: the count of moved boxes that followers have followed.
    """

    __slots__ = ("_areas", "_pointing", "_scene", "_seats", "_state", "boxes_seen", "seats_seen", "seen")

    def __init__(self, pointing: Pointing, areas: ScrollAreas, seats: Seats) -> None:
        self._state = pointing.state
        self._scene = pointing.state.scene
        self._pointing = pointing
        self._areas = areas
        self._seats = seats
        self.seen = self.seats_seen = self.boxes_seen = -1

    def settle(self) -> None:
        """Settle seats, hover and presses, round by round until handlers change nothing more (law P7)."""
        scene = self._scene
        if self.seen == scene._version:
            return
        self._until_at_rest(self._round, scene._index.refresh, NO_REST)
        self.seen = scene._version
        for pointer in self._state.pointers.values():
            pointer.remember(None)

    def settle_seats(self) -> None:
        """Settle what has opened, closed, come or gone for each seat."""
        scene = self._scene
        if self.seats_seen == scene._version:
            return
        self._until_at_rest(self._seats_round, self._seats.refresh, SEATS_NO_REST)
        self.seats_seen = scene._version

    def _until_at_rest(self, one_round: Callable[[], None], give_up: Callable[[], None], message: str) -> None:
        scene, dispatcher = self._scene, self._state.dispatcher
        begun = 0
        for _ in range(ROUNDS):
            version, begun = scene._version, len(dispatcher.events)
            one_round()
            if scene._version == version:
                return
        give_up()
        # What the last round sent, and to whom: it is among these that handlers undo each other.
        told = dict.fromkeys(f"{event.kind} of {event.node.path}" for event in dispatcher.events[begun:])
        among = f"; among these: {', '.join(list(told)[:6])}" if told else ""
        dispatcher.report(SettleError(message + among), None)

    def _round(self) -> None:
        self._areas.keep_within()
        self.follow_boxes()
        self._scene._index.refresh()
        self.settle_seats()
        for pointer in list(self._state.pointers.values()):
            self._settle_pointer(pointer)

    def _seats_round(self) -> None:
        self._seats.refresh()
        for seat in list(self._state.seats_by_name.values()):
            self._settle_seat(seat)

    def follow_boxes(self) -> None:
        """Let what follows others' boxes follow them."""
        scene = self._scene
        self.boxes_seen = scene._shifts
        for settling in scene._on_settle:
            try:
                settling.call()
            except Exception as error:
                self._state.dispatcher.report(error, None)

    def _settle_pointer(self, pointer: Pointer) -> None:
        state = self._state
        held = pointer.press
        if pointer.hold is UI and held is not None:
            why = presses.is_gone(pointer, held)
            if why:
                self._pointing.cancel(pointer, why, "vanished")
        offers = find(state, pointer)
        pointer.see(offers, state.scene._version)
        if held is not None:
            held.look_inside(hover.depth_over(offers, held.path))
        hover.set_hover(state, pointer)

    def _settle_seat(self, seat: Seat) -> None:
        seats, lifts = self._seats, self._state.lifts
        view, now = seat.view, self._state.now
        new = seat._modal_stack.newly_open()
        if new:
            seat._opened += 1
            why = f"{new[-1].path}, which is modal, has opened"
            if seat._kept is not None and not all(one.is_within(seat._kept[0]) for one in new):
                seat._drop_kept()
            if view.is_local(new[-1]):
                self._spend_on(seat, [one.root for one in new], why)
            else:
                seats.key_presses.end_presses(seat)
                self._spend(seat, why, True)
        for channel in CHANNELS:  # in one order, so that a replay is the same byte for byte (law R7)
            if channel not in view.claimed:
                continue
            if channel == "pointer":
                self._spend(seat, f"{view.claimed[channel].path} claims the pointer", False)
            else:
                lifts.add(seats.key_presses.lift(seat, channel))
                if channel == "pad":
                    lifts.add(seats.pads.lift(seat))
        seat._modal_stack.update(new, seat.uses_keys, now)
        seat._focus.settle(now)
        seats.after_focus(seat)
        seats.key_presses.settle(seat, now)
        deliver_kept(self._state, seat)

    def _spend(self, seat: Seat, why: str, all_of_them: bool) -> None:
        """Spend the pointers of a seat that are down: all, or those that the world holds (laws M1, W3)."""
        for pointer in self._state.pointers_of(seat):
            if pointer.hold is WORLD or (all_of_them and pointer.hold is not FREE):
                self._pointing.end(pointer, why, "vanished")

    def _spend_on(self, seat: Seat, panels: list[Node], why: str) -> None:
        """Spend the pointers of a seat that hold something on these panels (law M1)."""
        for pointer in self._state.pointers_of(seat):
            if pointer.press is not None and pointer.press.path[0] in panels:
                self._pointing.cancel(pointer, why, "vanished")
