"""What a game pays for being watched by the live view: nothing while nobody does; a few idle moves a sample while
somebody does; and a frame as long as before, whether the page reads or not."""

from __future__ import annotations

import json
import statistics
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from typing import Any

import scenes
from cost_tools import ratio
from glent import PointerSample, Router, TickSample
from glent.live.messages import VERSION
from glent.live.server import LiveServer, serve
from glent.live.watched import Watched

MOVES = 2_000
FRAMES, EACH, STEP = 240, 33, 1.0 / 60.0
"""Frames of a run, and samples in each: 2,000 a second."""


class _Nobody:
    def tell(self, messages: list[dict[str, Any]]) -> None:
        pass


def idle_moves(router: Router) -> Callable[[], None]:
    """Moves of which none changes anything."""
    place = {"at": 1.0}

    def moves() -> None:
        for number in range(MOVES):
            place["at"] += 0.0005
            router.feed(PointerSample(place["at"], "move", 5.0 + number % 3 * 0.01, 5.0))

    return moves


def a_watched_move(watched: bool) -> float:
    """An idle move of a game with a live view, against one of a game without one."""
    plain, other = Router(scenes.harbour(10_000)), Router(scenes.harbour(10_000))
    view = Watched(other)
    if watched:
        view.begin(_Nobody())
    return ratio(idle_moves(other), MOVES, idle_moves(plain), MOVES)


def a_traced_move() -> float:
    """An idle move of a router that keeps the last thousand decisions, against one of a router that keeps none."""
    plain, other = Router(scenes.harbour(10_000)), Router(scenes.harbour(10_000), trace=1_000)
    return ratio(idle_moves(other), MOVES, idle_moves(plain), MOVES)


@contextmanager
def a_page(server: LiveServer, reads: bool) -> Iterator[None]:
    """A page in a process of its own, which asks for the picture and the tree again and again."""
    page = subprocess.Popen(
        [sys.executable, __file__, server.address, "reads" if reads else "reads nothing"], stdout=subprocess.PIPE
    )
    assert page.stdout is not None
    page.stdout.readline()
    yield
    page.kill()
    page.wait()
    page.stdout.close()


def be_a_page(address: str, reads: bool) -> None:
    """Connect, and ask for the picture and the tree four times a second."""
    import http.client

    from websockets.sync.client import connect

    host, _, token = address.removeprefix("http://").partition("/")
    link = http.client.HTTPConnection(host)
    link.request("GET", f"/{token}")
    cookie = link.getresponse().headers["Set-Cookie"].partition(";")[0]
    headers = {"Cookie": cookie}
    with connect(
        f"ws://{host}/messages", origin=f"http://{host}", additional_headers=headers, compression=None
    ) as page:
        page.send(json.dumps({"ask": "hello", "version": VERSION, "id": 0}))
        print("connected", flush=True)
        due, number = time.monotonic(), 1
        while True:
            if time.monotonic() > due:
                due += 0.25
                for what in ("picture", "tree"):
                    page.send(json.dumps({"ask": what, "id": number}))
                    number += 1
            if reads:
                with suppress(TimeoutError):
                    page.recv(timeout=0.02)
            else:
                time.sleep(0.02)


def frames(router: Router) -> list[float]:
    """What each frame costs of a game at 60 a second in a storm of samples: half of them press and release."""
    now, costs = max(1.0, router.now), []
    due = time.perf_counter()
    for _ in range(FRAMES):
        began = time.perf_counter()
        for number in range(EACH):
            now += STEP / EACH
            action = ("move", "press", "move", "release")[number % 4]
            router.feed(PointerSample(now, action, 40.0 + number * 7.0, 60.0))
        router.feed(TickSample(now))
        costs.append(time.perf_counter() - began)
        due += STEP
        time.sleep(max(0.0, due - time.perf_counter()))
    return costs


def watched_frames(reads: bool, part: int) -> float:
    """The median (50) or the 99th percentile of a frame's cost, watched by a page, against the same unwatched."""
    shares = []
    for _ in range(5):
        router = Router(scenes.harbour(1_000))
        alone = statistics.quantiles(frames(router), n=100)[part - 1]
        with serve(router) as server, a_page(server, reads):
            time.sleep(0.3)
            shares.append(statistics.quantiles(frames(router), n=100)[part - 1] / alone)
    return statistics.median(shares)


STORM = "a frame in a storm of 2,000 samples a second"
ROWS: list[tuple[str, Callable[[], float], str, float, float]] = [
    ("an idle move with a live view that nobody looks at", lambda: a_watched_move(False), "idle moves", 1.1, 1.0),
    ("the same while a page looks", lambda: a_watched_move(True), "idle moves", 5, 3),
    ("an idle move of which a trace is kept", a_traced_move, "idle moves", 1.5, 1.1),
    (f"{STORM}, watched: median", lambda: watched_frames(True, 50), "unwatched", 2.5, 1.5),
    (f"{STORM}, watched: 99th percentile", lambda: watched_frames(True, 99), "unwatched", 3, 1.5),
    ("the same by a page that does not read: median", lambda: watched_frames(False, 50), "unwatched", 2.5, 1.5),
    ("the same by a page that does not read: 99th percentile", lambda: watched_frames(False, 99), "unwatched", 3, 1.5),
]

if __name__ == "__main__":
    be_a_page(sys.argv[1], sys.argv[2] == "reads")
