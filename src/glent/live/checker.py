"""Checking a running scene aside from its game: in a process of its own, on what the scene declares."""

from __future__ import annotations

import json
import logging
import subprocess
import sys
import tempfile
import threading
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.core.errors import GlentError

if TYPE_CHECKING:
    from collections.abc import Callable

__all__ = ["Checker"]

LONGEST = 120.0
"""Seconds that a check may take."""
FOUND = (0, 1)
"""The exit codes of a check that came to its end."""

_log = logging.getLogger("glent.live")


class Checker:
    """Runs one check at a time."""

    __slots__ = ("_is_busy",)

    def __init__(self) -> None:
        self._is_busy = False

    def start(self, document: str, done: Callable[[list[dict[str, Any]] | None], object]) -> None:
        """Begin a check of a scene.

        :param document: the scene, as the text of a JSON file. :param done: called from another thread with what was
            found; None: the check failed, as the log says.
        :raises GlentError: one is under way.
        """
        if self._is_busy:
            raise GlentError("a check is under way already; wait for what it finds")
        self._is_busy = True
        threading.Thread(target=self._run, args=(document, done), name="glent-check", daemon=True).start()

    def _run(self, document: str, done: Callable[[list[dict[str, Any]] | None], object]) -> None:
        found: list[dict[str, Any]] | None = None
        try:
            with tempfile.TemporaryDirectory() as folder:
                file = Path(folder) / "scene.json"
                file.write_text(document, encoding="utf-8")
                command = [sys.executable, "-m", "glent", "check", str(file), "--json"]
                ran = subprocess.run(command, capture_output=True, text=True, timeout=LONGEST, stdin=subprocess.DEVNULL)
            if ran.returncode in FOUND:
                found = json.loads(ran.stdout)
            else:
                _log.error("a check of the live view failed: %s", ran.stderr)
        except (OSError, ValueError, subprocess.SubprocessError):
            _log.exception("a check of the live view failed")
        finally:
            self._is_busy = False
            done(found)
