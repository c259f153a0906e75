"""Queries: what a router can be asked beforehand, without changing anything (laws H7, W6, G3)."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from glent.core.arguments import is_choice
from glent.core.errors import SampleError
from glent.core.geometry.world.ray import Ray, checked_ray
from glent.core.input.validate import check_number
from glent.core.routing.aim import camera_ray
from glent.core.routing.hit.offers import find_at
from glent.core.routing.hit.point import Hit, hits_at, hits_for
from glent.core.routing.hit.ray import hits_along, hits_of_throw
from glent.core.routing.pointers import press as presses

if TYPE_CHECKING:
    from glent.core.geometry.world.throw import Throw
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.routing.gestures.drop_targets import DropTarget
    from glent.core.routing.hit.batch import RayHits
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Queries"]

ACTIONS = ("press", "move", "wheel")


class Queries:
    """The queries of a :class:`Router`."""

    scene: Scene
    _state: State

    def seat(self, name: str = "main") -> Seat:
        """A seat by name."""
        raise NotImplementedError

    @property
    def now(self) -> float:
        """The time of the last sample or tick, in seconds."""
        return self._state.now

    def hits(
        self,
        x: float,
        y: float,
        where: Callable[[Node], bool] | None = None,
        kind: str = "mouse",
        seat: str | None = None,
    ) -> list[Hit]:
        """Every hit at a point of the screen, front to back (law H7). What a modal or another seat blocks is no offer.

        :param where: keeps only the nodes for which it is true; what it leaves out covers nothing.
        :param kind: the kind of pointer asked for: ``touch`` has a longer reach (law H5).
        :param seat: for whom; None: for the seat in whose viewport the point is.
        """
        _check_point(x, y, "hits")
        if not isinstance(kind, str) or (where is not None and not callable(where)):
            raise SampleError(f"hits: kind is {kind!r} and where {where!r}, expected a kind of pointer, and a function")
        asker = self._asker(x, y, seat)
        view = asker.view
        blocked = False
        if view.unrestricted:
            hits = hits_at(self.scene, x, y, where, kind)
        elif not self._state.is_inside(asker, x, y):
            return []
        else:
            hits = hits_for(view, x, y, where, kind)
            blocked = view.find(x, y, kind)[1] is not None
        ray = camera_ray(view, x, y) if view.sees_by is not None else None
        if ray is not None:
            ended = bool(hits) and not (hits[-1].offered and not hits[-1].node.stops_input)
            hits += hits_along(view, ray, kind, where, not (ended or blocked))
        return hits

    def hits_ray(
        self,
        origin: Vector3,
        direction: Vector3,
        length: float | None = None,
        where: Callable[[Node], bool] | None = None,
        seat: str = "main",
    ) -> list[Hit]:
        """Everything that a ray meets in the world, front to back: nodes of panels and spots (laws H7, X1, X5).

        A ray of its own meets no layer of the screen. What a modal or another seat blocks is no offer.

        :param origin: where it begins, world space, metres. :param direction: where it goes; of any length but none.
        :param length: how far, metres; None: without end. :param where: keeps only the nodes for which it is true.
        :param seat: for whom.
        :return: hits with ``point``, ``normal``, ``distance`` and, of spots that have one, ``snap``.
        :raises SampleError: a number is not finite, or the direction has no length.
        """
        start, way, far = checked_ray(origin, direction, length, "hits_ray", SampleError)
        self._state.seats.refresh()
        view = self.seat(seat).view
        if self.scene._world_index is None:
            return []
        return hits_along(view, Ray(start, way, far), "ray", where)

    def hits_rays(self, origins: Any, directions: Any, length: float | None = None, seat: str = "main") -> RayHits:
        """The first hit of each of many rays, as arrays: what :meth:`hits_ray` gives first for each (law X1).

        :param origins: of shape (n, 3), or (3,) for all alike; metres. :param directions: of shape (n, 3).
        :raises SampleError: a shape is another, a number is not finite, or a direction has no length; it names the row.
        """
        from glent.core.routing.hit.batch import hits_of_rays  # seldom wanted, and it needs NumPy

        self._state.seats.refresh()
        return hits_of_rays(self.seat(seat).view, origins, directions, length)

    def hits_throw(
        self,
        arc: Throw,
        where: Callable[[Node], bool] | None = None,
        seat: str = "main",
    ) -> list[Hit]:
        """The hits of a throw: those of the first piece of its way that meets anything.

        ``distance`` is measured along the arc (law X5).

        :param arc: :meth:`Throw.from_velocity`, or an :class:`Throw` of points.
        """
        self._state.seats.refresh()
        return hits_of_throw(self.seat(seat).view, arc, where) if self.scene._world_index is not None else []

    def _asker(self, x: float, y: float, seat: str | None) -> Seat:
        self._state.seats.refresh()
        return self.seat(seat) if seat is not None else self._state.seat_at(x, y)

    def would_reach_world(self, x: float, y: float, action: str = "press", seat: str | None = None) -> bool:
        """Whether a free mouse's press, move or wheel here would be the world's, as far as can be known beforehand.

        No handler runs, so one that takes what glass offered it is not foreseen (law W6). Nor is what a press closes.

        :param seat: for whom; None: for the seat in whose viewport the point is.

        :raises SampleError: the point is no point, or the action is none of press, move, wheel.
        """
        _check_point(x, y, "would_reach_world")
        if not is_choice(action, ACTIONS):
            raise SampleError(f"would_reach_world: action is {action!r}, expected one of {', '.join(ACTIONS)}")
        offers, barrier = find_at(self._state, self._asker(x, y, seat), x, y, "mouse")
        if barrier is not None:
            return False
        if action == "press":
            return not presses.would_accept(offers)
        return not offers or offers[-1].effective_solidity != "solid"

    def in_use(self, node: Node) -> bool:
        """Whether a player has the focus on the node or below it, or holds a press or drag that began there.

        Who makes nodes only while they show keeps one that is in use.
        """
        state = self._state
        return any(
            one._focus.node is not None and one._focus.node.is_within(node) for one in state.seats_by_name.values()
        ) or any(one.press is not None and node in one.press.path for one in state.pointers.values())

    def hovered(self) -> dict[str, tuple[Node, ...]]:
        """The nodes that have been told that a pointer is over them, by the name of each pointer that hovers anything
        (law P5)."""
        return {name: tuple(one.hovered) for name, one in self._state.pointers.items() if one.hovered}

    def drop_targets(self, payload: Any) -> list[DropTarget]:
        """The answer of every target of the scene to a payload, to light up those that take it while it is dragged
        (G3).

        In paint order, each with ``node``, ``accepted`` and ``answer``, the reason if not. Cost: a walk of the scene.
        Errors of ``accepts`` come through.
        """
        from glent.core.routing.gestures.drop_targets import targets_in  # seldom wanted

        return targets_in(self.scene, payload)


def _check_point(x: float, y: float, where: str) -> None:
    check_number(x, "x", where)
    check_number(y, "y", where)
