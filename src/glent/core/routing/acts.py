"""Acts: what code, or assistive technology, asks a node to do (laws R7, G9, D5).

Each is a sample like any other, so it is checked, recorded and replayed, and answered by a verdict. It is asked what a
player would be: the node has to be shown, enabled and the seat's, not behind a modal, and its layer ready. Then
``activate`` does what Enter on the node does, a gesture is sent as if a hand had made it, ``show`` scrolls the node
into view, and the rest is sent to the node as an ``act``, which its control takes. The focus, and what the player used
last, stay as they are.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import PathError, SceneError
from glent.core.input.samples import ActSample
from glent.core.input.validate import LATEST
from glent.core.routing import reasons as because
from glent.core.routing.event import ActEvent
from glent.core.routing.keys.routing import activate
from glent.core.routing.pointers.dismiss import close
from glent.core.routing.pointers.pointer import BY_CODE
from glent.core.routing.verdict import Verdict
from glent.core.scene.node import checked_node

if TYPE_CHECKING:
    from glent.core.input.samples import ActValue, Sample
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.state import State
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Acts", "route_act"]

NOUNS = {"activate": "activation", "set": "setting", "open": "opening", "close": "closing", "show": "showing",
         "drag_onto": "drag"}  # fmt: skip
"""What verdicts call an act, where its own name is no noun."""

NEEDS = {
    "set": "has no value that can be set",
    "step": "has no value that goes by steps",
    "open": "has nothing that opens",
    "close": "has nothing that closes",
}
"""What a node lacks that nobody did an act for."""


class Acts:
    """What a :class:`Router` can be asked to have done: each method feeds an :class:`ActSample` at the time of the last
    sample (0 before the first), and returns its verdict."""

    scene: Scene

    def feed(self, sample: Sample) -> Verdict:
        """Route one sample."""
        raise NotImplementedError

    def _latest(self) -> float:
        """The time before which no new sample may be."""
        raise NotImplementedError

    def act(self, node: Node, act: str, value: ActValue = None, seat: str = "main") -> Verdict:
        """Ask a node to do something: see :class:`ActSample` for the acts and their values.

        It is refused with a reason where a player could not do it; from inside a handler it is done after the current
        sample (law R6).

        :raises SceneError: the node is not in this router's scene. :raises SampleError: no such act, or value of it.
        """
        if checked_node(node, str(act)).scene is not self.scene:
            raise SceneError(f"{node.path}: cannot be asked to {act}, it is not in a scene that this router serves")
        latest = self._latest()
        return self.feed(ActSample(0.0 if latest == -LATEST else latest, node.path, act, value, seat))

    def activate(self, node: Node, seat: str = "main") -> Verdict:
        """Do what Enter on the focused node does: send ``activate``, and unless that is taken, ``click`` (law W4).

        The focus and what the player used last stay as they are.
        """
        return self.act(node, "activate", seat=seat)

    # -- by single presses (law G9; WCAG 2.5.1, 2.5.7) -----------------------------------------------------------------

    def hold(self, node: Node, seat: str = "main") -> Verdict:
        """Send what holding a node sends, for those who cannot hold: its ``hold``, with full progress."""
        return self.act(node, "hold", seat=seat)

    def drag_onto(self, source: Node, target: Node, seat: str = "main") -> Verdict:
        """Send what dragging one node onto another sends; :attr:`Verdict.answer` says what became of it."""
        return self.act(source, "drag_onto", checked_node(target, "drag_onto").path, seat)

    def drag(self, node: Node, dx: float, dy: float, seat: str = "main") -> Verdict:
        """Send what dragging a node by a distance in its own space sends, in pixels."""
        return self.act(node, "drag", (dx, dy), seat)

    def scroll(self, node: Node, dx: float, dy: float, seat: str = "main") -> Verdict:
        """Scroll an area by a distance in its own space, in pixels, as far as it goes."""
        return self.act(node, "scroll", (dx, dy), seat)

    def pinch(self, node: Node, scale: float = 1.0, turn: float = 0.0, seat: str = "main") -> Verdict:
        """Send what two fingers on a node send: scale it by a factor, turn it by degrees clockwise."""
        return self.act(node, "pinch", (scale, turn), seat)

    def swipe(self, node: Node, direction: str, seat: str = "main") -> Verdict:
        """Send what a swipe over a node sends: ``left``, ``right``, ``up`` or ``down``."""
        return self.act(node, "swipe", direction, seat)


def route_act(state: State, gestures: Gestures, sample: ActSample) -> Verdict:
    """Route an act."""
    what = NOUNS.get(sample.act, sample.act)
    seat = state.seats_by_name.get(sample.seat)
    if seat is None:
        return Verdict(because.UNABLE, what, about=f"there is no seat {sample.seat}")
    state.seats.refresh()
    try:
        node = state.scene[sample.path]
        target = state.scene[str(sample.value)] if sample.act == "drag_onto" else None
    except PathError as error:
        verdict = Verdict(because.UNABLE, what, about=str(error))
    else:
        verdict = _barred(seat.view, node, what, sample.act) or _done(state, gestures, sample, node, target, what)
    verdict._seat = seat.name
    return verdict


def _barred(view: SeatView, node: Node, what: str, act: str) -> Verdict | None:
    """The verdict where a player could not do it; None if one could. What is to open need not be shown itself."""
    for one in node.lineage():
        where = node.path if one is node else f"{one.path}, which it lies in,"
        if not one.visible and not (act == "open" and one is node):
            return Verdict(because.UNABLE, what, about=f"{where} is hidden")
        if not one.enabled:
            return Verdict(because.UNABLE, what, about=f"{where} is disabled")
        if one.solidity == "ghost":
            return Verdict(because.UNABLE, what, about=f"{where} is a ghost")
    whose, by = view.stranger(node) if view.seated else ("own", node)
    if whose != "own":
        return Verdict(because.UNABLE, what, about=f"{by.path} is not for seat {view.name}")
    barrier = view.barrier_of(node)
    return None if barrier is None else Verdict(barrier.reason, what, about=barrier.about)


def _done(state: State, gestures: Gestures, sample: ActSample, node: Node, target: Node | None, what: str) -> Verdict:
    """Do an act that nothing keeps from a node."""
    act, value, time = sample.act, sample.value, float(sample.time)
    if act == "activate":
        activate(state.dispatcher, node, BY_CODE, time, sample.seat, "")
    elif act == "show":
        state.seats.show(node)
    elif act in NEEDS:
        given = tuple(value) if isinstance(value, list) else value
        event = ActEvent("act", node, BY_CODE, time, (0.0, 0.0), None, 0, 0, {"act": act, "value": given}, sample.seat)
        state.dispatcher.send(event, node.lineage())
        if event.taker is None and act == "close" and node.closed_by != "none":
            if not close(state, node, sample.seat, "code", time):
                return Verdict(because.UNABLE, what, about=f"{node.path} stays open")
        elif event.taker is None or event.refusal:
            return Verdict(because.UNABLE, what, about=event.refusal or f"{node.path} {NEEDS[act]}")
    else:
        return _gesture(state, gestures, sample, node, target, what)
    return Verdict(because.ASKED, what, owner=node)


def _gesture(
    state: State, gestures: Gestures, sample: ActSample, node: Node, target: Node | None, what: str
) -> Verdict:
    """Do a gesture that nothing keeps from a node."""
    from glent.core.routing.gestures import by_code  # seldom wanted

    view = state.seats_by_name[sample.seat].view
    why = by_code.why_not(sample.act, node)
    if why:
        return Verdict(because.UNABLE, what, about=why)
    if target is not None:
        barred = _barred(view, target, what, sample.act)
        if barred is not None:
            return barred
    answer = by_code.perform(gestures, state.seats_by_name[sample.seat], sample.act, node, target or sample.value)
    if answer == "refused":
        verdict = Verdict(because.UNABLE, what, about=f"{node.path} refuses to be dragged")
    else:
        verdict = Verdict(because.ASKED, what, owner=node)
    if what == "drag":
        verdict._answer = answer
    return verdict
