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
from glent.demo.window import Window  # noqa: E402
from glent.demo.worlds import manned  # noqa: E402


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
    scene, orders = window.router.scene, window.world.orders
    motion(420, 28)
    window.frame()
    assert scene["hud/toolbar/recall"].look == "hover"
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


def made(kind: int, **fields: object) -> pygame.event.Event:
    return pygame.event.Event(kind, fields)


def finger(kind: int, x: float, y: float, number: int = 5, device: int = 77) -> pygame.event.Event:
    return made(kind, touch_id=device, finger_id=number, x=x, y=y, dx=0.0, dy=0.0, pressure=0.5)


def source(**given: object) -> PygameSource:
    pygame.display.init()
    pygame.display.set_mode((200, 100))
    made = PygameSource(count(-1).__next__, **given)
    (first,) = made.samples(())
    assert (first.what, first.width, first.height) == ("size", 200, 100), "no event tells it"
    return made


def test_p1_fingers_have_names_of_their_own_and_copies_of_a_mouse_are_marked() -> None:
    down, move, up = pygame.FINGERDOWN, pygame.FINGERMOTION, pygame.FINGERUP
    events = [finger(down, 0.5, 0.5), finger(down, 0.1, 0.1, 9), finger(up, 0.5, 0.5), finger(down, 0.2, 0.2, 5)]
    events += [finger(down, 0.3, 0.3, 1, device=-1), finger(down, 0.4, 0.4, 1, device=8)]
    samples = source(pens=[8]).samples(events)
    told = [(one.pointer, one.kind, one.action, one.x, one.y, one.emulated) for one in samples]
    assert told == [
        ("finger-1", "touch", "press", 100.0, 50.0, False),
        ("finger-2", "touch", "press", 20.0, 10.0, False),
        ("finger-1", "touch", "release", 100.0, 50.0, False),
        ("finger-1", "touch", "press", 40.0, 20.0, False),
        ("finger-3", "touch", "press", 60.0, 30.0, True),
        ("pen-1", "pen", "press", 80.0, 40.0, False),
    ]
    assert samples[0].pressure == 0.5
    held = source()
    held.samples([finger(down, 0.5, 0.5), made(pygame.KEYDOWN, scancode=pygame.KSCAN_W)])
    (_, sync) = held.samples([made(pygame.WINDOWFOCUSGAINED)])
    assert (sync.what, sync.held) == ("sync", ("finger-1/primary", "keys/KeyW"))
    _ = move


def test_p9_fingers_are_coalesced_one_by_one_in_the_order_of_time() -> None:
    down, move = pygame.FINGERDOWN, pygame.FINGERMOTION
    one = source()
    one.samples([finger(down, 0.5, 0.5), finger(down, 0.1, 0.1, 9)])
    mouse = made(pygame.MOUSEMOTION, pos=(3, 3), rel=(1, 1), buttons=(0, 0, 0), touch=False)
    samples = one.samples([finger(move, 0.2, 0.1, 9), finger(move, 0.6, 0.5), mouse, finger(move, 0.3, 0.1, 9)])
    assert [(sample.pointer, sample.time, len(sample.raw)) for sample in samples] == [
        ("finger-1", 3, 0),
        ("mouse", 4, 0),
        ("finger-2", 5, 2),
    ]


@pytest.mark.parametrize(
    ("name", "code", "key"),
    [("W", "KeyW", None), ("ESCAPE", "Escape", "Escape"), ("LSHIFT", "ShiftLeft", "Shift"), ("KP_5", "Numpad5", None)],
)
def test_keys_have_the_codes_of_ui_events_and_repeat_while_they_are_down(name: str, code: str, key: str | None) -> None:
    scancode = getattr(pygame, f"KSCAN_{name}")
    down, up = made(pygame.KEYDOWN, scancode=scancode), made(pygame.KEYUP, scancode=scancode)
    samples = source().samples([down, down, up, down, made(pygame.KEYDOWN, scancode=0)])
    assert [(one.action, one.code, one.key, one.repeat) for one in samples] == [
        ("down", code, key, False),
        ("down", code, key, True),
        ("up", code, key, False),
        ("down", code, key, False),
    ]


def test_p12_relative_mode_tells_distances_alone_and_a_warp_is_told(monkeypatch: pytest.MonkeyPatch) -> None:
    one = source()
    move = [made(pygame.MOUSEMOTION, pos=(9, 9), rel=(3, -1), buttons=(0, 0, 0), touch=False)] * 2
    monkeypatch.setattr(pygame.mouse, "get_relative_mode", lambda: True)
    (sample,) = one.samples(move)
    assert (sample.relative, sample.dx, sample.dy, sample.x) == (True, 6.0, -2.0, 0.0)
    monkeypatch.undo()
    one.warp(50, 60)
    warp, back = one.samples(move[:1])
    assert (warp.what, warp.pointer, back.relative, back.dx) == ("warp", "mouse", False, -41.0)


def test_a_finger_presses_a_button_of_the_harbour_and_its_mouse_copy_does_nothing(window: Window) -> None:
    width, height = pygame.display.get_window_size()
    at = {"x": 420 / width, "y": 28 / height, "touch_id": 1, "finger_id": 0, "dx": 0.0, "dy": 0.0, "pressure": 1.0}
    post(pygame.FINGERDOWN, **at)
    button(pygame.MOUSEBUTTONDOWN, 420, 28, touch=True)
    post(pygame.FINGERUP, **at)
    button(pygame.MOUSEBUTTONUP, 420, 28, touch=True)
    window.frame()
    assert window.world.orders.count("all tugs stop") == 1


@pytest.fixture
def bridge(tmp_path: Path) -> Iterator[Window]:
    from shutil import copy

    from glent.demo import BRIDGE
    from glent.demo.worlds import manned_bridge

    path = Path(copy(BRIDGE, tmp_path / "bridge.yaml"))
    router, world = manned_bridge(2, path)
    made = Window(router, world, path)
    made.frame()
    pygame.event.clear()
    yield made
    pygame.quit()


def test_w3_keys_and_pads_steer_and_a_menu_lifts_them(bridge: Window) -> None:
    boats = bridge.world.boats
    post(pygame.KEYDOWN, scancode=pygame.KSCAN_W, key=pygame.K_w, mod=0, unicode="w")
    post(pygame.CONTROLLERAXISMOTION, instance_id=7, axis=0, value=100)
    post(pygame.CONTROLLERAXISMOTION, instance_id=9, axis=1, value=-32768)
    bridge.frame()
    assert boats["main"].held == {"keys/KeyW": 1.0}
    assert boats["second"].held == {"pad1/left_stick_y": -1.0}, "pads are numbered as they come"
    post(pygame.CONTROLLERBUTTONDOWN, instance_id=9, button=6)
    bridge.frame()
    assert bridge.router.scene["pause-2"].visible
    assert (boats["main"].held, boats["second"].held) == ({"keys/KeyW": 1.0}, {})
    post(pygame.CONTROLLERDEVICEREMOVED, instance_id=9)
    post(pygame.CONTROLLERAXISMOTION, instance_id=7, axis=5, value=32767)
    post(pygame.CONTROLLERBUTTONDOWN, instance_id=7, button=15)
    bridge.frame()
    assert bridge.router.seat().held == {"keys/KeyW", "pad0/left_stick_x", "pad0/front_bottom_right"}
    post(pygame.WINDOWFOCUSGAINED)
    bridge.frame()
    assert bridge.router.seat().held == {"keys/KeyW", "pad0/front_bottom_right"}, "both are still down after the gap"


def test_w4_text_and_composition_come_from_the_window(bridge: Window) -> None:
    bridge.router.seat().focus = bridge.router.scene["helm/call-sign"]
    post(pygame.TEXTINPUT, text="ke")
    post(pygame.TEXTEDITING, text="", start=0, length=0)
    post(pygame.TEXTEDITING, text="lp", start=2, length=0)
    bridge.frame()
    assert bridge.router.scene["helm/call-sign"].facts["text"] == "ke[lp]"
    post(pygame.TEXTEDITING, text="", start=0, length=0)
    post(pygame.TEXTINPUT, text="lp")
    bridge.frame()
    assert bridge.router.scene["helm/call-sign"].facts["text"] == "kelp"


def test_w5_the_windows_cursor_follows_the_seats(bridge: Window) -> None:
    look = bridge.router.scene["look"]
    seen = []
    for shown in (True, False):
        look.visible = shown
        bridge.frame()
        seen.append((pygame.mouse.get_visible(), pygame.mouse.get_relative_mode()))
    assert seen == [(False, True), (True, False)]
    look.visible = True
    bridge.frame()
    post(pygame.MOUSEMOTION, pos=(5, 5), rel=(40, 0), buttons=(0, 0, 0), touch=False)
    button(pygame.MOUSEBUTTONDOWN, 5, 5)
    bridge.frame()
    assert bridge.status.reason is Reason.LOCKED
    assert bridge.world.boats["main"].view == 10.0


def test_t5_a_watched_file_is_read_again_and_a_bad_one_is_told(bridge: Window) -> None:
    path, scene = bridge.watched, bridge.router.scene
    bridge.router.seat().focus = scene["helm/bearing"]
    before = path.read_text()

    def save(text: str, stamp: int) -> None:
        path.write_text(text)
        os.utime(path, (stamp, stamp))
        bridge.frame()

    save(before.replace("turn: -24", "turn: 30"), 1_000_000_000)
    assert scene["helm/bearing"].place.turn == 30
    assert bridge.router.seat().focus is scene["helm/bearing"]
    assert bridge.said == "bridge.yaml was read again: 1 changed, 0 added, 0 removed"
    save(before.replace("turn: -24", "tern: 30"), 1_000_000_100)
    assert "tern" in bridge.said
    assert scene["helm/bearing"].place.turn == 30
