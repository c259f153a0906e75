"""A control with two states went down or up: a key, a button of a pad, half an axis of a stick (laws W3, W4).

Who is asked, in this order: who wants a new binding; the drag that Escape abandons; the topmost modal's scope;
composition; the focused text field; the focus path; activate; shortcuts; navigation; back; the world.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.bindings import modifiers_of
from glent.core.input.samples import Button
from glent.core.routing import reasons as because
from glent.core.routing.aim import aim_at, on_screen
from glent.core.routing.event import Event
from glent.core.routing.focus.tab_order import can_focus, is_text
from glent.core.routing.keys.key_hold import NAVIGATION, NOBODY, PRESSING, UI, WORLD, Held
from glent.core.routing.pointers.dismiss import back
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Flow
    from glent.core.routing.reasons import Reason
    from glent.core.routing.seat_view import View
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.seats.seats import Seats
    from glent.core.scene.node import Node

__all__ = ["Stroke", "Strokes"]

NAVIGATE = {
    "navigate_left": "left",
    "navigate_right": "right",
    "navigate_up": "up",
    "navigate_down": "down",
    "next": "next",
    "previous": "previous",
}

TEXT_CODES = frozenset(
    {"Space", "Minus", "Equal", "BracketLeft", "BracketRight", "Backslash", "Semicolon", "Quote", "Backquote", "Comma",
     "Period", "Slash", "IntlBackslash", "IntlRo", "IntlYen"}
)  # fmt: skip
EDIT_CODES = frozenset(
    {
        "Backspace",
        "Delete",
        "Home",
        "End",
        "ArrowLeft",
        "ArrowRight",
        "Insert",
        "ShiftLeft",
        "ShiftRight",
        "AltRight",
        "CapsLock",
    }
)


class Stroke:
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


def makes_text(code: str, key: str | None, modifiers: tuple[str, ...]) -> bool:
    """Whether a key makes text or edits it, so that a focused text field claims it (law W3)."""
    if "Control" in modifiers or "Meta" in modifiers or "Alt" in modifiers:
        return code in EDIT_CODES
    if key is not None and len(key) == 1:
        return True
    if code.startswith(("Key", "Digit", "Numpad")):
        return code != "NumpadEnter"
    return code in TEXT_CODES or code in EDIT_CODES


class Strokes:
    """Routes strokes, and keeps what is held by whom until it is up."""

    __slots__ = ("_seats", "held")

    def __init__(self, seats: Seats) -> None:
        self._seats = seats
        self.held: dict[tuple[str, str], Held] = {}
        """By device and code."""

    def modifiers(self, device: str) -> tuple[str, ...]:
        """The modifier keys that are down on a device."""
        return modifiers_of(code for on, code in self.held if on == device)

    # -- down --------------------------------------------------------------------------------------------------------

    def down(self, seat: Seat, stroke: Stroke, time: float) -> Verdict:
        """Route a control that went down."""
        seats = self._seats
        old = self.held.pop((stroke.device, stroke.code), None)
        if old is not None:  # its release got lost on the way
            self._tell_up(old, stroke, time)
            if old.who is WORLD:
                seats.lifts.add((f"{stroke.device}/{stroke.code}",))
        chord, bare = self._chords(stroke)
        action = seat.bindings.action(chord) or seat.bindings.action(bare)
        if action is None and stroke.key is not None and bare == stroke.code:
            action = seat.bindings.action(stroke.key)
        held = self.held[stroke.device, stroke.code] = Held(seat, stroke, action)
        verdict = self._ask(seat, stroke, held, chord, time)
        verdict._action = action
        return verdict

    def _chords(self, stroke: Stroke) -> tuple[str, str]:
        """A key with the modifiers that are down; and by itself, if none but Shift is down."""
        if stroke.channel == "pad":
            return stroke.code, stroke.code
        modifiers = tuple(name for name in self.modifiers(stroke.device) if not stroke.code.startswith(name))
        chord = "+".join([*modifiers, stroke.code])
        return chord, stroke.code if modifiers in ((), ("Shift",)) else chord

    def _ask(self, seat: Seat, stroke: Stroke, held: Held, chord: str, time: float) -> Verdict:
        seats, view, focus, what = self._seats, seat.view, seat._focus, stroke.what
        if seat._asking is not None:
            seat._answer(chord if stroke.channel == "keys" else stroke.code)
            return Verdict(because.BOUND, what, about=seat.name)
        if "Escape" in (stroke.code, stroke.key):
            verdict = seats.pointing.abandon_drags(what, seat)
            if verdict is not None:
                return verdict
        top = view.top
        if top is not None and view.foreign:
            return Verdict(because.MODAL, what, about=top)
        text = focus.node if is_text(focus.node) else None
        if text is not None and seat._composing is not None and stroke.channel == "keys":
            self._tell_down(text, stroke, held, time)
            return self._for_node(held, text, because.COMPOSING, what)
        if seat._composed == time and ("Enter" in (stroke.code, stroke.key) or "Escape" in (stroke.code, stroke.key)):
            return Verdict(because.COMPOSED, what)
        opened, closings = seat._opened, seat._stack.closings
        target = focus.node or seats.ear(seat, stroke.channel)
        if target is not None:
            taker = self._tell_down(target, stroke, held, time)
            if taker is not None:
                verdict = self._for_node(held, taker, because.TAKEN, what)
                if stroke.channel == "pad" and held.action in NAVIGATE:
                    seats.held_repeat.tell(held)
                return verdict
            seats.pointing.settling.settle_seats()
            if seat._opened != opened:
                return Verdict(because.OPENED, what, about=view.top or "a modal")
            if seat._stack.closings != closings:
                return Verdict(because.SHUT, what)
        if text is not None and focus.node is text and stroke.channel == "keys":
            makes = makes_text(stroke.code, stroke.key, self.modifiers(stroke.device))
            if makes:
                return self._for_node(held, text, because.TYPED, what)
        return self._act(seat, stroke, held, time) or self._rest(seat, stroke, held)

    def _act(self, seat: Seat, stroke: Stroke, held: Held, time: float) -> Verdict | None:
        """Do what a control is bound to, if there is anything to do."""
        focus, action, what = seat._focus, held.action, stroke.what
        if action is None:
            return None
        if ":" in action:
            node = _listener(seat.view, action)
            if node is None:
                return None
            data = {"device": stroke.device, "code": stroke.code, "action": action}
            event = Event(action, node, stroke.device, time, (0.0, 0.0), None, 0, 0, data, seat.name)
            self._seats.flow.send(event, node.line())
            return self._for_node(held, node, because.SHORTCUT, what)
        if action == "activate":
            node = focus.node
            if node is None or not self._seats.takes(seat, stroke.channel):
                return None
            held.moves = focus.moves
            self._for_node(held, node, because.PRESSED, what)
            held.who = PRESSING
            return Verdict(because.PRESSED, what, owner=node)
        if action == "back":
            about = back(self._seats, seat, time)
            return Verdict(because.CLOSED, what, about=about[1]) if about[0] else self._used_up(about[1], what)
        return self._navigate(seat, stroke, held, NAVIGATE[action], time)

    @staticmethod
    def _used_up(top: Node | None, what: str) -> Verdict | None:
        return Verdict(because.KEPT_OPEN, what, about=top) if top is not None else None

    def _navigate(self, seat: Seat, stroke: Stroke, held: Held, way: str, time: float) -> Verdict | None:
        seats = self._seats
        enters = way in ("next", "previous") and stroke.channel == "keys"
        if not (enters or seats.takes(seat, stroke.channel)):
            return None
        verdict = self._step(seat, way, stroke.what, time)
        if verdict._reason is because.NOTHING and not seat.view.has(stroke.channel):
            return None  # nothing to focus anywhere: nobody's key to use up
        held.who = NAVIGATION
        held.opened = seat._opened
        if stroke.channel == "pad":
            seats.held_repeat.navigate(held, way)
        return verdict

    def _step(self, seat: Seat, way: str, what: str, time: float) -> Verdict:
        """Move the focus one step, and say what came of it."""
        before = seat._focus.node
        node = self._seats.navigation.go(seat, way, time)
        if node is not None and node is not before:
            return Verdict(because.NAVIGATED, what, owner=node)
        if before is None:
            return Verdict(because.NOTHING, what)
        return Verdict(because.NO_WAY, what, about=before)

    def _rest(self, seat: Seat, stroke: Stroke, held: Held) -> Verdict:
        """Nobody wanted it: the world's, unless it is kept from it."""
        verdict = self._seats.kept_from_world(seat, stroke.channel, stroke.what)
        if verdict is None:
            held.who = WORLD
            return Verdict(because.KEY, stroke.what, True)
        return verdict

    def _for_node(self, held: Held, node: Node, reason: Reason, what: str) -> Verdict:
        held.who, held.owner, held.opened = UI, node, held.seat._opened
        return Verdict(reason, what, owner=node)

    def tell_again(self, held: Held, time: float) -> None:
        """Tell whoever took a key or button that it is still held; behind a modal that opened since, nobody (M1)."""
        if held.opened == held.seat._opened and held.heard is not None and held.heard._scene is not None:
            self._tell_down(held.heard, held.stroke, held, time, repeat=True)

    def _tell_down(self, node: Node, stroke: Stroke, held: Held, time: float, repeat: bool = False) -> Node | None:
        """Send ``key_down`` along the path to a node; who took it."""
        if not self._seats.flow.listeners.get("key_down") and not self._seats.flow.listeners.get("key_up"):
            return None
        event = self._event("key_down", node, stroke, held, time, repeat)
        held.heard = node
        self._seats.flow.send(event, node.line())
        return event.taker

    @staticmethod
    def _event(kind: str, node: Node, stroke: Stroke, held: Held, time: float, repeat: bool = False) -> Event:
        data = {
            "device": stroke.device,
            "code": stroke.code,
            "key": stroke.key,
            "action": held.action,
            "repeat": repeat,
        }
        return Event(kind, node, stroke.device, time, (0.0, 0.0), None, 0, 0, data, held.seat.name)

    # -- again, and up -------------------------------------------------------------------------------------------------

    def again(self, stroke: Stroke, time: float) -> Verdict:
        """The system repeats a key that is held: for the holder of its press; activate and back ignore it (W4)."""
        held = self.held.get((stroke.device, stroke.code))
        what = stroke.what
        if held is None:
            return Verdict(because.STRAY, what)
        if held.who is WORLD:
            return Verdict(because.KEY, what, True)
        if held.who is UI and held.owner is not None:
            self.tell_again(held, time)
            return Verdict(because.KEY_HELD, what, owner=held.owner)
        if held.who is NAVIGATION and held.opened == held.seat._opened and held.action is not None:
            return self._step(held.seat, NAVIGATE[held.action], what, time)
        if held.who is PRESSING:
            return Verdict(because.KEY_HELD, what, owner=held.owner)
        return Verdict(because.USED, what)

    def up(self, stroke: Stroke, time: float) -> Verdict:
        """A control went up: whoever got its press gets this (law W3)."""
        held = self.held.pop((stroke.device, stroke.code), None)
        what = stroke.what
        if held is None:
            return Verdict(because.STRAY, what)
        self._tell_up(held, stroke, time)
        owner = held.owner if held.owner is not None and held.owner._scene is not None else None
        if held.who is WORLD:
            return Verdict(because.KEY, what, True)
        if held.who is PRESSING and owner is not None:
            if held.is_still_focused and can_focus(held.seat.view, owner):
                _activate(self._seats.flow, owner, stroke.device, time, held.seat.name, stroke.code)
                return Verdict(because.ACTIVATED, what, owner=owner)
            return Verdict(because.MOVED_ON, what, about=owner)
        if held.who is UI and owner is not None:
            return Verdict(because.KEY_HELD, what, owner=owner)
        return Verdict(because.USED, what)

    def _tell_up(self, held: Held, stroke: Stroke, time: float) -> None:
        node, held.heard = held.heard, None
        if node is not None and node._scene is not None:
            self._seats.flow.send(self._event("key_up", node, stroke, held, time), node.line())

    def removing(self, gone: Node, time: float) -> None:
        """A node is about to be removed with all below it: what heard a press there is owed its release (law P6)."""
        for held in self.held.values():
            node = held.heard
            if node is not None and node.is_within(gone):
                held.heard = None
                self._seats.flow.owed.append(self._event("key_up", node, held.stroke, held, time))

    # -- lifts ---------------------------------------------------------------------------------------------------------

    def lift(self, seat: Seat, channel: str, text_only: bool = False) -> list[str]:
        """Lift what the world holds of a seat's on a channel; the releases will be nobody's (law W3)."""
        lifts = []
        for (device, code), held in self.held.items():
            if held.seat is seat and held.who is WORLD and held.stroke.channel == channel:
                if text_only and not makes_text(code, held.stroke.key, ()):
                    continue
                held.who = NOBODY
                lifts.append(f"{device}/{code}")
        return lifts

    def end_presses(self, seat: Seat) -> None:
        """A modal has opened: what is held does nothing more there but come up (law M1)."""
        for held in self.held.values():
            if held.seat is seat and held.who in (NAVIGATION, PRESSING):
                held.who = NOBODY

    def is_pressing(self, node: Node) -> bool:
        """Whether a key or button that is held presses a node."""
        return any(held.who is PRESSING and held.owner is node and held.is_still_focused for held in self.held.values())

    def drop(self, device: str, keep: frozenset[str], time: float) -> list[str]:
        """The controls of a device that are down without being in ``keep`` are up now; what the world held of them."""
        lifts = []
        for key in [key for key in self.held if key[0] == device and key[1] not in keep]:
            held = self.held.pop(key)
            if held.who is WORLD:
                lifts.append(f"{device}/{key[1]}")
            self._tell_up(held, held.stroke, time)
        return lifts

    def blur(self) -> list[str]:
        """The window lost the focus: what the world holds is lifted, and nobody gets what is held until it is up."""
        lifts = [f"{device}/{code}" for (device, code), held in self.held.items() if held.who is WORLD]
        for held in self.held.values():
            held.who = NOBODY
        return lifts

    def hold(self, seat: Seat, stroke: Stroke) -> None:
        """A control went down while nobody was looking: it is nobody's until it is up (law T4)."""
        self.held.setdefault((stroke.device, stroke.code), Held(seat, stroke, None))

    def held_by_world(self, seat: Seat) -> list[str]:
        """The controls of a seat that the world has."""
        return [f"{device}/{code}" for (device, code), held in self.held.items()
                if held.seat is seat and held.who is WORLD]  # fmt: skip

    def forget(self, seat: Seat) -> None:
        """A seat is gone: what is still held is nobody's."""
        for held in self.held.values():
            if held.seat is seat:
                held.seat, held.who = self._seats.main, NOBODY


def _activate(flow: Flow, node: Node, device: str, time: float, seat: str, code: str) -> bool:
    """Send ``activate`` to a node and, unless a handler takes it, the click it stands for; whether it was taken.

    Both are at the node's middle; ``event.pointer`` is the device, and ``data["code"]`` its control.
    """
    scene = node._scene
    if scene is None:
        return False
    width, height = node.size
    pos = on_screen(node, width / 2.0, height / 2.0)
    data = {"device": device, "code": code}
    path = node.line()
    event = Event("activate", node, device, time, pos, None, 0, 0, data, seat)
    event.aim = aim_at(node)
    if flow.send(event, path):
        return True
    if node._scene is not None:
        click = Event("click", node, device, time, pos, Button.PRIMARY, 0, 1, data, seat)
        click.aim = event.aim
        flow.send(click, path)
    return False


def _listener(view: View, action: str) -> Node | None:
    """The node that gets a shortcut, or None. Cost: a walk of the scene, if anything listens for it at all."""
    scene = view.scene
    if view.foreign or scene.listeners.get(action, 0) <= 0:
        return None
    for layer in scene._front:
        if layer in view.deaf:
            continue
        for node in reversed(list(layer.walk())):
            if node.listens(action) and _in_reach(view, node):
                return node
    return None


def _in_reach(view: View, node: Node) -> bool:
    if view.top is not None and not node.is_within(view.top):
        return False
    return node.is_visible and node.is_enabled and view.whose(node) == "own"
