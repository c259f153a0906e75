"""Real SDL events on SDL's dummy driver."""

from __future__ import annotations

import os
from collections.abc import Iterator
from itertools import count
from pathlib import Path

import pytest

os.environ["SDL_VIDEODRIVER"] = "dummy"
os.environ["PYGAME_HIDE_SUPPORT_PROMPT"] = "1"
pygame = pytest.importorskip("pygame")

from glent import Reason  # noqa: E402
from glent.adapters.pygame_events import PygameSource  # noqa: E402
from glent.cli import main  # noqa: E402
from glent.demo.shift import manned  # noqa: E402
from glent.demo.window import Window  # noqa: E402


@pytest.fixture
def window() -> Iterator[Window]:
    router, harbour = manned()
    made = Window(router, harbour)
    made.frame()
    pygame.event.clear()
    yield made
    pygame.quit()


def post(kind: int, **fields: object) -> None:
    pygame.event.post(pygame.event.Event(kind, fields))


def motion(x: int, y: int, buttons: tuple = (0, 0, 0), touch: bool = False) -> None:
    post(pygame.MOUSEMOTION, pos=(x, y), rel=(1, 1), buttons=buttons, touch=touch)


def button(kind: int, x: int, y: int, number: int = 1, touch: bool = False) -> None:
    post(kind, pos=(x, y), button=number, touch=touch)


def test_a_click_on_a_button_and_one_on_the_water(window: Window) -> None:
    scene, orders = window.router.scene, window.harbour.orders
    motion(420, 28)
    window.frame()
    assert scene["hud/toolbar/recall"].look == "hot"
    button(pygame.MOUSEBUTTONDOWN, 420, 28)
    window.frame()
    assert scene["hud/toolbar/recall"].look == "pressed"
    assert window.status.why == "the press landed on hud/toolbar/recall, which is solid"
    motion(640, 600, (1, 0, 0))
    window.frame()
    assert scene["hud/toolbar/recall"].look == "idle"
    motion(420, 28, (1, 0, 0))
    button(pygame.MOUSEBUTTONUP, 420, 28)
    window.frame()
    assert "all tugs stop" in orders
    button(pygame.MOUSEBUTTONDOWN, 640, 680)
    button(pygame.MOUSEBUTTONUP, 640, 680)
    window.frame()
    assert orders[-1] == "anchovy is sent to (640, 680)"
    assert window.status.world


def test_wheel_size_focus_and_leaving(window: Window) -> None:
    scene = window.router.scene
    motion(1100, 200)
    post(pygame.MOUSEWHEEL, x=0, y=-1, precise_x=0.0, precise_y=-1.5, flipped=False, which=0, touch=False)
    window.frame()
    assert scene["hud/hold/crates"].scroll == (0, 96)
    post(pygame.WINDOWSIZECHANGED, x=640, y=390)
    window.frame()
    assert scene.window == (640, 360)
    button(pygame.MOUSEBUTTONDOWN, 320, 330)
    post(pygame.WINDOWFOCUSLOST)
    window.frame()
    assert window.status.lifts == ("mouse/primary",)
    post(pygame.WINDOWFOCUSGAINED)
    motion(550, 100)
    window.frame()
    assert scene["hud/hold"].hovered, "the release that got lost is made up for at the next move"
    post(pygame.WINDOWLEAVE)
    window.frame()
    assert not scene["hud/hold"].hovered


def test_moves_are_coalesced_with_their_raw_points_and_touch_copies_are_dropped() -> None:
    source = PygameSource(count().__next__)

    def made(kind: int, **fields: object) -> pygame.event.Event:
        return pygame.event.Event(kind, fields)

    def move(x: int, touch: bool = False) -> pygame.event.Event:
        return made(pygame.MOUSEMOTION, pos=(x, 5), rel=(1, 0), buttons=(0, 0, 0), touch=touch)

    down = [made(pygame.MOUSEBUTTONDOWN, pos=(4, 5), button=number, touch=False) for number in (7, 4)]
    samples = source.samples([move(1), move(2), move(4), *down, move(9), move(10, True), made(pygame.KEYDOWN, key=1)])
    assert [(s.action, s.x, s.dx, len(s.raw), s.emulated) for s in samples] == [
        ("move", 4, 4, 3, False),
        ("press", 4, 0, 0, False),
        ("move", 9, 5, 0, False),
        ("move", 10, 0, 0, True),
    ]
    assert samples[1].button == 4
    assert samples[0].raw[0][1:] == (1, 5)
    router, _ = manned()
    assert [router.feed(sample).reason for sample in samples][-1] is Reason.EMULATED


def test_play_records_and_takes_a_picture(tmp_path: Path) -> None:
    from click.testing import CliRunner

    shot, record = tmp_path / "shot.png", tmp_path / "played.jsonl"
    done = CliRunner().invoke(main, ["play", "--seconds", "0.3", "--shot", str(shot), "--record", str(record)])
    assert done.exit_code == 0, done.output
    assert shot.read_bytes()[:4] == b"\x89PNG"
    assert record.read_text().startswith('{"glent": "recording"')
