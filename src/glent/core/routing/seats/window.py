"""What happens to the window and to devices as a whole (laws P11, P12, T4)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from glent.core.input.validate import button_of
from glent.core.routing.keys import keyboard as keys
from glent.core.routing.pointers.hover import look_around, set_hover
from glent.core.routing.pointers.pointer import FREE, UI, WORLD, bit_of, names_of
from glent.core.routing.reasons import Reason
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import WindowSample
    from glent.core.routing.keys.gamepad import Gamepads
    from glent.core.routing.keys.routing import KeyPresses
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.state import State

__all__ = ["route_window"]


class Devices(Protocol):
    """What keys and pads hold."""

    key_presses: KeyPresses
    pads: Gamepads

    def let_go(self, device: str) -> None:
        """Lift and cancel all that a device holds."""


def route_window(pointing: Pointing, seats: Devices, sample: WindowSample) -> Verdict:
    """Route a window's sample. Sizes and scales take effect at once, and presses survive them."""
    state = pointing.state
    what, name = sample.what, sample.pointer or ""
    if what == "size" and sample.width is not None and sample.height is not None:
        state.scene.window = (sample.width, sample.height)
        state.settling.settle()
        said = f"its size is {sample.width:g} × {sample.height:g}"
    elif what == "scale" and sample.scale is not None:
        state.scene.scale = sample.scale
        state.settling.settle()
        said = f"a logical pixel is {sample.scale:g} of its pixels"
    elif what == "focus_lost":
        _focus_lost(pointing)
        keys.focus_lost(state, seats.key_presses, seats.pads)
        said = "it lost the focus"
    elif what == "pointer_left":
        _left(state, name)
        said = f"the pointer {name} left it"
    elif what == "warp":
        _warped(state, name)
        said = f"the program put the pointer {name} elsewhere"
    elif what == "device_gone":
        seats.let_go(name)
        said = f"the device {name} was unplugged"
    elif what == "sync":
        _sync(pointing, tuple(sample.held))
        keys.sync(state, seats.key_presses, seats.pads, tuple(sample.held))
        said = f"only these are down: {', '.join(sample.held) or 'none'}"
    else:
        said = "it has the focus"
    return Verdict(Reason.WINDOW, said)


def _focus_lost(pointing: Pointing) -> None:
    """End presses, and lift the buttons the world holds: the window has lost the input focus (law P11)."""
    for seat in pointing.state.seats_by_name.values():
        seat._drop_kept()
    for pointer in list(pointing.state.pointers.values()):
        if pointer.hold is not FREE:
            pointing.end(pointer, "the window lost the input focus")
            set_hover(pointing.state, pointer)


def _sync(pointing: Pointing, held: tuple[str, ...]) -> None:
    """Take these buttons alone for down after a gap: presses whose buttons are up are cancelled; those that went down
    unseen are nobody's (T4)."""
    state = pointing.state
    down: dict[str, int] = {}
    for one in held:
        name, _, button = one.rpartition("/")
        if name in state.pointers:
            down[name] = down.get(name, 0) | bit_of(button_of(button))
    for pointer in list(state.pointers.values()):
        now = down.get(pointer.name, 0)
        gone = pointer.buttons & ~now
        unseen = now & ~pointer.buttons
        pointer.remember(None)
        if gone and not pointer.buttons & now:  # all it was pressed with is up
            pointing.end(pointer)
            if pointer.kind == "touch":
                pointing.forget(pointer, state.now)
                continue
        elif pointer.hold is WORLD:
            state.lifts.add(names_of(pointer.name, gone))
        elif pointer.hold is UI and pointer.press is not None and gone & bit_of(pointer.press.button):
            pointing.cancel(pointer, "the button that began its press went up unseen", "cancelled")
        pointer.has_down(now)
        if unseen and pointer.hold is FREE:
            pointer.spend("its press was not seen")
        look_around(state, pointer)


def _warped(state: State, name: str) -> None:
    """Note that the program has put a pointer elsewhere: its next sample adds no distance (law P12)."""
    pointer = state.pointers.get(name)
    if pointer is not None:
        pointer.jump()


def _left(state: State, name: str) -> None:
    """Let a pointer leave the window."""
    pointer = state.pointers.get(name)
    if pointer is not None and pointer.hold is FREE:
        pointer.leave()
        look_around(state, pointer)
