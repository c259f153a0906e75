"""A short replay as a strip: for each pointer its presses, who won them, and the events that were routed."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from glent.core.input.samples import PointerSample
from glent.diagnose import spans_of
from glent.figures.gesture_bars import draw_pointers
from glent.figures.palette import INK, PAPER, new_figure, save
from glent.formats import Step

__all__ = ["draw_strip"]

QUIET = {"enter", "leave", "move"}
LEVELS = 5
"""In how many lines below a bar the names of events may stand, so that they do not run into each other."""

LETTER = 7.0


def draw_strip(steps: Sequence[Step], path: str | Path) -> None:
    """Draw a replay of a few seconds as a strip of 1000 pixels; the format is by suffix.

    :raises ValueError: there are no steps.
    """
    if not steps:
        raise ValueError("a strip of no samples cannot be drawn")
    spans = spans_of(steps)
    named = [step.sample.pointer for step in steps if isinstance(step.sample, PointerSample)]
    runs = _runs(steps)
    pointers = list(dict.fromkeys([*named, *runs]))
    height = 0.6 + 1.45 * len(pointers)
    left = 0.03 + 0.0085 * max(map(len, pointers))
    figure, axes = new_figure(left, 10.0, height, top=0.98, bottom=0.5 / height)
    start, end = steps[0].sample.time, steps[-1].sample.time
    margin = max(0.02, (end - start) * 0.02)
    axes.set_xlim(start - margin, end + margin * 6)
    draw_pointers(axes, spans, pointers, thick=0.4)
    pixels = axes.get_window_extent().width / (end - start + 7 * margin)
    for row, pointer in enumerate(pointers):
        taken = [start - margin] * LEVELS
        for time, text in runs.get(pointer, []):
            level = min(range(LEVELS), key=lambda one: (taken[one] > time, taken[one] if taken[one] > time else one))
            at = max(time, taken[level])
            taken[level] = at + (len(text) + 1.5) * LETTER / pixels
            y = row + 0.3 + level * 0.125
            axes.plot([time, time], [row + 0.22, y + 0.09], color="#b6c0c9", linewidth=0.8, zorder=1)
            axes.text(at + 2 / pixels, y, text, fontsize=9, color=INK, va="top", ha="left")
        marks = [
            (step.sample.time, step.action)
            for step in steps
            if isinstance(step.sample, PointerSample) and step.sample.pointer == pointer
        ]
        for action, marker in (("move", "."), ("press", "v"), ("release", "^")):
            times = [time for time, done in marks if done == action]
            axes.plot(
                times,
                [row - 0.31] * len(times),
                linestyle="none",
                marker=marker,
                markersize=3 if action == "move" else 6,
                color=INK,
                markerfacecolor=PAPER if action == "release" else INK,
            )
    axes.set_ylim(len(pointers) - 0.06, -0.5)
    axes.tick_params(axis="x", labelbottom=True, labelsize=9)
    axes.set_xlabel("seconds", fontsize=9)
    save(figure, str(path))


def _runs(steps: Sequence[Step]) -> dict[str, list[tuple[float, str]]]:
    """By pointer, the events that were routed, with when; the same several times in a row is one, with how often."""
    found: dict[str, list[tuple[float, str, int]]] = {}
    for step in steps:
        for verdict in (step.verdict, *step.verdict.inner):
            for event in verdict.events:
                if event.kind in QUIET or not event.pointer:  # focus and back are of no pointer
                    continue
                words = event.kind
                for key in ("outcome", "phase", "direction", "by"):
                    words = f"{words} ({event.data[key]})" if key in event.data else words
                told = found.setdefault(event.pointer, [])
                if told and told[-1][1] == words:
                    told[-1] = (told[-1][0], words, told[-1][2] + 1)
                else:
                    told.append((event.time, words, 1))
    return {
        name: [(time, words if count == 1 else f"{words} ×{count}") for time, words, count in told]
        for name, told in found.items()
    }
