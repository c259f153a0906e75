"""The quay's small world: crates in a hold, a chart, a manifest, a mooring line, and a crane with two sticks."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import partial
from typing import TYPE_CHECKING

from glent.core.routing.event import DragStart, Event
from glent.core.routing.router import Router
from glent.demo.rope import PULLED, RopePull

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node
    from glent.core.scene.place import Place
    from glent.core.scene.scene import Scene

__all__ = ["Quay"]

THROW = 50.0
"""How far a stick's knob goes from its middle, in pixels."""

SPEED = 160.0
"""How fast the crane runs with a stick at its end, in pixels a second."""


@dataclass
class Quay:
    """The quay's handlers and the world behind it.

    :ivar trolley: where the crane's trolley is, from 0 to 1. :ivar hook: how far its hook is down, from 0 to 1.
    :ivar lifted: the crate that is being dragged, and ``answer``: what refuses it, in words.
    :ivar afloat: crates that fell into the water, with where. :ivar orders: what happened, as sentences, in order.
    """

    scene: Scene
    orders: list[str] = field(default_factory=list)
    trolley: float = 0.5
    hook: float = 0.3
    sticks: dict[str, float] = field(default_factory=lambda: {"trolley": 0.0, "winch": 0.0})
    afloat: list[tuple[str, float, float]] = field(default_factory=list)
    progress: float = 0.0
    ballast: int = 12
    bulletin: int = 0
    scale: float = 1.0
    time: float | None = None
    slots: dict[str, str] = field(default_factory=lambda: {"kelp": "floor-1", "anvil": "floor-2", "rope": "shelf-1"})
    chosen: str | None = None
    lifted: str | None = None
    answer: str = ""
    _from: dict[str, Place] = field(default_factory=dict)
    _ran: dict[str, float] = field(default_factory=lambda: {"trolley": 0.0, "winch": 0.0})

    def man(self, router: Router) -> None:
        """Put handlers on the quay."""
        self._man_hold(router)
        self._man_chart(router)
        scene = self.scene
        mooring = scene["quay/mooring"]
        mooring.on("hold_progress", self._watch_line)
        mooring.on("hold", lambda event: self.order("the mooring line is cast off"))
        mooring.on("click", lambda event: self.order("hold it longer to cast off the line"))
        scene["quay/at-once"].on("click", lambda event: router.hold(mooring))
        for name in ("fill", "drain"):
            scene[f"quay/{name}"].on("click", self._pump)
            scene[f"quay/{name}"].on("repeat", self._pump)
        scene["quay/lamp"].on("dwell", self._dwell)
        scene["quay/bulletin"].on("swipe", self._turn_page)
        for row in scene["quay/manifest/list"].children:
            row.on("click", lambda event: self.order(f"{event.node.name} is ticked off"))
        for name in ("trolley", "winch"):
            stick = scene[f"quay/{name}"]
            stick.on("drag", self._steer_stick)
            stick.on("drag_end", self._centre_stick)
        rope = scene["quay/rope"]
        rope.recognise(RopePull)
        rope.on(PULLED, self._pull)

    def order(self, sentence: str) -> None:
        """Note what happened."""
        self.orders.append(sentence)

    # -- the hold ------------------------------------------------------------------------------------------------------

    def _man_hold(self, router: Router) -> None:
        hold = self.scene["quay/hold"]
        hold.accepts = lambda crate: "there is no slot"
        for slot in [node for node in hold.children if "bears" in node.facts]:
            slot.accepts = partial(self._answer, slot)
            slot.on("drop", self._stow)
            slot.on("click", lambda event: self._put_chosen(router, event.node))
        for crate in [node for node in hold.children if "weight" in node.facts]:
            crate.accepts = partial(_is_taken, crate.name)
            crate.on("drag_start", self._lift_crate)
            crate.on("drag", self._carry_crate)
            crate.on("drag_end", self._put_back)
            crate.on("click", self._choose_crate)

    def _answer(self, slot: Node, crate: str) -> str | None:
        weight, bears = self.scene[f"quay/hold/{crate}"].facts["weight"], slot.facts["bears"]
        return f"too heavy: {crate} weighs {weight} kg, and {slot.name} bears {bears}" if weight > bears else None

    def _lift_crate(self, event: DragStart) -> None:
        crate = event.node
        event.give(crate.name)
        self._from[crate.name] = crate.place
        self.lifted = crate.name
        crate.order = 1

    def _carry_crate(self, event: Event) -> None:
        crate = event.node
        self.answer = event.data["answer"]
        left, top, _, _ = crate.edges
        crate.place = crate.place.replace(left=left + event.data["dx"], top=top + event.data["dy"])

    def _stow(self, event: Event) -> None:
        event.take()
        name, slot = event.data["payload"], event.node
        crate = event.data["source"]
        left, top, right, bottom = slot.edges
        width, height = crate.size
        self._from[name] = crate.place.replace(left=(left + right - width) / 2, top=(top + bottom - height) / 2)
        self.slots[name] = slot.name
        self.order(f"{name} is stowed in {slot.name}")

    def _put_back(self, event: Event) -> None:
        crate = event.node
        crate.order = 0
        self.lifted, self.answer = None, ""
        crate.place = self._from.pop(crate.name)
        outcome = event.data["outcome"]
        if outcome == "returned":
            self.order(f"{crate.name} goes back: {event.data['answer']}")
        elif outcome == "world":
            crate.visible = False
        elif outcome != "dropped":
            self.order(f"{crate.name} stays where it was ({outcome})")

    def _choose_crate(self, event: Event) -> None:
        self.chosen = event.node.name
        self.order(f"{self.chosen} is chosen; click a slot to put it there")

    def _put_chosen(self, router: Router, slot: Node) -> None:
        """Drag and drop by single presses (law G9)."""
        if self.chosen is not None:
            crate, self.chosen = self.chosen, None
            router.drag_onto(self.scene[f"quay/hold/{crate}"], slot)

    # -- the chart -----------------------------------------------------------------------------------------------------

    def _man_chart(self, router: Router) -> None:
        chart = self.scene["quay/chart"]
        chart.on("pinch", self._pinch)
        chart.on("drag", lambda event: self._push_chart(event.data["dx"], event.data["dy"]))
        self.scene["quay/chart/closer"].on("click", lambda event: router.pinch(chart, 1.25))
        self.scene["quay/chart/wider"].on("click", lambda event: router.pinch(chart, 0.8))

    def _pinch(self, event: Event) -> None:
        data = event.data
        if data["phase"] == "move":
            sheet = self.scene["quay/chart/sheet"]
            self.scale = min(4.0, max(0.5, self.scale * data["scale_by"]))
            sheet.place = sheet.place.replace(scale=self.scale, turn=sheet.place.turn + data["turn_by"])
            self._push_chart(data["dx"], data["dy"])
        elif data["phase"] == "end":
            turn = self.scene["quay/chart/sheet"].place.turn
            self.order(f"the chart is at scale {self.scale:.2f}, turned by {turn:.0f}°")

    def _push_chart(self, dx: float, dy: float) -> None:
        sheet = self.scene["quay/chart/sheet"]
        left, top, _, _ = sheet.edges
        sheet.place = sheet.place.replace(left=left + dx, top=top + dy)

    # -- the rest ------------------------------------------------------------------------------------------------------

    def _watch_line(self, event: Event) -> None:
        self.progress = event.data["progress"]

    def _pump(self, event: Event) -> None:
        by = 1 if event.node.name == "fill" else -1
        self.ballast = min(99, max(0, self.ballast + by))

    def _dwell(self, event: Event) -> None:
        if event.data["done"]:
            self.order("the lamp is lit by resting on it")

    def _turn_page(self, event: Event) -> None:
        facts = event.node.facts
        self.bulletin = (self.bulletin + (1 if event.data["direction"] == "left" else -1)) % len(facts["pages"])
        facts["text"] = facts["pages"][self.bulletin]
        self.order(f"the bulletin says: {facts['text']}")

    def _steer_stick(self, event: Event) -> None:
        stick = event.node
        way = event.data["x"] if stick.name == "trolley" else event.data["y"]
        way = min(THROW, max(-THROW, way))
        self.sticks[stick.name] = way / THROW
        self._place_knob(stick)

    def _centre_stick(self, event: Event) -> None:
        self.sticks[event.node.name] = 0.0
        self._place_knob(event.node)
        self.order(f"the {event.node.name} stops ({event.data['outcome']})")

    def _place_knob(self, stick: Node) -> None:
        knob, way = stick["knob"], self.sticks[stick.name] * THROW
        axis = {"left": 50 + way} if stick.name == "trolley" else {"top": 50 + way}
        knob.place = knob.place.replace(**axis)

    def _pull(self, event: Event) -> None:
        if event.data["rang"]:
            self.order("the crane's bell rings")

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """Take what the verdict lets through to the world, and let the crane run on."""
        if self.time is not None:
            # Until this sample the sticks were where the one before had put them.
            seconds = sample.time - self.time
            self.trolley = min(1.0, max(0.0, self.trolley + self._ran["trolley"] * SPEED / 440 * seconds))
            self.hook = min(1.0, max(0.0, self.hook + self._ran["winch"] * SPEED / 220 * seconds))
        self.time = sample.time
        self._ran = dict(self.sticks)
        drop = verdict.drop
        if drop is not None:
            x, y = self.scene.from_screen(*drop.point)
            self.afloat.append((str(drop.payload), x, y))
            self.order(f"{drop.payload} falls into the water at ({x:.0f}, {y:.0f})")


def _is_taken(name: str, other: str) -> str:
    return f"{name} is in that slot"
