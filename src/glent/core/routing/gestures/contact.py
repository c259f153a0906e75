"""The contact: one pointer's press as gestures see it, with how far it went, how fast, and who competes for it."""

from __future__ import annotations

import math
from collections import deque
from typing import TYPE_CHECKING

from glent.core.input.samples import PointerSample
from glent.core.routing.pointers.press import is_over
from glent.core.routing.verdict import Drop
from glent.core.scene.space import into

if TYPE_CHECKING:
    from glent.core.input.samples import PointerButton, RaySample
    from glent.core.routing.gestures.recogniser import Contests, Recogniser
    from glent.core.routing.pointers.pointer import Pointer, Press
    from glent.core.scene.node import Node

__all__ = ["Contact"]

Vector = tuple[float, float]


class Contact:
    """A press of one pointer, from its begin until the button that began it is up.

    Lengths are logical pixels of the screen, positions window pixels, times seconds.

    :ivar start: where it began. :ivar began: when.
    :ivar travel: how far it is from there; of a locked pointer, how far it would be (law P12).
    :ivar step: how far the last sample took it. :ivar time: when that was.
    :ivar winner: the recogniser that won the contest, or None while it is undecided.
    """

    __slots__ = (
        "_candidates",
        "_ending",
        "_gestures",
        "_look_delayed",
        "_pointer",
        "began",
        "drop",
        "open",
        "press",
        "start",
        "step",
        "time",
        "track",
        "travel",
        "winner",
    )

    _can_go_fast = True
    """Whether a drag by it can go the short way: it is measured on the screen alone."""

    def __init__(self, gestures: Contests, pointer: Pointer, press: Press) -> None:
        self._gestures = gestures
        self._pointer = pointer
        self.press = press
        self._candidates: list[Recogniser] = []
        self.winner: Recogniser | None = None
        self.open = True
        """Whether it still goes on."""
        self._look_delayed = False
        """Whether its pressed look does not show yet (law G5)."""
        self.drop: Drop | None = None
        self._ending = ""
        """What came of it, in words, for the verdict of its release: the winner says so when it is released."""
        self.began = self.time = press.time
        self.start = press.pos
        self.travel: Vector = (0.0, 0.0)
        self.step: Vector = (0.0, 0.0)
        self.track: deque[tuple[float, float, float]] = deque([(press.time, 0.0, 0.0)], maxlen=256)

    @property
    def pointer(self) -> str:
        """The pointer's name."""
        return self._pointer.name

    @property
    def kind(self) -> str:
        """The pointer's kind: ``mouse``, ``touch``, ``pen`` or ``ray``."""
        return self._pointer.kind

    @property
    def button(self) -> PointerButton:
        """The button that began it."""
        return self.press.button

    @property
    def pos(self) -> Vector:
        """The pointer's position now, window pixels."""
        return self._pointer.pos

    @property
    def distance(self) -> float:
        """The distance from where it began, in a straight line: logical pixels of the screen, or for rays degrees."""
        x, y = self.travel
        return math.sqrt(x * x + y * y)

    def into(self, node: Node, vector: Vector) -> Vector:
        """Convert a distance on the screen into the space of a node (law G7)."""
        return into(node, *vector)

    def is_over(self, node: Node) -> bool:
        """Whether a node is on the path of an offer under the pointer."""
        return is_over(self._pointer, node)

    def speed(self, over: float) -> Vector:
        """The speed over the last so many seconds, in logical pixels a second."""
        x, y = self.travel
        for time, x0, y0 in self.track:
            if time >= self.time - over:
                gone = self.time - time
                return ((x - x0) / gone, (y - y0) / gone) if gone > 0.0 else (0.0, 0.0)
        return 0.0, 0.0

    def _went(self, time: float, step: Vector, sample: PointerSample | RaySample) -> None:
        """Book a sample."""
        x, y = self.travel
        self.step = step
        self.travel = (x + step[0], y + step[1])
        self.time = time
        if sample.raw and isinstance(sample, PointerSample) and not sample.relative:
            scale = self.press.target._scene._scale if self.press.target._scene is not None else 1.0
            for at, raw_x, raw_y in sample.raw:
                if self.track[-1][0] <= at < time:
                    # Each raw point as far from the sample's own as it is on the screen.
                    self.track.append(
                        (
                            at,
                            self.travel[0] + (raw_x - sample.x) / scale,
                            self.travel[1] + (raw_y - sample.y) / scale,
                        )
                    )
        self.track.append((time, *self.travel))

    def _book_tip(self, time: float) -> None:
        """Book a fingertip's sample."""
        self._book(time, (0.0, 0.0))

    def _book(self, time: float, step: Vector) -> None:
        x, y = self.travel
        self.step = step
        self.travel = (x + step[0], y + step[1])
        self.time = time
        self.track.append((time, *self.travel))

    def say(self, ending: str) -> None:
        """Say in words what came of it, for the verdict of its release: the winner does, when it is released."""
        self._ending = ending

    def _dropped(self, payload: object, source: Node) -> None:
        """Note that what it dragged was let go over the world (law G3)."""
        self.drop = Drop(payload, source, self.pos, self.pointer)

    # -- the contest: who competes, who has won, when it is over -----------------------------------------------------

    def enter(self, found: list[Recogniser]) -> None:
        """Let these compete as well."""
        self._candidates.extend(found)

    def leave(self, one: Recogniser) -> None:
        """Let one compete no longer."""
        self._candidates.remove(one)

    def won_by(self, one: Recogniser, waiting: list[Recogniser]) -> Recogniser | None:
        """Note the winner, and who may still take over from it. Return the winner before."""
        before, self.winner = self.winner, one
        self._candidates = waiting
        self._pointer.drag_by(None)
        return before

    def start_anew(self) -> None:
        """Begin another contest with the pointer already down: nobody has won, and it is measured from here."""
        self.winner = None
        self._pointer.drag_by(None)
        self._measure_anew()

    def delay_look(self, delayed: bool) -> None:
        """Note whether the pressed look waits until this is no scroll (law G5)."""
        self._look_delayed = delayed

    def close(self) -> None:
        """Note that it is over."""
        self.open = False
        self.press.compete(None)
        self._pointer.drag_by(None)

    def cancel(self, why: str) -> None:
        """End it without a release."""
        self._gestures.cancel(self, why)

    def removed(self, gone: set[Node]) -> None:
        """Take note that nodes have left the scene."""
        self._gestures.removed(self, gone)

    def _moved(self) -> None:
        """Tell those who compete that the pointer moved."""
        self._gestures.moved(self)

    def _released(self) -> None:
        """Tell the winner that the button is up; where nobody had won, it was a tap."""
        self._gestures.released(self)

    def _scrolled_under(self) -> None:
        """Take note that what lies under the pointer has scrolled, though the pointer is still."""
        if self.winner is not None:
            self.winner.scrolled_under(self)

    def _competitors(self) -> tuple[tuple[str, Node], ...]:
        """Who competes, or has won: names of gestures with their nodes."""
        everyone = [self.winner] if self.winner is not None else self._candidates
        return tuple((one.name, one.node) for one in everyone)

    def _measure_anew(self) -> None:
        self.start, self.began = self._pointer.pos, self.time
        self.travel = self.step = (0.0, 0.0)
        self.track.clear()
        self.track.append((self.time, 0.0, 0.0))

    def __repr__(self) -> str:
        return f"<Contact {self.pointer}, {self.winner.name if self.winner is not None else 'undecided'}>"
