"""What a router can be asked beforehand, without changing anything (laws H7, W6, G3)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from glent.core.errors import SampleError
from glent.core.input.validate import check_number
from glent.core.routing import presses
from glent.core.routing.picking import Hit, hits_at, hits_for

if TYPE_CHECKING:
    from glent.core.routing.gestures.targets import DropTarget
    from glent.core.routing.pointing import Pointing
    from glent.core.routing.seat import Seat
    from glent.core.routing.seats import Seats
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Questions"]

ACTIONS = ("press", "move", "wheel")


class Questions:
    """The questions of a :class:`Router`."""

    scene: Scene
    _pointing: Pointing
    _seats: Seats

    def seat(self, name: str = "main") -> Seat:
        """A seat by name."""
        raise NotImplementedError

    @property
    def now(self) -> float:
        """The time of the last sample or tick, in seconds."""
        return self._pointing.now

    def hits(
        self,
        x: float,
        y: float,
        where: Callable[[Node], bool] | None = None,
        kind: str = "mouse",
        seat: str | None = None,
    ) -> list[Hit]:
        """Every hit at a point of the screen, front to back (law H7). What a modal or another seat bars is no offer.

        :param where: keeps only the nodes for which it is true; what it leaves out covers nothing.
        :param kind: the kind of pointer asked for: ``touch`` has a longer reach (law H5).
        :param seat: for whom; None: for the seat in whose viewport the point is.
        """
        _check_point(x, y, "hits")
        asker = self._asker(x, y, seat)
        view = asker.view
        if view.plain:
            return hits_at(self.scene, x, y, where, kind)
        if not self._seats.is_inside(asker, x, y):
            return []
        return hits_for(view, x, y, where, kind)

    def _asker(self, x: float, y: float, seat: str | None) -> Seat:
        self._seats.refresh()
        return self.seat(seat) if seat is not None else self._seats.at(x, y)

    def would_reach_world(self, x: float, y: float, action: str = "press", seat: str | None = None) -> bool:
        """Whether a free mouse's press, move or wheel here would be the world's, as far as can be known beforehand.

        No handler runs, so one that takes what glass offered it is not foreseen (law W6). Nor is what a press closes.

        :param seat: for whom; None: for the seat in whose viewport the point is.

        :raises SampleError: the point is no point, or the action is none of press, move, wheel.
        """
        _check_point(x, y, "would_reach_world")
        if action not in ACTIONS:
            raise SampleError(f"would_reach_world: action is {action!r}, expected one of {', '.join(ACTIONS)}")
        offers, barrier = self._pointing.found(self._asker(x, y, seat), x, y, "mouse")
        if barrier is not None:
            return False
        if action == "press":
            return not presses.would_accept(offers)
        return not offers or offers[-1].effective != "solid"

    def drop_targets(self, payload: Any) -> list[DropTarget]:
        """What every target of the scene says to a payload, to light up those that take it while it is dragged (G3).

        In paint order, each with ``node``, ``accepted`` and ``answer``, the reason if not. Cost: a walk of the scene.
        Errors of ``accepts`` come through.
        """
        from glent.core.routing.gestures.targets import targets_in  # seldom wanted

        return targets_in(self.scene, payload)


def _check_point(x: float, y: float, where: str) -> None:
    check_number(x, "x", where)
    check_number(y, "y", where)
