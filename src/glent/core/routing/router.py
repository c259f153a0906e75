"""The router: it takes samples in, sends events out, and answers each sample with a verdict."""

from __future__ import annotations

import weakref
from collections import deque
from collections.abc import Callable, Iterable, Mapping
from threading import get_ident
from typing import TYPE_CHECKING, Any

from glent.core.errors import KindError, SampleError, SceneError, SeatError, SettleError, ThreadError
from glent.core.input.feel import Feel
from glent.core.input.samples import ActSample, PointerSample, RaySample, Sample, TickSample, TipSample, WheelSample
from glent.core.input.validate import check, check_time, is_plain
from glent.core.routing import reasons as because
from glent.core.routing.acts import Acts, route_act
from glent.core.routing.aim import aim_at, on_screen
from glent.core.routing.dispatch import Dispatcher, OnError
from glent.core.routing.event import NO_DATA, Event
from glent.core.routing.hit.offers import find_at
from glent.core.routing.hit.point import pick
from glent.core.routing.observers import Observers
from glent.core.routing.pointers.pointer import BY_CODE, Pointer
from glent.core.routing.pointers.route import Pointing
from glent.core.routing.pointers.wheel import route_wheel
from glent.core.routing.queries import Queries
from glent.core.routing.state import State
from glent.core.routing.timers import EachTime, Timer, Timers
from glent.core.routing.trace import Trace
from glent.core.routing.verdict import Verdict
from glent.core.scene.kinds import check_kind
from glent.core.scene.node import checked_node
from glent.core.scene.scene import Scene

if TYPE_CHECKING:
    from glent.core.input.bindings import Bindings
    from glent.core.routing.gestures.contact import Contact
    from glent.core.routing.grab import Grab
    from glent.core.routing.observers import Observer
    from glent.core.routing.seats.seat import Seat
    from glent.core.scene.node import Node

__all__ = ["Router"]

MOST_SENT = 32
"""How many events code can send within each other: more are taken for handlers that never end."""

MOST_INNER = 1000
"""How many samples handlers can feed while one is routed: more are taken for a loop without end (law R6)."""


class Router(Acts, Queries):
    """The one way through: every sample is fed here and answered by a verdict.

    :param scene: what is hit. A scene has one router at a time; :meth:`close` frees it for another.
    :param feel: the adjustable times and distances.
    :param on_error: called with ``(error, event)`` when a handler raises (law R5), ``event`` being None outside of one,
        in a timer for example; by default it is logged.
    :param trace: how many decisions to keep, for :attr:`trace`; None: none.
    :raises SceneError: the scene already has a router.
    """

    def __init__(
        self, scene: Scene, feel: Feel | None = None, on_error: OnError | None = None, trace: int | None = None
    ) -> None:
        self._check_free(scene)
        self._trace = Trace(trace) if trace is not None else None
        scene._router = weakref.ref(self)
        self._scene = scene
        self._dispatcher = Dispatcher(on_error, scene._listeners)
        self._timers = Timers()
        # Loaded with the first router rather than with the package: it is more than half of what there is to load.
        from glent.core.routing.seats.lifts import Lifts
        from glent.core.routing.seats.seats import Seats

        self._lifts = Lifts()
        feel = feel if feel is not None else Feel()
        self._state = state = State(scene, feel, self._dispatcher, self._timers, self._lifts)
        self._pointing = Pointing(state)
        self._seats = Seats(state, self._pointing)
        self._join()
        self._busy = 0
        """The thread whose sample is being routed; 0: none is."""
        self._sending = 0
        self._closed = False
        self._queue: deque[tuple[Sample | float | Scene, Verdict]] = deque()
        self._settle_wanted = False
        self._observers = Observers(self._dispatcher)

    def __copy__(self) -> Router:
        raise TypeError("a router is not copied; make another for another scene, and feed it what this one was fed")

    def __deepcopy__(self, memo: object) -> Router:
        return self.__copy__()

    def __reduce_ex__(self, protocol: object) -> str:
        raise TypeError("a router is not pickled; glent.formats.Recording keeps what it was fed")

    def _join(self) -> None:
        """Make what belongs to one scene alone: gestures, settling, looks."""
        from glent.core.routing.gestures.contest import Gestures
        from glent.core.routing.look_events import LookEvents
        from glent.core.routing.seats.settle import Settling

        state = self._state
        self._gestures = Gestures(state)
        self._running = self._gestures.running
        self._settling = Settling(self._pointing, self._gestures.areas, self._seats)
        self._look_events = LookEvents(state, self._seats.key_presses)
        state.join(self._gestures, self._seats, self._settling)

    # -- samples in ----------------------------------------------------------------------------------------------

    def feed(self, sample: Sample) -> Verdict:
        """Route one sample. Return the verdict: the world or not, who has it, and why.

        From inside a handler the sample is queued and routed after the current one; the verdict is sealed before the
        outermost ``feed`` returns (law R6).

        :raises SampleError: a field is not what it may be, or the time runs backwards; nothing has changed then.
        """
        if self._busy:
            self._check_thread("feed")
            check(sample, self._latest())
            verdict = Verdict(None)
            self._queue.append((sample, verdict))
            return verdict
        if sample.__class__ is PointerSample and is_plain(sample, self._state.now):
            if (
                self._settling.seen == self._scene._version
                and sample.time < self._timers.next_due
                and not self._running
                and not self._observers.there
            ):
                pointer = self._state.pointers.get(sample.pointer)
                if pointer is not None and pointer.dragging is not None and sample.action == "move":
                    if not pointer.jumped:
                        verdict = self._follow(pointer, pointer.dragging, sample)
                        if self._trace is not None:
                            self._trace.note((sample, verdict))
                        return verdict
                elif pointer is not None and pointer.idle is not None and sample.action == "move":
                    # The commonest sample by far: if it changes nothing, the last answer stands.
                    x, y = sample.x, sample.y
                    blind = pointer.blind
                    if not self._dispatcher.events and (
                        blind
                        or (pick(self._scene, x, y, pointer.kind) == pointer.offers and pointer.seat.view.screen_only)
                        or self._finds_the_same(pointer, x, y)
                    ):
                        self._state.now = sample.time
                        pointer.pos = (x, y)
                        if blind:
                            pointer.picked = -1
                        if self._trace is not None:
                            self._trace.note((sample, pointer.idle))
                        return pointer.idle
        else:
            check(sample, self._state.now)
        verdict = self._outermost(sample)
        if self._trace is not None:
            self._trace.note((sample, verdict))
        if self._observers.there:
            self._observers.tell(sample, verdict)
        return verdict

    def tick(self, time: float) -> tuple[Event, ...]:
        """Let time pass without a sample: fire the timers that are due, move what runs, settle. Return the events this
        sent.

        Call it once a frame. A :class:`TickSample` does the same, for recordings: what ticks send is part of a replay.
        From inside a handler it is queued like a sample.

        :raises SampleError: the time is no number or runs backwards.
        """
        check_time(time, self._latest(), "tick")
        time = float(time)
        if self._busy:
            self._check_thread("tick")
            self._queue.append((time, Verdict(None)))
            return ()
        verdict = self._outermost(time)
        if self._trace is not None and verdict.events:
            self._trace.note((TickSample(time), verdict))
        if self._observers.there:
            self._observers.tell(TickSample(time), verdict)
        return verdict.events

    def settle(self) -> tuple[Event, ...]:
        """Bring hover and presses in line with the scene as it is now (law P7). Return the events this sent.

        It happens by itself before each sample and tick. From inside a handler it is done after the current sample.
        """
        if self._busy:
            self._check_thread("settle")
            self._settle_wanted = True
            return ()
        return self._outermost(None).events

    def at(self, due: float, call: Callable[[float], object]) -> Timer:
        """Call ``call(due)`` once sample time reaches ``due``, before the sample or tick that reaches it (law R7).

        :raises SampleError: the time is no number or has passed.
        """
        self._check_open("at")
        check_time(due, self._state.now, "at")
        if not callable(call):
            raise SampleError(f"at: {call!r} cannot be called, expected a function of the time")
        return self._timers.add(float(due), call)

    def each_time(self, call: Callable[[float], object]) -> EachTime:
        """Call ``call(time)`` for each sample and tick, before it is routed: for what goes on with time, or has to be
        looked at again and again. It goes on in another scene as well. An error of the call goes to ``on_error``.

        :return: what stops it, by ``.stop()``. Cost: while there is one, idle moves go the long way.
        """
        self._check_open("each_time")
        if not callable(call):
            raise SceneError(f"each_time: {call!r} cannot be called, expected a function of the time")
        return EachTime(self._running, call)

    def close(self) -> tuple[Event, ...]:
        """Let go of the scene: cancel presses, leave what is hovered and focused. Return the events this sent.

        The router is done then; :meth:`lifted` still tells what the world held.
        """
        if self._busy:
            self._check_thread("close")
            raise SceneError("a router cannot be closed from inside a handler")
        self._busy = get_ident()
        try:
            self._pointing.close()
        finally:
            self._closed = True
            self._scene._router = None
            self._end()
        return self._collected()

    def watch(self, call: Callable[[Sample, Verdict], object]) -> Observer:
        """Call ``call(sample, verdict)`` after each sample that was fed from outside of handlers, acts included, and
        after each tick: what a recording needs to be whole (law R7).

        What handlers feed is told within the verdict: it comes again when they run again. Watching changes nothing
        else (law D4); an error of the call goes to ``on_error``. Another thread may begin and stop it; the calls come
        from the thread that feeds.

        :return: the watch, to be stopped by ``.stop()``.
        """
        if not callable(call):
            raise SceneError(f"watch: {call!r} cannot be called, expected a function of a sample and its verdict")
        return self._observers.add(call)

    def move_to(self, scene: Scene) -> tuple[Event, ...]:
        """Go on with another scene: the next level, for example. Return the events this sent.

        Seats keep their devices, viewports and bindings, and the world keeps what it holds: a key that a player holds
        is held on. In the old scene hover leaves, presses are cancelled, focus blurs; in the new one, which gets the
        size and scale of the window, modals, claims and hover take effect at once. A pointer that pressed something of
        the old scene, and a key that the UI had, is nobody's until it is up. Controls and wiring stay with their scene.

        From inside a handler it is done after the current sample, before what was fed later.

        :raises SceneError: that is no scene, it has another router, or this one is closed.
        """
        self._check_free(scene)
        if self._closed:
            raise SceneError("the router is closed, and moves nowhere; make another Router for the scene")
        if self._busy:
            self._check_thread("move_to")
            self._queue.append((scene, Verdict(None)))
            return ()
        self._busy = get_ident()
        try:
            self._enter(scene)
        finally:
            self._end()
        return self._outermost(None).events

    def _check_free(self, scene: Scene) -> None:
        if not isinstance(scene, Scene):
            raise SceneError(f"the scene is {scene!r}, expected a Scene")
        if scene.router is not None and scene.router is not self:
            raise SceneError("the scene already has a router; close() that one first")

    def _enter(self, scene: Scene) -> None:
        """Leave the scene there is, and enter another."""
        old, state = self._scene, self._state
        if scene is old:
            return
        self._check_free(scene)
        self._pointing.leave_scene("the router has gone to another scene")
        self._seats.leave_scene()
        going_on = [one for one in self._running if isinstance(one, EachTime)]
        self._gestures.close()
        if old._listeners.get("look"):
            self._look_events.tell()
        old._router, scene._router = None, weakref.ref(self)
        scene.window, scene.scale = old.window, old.scale
        self._scene = scene
        state.enter(scene)
        self._dispatcher.hear(scene._listeners)
        self._pointing.enter_scene(scene)
        self._join()
        for one in going_on:
            one.run_in(self._running)
        self._seats.enter_scene(scene)

    @property
    def feel(self) -> Feel:
        """The adjustable times and distances; set another at any time."""
        return self._state.feel

    @feel.setter
    def feel(self, value: Feel) -> None:
        if not isinstance(value, Feel):
            raise SampleError(f"feel is {value!r}, expected a Feel")
        self._state.feel = value

    @property
    def trace(self) -> Trace | None:
        """The last decisions, if it was told to keep any: samples with their verdicts, idle moves included.

        ``glent.formats.write_trace`` makes a recording of them, which ``glent replay`` takes.
        """
        return self._trace

    # -- by code -----------------------------------------------------------------------------------------------------

    def send(self, node: Node, kind: str, data: Mapping[str, Any] | None = None, seat: str = "main") -> bool:
        """Send an event by code to a node, and to those above that it carries it on to. Return whether one took it.

        It is an event as any other, at once, from inside a handler as well; the next verdict tells of it.

        :param kind: ``change``, for a control whose value is another, or one of your own (``crane:unloaded``).
        :raises KindError: another kind: those are for the router to send.
        :raises SceneError: the node is not in this router's scene, or the router is closed.
        """
        checked_node(node, "send")
        if check_kind(kind) != "change" and ":" not in kind:
            raise KindError(f"{node.path}: {kind} cannot be sent by code, expected change or a kind of your own")
        if data is not None and not isinstance(data, Mapping):
            raise KindError(f"{node.path}: data of {kind} is {data!r}, expected None or a mapping")
        if node._scene is not self._scene or self._closed:
            raise SceneError(f"{node.path}: cannot be told of {kind}, it is not in a scene that this router serves")
        event = Event(kind, node, "", self._state.now, (0.0, 0.0), data=data or NO_DATA, seat=seat)
        if self._busy:
            self._check_thread("send")
            return self._send_on(event)
        self._busy = get_ident()
        try:
            taken = self._send_on(event)
            self._route_queued()
        finally:
            self._end()
        return taken

    def _send_on(self, event: Event) -> bool:
        """Send an event of code, unless handlers send so many within each other that they seem never to end."""
        if self._sending >= MOST_SENT:
            message = (
                f"{event.node.path}: handlers of {event.kind} sent {MOST_SENT} events within each other; no more go"
            )
            self._dispatcher.report(SettleError(message), event)
            return False
        self._sending += 1
        try:
            return self._dispatcher.send(event, event.node.lineage())
        finally:
            self._sending -= 1

    @property
    def scene(self) -> Scene:
        """The scene that it takes input for; :meth:`move_to` goes to another.

        :raises SceneError: when set.
        """
        return self._scene

    @scene.setter
    def scene(self, scene: Scene) -> None:
        raise SceneError("the scene of a router cannot be set; router.move_to(scene) goes to another")

    # -- seats -------------------------------------------------------------------------------------------------------

    def seat(self, name: str = "main") -> Seat:
        """A seat by name; ``main`` is always there.

        :raises SeatError: there is no such seat.
        """
        seat = self._state.seats_by_name.get(name) if isinstance(name, str) else None
        if seat is None:
            raise SeatError(f"there is no seat {name!r}, the seats are {', '.join(self._state.seats_by_name)}")
        return seat

    @property
    def seats(self) -> tuple[Seat, ...]:
        """All seats, the main one first."""
        return tuple(self._state.seats_by_name.values())

    def add_seat(
        self,
        name: str,
        devices: Iterable[str] = (),
        viewport: tuple[float, float, float, float] | None = None,
        bindings: Bindings | None = None,
    ) -> Seat:
        """Add a player (laws T1, T2).

        :param devices: what is theirs alone: ``keys``, ``pad0``, …, or pointers by name. Others are shared.
        :param viewport: their part of the window: left, top, width and height in fractions of it.
        :param bindings: which control does what for them; the default ones otherwise.
        :raises SeatError: there is a seat of that name, a device is another seat's, or the viewport has no size.
        """
        self._between_samples("add_seat")
        self._check_open("add_seat")
        return self._seats.add(name, devices, viewport, bindings)

    def remove_seat(self, name: str) -> None:
        """Remove a player: pointers leave and cancel, focus blurs, what the world holds by them is lifted (law P6).

        :raises SeatError: there is no such seat, or it is ``main``.
        """
        self._between_samples("remove_seat")
        self._seats.remove(self.seat(name))

    def take_lifts(self) -> tuple[str, ...]:
        """Take the lifts that came outside of samples: of a menu that code opened, a tick, a seat that went. Each is
        told once, here or by the next verdict (law W3)."""
        return self._lifts.collect()

    def _check_open(self, what: str) -> None:
        if self._closed:
            raise SceneError(f"{what}: the router is closed, its scene takes samples through another one")

    def _between_samples(self, what: str) -> None:
        if self._busy:
            raise SeatError(f"{what}: not from inside a handler, whose event is some seat's; do it after the feed")

    # -- inside --------------------------------------------------------------------------------------------------

    def _latest(self) -> float:
        """The time before which no new sample may be."""
        for item, _ in reversed(self._queue):
            if not isinstance(item, Scene):
                return item if isinstance(item, int | float) else item.time
        return self._state.now

    def _outermost(self, first: Sample | float | None) -> Verdict:
        """Route one sample, pass time, or only settle (None); then route what handlers fed meanwhile."""
        if self._closed:
            raise SceneError("the router is closed, a scene takes samples through its new one")
        self._busy = get_ident()
        try:
            verdict = self._route(first)
            if self._queue or self._settle_wanted:
                verdict._inner = self._route_queued()
        except BaseException:
            self._look_anew()
            raise
        finally:
            self._end()
        return verdict

    def _end(self) -> None:
        """End the outermost call; what stopped a handler, such as an interrupt, goes on to the caller now."""
        self._busy = 0
        if self._queue:  # something that is no Exception came through: what was promised cannot be kept
            self._queue.clear()
        stop = self._dispatcher.stop
        if stop is not None:
            self._dispatcher.stop = None
            raise stop

    def _look_anew(self) -> None:
        """Have the next settle look at everything anew: something that is no Exception broke off what was under way."""
        self._settling.seen = self._settling.seats_seen = -1
        self._scene._version += 1
        for pointer in self._state.pointers.values():
            pointer.unsettle()

    def _check_thread(self, what: str) -> None:
        """Check that a call comes from the thread whose sample is being routed: from one of its handlers."""
        if self._busy != get_ident():
            raise ThreadError(
                f"{what}: another thread is feeding this router now; hand input over by a queue to the one that feeds"
            )

    def _finds_the_same(self, pointer: Pointer, x: float, y: float) -> bool:
        """Whether a move finds the same offers where a modal, a claim or another seat has a say."""
        seat = pointer.seat
        if seat.view.screen_only:
            return False  # it has been asked
        return find_at(self._state, seat, x, y, pointer.kind) == (pointer.offers, pointer.barrier)

    def _follow(self, pointer: Pointer, contact: Contact, sample: PointerSample) -> Verdict:
        """Route a drag that just goes on: :meth:`_outermost` by the fast path."""
        self._busy = get_ident()
        offers, version = pointer.offers, self._scene._version
        try:
            verdict = self._gestures.follow(self._pointing, pointer, contact, sample)
            if (pointer.offers is not offers or self._scene._version != version) and self._scene._listeners.get("look"):
                self._look_events.tell()
            dispatcher = self._dispatcher
            if dispatcher.events:
                verdict._events = tuple(dispatcher.events)
                dispatcher.events = []
            if self._queue or self._settle_wanted:
                verdict._inner = self._route_queued()
        except BaseException:
            self._look_anew()
            raise
        finally:
            self._end()
        return verdict

    def _route_queued(self) -> tuple[Verdict, ...]:
        """Route what handlers fed, in order, and settle where one asked for it; the verdicts of the samples."""
        inner: list[Verdict] = []
        routed = 0
        while self._queue or self._settle_wanted:
            if self._settle_wanted:
                self._settle_wanted = False
                self._settling.settle()
                continue
            item, promise = self._queue.popleft()
            if isinstance(item, Scene):
                self._go_on_in(item)
                continue
            routed += 1
            if routed > MOST_INNER:
                self._drop_queued(item, promise)
                continue
            promise._seal(self._route(item))
            if not isinstance(item, int | float):
                inner.append(promise)
        return tuple(inner)

    def _go_on_in(self, scene: Scene) -> None:
        """Enter a scene that a handler asked for; it may have got a router of its own meanwhile."""
        try:
            self._enter(scene)
        except SceneError as error:
            self._dispatcher.report(error, None)
        self._settle_wanted = True

    def _drop_queued(self, item: Sample | float, promise: Verdict) -> None:
        """Drop what handlers feed without end, and say so once."""
        if not self._queue:
            self._dispatcher.report(
                SampleError(
                    f"handlers fed more than {MOST_INNER:,} samples while one was routed, each perhaps the cause of the"
                    f" next; those after that are dropped, the last is {item!r}"
                ),
                None,
            )
        promise._seal(Verdict(because.ENDLESS, "tick" if isinstance(item, int | float) else "sample"))

    def _collected(self) -> tuple[Event, ...]:
        events = self._dispatcher.events
        if not events:
            return ()
        self._dispatcher.events = []
        return tuple(events)

    def _reach(self, time: float) -> None:
        """Bring all that goes by time to this time: what runs on, then hover."""
        state, settling = self._state, self._settling
        state.pass_time(max(state.now, time))
        if self._running:
            self._gestures.pass_time(state.now)
        if settling.boxes_seen != self._scene._shifts and self._scene._on_settle:
            settling.follow_boxes()
        settling.settle()

    def _route(self, item: Sample | float | None) -> Verdict:
        if item.__class__ is PointerSample:
            time = item.time
        else:
            time = self._state.now if item is None else item if isinstance(item, int | float) else item.time
        if self._timers.next_due <= time:
            self._timers.fire(time, self._reach, lambda error: self._dispatcher.report(error, None))
        pointing, state, settling = self._pointing, self._state, self._settling
        scene = self._scene
        if (
            self._running
            or settling.seen != scene._version
            or (settling.boxes_seen != scene._shifts and scene._on_settle)
        ):
            self._reach(float(time))
        else:
            state.now = float(time)
        if isinstance(item, PointerSample | RaySample):
            verdict = pointing.route(item)
            if self._scene._world_index is not None:
                pointing.note_spot(item.pointer, verdict)
            if state.many:
                verdict._seat = self._seats.acting.name
        elif isinstance(item, TipSample):
            from glent.core.routing.pointers.fingertip import route_tip  # seldom wanted

            verdict = route_tip(pointing, item)
        elif isinstance(item, WheelSample):
            verdict = route_wheel(state, item)
        elif isinstance(item, ActSample):
            verdict = route_act(state, self._gestures, item)
        else:
            verdict = self._seats.route(item)
        lifts = self._lifts
        if settling.seats_seen != scene._version:
            settled = len(lifts.names)
            settling.settle_seats()  # what opened upon this sample lifts and spends at once (laws M1, W3)
            if verdict._world and len(lifts.names) > settled:
                self._seats.take_back(item, verdict, settled)
        if self._scene._listeners.get("look"):
            self._look_events.tell()
        if lifts.names and item is not None and not isinstance(item, int | float):
            verdict._lifts = lifts.collect()
        dispatcher = self._dispatcher
        if dispatcher.events:
            verdict._events = tuple(dispatcher.events)
            dispatcher.events = []
        return verdict

    # -- what the scene asks (glent.core.scene.scene.Attached) -----------------------------------------------------

    def _on_removing(self, node: Node) -> None:
        self._seats.removing(node)

    def _focused(self, node: Node) -> int:
        """The focus of a node: 1 if a seat's focus is on it, 2 if its ring shows too, else 0."""
        seats = [seat for seat in self._state.seats_by_name.values() if seat._focus.node is node]
        return (1 + any(seat.focus_ring for seat in seats)) if seats else 0

    def _on_change(self, node: Node, names: tuple[str, ...]) -> None:
        self.send(node, "change", {"facts": names})

    def _on_removed(self, nodes: list[Node]) -> None:
        self._pointing.removed(nodes)

    def _look(self, node: Node) -> str:
        return self._pointing.look(node)

    def _scroll(self, node: Node, dx: float, dy: float) -> tuple[float, float]:
        width, height = node.size
        at = Pointer(BY_CODE, "mouse", self._state.main, on_screen(node, width / 2.0, height / 2.0), aim_at(node))
        return self._gestures.scroll(node, dx, dy, BY_CODE, at)

    def _grab(self, node: Node, name: str, on_lost: Callable[[str], object] | None) -> Grab:
        pointer = self._state.pointers.get(name)
        if pointer is None:
            raise KindError(f"{node.path}: cannot grab {name!r}, there is no such pointer now")
        from glent.core.routing.pointers import grabbing  # seldom wanted

        return grabbing.begin(self._state, pointer, node, on_lost)
