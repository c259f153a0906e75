"""The gallery of controls, acted on by short words and read by short names: what the tables of acts are told in."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import glent
from glent.controls import Controls
from glent.demo import GALLERY
from glent.formats import read_scene
from glent.testing import Hand

MODIFIERS = {"Shift": "ShiftLeft", "Control": "ControlLeft"}


class Stage:
    """The gallery with one control in view: ``node``, whose path others are short for (``.`` is itself)."""

    def __init__(self, node: str, scene: str | Path = GALLERY) -> None:
        self.scene = read_scene(scene)
        self.controls = Controls(self.scene)
        self.errors: list[Exception] = []
        self.router = glent.Router(self.scene, on_error=lambda error, event: self.errors.append(error))
        self.path = node
        self.control: Any = self.controls.get(node)
        self.seat = self.router.seat()
        self.hand = Hand(self.router, start=1.0)
        self.finger = Hand(self.router, "finger-1", "touch", start=1.0)
        self.said: list[Any] = []
        for act in self.control.acts if self.control is not None else ():
            self.control.on(act, lambda *given, act=act: self.said.append([act, *given]))
        self.hand.move((638.0, 700.0))

    def node(self, name: str) -> glent.Node:
        if name == ".":
            return self.scene[self.path]
        below = f"{self.path}/{name}"
        return self.scene[below if below in self.scene else name]

    def _at(self, words: list[str]) -> tuple[float, float]:
        x, y = (float(words[1]), float(words[2])) if len(words) > 2 else (0.5, 0.5)
        return self.hand.point(self.node(words[0]), (x, y))

    def do(self, act: str) -> None:
        """``Tab``, ``Shift+ArrowLeft``, ``click PART X Y``, ``drag PART X Y X Y``, ``type TEXT``, ``wait 0.5``, …"""
        word, _, rest = act.partition(" ")
        words, hand = rest.split(), self.hand
        if word == "focus":
            hand.press_keys("F2")
            self.seat.focus = self.node(rest)
        elif word in ("click", "double", "triple"):
            for _ in range({"click": 1, "double": 2, "triple": 3}[word]):
                hand.click(self._at(words))
        elif word == "aside":  # whatever the second button does
            hand.move(self._at(words))
            hand.press(glent.PointerButton.SECONDARY)
            hand.wait(1.2)
            hand.move((hand.pos[0] + 30, hand.pos[1] + 12), steps=3)
            hand.release(glent.PointerButton.SECONDARY)
            hand.click(self._at(words), glent.PointerButton.SECONDARY)
        elif word == "press":
            hand.move(self._at(words))
            hand.press()
        elif word == "move":
            hand.move(self._at(words), steps=4)
        elif word == "release":
            hand.release()
        elif word in ("drag", "swipe"):
            by = hand if word == "drag" else self.finger
            by.pos = self._at(words[:3])
            by.move(by.pos) if word == "drag" else None
            by.press()
            by.move(self._at([words[0], *words[3:5]]), steps=6)
            if words[-1] != "held":
                by.release()
        elif word == "tap":
            self.finger.click(self._at(words))
        elif word == "lift":
            self.finger.release()
        elif word == "type":
            hand.type(rest)
        elif word == "compose":
            hand.compose(rest)
        elif word == "pad":
            hand.press_pad(rest)
        elif word == "wait":
            hand.wait(float(rest))
        elif word in ("hold", "up"):
            hand.key(rest, "down" if word == "hold" else "up")
        elif word == "letter":
            hand.key(f"Key{rest.upper()}", "down", rest)
            hand.key(f"Key{rest.upper()}", "up", rest)
        elif word == "set":
            self.set(rest)
        else:
            *modifiers, code = act.split("+")
            hand.press_keys(*(MODIFIERS[one] for one in modifiers), code)
        self.router.settle()

    def set(self, what: str) -> None:
        name, _, value = what.partition("=")
        values = self.control.values
        values[name].current = type(values[name].current)(value) if not value.startswith("-") else float(value)

    def see(self, what: str) -> Any:
        """``value``, ``low``, ``focus``, ``said``, ``open``, ``shown``, ``caret``, ``marks PART``, …"""
        word, _, part = what.partition(" ")
        control = self.control
        if word == "focus":
            focus = self.seat.focus
            if focus is None:
                return None
            inside = focus.path.startswith(self.path + "/")
            return focus.path[len(self.path) + 1 :] if inside else "." if focus.path == self.path else focus.path
        if word == "said":
            return list(self.said)
        if word == "opened":
            return list(control.open.current)
        if word == "open":
            return [path for path, one in self.controls.items() if getattr(one, "is_open", False) is True]
        if word == "shown":
            return self.node(part).is_visible
        if word == "marks":
            return list(control.look(part).marks)
        if word == "look":
            return control.look(part).state
        if word == "scroll":
            return round(self.node(part or ".").scroll[1])
        if word == "box":
            left, top, right, bottom = self.node(".").edges
            return [round(one) for one in (left, top, right - left, bottom - top)]
        if word == "text":
            return control.edit.text
        if word in ("caret", "selection", "shown_text", "composing"):
            found = getattr(control, word.removesuffix("_text"))
            return list(found) if isinstance(found, tuple) else found
        if word == "target":
            other = self.controls[part]
            return other.value.current
        if word in control.values:
            found = control.values[word].current
            return _plain(found)
        return _plain(getattr(control, word))


def _plain(found: Any) -> Any:
    if isinstance(found, float):
        return round(found, 2)
    if isinstance(found, tuple | list):
        return [_plain(one) for one in found]
    return found
