"""A running game that is watched: what its thread does for those who watch, a little at a time.

While nobody watches, nothing of this runs. While somebody does, each sample costs one call, which notes it; equal
answers to idle moves are only counted. What was noted becomes rows, and what was asked for becomes answers, once in
a frame and for no more than ``SHARE`` seconds: the tree and the picture of a large scene come in parts, over some
frames. Answers are handed over in one go, and never waited for.
"""

from __future__ import annotations

import json
import logging
from collections import deque
from time import perf_counter
from typing import TYPE_CHECKING, Any, Protocol

from pydantic import ValidationError

from glent.core.errors import GlentError
from glent.core.input.samples import (
    ActSample,
    KeySample,
    PadSample,
    PointerSample,
    RaySample,
    TextSample,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.diagnose.why import considered_at, why_ray
from glent.formats.errors import shown
from glent.formats.keeping import file_of, source_of
from glent.formats.recording import Recording, recording_lines
from glent.formats.scene_file import scene_document
from glent.live import messages
from glent.live.attributes import attributes_of, read_attribute
from glent.live.beneath import Beneath, told_of
from glent.live.checker import Checker
from glent.live.edits import Edits
from glent.live.messages import ASKED, CHANGES, VERSION
from glent.live.outlines import outlines_around
from glent.live.picture import pieces_of, walked

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from pathlib import Path

    from glent.core.input.samples import Sample
    from glent.core.routing.observers import Observer
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.diagnose.why import Consideration
    from glent.live.editor import Editor

__all__ = ["Asker", "Watched"]

SHARE = 0.0005
"""Seconds of a frame that answers may take."""
BETWEEN = 0.01
"""Seconds between two turns, where a game never ticks."""
NOTED = 128
"""Samples that are noted until the next turn; of more, the oldest are dropped."""
ROWS = 8
"""Rows that are made in a turn."""
TASKS = 8
"""Answers that are made at once, a part of each in turn."""
WAITING = 64
"""Requests of one asker that wait; more are refused."""
LONGEST = 500_000
"""Samples of a recording: it ends there."""
NODES, PIECES, TEXT = 60, 20, 32_000
"""How much of an answer is one part: nodes, pieces of a picture, characters."""

FINDING = ("code", "nodes", "sentence", "shown", "mend", "change")
"""What is told of a finding."""

_log = logging.getLogger("glent.live")

Message = dict[str, Any]
NOT_YET: Message = {}
"""What an answer gives that is still being made."""


class Asker(Protocol):
    """Who asks, and is told."""

    def tell(self, messages: list[Message]) -> None:
        """Take messages, without waiting. It is called from the game's thread."""


class Watched:
    """A game that is watched.

    :param router: its router. :param write: whether anything may be changed.
    :param editor: what opens a node's place in its file. :param file: where changes are kept; None: where the scene was
        read from.
    """

    def __init__(
        self, router: Router, write: bool = False, editor: Editor | None = None, file: str | Path | None = None
    ) -> None:
        self._router = router
        self._write = write
        self._editor = editor
        self._file = file
        self.edits = Edits(router.scene)
        self._checker = Checker()
        self._askers: tuple[Asker, ...] = ()
        self._observer: Observer | None = None
        self._asked: deque[tuple[Asker, str]] = deque()
        self._tasks: deque[tuple[Asker, Iterator[Message]]] = deque()
        self._welcome: set[Asker] = set()
        self._noted: deque[list[Any]] = deque()
        self._number = 0
        self._dropped = 0
        self._changes = 0
        """Another number whenever events may have changed how something looks."""
        self._told_state: tuple[Any, ...] | None = None
        self._turned = 0.0
        self._recording: Recording | None = None
        self._recorder: Observer | None = None

    # -- from the thread of those who ask ------------------------------------------------------------------------------

    def begin(self, asker: Asker) -> None:
        """Let somebody watch."""
        self._askers = (*self._askers, asker)
        if self._observer is None:
            self._observer = self._router.watch(self._seen)

    def end(self, asker: Asker) -> None:
        """Let somebody watch no longer; with the last one, everything stops, a recording as well."""
        self._askers = tuple(one for one in self._askers if one is not asker)
        if self._askers:
            return
        for one in (self._observer, self._recorder):
            if one is not None:
                one.stop()
        self._observer = self._recorder = self._recording = None

    def ask(self, asker: Asker, text: str) -> None:
        """Have a message of an asker answered in the game's next turn."""
        if sum(one is asker for one, _ in tuple(self._asked)) >= WAITING:
            asker.tell([_refused(None, f"more than {WAITING} messages wait to be answered; this one is dropped")])
        else:
            self._asked.append((asker, text))

    # -- from the game's thread ----------------------------------------------------------------------------------------

    def _seen(self, sample: Sample, verdict: Verdict) -> None:
        """Note a sample. It is all that one costs."""
        if sample.__class__ is TickSample:
            if verdict.events:
                self._changes += 1
                self._note(sample, verdict)
            self._turn()
        elif self._is_alike(sample, verdict):
            noted = self._noted[-1]
            noted[0] = sample
            noted[2] += 1
        else:
            self._note(sample, verdict)
            if verdict.events:
                self._changes += 1
            if self._asked and perf_counter() - self._turned > BETWEEN:
                self._turn()

    def _is_alike(self, sample: Sample, verdict: Verdict) -> bool:
        """Whether an idle move says what the one before it said."""
        if sample.__class__ is not PointerSample or sample.action != "move" or verdict.events or not self._noted:
            return False
        before, said, _ = self._noted[-1]
        return (
            verdict.reason is said.reason
            and verdict.owner is said.owner
            and before.__class__ is PointerSample
            and before.action == "move"
            and before.pointer == sample.pointer
            and not said.events
            and not verdict.lifts
        )

    def _note(self, sample: Sample, verdict: Verdict) -> None:
        noted = self._noted
        if len(noted) >= NOTED:
            noted.popleft()
            self._dropped += 1
        noted.append([sample, verdict, 1])

    def _turn(self) -> None:
        """Answer for a while."""
        self._turned = began = perf_counter()
        until = began + SHARE
        askers = self._askers
        if self.edits.scene is not self._router.scene:
            self.edits = Edits(self._router.scene)
        news = self._news()
        out: dict[Asker, list[Message]] = {one: list(news) for one in askers if one in self._welcome and news}
        while (self._asked or self._tasks) and perf_counter() < until:
            if self._asked and len(self._tasks) < TASKS:
                asker, text = self._asked.popleft()
                self._tasks.append((asker, self._answers(asker, text)))
            asker, task = self._tasks[0]
            told = next(task, None) if asker in askers else None
            if told is None:
                self._tasks.popleft()
            else:
                if told:
                    out.setdefault(asker, []).append(told)
                self._tasks.rotate(-1)  # each that waits has its part in turn
        for asker, answers in out.items():
            asker.tell(answers)
        self._welcome.intersection_update(askers)

    def _news(self) -> list[Message]:
        """What is told without being asked for."""
        rows = [self._row(*self._noted.popleft()) for _ in range(min(ROWS, len(self._noted)))]
        news: list[Message] = []
        if rows or self._dropped:
            news.append({"tell": "verdicts", "rows": rows, "dropped": self._dropped})
            self._dropped = 0
        scene = self._router.scene
        recorded = len(self._recording.samples) if self._recording is not None else None
        if recorded is not None and recorded >= LONGEST and self._recorder is not None:
            self._recorder.stop()
        version = scene._version + scene._shifts
        state = (version, self._changes, self.edits.version, recorded)
        if state != self._told_state:
            self._told_state = state
            news.append(
                {
                    "tell": "state",
                    "scene": version,
                    "looks": self._changes,
                    "edits": self.edits.version,
                    "time": self._router.now,
                    "changed": [[node.path, name] for node, name in self.edits.changed],
                    "can_undo": self.edits.can_undo,
                    "can_redo": self.edits.can_redo,
                    "recorded": recorded,
                }
            )
        return news

    def _row(self, sample: Sample, verdict: Verdict, times: int) -> Message:
        self._number += 1
        owner = verdict.owner
        return {
            "number": self._number,
            "time": round(sample.time, 4),
            "sample": type(sample).__name__.removesuffix("Sample").lower(),
            "what": said_of(sample),
            "times": times,
            "world": verdict.world,
            "owner": owner.path if owner is not None else None,
            "reason": verdict.reason.name.lower(),
            "why": verdict.why,
            "seat": verdict.seat,
            "lifts": list(verdict.lifts),
            "events": [f"{event.kind} {event.node.path}" for event in verdict.events[:20]],
            **_point_of(sample),
        }

    # -- answers -------------------------------------------------------------------------------------------------------

    def _answers(self, asker: Asker, text: str) -> Iterator[Message]:
        """The answers to a message, one by one; what is wrong with it is one of them."""
        asked_id = None
        try:
            asked = ASKED.validate_json(text)
            asked_id = asked.id
            if isinstance(asked, messages.Hello):
                self._greet(asker, asked)
            elif asker not in self._welcome:
                raise GlentError("the first message is to be hello, with the version that you speak")
            if asked.ask in CHANGES and not self._write:
                raise GlentError("nothing can be changed: the live view was started for reading only, without --write")
            if isinstance(asked, messages.Check):
                yield from self._check(asked, asker)
            else:
                yield from _ANSWERS[type(asked)](self, asked)
        except ValidationError as error:
            first = error.errors(include_url=False, include_context=False)[0]
            where = ".".join(str(part) for part in first["loc"][1:]) or "the message"
            yield _refused(_id_in(text), f"{where}: {first['msg']}; found {shown(first['input'])}")
        except GlentError as error:
            yield _refused(asked_id, str(error))
        except Exception:
            _log.exception("an answer of the live view failed")
            yield _refused(asked_id, "the live view failed at this; its log says more")

    def _greet(self, asker: Asker, asked: messages.Hello) -> None:
        if asked.version != VERSION:
            raise GlentError(f"version {asked.version} is not spoken here, this is version {VERSION}")
        self._welcome.add(asker)
        self._told_state = None

    def _welcomed(self, asked: messages.Hello) -> Iterator[Message]:
        scene = self._router.scene
        path = self._file if self._file is not None else file_of(scene)
        yield {
            "tell": "welcome",
            "id": asked.id,
            "version": VERSION,
            "write": self._write,
            "open": self._editor is not None,
            "size": list(scene.window),
            "file": str(path) if path is not None else None,
        }

    def _tree(self, asked: messages.Tree) -> Iterator[Message]:
        rows = (
            {
                "path": node.path,
                "depth": node.path.count("/"),
                "role": node.role,
                "solidity": node.effective_solidity,
                "visible": node.visible,
                "enabled": node.enabled,
                "called": node.accessible_name,
            }
            for node in walked(self._router.scene)
        )
        return _in_parts({"tell": "tree", "id": asked.id}, rows, NODES)

    def _picture(self, asked: messages.Picture) -> Iterator[Message]:
        scene = self._router.scene
        head = {"tell": "picture", "id": asked.id, "size": list(scene.window)}
        return _in_parts(head, pieces_of(scene), PIECES)

    def _at(self, asked: messages.At) -> Iterator[Message]:
        considered = considered_at(self._router, asked.x, asked.y, asked.kind, asked.seat)
        yield from _found(asked.id, considered)

    def _along(self, asked: messages.Along) -> Iterator[Message]:
        x, y, z = asked.origin
        dx, dy, dz = asked.direction
        yield from _found(asked.id, iter(why_ray(self._router, (x, y, z), (dx, dy, dz), seat=asked.seat)))

    def _node(self, asked: messages.OfNode) -> Iterator[Message]:
        node = self._router.scene[asked.path]
        source = source_of(node)
        lines: dict[str, list[list[float]]] = {}
        for one in outlines_around(node):
            lines.setdefault(one.kind, []).extend([round(at, 1) for at in line] for line in one.lines[:400])
        yield {
            "tell": "node",
            "id": asked.id,
            "path": node.path,
            "role": node.role,
            "solidity": node.effective_solidity,
            "source": str(source) if source is not None else None,
            "look": node.look,
            "lines": lines,
            "attributes": [
                {
                    "name": one.name,
                    "kind": one.kind,
                    "group": one.group,
                    "options": list(one.options),
                    "value": read_attribute(node, one.name),
                    "changed": self.edits.is_changed(node, one.name),
                }
                for one in attributes_of(node)
            ],
        }

    def _set(self, asked: messages.Set) -> Iterator[Message]:
        node = self._router.scene[asked.path]
        self.edits.set(node, asked.name, asked.value)
        yield _done(asked.id, f"{node.path}: {asked.name} is {shown(read_attribute(node, asked.name))}")

    def _do(self, asked: messages.Do) -> Iterator[Message]:
        return getattr(self, f"_{asked.ask}")(asked.id)  # type: ignore[no-any-return]

    def _undo(self, asked: int) -> Iterator[Message]:
        yield _done(asked, "undone" if self.edits.undo() else "there is nothing to undo")

    def _redo(self, asked: int) -> Iterator[Message]:
        yield _done(asked, "done again" if self.edits.redo() else "there is nothing to do again")

    def _revert(self, asked: int) -> Iterator[Message]:
        yield _done(asked, f"{self.edits.revert()} taken back")

    def _keep(self, asked: int) -> Iterator[Message]:
        kept = self.edits.keep(self._file)
        yield _done(asked, f"kept: {'; '.join(kept)}" if kept else "nothing is changed, so nothing is kept")

    def _record(self, asked: int) -> Iterator[Message]:
        if self._recording is not None:
            raise GlentError("it is recording already; stop that first")
        scene = self._router.scene
        self._recording = Recording(scene.window, seats=tuple(seat.name for seat in self._router.seats))
        self._recorder = self._recording.follow(self._router)
        yield _done(asked, "recording")

    def _stop(self, asked: int) -> Iterator[Message]:
        recording, recorder = self._recording, self._recorder
        if recording is None or recorder is None:
            raise GlentError("nothing is being recorded")
        recorder.stop()
        self._recording = self._recorder = None
        part = ""
        for line in recording_lines(recording):
            part += line
            if len(part) > TEXT:
                yield {"tell": "recording", "id": asked, "part": part, "more": True}
                part = ""
        yield {"tell": "recording", "id": asked, "part": part, "more": False}

    def _check(self, asked: messages.Check, asker: Asker) -> Iterator[Message]:
        document = json.dumps(scene_document(self._router.scene))

        def done(found: list[Message] | None) -> None:
            if found is None:
                asker.tell([_refused(asked.id, "the check failed; the log of the live view says more")])
            else:
                rows = [{key: one[key] for key in FINDING} for one in found]
                asker.tell([{"tell": "findings", "id": asked.id, "found": rows}])

        self._checker.start(document, done)
        yield NOT_YET

    def _open(self, asked: messages.Open) -> Iterator[Message]:
        if self._editor is None:
            raise GlentError("no editor can be opened: the live view was started without --open")
        yield _done(asked.id, f"opened {self._editor.open(self._router.scene[asked.path])}")


_ANSWERS: dict[type[Any], Callable[[Watched, Any], Iterator[Message]]] = {
    messages.Hello: Watched._welcomed,
    messages.Tree: Watched._tree,
    messages.Picture: Watched._picture,
    messages.At: Watched._at,
    messages.Along: Watched._along,
    messages.OfNode: Watched._node,
    messages.Set: Watched._set,
    messages.Do: Watched._do,
    messages.Open: Watched._open,
}


def _in_parts(head: Message, rows: Iterator[Any], many: int) -> Iterator[Message]:
    """Rows in messages of so many, the last of which says so; between them nothing, so that a turn can end there."""
    part: list[Any] = []
    for row in rows:
        part.append(row)
        if len(part) == many:
            yield {**head, "part": part, "more": True}
            part = []
        else:
            yield NOT_YET
    yield {**head, "part": part, "more": False}


def _found(asked: int, considered: Iterator[Consideration]) -> Iterator[Message]:
    """What lies there of all that is considered, a few at a time."""
    found: list[Message] = []
    for number, one in enumerate(considered):
        found += map(_told, told_of([one]))
        if number % 8 == 7:
            yield NOT_YET
    yield {"tell": "found", "id": asked, "found": found}


def _told(one: Beneath) -> Message:
    return {"path": one.node.path, "mark": one.mark, "sentence": one.sentence, "hit": one.hit, "by": one.by.path}


def _done(asked: int, said: str) -> Message:
    return {"tell": "done", "id": asked, "said": said}


def _refused(asked: int | None, why: str) -> Message:
    return {"tell": "refused", "id": asked, "why": why}


def _id_in(text: str) -> int | None:
    """The id of a message that is wrong elsewhere, if it can be read."""
    try:
        return messages.ID_ALONE.validate_json(text).id
    except ValidationError:
        return None


def said_of(sample: Sample) -> str:
    """What a sample says, in a word or two."""
    if isinstance(sample, PointerSample | RaySample):
        button = f" {sample.button}" if sample.button not in (None, 0) else ""
        return f"{sample.pointer} {sample.action}{button}"
    if isinstance(sample, KeySample):
        return f"{sample.code} {sample.action}{' again' if sample.repeat else ''}"
    if isinstance(sample, PadSample):
        return f"pad{sample.pad} {sample.control} {sample.value:g}"
    if isinstance(sample, WheelSample):
        return f"wheel {sample.dx:g}, {sample.dy:g}"
    if isinstance(sample, WindowSample):
        return f"window {sample.what}"
    if isinstance(sample, ActSample):
        return f"{sample.act} {sample.path}"
    return f"text {shown(sample.text)}" if isinstance(sample, TextSample) else type(sample).__name__[:-6].lower()


def _point_of(sample: Sample) -> Message:
    """Where a sample points, for a tool to ask what lies there."""
    if isinstance(sample, PointerSample):
        return {"x": sample.x, "y": sample.y, "kind": sample.kind}
    if isinstance(sample, WheelSample):
        return {"x": sample.x, "y": sample.y, "kind": "mouse"}
    if isinstance(sample, RaySample):
        return {"origin": list(sample.origin), "direction": list(sample.direction)}
    return {}
