"""The game of the running test, which its report is to tell of; nothing heavy is imported for tests that have none."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from glent.testing.report import GameWatch

__all__ = ["begin", "end", "game", "is_running", "note"]

_running = False
_game: GameWatch | None = None


def begin() -> None:
    """A test begins."""
    global _running
    end()
    _running = True


def end() -> None:
    """The test has ended."""
    global _running, _game
    if _game is not None:
        _game.stop()
    _running, _game = False, None


def is_running() -> bool:
    """Whether a test runs that tells of its game."""
    return _running


def note(watch: GameWatch) -> None:
    """Tell of this game, and not of the one before."""
    global _game
    if _game is not None:
        _game.stop()
    _game = watch


def game() -> GameWatch | None:
    """The game to tell of."""
    return _game
