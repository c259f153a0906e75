"""The fast path of a drag that just goes on: what cannot have changed is not asked.

It may be taken while the scene is settled, no timer is due, nothing runs by time, and the sample is a plain move. What
it sends and answers is what ``Pointing.route`` would, to the last bit: a test holds one against the other.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.gestures.drag import Drag
from glent.core.routing.hit.offers import find
from glent.core.routing.hit.point import pick
from glent.core.routing.pointers.hover import hover_after, offers_changed
from glent.core.routing.verdict import Outcome, Verdict

if TYPE_CHECKING:
    from glent.core.input.samples import PointerSample
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing

__all__ = ["follow"]


_DRAG: Outcome = (Drag.name, (), None)


def follow(pointing: Pointing, pointer: Pointer, contact: Contact, sample: PointerSample) -> Verdict:
    """Route a move of a pointer that drags."""
    state = pointing.state
    scene = state.scene
    winner = contact.winner
    assert isinstance(winner, Drag)
    x, y, scale = sample.x, sample.y, scene._scale
    x0, y0 = pointer.pos
    dx, dy = contact.step = (x - x0) / scale, (y - y0) / scale
    state.now = contact.time = time = sample.time
    pointer.pos = (x, y)
    x0, y0 = contact.travel
    contact.travel = (x0 + dx, y0 + dy)
    contact.track.append((time, x0 + dx, y0 + dy))
    pointer.picked = scene._version
    pointer.aimed = -1
    offers = pick(scene, x, y, pointer.kind) if pointer.seat.view.screen_only else find(state, pointer)
    if offers != pointer.offers:
        offers_changed(state, pointer, offers)
    if not contact.open or contact.winner is not winner:
        return pointing.moved_on(pointer, "move", time)  # what handlers did has ended the drag
    winner.go_on(contact, dx, dy)
    held = contact.press
    if contact.winner is not winner or pointer.press is not held:
        verdict = pointing.answer(pointer, held, contact, "move")
    else:
        verdict = Verdict(because.GESTURE, "move", False, held.owner, winner.name)
        verdict._outcome = _DRAG
    if state.settling.seen != scene._version:
        hover_after(state, pointer)
    return verdict
