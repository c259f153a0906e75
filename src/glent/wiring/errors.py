"""What can be wrong between UI and game (law N3)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from glent.core.errors import GlentError

__all__ = ["Problem", "WiringError"]


@dataclass(frozen=True, slots=True)
class Problem:
    """One thing that does not fit.

    :ivar kind: ``unbound``: the UI has it, the game does not bind it; ``unknown``: the game binds it, the UI does not
        have it; ``doubled``: two that are not said to be shared have one name; ``copied along``: the same, of two that
        are wired alike in all, so that one is a copy; ``wrong type``; ``impossible``: a node cannot do that; ``not
        ready``: a value that nothing has set yet, which is no fault.
    :ivar name: the name it is about; empty if it is about none.
    :ivar places: where: paths of nodes in the scene, and lines of the game's code.
    :ivar sentence: a sentence.
    """

    kind: str
    name: str
    places: tuple[str, ...]
    sentence: str

    def __str__(self) -> str:
        return self.sentence


class WiringError(GlentError, ValueError):
    """UI and game do not fit together.

    :ivar problems: all that is wrong, as :class:`Problem`.
    """

    def __init__(self, problems: Sequence[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("\n".join(problem.sentence for problem in problems))
