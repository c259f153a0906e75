"""A window within the screen: moved by its title, sized by its edges, raised, closed, and put where it was last."""

from __future__ import annotations

from glent import Place, Router, Scene
from glent.controls import ToolWindow
from glent.testing import Hand

scene = Scene(size=(1280, 720))
desk = scene.layer("desk")
chart = ToolWindow(desk.add("chart", place=Place(100, 100, width=300, height=200)), min_size=(160, 100))
log = ToolWindow(desk.add("log", place=Place(250, 180, width=300, height=200)))
kept: dict[str, tuple[float, ...]] = {}
chart.on("place", lambda *box: kept.update(chart=box))
chart.on("close", lambda: print("the chart is closed"))

router = Router(scene)
hand = Hand(router)
print(f"in front at (300, 250): {router.hits(300, 250)[0].node.lineage()[1].name}")
hand.click((120.0, 250.0))
print(f"after a click on it: {router.hits(300, 250)[0].node.lineage()[1].name}")
hand.drag("desk/chart/title", (2000.0, 114.0))
print(f"dragged far to the right, it stays on the desk: {kept['chart']}")
hand.drag("desk/chart/size-left", (1000.0, 200.0))
hand.move("desk/chart/title")
hand.press()
hand.move((500.0, 500.0), steps=4)
hand.press_keys("Escape")
print(f"a drag that is abandoned puts it back: {desk['chart'].edges[:2]}")
hand.release()
router.seat().focus = desk["chart/title"]
hand.press_keys("ArrowDown")
hand.press_keys("ShiftLeft", "ArrowDown")
print(f"by keys: {kept['chart']}")
hand.click("desk/chart/title/close")
