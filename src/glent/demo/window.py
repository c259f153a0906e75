"""A scene of the demo in a real window: its world behind it, verdicts in a status line."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import pygame

from glent.adapters.pygame_painter import paint_scene
from glent.adapters.pygame_window import PlayWindow
from glent.adapters.pygame_world import paint_world
from glent.core.errors import ControlError
from glent.core.input.samples import PointerSample, TextSample, TickSample, WindowSample
from glent.demo.bridge import Bridge
from glent.demo.gallery import Gallery
from glent.demo.harbour import Harbour
from glent.demo.painting import BAR, paint_status, paint_tugs, paint_water
from glent.demo.painting_bridge import paint_boats, paint_viewports
from glent.demo.painting_quay import paint_crane, paint_gauges
from glent.demo.quay import Quay
from glent.formats import FileError, reload_scene
from glent.wiring import Rehearsal, WiringError

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene
    from glent.demo.worlds import World
    from glent.live import Overlay

__all__ = ["Window", "play_window"]

GREETING = "press, drag, type or use a pad: this line says who has it, and why; F8 looks into it"


class Window(PlayWindow):
    """A scene in a pygame window, with the world behind it.

    :ivar status: the last verdict that was not an idle move's: what the status line says.
    """

    def __init__(
        self, router: Router, world: World, watched: Path | None = None, overlay: Overlay | None = None
    ) -> None:
        super().__init__(router, self._draw, overlay=overlay, below=BAR)
        self.watched = watched
        self._stamp = _stamp(watched)
        self.world = world
        self.status: Verdict | None = None
        self._told = 0
        self.said = self.mark = ""
        """What there is to say that no verdict says, and under which mark."""

    def frame(self) -> None:
        """One turn: events, samples, verdicts, picture; before that the scene file again, if it has changed."""
        if self.watched is not None and _stamp(self.watched) not in (0.0, self._stamp):
            self.reload()
        super().frame()

    def reload(self) -> None:
        """Read the watched scene file again. What is wrong in it is said, and nothing changes then (law T5)."""
        assert self.watched is not None
        self._stamp = _stamp(self.watched)
        try:
            done = reload_scene(self.router.scene, self.watched)
        except FileError as error:
            self.say("SCENE FILE", str(error).replace("\n", " "))
            return
        if isinstance(self.world, Gallery | Rehearsal):
            try:
                self.world.wire()
            except (WiringError, ControlError) as error:
                self.say("SCENE FILE", str(error).replace("\n", "; "))
                return
        counts = f"{len(done.changed)} changed, {len(done.added)} added, {len(done.removed)} removed"
        self.say("SCENE FILE", f"{self.watched.name} was read again: {counts}")

    def say(self, mark: str, said: str) -> None:
        """Say something in the status line, until the next verdict."""
        self.mark, self.said = mark, said

    def feed(self, sample: Sample) -> Verdict:
        """Feed one sample, and let the world have what is its own."""
        verdict = super().feed(sample)
        self.world.steer(self.as_fed(sample), verdict)
        if isinstance(sample, TickSample):
            return verdict
        idle = isinstance(sample, TextSample) and verdict.world  # the key before it says more
        idle = idle or (isinstance(sample, PointerSample) and sample.action == "move" and not sample.buttons)
        idle = idle or (isinstance(sample, WindowSample) and self.status is None)  # the window opens
        if not idle or (verdict.events and self.status is not None):
            self.status, self.said = verdict, ""
        if isinstance(self.world, Rehearsal) and len(self.world.orders) > self._told:
            self.say("THE GAME", f"is {self.world.orders[-1]}; {verdict.why}")
            self._told = len(self.world.orders)
        return verdict

    def _draw(self, surface: pygame.Surface, scene: Scene) -> None:
        behind = self.world
        if isinstance(behind, Gallery):
            behind.show()
        if scene.in_world:
            paint_world(surface, scene)
        else:
            paint_water(surface, scene)
        if isinstance(behind, Harbour):
            paint_tugs(surface, scene, behind)
        elif isinstance(behind, Quay):
            paint_crane(surface, scene, behind)
        elif isinstance(behind, Bridge):
            paint_boats(surface, self.router, behind)
        paint_scene(surface, scene)
        if len(self.router.seats) > 1:
            paint_viewports(surface, self.router)
        if isinstance(behind, Quay):
            paint_gauges(surface, scene, behind)
        if self.status is None and not self.said:
            paint_status(surface, False, GREETING, "WELCOME")
        else:
            world, why = (self.status.world, self.status.why) if self.status is not None else (False, "")
            paint_status(surface, world, self.said or why, self.mark if self.said else "")


def play_window(window: Window, seconds: float | None = None, shot: Path | None = None) -> None:
    """Keep a window open until it is closed, or for some seconds; ``shot`` is where its last picture goes."""
    try:
        window.run(seconds=seconds)
        if shot is not None:
            pygame.image.save(window.surface, str(shot))
    finally:
        pygame.quit()


def _stamp(path: Path | None) -> float:
    """When a file last changed; 0 while it is not there, as it is for a moment when an editor saves it."""
    try:
        return path.stat().st_mtime if path is not None else 0.0
    except OSError:
        return 0.0
