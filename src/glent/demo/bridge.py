"""The bridge's small world: pilots who steer boats by what they hold down, and the menus that come in between."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from typing import TYPE_CHECKING

from glent.core.input.samples import KeySample, PadSample, PointerSample
from glent.core.scene.place import Place

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.event import Event
    from glent.core.routing.router import Router
    from glent.core.routing.seats.seat import Asked
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene

__all__ = ["Boat", "Bridge"]

STEERS = {"KeyW": "ahead", "KeyS": "astern", "KeyA": "to port", "KeyD": "to starboard"}
SPEED = {"full": 60.0, "slow": 25.0, "stop": 0.0}
"""How fast a boat runs, in metres a second, by the engine's lever."""

DEAD_ZONE = 0.2
"""An axis nearer to its middle than this steers nothing, as the router has it."""

CHOICE = 150.0
"""How wide a choice of the dialog is, in pixels."""


@dataclass
class Boat:
    """One pilot's boat.

    :ivar held: what the world believes to be down of this pilot's controls, by device and control, with its value.
    :ivar view: where the pilot looks, in degrees. :ivar x: metres east of the middle, and ``y``, south of it.
    """

    held: dict[str, float] = field(default_factory=dict)
    view: float = 0.0
    x: float = 0.0
    y: float = 0.0
    horns: int = 0

    def push(self) -> tuple[float, float]:
        """Where to, east and south, each from -1 to 1."""
        held: dict[str, float] = {}
        for name, value in self.held.items():
            held[name.rpartition("/")[2]] = value
        east = held.get("KeyD", 0.0) - held.get("KeyA", 0.0) + held.get("left_stick_x", 0.0)
        south = held.get("KeyS", 0.0) - held.get("KeyW", 0.0) + held.get("left_stick_y", 0.0)
        return max(-1.0, min(1.0, east)), max(-1.0, min(1.0, south))


@dataclass
class Bridge:
    """The bridge's handlers and the world behind it.

    :ivar orders: what happened, as sentences, in order.
    """

    scene: Scene
    orders: list[str] = field(default_factory=list)
    boats: dict[str, Boat] = field(default_factory=lambda: {"main": Boat()})
    engine: str = "slow"
    watched: str | None = None
    call_sign: str = ""
    composing: str = ""
    time: float | None = None

    def man(self, router: Router) -> None:
        """Put handlers on the bridge."""
        scene = self.scene
        scene["helm/bar/cargo"].on("click", lambda event: self._show("popups/cargo"))
        scene["helm/bar/hail"].on("click", lambda event: self.hail())
        for deck, look, pause in (("helm", "look", "pause"), ("helm-2", "look-2", "pause-2")):
            free, open_, close = (partial(self._look, look), partial(self._show, pause), partial(self._hide, pause))
            scene[f"{deck}/bar/look"].on("click", free)
            scene[f"{deck}/bar/menu"].on("click", open_)
            scene[f"{deck}/bar/all-stop"].on("click", partial(self._show, "both"))
            scene[f"{pause}/panel/sail-on"].on("click", close)
            scene[deck].on("harbour:menu", open_)
            scene[deck].on("harbour:look", free)
        scene["both/panel/sail-on"].on("click", lambda event: self._hide("both"))
        scene["pause/panel/horn-key"].on("click", lambda event: self._ask_for_horn(router))
        for path in ("popups/cargo", "pause", "pause-2", "both", "look", "look-2"):
            scene[path].on("back", self._note_closing)
        for item in scene["popups/cargo"].children:
            item.on("click", self._pick_from_cargo)
        for lever in scene["helm/engine"].children:
            lever.on("click", self._set_engine)
        for option in scene["helm/watch"].children:
            option.on("click", self._watch)
        scene["helm/bearing"].on("click", lambda event: self.order("a bearing is taken"))
        scene["toasts/toast"].on("click", lambda event: self._hide("toasts/toast"))
        field_ = scene["helm/call-sign"]
        field_.on("text", self._type)
        field_.on("compose", self._compose)
        field_.on("key_down", self._edit)
        field_.on("blur", lambda event: self.order(f"the call sign is {self.call_sign or 'empty'}"))

    def second_pilot(self, router: Router) -> None:
        """A second pilot comes aboard: the window is split, and the second pad is theirs."""
        main = router.seat()
        main.viewport = (0.0, 0.0, 0.5, 1.0)
        second = router.add_seat("second", devices=("pad1",), viewport=(0.5, 0.0, 0.5, 1.0), bindings=main.bindings)
        self.boats[second.name] = Boat()
        self.scene["helm-2"].visible = True

    def order(self, sentence: str) -> None:
        """Note what happened."""
        self.orders.append(sentence)

    # -- what opens and closes -----------------------------------------------------------------------------------------

    def _show(self, path: str, event: Event | None = None) -> None:
        self.scene[path].visible = True
        self.order(f"{path} opens")

    def _hide(self, path: str, event: Event | None = None) -> None:
        self.scene[path].visible = False
        self.order(f"{path} closes")

    def _note_closing(self, event: Event) -> None:
        causes = {"outside": "a press outside of it", "opener": "a press on its button", "back": "back"}
        self.order(f"{event.node.path} is closed by {causes.get(event.data['cause'], 'code')}")

    def _look(self, path: str, event: Event) -> None:
        layer = self.scene[path]
        layer.visible = not layer.visible
        self.order("free look begins, and the cursor is locked" if layer.visible else "free look ends")

    def ask(self, message: str, choices: tuple[str, ...], then: Callable[[str], object]) -> None:
        """Ask by the dialog, with its own message and choices; ``then`` is called with the one that was chosen."""
        dialog = self.scene["dialog/barge"]
        row = dialog["choices"]
        for old in row.children:
            old.remove()
        gap = (460.0 - CHOICE * len(choices)) / (len(choices) + 1)
        for number, choice in enumerate(choices):
            left = gap + number * (CHOICE + gap)
            button = row.add(choice, role="button", place=Place(left=left, top=0, bottom=0, width=CHOICE))

            def chosen(event: Event, choice: str = choice) -> None:
                dialog.visible = False
                then(choice)

            button.on("click", chosen)
        self.scene["dialog/barge/message"].facts["text"] = message
        dialog.visible = True
        self.order(f"asked: {message} ({' / '.join(choices)})")

    def hail(self) -> None:
        """Ask before the barge is let go; who says no is asked why."""
        name = (self.watched or "barge-7").replace("-", " ")

        def answer(choice: str) -> None:
            self.order(f"answered: {choice}")
            if choice == "wait":
                self.ask("for how long?", ("a minute", "the tide"), lambda time: self._tell(f"waiting for {time}"))
            else:
                self._tell(f"{name} is under way")

        self.ask(f"let {name} go?", ("let go", "wait"), answer)

    def _tell(self, text: str) -> None:
        self.scene["toasts/toast"].facts["text"] = text
        self.scene["toasts/toast"].visible = True
        self.order(f"told: {text}")

    def _ask_for_horn(self, router: Router) -> None:
        self.scene["pause/panel/horn-key"].facts["text"] = "press a key …"

        def then(asked: Asked) -> None:
            self.scene["pause/panel/horn-key"].facts["text"] = "horn key"
            if asked.clash is not None:
                self._tell(f"{asked.control} is taken by {asked.clash}")
            else:
                self._tell(asked.error or f"the horn is on {asked.control} now")

        router.seat().ask("harbour:horn", then)

    def _pick_from_cargo(self, event: Event) -> None:
        self.order(f"cargo: {event.node.name}")
        self.scene["popups/cargo"].visible = False

    def _set_engine(self, event: Event) -> None:
        for lever in self.scene["helm/engine"].children:
            lever.facts["text"] = f"> {lever.name} <" if lever is event.node else lever.name
        self.engine = event.node.name
        self.order(f"engine {self.engine}")

    def _watch(self, event: Event) -> None:
        self.watched = event.node.name
        self.order(f"watching {self.watched.replace('-', ' ')}")

    # -- the call sign ------------------------------------------------------------------------------------------------

    def _type(self, event: Event) -> None:
        self.call_sign += event.data["text"]
        self._write()

    def _compose(self, event: Event) -> None:
        self.composing = event.data["text"]
        self._write()

    def _edit(self, event: Event) -> None:
        if event.data["code"] == "Backspace" and not self.composing:
            self.call_sign = self.call_sign[:-1]
            self._write()
            event.take()

    def _write(self) -> None:
        self.scene["helm/call-sign"].facts["text"] = self.call_sign + (f"[{self.composing}]" if self.composing else "")

    # -- the world -----------------------------------------------------------------------------------------------------

    def steer(self, sample: Sample, verdict: Verdict) -> None:
        """Let the world have what is its own: the lifts first, then the sample."""
        self._sail(sample.time)
        for name in verdict.lifts:
            for who, one in self.boats.items():
                if one.held.pop(name, None) is not None:
                    self.order(f"{who}: {name} is lifted")
        boat = self.boats.get(verdict.seat)
        if not verdict.world or boat is None:
            return
        if isinstance(sample, KeySample) and not sample.repeat:
            if verdict.action == "harbour:horn":
                boat.horns += 1
                self.order(f"{verdict.seat}: the horn sounds")
            elif sample.code in STEERS:
                self._hold(verdict.seat, boat, f"keys/{sample.code}", float(sample.action == "down"))
        elif isinstance(sample, PadSample):
            if verdict.action == "harbour:horn":
                boat.horns += 1
                self.order(f"{verdict.seat}: the horn sounds")
            elif sample.control in ("left_stick_x", "left_stick_y"):
                value = sample.value if abs(sample.value) > DEAD_ZONE else 0.0
                self._hold(verdict.seat, boat, f"pad{sample.pad}/{sample.control}", value)
        elif isinstance(sample, PointerSample) and sample.relative:
            boat.view = (boat.view + sample.dx * 0.25) % 360.0

    def _hold(self, who: str, boat: Boat, control: str, value: float) -> None:
        had, does = control in boat.held, STEERS.get(control.rpartition("/")[2], "steers by the stick")
        if value:
            boat.held[control] = value
            if not had:
                self.order(f"{who}: {does}")
        elif had:
            del boat.held[control]
            self.order(f"{who}: {does} no more")

    def _sail(self, time: float) -> None:
        past = 0.0 if self.time is None else max(0.0, time - self.time)
        self.time = time
        for boat in self.boats.values():
            if boat.held:
                east, south = boat.push()
                boat.x += east * SPEED[self.engine] * past
                boat.y += south * SPEED[self.engine] * past
