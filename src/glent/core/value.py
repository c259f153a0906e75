"""Values that the game and its UI share: observed, bound to each other both ways, in range (laws V1–V5)."""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Callable
from typing import Any, Generic, Protocol, TypeVar

from glent.core.arguments import is_number, listed
from glent.core.errors import ValueRefusedError, near, raise_all

__all__ = ["AttributeValue", "Bound", "Clock", "Value", "Watch", "checked_attribute"]

T = TypeVar("T")
U = TypeVar("U")

ROUNDS = 100
"""Watchers that set what they watch are told again; after so many times in one change they contradict each other."""

_NOTHING: Any = object()

Range = tuple[float | None, float | None, float | None]
"""Low, high and step."""


class Watch:
    """A watcher of a value, or of a list, until :meth:`stop`."""

    __slots__ = ("_told", "_watches")

    def __init__(self, watches: dict[Watch, None], told: Callable[[Any], object]) -> None:
        self._watches = watches
        self._told = told

    def stop(self) -> None:
        """Stop watching, also in the middle of a change. Twice does nothing."""
        self._watches.pop(self, None)


class Bound:
    """Two values that follow each other, or one that follows another, until :meth:`stop`."""

    __slots__ = ("_forward", "_here", "_inverse", "_source")

    def __init__(
        self,
        here: Value[Any],
        source: Value[Any],
        forward: Callable[[Any], Any],
        inverse: Callable[[Any], Any] | None,
    ) -> None:
        self._here = here
        self._source = source
        self._forward = forward
        self._inverse = inverse

    def stop(self) -> None:
        """Unbind the two; each keeps what it has. Twice does nothing."""
        self._here._bounds.pop(self, None)
        self._source._bounds.pop(self, None)

    def _beyond(self, value: Value[Any]) -> Value[Any] | None:
        """The other value, if it may be told: the source is told nothing before it is ready (law V4), nor by what
        only follows it."""
        if value is self._source:
            return self._here
        return self._source if self._source.ready and self._inverse is not None else None

    def _passed_on(self, value: Value[Any], what: Any) -> Any:
        """What the other value becomes when this one becomes ``what``."""
        other, convert = (self._here, self._forward) if value is self._source else (self._source, self._inverse)
        assert convert is not None
        try:
            return other._fitting(convert(what))
        except Exception as error:
            error.add_note(f"{value.name} would be {what!r}, which could not be passed on to {other.name}")
            raise


class Value(Generic[T]):
    """One value: of a parameter of the game, or of a control. ``Value()`` has none yet and is not ready (law V4).

    :param start: what it is at first.
    :param name: what errors call it.
    :param low: numbers alone: the least it can be; what is less becomes that.
    :param high: the most.
    :param step: the way between the values it can have, counted from ``low``, or from 0 where there is none; ``high``
        is one of them in any case.
    :param options: the values it can have, where they are not numbers in a range.
    :raises ValueRefusedError: a range or step that is none, or a start that is refused.
    """

    __slots__ = ("_bounds", "_changes", "_current", "_range", "_telling", "_watches", "name", "options")

    def __init__(
        self,
        start: T = _NOTHING,
        *,
        name: str = "the value",
        low: float | None = None,
        high: float | None = None,
        step: float | None = None,
        options: tuple[T, ...] | None = None,
    ) -> None:
        self.name = name
        self.options = options
        self._range = self._checked(low, high, step)
        self._watches: dict[Watch, None] = {}
        self._bounds: dict[Bound, None] = {}
        self._telling = False
        self._changes = 0
        self._current: Any = start if start is _NOTHING else self._fitting(start)

    @staticmethod
    def of(
        thing: object,
        attribute: str,
        *,
        name: str | None = None,
        low: float | None = None,
        high: float | None = None,
        step: float | None = None,
        options: tuple[Any, ...] | None = None,
    ) -> AttributeValue:
        """The value of an attribute of a plain object of the game (law V6).

        Setting the value sets the attribute. What the game itself sets the attribute to is seen by
        :meth:`AttributeValue.poll`, which :meth:`AttributeValue.poll_with` has a router call.

        :param name: what errors call it; by default the attribute's name.
        :raises ValueRefusedError: there is no such attribute, or what it is cannot be.
        """
        return AttributeValue(thing, attribute, name=name, low=low, high=high, step=step, options=options)

    def __repr__(self) -> str:
        return f"<Value {self.name}: {self._current!r}>" if self.ready else f"<Value {self.name}, not ready>"

    @property
    def low(self) -> float | None:
        """The least it can be, or None. Another one is kept to at once (:meth:`limit`)."""
        return self._range[0]

    @low.setter
    def low(self, low: float | None) -> None:
        self.limit(low, self.high, self.step)

    @property
    def high(self) -> float | None:
        """The most it can be, or None."""
        return self._range[1]

    @high.setter
    def high(self, high: float | None) -> None:
        self.limit(self.low, high, self.step)

    @property
    def step(self) -> float | None:
        """The way between the values it can have, or None."""
        return self._range[2]

    @step.setter
    def step(self, step: float | None) -> None:
        self.limit(self.low, self.high, step)

    def limit(self, low: float | None, high: float | None, step: float | None = None) -> None:
        """Give it another range, all in one. It becomes the nearest value that it can have then, and all who watch it
        are told, also if it stays what it was: what is drawn of it depends on its range.

        :raises ValueRefusedError: a range or step that is none, a value that is no number, or one that is refused by a
            value bound to it; then the range is as it was.
        """
        before = self._range
        self._range = self._checked(low, high, step)
        if not self.ready or self._range == before:
            return
        changes = self._changes
        try:
            self.current = self._current
        except ValueRefusedError:
            self._range = before
            raise
        if self._changes == changes:
            errors: list[Exception] = []
            self._tell(errors)
            self._raise(errors)

    def _checked(self, low: float | None, high: float | None, step: float | None) -> Range:
        name, options = self.name, self.options
        for key, given in (("low", low), ("high", high), ("step", step)):
            if given is not None and not _is_number(given):
                raise ValueRefusedError(f"{name}: {key} is {given!r}, expected a finite number")
        if low is not None and high is not None and low > high:
            raise ValueRefusedError(f"{name}: low is {low!r} and high {high!r}, expected low no higher than high")
        if step is not None and step <= 0:
            raise ValueRefusedError(f"{name}: step is {step!r}, expected more than 0")
        if options is not None and not (low is high is step is None and listed(options)):
            raise ValueRefusedError(f"{name}: options are {options!r}, expected at least one, and no range beside them")
        return low, high, step

    @property
    def ready(self) -> bool:
        """Whether it has a value."""
        return self._current is not _NOTHING

    @property
    def current(self) -> T:
        """The value now. Setting it to what it is already does nothing (law V1).

        :raises ValueRefusedError: it is not ready; or what it is set to is no number though it has a range, is none of
            the options, or is refused by a value bound to it. Then nothing at all has changed (V3).
        """
        if self._current is _NOTHING:
            raise ValueRefusedError(f"{self.name}: is not ready, it has no value yet")
        now: T = self._current
        return now

    @current.setter
    def current(self, value: T) -> None:
        fitting = self._fitting(value)
        if self._bounds:
            self._spread({self: fitting})
        elif not (self.ready and _alike(self._current, fitting)):
            self._current = fitting
            self._changes += 1
            errors: list[Exception] = []
            self._tell(errors)
            if errors:
                self._raise(errors)

    def watch(self, told: Callable[[T], object]) -> Watch:
        """Call ``told(value)`` at once if it is ready, and then with each new value."""
        if not callable(told):
            raise ValueRefusedError(f"{self.name}: is to be watched by {told!r}, expected something to call")
        watch = Watch(self._watches, told)
        self._watches[watch] = None
        if self.ready:
            try:
                told(self._current)
            except BaseException:
                watch.stop()
                raise
        return watch

    def bind(
        self, source: Value[U], forward: Callable[[U], T] | None = None, inverse: Callable[[T], U] | None = None
    ) -> Bound:
        """Follow another value, and be followed by it. At first, and when it becomes ready, the source's value counts.

        :param forward: makes a value for this one of the source's. :param inverse: the other way. Neither is exact:
            the one that was set keeps what it was set to, the other has the nearest it can have (law V2).
        :raises ValueRefusedError: they are one and the same, or the source's value is refused here.
        """
        return self._bind(source, forward, _same if inverse is None else inverse)

    def follow(self, source: Value[U], forward: Callable[[U], T] | None = None) -> Bound:
        """Become what another value becomes. What this one is set to otherwise is its own, until the source changes.

        :param forward: makes a value for this one of the source's.
        :raises ValueRefusedError: they are one and the same, or the source's value is refused here.
        """
        return self._bind(source, forward, None)

    def _bind(
        self, source: Value[Any], forward: Callable[[Any], Any] | None, inverse: Callable[[Any], Any] | None
    ) -> Bound:
        if not isinstance(source, Value):
            raise ValueRefusedError(
                f"{self.name}: is to be bound to {source!r}, expected a Value, such as Value({source!r})"
            )
        if source is self:
            raise ValueRefusedError(f"{self.name}: is to be bound to itself, expected another value")
        for what, call in (("forward", forward), ("inverse", inverse)):
            if call is not None and not callable(call):
                raise ValueRefusedError(f"{self.name}: {what} is {call!r}, expected None or something to call")
        bound = Bound(self, source, forward or _same, inverse)
        first = bound._passed_on(source, source._current) if source.ready else _NOTHING
        self._bounds[bound] = source._bounds[bound] = None
        if source.ready:
            try:
                self._spread({source: source._current, self: first})  # the source stays, whatever else binds the two
            except BaseException:
                bound.stop()
                raise
        return bound

    # -- a change ----------------------------------------------------------------------------------------------------

    def _fitting(self, value: Any) -> Any:
        """The nearest value that it can have."""
        if self.options is not None:
            if not any(_alike(value, one) for one in self.options):
                shown = ", ".join(map(repr, self.options))
                raise ValueRefusedError(f"{self.name}: is set to {value!r}, expected one of {shown}")
            return value
        low, high, step = self.low, self.high, self.step
        if low is None and high is None and step is None:
            return value
        if not _is_number(value):
            raise ValueRefusedError(f"{self.name}: is set to {value!r}, expected a finite number")
        if high is not None and value > high:
            return high
        if low is not None and value < low:
            return low
        if step is None:
            return value
        first = low if low is not None else 0
        steps = (value - first) / step
        if not math.isfinite(steps):
            return value  # so far out that steps are nothing there
        # Counted from the first, never added up, so that it is the same number in whatever order it was reached.
        stepped = first + math.floor(steps + 0.5) * step
        return high if high is not None and high - value <= abs(stepped - value) else stepped

    def _spread(self, planned: dict[Value[Any], Any]) -> None:
        """Set this one, and what follows from that, to what is planned."""
        # All that the change comes to is found first, each value once: so nothing goes in circles, and what is refused
        # anywhere is refused before anything has changed.
        waiting = deque([self])
        while waiting:
            one = waiting.popleft()
            if one.ready and _alike(one._current, planned[one]):
                continue
            for bound in one._bounds:
                other = bound._beyond(one)
                if other is not None and other not in planned:
                    planned[other] = bound._passed_on(one, planned[one])
                    waiting.append(other)
        changed = [one for one, new in planned.items() if not (one.ready and _alike(one._current, new))]
        for one in changed:
            one._current = planned[one]
            one._changes += 1
        errors: list[Exception] = []
        for one in changed:
            one._tell(errors)
        self._raise(errors)

    def _raise(self, errors: list[Exception]) -> None:
        """Raise what watchers raised."""
        raise_all(errors, f"{self.name}: watchers failed")

    def _tell(self, errors: list[Exception]) -> None:
        """Tell the watchers what it is now. One that sets it again has all of them told that next, in order (V5)."""
        if self._telling:
            return
        self._telling = True
        try:
            for _ in range(ROUNDS):
                told = self._changes
                for watch in list(self._watches):
                    if watch in self._watches and self._changes == told:
                        try:
                            watch._told(self._current)
                        except Exception as error:
                            errors.append(error)
                if self._changes == told:
                    return
            errors.append(ValueRefusedError(f"{self.name}: its watchers set it again and again, {ROUNDS} times by now"))
        finally:
            self._telling = False


class AttributeValue(Value[Any]):
    """An attribute of a plain object as a value; made by :meth:`Value.of`."""

    __slots__ = ("_attribute", "_reading", "_thing")

    def __init__(self, thing: object, attribute: str, *, name: str | None = None, **limits: Any) -> None:
        given = checked_attribute(thing, attribute)
        self._thing, self._attribute = thing, attribute
        self._reading = False
        super().__init__(given, name=name if name is not None else attribute, **limits)
        self.watch(self._write)

    def poll(self) -> bool:
        """Take over what the attribute is now. Return whether that was another value.

        :raises ValueRefusedError: it cannot be that; the attribute becomes what the value is.
        """
        given = getattr(self._thing, self._attribute)
        if _alike(given, self._current):
            return False
        changes, self._reading = self._changes, True
        try:
            self.current = given
        finally:
            self._reading = False
            self._write(self._current)  # where it was refused, or brought into its range
        return self._changes != changes

    def poll_with(self, router: Clock) -> Any:
        """Have :meth:`poll` called for each sample and tick of a router. Return what stops that by ``.stop()``."""
        return router.each_time(lambda time: self.poll())

    def _write(self, now: Any) -> None:
        if self._reading or _alike(getattr(self._thing, self._attribute), now):
            return
        setattr(self._thing, self._attribute, now)
        self.poll()  # what it made of that is what it is


class Clock(Protocol):
    """What a router is to those who want to be called as time goes on."""

    def each_time(self, call: Callable[[float], object]) -> Any: ...


def checked_attribute(thing: object, attribute: object) -> Any:
    """What an attribute of an object is.

    :raises ValueRefusedError: there is none of this name.
    """
    if not isinstance(attribute, str) or not hasattr(thing, attribute):
        known = [one for one in dir(thing) if not one.startswith("_")]
        raise ValueRefusedError(
            f"{type(thing).__name__} has no attribute {attribute!r}, expected one of it{near(attribute, known)}"
        )
    return getattr(thing, attribute)


def _same(value: Any) -> Any:
    return value


def _alike(one: Any, other: Any) -> bool:
    if one is other:
        return True
    try:
        return isinstance(one, bool) == isinstance(other, bool) and bool(one == other)
    except (TypeError, ValueError):  # an array, say, has no truth value
        return False


def _is_number(value: object) -> bool:
    return is_number(value)
