"""A recording as a picture: what each pointer did and which gesture won it, and who got each sample, over time."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from glent.core.input.samples import ActSample
from glent.diagnose import Zone, spans_of
from glent.figures.gesture_bars import draw_pointers
from glent.figures.palette import INK, PAPER, ZONE_COLOURS, new_figure, save
from glent.formats import Step

__all__ = ["draw_timeline"]

MAX_ROWS = 24
OTHERS = "(other nodes)"
WORLD, NOBODY = "the world", "nobody"

_MARKS = {  # action: marker, size, filled
    "move": (".", 3.0, True),
    "press": ("v", 8.0, True),
    "release": ("^", 8.0, False),
    "cancel": ("x", 8.0, True),
    "wheel": ("D", 6.0, False),
    "key": ("s", 6.0, False),
    "pad": ("o", 6.5, False),
    "text": ("P", 6.5, False),
    "compose": ("p", 6.5, False),
    "window": ("|", 14.0, True),
    "act": ("h", 7.5, False),
    "tick": (".", 1.5, True),
}


def _action(step: Step) -> str:
    """The kind of mark of a step."""
    return "act" if isinstance(step.sample, ActSample) else step.action.partition(" ")[0]


def _holder(step: Step) -> str:
    verdict = step.verdict
    if verdict.world:
        return WORLD
    return verdict.owner.path if verdict.owner is not None else NOBODY


def draw_timeline(steps: Sequence[Step], path: str | Path, title: str = "") -> None:
    """Draw a replay; the format is by suffix.

    Above, a row for each pointer, with a bar for each press: pale until it is decided, then in the colour of the
    gesture that won the contest, with its node. Below, a row for whoever got samples, and a mark for each.

    :raises ValueError: there are no steps.
    """
    if not steps:
        raise ValueError("a timeline of no samples cannot be drawn")
    rows = _rows(steps)
    spans = spans_of(steps)
    pointers = list(dict.fromkeys(span.pointer for span in spans))
    left = min(0.3, 0.03 + 0.0058 * max(map(len, [*rows, *pointers])))
    above = min(0.4, 0.05 + 0.07 * len(pointers)) if pointers else 0.0
    figure, axes = new_figure(left, top=0.93 - above)
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
    for action, (marker, size, filled) in _MARKS.items():
        chosen = [step for step in steps if _action(step) == action]
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
    lifts = [step.sample.time for step in steps if step.verdict.lifts]
    if lifts:
        axes.plot(
            lifts,
            [rows.index(WORLD) + 0.3] * len(lifts),
            linestyle="none",
            marker="X",
            markersize=8,
            color="#a83f63",
            label="lift",
            zorder=4,
        )
    axes.set_yticks(range(len(rows)), rows, fontsize=10)
    axes.set_ylim(len(rows) - 0.5, -0.5)
    margin = max(0.05, (end - start) * 0.01)
    axes.set_xlim(start - margin, end + margin)
    axes.set_xlabel("seconds", fontsize=11)
    figure.text(0.01, 0.965, title or "Who got each sample", color=INK, fontsize=15)
    axes.tick_params(axis="x", labelsize=10)
    axes.tick_params(axis="y", length=0)
    for side in ("top", "right", "left"):
        axes.spines[side].set_visible(False)
    if pointers:
        over = figure.add_axes((left, 0.965 - above, 0.98 - left, above - 0.035), sharex=axes)
        draw_pointers(over, spans, pointers)
    entries = sum(len(one.get_legend_handles_labels()[0]) for one in figure.axes)
    columns = entries if entries <= 11 else (entries + 1) // 2
    figure.legend(loc="lower center", ncols=columns, fontsize=10, frameon=False, columnspacing=1.4)
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
    if len(names) > MAX_ROWS:
        kept = set(sorted(names, key=lambda name: -counts[name])[:MAX_ROWS])
        names = [name for name in names if name in kept]
        rest = [OTHERS]
    return [WORLD, *names, *rest, NOBODY]


def _row(step: Step, rows: list[str]) -> str:
    name = _holder(step)
    return name if name in rows else OTHERS
