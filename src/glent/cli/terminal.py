"""What the commands share: tables, JSON, parameters, and errors as one clear line."""

from __future__ import annotations

import hashlib
import json
import sys
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

import glent
from glent.cli.scene_source import BuiltScene, SceneSource
from glent.demo import HARBOUR, RECORDINGS, SCENES
from glent.demo.worlds import World, world_for
from glent.formats import FileError, Recording, Step, replay, scene_document
from glent.formats.recording import digest_of
from glent.wiring import Rehearsal

if TYPE_CHECKING:
    from collections.abc import Callable

    from rich.console import Console
    from rich.table import Table

    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.dispatch import OnError
    from glent.live import Editor

WIDTH = 100


def console() -> Console:
    """Where tables go: as wide as the terminal, and 100 columns where there is none."""
    from rich.console import Console

    return Console(width=None if sys.stdout.isatty() else WIDTH, highlight=False, soft_wrap=False)


def table(*columns: str, title: str | None = None) -> Table:
    """A plain table that reads well without colour; a column ending in ``>`` is aligned to the right."""
    from rich import box
    from rich.table import Table

    made = Table(title=title, box=box.SIMPLE_HEAD, title_justify="left", title_style="bold", pad_edge=False)
    for column in columns:
        made.add_column(column.rstrip(">"), justify="right" if column.endswith(">") else "left", overflow="fold")
    return made


def emit(value: Any) -> None:
    """Print a value as JSON."""
    click.echo(json.dumps(value, indent=1, ensure_ascii=False))


class SceneParam(click.ParamType[SceneSource]):
    """A scene file, the name of one that is shipped (``harbour``, ``quay``), or ``package.module:callable``."""

    name = "scene"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> SceneSource:
        if isinstance(value, Path | BuiltScene):
            return value
        if Path(value).exists():
            return Path(value)
        return SCENES.get(str(value)) or BuiltScene.named(str(value)) or Path(value)


class RecordingParam(click.ParamType[Path]):
    """A recording, or the name of one that is shipped: ``night-shift``, ``crates``, …."""

    name = "recording"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> Path:
        if isinstance(value, Path):
            return value
        return Path(value) if Path(value).exists() else RECORDINGS.get(str(value), Path(value))


class SizeParam(click.ParamType[tuple[float, float]]):
    """A width and a height, as in ``1920x1080``."""

    name = "WxH"

    def convert(self, value: Any, param: click.Parameter | None, ctx: click.Context | None) -> tuple[float, float]:
        if isinstance(value, tuple):
            return value
        parts = str(value).lower().split("x")
        try:
            width, height = (float(part) for part in parts)
        except ValueError:
            self.fail(f"{value!r} is not a size; expected a width and a height such as 1920x1080", param, ctx)
        return width, height


RAY = (float,) * 6
"""Six numbers: where a ray begins and where it goes, or an eye and what it looks at; metres."""
SCENE = click.argument("scene", type=SceneParam())
AS_JSON = click.option("--json", "as_json", is_flag=True, help="Print JSON instead of text.")
WINDOW = click.option(
    "--window", type=SizeParam(), help="The window's size in pixels; by default the scene's own size."
)


OPEN_WITH = click.option(
    "--open", "open_with", metavar="EDITOR",
    help="What opens the place of a node in its file, such as 'vim +{line} {file}'.",
)  # fmt: skip


def say_error(error: Exception, event: glent.Event | None) -> None:
    """A handler's error as one line."""
    where = f"a handler of {event.here.path} for {event.kind}" if event is not None else "input handling"
    click.echo(f"{where} raised {type(error).__name__}: {error}", err=True)


def router_for(
    source: SceneSource,
    window: tuple[float, float] | None = None,
    pilots: int = 1,
    on_error: OnError = say_error,
) -> tuple[glent.Router, World]:
    """A scene as it runs, for every command: its router, and its world or stand-ins for that (law D1)."""
    world: World
    if isinstance(source, BuiltScene):
        router = source.build(on_error)
        world = Rehearsal(router)
    else:
        router, world = world_for(source, on_error, pilots)
    if window is not None:
        router.scene.window = window
    return router, world


def editor_for(command: str | None) -> Editor | None:
    """The editor of ``--open``."""
    from glent.live import Editor

    return Editor(command) if command is not None else None


def draw_to(path: Path, draw: Callable[[], None]) -> None:
    """Draw a figure, or say in one line why its file cannot be written."""
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        draw()
    except (OSError, ValueError) as error:
        raise click.ClickException(f"{path} cannot be drawn: {error}") from None


def shown_file(path: str | Path) -> str:
    """A file as it is told in text: from the current folder, if it is in there; a shipped one by its name."""
    file = Path(path).resolve()
    if file.parent == HARBOUR.resolve().parent:
        return file.name
    here = Path.cwd()
    return str(file.relative_to(here)) if file.is_relative_to(here) else str(path)


def stderr_console() -> Console:
    """Where progress goes."""
    from rich.console import Console

    return Console(stderr=True)


def digest_for(source: SceneSource, scene: glent.Scene) -> str | None:
    """The SHA-256 of a scene's file, or of what code has built; None if no file can hold that."""
    if isinstance(source, Path):
        return digest_of(source)
    try:
        return hashlib.sha256(json.dumps(scene_document(scene)).encode()).hexdigest()
    except FileError:
        return None


def steps_of(router: glent.Router, world: World, recording: Recording) -> list[Step]:
    """Every step of a replay, with progress shown where it is long and someone looks."""
    from rich.progress import track

    many = len(recording.samples)
    steps = []
    for step in track(
        replay(router, recording),
        "replaying",
        total=many,
        disable=not (sys.stderr.isatty() and many > 5_000),
        transient=True,
        console=stderr_console(),
    ):
        world.steer(step.sample, step.verdict)
        steps.append(step)
    return steps


def summary(counts: dict[str, int]) -> str:
    """The counts as a sentence."""
    ticks = f"with {counts['ticks']} ticks between them, " if counts["ticks"] else ""
    return (
        f"{counts['samples']} samples: {counts['ui']} went to the UI, {counts['world']} to the world and"
        f" {counts['nobody']} to nobody; {ticks}{counts['events']} events were routed."
    )


def parts_of(numbers: tuple[float, ...]) -> tuple[Vector3, Vector3]:
    """Split six numbers into two triples."""
    ox, oy, oz, dx, dy, dz = numbers
    return (ox, oy, oz), (dx, dy, dz)


FRAME = 1.0 / 60.0


def run_in_time(router: glent.Router, world: World, recording: Path | None, seconds: float | None) -> None:
    """Let a scene run without a window as if in one, and play a recording in it, again and again, as fast as it was
    recorded."""
    import time

    from glent.formats import read_recording

    samples = read_recording(recording).samples if recording is not None else []
    began, start, at = time.monotonic(), max(0.0, router.now), 0
    ahead = start - samples[0].time + 1.0 if samples else 0.0
    while seconds is None or time.monotonic() - began < seconds:
        now = start + time.monotonic() - began
        while samples and samples[at].time + ahead <= now:
            sample = moved(samples[at], ahead)
            world.steer(sample, router.feed(sample))
            at += 1
            if at == len(samples):
                at, ahead = 0, now + 1.0 - samples[0].time
        tick = glent.TickSample(max(now, router.now))
        world.steer(tick, router.feed(tick))
        time.sleep(FRAME)


def moved(sample: glent.Sample, by: float) -> glent.Sample:
    """A sample that comes so many seconds later."""
    from copy import copy

    later = copy(sample)
    later.time += by
    if isinstance(later, glent.PointerSample):
        later.raw = tuple((time + by, x, y) for time, x, y in later.raw)
    return later
