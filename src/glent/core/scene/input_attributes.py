"""The attributes of a node that say who gets its input: modals, popups, seats, and how focus moves (M1–M4, F1–F3,
T1)."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from glent.core.errors import SceneError
from glent.core.scene import checks

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["CLOSED_BY", "DIRECTIONS", "FOR_OTHERS", "WRAPS", "InputAttributes", "InputTraits"]

CLOSED_BY = ("none", "back", "any")
FOR_OTHERS = ("through", "blocked")
WRAPS = (None, "x", "y", "both")
DIRECTIONS = ("left", "right", "up", "down")


class InputTraits:
    """The attributes below in one object, which most nodes share because most have none of them."""

    __slots__ = (
        "blocks_all",
        "closed_by",
        "closing_press_acts",
        "entry",
        "for_others",
        "modal",
        "nav",
        "opener",
        "scope",
        "seats",
        "tab_order",
        "wrap",
    )

    def __init__(
        self,
        modal: bool = False,
        blocks_all: bool = False,
        closed_by: str = "none",
        closing_press_acts: bool = False,
        opener: str | None = None,
        seats: frozenset[str] | None = None,
        for_others: str = "through",
        tab_order: float = 0,
        nav: Mapping[str, str | None] | None = None,
        scope: bool = False,
        wrap: str | None = None,
        entry: str | None = None,
    ) -> None:
        self.modal = modal
        self.blocks_all = blocks_all
        self.closed_by = closed_by
        self.closing_press_acts = closing_press_acts
        self.opener = opener
        self.seats = seats
        self.for_others = for_others
        self.tab_order = tab_order
        self.nav = nav
        self.scope = scope
        self.wrap = wrap
        self.entry = entry

    @property
    def stands_out(self) -> bool:
        """Whether routing has to look at the node whatever lies under a pointer."""
        return self.modal or self.closed_by != "none" or self.seats is not None


_PLAIN = InputTraits()


class InputAttributes:
    """The attributes of a node that modals, seats and focus go by.

    :ivar modal: whether it blocks all that is painted behind it, the world included, as long as it shows (law M1).
    :ivar blocks_all: whether a modal on a panel blocks everything; else it blocks just its panel (law M1).
    :ivar closed_by: what closes it: ``none``, ``back`` (the key or button bound to that), or ``any``: a press outside
        of it as well (law M2). Closing sends it ``back``; unless a handler takes that, it is hidden.
    :ivar closing_press_acts: whether the press that closes it also goes to what it lands on; else it does nothing more.
    :ivar opener: the path of the node it was opened by, which counts as inside it (law M2).
        A node can be given; its path is kept.
    :ivar seats: the names of the seats it is for, with all that is below it; None: all (law T1).
    :ivar for_others: what it is for other seats: ``through``, as if it were not there, or ``blocked``.
    :ivar tab_order: among its siblings; lower comes first, then as added (law F1).
    :ivar nav: where focus goes from here, by direction (``left``, ``right``, ``up``, ``down``): a path, or None
        for nowhere. Directions it does not name go by position (law F2).
    :ivar scope: whether arrows stay within it, unless a neighbour is named (law F2).
    :ivar wrap: whether arrows that find nothing more within it go on from its other side: ``x``, ``y``, ``both``, None.
    :ivar entry: the path below it of the stop that focus enters it at, as long as that can have it: of a group that is
        one stop to Tab, the radio that is chosen; of a modal, the choice that one expects. None: where focus last was
        in the group, or its first stop (laws F1, M1).
    """

    __slots__ = ("_input_traits",)

    def __init__(self) -> None:
        self._input_traits = _PLAIN

    @property
    def path(self) -> str:
        """The name that errors call it by."""
        raise NotImplementedError

    @property
    def scene(self) -> Scene | None:
        """The scene it is in; None once it is removed."""
        raise NotImplementedError

    def _set_input_traits(self, where: str, **given: Any) -> None:
        """Check and set some of them. A refused one changes nothing."""
        now = {name: given.get(name, getattr(self._input_traits, name)) for name in InputTraits.__slots__}
        for name in ("modal", "blocks_all", "closing_press_acts", "scope"):
            checks.flag(now[name], name, where)
        _one_of(now["closed_by"], "closed_by", CLOSED_BY, where)
        _one_of(now["for_others"], "for_others", FOR_OTHERS, where)
        _one_of(now["wrap"], "wrap", WRAPS, where)
        now["opener"] = _path_of(now["opener"], "opener", where)
        now["seats"] = _seats(now["seats"], where)
        checks.number(now["tab_order"], "tab_order", where)
        now["nav"] = _nav(now["nav"], where)
        now["entry"] = _path_of(now["entry"], "entry", where)
        self._input_traits = InputTraits(**now)

    def _set_named_input_traits(self, where: str, given: Mapping[str, Any]) -> None:
        """Check and set keywords of :meth:`Node.add` and :meth:`Scene.layer`, which may be unknown.

        :raises TypeError: there is no such keyword, as Python has it.
        """
        for name in given:
            if name not in InputTraits.__slots__:
                raise TypeError(
                    f"{where}: there is no attribute {name!r}; expected one of {', '.join(InputTraits.__slots__)}"
                )
        self._set_input_traits(where, **given)

    def _change_input_traits(self, **given: Any) -> None:
        self._set_input_traits(self.path, **given)
        scene = self.scene
        if scene is not None:
            scene._input_traits_changed(self)  # type: ignore[arg-type]

    @property
    def modal(self) -> bool:
        return self._input_traits.modal

    @modal.setter
    def modal(self, value: bool) -> None:
        self._change_input_traits(modal=value)

    @property
    def blocks_all(self) -> bool:
        return self._input_traits.blocks_all

    @blocks_all.setter
    def blocks_all(self, value: bool) -> None:
        self._change_input_traits(blocks_all=value)

    @property
    def closed_by(self) -> str:
        return self._input_traits.closed_by

    @closed_by.setter
    def closed_by(self, value: str) -> None:
        self._change_input_traits(closed_by=value)

    @property
    def closing_press_acts(self) -> bool:
        return self._input_traits.closing_press_acts

    @closing_press_acts.setter
    def closing_press_acts(self, value: bool) -> None:
        self._change_input_traits(closing_press_acts=value)

    @property
    def opener(self) -> str | None:
        return self._input_traits.opener

    @opener.setter
    def opener(self, value: str | Node | None) -> None:
        self._change_input_traits(opener=value)

    @property
    def seats(self) -> frozenset[str] | None:
        return self._input_traits.seats

    @seats.setter
    def seats(self, value: Iterable[str] | None) -> None:
        self._change_input_traits(seats=value)

    @property
    def for_others(self) -> str:
        return self._input_traits.for_others

    @for_others.setter
    def for_others(self, value: str) -> None:
        self._change_input_traits(for_others=value)

    @property
    def tab_order(self) -> float:
        return self._input_traits.tab_order

    @tab_order.setter
    def tab_order(self, value: float) -> None:
        self._change_input_traits(tab_order=value)

    @property
    def nav(self) -> Mapping[str, str | None] | None:
        return self._input_traits.nav

    @nav.setter
    def nav(self, value: Mapping[str, str | Node | None] | None) -> None:
        self._change_input_traits(nav=value)

    @property
    def scope(self) -> bool:
        return self._input_traits.scope

    @scope.setter
    def scope(self, value: bool) -> None:
        self._change_input_traits(scope=value)

    @property
    def wrap(self) -> str | None:
        return self._input_traits.wrap

    @wrap.setter
    def wrap(self, value: str | None) -> None:
        self._change_input_traits(wrap=value)

    @property
    def entry(self) -> str | None:
        return self._input_traits.entry

    @entry.setter
    def entry(self, value: str | None) -> None:
        self._set_input_traits(self.path, entry=value)  # where Tab leads is looked up when Tab is pressed


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


def _nav(value: object, where: str) -> Mapping[str, str | None] | None:
    if value is None:
        return None
    if not isinstance(value, Mapping):
        raise SceneError(f"{where}: nav is {value!r}, expected None or paths by direction")
    for direction in value:
        if direction not in DIRECTIONS:
            raise SceneError(f"{where}: nav names {direction!r}, expected one of {', '.join(DIRECTIONS)}")
    return MappingProxyType({way: _path_of(path, f"nav[{way!r}]", where) for way, path in value.items()})
