"""Layouts of keys on the screen."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from glent.core.errors import ControlError

__all__ = ["DOES", "Key", "KeyLayout"]

DOES = ("type", "shift", "backspace", "clear", "enter", "left", "right")
"""What a key can do."""


@dataclass(frozen=True, slots=True)
class Key:
    """One key.

    :ivar text: what it types. :ivar shifted: what it types with shift; by default the text in capitals.
    :ivar does: ``type``, ``shift``, ``backspace``, ``clear``, ``enter``, ``left`` or ``right``.
    :ivar label: what stands on it; by default the text. :ivar width: how wide it is, beside others of its row.
    """

    text: str = ""
    shifted: str | None = None
    does: str = "type"
    label: str | None = None
    width: float = 1.0

    def __post_init__(self) -> None:
        if self.does not in DOES:
            raise ControlError(f"a key does {self.does!r}, expected one of {', '.join(DOES)}")
        if (self.does == "type") != bool(self.text):
            raise ControlError(f"a key that does {self.does!r} has the text {self.text!r}, expected text to type only")
        if not self.width > 0.0:
            raise ControlError(f"a key has the width {self.width!r}, expected more than 0")

    def typed(self, shift: bool) -> str:
        """What it types."""
        return self.text if not shift else self.shifted if self.shifted is not None else self.text.upper()

    def shown(self, shift: bool) -> str:
        """What stands on it."""
        return self.label if self.label is not None else self.typed(shift) or self.does


class KeyLayout:
    """Rows of keys. A value.

    :raises ControlError: there is no key.
    """

    __slots__ = ("rows",)

    def __init__(self, rows: Sequence[Sequence[Key]]) -> None:
        self.rows = tuple(tuple(row) for row in rows)
        if not self.rows or not all(self.rows):
            raise ControlError("a layout has a row without keys, expected at least one row and one key in each")

    @classmethod
    def from_plain(cls, rows: Sequence[Sequence[str | Mapping[str, Any]]]) -> KeyLayout:
        """A layout of keys as files have them: the text that one types, or the fields of :class:`Key`."""
        return cls([[Key(key) if isinstance(key, str) else Key(**key) for key in row] for row in rows])

    @classmethod
    def of(cls, *rows: str) -> KeyLayout:
        """A layout of plain characters, a string a row, with backspace and enter after the last one."""
        keys = [[Key(sign) for sign in row] for row in rows]
        keys[-1] += [Key(does="backspace"), Key(does="enter")]
        return cls(keys)
