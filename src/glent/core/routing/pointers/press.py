"""Who owns a press, and what becomes of it: release, click, chord, cancel (laws P2–P4, P8, P10, P11)."""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.input.samples import PointerButton
from glent.core.routing import reasons as because
from glent.core.routing.event import Event
from glent.core.routing.pointers.pointer import NOBODY, SPENT, UI, WORLD, Press, names_of
from glent.core.routing.pointers.travel import is_near, is_on, mark_of
from glent.core.routing.verdict import Verdict
from glent.core.scene.kinds import CLAIMS_PRESS

if TYPE_CHECKING:
    from glent.core.routing.dispatch import Dispatcher
    from glent.core.routing.pointers.pointer import Contest, LastPress, Pointer
    from glent.core.routing.state import State
    from glent.core.scene.node import Node

__all__ = [
    "cancel_heard",
    "cancel_press",
    "disabled_one",
    "end_grabbed",
    "grabbed",
    "held_by_world",
    "is_gone",
    "is_over",
    "listens_for_press",
    "owe_cancels",
    "press",
    "release",
    "send_move",
    "take_over",
    "would_accept",
    "would_own",
]


def press(state: State, pointer: Pointer, button: PointerButton, time: float) -> Verdict:
    """Ask the offers, front to back, who wants a button that went down on a pointer that nobody holds."""
    dispatcher = state.dispatcher
    pointer.down(button)
    count = 1 if pointer.last_click is None else _count(state, pointer, pointer.last_click, button, time)
    asked: set[Node] = set()
    heard: dict[Node, int] = {}
    passed: Node | None = None
    offers = pointer.offers
    for index, offer in enumerate(offers):
        if offer._scene is None:
            continue  # an enter handler of this very sample removed it
        solid = offer._effective == "solid"
        path = offer.lineage()
        # Ancestors it shares with offers in front have heard this press: they are owed an end of it too (law P6).
        before = {node: phases for node, phases in heard.items() if node in path} if heard else None
        candidate = Press(offer, path, button, count, time, pointer.pos, before)
        if not offer.is_enabled:
            if solid:
                pointer.deny(candidate)
                return Verdict(because.DISABLED, "press", about=disabled_one(offer))
            continue
        rest = path
        if asked:  # an ancestor shared by several offers hears the press once
            rest = [node for node in path if node not in asked]
        if not solid:
            asked.update(path)
        # Booked before the handlers run: if one of them removes the offer, what it is owed is known (law P6).
        pointer.own(candidate)
        event = Event("press", offer, pointer.name, time, pointer.pos, button, pointer.buttons, count)
        taken = dispatcher.send(event, rest, candidate.heard)
        if pointer.grab is not None:
            return grabbed(dispatcher, pointer, "press", time)
        if pointer.press is not candidate and candidate.heard:
            cancel_heard(
                dispatcher, pointer, candidate, time
            )  # a handler has cost it the pointer: these heard it even so
        if solid or taken or listens_for_press(offer, offers[index + 1] if index + 1 < len(offers) else None):
            return _owned(state, pointer, candidate, event, solid, time)
        passed = passed or offer
        heard.update(candidate.heard)
        pointer.free()
    pointer.count(None)
    barrier = pointer.barrier
    if barrier is not None:
        verdict = Verdict(barrier.reason, "press", about=barrier.about)
        pointer.spend(verdict.why)
        return verdict
    pointer.to_world()
    if passed is not None and offers[-1].stops_input:
        return Verdict(because.SPOT, "press", True, about=offers[-1])
    return Verdict(because.OPEN if passed is None else because.PASSED, "press", True, about=passed)


def disabled_one(node: Node) -> Node:
    """The node whose being disabled keeps input from a node: itself, or the nearest above it."""
    return next((one for one in reversed(node.lineage()) if not one._enabled), node)


def _owned(state: State, pointer: Pointer, candidate: Press, event: Event, solid: bool, time: float) -> Verdict:
    verdict = _landed(pointer, candidate, event, solid, time)
    if pointer.hold is UI and pointer.press is candidate:
        for node in candidate.path:
            if node._gestures is not None:
                state.gestures.begin(pointer, candidate)
                break
        contact = candidate.contact
        if contact is not None:
            winner = contact.winner
            if winner is not None:  # a list that still ran has stopped under it
                verdict = Verdict(because.GESTURE, "press", owner=winner.node, about=winner.name)
            name = winner.name if winner is not None else None
            verdict._outcome = (name, contact._competitors(), None)
    return verdict


def _landed(pointer: Pointer, candidate: Press, event: Event, solid: bool, time: float) -> Verdict:
    mark = None if pointer.aim is None else mark_of(pointer)
    pointer.count((candidate.target, time, pointer.pos, candidate.button, candidate.count, mark))
    if pointer.hold is SPENT:  # removed by its own handlers
        return Verdict(because.SPENT, "press", about=pointer.spent_by)
    owner = candidate.owner
    if candidate.target._reach is not None and not is_on(candidate.target, pointer):
        return Verdict(because.REACHED, "press", owner=owner, about=candidate.target)
    if solid:
        return Verdict(because.SOLID, "press", owner=owner, about=candidate.target)
    if event.taken:
        return Verdict(because.TAKEN, "press", owner=owner, about=event.taker)
    return Verdict(because.GLASS, "press", owner=owner, about=candidate.target)


def _count(state: State, pointer: Pointer, last: LastPress, button: PointerButton, time: float) -> int:
    """The number of presses in a row, this one included, by node, button, time and distance (law G1)."""
    node, then, pos, before, count, mark = last
    feel = state.feel
    if mark is None:
        near = max(abs(pointer.pos[0] - pos[0]), abs(pointer.pos[1] - pos[1])) <= feel.click_slack
    else:
        near = is_near(pointer, pos, mark, feel)
    same = node in pointer.offers and before == button and near and time - then <= feel.click_gap
    return count + 1 if same else 1


def listens_for_press(offer: Node, behind: Node | None) -> bool:
    """Whether a glass offer, or an ancestor not shared with the next offer, listens for what a press may become."""
    node: Node | None = offer
    while node is not None and (behind is None or not behind.is_within(node)):
        if node.listens_any(CLAIMS_PRESS):
            return True
        node = node._parent
    return False


def would_own(offers: list[Node]) -> Node | None:
    """The offer that would own a press, as far as can be known without running a handler; a solid one that is disabled
    keeps it from the others too."""
    for index, offer in enumerate(offers):
        if offer._effective == "solid":
            return offer
        if offer.is_enabled and listens_for_press(offer, offers[index + 1] if index + 1 < len(offers) else None):
            return offer
    return None


def would_accept(offers: list[Node]) -> bool:
    """Whether some offer would own a press, as far as can be known without running a handler."""
    return would_own(offers) is not None


def release(state: State, pointer: Pointer, button: PointerButton, time: float) -> Verdict:
    """Route a button that went up."""
    pointer.up(button)
    held = pointer.press
    if pointer.hold is WORLD:
        verdict = Verdict(because.WORLD_HELD, "release", True)
    elif pointer.hold is UI and held is not None:
        owner, contact = held.owner, held.contact
        verdict = Verdict(because.HELD, "release", owner=owner)
        if contact is not None and button == held.button:
            _release_contact(contact, verdict)
        if button == held.button and not held.over:
            _end(state.dispatcher, pointer, held, time)
        elif contact is None or contact.winner is None:
            send_move(state.dispatcher, pointer, held, time)
    elif pointer.hold is NOBODY and held is not None:
        verdict = Verdict(because.DISABLED, "release", about=disabled_one(held.target))
    else:
        verdict = Verdict(because.SPENT, "release", about=pointer.spent_by)
    if not pointer.buttons and pointer.grab is None:  # a handler of the click may have grabbed it
        pointer.free()
    return verdict


def _release_contact(contact: Contest, verdict: Verdict) -> None:
    """Tell those that competed for the press, or won it, that the button is up."""
    winner = contact.winner
    contact._released()
    if winner is not None:
        verdict._outcome = (winner.name, (), contact.drop)
        verdict._owner = winner.node
        verdict._reason, verdict._about = because.GESTURE, winner.name
        if contact._ending:
            verdict._reason = because.ENDED
            verdict._about = f"{winner.name} of {winner.node.path}: {contact._ending}"


def _end(dispatcher: Dispatcher, pointer: Pointer, held: Press, time: float) -> None:
    """End a press by the release of the button that began it: first ``release``, then the click if it is one (law
    P3)."""
    if pointer.press is not held or pointer.hold is not UI:
        return  # what competed for it has undone it
    held.end()
    event = Event("release", held.target, pointer.name, time, pointer.pos, held.button, pointer.buttons, held.count)
    path = held.path
    if held.heard:
        _tell_all(dispatcher, pointer, held, event, path, held.take_heard(), time)
    else:
        dispatcher.send(event, path)
    if pointer.hold is not UI or pointer.grab is not None:
        return
    path = held.path
    for index in range(len(path) - 1, -1, -1):
        node = path[index]
        if node._used is not None or node.listens("click"):
            if _can_click(pointer, node):
                click = Event("click", node, pointer.name, time, pointer.pos, held.button, pointer.buttons, held.count)
                pointer.seat._note_click(node, time)
                dispatcher.send(click, path[: index + 1])
            return
        if node is pointer.seat.view.top:
            return  # what the topmost modal lies in is behind it (law M1)


def _tell_all(
    dispatcher: Dispatcher,
    pointer: Pointer,
    held: Press,
    event: Event,
    path: list[Node],
    heard: dict[Node, int],
    time: float,
) -> None:
    """Send the event that ends a press; whoever heard the press and is not reached by it gets a cancel (law P6).

    A node is reached if the event came to it in each phase in which it heard the press, on its way or back.
    """
    reached: dict[Node, int] = {}
    dispatcher.send(event, path, None, reached)
    for node, phases in heard.items():
        if phases & ~reached.get(node, 0) and node._scene is not None:
            dispatcher.tell(_cancel(pointer, node, held, time))


def take_over(dispatcher: Dispatcher, pointer: Pointer, held: Press, node: Node, time: float) -> None:
    """Give a press to the node whose gesture has won it; for all others who heard the press it ends."""
    ended, target, path, heard = held.over, held.target, held.path, held.take_heard()
    held.give_to(node, is_over(pointer, node))
    pointer.won()
    if node._scene is not None:
        node._scene._version += 1  # whom it hovers has changed, though the scene has not: the next settle sees to it
    if not ended:
        _tell_all(dispatcher, pointer, held, _cancel(pointer, target, held, time), path, heard, time)


def end_grabbed(dispatcher: Dispatcher, pointer: Pointer, held: Press, button: PointerButton, time: float) -> None:
    """Send the release of a button of a grabbed pointer."""
    heard = held.take_heard()
    event = Event("release", held.target, pointer.name, time, pointer.pos, button, pointer.buttons, 1)
    _tell_all(dispatcher, pointer, held, event, held.path, heard, time)


def cancel_heard(dispatcher: Dispatcher, pointer: Pointer, held: Press, time: float) -> None:
    """Cancel the press for those who heard it and will not hear its release."""
    for node in held.take_heard():
        if node._scene is not None:
            dispatcher.tell(_cancel(pointer, node, held, time))


def grabbed(dispatcher: Dispatcher, pointer: Pointer, what: str, time: float) -> Verdict:
    """The verdict for a sample of a pointer that a node has grabbed."""
    held = pointer.press
    if held is None:
        return Verdict(because.SPENT, what, about=pointer.spent_by)
    for node in [one for one in held.heard if one not in held.path]:
        del held.heard[node]  # a glass in front heard the press before the grab, and hears no more of it
        if node._scene is not None:
            dispatcher.tell(_cancel(pointer, node, held, time))
    return Verdict(because.GRABBED, what, owner=held.owner)


def _can_click(pointer: Pointer, node: Node) -> bool:
    return is_over(pointer, node) and node.is_visible and node.is_enabled


def is_over(pointer: Pointer, node: Node) -> bool:
    """Whether a node is on the path of an offer where the pointer is."""
    for offer in pointer.offers:
        if offer is node or offer.is_within(node):
            return True
    return False


def send_move(dispatcher: Dispatcher, pointer: Pointer, held: Press, time: float) -> None:
    """Tell the owner that the pointer moved or that another button changed (law P10)."""
    dispatcher.send(Event("move", held.target, pointer.name, time, pointer.pos, None, pointer.buttons), held.path)


def _cancel(pointer: Pointer, node: Node, held: Press, time: float) -> Event:
    return Event("cancel", node, pointer.name, time, pointer.pos, held.button, pointer.buttons, held.count)


def cancel_press(dispatcher: Dispatcher, pointer: Pointer, time: float, why: str, ending: str) -> None:
    """End a press without a click: tell the owner's path, and all who heard the press (laws P6, P8).

    :param why: the reason for it to be spent until its buttons are up; empty: it is free.
    :param ending: why, for the gestures that compete for it or have won it.
    """
    held, grab = pointer.end(why)
    if held is None:
        return
    if held.contact is not None:
        held.contact.cancel(ending)
    if not held.over or held.heard:
        heard = held.take_heard()
        held.end()
        _tell_all(dispatcher, pointer, held, _cancel(pointer, held.target, held, time), held.path, heard, time)
    if grab is not None:
        grab._lose(why or "the device took the pointer away")


def is_gone(pointer: Pointer, held: Press) -> str:
    """Why the owner of a press, or of a grab, can no longer have the pointer; empty if it can."""
    owner = held.owner
    had = "had grabbed it" if pointer.grab is not None else "owned its press"
    if not owner.is_visible:
        return f"{owner.path}, which {had}, was hidden"
    if not owner.is_enabled:
        return f"{owner.path}, which {had}, was disabled"
    return ""


def owe_cancels(dispatcher: Dispatcher, pointer: Pointer, gone: set[Node], time: float) -> None:
    """Book what removed nodes are owed of this pointer's press (laws P2, P6, P11)."""
    held = pointer.press
    if held is None:
        return
    if held.contact is not None:
        held.contact.removed(gone)
    if held.target not in gone or pointer.hold is not UI:
        return  # a press that is nobody's is so wherever the node is that it came to (law S5)
    dead = [node for node in reversed(held.path) if node in gone]
    left = [node for node in held.path if node not in gone]
    if not held.over or held.heard:
        dispatcher.owed.extend(_cancel(pointer, node, held, time) for node in dead)
        if held.owner in gone:
            dispatcher.owed.extend(_cancel(pointer, node, held, time) for node in reversed(left) if node in held.heard)
            held.take_heard()
    if held.owner in gone:
        grab = pointer.ungrab()
        if grab is not None:
            grab._lose(f"{held.owner.path} was removed")
        pointer.spend(f"{held.owner.path}, which its press landed on, was removed")
    else:  # a part of the control that stands for it: the press lives on
        held.shorten(left)
    pointer.remember(None)


def held_by_world(pointer: Pointer) -> tuple[str, ...]:
    """The buttons of this pointer that the world holds."""
    return names_of(pointer.name, pointer.buttons) if pointer.hold is WORLD else ()
