"""The attributes of a node that say who gets its input: modals, popups, seats, and how focus moves (M1–M4, F1–F3,
T1)."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from types import MappingProxyType
from typing import TYPE_CHECKING, Any, Generic, TypeVar, overload

from glent.core.arguments import is_choice
from glent.core.errors import SceneError
from glent.core.scene import checks

if TYPE_CHECKING:
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["DIRECTIONS", "INPUT_NAMES", "PLAIN", "InputAttributes", "InputTraits"]

DIRECTIONS = ("left", "right", "up", "down")

Out = TypeVar("Out")
In = TypeVar("In")


@dataclass(slots=True)
class InputTraits:
    """The attributes below in one object, which most nodes share because most have none of them."""

    modal: bool = False
    blocks_all: bool = False
    closed_by: str = "none"
    closing_press_acts: bool = False
    opener: str | None = None
    seats: frozenset[str] | None = None
    for_others: str = "through"
    tab_order: float = 0
    nav: Mapping[str, str | None] | None = None
    scope: bool = False
    wrap: str | None = None
    entry: str | None = None
    press_focuses: bool = True

    @property
    def stands_out(self) -> bool:
        """Whether routing has to look at the node whatever lies under a pointer."""
        return self.modal or self.closed_by != "none" or self.seats is not None


PLAIN = InputTraits()
"""What a node has that was told nothing of all this."""


class _Term(Generic[Out, In]):
    """One of the attributes, as a property of nodes."""

    __slots__ = ("_name",)

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @overload
    def __get__(self, node: None, owner: type) -> _Term[Out, In]: ...
    @overload
    def __get__(self, node: InputAttributes, owner: type) -> Out: ...
    def __get__(self, node: InputAttributes | None, owner: type) -> Any:
        return self if node is None else getattr(node._input_traits, self._name)

    def __set__(self, node: InputAttributes, value: In) -> None:
        node._set_input_traits(node.path, {self._name: value})
        scene = node.scene
        if scene is not None and self._name != "entry":  # where Tab leads is looked up when Tab is pressed
            scene._input_traits_changed(node)  # type: ignore[arg-type]


class InputAttributes:
    """The attributes of a node that modals, seats and focus go by.

    :ivar modal: whether it blocks all that is painted behind it, the world included, as long as it shows (law M1).
    :ivar blocks_all: whether a modal on a panel blocks everything; else it blocks just its panel (law M1).
    :ivar closed_by: what closes it: ``none``, ``back`` (the key or button bound to that), or ``any``: a press outside
        of it as well (law M2). Closing sends it ``back``; unless a handler takes that, it is hidden.
    :ivar closing_press_acts: whether the press that closes it also goes to what it lands on; else it does nothing more.
    :ivar opener: the path of the node it was opened by, which counts as inside it (law M2).
        A node can be given; its path is kept.
    :ivar seats: the names of the seats it is for, with all that is below it; None: all (law T1). Once the scene has a
        router, these are seats of the router, or others that the scene already waits for.
    :ivar for_others: what it is for other seats: ``through``, as if it were not there, or ``blocked``.
    :ivar tab_order: among its siblings; lower comes first, then as added (law F1).
    :ivar nav: where focus goes from here, by direction (``left``, ``right``, ``up``, ``down``): a path, or None
        for nowhere. Directions it does not name go by position (law F2).
    :ivar scope: whether arrows stay within it, unless a neighbour is named (law F2).
    :ivar wrap: whether arrows that find nothing more within it go on from its other side: ``x``, ``y``, ``both``, None.
    :ivar entry: the path below it of the stop that focus enters it at, as long as that can have it: of a group that is
        one stop to Tab, the radio that is chosen; of a modal, the choice that one expects. None: where focus last was
        in the group, or its first stop (laws F1, M1).
    :ivar press_focuses: whether a press on it, or on what lies in it, moves the focus; else that stays where it is, as
        keys on the screen want it (law F4).
    """

    __slots__ = ("_input_traits",)

    def __init__(self) -> None:
        self._input_traits = PLAIN

    @property
    def path(self) -> str:
        """The name that errors call it by."""
        raise NotImplementedError

    @property
    def scene(self) -> Scene | None:
        """The scene it is in; None once it is removed."""
        raise NotImplementedError

    def _set_input_traits(self, where: str, given: Mapping[str, Any]) -> None:
        """Check and set some of them. A refused one changes nothing."""
        checked = {name: _CHECKS[name](value, name, where) for name, value in given.items()}
        scene = self.scene
        if scene is not None and checked.get("seats"):
            scene._check_seats(checked["seats"], where)
        self._input_traits = replace(self._input_traits, **checked)

    modal: _Term[bool, bool] = _Term()
    blocks_all: _Term[bool, bool] = _Term()
    closed_by: _Term[str, str] = _Term()
    closing_press_acts: _Term[bool, bool] = _Term()
    opener: _Term[str | None, str | Node | None] = _Term()
    seats: _Term[frozenset[str] | None, Iterable[str] | None] = _Term()
    for_others: _Term[str, str] = _Term()
    tab_order: _Term[float, float] = _Term()
    nav: _Term[Mapping[str, str | None] | None, Mapping[str, str | Node | None] | None] = _Term()
    scope: _Term[bool, bool] = _Term()
    wrap: _Term[str | None, str | None] = _Term()
    entry: _Term[str | None, str | Node | None] = _Term()
    press_focuses: _Term[bool, bool] = _Term()


def _one_of(*choices: object) -> Callable[[Any, str, str], Any]:
    def check(value: object, key: str, where: str) -> object:
        if not is_choice(value, choices):
            raise SceneError(f"{where}: {key} is {value!r}, expected one of {', '.join(map(str, choices))}")
        return value

    return check


def _path_of(value: object, key: str, where: str) -> str | None:
    path = getattr(value, "path", value)
    if path is not None and (not isinstance(path, str) or not path):
        raise SceneError(f"{where}: {key} is {value!r}, expected None, a node or the path of one")
    return path


def _seats(value: object, key: str, where: str) -> frozenset[str] | None:
    if value is None:
        return None
    given = (value,) if isinstance(value, str) else tuple(value) if isinstance(value, Iterable) else ()
    if not given or not all(isinstance(name, str) and name for name in given):
        raise SceneError(f"{where}: seats is {value!r}, expected None or the names of seats")
    for name in given:
        if given.count(name) > 1:
            raise SceneError(f"{where}: seats names {name!r} twice, expected every seat once")
    return frozenset(given)


def _nav(value: object, key: str, where: str) -> Mapping[str, str | None] | None:
    if value is None:
        return None
    if not isinstance(value, Mapping):
        raise SceneError(f"{where}: nav is {value!r}, expected None or paths by direction")
    for direction in value:
        if not is_choice(direction, DIRECTIONS):
            raise SceneError(f"{where}: nav names {direction!r}, expected one of {', '.join(DIRECTIONS)}")
    return MappingProxyType({way: _path_of(path, f"nav[{way!r}]", where) for way, path in value.items()})


_CHECKS: dict[str, Callable[[Any, str, str], Any]] = {
    "modal": checks.flag,
    "blocks_all": checks.flag,
    "closed_by": _one_of("none", "back", "any"),
    "closing_press_acts": checks.flag,
    "opener": _path_of,
    "seats": _seats,
    "for_others": _one_of("through", "blocked"),
    "tab_order": checks.number,
    "nav": _nav,
    "scope": checks.flag,
    "wrap": _one_of(None, "x", "y", "both"),
    "entry": _path_of,
    "press_focuses": checks.flag,
}
"""What checks each, called with the value, its name, and what errors call the node."""
INPUT_NAMES = tuple(_CHECKS)
"""The names of all of them."""
