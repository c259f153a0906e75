"""Runs the examples of docs/gestures.md and draws the timeline of each: `make shots`."""

import re
import sys
from pathlib import Path

import glent
from glent.figures import draw_strip
from glent.formats import Step

PAGE = Path(__file__).parent.parent / "docs" / "gestures.md"


def main(folder: Path) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    steps: list[Step] = []
    feed = glent.Router.feed

    def fed(router: glent.Router, sample: glent.Sample) -> glent.Verdict:
        verdict = feed(router, sample)
        if verdict.sealed:  # else a handler has fed it: the verdict that is being made will have it
            steps.append(Step(len(steps), sample, verdict, None))
        return verdict

    glent.Router.feed = fed  # type: ignore[method-assign]
    found = re.findall(r"^```python\n(.*?)^```(.*?)(?=^```|\Z)", PAGE.read_text(), flags=re.M | re.S)
    names: dict[str, object] = {}
    for block, after in found:
        steps.clear()
        exec(compile(block, str(PAGE), "exec"), names)
        picture = re.search(r"\]\(gestures/(.+?\.png)\)", after)
        if picture is not None:
            draw_strip(steps, folder / picture[1])
    glent.Router.feed = feed  # type: ignore[method-assign]


if __name__ == "__main__":
    if len(sys.argv) != 2:
        sys.exit("usage: python examples/gesture_shots.py FOLDER, where the pictures go")
    main(Path(sys.argv[1]))
