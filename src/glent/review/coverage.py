"""What recordings have met of a game, and what never: nodes, handlers, kinds of event, reasons, presses that missed.

Each recording is fed to a game made anew. A handler counts as run if the router ran the handlers of its node for that
event: beside each that is there at the beginning another one is put that counts. Nodes are those that can be pressed:
controls, and what listens for presses. A miss is a press that came to none of them; how far the nearest one is, is
measured on the screen before the press. The time to click by distance and width follows Fitts's law (in the form of
Shannon: log2(distance / width + 1) bits).
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from math import hypot, log2
from typing import TYPE_CHECKING

import numpy as np

from glent.core.input.samples import PointerSample, RaySample
from glent.core.routing.reasons import LAWS, Reason
from glent.core.scene.space import covers
from glent.diagnose import is_pressable
from glent.formats import prepare_replay

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable

    from glent.core.input.samples import Sample
    from glent.core.routing.event import Event
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.formats import Recording, RecordingStream

__all__ = ["Click", "Coverage", "HandlerUse", "Miss", "NodeUse", "cover"]

NEAR = 24.0
"""Pixels: a press that misses a target by less was probably meant for it."""
NOT_MET = frozenset({"R6", "R7", "D4"})
"""Laws whose reasons no recording is expected to meet: loops without end, time alone, a tool that has the input."""
LEAST_CLICKS = 5
"""Clicks below which no slope is told."""


@dataclass(slots=True)
class NodeUse:
    """How often a node was met.

    :ivar path: the node. :ivar role: its role. :ivar hovers: enters. :ivar presses: presses that came to it, or to
        something in it. :ivar clicks: its clicks. :ivar acts: what was done to it by keys, pad, code or assistive
        technology. :ivar seen: whether it ever was visible and enabled.
    """

    path: str
    role: str | None
    hovers: int = 0
    presses: int = 0
    clicks: int = 0
    acts: int = 0
    seen: bool = False

    @property
    def reached(self) -> bool:
        """Whether anything was ever done to it."""
        return bool(self.presses or self.clicks or self.acts)


@dataclass(slots=True)
class HandlerUse:
    """How often a handler ran.

    :ivar path: its node. :ivar kind: of event. :ivar phase: ``capture`` or ``bubble``. :ivar name: what it is called.
    """

    path: str
    kind: str
    phase: str
    name: str
    runs: int = 0


@dataclass(frozen=True, slots=True)
class Miss:
    """A press that came to nothing one can press.

    :ivar recording: of which recording. :ivar time: its time, seconds. :ivar kind: of pointer. :ivar x: where, window
        pixels. :ivar y: likewise. :ivar to: who got it. :ivar nearest: the nearest node that one could have pressed.
        :ivar away: how far from it, pixels; both None: there was none.
    """

    recording: str
    time: float
    kind: str
    x: float
    y: float
    to: str
    nearest: str | None
    away: float | None

    @property
    def near(self) -> bool:
        """Whether it was probably meant for the nearest one: it was beside it, and not by much."""
        return self.away is not None and 0.0 < self.away <= NEAR


@dataclass(frozen=True, slots=True)
class Click:
    """A click by a pointer that moved to it.

    :ivar path: what was clicked. :ivar recording: of which recording. :ivar time: of the press, seconds.
        :ivar hover: from the enter to the press, seconds; None: it had not hovered. :ivar travel: from the first move
        after what the pointer did before to the press, seconds. :ivar distance: from there to the node's middle,
        pixels. :ivar width: the node's lesser side, pixels. :ivar bits: how hard that is to hit.
    """

    path: str
    recording: str
    time: float
    hover: float | None
    travel: float
    distance: float
    width: float
    bits: float


@dataclass(slots=True)
class Coverage:
    """What recordings have met, and what never.

    :ivar recordings: how many were fed. :ivar samples: of how many samples. :ivar nodes: by path. :ivar handlers: all.
        :ivar kinds: how often each kind of event was sent. :ivar listened: the kinds that something listens for.
        :ivar reasons: how often each reason was given. :ivar misses: the presses that missed. :ivar clicks: the clicks.
        :ivar presses: where presses were: x, y, and whether something got it. :ivar failed: the recordings that could
        not be fed, each with the reason. :ivar window: the size of the last window, pixels.
    """

    recordings: int = 0
    samples: int = 0
    nodes: dict[str, NodeUse] = field(default_factory=dict)
    handlers: list[HandlerUse] = field(default_factory=list)
    kinds: Counter[str] = field(default_factory=Counter)
    listened: set[str] = field(default_factory=set)
    reasons: Counter[Reason] = field(default_factory=Counter)
    misses: list[Miss] = field(default_factory=list)
    clicks: list[Click] = field(default_factory=list)
    presses: list[tuple[float, float, bool]] = field(default_factory=list)
    failed: dict[str, str] = field(default_factory=dict)
    window: tuple[float, float] = (1.0, 1.0)

    @property
    def share(self) -> float:
        """The part of the nodes that were reached, 0 to 1."""
        return sum(one.reached for one in self.nodes.values()) / len(self.nodes) if self.nodes else 1.0

    def unreached(self) -> list[NodeUse]:
        """The nodes that nothing was ever done to."""
        return [one for one in self.nodes.values() if not one.reached]

    def unrun(self) -> list[HandlerUse]:
        """The handlers that never ran."""
        return [one for one in self.handlers if not one.runs]

    def unsent(self) -> list[str]:
        """The kinds that something listens for, and that never were sent."""
        return sorted(kind for kind in self.listened if not self.kinds[kind])

    def unmet(self) -> dict[str, list[Reason]]:
        """The laws of which no reason was ever given, each with its reasons."""
        met = {LAWS[reason] for reason in self.reasons}
        found: dict[str, list[Reason]] = {}
        for reason, law in LAWS.items():
            if law not in met and law not in NOT_MET:
                found.setdefault(law, []).append(reason)
        return found

    def near_misses(self) -> list[Miss]:
        """The presses that missed a node by little, the nearest first."""
        return sorted((one for one in self.misses if one.near), key=lambda one: one.away or 0.0)

    def fitts(self) -> tuple[float, float] | None:
        """Seconds of a click as ``a + b * bits``: a, and the slope b, by least squares; None: too few clicks tell."""
        bits = np.array([one.bits for one in self.clicks])
        if len(bits) < LEAST_CLICKS or np.ptp(bits) < 0.5:
            return None
        slope, start = np.polyfit(bits, [one.travel for one in self.clicks], 1)
        return float(start), float(slope)


def cover(
    build: Callable[[Recording | RecordingStream], Router],
    recordings: Iterable[tuple[str, Recording | RecordingStream]],
) -> Coverage:
    """Feed recordings to a game, and note what they meet.

    :param build: makes the game for a recording. :param recordings: each with its name.
    :return: of all of them together. A recording that cannot be fed is noted with its reason.
    """
    found = Coverage()
    handlers: dict[tuple[str, str, str, str], HandlerUse] = {}
    for name, recording in recordings:
        try:
            router = build(recording)
            prepare_replay(router, recording)
            played = _Played(found, handlers, name, router)
            for sample, _ in recording.entries():
                played.feed(sample)
        except Exception as error:
            found.failed[name] = str(error) or type(error).__name__
        found.recordings += 1
    found.handlers = list(handlers.values())
    return found


@dataclass(slots=True)
class _Press:
    """A press that may become a click: of what, and how the pointer came there."""

    path: str
    time: float
    hover: float | None
    travel: float
    distance: float
    width: float


class _Group:
    """The handlers of a node for one kind and phase, with what counts their runs: it is called after them."""

    __slots__ = ("last", "uses")

    def __init__(self) -> None:
        self.uses: list[HandlerUse] = []
        self.last: Event | None = None

    def ran(self, event: Event) -> None:
        self.last = event
        for one in self.uses:
            one.runs += 1


class _Played:
    """One recording as it is fed."""

    def __init__(
        self, found: Coverage, handlers: dict[tuple[str, str, str, str], HandlerUse], name: str, router: Router
    ) -> None:
        self.found = found
        self.name = name
        self.router = router
        self.start: dict[str, tuple[float, float, float]] = {}
        self.at: dict[str, tuple[float, float]] = {}
        self.hovered: dict[tuple[str, str], float] = {}
        self.pressed: dict[str, _Press] = {}
        self.groups: dict[Node, list[tuple[str, _Group]]] = {}
        found.window = router.scene.window
        for node in router.scene.walk():
            if is_pressable(node):
                self._use(node)
            for subscription in node.handlers:
                found.listened.add(subscription.kind)
            self._count_runs(node, handlers)

    def _use(self, node: Node) -> NodeUse:
        use = self.found.nodes.setdefault(node.path, NodeUse(node.path, node.role))
        use.seen = use.seen or (node.is_visible and node.is_enabled)
        return use

    def _count_runs(self, node: Node, handlers: dict[tuple[str, str, str, str], HandlerUse]) -> None:
        """Put a handler that counts beside those of the game on a node; controls' and wires' own are none of these."""
        groups: dict[tuple[str, str], _Group] = {}
        for one in node.handlers:
            if not one.for_now:
                key = node.path, one.kind, one.phase, one.name
                use = handlers.setdefault(key, HandlerUse(*key))
                group = groups.setdefault((one.kind, one.phase), _Group())
                if use not in group.uses:  # two that are called the same count as one
                    group.uses.append(use)
        for (kind, phase), group in groups.items():
            node.on_for_now(kind, group.ran, phase)
            self.groups.setdefault(node, []).append((kind, group))

    def feed(self, sample: Sample) -> None:
        if isinstance(sample, PointerSample) and sample.action == "press" and not sample.relative:
            nearest = self._nearest(sample)
            verdict = self.router.feed(sample)
            if not sample.emulated:
                self._press(sample, verdict, nearest)
        else:
            verdict = self.router.feed(sample)
            if isinstance(sample, RaySample) and sample.action == "press" and verdict.owner is not None:
                self._pressed(verdict.owner)
        if isinstance(sample, PointerSample):
            self._follow(sample)
        self.found.samples += 1
        for one in (verdict, *verdict.inner):
            self.found.reasons[one.reason] += 1
            for event in one.events:
                self._count(event)

    def _nearest(self, sample: PointerSample) -> tuple[str, float] | None:
        """The nearest node that one could press now, and how far away it is on the screen."""
        top = self.router.seat().view.top
        best: tuple[str, float] | None = None
        for layer in self.router.scene.layers:
            if not layer.is_visible:
                continue
            for node in layer.walk():
                if not is_pressable(node) or not node.is_visible or not node.is_enabled or min(node.size) <= 0.0:
                    continue
                self._use(node)
                if top is not None and not node.is_within(top):
                    continue
                xs, ys = zip(*node.screen_corners(), strict=True)
                x, y = min(max(sample.x, min(xs)), max(xs)), min(max(sample.y, min(ys)), max(ys))
                away = hypot(x - sample.x, y - sample.y)
                if best is not None and away >= best[1]:
                    continue
                if all(covers(above, x, y) for above in node.lineage()[:-1] if above.clips):
                    best = node.path, away
        return best

    def _follow(self, sample: PointerSample) -> None:
        """Note where a way to a click began: at the first move after what the pointer did before."""
        name = sample.pointer
        if sample.action == "move":
            if name not in self.start:
                self.start[name] = (sample.time, *self.at.get(name, (sample.x, sample.y)))
        elif sample.action != "press":
            self.start.pop(name, None)
        if not sample.relative:
            self.at[name] = sample.x, sample.y

    def _press(self, sample: PointerSample, verdict: Verdict, nearest: tuple[str, float] | None) -> None:
        owner = verdict.owner
        hit = None
        if owner is not None:
            hit = next((node for node in reversed(owner.lineage()) if is_pressable(node)), None)
        removed = verdict.reason is Reason.SPENT and nearest is not None and nearest[1] == 0.0  # by its own press
        self.found.presses.append((sample.x, sample.y, hit is not None or removed))
        if removed and nearest is not None:
            self.found.nodes[nearest[0]].presses += 1
        elif hit is None or owner is None:
            where = (sample.kind, sample.x, sample.y, verdict.to, *(nearest or (None, None)))
            self.found.misses.append(Miss(self.name, sample.time, *where))
        else:
            self._pressed(owner)
            self._way_to(sample, hit)

    def _way_to(self, sample: PointerSample, hit: Node) -> None:
        """Note how the pointer came to what it presses, in case it becomes a click."""
        start = self.start.pop(sample.pointer, None)
        if start is not None and hit.scene is not None and not hit.root._in_world:
            xs, ys = zip(*hit.screen_corners(), strict=True)
            distance = hypot(sum(xs) / 4.0 - start[1], sum(ys) / 4.0 - start[2])
            width = max(1.0, min(max(xs) - min(xs), max(ys) - min(ys)))
            since = self.hovered.get((sample.pointer, hit.path))
            hover = sample.time - since if since is not None else None
            self.pressed[sample.pointer] = _Press(
                hit.path, sample.time, hover, sample.time - start[0], distance, width
            )  # fmt: skip

    def _pressed(self, owner: Node) -> None:
        """Count a press for who has it, and for what that is a part of."""
        for node in owner.lineage():
            if node.path in self.found.nodes or is_pressable(node):
                self._use(node).presses += 1

    def _count(self, event: Event) -> None:
        kind, node = event.kind, event.node
        self.found.kinds[kind] += 1
        if node.scene is None:  # its first handler may have removed it, and nothing after that is called (law R3)
            for of, group in self.groups.get(node, ()):
                if of == kind and group.last is not event:
                    group.uses[0].runs += 1
        if kind == "enter":
            self.hovered[event.pointer, node.path] = event.time
            if node.path in self.found.nodes:
                self.found.nodes[node.path].hovers += 1
        elif kind == "leave":
            self.hovered.pop((event.pointer, node.path), None)
        elif kind == "click":
            self._click(event)
        elif kind in DONE and (node.path in self.found.nodes or is_pressable(node)):
            self._use(node).acts += 1

    def _click(self, event: Event) -> None:
        self._use(event.node).clicks += 1
        press = self.pressed.pop(event.pointer, None)
        if press is None or press.path != event.node.path:
            return
        bits = log2(press.distance / press.width + 1.0)
        way = (press.time, press.hover, press.travel, press.distance, press.width, bits)
        self.found.clicks.append(Click(press.path, self.name, *way))


DONE = frozenset({"act", "activate", "key_down", "text", "drop"})
"""Kinds that do something to a node, beside presses and clicks."""
