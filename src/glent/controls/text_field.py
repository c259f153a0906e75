"""A field to type into (ARIA: textbox, searchbox; law C4)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Protocol
from weakref import WeakKeyDictionary

from glent.controls.context import seat_of
from glent.controls.control import Control
from glent.controls.edited_line import EditedLine, clusters
from glent.core.errors import ControlError, ValueRefusedError
from glent.core.input.pad import is_keyboard
from glent.core.scene.scene import Scene
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Bounds, Distance
    from glent.core.routing.event import ActEvent, DragStart, Event
    from glent.core.scene.node import Node

__all__ = ["Clipboard", "TextField"]

BULLET = "•"
"""What stands for each character of a password."""

EACH = 8.0
"""How wide a character is taken to be where nobody measures, in pixels."""

MOVES = {"ArrowLeft": False, "ArrowRight": True}
ENDS = {"Home": False, "End": True}
ERASES = {"Backspace": False, "Delete": True}

CONVERTS: Mapping[str, Callable[[str], str]] = {"upper": str.upper, "lower": str.lower}
"""What can be made of typed text by name."""


class Clipboard(Protocol):
    """Where text that is copied goes: the host's own, as a rule."""

    def get(self) -> str:
        """The text that is there; empty if there is none."""

    def set(self, text: str) -> None:
        """Keep a text."""


class _Pocket:
    """The clipboard of those who were given none: one for each scene, so that a replay finds what was copied in it."""

    def __init__(self) -> None:
        self._text = ""

    def get(self) -> str:
        return self._text

    def set(self, text: str) -> None:
        self._text = text


POCKETS: WeakKeyDictionary[Scene, _Pocket] = WeakKeyDictionary()


class TextField(Control):
    """One line of text with a caret.

    Text comes as samples of text, so what keyboards, layouts and input methods make of keys is theirs to say. The keys:
    arrows a character, with Control a word; Home, End; with Shift they select; Backspace and Delete, with Control a
    word; Control with A, C, X, V, Z, Y, or Shift and Z. Enter submits. A press puts the caret there, a second one
    selects the word, a third one all; dragging selects. Tab into it selects all.

    It acts: ``submit``, with the text; ``refused``, with what of a text could not be put in.

    :param value: the text; by default one that begins as ``start``.
    :param max_length: how many characters it may have, as people count them.
    :param allowed: a regular expression for each character, or a function that says whether it may be.
    :param convert: what becomes of text that is typed, ``upper``, ``lower`` or a function.
    :param password: whether bullets are shown, nothing can be copied, and a word is the whole text.
    :param measure: how wide a text is as the renderer draws it, in node-local pixels; without it every character has 8.
    :param inset: where the text begins, in pixels from the left edge, and the room kept at the right.
    :param clipboard: where what is copied goes; by default a place that the fields of the scene share.
    :raises ControlError: a length or an expression that cannot be.

    :ivar value: the text, to watch, bind and set. :ivar edit: the text, its caret and its selection, as it is without
        what is being composed. :ivar composing: that. :ivar measure, clipboard: as given; set others at any time.
    """

    roles = ("textbox", "searchbox", "combobox")
    own_acts: ClassVar[Mapping[str, str]] = {"submit": "text", "refused": "text"}
    value_type = "text"
    __slots__ = (
        "_cursor",
        "_inset",
        "_last",
        "_offset",
        "_password",
        "_setting",
        "clipboard",
        "composing",
        "edit",
        "measure",
        "value",
    )

    def __init__(
        self,
        node: Node,
        value: Value[str] | None = None,
        start: str = "",
        max_length: Annotated[int, Bounds(least=0, most=1_000_000)] | None = None,
        allowed: str | Callable[[str], bool] | None = None,
        convert: Literal["upper", "lower"] | Callable[[str], str] | None = None,
        password: bool = False,
        measure: Callable[[str], float] = lambda text: EACH * len(clusters(text)),
        inset: Distance = 6.0,
        clipboard: Clipboard | None = None,
    ) -> None:
        super().__init__(node)
        self.value: Value[str] = value if value is not None else Value(start, name=node.path)
        self.edit = EditedLine("", max_length, allowed, CONVERTS[convert] if isinstance(convert, str) else convert)
        self.composing = ""
        self._cursor = 0
        assert node.scene is not None
        self.measure = measure
        self.clipboard = clipboard if clipboard is not None else POCKETS.setdefault(node.scene, _Pocket())
        self._password, self._inset = password, inset
        self._offset = 0.0
        self._last = ("", 0, 0)
        """The text, the caret and the other end of the selection, as they were told last."""
        self._setting = False
        self.follow(self.value, self._set_from_outside)
        self.hear("text", self._typed)
        self.hear("compose", self._composed)
        self.hear("key_down", self._key_down)
        self.hear("press", self._pressed)
        self.hear("click", self._clicked)
        self.hear("drag_start", self._started)
        self.hear("drag", self._dragged)
        self.hear("focus", self._focused)

    def perform(self, act: str, value: Any, event: ActEvent) -> bool:
        if act != "set" or event.node is not self.node:
            return super().perform(act, value, event)
        self.check(value)
        edit, before = self.edit, self._last
        edit.select_all()
        left = edit.insert(value) if value else ""
        if not value:
            edit.erase("character", True)
        if left:
            edit.restore(*before)
            raise ControlError(f"{self.node.path} does not take {left!r}")
        self._changed()
        return True

    # -- what a renderer draws -----------------------------------------------------------------------------------------

    @property
    def shown(self) -> str:
        """The text as it is drawn: with what is being composed, or as bullets."""
        before, after = self._split()
        text = before + self.composing + after
        return BULLET * len(clusters(text)) if self._password else text

    @property
    def caret(self) -> int:
        """Where the caret is in :attr:`shown`."""
        before, _ = self._split()
        text = before + self.composing[: self._cursor]
        return len(clusters(text)) if self._password else len(text)

    @property
    def selection(self) -> tuple[int, int]:
        """What is selected in :attr:`shown`, from and to; the caret twice if nothing is, or something is composed."""
        if self.composing:
            return self.caret, self.caret
        start, end = self.edit.selection
        if self._password:
            bounds = self.edit.bounds
            return bounds.index(start), bounds.index(end)
        return start, end

    @property
    def offset(self) -> float:
        """By how many pixels the text is drawn further left than its place, so that the caret is in view."""
        room = max(0.0, self.node.size[0] - 2.0 * self._inset)
        at, whole = self.measure(self.shown[: self.caret]), self.measure(self.shown)
        offset = min(max(self._offset, at - room), at)
        self._offset = max(0.0, min(offset, max(0.0, whole - room)))
        return self._offset

    def _split(self) -> tuple[str, str]:
        """The text before and after what is composed, which stands in place of the selection."""
        start, end = self.edit.selection
        if not self.composing:
            start = end = self.edit.caret
        return self.edit.text[:start], self.edit.text[end:]

    def place_at(self, x: float) -> int:
        """The place in the text nearest to a point, in node-local pixels from the left edge."""
        x += self.offset - self._inset
        text, best, minimum = self.edit.text, 0, None
        for count, place in enumerate(self.edit.bounds):
            wide = self.measure(BULLET * count if self._password else text[:place])
            if minimum is not None and abs(wide - x) > minimum:
                break
            best, minimum = place, abs(wide - x)
        return best

    # -- text ----------------------------------------------------------------------------------------------------------

    def type(self, text: str) -> None:
        """Put text in at the caret, as if it were typed."""
        refused = self.edit.insert(text)
        self._changed()
        if refused:
            self.say("refused", refused)

    def _set_from_outside(self, text: str) -> None:
        if not self._setting and text != self.edit.text:
            self.edit.reset(text)
            self._last = (self.edit.text, self.edit.caret, self.edit.anchor)

    def _changed(self) -> None:
        """The text, the caret or the selection may be another: the value follows, the node is told."""
        before = self.value.current if self.value.ready else None
        if before == self.edit.text:
            self.tell_change(caret=self.caret)
        else:
            self._setting = True
            try:
                self.value.current = self.edit.text
            except ValueRefusedError:
                self.edit.restore(*self._last)
                raise
            finally:
                self._setting = False
        self._last = (self.edit.text, self.edit.caret, self.edit.anchor)

    def _typed(self, event: Event) -> None:
        event.take()
        self.composing = ""
        self.type(event.data["text"])

    def _composed(self, event: Event) -> None:
        event.take()
        self.composing, self._cursor = event.data["text"], event.data["cursor"]
        self.tell_change(composing=self.composing)

    # -- keys ----------------------------------------------------------------------------------------------------------

    def _key_down(self, event: Event) -> None:
        if not is_keyboard(event.data["device"]) or self.composing or event.node is not self.node:
            return  # a pad goes on to the next stop, and while one composes keys are the input method's
        modifiers = seat_of(event).modifiers
        control = "Control" in modifiers or "Meta" in modifiers
        code = event.data["code"]
        if code in ("Enter", "NumpadEnter") and event.data["repeat"]:
            return
        if self.press(code, "Shift" in modifiers, control):
            event.take()

    def press(self, code: str, shift: bool = False, control: bool = False) -> bool:
        """Do what a key does; whether it does anything.

        :param code: the key's W3C code. :param shift: whether Shift is down. :param control: whether Control is.
        """
        unit = "character" if not control else "line" if self._password else "word"
        edit = self.edit
        if code in MOVES:
            edit.move(unit, MOVES[code], shift)
        elif code in ENDS:
            edit.move("line", ENDS[code], shift)
        elif code in ERASES:
            edit.erase(unit, ERASES[code])
        elif code in ("Enter", "NumpadEnter"):
            self.say("submit", edit.text)
            return True
        elif not (control and self._command(code, shift)):
            return False
        self._changed()
        return True

    def _command(self, code: str, shift: bool) -> bool:
        """Do what a key with Control stands for; whether it stands for anything."""
        edit = self.edit
        if code == "KeyA":
            edit.select_all()
        elif code == "KeyZ":
            _ = edit.redo() if shift else edit.undo()
        elif code == "KeyY":
            edit.redo()
        elif code in ("KeyC", "KeyX"):
            if edit.selected and not self._password:
                self.clipboard.set(edit.selected)
                if code == "KeyX":
                    edit.erase("character", True)
        elif code == "KeyV":
            refused = edit.insert(self.clipboard.get())
            if refused:
                self.say("refused", refused)
        else:
            return False
        return True

    # -- pointers ------------------------------------------------------------------------------------------------------

    def _pressed(self, event: Event) -> None:
        if seat_of(event).last_kind != "touch":
            self._point(event)

    def _clicked(self, event: Event) -> None:
        if "device" not in event.data and seat_of(event).last_kind == "touch":
            self._point(event)

    def _point(self, event: Event) -> None:
        place = self.place_at(event.local[0])
        if event.count == 2 and not self._password:
            self.edit.select_word(place)
        elif event.count >= 2:
            self.edit.select_all()
        else:
            self.edit.go(place, "Shift" in seat_of(event).modifiers)
        self._changed()

    def _started(self, event: DragStart) -> None:
        if seat_of(event).last_kind == "touch":
            self.edit.go(self.place_at(event.local[0]))

    def _dragged(self, event: Event) -> None:
        self.edit.go(self.place_at(event.local[0]), extend=True)
        self._changed()

    def _focused(self, event: Event) -> None:
        if seat_of(event).uses_keys:
            self.edit.select_all()
            self._changed()

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset() if self.edit.text or self.composing else frozenset(("empty",))
