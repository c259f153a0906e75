"""Key routing: a control with two states goes down or up: a key, a button of a pad, half an axis of a stick (W3, W4).

Who is asked, in this order: who wants a new binding; the drag that Escape abandons; the topmost modal's scope;
composition; the focused text field; the focus path; activate; shortcuts; navigation; back; the world.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.bindings import modifiers_of
from glent.core.input.samples import PointerButton
from glent.core.routing import reasons as because
from glent.core.routing.aim import aim_at, on_screen
from glent.core.routing.event import Event
from glent.core.routing.focus.tab_order import can_focus, is_barred, is_text
from glent.core.routing.keys.held_repeat import HeldRepeat
from glent.core.routing.keys.key_hold import NAVIGATION, NOBODY, PRESSING, UI, WORLD, KeyHold, KeyPress
from glent.core.routing.pointers.dismiss import back
from glent.core.routing.pointers.unowned import kept_from_world
from glent.core.routing.seat_view import is_sliding
from glent.core.routing.verdict import Verdict
from glent.core.scene.layer import Layer

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.focus.navigation import Navigation
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.reasons import Reason
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["KeyPresses", "activate", "makes_text", "shortcut_listener"]

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


def makes_text(code: str, key: str | None, modifiers: tuple[str, ...]) -> bool:
    """Whether a key makes text or edits it, so that a focused text field claims it (law W3)."""
    if "Control" in modifiers or "Meta" in modifiers or "Alt" in modifiers:
        return code in EDIT_CODES
    if key is not None and len(key) == 1:
        return True
    if code.startswith(("Key", "Digit", "Numpad")):
        return code != "NumpadEnter"
    return code in TEXT_CODES or code in EDIT_CODES


class KeyPresses:
    """The router of key presses; it keeps who holds what until it is up."""

    __slots__ = ("_dispatcher", "_navigation", "_pointing", "_repeat", "_state", "held")

    def __init__(self, state: State, pointing: Pointing, navigation: Navigation) -> None:
        self._state = state
        self._dispatcher = state.dispatcher
        self._pointing = pointing
        self._navigation = navigation
        self._repeat = HeldRepeat(state, self._told_again, self._go_on)
        self.held: dict[tuple[str, str], KeyHold] = {}
        """By device and code."""

    def modifiers(self, device: str) -> tuple[str, ...]:
        """The modifier keys that are down on a device."""
        return modifiers_of(code for (on, code), held in self.held.items() if on == device and not held.unseen)

    def modifiers_of(self, seat: Seat) -> tuple[str, ...]:
        """The modifier keys that are down on the keyboards of a seat."""
        return modifiers_of(code for (_, code), held in self.held.items() if held.seat is seat and not held.unseen)

    # -- down --------------------------------------------------------------------------------------------------------

    def down(self, seat: Seat, press: KeyPress, time: float) -> Verdict:
        """Route a control that went down."""
        old = self.held.pop((press.device, press.code), None)
        if old is not None:  # its release got lost on the way
            self._tell_up(old, press, time)
            if old.who is WORLD:
                self._state.lifts.add((old.name,))
        chord, bare = self._chords(press)
        action = seat.bindings.action(chord) or seat.bindings.action(bare)
        if action is None and press.key is not None and bare == press.code:
            action = seat.bindings.action(press.key)
        held = self.held[press.device, press.code] = KeyHold(seat, press, action)
        verdict = self._ask(seat, press, held, chord, time)
        verdict._action = held.action
        return verdict

    def _chords(self, press: KeyPress) -> tuple[str, str]:
        """A key's name with the modifiers that are down, and its bare name, if none but Shift is down."""
        if press.channel == "pad":
            return press.code, press.code
        modifiers = tuple(name for name in self.modifiers(press.device) if not press.code.startswith(name))
        chord = "+".join([*modifiers, press.code])
        return chord, press.code if modifiers in ((), ("Shift",)) else chord

    def _ask(self, seat: Seat, press: KeyPress, held: KeyHold, chord: str, time: float) -> Verdict:
        view, focus, what = seat.view, seat._focus, press.what
        if seat._asking is not None:
            if press.channel == "keys" and modifiers_of((press.code,)):
                held.answers = True  # alone, or as a part of a chord: that shows when it comes up, or another goes down
                return Verdict(because.USED, what)
            seat._answer(chord if press.channel == "keys" else press.code)
            return Verdict(because.BOUND, what, about=seat.name)
        if "Escape" in (press.code, press.key):
            verdict = self._pointing.abandon_drags(what, seat)
            if verdict is not None:
                return verdict
        top = view.top
        if top is not None and view.top_is_foreign:
            return Verdict(because.MODAL, what, about=top)
        text = focus.node if is_text(focus.node) else None
        if text is not None and seat._composing is not None and press.channel == "keys":
            self._tell_down(text, press, held, time)
            return self._for_node(held, text, because.COMPOSING, what)
        if seat._composed == time and ("Enter" in (press.code, press.key) or "Escape" in (press.code, press.key)):
            return Verdict(because.COMPOSED, what)
        opened, closings = seat._opened, seat._modal_stack.closings
        target = focus.node or view.ear(press.channel)
        if target is not None:
            taker = self._tell_down(target, press, held, time)
            if taker is not None:
                verdict = self._for_node(held, taker, because.TAKEN, what)
                if press.channel == "pad" and held.action in NAVIGATE:
                    self._repeat.tell(held)
                return verdict
            self._state.settling.settle_seats()
            if seat._opened != opened:
                return Verdict(because.OPENED, what, about=view.top or "a modal")
            if seat._modal_stack.closings != closings:
                return Verdict(because.SHUT, what)
        if text is not None and focus.node is text and press.channel == "keys":
            makes = makes_text(press.code, press.key, self.modifiers(press.device))
            if makes:
                return self._for_node(held, text, because.TYPED, what)
        return self._act(seat, press, held, time) or self._rest(seat, press, held)

    def _act(self, seat: Seat, press: KeyPress, held: KeyHold, time: float) -> Verdict | None:
        """Do what a control is bound to; None if there is nothing to do."""
        focus, action, what = seat._focus, held.action, press.what
        if action is None:
            return None
        if ":" in action:
            return self._shortcut(seat, press, held, action, time)
        if action == "activate":
            node = focus.node
            if node is None or not focus.has_keys(press.channel):
                return None
            held.moves = focus.moves
            self._for_node(held, node, because.PRESSED, what)
            held.who = PRESSING
            return Verdict(because.PRESSED, what, owner=node)
        if action == "back":
            return self._back(seat, press, held, time)
        return self._navigate(seat, press, held, NAVIGATE[action], time)

    def _shortcut(self, seat: Seat, press: KeyPress, held: KeyHold, action: str, time: float) -> Verdict | None:
        """Send a shortcut of the game's own to the node that listens for it; None if none does."""
        node = shortcut_listener(seat.view, action)
        if node is None:
            return None
        data = {"device": press.device, "code": press.code, "action": action}
        event = Event(action, node, press.device, time, (0.0, 0.0), None, 0, 0, data, seat.name)
        self._dispatcher.send(event, node.lineage())
        return self._for_node(held, node, because.SHORTCUT, press.what)

    def _back(self, seat: Seat, press: KeyPress, held: KeyHold, time: float) -> Verdict | None:
        """Close the topmost thing that can be closed, or do the shortcut that shares the control: first, where the
        layer of what would be closed says so, or else where there is nothing to close (laws M4, F5)."""
        view, what = seat.view, press.what
        own = seat.bindings.shared(self._chords(press)[0])
        if own is not None:
            front = next((node for node in view.closable if view.keeps(node)), view.top)
            layer = front.root if front is not None else None
            if layer is None or (isinstance(layer, Layer) and layer.shortcuts_first):
                verdict = self._shortcut(seat, press, held, own, time)
                if verdict is not None or layer is None:
                    held.action = own
                    return verdict
        closed, about = back(self._state, seat, time)
        return Verdict(because.CLOSED, what, about=about) if closed else self._used_up(about, what)

    @staticmethod
    def _used_up(top: Node | None, what: str) -> Verdict | None:
        return Verdict(because.KEPT_OPEN, what, about=top) if top is not None else None

    def _navigate(self, seat: Seat, press: KeyPress, held: KeyHold, direction: str, time: float) -> Verdict | None:
        if not _may_navigate(seat, press, direction):
            return None
        verdict = self._step(seat, direction, press.what, time)
        if verdict._reason is because.NOTHING and not seat.view.has(press.channel):
            return None  # nothing to focus anywhere: nobody's key to use up
        held.who = NAVIGATION
        if press.channel == "pad":
            self._repeat.navigate(held, direction)
        return verdict

    def _step(self, seat: Seat, direction: str, what: str, time: float) -> Verdict:
        """Move the focus one step, and say what came of it."""
        before = seat._focus.node
        node = self._navigation.go(seat, direction, time)
        if node is not None and node is not before:
            return Verdict(because.NAVIGATED, what, owner=node)
        if before is None:
            return Verdict(because.NOTHING, what)
        return Verdict(because.NO_WAY, what, about=before)

    def _rest(self, seat: Seat, press: KeyPress, held: KeyHold) -> Verdict:
        """Give what nobody wanted to the world, unless it is kept from it."""
        verdict = kept_from_world(seat.view, press.channel, press.what)
        if verdict is None:
            held.who = WORLD
            return Verdict(because.KEY, press.what, True)
        return verdict

    def _for_node(self, held: KeyHold, node: Node, reason: Reason, what: str) -> Verdict:
        held.who, held.owner = UI, node
        held.modals = held.seat._modals_seen
        return Verdict(reason, what, owner=node)

    def tell_again(self, held: KeyHold, time: float) -> None:
        """Tell whoever took a key or button that it is still held; behind a modal that opened since, nobody (M1)."""
        if held.modals[0] == held.seat._opened and held.heard is not None and _can_hear(held.seat.view, held.heard):
            self._tell_down(held.heard, held.press, held, time, repeat=True)

    def _told_again(self, held: KeyHold, time: float) -> bool:
        """Tell whoever took a button of a pad that it is still held. Return whether it is."""
        if self.held.get((held.press.device, held.press.code)) is not held or held.who != UI:
            return False
        self.tell_again(held, time)
        return True

    def _go_on(self, held: KeyHold, direction: str, time: float) -> bool:
        """Move the focus one more step. Return whether the control is still held for that."""
        if self.held.get((held.press.device, held.press.code)) is not held or not self._navigates(held, direction):
            return False
        self._navigation.go(held.seat, direction, time)
        return True

    @staticmethod
    def _navigates(held: KeyHold, direction: str) -> bool:
        """Whether a held control may move the focus on: nothing has opened or closed since it went down, and its
        seat's keys are the UI's still. Otherwise it is nobody's until it is up (laws W3, W4)."""
        if held.who != NAVIGATION:
            return False
        if held.is_as_it_was and _may_navigate(held.seat, held.press, direction):
            return True
        held.who = NOBODY
        return False

    def _tell_down(self, node: Node, press: KeyPress, held: KeyHold, time: float, repeat: bool = False) -> Node | None:
        """Send ``key_down`` along the path to a node. Return who took it."""
        if not self._dispatcher.listeners.get("key_down") and not self._dispatcher.listeners.get("key_up"):
            return None
        event = self._event("key_down", node, press, held, time, repeat)
        held.heard = node
        self._dispatcher.send(event, node.lineage())
        return event.taker

    @staticmethod
    def _event(
        kind: str,
        node: Node,
        press: KeyPress,
        held: KeyHold,
        time: float,
        repeat: bool = False,
        cancelled: bool = False,
    ) -> Event:
        data = {
            "device": press.device,
            "code": press.code,
            "key": press.key,
            "action": held.action,
            "repeat": repeat,
            "cancelled": cancelled,
        }
        return Event(kind, node, press.device, time, (0.0, 0.0), None, 0, 0, data, held.seat.name)

    # -- again, and up -------------------------------------------------------------------------------------------------

    def again(self, press: KeyPress, time: float) -> Verdict:
        """Route the system's repeat of a held key to the holder of its press; activate and back ignore it (W4)."""
        held = self.held.get((press.device, press.code))
        what = press.what
        if held is None:
            return Verdict(because.STRAY, what)
        held.unseen = False  # it repeats, so it is down
        if held.who is WORLD:
            return Verdict(because.KEY, what, True)
        if held.who is UI and held.owner is not None:
            self.tell_again(held, time)
            return Verdict(because.KEY_HELD, what, owner=held.owner)
        if held.action in NAVIGATE and self._navigates(held, NAVIGATE[held.action]):
            return self._step(held.seat, NAVIGATE[held.action], what, time)
        if held.who is PRESSING:
            return Verdict(because.KEY_HELD, what, owner=held.owner)
        return Verdict(because.USED, what)

    def up(self, press: KeyPress, time: float) -> Verdict:
        """Route a control that went up to whoever got its press (law W3)."""
        held = self.held.pop((press.device, press.code), None)
        what = press.what
        if held is None:
            return Verdict(because.STRAY, what)
        if held.answers and held.seat._asking is not None:
            held.seat._answer(press.code)
            return Verdict(because.BOUND, what, about=held.seat.name)
        self._tell_up(held, press, time)
        owner = held.owner if held.owner is not None and held.owner._scene is not None else None
        if held.who is WORLD:
            return Verdict(because.KEY, what, True)
        if held.who is PRESSING and owner is not None:
            if held.is_still_focused and can_focus(held.seat.view, owner):
                activate(self._dispatcher, owner, press.device, time, held.seat.name, press.code)
                return Verdict(because.ACTIVATED, what, owner=owner)
            return Verdict(because.MOVED_ON, what, about=owner)
        if held.who is UI and owner is not None:
            return Verdict(because.KEY_HELD, what, owner=owner)
        return Verdict(because.USED, what)

    def _tell_up(self, held: KeyHold, press: KeyPress, time: float, cancelled: bool = False) -> None:
        node, held.heard = held.heard, None
        if node is not None and node._scene is not None:
            event = self._event("key_up", node, press, held, time, cancelled=cancelled)
            self._dispatcher.send(event, node.lineage())

    def _end(self, held: KeyHold, time: float) -> None:
        """End what a control does that is still down: who heard it hears that, and the rest of it is nobody's."""
        if held.who is WORLD:
            self._state.lifts.add((held.name,))
        held.who = NOBODY
        self._tell_up(held, held.press, time, cancelled=True)

    def settle(self, seat: Seat, time: float) -> None:
        """End what the controls of a seat do to nodes that can hear them no more: they are hidden, disabled, or behind
        a modal (laws S5, M1, P6)."""
        for held in list(self.held.values()):
            if held.seat is seat and held.heard is not None and not _can_hear(seat.view, held.heard):
                if held.who in (UI, PRESSING):
                    held.who = NOBODY
                self._tell_up(held, held.press, time, cancelled=True)

    def removing(self, gone: Node, time: float) -> None:
        """Book the release that is owed to a node which is about to be removed with all below it (law P6)."""
        for held in self.held.values():
            node = held.heard
            if node is not None and node.is_within(gone):
                held.heard = None
                event = self._event("key_up", node, held.press, held, time, cancelled=True)
                self._dispatcher.owed.append(event)

    # -- lifts ---------------------------------------------------------------------------------------------------------

    def lift(self, seat: Seat, channel: str, text_only: bool = False) -> list[str]:
        """Lift what the world holds of a seat's on a channel; the releases will be nobody's (law W3)."""
        lifts = []
        for (device, code), held in self.held.items():
            if held.seat is seat and held.who is WORLD and held.press.channel == channel:
                if text_only and not makes_text(code, held.press.key, ()):
                    continue
                held.who = NOBODY
                lifts.append(f"{device}/{code}")
        return lifts

    def end_presses(self, seat: Seat) -> None:
        """End what held controls do to the focus: a modal has opened (law M1)."""
        for held in self.held.values():
            if held.seat is seat and held.who in (NAVIGATION, PRESSING):
                held.who = NOBODY

    def is_pressing(self, node: Node) -> bool:
        """Whether a key or button that is held presses a node."""
        return any(held.who is PRESSING and held.owner is node and held.is_still_focused for held in self.held.values())

    def drop(self, device: str, keep: frozenset[str], time: float) -> None:
        """Let the controls of a device that are not in ``keep`` come up, and lift what the world held of them."""
        for key in [key for key in self.held if key[0] == device and key[1] not in keep]:
            self._end(self.held.pop(key), time)

    def blur(self, time: float) -> None:
        """End what all controls do: the window has lost the focus. Their releases may get lost (law P11)."""
        for held in list(self.held.values()):
            self._end(held, time)
            held.unseen = True

    def leave_scene(self, time: float) -> None:
        """End what controls do to nodes: the router leaves their scene. What the world holds it keeps (law W3)."""
        for held in self.held.values():
            if held.who is not WORLD:
                held.who = NOBODY
            self._tell_up(held, held.press, time, cancelled=True)

    def hand_over(self, device: str, seat: Seat, time: float) -> None:
        """Give a device to another seat: what is down of it is nobody's until it is up (laws T2, W3)."""
        for held in [held for (on, _), held in self.held.items() if on == device]:
            self._end(held, time)
            held.seat = seat

    def hold(self, seat: Seat, press: KeyPress) -> None:
        """Book a control that is down though its press was not seen: it is nobody's until it is up (law T4)."""
        self.held.setdefault((press.device, press.code), KeyHold(seat, press, None)).unseen = False

    def held_by_world(self, seat: Seat) -> list[str]:
        """The controls of a seat that the world has."""
        return [f"{device}/{code}" for (device, code), held in self.held.items()
                if held.seat is seat and held.who is WORLD]  # fmt: skip

    def forget(self, seat: Seat) -> None:
        """Give what a removed seat still holds to nobody."""
        for held in self.held.values():
            if held.seat is seat:
                held.seat, held.who = self._state.main, NOBODY


def activate(dispatcher: Dispatcher, node: Node, device: str, time: float, seat: str, code: str) -> bool:
    """Send ``activate`` to a node and, unless a handler takes it, the click it stands for. Return whether it was taken.

    Both are at the node's middle; ``event.pointer`` is the device, and ``data["code"]`` its control.
    """
    scene = node._scene
    if scene is None:
        return False
    width, height = node.size
    pos = on_screen(node, width / 2.0, height / 2.0)
    data = {"device": device, "code": code}
    path = node.lineage()
    event = Event("activate", node, device, time, pos, None, 0, 0, data, seat)
    event.aim = aim_at(node)
    if dispatcher.send(event, path):
        return True
    if node._scene is not None:
        click = Event("click", node, device, time, pos, PointerButton.PRIMARY, 0, 1, data, seat)
        click.aim = event.aim
        dispatcher.send(click, path)
    return False


def shortcut_listener(view: SeatView, action: str) -> Node | None:
    """The node that gets a shortcut, or None: of the layers front to back, then of what stands in the world, the latest
    first. Cost: a walk of the scene, if anything listens for it at all."""
    scene = view.scene
    if view.top_is_foreign or scene._listeners.get(action, 0) <= 0:
        return None
    for root in (*scene._front, *reversed(scene.in_world)):
        if is_sliding(root):
            continue
        for node in reversed(list(root.walk())):
            if node.listens(action) and _can_hear(view, node) and view.whose(node) == "own":
                return node
    return None


def _may_navigate(seat: Seat, press: KeyPress, direction: str) -> bool:
    """Whether a control may move the focus: its seat's keys are the UI's, or it is Tab, which enters the UI (W4)."""
    enters = direction in ("next", "previous") and press.channel == "keys"
    return enters or seat._focus.has_keys(press.channel)


def _can_hear(view: SeatView, node: Node) -> bool:
    """Whether a node may still hear of a key that it heard go down."""
    return node.is_visible and node.is_enabled and not is_barred(view, node)
