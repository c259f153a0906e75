"""A dialog that is asked and awaited, a popup beside its button, and a word about what one points at."""

from __future__ import annotations

import asyncio

from glent import Flow, Place, Router, Scene
from glent.controls import Button, Dialog, Popup, Tooltip
from glent.testing import Hand

scene = Scene(size=(1280, 720))
desk, front = scene.layer("desk"), scene.layer("front", order=9)
desk.add("signals", role="button", place=Place(1100, 20, width=140, height=40))
flags = front.add("flags", place=Place(width=180, height="fit-content"), flow=Flow("column", padding=4))
flags.add("hoist", role="button", place=Place(height=36))
word = front.add("word", place=Place(width=200, height=28))
box = front.add("question", place=Place(left="50% - 200", top="50% - 80", width=400, height=160))
box.add("choices", place=Place(left=20, right=20, bottom=20, height=40), flow=Flow("row", gap=8))

popup = Popup(flags, desk["signals"], gap=4)
Button(flags["hoist"], lambda: (print("the flags go up"), popup.close()))
Tooltip(word, desk["signals"], side="left")
dialog = Dialog(box)

router = Router(scene)
hand = Hand(router)
hand.move("desk/signals")
hand.wait(0.6)
print(f"the word shows: {word.visible}, to the left, at {word.edges[0]:g}")
hand.click("desk/signals")
print(f"the popup is open: {popup.is_open}; moved back to fit, it ends at {flags.edges[2]:g}")
hand.click("front/flags/hoist")


async def night() -> None:
    answer = dialog.ask("Let barge 7 go before the tide turns?", ("let it go", "hold it"), cancel="hold it")
    router.settle()
    print(f"asked: {dialog.message} {list(dialog.labels.values())}; the focus is on {router.seat().focus.path}")
    print(f"a click elsewhere: {hand.click('desk/signals').why}")
    hand.press_keys("Escape")
    print(f"answered: {await answer}")
    dialog.ask("Which gate?", ("north", "south"), then=lambda gate: print(f"the {gate} gate opens"))
    router.settle()
    hand.click("front/question/choices/choice-1")


asyncio.run(night())
