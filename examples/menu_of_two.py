"""A small button in a large one: which kinds of event go up is said kind by kind."""

import glent
from glent.testing import Hand

scene = glent.Scene(size=(300, 100))
row = scene.layer("list").add("barge", role="button")
star = row.add("star", role="button", place=glent.Place(right=10, top=30, width=40, height=40))
row.on("click", lambda event: print("  the barge is opened"))
star.on("click", lambda event: print("  the star is toggled"))
hand = Hand(glent.Router(scene))

for carries in [None, ("enter",), ("enter", "press", "release", "click")]:
    star.carries = carries
    print(f"star.carries = {carries}")
    hand.move(star)
    print(f"  looks: star {star.look}, barge {row.look}")
    hand.click(star)
