"""What gestures cost, against idle moves in the same run."""

from __future__ import annotations

from collections.abc import Callable

import scenes
from cost_tools import best
from glent import PointerSample, Router
from glent.core.routing.picking import pick

SAMPLES = 10_000
TOUCHES = 10
FRAMES = 1_000


def deep_button(scene):
    """A button six deep with an unturned way to it, and its middle on the screen."""
    scene._index.refresh()
    for node in scene.walk():
        if node.name == "button1" and len(node.line()) == 6 and node.shape is None and node.effective == "solid":
            x, y = scene.point(node, 1.0, 2.5)
            if pick(scene, x, y) == [node] and all(not above.place.turn for above in node.line()[1:]):
                return node, x, y
    raise AssertionError("no such button")


def feeder(router: Router, samples: list[PointerSample]) -> Callable[[], None]:
    """Feeds the samples again and again, each time a little later."""

    def feed() -> None:
        late = router.now
        for n, sample in enumerate(samples):
            sample.time = late + n * 1e-4
            router.feed(sample)

    return feed


def idle_moves(scene, x: float, y: float) -> Callable[[], None]:
    """As many idle moves of a mouse as there are samples in a drag."""
    router = Router(scene)
    return feeder(router, [PointerSample(0.0, "move", x + n % 5 * 0.05, y) for n in range(SAMPLES)])


def against_idle(work: Callable[[], None], count: int) -> float:
    """How many idle moves one of ``count`` things costs: least against least, so that disturbed rounds drop out."""
    scene = scenes.harbour(10_000)
    _, x, y = deep_button(scene)
    idle = idle_moves(scene, x, y)
    idle()
    spent, idles = [], []
    for _ in range(25):
        spent.append(best(work, count, 1))
        idles.append(best(idle, SAMPLES, 1))
    return min(spent) / min(idles)


def drag_with_targets() -> float:
    """A drag and drop over a scene of 10,000 nodes, every other button of which is a target that answers."""
    scene = scenes.harbour(10_000)
    node, x, y = deep_button(scene)
    answers: list[object] = []
    heard: list[str] = []
    for number, one in enumerate(scene.walk()):
        if one.name.startswith("button") and number % 2 and one is not node:
            one.accepts = lambda payload: answers.append(payload)
            one.on("drag_enter", lambda event: heard.append(event.node.name))
    node.on("drag_start", lambda event: event.carry("salt"))
    node.on("drag", lambda event: None)
    way = scenes.strokes(scene, SAMPLES, step=1.6)  # 10,000 samples in one drag are those of a mouse of 1,000 Hz
    router = Router(scene)
    router.feed(PointerSample(0.0, "move", x, y))
    router.feed(PointerSample(0.0, "press", x, y, button=0))
    drag = feeder(router, [PointerSample(0.0, "move", *point) for point in way])
    drag()
    assert router.feed(PointerSample(router.now, "move", x, y)).gesture == "drag"
    assert len(heard) > 100
    assert answers
    return against_idle(drag, SAMPLES)


def ten_touches() -> float:
    """A frame of ten fingers that all rest, trembling, on buttons."""
    scene = scenes.harbour(10_000)
    scene._index.refresh()
    router = Router(scene)
    places = []
    for node in scene.walk():
        if node.name.startswith("button") and node.effective == "solid" and node.shape is None:
            x, y = scene.point(node, 1.0, 2.5)
            if 0 <= x < scene.size[0] and 0 <= y < scene.size[1] and pick(scene, x, y, "touch") == [node]:
                places.append((x, y))
        if len(places) == TOUCHES:
            break
    assert len(places) == TOUCHES
    for number, (x, y) in enumerate(places):
        assert router.feed(PointerSample(0.0, "press", x, y, f"finger-{number}", "touch", 0)).owner is not None
    frames = [
        PointerSample(0.0, "move", x + frame % 5 * 0.05, y, f"finger-{number}", "touch")
        for frame in range(FRAMES)
        for number, (x, y) in enumerate(places)
    ]
    return against_idle(feeder(router, frames), FRAMES)
