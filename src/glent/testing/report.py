"""What a failed test tells of its game: the last verdicts, the story of the last sample, and files to look into."""

from __future__ import annotations

import json
from collections import deque
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.core.input.samples import Sample, TickSample
from glent.diagnose import pass_map, standing
from glent.diagnose.story import considered_for
from glent.formats import Recording, write_recording
from glent.testing import running_test

if TYPE_CHECKING:
    from collections.abc import Iterator

    from glent.core.routing.observers import Observer
    from glent.core.routing.router import Router
    from glent.core.routing.verdict import Verdict
    from glent.core.scene.node import Node

__all__ = ["GameWatch", "report_on"]

LAST = 12
"""Verdicts that are told."""
CONSIDERED = 6


class GameWatch:
    """What happens to a game, from now on.

    :ivar router: its router. :ivar recording: what was fed. :ivar last: the last samples that were no idle moves, with
        their verdicts.
    """

    def __init__(self, router: Router) -> None:
        self.router = router
        self.recording = Recording(router.scene.window, seats=tuple(seat.name for seat in router.seats))
        self.last: deque[tuple[Sample, Verdict]] = deque(maxlen=LAST)
        self._watching: tuple[Observer, ...] = (self.recording.follow(router), router.watch(self._note))

    def _note(self, sample: Sample, verdict: Verdict) -> None:
        if verdict.events or not (isinstance(sample, TickSample) or getattr(sample, "action", "") == "move"):
            self.last.append((sample, verdict))

    def stop(self) -> None:
        """Watch no more."""
        for one in self._watching:
            one.stop()

    def sentences(self) -> Iterator[str]:
        """What is to be told, line by line."""
        yield f"{len(self.recording.samples)} samples were fed. The last verdicts:"
        for sample, verdict in self.last:
            what = getattr(sample, "action", None) or type(sample).__name__.removesuffix("Sample").lower()
            yield f"  {sample.time:.3f} s, {what}: {verdict.why}"
            for event in verdict.events[:LAST]:
                taken = f", taken by {event.taker.path}" if event.taker is not None else ""
                yield f"      {event.kind} at {event.node.path}{taken}"
        if not self.last:
            return
        sample = self.last[-1][0]
        considered = considered_for(self.router, sample)
        met = [one for one in considered if one.hit or (one.inside and one.node.parent is not None)][:CONSIDERED]
        if met:
            yield "What lies there now, where the last of them was:"
            yield from (f"  {one.sentence}" for one in met)
        things = standing(self.router)
        if things:
            yield "How things stand:"
            yield from (f"  {one}" for one in things)

    def save(self, folder: Path) -> list[Path]:
        """Write the recording, the state of the nodes, and the map of who gets a press, into a folder."""
        folder.mkdir(parents=True, exist_ok=True)
        recording, state, picture = (folder / name for name in ("recording.jsonl", "state.json", "map.png"))
        write_recording(self.recording, recording)
        state.write_text(json.dumps(_state(self.router), indent=1, ensure_ascii=False) + "\n")
        saved = [recording, state]
        try:
            from glent.figures import draw_map

            draw_map(pass_map(self.router.scene), picture, "Who gets a press, as the test ended")
            saved.append(picture)
        except ModuleNotFoundError:
            pass  # the picture needs an extra, and the rest does without
        return saved


def _state(router: Router) -> dict[str, Any]:
    return {
        "time": router.now,
        "window": list(router.scene.window),
        "standing": list(standing(router)),
        "nodes": [_node_row(node) for node in router.scene.walk()],
    }


def _node_row(node: Node) -> dict[str, Any]:
    return {
        "path": node.path,
        "role": node.role,
        "called": node.accessible_name,
        "visible": node.is_visible,
        "enabled": node.is_enabled,
        "solidity": node.effective_solidity,
        "look": node.look,
        "edges": list(node.edges),
        "scroll": list(node.scroll),
    }


def report_on(router: Router) -> None:
    """Let the report of the running test, if it fails, tell of this game too; of several, of the last one.

    The fixtures of the pytest plugin do it of theirs. Outside of such a test it does nothing.
    """
    there = running_test.game()
    if running_test.is_running() and (there is None or there.router is not router):
        running_test.note(GameWatch(router))
