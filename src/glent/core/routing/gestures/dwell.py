"""Dwell: a pointer without a button rests on a node, with its progress, and clicks where it is to (law G6)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import PointerButton
from glent.core.routing.event import Event
from glent.core.routing.pointers.hover import hover_after
from glent.core.routing.pointers.pointer import FREE
from glent.core.routing.pointers.press import release, would_accept
from glent.core.routing.pointers.press_guard import land

if TYPE_CHECKING:
    from glent.core.routing.gestures.services import Services
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.timers import Timer
    from glent.core.scene.node import Node

__all__ = ["Dwelling"]


class _Dwell:
    """One pointer's dwell on one node."""

    __slots__ = ("began", "node", "pointer", "seconds", "shown", "timer")

    def __init__(self, pointer: Pointer, node: Node, began: float, seconds: float) -> None:
        self.pointer = pointer
        self.node = node
        self.began = began
        self.seconds = seconds
        self.shown = 0.0
        self.timer: Timer | None = None


class Dwelling:
    """The dwells of all pointers.

    The innermost hovered node that listens for ``dwell`` gets it, with ``progress`` from 0 to 1 as time passes and
    ``done`` true with the last, once; a pointer that leaves before sends a last one with 0. To dwell again the pointer
    must have left. For the kinds in ``Feel.dwell_activates`` so does what would be clicked there, and is clicked then.
    """

    __slots__ = ("_dwells", "_gestures")

    def __init__(self, gestures: Services) -> None:
        self._gestures = gestures
        self._dwells: dict[str, _Dwell] = {}

    def look(self, pointer: Pointer) -> None:
        """Begin or end dwells where a pointer's hover may have changed."""
        node = self._node_for(pointer)
        dwell = self._dwells.get(pointer.name)
        if dwell is not None and (dwell.node is not node or dwell.pointer is not pointer):
            self._stop(dwell)
            dwell = None
        if dwell is None and node is not None:
            gestures = self._gestures
            dwell = _Dwell(pointer, node, gestures.now, gestures.feel_of(node).dwell_time)
            self._dwells[pointer.name] = dwell
            started = dwell
            dwell.timer = gestures.timers.add(gestures.now + dwell.seconds, lambda due: self._due(started))
            gestures.running[self] = None

    def _node_for(self, pointer: Pointer) -> Node | None:
        if pointer.hold is not FREE or pointer.away:
            return None
        clicking = self._gestures.state.feel.dwell_activates
        for offer in pointer.offers:
            node: Node | None = offer
            while node is not None:
                listens = node.listens("dwell")
                clicks = bool(clicking) and (node._used is not None or node.listens("click"))
                if (listens or clicks) and node in pointer.hovered and node.is_enabled:
                    feel = self._gestures.feel_of(node)
                    if pointer.kind in feel.dwell_activates or (listens and pointer.kind in feel.dwell_kinds):
                        return node
                    if listens:
                        return None
                node = node._parent if node is not pointer.seat.view.top else None
        return None

    def _event(self, dwell: _Dwell, progress: float) -> Event:
        pointer = dwell.pointer
        data = {"progress": progress, "done": progress >= 1.0}
        return Event("dwell", dwell.node, pointer.name, self._gestures.now, pointer.pos, None, pointer.buttons, 0, data)

    def _due(self, dwell: _Dwell) -> None:
        if self._dwells.get(dwell.pointer.name) is dwell and dwell.node._scene is not None:
            dwell.shown = 1.0
            self._gestures.send(self._event(dwell, 1.0))
            if self._dwells.get(dwell.pointer.name) is dwell:
                self._click(dwell)

    def _click(self, dwell: _Dwell) -> None:
        """Press and release where the pointer is, for a player who cannot."""
        pointer, state = dwell.pointer, self._gestures.state
        if pointer.kind not in state.feel_of(dwell.node).dwell_activates or pointer.hold is not FREE:
            return
        if not would_accept(pointer.offers):
            return  # the world is told nothing of a button that nobody has pressed
        land(state, pointer, PointerButton.PRIMARY, state.now)
        release(state, pointer, PointerButton.PRIMARY, state.now)
        hover_after(state, pointer)

    def passed(self, time: float) -> None:
        """Tell the progress of each dwell."""
        busy = False
        for dwell in list(self._dwells.values()):
            if dwell.shown < 1.0 and self._dwells.get(dwell.pointer.name) is dwell:
                busy = True
                progress = (time - dwell.began) / dwell.seconds
                if dwell.shown < progress < 1.0:
                    dwell.shown = progress
                    self._gestures.send(self._event(dwell, progress))
        if not busy:
            self._gestures.running.pop(self, None)

    def _stop(self, dwell: _Dwell) -> None:
        if self._dwells.get(dwell.pointer.name) is dwell:
            del self._dwells[dwell.pointer.name]
        if dwell.timer is not None:
            dwell.timer.stop()
        if 0.0 < dwell.shown < 1.0:
            self._gestures.send(self._event(dwell, 0.0))
