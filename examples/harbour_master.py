"""Requests: an act that needs consent goes out as a message; pending looks pending, a refusal says why."""

from __future__ import annotations

from glent import Place, Router, Scene
from glent.controls import Button
from glent.demo.authority import HarbourMaster, delayed
from glent.testing import Hand
from glent.wiring import Requests

scene = Scene(size=(1280, 720))
desk = scene.layer("desk")
router = Router(scene)
master = HarbourMaster({"anchovy": 120.0, "bramble": 910.0})
requests = Requests(router, delayed(router, master, lambda answer: requests.receive(answer), delay=0.4), timeout=2.0)

buttons = {}
for number, tug in enumerate(master.tugs):
    button = buttons[tug] = Button(desk.add(tug, place=Place(20, 20 + 60 * number, width=160, height=48)), argument=tug)
    button.on("act", lambda tug, button=button: requests.ask("send-tug", tug, button.seat, button))

hand = Hand(router)
for tug, button in buttons.items():
    hand.click(button.node)
    (request,) = requests.pending.values()
    print(f"{request.message}: {tug} is {button.look().name!r}")
    hand.wait(0.5)
    print(f"  {request.state}{': ' + button.reason if button.reason else ''}; {button.look().name!r}")

slow = Requests(
    router, delayed(router, master, lambda answer: print(f"late: {slow.receive(answer)}"), delay=3.0), timeout=1.0
)
request = slow.ask("send-tug", "anchovy").then(lambda one: print(f"{one.state}: {one.reason}"))
hand.wait(4.0)
