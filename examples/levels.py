"""Sliders: in steps, upright, with two thumbs, several in a row; and how far something has come."""

from __future__ import annotations

from glent import Place, Router, Scene, Value
from glent.controls import Progress, RangeSlider, Slider, SliderRow
from glent.testing import Hand

scene = Scene(size=(1280, 720))
panel = scene.layer("desk").add("levels", place=Place(20, 20, width=300, height=400), solidity="solid")


def rail(name: str, top: float, height: float = 30) -> None:
    panel.add(name, place=Place(left=20, right=20, top=top, height=height))


for name, top in (("tide", 20), ("depth", 70), ("made-fast", 120)):
    rail(name, top)
rail("tanks", 170, 100)

metres = Value(1.25, name="the game's tide", low=0.0, high=4.0)
tide = Slider(panel["tide"], Value(0, low=0, high=400, step=25))
tide.value.bind(metres, forward=lambda m: m * 100, inverse=lambda cm: cm / 100)  # the slider counts in centimetres
depth = RangeSlider(panel["depth"], low=0, high=20, step=1, start=(4, 12), apart=2)
tanks = SliderRow(panel["tanks"], low=0, high=10, step=1, start=[3] * 6)
made_fast = Progress(panel["made-fast"])

router = Router(scene)
hand = Hand(router)
hand.drag(hand.point("desk/levels/tide/thumb"), (400.0, 55.0))
print(f"dragged off its end, the tide stands at {metres.current} m")
metres.current = 2.0
print(f"the game changes it, and the thumb is at {tide.node['thumb'].edges[0]:.0f} px")
hand.press_keys("Tab", "ArrowLeft", "PageUp")
hand.drag("desk/levels/depth/low", (320.0, 105.0))
print(f"depth from {depth.low.current} to {depth.high.current}: the thumbs keep apart")
hand.drag(hand.point("desk/levels/tanks", (0.02, 0.9)), hand.point("desk/levels/tanks", (0.98, 0.1)), steps=3)
print(f"six tanks by one stroke: {[value.current for value in tanks.row]}")
print(f"made fast: {made_fast.fraction}, drawn as {made_fast.look().name!r}")
made_fast.value.current = 0.25
print(f"made fast: {made_fast.fraction:.0%}, so the bar is {made_fast.node['fill'].size[0]:.0f} px long")
