"""SDL events, as pygame-ce hands them out, to samples. Needs the extra ``pygame``."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import pygame
from pygame.event import Event as SdlEvent

from glent.core.input.samples import Button, PointerSample, Sample, WheelSample, WindowSample
from glent.core.routing.pointer import bit_of

__all__ = ["PygameSource"]

# pygame's numbers; 4 and 5 are its old way to tell of the wheel, which MOUSEWHEEL tells better.
_BUTTONS = {1: Button.PRIMARY, 2: Button.AUXILIARY, 3: Button.SECONDARY, 6: Button.BACK, 7: Button.FORWARD}
_IN_MOTION = (Button.PRIMARY, Button.AUXILIARY, Button.SECONDARY)


class PygameSource:
    """Turns pygame events of one window into samples.

    Mouse moves between other events are coalesced into one sample that keeps the raw points (law P9). Mouse events
    that SDL makes from touches are marked as emulated (law P1). A release that got lost, such as one outside of an
    unfocused window, is made up for at the next move.

    :param clock: the time in seconds that samples get; it must never run backwards.
    """

    def __init__(self, clock: Callable[[], float]) -> None:
        self._clock = clock
        self._pos = (0.0, 0.0)
        self._buttons = 0

    def samples(self, events: Iterable[SdlEvent]) -> list[Sample]:
        """The samples of a batch of events, as ``pygame.event.get()`` gives them; other events are passed over."""
        found: list[Sample] = []
        moves: list[tuple[float, float, float]] = []
        last: SdlEvent | None = None

        def flush() -> None:
            nonlocal last
            if last is not None:
                found.extend(self._motion(last, moves))
                moves.clear()
                last = None

        for event in events:
            if event.type == pygame.MOUSEMOTION:
                if last is not None and (last.touch != event.touch or last.buttons != event.buttons):
                    flush()
                last = event
                moves.append((self._clock(), float(event.pos[0]), float(event.pos[1])))
                continue
            flush()
            sample = self._other(event)
            if sample is not None:
                found.append(sample)
        flush()
        return found

    def _motion(self, event: SdlEvent, moves: list[tuple[float, float, float]]) -> list[Sample]:
        time, x, y = moves[-1]
        emulated = bool(event.touch)
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
        raw = tuple(moves) if len(moves) > 1 else ()
        found.append(
            PointerSample(time, "move", x, y, buttons=self._buttons, dx=x - x0, dy=y - y0, raw=raw, emulated=emulated)
        )
        return found

    def _other(self, event: SdlEvent) -> Sample | None:
        time = self._clock()
        if event.type in (pygame.MOUSEBUTTONDOWN, pygame.MOUSEBUTTONUP):
            return self._button(event, time)
        if event.type == pygame.MOUSEWHEEL:
            return self._wheel(event, time)
        if event.type == pygame.WINDOWSIZECHANGED and event.x > 0 and event.y > 0:
            return WindowSample(time, "size", float(event.x), float(event.y))
        if event.type == pygame.WINDOWFOCUSLOST:
            return WindowSample(time, "focus_lost")
        if event.type == pygame.WINDOWFOCUSGAINED:
            return WindowSample(time, "focus_gained")
        if event.type == pygame.WINDOWLEAVE:
            return WindowSample(time, "pointer_left", pointer="mouse")
        return None

    def _button(self, event: SdlEvent, time: float) -> Sample | None:
        button = _BUTTONS.get(event.button)
        if button is None:
            return None
        x, y = float(event.pos[0]), float(event.pos[1])
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
        )

    def _wheel(self, event: SdlEvent, time: float) -> Sample:
        # SDL counts away from the user as positive, UI Events count the way the content's hidden end comes nearer.
        sign = -1.0 if event.flipped else 1.0
        dx = float(getattr(event, "precise_x", event.x)) * sign
        dy = -float(getattr(event, "precise_y", event.y)) * sign
        return WheelSample(time, *self._pos, dx, dy + 0.0, "line")
