"""Controls by declaration: ``control: {kind: slider, …}`` in a node's notes, as scene files have it (laws C11, C12)."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import TYPE_CHECKING, Any, TypeVar

from glent.controls.control import Control
from glent.controls.menu import Menu
from glent.controls.menubar import Menubar
from glent.controls.options import checked_options, options_of
from glent.controls.registry import class_of, name_of
from glent.core.errors import ControlError, PathError, ValueRefusedError
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from glent.core.scene.node import Node

__all__ = ["Controls", "controls_of"]

KEPT = "controls"

C = TypeVar("C", bound=Control)


class Controls(Mapping[str, Control]):
    """The controls of a scene by the path of their node, made from what the nodes declare.

    :param scene: where ``node.notes["control"]`` is a mapping with a ``kind`` and that control's options.
    :raises ControlError: an unknown kind, an option it does not have, or what the control itself raises; nothing is
        left half made then.
    """

    def __init__(self, scene: Scene) -> None:
        self._scene = scene
        self._made: dict[str, Control] = {}
        self._told: dict[str, tuple[Node, Mapping[str, Any]]] = {}
        self.refresh()
        scene.attachments.setdefault(KEPT, self)

    def refresh(self) -> None:
        """Make what is declared by now and close what is not: after a scene file was read again, for example.

        A control whose node and declaration are the same stays; one that is made anew keeps its value, if it can.
        """
        told: dict[str, tuple[Node, Mapping[str, Any]]] = {}
        for node in self._scene.walk():
            given = node.notes.get("control") if node.notes is not None else None
            if given is not None and not isinstance(given, Mapping):
                raise ControlError(f"{node.path}: control is noted as {given!r}, expected a mapping with a kind")
            if given is not None:
                told[node.path] = (node, given)
        kept: dict[Node, Any] = {}
        now = {node: (path, given) for path, (node, given) in told.items()}
        before = [(node, given, self._made.pop(path)) for path, (node, given) in self._told.items()]
        for node, given, control in before:  # by node: one that was moved or renamed has another path
            path, declared = now.get(node, ("", None))
            if declared == given:
                self._made[path] = control
            else:
                kept[node] = getattr(control, "value", None)
                control.detach()
        new = [path for path in told if path not in self._made]
        try:
            for path in new:
                self._make(path, told, ())
        except Exception:
            for path in new:
                control_ = self._made.pop(path, None)
                if control_ is not None:
                    control_.detach()
            self._told = {path: one for path, one in told.items() if path in self._made}
            raise
        self._told = told
        for path in new:
            value, old = getattr(self._made[path], "value", None), kept.get(told[path][0])
            if value is not None and old is not None and old.ready:
                try:
                    value.current = old.current
                except ValueRefusedError:
                    continue  # it cannot have that any more, and begins as its declaration says

    def _make(
        self, path: str, told: Mapping[str, tuple[Node, Mapping[str, Any]]], under_way: tuple[str, ...]
    ) -> Control:
        made = self._made.get(path)
        if made is not None:
            return made
        if path in under_way:
            raise ControlError(f"{path}: refers to itself through {' and '.join(under_way)}, expected no circle")
        node, given = told[path]
        options = {key: value for key, value in given.items() if key != "kind"}
        try:
            cls = class_of(str(given.get("kind")))
        except ControlError as error:
            raise ControlError(f"{path}: {error}") from None
        checked_options(cls, options, path)
        for name, option in options_of(cls).items():
            wanted = option.reference
            if wanted is not None and options.get(name) is not None:
                options[name] = self._referred(path, name, options[name], wanted, told, (*under_way, path))
        if issubclass(cls, Menubar):
            options["menus"] = self._menus_of(node, told, (*under_way, path))
        try:
            control = cls(node, **options)
        except TypeError as error:
            raise ControlError(f"{path}: a {cls.__name__} cannot be made: {error}") from None
        except ControlError as error:
            if str(error).startswith(path):
                raise
            raise ControlError(f"{path}: {error}") from None
        self._made[path] = control
        return control

    def _referred(
        self,
        path: str,
        name: str,
        other: object,
        wanted: type[Node] | type[Control],
        told: Mapping[str, tuple[Node, Mapping[str, Any]]],
        under_way: tuple[str, ...],
    ) -> Node | Control:
        """What a control names by a path: a node, whose own control is made first, or that control."""
        try:
            node = self._scene[str(other)]
        except PathError as error:
            raise ControlError(f"{path}: {name} is {other!r}: {error}") from None
        control = self._make(node.path, told, under_way) if node.path in told else None
        if not issubclass(wanted, Control):
            return node
        if not isinstance(control, wanted):
            raise ControlError(
                f"{path}: {name} is {node.path}, expected a node with a control of kind {name_of(wanted)}"
            )
        return control

    def _menus_of(
        self, bar: Node, told: Mapping[str, tuple[Node, Mapping[str, Any]]], under_way: tuple[str, ...]
    ) -> dict[str, Menu]:
        """The menus that hang from items of a menubar, by the item's path below it."""
        menus: dict[str, Menu] = {}
        for path, (_, given) in told.items():
            opener = given.get("opener")
            if given.get("kind") == "menu" and isinstance(opener, str) and opener.startswith(bar.path + "/"):
                menu = self._make(path, told, under_way)
                assert isinstance(menu, Menu)
                menus[opener[len(bar.path) + 1 :]] = menu
        return menus

    # -- a mapping -----------------------------------------------------------------------------------------------------

    def __getitem__(self, path: str) -> Any:
        """The control at a path; its class is the caller's to know, or to ask by :meth:`of`.

        :raises KeyError: there is none.
        """
        return self._made[path]

    def __iter__(self) -> Iterator[str]:
        return iter(self._made)

    def __len__(self) -> int:
        return len(self._made)

    def of(self, kind: type[C], path: str) -> C:
        """The control at a path, which is of this class.

        :raises ControlError: it is not, or there is none.
        """
        control = self._made.get(path)
        if not isinstance(control, kind):
            what = f"a {type(control).__name__}" if control is not None else "no control"
            raise ControlError(f"{path}: is {what}, expected a {kind.__name__}")
        return control

    def detach(self) -> None:
        """Close all of them."""
        for control in self._made.values():
            control.detach()
        self._made.clear()
        self._told.clear()
        if self._scene.attachments.get(KEPT) is self:
            del self._scene.attachments[KEPT]


def controls_of(scene: Scene) -> Controls:
    """The controls of a scene, as its nodes declare them now: those that were made, brought up to date, or new ones."""
    if not isinstance(scene, Scene):
        raise ControlError(f"the scene is {scene!r}, expected a Scene")
    made = scene.attachments.get(KEPT)
    if not isinstance(made, Controls):
        return Controls(scene)
    made.refresh()
    return made
