"""Changes that a tool makes to a running scene: undone and redone without end, kept in its file, or taken back.

Each change is kept with what the attribute was before: its value, and what was declared of it, as a control may have it
set for now. What counts as changed is told against the file: the first value that an attribute had, or the one that was
last kept.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from glent.core.errors import SceneError
from glent.live.attributes import attribute, change_attribute, read_attribute

if TYPE_CHECKING:
    from pathlib import Path

    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Edits"]

Key = tuple["Node", str]
"""A node, and one of its attributes: ``place``, where ``place.left`` was changed."""


@dataclass(frozen=True, slots=True)
class _State:
    """What an attribute is: by file or code, and now."""

    declared: Any
    now: Any

    @classmethod
    def of(cls, key: Key) -> _State:
        node, name = key
        value = getattr(node, name)
        return cls(node.declared(name), value.plain() if name == "facts" else value)

    def bring_back(self, key: Key) -> None:
        node, name = key
        setattr(node, name, self.declared)
        node.declare(name)
        if self.now != self.declared:
            node.set_for_now(**{name: self.now})


_Step = dict[Key, tuple[_State, _State]]
"""One change, or several at once: what was before and what is after it."""


class Edits:
    """The changes that were made to a scene by a tool.

    :param scene: the scene whose nodes are changed.
    """

    __slots__ = ("_base", "_done", "_redo", "scene", "version")

    def __init__(self, scene: Scene) -> None:
        self.scene = scene
        self._done: list[_Step] = []
        self._redo: list[_Step] = []
        self._base: dict[Key, _State] = {}
        """What the attributes were that have been changed since, in the order of the changes."""
        self.version = 0
        """Another number after each change."""

    def set(self, node: Node, name: str, value: Any) -> None:
        """Give an attribute of a node another value, at once.

        :param name: such as ``order`` or ``place.left``. :param value: a plain one, as JSON has it.
        :raises GlentError: there is no such attribute, it cannot be that, or the node is not in the scene.
        """
        if node.scene is not self.scene:
            raise SceneError(f"{node.path}: is not in this scene any more, so it cannot be changed")
        key = node, attribute(node, name).of_node
        before = _State.of(key)
        change_attribute(node, name, value)
        node.declare(key[1])
        after = _State.of(key)
        if after == before:
            return
        self._base.setdefault(key, before)
        self._done.append({key: (before, after)})
        self._redo.clear()
        self.version += 1

    @property
    def can_undo(self) -> bool:
        """Whether there is a change to undo."""
        return bool(self._done)

    @property
    def can_redo(self) -> bool:
        """Whether there is an undone change to make again."""
        return bool(self._redo)

    def undo(self) -> bool:
        """Undo the last change. Return whether there was one."""
        if not self._done:
            return False
        step = self._done.pop()
        for key, (before, _) in reversed(step.items()):
            before.bring_back(key)
        self._redo.append(step)
        self.version += 1
        return True

    def redo(self) -> bool:
        """Make the change again that was undone last. Return whether there was one."""
        if not self._redo:
            return False
        step = self._redo.pop()
        for key, (_, after) in step.items():
            after.bring_back(key)
        self._done.append(step)
        self.version += 1
        return True

    def revert(self) -> int:
        """Take back all that has been changed since it was last kept, as one step that can be undone. Return how many
        attributes that were."""
        step: _Step = {}
        for key in self.changed:
            before = _State.of(key)
            self._base[key].bring_back(key)
            step[key] = before, self._base[key]
        if step:
            self._done.append(step)
            self._redo.clear()
            self.version += 1
        return len(step)

    @property
    def changed(self) -> tuple[Key, ...]:
        """The nodes and attributes that are otherwise than they were at first, or when they were last kept."""
        return tuple(key for key, base in self._base.items() if key[0].scene is self.scene and _State.of(key) != base)

    def is_changed(self, node: Node, name: str) -> bool:
        """Whether an attribute of a node is among :attr:`changed`."""
        key = node, name.partition(".")[0]
        base = self._base.get(key)
        return base is not None and _State.of(key) != base

    def keep(self, path: str | Path | None = None) -> tuple[str, ...]:
        """Write all that is changed into the scene's file, and nothing else there (law D3). Return it in words.

        :param path: the file; None: the one that the scene was read from.
        :raises FileError: the file cannot be written, or cannot say that; it is as it was then.
        :raises SceneError: code has built the scene, and no file is given.
        """
        from glent.formats.keeping import file_of, keep_all

        path = path if path is not None else file_of(self.scene)
        if path is None:
            raise SceneError("the scene was not read from a file, so there is none to keep its changes in")
        changed = self.changed
        changes: dict[Node, list[str]] = {}
        for node, name in changed:
            changes.setdefault(node, []).append(name)
        if changes:
            keep_all(path, changes)
        for key in changed:
            self._base[key] = _State.of(key)
        self.version += bool(changed)
        return tuple(f"{node.path}: {name} is {read_in_words(node, name)}" for node, name in changed)


def read_in_words(node: Node, name: str) -> str:
    """What an attribute of a node is, for a sentence."""
    if name != "place":
        return repr(read_attribute(node, name))
    return ", ".join(f"{key} {value}" for key, value in node.place.given().items()) or "all of its parent"
