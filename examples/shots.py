"""Draws the pictures of the docs anew, from the demo data, without a display: `make shots`."""

import os
import sys
from pathlib import Path

os.environ.setdefault("SDL_VIDEODRIVER", "dummy")
os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")

from glent.demo import RECORDINGS, SHIFT
from glent.demo.games import harbour as harbour_game
from glent.demo.games import shuttered
from glent.demo.tower_tour import shown_rays
from glent.demo.window import Window
from glent.demo.worlds import manned, manned_bridge, manned_gallery, manned_quay, manned_tower, played
from glent.diagnose import focus_map, kind_map, pass_map
from glent.figures import draw_focus, draw_map, draw_map_change, draw_timeline, draw_view
from glent.formats import read_recording, replay
from glent.testing import Hand


def _gallery(folder: Path) -> None:
    """A tug that was refused, a box that is mixed, a crate picked up, and a submenu on the way."""
    import pygame

    router, gallery = manned_gallery()
    window = Window(router, gallery)
    window.paint()
    hand = Hand(router, start=1.0)
    hand.click("desk/orders/tugs/bramble")
    hand.wait(0.6)
    hand.click("desk/orders/fog-lamp")
    hand.click("desk/levels/hold/a1")
    hand.click("desk/papers/manifest/rows/list/barrels")
    hand.drag("desk/levels/tide/thumb", (530.0, 120.0))
    hand.click("desk/bar/harbour", steps=3)
    hand.move("popups/harbour-menu/buoys", 4)
    hand.wait(0.4)
    window.status = hand.move("popups/buoy-menu/green", 6)
    window.paint()
    pygame.image.save(window.surface, str(folder / "gallery.png"))
    pygame.quit()


def main(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    router, _ = manned(on_error=lambda error, event: None)
    draw_map(pass_map(router.scene), folder / "map.png", "Kelp Harbour: who gets a press")
    title = "Kelp Harbour: what a shutter that was left rolled out takes from whom"
    draw_map_change(kind_map(harbour_game()), kind_map(shuttered()), folder / "map-change.png", title)
    steps = list(replay(router, read_recording(SHIFT)))
    draw_timeline(steps, folder / "timeline.png", "The night shift: who got each input")

    import pygame

    fresh, harbour = manned()
    window = Window(fresh, harbour)
    window.paint()
    hand = Hand(fresh, start=1.0)
    hand.feed = lambda sample: window.feed(sample)  # type: ignore[method-assign,assignment,return-value]
    hand.click((150.0, 640.0))
    hand.pause(1.0)
    hand.move("hud/toolbar/send-tug")
    hand.press()
    window.paint()
    pygame.image.save(window.surface, str(folder / "window.png"))
    pygame.quit()

    router, quay = manned_quay()
    window = Window(router, quay)
    window.paint()
    for sample in read_recording(RECORDINGS["crates"]).samples:
        if sample.time < 1.02:  # the anvil is over a shelf that does not bear it
            window.feed(sample)
    window.paint()
    pygame.image.save(window.surface, str(folder / "quay.png"))
    pygame.quit()

    router, bridge = manned_bridge(2)
    window = Window(router, bridge)
    window.paint()
    for sample in read_recording(RECORDINGS["pilots"]).samples:
        if sample.time < 0.37:  # the second pilot has paused, the first sails on
            window.feed(sample)
    window.paint()
    pygame.image.save(window.surface, str(folder / "pilots.png"))
    pygame.quit()
    router, tower = manned_tower()
    window = Window(router, tower)
    window.paint()
    hand = Hand(router, start=1.0)
    hand.feed = lambda sample: window.feed(sample)  # type: ignore[method-assign,assignment,return-value]
    hand.click("signal-wall/storm")
    hand.pause(1.0)
    hand.move("chart-table/tide")
    hand.press()
    hand.move("chart-table/tide", 4, (0.75, 0.5))
    window.paint()
    pygame.image.save(window.surface, str(folder / "tower.png"))
    pygame.quit()
    _gallery(folder)
    router, tower = manned_tower()
    steps = played(router, tower, read_recording(RECORDINGS["moorings"]))
    rays = [ray for until in (0.17, 0.5, 0.97) for ray in shown_rays(router, steps, until)]
    draw_view(router.scene, router.scene.camera, folder / "view.png", rays, "The tower: three presses of one hand")

    scene = manned_bridge()[0].scene
    draw_focus(scene, focus_map(scene), folder / "focus.png", "The bridge: where the focus goes")


if __name__ == "__main__":
    if len(sys.argv) != 2:
        sys.exit("usage: python examples/shots.py FOLDER, where the pictures go")
    main(Path(sys.argv[1]))
