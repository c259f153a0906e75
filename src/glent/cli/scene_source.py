"""Scenes that code builds: ``package.module:callable`` wherever a command asks for SCENE."""

from __future__ import annotations

import traceback
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

import click

from glent.review.game import CallableName, GameNameError, router_of

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.dispatch import OnError
    from glent.core.routing.router import Router

__all__ = ["BuiltScene", "SceneSource"]

T = TypeVar("T")


class BuiltScene:
    """A scene that a callable returns, as such or with its router.

    :ivar stem: what it is called: ``module:callable``.
    """

    __slots__ = ("_name", "stem")

    def __init__(self, name: CallableName) -> None:
        self._name = name
        self.stem = str(name)

    @classmethod
    def named(cls, given: str) -> BuiltScene | None:
        """What a word on the command line means, if it has the form of one."""
        found = CallableName.parsed(given)
        return cls(found) if found is not None else None

    def build(self, on_error: OnError | None) -> Router:
        """Call it. An error in it is shown with its own trace, and ends the command with exit code 1.

        :raises GameNameError: there is no such callable, or it returns neither a scene nor a router.
        """
        call = self._shown(self._name.found, GameNameError)
        return router_of(self._shown(call), self.stem, on_error)

    def _shown(self, call: Callable[[], T], plain: type[Exception] | tuple[()] = ()) -> T:
        try:
            return call()
        except plain:
            raise
        except Exception as error:
            self._show(error)
        raise SystemExit(1)

    def _show(self, error: Exception) -> None:
        trace = error.__traceback__
        here = {__file__, import_module.__code__.co_filename, CallableName.found.__code__.co_filename}
        while trace is not None and (
            trace.tb_frame.f_code.co_filename in here or "importlib" in trace.tb_frame.f_code.co_filename
        ):
            trace = trace.tb_next
        click.echo("".join(traceback.format_exception(type(error), error, trace)), err=True, nl=False)
        click.echo(f"glent: {self.stem} failed, see above", err=True)


SceneSource = Path | BuiltScene
"""What SCENE stands for: a file, or a callable."""
