"""Scenes that code builds: ``package.module:callable`` wherever a command asks for SCENE."""

from __future__ import annotations

import re
import sys
import traceback
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

import click

from glent.core.errors import near
from glent.core.routing.router import Router
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.dispatch import OnError

__all__ = ["BuiltScene", "SceneSource"]

PATTERN = re.compile(r"([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*):([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*)")


class BuiltScene:
    """A scene that a callable returns, as such or with its router.

    :ivar stem: what it is called: ``module:callable``.
    """

    __slots__ = ("_module", "_name", "stem")

    def __init__(self, module: str, name: str) -> None:
        self._module = module
        self._name = name
        self.stem = f"{module}:{name}"

    @classmethod
    def named(cls, given: str) -> BuiltScene | None:
        """What a word on the command line means, if it has the form of one."""
        found = PATTERN.fullmatch(given)
        return cls(found[1], found[2]) if found is not None else None

    def build(self, on_error: OnError | None) -> Router:
        """Call it. An error in it is shown with its own trace, and ends the command with exit code 1.

        :raises click.UsageError: there is no such callable, or it returns neither a scene nor a router.
        """
        made = self._shown(self._find())
        if isinstance(made, Scene):
            return made.router if isinstance(made.router, Router) else Router(made, on_error=on_error)
        if isinstance(made, Router):
            return made
        raise click.UsageError(f"{self.stem} returned {made!r}, expected a Scene or a Router")

    def _find(self) -> Callable[[], object]:
        if str(Path.cwd()) not in sys.path:
            sys.path.insert(0, str(Path.cwd()))
        try:
            found: object = self._shown(lambda: import_module(self._module))
        except ModuleNotFoundError:
            raise click.UsageError(
                f"{self.stem}: there is no module {self._module} in {Path.cwd()} or among what is installed"
            ) from None
        for part in self._name.split("."):
            inside = found
            found = getattr(inside, part, None)
            if found is None:
                raise click.UsageError(f"{self.stem}: {self._module} has no {part}{near(part, dir(inside))}")
        if not callable(found):
            raise click.UsageError(f"{self.stem} is {found!r}, expected a callable that returns a Scene or a Router")
        return found

    def _shown(self, call: Callable[[], object]) -> object:
        try:
            return call()
        except ModuleNotFoundError as error:
            if error.name is not None and (self._module + ".").startswith(error.name + "."):
                raise
            self._show(error)
        except Exception as error:
            self._show(error)
        raise SystemExit(1)

    def _show(self, error: Exception) -> None:
        trace = error.__traceback__
        here = {__file__, import_module.__code__.co_filename}
        while trace is not None and (
            trace.tb_frame.f_code.co_filename in here or "importlib" in trace.tb_frame.f_code.co_filename
        ):
            trace = trace.tb_next
        click.echo("".join(traceback.format_exception(type(error), error, trace)), err=True, nl=False)
        click.echo(f"glent: {self.stem} failed, see above", err=True)


SceneSource = Path | BuiltScene
"""What SCENE stands for: a file, or a callable."""
