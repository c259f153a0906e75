"""Buttons of all sorts, a switch, a box for several, and radios: what each gives, and what a renderer draws."""

from __future__ import annotations

from glent import Flow, Place, Router, Scene, Value
from glent.controls import Button, RadioGroup, Toggle
from glent.testing import Hand

scene = Scene(size=(1280, 720))
place = Place(left=20, top=20, width=240, height="fit-content")
desk = scene.layer("desk").add("orders", place=place, flow=Flow("column", gap=8, padding=8), solidity="solid")


def row(name: str) -> None:
    desk.add(name, place=Place(height=40))


for name in ("send-anchovy", "send-bramble", "fill-ballast", "cast-off", "fog-lamp", "lanterns"):
    row(name)
for tug in ("anchovy", "bramble"):  # two buttons, one thing to do, and each its own argument
    Button(desk[f"send-{tug}"], lambda tug: print(f"{tug} goes out"), argument=tug)
tonnes = Value(12, name="ballast", low=0, high=99)
Button(desk["fill-ballast"], lambda: setattr(tonnes, "current", tonnes.current + 1), while_held="repeat")
cast_off = Button(desk["cast-off"], lambda: print("the line is cast off"), while_held="confirm")
fog_lamp = Toggle(desk["fog-lamp"])
lanterns = Toggle(desk["lanterns"], Value("mixed", options=(False, True, "mixed")))
watch = desk.add("watch", place=Place(height=40), flow=Flow("row", gap=4))
for name in ("first", "middle", "morning"):
    watch.add(name, role="radio", place=Place(grow=1))
watches = RadioGroup(watch, Value("first", name="the watch"))
watches.value.watch(lambda name: print(f"it is the {name} watch"))

router = Router(scene)
hand = Hand(router)
hand.click("desk/orders/send-anchovy")
hand.click("desk/orders/send-bramble")
hand.move("desk/orders/fill-ballast")
hand.press()
hand.wait(1.5)
hand.release()
print(f"{tonnes.current} t of ballast after a second and a half")
hand.move("desk/orders/cast-off")
hand.press()
hand.wait(0.5)
print(f"half a second on: {cast_off.progress.current:.0%}, drawn as {cast_off.look().name!r}")
hand.wait(0.6)
hand.release()
hand.click("desk/orders/fog-lamp")
hand.click("desk/orders/lanterns")
hand.press_keys("Tab", "ArrowRight")  # into the radios, and on to the next
print(f"lamp {fog_lamp.value.current}, lanterns {lanterns.value.current}, middle radio {watches.look('middle').name!r}")
pictures = {"idle": "plain.png", "idle chosen": "lit.png"}
print(f"the renderer has no picture of that, and draws {watches.look('middle').of(pictures)}")
