"""Coverage as tables, and as a page in one file that needs no network."""

from __future__ import annotations

import base64
from dataclasses import asdict
from html import escape
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Any

from glent.core.routing.reasons import LAW_NAMES, LAWS
from glent.diagnose import pass_map
from glent.extras import needs
from glent.formats import text

if TYPE_CHECKING:
    import pandas

    from glent.core.scene.scene import Scene
    from glent.review.coverage import Coverage

__all__ = ["coverage_tables", "draw_coverage", "write_coverage"]

HEAD = """<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{title}</title><style>{style}</style></head>
<body>"""
STYLE = """
:root { color-scheme: light dark; --ink: #1b2430; --paper: #fff; --line: #c9d2d9; --pale: #eef3ec; }
@media (prefers-color-scheme: dark) { :root { --ink: #e8edf0; --paper: #161c23; --line: #3a4550; --pale: #222b34; } }
body { font: 16px/1.5 system-ui, sans-serif; color: var(--ink); background: var(--paper); margin: 2rem auto;
       max-width: 76rem; padding: 0 1.5rem; }
h1 { font-size: 1.7rem; } h2 { font-size: 1.25rem; margin-top: 2.2rem; }
img { max-width: 100%; border: 1px solid var(--line); background: #fff; }
.wide { overflow-x: auto; }
table { border-collapse: collapse; font-size: 0.93rem; }
th, td { text-align: left; padding: 0.25rem 0.9rem 0.25rem 0; vertical-align: top; }
th, td { border-bottom: 1px solid var(--line); }
td { overflow-wrap: anywhere; }
ul.facts { list-style: none; padding: 0; display: flex; flex-wrap: wrap; gap: 0.8rem; }
ul.facts li { background: var(--pale); padding: 0.6rem 1rem; border-radius: 0.4rem; }
ul.facts b { display: block; font-size: 1.4rem; }
"""


def coverage_tables(found: Coverage) -> dict[str, pandas.DataFrame]:
    """The coverage as pandas tables: ``nodes``, ``handlers``, ``misses``, ``targets`` (time to click), ``reasons``.

    :raises MissingExtraError: pandas is not installed.
    """
    with needs("tables", "a table of coverage"):
        import pandas
    nodes = pandas.DataFrame(
        [asdict(one) | {"reached": one.reached} for one in found.nodes.values()],
        columns=["path", "role", "reached", "hovers", "presses", "clicks", "acts", "seen"],
    )
    handlers = pandas.DataFrame(
        [asdict(one) for one in found.handlers], columns=["path", "kind", "phase", "name", "runs"]
    )
    misses = pandas.DataFrame(
        [asdict(one) | {"near": one.near} for one in found.misses],
        columns=["recording", "time", "kind", "x", "y", "to", "nearest", "away", "near"],
    )
    clicks = pandas.DataFrame(
        [asdict(one) for one in found.clicks], columns=["path", "hover", "travel", "distance", "width", "bits"]
    )
    targets = clicks.groupby("path", as_index=False).agg(
        clicks=("travel", "size"),
        hover=("hover", "median"),
        travel=("travel", "median"),
        distance=("distance", "median"),
        width=("width", "median"),
        bits=("bits", "median"),
    )
    reasons = pandas.DataFrame(
        [{"law": law, "reason": reason.name.lower(), "times": found.reasons[reason]} for reason, law in LAWS.items()]
    )
    return {"nodes": nodes, "handlers": handlers, "misses": misses, "targets": targets, "reasons": reasons}


def write_coverage(found: Coverage, scene: Scene, path: str | Path, title: str) -> None:
    """Write the coverage as an HTML page in one file, with its picture inside.

    :param scene: the game as it begins, of which the map is drawn under the presses. :param title: what it is of.
    :raises FileError: the file cannot be written. :raises MissingExtraError: pandas is not installed.
    """
    tables = coverage_tables(found)
    fitts = found.fitts()
    near = found.near_misses()
    nodes, handlers = tables["nodes"], tables["handlers"]
    facts = [
        (f"{found.share:.0%}", f"of {len(found.nodes)} nodes were reached"),
        (f"{len(found.handlers) - len(found.unrun())} of {len(found.handlers)}", "handlers ran"),
        (f"{len(found.presses):,}", f"presses, {len(found.misses):,} of which came to nothing one can press"),
        (f"{len(near):,}", "missed a target by little"),
        (f"{found.samples:,}", f"samples of {found.recordings} recording{'s' * (found.recordings != 1)}"),
    ]
    if fitts is not None:
        facts.append(
            (
                f"{max(0.0, fitts[1]) * 1000.0:.0f} ms",
                f"for each bit of distance over width, and {fitts[0] * 1000.0:.0f} ms for any click",
            )
        )
    unmet = [f"{LAW_NAMES[law]} ({law})" for law in found.unmet()]
    parts = [
        f"<h1>{escape(title)}</h1>",
        '<ul class="facts">'
        + "".join(f"<li><b>{escape(big)}</b>{escape(small)}</li>" for big, small in facts)
        + "</ul>",
        _picture(found, scene, title),
        _section("Never reached", nodes[~nodes["reached"].astype(bool)][["path", "role", "hovers", "seen"]]),
        _section("Handlers that never ran", handlers[handlers["runs"] == 0][["path", "kind", "phase", "name"]]),
        _words("Kinds that something listens for, and that never came", found.unsent()),
        _words("Laws of which no reason was given", unmet),
        _section("Presses that missed a target by little", tables["misses"][tables["misses"]["near"].astype(bool)]),
        _section("Time to click, medians", tables["targets"].sort_values("travel", ascending=False)),
        _section("All nodes", nodes),
        _words("Recordings that could not be fed", [f"{name}: {why}" for name, why in found.failed.items()]),
    ]
    page = "\n".join([HEAD.format(title=escape(title), style=STYLE), *parts, "</body></html>", ""])
    text.write_whole(Path(path), page)


def draw_coverage(found: Coverage, scene: Scene, path: str | Path, title: str) -> None:
    """Draw where presses were, over the map of a game as it begins; PNG or SVG by suffix."""
    from glent.figures import draw_heat  # it takes its time, and comparing needs none

    scene.window = found.window
    near = [(one.x, one.y) for one in found.near_misses()]
    draw_heat(pass_map(scene), found.presses, path, title, near)


def _picture(found: Coverage, scene: Scene, title: str) -> str:
    with TemporaryDirectory() as folder:
        file = Path(folder) / "heat.png"
        draw_coverage(found, scene, file, "Where presses were, over the scene as it begins")
        data = base64.b64encode(file.read_bytes()).decode("ascii")
    return f'<img alt="{escape(title)}: where presses were" src="data:image/png;base64,{data}">'


def _section(title: str, table: Any) -> str:
    if not len(table):
        return f"<h2>{escape(title)}</h2><p>None.</p>"
    shown = table.replace({True: "yes", False: "no"}).to_html(
        index=False, border=0, float_format=lambda value: f"{value:.3g}", na_rep=""
    )
    return f'<h2>{escape(title)} ({len(table)})</h2><div class="wide">{shown}</div>'


def _words(title: str, words: list[str]) -> str:
    if not words:
        return ""
    return f"<h2>{escape(title)}</h2><p>{escape(', '.join(words))}</p>"
