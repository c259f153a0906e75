"""Checks of samples. A refused sample names the field and the value, and changes nothing."""

from __future__ import annotations

from collections.abc import Callable
from numbers import Real
from typing import Any

from glent.core.arguments import has_halves, is_choice
from glent.core.errors import SampleError
from glent.core.geometry.world.ray import checked_ray
from glent.core.geometry.world.vectors import Vector3, checked, length, minus
from glent.core.input.pad import AXES, BUTTONS, PAD_CONTROLS, is_keyboard
from glent.core.input.samples import (
    ActSample,
    ComposeSample,
    KeySample,
    PadSample,
    PointerButton,
    PointerSample,
    RaySample,
    Sample,
    TextSample,
    TickSample,
    TipSample,
    WheelSample,
    WindowSample,
)

__all__ = ["FARTHEST", "LATEST", "SMALLEST", "button_of", "check", "check_number", "check_time", "is_plain"]

MAX_PATH = 10_000
"""Points of a ray's path."""
MIN_PIECE = 1e-9
FARTHEST = 1e9
"""No position or distance in a sample is larger."""

LATEST = 1e12
"""No time in a sample is later: seconds since 1970 fit, and a float still tells tenths of a millisecond apart."""

ACTIONS = ("move", "press", "release", "cancel")
KINDS = ("mouse", "touch", "pen")
UNITS = ("pixel", "line", "page")
KEY_ACTIONS = ("down", "up")
WINDOW = ("size", "scale", "focus_lost", "focus_gained", "pointer_left", "warp", "device_gone", "sync")
SCALES = (1 / 64, 64)
SMALLEST = 1e-3
"""No window, and no scene, is less wide or high, in pixels: what is worked out from it stays finite."""
DIRECTIONS = ("left", "right", "up", "down")
MAX_PARTS = 1000
"""Numbers or texts of a value that is set."""
_BY_NUMBER = tuple(PointerButton)
_BUTTONS: dict[object, PointerButton] = {button.value: button for button in PointerButton} | {
    button.name.lower(): button for button in PointerButton
}


def button_of(value: object, where: str = "PointerSample") -> PointerButton:
    """The button with this number or name; None is the primary one.

    :raises SampleError: there is no such button.
    """
    if value is None:
        return PointerButton.PRIMARY
    if value.__class__ is int and 0 <= value <= 4:
        return _BY_NUMBER[value]
    button = None if isinstance(value, bool | float) else _BUTTONS.get(value) if isinstance(value, int | str) else None
    if button is None:
        known = ", ".join(f"{one.value} {one.name.lower()}" for one in PointerButton)
        raise SampleError(f"{where}: button is {value!r}, expected one of {known}, or None")
    return button


def check_time(time: object, now: float, where: str) -> None:
    """Check that a time is a finite number that is not before ``now``.

    :raises SampleError: it is not.
    """
    if isinstance(time, bool) or not isinstance(time, Real) or not -LATEST <= time <= LATEST:  # type: ignore[operator]
        raise SampleError(f"{where}: time is {time!r}, expected a finite number of seconds no larger than {LATEST:g}")
    if time < now:
        raise SampleError(f"{where}: time is {time!r}, before {now!r} of the sample or tick before it")


def check(sample: Sample, now: float) -> None:
    """Check that every field of a sample is what it may be, and its time not before ``now``.

    :raises SampleError: one is not; the message names the field, the value and what was expected.
    """
    fields = _FIELDS.get(sample.__class__) or next((f for cls, f in _FIELDS.items() if isinstance(sample, cls)), None)
    if fields is None:
        *some, last = (cls.__name__ for cls in _FIELDS)
        raise SampleError(f"{sample!r} is not a sample, expected a {', '.join(some)} or {last}")
    where = sample.__class__.__name__
    check_time(sample.time, now, where)
    fields(sample, where)


def _pointer(sample: PointerSample, where: str) -> None:
    _one_of(sample.action, "action", ACTIONS, where)
    for key in ("x", "y", "dx", "dy"):
        check_number(getattr(sample, key), key, where)
    _text(sample.pointer, "pointer", where)
    _one_of(sample.kind, "kind", KINDS, where)
    button_of(sample.button, where)
    _buttons(sample.buttons, where)
    if sample.pressure is not None:
        check_number(sample.pressure, "pressure", where)
        if not 0.0 <= sample.pressure <= 1.0:
            raise SampleError(f"{where}: pressure is {sample.pressure!r}, expected None or 0 to 1")
    if not isinstance(sample.raw, tuple | list):
        raise SampleError(f"{where}: raw is {sample.raw!r}, expected points (time, x, y)")
    for index, point in enumerate(sample.raw):
        if not isinstance(point, tuple | list) or len(point) != 3:
            raise SampleError(f"{where}: raw[{index}] is {point!r}, expected (time, x, y)")
        for value, key in zip(point, ("time", "x", "y"), strict=True):
            check_number(value, f"raw[{index}].{key}", where)
    _flag(sample.emulated, "emulated", where)
    _flag(sample.relative, "relative", where)


def _ray(sample: RaySample, where: str) -> None:
    _one_of(sample.action, "action", ACTIONS, where)
    start, _, _ = checked_ray(sample.origin, sample.direction, sample.length, where, SampleError)
    if sample.path is not None:
        _path(sample.path, start, where)
    _text(sample.pointer, "pointer", where)
    button_of(sample.button, where)
    _buttons(sample.buttons, where)


def _path(path: object, start: Vector3, where: str) -> None:
    if not isinstance(path, tuple | list) or not 0 < len(path) <= MAX_PATH:
        shown = f"{len(path)} points" if isinstance(path, tuple | list) else repr(path)
        raise SampleError(f"{where}: path is {shown}, expected None or 1 to {MAX_PATH:,} points after the origin")
    points = [checked(point, f"{where}: path[{number}]", SampleError) for number, point in enumerate(path)]
    if all(length(minus(point, start)) <= MIN_PIECE for point in points):
        raise SampleError(f"{where}: path ends where it begins, at {start}; expected a point that lies elsewhere")


def _tip(sample: TipSample, where: str) -> None:
    if sample.tip is not None:
        checked(sample.tip, f"{where}: tip", SampleError)
    _text(sample.pointer, "pointer", where)


def _wheel(sample: WheelSample, where: str) -> None:
    for key in ("x", "y", "dx", "dy"):
        check_number(getattr(sample, key), key, where)
    _one_of(sample.unit, "unit", UNITS, where)
    _text(sample.pointer, "pointer", where)


def _window(sample: WindowSample, where: str) -> None:
    _one_of(sample.what, "what", WINDOW, where)
    if sample.what == "size":
        for key in ("width", "height"):
            value = getattr(sample, key)
            check_number(value, key, where)
            if not SMALLEST <= value <= 1e6:
                raise SampleError(f"{where}: {key} is {value!r}, expected a number from {SMALLEST:g} to 1e6")
    elif sample.what == "scale":
        check_number(sample.scale, "scale", where)
        if sample.scale is None or not SCALES[0] <= sample.scale <= SCALES[1]:
            raise SampleError(f"{where}: scale is {sample.scale!r}, expected a number from 1/64 to 64")
    elif sample.what in ("pointer_left", "warp", "device_gone"):
        _text(sample.pointer, "pointer", where)
    elif sample.what == "sync":
        _held(sample.held, where)


def _key(sample: KeySample, where: str) -> None:
    _one_of(sample.action, "action", KEY_ACTIONS, where)
    _text(sample.code, "code", where)
    if sample.key is not None:
        _text(sample.key, "key", where)
    _flag(sample.repeat, "repeat", where)
    _keyboard(sample.device, where)


def _pad(sample: PadSample, where: str) -> None:
    _one_of(sample.control, "control", PAD_CONTROLS, where)
    check_number(sample.value, "value", where)
    minimum = -1.0 if sample.control in AXES else 0.0
    if not minimum <= sample.value <= 1.0:
        raise SampleError(f"{where}: value is {sample.value!r}, expected {minimum:g} to 1 for {sample.control}")
    _count(sample.pad, "pad", where)


def _typed(sample: TextSample, where: str) -> None:
    _text(sample.text, "text", where)
    _keyboard(sample.device, where)


def _composed(sample: ComposeSample, where: str) -> None:
    if not isinstance(sample.text, str) or has_halves(sample.text):
        raise SampleError(f"{where}: text is {sample.text!r}, expected text, empty at the end")
    _count(sample.cursor, "cursor", where)
    _keyboard(sample.device, where)


def _keyboard(value: object, where: str) -> None:
    if not isinstance(value, str) or not is_keyboard(value):
        raise SampleError(f"{where}: device is {value!r}, expected 'keys', or of a second keyboard 'keys2'")


def _act(sample: ActSample, where: str) -> None:
    _text(sample.path, "path", where)
    _one_of(sample.act, "act", tuple(ACTS), where)
    _text(sample.seat, "seat", where)
    ACTS[sample.act](sample.value, f"{where}: value of {sample.act}")


def _nothing(value: object, where: str) -> None:
    if value is not None:
        raise SampleError(f"{where} is {value!r}, expected None")


def _settable(value: object, where: str) -> None:
    if value is True or value is False or (isinstance(value, str) and not has_halves(value)):
        return
    if isinstance(value, Real) and -FARTHEST <= value <= FARTHEST:  # type: ignore[operator]
        return
    if isinstance(value, tuple | list) and len(value) <= MAX_PARTS:
        numbers = all(isinstance(one, Real) and not isinstance(one, bool) and -FARTHEST <= one <= FARTHEST  # type: ignore[operator]
                      for one in value)  # fmt: skip
        if numbers or all(isinstance(one, str) and not has_halves(one) for one in value):
            return
    raise SampleError(
        f"{where} is {value!r}, expected a number, a text, True or False, or up to {MAX_PARTS:,} numbers or texts"
    )


def _steps(value: object, where: str) -> None:
    if isinstance(value, bool) or not isinstance(value, int) or not 0 < abs(value) < 1 << 16:
        raise SampleError(f"{where} is {value!r}, expected a whole number of steps, not 0, from -65535 to 65535")


def _two(value: object, where: str) -> None:
    if not isinstance(value, tuple | list) or len(value) != 2:
        raise SampleError(f"{where} is {value!r}, expected two numbers")
    for index, one in enumerate(value):
        check_number(one, f"[{index}]", where)


def _factor_and_turn(value: object, where: str) -> None:
    _two(value, where)
    if value[0] <= 0.0:  # type: ignore[index]
        raise SampleError(f"{where} is {value!r}, expected a factor above zero, and degrees")


def _path_of(value: object, where: str) -> None:
    if not isinstance(value, str) or not value:
        raise SampleError(f"{where} is {value!r}, expected the path of a node")


def _direction(value: object, where: str) -> None:
    if not is_choice(value, DIRECTIONS):
        raise SampleError(f"{where} is {value!r}, expected one of {', '.join(DIRECTIONS)}")


ACTS: dict[str, Callable[[Any, str], None]] = {
    "activate": _nothing,
    "set": _settable,
    "step": _steps,
    "open": _nothing,
    "close": _nothing,
    "show": _nothing,
    "hold": _nothing,
    "drag": _two,
    "drag_onto": _path_of,
    "scroll": _two,
    "pinch": _factor_and_turn,
    "swipe": _direction,
}
"""What a node can be asked to do, each with the check of its value."""


def _tick(sample: TickSample, where: str) -> None:
    """Check nothing more: a tick has a time alone."""


_FIELDS: dict[type, Callable[[Any, str], None]] = {
    PointerSample: _pointer,
    WheelSample: _wheel,
    RaySample: _ray,
    TipSample: _tip,
    KeySample: _key,
    TextSample: _typed,
    ComposeSample: _composed,
    PadSample: _pad,
    WindowSample: _window,
    ActSample: _act,
    TickSample: _tick,
}
"""By kind of sample, the check of its fields but its time."""


def _held(value: object, where: str) -> None:
    expected = "a tuple of controls such as 'mouse/primary' or 'keys/KeyW'"
    if not isinstance(value, tuple | list):
        raise SampleError(f"{where}: held is {value!r}, expected {expected}")
    for index, one in enumerate(value):
        device, _, control = one.rpartition("/") if isinstance(one, str) else ("", "", "")
        if (
            not device
            or not control
            or (not is_keyboard(device) and control not in _BUTTONS and not _is_pad(device, control))
        ):
            raise SampleError(f"{where}: held[{index}] is {one!r}, expected {expected}")


def _is_pad(device: str, control: str) -> bool:
    return device.startswith("pad") and device[3:].isdecimal() and (control in BUTTONS or control in AXES)


def is_plain(sample: PointerSample, now: float) -> bool:
    """Whether all fields are of their usual types and ranges: a quick yes, or a reason to look closely."""
    x, y, time = sample.x, sample.y, sample.time
    return (
        x.__class__ is y.__class__ is time.__class__ is sample.dx.__class__ is sample.dy.__class__ is float
        and -FARTHEST <= x <= FARTHEST
        and -FARTHEST <= y <= FARTHEST
        and now <= time <= LATEST
        and -FARTHEST <= sample.dx <= FARTHEST
        and -FARTHEST <= sample.dy <= FARTHEST
        and sample.pointer.__class__ is str
        and sample.pointer != ""
        and sample.pointer.isascii()
        and sample.action.__class__ is sample.kind.__class__ is str
        and sample.action in ACTIONS
        and sample.kind in KINDS
        and (sample.button is None or (sample.button.__class__ is int and 0 <= sample.button <= 4))
        and sample.buttons.__class__ is int
        and 0 <= sample.buttons < 32
        and sample.pressure is None
        and sample.raw.__class__ is tuple
        and not sample.raw
        and sample.emulated is False
        and sample.relative is False
    )


def _buttons(value: object, where: str) -> None:
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value < 32:
        raise SampleError(f"{where}: buttons is {value!r}, expected a bit mask from 0 to 31")


def check_number(value: object, key: str, where: str) -> None:
    """Check that a position or distance is a finite number within ``FARTHEST``.

    :raises SampleError: it is not.
    """
    if isinstance(value, bool) or not isinstance(value, Real) or not -FARTHEST <= value <= FARTHEST:  # type: ignore[operator]
        raise SampleError(f"{where}: {key} is {value!r}, expected a finite number no larger than {FARTHEST:g}")


def _text(value: object, key: str, where: str) -> None:
    if not isinstance(value, str) or not value or has_halves(value):
        raise SampleError(f"{where}: {key} is {value!r}, expected a name, of whole characters")


def _count(value: object, key: str, where: str) -> None:
    if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value < 1 << 16:
        raise SampleError(f"{where}: {key} is {value!r}, expected a whole number from 0 to 65535")


def _flag(value: object, key: str, where: str) -> None:
    if not isinstance(value, bool):
        raise SampleError(f"{where}: {key} is {value!r}, expected True or False")


def _one_of(value: object, key: str, choices: tuple[str, ...], where: str) -> None:
    if not isinstance(value, str) or value not in choices:
        raise SampleError(f"{where}: {key} is {value!r}, expected one of {', '.join(choices)}")
