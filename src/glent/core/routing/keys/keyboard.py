"""The keyboard: its keys, and what becomes of them when it is unplugged or was not heard for a while (W3, T4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.pad import KEYS, is_keyboard
from glent.core.routing.keys.key_hold import KeyPress

if TYPE_CHECKING:
    from glent.core.input.samples import KeySample
    from glent.core.routing.keys.gamepad import Gamepads
    from glent.core.routing.keys.routing import KeyPresses
    from glent.core.routing.state import State
    from glent.core.routing.verdict import Verdict

__all__ = ["focus_lost", "route_key", "sync"]


def route_key(state: State, key_presses: KeyPresses, sample: KeySample) -> Verdict:
    """Route a key's sample."""
    seat = state.seat_of(sample.device)
    press = KeyPress(sample.device, sample.code, sample.key, "keys")
    if sample.action == "up":
        verdict = key_presses.up(press, sample.time)
    elif sample.repeat:
        verdict = key_presses.again(press, sample.time)
    else:
        seat._use("keys")
        verdict = key_presses.down(seat, press, sample.time)
    verdict._seat = seat.name
    return verdict


def focus_lost(state: State, key_presses: KeyPresses, pads: Gamepads) -> None:
    """Lift keys, buttons and axes that the world holds: the window has lost the input focus (law P11)."""
    key_presses.blur(state.now)
    state.lifts.add(pads.blur())


def sync(state: State, key_presses: KeyPresses, pads: Gamepads, held: tuple[str, ...]) -> None:
    """Take these controls alone for down after a gap; those that went down unseen are nobody's (law T4)."""
    down: dict[str, set[str]] = {}
    for one in held:
        device, _, code = one.rpartition("/")
        down.setdefault(device, set()).add(code)
    devices = {device for device, _ in key_presses.held} | pads.devices | {KEYS}
    devices.update(device for device in down if device.startswith("pad") or is_keyboard(device))
    for device in sorted(devices):
        codes = frozenset(down.get(device, ()))
        key_presses.drop(device, codes, state.now)
        state.lifts.add(pads.drop(device, codes))
        for code in sorted(codes):
            if code.endswith(("stick_x", "stick_y")):
                pads.deflect(device, code)
            else:
                channel = "keys" if is_keyboard(device) else "pad"
                key_presses.hold(state.seat_of(device), KeyPress(device, code, None, channel))
