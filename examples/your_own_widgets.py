"""Glent under a little toolkit that keeps widgets of its own: none is subclassed, none knows of nodes."""

import pygame

from glent import PointerSample, Router, Scene
from glent.mirror import Mirror


class Widget:
    """A box with a caption, drawn by pygame. What it does when it is pressed is its toolkit's own."""

    colour, lit = (38, 58, 78), (38, 58, 78)

    def __init__(self, name, rect, *children):
        self.name, self.rect, self.children = name, pygame.Rect(rect), list(children)
        self.under_pointer = False

    def draw(self, surface, left=0, top=0):
        where = self.rect.move(left, top)
        pygame.draw.rect(surface, self.lit if self.under_pointer else self.colour, where)
        for child in self.children:
            child.draw(surface, where.left, where.top)

    def on_event(self, kind):
        self.under_pointer = {"enter": True, "leave": False}.get(kind, self.under_pointer)


class Button(Widget):
    colour, lit = (58, 88, 116), (84, 124, 156)

    def __init__(self, name, rect, action):
        super().__init__(name, rect)
        self.action = action

    def on_event(self, kind):
        super().on_event(kind)
        if kind == "click":
            self.action()


buoys = Widget("buoys", (10, 50, 180, 140))
window = Widget("window", (40, 30, 200, 200), buoys)


def drop_a_buoy():
    number = len(buoys.children)
    new = Button(f"buoy-{number}", (10, 4 + 26 * number, 160, 22), lambda: buoys.children.remove(new))
    buoys.children.append(new)


window.children.append(Button("drop", (10, 10, 180, 30), drop_a_buoy))

scene = Scene(size=(640, 480))
router = Router(scene)
mirror = Mirror(
    scene.layer("toolkit"),
    window,
    box=lambda widget: tuple(widget.rect),
    solidity=lambda widget: "solid",
    handle=lambda widget, event: widget.on_event(event.kind),
    hears=("enter", "leave", "click"),
)

surface = pygame.Surface((640, 480))
for step, (x, y) in enumerate([(100, 60), (100, 60), (100, 60), (100, 120), (600, 400)]):
    for action in ("move", "press", "release"):
        verdict = router.feed(PointerSample(step + 0.1, action, x, y))
    mirror.update()  # once a frame: what the toolkit has done to its widgets
    window.draw(surface)
    print(f"{len(buoys.children)} buoys, {len(mirror)} widgets; the release: {verdict.why}")
