"""What a pointer finds where it points: on the layers, on panels, and on spots of the world (laws X1–X7)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.aim import Aim, camera_ray
from glent.core.routing.hit.point import Offers, pick
from glent.core.routing.hit.ray import find_beyond, walk_beyond
from glent.core.routing.seat_view import Barrier

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = ["aim", "find", "find_all", "find_at", "walk"]


def aim(state: State, pointer: Pointer) -> None:
    """Find where a pointer points in the world, if it or the world has moved (law X6)."""
    scene = state.scene
    world_index = scene._world_index
    if world_index is None or pointer.aimed == scene._version:
        return
    before = pointer.aim
    ray = pointer.ray if pointer.tip is None else pointer.tip_ray
    if pointer.tip is None and ray is None and not pointer.away:
        state.seats.refresh()
        ray = camera_ray(pointer.seat.view, *pointer.pos)
    held = pointer.press
    panel = world_index.panel_of(held.path[0]) if held is not None else pointer.touched
    at: tuple[float, float] | None = None
    sight: Ray | None = None
    throw = pointer.throw
    if throw is not None:
        from glent.core.routing.hit.thrown import landing, sight_of, through  # seldom wanted

        state.seats.refresh()
        ray, end = landing(pointer.seat.view, throw, pointer.kind)
        pointer.follow(ray)
    if panel is not None:
        near = before.on(panel) if before is not None and (before.panel is panel or panel in before.met) else None
        if pointer.tip is not None:
            at = panel.foot(pointer.tip)[:2]
        elif throw is not None:
            at = through(panel, throw, near)
        elif ray is not None:
            at = panel.from_ray(ray, near)
        if at is None:
            at = near if near is not None else before.on(panel) if before is not None else None
    if throw is not None:
        sight = sight_of(throw, end if panel is None or at is None else panel.to_world(*at))
    made = Aim(ray, panel, at, sight)
    pointer.aim_as(made, scene._version)
    state.dispatcher.aims[pointer.name] = made
    if pointer.kind == "ray" or pointer.tip is not None:
        pointer.land_at(at if at is not None else (0.0, 0.0))


def find(state: State, pointer: Pointer) -> list[Node]:
    """Find the offers to a pointer, and note on it what blocks the way behind them."""
    if pointer.away:
        pointer.bar(None)
        pointer.meet(None)
        return []
    scene, view = state.scene, pointer.seat.view
    if scene._world_index is not None:
        offers, barrier = _find_beyond_too(state, pointer, False)
    elif view.screen_only and view.version == scene._version:  # mostly, so it goes a shorter way
        offers, barrier = pick(scene, *pointer.pos, pointer.kind), None
    else:
        offers, barrier = find_at(state, pointer.seat, *pointer.pos, pointer.kind)
    pointer.bar(barrier)
    return offers


def find_all(state: State, pointer: Pointer) -> tuple[list[Node], Barrier | None]:
    """Find the offers to a pointer and all that the first solid covers, down to what blocks the way."""
    if state.scene._world_index is not None:
        return _find_beyond_too(state, pointer, True)
    return find_at(state, pointer.seat, *pointer.pos, pointer.kind, deep=True)


def find_at(
    state: State, seat: Seat, x: float, y: float, kind: str, deep: bool = False
) -> tuple[list[Node], Barrier | None]:
    """Find the offers to a seat at a point of the window, and what blocks the way behind them."""
    view = seat.view
    if view.version != state.scene._version:
        state.seats.refresh()
    if view.screen_only:
        return pick(state.scene, x, y, kind, deep), None
    found = _look(state, seat, x, y, kind, deep)
    return found.nodes, found.barrier


def _find_beyond_too(state: State, pointer: Pointer, deep: bool) -> tuple[list[Node], Barrier | None]:
    """Find the offers to a pointer, the world behind the layers included, and note the spot among them on it.

    :param deep: whether to go on behind the first that ends it.
    """
    aim(state, pointer)
    view = pointer.seat.view
    if view.version != state.scene._version:
        state.seats.refresh()
    if pointer.tip is not None:
        return _touched(state, pointer, deep)
    if pointer.ray is not None:
        found = find_beyond(view, pointer.ray, pointer.kind, deep)
    else:
        found = _look(state, pointer.seat, *pointer.pos, pointer.kind, deep)
    beyond = found.beyond
    if pointer.aim is not None and beyond:
        pointer.aim.meets({met.root: met.at for met, _ in reversed(beyond) if met.at is not None})  # type: ignore[misc]
    if not deep:
        pointer.meet(found.spot)
        if pointer.kind == "ray" and pointer.aim is not None and pointer.aim.panel is None:
            met = beyond[0][0] if beyond else None
            pointer.land_at(met.at if met is not None and met.at is not None else (0.0, 0.0))
    return found.nodes, found.barrier


def _look(state: State, seat: Seat, x: float, y: float, kind: str, deep: bool) -> Offers:
    """What a seat finds at a point of the screen: its layers, then what stands behind them (law X4)."""
    view = seat.view
    barrier: Barrier | None = None
    if view.version != state.scene._version:
        state.seats.refresh()
    if view.unrestricted:
        offers = pick(state.scene, x, y, kind, deep)
    else:
        if not state.is_inside(seat, x, y):
            return Offers([], Barrier(because.OUTSIDE, seat.name))
        offers, barrier = view.find(x, y, kind, deep)
    ended = any(node._effective == "solid" for node in offers[-1:]) or (
        deep and any(node._effective == "solid" for node in offers)
    )
    if barrier is not None or (ended and not deep):
        return Offers(offers, barrier)
    ray = camera_ray(view, x, y)
    if ray is None:
        return Offers(offers, None if ended and not deep else view.last())
    more = find_beyond(view, ray, kind, deep)
    return Offers([*offers, *more.nodes], more.barrier, more.beyond, None if ended else more.spot)


def _touched(state: State, pointer: Pointer, deep: bool) -> tuple[list[Node], Barrier | None]:
    """What lies beneath a fingertip on the panel that it touches."""
    panel, made = pointer.touched, pointer.aim
    if panel is None or made is None or made.at is None or panel._scene is None:
        return [], None
    x, y = made.at
    width, height = panel.pixels
    if not panel._shown or not (0.0 <= x < width and 0.0 <= y < height):
        return [], None
    nodes: list[Node] = []
    assert panel._own is not None
    panel._own.meet(panel, x, y, nodes, deep)
    if state.scene._index.reach_limits.get("touch"):
        from glent.core.scene.reach import with_reach

        nodes = with_reach(state.scene, panel, "touch", x, y, nodes, (1.0, 0.0, 0.0, 1.0, 0.0, 0.0))
    view = pointer.seat.view
    offers: list[Node] = []
    for node, barrier in view.filtered(nodes, None):
        if barrier is not None:
            return offers, barrier
        offers.append(node)
        if node.stops_input and not deep:
            return offers, None
    held = view.held_panels.get(panel)
    return offers, Barrier(because.MODAL, held) if held is not None else view.last()


def walk(state: State, pointer: Pointer) -> Iterator[tuple[Node | None, Barrier | None]]:
    """All hits under a pointer, front to back; from a barrier on each comes with it."""
    view, ray = pointer.seat.view, pointer.ray
    barrier: Barrier | None = None
    if ray is None and pointer.tip is None:
        for node, barrier in view.walk(*pointer.pos, pointer.kind):
            yield node, barrier
        ray = camera_ray(view, *pointer.pos)
    if pointer.tip is not None:
        for node in _touched(state, pointer, True)[0]:
            yield node, None
    elif ray is not None and state.scene._world_index is not None:
        for _, node, bar in walk_beyond(view, ray):
            yield node, barrier or bar
