"""A list of 100,000 lots that shows ten: what shows has nodes, keys reach all of it, and the game's list is its own."""

from __future__ import annotations

from glent import ListValue, Node, Place, Router, Scene
from glent.controls import Listbox
from glent.testing import Hand


class Lot:
    """What is auctioned on the quay: a thing of the game's, which knows nothing of nodes."""

    def __init__(self, number: int) -> None:
        self.name = f"lot {number:06}"


class Auction:
    def __init__(self) -> None:
        self.lots = [Lot(number) for number in range(100_000)]


def show(row: Node, lot: Lot) -> None:
    row.label = lot.name
    row.facts["text"] = lot.name


auction = Auction()
scene = Scene(size=(320, 400))
router = Router(scene)
listbox = Listbox(scene.layer("hud").add("lots", place=Place(left=10, top=10, width=300, height=240)))
lots = ListValue.of(auction, "lots", key=lambda lot: lot.name)
listbox.follow_items(lots, show, height=24)
polled = lots.poll_with(router)  # what the game does to its list shows at the next sample or tick

hand = Hand(router)
hand.move("hud/lots/lot 000003")
hand.wheel(dy=24_000)
print(f"{len(listbox.node.children)} rows have nodes:", [row.name for row in listbox.node.children][:4], "…")
hand.press_keys("Tab")
for key in ("End", "ArrowUp", "PageUp"):
    hand.press_keys(key)
    print(f"{key} leads to {listbox.value.current[0]}")
chosen = listbox.chosen[0]
auction.lots.insert(0, Lot(100_000))
auction.lots.remove(auction.lots[5])
hand.wait(0.1)
print(f"{chosen.name} keeps its node: {listbox.chosen == [chosen]}, and the focus: {router.seat().focus is chosen}")
