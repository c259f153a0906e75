"""A pause menu over a held key: nobody walks on behind it, and nothing has to be switched back."""

from __future__ import annotations

from glent import Bindings, Place, Router, Scene
from glent.testing import Hand

scene = Scene(size=(640, 360))
hud = scene.layer("hud")
menu = scene.layer("menu", order=10, claims=["pointer", "keys", "pad"], cursor="shown", visible=False)
menu.modal, menu.closed_by = True, "back"
sail_on = menu.add("sail-on", role="button", place=Place(left=240, top=120, width=160, height=40))
leave = menu.add("leave", role="button", place=Place(left=240, top=180, width=160, height=40))
scene.layer("look", cursor="locked")

hud.on("harbour:menu", lambda event: setattr(menu, "visible", True))
sail_on.on("click", lambda event: setattr(menu, "visible", False))
leave.on("click", lambda event: print("    (the pilot goes ashore)"))

router = Router(scene)
seat = router.seat()
seat.bindings = Bindings({"harbour:menu": ["F10", "center_right"]})
hand = Hand(router)


def show(what: str) -> None:
    """What became of the last sample, and what the world believes to be down."""
    verdict = hand.verdicts[-1]
    lifts = f"; lifts {', '.join(verdict.lifts)}" if verdict.lifts else ""
    print(f"{what:22} {'world' if verdict.world else '     '}  {verdict.why}{lifts}")
    focus = seat.focus.path if seat.focus is not None else "nowhere"
    print(f"{'':29} held {sorted(seat.held)}, focus {focus}, cursor {seat.cursor}")


hand.key("KeyW")
show("W goes down")
hand.key("F10")
show("F10 opens the menu")
hand.key("F10", "up")
hand.press_keys("ArrowDown")
hand.press_keys("Enter")
show("Enter on leave")
hand.key("Escape")
show("Escape closes it")
hand.key("Escape", "up")
hand.key("KeyW", "up")
show("W comes up at last")
hand.key("KeyW")
show("W goes down anew")
