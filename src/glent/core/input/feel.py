"""The adjustable times and distances."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from functools import lru_cache
from types import MappingProxyType
from typing import Any

from glent.core.errors import SampleError, near

__all__ = ["FEEL_NAMES", "Feel", "checked_feel", "with_changes"]

POINTERS = ("mouse", "touch", "pen", "ray")


def _number(default: float, least: float = 0.0, most: float = 1e9) -> float:
    """A field that is a number. ``least`` is above zero where something would happen without end otherwise, or be
    divided by nothing."""
    number: float = field(default=default, metadata={"least": least, "most": most})
    return number


@dataclass(frozen=True, slots=True)
class Feel:
    """The feel of input. A value: make another to change it; a node can have other values for some fields (``feel=``).

    Times are seconds. Distances are logical pixels of the screen: window pixels divided by the display's scale. Speeds
    are those a second. No field changes what is hit.

    :raises TypeError: there is no such field; the message names the nearest.

    :ivar click_gap: from one press to the next within which clicks count on as double, triple, … (law G1). 0.5 s is
        what desktop systems ship with; players with slow hands need more, so offer it as a setting.
    :ivar click_slack: how far the next press may be from the last for the count to go on. 6 px is more than a hand on
        a mouse trembles, and less than the least target.
    :ivar hold_slack: how far a press may stray and still be a hold. 8 px: a resting finger rolls by about 5.
    :ivar drag_threshold: how far a mouse or pen must travel for a drag, scroll or swipe (law G2). 4 px: more than a
        click trembles, and little enough that nobody waits for it.
    :ivar touch_threshold: the same for a finger. 10 px: a fingertip is some 40 px wide and tilts as it lands.
    :ivar drag_delay: how long a finger must rest before it can drag; 0: not at all. Give it to things that are
        dragged in a list, some 0.25 s, so that a quick stroke over them scrolls it.
    :ivar hold_delay: how long a press must rest to be a hold. 0.5 s: nobody presses a button that long by chance.
    :ivar confirm_time: how long a hold-to-confirm runs from 0 to 1. 1 s is long enough to think better of it.
    :ivar repeat_delay: from the press to the first repeat. 0.4 s: a click is over by then.
    :ivar repeat_gap: from the first repeat to the second. 0.12 s: slow enough to stop at the number one wants.
    :ivar repeat_speedup: each further gap is this part of the one before. 0.85 is at full speed after ten.
    :ivar min_repeat_gap: the shortest gap. 0.03 s: as fast as a frame or two, and still countable.
    :ivar look_delay: how long a finger's press does not show where a scroll competes (law G5). 0.1 s: a scroll has
        mostly begun by then, so a list does not flash under the finger; a resting finger does not notice.
    :ivar scroll_kinds: the kinds of pointer that scroll by dragging: fingers and pens, as on any tablet. A mouse has
        a wheel, and drags select.
    :ivar scroll_line: how long one line is, of a wheel or of an arrow key in a scroll area. 36 px: a row of a
        list. A page is what an area shows less one line, so the last line stays to read on from.
    :ivar wheel_gap: wheel samples closer than this are one burst, which stays where it began (law G4). 0.2 s is
        longer than the pause between two flicks of a finger on a wheel.
    :ivar glide_time: in this time a glide loses all but 1/e of its speed. 0.3 s: a quick flick runs for about 1.2 s.
    :ivar min_glide_speed: a release slower than this does not glide, and a glide that is slower stops. 20 px/s:
        slower is a trembling hand, and less than one pixel in three frames.
    :ivar velocity_window: the speed of a release is measured over this last stretch. 0.1 s: six frames, so one bad
        sample does not decide; a finger that rested as long glides nowhere.
    :ivar max_overscroll: how far an area can be pulled beyond its end at the most. 80 px: enough to feel that there
        is no more; 0 makes edges hard.
    :ivar overscroll_spring: how fast it comes back, as the rate of a critically damped spring, per second. 14: back
        within half a second, without swinging.
    :ivar autoscroll_edge: how near the edge of an area a drag scrolls it (law G3). 32 px: about a row.
    :ivar autoscroll_speed: how fast it does at the very edge. 480 px/s: one can read the rows that come in.
    :ivar pinch_threshold: how much the distance of two fingers, or the arc they turn by, must change. 8 px: fingers
        that land together come to rest within 5.
    :ivar swipe_distance: the shortest swipe. 40 px: four times a finger's threshold, so that no tap is one.
    :ivar swipe_speed: the slowest swipe. 300 px/s: a drag that means to place something is slower.
    :ivar dwell_time: how long a pointer must rest on a node for its dwell. 0.8 s: longer than the eye rests on what
        it only reads past (0.2–0.4 s).
    :ivar dwell_kinds: the kinds of pointer that dwell: those without a button (law G6). Add ``"mouse"`` for a player
        who can point and not press.
    :ivar dwell_activates: the kinds of pointer that click what they dwell on: for players who can point and not press.
        A node can only do without.
    :ivar click_again_after: a press on what was clicked less than so long ago does nothing. 0: it clicks again. Some
        0.4 s is for hands that tremble and press twice. A node can have another only where the router's is more than 0.
    :ivar ray_threshold: how far a ray must turn for a drag, scroll or swipe, degrees (law G7). 1.2°: a hand held out
        trembles by half a degree, and a press of its trigger jerks it by one.
    :ivar ray_hold_slack: how far a ray's press may stray and still be a hold, degrees. 2°: a hand that holds a
        trigger down sinks by about one.
    :ivar ray_click_slack: how far the next press of a ray may be from the last for the count to go on, degrees. 2°:
        two jerks of the trigger.
    :ivar device_switch_angle: how far a ray must turn to count as used (law T4), degrees. 5°: a controller that lies
        on a table, or a head that is kept still, turns by less.
    :ivar tip_depth: how near in front of a panel a fingertip must have been, and how deep behind its front it may
        come out, for that to be a press, metres. 0.05 m: a quick finger at 2 m/s goes 3 cm in a frame of 1/60 s, and
        a hand that is lost and found again has mostly gone farther.
    :ivar device_switch_distance: how far a mouse or pen must move to count as used, so that prompts change from keys
        or pad to it (law T4). 12 px: a desk that is bumped moves a mouse by less.
    :ivar dead_zone: an axis nearer to its middle than this rests (law F5). 0.2: worn sticks come back to within that.
    :ivar button_press: a button or trigger of a pad is down once its value is as high as this. 0.5: half way, as
        drivers that make a switch of a trigger have it.
    :ivar button_release: it is up again once its value is below this. 0.4: less than ``button_press``, so that a
        trigger held there does not flutter.
    :ivar stick_step: a stick that is tilted as far as this moves focus by a step, until it is back to 0.7 of it. 0.5:
        half way, so that neither a touch nor the very rim is needed.
    :ivar navigate_delay: from the first step of a stick or a held pad button to the second. 0.4 s: a single step is
        over by then.
    :ivar navigate_gap: from each further step to the next. 0.12 s: eight a second can still be stopped where one
        wants.
    """

    click_gap: float = _number(0.5)
    click_slack: float = _number(6.0)
    hold_slack: float = _number(8.0)
    drag_threshold: float = _number(4.0)
    touch_threshold: float = _number(10.0)
    drag_delay: float = _number(0.0)
    hold_delay: float = _number(0.5)
    confirm_time: float = _number(1.0, least=0.001)
    repeat_delay: float = _number(0.4)
    repeat_gap: float = _number(0.12, least=0.001)
    repeat_speedup: float = _number(0.85, least=0.1, most=1.0)
    min_repeat_gap: float = _number(0.03, least=0.001)
    look_delay: float = _number(0.1)
    scroll_kinds: tuple[str, ...] = ("touch", "pen")
    scroll_line: float = _number(36.0)
    wheel_gap: float = _number(0.2)
    glide_time: float = _number(0.3, least=0.001)
    min_glide_speed: float = _number(20.0, least=1.0)
    velocity_window: float = _number(0.1, least=0.001)
    max_overscroll: float = _number(80.0)
    overscroll_spring: float = _number(14.0, least=0.1)
    autoscroll_edge: float = _number(32.0)
    autoscroll_speed: float = _number(480.0)
    pinch_threshold: float = _number(8.0)
    swipe_distance: float = _number(40.0)
    swipe_speed: float = _number(300.0)
    dwell_time: float = _number(0.8, least=0.001)
    dwell_kinds: tuple[str, ...] = ("ray",)
    dwell_activates: tuple[str, ...] = ()
    click_again_after: float = _number(0.0, most=10.0)
    ray_threshold: float = _number(1.2)
    ray_hold_slack: float = _number(2.0)
    ray_click_slack: float = _number(2.0)
    device_switch_angle: float = _number(5.0)
    tip_depth: float = _number(0.05, least=0.001)
    device_switch_distance: float = _number(12.0)
    dead_zone: float = _number(0.2, least=0.01, most=0.9)
    button_press: float = _number(0.5, least=0.05, most=1.0)
    button_release: float = _number(0.4, least=0.05, most=1.0)
    stick_step: float = _number(0.5, least=0.1, most=1.0)
    navigate_delay: float = _number(0.4)
    navigate_gap: float = _number(0.12, least=0.01)

    def __new__(cls, *given: Any, **named: Any) -> Feel:
        for name in named:
            if name not in FEEL_NAMES:
                raise TypeError(f"Feel has no field {name!r}{near(name, FEEL_NAMES)}")
        return object.__new__(cls)

    def __post_init__(self) -> None:
        for one in fields(self):
            value = getattr(self, one.name)
            if not one.metadata:  # kinds of pointer
                given = tuple(value) if isinstance(value, list) else value
                if not isinstance(given, tuple) or not all(kind in POINTERS for kind in given):
                    raise SampleError(
                        f"Feel: {one.name} is {value!r}, expected a tuple of kinds among {', '.join(POINTERS)}"
                    )
                object.__setattr__(self, one.name, given)
                continue
            minimum, maximum = one.metadata["least"], one.metadata["most"]
            if isinstance(value, bool) or not isinstance(value, int | float) or not minimum <= value <= maximum:
                raise SampleError(f"Feel: {one.name} is {value!r}, expected a number from {minimum:g} to {maximum:g}")


FEEL_NAMES = tuple(one.name for one in fields(Feel))
"""The names of the fields."""


def checked_feel(changes: object, where: str) -> Mapping[str, Any] | None:
    """Check a node's changes to the feel: None, or a mapping from field to value.

    :raises SampleError: there is no such field, or the value is none for it; the message names the node.
    """
    if changes is None:
        return None
    if not isinstance(changes, Mapping):
        raise SampleError(f"{where}: feel is {changes!r}, expected None or a mapping from a field of Feel to its value")
    for name in changes:
        if name not in FEEL_NAMES:
            raise SampleError(f"{where}: feel names {name!r}, expected one of {', '.join(FEEL_NAMES)}")
    frozen: dict[str, Any] = {}
    for name, value in changes.items():
        frozen[name] = tuple(value) if isinstance(value, list) else value
    try:
        replace(Feel(), **frozen)
    except SampleError as error:
        raise SampleError(f"{where}: {error}") from None
    return MappingProxyType(frozen)


@lru_cache(maxsize=256)
def _changed(feel: Feel, changes: tuple[tuple[str, Any], ...]) -> Feel:
    return replace(feel, **dict(changes))


def with_changes(feel: Feel, changes: Mapping[str, Any]) -> Feel:
    """The feel with a node's changes."""
    return _changed(feel, tuple(changes.items()))
