"""Devices that are no pointers: keyboards, and pads with their controls in the W3C Gamepad "standard" mapping.

The standard tells buttons by number and describes them by where they are; the names here are those descriptions.
"""

from __future__ import annotations

__all__ = ["AXES", "BUTTONS", "KEYS", "PAD_CONTROLS", "STICKS", "device_of", "is_keyboard"]

BUTTONS = (
    "right_cluster_bottom",
    "right_cluster_right",
    "right_cluster_left",
    "right_cluster_top",
    "front_top_left",
    "front_top_right",
    "front_bottom_left",
    "front_bottom_right",
    "center_left",
    "center_right",
    "left_stick_button",
    "right_stick_button",
    "left_cluster_top",
    "left_cluster_bottom",
    "left_cluster_left",
    "left_cluster_right",
    "center_center",
)
"""By their W3C numbers, ``buttons[0]`` to ``buttons[16]``. Values are 0 to 1; :class:`Feel` says from where on one is
down."""

KEYS = "keys"
"""The keyboard, as a device."""

AXES = ("left_stick_x", "left_stick_y", "right_stick_x", "right_stick_y")
"""By their W3C numbers, ``axes[0]`` to ``axes[3]``. Values are -1 (left, up) to 1 (right, down)."""

PAD_CONTROLS = BUTTONS + AXES

STICKS = {"left_stick_x": "left_stick", "left_stick_y": "left_stick", "right_stick_x": "right_stick",
          "right_stick_y": "right_stick"}  # fmt: skip
"""Which stick an axis is of."""


def is_keyboard(device: str) -> bool:
    """Whether a device is a keyboard: ``keys``, or of a second player ``keys2``, ``keys3``, …."""
    if not isinstance(device, str):
        return False
    return device == KEYS or (device.startswith(KEYS) and device[len(KEYS) :].isdecimal())


def device_of(pad: int) -> str:
    """The name of a pad as a device: ``pad0``, ``pad1``, …."""
    return f"pad{pad}"
