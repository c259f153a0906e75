"""A board of tugs that lays itself out: it fits its labels, gives way to longer ones, and stays in its corner."""

from __future__ import annotations

from glent import Flow, Place, Router, Scene
from glent.testing import Hand

TUGS = {"Marrow": "at the pool", "Old Pennant": "sent to the dogleg berth", "Spindrift": "idle"}


def measured(text: str) -> tuple[float, float]:
    """As large as your renderer draws it; here, by the letter."""
    return 8.0 * len(text), 16.0


scene = Scene(size=(1280, 720))
fits = Place(right=20, bottom=20, width="fit-content", height="fit-content", max_width="50%")
board = scene.layer("hud").add("board", place=fits, flow=Flow("column", gap=4, padding=12), solidity="solid")
for tug, doing in TUGS.items():
    line = board.add(tug, place=Place(height="fit-content"), flow=Flow("row", gap=8, align="center"))
    line.add("name", content=measured(tug), place=Place(min_width=96))
    line.add("doing", content=measured(doing), place=Place(grow=1))
    line.add("recall", role="button", place=Place(width=72, height=28))
    line["recall"].on("click", lambda event: print(f"{event.node.parent.name} is recalled"))

router = Router(scene)
hand = Hand(router)
left, top, right, bottom = board.edges
print(f"the board is {right - left:g}×{bottom - top:g} and ends at {right:g}, {bottom:g}")
hand.click("hud/board/Spindrift/recall")

board["Spindrift/doing"].content = measured("recalled, and on her way back from the outer buoy")
left, top, right, bottom = board.edges
print(f"a longer line makes it {right - left:g}×{bottom - top:g}, and it still ends at {right:g}, {bottom:g}")
columns = {line["recall"].edges[2] for line in board.children}
print(f"all three buttons end at {columns.pop():g}")
hand.click("hud/board/Old Pennant/recall")

board["Old Pennant"].visible = False
print(f"without the Old Pennant it is {board.size[1]:g} high")
