"""What a toolkit keeps on a node: text, picture, colour, sound, anything JSON can hold. The core does not look into it.

Values are kept as they are read: lists as tuples, mappings as read-only ones, so that a change goes by the node and is
noticed. Setting what is there already is no change.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, MutableMapping
from types import MappingProxyType
from typing import TYPE_CHECKING, Any

from glent.core.arguments import has_halves
from glent.core.errors import SceneError

if TYPE_CHECKING:
    from glent.core.scene.fact_attributes import FactAttributes

__all__ = ["NO_FACTS", "Facts", "checked_facts", "plain_fact"]

DEPTH = 30
"""Values are nested no deeper."""
NO_FACTS: Mapping[str, Any] = MappingProxyType({})


class Facts(MutableMapping[str, Any]):
    """The facts of one node, by name. What is set is checked; the node hears ``change`` of what became otherwise.

    :raises SceneError: when set: a name that is no text or is empty, or a value that JSON cannot hold; nothing changes.
    """

    __slots__ = ("_node",)

    def __init__(self, node: FactAttributes) -> None:
        self._node = node

    def __getitem__(self, name: str) -> Any:
        return self._node._facts[name]

    def __setitem__(self, name: str, value: Any) -> None:
        self.update({name: value})

    def __delitem__(self, name: str) -> None:
        kept = dict(self._node._facts)
        del kept[name]
        self._node._set_facts(kept)

    def __iter__(self) -> Iterator[str]:
        return iter(self._node._facts)

    def __len__(self) -> int:
        return len(self._node._facts)

    def __repr__(self) -> str:
        return f"Facts({plain_fact(self._node._facts)!r})"

    def update(self, other: Any = (), /, **more: Any) -> None:
        """Set several at once, which is one change."""
        given = checked_facts(dict(other, **more), self._node.path)
        self._node._set_facts({**self._node._facts, **given})

    def clear(self) -> None:
        """Forget all of them, which is one change."""
        self._node._set_facts({})

    def plain(self) -> dict[str, Any]:
        """A copy as plain values: dicts and lists, as JSON has them."""
        copied: dict[str, Any] = plain_fact(self._node._facts)
        return copied


def checked_facts(value: object, where: str) -> dict[str, Any]:
    """Facts as they are kept.

    :raises SceneError: no mapping from names, or a value that JSON cannot hold; the message says which.
    """
    if value is None:
        return {}
    if not isinstance(value, Mapping):
        raise SceneError(f"{where}: facts is {value!r}, expected a mapping from names to what JSON can hold")
    return {_name(name, where): _kept(one, f"{where}: facts[{name!r}]", 0) for name, one in value.items()}


def _name(name: object, where: str) -> str:
    if not isinstance(name, str) or not name or has_halves(name):
        raise SceneError(f"{where}: facts has the name {name!r}, expected text that is not empty")
    return name


def _kept(value: Any, where: str, depth: int) -> Any:
    kind = value.__class__
    if kind is str:
        if not value.isascii() and has_halves(value):
            raise SceneError(f"{where} is {value!r}, which has half a character in it; expected whole ones")
        return value
    if value is None or kind is bool or kind is int:
        return value
    if kind is float:
        if value - value != 0.0:
            raise SceneError(f"{where} is {value!r}, expected a finite number")
        return value
    if depth >= DEPTH:
        raise SceneError(f"{where} is nested deeper than {DEPTH} levels")
    if isinstance(value, list | tuple):
        return tuple(_kept(one, f"{where}[{at}]", depth + 1) for at, one in enumerate(value))
    if isinstance(value, Mapping):
        for name in value:
            if not isinstance(name, str):
                raise SceneError(f"{where} has the key {name!r}, expected text")
        return MappingProxyType({key: _kept(one, f"{where}[{key!r}]", depth + 1) for key, one in value.items()})
    if isinstance(value, str | int | float):
        plain = str(value) if isinstance(value, str) else int(value) if isinstance(value, int) else float(value)
        return _kept(plain, where, depth)
    raise SceneError(
        f"{where} is {value!r}, expected what JSON can hold: text, numbers, booleans, None, lists, mappings"
    )


def plain_fact(value: Any) -> Any:
    """A kept value as a plain one: dicts and lists."""
    if isinstance(value, Mapping):
        return {key: plain_fact(one) for key, one in value.items()}
    return [plain_fact(one) for one in value] if isinstance(value, tuple) else value
