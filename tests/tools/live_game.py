"""A game in a thread of its own, with its live view on a page."""

from __future__ import annotations

import threading
import time
from typing import Any

from glent import Router, TickSample
from glent.live.server import serve


class Game:
    """A game in a thread of its own, at some frames a second, with the page of it."""

    def __init__(self, router: Router, **more: Any) -> None:
        self.router = router
        self.server = serve(router, **more)
        self.failed: list[BaseException] = []
        self.wanted: list[Any] = []
        self._on = True
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._thread.start()

    def _run(self) -> None:
        at = 0.0
        try:
            while self._on:
                while self.wanted:
                    self.wanted.pop(0)(at)
                at = max(at, self.router.now) + 0.005
                self.router.feed(TickSample(at))
                time.sleep(0.002)
        except BaseException as error:
            self.failed.append(error)

    def close(self) -> None:
        self._on = False
        self._thread.join()
        self.server.close()
        assert not self.failed
