"""The ledger of lifts: what the world must believe to be up, until a verdict tells it (law W3).

The world reads a verdict in one order: the lifts first, then the sample. So what this very sample pressed is not lifted
along with what was held before: the sample is not the world's instead, and the world never had it.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import TYPE_CHECKING

from glent.core.input.pad import device_of
from glent.core.input.samples import KeySample, PadSample, PointerSample
from glent.core.input.validate import button_of
from glent.core.routing import reasons as because
from glent.core.routing.pointers.pointer import bit_of, names_of

if TYPE_CHECKING:
    from glent.core.input.samples import Sample
    from glent.core.routing.seat_view import SeatView
    from glent.core.routing.verdict import Verdict

__all__ = ["Lifts"]


class Lifts:
    """What was lifted since the world was last told.

    :ivar names: the controls, in the order they were lifted.
    """

    __slots__ = ("names",)

    def __init__(self) -> None:
        self.names: list[str] = []

    def add(self, names: Iterable[str]) -> None:
        """Note controls that the world held: ``keys/KeyW``, ``mouse/primary``, ``pad0/left_stick_x``."""
        self.names += names

    def collect(self) -> tuple[str, ...]:
        """The lifts that nobody was told of yet, each once; they count as told now."""
        lifts = tuple(dict.fromkeys(self.names))
        self.names.clear()
        return lifts

    def take_back(
        self, item: Sample | float | None, verdict: Verdict, since: int, view: SeatView, is_new: bool
    ) -> None:
        """Take a sample back from the world if its own control is among the lifts from ``since`` on.

        :param is_new: whether the sample pressed the control, rather than held it longer.
        """
        name = _control_of(item)
        lifts = self.names[since:]
        if name is None or name not in lifts:
            return
        if is_new:
            lifts.remove(name)
        self.names[since:] = lifts
        verdict._world, verdict._reason = False, because.OPENED
        verdict._about = view.top or next(iter(view.claimed.values()), "something")


def _control_of(item: Sample | float | None) -> str | None:
    """The name of the control that a sample may have pressed."""
    if isinstance(item, KeySample) and item.action == "down":
        return f"{item.device}/{item.code}"
    if isinstance(item, PadSample):
        return f"{device_of(item.pad)}/{item.control}"
    if isinstance(item, PointerSample) and item.action == "press":
        return names_of(item.pointer, bit_of(button_of(item.button)))[0]
    return None
