"""Two players in a split window: each has devices, a viewport, a focus and a menu of their own."""

from __future__ import annotations

from glent import Place, Router, Scene
from glent.testing import Hand

scene = Scene(size=(640, 360))
router = Router(scene)
port = router.seat()
port.viewport = (0.0, 0.0, 0.5, 1.0)
starboard = router.add_seat("starboard", devices=["pad1"], viewport=(0.5, 0.0, 0.5, 1.0))

menus = {}
for seat in router.seats:
    menu = menus[seat.name] = scene.layer(f"menu-{seat.name}", seats=[seat.name], modal=True, visible=False)
    menu.closed_by = "back"
    for number, name in enumerate(("sail-on", "go-ashore")):
        menu.add(name, role="button", place=Place(left=240, top=120 + number * 60, width=160, height=40))

hand = Hand(router)
hand.key("KeyW")
hand.pad("left_stick_x", 0.8, pad=1)
print("the world holds:", {seat.name: sorted(seat.held) for seat in router.seats})

menus["starboard"].visible = True
router.settle()
print("starboard pauses alone; lifted:", *router.take_lifts())
print("focus:", {seat.name: seat.focus.path if seat.focus else None for seat in router.seats})

x, y = scene.point(menus["starboard"]["go-ashore"], 80, 20)
verdict = hand.move((x, y))
print(f"a shared mouse at ({x:g}, {y:g}) is {verdict.seat}'s: {verdict.why}")
verdict = hand.move((100.0, 100.0))
print(f"at (100, 100) it is {verdict.seat}'s: {verdict.why}")

menus["starboard"].for_others = "blocked"
verdict = hand.key("KeyD")
print("now that menu holds up everybody:", verdict.why, verdict.lifts)
