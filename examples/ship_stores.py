"""What goes on board: which tug from a list that drops down, how many casks, where in the hold, and a log to write."""

from __future__ import annotations

from glent import Flow, Node, Place, Router, Scene
from glent.controls import Combobox, Listbox, Spinbutton, TextField, Tree
from glent.testing import Hand

scene = Scene(size=(880, 550))
desk = scene.layer("desk")

names = desk.add("tugs", place=Place(width=160, height=96), order=1).add("names", flow=Flow("column"))
for name in ("anchovy", "bream", "cod"):
    names.add(name, role="option", place=Place(height=32))
tug = Combobox(desk.add("tug", place=Place(20, 20, width=160, height=36)), names.parent, Listbox(names), start="bream")

casks = Spinbutton(desk.add("casks", place=Place(220, 20, width=120, height=36)), low=0, high=40, start=6)


def add_branch(above: Node, name: str, *leaves: str) -> None:
    """An item of the tree with its branch: a flow that closes up when the branch does."""
    item = above.add(name, role="treeitem", place=Place(height="fit-content"), flow=Flow("column"))
    item.add("knob", place=Place(width=20, height=24), solidity="glass")
    branch = item.add("in", role="group", place=Place(height="fit-content"), flow=Flow("column", padding=(0, 0, 0, 20)))
    for leaf in leaves:
        branch.add(leaf, role="treeitem", place=Place(height=24))


shelves = desk.add("hold", place=Place(380, 20, width=200, height=300), flow=Flow("column"))
add_branch(shelves, "fore", "kelp", "rope")
add_branch(shelves, "aft", "tar")
hold = Tree(shelves, opened=["fore"])

log = TextField(desk.add("log", place=Place(620, 20, width=240, height=112)), lines=5)

router = Router(scene)
hand = Hand(router)
hand.click("desk/tug")
hand.press_keys("ArrowDown")
hand.press_keys("Enter")
print(f"the tug is {tug.shown}, and the list is {'open' if tug.is_open else 'closed'}")

router.seat().focus = casks.node
for digit in "12":
    hand.key(f"Digit{digit}", key=digit)
    hand.key(f"Digit{digit}", "up", key=digit)
hand.press_keys("ArrowUp")
print(f"{casks.shown} casks")

hand.click("desk/hold/aft/knob")
hand.click("desk/hold/aft/in/tar")
print(f"stowed in {hold.value.current}; open are {', '.join(hold.open.current)}")

hand.click("desk/log")
hand.type("Thirteen casks of tar for the cod,")
hand.press_keys("Enter")
hand.type("stowed aft.")
print([log.shown[line.start : line.end] for line in log.lines])
