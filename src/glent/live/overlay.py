"""The live view in the game's own window: stop its input, point at what is wrong, change it, keep the change.

It is a scene of its own with a router of its own, made of the library's controls, so the game's scene, its recording
and its events know nothing of it. All input goes through :meth:`Overlay.feed`, which gives it to the game's router, or,
while the overlay shows, to that of the overlay. What the overlay's own router leaves to the world is pointed at in the
game: there the pointer looks, a press pins, the wheel and the arrows go through what lies there.
"""

from __future__ import annotations

from collections import deque
from typing import TYPE_CHECKING

from glent.core.input.samples import (
    KeySample,
    PointerSample,
    RaySample,
    Sample,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.core.routing.router import Router
from glent.core.scene.scene import Scene
from glent.immediate import Draft
from glent.live.input_switch import InputSwitch
from glent.live.inspection import Inspection
from glent.live.outlines import LiveOutline, outlines_of
from glent.live.panels import Panels

if TYPE_CHECKING:
    from collections.abc import Callable
    from pathlib import Path

    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.live.editor import Editor
    from glent.live.edits import Edits

__all__ = ["Overlay"]

KEPT = 10
"""How many verdicts are told."""

CONTROL = ("ControlLeft", "ControlRight", "MetaLeft", "MetaRight")
SHIFT = ("ShiftLeft", "ShiftRight")
WAYS = {"ArrowLeft": "parent", "ArrowRight": "child", "PageUp": "before", "PageDown": "after"}
STEPS = {"ArrowUp": -1, "ArrowDown": 1}


def _plain_measure(text: str) -> tuple[float, float]:
    return 8.0 * len(text), 16.0


class Overlay:
    """A look into the running game, over any adapter.

    :param router: the game's router. :param key: the key that opens and closes it, by its UI Events ``code``.
    :param pauses: whether the game's time stands still while it shows.
    :param file: the file that changes are kept in; None: the one that the scene was read from.
    :param editor: what opens a node's place in its file.
    :param measure: width and height of a line of text as it is drawn, in pixels; without it a character is 8 wide.

    :ivar game: the game's router. :ivar scene: the overlay's own scene, for any painter. :ivar router: that one's
        router, which can be recorded and watched as any other. :ivar inspection: what is looked at and chosen.
    """

    __slots__ = (
        "_control",
        "_last",
        "_panels",
        "_shift",
        "_switch",
        "_verdicts",
        "game",
        "inspection",
        "router",
        "scene",
    )

    def __init__(
        self,
        router: Router,
        key: str = "F8",
        *,
        pauses: bool = True,
        file: str | Path | None = None,
        editor: Editor | None = None,
        measure: Callable[[str], tuple[float, float]] = _plain_measure,
    ) -> None:
        self.game = router
        self.scene = Scene(size=router.scene.window)
        self.router = Router(self.scene)
        self.inspection = Inspection(router)
        self._switch = InputSwitch(router, self._tell, key, pauses)
        self._verdicts: deque[tuple[str, Verdict]] = deque(maxlen=KEPT)
        self._last: Verdict | None = None
        self._control = self._shift = False
        draft = Draft(self.scene.layer("live", order=1), measure=measure)
        self._panels = Panels(self.inspection, draft, measure, key, file, editor)

    # -- input ---------------------------------------------------------------------------------------------------------

    def feed(self, sample: Sample) -> Verdict:
        """Give a sample to the game or to the overlay. Return what the game is to make of it.

        :raises SampleError: as :meth:`Router.feed`.
        """
        was = self._switch.is_tools
        verdict = self._switch.feed(sample)
        if not was and verdict is not self._last:
            self._note(sample, verdict)
        if self._switch.is_tools is not was:
            self._turned()
        elif was and isinstance(sample, TickSample):
            self._frame()
        return verdict

    def tick(self, time: float) -> Verdict:
        """Let time pass: :meth:`feed` of a :class:`TickSample`."""
        return self.feed(TickSample(time))

    def open(self) -> Verdict:
        """Have it show. Return what the game is to know of that: its lifts."""
        verdict = self._switch.take(max(self.router.now, self.game.now))
        self._turned()
        return verdict

    def close(self) -> Verdict:
        """Have it hidden, and the game go on. Return what the game is to know of that."""
        verdict = self._switch.give_back(max(self.router.now, self.game.now))
        self._turned()
        return verdict

    @property
    def shown(self) -> bool:
        """Whether it shows, and has the input."""
        return self._switch.is_tools

    @property
    def is_paused(self) -> bool:
        """Whether the game's time stands still now: its own step should as well."""
        return self._switch.is_paused

    @property
    def pauses(self) -> bool:
        """Whether the game's time stands still while it shows; set it at any time."""
        return self._switch.pauses

    @pauses.setter
    def pauses(self, value: bool) -> None:
        self._switch.pauses = value

    def at_game_time(self, sample: Sample) -> Sample:
        """A sample as the game gets it: at its own time, which is behind the window's once it has stood still."""
        return self._switch.at_game_time(sample)

    @property
    def cursor(self) -> str:
        """What the window's cursor should be."""
        return "shown" if self.shown else self.game.seat().cursor

    # -- what is looked at ---------------------------------------------------------------------------------------------

    @property
    def edits(self) -> Edits:
        """The changes that were made."""
        return self.inspection.edits

    @property
    def chosen(self) -> Node | None:
        """The node that is chosen."""
        return self.inspection.chosen

    @property
    def verdicts(self) -> tuple[tuple[str, Verdict], ...]:
        """The last ten verdicts of the game, the newest last, each with what its sample was; idle moves and ticks are
        left out."""
        return tuple(self._verdicts)

    @property
    def outlines(self) -> list[LiveOutline]:
        """What to draw over the game, below the overlay's scene; nothing while it does not show."""
        return outlines_of(self.game, self.chosen) if self.shown else []

    # -- how -----------------------------------------------------------------------------------------------------------

    def _turned(self) -> None:
        """It was opened or closed."""
        self.scene["live"].visible = self.shown
        self.inspection.let_go()
        self._control = self._shift = False
        if self.shown:
            self.scene.size = self.game.scene.window
            self._frame()

    def _note(self, sample: Sample, verdict: Verdict) -> None:
        self._last = verdict
        idle = isinstance(sample, TickSample | WindowSample) or (
            isinstance(sample, PointerSample) and sample.action == "move"
        )
        if not idle or verdict.lifts:
            self._verdicts.append((_called(sample), verdict))

    def _tell(self, sample: Sample) -> None:
        """Take a sample that the game does not get."""
        if isinstance(sample, WindowSample) and sample.what == "size" and sample.width and sample.height:
            self.scene.size = (sample.width, sample.height)
        verdict = self.router.feed(sample)
        if isinstance(sample, KeySample):
            self._key(sample, verdict.world)
        elif verdict.world:
            self._point(sample)

    def _point(self, sample: Sample) -> None:
        """Take input that falls on the game."""
        look = self.inspection
        if isinstance(sample, PointerSample) and not sample.relative and not sample.emulated:
            if sample.action == "move" and not sample.buttons:
                look.look(sample.x, sample.y, sample.kind)
            elif sample.action == "press":
                look.pin(sample.x, sample.y, sample.kind)
        elif isinstance(sample, WheelSample) and sample.dy:
            look.step(1 if sample.dy > 0 else -1)

    def _key(self, sample: KeySample, falls_through: bool) -> None:
        down = sample.action == "down"
        if sample.code in CONTROL:
            self._control = down
        elif sample.code in SHIFT:
            self._shift = down
        elif down and sample.code == "Enter":
            self._panels.enter()
        elif down and falls_through:
            if self._control:
                self._shortcut(sample.code)
            elif sample.code in STEPS:
                self.inspection.step(STEPS[sample.code])
            elif sample.code in WAYS:
                self.inspection.go(WAYS[sample.code])
            elif sample.code == "Escape":
                self.inspection.let_go()

    def _shortcut(self, code: str) -> None:
        if code == "KeyZ" and not self._shift:
            self._panels.do("undo")
        elif code == "KeyY" or (code == "KeyZ" and self._shift):
            self._panels.do("redo")
        elif code == "KeyS":
            self._panels.do("keep")

    def _frame(self) -> None:
        """Declare the panels anew, and do what was asked for there."""
        asked = self._panels.declare(self.scene.size, self.verdicts, self.pauses)
        if asked == "close":
            self.close()
        elif asked in ("pause", "go on"):
            self.pauses = asked == "pause"
        elif asked:
            self._panels.do(asked)


def _called(sample: Sample) -> str:
    """What a sample is, in a word or two."""
    if isinstance(sample, KeySample):
        return sample.code.removeprefix("Key").removeprefix("Digit") + " up" * (sample.action == "up")
    if isinstance(sample, PointerSample | RaySample):
        return sample.action
    return type(sample).__name__.removesuffix("Sample").lower()
