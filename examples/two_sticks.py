"""Two sticks for two thumbs: each keeps its own finger, gives nothing in its dead zone, and springs back."""

from __future__ import annotations

from glent import Ellipse, Place, Router, Scene
from glent.controls import Stick
from glent.testing import Hand

scene = Scene(size=(1280, 720))
crane = scene.layer("crane")
for name, left in (("trolley", 40), ("winch", 1120)):
    node = crane.add(name, place=Place(left=left, bottom=40, width=120, height=120), shape=Ellipse())
    node.add("knob", place=Place(width=40, height=40), solidity="hollow")
trolley = Stick(crane["trolley"], dead_zone=0.2)
winch = Stick(crane["winch"], axis="y", rim="square")

router = Router(scene)
left, right = Hand(router, "finger-1", "touch"), Hand(router, "finger-2", "touch")
left.pos, right.pos = left.point("crane/trolley"), right.point("crane/winch")
left.press()
right.press()
left.move("crane/trolley", at=(0.55, 0.5))
print(f"a little to the right: {trolley.value.current}")
left.move("crane/trolley", at=(0.75, 0.5))
right.move((1180.0, 20.0), steps=4)
x, y = trolley.value.current
print(f"further: ({x:.3f}, {y:.3f}); and the other one, far beyond its rim: {winch.value.current}")
left.release()
print(f"let go: {trolley.value.current}, while the other is still at {winch.value.current}")
right.cancel()
print(f"its finger is taken away by the system: {winch.value.current}")
keys = Hand(router)
keys.press_keys("Tab")  # to the first stop, which is the trolley's stick
keys.key("ArrowUp")
print(f"by key, as long as it is held: {trolley.value.current}")
