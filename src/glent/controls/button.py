"""A button: it acts on a click, again and again while held, or only once held long enough (ARIA: button)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, Literal

from glent.controls.context import feel_of, router_of
from glent.controls.control import NOTHING, Control
from glent.controls.keys import key_of
from glent.core.arguments import is_choice
from glent.core.errors import ControlError
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.controls.options import Scalar
    from glent.core.routing.event import Event
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Button"]

HELD = (None, "hold", "repeat", "confirm")

STEP = 1.0 / 30.0
"""How often the progress of a key that is held is told, in seconds."""


class Button(Control):
    """Acts when it is clicked, or activated by key or pad.

    It acts: ``act``, with its argument, if it has one; and ``hold``, likewise, if it is told to. Who cannot hold uses
    :meth:`Router.hold` (law G9).

    :param does: called with the argument, or with nothing if there is none.
    :param argument: what it sends each time: buttons can share one ``does``.
    :param while_held: what holding it down does (law G1). None: nothing more. ``"hold"``: once it was held for
        ``Feel.hold_delay`` it acts ``hold``, and not ``act``. ``"repeat"``: it acts again and again, ever faster.
        ``"confirm"``: it acts only once it was held for ``Feel.confirm_time``, by pointer, key or pad; a click alone
        does nothing.
    :param on_hold: called as ``does`` is, when it was held; it means ``while_held="hold"``.
    :raises ControlError: there is no such ``while_held``, or ``on_hold`` goes with another.

    :ivar argument: as given; set another at any time.
    :ivar progress: of one that confirms: how far it is, from 0 to 1, for the renderer.
    """

    roles = ("button", "link")
    value_type = "number"
    settable = False
    __slots__ = ("_began", "_key", "_timer", "_while_held", "argument", "progress")

    def __init__(
        self,
        node: Node,
        does: Callable[..., object] | None = None,
        argument: Scalar | object | None = NOTHING,
        while_held: Literal["hold", "repeat", "confirm"] | None = None,
        on_hold: Callable[..., object] | None = None,
    ) -> None:
        super().__init__(node)
        if on_hold is not None and while_held is None:
            while_held = "hold"
        if not is_choice(while_held, HELD):
            raise ControlError(f"{node.path}: while_held is {while_held!r}, expected None, hold, repeat or confirm")
        if on_hold is not None and while_held != "hold":
            raise ControlError(f"{node.path}: on_hold goes with while_held 'hold', and that is {while_held!r}")
        self.argument = argument
        self._while_held = while_held
        self.progress: Value[float] = Value(0.0, name=f"{node.path} progress", low=0.0, high=1.0)
        if does is not None:
            self.on("act", does)
        if on_hold is not None:
            self.on("hold", on_hold)
        self.hear("click", self._clicked)
        if while_held == "hold":
            self.hear("hold", lambda event: self._do("hold"))
        elif while_held == "repeat":
            self.hear("repeat", self._clicked)
        elif while_held == "confirm":
            self._hear_confirm()

    @property
    def acts(self) -> Mapping[str, str]:
        return {"act": "argument", "hold": "argument"} if self._while_held == "hold" else {"act": "argument"}

    @property
    def values(self) -> dict[str, Value[Any]]:
        return {"progress": self.progress} if self._while_held == "confirm" else {}

    def act(self) -> None:
        """Do what it does when clicked."""
        self._do("act")

    def _do(self, act: str) -> None:
        self.say(act, *(() if self.argument is NOTHING else (self.argument,)))

    def _clicked(self, event: Event) -> None:
        if self._while_held != "confirm":  # else it was not held long enough
            self.act()

    # -- confirm: act once it was held long enough -------------------------------------------------------------------

    def _hear_confirm(self) -> None:
        self.follow(self.progress, lambda now: None, "progress")
        self._key: tuple[str, str] | None = None
        self._timer: Timer | None = None
        self._began = 0.0
        self.hear("hold_progress", self._progressed)
        self.hear("hold", self._held)
        self.hear("key_down", self._key_down)
        self.hear("key_up", self._key_up)
        self.hear("blur", lambda event: self._break_off())

    def _progressed(self, event: Event) -> None:
        self.progress.current = event.data["progress"]

    def _held(self, event: Event) -> None:
        self.progress.current = 0.0
        self.act()

    def _key_down(self, event: Event) -> None:
        if event.data["action"] != "activate" or not key_of(event):
            return
        event.take()
        if self._key is None and not event.data["repeat"]:
            self._key, self._began = (event.data["device"], event.data["code"]), event.time
            self._timer = router_of(self.node).at(event.time + STEP, self._passed)

    def _key_up(self, event: Event) -> None:
        if self._key == (event.data["device"], event.data["code"]):
            self._break_off()

    def _break_off(self) -> None:
        if self._timer is not None:
            self._timer.stop()
        self._key = self._timer = None
        self.progress.current = 0.0

    def _passed(self, time: float) -> None:
        if self.node.scene is None or not self.node.is_enabled:
            self._break_off()
            return
        need = feel_of(self.node, "confirm_time")
        held = time - self._began
        if held < need:
            self.progress.current = held / need
            self._timer = router_of(self.node).at(min(time + STEP, self._began + need), self._passed)
            return
        self._timer = None  # the key may stay down: it acts once
        self.progress.current = 0.0
        self.act()
