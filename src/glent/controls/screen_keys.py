"""Keys on the screen, for those who have no keyboard at hand."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import partial
from typing import TYPE_CHECKING, Any, ClassVar

from glent.controls.context import router_of
from glent.controls.control import Control
from glent.controls.key_layout import KeyLayout
from glent.core.errors import ControlError, near
from glent.core.input.samples import KeySample, TextSample
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.controls.key_layout import Key
    from glent.controls.text_field import TextField
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node

__all__ = ["ScreenKeys"]

CODES = {"backspace": "Backspace", "enter": "Enter", "left": "ArrowLeft", "right": "ArrowRight"}


class ScreenKeys(Control):
    """A node with a button for each key of a layout.

    They type into a field; without one, into whatever has the focus, and do not take that: what they send then are
    samples as a keyboard's, queued behind the running one (law R6). A key acts when it is released on the same key: a
    press that slides off un-lights it and types nothing. Held, it types on. Shift holds for one key, pressed twice
    until it is pressed again.

    It acts: ``key``, with the :class:`Key`; and ``enter``.

    :param rows: the keys; a key that only types can be given as its text.
    :param field: where they type; None: where the focus is. With a field the keys are stops for the focus themselves,
        so a pad can type. A press never moves the focus: it stays in the field.
    :param slides: whether a press that slides off one key goes over to the next, which types when it is let go (law
        P13).

    :ivar shift: ``""``, ``once`` or ``locked``. Its parts are ``row-0/key-0``, …; what stands on them is in
        :attr:`labels`.
    """

    own_acts: ClassVar[Mapping[str, str]] = {"key": "any", "enter": "nothing"}
    __slots__ = ("_field", "_keys", "shift")

    def __init__(
        self,
        node: Node,
        rows: KeyLayout | Sequence[Sequence[str | Mapping[str, Any]]],
        field: TextField | None = None,
        slides: bool = False,
    ) -> None:
        super().__init__(node)
        layout = rows if isinstance(rows, KeyLayout) else KeyLayout.from_plain(rows)
        self._field = field
        self.shift = ""
        self._keys: dict[str, Key] = {}
        node.set_for_now(press_focuses=False)
        node.set_for_now(slides=slides)
        down = 1.0 / len(layout.rows)
        for number, row in enumerate(layout.rows):
            place = Place(left=0, right=0, top=(number * down, 0), height=(down, 0))
            line = self.part(f"row-{number}", place=place)
            whole, before = sum(key.width for key in row), 0.0
            for at, key in enumerate(row):
                left, width = (before / whole, 0.0), (key.width / whole, 0.0)
                before += key.width
                name = f"row-{number}/key-{at}"
                self._keys[name] = key
                there = next((child for child in line.children if child.name == f"key-{at}"), None)
                button = there or line.add_for_now(f"key-{at}", role="button", place=Place(left=left, width=width))
                if field is None:
                    button.set_for_now(focusable=False)
                self.hear("click", partial(self._pressed, key), button)
                if key.does not in ("shift", "clear", "enter"):
                    self.hear("repeat", partial(self._pressed, key), button)

    @property
    def labels(self) -> dict[str, str]:
        """What stands on the keys, by their paths below the node."""
        return {name: key.shown(bool(self.shift)) for name, key in self._keys.items()}

    def label_of(self, part: str) -> str:
        """What stands on one key, by its path below the node; empty if there is none."""
        key = self._keys.get(part)
        return key.shown(bool(self.shift)) if key is not None else ""

    def key(self, text: str) -> Node:
        """The key that types a text, with or without Shift, or does this (``"backspace"``).

        :raises ControlError: there is none; the message names the nearest.
        """
        for path, key in self._keys.items():
            if (key.typed(False) if key.does == "type" else key.does) == text:
                return self.node[path]
        for path, key in self._keys.items():
            if key.does == "type" and key.typed(True) == text:
                return self.node[path]
        known = [key.typed(False) if key.does == "type" else key.does for key in self._keys.values()]
        raise ControlError(f"{self.node.path}: no key types {text!r}{near(text, known)}")

    def _pressed(self, key: Key, event: Event) -> None:
        if key.does == "shift":
            self._set_shift({"": "once", "once": "locked", "locked": ""}[self.shift])
        else:
            self._do(key, event.time)
            if self.shift == "once" and key.does == "type":
                self._set_shift("")
        self.say("key", key)
        if key.does == "enter":
            self.say("enter")

    def _set_shift(self, shift: str) -> None:
        self.shift = shift
        self.tell_change(shift=shift)

    def _do(self, key: Key, time: float) -> None:
        field = self._field
        if key.does == "type":
            text = key.typed(bool(self.shift))
            if field is not None:
                field.type(text)
            else:
                router_of(self.node).feed(TextSample(time, text))
        elif key.does == "clear":
            if field is not None:
                field.edit.select_all()
                field.press("Backspace")
            else:
                self._type_keys(time, "ControlLeft", "KeyA")
                self._type_keys(time, "Backspace")
        elif field is not None:
            field.press(CODES[key.does])
        else:
            self._type_keys(time, CODES[key.does])

    def _type_keys(self, time: float, *codes: str) -> None:
        """Feed keys that go down one after the other, and up again."""
        router = router_of(self.node)
        for code in codes:
            router.feed(KeySample(time, "down", code))
        for code in reversed(codes):
            router.feed(KeySample(time, "up", code))

    def marks_of(self, part: str) -> frozenset[str]:
        key = self._keys.get(part)
        return frozenset(("chosen",)) if key is not None and key.does == "shift" and self.shift else frozenset()
