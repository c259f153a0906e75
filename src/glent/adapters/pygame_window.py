"""A window for one's own program: pygame events in, a game's turn, a picture out.

.. code-block:: python

    play(router, update=game.turn)

Each frame takes the events that have come, feeds them, lets time pass, gives ``update`` what came of it, and draws.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.adapters.pygame_events import PygameSource
from glent.adapters.pygame_overlay import paint_overlay
from glent.adapters.pygame_painter import paint_scene
from glent.adapters.pygame_text import forget_fonts
from glent.adapters.pygame_world import paint_world
from glent.core.input.samples import Sample, TickSample, WindowSample
from glent.extras import needs

with needs("pygame", "a window"):
    import pygame

if TYPE_CHECKING:
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene
    from glent.live.overlay import Overlay

__all__ = ["Fed", "Paint", "PlayWindow", "Update", "play"]

Fed = list[tuple[Sample, "Verdict"]]
"""The samples of one frame, in order, each with its verdict; the last is the frame's tick."""
Paint = Callable[[pygame.Surface, "Scene"], object]
Update = Callable[[float, Fed], object]

SEA = (16, 30, 44)


def play(
    router: Router,
    paint: Paint | None = None,
    update: Update | None = None,
    *,
    overlay: Overlay | None = None,
    title: str = "Glent",
    frames: int = 60,
    seconds: float | None = None,
) -> None:
    """Open a window for a router's scene, and run until it is closed.

    :param paint: draws a frame, ``paint(surface, scene)``; None: the plain painter, on an empty sea.
    :param update: the game's turn, once a frame before it is drawn: ``update(time, fed)`` with the time in seconds and
        the frame's samples with their verdicts. What a verdict leaves to the world is the game's. When it returns False
        the window closes.
    :param overlay: a live view into the game, which its key opens (:class:`glent.live.Overlay`).
    :param title: what stands above the window. :param frames: how many a second. :param seconds: how long to run.
    :raises MissingExtraError: pygame-ce is not installed.
    """
    window = PlayWindow(router, paint, update, overlay=overlay, title=title)
    try:
        window.run(frames, seconds)
    finally:
        pygame.quit()


class PlayWindow:
    """What :func:`play` runs, for programs with a loop of their own: call :meth:`frame` once a frame while it is open.

    :param overlay: a live view. While it pauses the game, ``update`` is not called.
    :param below: pixels at the lower edge that are the program's own, and not the scene's.

    :ivar open: whether nobody has closed it yet. :ivar surface: what it draws on. :ivar source: where samples come
        from; its ``warp`` moves the mouse.
    """

    def __init__(
        self,
        router: Router,
        paint: Paint | None = None,
        update: Update | None = None,
        *,
        overlay: Overlay | None = None,
        title: str = "Glent",
        below: int = 0,
    ) -> None:
        self.router = router
        self.overlay = overlay
        self._paint = paint if paint is not None else paint_plainly
        self._update = update
        self._below = below
        self.open = True
        pygame.display.init()  # nothing else of pygame is wanted, sound least of all
        pygame.font.init()
        forget_fonts()
        pygame.display.set_caption(title)
        width, height = (round(side) for side in router.scene.window)
        self.surface = pygame.display.set_mode((width, height + below), pygame.RESIZABLE)
        self._began = time.monotonic() - max(0.0, router.now)  # a router that has run before goes on from there
        self.source = PygameSource(lambda: self.time)

    @property
    def time(self) -> float:
        """Seconds since it opened, from the router's own time then."""
        return time.monotonic() - self._began

    def run(self, frames: int = 60, seconds: float | None = None) -> None:
        """Make so many frames a second until it is closed, or for some seconds."""
        clock, began = pygame.time.Clock(), self.time
        while self.open and (seconds is None or self.time - began < seconds):
            self.frame()
            clock.tick(frames)

    def frame(self) -> None:
        """Take the events that have come, feed them, let time pass and the game have its turn, and draw."""
        events = pygame.event.get()
        self.open = self.open and not any(event.type == pygame.QUIT for event in events)
        fed: Fed = []
        for sample in (*self.source.samples(events), TickSample(self.time)):
            verdict = self.feed(sample)
            fed.append((self.as_fed(sample), verdict))
        overlay = self.overlay
        self.source.follow(self.router.seat().cursor if overlay is None else overlay.cursor)
        if self._update is not None and (overlay is None or not overlay.is_paused):
            self.open = self._update(self.router.now, fed) is not False and self.open
        self.paint()

    def feed(self, sample: Sample) -> Verdict:
        """Feed a sample of the window, and return its verdict. Of the window's size the scene has what is its own."""
        if isinstance(sample, WindowSample) and sample.what == "size" and sample.height is not None:
            sample = WindowSample(sample.time, "size", sample.width, max(1.0, sample.height - self._below))
        return self.router.feed(sample) if self.overlay is None else self.overlay.feed(sample)

    def as_fed(self, sample: Sample) -> Sample:
        """A sample as the game gets it: with a live view that has paused it, at an earlier time."""
        return sample if self.overlay is None else self.overlay.at_game_time(sample)

    def paint(self) -> None:
        """Draw everything as it is now, and show it."""
        self.surface = pygame.display.get_surface() or self.surface
        self._paint(self.surface, self.router.scene)
        if self.overlay is not None:
            paint_overlay(self.surface, self.overlay)
        pygame.display.flip()


def paint_plainly(surface: pygame.Surface, scene: Scene) -> None:
    """Draw a scene with nothing behind it: what stands in its world, as its camera sees that, and what is on the
    screen."""
    surface.fill(SEA)
    if scene.in_world:
        paint_world(surface, scene)
    paint_scene(surface, scene)
