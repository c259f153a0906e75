"""What a pointer finds where it points: on the layers, on panels, and on spots of the world (laws X1–X7)."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from glent.core.routing import reasons as because
from glent.core.routing.aim import Aim, camera_ray
from glent.core.routing.hit.point import pick
from glent.core.routing.hit.ray import find_beyond, walk_beyond
from glent.core.routing.seat_view import Barrier

if TYPE_CHECKING:
    from glent.core.geometry.world.ray import Ray
    from glent.core.routing.pointers.pointer import Pointer
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node
    from glent.core.scene.world_index import Met

__all__ = ["Sighting", "aim", "find", "look", "walk"]

Sighting = tuple["list[Node]", "Barrier | None", "list[tuple[Met, Node]]", "Met | None"]
"""The offers, what blocks the way behind them, those of them that stand in the world, and the spot the way ends at."""


def aim(pointing: Pointing, pointer: Pointer) -> None:
    """Find where a pointer points in the world, if it or the world has moved (law X6)."""
    scene = pointing.scene
    world_index = scene._world_index
    if world_index is None or pointer.aimed == scene._version:
        return
    before = pointer.aim
    ray = pointer.ray if pointer.tip is None else pointer.tip_ray
    if pointer.tip is None and ray is None and not pointer.away:
        pointing.seats.refresh()
        ray = camera_ray(pointer.seat.view, *pointer.pos)
    held = pointer.press
    panel = world_index.panel_of(held.path[0]) if held is not None else pointer.touched
    at: tuple[float, float] | None = None
    if panel is not None:
        near = before.on(panel) if before is not None and (before.panel is panel or panel in before.met) else None
        if pointer.tip is not None:
            at = panel.foot(pointer.tip)[:2]
        elif ray is not None:
            at = panel.from_ray(ray, near)
        if at is None:
            at = near if near is not None else before.on(panel) if before is not None else None
    made = Aim(ray, panel, at)
    pointer.aim_as(made, scene._version)
    pointing.dispatcher.aims[pointer.name] = made
    if pointer.kind == "ray" or pointer.tip is not None:
        pointer.land_at(at if at is not None else (0.0, 0.0))


def find(pointing: Pointing, pointer: Pointer, deep: bool = False) -> tuple[list[Node], Barrier | None]:
    """Find the offers to a pointer, the world behind the layers included, and note the spot among them on it.

    :param deep: whether to go on behind the first that ends it.
    """
    aim(pointing, pointer)
    view = pointer.seat.view
    if view.version != pointing.scene._version:
        pointing.seats.refresh()
    if pointer.tip is not None:
        return _touched(pointing, pointer, deep)
    if pointer.ray is not None:
        offers, barrier, beyond, spot = _along(pointer.seat, pointer.ray, pointer.kind, deep)
    else:
        offers, barrier, beyond, spot = look(pointing, pointer.seat, *pointer.pos, pointer.kind, deep)
    if pointer.aim is not None and beyond:
        pointer.aim.met = {met.root: met.at for met, _ in reversed(beyond) if met.at is not None}  # type: ignore[misc]
    if not deep:
        pointer.meet(spot)
        if pointer.kind == "ray" and pointer.aim is not None and pointer.aim.panel is None:
            met = beyond[0][0] if beyond else None
            pointer.land_at(met.at if met is not None and met.at is not None else (0.0, 0.0))
    return offers, barrier


def look(pointing: Pointing, seat: Seat, x: float, y: float, kind: str, deep: bool = False) -> Sighting:
    """What a seat finds at a point of the screen: its layers, then what stands behind them (law X4)."""
    view = seat.view
    barrier: Barrier | None = None
    if view.version != pointing.scene._version:
        pointing.seats.refresh()
    if view.unrestricted:
        offers = pick(pointing.scene, x, y, kind, deep)
    else:
        if not pointing.seats.is_inside(seat, x, y):
            return [], Barrier(because.OUTSIDE, seat.name), [], None
        offers, barrier = view.find(x, y, kind, deep)
    ended = any(node._effective == "solid" for node in offers[-1:]) or (
        deep and any(node._effective == "solid" for node in offers)
    )
    if barrier is not None or (ended and not deep):
        return offers, barrier, [], None
    ray = camera_ray(view, x, y)
    if ray is None:
        return offers, (None if ended and not deep else view.last()), [], None
    more, barrier, beyond, spot = _along(seat, ray, kind, deep)
    return [*offers, *more], barrier, beyond, None if ended else spot


def _along(seat: Seat, ray: Ray, kind: str, deep: bool) -> Sighting:
    """What a seat finds along a ray of its own, which meets no layer."""
    found = find_beyond(seat.view, ray, kind, deep)
    return [node for _, node in found.offers], found.barrier, found.offers, found.spot


def _touched(pointing: Pointing, pointer: Pointer, deep: bool) -> tuple[list[Node], Barrier | None]:
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
    if pointing.scene._index.reach_limits.get("touch"):
        from glent.core.scene.reach import with_reach

        nodes = with_reach(pointing.scene, panel, "touch", x, y, nodes, (1.0, 0.0, 0.0, 1.0, 0.0, 0.0))
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


def walk(pointing: Pointing, pointer: Pointer) -> Iterator[tuple[Node | None, Barrier | None]]:
    """All hits under a pointer, front to back; from a barrier on each comes with it."""
    view, ray = pointer.seat.view, pointer.ray
    barrier: Barrier | None = None
    if ray is None and pointer.tip is None:
        for node, barrier in view.walk(*pointer.pos, pointer.kind):
            yield node, barrier
        ray = camera_ray(view, *pointer.pos)
    if pointer.tip is not None:
        for node in _touched(pointing, pointer, True)[0]:
            yield node, None
    elif ray is not None and pointing.scene._world_index is not None:
        for _, node, bar in walk_beyond(view, ray):
            yield node, barrier or bar
