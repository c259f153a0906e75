"""The seats of a router: whose each device is, who hears what comes from no pointer, and focus (laws T1–T3, W2–W4)."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from glent.core.errors import SceneError, SeatError
from glent.core.input.samples import (
    ComposeSample,
    KeySample,
    PadSample,
    PointerSample,
    RaySample,
    Sample,
    TextSample,
    WindowSample,
)
from glent.core.routing import reasons as because
from glent.core.routing.event import Event
from glent.core.routing.focus.navigation import DIRECTIONS, Navigation
from glent.core.routing.focus.tab_order import can_focus, is_stop, is_text
from glent.core.routing.keys.gamepad import Gamepads
from glent.core.routing.keys.held_repeat import HeldRepeat
from glent.core.routing.keys.keyboard import route_key
from glent.core.routing.keys.routing import KeyPresses
from glent.core.routing.keys.text import route_compose, route_text
from glent.core.routing.pointers import hover
from glent.core.routing.pointers.dismiss import back
from glent.core.routing.pointers.pointer import FREE, UI, WORLD, names_of
from glent.core.routing.pointers.press_guard import KeptPresses
from glent.core.routing.seats.seat import Seat, checked_viewport
from glent.core.routing.seats.window import route_window
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.bindings import Bindings
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.timers import Timers
    from glent.core.scene.fit import Viewport
    from glent.core.scene.node import Node

__all__ = ["MAIN", "Seats"]

MAIN = "main"


class Seats:
    """All seats of one router.

    :ivar lifts: the ledger of what the world must believe to be up.
    """

    __slots__ = (
        "acting",
        "all",
        "dispatcher",
        "held_repeat",
        "kept",
        "key_presses",
        "lifts",
        "main",
        "navigation",
        "owners",
        "pads",
        "pointing",
        "scene",
    )

    def __init__(self, pointing: Pointing, timers: Timers) -> None:
        self.pointing = pointing
        self.dispatcher = pointing.dispatcher
        self.scene = pointing.scene
        self.lifts = pointing.lifts
        self.owners: dict[str, Seat] = {}
        """By device, whose it is."""
        self.key_presses = KeyPresses(self)
        self.pads = Gamepads(self)
        self.navigation = Navigation(self)
        self.held_repeat = HeldRepeat(self, timers)
        self.kept = KeptPresses(self)
        self.main = Seat(self, MAIN, None)
        self.all: dict[str, Seat] = {MAIN: self.main}
        self.acting = self.main
        """Whose pointer's sample is being routed, as long as there are many."""

    @property
    def now(self) -> float:
        """The time of the sample being routed."""
        return self.pointing.now

    # -- seats and their devices ---------------------------------------------------------------------------------------

    def add(self, name: str, devices: Iterable[str], viewport: Viewport | None, bindings: Bindings | None) -> Seat:
        """Add a seat. A refused one leaves no trace."""
        if not isinstance(name, str) or not name:
            raise SeatError(f"a seat cannot be named {name!r}, expected a name")
        devices = (devices,) if isinstance(devices, str) else tuple(devices)
        old = self.all.get(name)
        if old is not None:
            wanted = ", ".join(map(str, devices)) or "none"
            raise SeatError(
                f"seat {name} is there already, with devices {', '.join(old.devices) or 'none of its own'} and viewport"
                f" {old.viewport}; it cannot be added again with {wanted} and {viewport}"
            )
        own = self._checked_devices(name, devices)
        checked = checked_viewport(name, viewport)
        seat = Seat(self, name, bindings)
        self.all[name] = seat
        self.pointing.many = True
        self._hand_over(seat, own)
        if checked is not None:
            self._show_in(seat, checked)
        self._scene_changed()
        return seat

    def remove(self, seat: Seat) -> None:
        """Take a seat away: its pointers leave and cancel, what the world holds by it is lifted (law P6)."""
        if seat is self.main:
            raise SeatError("the seat main cannot be removed: it has the devices that are nobody else's")
        self._hand_over(seat, ())
        for pointer in self.pointers_of(seat):
            self.pointing.let_go(pointer)
        self.set_focus(seat, None, False)
        self.key_presses.forget(seat)
        del self.all[seat.name]
        self.pointing.many = len(self.all) > 1
        self.scene._set_viewport(seat.name, None)
        self._scene_changed()

    def assign(self, seat: Seat, devices: Iterable[str]) -> None:
        """Give a seat other devices."""
        self._hand_over(seat, self._checked_devices(seat.name, devices))
        self._scene_changed()

    def _checked_devices(self, name: str, devices: Iterable[str]) -> tuple[str, ...]:
        given = (devices,) if isinstance(devices, str) else tuple(devices)
        for device in given:
            if not isinstance(device, str) or not device:
                raise SeatError(f"seat {name}: devices names {device!r}, expected names such as keys, pad0 or mouse")
            if given.count(device) > 1:
                raise SeatError(f"seat {name}: devices names {device} twice, expected every device once")
            other = self.owners.get(device)
            if other is not None and other.name != name:
                raise SeatError(f"seat {name}: the device {device} is already given to seat {other.name}")
        return given

    def _hand_over(self, seat: Seat, devices: tuple[str, ...]) -> None:
        for device in sorted(set(seat._devices) ^ set(devices)):
            self.let_go(device)
            if device in devices:
                self.owners[device] = seat
                self.dispatcher.seats[device] = seat.name
            else:
                del self.owners[device]
                self.dispatcher.seats.pop(device, None)
        seat._devices = devices

    def let_go(self, device: str) -> None:
        """Lift and cancel all that a device holds: it is unplugged, or another seat's (laws T2, T4)."""
        self.lifts.add(self.key_presses.drop(device, frozenset(), self.now))
        self.lifts.add(self.pads.drop(device, frozenset()))
        pointer = self.pointing.pointers.get(device)
        if pointer is not None:
            self.pointing.let_go(pointer)

    def set_viewport(self, seat: Seat, viewport: Viewport | None) -> None:
        """Give a seat another part of the window."""
        self._show_in(seat, checked_viewport(seat.name, viewport))
        self._scene_changed()

    def _show_in(self, seat: Seat, viewport: Viewport | None) -> None:
        seat._viewport = viewport
        self.scene._set_viewport(seat.name, viewport)

    def _scene_changed(self) -> None:
        self.scene._version += 1
        for pointer in self.pointing.pointers.values():
            pointer.remember(None)

    def of(self, device: str) -> Seat:
        """The seat of a device; one of no seat is the main seat's."""
        return self.owners.get(device, self.main)

    def at(self, x: float, y: float) -> Seat:
        """The seat in whose viewport a point of the window is; the main seat where there is none."""
        if self.pointing.many:
            for seat in reversed(self.all.values()):
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

    def hand_to(self, pointer: Pointer) -> None:
        """Give a pointer to the seat that it is at (law T2): it leaves first, as the old one's."""
        seat = self.owners.get(pointer.name)
        if seat is None:
            on_screen = pointer.ray is None and pointer.tip is None
            seat = self.at(*pointer.pos) if pointer.hold is FREE and on_screen else pointer.seat
        if seat is not pointer.seat:
            pointing = self.pointing
            hover.set_hover(self.dispatcher, pointer, {}, pointing.now)
            pointer.change_hands(seat)
            if seat is self.main:
                self.dispatcher.seats.pop(pointer.name, None)
            else:
                self.dispatcher.seats[pointer.name] = seat.name
        self.acting = seat

    def note_acting(self, pointer: Pointer | None, sample: PointerSample | RaySample) -> None:
        """Note whose sample this is, whatever becomes of it."""
        if pointer is not None:
            self.acting = pointer.seat
        else:
            owner = self.owners.get(sample.pointer)
            self.acting = owner or (self.at(sample.x, sample.y) if isinstance(sample, PointerSample) else self.main)

    def forget(self, pointer: Pointer) -> None:
        """Forget a pointer that is gone; one of that name that comes again may be another seat's."""
        owner = self.owners.get(pointer.name)
        if owner is None or owner is self.main:
            self.dispatcher.seats.pop(pointer.name, None)

    def pointers_of(self, seat: Seat) -> list[Pointer]:
        """The pointers of a seat."""
        return [pointer for pointer in self.pointing.pointers.values() if pointer.seat is seat]

    # -- keeping it true -----------------------------------------------------------------------------------------------

    def route(self, item: Sample | float | None) -> Verdict:
        """Route what comes from no pointer: a key, text, a pad, the window; or let time pass."""
        if isinstance(item, KeySample):
            return route_key(self, item)
        if isinstance(item, PadSample):
            return self.pads.route(item)
        if isinstance(item, TextSample):
            return route_text(self, item)
        if isinstance(item, ComposeSample):
            return route_compose(self, item)
        if isinstance(item, WindowSample):
            return route_window(self.pointing, item)
        return Verdict(because.TIME, "tick")

    def take_back(self, item: Sample | float | None, verdict: Verdict, since: int) -> None:
        """Take a press back from the world, where it opened what takes it away again (law W3)."""
        new = self.pads.began if isinstance(item, PadSample) else not (isinstance(item, KeySample) and item.repeat)
        view = self.all.get(verdict._seat, self.main).view
        self.lifts.take_back(item, verdict, since, view, new)

    def refresh(self) -> None:
        """Bring what each seat sees up to date."""
        self.scene._index.refresh()
        for seat in self.all.values():
            seat.view.refresh()

    def removing(self, node: Node) -> None:
        """Tell focus, modals and keys that a node is about to be removed with all below it."""
        for seat in self.all.values():
            seat._focus.removing(node, self.now)
            seat._modal_stack.removing(node)
        self.key_presses.removing(node, self.now)

    def close(self) -> None:
        """End all focus and all questions, and lift what the world holds."""
        for device in sorted({device for device, _ in self.key_presses.held} | self.pads.devices):
            self.lifts.add(self.key_presses.drop(device, frozenset(), self.now))
            self.lifts.add(self.pads.drop(device, frozenset()))
        for seat in self.all.values():
            seat.stop_asking()
            self.set_focus(seat, None, False)
            self.scene._set_viewport(seat.name, None)

    def held_by_world(self, seat: Seat) -> frozenset[str]:
        """What the world should believe to be down or deflected."""
        held = {*self.key_presses.held_by_world(seat), *self.pads.held_by_world(seat)}
        for pointer in self.pointers_of(seat):
            if pointer.hold is WORLD:
                held.update(names_of(pointer.name, pointer.buttons))
        return frozenset(held)

    # -- focus ---------------------------------------------------------------------------------------------------------

    def set_focus(self, seat: Seat, node: Node | None, ring: bool) -> None:
        """Move a seat's focus, and with it composition and the keys that make text."""
        seat._focus.go(node, ring, self.now)
        self.after_focus(seat)

    def after_focus(self, seat: Seat) -> None:
        """Let text focus claim the keys that make text (law W3), and end what was composed elsewhere."""
        node = seat._focus.node
        composing = seat._composing
        if composing is not None and composing is not node:
            seat._composing = None
            if composing._scene is not None:
                data = {"text": "", "cursor": 0}
                self.dispatcher.send(
                    Event("compose", composing, "keys", self.now, (0.0, 0.0), None, 0, 0, data, seat.name),
                    composing.lineage(),
                )
        if is_text(node):
            self.lifts.add(self.key_presses.lift(seat, "keys", text_only=True))

    def pressed(self, pointer: Pointer) -> None:
        """Move the focus after a press: to the innermost stop it landed on; one on the world takes it away."""
        seat = pointer.seat
        focus = seat._focus
        press = pointer.press
        if pointer.hold is UI and press is not None and pointer.grab is None:
            if press.target is focus.node:
                focus.ring = False
                return
            for node in reversed(press.path):
                if is_stop(node):
                    if focus.node is node:
                        focus.ring = False
                    elif can_focus(seat.view, node):
                        self.set_focus(seat, node, False)
                    return
        elif pointer.hold is WORLD and focus.node is not None and seat.view.top is None:
            self.set_focus(seat, None, False)

    def keys_are_ui(self, seat: Seat, channel: str) -> bool:
        """Whether keys or a pad move focus and activate now: a modal is open, the channel is claimed, or focus came by
        key or pad. Focus that a pointer left somewhere does not take the game's keys (law F4)."""
        if seat.view.top is not None or seat.view.has(channel):
            return True
        focus = seat._focus
        return focus.node is not None and (focus.ring or is_text(focus.node))

    def ear(self, seat: Seat, channel: str) -> Node | None:
        """The node that hears keys that there is no focus for: the topmost modal, or the layer that claims them."""
        view = seat.view
        node = view.top if view.top is not None else view.claimed.get(channel)
        return node if node is not None and not view.top_is_foreign and view.whose(node) == "own" else None

    def kept_from_world(self, seat: Seat, channel: str, what: str) -> Verdict | None:
        """The verdict if a channel is kept from the world, else None (laws M1, W2)."""
        view = seat.view
        if view.top is not None:
            return Verdict(because.MODAL, what, about=view.top)
        if view.has(channel):
            return Verdict(because.CLAIMED, what, about=view.claimed[channel])
        return None

    def navigate_by_code(self, seat: Seat, direction: str) -> Node | None:
        """Move a seat's focus as a key does. Return where it is then."""
        if direction not in DIRECTIONS:
            raise SceneError(
                f"seat {seat.name}: cannot navigate {direction!r}, expected one of {', '.join(DIRECTIONS)}"
            )
        self.refresh()
        return self.navigation.go(seat, direction, self.now)

    def back_by_code(self, seat: Seat) -> bool:
        """Close the topmost thing that can be closed."""
        self.refresh()
        return back(self, seat, self.now)[0]
