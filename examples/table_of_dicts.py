"""A table of plain dicts, as a library for data would give it, made to be hovered and clicked without a widget."""

from glent import Router, Scene
from glent.mirror import Mirror
from glent.testing import Hand

tides = [
    {"harbour": "Kelp Harbour", "high": "06:12", "metres": 3.4},
    {"harbour": "Gull Sound", "high": "06:40", "metres": 2.9},
    {"harbour": "Tern Bight", "high": "07:05", "metres": 4.1},
]
WIDTHS = {"harbour": 160, "high": 70, "metres": 70}
table = {"key": "tides", "box": (20, 20, 300, 24 * len(tides)), "cells": []}


def rows(part):
    """The table holds rows, a row its cells: made anew at every reading, and known by their keys."""
    if part is table:
        return [
            {"key": tide["harbour"], "box": (0, 24 * at, 300, 24), "cells": list(tide), "tide": tide}
            for at, tide in enumerate(sorted(tides, key=lambda tide: -tide["metres"]))
        ]
    left = 0
    found = []
    for column in part["cells"]:
        found.append({"key": column, "box": (left, 0, WIDTHS[column], 24), "cells": [], "tide": part["tide"]})
        left += WIDTHS[column]
    return found


picked = []
scene = Scene(size=(640, 480))
router = Router(scene)
mirror = Mirror(
    scene.layer("data"),
    table,
    children=rows,
    box=lambda part: part["box"],
    key=lambda part: part["key"],
    solidity=lambda part: "solid" if not part["cells"] and part is not table else "hollow",
    handle=lambda part, event: picked.append((part["key"], part["tide"]["harbour"])),
    hears=lambda part: ("click",) if "tide" in part and not part["cells"] else (),
)
hand = Hand(router)
hand.click("data/tides/Gull Sound/metres")
tides[1]["metres"] = 5.2  # the row moves to the top, and keeps its node and the hover
node = scene["data/tides/Gull Sound/metres"]
mirror.update()
router.tick(router.now)
print(f"picked {picked[0][0]} of {picked[0][1]}; the same node: {scene['data/tides/Gull Sound/metres'] is node}")
print("from the top:", [row.name for row in scene["data/tides"].children], "at", node.screen_corners()[0])
hand.click(node)
print(f"picked {picked[-1][0]} of {picked[-1][1]} again")
