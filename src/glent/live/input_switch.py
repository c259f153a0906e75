"""The switch between a game and a tool: while the tool has the input, the game gets none, and nothing sticks.

=========  ===========================================  ================================================================
state      a sample of a player                         the key of the switch goes down
=========  ===========================================  ================================================================
game's     goes to the game's router                    the game hears that the window lost its focus: presses are
                                                        cancelled, keys lifted (law P11); the tool has the input then
tool's     goes to the tool; the game gets what ends    the game hears that the window has its focus again; the game has
           something it still holds: the release of a   the input then, and what went down meanwhile stays the tool's
           key that went down before                    until it is up
=========  ===========================================  ================================================================

The game can stand still meanwhile: its time does not go on, and later samples come so much later than they say. To its
recording all this is a window that lost its focus for a while, so it replays without the tool.
"""

from __future__ import annotations

from copy import copy
from typing import TYPE_CHECKING

from glent.core.input.samples import (
    KeySample,
    PadSample,
    PointerSample,
    RaySample,
    Sample,
    TextSample,
    TickSample,
    TipSample,
    WindowSample,
)
from glent.core.input.validate import button_of, check
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.router import Router

__all__ = ["InputSwitch"]

AT_REST = 0.2
"""A stick or a trigger nearer to its rest than this is let go of."""
BOTH = ("size", "scale", "device_gone")
"""What a window may report that a game has to know whoever has the input."""

Held = tuple[str, str]


class InputSwitch:
    """Who gets the samples of a window: the game, or a tool.

    :param game: the game's router. :param to_tool: called with each sample while the tool has the input.
    :param key: the code of the key that switches, as in UI Events. :param pauses: whether the game's time stands still
        meanwhile.

    :ivar pauses: that; set it at any time. :ivar is_tools: whether the tool has the input.
    """

    __slots__ = ("_behind", "_frozen", "_game", "_key", "_last", "_left", "_pauses", "_to_tool", "_tools", "is_tools")

    def __init__(self, game: Router, to_tool: Callable[[Sample], object], key: str, pauses: bool) -> None:
        self._game = game
        self._to_tool = to_tool
        self._key = key
        self._pauses = pauses
        self.is_tools = False
        self._tools: set[Held] = set()
        """What went down while the tool had the input, and is not up yet."""
        self._behind = 0.0
        """Seconds by which the game's time is behind the window's."""
        self._frozen: float | None = None
        """The game's time, while it stands still."""
        self._last = game.now
        """The window's time."""
        self._left: list[str] = []
        """The pointers that left the window meanwhile."""

    @property
    def pauses(self) -> bool:
        """Whether the game's time stands still while the tool has the input."""
        return self._pauses

    @pauses.setter
    def pauses(self, value: bool) -> None:
        self._pauses = value
        if not value:
            self._go_on()
        elif self.is_tools:
            self._frozen = self._game_time

    @property
    def is_paused(self) -> bool:
        """Whether the game's time stands still now."""
        return self._frozen is not None

    @property
    def _game_time(self) -> float:
        return self._frozen if self._frozen is not None else self._last - self._behind

    def feed(self, sample: Sample) -> Verdict:
        """Route a sample to the game or the tool. Return what the game is to make of it.

        :raises SampleError: as :meth:`Router.feed`; nothing has changed then.
        """
        if isinstance(sample, KeySample) and sample.code == self._key:
            return self._switched(sample)
        if self._tools and isinstance(sample, WindowSample) and sample.what == "device_gone":
            self._tools = {one for one in self._tools if one[0] != sample.pointer}
        if self.is_tools:
            return self._withheld(sample)
        if self._tools and self._ends(sample):
            return self._told_tool(sample)
        return self._told_game(sample)

    def _switched(self, sample: KeySample) -> Verdict:
        check(sample, self._last)
        self._last = sample.time
        if sample.action == "down" and not sample.repeat:
            return self.give_back(sample.time) if self.is_tools else self.take(sample.time)
        return Verdict.withheld(f"key {sample.action}", self._tool)

    _tool = "the live view"

    def take(self, time: float) -> Verdict:
        """Have the tool take the input. Return what the game is to know of it: its lifts and events."""
        if self.is_tools:
            return Verdict.withheld("tick", self._tool)
        self._last = max(self._last, time)
        verdict = self._game.feed(WindowSample(self._game_time, "focus_lost"))
        self.is_tools = True
        if self._pauses:
            self._frozen = self._game_time
        return Verdict.withheld("window", self._tool, verdict)

    def give_back(self, time: float) -> Verdict:
        """Give the input back to the game. Return what it is to know of it."""
        if not self.is_tools:
            return Verdict.withheld("tick", self._tool)
        self._last = max(self._last, time)
        self._go_on()
        self.is_tools = False
        for pointer in self._left:
            self._game.feed(WindowSample(self._game_time, "pointer_left", pointer=pointer))
        self._left.clear()
        verdict = self._game.feed(WindowSample(self._game_time, "focus_gained"))
        return Verdict.withheld("window", self._tool, verdict)

    def _go_on(self) -> None:
        """Let the game's time go on from where it stands."""
        if self._frozen is not None:
            self._behind = self._last - self._frozen
            self._frozen = None

    # -- the game's ----------------------------------------------------------------------------------------------------

    def _told_game(self, sample: Sample) -> Verdict:
        if self._behind or self._frozen is not None:
            check(sample, self._last)
            self._last = sample.time
            return self._game.feed(self.at_game_time(sample))
        verdict = self._game.feed(sample)
        self._last = sample.time
        return verdict

    def at_game_time(self, sample: Sample) -> Sample:
        """A sample at the game's time, which is behind the window's once the game has stood still."""
        if not self._behind and self._frozen is None:
            return sample
        moved = copy(sample)
        moved.time = self._game_time
        if isinstance(moved, PointerSample) and moved.raw:
            moved.raw = tuple((min(moved.time, time - self._behind), x, y) for time, x, y in moved.raw)
        return moved

    # -- the tool's ----------------------------------------------------------------------------------------------------

    def _withheld(self, sample: Sample) -> Verdict:
        if isinstance(sample, TickSample):
            self._told_tool(sample)
            return (
                Verdict.withheld("tick", self._tool) if self.is_paused else self._game.feed(self.at_game_time(sample))
            )
        name = _held_by(sample)
        verdict = self._told_tool(sample)
        if name is not None:
            if _lets_go(sample):
                if name not in self._tools:  # it went down before: the game's state of it ends
                    after = self._game.feed(self.at_game_time(sample))
                    return Verdict.withheld(_said(sample), self._tool, after)
                self._let_go(name, sample)
            else:
                self._tools.add(name)
        elif isinstance(sample, WindowSample):
            if sample.what in BOTH:
                return self._game.feed(self.at_game_time(sample))
            if sample.what == "pointer_left" and sample.pointer is not None:
                self._left.append(sample.pointer)
        return verdict

    def _told_tool(self, sample: Sample) -> Verdict:
        check(sample, self._last)
        self._last = sample.time
        self._to_tool(sample)
        return Verdict.withheld(_said(sample), self._tool)

    def _ends(self, sample: Sample) -> bool:
        """Whether a sample is the end of something that went down while the tool had the input, or lies within it."""
        name = _held_by(sample)
        if name is None or name not in self._tools:
            # A move with the button down, and a key's repeat, go where the press of it went.
            return isinstance(sample, PointerSample | RaySample) and any(
                one[0] == sample.pointer for one in self._tools
            )
        if _lets_go(sample):
            self._let_go(name, sample)
        elif _begins(sample):  # it went up unseen, such as in another window: this press is a new one
            self._tools.discard(name)
            return False
        return True

    def _let_go(self, name: Held, sample: Sample) -> None:
        """Note that something is up again; a pointer that is cancelled has none of its buttons down."""
        self._tools.discard(name)
        if isinstance(sample, PointerSample | RaySample) and sample.action == "cancel":
            self._tools = {one for one in self._tools if one[0] != sample.pointer}


def _held_by(sample: Sample) -> Held | None:
    """What of a device a sample presses or lets go of; None: nothing."""
    if isinstance(sample, KeySample):
        return sample.device, sample.code
    if isinstance(sample, PadSample):
        return f"pad{sample.pad}", sample.control
    if isinstance(sample, TipSample):
        return sample.pointer, "tip"
    if isinstance(sample, PointerSample | RaySample) and sample.action != "move":
        return sample.pointer, str(int(button_of(sample.button)))
    return None


def _lets_go(sample: Sample) -> bool:
    if isinstance(sample, PadSample):
        return abs(sample.value) <= AT_REST
    if isinstance(sample, TipSample):
        return sample.tip is None
    return isinstance(sample, KeySample | PointerSample | RaySample) and sample.action in ("up", "release", "cancel")


def _begins(sample: Sample) -> bool:
    """Whether a sample is a press, and not one that goes on."""
    if isinstance(sample, KeySample):
        return not sample.repeat
    return isinstance(sample, PointerSample | RaySample) and sample.action == "press"


def _said(sample: Sample) -> str:
    """What a sample is, in a word."""
    if isinstance(sample, PointerSample | RaySample):
        return sample.action
    if isinstance(sample, KeySample):
        return f"key {sample.action}"
    return "text" if isinstance(sample, TextSample) else type(sample).__name__.removesuffix("Sample").lower()
