"""All pointers of a scene: what each sample of one does to its hover, its press and its owner (laws P1–P11)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SettleError
from glent.core.input.samples import Button, PointerSample, WheelSample
from glent.core.input.validate import LATEST, button_of
from glent.core.routing import hover, passing, presses
from glent.core.routing import reasons as because
from glent.core.routing.picking import pick
from glent.core.routing.pointer import FREE, NOBODY, SPENT, UI, WORLD, Hold, Pointer, bit_of
from glent.core.routing.verdict import Verdict

if TYPE_CHECKING:
    from collections.abc import Iterable

    from glent.core.input.feel import Feel
    from glent.core.routing.flow import Flow
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Pointing"]

ROUNDS = 8
"""How often settle goes round before it gives up on handlers that undo each other (law P7)."""


class Pointing:
    """The pointers of one router.

    :ivar now: the time of the sample being routed. :ivar seen: the scene's version that hover was last settled for.
    """

    __slots__ = ("feel", "flow", "now", "pointers", "scene", "seen")

    def __init__(self, scene: Scene, feel: Feel, flow: Flow) -> None:
        self.scene = scene
        self.feel = feel
        self.flow = flow
        self.pointers: dict[str, Pointer] = {}
        self.now = -LATEST
        self.seen = -1

    def route(self, sample: PointerSample) -> Verdict:
        """Route a pointer's sample; the scene is settled."""
        what, time = sample.action, sample.time
        if sample.emulated:
            return Verdict(because.EMULATED, what)
        pointer = self.pointers.get(sample.pointer)
        button = button_of(sample.button)
        bit = bit_of(button)
        if what == "release" and (pointer is None or not pointer.buttons & bit):
            return Verdict(because.STRAY, what)
        if what == "cancel":
            return self._take_away(pointer, time)
        if pointer is None or (pointer.kind != sample.kind and not pointer.buttons):
            if pointer is not None:
                self.forget(pointer, time)
            pointer = self.pointers[sample.pointer] = Pointer(sample.pointer, sample.kind)
        pointer.idle = None
        lifts: tuple[str, ...] = ()
        if what == "press" and pointer.buttons & bit:
            # Its release got lost on the way: end the old press before the new one begins (law P1).
            lifts = presses.lifted(pointer)
            self.cancel(pointer, FREE, "")
            pointer.buttons = 0
        pos = (float(sample.x), float(sample.y))
        if pos != pointer.pos or pointer.away:
            pointer.pos, pointer.away = pos, False
            pointer.picked = -1
        if pointer.hold is WORLD:
            return self._for_world(pointer, what, button, time)
        self._look_around(pointer)
        if what == "move":
            verdict = self._moved(pointer, what, time)
        elif what == "release":
            verdict = presses.release(self, pointer, button, time)
            if pointer.kind == "touch" and not pointer.buttons:
                self.forget(pointer, time)  # a finger that is up hovers nothing (law P8)
                return verdict
        elif pointer.buttons:
            pointer.buttons |= bit
            verdict = self._moved(pointer, what, time)
        else:
            verdict = presses.press(self, pointer, button, time)
            if lifts:
                verdict._lifts = lifts
        self._hover_after(pointer)
        if what == "move":
            self._remember_idle(pointer)
        return verdict

    def _for_world(self, pointer: Pointer, what: str, button: Button, time: float) -> Verdict:
        """The world holds the pointer: everything is its, until the buttons are up."""
        if what == "release":
            verdict = presses.release(self, pointer, button, time)
            if not pointer.buttons:
                if pointer.kind == "touch":
                    self.forget(pointer, time)
                else:
                    self._look_around(pointer)
            return verdict
        if what == "press":
            pointer.buttons |= bit_of(button)
        else:
            self._remember_idle(pointer)
        return Verdict(because.WORLD_HELD, what, True)

    def _moved(self, pointer: Pointer, what: str, time: float) -> Verdict:
        """A move, or a further button, of a pointer that the world does not hold."""
        held = pointer.press
        if pointer.hold is FREE:
            if _anyone_listens(pointer.hovered):
                return passing.move(self.flow, pointer, time)
            return passing.rest("move", pointer.offers)
        if pointer.hold is UI and held is not None:
            owner = held.owner
            if what != "move" or _anyone_listens(held.path):
                presses.send_move(self.flow, pointer, held, time)
            return Verdict(because.HELD, what, owner=owner)
        if pointer.hold is NOBODY and held is not None:
            return Verdict(because.DISABLED, what, about=held.target)
        return Verdict(because.SPENT, what, about=pointer.spent_by)

    def _look_around(self, pointer: Pointer) -> None:
        """Find the offers where the pointer is, and what it hovers by that."""
        scene = self.scene
        if pointer.picked == scene.version and pointer.hovered_for is pointer.hold:
            return  # as before: mostly a press or a release where the last move already was
        pointer.picked = scene.version
        offers = pick(scene, *pointer.pos, pointer.kind) if not pointer.away else []
        if offers == pointer.offers and pointer.hovered_for is pointer.hold:
            return
        pointer.offers = offers
        held = pointer.press
        if held is not None:
            held.inside = presses.is_over(pointer, held.owner)
        version = scene.version
        self._set_hover(pointer)
        if scene.version != version:
            self._pick_again(pointer)

    def _set_hover(self, pointer: Pointer) -> None:
        pointer.hovered_for = pointer.hold
        hover.set_hover(self.flow, pointer, hover.wanted(pointer), self.now)

    def _pick_again(self, pointer: Pointer) -> None:
        """Handlers changed the scene: what comes next goes by what is there now."""
        self.scene._index.refresh()
        pointer.hovered_for = None
        pointer.picked = self.scene.version
        if not pointer.away:
            pointer.offers = pick(self.scene, *pointer.pos, pointer.kind)

    def _hover_after(self, pointer: Pointer) -> None:
        """Hover after a press, a release or a move has been routed: who holds the pointer may have changed."""
        if self.seen != self.scene.version:
            self._pick_again(pointer)
        elif pointer.hovered_for is pointer.hold:
            return
        elif not pointer.blind and len(pointer.offers) == 1 and pointer.offers[0] in pointer.hovered:
            pointer.hovered_for = pointer.hold  # the path of the one offer is hovered, whoever holds the pointer
            return
        self._set_hover(pointer)

    def _remember_idle(self, pointer: Pointer) -> None:
        """Prepare the answer to a next move that changes nothing, where one answer will do."""
        pointer.idle = None
        hold, held = pointer.hold, pointer.press
        if self.seen != self.scene.version or pointer.away:
            return
        if hold is FREE:
            if not _anyone_listens(pointer.hovered):
                pointer.idle = passing.rest("move", pointer.offers)
        elif hold is WORLD:
            pointer.idle = Verdict(because.WORLD_HELD, "move", True)
        elif hold is SPENT:
            pointer.idle = Verdict(because.SPENT, "move", about=pointer.spent_by)
        elif hold is UI and held is not None and not _anyone_listens(held.path):
            pointer.idle = Verdict(because.HELD, "move", owner=held.owner)

    def _take_away(self, pointer: Pointer | None, time: float) -> Verdict:
        """The device cancelled a pointer: no click; a mouse keeps its hover, a finger is gone (laws P1, P8)."""
        if pointer is None:
            return Verdict(because.STRAY, "cancel")
        lifts = presses.lifted(pointer)
        held = pointer.press if pointer.hold is UI else None
        about = f"{held.owner.path} was told" if held is not None else "there was nothing to undo"
        self.cancel(pointer, FREE, "")
        pointer.buttons = 0
        if pointer.kind == "touch":
            self.forget(pointer, time)
        else:
            self._look_around(pointer)
        if lifts:
            about = "the world is told to lift what it held"
        return Verdict(because.CANCELLED, "cancel", about=about, lifts=lifts)

    def cancel(self, pointer: Pointer, hold: Hold, why: str) -> None:
        """End a pointer's press, if it has one, and put it into another hold."""
        presses.cancel_press(self.flow, pointer, self.now, hold, why)

    def forget(self, pointer: Pointer, time: float) -> None:
        """A pointer is gone: it hovers nothing any more."""
        pointer.away = True
        pointer.offers = []
        hover.set_hover(self.flow, pointer, {}, time)
        if self.pointers.get(pointer.name) is pointer:
            del self.pointers[pointer.name]

    def wheel(self, sample: WheelSample) -> Verdict:
        """Route a wheel's sample; the scene is settled."""
        pointer = self.pointers.get(sample.pointer)
        hold = pointer.hold if pointer is not None else FREE
        if hold is WORLD:
            return Verdict(because.WORLD_HELD, "wheel", True)
        if pointer is not None and hold is SPENT:
            return Verdict(because.SPENT, "wheel", about=pointer.spent_by)
        offers = pick(self.scene, sample.x, sample.y, pointer.kind if pointer is not None else "mouse")
        return passing.turn_wheel(self.flow, sample, offers, pointer.buttons if pointer is not None else 0)

    def focus_lost(self) -> tuple[str, ...]:
        """The window lost the input focus: presses end, and the world lifts the buttons it holds (law P11)."""
        lifts: tuple[str, ...] = ()
        for pointer in list(self.pointers.values()):
            lifts += presses.lifted(pointer)
            if pointer.hold is not FREE:
                self.cancel(pointer, SPENT, "the window lost the input focus")
                self._set_hover(pointer)
        return lifts

    def left(self, name: str) -> None:
        """A pointer is no longer over the window."""
        pointer = self.pointers.get(name)
        if pointer is not None and pointer.hold is FREE:
            pointer.away = True
            pointer.idle = None
            pointer.picked = -1
            self._look_around(pointer)

    def close(self) -> None:
        """End all presses and all hover."""
        for pointer in list(self.pointers.values()):
            self.cancel(pointer, FREE, "")
            self.forget(pointer, self.now)

    def settle(self) -> None:
        """Hover and presses as the scene now is, round by round until handlers change nothing more (law P7)."""
        scene = self.scene
        if self.seen == scene.version:
            return
        for _ in range(ROUNDS):
            version = scene.version
            scene._index.refresh()
            for pointer in list(self.pointers.values()):
                self._settle_one(pointer)
            if scene.version == version:
                break
        else:
            scene._index.refresh()
            self.flow.report(
                SettleError(
                    f"hover did not come to rest within {ROUNDS} rounds: handlers of enter, leave or cancel keep"
                    " undoing each other's changes to the scene"
                ),
                None,
            )
        self.seen = scene.version
        for pointer in self.pointers.values():
            pointer.idle = None

    def _settle_one(self, pointer: Pointer) -> None:
        held = pointer.press
        if pointer.hold is UI and held is not None:
            why = presses.is_gone(held)
            if why:
                self.cancel(pointer, SPENT, why)
        pointer.offers = pick(self.scene, *pointer.pos, pointer.kind) if not pointer.away else []
        pointer.picked = self.scene.version
        if held is not None:
            held.inside = presses.is_over(pointer, held.owner)
        self._set_hover(pointer)

    def removed(self, nodes: list[Node]) -> None:
        """Nodes have left the scene: they get what they are owed, directly after the running event, or at once."""
        gone = set(nodes)
        flow = self.flow
        for pointer in self.pointers.values():
            presses.owe_cancels(flow, pointer, gone, self.now)
            hover.owe_leaves(flow, pointer, gone, self.now)
        if not flow.running:
            flow.pay()

    def look(self, node: Node) -> str:
        """The look of an enabled node, by all pointers."""
        pointers = self.pointers.values()
        if any(hover.is_pressed(pointer, node) for pointer in pointers):
            return "pressed"
        return "hot" if any(hover.is_hot(pointer, node) for pointer in pointers) else "idle"


def _anyone_listens(nodes: Iterable[Node]) -> bool:
    return any(node.listens("move") for node in nodes)
