"""A text field and keys on the screen: characters stay whole, what is not allowed is not typed, all can be undone."""

from __future__ import annotations

from glent import Place, Router, Scene
from glent.controls import Key, KeyLayout, ScreenKeys, TextField
from glent.testing import Hand

scene = Scene(size=(1280, 720))
radio = scene.layer("desk").add("radio", place=Place(900, 40, width=320, height=300), solidity="solid")
field = TextField(
    radio.add("call-sign", place=Place(left=10, right=10, top=10, height=36)),
    max_length=8,
    allowed="[A-Z0-9 -]",
    convert=str.upper,
)
field.on("refused", lambda text: print(f"not typed: {text!r}"))
field.on("submit", lambda text: print(f"hailed: {text}"))
layout = KeyLayout(
    [*([Key(sign) for sign in row] for row in ("12345", "kelpt")), [Key(does="clear"), Key(does="enter")]]
)
keys = ScreenKeys(radio.add("keys", place=Place(left=10, right=10, top=60, height=150)), layout, field)

router = Router(scene)
hand = Hand(router)
hand.click("desk/radio/call-sign")
hand.type("kelp é 77")
print(f"{field.shown!r}, the caret at {field.caret}")
hand.press_keys("ControlLeft", "ShiftLeft", "ArrowLeft")
print(f"selected: {field.edit.selected!r}")
hand.press_keys("Backspace")
hand.press_keys("ControlLeft", "KeyZ")
print(f"erased, and undone: {field.value.current!r}")

hand.move("desk/radio/keys/row-1/key-0")
hand.press()
print(f"the key is {keys.look('row-1/key-0').state}")
hand.move("desk/radio/keys/row-1/key-3")
print(f"slid off, it is {keys.look('row-1/key-0').state}, and types nothing: ", end="")
hand.release()
print(repr(field.value.current))
for name in ("row-2/key-0", "row-1/key-0", "row-1/key-1", "row-1/key-2", "row-1/key-3", "row-2/key-1"):
    hand.click(f"desk/radio/keys/{name}")

anywhere = TextField(radio.add("notes", place=Place(left=10, right=10, top=230, height=36)))
hand.click("desk/radio/notes")
hand.type("crew: 👩‍👩‍👧 e\u0301")
hand.press_keys("Backspace")
hand.press_keys("Backspace")
hand.press_keys("Backspace")
print(f"three characters erased, seven code points: {anywhere.value.current!r}")
