"""Draws the pictures of the live view anew, in a window and, where Chromium is, on its page; and that of the page that
`glent coverage` writes. `make shots`."""

import io
import os
import runpy
import shutil
import sys
import tempfile
import threading
import time
from contextlib import redirect_stdout
from pathlib import Path

os.environ.setdefault("SDL_VIDEODRIVER", "dummy")
os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")

from click.testing import CliRunner

from glent import Router, TickSample, WheelSample
from glent.demo import RECORDINGS
from glent.demo.worlds import manned
from glent.formats import read_recording, read_scene
from glent.live import Overlay
from glent.live.server import serve
from glent.testing import Hand


def overlay_shot(folder: Path) -> None:
    """A button under a sheet of fog, with all that lies there."""
    import pygame

    from glent.adapters.pygame_overlay import paint_overlay
    from glent.adapters.pygame_painter import paint_scene
    from glent.adapters.pygame_text import font

    with redirect_stdout(io.StringIO()):
        made = runpy.run_path(str(Path(__file__).parent / "live_view.py"))
    made["file"].write_text(made["DESK"])
    router = Router(read_scene(made["file"]))
    pygame.display.init()
    pygame.font.init()
    overlay = Overlay(router, measure=lambda text: font(15).size(text))
    hand = Hand(router, start=1.0)
    hand.feed = overlay.feed  # type: ignore[method-assign,assignment]
    hand.click((150.0, 640.0))
    hand.press_keys("KeyW")
    hand.click((700.0, 120.0))
    hand.press_keys("F8")
    hand.click((150.0, 640.0))
    hand.feed(WheelSample(hand.time + 0.01, 150.0, 640.0, 0.0, 1.0))
    for number in range(3):
        overlay.tick(hand.time + 0.1 + number / 60)
    surface = pygame.Surface((1280, 800))
    surface.fill((16, 30, 44))
    paint_scene(surface, router.scene)
    paint_overlay(surface, overlay)
    pygame.image.save(surface, str(folder / "live-window.png"))
    pygame.quit()


def page_shot(folder: Path, chromium: str) -> None:
    """The harbour on the page, in the middle of a shift, with a verdict that was asked about."""
    from playwright.sync_api import sync_playwright

    router, harbour = manned(on_error=lambda error, event: None)
    samples = iter(read_recording(RECORDINGS["night-shift"]).samples)
    going = threading.Event()

    def run() -> None:
        sample = next(samples)
        while not going.is_set():
            for _ in range(2):
                if sample is not None and sample.time < 40.0:
                    harbour.steer(sample, router.feed(sample))
                    sample = next(samples, None)
            router.feed(TickSample(max(0.0, router.now)))
            time.sleep(0.01)

    thread = threading.Thread(target=run)
    with serve(router, write=True) as server, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium, args=["--no-sandbox"])
        page = browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme="light")
        thread.start()
        page.goto(server.address)
        page.locator("#tree .row").first.wait_for()
        row = page.locator("#verdicts .row", has_text="press: the press landed on hud/toolbar").first
        row.wait_for()
        row.click()
        page.wait_for_timeout(800)
        page.screenshot(path=str(folder / "live-page.png"))
        browser.close()
        going.set()
        thread.join()


def coverage_shot(folder: Path, chromium: str) -> None:
    """What a night shift at the harbour has met."""
    from playwright.sync_api import sync_playwright

    from glent.cli import main

    page = Path(tempfile.mkdtemp()) / "met.html"
    CliRunner().invoke(main, ["coverage", "harbour", "night-shift", "--out", str(page)])
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=chromium, args=["--no-sandbox"])
        shown = browser.new_page(viewport={"width": 1280, "height": 1000}, color_scheme="light")
        shown.goto(page.as_uri())
        shown.screenshot(path=str(folder / "coverage.png"))
        browser.close()


if __name__ == "__main__":
    where = Path(sys.argv.pop())
    overlay_shot(where)
    found = shutil.which("chromium")
    if found is not None:
        page_shot(where, found)
        coverage_shot(where, found)
    print(f"drawn in {where}" if found else "there is no Chromium here, so the page is not drawn")
