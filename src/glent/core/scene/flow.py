"""Flow: how a node lays out its children, in a row, in a column, or in a grid (laws L1–L7)."""

from __future__ import annotations

from typing import Any

from glent.core.arguments import is_choice
from glent.core.errors import PlaceError
from glent.core.scene.place import LIMIT

__all__ = ["ALIGNS", "FLOWS", "JUSTIFIES", "Flow"]

FLOWS = ("row", "column", "grid")
ALIGNS = ("stretch", "start", "center", "end")
JUSTIFIES = ("start", "center", "end", "space-between")

_KEYS = ("kind", "gap", "padding", "align", "justify", "columns", "wraps")


class Flow:
    """How a node lays out its children, in CSS words. A value: set ``node.flow`` to another to change it.

    It lays the visible children whose :class:`Place` names no side, in the order they were added (:meth:`Node.arrange`
    changes that, ``order`` does not); the others are placed by their place alone (law L1).

    :param kind: ``row`` (to the right), ``column`` (downwards), ``grid`` (row after row, in so many columns).
    :param gap: between neighbours, in node-local pixels: a number, or for what has several lines also ``(between
        lines, within a line)``.
    :param padding: between the node's edges and what it lays: a number, ``(top and bottom, left and right)``, or
        ``(top, right, bottom, left)``.
    :param align: across a row or column, and down a cell of a grid: ``stretch`` gives children without a size there all
        of the room, the others start; ``start``, ``center`` and ``end`` give them the size of their content.
    :param justify: along a row or column where room is left over and nobody grows, and across a cell of a grid:
        ``start``, ``center``, ``end``, and ``space-between`` for rows and columns.
    :param columns: how many a grid has, all as wide.
    :param wraps: whether a row goes on in another line below where its end is reached (law L7). Its height then depends
        on its width.
    :raises PlaceError: any of them is something else.
    """

    __slots__ = ("align", "columns", "gap", "justify", "kind", "padding", "wraps")

    kind: str
    gap: tuple[float, float]
    padding: tuple[float, float, float, float]
    align: str
    justify: str
    columns: int | None
    wraps: bool

    def __init__(
        self,
        kind: str,
        *,
        gap: float | tuple[float, float] = 0.0,
        padding: float | tuple[float, float] | tuple[float, float, float, float] = 0.0,
        align: str = "stretch",
        justify: str = "start",
        columns: int | None = None,
        wraps: bool = False,
    ) -> None:
        put = object.__setattr__
        put(self, "kind", _one_of(kind, "the kind of a flow", FLOWS))
        if not isinstance(wraps, bool) or (wraps and kind != "row"):
            raise PlaceError(f"wraps is {wraps!r}, expected True or False, and True for a row alone")
        put(self, "wraps", wraps)
        gaps = _numbers(gap, "gap", (1, 2) if kind == "grid" or wraps else (1,))
        put(self, "gap", gaps * 2 if len(gaps) == 1 else gaps)
        pads = _numbers(padding, "padding", (1, 2, 4))
        put(self, "padding", pads * (4 // len(pads)))
        put(self, "align", _one_of(align, "align", ALIGNS))
        put(self, "justify", _one_of(justify, "justify", JUSTIFIES[:3] if kind == "grid" else JUSTIFIES))
        if kind == "grid":
            if isinstance(columns, bool) or not isinstance(columns, int) or not 1 <= columns <= 10_000:
                raise PlaceError(f"columns is {columns!r}, expected how many columns the grid has, 1 to 10000")
        elif columns is not None:
            raise PlaceError(f"columns is {columns!r}, expected it for a grid alone, and this is a {kind}")
        put(self, "columns", columns)

    def __setattr__(self, name: str, value: object) -> None:
        raise AttributeError(f"a Flow never changes; set node.flow = node.flow.replace({name}={value!r})")

    __delattr__ = None  # type: ignore[assignment]

    def _key(self) -> tuple[Any, ...]:
        return tuple(getattr(self, key) for key in _KEYS)

    def __eq__(self, other: object) -> bool:
        return self._key() == other._key() if isinstance(other, Flow) else NotImplemented

    def __hash__(self) -> int:
        return hash(self._key())

    def __reduce__(self) -> tuple[Any, ...]:
        return _made, (self._plain(),)

    def __repr__(self) -> str:
        given = self.given()
        return f"Flow({given.pop('kind')!r}{''.join(f', {key}={value!r}' for key, value in given.items())})"

    def _plain(self) -> dict[str, Any]:
        return dict(zip(_KEYS, self._key(), strict=True)) | {
            "gap": self.gap if self.kind == "grid" or self.wraps else self.gap[0]
        }

    def given(self) -> dict[str, Any]:
        """The keywords that differ from their defaults, as short as can be: ``Flow(**flow.given()) == flow``."""
        found: dict[str, Any] = {"kind": self.kind}
        if any(self.gap):
            found["gap"] = self.gap[0] if self.gap[0] == self.gap[1] else self.gap
        top, right, bottom, left = self.padding
        if any(self.padding):
            same = top == bottom and right == left
            found["padding"] = top if same and top == right else (top, right) if same else self.padding
        if self.align != "stretch":
            found["align"] = self.align
        if self.justify != "start":
            found["justify"] = self.justify
        if self.columns is not None:
            found["columns"] = self.columns
        if self.wraps:
            found["wraps"] = True
        return found

    def replace(self, **changes: Any) -> Flow:
        """This flow with some keywords changed."""
        return Flow(**{**self._plain(), **changes})


def _made(given: dict[str, Any]) -> Flow:
    return Flow(**given)


def _one_of(value: object, what: str, words: tuple[str, ...]) -> str:
    if not is_choice(value, words):
        raise PlaceError(f"{what} is {value!r}, expected one of {', '.join(words)}")
    return str(value)


def _numbers(value: object, key: str, counts: tuple[int, ...]) -> tuple[float, ...]:
    numbers = tuple(value) if isinstance(value, tuple | list) and 1 in counts and len(value) > 1 else (value,)
    good = all(isinstance(one, int | float) and not isinstance(one, bool) and 0 <= one <= LIMIT for one in numbers)
    if len(numbers) not in counts or not good:
        many = "a number" if counts == (1,) else f"{', '.join(map(str, counts[:-1]))} or {counts[-1]} numbers"
        raise PlaceError(f"{key} is {value!r}, expected {many} of pixels, 0 to {LIMIT:g}")
    return tuple(float(one) for one in numbers)
