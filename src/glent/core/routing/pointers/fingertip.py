"""Direct touch: a fingertip that comes through the front of a panel presses it, and releases it coming back.

A panel is armed by a fingertip that is within ``Feel.tip_depth`` in front of it; one that is armed is pressed once the
fingertip is behind the front, no deeper than that, if it came through within the panel's edges. All is measured by the
panel itself, so one on a ship is pressed no harder for sailing. The fingertip is a pointer of kind ``touch``: it hovers
only while it presses (law P8).
"""

from __future__ import annotations

from typing import TYPE_CHECKING, cast

from glent.core.geometry.world.ray import Ray
from glent.core.input.samples import PointerButton
from glent.core.routing import reasons as because
from glent.core.routing.hit import offers as sighting
from glent.core.routing.pointers import hover
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.grabbing import route_grabbed
from glent.core.routing.pointers.pointer import Pointer
from glent.core.routing.pointers.press_guard import land
from glent.core.routing.pointers.unowned import kept_from_world
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from glent.core.geometry.world.vectors import Vector3
    from glent.core.input.samples import TipSample
    from glent.core.routing.pointers.route import Pointing
    from glent.core.routing.state import State
    from glent.core.scene.panel import Panel

__all__ = ["route_tip"]

WHAT = "fingertip"
JUST = 1e-9
"""Metres: as near as this is on the front."""


def route_tip(pointing: Pointing, sample: TipSample) -> Verdict:
    """Route a fingertip's sample; the scene is settled."""
    state = pointing.state
    name, time = sample.pointer, sample.time
    pointer = state.pointers.get(name)
    if state.many:
        state.seats.note_tip(name, pointer)
    if pointer is not None and pointer.tip is None:  # another sort of pointer had this name
        pointing.let_go(pointer)
        pointer = None
    if sample.tip is None:
        return _lost(pointing, pointer)
    state.scene._place_to_stand()
    if pointer is None:
        pointer = state.pointers[name] = Pointer(name, "touch", state.main)
    pointer.tip_to(cast("Vector3", tuple(map(float, sample.tip))))
    if state.many:
        state.seats.hand_to(pointer)
    if pointer.buttons:
        verdict = _goes_on(pointing, pointer, time)
    else:
        pointer.touch(_pressed(state, pointer))
        if pointer.touched is None:
            verdict = Verdict(because.OPEN, WHAT, True)
            kept = kept_from_world(pointer.seat.view, "pointer", WHAT)
            verdict = kept or verdict
        else:
            verdict = _goes_in(pointing, pointer, time)
    if state.pointers.get(name) is pointer:
        _arm(state, pointer)
    verdict._seat = pointer.seat.name
    return verdict


def _goes_in(pointing: Pointing, pointer: Pointer, time: float) -> Verdict:
    state = pointing.state
    pointer.seat._use("touch")
    _look(state, pointer)
    verdict = land(state, pointer, PointerButton.PRIMARY, time)
    hover.hover_after(state, pointer)
    return verdict


def _goes_on(pointing: Pointing, pointer: Pointer, time: float) -> Verdict:
    """Route a fingertip behind the front of a panel: it moves there, or has come back."""
    state = pointing.state
    panel, tip = pointer.touched, pointer.tip
    _look(state, pointer)
    held = pointer.press
    contact = held.contact if held is not None else None
    if contact is not None:
        contact._book_tip(float(time))
    assert tip is not None
    if panel is not None and panel._scene is not None and panel.foot(tip)[2] <= JUST:
        verdict = (
            route_grabbed(state, pointer, "move", PointerButton.PRIMARY, time)
            if pointer.grab is not None
            else pointing.moved_on(pointer, "move", time)
        )
        hover.hover_after(state, pointer)
        return verdict
    if pointer.grab is not None:
        verdict = route_grabbed(state, pointer, "release", PointerButton.PRIMARY, time)
    else:
        if contact is not None and contact.open and contact.step != (0.0, 0.0):
            contact._moved()
        verdict = presses.release(state, pointer, PointerButton.PRIMARY, time)
    # The finger is back in front: it hovers nothing, and may press again.
    pointing.forget(pointer, time)
    again = state.pointers[pointer.name] = Pointer(pointer.name, "touch", pointer.seat)
    again.tip_to(tip)
    again.leave()
    again.count(pointer.last_click)
    _arm(state, again)
    return verdict


def _look(state: State, pointer: Pointer) -> None:
    """Find where it is on the panel that it presses, and what lies there."""
    panel, tip = pointer.touched, pointer.tip
    if panel is not None and tip is not None and panel._scene is not None:
        x, y, _ = panel.foot(tip)
        normal = panel.normal(x, y)
        pointer.face(Ray(tip, (-normal[0], -normal[1], -normal[2])))
    sighting.aim(state, pointer)
    hover.look_around(state, pointer)


def _pressed(state: State, pointer: Pointer) -> Panel | None:
    """The panel whose front it has come through since its last sample; the nearest to it, if there are several."""
    tip = pointer.tip
    assert tip is not None
    deepest = state.feel.tip_depth
    best: tuple[float, Panel] | None = None
    for panel, (x0, y0, before) in pointer.armed.items():
        if panel._scene is None or not panel.is_visible or panel._effective == "ghost":
            continue
        x, y, depth = panel.foot(tip)
        if not -deepest <= depth <= 0.0:
            continue
        part = before / (before - depth) if before > depth else 0.0
        x, y = x0 + (x - x0) * part, y0 + (y - y0) * part
        width, height = panel.pixels
        if 0.0 <= x < width and 0.0 <= y < height and (best is None or part < best[0]):
            best = part, panel
    return best[1] if best is not None else None


def _arm(state: State, pointer: Pointer) -> None:
    """Note the panels that it is near, in front of them."""
    pointer.armed.clear()
    world_index, tip = state.scene._world_index, pointer.tip
    if world_index is None or tip is None or pointer.buttons:
        return
    depth = state.feel.tip_depth
    world_index.refresh()

    def ask(root: object) -> None:
        panel = cast("Panel", root)
        if panel._own is not None:
            x, y, away = panel.foot(tip)
            if 0.0 < away <= depth:
                pointer.armed[panel] = (x, y, away)

    world_index.volumes.within(tip, (0.0, 1.0, 0.0), 0.0, 0.0, depth, ask)


def _lost(pointing: Pointing, pointer: Pointer | None) -> Verdict:
    """End a fingertip that is not seen any more."""
    if pointer is None:
        return Verdict(because.STRAY, WHAT)
    told = pointer.press is not None
    pointing.let_go(pointer)
    about = "what it pressed was told" if told else "there was nothing to undo"
    return Verdict(because.CANCELLED, WHAT, about=about)
