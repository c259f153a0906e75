"""Lists and tabs: one to choose or several, letters that lead there, and a list that scrolls, by its bar as well."""

from __future__ import annotations

from glent import Flow, Place, Router, Scene
from glent.controls import Listbox, ScrollArea, Scrollbar, Tabs
from glent.testing import Hand

CARGO = ("anvils", "barrels", "candles", "dried-kelp", "eel-traps", "flares", "glass-floats", "hemp-rope", "oars")

scene = Scene(size=(1280, 720))
papers = scene.layer("desk").add("papers", place=Place(40, 40, width=300, height=300), solidity="solid")
bar = papers.add("tabs", place=Place(left=0, right=0, top=0, height=36), flow=Flow("row"))
for name in ("manifest", "crew"):
    bar.add(name, role="tab", place=Place(grow=1))
    papers.add(name, role="tabpanel", place=Place(top=40))
tabs = Tabs(bar)

rows = papers["manifest"].add("rows", place=Place(right=20))
cargo = rows.add("cargo", place=Place(height="fit-content"), flow=Flow("column"))
for name in CARGO:
    cargo.add(name, role="option", place=Place(height=40))
ScrollArea(rows)
ticked = Listbox(cargo, several=True)
side = Scrollbar(papers["manifest"].add("side", place=Place(right=0, width=16)), rows)

hands = papers["crew"].add("hands", place=Place(height="fit-content"), flow=Flow("column"))
for name in ("mabel", "moss", "oskar", "pim"):
    hands.add(name, role="option", place=Place(height=40))
helm = Listbox(hands)

router = Router(scene)
hand = Hand(router)
hand.click("desk/papers/manifest/rows/cargo/barrels")
hand.drag("desk/papers/manifest/side/thumb", (330.0, 339.0))
print(f"scrolled by {rows.scroll[1]:g} px, which is {side.fraction:.0%}")
hand.click("desk/papers/manifest/rows/cargo/oars")
print(f"ticked: {', '.join(ticked.value.current)}")
hand.press_keys("ShiftLeft", "Tab")  # Tab goes by whole lists
hand.press_keys("ShiftLeft", "Tab")
print(f"the focus is on {router.seat().focus.path}")
hand.press_keys("ArrowRight")
print(f"the {tabs.value.current} shows, the manifest {'too' if papers['manifest'].visible else 'does not'}")
hand.press_keys("Tab")
hand.press_keys("ArrowDown")
hand.key("KeyP", key="p")
print(f"at the helm: {helm.value.current[0]}; drawn as {helm.look('pim').name!r}")
