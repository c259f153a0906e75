"""What a change of a game does: the same recording is fed to the game before and after, and what came out is compared.

Both games are fed in step, sample by sample. What counts is what players and the game world notice: whether the world
gets a sample, which node has it, which events go to which node and who takes them, and what is lifted. Sentences alone
do not count. The first sample that comes out otherwise is explained: both games are made anew and fed up to it, and
``why_sample`` tells the story of each.
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from glent.core.arguments import is_choice
from glent.core.errors import SampleError
from glent.core.input.samples import TickSample
from glent.diagnose import why_sample
from glent.formats import Step, prepare_replay
from glent.review.aiming import Aiming

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.diagnose import SampleStory
    from glent.formats import Recording, RecordingStream

    Build = Callable[["Recording | RecordingStream"], Router]

__all__ = ["AIMS", "Change", "Comparison", "Outcome", "Receiver", "compare"]

AIMS = ("point", "node")
MOST = 1000
"""How many changes of a recording are kept; all of them are counted."""

Receiver = tuple[str, str | None, str | None]
"""The kind of an event, who got it before, and who gets it now; None: nobody."""


@dataclass(frozen=True, slots=True)
class Outcome:
    """What became of a sample.

    :ivar to: ``world``, ``nobody``, or the path of the node that has it. :ivar events: kind and path of each event, and
        who took it. :ivar lifts: what the world must believe to be up. :ivar why: the verdict's sentence.
    """

    to: str
    events: tuple[str, ...]
    lifts: tuple[str, ...]
    why: str


@dataclass(frozen=True, slots=True)
class Change:
    """A sample that comes out otherwise.

    :ivar number: which sample of the recording, from 0. :ivar time: its time, seconds. :ivar action: what it is.
    :ivar was: what became of it before. :ivar now: what becomes of it. :ivar receivers: the events that change hands.
    """

    number: int
    time: float
    action: str
    was: Outcome
    now: Outcome
    receivers: tuple[Receiver, ...]

    @property
    def flipped(self) -> bool:
        """Whether the world gets it now and did not, or the other way round."""
        return (self.was.to == "world") != (self.now.to == "world")


@dataclass(frozen=True, slots=True)
class Comparison:
    """What a recording shows of a change. It is plain data, and can be pickled.

    :ivar recording: the recording's name. :ivar samples: how many were fed. :ivar many: how many came out otherwise.
    :ivar changes: those, in order, at most a thousand. :ivar flipped: of how many the verdict on the world is another.
    :ivar receivers: how often each event has changed hands. :ivar before: the story of the first of them in the game
        before, in sentences. :ivar after: the same in the game after. :ivar failed: why it could not be fed to its end;
        None: it was.
    """

    recording: str
    samples: int = 0
    many: int = 0
    changes: tuple[Change, ...] = ()
    flipped: int = 0
    receivers: dict[Receiver, int] = field(default_factory=dict)
    before: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    failed: str | None = None

    @property
    def status(self) -> str:
        """``same``, ``changed`` or ``failed``."""
        return "failed" if self.failed is not None else "changed" if self.many else "same"


def compare(
    before: Build,
    after: Build,
    recording: Recording | RecordingStream,
    by: str = "point",
    name: str = "",
) -> Comparison:
    """Feed a recording to a game before and after a change, and tell what comes out otherwise.

    :param before: makes the game as it was, for the recording. :param after: makes it as it is now. :param by: what the
        samples are aimed at in the game after: the same ``point``, or the same ``node``, so that one that has only
        moved is no difference. :param name: what the recording is called.
    :raises SampleError: ``by`` is neither. :raises SeatError: the recording is of more seats than a router has.
    :raises FileError: a line of a streamed recording cannot be read.
    """
    if not is_choice(by, AIMS):
        raise SampleError(f"compare: by is {by!r}, expected one of {', '.join(AIMS)}")
    changes: list[Change] = []
    receivers: Counter[Receiver] = Counter()
    samples = many = flipped = 0
    for step, other in _both(before, after, recording, by):
        samples += 1
        if _alike(step.verdict, other):
            continue
        change = _change(step, other)
        if change is None:
            continue
        many += 1
        flipped += change.flipped
        receivers.update(change.receivers)
        if len(changes) < MOST:
            changes.append(change)
    was: tuple[str, ...] = ()
    now: tuple[str, ...] = ()
    if changes:
        was, now = _stories(before, after, recording, by, changes[0].number)
    return Comparison(name, samples, many, tuple(changes), flipped, dict(receivers), was, now)


def _both(
    before: Build, after: Build, recording: Recording | RecordingStream, by: str
) -> Iterator[tuple[Step, Verdict]]:
    """Each step of the game before, with the verdict of the other one."""
    one, two, aim = _made(before, after, recording, by)
    for number, (sample, note) in enumerate(recording.entries()):
        aimed = aim(sample)  # before it is fed: where its target is then
        verdict = one.feed(sample)
        yield Step(number, sample, verdict, note), two.feed(aimed)


def _made(
    before: Build, after: Build, recording: Recording | RecordingStream, by: str
) -> tuple[Router, Router, Callable[[Sample], Sample]]:
    one, two = before(recording), after(recording)
    for router in (one, two):
        prepare_replay(router, recording)
    return one, two, Aiming(one, two).aimed if by == "node" else _as_it_is


def _as_it_is(sample: Sample) -> Sample:
    return sample


def _alike(was: Verdict, now: Verdict) -> bool:
    """Whether nothing at all happened in both: most samples are idle moves."""
    quiet = not (was.events or now.events or was.lifts or now.lifts or was.inner or now.inner)
    return quiet and was.world == now.world and was.owner is None and now.owner is None


def _change(step: Step, verdict: Verdict) -> Change | None:
    was, now = _outcome(step.verdict), _outcome(verdict)
    if (was.to, was.events, was.lifts) == (now.to, now.events, now.lifts):
        return None
    receivers = _receivers(step.verdict, verdict)
    return Change(step.number, step.sample.time, step.action, was, now, receivers)


def _outcome(verdict: Verdict) -> Outcome:
    events = []
    for one in (verdict, *verdict.inner):
        for event in one.events:
            taken = f", taken by {event.taker.path}" if event.taker is not None else ""
            events.append(f"{event.kind} {event.node.path}{taken}")
    return Outcome(verdict.to, tuple(events), verdict.lifts, verdict.why)


def _receivers(was: Verdict, now: Verdict) -> tuple[Receiver, ...]:
    """The events that have other receivers, kind by kind, in order."""
    lost, gained = (
        Counter((event.kind, event.node.path) for one in (verdict, *verdict.inner) for event in one.events)
        for verdict in (was, now)
    )
    found: list[Receiver] = []
    gone, come = list((lost - gained).elements()), list((gained - lost).elements())
    for kind, path in gone:
        other = next((one for one in come if one[0] == kind), None)
        if other is not None:
            come.remove(other)
        found.append((kind, path, other[1] if other is not None else None))
    return (*found, *((kind, None, path) for kind, path in come))


def _stories(
    before: Build, after: Build, recording: Recording | RecordingStream, by: str, number: int
) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """The story of one sample in both games, made anew and fed up to it."""
    one, two, aim = _made(before, after, recording, by)
    for at, (sample, _) in enumerate(recording.entries()):
        aimed = aim(sample)
        if at == number:
            return _told(why_sample(one, sample)), _told(why_sample(two, aimed))
        one.feed(sample)
        two.feed(aimed)
    return (), ()


def _told(story: SampleStory) -> tuple[str, ...]:
    """A story in few sentences: what lay there, and what happened."""
    met = [] if isinstance(story.sample, TickSample) else [one for one in story.considered if one.hit or one.inside]
    there = [one.sentence for one in met if one.node.parent is not None or one.hit]
    return (*there[:CONSIDERED], *story.sentences[:TOLD])


CONSIDERED, TOLD = 4, 4
"""Sentences of a story that are kept."""
