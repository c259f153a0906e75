"""Why a sample came out as it did, and why a node did not get its press: in sentences, from the same laws (H8, D2)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import TYPE_CHECKING

from glent.core.errors import GlentError
from glent.core.input.samples import PointerSample, RaySample, WheelSample
from glent.core.scene.layer import Layer
from glent.diagnose.faults.pointing import pointing_faults
from glent.diagnose.findings import Mend
from glent.diagnose.trial import Trial, is_interactive, points_of
from glent.diagnose.why import Consideration, why, why_ray

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node

__all__ = ["NodeStory", "SampleStory", "considered_for", "standing", "why_node", "why_sample"]


@dataclass(frozen=True, slots=True)
class SampleStory:
    """What a sample met.

    :ivar sample: the sample. :ivar verdict: what became of it. :ivar considered: the nodes that were considered before
        it was routed, front to back; none for a sample that points nowhere. :ivar before: how things stood then.
        :ivar sentences: what happened, in order.
    """

    sample: Sample
    verdict: Verdict
    considered: tuple[Consideration, ...]
    before: tuple[str, ...]
    sentences: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class NodeStory:
    """Why a node gets its press, or does not.

    :ivar path: the node. :ivar gets_it: whether a press at one of its points comes to it. :ivar sentence: why, or why
        not. :ivar shown: what an input showed. :ivar mends: the fewest changes of those tried that together let it get
        the press; none: it gets it, or no such changes were found.
    """

    path: str
    gets_it: bool
    sentence: str
    shown: str
    mends: tuple[Mend, ...] = ()


def why_sample(router: Router, sample: Sample) -> SampleStory:
    """Feed a sample, and tell its story.

    :raises SampleError: as :meth:`Router.feed`.
    """
    considered, before = considered_for(router, sample), standing(router)
    verdict = router.feed(sample)
    return SampleStory(sample, verdict, tuple(considered), before, _told(verdict))


def considered_for(router: Router, sample: Sample) -> list[Consideration]:
    """The nodes that are considered where a sample points, as things are now; none for one that points nowhere."""
    if isinstance(sample, PointerSample) and not sample.relative:
        return why(router, sample.x, sample.y, sample.kind)
    if isinstance(sample, WheelSample):
        return why(router, sample.x, sample.y)
    if isinstance(sample, RaySample) and sample.path is None:
        return why_ray(router, sample.origin, sample.direction, sample.length)
    return []


def standing(router: Router) -> tuple[str, ...]:
    """How things stand: modals, claims, focus, and what is hovered, for each seat."""
    found = []
    for seat in router.seats:
        whose = f"seat {seat.name}: " if len(router.seats) > 1 else ""
        top = seat.view.top
        if top is not None:
            found.append(f"{whose}{top.path} is modal")
        for channel, layer in seat.view.claimed.items():
            by = layer.path if isinstance(layer, Layer) else str(layer)
            found.append(f"{whose}{by} claims the {channel}")
        if seat.focus is not None:
            ring = ", with its ring" if seat.focus_ring else ""
            found.append(f"{whose}the focus is on {seat.focus.path}{ring}")
        if seat.cursor != "shown":
            found.append(f"{whose}the cursor is {seat.cursor}")
    for name, nodes in router.hovered().items():
        deepest = max(nodes, key=lambda node: len(node.lineage()))
        found.append(f"{name} hovers {deepest.path}")
    return tuple(found)


def _told(verdict: Verdict) -> tuple[str, ...]:
    found = [f"{verdict.why}{'' if verdict.world else '; the world does not get it'}"]
    if verdict.contest:
        found.append(
            f"who competes, inner to outer: {', '.join(f'{name} at {path}' for name, path in verdict.contest)}"
        )
    if verdict.gesture is not None and verdict.owner is not None:
        found.append(f"{verdict.owner.path} has the pointer for a {verdict.gesture}")
    if verdict.action is not None:
        found.append(f"it is bound to {verdict.action}")
    for event in verdict.events:
        taken = f", which {event.taker.path} took" if event.taker is not None else ""
        found.append(f"{event.kind} was told to {event.node.path}{taken}")
    found += [f"{lift} is lifted: the world is to take it as up" for lift in verdict.lifts]
    for inner in verdict.inner:
        found.append(f"a handler fed a sample meanwhile: {inner.why}")
    return tuple(found)


def why_node(build: Callable[[], Router], path: str, size: tuple[float, float] | None = None) -> NodeStory:
    """Why a node gets a press, or does not, with the fewest changes that would let it, found by trying (law D2).

    :param build: makes the game anew each time it is called. :param size: of the window, pixels; None: as it is.
    :raises SceneError: there is no such node.
    """
    first, candidates = _looked_at(build, path, size)
    tried: list[tuple[tuple[Mend, ...], tuple[Mend, ...], str]] = [((), candidates, first.sentence)]
    for _ in range(DEEP):
        if first.gets_it:
            return first
        further = []
        for mends, more, sentence in tried:
            for mend in more:
                together = (*mends, mend)
                try:
                    story, next_ones = _looked_at(partial(_mended, build, together), path, size)
                except GlentError:
                    continue  # it cannot be made
                if story.gets_it:
                    return NodeStory(path, False, first.sentence, first.shown, together)
                if story.sentence != sentence:
                    further.append((together, next_ones, story.sentence))
        tried = further
    return first


DEEP = 3
"""Changes that are tried together."""


def _mended(build: Callable[[], Router], mends: tuple[Mend, ...]) -> Router:
    router = build()
    for mend in mends:
        setattr(router.scene[mend.path], mend.name, mend.value)
    return router


def _looked_at(
    build: Callable[[], Router], path: str, size: tuple[float, float] | None
) -> tuple[NodeStory, tuple[Mend, ...]]:
    """Whether a node gets a press, with the changes that may remove the first thing that keeps it from that."""
    game = Trial(build, size)
    node = game.scene[path]
    hidden = next((one for one in node.lineage() if not one.visible), None)
    if hidden is not None:
        sentence = f"{path} is not there: {hidden.path} is not visible"
        mend = Mend(hidden.path, "visible", True, f"show {hidden.path}")
        return NodeStory(path, False, sentence, "nothing hits what is not there"), (mend,)
    for suspicion in pointing_faults(game):
        if path not in suspicion.nodes or suspicion.code in ("same-order", "enter-without-leave"):
            continue
        shown = suspicion.shown(Trial(build, size))
        if shown is not None:
            return NodeStory(path, False, suspicion.sentence, shown), suspicion.mends
    return _pressed(game, node)


def _pressed(game: Trial, node: Node) -> tuple[NodeStory, tuple[Mend, ...]]:
    path = node.path
    points = points_of(node, game.scene.window)
    if not points:
        return NodeStory(path, False, f"{path} has no point in the window", "nowhere could a press come to it"), ()
    x, y = points[0]
    told = next((one.sentence for one in why(game.router, x, y) if one.node is node), path)
    verdict = game.press(x, y)
    shown = f"a press at {x:g}, {y:g}: {verdict.why}"
    if game.gives(path, verdict):
        acts = "" if is_interactive(node) else ", and no role and no handler does anything with it"
        return NodeStory(path, True, f"{path} gets the press{acts}", shown), ()
    off = next((one for one in node.lineage() if not one.enabled), None)
    mends = (Mend(off.path, "enabled", True, f"enable {off.path}"),) if off is not None else ()
    return NodeStory(path, False, told, shown), mends
