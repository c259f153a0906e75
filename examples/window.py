"""A small game in a window: buoys drift in, a click lights one, a click beside them fires a flare. Enter pauses."""

import sys

from glent import Flow, Place, Router, Scene
from glent.adapters.pygame_window import play

scene = Scene(size=(800, 480))
water = scene.layer("water")
desk = scene.layer("desk", order=10)
score = desk.add("score", place=Place(0, 0, height=40), solidity="solid", facts={"text": "light the buoys"})
pause = scene.layer("pause", order=20, modal=True, closed_by="back", visible=False)
menu = pause.add(
    "menu", place=Place(280, 160, width=240, height=130), solidity="solid", flow=Flow("column", gap=10, padding=20)
)
go_on = menu.add("go-on", role="button", place=Place(height=40), facts={"text": "sail on"})
leave = menu.add("leave", role="button", place=Place(height=40), facts={"text": "go ashore"})
router = Router(scene)
game = {"lit": 0, "flares": 0, "made": 0, "over": False}


def light(event):
    event.node.remove()
    game["lit"] += 1


def turn(time, fed):
    for sample, verdict in fed:
        if verdict.world and getattr(sample, "action", "") == "press":
            game["flares"] += 1  # nothing of the UI was there: the water's own
        if verdict.world and getattr(sample, "code", "") == "Enter" and sample.action == "down":
            pause.visible = True
    if not pause.visible and time > game["made"] and len(water) < 12:
        game["made"] += 1
        place = Place(60 + 173 * game["made"] % 680, 80 + 97 * game["made"] % 340, width=60, height=60)
        water.add(f"buoy-{game['made']}", role="button", place=place, facts={"colour": "firebrick"}).on("click", light)
    score.facts["text"] = f"lit {game['lit']}, flares {game['flares']}; Enter pauses"
    return not game["over"]


go_on.on("click", lambda event: setattr(pause, "visible", False))
leave.on("click", lambda event: game.update(over=True))
if __name__ == "__main__":
    play(router, update=turn, title="Buoys", seconds=float(sys.argv[1]) if len(sys.argv) > 1 else None)
    print(score.facts["text"])
