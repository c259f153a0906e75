"""A recording as a picture: who got each sample, over time."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from glent.core.input.samples import PointerSample
from glent.diagnose import Zone
from glent.figures.palette import INK, PAPER, ZONE_COLOURS, new_figure, save
from glent.formats import Step

__all__ = ["draw_timeline"]

MOST_ROWS = 24
OTHERS = "(other nodes)"
WORLD, NOBODY = "the world", "nobody"

_MARKS = {  # action: marker, size, filled
    "move": (".", 3.0, True),
    "press": ("v", 8.0, True),
    "release": ("^", 8.0, False),
    "cancel": ("x", 8.0, True),
    "wheel": ("D", 6.0, False),
    "window": ("|", 14.0, True),
}


def _holder(step: Step) -> str:
    verdict = step.verdict
    if verdict.world:
        return WORLD
    return verdict.owner.path if verdict.owner is not None else NOBODY


def draw_timeline(steps: Sequence[Step], path: str | Path, title: str = "") -> None:
    """Draw a replay: a row for whoever got samples, a mark a sample, a bar a press; the format is by suffix.

    :raises ValueError: there are no steps.
    """
    if not steps:
        raise ValueError("a timeline of no samples cannot be drawn")
    rows = _rows(steps)
    figure, axes = new_figure(min(0.3, 0.03 + 0.0058 * max(map(len, rows))))
    times = [step.sample.time for step in steps]
    start, end = times[0], times[-1]
    for index, name in enumerate(rows):
        colour = (
            ZONE_COLOURS[Zone.WORLD]
            if name == WORLD
            else "#f3e6da"
            if name == NOBODY
            else PAPER
            if index % 2
            else "#f4f6f8"
        )
        axes.axhspan(index - 0.5, index + 0.5, color=colour, linewidth=0)
    _bars(axes, steps, rows)
    for action, (marker, size, filled) in _MARKS.items():
        chosen = [step for step in steps if step.action == action]
        if chosen:
            axes.plot(
                [step.sample.time for step in chosen],
                [rows.index(_row(step, rows)) for step in chosen],
                linestyle="none",
                marker=marker,
                markersize=size,
                color=INK,
                markerfacecolor=INK if filled else PAPER,
                label=action,
                zorder=3,
            )
    clicks = [
        (step.sample.time, rows.index(_row(step, rows)) - 0.3)
        for step in steps
        for event in step.verdict.events
        if event.kind == "click"
    ]
    if clicks:
        axes.plot(
            *zip(*clicks, strict=True),
            linestyle="none",
            marker="*",
            markersize=10,
            color="#c2571a",
            label="click",
            zorder=4,
        )
    axes.set_yticks(range(len(rows)), rows, fontsize=10)
    axes.set_ylim(len(rows) - 0.5, -0.5)
    margin = max(0.05, (end - start) * 0.01)
    axes.set_xlim(start - margin, end + margin)
    axes.set_xlabel("seconds", fontsize=11)
    axes.set_title(title or "Who got each sample", loc="left", color=INK, fontsize=15)
    axes.tick_params(axis="x", labelsize=10)
    axes.tick_params(axis="y", length=0)
    for side in ("top", "right", "left"):
        axes.spines[side].set_visible(False)
    figure.legend(loc="lower center", ncols=7, fontsize=11, frameon=False)
    save(figure, str(path))


def _rows(steps: Sequence[Step]) -> list[str]:
    """The world, then nodes as they first come up (or the busiest, if there are too many), then nobody."""
    counts: dict[str, int] = {}
    for step in steps:
        name = _holder(step)
        # Passing over a node matters least: a press or a wheel keeps it in, however many it only sees pass.
        counts[name] = counts.get(name, 0) + (1 if step.action == "move" else 1000)
    names = [name for name in counts if name not in (WORLD, NOBODY)]
    rest: list[str] = []
    if len(names) > MOST_ROWS:
        kept = set(sorted(names, key=lambda name: -counts[name])[:MOST_ROWS])
        names = [name for name in names if name in kept]
        rest = [OTHERS]
    return [WORLD, *names, *rest, NOBODY]


def _row(step: Step, rows: list[str]) -> str:
    name = _holder(step)
    return name if name in rows else OTHERS


def _bars(axes: Any, steps: Sequence[Step], rows: list[str]) -> None:
    """From each press to the release that ends it, in the row of whoever had it."""
    open_: dict[str, tuple[float, int]] = {}
    spans: list[tuple[float, float, int]] = []
    for step in steps:
        sample = step.sample
        if not isinstance(sample, PointerSample):
            continue
        if sample.action == "press" and sample.pointer not in open_:
            open_[sample.pointer] = (sample.time, rows.index(_row(step, rows)))
        elif sample.action in ("release", "cancel") and not sample.buttons and sample.pointer in open_:
            began, row = open_.pop(sample.pointer)
            spans.append((began, sample.time, row))
    for began, ended, row in spans:
        axes.barh(row, max(ended - began, 0.02), left=began, height=0.5, color=ZONE_COLOURS[Zone.GLASS], zorder=2)
