"""A drag handle in a cargo card: the handle keeps the drag, and lets the click and the hover go up to the card."""

import glent
from glent.testing import Hand

scene = glent.Scene(size=(400, 200))
manifest = scene.layer("manifest")
card = manifest.add("kelp-crates", role="button", place=glent.Place(left=20, top=20, width=240, height=60))
handle = card.add("handle", role="button", place=glent.Place(right=0, top=0, bottom=0, width=40))
card.on("click", lambda event: print("  the card is opened"))
card.on("drag_end", lambda event: print("  the whole card was dragged"))
handle.on("drag_end", lambda event: print(f"  the handle was dragged by {event.data['x']:g}, {event.data['y']:g} px"))
hand = Hand(glent.Router(scene))

for carries in [None, ("enter", "press", "release", "click")]:
    handle.carries = carries
    print(f"handle.carries = {carries}")
    hand.move(handle)
    print(f"  looks: handle {handle.look}, card {card.look}")
    hand.click(handle)
    hand.drag(handle, (240, 150))
