"""The window for one's own program and the plain painter, on the dummy video driver with real events."""

from __future__ import annotations

import os

os.environ["SDL_VIDEODRIVER"] = "dummy"
os.environ.setdefault("PYGAME_HIDE_SUPPORT_PROMPT", "1")

import pygame
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import glent
from glent import Place, Router, Scene
from glent.adapters.pygame_painter import colour_of, fill_of, paint_scene
from glent.adapters.pygame_text import cut, font, wrapped
from glent.adapters.pygame_window import PlayWindow, play
from glent.controls import Dialog, Look, Slider, Toggle, caption_of, owner_of
from glent.demo import SCENES
from glent.demo.worlds import world_for


def desk() -> tuple[Scene, Router]:
    scene = Scene(size=(320, 200))
    layer = scene.layer("l")
    layer.add("send", role="button", place=Place(20, 20, width=120, height=40), facts={"text": "send a tug"})
    layer.add("red", solidity="solid", place=Place(200, 20, width=60, height=60), facts={"colour": "firebrick"})
    layer.add("fog", solidity="glass", place=Place(20, 100, width=60, height=60), facts={"colour": "no colour"})
    return scene, Router(scene)


def test_w1_a_window_feeds_what_comes_gives_the_game_its_turn_and_paints() -> None:
    scene, router = desk()
    turns: list[tuple[float, list[str]]] = []
    clicked: list[str] = []
    scene["l/send"].on("click", lambda event: clicked.append(event.node.name))
    painted: list[pygame.Surface] = []

    def turn(time: float, fed: list) -> bool:
        turns.append((time, [verdict.why for _, verdict in fed]))
        assert isinstance(fed[-1][0], glent.TickSample)
        assert fed[-1][0].time == time
        if len(turns) == 1:
            for kind in (pygame.MOUSEBUTTONDOWN, pygame.MOUSEBUTTONUP):
                pygame.event.post(pygame.event.Event(kind, pos=(40, 40), button=1, touch=False))
        return len(turns) < 4

    play(router, lambda surface, scene: painted.append(surface), turn, title="Desk")
    assert clicked == ["send"]
    assert len(turns) == len(painted) == 4, "the turn that says no is drawn, and is the last"
    assert [time for time, _ in turns] == sorted(time for time, _ in turns)


def test_w1_a_window_closes_when_it_is_told_and_tells_the_scene_its_part_of_the_size() -> None:
    _, router = desk()
    window = PlayWindow(router, below=30)
    window.frame()
    assert (window.surface.get_size(), router.scene.window) == ((320, 230), (320, 200))
    pygame.event.post(pygame.event.Event(pygame.WINDOWSIZECHANGED, x=640, y=430))
    window.frame()
    assert router.scene.window == (640, 400)
    pygame.event.post(pygame.event.Event(pygame.QUIT))
    assert window.open
    window.frame()
    assert not window.open
    play(router, seconds=0.05)
    pygame.quit()


def test_c3_the_plain_painter_paints_by_look_and_by_facts() -> None:
    scene, router = desk()
    surface = pygame.Surface((320, 200))

    def colour(x: int, y: int) -> tuple[int, ...]:
        surface.fill((0, 0, 0))
        paint_scene(surface, scene)
        return tuple(surface.get_at((x, y)))[:3]

    assert colour(230, 50) == tuple(pygame.Color("firebrick"))[:3]
    assert colour(50, 130) not in ((0, 0, 0), (200, 214, 222)), "one sees through glass"
    before = colour(24, 24)
    router.feed(glent.PointerSample(0.0, "move", 24.0, 24.0))
    hovered = colour(24, 24)
    router.feed(glent.PointerSample(0.1, "press", 24.0, 24.0))
    assert len({before, hovered, colour(24, 24)}) == 3
    scene["l/send"].visible = False
    assert colour(24, 24) == (0, 0, 0)
    scene["l/red"].enabled = False
    assert sum(colour(230, 50)) < sum(colour_of(scene["l/red"]))
    assert colour_of(scene["l/fog"]) == ()


def test_c3_what_is_written_on_a_node_is_what_its_control_or_its_facts_say() -> None:
    layer = Scene((300, 300)).layer("l")

    def said(node: glent.Node) -> str:
        return caption_of(node, *owner_of(node))

    assert said(layer.add("cast-off", role="button")) == "cast off"
    assert said(layer.add("a", role="button", label="Cast off")) == "Cast off"
    assert said(layer.add("b", role="button", label="Cast off", facts={"text": ""})) == ""
    assert said(layer.add("c", solidity="solid")) == ""
    toggle = Toggle(layer.add("lamp", role="switch"))
    assert said(toggle.node) == "lamp"
    slider = Slider(layer.add("tide"), low=0, high=4)
    assert owner_of(slider.node["thumb"]) == (slider, "thumb")
    assert fill_of(slider.node["thumb"], slider, "thumb", slider.look("thumb")) != fill_of(
        slider.node, slider, "", Look("idle")
    )
    router = Router(layer.scene)  # type: ignore[arg-type]
    dialog = Dialog(layer.add("question", place=Place(width=200, height=100)))
    dialog.node.add("message")
    dialog.ask("Let the barge go?", ("yes", "no"))
    router.settle()
    assert {said(node) for node in dialog.node.walk()} >= {"Let the barge go?", "yes", "no"}


@settings(max_examples=60, deadline=None)
@given(text=st.text("abc ÅW\n…", max_size=60), width=st.integers(8, 200), size=st.sampled_from((11, 15, 24)))
def test_text_is_wrapped_and_shortened_to_its_room(text: str, width: int, size: int) -> None:
    words = font(size)
    lines = wrapped(words, text, width)
    assert "".join(lines).replace(" ", "") == text.replace("\n", "").replace(" ", ""), "nothing is lost"
    assert all(words.size(line)[0] <= width or " " not in line.strip() for line in lines)
    for line in lines:
        short = cut(words, line, width)
        assert words.size(short)[0] <= width
        assert short == line or short == "" or (short[-1] == "…" and line.startswith(short[:-1]))


@pytest.mark.parametrize(
    "scene", sorted(SCENES.values() if isinstance(SCENES, dict) else SCENES, key=str), ids=lambda one: one.stem
)
@pytest.mark.parametrize("size", [(1280, 720), (640, 900), (2560, 1440)])
def test_every_shipped_scene_is_painted_at_any_size(scene, size: tuple[int, int]) -> None:
    router, _ = world_for(scene)
    router.feed(glent.WindowSample(0.0, "size", *size))
    surface = pygame.Surface(size)
    paint_scene(surface, router.scene)
    for node in router.scene.walk():
        if not node.root._in_world and node.is_visible:
            assert node.screen_corners()[0] == router.scene.point(node, 0.0, 0.0)
