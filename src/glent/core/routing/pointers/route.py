"""All pointers of a scene: what each sample of one does to its hover, its press and its owner (laws P1–P11)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.geometry.world.ray import Ray
from glent.core.input.samples import PointerButton, PointerSample, RaySample
from glent.core.input.validate import LATEST, button_of
from glent.core.routing import reasons as because
from glent.core.routing.hit import offers as sighting
from glent.core.routing.hit.point import Hit, hit_of, pick
from glent.core.routing.pointers import hover, unowned
from glent.core.routing.pointers import press as presses
from glent.core.routing.pointers.device_kind import note_use
from glent.core.routing.pointers.pointer import FREE, NOBODY, SPENT, UI, WORLD, Pointer, Press, bit_of
from glent.core.routing.pointers.press_guard import land
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.input.feel import Feel
    from glent.core.input.samples import WheelSample
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.gestures.contest import Gestures
    from glent.core.routing.look_events import LookEvents
    from glent.core.routing.seat_view import Barrier
    from glent.core.routing.seats.lifts import Lifts
    from glent.core.routing.seats.seat import Seat
    from glent.core.routing.seats.seats import Seats
    from glent.core.routing.seats.settle import Settling
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Pointing"]

NO_STEP = (0.0, 0.0)


class Pointing:
    """The pointers of one router.

    :ivar now: the time of the sample being routed. :ivar gestures: what presses may become.
    """

    __slots__ = (
        "dispatcher",
        "feel",
        "gestures",
        "lifts",
        "look_events",
        "many",
        "now",
        "pointers",
        "scene",
        "seats",
        "settling",
    )

    gestures: Gestures
    seats: Seats
    look_events: LookEvents
    settling: Settling

    def __init__(self, scene: Scene, feel: Feel, dispatcher: Dispatcher, lifts: Lifts) -> None:
        self.scene = scene
        self.feel = feel
        self.dispatcher = dispatcher
        self.lifts = lifts
        self.pointers: dict[str, Pointer] = {}
        self.now = -LATEST
        self.many = False
        """Whether there is more than one seat, so that a shared pointer may change hands."""

    def join(self, gestures: Gestures, seats: Seats, settling: Settling, look_events: LookEvents) -> None:
        """Connect the other parts of the router, which are made after this one."""
        self.gestures = gestures
        self.seats = seats
        self.settling = settling
        self.look_events = look_events

    def route(self, sample: PointerSample | RaySample) -> Verdict:
        """Route a pointer's sample; the scene is settled."""
        what, time = sample.action, sample.time
        pointer = self.pointers.get(sample.pointer)
        many = self.many
        if many:
            self.seats.note_acting(pointer, sample)
        if sample.emulated:
            return Verdict(because.EMULATED, what)
        button = button_of(sample.button)
        if pointer is None or what != "move" or pointer.kind != sample.kind or pointer.aim is not None:
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
            self.seats.hand_to(pointer)
        if pointer.seat.last_kind != pointer.kind:
            note_use(self, pointer, sample)
        if self.scene._world_index is not None:
            sighting.aim(self, pointer)
        if pointer.hold is WORLD:
            return self._for_world(pointer, what, button, time)
        if sample.relative and pointer.hold is FREE:
            return self._locked(pointer, what, button)
        held = pointer.press
        contact = held.contact if held is not None else None
        if contact is not None:
            contact._went(float(time), step, sample)
        self.look_around(pointer)
        grabbed = pointer.grab is not None
        if what == "move" and not grabbed:
            verdict = self.moved_on(pointer, what, time)
        else:
            verdict = self._acted(pointer, what, button, time, contact, step)
            if pointer.kind == "touch" and not pointer.buttons and (what == "release" or grabbed):
                self.forget(pointer, time)  # a finger that is up hovers nothing (law P8)
                return verdict
        self.hover_after(pointer)
        if what == "move":
            self._remember_idle(pointer)
        return verdict

    def _arrived(self, pointer: Pointer | None, sample: PointerSample | RaySample, bit: int) -> Pointer | Verdict:
        """Find or make the pointer of a sample; or answer a sample that goes no farther (law P1).

        A pointer of another sort under the same name ends first; so does a press whose release got lost.
        """
        what = sample.action
        if (
            pointer is not None
            and (pointer.aim is not None or pointer.kind != sample.kind)
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
            pointer = self.pointers[sample.pointer] = Pointer(sample.pointer, sample.kind, self.seats.main)
        if what == "press" and pointer.buttons & bit:
            self.end(pointer)
        return pointer

    def _placed(self, pointer: Pointer, sample: PointerSample | RaySample) -> tuple[float, float]:
        """Move a pointer to where its sample says. Return how far that is, in logical pixels (law P12)."""
        if isinstance(sample, RaySample):
            self.scene._place_to_stand()
            pointer.turn_to(Ray(sample.origin, sample.direction, sample.length, "RaySample"))
            return NO_STEP  # how far it went is measured where it points (law G7)
        scale = self.scene._scale
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
        contact: Contact | None,
        step: tuple[float, float],
    ) -> Verdict:
        """Route a button of a pointer that the world does not hold, and all that comes to a grab."""
        if pointer.grab is not None:
            return pointer.grab._route(what, button, time)
        if what == "release":
            if contact is not None and contact.open and button == contact.button and step != NO_STEP:
                self.gestures.moved(contact)
            return presses.release(self, pointer, button, time)
        if pointer.buttons:
            pointer.down(button)
            return self.moved_on(pointer, what, time)
        return land(self, pointer, button, time)

    def note_spot(self, name: str, verdict: Verdict) -> None:
        """Name the spot of the world that a pointer points at in the verdict of its sample (law X1)."""
        pointer = self.pointers.get(name)
        if pointer is not None and pointer.spot is not None:
            verdict._spot = _spot_hit(pointer)

    def seat_at(self, sample: WheelSample) -> Seat:
        """The seat whose wheel turned there."""
        seats = self.seats
        return seats.owners.get(sample.pointer) or seats.at(sample.x, sample.y)

    def find(self, pointer: Pointer) -> list[Node]:
        """Find the offers to a pointer, and note on it what blocks the way behind them."""
        if pointer.away:
            pointer.bar(None)
            pointer.meet(None)
            return []
        if self.scene._world_index is not None:
            offers, barrier = sighting.find(self, pointer)
        else:
            offers, barrier = self.found(pointer.seat, *pointer.pos, pointer.kind)
        pointer.bar(barrier)
        return offers

    def find_all(self, pointer: Pointer) -> tuple[list[Node], Barrier | None]:
        """Find the offers to a pointer and all that the first solid covers."""
        if self.scene._world_index is not None:
            return sighting.find(self, pointer, deep=True)
        return self.found(pointer.seat, *pointer.pos, pointer.kind, deep=True)

    def found(self, seat: Seat, x: float, y: float, kind: str, deep: bool = False) -> tuple[list[Node], Barrier | None]:
        """The offers to a seat at a point, and what blocks the way behind them."""
        view = seat.view
        if view.version != self.scene._version:
            self.seats.refresh()
        if view.screen_only:
            return pick(self.scene, x, y, kind, deep), None
        return sighting.look(self, seat, x, y, kind, deep)[:2]

    def _locked(self, pointer: Pointer, what: str, button: PointerButton) -> Verdict:
        """Route a pointer that is locked and held by nobody: it has no place on the screen, and is the world's (law
        P12)."""
        if not pointer.away:
            pointer.leave()
            self.look_around(pointer)
        kept = self.seats.kept_from_world(pointer.seat, "pointer", what)
        if what == "press":
            pointer.down(button)
            if kept is None:
                pointer.to_world()
            else:
                pointer.spend(kept.why)
        return kept or Verdict(because.LOCKED, what, True)

    def _for_world(self, pointer: Pointer, what: str, button: PointerButton, time: float) -> Verdict:
        """Route a pointer that the world holds: everything is its, until the buttons are up."""
        if self.scene._world_index is not None:
            self.find(pointer)  # for the spot, which the world may want to know
        if what == "release":
            verdict = presses.release(self, pointer, button, time)
            if not pointer.buttons:
                if pointer.kind == "touch":
                    self.forget(pointer, time)
                else:
                    self.look_around(pointer)
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
                return unowned.move(self.dispatcher, pointer, time)
            return unowned.leftover("move", pointer.offers, pointer.barrier)
        if pointer.hold is UI and held is not None:
            owner, contact = held.owner, held.contact
            if contact is not None:
                if what == "press" and contact.winner is not None and contact.winner.abandons:
                    return self.abandon(pointer, contact, what)
                if what == "move":
                    self.gestures.moved(contact)
                if contact.winner is not None or pointer.press is not held:
                    return self.answer(pointer, held, contact, what)
            if what != "move" or _anyone_listens(held.path):
                presses.send_move(self.dispatcher, pointer, held, time)
            return Verdict(because.HELD, what, owner=owner)
        if pointer.hold is NOBODY and held is not None:
            return Verdict(because.DISABLED, what, about=held.target)
        return Verdict(because.SPENT, what, about=pointer.spent_by)

    def answer(self, pointer: Pointer, held: Press, contact: Contact, what: str) -> Verdict:
        """The verdict once a contest has taken a sample: a gesture has the pointer, or handlers have ended it."""
        winner = contact.winner
        if winner is not None:
            verdict = Verdict(because.GESTURE, what, owner=held.owner, about=winner.name)
            verdict._outcome = (winner.name, (), None)
            return verdict
        return Verdict(because.SPENT, what, about=pointer.spent_by)

    def abandon(self, pointer: Pointer, contact: Contact, what: str) -> Verdict:
        """Abandon a drag upon a second button or Escape, which do no more (law G3)."""
        node = contact.press.owner
        self.cancel(pointer, f"the drag of {node.path} was abandoned", "abandoned")
        return Verdict(because.ABANDONED, what, about=node)

    def abandon_drags(self, what: str, seat: Seat) -> Verdict | None:
        """Abandon the drags of all pointers of a seat. Return the verdict, if there was one."""
        verdict = None
        for pointer in list(self.pointers.values()):
            if pointer.seat is not seat:
                continue
            contact = pointer.press.contact if pointer.press is not None else None
            if contact is not None and contact.winner is not None and contact.winner.abandons:
                verdict = self.abandon(pointer, contact, what)
                self.set_hover(pointer)
        return verdict

    def look_around(self, pointer: Pointer) -> None:
        """Find the offers where the pointer is, and what it hovers by that."""
        scene = self.scene
        if pointer.picked == scene._version and pointer.hovered_for is pointer.hold:
            return  # as before: mostly a press or a release where the last move already was
        pointer.seen(scene._version)
        offers = self.find(pointer)
        if offers == pointer.offers and pointer.hovered_for is pointer.hold:
            return
        self.offers_changed(pointer, offers)

    def offers_changed(self, pointer: Pointer, offers: list[Node]) -> None:
        """Note that other nodes lie where a pointer is, and hover them."""
        scene = self.scene
        pointer.see(offers, pointer.picked)
        held = pointer.press
        if held is not None:
            depth = hover.depth_over(offers, held.path)
            held.look_inside(depth)
            if pointer.hovered_for is UI and pointer.hold is UI and len(pointer.hovered) == depth + 1:
                return  # of the path that holds it, it hovers as much as before
        version = scene._version
        self.set_hover(pointer)
        if scene._version != version:
            self.pick_again(pointer)

    def set_hover(self, pointer: Pointer) -> None:
        """Bring a pointer's hover in line with its offers and with who holds it."""
        pointer.hovers_rightly()
        hover.set_hover(self.dispatcher, pointer, hover.wanted(pointer), self.now)
        if self.scene._listeners.get("dwell"):
            self.gestures.dwelling.look(pointer)

    def pick_again(self, pointer: Pointer) -> None:
        """Find the offers again, after handlers have changed the scene."""
        self.scene._index.refresh()
        pointer.unsettle()
        pointer.see(pointer.offers if pointer.away else self.find(pointer), self.scene._version)

    def hover_after(self, pointer: Pointer) -> None:
        """Bring hover up to date after a press, a release or a move: who holds the pointer may have changed."""
        if self.settling.seen != self.scene._version:
            self.pick_again(pointer)
        elif pointer.hovered_for is pointer.hold:
            return
        elif (
            not pointer.blind
            and len(pointer.offers) == 1
            and pointer.offers[0] in pointer.hovered
            and (pointer.press is None or pointer.press.target is pointer.offers[0])
        ):
            pointer.hovers_rightly()  # the path of its one offer is hovered, whoever holds the pointer
            if self.scene._listeners.get("dwell"):
                self.gestures.dwelling.look(pointer)
            return
        self.set_hover(pointer)

    def _remember_idle(self, pointer: Pointer) -> None:
        """Prepare the answer to a next move that changes nothing, where one answer will do."""
        idle: Verdict | None = None
        hold, held = pointer.hold, pointer.press
        if self.settling.seen != self.scene._version or pointer.away or pointer.seat.last_kind != pointer.kind:
            return
        if pointer.spot is not None or pointer.aim is not None:
            return  # where it points in the world is another place each time
        if self.many and pointer.name not in self.seats.owners:
            return  # it may come to another seat
        if hold is FREE:
            if not _anyone_listens(pointer.hovered):
                idle = unowned.leftover("move", pointer.offers, pointer.barrier)
        elif hold is WORLD:
            idle = Verdict(because.WORLD_HELD, "move", True)
        elif hold is SPENT:
            idle = Verdict(because.SPENT, "move", about=pointer.spent_by)
        elif hold is UI and held is not None and held.contact is None and pointer.grab is None:
            if _anyone_listens(held.path):
                return
            idle = Verdict(because.HELD, "move", owner=held.owner)
        if idle is not None:
            idle._seat = pointer.seat.name
            pointer.remember(idle)

    def _take_away(self, pointer: Pointer | None, time: float) -> Verdict:
        """Cancel a pointer as its device asks: no click; a mouse keeps its hover, a finger is gone (laws P1, P8)."""
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
            self.look_around(pointer)
        return Verdict(because.CANCELLED, "cancel", about=about)

    def cancel(self, pointer: Pointer, why: str, ending: str) -> None:
        """End a pointer's press, if it has one: with a reason it is spent until its buttons are up (law P11).

        :param ending: why, for the gestures that compete for it or have won it.
        """
        presses.cancel_press(self.dispatcher, pointer, self.now, why, ending)

    def end(self, pointer: Pointer, why: str = "", ending: str = "cancelled") -> None:
        """End what a pointer holds: lift what the world has by it, and cancel its press (laws P8, P11).

        With a reason it is spent until its buttons are up. Without one its device has let go of them, or is gone.
        """
        self.lifts.add(presses.held_by_world(pointer))
        self.cancel(pointer, why, ending)
        if not why:
            pointer.has_down(0)

    def let_go(self, pointer: Pointer) -> None:
        """End what a pointer holds, and forget it."""
        self.end(pointer)
        self.forget(pointer, self.now)

    def forget(self, pointer: Pointer, time: float) -> None:
        """Forget a pointer that is gone: it hovers nothing any more."""
        pointer.vanish()
        grab = pointer.ungrab()
        if grab is not None:
            grab.finish()
            pointer.free()
        hover.set_hover(self.dispatcher, pointer, {}, time)
        if self.scene._listeners.get("dwell"):
            self.gestures.dwelling.look(pointer)
        made = pointer.ungrab()
        if made is not None:  # by a handler of these very leaves
            made._end("the pointer has gone")
        if self.pointers.get(pointer.name) is pointer:
            del self.pointers[pointer.name]
            self.seats.forget(pointer)
            self.dispatcher.aims.pop(pointer.name, None)

    def close(self) -> None:
        """End all presses, all hover and all focus."""
        for pointer in list(self.pointers.values()):
            self.let_go(pointer)
        self.seats.close()
        self.gestures.running.clear()

    def removed(self, nodes: list[Node]) -> None:
        """Send what removed nodes are owed, directly after the running event, or at once outside of one."""
        gone = set(nodes)
        dispatcher = self.dispatcher
        self.gestures.areas.removed(nodes)
        for pointer in self.pointers.values():
            presses.owe_cancels(dispatcher, pointer, gone, self.now)
            hover.owe_leaves(dispatcher, pointer, gone, self.now)
        if not dispatcher.running:
            dispatcher.pay()

    def look(self, node: Node) -> str:
        """The look of an enabled node, by all pointers and keys."""
        pointers = self.pointers.values()
        if any(hover.is_pressed(pointer, node) for pointer in pointers) or self.seats.key_presses.is_pressing(node):
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
