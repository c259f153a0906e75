"""Working through recordings: what has changed between two games, and what was never met. Results are data.

A game is given as a callable that makes it for a recording: ``build(recording)`` returns a router, with handlers,
controls and the seats that the recording is of. To work in other processes it is to be one that can be pickled: a
function of a module, or a ``functools.partial`` of one.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from glent.extras import needs

if TYPE_CHECKING:
    from glent.review.comparison import Change, Comparison, Outcome, compare
    from glent.review.coverage import Click, Coverage, HandlerUse, Miss, NodeUse, cover
    from glent.review.coverage_report import coverage_tables, draw_coverage, write_coverage
    from glent.review.many import compare_all
    from glent.review.table import comparison_table, write_comparisons

__all__ = [
    "Change",
    "Click",
    "Comparison",
    "Coverage",
    "HandlerUse",
    "Miss",
    "NodeUse",
    "Outcome",
    "compare",
    "compare_all",
    "comparison_table",
    "cover",
    "coverage_tables",
    "draw_coverage",
    "write_comparisons",
    "write_coverage",
]

_HOMES = {
    "comparison": ("Change", "Comparison", "Outcome", "compare"),
    "coverage": ("Click", "Coverage", "HandlerUse", "Miss", "NodeUse", "cover"),
    "coverage_report": ("coverage_tables", "draw_coverage", "write_coverage"),
    "many": ("compare_all",),
    "table": ("comparison_table", "write_comparisons"),
}
"""What is imported once it is asked for: each command of the command line would pay for it otherwise."""


def __getattr__(name: str) -> Any:
    from importlib import import_module

    home = next((home for home, names in _HOMES.items() if name in names), None)
    if home is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    with needs("tools", "glent.review"):
        return getattr(import_module(f"{__name__}.{home}"), name)


def __dir__() -> list[str]:
    return sorted({*globals(), *__all__})
