"""What is in the way: glass is clicked through, a ghost is not there, and every node can say why."""

import glent
from glent.diagnose import why

scene = glent.Scene(size=(400, 300))
desk = scene.layer("desk")
fog = desk.add("fog", shape=glent.Ellipse(), solidity="glass")
chart = desk.add("chart", place=glent.Place(left=100, top=100, width=200, height=100), role="button", order=-1)
label = desk.add("label", place=glent.Place(left=120, top=120, width=100, height=30), solidity="ghost")
router = glent.Router(scene)

for point in [(150, 130), (50, 150), (5, 5)]:
    print(point, "a press goes to the", "world" if router.would_reach_world(*point) else "UI")
    for hit in router.hits(*point):
        print("   ", hit)
for one in why(router, 150, 130):
    print(one.sentence)
