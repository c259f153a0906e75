"""Working through recordings: what has changed between two games, and what was never met. Results are data.

A game is given as a callable that makes it for a recording: ``build(recording)`` returns a router, with handlers,
controls and the seats that the recording is of. To work in other processes it is to be one that can be pickled: a
function of a module, or a ``functools.partial`` of one.
"""

from __future__ import annotations

from glent.extras import needs

with needs("tools", "glent.review"):
    from glent.review.compare import Change, Comparison, Outcome, compare
    from glent.review.coverage import Click, Coverage, HandlerUse, Miss, NodeUse, cover
    from glent.review.coverage_report import coverage_tables, write_coverage
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
    "write_comparisons",
    "write_coverage",
]
