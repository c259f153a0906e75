"""A field to type into (ARIA: textbox, searchbox; law C4)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Annotated, Any, ClassVar, Literal, Protocol
from weakref import WeakKeyDictionary

from glent.controls.context import seat_of
from glent.controls.control import Control
from glent.controls.edited_line import EditedLine, clusters
from glent.controls.text_lines import TextLine, TextLines
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


UPDOWN = {"ArrowUp": -1, "ArrowDown": 1}
PAGES = {"PageUp": -1, "PageDown": 1}
REST = 0.25
"""So long a finger rests on a field of several lines before it selects rather than scrolls, in seconds."""
SUBMITS = ("enter", "control-enter")


class TextField(Control):
    """A line of text with a caret, or several.

    Text comes as samples of text, so what keyboards, layouts and input methods make of keys is theirs to say. The keys:
    arrows a character, with Control a word; Home, End; with Shift they select; Backspace and Delete, with Control a
    word; Control with A, C, X, V, Z, Y, or Shift and Z. Enter submits. A press puts the caret there, a second one
    selects the word, a third one all; dragging selects. Tab into it selects all.

    With several lines the text wraps, and scrolls as any area does. Up and Down, Page Up and Page Down go by lines, as
    far from the left as they began; Home and End go to the ends of a line, with Control of the text. Enter begins a
    line, and Control with Enter submits, or as ``submits`` says. A third press selects to the breaks, and Tab selects
    nothing. A finger scrolls, and selects once it has rested for a moment.

    It acts: ``submit``, with the text; ``refused``, with what of a text could not be put in.

    :param value: the text; by default one that begins as ``start``.
    :param max_length: how many characters it may have, as people count them.
    :param allowed: a regular expression for each character, or a function that says whether it may be.
    :param convert: what becomes of text that is typed, ``upper``, ``lower`` or a function.
    :param password: whether bullets are shown, nothing can be copied, and a word is the whole text.
    :param measure: how wide a text is as the renderer draws it, in node-local pixels; without it every character has 8.
    :param inset: where the text begins, in pixels from the left edge, and the room kept at the right.
    :param clipboard: where what is copied goes; by default a place that the fields of the scene share.
    :param lines: how many lines show. The node's height is shared among them.
    :param submits: which key submits a text of several lines, ``enter`` or ``control-enter``; the other one, and Shift
        with Enter, begin a new line.
    :raises ControlError: a length or an expression that cannot be; a password of several lines.

    :ivar value: the text, to watch, bind and set. :ivar edit: the text, its caret and its selection, as it is without
        what is being composed. :ivar composing: that. :ivar measure, clipboard: as given; set others at any time.
    """

    roles = ("textbox", "searchbox", "combobox")
    own_acts: ClassVar[Mapping[str, str]] = {"submit": "text", "refused": "text"}
    value_type = "text"
    __slots__ = (
        "_cursor",
        "_goal",
        "_inset",
        "_last",
        "_late",
        "_offset",
        "_password",
        "_rows",
        "_setting",
        "_submits",
        "_wrapped",
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
        lines: Annotated[int, Bounds(least=1, most=1_000)] = 1,
        submits: Literal["enter", "control-enter"] = "control-enter",
    ) -> None:
        super().__init__(node)
        if isinstance(lines, bool) or not isinstance(lines, int) or not 1 <= lines <= 1_000:
            raise ControlError(f"{node.path}: lines is {lines!r}, expected a whole number from 1 to 1000")
        if lines > 1 and password:
            raise ControlError(f"{node.path}: a password has one line, and lines is {lines}")
        if submits not in SUBMITS:
            raise ControlError(f"{node.path}: submits is {submits!r}, expected {' or '.join(SUBMITS)}")
        self.value: Value[str] = value if value is not None else Value(start, name=node.path)
        converts = CONVERTS[convert] if isinstance(convert, str) else convert
        self.edit = EditedLine("", max_length, allowed, converts, breaks=lines > 1)
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
        self._rows, self._submits = lines, submits
        self._late = False
        """Whether the caret is at the end of a line rather than at the beginning of the next."""
        self._goal: float | None = None
        """How far from the left the caret was when it began to go up and down."""
        self._wrapped: tuple[tuple[Any, ...], TextLines] | None = None
        if lines > 1:
            node.set_for_now(scrolls=True)
            node.set_for_now(clips=True, axis="y", feel={"drag_delay": REST, **(node.feel or {})})
            self.on_settle(self._fit)
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
        if self._rows > 1:
            return 0.0
        room = max(0.0, self.node.size[0] - 2.0 * self._inset)
        at, whole = self.measure(self.shown[: self.caret]), self.measure(self.shown)
        offset = min(max(self._offset, at - room), at)
        self._offset = max(0.0, min(offset, max(0.0, whole - room)))
        return self._offset

    @property
    def lines(self) -> list[TextLine]:
        """The lines that :attr:`shown` is drawn in, from the top down: each where it begins and ends in that."""
        return list(self._wrap().all)

    @property
    def inset(self) -> float:
        """Where the text begins, in pixels from the left edge, and from the top one of several lines."""
        return self._inset

    @property
    def line_height(self) -> float:
        """How high a line is, in node-local pixels: of a single one as high as the node. The first of several begins
        :attr:`inset` below the top, before scrolling."""
        return max(1.0, (self.node.size[1] - 2.0 * self.from_top) / self._rows)

    @property
    def from_top(self) -> float:
        """How far below the top the first line begins."""
        return self._inset if self._rows > 1 else 0.0

    @property
    def caret_at(self) -> tuple[float, float]:
        """Where the caret is: the top left corner of it, in node-local pixels before scrolling."""
        if self._rows == 1:
            return self._inset + self.measure(self.shown[: self.caret]) - self.offset, 0.0
        lines, place = self._wrap(), self.caret
        return (
            self._inset + lines.left_of(place, self._late),
            self._inset + lines.number(place, self._late) * self.line_height,
        )

    def _wrap(self) -> TextLines:
        """The lines of what is shown."""
        text, measure = self.shown, self.measure
        width = max(0.0, self.node.size[0] - 2.0 * self._inset) if self._rows > 1 else float("inf")
        key = (text, width, measure)
        if self._wrapped is None or self._wrapped[0] != key:
            places = [0]
            for one in clusters(text):
                places.append(places[-1] + len(one))
            self._wrapped = (key, TextLines(text, places, width, measure))
        return self._wrapped[1]

    def _fit(self) -> None:
        """Let its content be as high as its lines are."""
        high = 2.0 * self._inset + len(self._wrap().all) * self.line_height
        if self.node.content != (0.0, high):
            self.node.set_for_now(content=(0.0, high))

    def _show_caret(self) -> None:
        """Scroll the line of the caret into view."""
        self._fit()
        node, top = self.node, self.caret_at[1] - self._inset
        bottom = top + self.line_height + 2.0 * self._inset
        scroll = max(min(node.scroll[1], top), bottom - node.size[1])
        if scroll != node.scroll[1]:
            node.scroll = (node.scroll[0], max(0.0, min(scroll, node.scroll_range[1])))

    def _split(self) -> tuple[str, str]:
        """The text before and after what is composed, which stands in place of the selection."""
        start, end = self.edit.selection
        if not self.composing:
            start = end = self.edit.caret
        return self.edit.text[:start], self.edit.text[end:]

    def place_at(self, x: float, y: float = 0.0) -> int:
        """The place in the text nearest to a point, in node-local pixels from the left edge, and from the top one of
        what shows of several lines."""
        if self._rows > 1:
            return self._nearest(x, y)[0]
        x += self.offset - self._inset
        text, best, minimum = self.edit.text, 0, None
        for count, place in enumerate(self.edit.bounds):
            wide = self.measure(BULLET * count if self._password else text[:place])
            if minimum is not None and abs(wide - x) > minimum:
                break
            best, minimum = place, abs(wide - x)
        return best

    def _nearest(self, x: float, y: float) -> tuple[int, bool]:
        """The place nearest to a point, and whether that is the end of a line."""
        down = y + self.node.scroll[1] - self._inset
        return self._wrap().nearest(int(down // self.line_height), x - self._inset)

    # -- text ----------------------------------------------------------------------------------------------------------

    def type(self, text: str) -> None:
        """Put text in at the caret, as if it were typed."""
        self._late, self._goal = False, None
        refused = self.edit.insert(text)
        self._changed()
        if refused:
            self.say("refused", refused)

    def _set_from_outside(self, text: str) -> None:
        if not self._setting and text != self.edit.text:
            self.edit.reset(text)
            self._late, self._goal = False, None
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
        if self._rows > 1:
            self._show_caret()

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
        if self._rows > 1 and self._press_in_lines(code, shift, control):
            return True
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
        self._late, self._goal = False, None
        self._changed()
        return True

    def _press_in_lines(self, code: str, shift: bool, control: bool) -> bool:
        """Do what a key does otherwise among several lines; whether it does."""
        edit, lines = self.edit, self._wrap()
        number = lines.number(edit.caret, self._late)
        late, goal = False, None
        if code in UPDOWN or code in PAGES:
            goal = self._goal if self._goal is not None else lines.left_of(edit.caret, self._late)
            to = number + (UPDOWN[code] if code in UPDOWN else PAGES[code] * max(1, self._rows - 1))
            if number == 0 and to < 0:
                place = 0
            elif number == len(lines.all) - 1 and to > number:
                place = len(edit.text)
            else:
                place, late = lines.nearest(to, goal)
        elif code in ENDS and not control:
            start, (end, is_late) = lines.ends(edit.caret, self._late)
            place, late = (end, is_late) if ENDS[code] else (start, False)
        elif code in ("Enter", "NumpadEnter") and (shift or control is not (self._submits == "control-enter")):
            self.type("\n")
            return True
        else:
            return False
        edit.go(place, shift)
        self._late, self._goal = late, goal
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
        place = self._place_of(event)
        if event.count >= 2:
            self._late = False
        if event.count == 3 and self._rows > 1:
            self.edit.select_line(place)
        elif event.count == 2 and not self._password:
            self.edit.select_word(place)
        elif event.count >= 2:
            self.edit.select_all()
        else:
            self.edit.go(place, "Shift" in seat_of(event).modifiers)
        self._changed()

    def _place_of(self, event: Event) -> int:
        """The place that an event points at; the caret that comes there is where it points."""
        self._goal = None
        if self._rows == 1:
            return self.place_at(event.local[0])
        place, self._late = self._nearest(*event.local)
        return place

    def _started(self, event: DragStart) -> None:
        if seat_of(event).last_kind == "touch":
            self.edit.go(self._place_of(event))

    def _dragged(self, event: Event) -> None:
        self.edit.go(self._place_of(event), extend=True)
        self._changed()

    def _focused(self, event: Event) -> None:
        if seat_of(event).uses_keys and self._rows == 1:
            self.edit.select_all()
            self._changed()

    def marks_of(self, part: str) -> frozenset[str]:
        return frozenset() if self.edit.text or self.composing else frozenset(("empty",))
