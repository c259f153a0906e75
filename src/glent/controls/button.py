"""Buttons: that act on a click, again and again while held, or only once held long enough (ARIA: button)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import TYPE_CHECKING, Any, ClassVar

from glent.controls.context import feel_of, router_of
from glent.controls.control import NOTHING, Control
from glent.controls.keys import key_of
from glent.core.value import Value

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Button", "ConfirmButton", "HoldButton", "SteadyButton"]

STEP = 1.0 / 30.0
"""How often the progress of a key that is held is told, in seconds."""


class Button(Control):
    """Acts when it is clicked, or activated by key or pad.

    It acts: ``act``, with its argument, if it has one.

    :param does: called with the argument, or with nothing if there is none.
    :param argument: what it sends each time: buttons can share one ``does``.

    :ivar argument: that; set another at any time.
    """

    roles = ("button", "link")
    acts: ClassVar[Mapping[str, str]] = {"act": "argument"}
    __slots__ = ("argument",)

    def __init__(self, node: Node, does: Callable[..., object] | None = None, argument: Any = NOTHING) -> None:
        super().__init__(node)
        self.argument = argument
        if does is not None:
            self.when("act", does)
        self.hear("click", self._clicked)

    def act(self) -> None:
        """Do what it does when clicked."""
        self._do("act")

    def _do(self, what: str) -> None:
        self.say(what, *(() if self.argument is NOTHING else (self.argument,)))

    def _clicked(self, event: Event) -> None:
        self.act()


class HoldButton(Button):
    """Acts when it is clicked, and does something else once it has been held for ``Feel.hold_delay`` (law G1).

    It acts: ``act`` and ``hold``, with its argument, if it has one. Who cannot hold does by :meth:`Router.hold` (G9).

    :param holds: called as ``does`` is, when it was held.
    """

    acts: ClassVar[Mapping[str, str]] = {"act": "argument", "hold": "argument"}
    __slots__ = ()

    def __init__(
        self,
        node: Node,
        does: Callable[..., object] | None = None,
        holds: Callable[..., object] | None = None,
        argument: Any = NOTHING,
    ) -> None:
        super().__init__(node, does, argument)
        if holds is not None:
            self.when("hold", holds)
        self.hear("hold", lambda event: self._do("hold"))


class SteadyButton(Button):
    """Acts when it is clicked, and again and again while it is held, ever faster (law G1)."""

    __slots__ = ()

    def __init__(self, node: Node, does: Callable[..., object] | None = None, argument: Any = NOTHING) -> None:
        super().__init__(node, does, argument)
        self.hear("repeat", self._clicked)


class ConfirmButton(Button):
    """Acts once it has been held for ``Feel.confirm_time``, by pointer, key or pad. A click alone does nothing.

    Who cannot hold acts by :meth:`Router.hold` (law G9).

    :ivar progress: how far it is, from 0 to 1, for the renderer.
    """

    holds = "number"
    __slots__ = ("_began", "_key", "_timer", "progress")

    def __init__(self, node: Node, does: Callable[..., object] | None = None, argument: Any = NOTHING) -> None:
        super().__init__(node, does, argument)
        self.progress: Value[float] = Value(0.0, name=f"{node.path} progress", low=0.0, high=1.0)
        self.follow(self.progress, lambda now: None, "progress")
        self._key: tuple[str, str] | None = None
        self._timer: Timer | None = None
        self._began = 0.0
        self.hear("hold_progress", self._progressed)
        self.hear("hold", self._held)
        self.hear("key_down", self._key_down)
        self.hear("key_up", self._key_up)
        self.hear("blur", lambda event: self._break_off())

    @property
    def values(self) -> dict[str, Value[Any]]:
        return {"progress": self.progress}

    def _clicked(self, event: Event) -> None:
        """It was not held long enough."""

    def _progressed(self, event: Event) -> None:
        self.progress.now = event.data["progress"]

    def _held(self, event: Event) -> None:
        self.progress.now = 0.0
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
        self.progress.now = 0.0

    def _passed(self, time: float) -> None:
        if self.node.scene is None or not self.node.is_enabled:
            self._break_off()
            return
        need = feel_of(self.node, "confirm_time")
        held = time - self._began
        if held < need:
            self.progress.now = held / need
            self._timer = router_of(self.node).at(min(time + STEP, self._began + need), self._passed)
            return
        self._timer = None  # the key may stay down: it acts once
        self.progress.now = 0.0
        self.act()
