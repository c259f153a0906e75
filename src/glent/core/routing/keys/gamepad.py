"""Gamepads: buttons, as key presses are routed, and axes, which the world or the UI has until they rest (W3, F5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.pad import AXES, STICKS, device_of
from glent.core.routing import reasons as because
from glent.core.routing.keys.key_hold import NOBODY, UI, WORLD, KeyPress, Who
from glent.core.routing.pointers.unowned import kept_from_world
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.input.samples import PadSample
    from glent.core.routing.keys.routing import KeyPresses
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State

__all__ = ["Gamepads"]

BACK = 0.7
"""A stick steps again once it was back to this part of ``Feel.stick_step``: so that it does not flutter there."""


class _Axis:
    """An axis that is deflected, and who has it until it is back in its dead zone.

    :ivar modals: what its seat's modals were when it left its dead zone.
    """

    __slots__ = ("modals", "seat", "value", "who")

    def __init__(self, seat: Seat, who: Who, value: float) -> None:
        self.seat = seat
        self.who = who
        self.value = value
        self.modals = seat._modals_seen


class Gamepads:
    """The pads of one router."""

    __slots__ = ("_axes", "_halves", "_key_presses", "_state", "_told", "began")

    def __init__(self, state: State, key_presses: KeyPresses) -> None:
        self._state = state
        self._key_presses = key_presses
        self._axes: dict[tuple[str, str], _Axis] = {}
        self._halves: dict[tuple[str, str], str] = {}
        """By device and stick: the half of an axis that counts as pressed, one at a time (law F5)."""
        self._told: dict[tuple[str, str], Seat] = {}
        """What the world was last told stands off its rest, though it counts neither as pressed nor as deflected."""
        self.began = False
        """Whether the last sample pressed a button, or brought an axis out of the middle."""

    def route(self, sample: PadSample) -> Verdict:
        """Route a pad's sample."""
        device = device_of(sample.pad)
        seat = self._state.seat_of(device)
        self.began = False
        control, value = sample.control, float(sample.value)
        if control in AXES:
            verdict = self._axis(seat, device, control, value, sample.time)
            held = (device, control) in self._axes
        else:
            verdict = self._button(seat, device, control, value, sample.time)
            held = (device, control) in self._key_presses.held
        if verdict._world and value != 0.0 and not held:
            self._told[device, control] = seat
        elif self._told.pop((device, control), None) is not None and not verdict._world:
            self._state.lifts.add([f"{device}/{control}"])  # it goes on as the UI's: the world is told the end of it
        verdict._seat = seat.name
        return verdict

    def _button(self, seat: Seat, device: str, control: str, value: float, time: float) -> Verdict:
        key_presses, feel = self._key_presses, self._state.feel
        held = key_presses.held.get((device, control))
        down = value >= (feel.button_release if held is not None else feel.button_press)
        press = KeyPress(device, control, None, "pad")
        if down and held is None:
            seat._use("pad")
            self.began = True
            return key_presses.down(seat, press, time)
        if held is not None and not down:
            return key_presses.up(press, time)
        if held is not None:  # a trigger is pulled further
            if held.who == WORLD:
                return Verdict(because.KEY, press.what, True)
            return Verdict(because.USED, press.what)
        return kept_from_world(seat.view, "pad", press.what) or Verdict(because.KEY, press.what, True)

    def _axis(self, seat: Seat, device: str, control: str, value: float, time: float) -> Verdict:
        feel = self._state.feel
        what = f"{control} of {device}"
        rests = abs(value) <= feel.dead_zone
        axis = self._axes.get((device, control))
        if axis is None:
            kept = kept_from_world(seat.view, "pad", what)
            if rests:
                return kept or Verdict(because.KEY, what, True)
            wanted = seat._focus.has_keys("pad") and any(seat.bindings.action(control + sign) for sign in "-+")
            who: Who = UI if kept is not None or wanted or seat._asking is not None else WORLD
            axis = self._axes[device, control] = _Axis(seat, who, value)
            self.began = True
        axis.value = value
        if abs(value) >= feel.stick_step:
            seat._use("pad")
        if rests:
            del self._axes[device, control]
        if axis.who == WORLD:
            return Verdict(because.KEY, what, True)
        verdict = self._step(seat, device, control, time) if axis.who == UI else None
        return verdict or kept_from_world(seat.view, "pad", what) or Verdict(because.USED, what)

    def _step(self, seat: Seat, device: str, control: str, time: float) -> Verdict | None:
        """Press or release the half of an axis that a stick points along, if that has changed."""
        key_presses, feel = self._key_presses, self._state.feel
        stick = STICKS[control]
        pressed = self._halves.get((device, stick))
        verdict = None
        if pressed is not None:
            if self._tilt(device, pressed) >= BACK * feel.stick_step:
                return None
            del self._halves[device, stick]
            verdict = key_presses.up(KeyPress(device, pressed, None, "pad"), time)
        halves = [axis + sign for axis in AXES if STICKS[axis] == stick for sign in "-+"]
        half = max(halves, key=lambda one: self._tilt(device, one))
        if self._tilt(device, half) < feel.stick_step:
            return verdict
        self._halves[device, stick] = half
        verdict = key_presses.down(seat, KeyPress(device, half, None, "pad"), time)
        if verdict._world:  # nobody wants it; but the axis went out of its middle as the UI's
            key_presses.held[device, half].who = NOBODY
            return None
        return verdict

    def _tilt(self, device: str, half: str) -> float:
        axis = self._axes.get((device, half[:-1]))
        if axis is None or axis.who != UI or axis.modals != axis.seat._modals_seen:
            return 0.0  # what was held when a modal came or went moves nothing until it has been in its middle (W3)
        return axis.value if half[-1] == "+" else -axis.value

    # -- lifts ---------------------------------------------------------------------------------------------------------

    def lift(self, seat: Seat) -> list[str]:
        """Lift the axes that the world holds; they are nobody's until they are back in the middle (law W3)."""
        lifts = []
        for (device, control), axis in self._axes.items():
            if axis.seat is seat and axis.who == WORLD:
                axis.who = NOBODY
                lifts.append(f"{device}/{control}")
        return lifts + self._untold(lambda device, of: of is seat)

    def _untold(self, which: Callable[[str, Seat], bool]) -> list[str]:
        """Lift what the world was told stands a little off its rest: what it was told, it is told the end of (W3)."""
        gone = [key for key, seat in self._told.items() if which(key[0], seat)]
        for key in gone:
            del self._told[key]
        return [f"{device}/{control}" for device, control in gone]

    def hand_over(self, device: str, seat: Seat) -> list[str]:
        """Give a device to another seat: its axes are nobody's until they are back in the middle. Return what the world
        held of them (laws T2, W3)."""
        lifts = self._end(device)
        for (on, _), axis in self._axes.items():
            if on == device:
                axis.seat = seat
        return lifts

    def blur(self) -> list[str]:
        """Lift what the world holds, and give the rest to nobody: the window has lost the focus."""
        return self._end(None)

    def leave_scene(self) -> None:
        """Give the axes that the UI has to nobody until they rest: the router leaves its scene."""
        for axis in self._axes.values():
            if axis.who != WORLD:
                axis.who = NOBODY
        self._halves.clear()

    def _end(self, device: str | None) -> list[str]:
        """Give the axes of a device, or of all, to nobody until they are back in the middle. Return what the world
        held of them."""
        axes = {key: axis for key, axis in self._axes.items() if device in (None, key[0])}
        lifts = [f"{on}/{control}" for (on, control), axis in axes.items() if axis.who == WORLD]
        for axis in axes.values():
            axis.who = NOBODY
        for key in [key for key in self._halves if device in (None, key[0])]:
            del self._halves[key]
        return lifts + self._untold(lambda on, of: device in (None, on))

    def drop(self, device: str, keep: frozenset[str]) -> list[str]:
        """Let the axes of a device that are not in ``keep`` rest. Return what the world held of them."""
        gone = [key for key in self._axes if key[0] == device and key[1] not in keep]
        lifts = [f"{device}/{key[1]}" for key in gone if self._axes.pop(key).who == WORLD]
        for key in [key for key in self._halves if key[0] == device and self._tilt(device, self._halves[key]) <= 0.0]:
            del self._halves[key]
        return lifts + self._untold(lambda on, of: on == device)

    def deflect(self, device: str, control: str) -> None:
        """Book an axis that was deflected unseen: it is nobody's until it rests (law T4)."""
        if (device, control) not in self._axes:
            self._axes[device, control] = _Axis(self._state.seat_of(device), NOBODY, 0.0)

    def held_by_world(self, seat: Seat) -> list[str]:
        """The axes that the world has, and what it was told stands a little off its rest."""
        told = [f"{device}/{control}" for (device, control), of in self._told.items() if of is seat]
        return told + [f"{device}/{control}" for (device, control), axis in self._axes.items()
                       if axis.seat is seat and axis.who == WORLD]  # fmt: skip

    @property
    def devices(self) -> set[str]:
        """The pads with an axis out of the middle, or a trigger that is pulled a little."""
        return {device for device, _ in (*self._axes, *self._told)}
