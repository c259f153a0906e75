"""Takes samples in, keeps what pointers do, sends events out, and answers each sample with a verdict."""

from __future__ import annotations

import weakref
from collections import deque
from collections.abc import Callable
from typing import TYPE_CHECKING

from glent.core.errors import SampleError, SceneError, SettleError
from glent.core.input.feel import Feel
from glent.core.input.samples import Button, PointerSample, Sample, WheelSample, WindowSample
from glent.core.input.validate import FARTHEST, LATEST, button_of, check, check_time, is_plain
from glent.core.routing import hover, passing, presses
from glent.core.routing.flow import Flow, OnError
from glent.core.routing.picking import Hit, hits_at, pick
from glent.core.routing.pointer import FREE, NOBODY, SPENT, UI, WORLD, Hold, Pointer, bit_of
from glent.core.routing.timers import Timer, Timers
from glent.core.routing.verdict import Reason, Verdict

if TYPE_CHECKING:
    from glent.core.routing.event import Event
    from glent.core.scene.node import Node
    from glent.core.scene.scene import Scene

__all__ = ["Router"]

# Bound once: looking a member up on an Enum costs as much as a hit test's loop.
_CANCELLED = Reason.CANCELLED
_DISABLED = Reason.DISABLED
_EMULATED = Reason.EMULATED
_HELD = Reason.HELD
_SPENT = Reason.SPENT
_STRAY = Reason.STRAY
_TIME = Reason.TIME
_WINDOW = Reason.WINDOW
_WORLD_HELD = Reason.WORLD_HELD

ROUNDS = 8
"""How often settle goes round before it gives up on handlers that undo each other (law P7)."""

ACTIONS = ("press", "move", "wheel")


class Router:
    """The one way through: every sample is fed here and answered by a verdict.

    :param scene: what is hit. A scene has one router at a time; :meth:`close` frees it for another.
    :param feel: the adjustable times and distances.
    :param on_error: called with ``(error, event)`` when a handler raises (law R5); by default it is logged.
    :raises SceneError: the scene already has a router.
    """

    def __init__(self, scene: Scene, feel: Feel | None = None, on_error: OnError | None = None) -> None:
        if scene._router is not None and scene._router() is not None:
            raise SceneError("the scene already has a router; close() that one first")
        scene._router = weakref.ref(self)
        self.scene = scene
        self.feel = feel if feel is not None else Feel()
        self._flow = Flow(on_error, scene.listeners)
        self._pointers: dict[str, Pointer] = {}
        self._timers = Timers()
        self._now = -LATEST
        self._seen = -1
        self._busy = False
        self._closed = False
        self._queue: deque[tuple[Sample | float, Verdict]] = deque()
        self._settle_wanted = False

    # -- samples in ----------------------------------------------------------------------------------------------

    def feed(self, sample: Sample) -> Verdict:
        """Route one sample: the world or not, who has it, and why.

        From inside a handler the sample is queued and routed after the current one; the verdict is sealed before the
        outermost ``feed`` returns (law R6).

        :raises SampleError: a field is not what it may be, or the time runs backwards; nothing has changed then.
        """
        if self._busy:
            check(sample, self._latest())
            verdict = Verdict(None)
            self._queue.append((sample, verdict))
            return verdict
        if sample.__class__ is PointerSample and is_plain(sample, self._now):
            if self._seen == self.scene.version and sample.time < self._timers.next_due:
                pointer = self._pointers.get(sample.pointer)
                if pointer is not None and pointer.idle is not None and sample.action == "move":
                    # The commonest sample by far: if it changes nothing, the last answer stands.
                    x, y = sample.x, sample.y
                    if (pointer.blind or pick(self.scene, x, y, pointer.kind) == pointer.offers) and (
                        not self._flow.events
                    ):
                        self._now = sample.time
                        pointer.pos = (x, y)
                        return pointer.idle
        else:
            check(sample, self._now)
        return self._outermost(sample)

    def tick(self, time: float) -> tuple[Event, ...]:
        """Let time pass without a sample: fire the timers that are due, then settle; the events this sent.

        From inside a handler it is queued like a sample.

        :raises SampleError: the time is no number or runs backwards.
        """
        check_time(time, self._latest(), "tick")
        if self._busy:
            self._queue.append((time, Verdict(None)))
            return ()
        return self._outermost(time).events

    def settle(self) -> tuple[Event, ...]:
        """Bring hover and presses in line with the scene as it is now (law P7); the events this sent.

        It happens by itself before each sample and tick. From inside a handler it is done after the current sample.
        """
        if self._busy:
            self._settle_wanted = True
            return ()
        return self._outermost(None).events

    def at(self, due: float, call: Callable[[float], object]) -> Timer:
        """Call ``call(due)`` once sample time reaches ``due``, before the sample or tick that reaches it (law R7).

        :raises SampleError: the time is no number or has passed.
        """
        check_time(due, self._now, "at")
        return self._timers.add(due, call)

    def close(self) -> tuple[Event, ...]:
        """Let go of the scene: cancel presses, leave what is hovered; the events this sent. The router is done then."""
        if self._busy:
            raise SceneError("a router cannot be closed from inside a handler")
        self._busy = True
        try:
            for pointer in list(self._pointers.values()):
                self._cancel(pointer, FREE, "")
                self._forget(pointer, self._now)
        finally:
            self._busy = False
            self._queue.clear()
            self._closed = True
            self.scene._router = None
        return self._collected()

    # -- questions -----------------------------------------------------------------------------------------------

    @property
    def now(self) -> float:
        """The time of the last sample or tick, in seconds."""
        return self._now

    def hits(self, x: float, y: float, where: Callable[[Node], bool] | None = None, kind: str = "mouse") -> list[Hit]:
        """Every hit at a point of the screen, front to back (law H7).

        :param where: keeps only the nodes for which it is true; what it leaves out covers nothing.
        :param kind: the kind of pointer asked for: ``touch`` has a longer reach (law H5).
        """
        _check_point(x, y)
        self.scene._index.refresh()
        return hits_at(self.scene, x, y, where, kind)

    def would_reach_world(self, x: float, y: float, action: str = "press") -> bool:
        """Whether a free mouse's press, move or wheel here would be the world's, as far as can be known beforehand.

        No handler runs, so one that takes what glass offered it is not foreseen (law W6).

        :raises SampleError: the point is no point, or the action is none of press, move, wheel.
        """
        _check_point(x, y)
        if action not in ACTIONS:
            raise SampleError(f"would_reach_world: action is {action!r}, expected one of {', '.join(ACTIONS)}")
        self.scene._index.refresh()
        offers = pick(self.scene, x, y)
        if action == "press":
            return not presses.would_accept(offers)
        return not offers or offers[-1].effective != "solid"

    # -- inside --------------------------------------------------------------------------------------------------

    def _latest(self) -> float:
        """The time before which no new sample may be."""
        if self._queue:
            last = self._queue[-1][0]
            return last if isinstance(last, int | float) else last.time
        return self._now

    def _outermost(self, first: Sample | float | None) -> Verdict:
        """Route one sample, pass time, or only settle (None); then the same for what handlers fed meanwhile."""
        if self._closed:
            raise SceneError("the router is closed, a scene takes samples through its new one")
        self._busy = True
        try:
            if (
                first.__class__ is PointerSample
                and self._seen == self.scene.version
                and self._timers.next_due > first.time
            ):
                # Nothing to fire and nothing to settle: straight to the pointer.
                self._now = first.time
                verdict = self._route_pointer(first)
                verdict._events = self._collected()
            else:
                verdict = self._route(first)
            if self._queue or self._settle_wanted:
                verdict._inner = self._route_queued()
        finally:
            self._busy = False
            if self._queue:  # something that is no Exception came through: what was promised cannot be kept
                self._queue.clear()
        return verdict

    def _route_queued(self) -> tuple[Verdict, ...]:
        """Route what handlers fed, in order, and settle where one asked for it; the verdicts of the samples."""
        inner: list[Verdict] = []
        while self._queue or self._settle_wanted:
            if self._settle_wanted:
                self._settle_wanted = False
                self._settle()
                continue
            item, promise = self._queue.popleft()
            promise._seal(self._route(item))
            if not isinstance(item, int | float):
                inner.append(promise)
        return tuple(inner)

    def _collected(self) -> tuple[Event, ...]:
        events = self._flow.events
        if not events:
            return ()
        self._flow.events = []
        return tuple(events)

    def _reach(self, time: float) -> None:
        self._now = max(self._now, time)

    def _route(self, item: Sample | float | None) -> Verdict:
        if item.__class__ is PointerSample:
            time = item.time
        else:
            time = self._now if item is None else item if isinstance(item, int | float) else item.time
        if self._timers.next_due <= time:
            self._timers.fire(time, self._reach, lambda error: self._flow.report(error, None))
        self._now = time
        if self._seen != self.scene.version:
            self._settle()
        if isinstance(item, PointerSample):
            verdict = self._route_pointer(item)
        elif isinstance(item, WheelSample):
            verdict = self._route_wheel(item)
        elif isinstance(item, WindowSample):
            verdict = self._route_window(item)
        else:
            verdict = Verdict(_TIME, "tick")
        verdict._events = self._collected()
        return verdict

    def _route_pointer(self, sample: PointerSample) -> Verdict:
        what, time = sample.action, sample.time
        if sample.emulated:
            return Verdict(_EMULATED, what)
        pointer = self._pointers.get(sample.pointer)
        button = button_of(sample.button)
        bit = bit_of(button)
        if what == "release" and (pointer is None or not pointer.buttons & bit):
            return Verdict(_STRAY, what)
        if what == "cancel":
            return self._take_away(pointer, time)
        if pointer is None or (pointer.kind != sample.kind and not pointer.buttons):
            if pointer is not None:
                self._forget(pointer, time)
            pointer = self._pointers[sample.pointer] = Pointer(sample.pointer, sample.kind)
        pointer.idle = None
        lifts: tuple[str, ...] = ()
        if what == "press" and pointer.buttons & bit:
            # Its release got lost on the way: end the old press before the new one begins (law P1).
            lifts = presses.lifted(pointer)
            self._cancel(pointer, FREE, "")
            pointer.buttons = 0
        pointer.away = False
        pointer.pos = (float(sample.x), float(sample.y))
        if pointer.hold is WORLD:
            return self._for_world(pointer, what, button, time)
        self._look_around(pointer)
        if what == "move":
            verdict = self._moved(pointer, what, time)
        elif what == "release":
            verdict = presses.release(self, pointer, button, time)
            if pointer.kind == "touch" and not pointer.buttons:
                self._forget(pointer, time)  # a finger that is up hovers nothing (law P8)
                return verdict
        elif pointer.buttons:
            pointer.buttons |= bit
            verdict = self._moved(pointer, what, time)
        else:
            verdict = presses.press(self, pointer, button, time)
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
                    self._forget(pointer, time)
                else:
                    self._look_around(pointer)
            return verdict
        if what == "press":
            pointer.buttons |= bit_of(button)
        else:
            self._remember_idle(pointer)
        return Verdict(_WORLD_HELD, what, True)

    def _moved(self, pointer: Pointer, what: str, time: float) -> Verdict:
        """A move, or a further button, of a pointer that the world does not hold."""
        held = pointer.press
        if pointer.hold is FREE:
            if _anyone_listens(pointer.hovered):
                return passing.move(self._flow, pointer, time)
            return passing.rest("move", pointer.offers)
        if pointer.hold is UI and held is not None:
            owner = held.owner
            if what != "move" or _anyone_listens(held.path):
                presses.send_move(self._flow, pointer, held, time)
            return Verdict(_HELD, what, owner=owner)
        if pointer.hold is NOBODY and held is not None:
            return Verdict(_DISABLED, what, about=held.target)
        return Verdict(_SPENT, what, about=pointer.spent_by)

    def _look_around(self, pointer: Pointer) -> None:
        """Find the offers where the pointer is, and what it hovers by that."""
        scene = self.scene
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
        hover.set_hover(self._flow, pointer, hover.wanted(pointer), self._now)

    def _pick_again(self, pointer: Pointer) -> None:
        """Handlers changed the scene: what comes next goes by what is there now."""
        self.scene._index.refresh()
        pointer.hovered_for = None
        if not pointer.away:
            pointer.offers = pick(self.scene, *pointer.pos, pointer.kind)

    def _hover_after(self, pointer: Pointer) -> None:
        """Hover after a press, a release or a move has been routed: who holds the pointer may have changed."""
        if self._seen != self.scene.version:
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
        if self._seen != self.scene.version or pointer.away:
            return
        if hold is FREE:
            if not _anyone_listens(pointer.hovered):
                pointer.idle = passing.rest("move", pointer.offers)
        elif hold is WORLD:
            pointer.idle = Verdict(_WORLD_HELD, "move", True)
        elif hold is SPENT:
            pointer.idle = Verdict(_SPENT, "move", about=pointer.spent_by)
        elif hold is UI and held is not None and not _anyone_listens(held.path):
            pointer.idle = Verdict(_HELD, "move", owner=held.owner)

    def _take_away(self, pointer: Pointer | None, time: float) -> Verdict:
        """The device cancelled a pointer: no click; a mouse keeps its hover, a finger is gone (laws P1, P8)."""
        if pointer is None:
            return Verdict(_STRAY, "cancel")
        lifts = presses.lifted(pointer)
        held = pointer.press if pointer.hold is UI else None
        about = f"{held.owner.path} was told" if held is not None else "there was nothing to undo"
        self._cancel(pointer, FREE, "")
        pointer.buttons = 0
        if pointer.kind == "touch":
            self._forget(pointer, time)
        else:
            self._look_around(pointer)
        if lifts:
            about = "the world is told to lift what it held"
        return Verdict(_CANCELLED, "cancel", about=about, lifts=lifts)

    def _cancel(self, pointer: Pointer, hold: Hold, why: str) -> None:
        presses.cancel_press(self._flow, pointer, self._now, hold, why)

    def _forget(self, pointer: Pointer, time: float) -> None:
        pointer.away = True
        pointer.offers = []
        hover.set_hover(self._flow, pointer, {}, time)
        if self._pointers.get(pointer.name) is pointer:
            del self._pointers[pointer.name]

    def _route_wheel(self, sample: WheelSample) -> Verdict:
        pointer = self._pointers.get(sample.pointer)
        hold = pointer.hold if pointer is not None else FREE
        if hold is WORLD:
            return Verdict(_WORLD_HELD, "wheel", True)
        if pointer is not None and hold is SPENT:
            return Verdict(_SPENT, "wheel", about=pointer.spent_by)
        offers = pick(self.scene, sample.x, sample.y, pointer.kind if pointer is not None else "mouse")
        return passing.turn_wheel(self._flow, sample, offers, pointer.buttons if pointer is not None else 0)

    def _route_window(self, sample: WindowSample) -> Verdict:
        lifts: tuple[str, ...] = ()
        what = "it lost the focus" if sample.what == "focus_lost" else "it has the focus"
        if sample.what == "size" and sample.width is not None and sample.height is not None:
            self.scene.window = (sample.width, sample.height)
            what = f"its size is {sample.width:g} × {sample.height:g}"
            self._settle()
        elif sample.what == "focus_lost":
            for pointer in list(self._pointers.values()):
                lifts += presses.lifted(pointer)
                if pointer.hold is not FREE:
                    self._cancel(pointer, SPENT, "the window lost the input focus")
                    self._set_hover(pointer)
        elif sample.what == "pointer_left":
            left = self._pointers.get(sample.pointer or "")
            what = f"{sample.pointer} left it"
            if left is not None and left.hold is FREE:
                left.away = True
                left.idle = None
                self._look_around(left)
        return Verdict(_WINDOW, what, lifts=lifts)

    def _settle(self) -> None:
        """Hover and presses as the scene now is, round by round until handlers change nothing more (law P7)."""
        scene = self.scene
        if self._seen == scene.version:
            return
        for _ in range(ROUNDS):
            version = scene.version
            scene._index.refresh()
            for pointer in list(self._pointers.values()):
                self._settle_pointer(pointer)
            if scene.version == version:
                break
        else:
            scene._index.refresh()
            self._flow.report(
                SettleError(
                    f"hover did not come to rest within {ROUNDS} rounds: handlers of enter, leave or cancel keep"
                    " undoing each other's changes to the scene"
                ),
                None,
            )
        self._seen = scene.version
        for pointer in self._pointers.values():
            pointer.idle = None

    def _settle_pointer(self, pointer: Pointer) -> None:
        held = pointer.press
        if pointer.hold is UI and held is not None:
            why = presses.is_gone(held)
            if why:
                self._cancel(pointer, SPENT, why)
        pointer.offers = pick(self.scene, *pointer.pos, pointer.kind) if not pointer.away else []
        if held is not None:
            held.inside = presses.is_over(pointer, held.owner)
        self._set_hover(pointer)

    def _on_removed(self, nodes: list[Node]) -> None:
        """Nodes have left the scene: they get what they are owed, directly after the running event, or at once."""
        gone = set(nodes)
        flow = self._flow
        for pointer in self._pointers.values():
            presses.owe_cancels(flow, pointer, gone, self._now)
            hover.owe_leaves(flow, pointer, gone, self._now)
        if not flow.running:
            flow.pay()

    def _look(self, node: Node) -> str:
        pointers = self._pointers.values()
        if any(hover.is_pressed(pointer, node) for pointer in pointers):
            return "pressed"
        return "hot" if any(hover.is_hot(pointer, node) for pointer in pointers) else "idle"


def _anyone_listens(nodes: object) -> bool:
    return any(node.listens("move") for node in nodes)  # type: ignore[attr-defined]


def _check_point(x: float, y: float) -> None:
    for value, key in ((x, "x"), (y, "y")):
        if isinstance(value, bool) or not isinstance(value, int | float) or not -FARTHEST <= value <= FARTHEST:
            raise SampleError(f"{key} is {value!r}, expected a finite number no larger than {FARTHEST:g}")
