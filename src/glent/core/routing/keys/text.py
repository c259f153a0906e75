"""Text that was typed, and text that is being composed, for the focused text field (law W4)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.event import Event
from glent.core.routing.focus.tab_order import is_text
from glent.core.routing.pointers.unowned import kept_from_world
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import ComposeSample, TextSample
    from glent.core.routing.state import State

__all__ = ["route_compose", "route_text"]


def route_text(state: State, sample: TextSample) -> Verdict:
    """Route text that was typed or committed."""
    return _to_field(state, "text", "typed text", sample, {"text": sample.text})


def route_compose(state: State, sample: ComposeSample) -> Verdict:
    """Route text that is being composed; empty text ends that."""
    seat = state.seat_of(sample.device)
    node = seat._focus.node
    if not sample.text:
        if seat._composing is not None:
            seat._composed = float(sample.time)
        seat._composing = None
    elif is_text(node):
        seat._composing = node
    return _to_field(state, "compose", "composed text", sample, {"text": sample.text, "cursor": sample.cursor})


def _to_field(
    state: State, kind: str, what: str, sample: TextSample | ComposeSample, data: dict[str, str | int]
) -> Verdict:
    seat = state.seat_of(sample.device)
    node = seat._focus.node
    if node is not None and is_text(node):
        event = Event(kind, node, sample.device, sample.time, (0.0, 0.0), None, 0, 0, data, seat.name)
        state.dispatcher.send(event, node.lineage())
        verdict = Verdict(because.TEXT, what, owner=node)
    else:
        verdict = kept_from_world(seat.view, "text", what) or Verdict(because.KEY, what, True)
    verdict._seat = seat.name
    return verdict
