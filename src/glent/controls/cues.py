"""Cues: what one wants to hear, told once for each happening, for whoever plays sounds or shakes pads.

Events come many at a time: an enter for each node on a path, one more when the scene moves under a still pointer. A cue
comes once, for the control it is about, and only for what a player did.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Literal, get_args

from glent.controls.control import Subscription
from glent.core.arguments import is_choice
from glent.core.errors import ControlError, near
from glent.core.input.samples import KeySample, PadSample, PointerSample, TickSample, WindowSample
from glent.core.routing.reasons import Reason

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node

__all__ = ["Cue", "Cues"]

Cue = Literal["hover", "press", "click", "focus", "change", "refused"]
CUES: tuple[str, ...] = get_args(Cue)


class Cues:
    """The cues of a router.

    - ``hover``: a pointer has moved onto a control; not one that came to lie under it.
    - ``press``: a control is pressed by a pointer.
    - ``click``: a control is clicked, or activated by key, pad or code.
    - ``focus``: the focus has moved to a control by key or pad.
    - ``change``: a player has changed what a control is.
    - ``refused``: a press came to a disabled control, or what was asked for has been refused.

    Looking on changes nothing (law D4). Cost: a look at the events of each sample that has any.
    """

    def __init__(self, router: Router) -> None:
        self._router = router
        self._heard: dict[str, dict[Subscription, None]] = {}
        self._watch = router.watch(self._see)

    def on(self, cue: Cue, call: Callable[[Node], object]) -> Subscription:
        """Call ``call(node)`` for each cue of this kind, with the control's node. Return what stops that.

        :raises ControlError: there is no such cue, or it cannot be called.
        """
        if not is_choice(cue, CUES):
            raise ControlError(f"there is no cue {cue!r}, expected one of {', '.join(CUES)}{near(cue, CUES)}")
        if not callable(call):
            raise ControlError(f"the cue {cue} is to be heard by {call!r}, expected something to call")
        calls = self._heard.setdefault(cue, {})
        one = Subscription(calls, call)
        calls[one] = None
        return one

    def stop(self) -> None:
        """Hear nothing more. Twice does nothing."""
        self._watch.stop()

    def _see(self, sample: Sample, verdict: Verdict) -> None:
        action, pointer = getattr(sample, "action", ""), getattr(sample, "pointer", None)
        by_keys = isinstance(sample, KeySample | PadSample)
        by_player = not isinstance(sample, TickSample | WindowSample)
        found: dict[tuple[str, Node], None] = {}
        hovered: Node | None = None
        for event in verdict.events:
            kind, node = event.kind, _control(event.node)
            if node is None:
                continue
            if kind == "enter" and action == "move" and event.pointer == pointer and event.data["first"]:
                hovered = node  # enters come outermost first: the last is the innermost
            elif kind in ("click", "activate"):
                found["click", node] = None
            elif kind == "focus" and by_keys:
                found["focus", node] = None
            elif kind == "change" and "refused" in event.data.get("marks", ()):
                found["refused", node] = None
            elif kind == "change" and by_player and not event.data.keys() & {"facts", "marks"}:
                found["change", node] = None
        if hovered is not None and hovered.is_enabled:
            found["hover", hovered] = None
        if action == "press" and verdict.owner is not None and (pressed := _control(verdict.owner)) is not None:
            found["press", pressed] = None
        if action == "press" and verdict.reason is Reason.DISABLED:
            hits = self._router.hits(sample.x, sample.y, seat=verdict.seat) if isinstance(sample, PointerSample) else ()
            node = next((_control(hit.node) for hit in hits if hit.offered), None)
            if node is not None:
                found["refused", node] = None
        for cue, node in found:
            for one in list(self._heard.get(cue, ())):
                one._call(node)


def _control(node: Node) -> Node | None:
    """The innermost control that a node is, or lies in."""
    return next((one for one in reversed(node.lineage()) if one.is_control), None)
