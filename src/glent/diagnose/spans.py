"""What each pointer did over time: presses, and the gestures that won them, as data for timelines (law G5)."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Protocol

from glent.core.input.samples import PointerSample, Sample, WindowSample
from glent.core.scene.kinds import GESTURES

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.routing.verdict import Verdict

__all__ = ["Fed", "Span", "spans_of"]


class Fed(Protocol):
    """A sample and its verdict, as a replay yields them."""

    @property
    def sample(self) -> Sample:
        """The sample."""

    @property
    def verdict(self) -> Verdict:
        """Its verdict."""


@dataclass(frozen=True, slots=True)
class Span:
    """A stretch of time in which one pointer was held for one thing.

    :ivar what: the gesture that had won, ``tap`` for a press that became a click, ``press`` for one that became
        nothing, ``undecided`` until a gesture won, ``dwell``, ``world``, or ``nobody``.
    :ivar node: the path of the node that had it, or None. :ivar losers: the gestures that competed and lost.
    """

    pointer: str
    start: float
    end: float
    what: str
    node: str | None
    losers: tuple[str, ...] = ()


@dataclass
class _Open:
    """A press that goes on."""

    start: float
    node: str | None
    what: str
    contest: tuple[str, ...]
    clicked: bool = False
    won: list[tuple[float, str, str]] = field(default_factory=list)

    def win(self, time: float, what: str, node: str) -> None:
        if not self.won or self.won[-1][1:] != (what, node):
            self.won.append((time, what, node))


def spans_of(steps: Iterable[Fed]) -> list[Span]:
    """The spans of a replay, by when they begin."""
    found: list[Span] = []
    presses: dict[str, _Open] = {}
    dwells: dict[str, tuple[float, str]] = {}
    last = 0.0
    for step in steps:
        sample, verdict = step.sample, step.verdict
        last = sample.time
        if isinstance(sample, PointerSample) and sample.action == "press" and sample.pointer not in presses:
            node = verdict.owner.path if verdict.owner is not None else None
            what = "world" if verdict.world else "nobody" if node is None else "undecided"
            names = tuple(dict.fromkeys(name for name, _ in verdict.contest))
            presses[sample.pointer] = _Open(sample.time, node, what, names)
        for one in (verdict, *verdict.inner):
            for event in one.events:
                _book(event, presses, dwells, found)
        if isinstance(sample, PointerSample):
            press = presses.get(sample.pointer)
            if press is not None and verdict.gesture is not None and verdict.owner is not None:
                press.win(sample.time, verdict.gesture, verdict.owner.path)
            if sample.action in ("release", "cancel") and not sample.buttons and press is not None:
                found.extend(_closed(sample.pointer, presses.pop(sample.pointer), last))
        elif isinstance(sample, WindowSample) and sample.what in ("focus_lost", "device_gone", "sync"):
            for name in [name for name in presses if sample.what != "device_gone" or name == sample.pointer]:
                found.extend(_closed(name, presses.pop(name), last))
    for name, press in presses.items():
        found.extend(_closed(name, press, last))
    found.sort(key=lambda span: span.start)
    return found


def _book(event: Event, presses: dict[str, _Open], dwells: dict[str, tuple[float, str]], found: list[Span]) -> None:
    name, kind = event.pointer, event.kind
    press = presses.get(name)
    if kind == "dwell":
        begun = dwells.setdefault(name, (event.time, event.node.path))
        if event.data["done"] or not event.data["progress"]:
            del dwells[name]
            found.append(Span(name, begun[0], event.time, "dwell", begun[1]))
    elif press is None:
        return
    elif kind == "click":
        press.clicked = True
    elif kind in GESTURES and not _is_beside(event):
        press.win(event.time, GESTURES[kind], event.node.path)


def _is_beside(event: Event) -> bool:
    """Whether an event of a gesture does not mean that it has the pointer from now on."""
    by_other = event.data.get("by") in ("glide", "wheel", "autoscroll", "code", "content")
    return by_other or event.kind in ("hold_progress", "drag_end") or event.data.get("phase") == "end"


def _closed(name: str, press: _Open, end: float) -> list[Span]:
    """A press that is over: until it was decided, and what each winner had."""
    if not press.won:
        what = press.what
        if what == "undecided":
            what = "tap" if press.clicked else "press"
        return [Span(name, press.start, end, what, press.node, press.contest)]
    spans = []
    if press.won[0][0] > press.start:
        spans.append(Span(name, press.start, press.won[0][0], "undecided", press.node, press.contest))
    for index, (start, what, node) in enumerate(press.won):
        until = press.won[index + 1][0] if index + 1 < len(press.won) else end
        losers = tuple(one for one in ("tap", *press.contest) if one != what)
        spans.append(Span(name, start, until, what, node, losers))
    return spans
