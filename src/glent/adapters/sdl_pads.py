"""SDL's game controllers as pads of the W3C "standard" mapping."""

from __future__ import annotations

from glent.extras import needs

with needs("pygame", "the adapter for pygame"):
    import pygame
from pygame.event import Event as SdlEvent

from glent.core.input.pad import device_of
from glent.core.input.samples import PadSample, Sample, WindowSample

__all__ = ["CONTROLLER", "Gamepads"]

_BUTTONS = (
    "right_cluster_bottom",
    "right_cluster_right",
    "right_cluster_left",
    "right_cluster_top",
    "center_left",
    "center_center",
    "center_right",
    "left_stick_button",
    "right_stick_button",
    "front_top_left",
    "front_top_right",
    "left_cluster_top",
    "left_cluster_bottom",
    "left_cluster_left",
    "left_cluster_right",
)
"""By SDL's numbers of a game controller's buttons."""

_AXES = ("left_stick_x", "left_stick_y", "right_stick_x", "right_stick_y", "front_bottom_left", "front_bottom_right")
"""By SDL's numbers of its axes; the last two are triggers, which are buttons to W3C."""

CONTROLLER = (
    pygame.CONTROLLERAXISMOTION,
    pygame.CONTROLLERBUTTONDOWN,
    pygame.CONTROLLERBUTTONUP,
    pygame.CONTROLLERDEVICEREMOVED,
)


class Gamepads:
    """Numbers pads in the order in which they are first used; one that comes back under another id is a new one."""

    def __init__(self) -> None:
        self._numbers: dict[int, int] = {}
        self._held: dict[str, None] = {}

    def number(self, instance: int) -> int:
        """The number of a pad, by SDL's instance id."""
        return self._numbers.setdefault(instance, len(self._numbers))

    def sample(self, event: SdlEvent, time: float) -> Sample | None:
        """The sample of an event; None for a control that W3C has no name for."""
        pad = self.number(event.instance_id)
        if event.type == pygame.CONTROLLERDEVICEREMOVED:
            prefix = device_of(pad) + "/"
            self._held = {one: None for one in self._held if not one.startswith(prefix)}
            return WindowSample(time, "device_gone", pointer=device_of(pad))
        names: tuple[str, ...] = _BUTTONS
        if event.type == pygame.CONTROLLERAXISMOTION:
            names, number, value = _AXES, event.axis, max(-1.0, min(1.0, event.value / 32767.0))
        else:
            number, value = event.button, float(event.type == pygame.CONTROLLERBUTTONDOWN)
        if not 0 <= number < len(names):
            return None
        control = names[number]
        if control.startswith("front_bottom"):
            value = max(0.0, value)
        name = f"{device_of(pad)}/{control}"
        if abs(value) > 0.2:
            self._held[name] = None
        else:
            self._held.pop(name, None)
        return PadSample(time, control, round(value, 4), pad)

    def held(self) -> tuple[str, ...]:
        """What is down or deflected now, by name."""
        return tuple(self._held)
