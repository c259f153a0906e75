"""The commands to begin with: the demo, a scene in a window, and one on a page to look into."""

from __future__ import annotations

import os
from pathlib import Path

import click

from glent.cli.scene_source import SceneSource
from glent.cli.terminal import (
    AS_JSON,
    OPEN_WITH,
    RecordingParam,
    SceneParam,
    console,
    digest_for,
    editor_for,
    emit,
    router_for,
    run_in_time,
)
from glent.demo import HARBOUR

__all__ = ["demo", "live", "play"]


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
@OPEN_WITH
@click.option("--watch", is_flag=True, help="Read SCENE again whenever its file changes; what stays keeps its state.")
def play(
    scene: SceneSource,
    record: Path | None,
    seconds: float | None,
    shot: Path | None,
    pilots: int,
    open_with: str | None,
    watch: bool,
) -> None:
    """Open SCENE in a window, drawn plainly, with each verdict in a status line. The key "F8" looks into it: what lies
    under the pointer, why it is hit or not, to be changed and kept."""
    os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")
    from glent.adapters.pygame_text import font
    from glent.demo.window import Window, play_window
    from glent.live import Overlay

    router, world = router_for(scene, pilots=pilots)
    if pilots > 1 and len(router.seats) == 1:
        raise click.UsageError(f"{scene.stem} has no second pilot; `glent play bridge --pilots 2` has")
    if watch and not isinstance(scene, Path):
        raise click.UsageError(f"{scene.stem} is code, which is not read again; --watch is for scene files")
    overlay = Overlay(router, editor=editor_for(open_with), measure=lambda text: font(15).size(text))
    recording = None
    if record is not None:
        from glent.formats import Recording

        seats = tuple(seat.name for seat in router.seats)
        recording = Recording(router.scene.window, digest_for(scene, router.scene), seats)
        recording.follow(router)
    play_window(Window(router, world, scene if watch and isinstance(scene, Path) else None, overlay), seconds, shot)
    if recording is not None and record is not None:
        from glent.formats import write_recording

        write_recording(recording, record)
        click.echo(f"{len(recording.samples)} samples are in {record}")


@click.command()
@click.argument("scene", type=SceneParam(), default=HARBOUR)
@click.argument("recording", type=RecordingParam(), required=False)
@click.option("--write", is_flag=True, help="Let the page change the scene, and keep the changes in its file.")
@click.option("--port", type=click.IntRange(0, 65535), default=0, help="On loopback; 0, the default, takes a free one.")
@OPEN_WITH
@click.option("--window/--no-window", default=True, help="Whether one can play SCENE in a window besides.")
@click.option("--seconds", type=float, help="Close by itself after so long.")
def live(
    scene: SceneSource,
    recording: Path | None,
    write: bool,
    port: int,
    open_with: str | None,
    window: bool,
    seconds: float | None,
) -> None:
    """Look into the running SCENE on a page: its nodes, picture, verdicts, and why. Its address is printed.

    SCENE runs in a window, where one plays it; with RECORDING that is played, again and again, without a window.
    """
    from glent.live.server import serve

    router, world = router_for(scene)
    with serve(router, port=port, write=write, editor=editor_for(open_with)) as server:
        click.echo(f"the live view of {scene.stem} is at {server.address}")
        click.echo("it can change the scene" if write else "it only reads; --write lets it change the scene")
        if recording is None and window:
            os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")
            from glent.demo.window import Window, play_window

            play_window(Window(router, world), seconds)
            return
        try:
            run_in_time(router, world, recording, seconds)
        except KeyboardInterrupt:
            click.echo("closed")
