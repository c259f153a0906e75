"""The table of what a file may say of each control, read from their constructors. As a program it writes the docs."""

from __future__ import annotations

import json
import re
from typing import Any, Literal, get_args, get_origin

from glent.controls.options import REQUIRED, Bounds, Option, Scalar, options_of
from glent.controls.registry import class_of, name_of, names
from glent.core.scene.node import Node
from law_index import ROOT

PAGE = ROOT / "docs/controls.md"
BEGIN, END = "<!-- options: python tests/oracles/option_table.py -->\n", "<!-- end of options -->\n"
LARGE = 1e6
HEAD = "| kind | option | what it can be | unless given |\n| --- | --- | --- | --- |\n"


def table() -> str:
    """The rows, a line for each option."""
    rows = []
    for kind in names():
        cls = class_of(kind)
        options = options_of(cls).values() if cls.__module__.startswith("glent.") else ()
        rows += [f"| `{kind}` | `{one.name}` | {all_of(one)} | {shown(one.default)} |" for one in options]
    return HEAD + "\n".join(rows) + "\n"


def said(one: Any) -> str:
    """A type in words."""
    inner = get_args(one)
    if get_origin(one) is Literal:
        return ", ".join(f"`{each}`" for each in inner)
    bounds = next((each for each in inner if isinstance(each, Bounds)), None)
    if bounds is not None:
        signs = {"above": "above", "least": "from", "below": "below", "most": "to"}
        numbers = {word: getattr(bounds, name) for name, word in signs.items()}
        words = [f"{word} {number:g}" for word, number in numbers.items() if number is not None and number < LARGE]
        return f"{said(inner[0])} {' '.join(words)}"
    if isinstance(one, type) and one is not type(None):
        plain = {float: "a number", int: "a whole number", str: "a text", bool: "true or false", Node: "a node's path"}
        return plain.get(one) or {"KeyLayout": "rows of keys"}.get(one.__name__) or f"the path of a `{name_of(one)}`"
    parts = [said(each) for each in inner if each not in (..., type(None))]
    if get_origin(one) is tuple:
        return f"a list of {len(inner)}: {parts[0]} each"
    kind = getattr(get_origin(one), "__name__", "")
    if kind in ("Sequence", "list"):
        return f"a list: {parts[0]} each"
    if kind in ("Mapping", "dict"):
        return f"by name: {parts[1]}"
    return "a text, a number, true or false" if len(parts) == len(get_args(Scalar)) else " or ".join(parts)


def all_of(option: Option) -> str:
    """All that an option can be; null goes without saying where it is that unless another is given."""
    null = type(None) in get_args(option.type) and option.default is not None
    return said(option.type) + (" or null" if null else "")


def shown(default: Any) -> str:
    """A default as it stands in a file."""
    if default is REQUIRED:
        return "must be given"
    text = json.dumps(list(default) if isinstance(default, tuple) else default)
    return "`" + re.sub(r"\.0\b", "", text) + "`"


def page() -> str:
    """The page with the table as it is now."""
    before, _, rest = PAGE.read_text(encoding="utf-8").partition(BEGIN)
    return before + BEGIN + table() + END + rest.partition(END)[2]


if __name__ == "__main__":
    PAGE.write_text(page(), encoding="utf-8")
