"""On what terms a node has the input: modals, popups, seats, and how focus moves through it (laws M1–M4, F1–F3, T1)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from glent.core.errors import SceneError
from glent.core.scene import checks

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["CLOSED_BY", "DIRECTIONS", "OTHERS", "WRAPS", "TermAttributes", "Terms"]

CLOSED_BY = ("none", "back", "any")
OTHERS = ("through", "blocked")
WRAPS = (None, "x", "y", "both")
DIRECTIONS = ("left", "right", "up", "down")


class Terms:
    """The attributes below, in one object that most nodes share, because most nodes have none of them."""

    __slots__ = (
        "bars_all",
        "closed_by",
        "entry",
        "hangs_from",
        "modal",
        "neighbours",
        "others",
        "press_through",
        "scope",
        "seats",
        "tab_order",
        "wrap",
    )

    def __init__(
        self,
        modal: bool = False,
        bars_all: bool = False,
        closed_by: str = "none",
        press_through: bool = False,
        hangs_from: str | None = None,
        seats: frozenset[str] | None = None,
        others: str = "through",
        tab_order: float = 0,
        neighbours: Mapping[str, str | None] | None = None,
        scope: bool = False,
        wrap: str | None = None,
        entry: str | None = None,
    ) -> None:
        self.modal = modal
        self.bars_all = bars_all
        self.closed_by = closed_by
        self.press_through = press_through
        self.hangs_from = hangs_from
        self.seats = seats
        self.others = others
        self.tab_order = tab_order
        self.neighbours = neighbours
        self.scope = scope
        self.wrap = wrap
        self.entry = entry

    @property
    def stands_out(self) -> bool:
        """Whether routing has to look at the node whatever lies under a pointer."""
        return self.modal or self.closed_by != "none" or self.seats is not None


_PLAIN = Terms()


class TermAttributes:
    """The attributes of a node that modals, seats and focus go by.

    :ivar modal: whether it blocks all that is painted behind it, the world included, as long as it shows (law M1).
    :ivar bars_all: whether a modal on a panel bars everything; else it bars just its panel (law M1).
    :ivar closed_by: what closes it: ``none``, ``back`` (the key or button bound to that), or ``any``: a press outside
        of it as well (law M2). Closing sends it ``back``; unless a handler takes that, it is hidden.
    :ivar press_through: whether the press that closes it also goes to what it lands on; else it does nothing more.
    :ivar hangs_from: the path of the node it was opened by and hangs from, which counts as inside it (law M2).
        A node can be given; its path is kept.
    :ivar seats: the names of the seats it is for, with all that is below it; None: all (law T1).
    :ivar others: what it is for other seats: ``through``, as if it were not there, or ``blocked``.
    :ivar tab_order: among its siblings; lower comes first, then as added (law F1).
    :ivar neighbours: where focus goes from here, by direction (``left``, ``right``, ``up``, ``down``): a path, or None
        for nowhere. Directions it does not name go by position (law F2).
    :ivar scope: whether arrows stay within it, unless a neighbour is named (law F2).
    :ivar wrap: whether arrows that find nothing more within it go on from its other side: ``x``, ``y``, ``both``, None.
    :ivar entry: the path below it of the stop that focus enters it at, as long as that can have it: of a group that is
        one stop to Tab, the radio that is chosen; of a modal, the choice that one expects. None: where focus last was
        in the group, or its first stop (laws F1, M1).
    """

    __slots__ = ("_terms",)

    def __init__(self) -> None:
        self._terms = _PLAIN

    @property
    def path(self) -> str:
        """What errors call it."""
        raise NotImplementedError

    @property
    def scene(self) -> Scene | None:
        """The scene it is in; None once it is removed."""
        raise NotImplementedError

    def _set_terms(self, where: str, **given: Any) -> None:
        """Check and set some of them. A refused one changes nothing."""
        now = {name: given.get(name, getattr(self._terms, name)) for name in Terms.__slots__}
        for name in ("modal", "bars_all", "press_through", "scope"):
            checks.flag(now[name], name, where)
        _one_of(now["closed_by"], "closed_by", CLOSED_BY, where)
        _one_of(now["others"], "others", OTHERS, where)
        _one_of(now["wrap"], "wrap", WRAPS, where)
        now["hangs_from"] = _path_of(now["hangs_from"], "hangs_from", where)
        now["seats"] = _seats(now["seats"], where)
        checks.number(now["tab_order"], "tab_order", where)
        now["neighbours"] = _neighbours(now["neighbours"], where)
        now["entry"] = _path_of(now["entry"], "entry", where)
        self._terms = Terms(**now)

    def _set_named_terms(self, where: str, given: Mapping[str, Any]) -> None:
        """The same for keywords of :meth:`Node.add` and :meth:`Scene.layer`, which may be unknown.

        :raises TypeError: there is no such keyword, as Python has it.
        """
        for name in given:
            if name not in Terms.__slots__:
                raise TypeError(
                    f"{where}: there is no attribute {name!r}; expected one of {', '.join(Terms.__slots__)}"
                )
        self._set_terms(where, **given)

    def _change_terms(self, **given: Any) -> None:
        self._set_terms(self.path, **given)
        scene = self.scene
        if scene is not None:
            scene._terms_changed(self)  # type: ignore[arg-type]

    @property
    def modal(self) -> bool:
        return self._terms.modal

    @modal.setter
    def modal(self, value: bool) -> None:
        self._change_terms(modal=value)

    @property
    def bars_all(self) -> bool:
        return self._terms.bars_all

    @bars_all.setter
    def bars_all(self, value: bool) -> None:
        self._change_terms(bars_all=value)

    @property
    def closed_by(self) -> str:
        return self._terms.closed_by

    @closed_by.setter
    def closed_by(self, value: str) -> None:
        self._change_terms(closed_by=value)

    @property
    def press_through(self) -> bool:
        return self._terms.press_through

    @press_through.setter
    def press_through(self, value: bool) -> None:
        self._change_terms(press_through=value)

    @property
    def hangs_from(self) -> str | None:
        return self._terms.hangs_from

    @hangs_from.setter
    def hangs_from(self, value: str | Node | None) -> None:
        self._change_terms(hangs_from=value)

    @property
    def seats(self) -> frozenset[str] | None:
        return self._terms.seats

    @seats.setter
    def seats(self, value: Iterable[str] | None) -> None:
        self._change_terms(seats=value)

    @property
    def others(self) -> str:
        return self._terms.others

    @others.setter
    def others(self, value: str) -> None:
        self._change_terms(others=value)

    @property
    def tab_order(self) -> float:
        return self._terms.tab_order

    @tab_order.setter
    def tab_order(self, value: float) -> None:
        self._change_terms(tab_order=value)

    @property
    def neighbours(self) -> Mapping[str, str | None] | None:
        return self._terms.neighbours

    @neighbours.setter
    def neighbours(self, value: Mapping[str, str | Node | None] | None) -> None:
        self._change_terms(neighbours=value)

    @property
    def scope(self) -> bool:
        return self._terms.scope

    @scope.setter
    def scope(self, value: bool) -> None:
        self._change_terms(scope=value)

    @property
    def wrap(self) -> str | None:
        return self._terms.wrap

    @wrap.setter
    def wrap(self, value: str | None) -> None:
        self._change_terms(wrap=value)

    @property
    def entry(self) -> str | None:
        return self._terms.entry

    @entry.setter
    def entry(self, value: str | None) -> None:
        self._set_terms(self.path, entry=value)  # where Tab leads is looked up when Tab is pressed


def _one_of(value: object, key: str, choices: tuple[object, ...], where: str) -> None:
    if value not in choices:
        raise SceneError(f"{where}: {key} is {value!r}, expected one of {', '.join(map(str, choices))}")


def _path_of(value: object, key: str, where: str) -> str | None:
    path = getattr(value, "path", value)
    if path is not None and (not isinstance(path, str) or not path):
        raise SceneError(f"{where}: {key} is {value!r}, expected None, a node or the path of one")
    return path


def _seats(value: object, where: str) -> frozenset[str] | None:
    if value is None:
        return None
    given = (value,) if isinstance(value, str) else tuple(value) if isinstance(value, Iterable) else ()
    if not given or not all(isinstance(name, str) and name for name in given):
        raise SceneError(f"{where}: seats is {value!r}, expected None or the names of seats")
    for name in given:
        if given.count(name) > 1:
            raise SceneError(f"{where}: seats names {name!r} twice, expected every seat once")
    return frozenset(given)


def _neighbours(value: object, where: str) -> Mapping[str, str | None] | None:
    if value is None:
        return None
    if not isinstance(value, Mapping):
        raise SceneError(f"{where}: neighbours is {value!r}, expected None or paths by direction")
    for direction in value:
        if direction not in DIRECTIONS:
            raise SceneError(f"{where}: neighbours names {direction!r}, expected one of {', '.join(DIRECTIONS)}")
    return MappingProxyType({way: _path_of(path, f"neighbours[{way!r}]", where) for way, path in value.items()})
