"""What a UI offers to its game, as data: names, which way they go, and their types (law N5)."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import asdict, dataclass
from typing import Any

__all__ = ["END_KINDS", "Contract", "End"]

END_KINDS = ("event", "request", "value", "command")


@dataclass(frozen=True, slots=True)
class End:
    """One name between UI and game.

    :ivar name: that. :ivar kind: ``event`` (out of the UI), ``request`` (out, and answered by the authority), ``value``
        (both ways), ``command`` (into the UI). :ivar type: of what is passed, one of ``glent.wiring.TYPES``.
    :ivar paths: the nodes in the scene that have it.
    """

    name: str
    kind: str
    type: str
    paths: tuple[str, ...]


class Contract:
    """All names between a UI and its game, sorted by name."""

    __slots__ = ("ends",)

    def __init__(self, ends: Sequence[End]) -> None:
        self.ends = tuple(sorted(ends, key=lambda end: end.name))

    def __iter__(self) -> Iterator[End]:
        return iter(self.ends)

    def __len__(self) -> int:
        return len(self.ends)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Contract) and self.ends == other.ends

    def __hash__(self) -> int:
        return hash(self.ends)

    def __getitem__(self, name: str) -> End:
        """The end of a name.

        :raises KeyError: there is none.
        """
        return next(end for end in self.ends if end.name == name) if name in self else _missing(name)

    def __contains__(self, name: object) -> bool:
        return any(end.name == name for end in self.ends)

    def document(self) -> dict[str, Any]:
        """It as plain values."""
        return {"glent": "contract", "version": 2, "ends": [{**asdict(e), "paths": list(e.paths)} for e in self.ends]}

    def changes_since(self, older: Contract) -> list[str]:
        """What has changed since an older one, as sentences; paths are no part of what is agreed."""
        before, now = {end.name: end for end in older}, {end.name: end for end in self}
        changes = []
        for name in sorted({*before, *now}):
            old, new = before.get(name), now.get(name)
            if old is None and new is not None:
                changes.append(f"{name} is new: {new.kind} of {new.type}")
            elif new is None and old is not None:
                changes.append(f"{name} is gone: {old.kind} of {old.type}")
            elif old is not None and new is not None and (old.kind, old.type) != (new.kind, new.type):
                changes.append(f"{name} is {new.kind} of {new.type}, and was {old.kind} of {old.type}")
        return changes


def _missing(name: str) -> End:
    raise KeyError(name)
