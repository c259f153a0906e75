"""The gallery's small world: a night at the harbour, told by one of each control, and wired to them by name."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

from glent.controls import Controls, Dialog, Slots, Subscription
from glent.core.value import Value
from glent.demo.authority import HarbourMaster, delayed
from glent.wiring import Requests, Wiring

if TYPE_CHECKING:
    from glent.controls.slots import SlotDrag
    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene
    from glent.wiring import Message

__all__ = ["Gallery"]

UPPER = 40
"""What a slot of the upper row bears, in kilograms."""

WEIGHTS = {"kelp": 30, "rope": 25, "anvil": 90}
HOOK = 60.0
"""How fast the hook runs with a stick at its rim, in pixels a second."""


@dataclass
class Gallery:
    """The game behind the gallery: its own values and orders. What the UI needs of it, it gets by name.

    :ivar orders: what happened, as sentences, in order. :ivar tide, wind: in metres and in steps.
    :ivar ballast: in tonnes. :ivar hook: where the crane's hook is, from its middle, in pixels.
    """

    scene: Scene
    orders: list[str] = field(default_factory=list)
    tide: Value[float] = field(default_factory=lambda: Value(1.5, name="the tide", low=0.0, high=4.0))
    wind: Value[float] = field(default_factory=lambda: Value(4, name="the wind", low=0, high=12))
    watch: Value[str] = field(default_factory=lambda: Value("middle", name="the watch"))
    mooring: Value[float] = field(default_factory=lambda: Value(name="the mooring", low=0.0, high=1.0))
    call_sign: Value[str] = field(default_factory=lambda: Value("KELP 7", name="the call sign"))
    master: HarbourMaster = field(default_factory=HarbourMaster)
    ballast: int = 12
    hook: tuple[float, float] = (0.0, 0.0)
    time: float | None = None

    def man(self, router: Router) -> None:
        """Make the controls, wire them, and bind all names."""
        self.controls = Controls(self.scene)

        def take(answer: Message) -> None:
            self.requests.receive(answer)

        self.requests = Requests(router, delayed(router, self.master, take))
        self.lamp: Value[bool] = Value(False, name="the fog lamp")
        self.ways = {name: Value((0.0, 0.0), name=name) for name in ("trolley", "winch")}
        starts = {"lanterns": "mixed", "paper": "manifest", "ticked": (), "at-the-helm": ("mabel",)}
        others: dict[str, Value[Any]] = {name: Value[Any](start, name=name) for name, start in starts.items()}
        self.values: dict[str, Value[Any]] = {
            "tide": self.tide,
            "wind": self.wind,
            "watch": self.watch,
            "mooring": self.mooring,
            "call-sign": self.call_sign,
            "fog-lamp": self.lamp,
            **self.ways,
            **others,
        }
        self.lamp.watch(lambda on: self.order("the fog lamp is lit") if on else None)
        self.wiring = Wiring(self.scene, self.controls, self.requests)
        self._acts: list[Subscription] = []
        self.wire()

    def wire(self) -> None:
        """Bind all names; again, after the scene file was read again."""
        self.wiring.detach()
        self.controls.refresh()
        wiring = self.wiring = Wiring(self.scene, self.controls, self.requests)
        for name, value in self.values.items():
            wiring.bind(name, value)
        wiring.on("send-tug", lambda tug: self.order(f"{tug} goes out"))
        wiring.on("pump", self._pump)
        wiring.on("cast-off", self._cast_off)
        wiring.on("ask-pilot", self._ask)
        wiring.on("hail", lambda sign: self.order(f"hailed: {sign or 'nobody'}"))
        wiring.on("unlock", lambda word: self.order("the cabinet opens" if word == "ebb" else "the cabinet stays shut"))
        wiring.on("call-hand", lambda name: self.order(f"{name} is called"))
        wiring.on("flash", lambda: self.order("the lamp flashes"))
        wiring.on("long-flash", lambda: self.order("the lamp flashes long"))
        wiring.on("hoist", lambda: self.order("the flags go up"))
        for name in ("bar-choice", "harbour-order", "light-buoy", "cargo-order"):
            wiring.on(name, lambda item, name=name: self.order(f"{name}: {item}"))
        hold = self.controls.of(Slots, "desk/levels/hold")
        hold.accepts = self._bears
        for act in self._acts:
            act.stop()
        self._acts = [
            hold.on("moved", self._moved),
            hold.on("refused", lambda carried, why: self.order(f"{carried.item} stays: {why}")),
        ]
        wiring.start()

    def order(self, sentence: str) -> None:
        """Note what happened."""
        self.orders.append(sentence)

    # -- what the UI asks for ------------------------------------------------------------------------------------------

    def _pump(self, tonnes: int) -> None:
        self.ballast = min(99, self.ballast + tonnes)

    def _cast_off(self) -> None:
        self.mooring.current = 0.0
        self.order("the line is cast off")

    def _ask(self) -> None:
        dialog = self.controls.of(Dialog, "notices/question")
        let_go, hold = "let it go", "hold it"
        dialog.ask("Barge 7 asks to be let go before the tide turns.", (let_go, hold), self._decided, hold, hold)

    def _decided(self, choice: str | None) -> None:
        self.order(f"barge 7: {choice}")

    @staticmethod
    def _bears(slot: str, item: str) -> str | None:
        weight = WEIGHTS.get(item, 0)
        if slot.startswith("a") and weight > UPPER:
            return f"{item} weighs {weight} kg, and the upper row bears {UPPER}"
        return None

    def _moved(self, carried: SlotDrag, slot: str) -> None:
        self.order(f"{carried.item} lies in {slot} now")

    # -- what there is to be read --------------------------------------------------------------------------------------

    def show(self) -> None:
        """Write what is otherwise by now onto the nodes."""
        reasons = [control.reason for control in self.controls.values() if control.reason]
        x, y = self.hook
        state = f"hook {x:+.0f}, {y:+.0f}; wind {self.wind.current:g}; {self.watch.current} watch"
        for path, text in {
            "desk/orders/ballast": f"fill ballast: {self.ballast} t",
            "popups/tide-tip": f"the tide stands at {self.tide.current:.2f} m",
            "desk/orders/lamps/notices": "\n".join([*reasons, state]),
            "desk/papers/log": "\n".join(self.orders[-16:]) or "nothing has happened yet",
        }.items():
            self.scene[path].facts["text"] = text

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """Let the crane run, and the line be made fast again."""
        past = 0.0 if self.time is None else max(0.0, sample.time - self.time)
        self.time = sample.time
        (across, _), (_, down) = self.ways["trolley"].current, self.ways["winch"].current
        x, y = self.hook
        self.hook = (
            max(-200.0, min(200.0, x + across * HOOK * past)),
            max(0.0, min(120.0, y + down * HOOK * past)),
        )
        if self.mooring.ready and self.mooring.current < 1.0:
            self.mooring.current = self.mooring.current + past / 8.0
