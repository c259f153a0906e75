"""How large, how deep and how full a file may be."""

from __future__ import annotations

__all__ = ["MAX_BYTES", "MAX_DEPTH", "MAX_DIGITS", "MAX_PROBLEMS", "MAX_VALUES"]

MAX_BYTES = 8 * 1024 * 1024
"""The largest scene file, in bytes: some 50,000 nodes."""

MAX_DEPTH = 240
"""The deepest nesting of lists and mappings: every node is two levels, so trees of about 100 nodes."""

MAX_VALUES = 1_000_000
"""The most values in a file, counting what YAML aliases repeat each time."""

MAX_DIGITS = 40
"""The most digits of a whole number."""

MAX_PROBLEMS = 50
"""The most problems of one file that are told."""
