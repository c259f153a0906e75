"""The commands about files: their schemas, and the contract of a scene with its game."""

from __future__ import annotations

from pathlib import Path

import click

from glent.cli.scene_source import SceneSource
from glent.cli.terminal import AS_JSON, SCENE, console, emit, router_for, table
from glent.formats import bindings_schema, key_layout_schema, recording_schema, scene_schema

__all__ = ["contract", "schema"]


@click.command()
@click.argument("what", type=click.Choice(["scene", "recording", "bindings", "key-layout", "live"]), default="scene")
def schema(what: str) -> None:
    """Print the JSON Schema of scene files, of the lines of a recording, of files of bindings, of key layouts, or of
    the messages of the live view."""
    from glent.live.messages import live_schema

    schemas = {
        "scene": scene_schema,
        "recording": recording_schema,
        "bindings": bindings_schema,
        "key-layout": key_layout_schema,
        "live": live_schema,
    }
    emit(schemas[what]())


@click.command()
@SCENE
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Write it here, as JSON.")
@click.option(
    "--against",
    type=click.Path(dir_okay=False, path_type=Path),
    help="Say what has changed since this one.",
)
@AS_JSON
def contract(scene: SceneSource, out: Path | None, against: Path | None, as_json: bool) -> None:
    """Show the names that SCENE offers to its game: events and requests out, values both ways, commands in.

    Names that stand at two nodes without being shared are findings, and so are changes, with --against (exit code 1).
    """
    from glent.formats import read_contract, read_scene, write_contract
    from glent.wiring import Wiring, wiring_of

    wiring = Wiring(read_scene(scene)) if isinstance(scene, Path) else wiring_of(router_for(scene)[0].scene)
    found = wiring.contract()
    problems = [problem.sentence for problem in wiring.problems() if problem.kind != "unbound"]
    changes = found.changes_since(read_contract(against)) if against is not None else []
    if out is not None:
        write_contract(found, out)
    if as_json:
        emit({**found.document(), "problems": problems, "changes": changes})
    else:
        names = table("name", "kind", "type", "nodes")
        for end in found:
            names.add_row(end.name, end.kind, end.type, "\n".join(end.paths))
        console().print(names)
        for finding in [*problems, *changes]:
            click.echo(finding)
    if problems or changes:
        raise SystemExit(1)
