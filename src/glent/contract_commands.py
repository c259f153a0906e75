"""The command that shows what a UI and its game agree on."""

from __future__ import annotations

from pathlib import Path

import click

from glent.terminal import AS_JSON, SCENE, console, emit, table

__all__ = ["contract"]


@click.command()
@SCENE
@click.option("--out", type=click.Path(dir_okay=False, path_type=Path), help="Write it here, as JSON.")
@click.option(
    "--since", type=click.Path(dir_okay=False, exists=True, path_type=Path), help="Say what has changed since this one."
)
@AS_JSON
def contract(scene: Path, out: Path | None, since: Path | None, as_json: bool) -> None:
    """Show the names that SCENE offers to its game: events and requests out, values both ways, switches in.

    Names that stand at two nodes without being shared are findings, and so are changes, with --since (exit code 1).
    """
    from glent.formats import read_scene
    from glent.wiring import Contract, Wiring

    wiring = Wiring(read_scene(scene))
    found = wiring.contract()
    problems = [problem.what for problem in wiring.problems() if problem.kind != "unbound"]
    changes = found.changes_since(Contract.read(since)) if since is not None else []
    if out is not None:
        found.save(out)
    if as_json:
        emit({**found.document(), "problems": problems, "changes": changes})
    else:
        names = table("name", "way", "type", "nodes")
        for end in found:
            names.add_row(end.name, end.way, end.type, "\n".join(end.paths))
        console().print(names)
        for finding in [*problems, *changes]:
            click.echo(finding)
    if problems or changes:
        raise SystemExit(1)
