"""Which key a control is told of: by what it is bound to, so that pads and other keys do the same (laws F4, F5)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.controls.context import seat_of
from glent.core.input.pad import is_keyboard

if TYPE_CHECKING:
    from glent.core.routing.event import Event

__all__ = ["is_along", "key_of", "typed_of"]

ARROWS = {
    "navigate_left": "ArrowLeft",
    "navigate_right": "ArrowRight",
    "navigate_up": "ArrowUp",
    "navigate_down": "ArrowDown",
}


def key_of(event: Event, always: bool = False) -> str:
    """The key of a ``key_down``, named as the W3C codes are; empty while keys are not the controls'.

    Whatever is bound to a direction counts as that arrow: ``ArrowLeft`` is the left of a pad's cross as well.

    :param always: whether it is told even so: by what is open, and takes keys as long as it is.
    """
    data = event.data
    if not always and not seat_of(event).keys_are_ui(data["device"]):
        return ""
    return str(ARROWS.get(data["action"], data["code"]))


def is_along(event: Event, axis: str) -> bool:
    """Whether the arrow of a ``key_down`` is for what lies along this axis, ``x`` or ``y``.

    A keyboard's arrows all are, as the ARIA practices have it. Those of a pad that go across are not: they are the
    only way on from there.
    """
    if is_keyboard(event.data["device"]):
        return True
    return (event.data["action"] in ("navigate_left", "navigate_right")) == (axis == "x")


def typed_of(event: Event, always: bool = False) -> str:
    """The character that a ``key_down`` would type; empty for other keys, or while keys are not the controls'."""
    key = event.data["key"]
    seat = seat_of(event)
    if key is None or len(key) != 1 or key == " " or not (always or seat.keys_are_ui(event.data["device"])):
        return ""
    return "" if set(seat.modifiers) & {"Control", "Alt", "Meta"} else str(key)
