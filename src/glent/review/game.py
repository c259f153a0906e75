"""Games by their names: a scene file, or ``package.module:callable``, which returns a Scene or a Router."""

from __future__ import annotations

import re
import sys
from importlib import import_module
from pathlib import Path
from typing import TYPE_CHECKING

from glent.core.errors import GlentError, near
from glent.core.routing.router import Router
from glent.core.scene.scene import Scene
from glent.formats import read_scene
from glent.wiring import Rehearsal

if TYPE_CHECKING:
    from collections.abc import Callable

    from glent.core.routing.dispatch import OnError

__all__ = ["CallableName", "GameNameError", "game_named", "router_of"]

PATTERN = re.compile(r"([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*):([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*)")


class GameNameError(GlentError):
    """A name is no game's: there is no such callable, or it returns neither a scene nor a router."""


class CallableName:
    """The name of a callable: ``package.module:callable``.

    :ivar module: the module. :ivar name: what stands in it, with dots.
    """

    __slots__ = ("module", "name")

    def __init__(self, module: str, name: str) -> None:
        self.module = module
        self.name = name

    def __str__(self) -> str:
        return f"{self.module}:{self.name}"

    @classmethod
    def parsed(cls, given: str) -> CallableName | None:
        """What a word means, if it has the form of one."""
        found = PATTERN.fullmatch(given)
        return cls(found[1], found[2]) if found is not None else None

    def found(self) -> Callable[[], object]:
        """The callable. The current folder is looked in too.

        :raises GameNameError: there is none of this name. What importing the module raises comes through.
        """
        if str(Path.cwd()) not in sys.path:
            sys.path.insert(0, str(Path.cwd()))
        try:
            found: object = import_module(self.module)
        except ModuleNotFoundError as error:
            if error.name is None or not (self.module + ".").startswith(error.name + "."):
                raise
            where = f"in {Path.cwd()} or among what is installed"
            raise GameNameError(f"{self}: there is no module {self.module} {where}") from None
        for part in self.name.split("."):
            inside = found
            found = getattr(inside, part, None)
            if found is None:
                raise GameNameError(f"{self}: {self.module} has no {part}{near(part, dir(inside))}")
        if not callable(found):
            raise GameNameError(f"{self} is {found!r}, expected a callable that returns a Scene or a Router")
        return found


def router_of(made: object, name: str, on_error: OnError | None = None) -> Router:
    """The router of what a callable has returned.

    :raises GameNameError: it is neither a scene nor a router.
    """
    if isinstance(made, Scene):
        return made.router if isinstance(made.router, Router) else Router(made, on_error=on_error)
    if isinstance(made, Router):
        return made
    raise GameNameError(f"{name} returned {made!r}, expected a Scene or a Router")


def game_named(name: str | Path, folder: Path | None = None) -> Router:
    """The game of a scene file, or of a callable, with the controls and wires that its scene declares (law D1).

    :param name: a file, or ``package.module:callable``. :param folder: what a file's path is relative to.
    :raises FileError: the file cannot be read. :raises GameNameError: there is no such callable, or it returns no game.
    """
    called = CallableName.parsed(str(name))
    if called is not None:
        router = router_of(called.found()(), str(called))
    else:
        router = Router(read_scene((folder or Path()) / name))
    Rehearsal(router)
    return router
