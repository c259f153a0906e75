"""Drag and drop with reasons: a shelf that refuses what is too heavy for it."""

from glent import DragStart, Event, Place, Router, Scene
from glent.testing import Hand

WEIGHTS = {"kelp": 30, "anvil": 90}
scene = Scene(size=(500, 200))
hold = scene.layer("quay").add("hold", place=Place(left=10, top=10, width=480, height=180), solidity="solid")
shelf = hold.add("shelf", place=Place(left=260, top=20, width=200, height=140))
shelf.accepts = lambda crate: None if WEIGHTS[crate] <= 40 else f"{crate} weighs {WEIGHTS[crate]} kg, I bear 40"


def lift(event: DragStart) -> None:
    event.give(event.node.name)


def over(event: Event) -> None:
    print(f"over the {event.node.name}: {event.data['answer'] or 'welcome'}")


for number, name in enumerate(WEIGHTS):
    crate = hold.add(name, place=Place(left=20, top=20 + number * 70, width=80, height=60))
    crate.on("drag_start", lift)
    crate.on("drag_end", lambda event: print(f"{event.data['payload']}: {event.data['outcome']}"))
shelf.on("drag_enter", over)
shelf.on("drop", lambda event: print(f"{event.data['payload']} is stowed"))

hand = Hand(Router(scene))
for name in WEIGHTS:
    hand.drag(f"quay/hold/{name}", "quay/hold/shelf")
    print(hand.verdicts[-1].why)
