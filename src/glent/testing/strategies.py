"""Hypothesis strategies: what users may do with a scene, as recordings that shrink to the fewest acts.

What is drawn is a list of acts, each a few samples: a click on a node, a drag from one to another, a key, a turn of the
wheel, a finger, a pause, the window that loses the focus in the middle of it. Hypothesis leaves acts out and makes them
simpler, so what remains of a failure is short, and is a recording that ``glent replay`` and ``glent play`` take.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from glent.core.errors import SampleError
from glent.core.input.samples import (
    KeySample,
    PadSample,
    PointerSample,
    Sample,
    TextSample,
    TickSample,
    WheelSample,
    WindowSample,
)
from glent.extras import needs
from glent.formats import Recording, replay
from glent.testing.report import report_on

with needs("testing", "glent.testing.strategies"):
    from hypothesis import strategies as st

if TYPE_CHECKING:
    from collections.abc import Callable, Iterable

    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.scene import Scene

__all__ = ["DEVICES", "UserActs", "user_acts"]

DEVICES = ("mouse", "touch", "keys", "pad", "window")
"""What acts may come from."""
KEYS = ("Tab", "Enter", "Space", "Escape", "ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown", "Backspace", "KeyA")
PAD = ("right_cluster_bottom", "right_cluster_right", "left_stick_x", "left_stick_y")
FINGERS = ("finger-1", "finger-2")
PACE = 0.016
"""Seconds from one sample to the next."""


class UserActs(Recording):
    """What a user does, as it was drawn: a recording that says in its ``repr`` what happens in it."""

    def __init__(self, size: tuple[float, float], told: list[str]) -> None:
        super().__init__(size)
        self._told = told

    def play(self, router: Router) -> list[Verdict]:
        """Feed it to a router that is as new. Return the verdicts.

        Of the last one played before a test fails, the report of the pytest plugin tells, and keeps the recording.
        """
        report_on(router)
        return [step.verdict for step in replay(router, self)]

    def __repr__(self) -> str:
        return f"<UserActs: {'; '.join(self._told) or 'nothing'}>"


class _Writer:
    """Makes samples of acts."""

    def __init__(self, size: tuple[float, float]) -> None:
        self.told: list[str] = []
        self.acts = UserActs(size, self.told)
        self.time = 0.0
        self.at = (0.0, 0.0)
        self.buttons = 0
        self.fingers: dict[str, tuple[float, float]] = {}
        self.keys: set[str] = set()

    def add(self, make: Callable[[float], Sample]) -> None:
        self.time = round(self.time + PACE, 6)
        self.acts.add(make(self.time))

    def mouse(self, action: str, to: tuple[float, float] | None = None) -> None:
        if action == "press":
            self.buttons = 1
        elif action == "release":
            self.buttons = 0
        x, y = self.at = to if to is not None else self.at
        button = None if action == "move" else 0
        self.add(lambda time: PointerSample(time, action, x, y, "mouse", "mouse", button, self.buttons))

    def glide(self, to: tuple[float, float], steps: int = 4) -> None:
        (x0, y0), (x1, y1) = self.at, to
        for step in range(1, steps + 1):
            self.mouse("move", (round(x0 + (x1 - x0) * step / steps, 3), round(y0 + (y1 - y0) * step / steps, 3)))

    def finger(self, name: str, action: str, to: tuple[float, float]) -> None:
        if action == "release" and name not in self.fingers:
            return
        if action == "press" and name in self.fingers:
            action = "move"
        if action == "release":
            to = self.fingers.pop(name)
        else:
            self.fingers[name] = to
        button, buttons = (None, 1) if action == "move" else (0, int(action == "press"))
        self.add(lambda time: PointerSample(time, action, *to, name, "touch", button, buttons))


def user_acts(
    scene: Scene, most: int = 25, devices: Iterable[str] = DEVICES, where: Callable[[str], bool] | None = None
) -> st.SearchStrategy[UserActs]:
    """What users may do with a scene as it is laid out now: on its nodes, and beside them.

    :param scene: the scene; it is only looked at. :param most: the largest number of acts. :param devices: what they
        may come from, of :data:`DEVICES`. :param where: keeps only the nodes whose paths it is true of, as targets.
    :raises SampleError: there is no such device.
    """
    allowed = tuple(devices)
    unknown = [one for one in allowed if one not in DEVICES]
    if unknown or not allowed:
        raise SampleError(f"user_acts: devices is {allowed!r}, expected some of {', '.join(DEVICES)}")
    targets = _targets(scene, where)
    acts = st.lists(st.one_of(*(act for name in allowed for act in _acts_of(name, targets))), max_size=most)
    return _written(acts, scene.window)


Act = tuple[str, "Callable[[_Writer], None]"]
Target = tuple[str, tuple[float, float]]


@st.composite
def _written(draw: st.DrawFn, acts: st.SearchStrategy[list[Act]], size: tuple[float, float]) -> UserActs:
    writer = _Writer(size)
    for told, act in draw(acts):
        writer.told.append(told)
        act(writer)
    return writer.acts


def _targets(scene: Scene, where: Callable[[str], bool] | None) -> st.SearchStrategy[Target]:
    """Nodes, each with a point of its box; and bare points of the window."""
    width, height = scene.window
    free = st.tuples(st.floats(0, width - 1, width=16), st.floats(0, height - 1, width=16))
    points = free.map(lambda at: (f"({at[0]:g}, {at[1]:g})", (float(at[0]), float(at[1]))))
    shown = [
        node
        for layer in scene.layers
        for node in layer.walk()
        if node.is_visible and node.parent is not None and min(node.size) > 0.0 and (where is None or where(node.path))
    ]
    if not shown:
        return points
    part = st.sampled_from([0.5, 0.1, 0.9])

    def placed(index: int, fx: float, fy: float) -> Target:
        node = shown[index]
        x, y = scene.point(node, node.size[0] * fx, node.size[1] * fy)
        return node.path, (round(x, 3), round(y, 3))

    nodes = st.builds(placed, st.integers(0, len(shown) - 1), part, part)
    return st.one_of(nodes, nodes, points)


def _acts_of(device: str, targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    return {"mouse": _mouse, "touch": _touch, "keys": _keys, "pad": _pad, "window": _window}[device](targets)


def _mouse(targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    def click(to: Target) -> Act:
        def act(writer: _Writer) -> None:
            writer.mouse("move", to[1])
            writer.mouse("press")
            writer.mouse("release")

        return f"click {to[0]}", act

    def drag(start: Target, end: Target) -> Act:
        def act(writer: _Writer) -> None:
            writer.mouse("move", start[1])
            writer.mouse("press")
            writer.glide(end[1])
            writer.mouse("release")

        return f"drag {start[0]} to {end[0]}", act

    def wheel(dy: int) -> Act:
        def act(writer: _Writer) -> None:
            x, y = writer.at
            writer.add(lambda time: WheelSample(time, x, y, 0.0, float(dy), "line"))

        return f"wheel {dy}", act

    return [
        targets.map(lambda to: (f"move to {to[0]}", lambda writer: writer.glide(to[1], 2))),
        targets.map(click),
        st.builds(drag, targets, targets),
        st.sampled_from(["press", "release"]).map(lambda one: (one, lambda writer: writer.mouse(one))),
        st.sampled_from([1, -1, 3, -3]).map(wheel),
    ]


def _touch(targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    def act(name: str, action: str, to: Target) -> Act:
        return f"{name} {action} {to[0]}", lambda writer: writer.finger(name, action, to[1])

    def tap(to: Target) -> Act:
        def both(writer: _Writer) -> None:
            writer.finger("finger-1", "press", to[1])
            writer.finger("finger-1", "release", to[1])

        return f"tap {to[0]}", both

    return [
        targets.map(tap),
        st.builds(act, st.sampled_from(FINGERS), st.sampled_from(["press", "release"]), targets),
    ]


def _keys(targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    def stroke(code: str) -> Act:
        def act(writer: _Writer) -> None:
            writer.add(lambda time: KeySample(time, "down", code))
            writer.add(lambda time: KeySample(time, "up", code))
            writer.keys.discard(code)

        return code, act

    def held(code: str) -> Act:
        def act(writer: _Writer) -> None:
            action = "up" if code in writer.keys else "down"
            writer.keys ^= {code}
            writer.add(lambda time: KeySample(time, action, code))

        return f"{code} down, or up", act

    def text(typed: str) -> Act:
        return f"type {typed!r}", lambda writer: writer.add(lambda time: TextSample(time, typed))

    return [
        st.sampled_from(KEYS).map(stroke),
        st.sampled_from(KEYS).map(held),
        st.sampled_from(["a", "7", "Kelp", "ä"]).map(text),
    ]


def _pad(targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    def tilt(control: str, value: float) -> Act:
        given = value if control.endswith(("_x", "_y")) else abs(value)
        return f"{control} {given:g}", lambda writer: writer.add(lambda time: PadSample(time, control, given))

    return [st.builds(tilt, st.sampled_from(PAD), st.sampled_from([1.0, 0.0, -1.0, 0.5]))]


def _window(targets: st.SearchStrategy[Target]) -> list[st.SearchStrategy[Act]]:
    def wait(seconds: float) -> Act:
        def act(writer: _Writer) -> None:
            writer.time += seconds
            writer.add(TickSample)

        return f"wait {seconds:g} s", act

    def away(what: str) -> Act:
        pointer = "mouse" if what == "pointer_left" else None
        return what.replace("_", " "), lambda writer: writer.add(lambda time: WindowSample(time, what, pointer=pointer))

    return [
        st.sampled_from([0.1, 0.6, 2.0]).map(wait),
        st.sampled_from(["focus_lost", "focus_gained", "pointer_left"]).map(away),
    ]
