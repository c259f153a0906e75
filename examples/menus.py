"""A menubar with a submenu: gaps and diagonals are forgiven, going away closes it, keys go all the way."""

from __future__ import annotations

from glent import Flow, Place, Router, Scene
from glent.controls import Menu, Menubar
from glent.testing import Hand

scene = Scene(size=(1280, 720))
bar = scene.layer("desk").add("bar", place=Place(top=0, height=32), flow=Flow("row", padding=2), solidity="solid")
for name in ("harbour", "cargo"):
    bar.add(name, role="menuitem", place=Place(width=100))
popups = scene.layer("popups", order=9)


def menu(name: str, *items: str) -> None:
    made = popups.add(name, place=Place(width=140, height="fit-content"), flow=Flow("column"))
    for item in items:
        made.add(item, role="menuitem", place=Place(height=30))


menu("harbour", "open-gate", "buoys", "pilots")
menu("buoys", "red", "green", "bell", "wreck")
menu("cargo", "weigh", "lash")
harbour = Menu(popups["harbour"], bar["harbour"], gap=6)
buoys = Menu(popups["buoys"], popups["harbour/buoys"], above=harbour, gap=10)
cargo = Menu(popups["cargo"], bar["cargo"], gap=6)
Menubar(bar, {"harbour": harbour, "cargo": cargo})
buoys.on("choose", lambda name: print(f"the {name} buoy is lit"))
cargo.on("close", lambda cause: print(f"the cargo menu is closed: {cause}"))


def shown() -> str:
    return ", ".join(one.node.name for one in (harbour, buoys, cargo) if one.is_open) or "none"


router = Router(scene)
hand = Hand(router)
hand.click("desk/bar/harbour")
hand.move("popups/harbour/buoys", steps=6)
hand.wait(0.3)
print(f"open: {shown()}")
hand.move("popups/buoys/wreck", steps=12)  # aslant, over the gap and the item below
print(f"on the way nothing else has opened: {shown()}")
hand.click("popups/buoys/bell")
print(f"open: {shown()}")
hand.click("desk/bar/harbour")
hand.move("desk/bar/cargo", steps=4)
print(f"along the bar: {shown()}")
hand.move((900.0, 500.0), steps=4)
hand.wait(0.2)
print(f"away for a moment: {shown()}")
hand.wait(0.2)
hand.press_keys("Tab")
for key in ("ArrowUp", "ArrowUp", "ArrowRight", "End", "Enter"):
    hand.press_keys(key)
