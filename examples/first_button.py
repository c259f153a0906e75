"""A panel with a button: it lights, presses and clicks, and no click on it reaches the water behind."""

import glent

scene = glent.Scene(size=(1280, 720), fit="contain")
hud = scene.layer("hud", order=10)
bar = hud.add("bar", place=glent.Place(left=0, right=0, top=0, height=56), solidity="solid")
send = bar.add("send-tug", place=glent.Place(left=12, top=8, width=140, height=40), role="button")
send.on("click", lambda event: print("a tug is sent"))

router = glent.Router(scene)
for time, action, x, y in [
    (0.0, "move", 60, 28),
    (0.2, "press", 60, 28),
    (0.3, "release", 60, 28),
    (0.9, "press", 600, 400),
]:
    verdict = router.feed(glent.PointerSample(time, action, x, y))
    print(f"{action:8} to the {'world' if verdict.world else 'UI'}: {verdict.why} ({send.look})")
