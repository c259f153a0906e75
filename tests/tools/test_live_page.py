"""The page of the live view in a real browser: Debian's Chromium, driven by Playwright.

`make test` installs the browser where it can. Without it these tests are skipped, and say so; in CI that is a failure.
"""

from __future__ import annotations

import difflib
import os
import shutil
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from glent import Place, PointerSample, Router, Scene
from glent.formats import read_recording, read_scene
from glent.testing import Hand
from live_game import Game

CHROMIUM = shutil.which("chromium") or shutil.which("chromium-browser")

DESK = """\
glent: scene
version: 2
size: [1280, 800]
layers:
- name: desk
  children:
  - {name: cast-off, role: button, place: {left: 80, top: 590, width: 220, height: 90}}
- name: weather
  order: 10
  children:
  # the fog is painted over the harbour
  - {name: fog, solidity: solid, place: {left: 0, top: 400, right: 0, bottom: 0}}
"""


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    if CHROMIUM is None:
        told = "no Chromium here: apt-get install chromium"
        pytest.fail(told) if os.environ.get("CI") else pytest.skip(told)
    with sync_playwright() as playwright:
        made = playwright.chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox"])
        yield made
        made.close()


@pytest.fixture
def file(tmp_path: Path) -> Path:
    made = tmp_path / "desk.yaml"
    made.write_text(DESK)
    return made


@pytest.fixture
def game(file: Path) -> Iterator[Game]:
    made = Game(Router(read_scene(file)), write=True)
    yield made
    made.close()


def opened(browser: Browser, game: Game, **more: Any) -> Page:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, **more)
    page = context.new_page()
    page.wrong = []
    page.on("console", lambda said: page.wrong.append(said.text) if said.type in ("error", "warning") else None)
    page.on("pageerror", lambda error: page.wrong.append(str(error)))
    page.goto(game.server.address)
    assert page.url == f"http://127.0.0.1:{game.server.port}/"
    expect(page.locator("#link")).to_contain_text("watching")
    expect(page.locator("#tree .row").first).to_be_visible()
    expect(page.locator("#picture path").first).to_be_attached()
    return page


def click_at(page: Page, x: float, y: float) -> None:
    spot = page.evaluate(
        "([x, y]) => { const picture = document.getElementById('picture');"
        " const at = new DOMPoint(x, y).matrixTransform(picture.getScreenCTM()); return [at.x, at.y]; }",
        [x, y],
    )
    page.mouse.click(*spot)


def test_a_covered_button_is_found_and_uncovered(browser: Browser, game: Game, file: Path) -> None:
    clicked: list[Any] = []
    game.router.scene["desk/cast-off"].on("click", clicked.append)
    hand = Hand(game.router)
    page = opened(browser, game)
    game.wanted.append(lambda at: hand.click("desk/cast-off"))
    row = page.locator("#verdicts .row", has_text="the press landed on weather/fog, which is solid")
    expect(row).to_be_visible()
    row.click()
    expect(page.locator("#found .row")).to_have_text(
        [
            "hit weather/fog is hit and may have the input",
            "covered desk/cast-off is hit, but covered by weather/fog, which is solid",
        ]
    )
    expect(page.locator("#node-title")).to_have_text("weather/fog")
    assert "told: press weather/fog" in page.locator("#said").inner_text()
    page.get_by_label("solidity").select_option("glass")
    expect(page.locator("#changed")).to_have_text("1 changed")
    expect(page.locator("#found .row").nth(1)).to_have_text("hit desk/cast-off is hit and may have the input")
    assert file.read_text() == DESK
    page.locator("#keep").click()
    expect(page.locator("#said")).to_have_text("kept: weather/fog: solidity is 'glass'")
    changed = [line for line in difflib.ndiff(DESK.splitlines(), file.read_text().splitlines()) if line[0] in "+-"]
    assert changed == [
        "-   - {name: fog, solidity: solid, place: {left: 0, top: 400, right: 0, bottom: 0}}",
        "+   - {name: fog, solidity: glass, place: {left: 0, top: 400, right: 0, bottom: 0}}",
    ]
    game.wanted.append(lambda at: hand.click("desk/cast-off"))
    expect(page.locator("#verdicts .row", has_text="desk/cast-off mouse release")).to_be_visible()
    assert len(clicked) == 1
    assert page.wrong == []
    page.context.close()


def test_all_of_it_works_by_keyboard_alone(browser: Browser, game: Game) -> None:
    page = opened(browser, game, color_scheme="dark")
    page.locator("#search").focus()
    page.keyboard.type("fog")
    expect(page.locator("#tree .row")).to_have_text(["weather/fog"])
    page.keyboard.press("Tab")
    page.keyboard.press("ArrowDown")
    expect(page.locator("#node-title")).to_have_text("weather/fog")
    for place in ("check", "findings", "picture"):
        page.keyboard.press("Tab")
        assert page.evaluate("document.activeElement.id") == place
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    for _ in range(12):
        page.keyboard.press("Shift+ArrowDown")
    page.keyboard.press("Enter")
    expect(page.locator("#where")).to_have_text("2 at 150, 600, front to back, as it is now")
    page.locator("#found").focus()
    page.keyboard.press("End")
    expect(page.locator("#node-title")).to_have_text("desk/cast-off")
    field = page.get_by_label("order", exact=True)
    field.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("7")
    page.keyboard.press("Enter")
    expect(page.locator("#changed")).to_have_text("1 changed")
    assert game.router.scene["desk/cast-off"].order == 7
    page.keyboard.press("Control+a")
    page.keyboard.type("seven")
    page.keyboard.press("Enter")
    expect(page.locator("#said")).to_have_text("order: found seven; expected a number")
    page.locator("#tree").focus()
    page.keyboard.press("Control+z")
    expect(page.locator("#changed")).to_have_text("")
    assert game.router.scene["desk/cast-off"].order == 0
    page.keyboard.press("Control+y")
    expect(page.locator("#changed")).to_have_text("1 changed")
    back = page.evaluate("getComputedStyle(document.body).backgroundColor")
    assert back == "rgb(16, 24, 32)"
    assert page.wrong == []
    page.context.close()


def test_findings_are_shown_and_mended_with_one_press_each(browser: Browser, game: Game) -> None:
    page = opened(browser, game)
    page.locator("#check").click()
    rows = page.locator("#findings .row")
    expect(rows).to_have_count(2, timeout=30_000)
    expect(rows.first).to_contain_text(
        "unseen-cover weather/fog is solid, shows nothing, and lies over half of the window"
    )
    rows.first.click()
    expect(page.locator("#node-title")).to_have_text("weather/fog")
    expect(page.locator("#said")).to_contain_text("the press landed on weather/fog, which is solid")
    page.get_by_role("button", name="make weather/fog hollow").click()
    expect(rows).to_have_count(1, timeout=30_000)
    page.get_by_role("button", name="call desk/cast-off something").click()
    expect(page.locator("#findings")).to_have_text("no fault that an input shows", timeout=30_000)
    assert game.router.scene["desk/cast-off"].label == "cast off"
    assert game.router.scene["weather/fog"].solidity == "hollow"
    page.locator("#undo").click()
    expect(rows).to_have_count(1, timeout=30_000)  # it is checked again by itself
    assert page.wrong == []
    page.context.close()


NASTY = '<img src=x onerror="window.caught=1"><script>window.caught=1</script>'


def test_names_and_facts_are_text_never_markup(browser: Browser) -> None:
    scene = Scene((800, 600))
    desk = scene.layer("desk")
    node = desk.add(NASTY.replace("/", "\u2215"), role="button", label=NASTY, description=NASTY,
                    place=Place(0, 0, width=400, height=90),
                    facts={"text": NASTY, "colour": "red;}</style><script>window.caught=1</script>"},
                    tags=[NASTY])  # fmt: skip
    game = Game(Router(scene), write=True)
    page = opened(browser, game)
    click_at(page, 50, 50)
    expect(page.locator("#node-title")).to_have_text(node.path)
    game.wanted.append(lambda at: game.router.feed(PointerSample(game.router.now, "press", 10, 10)))
    expect(page.locator("#verdicts .row")).to_have_count(1)
    expect(page.locator("#picture text")).to_contain_text("<img")
    page.get_by_label("label", exact=True).fill("<b>bold</b>")
    page.keyboard.press("Enter")
    expect(page.locator("#changed")).to_have_text("1 changed")
    assert page.evaluate("window.caught") is None
    assert page.locator("img, #picture script, b").count() == 0
    assert page.wrong == []
    # What is no page of this server gets nothing, whatever runs there.
    other = page.context.new_page()
    other.goto("about:blank")
    said = other.evaluate(
        "(address) => new Promise((done) => { const one = new WebSocket(address); one.onopen = () => done('opened');"
        " one.onerror = () => done('refused'); })",
        f"ws://127.0.0.1:{game.server.port}/messages",
    )
    assert said == "refused"
    page.context.close()
    game.close()


def test_recording_filters_a_game_that_goes_and_one_that_only_reads(
    browser: Browser, file: Path, tmp_path: Path
) -> None:
    game = Game(Router(read_scene(file)))
    page = opened(browser, game)
    click_at(page, 150, 100)
    expect(page.locator("#found")).to_have_text("nothing of the UI lies there")
    click_at(page, 150, 600)
    expect(page.get_by_label("solidity")).to_be_disabled()
    expect(page.locator("#link")).to_have_text("watching, read only")
    hand = Hand(game.router)
    page.locator("#record").click()
    expect(page.locator("#record")).to_have_text("Stop (0)")
    for at in ((150, 600), (150, 100)):
        game.wanted.append(lambda now, at=at: hand.click(at))
    expect(page.locator("#record")).to_have_text("Stop (6)")
    with page.expect_download() as download:
        page.locator("#record").click()
    download.value.save_as(tmp_path / "live.jsonl")
    assert [sample.action for sample in read_recording(tmp_path / "live.jsonl").samples] == [
        "move",
        "press",
        "release",
    ] * 2
    rows = page.locator("#verdicts .row")
    expect(rows).to_have_count(6)
    page.locator("#world").uncheck()
    expect(rows).to_have_count(3)
    page.locator("#filter").fill("has held")
    expect(rows).to_have_count(1)
    page.locator("#world").check()
    expect(rows).to_have_count(2)
    game.close()
    expect(page.locator("#link")).to_contain_text("not connected")
    expect(page.locator("#again")).to_be_visible()
    page.context.close()
