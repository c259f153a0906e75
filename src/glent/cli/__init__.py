"""The command line: its commands, grouped by what one wants.

Exit codes: 0 all is well, 1 something was found, 2 bad usage or a bad file.
"""

from __future__ import annotations

from typing import Any

import click

import glent
from glent.cli.files import contract, schema
from glent.cli.questions import check_command, focus, why_command
from glent.cli.recordings import compare_command, coverage_command, replay_command
from glent.cli.see import map_command, timeline, tree, view
from glent.cli.start import demo, live, play
from glent.cli.terminal import WIDTH
from glent.core.errors import GlentError

__all__ = ["main"]

GROUPS: dict[str, tuple[click.Command, ...]] = {
    "Start": (demo, play, live),
    "See a scene": (tree, map_command, view, timeline),
    "Find out": (why_command, check_command, focus, replay_command, compare_command, coverage_command),
    "Files": (contract, schema),
}


class Commands(click.Group):
    """The group of all commands: its help lists them by what one wants, and errors become one line and exit code 2."""

    def invoke(self, ctx: click.Context) -> Any:
        """Run a command; an error of the library, or a missing extra, is one line on stderr."""
        try:
            return super().invoke(ctx)
        except GlentError as error:
            click.echo(f"glent: {error}", err=True)
            ctx.exit(2)
        except ModuleNotFoundError as error:
            click.echo(f"glent: this command needs {error.name}; pip install 'glent[tools,pygame,live]'", err=True)
            ctx.exit(2)

    def format_commands(self, ctx: click.Context, formatter: click.HelpFormatter) -> None:
        """Write the commands group by group."""
        longest = max(len(name) for name in self.commands)
        for title, commands in GROUPS.items():
            with formatter.section(title):
                rows = [(f"{one.name or '':{longest}}", one.get_short_help_str(200)) for one in commands]
                formatter.write_dl(rows)


@click.group(cls=Commands, context_settings={"help_option_names": ["-h", "--help"], "max_content_width": WIDTH})
@click.version_option(glent.__version__, prog_name="glent")
def main() -> None:
    """Glent, the event layer under a game's user interface.

    Wherever SCENE is asked for, give a file, `package.module:callable` of your own, which returns a Scene or a Router,
    or one of the shipped `harbour`, `quay`, `bridge`, `tower` and `gallery`.

    The recordings that go with them are `night-shift` at the harbour; `crates`, `manifest`, `mooring`, `sticks`,
    `chart`, `rope` and `mishaps` at the quay; `barge`, `menu`, `cargo`, `look`, `by-keys`, `by-pad` and `pilots` on
    the bridge; `two-hands`, `moorings`, `gaze`, `barge-board`, `fingertip` and `at-the-screen` in the tower;
    `orders`, `levels`, `stowing`, `menus` and `radio` in the gallery.
    """


for _commands in GROUPS.values():
    for _command in _commands:
        main.add_command(_command)
