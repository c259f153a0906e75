"""SDL's fingers as pointers with names of their own: ``finger-1``, ``finger-2``, … in the order they come down."""

from __future__ import annotations

from collections.abc import Iterable

from glent.extras import needs

with needs("pygame", "the adapter for pygame"):
    import pygame
from pygame.event import Event as SdlEvent

from glent.core.input.samples import PointerSample, Sample

__all__ = ["Fingers"]

FROM_MOUSE = -1
"""The touch device of fingers that SDL makes from a mouse."""


class _Finger:
    """One finger on a touch device, by its name, and the moves of it that are not told yet."""

    __slots__ = ("emulated", "kind", "moves", "name", "pos", "pressure")

    def __init__(self, name: str, kind: str, emulated: bool, pos: tuple[float, float]) -> None:
        self.name = name
        self.kind = kind
        self.emulated = emulated
        self.pos = pos
        self.pressure: float | None = None
        self.moves: list[tuple[float, float, float]] = []


class Fingers:
    """The fingers that are down. A name is free again once its finger is up, so recordings stay readable.

    :param pens: ids of touch devices that are pens.
    """

    def __init__(self, pens: Iterable[int] = ()) -> None:
        self._pens = frozenset(pens)
        self._down: dict[tuple[int, int], _Finger] = {}

    def _of(self, event: SdlEvent) -> _Finger:
        key = (event.touch_id, event.finger_id)
        finger = self._down.get(key)
        if finger is None:
            kind = "pen" if event.touch_id in self._pens else "touch"
            word = "pen" if kind == "pen" else "finger"
            taken = {one.name for one in self._down.values()}
            name = next(f"{word}-{number}" for number in range(1, 1000) if f"{word}-{number}" not in taken)
            finger = self._down[key] = _Finger(name, kind, event.touch_id == FROM_MOUSE, _point(event))
        pressure = getattr(event, "pressure", None)
        if pressure is not None:
            finger.pressure = min(1.0, max(0.0, float(pressure)))
        return finger

    def move(self, event: SdlEvent, time: float) -> None:
        """A finger moved; it is told later, together with what else it does before the next other event (law P9)."""
        self._of(event).moves.append((time, *_point(event)))

    def moved(self) -> list[Sample]:
        """A sample for each finger that has moved."""
        found: list[Sample] = []
        for finger in [one for one in self._down.values() if one.moves]:
            time, x, y = finger.moves[-1]
            raw = tuple(finger.moves) if len(finger.moves) > 1 else ()
            finger.moves.clear()
            found.append(self._made(finger, time, "move", (x, y), raw))
        return found

    def sample(self, event: SdlEvent, time: float) -> Sample:
        """A finger came down, or went up."""
        if event.type == pygame.FINGERUP:
            finger = self._of(event)
            del self._down[event.touch_id, event.finger_id]
            return self._made(finger, time, "release", _point(event))
        finger = self._of(event)
        finger.pos = _point(event)
        return self._made(finger, time, "press", finger.pos)

    @staticmethod
    def _made(
        finger: _Finger,
        time: float,
        action: str,
        at: tuple[float, float],
        raw: tuple[tuple[float, float, float], ...] = (),
    ) -> Sample:
        (x0, y0), finger.pos = finger.pos, at
        return PointerSample(
            time,
            action,
            *at,
            finger.name,
            finger.kind,
            None if action == "move" else 0,
            0 if action == "release" else 1,
            at[0] - x0,
            at[1] - y0,
            finger.pressure,
            raw,
            finger.emulated,
        )

    def held(self) -> list[str]:
        """What is down, by name."""
        return [f"{finger.name}/primary" for finger in self._down.values() if not finger.emulated]


def _point(event: SdlEvent) -> tuple[float, float]:
    """SDL tells fingers in fractions of the window."""
    width, height = pygame.display.get_window_size()
    return float(event.x) * width, float(event.y) * height
