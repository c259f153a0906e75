"""Recordings: JSON Lines, a header and then a sample a line. Reading and writing one again gives the same bytes."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable, Iterator, Sequence
from copy import copy
from numbers import Real
from pathlib import Path
from typing import Annotated, Any, Literal, NamedTuple, Union

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError

from glent.core.errors import SampleError, SeatError
from glent.core.input.pad import PAD_CONTROLS
from glent.core.input.samples import (
    ActSample,
    ComposeSample,
    KeySample,
    PadSample,
    PointerButton,
    PointerSample,
    RaySample,
    Sample,
    TextSample,
    TickSample,
    TipSample,
    WheelSample,
    WindowSample,
)
from glent.core.input.validate import ACTS, FARTHEST, LATEST, button_of, check
from glent.core.routing.observers import Observer
from glent.core.routing.router import Router
from glent.core.routing.verdict import Verdict
from glent.formats import text
from glent.formats.base_model import Many
from glent.formats.errors import FileError, place_of, problems_of

__all__ = [
    "LineModel",
    "Recording",
    "RecordingStream",
    "Step",
    "counts_of",
    "digest_of",
    "prepare_replay",
    "read_recording",
    "recording_lines",
    "replay",
    "stream_recording",
    "write_recording",
    "write_trace",
]

MAX_BYTES = 256 * 1024 * 1024
"""The largest recording, in bytes: more than a day of play."""

LONGEST_LINE = 1024 * 1024

Number = Annotated[float, Field(ge=-FARTHEST, le=FARTHEST, allow_inf_nan=False)]
Time = Annotated[float, Field(ge=-LATEST, le=LATEST, allow_inf_nan=False)]
Name = Annotated[str, Field(min_length=1)]


class _Line(BaseModel):
    model_config = ConfigDict(extra="forbid", strict=True)


class HeaderModel(_Line):
    """The first line."""

    glent: Literal["recording"]
    version: Literal[1]
    size: Annotated[list[Annotated[float, Field(gt=0, le=1e6)]], Field(min_length=2, max_length=2)]
    seats: Annotated[Many[Name], Field(max_length=64)] = ["main"]
    scene: str | None = None


Triple = Annotated[list[Number], Field(min_length=3, max_length=3)]
ButtonName = Literal["primary", "auxiliary", "secondary", "back", "forward"]
ButtonBits = Annotated[int, Field(ge=0, lt=32)]


class _SampleLine(_Line):
    time: Time
    note: str | None = None


class PointerLine(_SampleLine):
    """A :class:`glent.PointerSample`."""

    sample: Literal["pointer"]
    action: Literal["move", "press", "release", "cancel"]
    x: Number
    y: Number
    pointer: Name = "mouse"
    kind: Literal["mouse", "touch", "pen"] = "mouse"
    button: ButtonName | None = None
    buttons: ButtonBits = 0
    dx: Number = 0.0
    dy: Number = 0.0
    pressure: Annotated[float, Field(ge=0, le=1)] | None = None
    raw: Many[Triple] = []
    emulated: bool = False
    relative: bool = False


class RayLine(_SampleLine):
    """A :class:`glent.RaySample`."""

    sample: Literal["ray"]
    action: Literal["move", "press", "release", "cancel"]
    origin: Triple
    direction: Triple
    pointer: Name = "ray"
    button: ButtonName | None = None
    buttons: ButtonBits = 0
    length: Annotated[float, Field(gt=0, le=FARTHEST)] | None = None
    path: Many[Triple] | None = None


class TipLine(_SampleLine):
    """A :class:`glent.TipSample`."""

    sample: Literal["tip"]
    tip: Triple | None
    pointer: Name = "tip"


class WheelLine(_SampleLine):
    """A :class:`glent.WheelSample`."""

    sample: Literal["wheel"]
    x: Number
    y: Number
    dx: Number
    dy: Number
    unit: Literal["pixel", "line", "page"] = "pixel"
    pointer: Name = "mouse"


class WindowLine(_SampleLine):
    """A :class:`glent.WindowSample`."""

    sample: Literal["window"]
    what: Literal["size", "scale", "focus_lost", "focus_gained", "pointer_left", "warp", "device_gone", "sync"]
    width: Number | None = None
    height: Number | None = None
    pointer: Name | None = None
    scale: Number | None = None
    held: Many[Name] = []


Keyboard = Annotated[str, Field(pattern=r"^keys[0-9]*$", max_length=20)]


class KeyLine(_SampleLine):
    """A :class:`glent.KeySample`."""

    sample: Literal["key"]
    action: Literal["down", "up"]
    code: Name
    key: Name | None = None
    repeat: bool = False
    device: Keyboard = "keys"


class TextLine(_SampleLine):
    """A :class:`glent.TextSample`."""

    sample: Literal["text"]
    text: Name
    device: Keyboard = "keys"


class ComposeLine(_SampleLine):
    """A :class:`glent.ComposeSample`."""

    sample: Literal["compose"]
    text: str
    cursor: Annotated[int, Field(ge=0, lt=1 << 16)] = 0
    device: Keyboard = "keys"


class PadLine(_SampleLine):
    """A :class:`glent.PadSample`."""

    sample: Literal["pad"]
    control: Annotated[str, Field(json_schema_extra={"enum": list(PAD_CONTROLS)})]
    value: Annotated[float, Field(ge=-1, le=1, allow_inf_nan=False)]
    pad: Annotated[int, Field(ge=0, lt=1 << 16)] = 0


class ActLine(_SampleLine):
    """A :class:`glent.ActSample`."""

    sample: Literal["act"]
    path: Name
    act: Annotated[str, Field(json_schema_extra={"enum": list(ACTS)})]
    value: bool | int | float | str | Many[Number] | Many[Name] | None = None
    seat: Name = "main"


class TickLine(_SampleLine):
    """A :class:`glent.TickSample`: time passed, and that sent something."""

    sample: Literal["tick"]


AnyLine = Union[  # noqa: UP007
    PointerLine, RayLine, TipLine, WheelLine, WindowLine, KeyLine, TextLine, ComposeLine, PadLine, ActLine, TickLine
]
SampleLine = Annotated[AnyLine, Field(discriminator="sample")]
LineModel = Union[HeaderModel, SampleLine]  # noqa: UP007
_SAMPLE: TypeAdapter[AnyLine] = TypeAdapter(SampleLine)
_LINES: dict[type[Sample], tuple[str, type[_SampleLine]]] = {
    PointerSample: ("pointer", PointerLine),
    RaySample: ("ray", RayLine),
    TipSample: ("tip", TipLine),
    WheelSample: ("wheel", WheelLine),
    WindowSample: ("window", WindowLine),
    KeySample: ("key", KeyLine),
    TextSample: ("text", TextLine),
    ComposeSample: ("compose", ComposeLine),
    PadSample: ("pad", PadLine),
    ActSample: ("act", ActLine),
    TickSample: ("tick", TickLine),
}
_SAMPLES: dict[type[_SampleLine], type[Sample]] = {line: sample for sample, (_, line) in _LINES.items()}


class Recording:
    """Samples in order, the window they were made in, and notes that people left beside them.

    :ivar size: the window's size in pixels before the first sample.
    :ivar scene: the SHA-256 of the scene file it was made with, or None.
    :ivar samples: the samples. :ivar notes: by index of the sample.
    """

    def __init__(self, size: tuple[float, float], scene: str | None = None, seats: tuple[str, ...] = ("main",)) -> None:
        self.size = (float(size[0]), float(size[1]))
        self.scene = scene
        self.seats = seats
        self.samples: list[Sample] = []
        self.notes: dict[int, str] = {}

    def add(self, sample: Sample, note: str | None = None) -> None:
        """Append a sample.

        :raises SampleError: it could not be fed either, or its time is before the one before.
        """
        check(sample, self.samples[-1].time if self.samples else -LATEST)
        if note is not None:
            self.notes[len(self.samples)] = note
        self.samples.append(copy(sample))  # a sample can be changed and fed again; what was recorded stays

    def entries(self) -> Iterator[tuple[Sample, str | None]]:
        """The samples in order, each with the note beside it, or None."""
        for index, sample in enumerate(self.samples):
            yield sample, self.notes.get(index)

    def follow(self, router: Router) -> Observer:
        """Append each sample that a router routes from now on, what code asks of it included, until ``.stop()``; of
        ticks those that send something."""

        def told(sample: Sample, verdict: Verdict) -> None:
            if not isinstance(sample, TickSample) or verdict.events:
                self.add(sample)

        return router.watch(told)


class Step(NamedTuple):
    """One sample of a replay, with what became of it."""

    number: int
    sample: Sample
    verdict: Verdict
    note: str | None

    @property
    def action(self) -> str:
        """What the sample was: a pointer's action, what an act asks for, ``wheel``, ``window``, ``tick``, ``text``,
        ``compose``, ``pad``, or ``key down``, ``key up``."""
        sample = self.sample
        if isinstance(sample, PointerSample | RaySample):
            return sample.action
        if isinstance(sample, ActSample):
            return sample.act
        return f"key {sample.action}" if isinstance(sample, KeySample) else _LINES[type(sample)][0]


def counts_of(steps: Sequence[Step]) -> dict[str, int]:
    """How many samples a replay had and where they went, how many ticks, and how many events were routed."""
    events = sum(len(verdict.events) for step in steps for verdict in (step.verdict, *step.verdict.inner))
    given, steps = len(steps), [step for step in steps if not isinstance(step.sample, TickSample)]
    world = sum(step.verdict.world for step in steps)
    ui = sum(step.verdict.owner is not None for step in steps)
    nobody = len(steps) - ui - world
    return {
        "samples": len(steps),
        "ui": ui,
        "world": world,
        "nobody": nobody,
        "ticks": given - len(steps),
        "events": events,
    }


def prepare_replay(router: Router, recording: Recording | RecordingStream) -> None:
    """Make a router ready for a recording: its window gets the size that the recording begins with.

    :raises SeatError: the recording is of more seats than the router has.
    """
    there = {seat.name for seat in router.seats}
    missing = [name for name in recording.seats if name not in there]
    if missing:
        raise SeatError(f"the recording is of the seats {', '.join(recording.seats)}; this router has no"
                        f" {', '.join(missing)}")  # fmt: skip
    router.scene.window = recording.size


def replay(router: Router, recording: Recording | RecordingStream) -> Iterator[Step]:
    """Feed a recording to a router, sample by sample, by the same call that a live window uses.

    :raises SeatError: it is of more seats than the router has.
    """
    prepare_replay(router, recording)
    for index, (sample, note) in enumerate(recording.entries()):
        yield Step(index, sample, router.feed(sample), note)


def digest_of(path: str | Path) -> str:
    """The SHA-256 of a file, in hexadecimal."""
    return hashlib.sha256(text.read_bytes(Path(path), MAX_BYTES)).hexdigest()


def read_recording(path: str | Path) -> Recording:
    """The recording in a file.

    :raises FileError: the file cannot be read, or a line is no header or sample; the message names the line.
    """
    path = Path(path)
    if path.is_file() and path.stat().st_size > MAX_BYTES:
        raise FileError(str(path), [("line 1", f"begins more than {MAX_BYTES:,} bytes, the most that is read at once")])
    stream = stream_recording(path)
    recording = Recording(stream.size, stream.scene, stream.seats)
    for number, (sample, note) in enumerate(stream.entries(), 2):
        try:
            recording.add(sample, note)
        except SampleError as error:
            raise FileError(str(path), [(f"line {number}", str(error))]) from None
    return recording


def stream_recording(path: str | Path) -> RecordingStream:
    """The recording in a file of any length, read line by line as it is replayed: in constant memory.

    :raises FileError: as :func:`read_recording`; of lines after the first when it comes to them.
    """
    return RecordingStream(Path(path))


class RecordingStream:
    """A recording that stays in its file: :func:`replay` takes it as it takes a :class:`Recording`.

    :ivar size: the window's size in pixels before the first sample. :ivar scene: the SHA-256 of the scene file it was
        made with, or None. :ivar seats: the names of its seats.
    """

    def __init__(self, path: Path) -> None:
        self._path = path
        header = _validated(HeaderModel.model_validate, next(self._lines(), b""), str(path), 1)
        self.size = (header.size[0], header.size[1])
        self.scene: str | None = header.scene
        self.seats = tuple(header.seats)

    def entries(self) -> Iterator[tuple[Sample, str | None]]:
        """The samples in order, each with the note beside it, or None."""
        before = -LATEST
        for number, line in enumerate(self._lines(), 1):
            if number == 1:
                continue
            given = _validated(_SAMPLE.validate_python, line, str(self._path), number)
            sample = _sample(given)
            try:
                check(sample, before)
            except SampleError as error:
                raise FileError(str(self._path), [(f"line {number}", str(error))]) from None
            before = sample.time
            yield sample, given.note

    def _lines(self) -> Iterator[bytes]:
        try:
            with self._path.open("rb") as file:
                while line := file.readline(LONGEST_LINE + 2):
                    yield line.removesuffix(b"\n")
        except OSError as error:
            raise FileError(str(self._path), [("", f"cannot be read: {error.strerror or error}")]) from None


def write_recording(recording: Recording, path: str | Path) -> None:
    """Write a recording; equal recordings give equal bytes.

    :raises FileError: the file cannot be written.
    """
    text.write_whole(Path(path), recording_lines(recording))


def _validated(validate: Any, line: bytes, file: str, number: int) -> Any:
    where = f"line {number}"
    if len(line) > LONGEST_LINE:
        raise FileError(file, [(where, f"is longer than {LONGEST_LINE:,} bytes, the most that is read")])
    try:
        value = text.parse(line, file, ".json")
    except FileError as error:
        problems = [(f"{where}, {place}" if place else where, what) for place, what in error.problems]
        raise FileError(file, problems) from None
    try:
        return validate(value)
    except ValidationError as error:
        # The name of the kind of sample is in the place that validation gives, and not in the file.
        there = value if isinstance(value, dict) else {}
        problems = problems_of(
            error,
            lambda loc: f"{where}, {place_of([part for part in loc if part in there or part == loc[-1]])}",
        )
        raise FileError(file, problems) from None


def _sample(line: AnyLine) -> Sample:
    given = {key: getattr(line, key) for key in type(line).model_fields if key not in ("sample", "note")}
    if isinstance(line, PointerLine):
        given["raw"] = tuple((time, x, y) for time, x, y in line.raw)
    if isinstance(line, RayLine):
        given["origin"], given["direction"] = tuple(line.origin), tuple(line.direction)
        given["path"] = None if line.path is None else tuple((x, y, z) for x, y, z in line.path)
    if isinstance(line, TipLine):
        given["tip"] = None if line.tip is None else tuple(line.tip)
    if isinstance(line, PointerLine | RayLine):
        given["button"] = None if line.button is None else int(button_of(line.button))
    elif isinstance(line, ActLine):
        given["value"] = tuple(line.value) if isinstance(line.value, list) else line.value
    elif isinstance(line, WindowLine):
        given["held"] = tuple(line.held)
    return _SAMPLES[type(line)](**given)


def write_trace(router: Router, path: str | Path) -> None:
    """Write the last decisions of a router as a recording, each sample with its verdict as a note: what a game that has
    crashed leaves behind.

    Replayed, it begins with the scene as it is made, and not as it was when the oldest of them came.

    :raises SampleError: the router keeps none: ``Router(scene, trace=1000)`` does.
    :raises FileError: the file cannot be written.
    """
    if router.trace is None:
        raise SampleError("the router keeps no decisions; make it with trace=, such as Router(scene, trace=1000)")
    recording = Recording(router.scene.window, seats=tuple(seat.name for seat in router.seats))
    for sample, verdict in router.trace:
        recording.add(sample, f"{'world' if verdict.world else 'not the world'}: {verdict.why}")
    write_recording(recording, path)


def recording_lines(recording: Recording) -> Iterable[str]:
    """The lines of a recording's file, with their ends."""
    header = {"glent": "recording", "version": 1, "size": list(recording.size), "seats": list(recording.seats)}
    if recording.scene is not None:
        header["scene"] = recording.scene
    yield _line(header)
    for index, sample in enumerate(recording.samples):
        yield _line({**sample_fields(sample), **({"note": recording.notes[index]} if index in recording.notes else {})})


def sample_fields(sample: Sample) -> dict[str, Any]:
    """A sample as it stands in a line; what is as by default is left out."""
    name, model = _LINES[type(sample)]
    fields: dict[str, Any] = {"sample": name, "time": float(sample.time)}
    for key, field in model.model_fields.items():
        if key in ("sample", "time", "note"):
            continue
        value = getattr(sample, key)
        if key == "button" and value is not None:
            value = PointerButton(button_of(value)).name.lower()
        elif key == "raw":
            value = [[float(number) for number in point] for point in value]
        elif key == "held" or isinstance(value, tuple):
            value = list(value)
        elif key in ("origin", "direction", "tip"):
            value = None if value is None else [float(number) for number in value]
        if name != "act" and isinstance(value, Real) and field.annotation is not int and not isinstance(value, bool):
            value = float(value)  # so that it is the same text once it has been read
        if field.is_required() or value != field.default:
            fields[key] = value
    return fields


def _line(value: dict[str, Any]) -> str:
    return json.dumps(value, ensure_ascii=False, allow_nan=False, separators=(", ", ": ")) + "\n"
