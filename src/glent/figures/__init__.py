"""Pictures of what was found out. Needs the extra ``tools``."""

from __future__ import annotations

from glent.extras import needs

with needs("tools", "glent.figures"):
    import matplotlib  # noqa: F401

from glent.figures.focus_figure import draw_focus
from glent.figures.gesture_strip import draw_strip
from glent.figures.heat_figure import draw_heat
from glent.figures.map_figure import draw_map, draw_map_change
from glent.figures.timeline_figure import draw_timeline
from glent.figures.view_figure import ShownRay, draw_view

__all__ = [
    "ShownRay",
    "draw_focus",
    "draw_heat",
    "draw_map",
    "draw_map_change",
    "draw_strip",
    "draw_timeline",
    "draw_view",
]
