"""A fault from its finding to its mending: a shutter over the desk was left rolled out, solid and unseen."""

from __future__ import annotations

import shutil
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

from glent.demo import HARBOUR, SHIFT
from glent.demo.worlds import manned
from glent.diagnose import check, kind_map, why_node
from glent.figures import draw_map_change
from glent.formats import keep, read_recording, read_scene
from glent.review import compare

if TYPE_CHECKING:
    from rich.console import Console

    from glent.core.routing.router import Router
    from glent.review import Comparison

__all__ = ["mending"]

ROLLED_UP, ROLLED_OUT = "scale: [1, 0]", "scale: [1, 1]"
ASKED = "hud/toolbar/horn"


def _game(path: Path, recording: object = None) -> Router:
    router, harbour = manned(path, lambda error, event: None)
    router.watch(harbour.steer)
    return router


def mending(out: Path, console: Console) -> dict[str, Any]:
    """Break the harbour, find out what is wrong and why, mend it, and see what that has changed."""
    broken, mended, picture = out / "harbour-broken.yaml", out / "harbour-mended.yaml", out / "shutter.png"
    broken.write_text(HARBOUR.read_text(encoding="utf-8").replace(ROLLED_UP, ROLLED_OUT, 1), encoding="utf-8")
    (finding,) = check(partial(_game, broken), codes=["unseen-cover"])
    story = why_node(partial(_game, broken), ASKED)
    mend = finding.mend
    assert mend is not None
    shutil.copy(broken, mended)
    scene = read_scene(mended)
    setattr(scene[mend.path], mend.name, mend.value)
    keep(mended, scene[mend.path], [mend.name])
    lines = zip(broken.read_text("utf-8").splitlines(), mended.read_text("utf-8").splitlines(), strict=True)
    shift = read_recording(SHIFT)
    harm, cure = (compare(partial(_game, HARBOUR), partial(_game, path), shift) for path in (broken, mended))
    draw_map_change(
        kind_map(_game(HARBOUR)), kind_map(_game(broken)), picture, "Kelp Harbour: what the shutter takes from whom"
    )
    told = {
        "check": f"{finding.sentence}. Shown: {finding.shown}",
        "why": story.sentence,
        "mend": f"{mend.sentence}: {sum(old != new for old, new in lines)} line of the scene file",
        "compare": _compared(harm, cure),
        "files": [str(broken), str(mended), str(picture)],
        "cured": cure.status == "same",
    }
    console.print("Somebody has left the night shutter rolled out over the desk, solid and unseen.\n")
    for name in ("check", "why", "mend", "compare"):
        console.print(f"  {name:8} {told[name]}", markup=False)
    console.print(f"\nWhat the shutter takes from whom is drawn in {picture}.")
    return told


def _compared(harm: Comparison, cure: Comparison) -> str:
    still = "none does" if cure.status == "same" else f"{cure.many} do"
    return f"with the shutter {harm.many} of {harm.samples} inputs of the shift come out otherwise; mended, {still}"
