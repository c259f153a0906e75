"""Looks: what a renderer draws of a control or a part of it, and what stands in for a missing picture (law C3)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from typing import TypeVar

from glent.core.arguments import is_choice
from glent.core.errors import ControlError

__all__ = ["MARKS", "STATES", "Look"]

T = TypeVar("T")

STATES: Mapping[str, tuple[str, ...]] = {
    "pressed": ("pressed", "hover", "idle"),
    "hover": ("hover", "idle"),
    "idle": ("idle",),
    "disabled": ("disabled", "idle"),
}
"""The states of a node, each with those that stand in for it, the nearest first."""

MARKS = ("chosen", "mixed", "pending", "refused", "focus_ring", "open", "empty")
"""What a part can be besides, the most important first: what is left out first is the last of them."""


class Look:
    """A state, and the marks that go with it. A value: two of the same are equal.

    :ivar state: ``idle``, ``hover``, ``pressed`` or ``disabled``, as :attr:`Node.look` has it.
    :ivar marks: of :data:`MARKS`: ``chosen`` (checked, selected, on), ``mixed`` (neither), ``pending`` and ``refused``
        (a request), ``focus_ring``, ``open`` (expanded), ``empty`` (nothing in it), in this order.
    """

    __slots__ = ("marks", "state")

    def __init__(self, state: str, marks: Iterable[str] = ()) -> None:
        given = frozenset(one if isinstance(one, str) else repr(one) for one in marks)
        unknown = given.difference(MARKS)
        if not is_choice(state, STATES) or unknown:
            what = repr(state) if not is_choice(state, STATES) else repr(sorted(unknown)[0])
            raise ControlError(f"a look cannot be {what}, expected one of {', '.join(STATES)} with {', '.join(MARKS)}")
        self.state = state
        self.marks = tuple(mark for mark in MARKS if mark in given)

    @property
    def name(self) -> str:
        """Its state and its marks: ``hover chosen focus_ring``."""
        return " ".join((self.state, *self.marks))

    def names(self) -> Iterator[str]:
        """The names of all pictures that will do, the best first.

        Of two pictures the one with more marks is better, since marks are what the player has to know; of the same
        marks the one of the nearer state. Marks are left out one by one, from the last of :data:`MARKS`.
        """
        for count in range(len(self.marks), -1, -1):
            for state in STATES[self.state]:
                yield " ".join((state, *self.marks[:count]))

    def of(self, pictures: Mapping[str, T]) -> T:
        """The best of some pictures by name.

        :raises ControlError: none will do, because there is none named ``idle``.
        """
        for name in self.names():
            if name in pictures:
                return pictures[name]
        raise ControlError(f"there is no picture for {self.name!r}, expected at least one named 'idle'")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Look) and self.state == other.state and self.marks == other.marks

    def __hash__(self) -> int:
        return hash((self.state, self.marks))

    def __repr__(self) -> str:
        return f"<Look {self.name}>"
