"""A press that went to the world and opened what takes it away again: then the world never had it (law W3).

The world reads a verdict in one order: the lifts first, then the sample. So what this very sample pressed is not lifted
along with what was held before; the sample is not the world's instead.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.pad import device_of
from glent.core.input.samples import KeySample, PadSample, PointerSample
from glent.core.input.validate import button_of
from glent.core.routing import reasons as because
from glent.core.routing.keys.keyboard import KEYS
from glent.core.routing.pointers.pointer import bit_of, names_of

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.seats.seats import Seats
    from glent.core.routing.verdict import Verdict

__all__ = ["take_back"]


def take_back(seats: Seats, item: Sample | float | None, verdict: Verdict, since: int) -> None:
    """Take a sample back from the world if its control is among the lifts from ``since`` on."""
    if isinstance(item, KeySample) and item.action == "down":
        name = f"{KEYS}/{item.code}"
    elif isinstance(item, PadSample):
        name = f"{device_of(item.pad)}/{item.control}"
    elif isinstance(item, PointerSample) and item.action == "press":
        name = names_of(item.pointer, bit_of(button_of(item.button)))[0]
    else:
        return
    lifts = seats.lifts[since:]
    if name not in lifts:
        return
    new = seats.pads.began if isinstance(item, PadSample) else not (isinstance(item, KeySample) and item.repeat)
    if new:
        lifts.remove(name)
    seats.lifts[since:] = lifts
    view = seats.all[verdict._seat].view if verdict._seat in seats.all else seats.main.view
    verdict._world, verdict._reason = False, because.OPENED
    verdict._about = view.top or next(iter(view.claimed.values()), "something")
