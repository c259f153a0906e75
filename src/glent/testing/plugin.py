"""The pytest plugin: a game and users to play it, and a report of what happened in it when a test fails.

A test names its game by a marker, a project by the ini option ``glent_scene``::

    @pytest.mark.glent("scenes/desk.yaml")
    def test_the_horn(hand): ...

or it has a fixture ``scene`` of its own, which returns a :class:`Scene`, or ``router``.
"""

from __future__ import annotations

import logging
import re
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Any

import pytest

from glent.testing import running_test

if TYPE_CHECKING:
    from glent.core.routing.router import Router
    from glent.core.scene.scene import Scene
    from glent.testing.careful import CarefulHand, CarefulWand

__all__: list[str] = []

GAME = pytest.StashKey[Any]()


def pytest_addoption(parser: pytest.Parser) -> None:
    """Add the options."""
    group = parser.getgroup("glent")
    group.addoption("--glent-out", metavar="DIR", help="Where failed tests leave recordings, states and maps of games.")
    group.addoption("--glent-update", action="store_true", help="Write the event logs that assert_same_events reads.")
    parser.addini("glent_scene", "The scene file, or module:callable, of tests without a marker.")


def pytest_configure(config: pytest.Config) -> None:
    """Say what the marker is for."""
    config.addinivalue_line("markers", "glent(scene): the scene file, or module:callable, that the test plays")


@pytest.fixture
def scene(request: pytest.FixtureRequest) -> Scene:
    """The scene that the test's marker, or the ini option, names."""
    from glent.review.game import game_named

    marker = request.node.get_closest_marker("glent")
    name = marker.args[0] if marker is not None and marker.args else request.config.getini("glent_scene")
    if not name:
        pytest.fail('this test has no scene: give it @pytest.mark.glent("desk.yaml"), set the ini option glent_scene,'
                    " or write a fixture `scene`", pytrace=False)  # fmt: skip
    folder = Path(request.path).parent if marker is not None else request.config.rootpath
    game = game_named(name, folder)
    request.node.stash[GAME] = game  # a scene does not keep its router
    return game.scene


@pytest.fixture
def router(request: pytest.FixtureRequest, scene: Scene) -> Iterator[Router]:
    """The router of the scene, with its declared controls and wires. A handler that raises fails the test."""
    from glent.core.routing.router import Router
    from glent.testing.report import report_on
    from glent.wiring import Rehearsal

    game = scene.router if isinstance(scene.router, Router) else Router(scene)
    if GAME not in request.node.stash:  # the fixture above has made it whole
        Rehearsal(game)
    report_on(game)
    with _Errors() as raised:
        yield game
    if raised:
        pytest.fail("\n".join(["handlers raised while the game was played:", *raised]), pytrace=False)


@pytest.fixture
def hand(router: Router) -> CarefulHand:
    """A mouse in the hand of a user, who clicks only what a player could reach."""
    from glent.testing.careful import CarefulHand

    return CarefulHand(router)


@pytest.fixture
def wand(router: Router) -> CarefulWand:
    """A ray in the hand of a user, who clicks only what it comes to."""
    from glent.testing.careful import CarefulWand

    return CarefulWand(router)


@pytest.fixture
def assert_same_events(request: pytest.FixtureRequest, router: Router) -> Callable[..., None]:
    """Call it with a recording: it comes out as the event log beside it says. ``--glent-update`` writes that."""
    from glent.testing.same_events import check_same_events, write_events

    act = write_events if request.config.getoption("--glent-update") else check_same_events

    def check(recording: str | Path, log: str | Path | None = None) -> None:
        __tracebackhide__ = True
        act(router, recording, log)

    return check


class _Errors(logging.Handler):
    """The errors of handlers that are logged meanwhile, as sentences."""

    def __init__(self) -> None:
        super().__init__(logging.ERROR)
        self.raised: list[str] = []

    def emit(self, record: logging.LogRecord) -> None:
        self.raised.append(record.getMessage())

    def __enter__(self) -> list[str]:
        logging.getLogger("glent.routing").addHandler(self)
        return self.raised

    def __exit__(self, *_: object) -> None:
        logging.getLogger("glent.routing").removeHandler(self)


@pytest.hookimpl(wrapper=True)
def pytest_runtest_protocol(item: pytest.Item) -> Iterator[None]:
    """Note the games of each test."""
    running_test.begin()
    try:
        return (yield)
    finally:
        running_test.end()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Iterator[None]:
    """Add what happened in the game to the report of a test that failed."""
    report: Any = yield
    game = running_test.game()
    if game is not None and report.failed and report.when in ("call", "teardown"):
        folder = _folder_for(item)
        lines = [*game.sentences(), f"saved in {folder}: {', '.join(path.name for path in game.save(folder))}"]
        report.sections.append(("Glent", "\n".join(lines)))
    return report  # type: ignore[no-any-return]


def _folder_for(item: pytest.Item) -> Path:
    """Where a failed test leaves its files: beside what pytest keeps of its last run."""
    name = re.sub(r"[^\w.-]+", "-", item.nodeid)[-150:].strip("-")
    given = item.config.getoption("--glent-out")
    if given:
        return Path(given) / name
    return item.config.rootpath / ".pytest_cache" / "d" / "glent" / name
