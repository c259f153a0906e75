"""Draws the terminal pictures of the docs from what the commands print now: `make shots`.

The text of each is kept in `terminal_text/`; a test fails once a command prints something else.
"""

import shlex
import sys
from pathlib import Path

from click.testing import CliRunner

from glent.cli import main as glent

TEXTS = Path(__file__).parent / "terminal_text"
SHOTS = {
    "demo": ["glent demo"],
    "tree": ["glent tree bridge"],
    "why-and-map": ["glent why harbour 300 352", "glent map harbour"],
    "replay": ["glent replay bridge menu"],
    "contract": ["glent contract gallery"],
    "check-and-compare": [
        "glent check glent.demo.games:shuttered --code unseen-cover",
        "glent why glent.demo.games:shuttered --node hud/toolbar/horn",
        "glent compare harbour glent.demo.games:shuttered night-shift",
    ],
}
WIDTH, HEIGHT, LINES = 1280, 800, 40
PAPER, INK, PROMPT = "#10161d", "#d7dee6", "#8fd0a8"


def printed(name: str) -> str:
    """What a terminal shows after the commands of a picture, as far as it has lines."""
    lines: list[str] = []
    for command in SHOTS[name]:
        _, *words = shlex.split(command)
        shown = CliRunner().invoke(glent, words).stdout.rstrip().splitlines()
        lines += [f"$ {command}", *(line.rstrip() for line in shown), ""]
    return "\n".join(lines[:LINES]).rstrip() + "\n"


def draw(text: str, file: Path) -> None:
    """A picture of a text in a terminal."""
    from matplotlib.backends.backend_agg import FigureCanvasAgg
    from matplotlib.figure import Figure

    figure = Figure(figsize=(WIDTH / 100, HEIGHT / 100), dpi=100, facecolor=PAPER)
    FigureCanvasAgg(figure)
    step = (HEIGHT - 24) / LINES
    for number, line in enumerate(text.splitlines()):
        colour = PROMPT if line.startswith("$ ") else INK
        y = 1 - (12 + number * step) / HEIGHT
        style = {"family": "DejaVu Sans Mono", "fontsize": 11.3, "va": "top", "parse_math": False}
        figure.text(18 / WIDTH, y, line, color=colour, **style)
    figure.savefig(file)


def main(folder: Path) -> None:
    for name in SHOTS:
        text = printed(name)
        (TEXTS / f"{name}.txt").write_text(text, encoding="utf-8")
        draw(text, folder / f"{name}.png")


if __name__ == "__main__":
    if len(sys.argv) != 2:
        sys.exit("usage: python examples/terminal_shots.py FOLDER, where the pictures go")
    main(Path(sys.argv[1]))
