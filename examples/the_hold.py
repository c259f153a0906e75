"""Slots with crates: dragged, or picked up and put down by single presses; the hold says what may lie where."""

from __future__ import annotations

from glent import Flow, Place, Router, Scene
from glent.controls import Slots
from glent.testing import Hand

WEIGHTS = {"kelp": 30, "rope": 25, "anvil": 90}

scene = Scene(size=(1280, 720))
hold = scene.layer("desk").add(
    "hold", place=Place(40, 40, width=256, height="fit-content"), flow=Flow("grid", columns=4, gap=4)
)
for name in ("shelf-1", "shelf-2", "shelf-3", "shelf-4", "floor-1", "floor-2", "floor-3", "floor-4"):
    hold.add(name, role="gridcell", place=Place(height=60))


def bears(slot: str, crate: str) -> str | None:
    if slot.startswith("shelf") and WEIGHTS[crate] > 40:
        return f"{crate} weighs {WEIGHTS[crate]} kg, and a shelf bears 40"
    return None


slots = Slots(hold, columns=4, accepts=bears)
for slot, crate in (("shelf-1", "kelp"), ("shelf-2", "rope"), ("floor-4", "anvil")):
    slots.put(slot, crate)
slots.on("moved", lambda carried, slot: print(f"{carried.item} lies in {slot} now"))
slots.on("refused", lambda carried, why: print(f"{carried.item} stays where it is: {why}"))

router = Router(scene)
hand = Hand(router)
hand.drag("desk/hold/shelf-1", "desk/hold/floor-1")
hand.drag("desk/hold/floor-4", "desk/hold/shelf-3")
hand.drag("desk/hold/floor-1", "desk/hold/shelf-2")  # onto the rope: they change places
hand.click("desk/hold/floor-1")
print(f"picked up from {slots.picked}, drawn as {slots.look('floor-1').name!r}")
hand.click("desk/hold/floor-2")
router.seat().focus = hold["shelf-2"]
for key in ("Enter", "ArrowLeft", "Enter"):  # and so by keys
    hand.press_keys(key)
print(dict(sorted(slots.items.items())))
