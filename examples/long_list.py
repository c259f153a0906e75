"""A clipped list of 10,000 rows, scrolled by the wheel: a step costs the same as in a list of ten."""

import glent
from glent import Place

scene = glent.Scene(size=(320, 400))
rows = scene.layer("hud").add("rows", place=Place(left=10, top=10, width=300, height=380), clips=True, solidity="solid")
for number in range(10_000):
    rows.add(f"row-{number}", place=Place(left=0, right=0, top=number * 24, height=24), role="option")


def scroll(event: glent.Event) -> None:
    rows.scroll = (0, max(0, rows.scroll[1] + event.data["dy"]))
    event.take()


rows.on("wheel", scroll)
router = glent.Router(scene)
router.feed(glent.PointerSample(0.0, "move", 100.0, 100.0))
for step in range(1, 4):
    verdict = router.feed(glent.WheelSample(step * 0.1, 100.0, 100.0, 0.0, 2400.0))
    router.settle()
    print(verdict.why, "- now hovered:", [node.name for node in rows.children if node.hovered])
