"""The keyboard: its keys, and what becomes of them when it is unplugged or was not heard for a while (W3, T4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing.keys.routing import KeyPress

if TYPE_CHECKING:
    from glent.core.input.samples import KeySample
    from glent.core.routing.seats.seats import Seats
    from glent.core.routing.verdict import Verdict

__all__ = ["KEYS", "focus_lost", "route_key", "sync"]

KEYS = "keys"
"""The keyboard, as a device."""


def route_key(seats: Seats, sample: KeySample) -> Verdict:
    """Route a key's sample."""
    seat = seats.of(KEYS)
    press = KeyPress(KEYS, sample.code, sample.key, "keys")
    if sample.action == "up":
        verdict = seats.key_presses.up(press, sample.time)
    elif sample.repeat:
        verdict = seats.key_presses.again(press, sample.time)
    else:
        seat._use("keys")
        verdict = seats.key_presses.down(seat, press, sample.time)
    verdict._seat = seat.name
    return verdict


def focus_lost(seats: Seats) -> None:
    """Lift keys, buttons and axes that the world holds: the window has lost the input focus (law P11)."""
    seats.lifts.add(seats.key_presses.blur())
    seats.lifts.add(seats.pads.blur())


def sync(seats: Seats, held: tuple[str, ...]) -> None:
    """Take these controls alone for down after a gap; those that went down unseen are nobody's (law T4)."""
    down: dict[str, set[str]] = {}
    for one in held:
        device, _, code = one.rpartition("/")
        down.setdefault(device, set()).add(code)
    devices = {device for device, _ in seats.key_presses.held} | seats.pads.devices | {KEYS}
    devices.update(device for device in down if device.startswith("pad"))
    for device in sorted(devices):
        codes = frozenset(down.get(device, ()))
        seats.lifts.add(seats.key_presses.drop(device, codes, seats.now))
        seats.lifts.add(seats.pads.drop(device, codes))
        for code in sorted(codes):
            if code.endswith(("stick_x", "stick_y")):
                seats.pads.deflect(device, code)
            else:
                seats.key_presses.hold(
                    seats.of(device), KeyPress(device, code, None, KEYS if device == KEYS else "pad")
                )
