"""The commands to begin with: the demo, and a scene in a window."""

from __future__ import annotations

import os
from pathlib import Path

import click

from glent.cli.scene_source import SceneSource
from glent.cli.terminal import AS_JSON, SceneParam, console, digest_for, emit, router_for
from glent.demo import HARBOUR

__all__ = ["demo", "play"]


@click.command()
@click.option(
    "--out", type=click.Path(file_okay=False, path_type=Path), default=Path("build/demo"), show_default=True,
    help="Where the pictures and the log go.",
)  # fmt: skip
@click.option("--full", is_flag=True, help="Tell all that happens, and not just one screen of it.")
@AS_JSON
def demo(out: Path, full: bool, as_json: bool) -> None:
    """Run the whole example on the shipped data, without a window."""
    from rich.console import Console

    from glent.demo.overview import overview
    from glent.demo.tour import tour

    out.mkdir(parents=True, exist_ok=True)
    told = tour(out, console() if full and not as_json else Console(quiet=True))
    if as_json:
        emit(told)
    elif not full:
        overview(told, out, console())


@click.command()
@click.argument("scene", type=SceneParam(), default=HARBOUR)
@click.option("--record", type=click.Path(dir_okay=False, path_type=Path), help="Write what is played to a recording.")
@click.option("--seconds", type=float, help="Close by itself after so long.")
@click.option("--shot", type=click.Path(dir_okay=False, path_type=Path), help="On closing, save the window as PNG.")
@click.option("--pilots", type=click.IntRange(1, 2), default=1, help="Two pilots share the bridge, in a split window.")
@click.option("--watch", is_flag=True, help="Read SCENE again whenever its file changes; what stays keeps its state.")
def play(
    scene: SceneSource,
    record: Path | None,
    seconds: float | None,
    shot: Path | None,
    pilots: int,
    watch: bool,
) -> None:
    """Open SCENE in a window, drawn plainly, with each verdict in a status line."""
    os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")
    from glent.demo.window import Window, play_window

    router, world = router_for(scene, pilots=pilots)
    if pilots > 1 and len(router.seats) == 1:
        raise click.UsageError(f"{scene.stem} has no second pilot; `glent play bridge --pilots 2` has")
    if watch and not isinstance(scene, Path):
        raise click.UsageError(f"{scene.stem} is code, which is not read again; --watch is for scene files")
    recording = None
    if record is not None:
        from glent.formats import Recording

        seats = tuple(seat.name for seat in router.seats)
        recording = Recording(router.scene.window, digest_for(scene, router.scene), seats)
        recording.follow(router)
    play_window(Window(router, world, scene if watch and isinstance(scene, Path) else None), seconds, shot)
    if recording is not None and record is not None:
        from glent.formats import write_recording

        write_recording(recording, record)
        click.echo(f"{len(recording.samples)} samples are in {record}")
