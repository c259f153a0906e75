"""A scripted user: moves, clicks, drags, types and tilts sticks by feeding samples, as a window would."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeAlias

from glent.core.arguments import is_number
from glent.core.errors import SampleError
from glent.core.input.samples import (
    ComposeSample,
    KeySample,
    PadSample,
    PointerButton,
    PointerSample,
    Sample,
    TextSample,
    WheelSample,
    WindowSample,
)
from glent.core.input.validate import button_of
from glent.core.routing.pointers.pointer import bit_of
from glent.core.routing.router import Router
from glent.core.routing.verdict import Verdict
from glent.core.scene.node import Node, checked_node
from glent.testing.steady import Steady

__all__ = ["Hand"]

MOST_STEPS = 100_000

Target: TypeAlias = "Node | str | tuple[float, float]"
"""A node, its path, or a point of the screen in window pixels."""


class Hand(Steady):
    """One pointer in the hand of a user who acts at a steady pace.

    Several hands may share a router: each goes on from the latest sample of any of them.

    :param router: what is fed.
    :param pointer: the pointer's name. :param kind: ``mouse``, ``touch`` or ``pen``.
    :param pace: seconds from one sample to the next.
    :param start: the time of the first sample, in seconds.
    :param tap: called with every sample before it is fed, such as a recording's ``add``.

    :ivar time: the time of the last sample. :ivar verdicts: the answers, in order.
    """

    def __init__(
        self,
        router: Router,
        pointer: str = "mouse",
        kind: str = "mouse",
        pace: float = 0.016,
        start: float = 0.0,
        tap: Callable[[Sample], object] | None = None,
    ) -> None:
        super().__init__(router, pointer, pace, start, tap)
        self.kind = kind
        self.pos = (0.0, 0.0)
        self.buttons = 0

    def point(self, target: Target, at: tuple[float, float] = (0.5, 0.5)) -> tuple[float, float]:
        """Where a target is on the screen; ``at`` is where in a node's box, in fractions of it."""
        if isinstance(target, tuple):
            if len(target) != 2 or not all(map(is_number, target)):
                raise SampleError(f"a hand's target is {target!r}, expected a node, its path, or a point (x, y)")
            return float(target[0]), float(target[1])
        node = self.router.scene[target] if isinstance(target, str) else checked_node(target, "a hand's target")
        if not isinstance(at, tuple | list) or len(at) != 2 or not all(map(is_number, at)):
            raise SampleError(f"{node.path}: at is {at!r}, expected two fractions of its box")
        width, height = node.size
        x, y = self.router.scene.point(node, width * at[0], height * at[1])
        return round(x, 3), round(y, 3)

    def _pointer(self, action: str, button: PointerButton | None = None) -> Verdict:
        self.pause(self.pace)
        number = None if button is None else int(button)
        x, y = self.pos
        return self.feed(PointerSample(self.time, action, x, y, self.pointer, self.kind, number, self.buttons))

    def move(self, target: Target, steps: int = 1, at: tuple[float, float] = (0.5, 0.5)) -> Verdict:
        """Go to a target in a straight line, in so many samples; the last verdict."""
        if isinstance(steps, bool) or not isinstance(steps, int) or not 0 < steps <= MOST_STEPS:
            raise SampleError(f"a hand is to move in {steps!r} steps, expected a whole number from 1 to {MOST_STEPS:,}")
        (x0, y0), (x1, y1) = self.pos, self.point(target, at)
        for step in range(1, steps + 1):
            part = step / steps
            self.pos = (round(x0 + (x1 - x0) * part, 3), round(y0 + (y1 - y0) * part, 3))
            verdict = self._pointer("move")
        return verdict

    def press(self, button: PointerButton | str = PointerButton.PRIMARY) -> Verdict:
        """Press a button where the hand is: a number or a name, as samples have them."""
        button = button_of(button, "press")
        self.buttons |= bit_of(button)
        return self._pointer("press", button)

    def release(self, button: PointerButton | str = PointerButton.PRIMARY) -> Verdict:
        """Let a button go."""
        button = button_of(button, "release")
        self.buttons &= ~bit_of(button)
        return self._pointer("release", button)

    def click(
        self,
        target: Target,
        button: PointerButton | str = PointerButton.PRIMARY,
        steps: int = 1,
        at: tuple[float, float] = (0.5, 0.5),
    ) -> Verdict:
        """Go to a target, press and release; the verdict of the press."""
        if self.kind == "touch":
            self.pos = self.point(target, at)
        else:
            self.move(target, steps, at)
        verdict = self.press(button)
        self.release(button)
        return verdict

    def drag(
        self, start: Target, end: Target, steps: int = 8, button: PointerButton | str = PointerButton.PRIMARY
    ) -> Verdict:
        """Press at one target, go to another, release; the verdict of the press."""
        self.move(start)
        verdict = self.press(button)
        self.move(end, steps)
        self.release(button)
        return verdict

    def move_locked(self, dx: float, dy: float) -> Verdict:
        """Move a locked pointer: the distance alone is told (law P12)."""
        self.pause(self.pace)
        x, y = self.pos
        return self.feed(
            PointerSample(
                self.time,
                "move",
                x,
                y,
                self.pointer,
                self.kind,
                None,
                self.buttons,
                float(dx),
                float(dy),
                relative=True,
            )
        )

    def key(
        self, code: str, action: str = "down", key: str | None = None, repeat: bool = False, device: str = "keys"
    ) -> Verdict:
        """Press a key, or let it go."""
        self.pause(self.pace)
        return self.feed(KeySample(self.time, action, code, key, repeat, device))

    def press_keys(self, *codes: str) -> Verdict:
        """Press keys one after the other and let them go in turn, the last first; the verdict of the last press."""
        for code in codes:
            verdict = self.key(code)
        for code in reversed(codes):
            self.key(code, "up")
        return verdict

    def type(self, text: str) -> Verdict:
        """Type text, as a keyboard commits it."""
        self.pause(self.pace)
        return self.feed(TextSample(self.time, text))

    def compose(self, text: str, cursor: int | None = None) -> Verdict:
        """Compose text; empty text ends that."""
        self.pause(self.pace)
        return self.feed(ComposeSample(self.time, text, len(text) if cursor is None else cursor))

    def pad(self, control: str, value: float = 1.0, pad: int = 0) -> Verdict:
        """A control of a pad has another value."""
        self.pause(self.pace)
        return self.feed(PadSample(self.time, control, value, pad))

    def press_pad(self, control: str, pad: int = 0) -> Verdict:
        """Press a button of a pad and let it go; the verdict of the press."""
        verdict = self.pad(control, 1.0, pad)
        self.pad(control, 0.0, pad)
        return verdict

    def cancel(self) -> Verdict:
        """The system takes the pointer away."""
        self.buttons = 0
        return self._pointer("cancel")

    def wheel(self, dy: float, dx: float = 0.0, unit: str = "line") -> Verdict:
        """Turn the wheel where the hand is."""
        self.pause(self.pace)
        x, y = self.pos
        return self.feed(WheelSample(self.time, x, y, dx, dy, unit, self.pointer))

    def window(
        self,
        what: str,
        width: float | None = None,
        height: float | None = None,
        scale: float | None = None,
        held: tuple[str, ...] = (),
    ) -> Verdict:
        """Something happens to the window, or to this pointer's device."""
        self.pause(self.pace)
        pointer = self.pointer if what in ("pointer_left", "warp", "device_gone") else None
        return self.feed(WindowSample(self.time, what, width, height, pointer, scale, held))
