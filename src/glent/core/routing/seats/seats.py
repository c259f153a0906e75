"""The seats of a router: whose each device is, who hears what comes from no pointer, and focus (laws T1–T3, W2–W4)."""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from glent.core.arguments import is_choice, listed
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
from glent.core.routing.keys.keyboard import route_key
from glent.core.routing.keys.routing import KeyPresses
from glent.core.routing.keys.text import route_compose, route_text
from glent.core.routing.pointers import hover
from glent.core.routing.pointers.dismiss import back
from glent.core.routing.pointers.pointer import FREE, UI, WORLD, names_of
from glent.core.routing.seats.seat import Seat, checked_viewport
from glent.core.routing.seats.window import route_window
from glent.core.routing.state import MAIN
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.bindings import Bindings
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.state import State
    from glent.core.scene.fit import Viewport
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Seats"]


class Seats:
    """All seats of one router."""

    __slots__ = (
        "_dispatcher",
        "_lifts",
        "_pointing",
        "_scene",
        "_state",
        "acting",
        "key_presses",
        "navigation",
        "pads",
    )

    def __init__(self, state: State, pointing: Pointing) -> None:
        self._state = state
        self._pointing = pointing
        self._dispatcher = state.dispatcher
        self._scene = state.scene
        self._lifts = state.lifts
        self.navigation = Navigation(state)
        self.key_presses = KeyPresses(state, pointing, self.navigation)
        self.pads = Gamepads(state, self.key_presses)
        self.acting = self._make(MAIN, None)
        """Whose pointer's sample is being routed, as long as there are many."""
        state.add_seat(self.acting)

    def _make(self, name: str, bindings: Bindings | None) -> Seat:
        return Seat(self, self._scene, self._dispatcher, name, bindings)

    # -- seats and their devices ---------------------------------------------------------------------------------------

    def add(self, name: str, devices: Iterable[str], viewport: Viewport | None, bindings: Bindings | None) -> Seat:
        """Add a seat. A refused one leaves no trace."""
        if not isinstance(name, str) or not name:
            raise SeatError(f"a seat cannot be named {name!r}, expected a name")
        devices = _listed_devices(name, devices)
        old = self._state.seats_by_name.get(name)
        if old is not None:
            wanted = ", ".join(map(str, devices)) or "none"
            raise SeatError(
                f"seat {name} is there already, with devices {', '.join(old.devices) or 'none of its own'} and viewport"
                f" {old.viewport}; it cannot be added again with {wanted} and {viewport}"
            )
        own = self._checked_devices(name, devices)
        checked = checked_viewport(name, viewport)
        seat = self._make(name, bindings)
        self._state.add_seat(seat)
        self._hand_over(seat, own)
        if checked is not None:
            self._show_in(seat, checked)
        self._scene_changed()
        return seat

    def remove(self, seat: Seat) -> None:
        """Take a seat away: its pointers leave and cancel, what the world holds by it is lifted (law P6)."""
        if seat is self._state.main:
            raise SeatError("the seat main cannot be removed: it has the devices that are nobody else's")
        self._hand_over(seat, ())
        for pointer in self._state.pointers_of(seat):
            self._pointing.let_go(pointer)
        self.set_focus(seat, None, False)
        self.key_presses.forget(seat)
        self._state.remove_seat(seat)
        self._scene._set_viewport(seat.name, None)
        self._scene_changed()

    def assign(self, seat: Seat, devices: Iterable[str]) -> None:
        """Give a seat other devices."""
        self._hand_over(seat, self._checked_devices(seat.name, devices))
        self._scene_changed()

    def _checked_devices(self, name: str, devices: Iterable[str]) -> tuple[str, ...]:
        given = _listed_devices(name, devices)
        for device in given:
            if not isinstance(device, str) or not device:
                raise SeatError(f"seat {name}: devices names {device!r}, expected names such as keys, pad0 or mouse")
            if given.count(device) > 1:
                raise SeatError(f"seat {name}: devices names {device} twice, expected every device once")
            other = self._state.owners.get(device)
            if other is not None and other.name != name:
                raise SeatError(f"seat {name}: the device {device} is already given to seat {other.name}")
        return given

    def _hand_over(self, seat: Seat, devices: tuple[str, ...]) -> None:
        for device in sorted(set(seat._devices) ^ set(devices)):
            given = device in devices
            now = seat if given else self._state.main
            self.key_presses.hand_over(device, now, self._state.now)
            self._lifts.add(self.pads.hand_over(device, now))
            self._let_go_of_pointer(device)
            if given:
                self._state.give(device, seat)
                self._dispatcher.seats[device] = seat.name
            else:
                self._state.take(device)
                self._dispatcher.seats.pop(device, None)
        seat._devices = devices

    def let_go(self, device: str) -> None:
        """Lift and cancel all that a device holds: it is unplugged (law T4)."""
        self.key_presses.drop(device, frozenset(), self._state.now)
        self._lifts.add(self.pads.drop(device, frozenset()))
        self._let_go_of_pointer(device)

    def _let_go_of_pointer(self, device: str) -> None:
        for seat in self._state.seats_by_name.values():
            seat._drop_kept(device)
        pointer = self._state.pointers.get(device)
        if pointer is not None:
            self._pointing.let_go(pointer)

    def set_viewport(self, seat: Seat, viewport: Viewport | None) -> None:
        """Give a seat another part of the window."""
        self._show_in(seat, checked_viewport(seat.name, viewport))
        self._scene_changed()

    def _show_in(self, seat: Seat, viewport: Viewport | None) -> None:
        seat._viewport = viewport
        self._scene._set_viewport(seat.name, viewport)

    def _scene_changed(self) -> None:
        self._scene._version += 1
        for pointer in self._state.pointers.values():
            pointer.remember(None)

    def hand_to(self, pointer: Pointer) -> None:
        """Give a pointer to the seat that it is at (law T2): it leaves first, as the old one's."""
        seat = self._state.owners.get(pointer.name)
        if seat is None:
            on_screen = pointer.ray is None and pointer.tip is None
            seat = self._state.seat_at(*pointer.pos) if pointer.hold is FREE and on_screen else pointer.seat
        if seat is not pointer.seat:
            hover.change_hover(self._dispatcher, pointer, {}, self._state.now)
            pointer.change_hands(seat)
            if seat is self._state.main:
                self._dispatcher.seats.pop(pointer.name, None)
            else:
                self._dispatcher.seats[pointer.name] = seat.name
        self.acting = seat

    def note_acting(self, pointer: Pointer | None, sample: PointerSample | RaySample) -> None:
        """Note whose sample this is, whatever becomes of it."""
        if pointer is not None:
            self.acting = pointer.seat
        else:
            owner = self._state.owners.get(sample.pointer)
            self.acting = owner or (
                self._state.seat_at(sample.x, sample.y) if isinstance(sample, PointerSample) else self._state.main
            )

    def note_tip(self, name: str, pointer: Pointer | None) -> None:
        """Note whose fingertip's sample this is."""
        self.acting = pointer.seat if pointer is not None else self._state.seat_of(name)

    def forget(self, pointer: Pointer) -> None:
        """Forget a pointer that is gone; one of that name that comes again may be another seat's."""
        owner = self._state.owners.get(pointer.name)
        if owner is None or owner is self._state.main:
            self._dispatcher.seats.pop(pointer.name, None)

    # -- keeping it true -----------------------------------------------------------------------------------------------

    def route(self, item: Sample | float | None) -> Verdict:
        """Route what comes from no pointer: a key, text, a pad, the window; or let time pass."""
        if isinstance(item, KeySample):
            return route_key(self._state, self.key_presses, item)
        if isinstance(item, PadSample):
            return self.pads.route(item)
        if isinstance(item, TextSample):
            return route_text(self._state, item)
        if isinstance(item, ComposeSample):
            return route_compose(self._state, item)
        if isinstance(item, WindowSample):
            return route_window(self._pointing, self, item)
        return Verdict(because.TIME, "tick")

    def take_back(self, item: Sample | float | None, verdict: Verdict, since: int) -> None:
        """Take a press back from the world, where it opened what takes it away again (law W3)."""
        new = self.pads.began if isinstance(item, PadSample) else not (isinstance(item, KeySample) and item.repeat)
        view = self._state.seats_by_name.get(verdict._seat, self._state.main).view
        self._lifts.take_back(item, verdict, since, view, new)

    def refresh(self) -> None:
        """Bring what each seat sees up to date."""
        self._scene._index.refresh()
        for seat in self._state.seats_by_name.values():
            seat.view.refresh()

    def removing(self, node: Node) -> None:
        """Tell focus, modals and keys that a node is about to be removed with all below it."""
        for seat in self._state.seats_by_name.values():
            seat._focus.removing(node, self._state.now)
            seat._modal_stack.removing(node)
        self.key_presses.removing(node, self._state.now)

    def close(self) -> None:
        """End all focus and all questions, and lift what the world holds."""
        for device in sorted({device for device, _ in self.key_presses.held} | self.pads.devices):
            self.key_presses.drop(device, frozenset(), self._state.now)
            self._lifts.add(self.pads.drop(device, frozenset()))
        for seat in self._state.seats_by_name.values():
            seat.stop_asking()
            self.set_focus(seat, None, False)
            self._scene._set_viewport(seat.name, None)

    def leave_scene(self) -> None:
        """End all focus and what keys and pads do to nodes; what the world holds it keeps."""
        self.key_presses.leave_scene(self._state.now)
        self.pads.leave_scene()
        for seat in self._state.seats_by_name.values():
            self.set_focus(seat, None, False)
            seat._leave_scene()
            self._scene._set_viewport(seat.name, None)

    def enter_scene(self, scene: Scene) -> None:
        """Show another scene to the seats, each in its part of the window."""
        self._scene = scene
        for seat in self._state.seats_by_name.values():
            if seat._viewport is not None:
                scene._set_viewport(seat.name, seat._viewport)
        scene._index.refresh()
        for seat in self._state.seats_by_name.values():
            seat.view.enter(scene)

    def held_by_world(self, seat: Seat) -> frozenset[str]:
        """What the world should believe to be down or deflected."""
        held = {*self.key_presses.held_by_world(seat), *self.pads.held_by_world(seat)}
        for pointer in self._state.pointers_of(seat):
            if pointer.hold is WORLD:
                held.update(names_of(pointer.name, pointer.buttons))
        return frozenset(held)

    # -- what seats ask (glent.core.routing.seats.seat) ----------------------------------------------------------------

    def used(self, seat: Seat) -> None:
        """Take note that a player has begun to use another kind of device (law T4)."""
        for pointer in self._state.pointers_of(seat):
            pointer.rest_here()

    def show(self, node: Node) -> None:
        """Scroll a node into view."""
        self.navigation.show(node)

    def modifiers_of(self, seat: Seat) -> tuple[str, ...]:
        """The modifier keys that are down."""
        return self.key_presses.modifiers_of(seat)

    def is_pressing(self, node: Node) -> bool:
        """Whether a key or a button of a pad presses a node."""
        return self.key_presses.is_pressing(node)

    # -- focus ---------------------------------------------------------------------------------------------------------

    def set_focus(self, seat: Seat, node: Node | None, ring: bool) -> None:
        """Move a seat's focus, and with it composition and the keys that make text."""
        seat._focus.go(node, ring, self._state.now)
        self.after_focus(seat)

    def after_focus(self, seat: Seat) -> None:
        """Let text focus claim the keys that make text (law W3), and end what was composed elsewhere."""
        node = seat._focus.node
        composing = seat._composing
        if composing is not None and composing is not node:
            seat._composing = None
            if composing._scene is not None:
                data = {"text": "", "cursor": 0}
                self._dispatcher.send(
                    Event("compose", composing, "keys", self._state.now, (0.0, 0.0), None, 0, 0, data, seat.name),
                    composing.lineage(),
                )
        if is_text(node):
            self._lifts.add(self.key_presses.lift(seat, "keys", text_only=True))

    def pressed(self, pointer: Pointer) -> None:
        """Move the focus after a press: to the innermost stop it landed on; one on the world takes it away."""
        seat = pointer.seat
        focus = seat._focus
        press = pointer.press
        if pointer.hold is UI and press is not None and pointer.grab is None:
            if press.target is focus.node:
                focus.ring = False
                return
            if not all(node.press_focuses for node in press.path):
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

    def navigate_by_code(self, seat: Seat, direction: str) -> Node | None:
        """Move a seat's focus as a key does. Return where it is then."""
        if not is_choice(direction, DIRECTIONS):
            raise SceneError(
                f"seat {seat.name}: cannot navigate {direction!r}, expected one of {', '.join(DIRECTIONS)}"
            )
        self.refresh()
        return self.navigation.go(seat, direction, self._state.now)

    def back_by_code(self, seat: Seat) -> bool:
        """Close the topmost thing that can be closed."""
        self.refresh()
        return back(self._state, seat, self._state.now)[0]


def _listed_devices(name: str, devices: object) -> tuple[str, ...]:
    given = (devices,) if isinstance(devices, str) else listed(devices)
    if given is None:
        raise SeatError(f"seat {name}: devices is {devices!r}, expected names such as keys, pad0 or mouse")
    return given
