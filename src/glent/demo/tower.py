"""The tower's small world: a chart table, a signal wall, and a harbour that is pointed at; and a barge that sails."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, cast

from glent.core.input.samples import PointerSample, RaySample
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import Sample
    from glent.core.routing.event import DragStart, Event
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.panel import Panel
    from glent.core.scene.scene import Scene
    from glent.core.scene.spot import Spot

__all__ = ["Tower"]

FRAME = 0.1
"""Seconds from one place of the barge to the next."""

LIT = "#e2be68"
"""The colour of a signal that is on."""


@dataclass
class Tower:
    """The tower's handlers and the world behind it.

    :ivar orders: what happened, as sentences, in order.
    :ivar speed: how fast the barge sails east, metres a second.
    """

    scene: Scene
    orders: list[str] = field(default_factory=list)
    chosen: str = "north-berth"
    tide: float = 0.5
    speed: float = 0.0
    lit: set[str] = field(default_factory=set)

    def man(self, router: Router) -> None:
        """Put handlers on the tower."""
        scene = self.scene
        for option in scene["chart-table/berths"].children:
            option.on("click", self._choose)
        scene["chart-table/send"].on("click", lambda event: self.order(f"a tug is sent to {self.chosen}"))
        scene["chart-table/send/urgent"].on("click", lambda event: self.order(f"a tug is rushed to {self.chosen}"))
        scene["chart-table/tide"].on("drag", self._slide)
        scene["chart-table/tide"].on("drag_end", lambda event: self.order(f"the tide is set to {self.tide:.2f}"))
        scene["chart-table/lamp-key"].on("hold", lambda event: self.order("the lamp is held open"))
        scene["chart-table/crate-tag"].on("drag_start", self._take_tag)
        scene["chart-table/ask/let-go"].on("click", lambda event: self._let_go(router))
        scene["chart-table/ask/not-yet"].on("click", lambda event: self._close("the barge stays"))
        scene["chart-table/ask"].on("back", lambda event: self.order("the question is put aside"))
        for lamp in scene["signal-wall"].children:
            lamp.on("click", self._signal)
            lamp.on("dwell", self._gaze)
        for berth in ("north-berth", "dogleg-berth", "pool-berth"):
            scene[berth].accepts = _takes_ropes
            scene[berth].on("drop", self._deliver)
            scene[berth].on("click", self._send_to)
        for number in (1, 2, 3):
            scene[f"bollard-{number}"].on("click", self._make_fast)
        scene["outer-buoy"].on("dwell", self._gaze)
        scene["barge-board/moor"].on("click", lambda event: self._moor())
        scene["barge-board/horn"].on("click", lambda event: self.order("the barge sounds its horn"))
        scene["barge-board/throttle"].on("drag", self._throttle)
        scene["barge"].on("click", self._ask)
        scene["hud/strip/log"].on("click", lambda event: self.order(f"the log has {len(self.orders)} lines"))

    def order(self, text: str) -> None:
        """Note what happened."""
        self.orders.append(text)
        self.scene["hud/strip/note"].facts["text"] = text

    # -- the table -------------------------------------------------------------------------------------------------

    def _choose(self, event: Event) -> None:
        self.chosen = event.here.name
        self.order(f"{self.chosen} is chosen")

    def _slide(self, event: Event) -> None:
        width = event.here.size[0]
        self.tide = min(1.0, max(0.0, event.local[0] / width))
        self.scene["chart-table/tide"].facts["text"] = f"tide {self.tide:.2f}"
        event.here["knob"].place = Place(left=self.tide * (width - 100), top=10, width=100, height=100)

    def _take_tag(self, event: Event) -> None:
        cast("DragStart", event).give("rope")

    def _deliver(self, event: Event) -> None:
        berth = cast("Spot", event.node)
        x, _, z = berth.snap or berth.pose.position
        self.order(f"a crate of {event.data['payload']} is bound for {berth.name}, at {x:g}, {z:g}")

    def _send_to(self, event: Event) -> None:
        berth = cast("Spot", event.here)
        x, _, z = berth.snap or berth.pose.position
        self.order(f"a tug is sent into {berth.name}, to {x:g}, {z:g}")

    def _ask(self, event: Event) -> None:
        self.scene["chart-table/ask"].visible = True
        self.order("the table asks whether the barge may go")

    def _close(self, text: str) -> None:
        self.scene["chart-table/ask"].visible = False
        self.order(text)

    # -- the wall and the harbour --------------------------------------------------------------------------------------

    def _signal(self, event: Event) -> None:
        lamp = event.here.name
        if lamp == "all-dark":
            self.lit.clear()
        else:
            self.lit ^= {lamp}
        for node in self.scene["signal-wall"].children:
            node.facts.update({"colour": LIT}) if node.name in self.lit else node.facts.pop("colour", None)
        self.order(f"signals: {', '.join(sorted(self.lit)) or 'all dark'}")

    def _gaze(self, event: Event) -> None:
        if event.data["done"]:
            self.order(f"{event.here.name} is looked at for long enough")

    def _make_fast(self, event: Event) -> None:
        bollard = cast("Spot", event.here)
        x, y, z = bollard.snap or (0.0, 0.0, 0.0)
        self.order(f"a line is made fast to {bollard.name} at ({x:g}, {y:g}, {z:g})")

    # -- the barge -----------------------------------------------------------------------------------------------------

    def _let_go(self, router: Router) -> None:
        self._close("the barge casts off")
        self.speed = 3.0
        router.at(router.now + FRAME, lambda due: self._sail(router, due))

    def _moor(self) -> None:
        self.speed = 0.0
        self.order("the barge is moored")

    def _throttle(self, event: Event) -> None:
        part = min(1.0, max(0.0, event.local[0] / event.here.size[0]))
        if self.speed:
            self.speed = round(6.0 * part, 3)

    def _sail(self, router: Router, due: float) -> None:
        if not self.speed:
            return
        step = self.speed * FRAME
        for name in ("barge", "barge-board"):
            afloat = cast("Panel | Spot", self.scene[name])
            x, y, z = afloat.pose.position
            afloat.move((round(x + step, 6), y, z))
        router.at(due + FRAME, lambda again: self._sail(router, again))

    # -- the world -----------------------------------------------------------------------------------------------------

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """What the world does with a sample: a press on a spot of it sends a tug there."""
        if not verdict.world or not isinstance(sample, RaySample | PointerSample) or sample.action != "press":
            return
        spot = verdict.spot
        if spot is None or spot.point is None:
            return
        x, _, z = spot.snap or spot.point
        where = "" if spot.node.name == "water" else f" ({spot.node.name})"
        self.order(f"a tug is sent to {x:.1f}, {z:.1f}{where}")


def _takes_ropes(payload: object) -> bool | str:
    return True if payload == "rope" else "only ropes are wanted here"


def hands(side: str) -> Vector3:
    """Where a dispatcher's hands and eyes are, world space, metres."""
    return {"left": (-0.45, 1.45, 0.2), "right": (0.45, 1.45, 0.2), "eyes": (0.0, 1.75, 0.4)}[side]
