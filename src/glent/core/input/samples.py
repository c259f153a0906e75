"""Samples: raw facts from devices, one a call of ``Router.feed``.

Times are seconds as floats from any start, never running backwards. Positions are window pixels, y down. Buttons have
the numbers of W3C Pointer Events: 0 primary, 1 auxiliary, 2 secondary, 3 back, 4 forward; a set of buttons is a bit
mask as in its ``buttons`` (1 primary, 2 secondary, 4 auxiliary, 8 back, 16 forward).
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import IntEnum

__all__ = [
    "ActSample",
    "ComposeSample",
    "KeySample",
    "PadSample",
    "PointerButton",
    "PointerSample",
    "RaySample",
    "Sample",
    "TextSample",
    "TickSample",
    "TipSample",
    "WheelSample",
    "WindowSample",
]


ActValue = None | bool | int | float | str | Sequence[float] | Sequence[str]
"""What goes with an act."""


class PointerButton(IntEnum):
    """The buttons of a pointer, by their W3C numbers."""

    PRIMARY = 0
    AUXILIARY = 1
    SECONDARY = 2
    BACK = 3
    FORWARD = 4


class PointerSample:
    """A pointer's sample: it moved, was pressed, released, or taken away by the system.

    :ivar time: seconds.
    :ivar action: ``move``, ``press``, ``release`` or ``cancel``.
    :ivar x: window pixels from the left. :ivar y: window pixels from the top.
    :ivar pointer: which pointer, by any name; ids of touches may be used again after their release.
    :ivar kind: ``mouse``, ``touch`` or ``pen``.
    :ivar button: the button that went down or up: its number or its name (``"primary"``, …); None: the primary one.
    :ivar buttons: all buttons that are down afterwards, as a bit mask; 0: not told, the router keeps count itself.
    :ivar dx: movement since the last sample, in pixels, as the device tells it. :ivar dy: the same downwards.
    :ivar relative: the pointer is locked: only ``dx`` and ``dy`` count, ``x`` and ``y`` do not (law P12).
    :ivar pressure: 0 to 1, or None.
    :ivar raw: the points ``(time, x, y)`` that an adapter coalesced into this sample (law P9).
    :ivar emulated: made by the system from another pointer's sample, and to be dropped (law P1).
    """

    __slots__ = (
        "action", "button", "buttons", "dx", "dy", "emulated", "kind", "pointer", "pressure", "raw", "relative", "time",
        "x", "y",
    )  # fmt: skip

    def __init__(
        self,
        time: float,
        action: str,
        x: float,
        y: float,
        pointer: str = "mouse",
        kind: str = "mouse",
        button: int | str | None = None,
        buttons: int = 0,
        dx: float = 0.0,
        dy: float = 0.0,
        pressure: float | None = None,
        raw: tuple[tuple[float, float, float], ...] = (),
        emulated: bool = False,
        relative: bool = False,
    ) -> None:
        self.time = time
        self.action = action
        self.x = x
        self.y = y
        self.pointer = pointer
        self.kind = kind
        self.button = button
        self.buttons = buttons
        self.dx = dx
        self.dy = dy
        self.pressure = pressure
        self.raw = raw
        self.emulated = emulated
        self.relative = relative

    def __repr__(self) -> str:
        button = "" if self.button is None else f", button={self.button!r}"
        return f"PointerSample({self.time!r}, {self.action!r}, {self.x!r}, {self.y!r}, {self.pointer!r}{button})"


class RaySample:
    """A sample of something that points into the world: a hand, a wand, a gaze; moved, pressed, released, or taken
    away.

    :ivar time: seconds.
    :ivar action: ``move``, ``press``, ``release`` or ``cancel``.
    :ivar origin: where the ray begins, world space, metres. :ivar direction: where it goes; of any length but none.
    :ivar pointer: which of them, by any name.
    :ivar button: the button that went down or up: its number or its name; None: the primary one.
    :ivar buttons: all buttons that are down afterwards, as a bit mask; 0: not told.
    :ivar length: how far it goes, metres; None: without end (law X2), or to the end of its path.
    :ivar path: points that it goes on by after its origin, as something thrown does, world space, metres; None: it is
        straight. ``direction`` is then where the hand points, at the start (law X5).
    """

    __slots__ = ("action", "button", "buttons", "direction", "length", "origin", "path", "pointer", "time")

    kind = "ray"
    relative = emulated = False
    raw = ()

    def __init__(
        self,
        time: float,
        action: str,
        origin: tuple[float, float, float],
        direction: tuple[float, float, float],
        pointer: str = "ray",
        button: int | str | None = None,
        buttons: int = 0,
        length: float | None = None,
        path: Sequence[tuple[float, float, float]] | None = None,
    ) -> None:
        self.time = time
        self.action = action
        self.origin = origin
        self.direction = direction
        self.pointer = pointer
        self.button = button
        self.buttons = buttons
        self.length = length
        self.path = path

    def __repr__(self) -> str:
        return f"RaySample({self.time!r}, {self.action!r}, {self.origin!r}, {self.direction!r}, {self.pointer!r})"


class TipSample:
    """A sample of a fingertip, or of the tip of a tool, in the world: it presses a panel by coming through its front.

    It is a pointer of kind ``touch``.

    :ivar tip: where it is, world space, metres; None: it is not seen any more, and what it pressed is cancelled.
    :ivar pointer: which fingertip, by any name.
    """

    __slots__ = ("pointer", "time", "tip")

    def __init__(self, time: float, tip: tuple[float, float, float] | None, pointer: str = "tip") -> None:
        self.time = time
        self.tip = tip
        self.pointer = pointer

    def __repr__(self) -> str:
        return f"TipSample({self.time!r}, {self.tip!r}, {self.pointer!r})"


class WheelSample:
    """A wheel's sample: it turned, or two fingers scrolled on a pad.

    :ivar dx: distance to the right, and ``dy`` downwards, in ``unit``: positive is what scrolls content up and left.
    :ivar unit: ``pixel``, ``line`` or ``page``, as in UI Events ``deltaMode``.
    :ivar pointer: whose wheel it is.
    """

    __slots__ = ("dx", "dy", "pointer", "time", "unit", "x", "y")

    def __init__(
        self, time: float, x: float, y: float, dx: float, dy: float, unit: str = "pixel", pointer: str = "mouse"
    ) -> None:
        self.time = time
        self.x = x
        self.y = y
        self.dx = dx
        self.dy = dy
        self.unit = unit
        self.pointer = pointer

    def __repr__(self) -> str:
        return f"WheelSample({self.time!r}, {self.x!r}, {self.y!r}, {self.dx!r}, {self.dy!r}, {self.unit!r})"


class WindowSample:
    """A sample of what happened to the window.

    :ivar what: one of

        - ``size``: it is ``width`` by ``height`` pixels now;
        - ``scale``: a logical pixel is ``scale`` window pixels long now, so thresholds and reach are (law P12);
        - ``focus_lost``, ``focus_gained``: the input focus, of the whole window;
        - ``pointer_left``: ``pointer`` is no longer over it, and hovers nothing until it moves there again;
        - ``warp``: the program itself put ``pointer`` elsewhere: its next sample adds no distance (law P12);
        - ``device_gone``: ``pointer``, ``"keys"``, or a pad such as ``"pad0"``, was unplugged: what it held is lifted
          or cancelled (law T4);
        - ``sync``: after a gap: just the controls in ``held`` are down or deflected, such as ``mouse/primary``,
          ``keys/KeyW`` or ``pad0/left_stick_x``.
    """

    __slots__ = ("height", "held", "pointer", "scale", "time", "what", "width")

    def __init__(
        self,
        time: float,
        what: str,
        width: float | None = None,
        height: float | None = None,
        pointer: str | None = None,
        scale: float | None = None,
        held: tuple[str, ...] = (),
    ) -> None:
        self.time = time
        self.what = what
        self.width = width
        self.height = height
        self.pointer = pointer
        self.scale = scale
        self.held = held

    def __repr__(self) -> str:
        size = "" if self.width is None else f", {self.width!r}, {self.height!r}"
        return f"WindowSample({self.time!r}, {self.what!r}{size})"


class KeySample:
    """A key's sample: it went down or up. What it types is another sample.

    :ivar action: ``down`` or ``up``.
    :ivar code: where it is, as in UI Events ``code``: ``KeyW``, ``ArrowLeft``, ``Escape``.
    :ivar key: what it means, as in UI Events ``key``, or None. :ivar repeat: made by the system while it is held.
    :ivar device: which keyboard: ``keys``, or of a second player ``keys2``, ….
    """

    __slots__ = ("action", "code", "device", "key", "repeat", "time")

    def __init__(
        self,
        time: float,
        action: str,
        code: str,
        key: str | None = None,
        repeat: bool = False,
        device: str = "keys",
    ) -> None:
        self.device = device
        self.time = time
        self.action = action
        self.code = code
        self.key = key
        self.repeat = repeat

    def __repr__(self) -> str:
        return f"KeySample({self.time!r}, {self.action!r}, {self.code!r})"


class TextSample:
    """A sample of text that was typed or committed, whatever keys or composition it took.

    :ivar text: one or more characters. :ivar device: by which keyboard.
    """

    __slots__ = ("device", "text", "time")

    def __init__(self, time: float, text: str, device: str = "keys") -> None:
        self.device = device
        self.time = time
        self.text = text

    def __repr__(self) -> str:
        return f"TextSample({self.time!r}, {self.text!r})"


class ComposeSample:
    """A sample of text that is being composed by an input method; empty text ends it.

    What comes of it in the end is a :class:`TextSample`.

    :ivar text: what is composed so far. :ivar cursor: where its caret is, in characters from the start.
    :ivar device: by which keyboard.
    """

    __slots__ = ("cursor", "device", "text", "time")

    def __init__(self, time: float, text: str, cursor: int = 0, device: str = "keys") -> None:
        self.device = device
        self.time = time
        self.text = text
        self.cursor = cursor

    def __repr__(self) -> str:
        return f"ComposeSample({self.time!r}, {self.text!r}, {self.cursor!r})"


class PadSample:
    """A sample of a pad: a button or an axis has another value.

    :ivar control: a name of the W3C "standard" mapping (``glent.PAD_CONTROLS``).
    :ivar value: of a button 0 to 1, of an axis -1 (left, up) to 1 (right, down).
    :ivar pad: the number of the pad; as a device it is called ``pad0``, ``pad1``, ….
    """

    __slots__ = ("control", "pad", "time", "value")

    def __init__(self, time: float, control: str, value: float, pad: int = 0) -> None:
        self.time = time
        self.control = control
        self.value = value
        self.pad = pad

    def __repr__(self) -> str:
        return f"PadSample({self.time!r}, {self.control!r}, {self.value!r}, {self.pad!r})"


class ActSample:
    """A sample of what code, or assistive technology, asks a node to do: not by a device, and by the same rules as a
    player (laws R7, D5).

    :ivar path: the node. :ivar act: what it is asked to do; ``value`` is

        - ``activate``: what Enter on it does; ``show``: come into view; ``open``, ``close``: what opens; None for all
          of these;
        - ``set``: its value: a number, a text, True or False, or a tuple of numbers or of texts;
        - ``step``: how many steps its value goes, up or down;
        - ``hold``: None; ``drag``, ``scroll``: the way ``(dx, dy)`` in its own space, in pixels; ``drag_onto``: the
          path of the target; ``pinch``: ``(scale, turn)``, a factor and degrees clockwise; ``swipe``: the direction.
    :ivar seat: the name of the seat that it is done for.
    """

    __slots__ = ("act", "path", "seat", "time", "value")

    def __init__(self, time: float, path: str, act: str, value: ActValue = None, seat: str = "main") -> None:
        self.time = time
        self.path = path
        self.act = act
        self.value = value
        self.seat = seat

    def __repr__(self) -> str:
        value = "" if self.value is None else f", {self.value!r}"
        return f"ActSample({self.time!r}, {self.path!r}, {self.act!r}{value})"


class TickSample:
    """A sample of time that passed without input: what ``Router.tick`` does, for recordings to keep."""

    __slots__ = ("time",)

    def __init__(self, time: float) -> None:
        self.time = time

    def __repr__(self) -> str:
        return f"TickSample({self.time!r})"


Sample = (
    PointerSample
    | RaySample
    | TipSample
    | WheelSample
    | WindowSample
    | KeySample
    | TextSample
    | ComposeSample
    | PadSample
    | ActSample
    | TickSample
)
