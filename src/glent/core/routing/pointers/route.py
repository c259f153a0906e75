"""All pointers of a scene: what each sample of one does to its hover, its press and its owner (laws P1–P11)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.world.ray import Ray
from glent.core.input.samples import PointerButton, PointerSample, RaySample
from glent.core.input.validate import button_of
from glent.core.routing import reasons as because
from glent.core.routing.hit import offers as sighting
from glent.core.routing.hit.point import Hit, hit_of
from glent.core.routing.pointers import hover, unowned
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.device_kind import note_use
from glent.core.routing.pointers.grabbing import route_grabbed
from glent.core.routing.pointers.pointer import FREE, NOBODY, SPENT, UI, WORLD, Pointer, Press, bit_of
from glent.core.routing.pointers.press_guard import land
from glent.core.routing.pointers.slide import slid, slides
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.geometry.world.throw import Throw
    from glent.core.routing.pointers.pointer import Contest
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.state import State
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Pointing"]

NO_STEP = (0.0, 0.0)


MOST_POINTERS = 64
"""Pointers that are kept: where one more comes, one that holds nothing is forgotten, as if it had left."""


class Pointing:
    """The pointers of one router."""

    __slots__ = ("_dispatcher", "_scene", "state")

    def __init__(self, state: State) -> None:
        self.state = state
        self._scene = state.scene
        self._dispatcher = state.dispatcher

    def route(self, sample: PointerSample | RaySample) -> Verdict:
        """Route a pointer's sample; the scene is settled."""
        state = self.state
        what, time = sample.action, sample.time
        pointer = state.pointers.get(sample.pointer)
        many = state.many
        if many:
            state.seats.note_acting(pointer, sample)
        if sample.emulated:
            return Verdict(because.EMULATED, what)
        button = button_of(sample.button)
        if pointer is None or what != "move" or pointer.kind != sample.kind or pointer.is_in_world:
            found = self._arrived(pointer, sample, bit_of(button))
            if isinstance(found, Verdict):
                return found
            pointer = found
        if pointer.idle is not None:
            pointer.remember(None)
        # Most presses and releases are where the last move was.
        at_rest = (
            isinstance(sample, PointerSample)
            and (sample.x, sample.y) == pointer.pos
            and not (pointer.away or pointer.jumped or sample.relative)
        )
        step = NO_STEP if at_rest else self._placed(pointer, sample)
        if many:
            state.seats.hand_to(pointer)
        if pointer.seat.last_kind != pointer.kind:
            note_use(state, pointer, sample)
        if self._scene._world_index is not None:
            sighting.aim(state, pointer)
        if pointer.hold is WORLD:
            return self._for_world(pointer, what, button, time)
        if sample.relative and pointer.hold is FREE:
            return self._locked(pointer, what, button)
        held = pointer.press
        contact = held.contact if held is not None else None
        if contact is not None:
            contact._went(float(time), step, sample)
        hover.look_around(state, pointer)
        grabbed = pointer.grab is not None
        if what == "move" and not grabbed:
            verdict = self.moved_on(pointer, what, time)
        else:
            verdict = self._acted(pointer, what, button, time, contact, step)
            if pointer.kind == "touch" and not pointer.buttons and (what == "release" or grabbed):
                self.forget(pointer, time)  # a finger that is up hovers nothing (law P8)
                return verdict
        hover.hover_after(state, pointer)
        if what == "move":
            self._remember_idle(pointer)
        return verdict

    def _arrived(self, pointer: Pointer | None, sample: PointerSample | RaySample, bit: int) -> Pointer | Verdict:
        """Find or make the pointer of a sample; or answer a sample that goes no farther (law P1).

        A pointer of another sort under the same name ends first; so does a press whose release got lost.
        """
        state = self.state
        what = sample.action
        if (
            pointer is not None
            and (pointer.is_in_world or pointer.kind != sample.kind)
            and _is_of_other_sort(pointer, sample)
        ):
            self.let_go(pointer)
            pointer = None
        if what == "release" and (pointer is None or not pointer.buttons & bit):
            return Verdict(because.STRAY, what)
        if what == "cancel":
            return self._take_away(pointer, sample.time)
        if pointer is None or (pointer.kind != sample.kind and not pointer.buttons):
            if pointer is not None:
                self.forget(pointer, sample.time)
            if len(state.pointers) >= MOST_POINTERS and sample.pointer not in state.pointers:
                self._forget_one(sample.time)
            pointer = state.pointers[sample.pointer] = Pointer(sample.pointer, sample.kind, state.main)
        if what == "press" and pointer.buttons & bit:
            self.end(pointer)
        return pointer

    def _forget_one(self, time: float) -> None:
        """Forget a pointer that holds nothing: the first that hovers nothing, or else the first there is."""
        free = [one for one in self.state.pointers.values() if one.hold is FREE and one.grab is None]
        gone = next((one for one in free if not one.hovered), next(iter(free), None))
        if gone is not None:
            self.forget(gone, time)

    def _placed(self, pointer: Pointer, sample: PointerSample | RaySample) -> tuple[float, float]:
        """Move a pointer to where its sample says. Return how far that is, in logical pixels (law P12)."""
        if isinstance(sample, RaySample):
            self._scene._place_to_stand()
            way = Ray(sample.origin, sample.direction, sample.length, "RaySample")
            throw: Throw | None = None
            if sample.path is not None:
                from glent.core.geometry.world.throw import Throw  # seldom wanted

                throw = Throw([sample.origin, *sample.path], sample.length)
            pointer.turn_to(way, throw)
            return NO_STEP  # how far it went is measured where it points (law G7)
        scale = self._scene._scale
        if sample.relative:
            pointer.jump()
            return sample.dx / scale, sample.dy / scale
        return pointer.step_to(float(sample.x), float(sample.y), scale)

    def _acted(
        self,
        pointer: Pointer,
        what: str,
        button: PointerButton,
        time: float,
        contact: Contest | None,
        step: tuple[float, float],
    ) -> Verdict:
        """Route a button of a pointer that the world does not hold, and all that comes to a grab."""
        state = self.state
        if pointer.grab is not None:
            return route_grabbed(state, pointer, what, button, time)
        if what == "release":
            if contact is not None and contact.open and button == contact.button and step != NO_STEP:
                contact._moved()
            return presses.release(state, pointer, button, time)
        if pointer.buttons:
            pointer.down(button)
            return self.moved_on(pointer, what, time)
        return land(state, pointer, button, time)

    def note_spot(self, name: str, verdict: Verdict) -> None:
        """Name the spot of the world that a pointer points at in the verdict of its sample (law X1)."""
        state = self.state
        pointer = state.pointers.get(name)
        if pointer is not None and pointer.spot is not None:
            verdict._spot = _spot_hit(pointer)

    def _locked(self, pointer: Pointer, what: str, button: PointerButton) -> Verdict:
        """Route a pointer that is locked and held by nobody: it has no place on the screen, and is the world's (law
        P12)."""
        state = self.state
        if not pointer.away:
            pointer.leave()
            hover.look_around(state, pointer)
        kept = unowned.kept_from_world(pointer.seat.view, "pointer", what)
        if what == "press":
            pointer.down(button)
            if kept is None:
                pointer.to_world()
            else:
                pointer.spend(kept.why)
        return kept or Verdict(because.LOCKED, what, True)

    def _for_world(self, pointer: Pointer, what: str, button: PointerButton, time: float) -> Verdict:
        """Route a pointer that the world holds: everything is its, until the buttons are up."""
        state = self.state
        if self._scene._world_index is not None:
            sighting.find(state, pointer)  # for the spot, which the world may want to know
        if what == "release":
            verdict = presses.release(state, pointer, button, time)
            if not pointer.buttons:
                if pointer.kind == "touch":
                    self.forget(pointer, time)
                else:
                    hover.look_around(state, pointer)
            return verdict
        if what == "press":
            pointer.down(button)
        else:
            self._remember_idle(pointer)
        return Verdict(because.WORLD_HELD, what, True)

    def moved_on(self, pointer: Pointer, what: str, time: float) -> Verdict:
        """Route a move, or a further button, of a pointer that the world does not hold."""
        held = pointer.press
        if pointer.hold is FREE:
            if _anyone_listens(pointer.hovered):
                return unowned.move(self._dispatcher, pointer, time)
            return unowned.leftover("move", pointer.offers, pointer.barrier)
        if pointer.hold is UI and held is not None:
            owner, contact = held.owner, held.contact
            if contact is not None:
                if what == "press" and contact.winner is not None and contact.winner.abandons:
                    return self.abandon(pointer, held, what)
                if what == "move":
                    contact._moved()
                if contact.winner is not None or pointer.press is not held:
                    return self.answer(pointer, held, contact, what)
            if what == "move" and (slide := slid(self.state, pointer, held, time)) is not None:
                return slide
            if what != "move" or _anyone_listens(held.path):
                presses.send_move(self._dispatcher, pointer, held, time)
            return Verdict(because.HELD, what, owner=owner)
        if pointer.hold is NOBODY and held is not None:
            return Verdict(because.DISABLED, what, about=presses.disabled_one(held.target))
        return Verdict(because.SPENT, what, about=pointer.spent_by)

    def answer(self, pointer: Pointer, held: Press, contact: Contest, what: str) -> Verdict:
        """The verdict once a contest has taken a sample: a gesture has the pointer, or handlers have ended it."""
        winner = contact.winner
        if winner is not None:
            verdict = Verdict(because.GESTURE, what, owner=held.owner, about=winner.name)
            verdict._outcome = (winner.name, (), None)
            return verdict
        return Verdict(because.SPENT, what, about=pointer.spent_by)

    def abandon(self, pointer: Pointer, held: Press, what: str) -> Verdict:
        """Abandon a drag upon a second button or Escape, which do no more (law G3)."""
        node = held.owner
        self.cancel(pointer, f"the drag of {node.path} was abandoned", "abandoned")
        return Verdict(because.ABANDONED, what, about=node)

    def abandon_drags(self, what: str, seat: Seat) -> Verdict | None:
        """Abandon the drags of all pointers of a seat. Return the verdict, if there was one."""
        state = self.state
        verdict = None
        for pointer in list(state.pointers.values()):
            if pointer.seat is not seat:
                continue
            held = pointer.press
            contact = held.contact if held is not None else None
            if held is not None and contact is not None and contact.winner is not None and contact.winner.abandons:
                verdict = self.abandon(pointer, held, what)
                hover.set_hover(state, pointer)
        return verdict

    def _remember_idle(self, pointer: Pointer) -> None:
        """Prepare the answer to a next move that changes nothing, where one answer will do."""
        state = self.state
        idle: Verdict | None = None
        hold, held = pointer.hold, pointer.press
        if state.settling.seen != self._scene._version or pointer.away or pointer.seat.last_kind != pointer.kind:
            return
        if pointer.spot is not None or pointer.aim is not None:
            return  # where it points in the world is another place each time
        if state.many and pointer.name not in state.owners:
            return  # it may come to another seat
        if hold is FREE:
            if not _anyone_listens(pointer.hovered):
                idle = unowned.leftover("move", pointer.offers, pointer.barrier)
        elif hold is WORLD:
            idle = Verdict(because.WORLD_HELD, "move", True)
        elif hold is SPENT:
            idle = Verdict(because.SPENT, "move", about=pointer.spent_by)
        elif hold is UI and held is not None and held.contact is None and pointer.grab is None:
            if _anyone_listens(held.path) or slides(held) is not None:
                return
            idle = Verdict(because.HELD, "move", owner=held.owner)
        if idle is not None:
            idle._seat = pointer.seat.name
            pointer.remember(idle)

    def _take_away(self, pointer: Pointer | None, time: float) -> Verdict:
        """Cancel a pointer as its device asks: no click; a mouse keeps its hover, a finger is gone (laws P1, P8)."""
        state = self.state
        if pointer is None:
            return Verdict(because.STRAY, "cancel")
        held = pointer.press if pointer.hold is UI else None
        about = f"{held.owner.path} was told" if held is not None else "there was nothing to undo"
        if pointer.hold is WORLD:
            about = "the world is told to lift what it held"
        self.end(pointer)
        if pointer.kind == "touch":
            self.forget(pointer, time)
        else:
            hover.look_around(state, pointer)
        return Verdict(because.CANCELLED, "cancel", about=about)

    def cancel(self, pointer: Pointer, why: str, ending: str) -> None:
        """End a pointer's press, if it has one: with a reason it is spent until its buttons are up (law P11).

        :param ending: why, for the gestures that compete for it or have won it.
        """
        state = self.state
        presses.cancel_press(self._dispatcher, pointer, state.now, why, ending)

    def end(self, pointer: Pointer, why: str = "", ending: str = "cancelled") -> None:
        """End what a pointer holds: lift what the world has by it, and cancel its press (laws P8, P11).

        With a reason it is spent until its buttons are up. Without one its device has let go of them, or is gone.
        """
        state = self.state
        pointer.seat._drop_kept(pointer.name)
        state.lifts.add(presses.held_by_world(pointer))
        self.cancel(pointer, why, ending)
        if not why:
            pointer.has_down(0)

    def let_go(self, pointer: Pointer) -> None:
        """End what a pointer holds, and forget it."""
        state = self.state
        self.end(pointer)
        self.forget(pointer, state.now)

    def forget(self, pointer: Pointer, time: float) -> None:
        """Forget a pointer that is gone: it hovers nothing any more."""
        state = self.state
        pointer.vanish()
        grab = pointer.ungrab()
        if grab is not None:
            grab._finish()
            pointer.free()
        hover.change_hover(self._dispatcher, pointer, {}, time)
        if state.scene._listeners.get("dwell") or state.feel.dwell_activates:
            state.gestures.look(pointer)
        made = pointer.ungrab()
        if made is not None:  # by a handler of these very leaves
            made._lose("the pointer has gone")
        if state.pointers.get(pointer.name) is pointer:
            del state.pointers[pointer.name]
            state.seats.forget(pointer)
            self._dispatcher.aims.pop(pointer.name, None)

    def leave_scene(self, why: str) -> None:
        """Let all pointers leave the scene: hover ends, presses are cancelled, their pointers spent. What the world
        holds it keeps (laws P6, P11)."""
        for pointer in list(self.state.pointers.values()):
            pointer.seat._drop_kept(pointer.name)
            if pointer.hold is UI:
                self.cancel(pointer, why, "vanished")
            elif pointer.hold is NOBODY:
                pointer.spend(why)
            hover.change_hover(self._dispatcher, pointer, {}, self.state.now)
            if pointer.hold is UI:
                self.cancel(pointer, why, "vanished")  # a handler of these very leaves has grabbed it
            pointer.leave_scene()

    def enter_scene(self, scene: Scene) -> None:
        """Route the pointers in another scene from now on."""
        self._scene = scene

    def close(self) -> None:
        """End all presses, all hover and all focus."""
        state = self.state
        for pointer in list(state.pointers.values()):
            self.let_go(pointer)
        state.seats.close()
        state.gestures.close()

    def removed(self, nodes: list[Node]) -> None:
        """Send what removed nodes are owed, directly after the running event, or at once outside of one."""
        state = self.state
        gone = set(nodes)
        dispatcher = self._dispatcher
        state.gestures.forget(nodes)
        for pointer in state.pointers.values():
            presses.owe_cancels(dispatcher, pointer, gone, state.now)
            hover.owe_leaves(dispatcher, pointer, gone, state.now)
        if not dispatcher.running:
            dispatcher.pay()

    def look(self, node: Node) -> str:
        """The look of an enabled node, by all pointers and keys."""
        state = self.state
        pointers = state.pointers.values()
        if any(hover.is_pressed(pointer, node) for pointer in pointers) or state.seats.is_pressing(node):
            return "pressed"
        return "hover" if any(hover.shows_hover(pointer, node) for pointer in pointers) else "idle"


def _is_of_other_sort(pointer: Pointer, sample: PointerSample | RaySample) -> bool:
    """Whether a pointer of the screen goes on as a ray under the same name, or the other way round."""
    return ((pointer.tip is not None or pointer.ray is not None) and not isinstance(sample, RaySample)) or (
        isinstance(sample, RaySample) and pointer.kind != "ray"
    )


def _anyone_listens(nodes: Iterable[Node]) -> bool:
    return any(node.listens("move") for node in nodes)


def _spot_hit(pointer: Pointer) -> Hit | None:
    """The hit of the spot of the world that a pointer points at, for its verdict."""
    spot, aim = pointer.spot, pointer.aim
    if spot is None or aim is None or aim.ray is None:
        return None
    return hit_of(spot, spot.root, aim.ray, True)
