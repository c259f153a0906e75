"""The panels of the live view in a window, declared anew in each frame: what lies there, its attributes, verdicts."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Any

from glent.core.errors import GlentError
from glent.live.attributes import Attribute, attributes_of, read_attribute, value_of_text

if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from pathlib import Path

    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.immediate import Draft
    from glent.immediate.frame import Frame
    from glent.live.editor import Editor
    from glent.live.inspection import Inspection

__all__ = ["Panels"]

WIDE = 470.0
"""How wide the panel is, in pixels; half of a window that is small."""
ROWS = 7
ROW_HIGH = 26.0
SAID = 3
"""Lines of text below the list."""
OTHERS = 398.0
"""How many pixels of the panel are not the attributes'."""
LABEL = 118.0
STRIP = 70.0
UNSET = "unset"
WORLD, UI, NOBODY = "#2c6b5b", "#31557a", "#5a4a4a"
MARKED = {"hit": "#2c6b5b", "within reach": "#2c6b5b", "covered": "#7a4a31", "behind a modal": "#7a4a31",
          "blocked": "#7a4a31"}  # fmt: skip


class Panels:
    """What the overlay shows.

    :param inspection: what is looked at. :param draft: where it is declared. :param measure: as a draft's.
    """

    __slots__ = (
        "_age",
        "_draft",
        "_editor",
        "_entered",
        "_file",
        "_key",
        "_look",
        "_measure",
        "_said",
        "_shown",
        "_typed",
    )

    def __init__(
        self,
        inspection: Inspection,
        draft: Draft,
        measure: Callable[[str], tuple[float, float]],
        key: str,
        file: str | Path | None,
        editor: Editor | None,
    ) -> None:
        self._look = inspection
        self._draft = draft
        self._measure = measure
        self._key = key
        self._file = file
        self._editor = editor
        self._said = ""
        self._age = 0
        """Another number for each node that is chosen: its fields are made anew."""
        self._shown: Node | None = None
        self._entered = False
        self._typed: dict[str, str] = {}
        """By attribute, what stands in its field and does not count yet."""

    def say(self, text: str) -> None:
        """Say something, until something else happens."""
        self._said = text

    def enter(self) -> None:
        """Note that Enter was pressed: what stands in a field counts."""
        self._entered = True

    def do(self, asked: str) -> None:
        """Do what a button or a shortcut asks for, and say what came of it, or why it cannot be done."""
        try:
            self._do(asked)
        except GlentError as error:
            self.say(str(error))

    def _do(self, asked: str) -> None:
        edits = self._look.edits
        if asked == "undo":
            self.say("undone" if edits.undo() else "there is nothing to undo")
        elif asked == "redo":
            self.say("done again" if edits.redo() else "there is nothing to do again")
        elif asked == "revert":
            self.say(f"{edits.revert()} taken back")
        elif asked == "keep":
            kept = edits.keep(self._file)
            self.say(f"kept in the file: {'; '.join(kept)}" if kept else "nothing is changed, so nothing is kept")
        elif asked == "open" and self._editor is not None and self._look.chosen is not None:
            self.say(f"opened {self._editor.open(self._look.chosen)}")

    # -- what is declared ----------------------------------------------------------------------------------------------

    def declare(self, size: tuple[float, float], verdicts: Sequence[tuple[str, Verdict]], pauses: bool) -> str:
        """Declare everything for a window of a size. Return what a button asks for, or nothing."""
        if self._look.chosen is not self._shown:
            self._shown = self._look.chosen
            self._age += 1
            self._typed.clear()
        wide = min(WIDE, size[0] / 2.0)
        tall = max(200.0, size[1] - STRIP - 30.0)
        asked = ""
        with self._draft as now:
            title = f"live view, {self._key} closes it"
            with now.window(title, key="look", at=(size[0] - wide - 10.0, 10.0), size=(wide, tall)) as box:
                if box.closed:
                    asked = "close"
                asked = self._buttons(now, pauses) or asked
                self._list(now, wide - 12.0)
                self._chosen(now, wide - 12.0, tall)
            at, across = (10.0, size[1] - STRIP - 6.0), size[0] - 20.0
            with now.window("verdicts", at=at, size=(across, STRIP), bar=False, closable=False):
                self._strip(now, verdicts, across - 12.0)
        self._colour(verdicts)
        self._entered = False
        return asked

    def _buttons(self, now: Frame, pauses: bool) -> str:
        edits = self._look.edits
        changed = bool(edits.changed)
        asked = ""
        with now.row(key="do"):
            for name, can in (
                ("undo", edits.can_undo),
                ("redo", edits.can_redo),
                ("revert", changed),
                ("keep", changed),
                *((("open", self._look.chosen is not None),) if self._editor is not None else ()),
                ("go on" if pauses else "pause", True),
            ):
                if now.button(name, enabled=can):
                    asked = name
        return asked

    def _list(self, now: Frame, wide: float) -> None:
        look = self._look
        found = look.found
        where = f"at {look.point[0]:g}, {look.point[1]:g}" if look.point is not None else "nowhere yet"
        pinned = "pinned; Escape lets it follow the pointer" if look.is_pinned else "a press pins it"
        now.text(f"{len(found)} {where}: {pinned}", key="where")
        for number in now.table("found", len(found), ROWS * ROW_HIGH, ROW_HIGH):
            one = found[number]
            mark = "▸ " if one.node is look.chosen else ""
            if now.button(self._cut(f"{mark}{one.mark}: {one.node.path}", wide - 30.0), key=f"row-{number}"):
                look.choose(one.node)

    def _chosen(self, now: Frame, wide: float, tall: float) -> None:
        node = self._look.chosen
        entry = self._look.chosen_entry
        said = self._said or (entry.sentence if entry is not None else "choose by press, wheel or arrows")
        now.text(self._wrapped(said, wide - 24.0), key="said")
        now.rule(key="between")
        if node is None:
            return
        role = f", {node.role}" if node.role is not None else ""
        now.text(self._cut(f"{node.path}: {node.effective_solidity}{role}", wide - 24.0), key="who")
        with now.scroll(f"fields-{self._age}", height=max(100.0, tall - OTHERS), width=wide):
            group = ""
            for one in attributes_of(node):
                if one.group != group:
                    group = one.group
                    now.text(f"— {group} —", key=f"group {group}")
                self._attribute(now, node, one)

    def _attribute(self, now: Frame, node: Node, one: Attribute) -> None:
        value = read_attribute(node, one.name)
        changed = self._look.edits.is_changed(node, one.name)
        label = f"{'* ' if changed else ''}{one.name}"
        if one.kind == "flag":
            ticked = now.toggle(label, value, key=one.name)
            if ticked is not value:
                self._set(node, one, ticked)
        elif one.kind == "choice":
            words = {_word(option): option for option in one.options}
            word = now.choice(self._padded(label), _word(value), list(words), key=one.name)
            if words[word] != value:
                self._set(node, one, words[word])
        else:
            shown = _text(value)
            with now.row(key=f"row {one.name}"):
                now.text(self._padded(label), key="called")
                typed = now.field(one.kind, self._typed.pop(one.name, shown), key=one.name)
            if typed == shown:
                return
            if self._entered or not self._is_typed_in(one):
                self._set_typed(node, one, typed)
            else:
                self._typed[one.name] = typed

    def _is_typed_in(self, one: Attribute) -> bool:
        return self._draft.node(f"look/fields-{self._age}/row {one.name}/{one.name}").focused

    def _set_typed(self, node: Node, one: Attribute, typed: str) -> None:
        try:
            value = value_of_text(one, typed)
        except GlentError as error:
            self.say(str(error))
            return
        self._set(node, one, value)

    def _set(self, node: Node, one: Attribute, value: Any) -> None:
        try:
            self._look.edits.set(node, one.name, value)
        except GlentError as error:
            self.say(str(error))
            return
        self.say("")

    def _strip(self, now: Frame, verdicts: Sequence[tuple[str, Verdict]], wide: float) -> None:
        now.text(self._cut(verdicts[-1][1].why if verdicts else "no input yet", wide - 20.0), key="why")
        with now.row(key="last"):
            for number, (what, verdict) in enumerate(verdicts):
                text = self._cut(f"{what}: {_owner(verdict)}", max(40.0, wide / 10.0 - 18.0))
                if now.button(text, key=f"v{number}"):
                    self.say(verdict.why)

    def _colour(self, verdicts: Sequence[tuple[str, Verdict]]) -> None:
        """Colour the verdicts by who has the input, and the rows by what became of each."""
        for number, (_, verdict) in enumerate(verdicts):
            colour = WORLD if verdict.world else UI if verdict.owner is not None else NOBODY
            self._draft.node(f"verdicts/last/v{number}").facts["colour"] = colour
        rows = self._draft.node("look/found")
        for row in rows.children:
            for button in row.children:
                mark = self._look.found[int(row.name)].mark if int(row.name) < len(self._look.found) else ""
                button.facts["colour"] = MARKED.get(mark, NOBODY)

    # -- text ----------------------------------------------------------------------------------------------------------

    def _cut(self, text: str, wide: float) -> str:
        """A text with its middle left out where it is wider than that."""
        if self._measure(text)[0] <= wide:
            return text
        keep = len(text)
        while keep > 2 and self._measure(shortened(text, keep))[0] > wide:
            keep -= 1
        return shortened(text, keep)

    def _wrapped(self, text: str, wide: float) -> str:
        """A text broken between words into lines no wider than that."""
        lines = [""]
        for word in text.replace("\n", " ").split(" "):
            longer = f"{lines[-1]} {word}".strip()
            if lines[-1] and self._measure(longer)[0] > wide:
                lines.append(word)
            else:
                lines[-1] = longer
        return "\n".join([*(self._cut(line, wide) for line in lines), *[""] * SAID][:SAID])

    def _padded(self, text: str) -> str:
        """A text with blanks behind it, so that what follows it stands in a column."""
        while self._measure(text)[0] < LABEL:
            text += "\u00a0"
        return text


def shortened(text: str, keep: int) -> str:
    """A text of so many characters, with its middle left out."""
    head = (keep - 1) // 3
    return f"{text[:head]}…{text[len(text) - (keep - 1 - head) :]}"


def _word(value: Any) -> str:
    if isinstance(value, bool):
        return "yes" if value else "no"
    return UNSET if value is None else str(value)


def _text(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, bool) or not isinstance(value, int | float | str):
        return json.dumps(value, ensure_ascii=False)
    return f"{value:g}" if isinstance(value, float) else str(value)


def _owner(verdict: Verdict) -> str:
    return "world" if verdict.world else verdict.owner.name if verdict.owner is not None else "nobody"
