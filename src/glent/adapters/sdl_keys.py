"""SDL's scan codes as the `code` values of UI Events, and the `key` values of keys that make no text."""

from __future__ import annotations

from glent.extras import needs

with needs("pygame", "the adapter for pygame"):
    import pygame

__all__ = ["code_of", "key_of"]

_NAMES = {
    "0": "Digit0",
    "AC_BACK": "BrowserBack",
    "APOSTROPHE": "Quote",
    "BACKSLASH": "Backslash",
    "BACKSPACE": "Backspace",
    "CAPSLOCK": "CapsLock",
    "COMMA": "Comma",
    "DELETE": "Delete",
    "DOWN": "ArrowDown",
    "END": "End",
    "EQUALS": "Equal",
    "ESCAPE": "Escape",
    "GRAVE": "Backquote",
    "HELP": "Help",
    "HOME": "Home",
    "INSERT": "Insert",
    "INTERNATIONAL1": "IntlRo",
    "INTERNATIONAL2": "KanaMode",
    "INTERNATIONAL3": "IntlYen",
    "INTERNATIONAL4": "Convert",
    "INTERNATIONAL5": "NonConvert",
    "KP_DIVIDE": "NumpadDivide",
    "KP_ENTER": "NumpadEnter",
    "KP_EQUALS": "NumpadEqual",
    "KP_MINUS": "NumpadSubtract",
    "KP_MULTIPLY": "NumpadMultiply",
    "KP_PERIOD": "NumpadDecimal",
    "KP_PLUS": "NumpadAdd",
    "LALT": "AltLeft",
    "LANG1": "Lang1",
    "LANG2": "Lang2",
    "LCTRL": "ControlLeft",
    "LEFT": "ArrowLeft",
    "LEFTBRACKET": "BracketLeft",
    "LGUI": "MetaLeft",
    "LSHIFT": "ShiftLeft",
    "MENU": "ContextMenu",
    "MINUS": "Minus",
    "NONUSBACKSLASH": "IntlBackslash",
    "NUMLOCKCLEAR": "NumLock",
    "PAGEDOWN": "PageDown",
    "PAGEUP": "PageUp",
    "PAUSE": "Pause",
    "PERIOD": "Period",
    "POWER": "Power",
    "PRINTSCREEN": "PrintScreen",
    "RALT": "AltRight",
    "RCTRL": "ControlRight",
    "RETURN": "Enter",
    "RGUI": "MetaRight",
    "RIGHT": "ArrowRight",
    "RIGHTBRACKET": "BracketRight",
    "RSHIFT": "ShiftRight",
    "SCROLLLOCK": "ScrollLock",
    "SEMICOLON": "Semicolon",
    "SLASH": "Slash",
    "SPACE": "Space",
    "TAB": "Tab",
    "UP": "ArrowUp",
}
_NAMES |= {letter: f"Key{letter}" for letter in "ABCDEFGHIJKLMNOPQRSTUVWXYZ"}
_NAMES |= {digit: f"Digit{digit}" for digit in "123456789"}
_NAMES |= {f"KP_{digit}": f"Numpad{digit}" for digit in "0123456789"}
_NAMES |= {f"F{number}": f"F{number}" for number in range(1, 16)}
_CODES: dict[int, str] = {getattr(pygame, f"KSCAN_{name}"): code for name, code in _NAMES.items()}

_KEYS = {
    "AltLeft": "Alt",
    "AltRight": "Alt",
    "BrowserBack": "BrowserBack",
    "ControlLeft": "Control",
    "ControlRight": "Control",
    "MetaLeft": "Meta",
    "MetaRight": "Meta",
    "NumpadEnter": "Enter",
    "ShiftLeft": "Shift",
    "ShiftRight": "Shift",
}
_TEXT = ("Key", "Digit", "Numpad", "Intl", "Bracket", "Lang")
_TEXT_ALONE = {"Backquote", "Backslash", "Comma", "Equal", "Minus", "Period", "Quote", "Semicolon", "Slash", "Space"}


def code_of(scancode: int) -> str | None:
    """Where a key is, as UI Events call it; None for one that they have no name for."""
    return _CODES.get(scancode)


def key_of(code: str) -> str | None:
    """What a key means whatever the layout; None if that is a text, which comes in samples of its own."""
    if code in _KEYS:
        return _KEYS[code]
    return None if code in _TEXT_ALONE or code.startswith(_TEXT) else code
