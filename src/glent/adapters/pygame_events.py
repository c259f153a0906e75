"""SDL events, as pygame-ce hands them out, to samples. Needs the extra ``pygame``."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from glent.extras import needs

with needs("pygame", "the adapter for pygame"):
    import pygame
from pygame.event import Event as SdlEvent

from glent.adapters.sdl_fingers import Fingers
from glent.adapters.sdl_keys import code_of, key_of
from glent.adapters.sdl_pads import CONTROLLER, Gamepads
from glent.core.input.samples import (
    ComposeSample,
    KeySample,
    PointerButton,
    PointerSample,
    Sample,
    TextSample,
    WheelSample,
    WindowSample,
)
from glent.core.routing.pointers.pointer import bit_of, names_of

__all__ = ["PygameSource"]

# pygame's numbers; 4 and 5 are its old way to tell of the wheel, which MOUSEWHEEL tells better.
_BUTTONS = {
    1: PointerButton.PRIMARY,
    2: PointerButton.AUXILIARY,
    3: PointerButton.SECONDARY,
    6: PointerButton.BACK,
    7: PointerButton.FORWARD,
}
_IN_MOTION = (PointerButton.PRIMARY, PointerButton.AUXILIARY, PointerButton.SECONDARY)
_HELD = (
    PointerButton.PRIMARY,
    PointerButton.AUXILIARY,
    PointerButton.SECONDARY,
    PointerButton.BACK,
    PointerButton.FORWARD,
)
_FINGERS = (pygame.FINGERDOWN, pygame.FINGERMOTION, pygame.FINGERUP)


class PygameSource:
    """Turns pygame events of one window into samples.

    Moves of one pointer between other events are coalesced into one sample that keeps the raw points (law P9). Mouse
    events that SDL makes from touches, and touches that it makes from a mouse, are marked as emulated (law P1). While
    the mouse is in relative mode its moves are distances alone (law P12). A release that got lost, such as one outside
    of an unfocused window, is made up for at the next move; when the focus comes back, what is down is told anew.

    :param clock: the time in seconds that samples get; it must never run backwards.
    :param pens: ids of touch devices that are pens: SDL 2 reports a pen as a mouse, or as a touch device.
    """

    def __init__(self, clock: Callable[[], float], pens: Iterable[int] = ()) -> None:
        self._clock = clock
        self._pos = (0.0, 0.0)
        self._buttons = 0
        self._keys: dict[str, None] = {}
        self._fingers = Fingers(pens)
        self._pads = Gamepads()
        self._composing = False
        self._warped = False
        self._cursor = "shown"
        self._told_size = False

    def follow(self, cursor: str) -> None:
        """Show, hide or lock the window's cursor, as ``seat.cursor`` says (law W5). Call it once a frame."""
        if cursor == self._cursor:
            return
        self._cursor = cursor
        pygame.mouse.set_visible(cursor == "shown")
        pygame.mouse.set_relative_mode(cursor == "locked")

    def warp(self, x: float, y: float) -> None:
        """Put the mouse elsewhere, so that the way there counts for no drag (law P12)."""
        pygame.mouse.set_pos(x, y)
        self._pos = (float(x), float(y))
        self._warped = True

    def samples(self, events: Iterable[SdlEvent]) -> list[Sample]:
        """The samples of a batch of events, as ``pygame.event.get()`` gives them; other events are passed over.

        The first ones tell the window's size, which no event does.
        """
        found: list[Sample] = []
        if not self._told_size and pygame.display.get_surface() is not None:
            self._told_size = True
            width, height = pygame.display.get_window_size()
            found.append(WindowSample(self._clock(), "size", float(width), float(height)))
        if self._warped:
            self._warped = False
            found.append(WindowSample(self._clock(), "warp", pointer="mouse"))
        moves: list[tuple[float, SdlEvent]] = []

        def flush() -> None:
            moved = self._motion(moves) if moves else []
            moves.clear()
            found.extend(sorted(moved + self._fingers.moved(), key=lambda sample: sample.time))

        for event in events:
            if event.type == pygame.MOUSEMOTION:
                last = moves[-1][1] if moves else None
                if last is not None and (last.touch != event.touch or last.buttons != event.buttons):
                    flush()
                moves.append((self._clock(), event))
            elif event.type == pygame.FINGERMOTION:
                self._fingers.move(event, self._clock())
            else:
                flush()
                found.extend(self._other(event))
        flush()
        return found

    def _motion(self, moves: list[tuple[float, SdlEvent]]) -> list[Sample]:
        time, event = moves[-1]
        x, y = float(event.pos[0]), float(event.pos[1])
        emulated = bool(event.touch)
        if not emulated and pygame.mouse.get_relative_mode():
            dx, dy = (float(sum(one.rel[axis] for _, one in moves)) for axis in (0, 1))
            return [PointerSample(time, "move", *self._pos, buttons=self._buttons, dx=dx, dy=dy, relative=True)]
        found: list[Sample] = []
        if not emulated:
            for button, down in zip(_IN_MOTION, event.buttons, strict=True):
                if self._buttons & bit_of(button) and not down:
                    self._buttons &= ~bit_of(button)
                    found.append(PointerSample(time, "release", *self._pos, button=int(button), buttons=self._buttons))
            x0, y0 = self._pos
            self._pos = (x, y)
        else:
            x0, y0 = x, y
        raw = tuple((at, float(one.pos[0]), float(one.pos[1])) for at, one in moves) if len(moves) > 1 else ()
        found.append(
            PointerSample(time, "move", x, y, buttons=self._buttons, dx=x - x0, dy=y - y0, raw=raw, emulated=emulated)
        )
        return found

    def _other(self, event: SdlEvent) -> list[Sample]:
        time = self._clock()
        if event.type in _FINGERS:
            return [self._fingers.sample(event, time)]
        if event.type == pygame.WINDOWFOCUSGAINED:
            # What went up or down meanwhile was told to somebody else.
            return [WindowSample(time, "focus_gained"), WindowSample(time, "sync", held=self._held())]
        one: Sample | None = None
        if event.type in (pygame.MOUSEBUTTONDOWN, pygame.MOUSEBUTTONUP):
            one = self._button(event, time)
        elif event.type in (pygame.KEYDOWN, pygame.KEYUP):
            one = self._key(event, time)
        elif event.type == pygame.TEXTINPUT and event.text:
            one = TextSample(time, event.text)
        elif event.type == pygame.TEXTEDITING:
            one = self._compose(event, time)
        elif event.type in CONTROLLER:
            one = self._pads.sample(event, time)
        elif event.type == pygame.MOUSEWHEEL:
            one = self._wheel(event, time)
        elif event.type == pygame.WINDOWSIZECHANGED and event.x > 0 and event.y > 0:
            one = WindowSample(time, "size", float(event.x), float(event.y))
        elif event.type == pygame.WINDOWFOCUSLOST:
            one = WindowSample(time, "focus_lost")
        elif event.type == pygame.WINDOWLEAVE:
            one = WindowSample(time, "pointer_left", pointer="mouse")
        return [] if one is None else [one]

    def _held(self) -> tuple[str, ...]:
        """What is down now, by name."""
        down = pygame.mouse.get_pressed(5)
        self._buttons = sum(bit_of(button) for button, held in zip(_HELD, down, strict=True) if held)
        keys = (f"keys/{code}" for code in self._keys)
        return (*names_of("mouse", self._buttons), *self._fingers.held(), *keys, *self._pads.held())

    def _key(self, event: SdlEvent, time: float) -> Sample | None:
        code = code_of(getattr(event, "scancode", 0))
        if code is None:
            return None
        down = event.type == pygame.KEYDOWN
        repeat = down and code in self._keys
        if down:
            self._keys[code] = None
        else:
            self._keys.pop(code, None)
        return KeySample(time, "down" if down else "up", code, key_of(code), repeat)

    def _compose(self, event: SdlEvent, time: float) -> Sample | None:
        """SDL tells of an empty composition also where there was none."""
        if not event.text and not self._composing:
            return None
        self._composing = bool(event.text)
        return ComposeSample(time, event.text, max(0, min(event.start, len(event.text))))

    def _button(self, event: SdlEvent, time: float) -> Sample | None:
        button = _BUTTONS.get(event.button)
        if button is None:
            return None
        locked = not event.touch and bool(pygame.mouse.get_relative_mode())
        x, y = self._pos if locked else (float(event.pos[0]), float(event.pos[1]))
        down = event.type == pygame.MOUSEBUTTONDOWN
        if not event.touch:
            self._pos = (x, y)
            self._buttons = self._buttons | bit_of(button) if down else self._buttons & ~bit_of(button)
        return PointerSample(
            time,
            "press" if down else "release",
            x,
            y,
            button=int(button),
            buttons=self._buttons,
            emulated=bool(event.touch),
            relative=locked,
        )

    def _wheel(self, event: SdlEvent, time: float) -> Sample:
        # SDL counts away from the user as positive, UI Events count the way the content's hidden end comes nearer.
        sign = -1.0 if event.flipped else 1.0
        dx = float(getattr(event, "precise_x", event.x)) * sign
        dy = -float(getattr(event, "precise_y", event.y)) * sign
        return WheelSample(time, *self._pos, dx, dy + 0.0, "line")
