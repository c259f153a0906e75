"""A tilted chart table, a curved wall and a harbour, pointed at by two hands, by the eyes, and by the mouse."""

from __future__ import annotations

from glent import Area, Camera, Place, Router, Scene, SnapPoint, Throw
from glent.testing import Fingertip, Hand, Wand

scene = Scene(size=(1280, 720))
table = scene.panel("table", (1.2, 0.8), (1200, 800), position=(0, 0.8, -0.8), facing=(0, 0.8, 0.6))
send = table.add("send", role="button", place=Place(left=100, top=100, width=400, height=200))
send.add("urgent", role="button", carries=["enter", "leave"], place=Place(right=20, bottom=20, width=120, height=80))
tide = table.add("tide", role="slider", place=Place(left=100, top=500, width=1000, height=120))
wall = scene.panel("wall", (None, 0.7), (1800, 300), radius=2.6, arc=100, position=(0, 2.4, -2.6))
lamp = wall.add("lamp", role="switch", place=Place(left=750, top=50, width=300, height=200))
scene.spot("water", Area([(-99, -9), (99, -9), (99, -99), (-99, -99)]), position=(0, -6, 0))
scene.spot("berth", Area([(4, -20), (16, -20), (16, -34), (12, -24), (4, -24)], snap=(10, -22)), position=(0, -5.9, 0))
bollard = scene.spot("bollard", SnapPoint(0.4), position=(3, -5, -20), reach={"ray": 1.5})
scene.camera = Camera(eye=(0, 1.7, 0.8), target=(0, 0.5, -3), fov=60)

for node in (send, send["urgent"], lamp, bollard):
    node.on("click", lambda event: print(f"{event.pointer} clicks {event.node.path}"))
tide.on("drag_end", lambda event: print(f"{event.pointer} lets the tide go at {event.local[0]:.0f} px"))
lamp.on("dwell", lambda event: print("the eyes rest on the lamp") if event.data["done"] else None)

router = Router(scene)
right, left = Wand(router, (0.4, 1.4, 0.2), "right-hand"), Wand(router, (-0.4, 1.4, 0.2), "left-hand")
right.click("table/send/urgent")
right.drag("table/tide", (1.5, 0.8, -0.8))  # off the edge of the table, and the slider goes on
left.click((3.4, -5.0, -20.0))  # a degree beside the bollard
verdict = left.aim((6.0, -5.9, -22.0))
print("world:", verdict.world, "-", verdict.why, "- snaps to", verdict.spot.snap if verdict.spot else None)

eyes = Wand(router, (0.0, 1.7, 0.5), "gaze")
eyes.aim("wall/lamp")
eyes.wait(1.0)

Fingertip(router).poke("table/send", at=(0.2, 0.3))
Hand(router).click("table/send", at=(0.2, 0.3))  # through the camera
print("thrown onto", router.hits_throw(Throw.from_velocity((0, 1.5, 0), (1, 4, -9), length=60))[0].node.path)
