"""A tiny world: tugs that go where the verdict lets a click on the water send them, and the desk that answers."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING

from glent.core.input.samples import PointerSample, Sample, WheelSample
from glent.core.routing.event import Event
from glent.core.routing.router import Router

if TYPE_CHECKING:
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.handlers import Subscription
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Harbour", "Tug"]

KNOTS = 90.0
"""How many pixels of the scene a tug makes in a second."""

CRATE_STEP = 64.0


@dataclass
class Tug:
    """A tug on the water, in scene pixels."""

    name: str
    x: float
    y: float
    goal: tuple[float, float] | None = None

    def sail(self, seconds: float) -> None:
        """Go on towards the goal."""
        if self.goal is None:
            return
        dx, dy = self.goal[0] - self.x, self.goal[1] - self.y
        far = (dx * dx + dy * dy) ** 0.5
        step = KNOTS * seconds
        if far <= step:
            self.x, self.y = self.goal
            self.goal = None
        else:
            self.x += dx / far * step
            self.y += dy / far * step


@dataclass
class Harbour:
    """The desk's handlers and the world behind it.

    :ivar zoom: the chart's zoom, turned by the wheel over open water. :ivar turned: how far the view was dragged.
    :ivar orders: what was ordered, as sentences, in order.
    """

    scene: Scene
    tugs: list[Tug] = field(
        default_factory=lambda: [
            Tug("anchovy", 420.0, 560.0),
            Tug("bramble", 560.0, 610.0),
            Tug("cormorant", 1000.0, 560.0),
        ]
    )
    chosen: str = "anchovy"
    zoom: float = 1.0
    turned: float = 0.0
    orders: list[str] = field(default_factory=list)
    time: float | None = None
    _turning: tuple[float, float] | None = None
    _catch: Subscription | None = None

    def man(self, router: Router) -> None:
        """Put handlers on the desk."""
        scene = self.scene
        hud = "hud/toolbar/"
        scene[hud + "send-tug"].on("click", lambda event: self.order(f"{self.chosen} is told to make steam"))
        scene[hud + "recall"].on("click", self._recall)
        self._catch = scene[hud + "horn"].on("click", self._free_horn)
        scene[hud + "flares"].on("click", lambda event: self.order("flares go up"))
        scene[hud + "watch"].on("click", lambda event: self.order("the watch is noted"))
        scene[hud + "watch/relief"].on("click", self._relief)
        scene["hud/tugs/dismiss"].on("click", lambda event: scene["hud/tugs"].remove())
        for option in scene["hud/tugs/list"].children:
            option.on("click", self._choose)
        compass = scene["hud/compass"]
        compass.on("click", self._turn_north)
        compass.on("enter", lambda event: self._nudge(scene["hud/compass/needle"], 3))
        compass.on("leave", lambda event: self._nudge(scene["hud/compass/needle"], -3))
        scene["dial/tide"].on("click", lambda event: self.order("the tide is read"))
        crates = scene["hud/hold/crates"]
        crates.on("wheel", self._scroll)
        for crate in crates.children:
            crate.on("click", self._ship)
            # Never heard: the handler before it removes the crate (law R3).
            crate.on("click", lambda event: self.order(f"{event.node.name} is still here"))
        scene["hud/crane/mast"].on("click", lambda event: self.order("the crane swings"))
        scene["hud/crane/hook"].on("click", self._hook)
        lamp = scene["hud/lighthouse"]
        lamp.on("click", lambda event: self._light(router, event))
        scene["hud/notices/notice/understood"].on("click", self._understood)
        # The desk's log hears every click on its way down, and takes none.
        scene["hud"].on("click", lambda event: self.order(f"log: {event.node.name}"), phase="capture")

    # -- what the desk does ------------------------------------------------------------------------------------------

    def order(self, sentence: str) -> None:
        """Note an order."""
        self.orders.append(sentence)

    def _choose(self, event: Event) -> None:
        self.chosen = event.node.name
        self.order(f"{self.chosen} is chosen")

    def _recall(self, event: Event) -> None:
        for tug in self.tugs:
            tug.goal = None
        self.order("all tugs stop")
        self.scene["hud/notices"].visible = True

    def _understood(self, event: Event) -> None:
        self.scene["hud/notices"].visible = False
        self.order("the notice is read")

    def _free_horn(self, event: Event) -> None:
        """The first click only frees the horn: what is added during an event is not heard by it (law R4)."""
        if self._catch is not None:
            self._catch.stop()
        event.here.on("click", lambda event: self.order(f"the horn sounds, {event.count} in a row"))
        self.order("the horn is freed")

    def _relief(self, event: Event) -> None:
        event.take()
        self.order("the watch is relieved")

    def _nudge(self, needle: Node, by: float) -> None:
        needle.place = needle.place.replace(turn=needle.place.turn + by)

    def _turn_north(self, event: Event) -> None:
        needle = self.scene["hud/compass/needle"]
        needle.place = needle.place.replace(turn=0)
        self.order("the chart turns north")

    def _scroll(self, event: Event) -> None:
        crates = event.here
        lines = event.data["dy"] * CRATE_STEP
        longest = max(child.edges[3] for child in crates.children) - crates.size[1] + 4
        crates.scroll = (0.0, min(max(0.0, crates.scroll[1] + lines), max(0.0, longest)))
        event.take()

    def _ship(self, event: Event) -> None:
        self.order(f"{event.node.name} goes aboard")
        event.node.remove()

    def _hook(self, event: Event) -> None:
        raise RuntimeError("the hook is jammed")

    def _light(self, router: Router, event: Event) -> None:
        self.order("the light goes round")
        # The lamp swings the pointer's attention to the water: a sample fed from inside a handler waits its turn.
        router.feed(PointerSample(event.time, "move", 640.0, 560.0))

    # -- the world -----------------------------------------------------------------------------------------------------

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """Take what the verdict lets through to the world, and let the tugs sail on."""
        if self.time is not None:
            for tug in self.tugs:
                tug.sail(sample.time - self.time)
        self.time = sample.time
        if verdict.lifts:
            self._turning = None
        if not verdict.world or not isinstance(sample, PointerSample | WheelSample):
            return
        x, y = self.scene.from_screen(sample.x, sample.y)
        if isinstance(sample, WheelSample):
            self.zoom = round(min(4.0, max(0.5, self.zoom * 1.1**-sample.dy)), 4)
        elif sample.action == "press":
            self._turning = (x, y)
        elif sample.action == "move" and self._turning is not None:
            self.turned += x - self._turning[0]
            self._turning = (x, y)
        elif sample.action == "release":
            self._turning = None
            if sample.button in (None, 0):
                self.send(x, y)

    def send(self, x: float, y: float) -> None:
        """Send the chosen tug to a place on the water."""
        tug = next((tug for tug in self.tugs if tug.name == self.chosen), None)
        if tug is not None:
            tug.goal = (x, y)
            self.order(f"{tug.name} is sent to ({x:.0f}, {y:.0f})")
